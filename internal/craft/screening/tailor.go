package screening

import (
	"slices"
	"sort"
	"strconv"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Did is a kind of change that tailoring makes.
type Did string

// The kinds of change, in the order in which they are tried.
const (
	Rerouted  Did = "rerouted"    // the path leaves a zone out
	OtherSide Did = "one-side"    // one side is worked without the zone
	Lowered   Did = "lowered"     // less pressure
	Swapped   Did = "swapped"     // another stroke of the same intent
	Replaced  Did = "replaced"    // another product
	Dropped   Did = "left-out"    // the step is left out
	NoWayHome Did = "no-way-home" // left out because its lymph could not be carried home
	Refitted  Did = "refitted"    // doses changed to fill the slot
)

// Change is one change of a plan with its reason.
type Change struct {
	Step  string `json:"step"`
	Name  string `json:"name"`
	Did   Did    `json:"did"`
	Rule  string `json:"rule,omitempty"`
	Title string `json:"title,omitempty"`
	Why   string `json:"why,omitempty"`
	// Zone, From and To say what changed, in keys or pressures as the kind needs.
	Zone string `json:"zone,omitempty"`
	From string `json:"from,omitempty"`
	To   string `json:"to,omitempty"`
}

// Tailored is a plan fitted to a client today. Refused is set when nothing
// sensible is left; the protocol is then the one that was tried.
type Tailored struct {
	Protocol   *protocol.Protocol   `json:"protocol"`
	Changes    []Change             `json:"changes"`
	Evaluation *protocol.Evaluation `json:"evaluation"`
	Refused    bool                 `json:"refused"`
}

// Tailor applies the constraints to a protocol. With nothing to do it returns
// the protocol as it was. The result never works an excluded place, never
// passes a cap and never breaks an absolute limit the protocol kept; where that
// cannot be had it is refused.
//
// For each step the first that serves is taken: lead the path round the zone,
// work the other side whole, lower the pressure, an alternate stroke or
// product, a stroke of the same intent and zones, leave the step out. Drains
// whose way home is gone are then left out, and the plan is fitted to its slot
// again.
func Tailor(p *protocol.Protocol, ctx *protocol.Context, c *Constraints) Tailored {
	t := tailoring{ctx: ctx, c: c, q: p.Clone()}
	inner := *ctx
	inner.Excluded = c.Excluded()
	t.ctx = &inner
	base := protocol.Evaluate(p, ctx)
	for i := 0; i < len(t.q.Steps); i++ {
		i += t.step(i)
	}
	t.wayHome(base)
	out := Tailored{Protocol: t.q, Changes: t.changes}
	if len(t.changes) > 0 {
		t.refit(base)
		out.Protocol, out.Changes = t.q, t.changes
	}
	out.Evaluation = protocol.Evaluate(out.Protocol, t.ctx)
	worked := 0
	for i := range out.Evaluation.Steps {
		if r := &out.Evaluation.Steps[i]; r.Phase == "work" || r.Phase == "exercises" {
			worked++
		}
	}
	had := 0
	for i := range base.Steps {
		if base.Steps[i].Phase == "work" || base.Steps[i].Phase == "exercises" {
			had++
		}
	}
	for _, f := range out.Evaluation.Findings {
		if f.Severity == protocol.Stopping && !slices.ContainsFunc(base.Findings, func(g protocol.Finding) bool { return g.ID == f.ID }) {
			out.Refused = true
		}
	}
	out.Refused = out.Refused || had > 0 && worked == 0
	if out.Changes == nil {
		out.Changes = []Change{}
	}
	return out
}

type tailoring struct {
	ctx     *protocol.Context
	c       *Constraints
	q       *protocol.Protocol
	changes []Change
}

func (t *tailoring) note(step, name string, did Did, rule string, ch Change) {
	ch.Step, ch.Name, ch.Did, ch.Rule = step, name, did, rule
	if o, ok := t.c.titles[rule]; ok {
		ch.Title, ch.Why = o.Title, o.Why
	}
	t.changes = append(t.changes, ch)
}

// step tailors step i and returns by how many positions the list has grown or
// shrunk behind it.
func (t *tailoring) step(i int) int {
	s := &t.q.Steps[i]
	st := t.ctx.Strokes[s.Stroke]
	if rule, barred := t.barred(st, s); barred {
		if alt := t.standIn(st, s); alt != nil {
			name := st.Name
			t.note(s.ID, name, Swapped, rule, Change{From: st.Name, To: alt.Name})
			*s = protocol.Step{ID: s.ID, Stroke: alt.Key, Phase: s.Phase, Round: s.Round, Sides: swapSides(s.Sides, alt), Use: s.Use, Remove: s.Remove, Optional: s.Optional, Weight: s.Weight}
			st = alt
		} else {
			return t.drop(i, st.Name, Dropped, rule)
		}
	}
	grown := 0
	if n := t.zones(i); n != 0 {
		if n < 0 {
			return n
		}
		grown = n
	}
	for k := i; k <= i+grown; k++ {
		t.caps(k)
	}
	if s := &t.q.Steps[i]; s.Use != nil {
		t.product(s, st.Name)
	}
	return grown
}

func swapSides(was stroke.Sides, alt *stroke.Stroke) stroke.Sides {
	if was == stroke.LeftOnly || was == stroke.RightOnly {
		return was
	}
	return ""
}

// barred reports whether a stroke, in a step, is of an excluded family, intent or tool.
func (t *tailoring) barred(st *stroke.Stroke, s *protocol.Step) (rule string, ok bool) {
	if rule = t.c.families[st.Family]; rule != "" {
		return rule, true
	}
	if rule = t.c.intents[string(st.Intent)]; rule != "" {
		return rule, true
	}
	tool := st.Tool
	if s != nil && s.Tool != nil {
		tool = s.Tool
	}
	if tool != nil {
		if rule = t.c.tools[t.ctx.Tools[tool.Key].Kind]; rule != "" {
			return rule, true
		}
	}
	return "", false
}

// standIn finds a stroke for one that is barred: its alternates in order, then
// library strokes of the same intent that work one of its zones, nearest first.
func (t *tailoring) standIn(st *stroke.Stroke, s *protocol.Step) *stroke.Stroke {
	fits := func(alt *stroke.Stroke) bool {
		_, barred := t.barred(alt, nil)
		if alt == nil || barred {
			return false
		}
		for _, z := range alt.Path {
			if id, ok := anatomy.Lookup(z); ok && t.ruleOn(id, alt.Sides) != "" {
				return false
			}
		}
		return true
	}
	for _, key := range st.Alternates {
		if alt := t.ctx.Strokes[key]; alt != nil && fits(alt) {
			return alt
		}
	}
	zones := st.Path
	if len(s.Path) > 0 {
		zones = nil
		for _, pt := range s.Path {
			zones = append(zones, pt.Zone)
		}
	}
	keys := make([]string, 0, len(t.ctx.Strokes))
	for k := range t.ctx.Strokes {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	var best *stroke.Stroke
	most := 0
	for _, k := range keys {
		alt := t.ctx.Strokes[k]
		if alt.Intent != st.Intent || alt.Key == st.Key || !fits(alt) {
			continue
		}
		shared := 0
		for _, z := range alt.Path {
			if slices.Contains(zones, z) {
				shared++
			}
		}
		if shared > most {
			best, most = alt, shared
		}
	}
	return best
}

// ruleOn returns the rule that bars a zone on any side that the sides touch.
func (t *tailoring) ruleOn(id anatomy.ID, s stroke.Sides) string {
	for _, side := range touched(id, s) {
		if r := t.c.places[anatomy.Place{Zone: id, Side: side}]; r != "" {
			return r
		}
	}
	return ""
}

func touched(id anatomy.ID, s stroke.Sides) []anatomy.Side {
	z := id.Zone()
	if !z.Paired {
		return []anatomy.Side{anatomy.Mid}
	}
	out := []anatomy.Side{anatomy.Left, anatomy.Right}
	switch s {
	case stroke.LeftOnly:
		out = []anatomy.Side{anatomy.Left}
	case stroke.RightOnly:
		out = []anatomy.Side{anatomy.Right}
	}
	if z.Midline {
		out = append(out, anatomy.Mid)
	}
	return out
}

// zones leads the step round places that are left out. Where only one side is
// affected, the step is split: the free side keeps the whole path.
func (t *tailoring) zones(i int) int {
	s := &t.q.Steps[i]
	r := t.resolve(i)
	if a := r.Anchor; a != nil {
		if id, ok := anatomy.Lookup(a.Zone); ok {
			if rule := t.ruleOn(id, r.Sides); rule != "" {
				return t.drop(i, r.Name, Dropped, rule)
			}
		}
	}
	var rule, zone string
	barred := map[anatomy.Side]bool{}
	for _, pt := range r.Path {
		id, _ := anatomy.Lookup(pt.Zone)
		for _, side := range touched(id, r.Sides) {
			if rr := t.c.places[anatomy.Place{Zone: id, Side: side}]; rr != "" {
				rule, zone = rr, pt.Zone
				barred[side] = true
			}
		}
	}
	if rule == "" {
		return 0
	}
	around := func(side anatomy.Side) []protocol.PathPoint {
		var out []protocol.PathPoint
		for k, pt := range r.Path {
			id, _ := anatomy.Lookup(pt.Zone)
			if t.c.places[anatomy.Place{Zone: id, Side: id.On(side)}] == "" {
				p := protocol.PathPoint{Zone: pt.Zone}
				if len(s.Path) > k {
					p.Pressure = s.Path[k].Pressure
				}
				out = append(out, p)
			}
		}
		if len(r.Path) > 1 && len(out) < 2 && r.Relation == stroke.Slides {
			return nil // a glide needs somewhere to go
		}
		if r.Intent == stroke.Drain && len(out) > 0 && out[len(out)-1].Zone != r.Path[len(r.Path)-1].Zone {
			return nil // it would end short of its node
		}
		return out
	}
	paired := r.Sides == stroke.BothAtOnce || r.Sides == stroke.InTurns
	if paired && !barred[anatomy.Mid] && barred[anatomy.Left] != barred[anatomy.Right] && s.Round == "" {
		free, other, off := stroke.LeftOnly, stroke.RightOnly, anatomy.Right
		if barred[anatomy.Left] {
			free, other, off = stroke.RightOnly, stroke.LeftOnly, anatomy.Left
		}
		s.Sides = free
		s.Departure = "the other side is left out today"
		t.note(s.ID, r.Name, OtherSide, rule, Change{Zone: zone, To: string(free)})
		if path := around(off); len(path) > 0 {
			m := *s
			m.ID, m.Sides, m.Path, m.Use = s.ID+"-"+off.String(), other, path, nil
			t.q.Steps = slices.Insert(t.q.Steps, i+1, m)
			return 1
		}
		return 0
	}
	var path []protocol.PathPoint
	switch r.Sides {
	case stroke.RightOnly:
		path = around(anatomy.Right)
	case stroke.LeftOnly:
		path = around(anatomy.Left)
	default:
		for _, pt := range around(anatomy.Left) {
			id, _ := anatomy.Lookup(pt.Zone)
			if t.ruleOn(id, r.Sides) == "" {
				path = append(path, pt)
			}
		}
		if len(path) < 2 && len(r.Path) > 1 && r.Relation == stroke.Slides {
			path = nil
		}
	}
	if len(path) == 0 {
		return t.drop(i, r.Name, Dropped, rule)
	}
	s.Path = path
	t.note(s.ID, r.Name, Rerouted, rule, Change{Zone: zone})
	return 0
}

func (t *tailoring) resolve(i int) *protocol.Resolved {
	one := *t.q
	one.Steps = t.q.Steps[i : i+1 : i+1]
	one.Rounds = nil
	step := one.Steps[0]
	step.Round = ""
	one.Steps = []protocol.Step{step}
	return &protocol.Evaluate(&one, t.ctx).Steps[0]
}

// caps lowers the pressure of a step to the lowest cap of each zone.
func (t *tailoring) caps(i int) {
	s := &t.q.Steps[i]
	r := t.resolve(i)
	lowered := false
	var rule, zone string
	from, to := 0, 0
	path := make([]protocol.PathPoint, len(r.Path))
	for k, pt := range r.Path {
		path[k].Zone = pt.Zone
		if len(s.Path) > k {
			path[k].Pressure = s.Path[k].Pressure
		}
		id, _ := anatomy.Lookup(pt.Zone)
		if limit, ok := t.c.limit(id); ok && pt.Pressure > limit.pressure {
			p := limit.pressure
			path[k].Pressure = &p
			if !lowered || pt.Pressure > from {
				from, to, rule, zone = pt.Pressure, p, limit.rule, pt.Zone
			}
			lowered = true
		}
	}
	if lowered {
		s.Path = path
		t.note(s.ID, r.Name, Lowered, rule, Change{Zone: zone, From: strconv.Itoa(from), To: strconv.Itoa(to)})
	}
	if a := r.Anchor; a != nil {
		id, _ := anatomy.Lookup(a.Zone)
		if limit, ok := t.c.limit(id); ok && a.Pressure > limit.pressure {
			lower := *a
			lower.Pressure = limit.pressure
			s.Anchor = &lower
			t.note(s.ID, r.Name, Lowered, limit.rule, Change{Zone: a.Zone, From: strconv.Itoa(a.Pressure), To: strconv.Itoa(limit.pressure)})
		}
	}
}

// product swaps a product that carries an excluded tag for the one on the shelf
// nearest in half-life that carries none and can be dosed alike, or takes it out.
func (t *tailoring) product(s *protocol.Step, name string) {
	was := t.ctx.Products[s.Use.Product]
	rule := ""
	for _, tag := range was.Tags {
		if r := t.c.tags[tag]; r != "" {
			rule = r
			break
		}
	}
	if rule == "" {
		return
	}
	keys := make([]string, 0, len(t.ctx.Products))
	for k := range t.ctx.Products {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	var best *film.Product
	gap := 0.0
	for _, k := range keys {
		p := t.ctx.Products[k]
		if slices.ContainsFunc(p.Tags, func(tag string) bool { return t.c.tags[tag] != "" }) || slices.ContainsFunc(p.Unsuited, func(u string) bool { return u == t.ctx.SkinType || slices.Contains(t.ctx.SkinStates, u) }) {
			continue
		}
		if (p.HalfLifeMinutes() > 0) != (was.HalfLifeMinutes() > 0) || p.HalfLifeMinutes() == 0 && p.Form != was.Form {
			continue
		}
		d := max(p.HalfLifeMinutes()-was.HalfLifeMinutes(), was.HalfLifeMinutes()-p.HalfLifeMinutes())
		if best == nil || d < gap {
			best, gap = p, d
		}
	}
	if best == nil {
		s.Use = nil
		t.note(s.ID, name, Replaced, rule, Change{From: was.Name})
		return
	}
	mL, _ := s.Use.Amount.In(was)
	amount := film.Amount{Value: float64(int(mL*best.FullDose/was.FullDose*100+0.5)) / 100, Measure: film.ML}
	if _, ok := s.Use.Amount.In(best); ok && best.FullDose == was.FullDose && best.DropsPerML == was.DropsPerML {
		amount = s.Use.Amount
	}
	s.Use = &protocol.Use{Product: best.Key, Amount: amount}
	t.note(s.ID, name, Replaced, rule, Change{From: was.Name, To: best.Name})
}

func (t *tailoring) drop(i int, name string, did Did, rule string) int {
	t.note(t.q.Steps[i].ID, name, did, rule, Change{})
	t.q.Steps = slices.Delete(t.q.Steps, i, i+1)
	return -1
}

// wayHome leaves out drains that no longer run into an open node or reach home,
// at most three times over.
func (t *tailoring) wayHome(base *protocol.Evaluation) {
	if len(t.changes) == 0 {
		return
	}
	rule := t.changes[0].Rule
	for range 3 {
		e := protocol.Evaluate(t.q, t.ctx)
		dropped := false
		for _, f := range e.Findings {
			lost := f.Code == protocol.DrainClosed || f.Code == protocol.DrainLeft || f.Code == protocol.DrainOrder
			if !lost || len(f.Steps) == 0 || slices.ContainsFunc(base.Findings, func(g protocol.Finding) bool { return g.Code == f.Code && slices.Equal(g.Steps, f.Steps) }) {
				continue
			}
			if i := t.q.Index(f.Steps[0]); i >= 0 {
				t.drop(i, e.Steps[slices.IndexFunc(e.Steps, func(r protocol.Resolved) bool { return r.ID == f.Steps[0] })].Name, NoWayHome, rule)
				dropped = true
			}
		}
		if !dropped {
			return
		}
	}
}

// refit brings the changed plan back to its slot where the plan filled it before.
func (t *tailoring) refit(base *protocol.Evaluation) {
	slot := t.q.Minutes.HandsOn * 60
	now := protocol.Evaluate(t.q, t.ctx)
	if base.Seconds > float64(slot)+0.5 || now.Seconds >= float64(slot-protocol.FitGrace) && now.Seconds <= float64(slot) {
		return
	}
	fitted := protocol.Fit(t.q, t.ctx, slot)
	if fitted.MissBy > 0 || len(fitted.Changed)+len(fitted.Dropped) == 0 {
		return
	}
	t.q = fitted.Protocol
	t.changes = append(t.changes, Change{Did: Refitted, To: strconv.Itoa(len(fitted.Changed) + len(fitted.Dropped))})
}
