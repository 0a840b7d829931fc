package protocol

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"sort"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

// Apply returns the protocol changed by a fix for a finding of its own
// evaluation. The finding is gone from the result (a step may have the same fault
// at another zone, which is told next) and none of its kind is new there; where a fix cannot bring that about, or no longer has anything to do,
// Apply returns an error that says so in a sentence. p is not changed.
func Apply(p *Protocol, ctx *Context, findingID string, fix Fix) (*Protocol, error) {
	e := Evaluate(p, ctx)
	had := make(map[string]bool, len(e.Findings))
	for i := range e.Findings {
		had[e.Findings[i].ID] = true
	}
	q := p
	for range 3 { // taking its own product off a step may leave that of the step before
		next, err := ApplyTo(q, ctx, e, findingID, fix)
		if err != nil {
			return nil, err
		}
		was := e.find(findingID)
		q, e = next, Evaluate(next, ctx)
		again := false
		for i := range e.Findings {
			f := &e.Findings[i]
			if f.Code == was.Code && !had[f.ID] {
				return nil, fmt.Errorf("that way out would bring the same trouble elsewhere. Choose another, or change the step by hand")
			}
			again = again || f.ID == findingID && f.Values["zone"] == was.Values["zone"] && f.Values["node"] == was.Values["node"]
		}
		if !again {
			return q, nil
		}
	}
	return nil, fmt.Errorf("that way out is not enough here. Choose another, or change the step by hand")
}

func (e *Evaluation) find(id string) *Finding {
	for i := range e.Findings {
		if e.Findings[i].ID == id {
			return &e.Findings[i]
		}
	}
	return nil
}

// ApplyTo does once what a fix does to a protocol whose evaluation is at hand,
// without looking at the outcome.
func ApplyTo(p *Protocol, ctx *Context, e *Evaluation, findingID string, fix Fix) (*Protocol, error) {
	f := e.find(findingID)
	if f == nil || !offers(f, fix) {
		return nil, fmt.Errorf("the plan has changed: %q no longer has that way out", findingID)
	}
	q := p.Clone()
	at := -1
	if len(f.Steps) > 0 {
		at = q.Index(f.Steps[len(f.Steps)-1])
	}
	x := fixer{q, ctx, e, f, at}
	if err := x.do(fix); err != nil {
		return nil, err
	}
	return q, nil
}

func (x *fixer) do(fix Fix) error {
	q, at := x.q, x.at
	switch fix {
	case LowerPressure:
		return x.lowerPressure()
	case TakeTurns:
		q.Steps[at].Sides = stroke.InTurns
	case LeaveZone:
		return x.leaveZone()
	case DropTool:
		q.Steps[at].Tool, q.Steps[at].Hand = nil, "flat palm"
	case ReversePath:
		return x.reversePath()
	case MoveBefore:
		return x.moveBefore()
	case OpenFirst:
		return x.openFirst()
	case OpenAll:
		return x.openAll()
	case CarryHome:
		return x.carryHome()
	case AddProduct:
		return x.addProduct()
	case Blot:
		return x.blot()
	case LessProduct:
		return x.lessProduct()
	case MirrorStep:
		return x.mirrorStep()
	case AnnounceDrop:
		q.Steps[at].Announce = true
	case LeaveStep:
		q.Steps = append(q.Steps[:at], q.Steps[at+1:]...)
	case ClearSet:
		return x.clearSet()
	case ReverseOpen:
		return reverseOpening(q, x.ctx)
	case CopyMirror:
		copyMirror(q, at, q.Index(q.Steps[at].MirrorOf))
	case SayDeparture:
		q.Steps[at].Departure = "as the practitioner prefers"
	case DropProduct:
		q.Steps[at].Use = nil
	case AddPhase:
		return x.addPhase()
	case StateTime:
		d := stroke.Dose{Kind: stroke.Clock, Planned: x.resolved().Dose.Planned, Min: x.resolved().Least, Max: x.resolved().Most}
		q.Steps[at].Dose = &d
	case MistFirst:
		return x.mistFirst()
	case ShorterCold:
		return x.shorterCold()
	case WorkZone:
		return x.workZone()
	case Smoother:
		return x.smoother()
	case LessLoad:
		return x.lessLoad()
	case UseAlternate:
		return x.useAlternate()
	case WearGloves:
		q.Steps[at].Gloves = ""
		return x.wearGloves()
	case WashHands:
		return x.insertHygiene("wash-hands")
	case ShakeOut:
		return x.insertHygiene("shake-out")
	case FitSlot:
		fitted := Fit(q, x.ctx, q.Minutes.HandsOn*60)
		if fitted.MissBy != 0 {
			return fmt.Errorf("no choice of doses fits the slot: the nearest plan misses it by %d s. Change the slot, or add or take out a step", abs(fitted.MissBy))
		}
		*q = *fitted.Protocol
	}
	return nil
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
	zone, _ := x.f.Values["zone"].(string)
	if r.Anchor != nil {
		a := *r.Anchor
		a.Then = slices.Clone(a.Then)
		if a.Zone == zone {
			a.Pressure = min(a.Pressure, ceiling)
		}
		for i := range a.Then {
			if a.Then[i].Zone == zone {
				a.Then[i].Pressure = min(a.Then[i].Pressure, ceiling)
			}
		}
		if !reflect.DeepEqual(a, *r.Anchor) {
			s.Anchor = &a
		}
	}
	if len(r.Fingers) > 0 {
		s.Fingers = slices.Clone(r.Fingers)
		for i := range s.Fingers {
			if f := &s.Fingers[i]; f.Zone == "" || f.Zone == zone {
				f.Pressure = min(f.Pressure, ceiling)
			}
		}
	}
	lower := func(parts []stroke.Part) ([]stroke.Part, bool) {
		out, changed := slices.Clone(parts), false
		for i := range out {
			if out[i].Pressure != nil && *out[i].Pressure > ceiling && (out[i].Zone == "" || out[i].Zone == zone) {
				p := ceiling
				out[i].Pressure, changed = &p, true
			}
		}
		return out, changed
	}
	last := r.Last
	if parts, changed := lower(r.Parts); changed {
		s.Parts, s.Last = parts, last
	}
	if last != nil {
		l := *last
		var changed bool
		l.Parts, changed = lower(l.Parts)
		if l.Pressure != nil && *l.Pressure > ceiling {
			p := ceiling
			l.Pressure, changed = &p, true
		}
		if changed {
			s.Last = &l
		}
	}
	return nil
}

func (x *fixer) leaveZone() error {
	r := x.resolved()
	for zone := range r.Besides {
		if zone == x.f.Values["zone"] {
			return fmt.Errorf("a finger, a part of the stroke or the other hand has its place there: choose another, or take the step out")
		}
	}
	kept := x.path()[:0]
	for i, pt := range x.path() {
		drags := x.f.Code == DryDrag && r.Path[i].id.Zone().Delicate
		if pt.Zone != x.f.Values["zone"] && !drags {
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

// opener returns the library's opening stroke for a group: of those that touch
// it, the one that touches least of what lies upstream, then the shortest path,
// then the earliest key.
func (x *fixer) opener(g anatomy.NodeGroup) *stroke.Stroke {
	var best *stroke.Stroke
	bestUpstream := 0
	for _, key := range sortedKeys(x.ctx.Strokes) {
		st := x.ctx.Strokes[key]
		if st.Intent != stroke.Open || st.Tool != nil {
			continue
		}
		touches, upstream := false, 0
		for _, z := range st.Path {
			id, ok := anatomy.Lookup(z)
			if !ok || id.Zone().Node == "" {
				continue
			}
			touches = touches || id.Zone().Node == g
			if id.Zone().Node.Rank() > g.Rank() {
				upstream++
			}
		}
		if touches && (best == nil || upstream < bestUpstream || upstream == bestUpstream && len(st.Path) < len(best.Path)) {
			best, bestUpstream = st, upstream
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
	amount := film.Amount{Value: round2(max(mL, film.ML.Smallest())), Measure: film.ML}
	if prod.DropsPerML > 0 {
		amount = film.Amount{Value: max(1, float64(int(mL*prod.DropsPerML+0.999))), Measure: film.Drops}
	}
	phase := r.Phase
	if phase == "finish" || phase == "wake" {
		phase = "apply"
	}
	x.q.insert(x.at, Step{
		ID: x.q.newID(spread), Stroke: spread, Phase: phase, Path: x.path(), Sides: stroke.BothAtOnce,
		Use: &Use{Product: key, Amount: amount},
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
			grain := u.Amount.Measure.Smallest()
			less.Amount.Value = max(grain, math.Floor(u.Amount.Value*prod.RangeMax/total/grain+1e-9)*grain)
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

// clearSet adds the run down the neck after the set that lacks it.
func (x *fixer) clearSet() error {
	key := x.libraryStroke(func(st *stroke.Stroke) bool {
		return st.Intent == stroke.Drain && st.Tool == nil && len(st.Path) > 1 && st.Path[len(st.Path)-1] == "collarbone-hollow"
	})
	if key == "" {
		return fmt.Errorf("the library has no gliding stroke down to the collarbone hollow")
	}
	s := x.q.Steps[x.at]
	x.q.insert(x.at+1, Step{ID: x.q.newID(key), Stroke: key, Phase: s.Phase, Round: s.Round, Path: x.homePath(x.resolved()), Sides: stroke.BothAtOnce})
	return nil
}

func (x *fixer) homePath(r *Resolved) []PathPoint {
	route := wayHome(r.Path[len(r.Path)-1].id)
	path := make([]PathPoint, len(route))
	for i, id := range route {
		path[i].Zone = id.Zone().Key
	}
	return path
}

// libraryStroke returns the key of the first stroke, by key, that serves.
func (x *fixer) libraryStroke(serves func(*stroke.Stroke) bool) string {
	for _, k := range sortedKeys(x.ctx.Strokes) {
		if serves(x.ctx.Strokes[k]) {
			return k
		}
	}
	return ""
}

// phaseStroke names the usual stroke of a phase of the studio.
func (x *fixer) phaseStroke(phase Phase) string {
	return x.libraryStroke(func(st *stroke.Stroke) bool {
		if st.Tool != nil || st.Family != stroke.Rest {
			return false
		}
		switch phase {
		case "settle":
			return st.Intent == stroke.Settle && st.Dose.Kind == stroke.Breaths
		case "look-over":
			return st.Intent == stroke.LookOver && len(st.Path) > 0
		case "wake":
			return st.Intent == stroke.Finish && len(st.Path) == 0
		}
		return false
	})
}

func (x *fixer) addPhase() error {
	name, _ := x.f.Values["phase"].(string)
	phase := Phase(name)
	key := x.phaseStroke(phase)
	if key == "" {
		return fmt.Errorf("the library has no stroke for the phase %q", name)
	}
	at := len(x.q.Steps)
	rank := slices.Index(Phases, phase)
	for i := range x.q.Steps {
		if slices.Index(Phases, x.q.Steps[i].Phase) > rank {
			at = i
			break
		}
	}
	if phase == "wake" {
		at = len(x.q.Steps)
		for at > 0 && x.q.Steps[at-1].Phase == "reset" {
			at--
		}
	}
	x.q.insert(at, Step{ID: x.q.newID(key), Stroke: key, Phase: phase})
	return nil
}

func (x *fixer) mistFirst() error {
	product := ""
	for _, k := range sortedKeys(x.ctx.Products) {
		if x.ctx.Products[k].Form == film.Mist && !slices.ContainsFunc(x.ctx.Products[k].Unsuited, x.ctx.seen) {
			product = k
			break
		}
	}
	key := x.libraryStroke(func(st *stroke.Stroke) bool {
		return st.Intent == stroke.Spread && st.Relation == stroke.Still && len(st.Path) > 0
	})
	if product == "" || key == "" {
		return fmt.Errorf("there is no mist on the shelf")
	}
	first := x.at
	for first > 0 && x.q.Steps[first].Round != "" && x.q.Steps[first-1].Round == x.q.Steps[first].Round {
		first--
	}
	prod := x.ctx.Products[product]
	x.q.insert(first, Step{ID: x.q.newID(key), Stroke: key, Phase: x.q.Steps[x.at].Phase, Use: &Use{Product: product, Amount: film.Amount{Value: max(prod.RangeMin, 0.5), Measure: film.ML}}})
	return nil
}

// shorterCold scales the doses of the cold steps so that they stay in the limit.
func (x *fixer) shorterCold() error {
	total := 0.0
	for i := range x.e.Steps {
		if r := &x.e.Steps[i]; r.Tool != nil && x.ctx.Tools[r.Tool.Key].Cold() {
			total += float64(r.Seconds * x.q.times(x.q.Steps[i].Round))
		}
	}
	for i := range x.e.Steps {
		r := &x.e.Steps[i]
		if r.Tool == nil || !x.ctx.Tools[r.Tool.Key].Cold() {
			continue
		}
		planned := int(float64(r.Dose.Planned) * (ColdSeconds - SideChangeSecond*10) / total)
		if planned < 1 {
			return fmt.Errorf("the cold steps cannot be made short enough: take one out")
		}
		d := r.Dose.With(planned)
		d.Min = min(d.Min, planned)
		x.q.Steps[i].Dose = &d
	}
	return nil
}

// workZone adds the library stroke that works most of the promised zones with
// an intent that serves the concern.
func (x *fixer) workZone() error {
	key, _ := x.f.Values["concern"].(string)
	missing, _ := x.f.Values["zones"].([]string)
	c := ConcernOf(key)
	if c == nil {
		return fmt.Errorf("the concern is the studio's own; add a stroke by hand")
	}
	at := len(x.q.Steps)
	for at > 0 && slices.Index(Phases, x.q.Steps[at-1].Phase) > slices.Index(Phases, Phase("work")) {
		at--
	}
	for len(missing) > 0 {
		st := bestFor(x.ctx, missing, c.Intents)
		if st == nil {
			return fmt.Errorf("the library has no stroke for %s", strings.Join(missing, ", "))
		}
		x.q.insert(at, Step{ID: x.q.newID(st.Key), Stroke: st.Key, Phase: "work"})
		at++
		missing = slices.DeleteFunc(slices.Clone(missing), func(z string) bool { return slices.Contains(st.Path, z) })
	}
	return nil
}

// bestFor returns the hand stroke that works most of the zones with one of the
// intents; the earlier intent, then the key, decides between equals.
func bestFor(ctx *Context, zones []string, intents []stroke.Intent) *stroke.Stroke {
	var best *stroke.Stroke
	score := 0.0
	for _, k := range sortedKeys(ctx.Strokes) {
		st := ctx.Strokes[k]
		in := slices.Index(intents, st.Intent)
		if in < 0 || st.Tool != nil || st.Glide == stroke.GripGlide {
			continue
		}
		if _, ok := ctx.bears(st.Family, st.Intent, "", func(zs []string) bool {
			return slices.ContainsFunc(st.Path, func(z string) bool { return slices.Contains(zs, z) })
		}); !ok {
			continue
		}
		n := 0
		for _, z := range zones {
			if slices.Contains(st.Path, z) {
				n++
			}
		}
		if s := float64(n) - 0.1*float64(in) - 0.01*float64(len(st.Path)); n > 0 && s > score {
			best, score = st, s
		}
	}
	return best
}

func (x *fixer) smoother() error {
	q := smootherOrder(x.q, x.ctx)
	if q == nil {
		return fmt.Errorf("no order that keeps the other rules flows better")
	}
	for _, f := range Evaluate(q, x.ctx).Findings {
		if f.Code == FlowBreaks {
			return fmt.Errorf("the smoothest order that keeps the other rules still breaks as often: leave out a tool or a step")
		}
	}
	*x.q = *q
	return nil
}

// lessLoad lowers the doses of the strokes that slide there, the longest first,
// to what their range allows, until the zone is within its limit.
func (x *fixer) lessLoad() error {
	zone, _ := x.f.Values["zone"].(string)
	limit := EyeLimit(zone)
	q := x.q.Clone()
	for range 200 {
		e := Evaluate(q, x.ctx)
		over := false
		for _, l := range e.Loads {
			over = over || l.Zone == zone && l.Sliding > limit+0.5
		}
		if !over {
			*x.q = *q
			return nil
		}
		longest := -1
		for i := range e.Steps {
			r := &e.Steps[i]
			if r.on(zone) && r.slidingShare() > 0 && r.Dose.Planned > r.Least && (longest < 0 || r.Seconds > e.Steps[longest].Seconds) {
				longest = i
			}
		}
		if longest < 0 {
			return fmt.Errorf("the strokes there are already as short as they may be: take one out")
		}
		d := e.Steps[longest].Dose.With(max(e.Steps[longest].Dose.Planned-e.Steps[longest].Grain, e.Steps[longest].Least))
		q.Steps[longest].Dose = &d
	}
	return fmt.Errorf("the strokes there cannot be made short enough: take one out")
}

// useAlternate takes the first alternate that serves: for long nails one meant
// for them, otherwise one that the skin bears.
func (x *fixer) useAlternate() error {
	r, s := x.resolved(), &x.q.Steps[x.at]
	for _, a := range r.stroke.Alternates {
		if x.f.Code == LongNails && a.When != "long-nails" || x.f.Code != LongNails && a.When == "long-nails" {
			continue
		}
		switch {
		case a.LeaveOut:
			x.q.Steps = append(x.q.Steps[:x.at], x.q.Steps[x.at+1:]...)
			return nil
		case a.Hand != "":
			s.Hand = a.Hand
			return nil
		case a.Tool != nil && x.ctx.Tools[a.Tool.Key].Name != "":
			s.Tool = a.Tool
			return nil
		case a.Stroke != "":
			st := x.ctx.Strokes[a.Stroke]
			if st == nil {
				continue
			}
			*s = StandIn(s, st)
			if _, bad := findingOf(x.q, x.ctx, x.f); !bad {
				return nil
			}
		}
	}
	return fmt.Errorf("the stroke has no other way of doing it that serves here")
}

// StandIn is the step with another stroke: what belongs to the plan is
// kept, what belonged to the old stroke is not.
func StandIn(s *Step, st *stroke.Stroke) Step {
	n := Step{ID: s.ID, Stroke: st.Key, Phase: s.Phase, Section: s.Section, Round: s.Round, Use: s.Use, Remove: s.Remove, Optional: s.Optional, Weight: s.Weight, MirrorOf: s.MirrorOf, AlternateOf: s.AlternateOf, Why: s.Why, Announce: s.Announce}
	if s.Sides == stroke.LeftOnly || s.Sides == stroke.RightOnly || s.Sides == stroke.FirstSide || s.Sides == stroke.SecondSide {
		n.Sides = s.Sides
	}
	return n
}

// findingOf looks for a finding of the same id in the plan.
func findingOf(p *Protocol, ctx *Context, f *Finding) (*Finding, bool) {
	e := Evaluate(p, ctx)
	for i := range e.Findings {
		if e.Findings[i].ID == f.ID {
			return &e.Findings[i], true
		}
	}
	return nil, false
}

// wearGloves takes gloves off after the mouth, on the step that kept them.
func (x *fixer) wearGloves() error {
	for i := x.at; i >= 0; i-- {
		if x.q.Steps[i].Gloves == "keep" {
			x.q.Steps[i].Gloves = ""
		}
	}
	return nil
}

// insertHygiene puts a hygiene step before the step, before its round where it
// is in one.
func (x *fixer) insertHygiene(key string) error {
	if x.ctx.Strokes[key] == nil {
		return fmt.Errorf("the library has no stroke %q", key)
	}
	x.q.insert(x.at, Step{ID: x.q.newID(key), Stroke: key, Phase: x.q.Steps[x.at].Phase, Round: x.q.Steps[x.at].Round})
	return nil
}
