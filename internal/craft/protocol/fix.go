package protocol

import (
	"fmt"
	"sort"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

// Apply returns the protocol changed by a fix for a finding of its own
// evaluation. It returns an error when the fix no longer has anything to do
// there. p is not changed.
func Apply(p *Protocol, ctx *Context, findingID string, fix Fix) (*Protocol, error) {
	e := Evaluate(p, ctx)
	var f *Finding
	for i := range e.Findings {
		if e.Findings[i].ID == findingID {
			f = &e.Findings[i]
		}
	}
	if f == nil || !offers(f, fix) {
		return nil, fmt.Errorf("the plan has changed: %q no longer has that way out", findingID)
	}
	q := p.Clone()
	at := -1
	if len(f.Steps) > 0 {
		at = q.Index(f.Steps[len(f.Steps)-1])
	}
	x := fixer{q, ctx, e, f, at}
	return q, map[Fix]func() error{
		LowerPressure: x.lowerPressure,
		TakeTurns:     func() error { q.Steps[at].Sides = stroke.InTurns; return nil },
		LeaveZone:     x.leaveZone,
		DropTool:      func() error { q.Steps[at].Tool, q.Steps[at].Hand = nil, "flat palm"; return nil },
		ReversePath:   x.reversePath,
		MoveBefore:    x.moveBefore,
		OpenFirst:     x.openFirst,
		OpenAll:       x.openAll,
		CarryHome:     x.carryHome,
		AddProduct:    x.addProduct,
		Blot:          x.blot,
		LessProduct:   x.lessProduct,
		MirrorStep:    x.mirrorStep,
		FitSlot: func() error {
			fitted := Fit(q, ctx, q.Minutes.HandsOn*60)
			if fitted.MissBy != 0 {
				return fmt.Errorf("no choice of doses fits the slot: the nearest plan misses it by %d s. Change the slot, or add or take out a step", abs(fitted.MissBy))
			}
			*q = *fitted.Protocol
			return nil
		},
	}[fix]()
}

func abs(n int) int { return max(n, -n) }

func offers(f *Finding, fix Fix) bool {
	for _, g := range f.Fixes {
		if g == fix {
			return true
		}
	}
	return false
}

type fixer struct {
	q   *Protocol
	ctx *Context
	e   *Evaluation
	f   *Finding
	at  int
}

func (x *fixer) resolved() *Resolved { return &x.e.Steps[x.at] }

// path returns the step's path spelled out, ready to be changed.
func (x *fixer) path() []PathPoint {
	r := x.resolved()
	out := make([]PathPoint, len(r.Path))
	for i := range r.Path {
		out[i].Zone = r.Path[i].Zone
		if len(r.step.Path) > i {
			out[i].Pressure = r.step.Path[i].Pressure
		}
	}
	return out
}

func (x *fixer) lowerPressure() error {
	r, s := x.resolved(), &x.q.Steps[x.at]
	ceiling, ok := x.f.Values["ceiling"].(int)
	if !ok {
		ceiling = 1 // both sides of the neck: a feather
	}
	path := x.path()
	for i := range path {
		zone := r.Path[i].id.Zone()
		limit := zone.Ceiling
		if r.still() {
			limit = zone.StillCeiling
		}
		if x.f.Code != PressureCeiling && x.f.Code != PressureAbsolute {
			limit = min(limit, ceiling)
		}
		if r.Path[i].Pressure > limit {
			path[i].Pressure = &limit
		}
	}
	s.Path = path
	if r.Anchor != nil && r.Anchor.Zone == x.f.Values["zone"] && r.Anchor.Pressure > ceiling {
		a := *r.Anchor
		a.Pressure = ceiling
		s.Anchor = &a
	}
	return nil
}

func (x *fixer) leaveZone() error {
	kept := x.path()[:0]
	for _, pt := range x.path() {
		if pt.Zone != x.f.Values["zone"] {
			kept = append(kept, pt)
		}
	}
	if len(kept) == 0 {
		x.q.Steps = append(x.q.Steps[:x.at], x.q.Steps[x.at+1:]...)
		return nil
	}
	x.q.Steps[x.at].Path = kept
	return nil
}

func (x *fixer) reversePath() error {
	path := x.path()
	for i, j := 0, len(path)-1; i < j; i, j = i+1, j-1 {
		path[i], path[j] = path[j], path[i]
	}
	x.q.Steps[x.at].Path = path
	return nil
}

// node returns the group that has to be open, from the finding.
func (x *fixer) node() anatomy.NodeGroup {
	if needs, ok := x.f.Values["needs"].(string); ok {
		return anatomy.NodeGroup(needs)
	}
	node, _ := x.f.Values["node"].(string)
	return anatomy.NodeGroup(node)
}

func (x *fixer) moveBefore() error {
	g := x.node()
	for i := x.at + 1; i < len(x.q.Steps); i++ {
		if r := &x.e.Steps[i]; r.Intent == stroke.Open && r.touches(g) {
			moved := x.q.Steps[i]
			copy(x.q.Steps[x.at+1:i+1], x.q.Steps[x.at:i])
			moved.Phase = x.q.Steps[x.at].Phase
			x.q.Steps[x.at] = moved
			return nil
		}
	}
	return fmt.Errorf("no later step opens that node")
}

// opener returns the library's opening stroke for a group: the one with the
// shortest path that touches it, by key where two are as short.
func (x *fixer) opener(g anatomy.NodeGroup) *stroke.Stroke {
	var best *stroke.Stroke
	for _, key := range sortedKeys(x.ctx.Strokes) {
		st := x.ctx.Strokes[key]
		if st.Intent != stroke.Open || st.Tool != nil {
			continue
		}
		for _, z := range st.Path {
			id, ok := anatomy.Lookup(z)
			if ok && id.Zone().Node == g && (best == nil || len(st.Path) < len(best.Path)) {
				best = st
			}
		}
	}
	return best
}

func (x *fixer) openFirst() error {
	var groups []anatomy.NodeGroup
	opened := map[anatomy.NodeGroup]bool{}
	start := x.resolved().Start
	for _, o := range x.e.Opened {
		if o.At < start {
			opened[o.Node] = true
		}
	}
	for g := x.node(); g != "" && !opened[g]; g = g.Next() {
		groups = append([]anatomy.NodeGroup{g}, groups...)
	}
	return x.insertOpeners(x.at, groups)
}

func (x *fixer) openAll() error {
	at := len(x.q.Steps)
	for i := range x.e.Steps {
		if in := x.e.Steps[i].Intent; in == stroke.Drain || in == stroke.Lift || in == stroke.Release {
			at = i
			break
		}
	}
	return x.insertOpeners(at, []anatomy.NodeGroup{anatomy.Terminus, anatomy.DeepCervical, anatomy.Preauricular, anatomy.Submandibular})
}

func (x *fixer) insertOpeners(at int, groups []anatomy.NodeGroup) error {
	var steps []Step
	for _, g := range groups {
		st := x.opener(g)
		if st == nil {
			return fmt.Errorf("the library has no stroke that opens %s", g.Door())
		}
		id := x.q.newID(st.Key)
		for taken := true; taken; {
			taken = false
			for i := range steps {
				if steps[i].ID == id {
					id, taken = id+"b", true
				}
			}
		}
		steps = append(steps, Step{ID: id, Stroke: st.Key, Phase: "open", Sides: stroke.BothAtOnce})
	}
	x.q.insert(at, steps...)
	return nil
}

// carryHome adds, before the finish, strokes that take what was moved down to
// the terminus: from the zone where it was left, by the ways hands take.
func (x *fixer) carryHome() error {
	at := len(x.q.Steps)
	for at > 0 && (x.q.Steps[at-1].Phase == "finish" || x.q.Steps[at-1].Phase == "wake" || x.q.Steps[at-1].Phase == "reset") {
		at--
	}
	zone, _ := x.f.Values["zone"].(string)
	if zone == "" {
		zone = "front-of-ear"
	}
	from, _ := anatomy.Lookup(zone)
	route := wayHome(from)
	path := make([]PathPoint, len(route))
	for i, id := range route {
		path[i].Zone = id.Zone().Key
	}
	feather := 1
	for _, key := range sortedKeys(x.ctx.Strokes) {
		st := x.ctx.Strokes[key]
		if st.Intent == stroke.Drain && st.Tool == nil && st.Relation == stroke.Slides && len(st.Path) > 0 && st.Path[len(st.Path)-1] == "collarbone-hollow" {
			x.q.insert(at, Step{ID: x.q.newID(st.Key), Stroke: st.Key, Phase: "close", Path: path, Pressure: &feather, Sides: stroke.BothAtOnce})
			return nil
		}
	}
	return fmt.Errorf("the library has no gliding stroke down to the collarbone hollow")
}

// wayHome is the shortest way by zones from a zone to home: breadth first over
// the places that lead on.
func wayHome(from anatomy.ID) []anatomy.ID {
	chain := []string{"temple", "front-of-ear", "below-ear", "side-neck", "collarbone-hollow"}
	out := []anatomy.ID{from}
	for _, key := range chain {
		id, _ := anatomy.Lookup(key)
		if id != from && anatomy.Leads(out[len(out)-1], id) {
			out = append(out, id)
		}
	}
	if !out[len(out)-1].Zone().Node.Home() {
		id, _ := anatomy.Lookup("armpit")
		out = append(out, id)
	}
	return out
}

// addProduct re-applies, before the step, the product last used, in the dose
// that brings every region on the path back to a full film, at most.
func (x *fixer) addProduct() error {
	key, _ := x.f.Values["product"].(string)
	prod := x.ctx.Products[key]
	if prod == nil {
		return fmt.Errorf("the plan uses no product that slides; choose one for the step")
	}
	r := x.resolved()
	spread := ""
	for _, k := range sortedKeys(x.ctx.Strokes) {
		if st := x.ctx.Strokes[k]; st.Intent == stroke.Spread {
			spread = k
			break
		}
	}
	if spread == "" {
		return fmt.Errorf("the library has no spreading stroke")
	}
	part := 0.0
	for _, reg := range anatomy.Regions {
		if r.regions&(1<<film.RegionIndex(reg)) != 0 {
			part += film.ShareOf(reg)
		}
	}
	mL := 0.6 * prod.FullDose * part
	amount := film.Amount{Value: round2(max(mL, 0.05)), Measure: film.ML}
	if prod.DropsPerML > 0 {
		amount = film.Amount{Value: max(1, float64(int(mL*prod.DropsPerML+0.999))), Measure: film.Drops}
	}
	phase := r.Phase
	if phase == "finish" || phase == "wake" {
		phase = "apply"
	}
	x.q.insert(x.at, Step{
		ID: x.q.newID(spread), Stroke: spread, Phase: phase, Round: "", Path: x.path(), Sides: stroke.BothAtOnce,
		Dose: &stroke.Dose{Kind: stroke.Reps, Planned: 1, Min: 1, Max: 3},
		Use:  &Use{Product: key, Amount: amount},
	})
	if round := x.q.Steps[x.at+1].Round; round != "" {
		// Inside a round the product would be put on every time: put it before the round.
		first := x.at + 1
		for first > 1 && x.q.Steps[first-2].Round == round {
			x.q.Steps[first-1], x.q.Steps[first-2] = x.q.Steps[first-2], x.q.Steps[first-1]
			first--
		}
	}
	return nil
}

// blot takes product off before the step, or leaves out the product that the
// step itself puts on.
func (x *fixer) blot() error {
	r := x.resolved()
	if r.step.Use != nil {
		x.q.Steps[x.at].Use = nil
		return nil
	}
	for _, k := range sortedKeys(x.ctx.Strokes) {
		st := x.ctx.Strokes[k]
		if st.Intent != stroke.Cleanse || st.Relation != stroke.Still {
			continue
		}
		x.q.insert(x.at, Step{ID: x.q.newID(st.Key), Stroke: st.Key, Phase: r.Phase, Path: x.path(), Sides: stroke.BothAtOnce, Remove: "wipe"})
		return nil
	}
	return fmt.Errorf("the library has no stroke for blotting")
}

func (x *fixer) lessProduct() error {
	prodKey := x.q.Steps[x.at].Use.Product
	prod := x.ctx.Products[prodKey]
	total := 0.0
	for _, pl := range x.e.Products {
		if pl.Product == prodKey {
			total = pl.ML
		}
	}
	for i := range x.q.Steps {
		if u := x.q.Steps[i].Use; u != nil && u.Product == prodKey {
			less := *u
			less.Amount.Value = float64(int(u.Amount.Value*prod.RangeMax/total*100)) / 100
			x.q.Steps[i].Use = &less
		}
	}
	return nil
}

// mirrorStep adds, after each one-sided step that has no counterpart, the same
// step on the other side.
func (x *fixer) mirrorStep() error {
	mirrored := map[string]bool{}
	for i := range x.q.Steps {
		mirrored[x.q.Steps[i].MirrorOf] = true
	}
	for i := len(x.q.Steps) - 1; i >= 0; i-- {
		r, s := &x.e.Steps[i], x.q.Steps[i]
		if r.Sides != stroke.LeftOnly && r.Sides != stroke.RightOnly || mirrored[s.ID] || s.MirrorOf != "" {
			continue
		}
		m := s
		m.ID, m.MirrorOf = x.q.newID(s.ID), s.ID
		m.Sides = stroke.RightOnly
		if r.Sides == stroke.RightOnly {
			m.Sides = stroke.LeftOnly
		}
		x.q.insert(i+1, m)
	}
	return nil
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	return keys
}
