package evaluation

import (
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// TooEarly is a node group that was opened before the one it drains into.
type TooEarly struct {
	OnSide
	Node  anatomy.NodeGroup `json:"node"`
	Needs anatomy.NodeGroup `json:"needs"`
}

// Place is the node group that was opened.
func (t *TooEarly) Place() (zone, node string) { return "", string(t.Node) }

// NotOpen is a node group that is not open yet, and the zone that is drained to.
type NotOpen struct {
	OnSide
	Node anatomy.NodeGroup `json:"node"`
	To   string            `json:"to"`
}

// Place is the node group; the zone drained to is not where the fault lies.
func (n *NotOpen) Place() (zone, node string) { return "", string(n.Node) }

// Blocked is the zone that is drained to, whose nodes are to be avoided today.
type Blocked struct {
	OnSide
	To string `json:"to"`
}

// Place is empty: the whole step is at fault.
func (*Blocked) Place() (zone, node string) { return "", "" }

// Undrained is a zone from which fluid was not taken on to the terminus.
type Undrained struct {
	AtZone
	OnSide
}

func (u *Undrained) apart() string { return u.Side }

// drainage follows fluid over the lymph graph, on each side. A node group is open
// once an opening step has worked it after everything downstream of it. A drain
// picks up at every zone of its path and sets down at the last; at the end all fluid
// must have reached the end of its route.
//
// Node groups that lie in excluded zones are taken out of the graph first: what
// would flow through them on that side may not be drained at all.
func (e *Evaluation) drainage(p *protocol.Protocol, ctx *protocol.Context) {
	if p.Method.DrainageOrUsual() == "none" || !p.OneFlow() {
		return
	}
	d := drainageWalk{Evaluation: e, p: p, barred: Barred(ctx.Excluded)}
	opening, closing, drained := false, false, false
	for i := range e.Steps {
		opening = opening || e.Steps[i].Intent == stroke.Open
	}
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		if p.Method.Clearing == "after-set" && (r.Intent == stroke.Drain || r.Intent == stroke.Lift) && len(r.Path) > 0 {
			for pi := range v.SideRuns {
				v.SideRuns[pi].sidesWorked(func(side anatomy.Side) { e.clear(&d.set[side], r, vi, side) })
			}
		}
		if r.Intent != stroke.Open && r.Intent != stroke.Drain || !r.onRoute() {
			if vi > 0 {
				v.Open = e.Occurrences[vi-1].Open
			}
			continue
		}
		if r.Intent == stroke.Drain && p.Method.Opening == "feather-sweep" && r.arrives() >= 0 {
			opening = true
		}
		for pi := range v.SideRuns {
			v.SideRuns[pi].sidesWorked(func(side anatomy.Side) {
				if r.Intent == stroke.Open {
					d.opens(r, vi, side)
				} else {
					drained = true
					d.drains(r, vi, side, opening)
				}
				closing = moveFluid(&d.tokens[side], r, v.Step) || closing
			})
		}
		v.Open = openOnBoth(&d.open, v.Open, e.Occurrences, vi)
	}
	e.checkMethod(p, opening, closing, drained)
	d.leftBehind()
	e.mergeSides()
}

// drainageWalk is what is open and where fluid lies, on each side, as far as the plan
// was followed.
type drainageWalk struct {
	*Evaluation
	p      *protocol.Protocol
	barred BarredNodes
	open   [3][8]bool
	set    [3]uncleared
	tokens [3]moved
}

// moved is where fluid lies on one side, by zone: the index of the step that moved it there and 1; 0 for none.
type moved [anatomy.Slots]int16

// opens opens the node groups a step touches; each drains into one that should be open.
func (d *drainageWalk) opens(r *Resolved, vi int, side anatomy.Side) {
	for rank, g := range anatomy.NodeGroups {
		if r.nodes&(1<<rank) == 0 || d.open[side][rank] {
			continue
		}
		next := g.Next()
		if next != "" && !d.open[side][next.Rank()] && d.p.Method.ChecksOrder() {
			early := &TooEarly{OnSide{side.String()}, g, next}
			d.add(DrainOrder, Warning, CommonPractice, early, d.openFixes(d.p, r, next, vi), r.ID)
		}
		d.open[side][rank] = true
		d.Opened = append(d.Opened, Opened{g, side.String(), r.ID, d.Occurrences[vi].Start})
	}
}

// drains judges where a drain ends: not at nodes to avoid, and at nodes that are open.
func (d *drainageWalk) drains(r *Resolved, vi int, side anatomy.Side, opening bool) {
	last := r.Path[len(r.Path)-1].id
	if home := r.arrives(); home >= 0 { // what lies beyond is home already
		last = r.Path[home].id
	}
	to, on := last.Zone().Key, OnSide{side.String()}
	if d.barred.All(last, side) {
		d.add(DrainBarred, Stopping, CommonPractice, &Blocked{on, to}, []Fix{LeaveStep}, r.ID)
	}
	if !opening || !d.p.Method.ChecksOrder() || r.away || r.endUnsaid() {
		return
	}
	if g, ok := closedAhead(last, &d.open[side]); ok {
		d.add(DrainClosed, Warning, CommonPractice, &NotOpen{on, g, to}, d.openFixes(d.p, r, g, vi), r.ID)
	}
}

// leftBehind finds the zones from which fluid was not taken to the end of its route.
func (d *drainageWalk) leftBehind() {
	for _, side := range []anatomy.Side{anatomy.Left, anatomy.Right} {
		for _, by := range d.tokens[side] {
			if by > 0 && d.p.Method.Closes() {
				r := &d.Steps[by-1]
				left := &Undrained{AtZone{r.Path[len(r.Path)-1].Zone}, OnSide{side.String()}}
				d.add(DrainLeft, Warning, CommonPractice, left, []Fix{CarryHome}, r.ID)
			}
		}
	}
}

// moveFluid carries what lies on the path of step i to the end of the path; left names the
// step that moved fluid to each zone of one side. It reports whether the fluid reached
// the end of the lymph route.
func moveFluid(left *moved, r *Resolved, i int) bool {
	flows := r.Intent == stroke.Drain
	for k := range r.Path {
		on := &left[r.Path[k].id.Index()]
		flows = flows || *on > 0
		*on = 0
	}
	if !flows {
		return false
	}
	if r.endUnsaid() || r.arrives() >= 0 {
		return true
	}
	left[r.Path[len(r.Path)-1].id.Index()] = int16(i + 1)
	return false
}

// arrives is the stop of a path at which its fluid is home: the terminus or the armpit, also where the
// path runs on to the chest, or an end at the collarbone or the nodes below it; -1 for none. A path
// that sets out from there has not arrived.
func (r *Resolved) arrives() int {
	last := len(r.Path) - 1
	for i := 0; r.nodes&anatomy.RouteEnds != 0 && i < len(r.Path); i++ {
		if nodeBit[r.Path[i].id.Index()]&anatomy.RouteEnds != 0 && (i > 0 || last == 0) {
			return i
		}
	}
	if last >= 0 && (r.Path[last].Zone == "collarbone" || r.Path[last].Zone == "below-collarbone") {
		return last
	}
	return -1
}

// onRoute reports whether the path touches the lymph routes: body zones without a known node group do
// not, and nothing is judged there.
func (r *Resolved) onRoute() bool {
	for i := range r.Path {
		if len(anatomy.NodesOf(r.Path[i].id)) > 0 {
			return true
		}
	}
	return false
}

// endUnsaid reports whether it was never stated where the path ends: a question, not a fault.
func (r *Resolved) endUnsaid() bool { return r.unsaid("path") || r.unsaid("direction") }

// openOnBoth lists the node groups open on both sides; the list of the visit
// before is shared while nothing changes.
func openOnBoth(open *[3][8]bool, was []anatomy.NodeGroup, visits []Occurrence, vi int) []anatomy.NodeGroup {
	if vi > 0 {
		was = visits[vi-1].Open
	}
	n := 0
	for rank := range anatomy.NodeGroups {
		if open[anatomy.Left][rank] && open[anatomy.Right][rank] {
			n++
		}
	}
	if n == len(was) {
		return was
	}
	now := make([]anatomy.NodeGroup, 0, n)
	for rank, g := range anatomy.NodeGroups {
		if open[anatomy.Left][rank] && open[anatomy.Right][rank] {
			now = append(now, g)
		}
	}
	return now
}

func (e *Evaluation) checkMethod(p *protocol.Protocol, opening, closing, drained bool) {
	if !drained {
		return
	}
	if p.Method.Opens() && !opening {
		e.add(NoOpening, Warning, MethodRule, &Nothing{}, []Fix{OpenAll})
	}
	if p.Method.Closes() && !closing {
		e.add(NoClosing, Warning, MethodRule, &Nothing{}, []Fix{CarryHome})
	}
}

// mergeSides joins findings that say the same of left and of right into one
// without a side, so that a both-sided fault is reported once.
func (e *Evaluation) mergeSides() {
	out := e.Findings[:0]
	for _, f := range e.Findings {
		joined := false
		for i := range out {
			if g := &out[i]; otherSide(g, &f) {
				g.Values.(sided).clearSide()
				g.ID = string(g.Code) + ":" + g.Steps[0]
				joined = true
				break
			}
		}
		if !joined {
			out = append(out, f)
		}
	}
	e.Findings = out
}

// otherSide reports whether g says of one side what f says of the other.
func otherSide(g, f *Finding) bool {
	if g.Code != f.Code || len(g.Steps) == 0 || len(f.Steps) == 0 || g.Steps[0] != f.Steps[0] {
		return false
	}
	a, ok := g.Values.(sided)
	if !ok || a.side() == "" || a.side() == f.Values.(sided).side() {
		return false
	}
	zone, node := a.Place()
	otherZone, otherNode := f.Values.Place()
	return zone == otherZone && node == otherNode
}

// closedAhead returns the node group that a drain ending in a zone flows into,
// when none of those it may flow into is open.
func closedAhead(last anatomy.ID, open *[8]bool) (anatomy.NodeGroup, bool) {
	groups := anatomy.NodesOf(last)
	for _, g := range groups {
		if open[g.Rank()] {
			return "", false
		}
	}
	if len(groups) == 0 {
		return "", false
	}
	return groups[0], true
}

// openFixes offers to bring forward a later step that opens the group, else to
// add an opening stroke.
func (e *Evaluation) openFixes(p *protocol.Protocol, r *Resolved, g anatomy.NodeGroup, from int) []Fix {
	for i := from + 1; i < len(e.Occurrences); i++ {
		if s := &e.Steps[e.Occurrences[i].Step]; s.Intent == stroke.Open && s.TouchesNode(g) && s.Source.Round == "" &&
			s.Phase == r.Phase {
			return []Fix{MoveBefore, OpenFirst}
		}
	}
	return []Fix{OpenFirst}
}
