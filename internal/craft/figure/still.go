package figure

import (
	"math"
	"slices"
	"strconv"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

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

// across is a way for a figure that needs some length where the path has only one place.
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

// pinches are pairs of facing wedges across the line, with a small tick up where they lift.
func (s *sketch) pinches() {
	s.each(func(w *way) {
		from, to := s.spread(w, 0.9)
		length := math.Max(w.length(), to.minus(from).long())
		n := min(14, max(2, int(length/(1.05*s.u))+1))
		for i := range n {
			c, dir := between(from, to, float64(i)/float64(max(1, n-1))), pt{1, 0}
			if len(w.curve) > 1 {
				c, dir = w.spot(w.length() * float64(i) / float64(n-1))
			}
			side := dir.across()
			for _, k := range []float64{1, -1} {
				tip := c.plus(side.times(0.14 * k * s.u))
				base := c.plus(side.times(0.72 * k * s.u))
				s.mark(&s.lines, Trace{D: poly([]pt{tip, base.plus(dir.times(0.34 * s.u)), base.minus(dir.times(0.34 * s.u))}, true), Fill: Ink})
			}
		}
		p, dir := w.spot(w.length())
		if len(w.curve) > 1 {
			s.head(p.plus(dir.times(1.1*s.u)), dir, 0.5, Ink)
		}
		if s.r.Family == "pick-up" {
			up := w.at(0.5)
			s.line([]pt{up, up.plus(pt{0, -1.35 * s.u})}, 0.12, Ink)
			s.head(up.plus(pt{0, -1.6 * s.u}), pt{0, -1}, 0.5, Ink)
		}
		s.pressuresOrOutside(w)
	})
}

// knead is two facing commas in each zone, numbered left and right in turn.
func (s *sketch) knead() {
	s.each(func(w *way) {
		s.joined(w)
		r := s.room(w, 0.95)
		for _, st := range w.stops {
			for n := range 2 {
				k := float64(2*n - 1)
				c := st.at.plus(pt{k * 0.16 * s.u, k * 0.1 * s.u})
				from := math.Pi * float64(n)
				comma := arc(c, r, from-math.Pi*0.1, from+math.Pi*0.72)
				var outer, inner []pt
				for i, p := range comma {
					f := float64(i) / float64(len(comma)-1)
					d := p.minus(c).unit().times((0.34 - 0.26*f) * s.u)
					outer, inner = append(outer, p.plus(d)), append([]pt{p.minus(d)}, inner...)
				}
				s.mark(&s.lines, Trace{D: poly(append(outer, inner...), true), Fill: []Tone{Ink, Other}[n]})
				last := comma[len(comma)-1]
				s.head(last.plus(last.minus(comma[len(comma)-2]).unit().times(0.4*s.u)), last.minus(comma[len(comma)-2]), 0.6, []Tone{Ink, Other}[n])
			}
			if n := s.count(w, 0); n != "" && r > 0.6*s.u {
				s.write(st.at, n, 0.7, false)
			}
		}
		s.outside(w)
	})
}

// skinRoll is a crest of skin before two pads, several times along the path.
func (s *sketch) skinRoll() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		s.line(w.curve, 0.08, Ink, 0.2, 0.25)
		n := max(3, int(w.length()/(1.7*s.u)))
		for i := range n {
			p, dir := w.spot(w.length() * (float64(i) + 0.5) / float64(n))
			side := dir.across()
			crest := arc(p, 0.7*s.u, dir.angle()-1.1, dir.angle()+1.1)
			s.line(crest, 0.24, Ink)
			for _, k := range []float64{-1, 1} {
				s.mark(&s.lines, Trace{D: circle(p.plus(side.times(0.34*k*s.u)), 0.24*s.u), Fill: Paper, Pen: Ink, Width: 0.1 * s.u})
			}
		}
		p, dir := w.spot(w.length())
		s.head(p.plus(dir.times(0.6*s.u)), dir, 0.7, Ink)
		s.pressures(w)
	})
}

// taps are dots strewn over the zones; where finger follows finger round the eye they are numbered.
func (s *sketch) taps() {
	s.rate = 6
	s.each(func(w *way) {
		s.flashes = 0
		if len(w.stops) > 3 && s.r.Hand == "all fingers" {
			for i := range 12 {
				f := float64(i) / 11
				at := w.at(f)
				s.flashes++
				s.mark(&s.lines, Trace{D: circle(at, 0.34*s.u), Fill: Paper, Pen: Ink, Width: 0.1 * s.u, Flash: s.flashes})
				s.write(at, strconv.Itoa(4-i%4), 0.46, false)
			}
		} else {
			s.strew(w)
		}
		s.outside(w)
	})
}

// strew puts about sixteen dots on the stops' zones, always the same ones: every place takes its
// share, turning by the golden angle (from memory).
func (s *sketch) strew(w *way) {
	each := max(4, 16/len(w.stops))
	for k, st := range w.stops {
		for i := range each {
			a := float64(i)*2.39996 + float64(k)
			at := st.at.plus(polar(a, 1.15*math.Sqrt(float64(i)/float64(each))*s.u))
			if w.side != anatomy.Mid && at.x*w.inner() > 0 && s.view == anatomy.FrontView {
				continue
			}
			if s.barred(at) {
				continue
			}
			s.flashes++
			s.mark(&s.lines, Trace{D: circle(at, 0.17*s.u), Fill: Ink, Flash: s.flashes})
		}
	}
}

// barred reports whether a point lies on an eye, a lip, a nostril or the throat.
func (s *sketch) barred(p pt) bool {
	for _, o := range ovals[s.view] {
		if o.depth(p) < 1 {
			return true
		}
	}
	return false
}

// pump is two nested rings with a chevron towards the node and the count below.
func (s *sketch) pump() {
	s.each(func(w *way) {
		s.joined(w)
		r := s.room(w, 0.85)
		for k, st := range w.stops {
			s.mark(&s.lines, Trace{D: circle(st.at, r), Fill: Paper, Pen: Ink, Width: 0.12 * s.u})
			s.mark(&s.lines, Trace{D: circle(st.at, r*0.5), Fill: Paper, Pen: Ink, Width: 0.12 * s.u})
			dir := s.toNode(w, k).unit()
			tip := st.at.plus(dir.times(r + 0.55*s.u))
			side := dir.across().times(0.42 * s.u)
			back := tip.minus(dir.times(0.34 * s.u))
			s.line([]pt{back.plus(side), tip, back.minus(side)}, 0.17, Ink)
			if n := s.count(w, k); n != "" {
				s.write(st.at.minus(dir.times(r+0.45*s.u)), n, 0.62, true)
			}
		}
		s.outside(w)
	})
}

// disc is a hold: as many rings as pressure.
func (s *sketch) disc(w *way, k int) {
	st := w.stops[k]
	r := s.room(w, 0.95)
	n := max(1, st.pressure)
	s.mark(&s.lines, Trace{D: circle(st.at, r), Fill: Paper, Pen: Ink, Width: 0.13 * s.u})
	for i := 1; i < n; i++ {
		s.mark(&s.lines, Trace{D: circle(st.at, r*float64(i)/float64(n)), Pen: Ink, Width: 0.1 * s.u})
	}
	if k == 0 {
		s.outside(w)
	}
}

func (s *sketch) hold() {
	s.each(func(w *way) {
		s.joined(w)
		for k, st := range w.stops {
			if s.r.Tool != nil { // the tool itself lies there
				for _, m := range s.workingHand() {
					m.D = moved(m.D, st.at, s.turn(pt{0, 1}), s.u)
					m.Width *= s.u
					s.mark(&s.lines, m)
				}
				if k == 0 {
					s.outside(w)
				}
			} else {
				s.disc(w, k)
			}
			if len(w.stops) > 1 {
				s.write(st.at, strconv.Itoa(k+1), 0.66, true)
			} else if sec := s.held(); sec > 0 {
				s.write(st.at.plus(pt{0, 1.55 * s.u}), strconv.Itoa(int(math.Round(sec)))+" s", 0.66, true)
			}
			if dir, ok := directions[s.r.Direction]; ok {
				if s.r.Direction == "in" || s.r.Direction == "out" {
					dir.x *= -w.inner()
				}
				from := st.at.minus(dir.times(1.7 * s.u))
				s.line([]pt{from, from.plus(dir.times(0.5 * s.u))}, 0.16, Ink)
				s.head(from.plus(dir.times(0.85*s.u)), dir, 0.5, Ink)
			}
		}
	})
}

// directions at a place, on the client's left; out and in are turned on the other side.
var directions = map[string]pt{"up": {0, -1}, "down": {0, 1}, "out": {1, 0}, "in": {-1, 0}}

// held is how long one hold lasts.
func (s *sketch) held() float64 {
	for _, p := range s.r.Parts {
		if p.Kind == stroke.Hold {
			return p.Seconds
		}
	}
	if s.r.Dose.Kind == stroke.Clock {
		return float64(s.r.Dose.Planned)
	}
	return 0
}

// handOverHand is two ribbons in two tones, half a width apart; the second starts before the first ends.
func (s *sketch) handOverHand() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		n := len(w.curve)
		by := 0.42 * s.u
		first, second := w.beside(by)[:n*8/10], w.beside(-by)[n*35/100:]
		for k, c := range [][]pt{first, second} {
			if len(c) > 2 {
				s.ribbon(w, c, []Tone{Ink, Other}[k])
			}
		}
		s.begin(w)
		s.pressures(w)
	})
}

// stretch is a hatched square where one end is held, a double line and a hollow head where it moves.
func (s *sketch) stretch() {
	s.each(func(w *way) {
		held, far := w.at(0), w.at(1)
		if a := s.r.Anchor; a != nil {
			if id, ok := anatomy.Lookup(a.Zone); ok {
				if x, y, ok := (anatomy.ZoneSide{Zone: id, Side: id.On(w.side)}).Project(s.view); ok && (pt{x, y}).minus(far).long() > 0.5 {
					held = pt{x, y}
				}
			}
		}
		if far.minus(held).long() < 0.6*s.u {
			held, far = held.plus(pt{0, 0.9 * s.u}), held.plus(pt{-w.inner() * 0.4 * s.u, -1.2 * s.u})
		}
		w.held = &held
		dir := far.minus(held).unit()
		side := dir.across().times(0.22 * s.u)
		end := far.plus(dir.times(0.3 * s.u))
		s.line([]pt{held.plus(side), end.plus(side)}, 0.12, Ink)
		s.line([]pt{held.minus(side), end.minus(side)}, 0.12, Ink)
		s.head(end.plus(dir.times(0.95*s.u)), dir, 1, Paper)
		h := 0.62 * s.u
		s.mark(&s.lines, Trace{D: poly([]pt{held.plus(pt{-h, -h}), held.plus(pt{h, -h}), held.plus(pt{h, h}), held.plus(pt{-h, h})}, true), Fill: Paper, Pen: Ink, Width: 0.12 * s.u})
		for _, k := range []float64{-0.6, 0, 0.6} {
			a, b := held.plus(pt{math.Max(-h, k*h*2-h), math.Min(h, k*h*2+h)}), held.plus(pt{math.Min(h, k*h*2+h), math.Max(-h, k*h*2-h)})
			s.line([]pt{a, b}, 0.08, Ink)
		}
		if sec := s.held(); sec > 0 {
			s.write(end.plus(dir.times(1.5*s.u)), strconv.Itoa(int(math.Round(sec)))+" s", 0.62, true)
		}
		s.number(held, strconv.Itoa(w.stops[0].pressure), Ink, Paper, 1.4)
	})
}

// loop is a closed ring with three heads on its line and no end.
func (s *sketch) loop() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		s.line(w.curve, 2*s.half(w.stops[0].pressure)/s.u*0.8, Ink)
		s.mark(&s.lines, Trace{D: poly(w.curve, false), Pen: Paper, Width: 0.1 * s.u, Dash: scaled(dash(s.r.Intent), s.u), Fade: 0.9})
		for _, f := range []float64{0.2, 0.53, 0.86} {
			p, dir := w.spot(w.length() * f)
			s.head(p.plus(dir.times(0.55*s.u)), dir, 1.15, Ink)
		}
		s.begin(w)
		s.pressures(w)
	})
}

// roll is the tool with a ribbon out and a thin dashed way back on the inner side.
func (s *sketch) roll() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		s.wayBack(w, 0.3, 0.25)
		s.ribbon(w, w.curve, Ink)
		s.begin(w)
		s.pressures(w)
	})
}

// area tints the zones in order; what is wiped has parallel lines in each.
func (s *sketch) area() {
	s.rate = 0.7
	s.each(func(w *way) {
		seen := map[string]bool{}
		n := 0
		for _, st := range w.stops {
			key := st.zone.Zone().Key
			if seen[key] {
				continue
			}
			seen[key] = true
			n++
			for _, d := range outline(st.zone.Zone(), s.view, w.side) {
				s.mark(&s.under, Trace{D: d, Fill: Tint, Pen: Ink, Width: 0.07 * s.u, Flash: n})
			}
			if s.r.Family == "compression" || s.r.Relation == stroke.Slides {
				for _, k := range []float64{-0.4, 0, 0.4} {
					y := pt{0, k * s.u}
					s.line([]pt{st.at.plus(y).minus(pt{0.75 * s.u, 0}), st.at.plus(y).plus(pt{0.75 * s.u, 0})}, 0.1, Ink)
				}
			}
		}
		n = 0
		clear(seen)
		for _, st := range w.stops {
			if key := st.zone.Zone().Key; !seen[key] {
				seen[key] = true
				n++
				if len(w.stops) > 1 {
					s.write(st.at, strconv.Itoa(n), 0.66, true)
				}
			}
		}
	})
}

// client is hollow arrows at the part that moves; the helping finger is a disc.
func (s *sketch) client() {
	if s.r.Family == "twist" {
		s.wring()
		return
	}
	s.each(func(w *way) {
		for k, st := range w.stops {
			dir := pt{0, -1}
			if k+1 < len(w.stops) {
				dir = w.stops[k+1].at.minus(st.at).unit()
			} else if len(w.stops) > 1 {
				break
			}
			if d, ok := directions[s.r.Direction]; ok {
				dir = d
				if d.x != 0 {
					dir.x *= -w.inner()
				}
			}
			if s.r.Direction == "across" || s.r.Direction == "multi" {
				s.sideToSide(st.at)
			} else {
				s.hollow(st.at, dir)
			}
			if k == 2 {
				break
			}
		}
		if s.r.Hand != "" {
			p := w.stops[0].at.plus(pt{-w.inner() * 1.2 * s.u, 0.9 * s.u})
			s.mark(&s.over, Trace{D: circle(p, 0.42*s.u), Fill: Other})
			if s.r.Pressure > 0 {
				s.mark(&s.over, Trace{Text: strconv.Itoa(s.r.Pressure), At: [2]float64{p.x, p.y}, Size: 0.62 * s.u, Fill: Paper})
			}
		}
	})
	if len(s.ways) == 0 {
		return
	}
	if sec := s.held(); sec > 0 {
		w := s.ways[len(s.ways)-1]
		s.write(w.stops[0].at.plus(pt{0, 1.9 * s.u}), strconv.Itoa(int(math.Round(sec)))+" s", 0.62, true)
	}
}

// arrow is a hollow arrow at the origin, pointing along x.
var arrow = poly([]pt{{-1, 0.26}, {0.3, 0.26}, {0.3, 0.62}, {1.2, 0}, {0.3, -0.62}, {0.3, -0.26}, {-1, -0.26}}, true)

// wring is two hands that turn against each other at every place: bent arrows, one up and one down.
func (s *sketch) wring() {
	s.each(func(w *way) {
		s.joined(w)
		for _, st := range w.stops {
			for n, k := range []float64{-1, 1} {
				tone := []Tone{Ink, Other}[n]
				bow := arc(st.at.plus(pt{k * 0.25 * s.u, 0}), 0.75*s.u, math.Pi/2-k*math.Pi/2-0.8, math.Pi/2-k*math.Pi/2+0.8)
				s.line(bow, 0.24, tone)
				end := bow[len(bow)-1]
				s.head(end.plus(end.minus(bow[len(bow)-2]).unit().times(0.45*s.u)), end.minus(bow[len(bow)-2]), 0.6, tone)
			}
		}
		s.outside(w)
	})
}

// hollow is a hollow arrow with its middle at a point; it stands while nothing moves.
func (s *sketch) hollow(c, dir pt) {
	s.mark(&s.lines, Trace{D: moved(arrow, c, dir.angle()*180/math.Pi, s.u), Fill: Paper, Pen: Ink, Width: 0.15 * s.u, Still: true})
}

// clientHand is what moves where the client does: the arrow itself.
func (s *sketch) clientHand() []Trace {
	return []Trace{{D: arrow, Fill: Paper, Pen: Ink, Width: 0.15}}
}

// sideToSide is an arc with a hollow head at both ends.
func (s *sketch) sideToSide(c pt) {
	a := arc(c.plus(pt{0, -2.4 * s.u}), 3*s.u, math.Pi/2-0.5, math.Pi/2+0.5)
	s.line(a, 0.16, Ink)
	s.head(a[0].plus(pt{0.5 * s.u, -0.3 * s.u}), a[0].minus(a[1]), 0.85, Paper)
	n := len(a) - 1
	s.head(a[n].plus(pt{-0.5 * s.u, -0.3 * s.u}), a[n].minus(a[n-1]), 0.85, Paper)
}

// outline is the border of a zone from a view, on a side.
func outline(z *anatomy.Zone, view anatomy.View, side anatomy.Side) []string {
	border := z.Outline
	switch view {
	case anatomy.LeftView, anatomy.RightView:
		border = z.Profile
	case anatomy.BackView:
		border = z.Back
	case anatomy.MouthView:
		border = z.Mouth
	}
	if len(border) < 3 {
		return nil
	}
	turned := view == anatomy.LeftView || (view == anatomy.BackView) != (side == anatomy.Right && view != anatomy.RightView)
	if view == anatomy.RightView {
		turned = false
	}
	half := func(mirror bool) []pt {
		var out []pt
		for _, p := range border {
			x := p[0]
			if mirror {
				x = -x
			}
			out = append(out, pt{x, -p[1]})
		}
		return out
	}
	if z.Paired || view == anatomy.LeftView || view == anatomy.RightView {
		return []string{poly(half(turned), true)}
	}
	whole := half(false)
	mirrored := half(true)
	slices.Reverse(mirrored)
	return []string{poly(append(whole, mirrored...), true)}
}
