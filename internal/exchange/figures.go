package exchange

import (
	"fmt"
	"html"
	"slices"
	"strconv"
	"strings"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/figure"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// Sheet is every stroke of a studio as a step of its own, for a contact sheet.
func Sheet(strokes []stroke.Stroke, tools []protocol.Tool) []*evaluation.Resolved {
	ctx := &protocol.Context{Strokes: stroke.ByKey(strokes), Tools: map[string]protocol.Tool{}}
	for _, t := range tools {
		ctx.Tools[t.Key] = t
	}
	p := protocol.Protocol{Setting: "self", DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}}
	for i := range strokes {
		p.Steps = append(p.Steps, protocol.Step{ID: strokes[i].Key, Stroke: strokes[i].Key, Phase: "work"})
	}
	out := make([]*evaluation.Resolved, len(p.Steps))
	for i := range p.Steps {
		out[i] = evaluation.Resolve(&p, i, ctx)
	}
	slices.SortStableFunc(out, func(a, b *evaluation.Resolved) int { return strings.Compare(string(a.Figure), string(b.Figure)) })
	return out
}

// sheetTones are the colours of a contact sheet: black ink on white, as print has it.
var sheetTones = map[figure.Tone]string{
	figure.Ink: "#36182f", figure.Paper: "#ffffff", figure.Other: "#8a7a86", figure.Text: "#111111", figure.Tint: "#e6d9e0",
}

// FiguresPage is the contact sheet as a web page of its own: every stroke drawn, its figure and
// numbers below, and its name too unless blind, for trying whether the picture alone is understood.
func FiguresPage(steps []*evaluation.Resolved, blind bool) string {
	var b strings.Builder
	b.WriteString(`<!doctype html><html lang="en"><meta charset="utf-8"><title>Figures</title><style>body{font:13px sans-serif;margin:8px;display:grid;grid-template-columns:repeat(auto-fill,290px);gap:8px}figure{margin:0;border:1px solid #ccc}svg{display:block;width:288px;height:288px}figcaption{padding:2px 4px;height:3.2em}</style>`)
	for i, r := range steps {
		fmt.Fprintf(&b, `<figure>%s<figcaption>%d`, svg(r), i+1)
		if !blind {
			fmt.Fprintf(&b, ` <b>%s</b> · %s<br>%s · %s`, html.EscapeString(r.Name), r.Figure, r.Family, html.EscapeString(handWords(r, true)))
		}
		b.WriteString(`</figcaption></figure>`)
	}
	return b.String()
}

// svg is the picture of a step, as near as its marks allow.
func svg(r *evaluation.Resolved) string {
	d := figure.Draw(r, r.View)
	box := d.Near
	var b strings.Builder
	fmt.Fprintf(&b, `<svg viewBox="%g %g %g %g">`, box[0], box[1], box[2], box[3])
	mirror := ""
	if r.View == anatomy.RightView {
		mirror = ` transform="scale(-1 1)"`
	}
	tone := map[string]string{"skin": "#fff", "paper": "#fff", "shade": "#ddd", "cloth": "#eee", "line": "#777", "": "none"}
	for _, s := range anatomy.DrawingOf(r.View).Shapes {
		for _, flip := range []bool{false, true} {
			if flip && !s.Twice {
				continue
			}
			t := mirror
			if flip {
				t = ` transform="scale(-1 1)"`
			}
			line := ""
			if s.Line > 0 {
				line = fmt.Sprintf(` stroke="#777" stroke-width="%g"`, s.Line)
			}
			fade := s.Fade
			if fade == 0 {
				fade = 1
			}
			fmt.Fprintf(&b, `<path d="%s" fill="%s" opacity="%g"%s%s/>`, s.D, tone[s.Fill], fade, line, t)
		}
	}
	for i := range d.Marks {
		b.WriteString(svgMark(&d.Marks[i]))
	}
	return b.String() + `</svg>`
}

func svgMark(m *figure.Trace) string {
	if m.Text != "" {
		return fmt.Sprintf(`<text x="%g" y="%g" font-size="%g" text-anchor="middle" dominant-baseline="central" font-weight="700" fill="%s">%s</text>`, m.At[0], m.At[1], m.Size, sheetTones[m.Fill], html.EscapeString(m.Text))
	}
	fill, pen := "none", "none"
	if m.Fill != "" {
		fill = sheetTones[m.Fill]
	}
	if m.Pen != "" {
		pen = sheetTones[m.Pen]
	}
	fade := m.Fade
	if fade == 0 {
		fade = 1
	}
	if m.Fill == figure.Tint {
		fade *= 0.8
	}
	dash := ""
	if len(m.Dash) > 0 {
		dash = ` stroke-dasharray="` + strings.Trim(fmt.Sprint(m.Dash), "[]") + `"`
	}
	return fmt.Sprintf(`<path d="%s" fill="%s" stroke="%s" stroke-width="%g" opacity="%g" stroke-linejoin="round" stroke-linecap="round"%s/>`, m.D, fill, pen, m.Width, fade, dash)
}

// FiguresPaper is the contact sheet as a PDF, with the legend of the figures first.
func FiguresPaper(steps []*evaluation.Resolved, at time.Time) ([]byte, error) {
	d := newPaper("A4", words.PaperFigures, words.PaperFigures, at)
	d.heading(16, words.PaperFigures)
	d.legend(7)
	d.Ln(3)
	const beside = 4
	gap := 3.0
	w := (d.width - gap*(beside-1)) / beside
	for i := 0; i < len(steps); i += beside {
		d.room(w + 12)
		y := d.GetY()
		for k, r := range steps[i:min(i+beside, len(steps))] {
			x := d.left + float64(k)*(w+gap)
			d.picture(x, y, w, r)
			d.font("B", 7)
			below := d.at(x, y+w+0.5, w, d.lh(7), strconv.Itoa(i+k+1)+" "+r.Name)
			d.font("", 6.5)
			if len(r.Path) > 0 {
				d.at(x, below, w, d.lh(6.5), words.Figures[string(r.Figure)])
			}
		}
		d.SetY(y + w + 12)
	}
	return d.bytes()
}

// legend prints a sample of every figure with what it means, some beside each other.
func (d *paper) legend(beside int) {
	gap := 2.0
	w := (d.width - gap*float64(beside-1)) / float64(beside)
	h := w * figure.SampleBox[3] / figure.SampleBox[2]
	list := figure.Legend()
	for i := 0; i < len(list); i += beside {
		d.room(h + 7)
		y := d.GetY()
		for k, s := range list[i:min(i+beside, len(list))] {
			x := d.left + float64(k)*(w+gap)
			d.traces(&window{x, y, w / figure.SampleBox[2], figure.SampleBox}, s.Drawing.Marks)
			d.font("", 5.5)
			d.at(x, y+h+0.3, w, d.lh(5.5), words.Figures[string(s.Figure)])
		}
		d.SetY(y + h + 6.5)
	}
}
