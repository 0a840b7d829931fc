package exchange

import (
	"math"
	"strconv"
	"strings"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// paper is a PDF being written: the page, and the measures of its text.
type paper struct {
	*page
	width, scale float64
}

// newPaper begins a paper of a size ("A4" or "A5") with a running foot.
func newPaper(size, title, foot string, at time.Time) *paper {
	p := &paper{scale: 1}
	left := 15.0
	if size == "A5" {
		p.scale, left = 0.82, 11
	}
	page, err := newPage(size, title, left, 13, 15, at)
	if err != nil {
		panic(err.Error()) // the fonts ship with the program
	}
	p.page, p.width = page, page.w-2*left
	page.foot = func(n, of int) {
		p.SetXY(p.left, p.h-11)
		p.font("", 6.5)
		p.CellFormat(p.width*0.8, 5, foot, false, "L")
		p.CellFormat(p.width*0.2, 5, words.PaperPageOfPages(n, of), false, "R")
	}
	return p
}

// font chooses the letters: plain, bold or slanted. DejaVu is a wide face; its letters are
// set a little smaller than their name says.
func (p *paper) font(style string, size float64) {
	p.style, p.serif, p.page.size = style, false, size*p.scale*0.88
}

// lh is the line height for a font size, in mm.
func (p *paper) lh(size float64) float64 { return size * p.scale * 0.46 }

// text writes a paragraph over the width that is left.
func (p *paper) text(style string, size float64, s string) {
	p.font(style, size)
	p.MultiCell(0, p.lh(size), s)
}

func (p *paper) heading(size float64, s string) {
	p.style, p.serif, p.page.size = "B", true, size*p.scale*0.92
	p.MultiCell(0, p.lh(size), s)
}

// room starts a new page where less than mm is left on this one.
func (p *paper) room(mm float64) {
	if p.GetY()+mm > p.h-p.bottom {
		p.AddPage()
	}
}

func (p *paper) rule() {
	p.SetDrawColor(150)
	p.SetLineWidth(0.15)
	y := p.GetY()
	p.Line(p.left, y, p.left+p.width, y)
	p.SetDrawColor(0)
}

// tones of the drawing that read in grey.
var tones = map[string]int{"skin": 255, "paper": 255, "shade": 214, "cloth": 236, "line": 60}

// face draws a view of the body into a box of w mm, with the path of a step.
func (p *paper) face(x, y, w float64, r *evaluation.Resolved) {
	d := anatomy.DrawingOf(r.View)
	k := w / d.Box[2]
	mirror := 1.0
	if r.View == anatomy.RightView {
		mirror = -1
	}
	// The right view is the left one mirrored about the middle of its box.
	to := func(px, py float64) (float64, float64) {
		if mirror < 0 {
			return x + (d.Box[2]-(px-d.Box[0]))*k, y + (py-d.Box[1])*k
		}
		return x + (px-d.Box[0])*k, y + (py-d.Box[1])*k
	}
	for _, s := range d.Shapes {
		for n := range 2 {
			if n == 1 && !s.Twice {
				break
			}
			flip := 1.0
			if n == 1 {
				flip = -1
			}
			style := ""
			if s.Fill != "" {
				g := tones[s.Fill]
				if s.Fade > 0 {
					g = 255 - int(float64(255-g)*s.Fade)
				}
				p.SetFillColor(g)
				style = "F"
			}
			if s.Line > 0 {
				g := 40
				if s.Fade > 0 && s.Fill == "" {
					g = 255 - int(215*s.Fade)
				}
				p.SetDrawColor(g)
				p.SetLineWidth(math.Max(s.Line*k*0.8, 0.06))
				style += "D"
			}
			p.path(s.D, func(px, py float64) (float64, float64) { return to(px*flip, py) })
			p.DrawPath(style)
		}
	}
	p.SetDrawColor(0)
	p.stroke(r, func(px, py float64) (float64, float64) { return x + (px-d.Box[0])*k, y + (py-d.Box[1])*k }, d.Box, mirror < 0)
}

// path walks an SVG path of absolute commands.
func (p *paper) path(d string, to func(x, y float64) (float64, float64)) {
	var n []float64
	cmd := byte(0)
	var cx, cy float64
	flush := func() {
		switch cmd {
		case 'M', 'L':
			for i := 0; i+1 < len(n); i += 2 {
				cx, cy = n[i], n[i+1]
				x, y := to(cx, cy)
				if cmd == 'M' && i == 0 {
					p.MoveTo(x, y)
				} else {
					p.LineTo(x, y)
				}
			}
		case 'C':
			for i := 0; i+5 < len(n); i += 6 {
				x1, y1 := to(n[i], n[i+1])
				x2, y2 := to(n[i+2], n[i+3])
				x3, y3 := to(n[i+4], n[i+5])
				p.CurveTo(x1, y1, x2, y2, x3, y3)
				cx, cy = n[i+4], n[i+5]
			}
		case 'H', 'V':
			for _, v := range n {
				if cmd == 'H' {
					cx = v
				} else {
					cy = v
				}
				x, y := to(cx, cy)
				p.LineTo(x, y)
			}
		case 'Z':
			p.ClosePath()
		}
		n = n[:0]
	}
	for i := 0; i < len(d); {
		c := d[i]
		switch {
		case c >= 'A' && c <= 'Z':
			flush()
			cmd = c
			i++
		case c == ' ' || c == ',':
			i++
		default:
			j := i + 1
			for j < len(d) && (d[j] >= '0' && d[j] <= '9' || d[j] == '.') {
				j++
			}
			v, _ := strconv.ParseFloat(d[i:j], 64)
			n = append(n, v)
			i = j
		}
	}
	flush()
}

// dashes distinguish intents without colour.
func dashes(in stroke.Intent) []float64 {
	switch in {
	case stroke.Drain:
		return []float64{0.2, 0.8}
	case stroke.Open:
		return []float64{1.2, 0.5, 0.2, 0.5}
	case stroke.Release:
		return []float64{1.4, 0.7}
	case stroke.Lift:
		return nil
	}
	return []float64{2.4, 0.7}
}

// stroke draws a step's path: thicker for more pressure, with its number at the
// start and an arrow at the end; a ring where it stays in one place.
func (p *paper) stroke(r *evaluation.Resolved, to func(x, y float64) (float64, float64), box [4]float64, right bool) {
	sides := []anatomy.Side{anatomy.Left, anatomy.Right}
	switch r.Sides {
	case stroke.LeftOnly, stroke.FirstSide:
		sides = sides[:1]
	case stroke.RightOnly, stroke.SecondSide:
		sides = sides[1:]
	case stroke.Across:
		sides = sides[:1]
	}
	for _, side := range sides {
		var xs, ys []float64
		for _, s := range r.Path {
			on := s.ZoneID().On(side)
			switch s.Side {
			case "left":
				on = anatomy.Left
			case "right":
				on = anatomy.Right
			}
			px, py, ok := anatomy.ZoneSide{Zone: s.ZoneID(), Side: on}.Project(r.View)
			if !ok {
				continue
			}
			x, y := to(px, py)
			xs, ys = append(xs, x), append(ys, y)
		}
		if len(xs) == 0 {
			continue
		}
		p.SetDrawColor(0)
		p.SetRound(true)
		if len(xs) == 1 {
			p.SetLineWidth(0.35)
			p.Circle(xs[0], ys[0], 0.7+0.25*float64(r.Pressure))
			continue
		}
		p.SetLineWidth(0.2 + 0.13*float64(r.Pressure))
		if dash := dashes(r.Intent); dash != nil {
			p.SetDashPattern(dash)
		}
		p.MoveTo(xs[0], ys[0])
		for i := 1; i < len(xs); i++ {
			p.LineTo(xs[i], ys[i])
		}
		p.DrawPath("D")
		p.SetDashPattern(nil)
		n := len(xs) - 1
		a := math.Atan2(ys[n]-ys[n-1], xs[n]-xs[n-1])
		p.SetFillColor(0)
		p.SetLineWidth(0.1)
		head := 1.1
		p.MoveTo(xs[n]+0.6*math.Cos(a), ys[n]+0.6*math.Sin(a))
		p.LineTo(xs[n]+head*math.Cos(a+2.5), ys[n]+head*math.Sin(a+2.5))
		p.LineTo(xs[n]+head*math.Cos(a-2.5), ys[n]+head*math.Sin(a-2.5))
		p.ClosePath()
		p.DrawPath("F")
	}
	p.SetRound(false)
}

// ProtocolCard prints a protocol: lengths, what is laid out, and every step in
// its phase with a picture of its path. size is A4 or A5; it reads in grey.
func ProtocolCard(
	p *protocol.Protocol,
	e *evaluation.Evaluation,
	ctx *protocol.Context,
	studio, version, size string,
	at time.Time,
) ([]byte, error) {
	d := newPaper(size, p.Name, studio+" · "+p.Name+", "+version+" · "+at.Format("2 Jan 2006"), at)
	d.heading(20, p.Name)
	if p.Summary != "" {
		d.text("", 9.5, p.Summary)
	}
	d.Ln(1)
	line := []string{
		words.PaperTreatmentMinSecondsHandsOn(number(float64(p.Minutes.Treatment)), clock(e.Seconds)),
		words.PaperRoomReadyAgainAfterResetMin(number(float64(p.Minutes.Reset))),
		version,
	}
	if e.OpenSteps > 0 {
		line[0] += words.PaperAtLeastAtLeast(clock(e.AtLeast))
	}
	if len(p.SkinTypes) > 0 {
		line = append(line, words.PaperForSkinTypesSkin(strings.Join(p.SkinTypes, ", ")))
	}
	d.text("B", 9.5, strings.Join(line, " · "))
	d.text("I", 8, words.PaperDisclaimer)
	d.Ln(2)
	d.heading(13, words.PaperSetUp)
	d.font("", 9.5)
	for _, item := range evaluation.SetUp(p, ctx, e) {
		d.room(6)
		y := d.GetY()
		d.SetLineWidth(0.2)
		d.Rect(d.left+0.5, y+0.7, 2.6, 2.6)
		d.SetX(d.left + 5)
		d.MultiCell(d.width-5, d.lh(9.5)+0.4, setUpWords(item))
	}
	phase := protocol.Phase("")
	round := ""
	pic := 17.0 * d.scale
	for i := range e.Steps {
		r, s := &e.Steps[i], &p.Steps[i]
		if r.Phase != phase {
			phase, round = r.Phase, ""
			d.Ln(2)
			d.room(pic + 12)
			d.heading(13, words.Phases[string(phase)])
			d.rule()
			d.Ln(1)
		}
		if s.Round != round {
			round = s.Round
			for _, rd := range p.Rounds {
				if rd.ID == round {
					d.room(pic + 6)
					d.text("B", 9, words.PaperRoundTimesTimesOver(strconv.Itoa(rd.Times)))
				}
			}
		}
		d.step(i, r, s, ctx, pic)
	}
	return d.bytes()
}

// step prints one row of a card.
func (d *paper) step(i int, r *evaluation.Resolved, s *protocol.Step, ctx *protocol.Context, pic float64) {
	h := 19.0 * d.scale
	if len(r.Path) == 0 {
		h = 11 * d.scale
	}
	d.room(h + 2)
	y := d.GetY()
	if len(r.Path) > 0 {
		d.face(d.left, y, pic, r)
	}
	x := d.left + pic + 3
	w := d.width - pic - 3
	d.SetXY(x, y)
	d.font("B", 10)
	d.CellFormat(w-18, d.lh(10), strconv.Itoa(i+1)+"  "+r.Name, false, "L")
	d.font("", 9.5)
	d.CellFormat(18, d.lh(10), clock(r.Start)+"  +"+clock(float64(r.Seconds)), true, "R")
	what := []string{doseWords(r.Dose)}
	if len(r.Path) > 0 {
		what = append(what, strconv.Itoa(r.Pressure)+" "+words.Pressures[r.Pressure])
	}
	if t := words.PressurePatterns[string(r.Profile)]; t != "" {
		what = append(what, t)
	}
	if t := words.Sides[string(r.Sides)]; t != "" && len(r.Path) > 0 {
		what = append(what, t)
	}
	switch {
	case r.Tool != nil && r.Tool.Part != "":
		what = append(what, r.ToolName+", "+r.Tool.Part)
	case r.Tool != nil:
		what = append(what, r.ToolName)
	case r.Hand != "":
		what = append(what, r.Hand)
	}
	first := strings.Join(what, " · ")
	rows := []string{strings.ToUpper(first[:1]) + first[1:]}
	if len(r.Path) > 0 {
		var zones []string
		for _, st := range r.Path {
			zones = append(zones, st.ZoneID().Zone().Name)
		}
		rows = append(rows, strings.Join(zones, " > "))
	}
	if s.Use != nil && ctx.Products[s.Use.Product] != nil {
		rows = append(rows, ctx.Products[s.Use.Product].Name+", "+number(s.Use.Amount.Value)+" "+string(s.Use.Amount.Measure))
	}
	var more []string
	if r.Client != "" {
		more = append(more, words.PaperClientClient(r.Client))
	}
	if s.Note != "" {
		more = append(more, s.Note)
	}
	if r.Precaution != "" {
		more = append(more, words.PaperPrecautionPrecaution(r.Precaution))
	}
	rows = append(rows, strings.Join(more, " "))
	for n, t := range rows {
		if t == "" {
			continue
		}
		d.SetX(x)
		style := ""
		if n == len(rows)-1 {
			style = "I"
		}
		d.font(style, 8.5)
		d.MultiCell(w, d.lh(8.5), t)
	}
	d.SetY(max(d.GetY(), y+h) + 1.4*d.scale)
}
