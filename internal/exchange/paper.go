package exchange

import (
	"math"
	"strconv"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
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
