package exchange

import (
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/figure"
)

// tones of the body's drawing that read in grey.
var tones = map[string]int{"skin": 255, "paper": 255, "shade": 214, "cloth": 236, "line": 60}

// greys of a step's drawing.
var greys = map[figure.Tone]int{figure.Ink: 0, figure.Paper: 255, figure.Other: 120, figure.Text: 0, figure.Tint: 226}

// window shows a part of a plane on paper: nothing is drawn beyond its edge.
type window struct {
	x, y, k float64 // on paper, in mm; mm a centimetre
	box     [4]float64
}

func (v *window) to(q [2]float64) (x, y float64) {
	return v.x + (q[0]-v.box[0])*v.k, v.y + (q[1]-v.box[1])*v.k
}

// picture draws a step into a square of w mm: the body from nearby, and how the hands move.
func (p *paper) picture(x, y, w float64, r *evaluation.Resolved) {
	d := figure.Draw(r, r.View)
	box := d.Near
	p.body(&window{x, y, w / box[2], box}, r.View)
	p.traces(&window{x, y, w / box[2], box}, d.Marks)
}

// body draws the line drawing of a view.
func (p *paper) body(v *window, view anatomy.View) {
	mirror := 1.0
	if view == anatomy.RightView { // the left view mirrored
		mirror = -1
	}
	for _, s := range anatomy.DrawingOf(view).Shapes {
		for n := range 2 {
			if n == 1 && !s.Twice {
				break
			}
			lines := flatten(s.D, mirror*float64(1-2*n))
			if s.Fill != "" {
				g := tones[s.Fill]
				if s.Fade > 0 {
					g = 255 - int(float64(255-g)*s.Fade)
				}
				p.SetFillColor(g)
				p.fillWithin(v, lines)
			}
			if s.Line > 0 {
				g := 110
				if s.Fade > 0 && s.Fill == "" {
					g = 255 - int(145*s.Fade)
				}
				p.SetDrawColor(g)
				p.SetLineWidth(math.Max(s.Line*v.k*0.7, 0.06))
				p.lineWithin(v, lines)
			}
		}
	}
	p.SetDrawColor(0)
}

// traces draws a step's marks.
func (p *paper) traces(v *window, marks []figure.Trace) {
	p.SetRound(true)
	for i := range marks {
		m := &marks[i]
		if m.Text != "" {
			p.letters(v, m)
			continue
		}
		lines := flatten(m.D, 1)
		if m.Fill != "" {
			p.SetFillColor(greys[m.Fill])
			p.fillWithin(v, lines)
		}
		if m.Pen != "" {
			g := greys[m.Pen]
			if m.Fade > 0 && m.Still {
				g += int(float64(255-g) * (1 - m.Fade))
			}
			p.SetDrawColor(g)
			p.SetLineWidth(math.Max(m.Width*v.k, 0.07))
			var dash []float64
			for _, d := range m.Dash {
				dash = append(dash, d*v.k)
			}
			p.SetDashPattern(dash)
			p.lineWithin(v, lines)
			p.SetDashPattern(nil)
		}
	}
	p.SetRound(false)
	p.SetDrawColor(0)
}

// pointsInMM is how many points of type are a millimetre high.
const pointsInMM = 2.835

// letters writes a number of a drawing with its middle at its point.
func (p *paper) letters(v *window, m *figure.Trace) {
	x, y := v.to(m.At)
	h := m.Size * v.k
	p.style, p.serif, p.page.size = "B", false, h*pointsInMM*0.85
	if m.Fill == figure.Paper {
		p.white = true
	}
	p.put(x-10, y-h*0.62, 20, h*1.2, m.Text, "C")
	p.white = false
}

// flatten is an SVG path of absolute commands as lines, mirrored where flip is -1.
func flatten(d string, flip float64) (lines [][][2]float64) {
	var now [2]float64
	add := func(x, y float64) {
		now = [2]float64{x, y}
		lines[len(lines)-1] = append(lines[len(lines)-1], [2]float64{x * flip, y})
	}
	figure.Walk(d, func(command byte, n []float64) {
		switch command {
		case 'M', 'L':
			if command == 'M' {
				lines = append(lines, nil)
			}
			for i := 0; i+1 < len(n); i += 2 {
				add(n[i], n[i+1])
			}
		case 'C':
			for i := 0; i+5 < len(n); i += 6 {
				a := now
				for k := 1; k <= curveParts; k++ {
					t := float64(k) / curveParts
					u := 1 - t
					add(u*u*u*a[0]+3*u*u*t*n[i]+3*u*t*t*n[i+2]+t*t*t*n[i+4], u*u*u*a[1]+3*u*u*t*n[i+1]+3*u*t*t*n[i+3]+t*t*t*n[i+5])
				}
			}
		case 'H':
			for _, x := range n {
				add(x, now[1])
			}
		case 'V':
			for _, y := range n {
				add(now[0], y)
			}
		case 'Z':
			if l := lines[len(lines)-1]; len(l) > 0 {
				add(l[0][0]*flip, l[0][1])
			}
		}
	})
	return lines
}

// curveParts is into how many lines a curve is cut: fine enough for a picture of two centimetres.
const curveParts = 8

// fillWithin fills a path, cut at the edge of the window (Sutherland and Hodgman, from memory).
func (p *paper) fillWithin(v *window, lines [][][2]float64) {
	for _, l := range lines {
		for axis := range 2 {
			low := v.box[axis]
			l = cut(l, axis, low, 1)
			l = cut(l, axis, low+v.box[2], -1)
		}
		if len(l) < 3 {
			continue
		}
		for i, q := range l {
			x, y := v.to(q)
			if i == 0 {
				p.MoveTo(x, y)
			} else {
				p.LineTo(x, y)
			}
		}
		p.ClosePath()
		p.DrawPath("F")
	}
}

// cut keeps what of a polygon lies on one side of a line parallel to an axis.
func cut(l [][2]float64, axis int, at, sign float64) (out [][2]float64) {
	in := func(q [2]float64) bool { return (q[axis]-at)*sign >= 0 }
	for i := range l {
		a, b := l[i], l[(i+1)%len(l)]
		if in(a) {
			out = append(out, a)
		}
		if in(a) != in(b) {
			out = append(out, crossing(a, b, axis, at))
		}
	}
	return out
}

func crossing(a, b [2]float64, axis int, at float64) [2]float64 {
	f := (at - a[axis]) / (b[axis] - a[axis])
	return [2]float64{a[0] + (b[0]-a[0])*f, a[1] + (b[1]-a[1])*f}
}

// lineWithin draws a path's line, as far as it runs inside the window.
func (p *paper) lineWithin(v *window, lines [][][2]float64) {
	for _, l := range lines {
		open := false
		for i := 1; i < len(l); i++ {
			a, b, ok := within(l[i-1], l[i], v.box)
			if !ok {
				if open {
					p.DrawPath("D")
				}
				open = false
				continue
			}
			if !open || a != l[i-1] {
				if open {
					p.DrawPath("D")
				}
				p.MoveTo(v.to(a))
				open = true
			}
			p.LineTo(v.to(b))
		}
		if open {
			p.DrawPath("D")
		}
	}
}

// within is the part of a line inside a square.
func within(a, b [2]float64, box [4]float64) (from, to [2]float64, ok bool) {
	for axis := range 2 {
		for _, edge := range [][2]float64{{box[axis], 1}, {box[axis] + box[2], -1}} {
			ina, inb := (a[axis]-edge[0])*edge[1] >= 0, (b[axis]-edge[0])*edge[1] >= 0
			switch {
			case !ina && !inb:
				return a, b, false
			case !ina:
				a = crossing(a, b, axis, edge[0])
			case !inb:
				b = crossing(a, b, axis, edge[0])
			}
		}
	}
	return a, b, true
}
