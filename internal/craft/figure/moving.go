package figure

import (
	"math"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

const (
	frame     = 0.1 // seconds between two keys of a hand that does not run straight
	offSkin   = 0.4 // seconds of the way back, lifted
	walk      = 0.4 // seconds from place to place
	growing   = 0.8 // seconds in which a hold grows
	ringMoves = 0.4 // cm: the radius of a circle on the spot, and how far a pump pushes
	carried   = 1.0 // cm: how far skin is stretched
)

// usual parts of a repetition of what states none.
func (s *sketch) parts() []stroke.Part {
	if len(s.r.Parts) > 0 {
		return s.r.Parts
	}
	if d := s.r.Dose; d.Kind == stroke.Breaths && d.Pulses > 0 { // worked on the out-breath only
		return []stroke.Part{
			{Kind: stroke.Swap, Seconds: d.In + d.Pause},
			{Kind: stroke.Pulse, Seconds: d.Out / float64(d.Pulses), Count: d.Pulses},
		}
	}
	switch s.r.Figure {
	case stroke.FigureCircle, stroke.FigurePump, stroke.FigureKnead, stroke.FigurePinches:
		return []stroke.Part{{Kind: stroke.Pulse, Seconds: 1, Count: 3 * s.stops()}}
	case stroke.FigureHold:
		return []stroke.Part{{Kind: stroke.Hold, Seconds: 4}}
	case stroke.FigureClient, stroke.FigureStretch:
		return []stroke.Part{{Kind: stroke.Move, Seconds: 2}, {Kind: stroke.Hold, Seconds: 3}, {Kind: stroke.Back, Seconds: 1}}
	}
	return []stroke.Part{{Kind: stroke.Move, Seconds: 3.5}}
}

func (s *sketch) stops() int {
	if len(s.ways) == 0 {
		return 1
	}
	return len(s.ways[0].stops)
}

// rep is the length of one repetition in seconds.
func (s *sketch) rep() float64 { return stroke.RepSeconds(s.parts()) }

// tracks are the ways of the hands; taps and whole zones light up instead.
func (s *sketch) tracks() []Track {
	out := []Track{}
	if s.r.Figure == stroke.FigureTaps || s.r.Figure == stroke.FigureArea {
		return out
	}
	for _, w := range s.ways {
		s.now = w
		side := w.side.String()
		switch s.r.Figure {
		case stroke.FigurePast:
			for _, phase := range []float64{0, math.Pi} {
				out = append(out, Track{Side: side, Other: phase > 0, Keys: s.pastEach(w, phase)})
			}
		case stroke.FigureHandOverHand:
			n := s.rep()
			out = append(out, Track{Side: side, Keys: s.passOver(w, 0, 0.62*n, n)}, Track{Side: side, Other: true, Keys: s.passOver(w, 0.42*n, n, n)})
		default:
			m := mover{s: s, w: w}
			for _, p := range s.parts() {
				m.part(p)
			}
			out = append(out, Track{Side: side, Keys: m.home(), Trembles: s.r.Figure == stroke.FigureVibration})
		}
	}
	s.now = nil
	return append(out, s.otherTracks()...)
}

// mover writes the keys of one hand, part by part.
type mover struct {
	s    *sketch
	w    *way
	keys []Key
	t, f float64 // seconds gone, part of the way gone
	left bool    // a pulse of the left hand of two
}

func (m *mover) put(p, dir pt, lift, press float64) {
	p = m.w.keptOut(p)
	m.keys = append(m.keys, Key{T: hundredth(m.t), X: hundredth(p.x), Y: hundredth(p.y), Turn: math.Round(m.s.turn(dir)), Lift: lift, Press: hundredth(press)})
}

func (m *mover) spot() (pt, pt) { return m.w.spot(m.f * m.w.length()) }

// goal is how far along a part leads: to its zone, else its share of the moving time.
func (m *mover) goal(p stroke.Part) (float64, bool) {
	for _, zone := range []string{p.Zone, p.Towards} {
		for k, st := range m.w.stops {
			if zone != "" && st.zone.Zone().Key == zone {
				return m.w.place(k), true
			}
		}
	}
	return m.f, false
}

func (m *mover) part(p stroke.Part) {
	long := p.Seconds * float64(max(1, p.Count))
	goal, named := m.goal(p)
	switch p.Kind {
	case stroke.Move:
		if !named {
			goal = math.Min(1, m.f+long/m.moving())
		}
		m.travel(goal, long, 0)
	case stroke.Back:
		m.travel(0, long, 0)
	case stroke.Pulse:
		m.pulses(p, goal, named)
	case stroke.Hold:
		m.f = goal
		m.stay(long, 1)
	case stroke.Wiggle:
		m.wiggle(long)
	default:
		m.f = goal
		m.stay(long, 0)
	}
}

// moving is the seconds of all parts that move on.
func (m *mover) moving() float64 {
	sum := 0.0
	for _, p := range m.s.parts() {
		if p.Kind == stroke.Move {
			sum += p.Seconds * float64(max(1, p.Count))
		}
	}
	return math.Max(sum, 0.1)
}

// travel moves to a place within some seconds, in the manner of the figure.
func (m *mover) travel(goal, seconds, lift float64) {
	from, start := m.f, m.t
	n := max(2, int(seconds/frame))
	for i := 0; i <= n; i++ {
		f := float64(i) / float64(n)
		m.f, m.t = mix(from, goal, f), start+seconds*f
		p, dir, press := m.manner(m.t)
		m.put(p, dir, math.Max(lift, m.off(m.t)), press)
	}
}

// manner is where a hand on its way is at a moment, by figure.
func (m *mover) manner(t float64) (p, dir pt, press float64) {
	p, dir = m.spot()
	u := m.s.u
	l := m.f * m.w.length()
	switch m.s.r.Figure {
	case stroke.FigureZigzag:
		return p.plus(dir.across().times(0.6 * u * triangle(l/(0.84*u)))), dir, 0
	case stroke.FigureSpiral:
		clockwise, _ := m.s.clockwise(m.w)
		a := 2 * math.Pi * l / (0.95 * u)
		if !clockwise {
			a = -a
		}
		return p.plus(polar(a-math.Pi/2, 0.5*u)), dir, 0
	case stroke.FigureWhip:
		k := math.Mod(t, 0.55) / 0.3
		return p.plus(dir.times((math.Min(k, 1) - 0.5) * 0.8 * u)), dir, 0
	case stroke.FigurePinches, stroke.FigureKnead:
		return p, dir, math.Abs(math.Sin(math.Pi * t / 0.9))
	case stroke.FigureStretch:
		a, b := m.w.at(0), m.w.at(1)
		way := b.minus(a)
		if way.long() < 0.3*u {
			way = pt{0, -1}
		}
		return b.plus(way.unit().times((m.f - 1) * carried * u)), way, 0
	case stroke.FigureClient:
		return m.clientAt()
	}
	return p, dir, 0
}

// clientAt is the part that the client moves: 0.9 cm there.
func (m *mover) clientAt() (p, dir pt, press float64) {
	st := m.w.stops[0].at
	dir = pt{0, -1}
	if d, ok := directions[m.s.r.Direction]; ok {
		if dir = d; d.x != 0 {
			dir.x *= -m.w.inner()
		}
	} else if len(m.w.stops) > 1 {
		dir = m.w.stops[1].at.minus(st).unit()
	}
	return st.plus(dir.times(0.9 * m.f * m.s.u)), dir, 0
}

// off says whether a whip is off the skin at a moment: a hook lasts 0.3 s, the way to the next 0.25 s.
func (m *mover) off(t float64) float64 {
	if m.s.r.Figure == stroke.FigureWhip && math.Mod(t, 0.55) > 0.3 {
		return 1
	}
	return 0
}

func triangle(x float64) float64 {
	x = math.Mod(x, 1)
	return 1 - 4*math.Abs(x-0.5)
}

// stay holds still for some seconds; press grows and shrinks again.
func (m *mover) stay(seconds, press float64) {
	p, dir, _ := m.manner(m.t)
	grow := math.Min(growing, seconds/3)
	for _, k := range [][2]float64{{0, 0}, {grow, press}, {seconds - grow, press}, {seconds, 0}} {
		start := m.t
		m.t = start + k[0]
		m.put(p, dir, 0, k[1])
		m.t = start
	}
	m.t += seconds
}

func (m *mover) wiggle(seconds float64) {
	p, dir := m.spot()
	start := m.t
	n := max(4, int(seconds/frame))
	for i := 0; i <= n; i++ {
		f := float64(i) / float64(n)
		m.t = start + seconds*f
		m.put(p.plus(dir.across().times(0.2*m.s.u*math.Sin(2*math.Pi*3*f*math.Max(1, seconds/1.5)))), dir, 0, 0)
	}
}

// pulses are worked at a place, or shared among the places of the path; between two places the hand
// lifts and walks.
func (m *mover) pulses(p stroke.Part, goal float64, named bool) {
	count := max(1, p.Count)
	shared := !named && len(m.w.stops) > 1 && !slices.ContainsFunc(m.s.parts(), func(q stroke.Part) bool { return q.Kind == stroke.Move || q.Zone != "" })
	for i := range count {
		seconds := p.Seconds
		to := goal
		if shared {
			to = m.w.place(i * len(m.w.stops) / count)
		}
		if math.Abs(to-m.f) > 0.001 {
			step := math.Min(walk, seconds/2)
			m.step(to, step)
			seconds -= step
		}
		m.pulse(seconds)
	}
}

// step walks along the way to a place, off the skin.
func (m *mover) step(to, seconds float64) {
	p, dir := m.spot()
	m.put(p, dir, 0, 0)
	const parts = 4
	from, start := m.f, m.t
	for i := 1; i <= parts; i++ {
		f := float64(i) / parts
		m.f, m.t = mix(from, to, f), start+seconds*f
		p, dir = m.spot()
		m.put(p, dir, 1, 0)
	}
}

// pulse is one turn of a circle, one push of a pump, one grip.
func (m *mover) pulse(seconds float64) {
	p, dir := m.spot()
	u, start := m.s.u, m.t
	clockwise, _ := m.s.clockwise(m.w)
	node := m.s.toNode(m.w, m.nearest()).unit()
	m.left = !m.left
	n := max(6, int(seconds/frame))
	for i := 0; i <= n; i++ {
		f := float64(i) / float64(n)
		m.t = start + seconds*f
		at, press := p, math.Sin(math.Pi*f)
		switch m.s.r.Figure {
		case stroke.FigureCircle, stroke.FigureSpiral:
			a := 2 * math.Pi * f
			if !clockwise {
				a = -a
			}
			at, press = p.plus(polar(a-math.Pi/2, ringMoves*u)), 0
		case stroke.FigurePump:
			push := f / 0.6
			if f > 0.6 {
				push = (1 - f) / 0.4
			}
			at, press = p.plus(node.times(ringMoves*u*push)), push
		case stroke.FigurePinches:
			if f > 0.5 {
				at = p.plus(pt{0, -0.2 * u})
			}
		case stroke.FigureKnead:
			k := -1.0
			if m.left {
				k = 1
			}
			at = p.plus(pt{k * 0.45 * u * (1 - f), -k * 0.2 * u})
		}
		m.put(at, dir, 0, press)
	}
}

// nearest is the stop at which the hand is.
func (m *mover) nearest() int {
	best := 0
	for k := range m.w.stops {
		if math.Abs(m.w.place(k)-m.f) < math.Abs(m.w.place(best)-m.f) {
			best = k
		}
	}
	return best
}

// home ends a repetition: a hand that is not where it began lifts and goes back off the skin. Its
// keys are drawn together a little to make room for that.
func (m *mover) home() []Key {
	if len(m.keys) == 0 || m.f < 0.02 || m.s.r.Figure == stroke.FigureLoop {
		return m.keys
	}
	back := math.Min(offSkin, 0.2*m.t)
	k := (m.t - back) / m.t
	for i := range m.keys {
		m.keys[i].T = hundredth(m.keys[i].T * k)
	}
	first, from, end := m.keys[0], m.f, m.t
	m.t = end - back + 0.05
	const parts = 6 // back along the way, so that it passes over nothing else
	for i := range parts {
		f := float64(i) / parts
		m.f, m.t = from*(1-f), mix(end-back+0.05, end, f)
		p, dir, _ := m.manner(m.t)
		m.put(p, dir, 1, 0)
	}
	first.T, first.Lift = hundredth(end), 1
	return append(m.keys, first)
}

// pastEach is one of two hands that pass each other, twice a second, while they move on.
func (s *sketch) pastEach(w *way, phase float64) []Key {
	from, to := s.spread(w, 1)
	side := to.minus(from).unit().across()
	rep := s.rep()
	n := int(rep / frame)
	keys := make([]Key, 0, n+1)
	for i := 0; i <= n; i++ {
		f := float64(i) / float64(max(1, n))
		c := between(from, to, 1-math.Abs(2*f-1)).plus(side.times(0.6 * s.u * math.Sin(2*math.Pi*2*f*rep+phase)))
		keys = append(keys, Key{T: hundredth(rep * f), X: hundredth(c.x), Y: hundredth(c.y), Turn: math.Round(s.turn(side))})
	}
	return keys
}

// passOver is one of two hands that follow each other over the same way: on the skin from a moment to another.
func (s *sketch) passOver(w *way, from, to, rep float64) []Key {
	const n = 24
	keys := make([]Key, 0, n+3)
	put := func(t, f, lift float64) {
		p, dir := w.spot(f * w.length())
		keys = append(keys, Key{T: hundredth(t), X: hundredth(p.x), Y: hundredth(p.y), Turn: math.Round(s.turn(dir)), Lift: lift})
	}
	if from > 0 {
		put(0, 0, 1)
	}
	for i := 0; i <= n; i++ {
		put(mix(from, to, float64(i)/n), float64(i)/n, 0)
	}
	if to < rep {
		put(to+0.1, 1, 1)
		put(rep, 0, 1)
	}
	return keys
}

// otherTracks lead the other hand where it goes within a repetition.
func (s *sketch) otherTracks() []Track {
	a := s.r.Anchor
	if a == nil || len(a.Then) == 0 {
		return nil
	}
	zones := []string{a.Zone}
	for _, c := range a.Then {
		zones = append(zones, c.Zone)
	}
	var out []Track
	rep := s.rep()
	for _, side := range sidesOf(s.r.Sides) {
		var keys []Key
		for i, z := range zones {
			id, ok := anatomy.Lookup(z)
			if !ok {
				continue
			}
			x, y, ok := (anatomy.ZoneSide{Zone: id, Side: id.On(side)}).Project(s.view)
			if !ok {
				continue
			}
			for _, f := range []float64{0, 0.85} {
				keys = append(keys, Key{T: hundredth(rep * (float64(i) + f) / float64(len(zones))), X: x, Y: y, Turn: 90})
			}
		}
		if len(keys) > 0 {
			out = append(out, Track{Side: side.String(), Other: true, Keys: keys})
		}
	}
	return out
}
