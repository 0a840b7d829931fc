package figure

import (
	"math"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
)

type pt struct{ x, y float64 }

func (p pt) plus(q pt) pt                 { return pt{p.x + q.x, p.y + q.y} }
func (p pt) minus(q pt) pt                { return pt{p.x - q.x, p.y - q.y} }
func (p pt) times(k float64) pt           { return pt{p.x * k, p.y * k} }
func (p pt) long() float64                { return math.Hypot(p.x, p.y) }
func (p pt) across() pt                   { return pt{-p.y, p.x} }
func (p pt) angle() float64               { return math.Atan2(p.y, p.x) }
func (p pt) unit() pt                     { return p.times(1 / math.Max(p.long(), 1e-9)) }
func polar(a, r float64) pt               { return pt{r * math.Cos(a), r * math.Sin(a)} }
func between(a, b pt, f float64) pt       { return a.plus(b.minus(a).times(f)) }
func mix(a, b float64, f float64) float64 { return a + (b-a)*f }

// stop is a place of the path as it is seen.
type stop struct {
	at       pt
	index    int // in the path
	zone     anatomy.ID
	pressure int
}

// way is the path of one side as it is seen: through its stops, round what may not be crossed.
type way struct {
	side  anatomy.Side
	stops []stop
	curve []pt
	run   []float64 // length of the curve up to each point
	// first is the place of each stop on the curve.
	first []int
	// held is the end that does not move, where skin is stretched.
	held *pt
	// free are the ovals that nothing on this way may cross.
	free []oval
}

// keptOut is a point, moved out of what may not be crossed.
func (w *way) keptOut(p pt) pt {
	for _, o := range w.free {
		if o.depth(p) < edge {
			p = o.out(p, edge)
		}
	}
	return p
}

// start is where the eye begins to read a side.
func (w *way) start() pt {
	if w.held != nil {
		return *w.held
	}
	return w.stops[0].at
}

func (w *way) length() float64 { return w.run[len(w.run)-1] }

// at is the point a part f (0 to 1) of the way along.
func (w *way) at(f float64) pt {
	p, _ := w.spot(f * w.length())
	return p
}

// spot is the point some centimetres along, and the direction there.
func (w *way) spot(l float64) (pt, pt) {
	if len(w.curve) == 1 {
		return w.curve[0], pt{0, 1}
	}
	i := 1
	for i+1 < len(w.curve) && w.run[i] < l {
		i++
	}
	a, b := w.curve[i-1], w.curve[i]
	f := (l - w.run[i-1]) / math.Max(w.run[i]-w.run[i-1], 1e-9)
	return between(a, b, math.Max(0, math.Min(1, f))), b.minus(a).unit()
}

// place is how far along (0 to 1) stop k lies.
func (w *way) place(k int) float64 {
	if w.length() == 0 {
		return 0
	}
	return w.run[w.first[k]] / w.length()
}

// inner is the direction towards the middle of the face.
func (w *way) inner() float64 {
	if w.stops[0].at.x < 0 {
		return 1
	}
	return -1
}

// sidesOf are the sides that a step works, the one it begins with first.
func sidesOf(s stroke.Sides) []anatomy.Side {
	switch s {
	case stroke.LeftOnly, stroke.FirstSide:
		return []anatomy.Side{anatomy.Left}
	case stroke.RightOnly, stroke.SecondSide:
		return []anatomy.Side{anatomy.Right}
	case stroke.Across, "mid":
		return []anatomy.Side{anatomy.Mid}
	}
	return []anatomy.Side{anatomy.Left, anatomy.Right}
}

// ways are the paths of a step from a view, one a side that is seen.
func ways(r *evaluation.Resolved, view anatomy.View) []*way {
	var out []*way
	for _, side := range sidesOf(r.Sides) {
		w := &way{side: side}
		for i := range r.Path {
			s := &r.Path[i]
			id, ok := anatomy.Lookup(s.Zone) // a studio's own zone is in no picture
			if !ok {
				continue
			}
			on := id.On(side)
			switch s.Side {
			case "left":
				on = anatomy.Left
			case "right":
				on = anatomy.Right
			}
			if x, y, ok := (anatomy.ZoneSide{Zone: id, Side: on}).Project(view); ok {
				w.stops = append(w.stops, stop{pt{x, y}, i, id, s.Pressure})
			}
		}
		if len(w.stops) > 0 {
			w.lead(view)
			out = append(out, w)
		}
	}
	if len(r.Path) == 0 && r.Figure == stroke.FigureClient {
		return untouched(r, view)
	}
	return out
}

// untouched is where an exercise works that no hand touches.
func untouched(r *evaluation.Resolved, view anatomy.View) []*way {
	var out []*way
	for _, key := range r.Further.ActsOn {
		id, ok := anatomy.Lookup(key)
		if !ok {
			continue
		}
		for _, side := range []anatomy.Side{anatomy.Left, anatomy.Right} {
			x, y, ok := (anatomy.ZoneSide{Zone: id, Side: id.On(side)}).Project(view)
			if !ok || len(out) > 0 && id.On(side) == out[len(out)-1].side {
				continue
			}
			w := &way{side: id.On(side), stops: []stop{{at: pt{x, y}, zone: id}}}
			w.lead(view)
			out = append(out, w)
		}
	}
	return out
}

// lead draws the curve through the stops.
func (w *way) lead(view anatomy.View) {
	w.free = w.forbidden(view)
	points, isStop := w.wayPoints(w.free)
	if len(points) == 1 {
		w.curve, w.run, w.first = points, []float64{0}, make([]int, len(w.stops))
		return
	}
	const each = 12
	for i := 0; i+1 < len(points); i++ {
		p0, p1, p2, p3 := points[max(0, i-1)], points[i], points[i+1], points[min(len(points)-1, i+2)]
		if isStop[i] {
			w.first = append(w.first, len(w.curve))
		}
		for j := range each {
			w.curve = append(w.curve, spline(p0, p1, p2, p3, float64(j)/each))
		}
	}
	if isStop[len(points)-1] {
		w.first = append(w.first, len(w.curve))
	}
	w.curve = append(w.curve, points[len(points)-1])
	w.keepOut(view)
	w.run = make([]float64, len(w.curve))
	for i := 1; i < len(w.curve); i++ {
		w.run[i] = w.run[i-1] + w.curve[i].minus(w.curve[i-1]).long()
	}
}

// spline is a smooth curve from p1 to p2 (Catmull and Rom, from memory).
func spline(p0, p1, p2, p3 pt, t float64) pt {
	f := func(a, b, c, d float64) float64 {
		return 0.5 * (2*b + (c-a)*t + (2*a-5*b+4*c-d)*t*t + (3*b-a-3*c+d)*t*t*t)
	}
	return pt{f(p0.x, p1.x, p2.x, p3.x), f(p0.y, p1.y, p2.y, p3.y)}
}

// oval is a part of the face that no line crosses.
type oval struct{ x, y, rx, ry float64 }

// depth is below 1 inside.
func (o oval) depth(p pt) float64 { return math.Hypot((p.x-o.x)/o.rx, (p.y-o.y)/o.ry) }

// out is the nearest direction out of the oval, k times its edge away from the middle.
func (o oval) out(p pt, k float64) pt {
	d := o.depth(p)
	if d < 1e-6 {
		return pt{o.x + o.rx*k, o.y}
	}
	return pt{o.x + (p.x-o.x)/d*k, o.y + (p.y-o.y)/d*k}
}

// ovals are eyes, lips, nostrils and throat in each view, read off the drawing. The throat is the
// strip over larynx and thyroid.
var ovals = map[anatomy.View][]oval{
	anatomy.FrontView: {{3.1, -11.15, 1.65, 0.95}, {-3.1, -11.15, 1.65, 0.95}, {0, -4.55, 2.5, 0.9}, {0.75, -7, 0.55, 0.45}, {-0.75, -7, 0.55, 0.45}, {0, 4.7, 1, 3.3}},
	anatomy.LeftView:  {{0.1, -11.2, 0.95, 0.8}, {-1.6, -4.7, 0.9, 0.8}, {3.2, 4, 0.9, 2.4}},
	anatomy.RightView: {{-0.1, -11.2, 0.95, 0.8}, {1.6, -4.7, 0.9, 0.8}, {-3.2, 4, 0.9, 2.4}},
}

// inside are the zones that lie on eyes, lips and throat: a path that names one may cross there.
var inside = []string{"upper-eyelid", "lower-eyelid", "upper-lip", "lower-lip", "lip-centre-upper", "lip-centre-lower", "throat"}

// forbidden are the ovals that the path does not name itself. Its stops at their edge are moved out.
func (w *way) forbidden(view anatomy.View) []oval {
	var out []oval
	for _, o := range ovals[view] {
		if slices.ContainsFunc(w.stops, func(s stop) bool { return o.depth(s.at) < 1.3 && slices.Contains(inside, s.zone.Zone().Key) }) {
			continue
		}
		out = append(out, o)
		for k := range w.stops {
			if o.depth(w.stops[k].at) < edge {
				w.stops[k].at = o.out(w.stops[k].at, edge)
			}
		}
	}
	return out
}

// edge is how near a line comes to what it may not cross, as a part of its size.
const edge = 1.08

// wayPoints are the stops, with a point beside each oval that the straight way would cross.
func (w *way) wayPoints(forbidden []oval) (points []pt, isStop []bool) {
	add := func(p pt, s bool) { points, isStop = append(points, p), append(isStop, s) }
	add(w.stops[0].at, true)
	for i := 1; i < len(w.stops); i++ {
		a, b := w.stops[i-1].at, w.stops[i].at
		for _, o := range forbidden {
			nearest, least := pt{}, math.Inf(1)
			for f := 0.05; f < 1; f += 0.05 {
				if p := between(a, b, f); o.depth(p) < least {
					nearest, least = p, o.depth(p)
				}
			}
			if least < 1.15 {
				add(o.out(nearest, 1.3), false)
			}
		}
		if b != a || len(w.stops) == 1 {
			add(b, true)
		} else {
			add(b.plus(pt{0.01, 0.01}), true)
		}
	}
	return points, isStop
}

// keepOut pushes the curve out of what may not be crossed, and keeps each side's curve on its side.
func (w *way) keepOut(view anatomy.View) {
	sign := 1.0
	if (w.side == anatomy.Right) != (view == anatomy.BackView) {
		sign = -1
	}
	sided := w.side != anatomy.Mid && view != anatomy.LeftView && view != anatomy.RightView
	for i := range w.curve {
		w.curve[i] = w.keptOut(w.curve[i])
		if sided && w.curve[i].x*sign < 0 {
			w.curve[i].x = 0
		}
	}
}

// beside is the curve moved aside: towards the middle of the face where inwards, by some centimetres.
func (w *way) beside(by float64) []pt {
	out := make([]pt, len(w.curve))
	for i := range w.curve {
		a, b := w.curve[max(0, i-1)], w.curve[min(len(w.curve)-1, i+1)]
		out[i] = w.curve[i].plus(b.minus(a).unit().across().times(by))
	}
	return out
}
