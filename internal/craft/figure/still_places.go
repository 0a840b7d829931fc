package figure

import (
	"math"
	"slices"
	"strconv"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

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
func (s *sketch) barred(p pt) bool { return s.within(p, 1) }

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

// roll is the tool with a ribbon out and a thin dashed way back on the inner side; wheels on the ribbon
// tell it from a tool that glides.
func (s *sketch) roll() {
	s.each(func(w *way) {
		if s.spotted(w) {
			return
		}
		s.wayBack(w, 0.3, 0.25)
		s.ribbon(w, w.curve, Ink)
		for _, f := range []float64{0.4, 0.7} {
			c := w.at(f)
			s.mark(&s.over, Trace{D: circle(c, 0.5*s.u), Fill: Paper, Pen: Ink, Width: 0.14 * s.u})
			s.mark(&s.over, Trace{D: circle(c, 0.14*s.u), Fill: Ink})
		}
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
