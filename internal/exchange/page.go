package exchange

import (
	"bytes"
	"fmt"
	"image/color"
	"strings"
	"time"
	"unicode"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-fonts/dejavu/dejavusansoblique"
	"github.com/go-fonts/dejavu/dejavuserifbold"
	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers/pdf"
)

// page is what a paper is written on: a cursor that runs down the page, measures in mm
// from the top left corner, and text in any script. The fonts (DejaVu, free to ship) have
// Latin with all its marks, Cyrillic, Greek, Arabic and Hebrew; what is written from right
// to left is shaped and set that way.
type page struct {
	w, h, left, top, bottom float64
	x, y                    float64
	title                   string
	at                      time.Time
	pages                   []*canvas.Canvas
	ink                     *canvas.Context
	path                    *canvas.Path
	sans, serifs            *canvas.FontFamily
	style                   string // "", "B" or "I"
	size                    float64
	serif                   bool
	faces                   map[string]*canvas.FontFace
	widths                  map[string]float64
	fill, line              uint8
	white                   bool // letters on a dark ground
	foot                    func(n, of int)
}

// sizes of paper, in mm.
var sizes = map[string][2]float64{"A4": {210, 297}, "A5": {148, 210}, "label": {90, 55}, "sticker": {60, 30}}

// newPage begins a paper with its first page.
func newPage(size, title string, left, top, bottom float64, at time.Time) (*page, error) {
	p := &page{w: sizes[size][0], h: sizes[size][1], left: left, top: top, bottom: bottom, title: title, at: at,
		faces: map[string]*canvas.FontFace{}, widths: map[string]float64{}}
	p.sans, p.serifs = canvas.NewFontFamily("sans"), canvas.NewFontFamily("serif")
	for _, f := range []struct {
		family *canvas.FontFamily
		data   []byte
		style  canvas.FontStyle
	}{
		{p.sans, dejavusans.TTF, canvas.FontRegular},
		{p.sans, dejavusansbold.TTF, canvas.FontBold},
		{p.sans, dejavusansoblique.TTF, canvas.FontItalic},
		{p.serifs, dejavuserifbold.TTF, canvas.FontBold},
	} {
		if err := f.family.LoadFont(f.data, 0, f.style); err != nil {
			return nil, fmt.Errorf("exchange: reading a font: %w", err)
		}
		f.family.SetFeatures("-liga") // letters that are joined cannot be searched for
	}
	p.AddPage()
	return p, nil
}

// AddPage goes on at the top of a new page.
func (p *page) AddPage() {
	c := canvas.New(p.w, p.h)
	p.pages = append(p.pages, c)
	p.ink = canvas.NewContext(c)
	p.x, p.y = p.left, p.top
}

// PageCount returns how many pages there are so far.
func (p *page) PageCount() int { return len(p.pages) }

// GetY returns how far down the cursor is; SetY puts it at the left edge of a line.
func (p *page) GetY() float64      { return p.y }
func (p *page) SetY(y float64)     { p.x, p.y = p.left, y }
func (p *page) SetX(x float64)     { p.x = x }
func (p *page) SetXY(x, y float64) { p.x, p.y = x, y }

// Ln goes down, to the left edge.
func (p *page) Ln(h float64) { p.x, p.y = p.left, p.y+h }

// rightToLeft reports whether a text has letters that only the upright sans has.
func rightToLeft(s string) bool {
	return strings.ContainsFunc(s, func(r rune) bool { return unicode.In(r, unicode.Arabic, unicode.Hebrew) })
}

// face is the face for a text. Arabic and Hebrew have no slanted letters and no serifs.
func (p *page) face(s string) *canvas.FontFace {
	family, style := p.sans, canvas.FontRegular
	rtl := rightToLeft(s)
	switch {
	case p.serif && !rtl:
		family, style = p.serifs, canvas.FontBold
	case p.style == "B" || p.serif:
		style = canvas.FontBold
	case p.style == "I" && !rtl:
		style = canvas.FontItalic
	}
	ink := canvas.Black
	if p.white {
		ink = canvas.White
	}
	key := fmt.Sprint(family.Name(), style, p.size, p.white)
	if p.faces[key] == nil {
		p.faces[key] = family.Face(p.size, ink, style, canvas.FontNormal)
	}
	return p.faces[key]
}

// width is how wide a text is in the present face, in mm.
func (p *page) width(s string) float64 {
	key := fmt.Sprint(p.style, p.serif, p.size, "/", s)
	w, ok := p.widths[key]
	if !ok {
		w = p.face(s).TextWidth(s)
		p.widths[key] = w
	}
	return w
}

// lines breaks a text into lines no wider than w. A word that is wider is cut.
func (p *page) lines(s string, w float64) (out []string) {
	space := p.width(" ")
	for _, paragraph := range strings.Split(strings.ReplaceAll(s, "\r\n", "\n"), "\n") {
		line, at := "", 0.0
		for _, word := range strings.Fields(paragraph) {
			for p.width(word) > w {
				cut := p.cut(word, w)
				if line != "" {
					out, line = append(out, line), ""
				}
				out, word = append(out, word[:cut]), word[cut:]
			}
			if ww := p.width(word); line == "" {
				line, at = word, ww
			} else if at+space+ww <= w {
				line, at = line+" "+word, at+space+ww
			} else {
				out, line, at = append(out, line), word, ww
			}
		}
		out = append(out, line)
	}
	return out
}

// cut is where a word is cut so that its beginning fits into w.
func (p *page) cut(word string, w float64) int {
	cut := 0
	for i := range word {
		if i > 0 && p.width(word[:i]) > w {
			break
		}
		cut = i
	}
	if cut == 0 { // not even one letter fits
		for i := range word {
			if i > 0 {
				return i
			}
		}
		return len(word)
	}
	return cut
}

// put writes one line of text into a box; what is written from right to left stands at the
// right where it is a line of its own.
func (p *page) put(x, y, w, h float64, s, align string) {
	if s == "" {
		return
	}
	face := p.face(s)
	m := face.Metrics()
	baseline := p.h - (y + h/2 + (m.CapHeight)/2)
	if align == "L" && rightToLeft(s) && startsRightToLeft(s) {
		align = "R"
	}
	how := canvas.Left
	switch align {
	case "R":
		x, how = x+w, canvas.Right
	case "C":
		x, how = x+w/2, canvas.Center
	}
	p.ink.DrawText(x, baseline, canvas.NewTextLine(face, s, how))
}

// startsRightToLeft reports whether the first letter of a text is one of a script that is
// written from right to left: then the whole line is.
func startsRightToLeft(s string) bool {
	for _, r := range s {
		if unicode.IsLetter(r) {
			return unicode.In(r, unicode.Arabic, unicode.Hebrew)
		}
	}
	return false
}

// MultiCell writes a text from the cursor over a width (0: up to the right edge), with
// line height h, on as many lines and pages as it needs.
func (p *page) MultiCell(w, h float64, s string) {
	x := p.x
	if w == 0 {
		w = p.w - p.left - x
	}
	for _, line := range p.lines(s, w) {
		if p.y+h > p.h-p.bottom {
			p.AddPage()
		}
		p.put(x, p.y, w, h, line, "L")
		p.y += h
	}
	p.x = p.left
}

// CellFormat writes a line of text into a box and goes on to its right; next goes to the
// next line instead.
func (p *page) CellFormat(w, h float64, s string, next bool, align string) {
	p.put(p.x, p.y, w, h, s, align)
	p.x += w
	if next {
		p.Ln(h)
	}
}

// SetFillColor and SetDrawColor choose a grey, SetLineWidth a width in mm.
func (p *page) SetFillColor(grey int)      { p.fill = uint8(grey) } //nolint:gosec // 0 to 255
func (p *page) SetDrawColor(grey int)      { p.line = uint8(grey) } //nolint:gosec // 0 to 255
func (p *page) SetLineWidth(w float64)     { p.ink.SetStrokeWidth(w) }
func (p *page) SetDashPattern(d []float64) { p.ink.SetDashes(0, d...) }

// SetRound chooses round ends of lines, or plain ones.
func (p *page) SetRound(round bool) {
	if round {
		p.ink.SetStrokeCapper(canvas.RoundCap)
	} else {
		p.ink.SetStrokeCapper(canvas.ButtCap)
	}
}

// MoveTo, LineTo, CurveTo and ClosePath draw a path that DrawPath fills ("F"), outlines
// ("D") or both ("FD").
func (p *page) MoveTo(x, y float64) { p.open().MoveTo(x, p.h-y) }
func (p *page) LineTo(x, y float64) { p.open().LineTo(x, p.h-y) }
func (p *page) ClosePath()          { p.open().Close() }
func (p *page) CurveTo(x1, y1, x2, y2, x3, y3 float64) {
	p.open().CubeTo(x1, p.h-y1, x2, p.h-y2, x3, p.h-y3)
}

func (p *page) open() *canvas.Path {
	if p.path == nil {
		p.path = &canvas.Path{}
	}
	return p.path
}

// DrawPath ends the path.
func (p *page) DrawPath(style string) {
	path := p.open()
	p.path = nil
	p.ink.SetFillColor(canvas.Transparent)
	p.ink.SetStrokeColor(canvas.Transparent)
	if strings.Contains(style, "F") {
		p.ink.SetFillColor(color.Gray{Y: p.fill})
	}
	if strings.Contains(style, "D") {
		p.ink.SetStrokeColor(color.Gray{Y: p.line})
	}
	p.ink.DrawPath(0, 0, path)
}

// Line draws a line.
func (p *page) Line(x1, y1, x2, y2 float64) {
	p.MoveTo(x1, y1)
	p.LineTo(x2, y2)
	p.DrawPath("D")
}

// Rect draws the outline of a box.
func (p *page) Rect(x, y, w, h float64) {
	p.path = canvas.Rectangle(w, h).Translate(x, p.h-y-h)
	p.DrawPath("D")
}

// Circle draws the outline of a circle.
func (p *page) Circle(x, y, r float64) {
	p.path = canvas.Circle(r).Translate(x, p.h-y)
	p.DrawPath("D")
}

// bytes returns the finished PDF. The same paper is the same file: it carries the moment
// it was asked for, not the one it was written in.
func (p *page) bytes() ([]byte, error) {
	var b bytes.Buffer
	out := pdf.New(&b, p.w, p.h, &pdf.Options{Compress: true, SubsetFonts: true})
	out.SetLang("en")
	out.SetInfo(p.title, "", "", "", "Soft Palm")
	for n, c := range p.pages {
		if n > 0 {
			out.NewPage(p.w, p.h)
		}
		p.ink = canvas.NewContext(c)
		p.foot(n+1, len(p.pages))
		c.RenderTo(out)
	}
	if err := out.Close(); err != nil {
		return nil, fmt.Errorf("exchange: writing a PDF: %w", err)
	}
	return undated(b.Bytes(), p.at)
}
