package figure

import (
	"math"
	"strconv"

	"softpalm/internal/craft/anatomy"
)

// This file draws the figures that travel, and circles; still_places.go those that stay, grip or are the client's.

// spotted draws a step that stays in one place where its figure would need a way.
func (s *sketch) spotted(w *way) bool {
	if len(w.curve) > 1 {
		return false
	}
	s.disc(w, 0)
	return true
}

func (s *sketch) glide() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		if s.r.Profile == "light-back" {
			s.wayBack(w, 0.2, 0.3)
		}
		s.ribbon(w, w.curve, Ink)
		s.end(w)
		s.begin(w)
		s.pressures(w)
	})
}

// wayBack is the light way back beside the ribbon, on the inner side, mirrored.
func (s *sketch) wayBack(w *way, dash ...float64) {
	by := 0.75 * s.u
	back := w.beside(by)
	mid := len(back) / 2
	if (back[mid].x-w.curve[mid].x)*w.inner() < 0 {
		back = w.beside(-by)
	}
	s.line(back, 0.1, Ink, dash...)
	s.head(back[0], back[0].minus(back[min(3, len(back)-1)]), 0.5, Paper)
}

func (s *sketch) feathering() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		for _, by := range []float64{-0.36, 0, 0.36} {
			curve := w.beside(by * s.u)
			n := len(curve)
			var left, right []pt
			for i := range curve {
				side := curve[min(n-1, i+1)].minus(curve[max(0, i-1)]).unit().across().times((0.13 - 0.1*float64(i)/float64(n)) * s.u)
				left, right = append(left, curve[i].plus(side)), append([]pt{curve[i].minus(side)}, right...)
			}
			s.mark(&s.lines, Trace{D: poly(append(left, right...), true), Fill: Ink})
		}
		p, dir := w.spot(w.length())
		s.head(p.plus(dir.times(0.45*s.u)), dir, 0.55, Ink)
		s.begin(w)
		s.pressures(w)
	})
}

// ring is a circle on the spot: thick on the half that works, towards the node, thin on the way back.
func (s *sketch) ring(c pt, r float64, toNode pt, clockwise, both bool) {
	turn := math.Pi
	if !clockwise {
		turn = -turn
	}
	from := toNode.angle() - turn/2
	k := math.Min(1, r/(0.85*s.u))
	s.mark(&s.lines, Trace{D: circle(c, r), Pen: Ink, Width: 0.09 * s.u})
	work := arc(c, r, from, from+turn*0.86)
	s.mark(&s.lines, Trace{D: poly(work, false), Pen: Ink, Width: 0.28 * s.u * k})
	s.onRing(c, r, from+turn*1.02, turn, 0.62*k, Ink)
	if both {
		s.onRing(c, r, from-turn*0.1, -turn, 0.62*k, Paper)
	}
}

// onRing is a head whose tip lies on a circle.
func (s *sketch) onRing(c pt, r, angle, turn, size float64, fill Tone) {
	tip := c.plus(polar(angle, r))
	base := c.plus(polar(angle-math.Copysign(size*s.u/r, turn), r))
	s.head(tip, tip.minus(base), size, fill)
}

// toNode is where the lymph of a stop runs: to the next stop, else to the node of its zone, else down.
func (s *sketch) toNode(w *way, k int) pt {
	if k+1 < len(w.stops) {
		if d := w.stops[k+1].at.minus(w.stops[k].at); d.long() > 0.1 {
			return d
		}
	}
	for _, g := range anatomy.NodesOf(w.stops[k].zone) {
		if id, ok := anatomy.Lookup(g.EntryZone()); ok {
			side := w.side
			if side == anatomy.Mid {
				side = anatomy.Left
			}
			if x, y, ok := (anatomy.ZoneSide{Zone: id, Side: id.On(side)}).Project(s.view); ok {
				if d := (pt{x, y}).minus(w.stops[k].at); d.long() > 0.5 {
					return d
				}
			}
		}
	}
	return pt{0, 1}
}

func (s *sketch) circles() {
	s.each(func(w *way) {
		s.joined(w)
		r := s.room(w, 0.85)
		for k, st := range w.stops {
			clockwise, both := s.clockwise(w)
			s.mark(&s.lines, Trace{D: circle(st.at, r), Fill: Paper, Fade: 0.8})
			s.ring(st.at, r, s.toNode(w, k), clockwise, both)
			if n := s.count(w, k); n != "" {
				s.write(st.at, n, math.Min(0.8, r/s.u), false)
			}
		}
		s.outside(w)
	})
}

// loops are points that curl along a curve.
func (s *sketch) loops(w *way) []pt {
	clockwise, _ := s.clockwise(w)
	turns := math.Max(3, math.Round(w.length()/(0.95*s.u)))
	sense := 1.0
	if !clockwise {
		sense = -1
	}
	steps := int(turns * 14)
	out := make([]pt, 0, steps+1)
	for i := 0; i <= steps; i++ {
		f := float64(i) / float64(steps)
		a := sense*f*turns*2*math.Pi - math.Pi/2
		out = append(out, w.at(f).plus(polar(a, 0.55*s.u)))
	}
	return out
}

func (s *sketch) spiral() {
	s.each(func(w *way) {
		if len(w.curve) == 1 {
			clockwise, both := s.clockwise(w)
			s.ring(w.stops[0].at, 0.9*s.u, s.toNode(w, 0), clockwise, both)
			s.ring(w.stops[0].at, 0.45*s.u, s.toNode(w, 0), clockwise, false)
			s.outside(w)
			return
		}
		curl := s.loops(w)
		s.line(curl, 0.12+0.05*float64(w.stops[0].pressure), Ink)
		p, dir := w.spot(w.length())
		s.head(p.plus(dir.times(0.9*s.u)), dir, 0.8, Ink)
		s.begin(w)
		s.pressures(w)
	})
}

// teeth are the corners of a saw along a curve.
func (s *sketch) teeth(w *way) []pt {
	n := int(math.Max(4, math.Round(w.length()/(0.42*s.u))))
	out := make([]pt, 0, n+1)
	for i := 0; i <= n; i++ {
		p, dir := w.spot(w.length() * float64(i) / float64(n))
		out = append(out, p.plus(dir.across().times(0.6*s.u*float64(1-2*(i%2)))))
	}
	return out
}

func (s *sketch) zigzag() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		saw := s.teeth(w)
		s.line(saw, 0.13+0.05*float64(w.stops[0].pressure), Ink)
		p, dir := w.spot(w.length())
		s.head(p.plus(dir.times(0.9*s.u)), dir, 0.8, Ink)
		s.begin(w)
		s.pressures(w)
	})
}

// spread is the two ends of a figure that needs some length, also where the path has only one place.
func (s *sketch) spread(w *way, half float64) (from, to pt) {
	if len(w.curve) > 1 {
		return w.at(0), w.at(1)
	}
	c := w.stops[0].at
	return c.plus(pt{-half * s.u, 0}), c.plus(pt{half * s.u, 0})
}

// whip is short single hooks, each with a head at its upper end, climbing the path.
func (s *sketch) whip() {
	s.each(func(w *way) {
		n := max(3, int(w.length()/(1.1*s.u)))
		for i := range n {
			var p, dir pt
			if len(w.curve) > 1 {
				p, dir = w.spot(w.length() * (float64(i) + 0.3) / float64(n))
			} else {
				p, dir = w.stops[0].at.plus(pt{(float64(i) - 1) * 0.9 * s.u, 0}), pt{0, -1}
			}
			out := dir.across().times(-w.inner() * 0.5 * s.u)
			hook := []pt{p.minus(out), p.plus(dir.times(0.32 * s.u)).minus(out.times(0.2)), p.plus(dir.times(0.75 * s.u)).plus(out.times(0.5))}
			s.line(hook, 0.2, Ink)
			s.head(hook[2].plus(hook[2].minus(hook[1]).unit().times(0.35*s.u)), hook[2].minus(hook[1]), 0.6, Ink)
		}
		s.pressuresOrOutside(w)
	})
}

func (s *sketch) pressuresOrOutside(w *way) {
	if len(w.curve) > 1 {
		s.pressures(w)
	} else {
		s.outside(w)
	}
}

// past is two rows of short bars with opposite heads, one tone a hand.
func (s *sketch) past() {
	s.each(func(w *way) {
		half := 1.5
		if w.side != anatomy.Mid {
			half = 1.1
		}
		from, to := s.spread(w, half)
		axis := to.minus(from).unit()
		side := axis.across()
		n := max(4, int(to.minus(from).long()/(0.55*s.u))+1)
		for i := range n {
			c := between(from, to, (float64(i)+0.5)/float64(n))
			tone, way := Ink, 1.0
			if i%2 == 1 {
				tone, way = Other, -1
			}
			a, b := c.minus(side.times(0.75*way*s.u)), c.plus(side.times(0.75*way*s.u))
			s.line([]pt{a, b}, 0.2, tone)
			s.head(b.plus(side.times(0.3*way*s.u)), side.times(way), 0.5, tone)
		}
		s.outside(w)
	})
}

// fork is two thin rails either side of an edge, with a number a rail where fingers press apart.
func (s *sketch) fork() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		for n, by := range []float64{0.5, -0.5} {
			rail := w.beside(by * s.u)
			s.line(rail, 0.16, Ink)
			if n < len(s.r.Fingers) {
				at := rail[len(rail)/4].plus(rail[len(rail)/4].minus(w.curve[len(rail)/4]).times(1.1))
				s.write(at, strconv.Itoa(s.r.Fingers[n].Pressure), 0.7, true)
			}
		}
		s.line(w.curve, 0.07, Ink, 0.15, 0.3)
		p, dir := w.spot(w.length())
		s.head(p.plus(dir.times(0.5*s.u)), dir, 1, Ink)
		s.end(w)
		s.begin(w)
		if len(s.r.Fingers) == 0 {
			s.pressures(w)
		}
	})
}

// wavy is a fine wave along a curve, some centimetres beside it.
func (s *sketch) wavy(w *way, beside float64) []pt {
	n := max(12, int(w.length()/(0.0875*s.u)))
	out := make([]pt, 0, n+1)
	for i := 0; i <= n; i++ {
		p, dir := w.spot(w.length() * float64(i) / float64(n))
		out = append(out, p.plus(dir.across().times((beside+0.1*math.Sin(float64(i)*math.Pi/2))*s.u)))
	}
	return out
}

func (s *sketch) vibration() {
	s.each(func(w *way) {
		if len(w.curve) == 1 {
			s.disc(w, 0)
			for i := 1; i <= 3; i++ {
				r := (0.85 + 0.3*float64(i)) * s.u
				s.line(arc(w.stops[0].at, r, -0.6, 0.6), 0.12, Ink)
				s.line(arc(w.stops[0].at, r, math.Pi-0.6, math.Pi+0.6), 0.12, Ink)
			}
			return
		}
		half := s.half(w.stops[0].pressure)/s.u + 0.18
		s.line(s.wavy(w, half), 0.08, Ink)
		s.line(s.wavy(w, -half), 0.08, Ink)
		s.ribbon(w, w.curve, Ink)
		s.end(w)
		s.begin(w)
		s.pressures(w)
	})
}
