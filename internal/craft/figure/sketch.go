package figure

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
)

// sketch is a drawing being made: what lies under the lines, the lines, and what stands over them.
type sketch struct {
	r                  *evaluation.Resolved
	view               anatomy.View
	u                  float64 // 1; smaller where the picture is of something small
	ways               []*way
	under, lines, over []Trace
	now                *way // the side being drawn
	flashes            int
	taken              []pt // middles of numbers
	written            map[string]bool
	rate               float64
}

func newSketch(r *evaluation.Resolved, view anatomy.View) *sketch {
	s := &sketch{r: r, view: view, u: 1, ways: ways(r, view), written: map[string]bool{}}
	if view == anatomy.MouthView {
		s.u = 0.4
	}
	return s
}

func (s *sketch) turns() bool { return s.r.Sides == stroke.InTurns && len(s.ways) == 2 }

// mark adds a mark to a layer, with the side where sides are worked in turn.
func (s *sketch) mark(layer *[]Trace, m Trace) {
	if s.turns() && s.now != nil {
		m.Side = s.now.side.String()
	}
	*layer = append(*layer, m)
}

// each draws every side with its number, in turn, its pressure and its hand at the start.
func (s *sketch) each(draw func(w *way)) {
	for n, w := range s.ways {
		s.now = w
		draw(w)
		if s.turns() {
			s.number(w.start(), strconv.Itoa(n+1), Text, Text, math.Max(1.6, s.reach()))
		}
	}
	s.now = nil
	s.otherHand()
}

// half is half the width of a ribbon of a pressure.
func (s *sketch) half(pressure int) float64 { return (0.17 + 0.1*float64(pressure)) * s.u }

// dash tells the intents apart without colour.
func dash(in stroke.Intent) []float64 {
	switch in {
	case stroke.Drain:
		return []float64{0.1, 0.55}
	case stroke.Open:
		return []float64{0.1, 0.35, 0.9, 0.35}
	case stroke.Release:
		return []float64{0.7, 0.35}
	case stroke.Lift:
		return nil
	case "tone":
		return []float64{0.3, 0.3}
	case "soothe":
		return []float64{1.4, 0.5}
	case "stimulate":
		return []float64{0.15, 0.25}
	}
	return []float64{2.2, 0.7}
}

// ribbon is a band along a curve, as wide as the pressure at its stops, with a head.
func (s *sketch) ribbon(w *way, curve []pt, tone Tone) {
	s.mark(&s.lines, Trace{D: s.band(w, curve), Fill: tone, Pen: Paper, Width: 0.06 * s.u})
	core := curve[:max(2, len(curve)-5)]
	s.mark(&s.lines, Trace{D: poly(core, false), Pen: Paper, Width: 0.1 * s.u, Dash: scaled(dash(s.r.Intent), s.u), Fade: 0.9})
}

func scaled(d []float64, k float64) []float64 {
	out := make([]float64, len(d))
	for i := range d {
		out[i] = d[i] * k
	}
	return out
}

// band is the outline of a ribbon.
func (s *sketch) band(w *way, curve []pt) string {
	n := len(curve)
	var left, right []pt
	normal := func(i int) pt { return curve[min(n-1, i+1)].minus(curve[max(0, i-1)]).unit().across() }
	head := max(1, n-1-min(6, n/4))
	for i := 0; i <= head; i++ {
		half := s.halfAt(w, i) * (0.4 + 0.6*math.Min(1, float64(i)/(float64(n)*0.3)))
		left = append(left, curve[i].plus(normal(i).times(half)))
		right = append(right, curve[i].minus(normal(i).times(half)))
	}
	side := normal(head).times(s.halfAt(w, head) + 0.32*s.u)
	out := append(left, curve[head].plus(side), curve[n-1], curve[head].minus(side))
	for i := len(right) - 1; i >= 0; i-- {
		out = append(out, right[i])
	}
	return poly(out, true)
}

// halfAt is the half width at point i of the curve, between the pressures of the stops round it.
func (s *sketch) halfAt(w *way, i int) float64 {
	k := 0
	for k+1 < len(w.first) && w.first[k+1] <= i {
		k++
	}
	a := s.half(w.stops[k].pressure)
	if k+1 >= len(w.stops) || k+1 >= len(w.first) {
		return a
	}
	f := float64(i-w.first[k]) / math.Max(1, float64(w.first[k+1]-w.first[k]))
	return mix(a, s.half(w.stops[k+1].pressure), f)
}

// line is a plain line along points.
func (s *sketch) line(points []pt, width float64, tone Tone, dash ...float64) {
	s.mark(&s.lines, Trace{D: poly(points, false), Pen: tone, Width: width * s.u, Dash: scaled(dash, s.u)})
}

// head is an arrow head whose tip is at a point, in a direction; hollow ones are of paper.
func (s *sketch) head(tip, dir pt, size float64, fill Tone) {
	d := dir.unit().times(size * s.u)
	base := tip.minus(d)
	side := d.across().times(0.62)
	m := Trace{D: poly([]pt{tip, base.plus(side), base.minus(side)}, true), Fill: fill}
	if fill == Paper {
		m.Pen, m.Width = Ink, 0.13*s.u
	}
	s.mark(&s.lines, m)
}

// write puts letters with their middle at a point; halo sets them on paper.
func (s *sketch) write(at pt, text string, size float64, halo bool) {
	if halo {
		s.mark(&s.over, Trace{D: circle(at, size*(0.42+0.16*float64(len(text)))*s.u), Fill: Paper, Fade: 0.85})
	}
	s.taken = append(s.taken, at)
	s.mark(&s.over, Trace{Text: text, At: [2]float64{at.x, at.y}, Size: size * s.u, Fill: Text})
}

// numberSize is the radius of the ring round a number, in centimetres.
const numberSize = 0.5

// number sets a number in a ring beside a point, where it covers neither line nor number: as near to
// the outside of the face as there is room. The same number twice at one place is written once.
func (s *sketch) number(beside pt, text string, pen, fill Tone, far float64) {
	key := num(beside.x) + num(beside.y) + text + string(fill) + string(pen)
	if s.written[key] {
		return
	}
	s.written[key] = true
	out := 1.0
	if s.now != nil {
		out = -s.now.inner()
	}
	best, at := math.Inf(-1), beside
	for i := range 16 {
		a := float64(i) * math.Pi / 8
		p := beside.plus(polar(a, far*s.u))
		score := math.Min(s.clear(p), 1.2*s.u) + 0.12*s.u*math.Cos(a)*out
		if s.near(p) {
			score -= s.u
		}
		if score > best+1e-9 {
			best, at = score, p
		}
	}
	s.taken = append(s.taken, at)
	s.mark(&s.over, Trace{D: circle(at, numberSize*s.u), Fill: fill, Pen: pen, Width: 0.1 * s.u})
	ink := Text
	if fill != Paper {
		ink = Paper
	}
	s.mark(&s.over, Trace{Text: text, At: [2]float64{at.x, at.y}, Size: 0.8 * s.u, Fill: ink})
}

// near reports whether a number at a point would cover an eye, a lip, a nostril or the throat.
func (s *sketch) near(p pt) bool { return s.within(p, 1.35) }

// within reports whether a point lies in one of the ovals, each made k times as large.
func (s *sketch) within(p pt, k float64) bool {
	return slices.ContainsFunc(ovals[s.view], func(o oval) bool { return o.depth(p) < k })
}

// clear is how far a point is from every line, mark and number.
func (s *sketch) clear(p pt) float64 {
	least := math.Inf(1)
	for _, w := range s.ways {
		for _, c := range w.curve {
			least = math.Min(least, p.minus(c).long())
		}
	}
	for _, c := range s.taken {
		least = math.Min(least, p.minus(c).long()-0.3*s.u)
	}
	return least
}

// pressures writes the pressure beside the start, and wherever it changes.
func (s *sketch) pressures(w *way) { s.numbers(w, 1.05) }

// outside writes the pressure beyond the mark at the first stop, and where it changes.
func (s *sketch) outside(w *way) { s.numbers(w, 1.6) }

func (s *sketch) numbers(w *way, far float64) {
	for k, st := range w.stops {
		if k == 0 || st.pressure != w.stops[k-1].pressure {
			at := far
			if k == 0 {
				at = math.Max(far, s.reach())
			}
			s.number(st.at, strconv.Itoa(st.pressure), Ink, Paper, at)
		}
	}
}

// reach is how far from its middle a hand or a tool covers the skin.
func (s *sketch) reach() float64 {
	switch {
	case s.r.Tool != nil:
		return 1.9
	case slices.Contains([]string{"all fingers", "flat palm", "cupped palm", "backs of fingers", "fist knuckles", "heel of hand", "whole hand"}, s.r.Hand):
		return 1.9
	case s.r.Hand == "finger pads":
		return 1.6
	}
	return 1.15
}

// begin is the open dot where a hand sets on, with the hand or tool that does.
func (s *sketch) begin(w *way) {
	p, dir := w.spot(0)
	turn := s.turn(dir)
	for _, m := range s.workingHand() {
		m.D, m.Fade, m.Still = moved(m.D, p, turn, s.u), 0.5, true
		if s.r.Tool != nil {
			m.Fade = 0.85
		}
		m.Width *= s.u
		s.mark(&s.under, m)
	}
	s.mark(&s.over, Trace{D: circle(p, 0.22*s.u), Fill: Paper, Pen: Ink, Width: 0.1 * s.u})
}

// end marks how a stroke ends: a bar for a hold, a wave for a wiggle, a tick for a lift.
func (s *sketch) end(w *way) {
	p, dir := w.spot(w.length())
	side := dir.across()
	switch s.r.Ending {
	case "hold", "press-temple":
		at := p.plus(dir.times(0.25 * s.u))
		s.line([]pt{at.plus(side.times(0.8 * s.u)), at.minus(side.times(0.8 * s.u))}, 0.26, Ink)
	case "wiggle":
		var wave []pt
		for i := range 17 {
			f := float64(i)/16*2 - 1
			wave = append(wave, p.plus(dir.times((0.35+0.2*math.Sin(f*2*math.Pi))*s.u)).plus(side.times(f*0.9*s.u)))
		}
		s.line(wave, 0.14, Ink)
	case "lift-off":
		at := p.plus(dir.times(0.15 * s.u))
		s.line([]pt{at, at.plus(dir.times(0.7 * s.u)).plus(side.times(0.45 * s.u))}, 0.14, Ink)
	}
	if holds(s.r.Parts) && s.r.Ending == "" {
		at := p.plus(dir.times(0.2 * s.u))
		s.line([]pt{at.plus(side.times(0.7 * s.u)), at.minus(side.times(0.7 * s.u))}, 0.22, Ink)
	}
}

// holds reports whether a repetition ends in a hold.
func holds(parts []stroke.Part) bool {
	for i := len(parts) - 1; i >= 0; i-- {
		switch parts[i].Kind {
		case stroke.Hold:
			return true
		case stroke.Move, stroke.Pulse:
			return false
		}
	}
	return false
}

// count is how often something is done at a stop in one repetition; else how many repetitions.
func (s *sketch) count(w *way, k int) string {
	zone := w.stops[k].zone.Zone().Key
	for _, p := range s.r.Parts {
		if p.Count > 1 && (p.Zone == zone || p.Zone == "" && len(w.stops) == 1) {
			return strconv.Itoa(p.Count)
		}
	}
	for _, p := range s.r.Parts {
		if p.Count > 1 && p.Zone == "" {
			return strconv.Itoa(p.Count)
		}
	}
	if s.r.Dose.Kind == stroke.Reps && len(w.stops) == 1 {
		return strconv.Itoa(int(s.r.Dose.Planned)) + "×"
	}
	return ""
}

// joined is the dotted line without a head between places worked one after the other.
func (s *sketch) joined(w *way) {
	if len(w.curve) > 1 {
		s.line(w.curve, 0.1, Ink, 0.05, 0.28)
	}
}

// room is how large a mark at each stop may be, so that neighbours do not touch.
func (s *sketch) room(w *way, wish float64) float64 {
	least := wish * s.u
	for k := 1; k < len(w.stops); k++ {
		if d := w.stops[k].at.minus(w.stops[k-1].at).long(); d > 0.2*s.u {
			least = math.Min(least, d*0.46)
		}
	}
	for _, st := range w.stops { // twin circles in the middle of the face
		if w.side != anatomy.Mid && s.view == anatomy.FrontView && math.Abs(st.at.x) > 0.3 {
			least = math.Min(least, math.Abs(st.at.x)*0.9)
		}
	}
	return math.Max(least, 0.42*s.u)
}

// clockwise says which way circles run on a side, as the picture shows it: outward circles run away
// from the middle of the face at their top. both is set where they run each way.
func (s *sketch) clockwise(w *way) (clockwise, both bool) {
	switch s.r.CircleDirection {
	case "clockwise":
		return true, false
	case "anticlockwise":
		return false, false
	case "inward":
		return w.inner() > 0, false
	case "each-way":
		return true, true
	}
	return w.inner() < 0, false
}

// otherHand draws the other hand as what it is, hatched, with its pressure, wherever it goes.
func (s *sketch) otherHand() {
	a := s.r.Anchor
	if a == nil || a.Role == "carries-on" {
		return
	}
	type contact struct {
		zone, hand string
		pressure   int
	}
	all := []contact{{a.Zone, a.Hand, a.Pressure}}
	if a.Second != nil {
		all = append(all, contact{a.Second.Zone, a.Second.Hand, a.Second.Pressure})
	}
	for _, c := range a.Then {
		all = append(all, contact{c.Zone, c.Hand, c.Pressure})
	}
	sides := []anatomy.Side{anatomy.Left}
	switch {
	case s.r.Sides == stroke.RightOnly || s.r.Sides == stroke.SecondSide:
		sides = []anatomy.Side{anatomy.Right}
	case s.r.Sides == stroke.InTurns:
		sides = []anatomy.Side{anatomy.Left, anatomy.Right}
	}
	for _, side := range sides {
		for _, w := range s.ways {
			if w.side == side {
				s.now = w
			}
		}
		for n, c := range all {
			id, ok := anatomy.Lookup(c.zone)
			if !ok {
				continue
			}
			x, y, ok := (anatomy.ZoneSide{Zone: id, Side: id.On(side)}).Project(s.view)
			if !ok {
				continue
			}
			s.contact(s.asideOf(pt{x, y}), c.hand, c.pressure, n > 0 && a.Second == nil || n > 1)
		}
	}
	s.now = nil
}

// asideOf is a place for the other hand that does not cover the one that works: beside it, where both
// begin at one place, and not over an eye or the lips.
func (s *sketch) asideOf(at pt) pt {
	covers := slices.ContainsFunc(s.ways, func(w *way) bool { return at.minus(w.stops[0].at).long() < 1.4*s.u })
	if !covers {
		return at
	}
	for _, by := range []pt{{0, -2.2}, {0, 2.2}, {2.2, 0}, {-2.2, 0}} {
		p := at.plus(by.times(s.u))
		if !s.barred(p) && !s.barred(p.plus(pt{0, -0.9 * s.u})) && !s.barred(p.plus(pt{0, 0.9 * s.u})) {
			return p
		}
	}
	return at
}

// contact is the other hand at a place; a later place is drawn in outline.
func (s *sketch) contact(at pt, hand string, pressure int, later bool) {
	for _, m := range glyph(handGlyph(hand), Other) {
		m.D = moved(m.D, at, s.turn(pt{0, 1}), s.u)
		m.Width *= s.u
		if later {
			m.Fill, m.Dash = "", []float64{0.3 * s.u, 0.25 * s.u}
		}
		s.mark(&s.under, m)
	}
	if !later {
		var hatch strings.Builder
		for i := -2; i <= 2; i++ {
			x := float64(i) * 0.36 * s.u
			hatch.WriteString(poly([]pt{at.plus(pt{x - 0.25*s.u, 0.6 * s.u}), at.plus(pt{x + 0.25*s.u, -0.6 * s.u})}, false))
		}
		s.mark(&s.under, Trace{D: hatch.String(), Pen: Other, Width: 0.09 * s.u})
	}
	s.number(at, strconv.Itoa(pressure), Other, Paper, 1.8)
}
