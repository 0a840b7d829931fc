package screening

import (
	"cmp"
	"slices"
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
	Firmed    Did = "firmer"      // more pressure, as the client wishes
	OtherHand Did = "other-hand"  // another hand part or tool
	Swapped   Did = "swapped"     // another stroke of the same intent
	Replaced  Did = "replaced"    // another product
	Dropped   Did = "left-out"    // the step is left out
	NoTime    Did = "no-time"     // left out so that the rest fits its time
	NoWayHome Did = "no-way-home" // left out because its lymph could not be carried home
	Restored  Did = "restored"    // added so that opening, way home or film are whole again
	Refitted  Did = "refitted"    // doses changed to fill the slot
	Dosed     Did = "dosed"       // more or less of a product
	Slowed    Did = "slowed"      // a slower hand, in hundredths
)

// Change is one change of a plan with its reason.
type Change struct {
	// ID names the change within its plan: the same plan and constraints give the
	// same ids.
	ID    string `json:"id"`
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
	// Gentler marks a change that only makes the treatment gentler.
	Gentler bool `json:"gentler"`
	// Skin marks what the protocol itself says for the client's skin, and what
	// follows from nothing else; it needs no yes.
	Skin bool `json:"skin,omitempty"`
	// Others are the keys of products on the shelf that would serve as well, the
	// nearest first, for a product that takes another's place.
	Others []string `json:"others,omitempty"`
}

// MayOverruleChange reports whether one change may be taken back, with a reason:
// it was made for a rule that may be overruled, and is not a consequence of other
// changes.
func MayOverruleChange(outcomes []Applied, c *Change) bool {
	switch c.Did {
	case Lowered, Firmed, OtherHand, Swapped, Replaced, Dropped:
		return MayOverrule(outcomes, c.Rule)
	}
	return false
}

// Number gives every change its id.
func Number(changes []Change) {
	seen := map[string]int{}
	for i := range changes {
		c := &changes[i]
		id := c.Step + ":" + string(c.Did) + ":" + c.Rule
		if seen[id]++; seen[id] > 1 {
			id += ":" + strconv.Itoa(seen[id])
		}
		c.ID = id
	}
}

// Tailored is a plan fitted to a client today. Refused is set when nothing
// sensible is left; the protocol is then the one that was tried.
type Tailored struct {
	Protocol   *protocol.Protocol   `json:"protocol"`
	Changes    []Change             `json:"changes"`
	Evaluation *protocol.Evaluation `json:"evaluation"`
	Refused    bool                 `json:"refused"`
}

// LeastWork is the part of the work that must be left for a tailored plan to be
// worth its name (a studio's starting value).
const LeastWork = 0.4

// Tailor applies the constraints to a protocol. With nothing to do it returns
// the protocol as it was. The result never works an excluded place, never
// passes a cap and never breaks an absolute limit the protocol kept; where that
// cannot be had it is refused.
//
// For each step the first that serves is taken: lead the path round the zone or
// work the other side whole, lower the pressure, an alternate hand, tool or
// product, a stroke of the library with the same intent and region, leave the
// step out. Then opening, way home and film are made whole again by another way,
// what cannot be carried home is left out, and the plan is fitted to its slot;
// three times at most.
func Tailor(p *protocol.Protocol, ctx *protocol.Context, c *Constraints) Tailored {
	inner := *ctx
	inner.Excluded = c.Excluded()
	t := tailoring{ctx: &inner, c: c, q: p.Clone(), barred: protocol.Barred(c.Excluded()), hopeless: map[string]bool{}, homeless: map[string]bool{}}
	t.changes, t.byProduct = make([]Change, 0, 32), map[string]string{}
	t.p, t.given = p, ctx
	t.was = protocol.Outline(p, ctx)
	t.changed = map[string]bool{}
	for i := 0; i < len(t.q.Steps); i++ {
		if w := c.waived[t.q.Steps[i].ID]; w != nil {
			t.c, t.byProduct = w, map[string]string{}
			i += t.step(i)
			t.c, t.byProduct = c, map[string]string{}
			continue
		}
		i += t.step(i)
	}
	t.firm()
	var now *protocol.Evaluation
	if len(t.changes) > 0 || c.refit != "" || c.reapply != "" {
		now = t.settle()
	} else {
		now = t.base()
	}
	Number(t.changes)
	out := Tailored{Protocol: t.q, Changes: t.changes, Evaluation: now}
	out.Refused = t.refused(now)
	return out
}

type tailoring struct {
	ctx     *protocol.Context
	c       *Constraints
	q       *protocol.Protocol
	p       *protocol.Protocol // as it was, with its context
	given   *protocol.Context
	before  *protocol.Evaluation
	was     *protocol.Evaluation // its outline only
	changed map[string]bool      // steps that are no longer as they were
	barred  protocol.BarredNodes
	changes []Change
	// hopeless findings are those for which no way out keeps the constraints.
	hopeless map[string]bool
	// homeless strokes were left out for want of a way home; they are not brought back.
	homeless map[string]bool
	// overruns is set where even the shortest plan does not fit the slot.
	overruns bool
	// byProduct are the rules on products found so far, under the constraints t.c.
	byProduct map[string]string
}

// base is the evaluation of the plan before it was tailored, worked out when it
// is first asked for.
func (t *tailoring) base() *protocol.Evaluation {
	if t.before == nil {
		t.before = protocol.Evaluate(t.p, t.given)
	}
	return t.before
}

// refused reports that nothing sensible is left: something that stops, drainage
// without its opening or way home, no way to fit its time, or too little work.
func (t *tailoring) refused(now *protocol.Evaluation) bool {
	for i := range now.Findings {
		f := &now.Findings[i]
		grave := f.Severity == protocol.Stopping || drainage(f.Code)
		if grave && !t.had(f) {
			return true
		}
	}
	if t.overruns {
		return true
	}
	before := work(t.was)
	return before > 0 && work(now) < LeastWork*before
}

// had reports whether the plan had the finding before it was tailored.
func (t *tailoring) had(f *protocol.Finding) bool {
	return slices.ContainsFunc(t.base().Findings, func(g protocol.Finding) bool {
		return g.ID == f.ID || g.Code == f.Code && len(f.Steps) > 0 && slices.Equal(g.Steps, f.Steps)
	})
}

// work is the seconds of work and exercises.
func work(e *protocol.Evaluation) float64 {
	sum := 0.0
	for i := range e.Visits {
		if ph := e.Steps[e.Visits[i].Step].Phase; ph == "work" || ph == "exercises" {
			sum += e.Visits[i].End - e.Visits[i].Start
		}
	}
	return sum
}

func drainage(c protocol.Code) bool {
	switch c {
	case protocol.DrainClosed, protocol.DrainLeft, protocol.DrainOrder, protocol.DrainBarred, protocol.NoOpening, protocol.NoClosing:
		return true
	}
	return false
}

func glide(c protocol.Code) bool { return c == protocol.GlideThin || c == protocol.GlideWet }

// settle makes the plan whole again and fits it to its slot, at most three times
// over, and returns its evaluation.
func (t *tailoring) settle() *protocol.Evaluation {
	now := protocol.Evaluate(t.q, t.ctx)
	for range 3 {
		touched := false
		for tries := 0; tries < 60; tries++ {
			next := t.restore(now)
			if next == nil {
				break
			}
			now, touched = next, true
		}
		if t.refit(now) {
			touched = true
			now = protocol.Evaluate(t.q, t.ctx)
		}
		if !touched {
			break
		}
	}
	return now
}

// restore takes the first way out, of all the findings that tailoring brought,
// that keeps the constraints; failing any, the drains that cannot go anywhere are
// left out together. It returns the new evaluation, nil where nothing is left to
// restore.
func (t *tailoring) restore(now *protocol.Evaluation) *protocol.Evaluation {
	homeless := map[string]bool{}
	for k := range now.Findings {
		f := &now.Findings[k]
		dry := t.c.reapply != "" && f.Code == protocol.GlideThin
		if !drainage(f.Code) && !glide(f.Code) || t.had(f) && !dry || t.hopeless[f.ID] {
			continue
		}
		rule := t.firstRule()
		if dry && t.had(f) {
			rule = t.c.reapply
		}
		for _, fix := range f.Fixes {
			q, err := protocol.ApplyTo(t.q, t.ctx, now, f.ID, fix)
			if err != nil || !t.keeps(q) {
				continue
			}
			t.onFreeSides(q)
			next := protocol.Evaluate(q, t.ctx)
			if slices.ContainsFunc(next.Findings, func(g protocol.Finding) bool { return g.ID == f.ID }) {
				continue
			}
			for i := range q.Steps {
				if t.q.Index(q.Steps[i].ID) < 0 {
					t.note(q.Steps[i].ID, t.ctx.Strokes[q.Steps[i].Stroke].Name, Restored, rule, Change{})
				}
			}
			t.q = q
			return next
		}
		if drainage(f.Code) && len(f.Steps) > 0 {
			homeless[f.Steps[0]] = true
		} else {
			t.hopeless[f.ID] = true
		}
	}
	if len(homeless) == 0 {
		return nil
	}
	for i := len(t.q.Steps) - 1; i >= 0; i-- {
		if homeless[t.q.Steps[i].ID] {
			t.homeless[t.q.Steps[i].Stroke] = true
			t.drop(i, t.ctx.Strokes[t.q.Steps[i].Stroke].Name, NoWayHome, t.closes(protocol.Resolve(t.q, i, t.ctx)))
		}
	}
	return protocol.Evaluate(t.q, t.ctx)
}

// onFreeSides makes the steps that a plan has more than this one work only where
// they have somewhere to go.
func (t *tailoring) onFreeSides(q *protocol.Protocol) {
	for i := range q.Steps {
		if t.q.Index(q.Steps[i].ID) >= 0 {
			continue
		}
		r := protocol.Resolve(q, i, t.ctx)
		if to := freeSide(r, t.off(r)); to != "" {
			q.Steps[i].Sides, q.Steps[i].Departure = to, otherSideOut
		}
	}
}

// keeps reports whether the steps that a plan has more than this one keep every
// constraint as they stand.
func (t *tailoring) keeps(q *protocol.Protocol) bool {
	for i := range q.Steps {
		if t.q.Index(q.Steps[i].ID) >= 0 {
			continue
		}
		r := protocol.Resolve(q, i, t.ctx)
		if t.bars(r) != "" || t.barredZone(r) != "" || t.homeless[r.StrokeKey()] || t.ctx.LongNails && r.Scratches() {
			return false
		}
		for k := range r.Path {
			pt := &r.Path[k]
			id := pt.Place()
			if _, rule := t.c.limit(id, pt.Pressure); rule != "" {
				return false
			}
		}
		if u := q.Steps[i].Use; u != nil && t.ruleOnProduct(t.ctx.Products[u.Product]) != "" {
			return false
		}
	}
	return true
}

// resolved is step i as it stands; for one that has not been changed that is
// what it was in the plan.
func (t *tailoring) resolved(i int) *protocol.Resolved {
	id := t.q.Steps[i].ID
	if !t.changed[id] {
		// Steps are only ever added and taken out: what stood at k stands near it.
		for d := range len(t.was.Steps) {
			for _, k := range [...]int{i - d, i + d} {
				if k >= 0 && k < len(t.was.Steps) && t.was.Steps[k].ID == id {
					return &t.was.Steps[k]
				}
			}
		}
	}
	return protocol.Resolve(t.q, i, t.ctx)
}

func (t *tailoring) note(step, name string, did Did, rule string, ch Change) {
	t.changed[step] = true
	ch.Step, ch.Name, ch.Did, ch.Rule = step, name, did, rule
	if o, ok := t.c.titles[rule]; ok {
		ch.Title, ch.Why = o.Title, o.Why
	}
	switch did {
	case Rerouted, OtherSide, Lowered, Dropped, NoTime, NoWayHome:
		ch.Gentler = true
	}
	t.changes = append(t.changes, ch)
}

// step tailors step i and returns by how many positions the list has grown or
// shrunk behind it.
func (t *tailoring) step(i int) int {
	r := t.resolved(i)
	if t.ctx.LongNails {
		if !t.nails(i, r) {
			return t.drop(i, r.Name, Dropped, Nails)
		}
		r = t.resolved(i)
	}
	if rule := t.bars(r); rule != "" {
		if !t.otherHand(i, r, rule) {
			alt := t.standIn(i, r)
			if alt == nil {
				return t.drop(i, r.Name, Dropped, rule)
			}
			t.swap(i, r, alt, rule)
		}
		r = t.resolved(i)
	}
	grown := 0
	if rule := t.barredZone(r); rule != "" {
		n := t.zones(i, r)
		if n < 0 {
			return n
		}
		grown = n
	} else if n := t.side(i, r); n != 0 {
		return n
	}
	for k := i; k <= i+grown; k++ {
		t.caps(k)
		if s := &t.q.Steps[k]; s.Use != nil {
			t.product(s, r.Name)
		}
	}
	return grown
}

// swap puts another stroke into the step.
func (t *tailoring) swap(i int, r *protocol.Resolved, alt *stroke.Stroke, rule string) {
	s := &t.q.Steps[i]
	*s = protocol.StandIn(s, alt)
	t.note(s.ID, r.Name, Swapped, rule, Change{From: r.Name, To: alt.Name, Gentler: onlyGentler(r, protocol.Resolve(t.q, i, t.ctx))})
}

// onlyGentler reports whether a stroke in the place of another does the same less
// strongly: one of the same family, by hand, on no other zone and nowhere with
// more pressure. Anything else is another treatment, which the practitioner
// accepts by itself.
func onlyGentler(was, now *protocol.Resolved) bool {
	if now.Family != was.Family || now.Tool != nil {
		return false
	}
	most := map[string]int{}
	for zone, pressure := range was.Presses {
		most[zone] = max(most[zone], pressure)
	}
	for zone, pressure := range now.Presses {
		if allowed, touched := most[zone]; !touched || pressure > allowed {
			return false
		}
	}
	return true
}

// otherHand takes the first alternate hand or tool of the stroke itself that is
// not barred.
func (t *tailoring) otherHand(i int, r *protocol.Resolved, rule string) bool {
	s := &t.q.Steps[i]
	for _, a := range t.ctx.Strokes[s.Stroke].Alternates {
		if a.Stroke != "" || a.LeaveOut || a.Hand == "" && a.Tool == nil || a.When == Nails {
			continue
		}
		was := *s
		if a.Hand != "" {
			s.Hand, s.Tool = a.Hand, nil
		} else if t.ctx.Tools[a.Tool.Key].Name != "" {
			s.Tool = a.Tool
		}
		if now := protocol.Resolve(t.q, i, t.ctx); t.bars(now) == "" && !(t.ctx.LongNails && now.Scratches()) {
			t.note(s.ID, r.Name, OtherHand, rule, Change{From: r.ToolName, To: a.Hand})
			return true
		}
		*s = was
	}
	return false
}

// bars returns the rule that excludes a step by family, intent, stroke or tool.
func (t *tailoring) bars(r *protocol.Resolved) string {
	if len(t.c.exclusion) == 0 {
		return ""
	}
	kind := ""
	if r.Tool != nil {
		kind = t.ctx.Tools[r.Tool.Key].Kind
	}
	for i := range t.c.exclusion {
		x := &t.c.exclusion[i]
		if !slices.Contains(x.families, string(r.Family)) && !slices.Contains(x.intents, string(r.Intent)) && (kind == "" || !slices.Contains(x.tools, kind)) && !slices.Contains(x.strokes, r.StrokeKey()) {
			continue
		}
		if x.zones == nil {
			return x.rule
		}
		for k := range r.Path {
			if x.zones[r.Path[k].Place()] {
				return x.rule
			}
		}
	}
	return ""
}

// standIn finds a stroke for one that is barred: its alternates in order, then
// the library stroke of the same intent that shares most of its path.
func (t *tailoring) standIn(i int, r *protocol.Resolved) *stroke.Stroke {
	s := t.q.Steps[i]
	fits := func(alt *stroke.Stroke) bool {
		if alt.Tool != nil && t.ctx.Tools[alt.Tool.Key].Name == "" {
			return false
		}
		probe := protocol.Protocol{DefaultDose: t.q.DefaultDose, FirstSide: t.q.FirstSide, Steps: []protocol.Step{protocol.StandIn(&s, alt)}}
		probe.Steps[0].Section = ""
		now := protocol.Resolve(&probe, 0, t.ctx)
		return t.bars(now) == "" && t.barredZone(now) == "" && !(t.ctx.LongNails && now.Scratches())
	}
	for _, a := range t.ctx.Strokes[s.Stroke].Alternates {
		if alt := t.ctx.Strokes[a.Stroke]; alt != nil && a.When != Nails && fits(alt) {
			return alt
		}
	}
	var best *stroke.Stroke
	most := 0
	for _, alt := range t.ctx.Strokes { // in any order: the key decides between equals
		if !substitutes(alt, r) {
			continue
		}
		shared := sharedZones(alt, r)
		if (shared > most || shared == most && best != nil && alt.Key < best.Key) && fits(alt) {
			best, most = alt, shared
		}
	}
	return best
}

// substitutes reports whether a stroke of the library may take the place of a
// step's own: it has the same intent and works some of the same zones. Work by
// hand is never replaced by a tool, which would have to be asked about and laid
// out.
func substitutes(alt *stroke.Stroke, r *protocol.Resolved) bool {
	return alt.Intent == r.Intent && (alt.Tool == nil || r.Tool != nil) && alt.Key != r.StrokeKey() && (alt.Glide != stroke.GripGlide || r.Glide == stroke.GripGlide) && sharedZones(alt, r) > 0
}

// sharedZones counts the zones of a stroke's path that a step works.
func sharedZones(alt *stroke.Stroke, r *protocol.Resolved) int {
	shared := 0
	for _, z := range alt.Path {
		if slices.ContainsFunc(r.Path, func(pt protocol.Stop) bool { return pt.Zone == z }) {
			shared++
		}
	}
	return shared
}

// barredZone returns the rule that bars any place the step touches, on its path or
// besides it.
func (t *tailoring) barredZone(r *protocol.Resolved) string {
	if len(t.c.excluded) == 0 {
		return ""
	}
	for i := range r.Path {
		id := r.Path[i].Place()
		if rule := t.ruleOn(id, r.Sides); rule != "" {
			return rule
		}
	}
	for zone := range r.Besides {
		if id, ok := anatomy.Lookup(zone); ok {
			if rule := t.ruleOn(id, r.Sides); rule != "" {
				return rule
			}
		}
	}
	return ""
}

func (t *tailoring) anchored(r *protocol.Resolved) string {
	if r.Anchor == nil {
		return ""
	}
	if id, ok := anatomy.Lookup(r.Anchor.Zone); ok {
		if rule := t.ruleOn(id, r.Sides); rule != "" {
			return rule
		}
	}
	for _, then := range r.Anchor.Then {
		if id, ok := anatomy.Lookup(then.Zone); ok {
			if rule := t.ruleOn(id, r.Sides); rule != "" {
				return rule
			}
		}
	}
	return ""
}

// ruleOn returns the rule that bars a zone on any side that the sides touch.
func (t *tailoring) ruleOn(id anatomy.ID, s stroke.Sides) string {
	on, n := touched(id, s)
	for _, side := range on[:n] {
		if r := t.c.places[side][id]; r != "" {
			return r
		}
	}
	return ""
}

// touched lists the sides of a zone that a way of working sides touches: the
// first n of on.
func touched(id anatomy.ID, s stroke.Sides) (on [3]anatomy.Side, n int) {
	z := id.Zone()
	if !z.Paired {
		return [3]anatomy.Side{anatomy.Mid}, 1
	}
	if s != stroke.RightOnly {
		on[n] = anatomy.Left
		n++
	}
	if s != stroke.LeftOnly {
		on[n] = anatomy.Right
		n++
	}
	if z.Midline {
		on[n] = anatomy.Mid
		n++
	}
	return on, n
}

// off tells on which sides an opening or draining step has nowhere to go: a drain
// where it would run into nodes that may not be used, an opening where all it
// opens is barred.
func (t *tailoring) off(r *protocol.Resolved) (off [3]bool) {
	if t.barred == (protocol.BarredNodes{}) || len(r.Path) == 0 {
		return off
	}
	for _, side := range [...]anatomy.Side{anatomy.Left, anatomy.Right} {
		switch r.Intent {
		case stroke.Drain:
			off[side] = t.barred.All(r.Path[len(r.Path)-1].Place(), side)
		case stroke.Open:
			nodes, barred := 0, 0
			for k := range r.Path {
				if id := r.Path[k].Place(); id.Zone().Node != "" {
					nodes++
					if t.barred.All(id, side) {
						barred++
					}
				}
			}
			off[side] = nodes > 0 && nodes == barred
		}
	}
	return off
}

// detour leads a draining path, cut short by what is left out, on to another node
// group of the side that is free, by the shortest of the routes that hands take;
// nil where there is none.
func (t *tailoring) detour(path []protocol.PathPoint, side anatomy.Side) []protocol.PathPoint {
	for n := len(path); n > 0; n-- {
		from, ok := anatomy.Lookup(path[n-1].Zone)
		if !ok {
			continue
		}
		free := func(id anatomy.ID) bool {
			return t.c.places[id.On(side)][id] == "" && (!id.Zone().Midline || t.c.places[anatomy.Mid][id] == "")
		}
		way := anatomy.WayTo(from, free, func(id anatomy.ID) bool {
			g := id.Zone().Node
			return g != "" && g.Door() == id.Zone().Key && !t.barred.All(id, side)
		})
		if way == nil || n == 1 && len(way) == 0 {
			continue
		}
		out := slices.Clone(path[:n])
		for _, id := range way {
			out = append(out, protocol.PathPoint{Zone: id.Zone().Key})
		}
		return out
	}
	return nil
}

// side leads an opening or draining step another way on the side on which it has
// nowhere to go, or leaves that side out.
func (t *tailoring) side(i int, r *protocol.Resolved) int {
	off := t.off(r)
	if !(off[anatomy.Left] && r.Sides != stroke.RightOnly) && !(off[anatomy.Right] && r.Sides != stroke.LeftOnly) {
		return 0
	}
	rule := t.closes(r)
	last := r.Path[len(r.Path)-1].Zone
	s := &t.q.Steps[i]
	to := freeSide(r, off)
	if r.Intent == stroke.Drain && s.Round == "" {
		side := anatomy.Left
		if off[anatomy.Right] && r.Sides != stroke.LeftOnly {
			side = anatomy.Right
		}
		whole := make([]protocol.PathPoint, len(r.Path))
		for k := range r.Path {
			whole[k] = protocol.PathPoint{Zone: r.Path[k].Zone}
			if len(s.Path) > k {
				whole[k].Pressure = s.Path[k].Pressure
			}
		}
		way := t.detour(whole, side)
		switch {
		case way == nil || len(way) < 2:
		case to != "": // the free side keeps its path, the other takes the way round
			m := *s
			m.ID, m.Sides, m.Path = s.ID+"-"+side.String(), map[anatomy.Side]stroke.Sides{anatomy.Left: stroke.LeftOnly, anatomy.Right: stroke.RightOnly}[side], way
			if s.Use != nil {
				half := *s.Use
				half.Amount.Value /= 2
				s.Use, m.Use = &half, &half
			}
			s.Sides, s.Departure = to, otherSideRound
			t.q.Steps = slices.Insert(t.q.Steps, i+1, m)
			if t.barredZone(protocol.Resolve(t.q, i+1, t.ctx)) == "" {
				t.note(m.ID, r.Name, Rerouted, rule, Change{Zone: last})
				t.changed[s.ID] = true
				return 1
			}
			t.q.Steps = slices.Delete(t.q.Steps, i+1, i+2)
			s = &t.q.Steps[i]
		case r.Sides == stroke.LeftOnly || r.Sides == stroke.RightOnly:
			was := s.Path
			if s.Path = way; t.barredZone(protocol.Resolve(t.q, i, t.ctx)) == "" {
				t.note(s.ID, r.Name, Rerouted, rule, Change{Zone: last})
				return 0
			}
			s.Path = was
		}
	}
	if to != "" {
		s.Sides, s.Departure = to, otherSideOut
		t.note(s.ID, r.Name, OtherSide, rule, Change{Zone: last, To: string(to)})
		return 0
	}
	return t.drop(i, r.Name, NoWayHome, rule)
}

// closes is the rule that closes the way home of a draining or opening step: the
// one that leaves out the door of a node group that its lymph runs through.
func (t *tailoring) closes(r *protocol.Resolved) string {
	for k := len(r.Path) - 1; k >= 0; k-- {
		for _, g := range anatomy.NodesOf(r.Path[k].Place()) {
			for ; g != ""; g = g.Next() {
				door, _ := anatomy.Lookup(g.Door())
				if rule := t.ruleOn(door, r.Sides); rule != "" {
					return rule
				}
			}
		}
	}
	return t.firstRule()
}

const (
	otherSideOut   = "the other side is left out today"
	otherSideRound = "the other side is led another way today"
)

// freeSide is the one side on which a step for both still has somewhere to go.
func freeSide(r *protocol.Resolved, off [3]bool) stroke.Sides {
	if r.Sides != stroke.BothAtOnce && r.Sides != stroke.InTurns || off[anatomy.Left] == off[anatomy.Right] {
		return ""
	}
	if off[anatomy.Left] {
		return stroke.RightOnly
	}
	return stroke.LeftOnly
}

// zones leads the step round places that are left out. Where only one side is
// affected, the step is split: the free side keeps the whole path.
func (t *tailoring) zones(i int, r *protocol.Resolved) int {
	s := &t.q.Steps[i]
	if rule := t.anchored(r); rule != "" {
		// The path may be free: another stroke of the same intent, or nothing.
		if alt := t.standIn(i, r); alt != nil {
			t.swap(i, r, alt, rule)
			return 0
		}
		return t.drop(i, r.Name, Dropped, rule)
	}
	var rule, zone string
	barred := map[anatomy.Side]bool{}
	for _, pt := range r.Path {
		id := pt.Place()
		on, n := touched(id, r.Sides)
		for _, side := range on[:n] {
			if rr := t.c.places[side][id]; rr != "" {
				rule, zone = rr, pt.Zone
				barred[side] = true
			}
		}
	}
	if rule == "" { // a finger or a part has a place of its own there
		if alt := t.standIn(i, r); alt != nil {
			t.swap(i, r, alt, t.barredZone(r))
			return 0
		}
		return t.drop(i, r.Name, Dropped, t.barredZone(r))
	}
	around := func(side anatomy.Side) []protocol.PathPoint {
		var out []protocol.PathPoint
		for k, pt := range r.Path {
			id := pt.Place()
			if t.c.places[id.On(side)][id] == "" && (!id.Zone().Midline || t.c.places[anatomy.Mid][id] == "") {
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
			return t.detour(out, side) // it would end short of its node
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
		s.Departure = otherSideOut
		t.note(s.ID, r.Name, OtherSide, rule, Change{Zone: zone, To: string(free)})
		path := around(off)
		if n := len(path); n > 0 && (path[n-1].Zone != r.Path[len(r.Path)-1].Zone || !t.off(r)[off]) {
			both := s.Use
			if s.Use != nil { // each side gets its half
				half := *s.Use
				half.Amount.Value /= 2
				s.Use = &half
			}
			m := *s
			m.ID, m.Sides, m.Path = s.ID+"-"+off.String(), other, path
			t.q.Steps = slices.Insert(t.q.Steps, i+1, m)
			if t.barredZone(protocol.Resolve(t.q, i+1, t.ctx)) == "" {
				return 1
			}
			t.q.Steps = slices.Delete(t.q.Steps, i+1, i+2) // a finger of its own runs there
			t.q.Steps[i].Use = both
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
		if alt := t.standIn(i, r); alt != nil {
			t.swap(i, r, alt, rule)
			return 0
		}
		return t.drop(i, r.Name, Dropped, rule)
	}
	whole := s.Path
	s.Path = path
	if t.barredZone(protocol.Resolve(t.q, i, t.ctx)) != "" { // a finger of its own runs there
		s.Path = whole
		if alt := t.standIn(i, r); alt != nil {
			t.swap(i, r, alt, rule)
			return 0
		}
		return t.drop(i, r.Name, Dropped, rule)
	}
	t.note(s.ID, r.Name, Rerouted, rule, Change{Zone: zone})
	return 0
}

// caps lowers the pressure of a step to what each zone may bear today: along the
// path, under single fingers and the anchor.
func (t *tailoring) caps(i int) {
	s := &t.q.Steps[i]
	r := t.resolved(i)
	worst := Change{}
	worstRule, from := "", -1
	lowerAt := func(id anatomy.ID, zone string, pressure int) (int, bool) {
		limit, rule := t.c.limit(id, pressure)
		if rule == "" || limit >= pressure {
			return pressure, false
		}
		if pressure > from {
			from, worstRule, worst = pressure, rule, Change{Zone: zone, From: strconv.Itoa(pressure), To: strconv.Itoa(limit)}
		}
		return limit, true
	}
	lower := func(zone string, pressure int) (int, bool) {
		id, ok := anatomy.Lookup(zone)
		if !ok {
			return pressure, false
		}
		return lowerAt(id, zone, pressure)
	}
	var path []protocol.PathPoint
	for k := range r.Path {
		pt := &r.Path[k]
		limit, ok := lowerAt(pt.Place(), pt.Zone, pt.Pressure)
		if !ok {
			continue
		}
		if path == nil {
			path = make([]protocol.PathPoint, len(r.Path))
			for n := range r.Path {
				path[n].Zone = r.Path[n].Zone
				if len(s.Path) > n {
					path[n].Pressure = s.Path[n].Pressure
				}
			}
		}
		path[k].Pressure = &limit
	}
	if path != nil {
		s.Path = path
	}
	if a := r.Anchor; a != nil {
		lowered := *a
		lowered.Then = slices.Clone(a.Then)
		limit, changed := lower(a.Zone, a.Pressure)
		lowered.Pressure = limit
		for k := range lowered.Then {
			if limit, ok := lower(lowered.Then[k].Zone, lowered.Then[k].Pressure); ok {
				lowered.Then[k].Pressure, changed = limit, true
			}
		}
		if changed {
			s.Anchor = &lowered
		}
	}
	t.capFingers(s, r, lower)
	if worstRule != "" {
		t.note(s.ID, r.Name, Lowered, worstRule, worst)
	}
}

// capFingers lowers fingers and parts that press on their own account.
func (t *tailoring) capFingers(s *protocol.Step, r *protocol.Resolved, lower func(zone string, pressure int) (int, bool)) {
	least := func(zone string, pressure int) (int, bool) {
		if zone != "" {
			return lower(zone, pressure)
		}
		out, changed := pressure, false
		for i := range r.Path {
			if limit, ok := lower(r.Path[i].Zone, out); ok {
				out, changed = limit, true
			}
		}
		return out, changed
	}
	var fingers []stroke.Finger
	for i, f := range r.Fingers {
		if limit, ok := least(f.Zone, f.Pressure); ok {
			if fingers == nil {
				fingers = slices.Clone(r.Fingers)
			}
			fingers[i].Pressure = limit
		}
	}
	if fingers != nil {
		s.Fingers = fingers
	}
	capParts := func(parts []stroke.Part) []stroke.Part {
		var out []stroke.Part
		for i := range parts {
			if parts[i].Pressure == nil {
				continue
			}
			if limit, ok := least(parts[i].Zone, *parts[i].Pressure); ok {
				if out == nil {
					out = slices.Clone(parts)
				}
				out[i].Pressure = &limit
			}
		}
		return out
	}
	last := r.Last
	if parts := capParts(r.Parts); parts != nil {
		s.Parts, s.Last = parts, last
	}
	if last != nil {
		l := *last
		changed := false
		if parts := capParts(l.Parts); parts != nil {
			l.Parts, changed = parts, true
		}
		if l.Pressure != nil {
			if limit, ok := least("", *l.Pressure); ok {
				l.Pressure, changed = &limit, true
			}
		}
		if changed {
			s.Last = &l
		}
	}
}

// ruleOnProduct is [Constraints.ProductRule], worked out once for each product.
func (t *tailoring) ruleOnProduct(p *film.Product) string {
	if p == nil {
		return ""
	}
	rule, known := t.byProduct[p.Key]
	if !known {
		rule = t.c.ProductRule(p)
		t.byProduct[p.Key] = rule
	}
	return rule
}

// product swaps a product that carries an excluded tag for the one on the shelf
// nearest in half-life that carries none and can be dosed alike, or takes it out.
func (t *tailoring) product(s *protocol.Step, name string) {
	was := t.ctx.Products[s.Use.Product]
	rule := t.ruleOnProduct(was)
	if rule == "" {
		return
	}
	mL, _ := s.Use.Amount.In(was)
	others := t.serving(was, mL)
	if len(others) == 0 {
		s.Use = nil
		t.note(s.ID, name, Replaced, rule, Change{From: was.Name})
		return
	}
	best := others[0]
	amount := film.Amount{Value: float64(int(mL*best.FullDose/was.FullDose*100+0.5)) / 100, Measure: film.ML}
	if _, ok := s.Use.Amount.In(best); ok && best.FullDose == was.FullDose && best.DropsPerML == was.DropsPerML {
		amount = s.Use.Amount
	}
	s.Use = &protocol.Use{Product: best.Key, Amount: amount}
	ch := Change{From: was.Name, To: best.Name}
	for _, p := range others {
		ch.Others = append(ch.Others, p.Key)
	}
	t.note(s.ID, name, Replaced, rule, ch)
}

// serving lists the products that could take the place of one: allowed, suited to
// the skin, of the same form or both to massage with, with enough on the shelf where that is known; the one
// asked for first, then the nearest in half-life, then by key.
func (t *tailoring) serving(was *film.Product, mL float64) []*film.Product {
	var out []*film.Product
	gap := map[string]float64{}
	for k, p := range t.ctx.Products {
		if t.ruleOnProduct(p) != "" || slices.ContainsFunc(p.Unsuited, func(u string) bool { return u == t.ctx.SkinType || slices.Contains(t.ctx.SkinStates, u) }) {
			continue
		}
		if p.Form != was.Form && !(film.Massages(p.Form) && film.Massages(was.Form)) {
			continue
		}
		if t.c.stock != nil && t.c.stock[k] < mL*p.FullDose/was.FullDose {
			continue
		}
		gap[k] = max(p.HalfLifeMinutes()-was.HalfLifeMinutes(), was.HalfLifeMinutes()-p.HalfLifeMinutes())
		if t.c.instead[was.Key] == k {
			gap[k] = -1
		}
		out = append(out, p)
	}
	slices.SortFunc(out, func(a, b *film.Product) int {
		if d := cmp.Compare(gap[a.Key], gap[b.Key]); d != 0 {
			return d
		}
		return cmp.Compare(a.Key, b.Key)
	})
	return out
}

// firm raises the pressure of the work by one level where the client wishes a
// firmer hand: up to what each zone bears and today's cautions allow, never of
// opening or draining strokes, and nowhere that would bring a finding.
func (t *tailoring) firm() {
	if t.c.firmer == "" {
		return
	}
	raised := map[string]Change{}
	was := map[string][]protocol.PathPoint{}
	for i := range t.q.Steps {
		s := &t.q.Steps[i]
		if w := t.c.waived[s.ID]; w != nil && w.firmer == "" {
			continue
		}
		r := t.resolved(i)
		if r.Phase != "work" || r.Intent == stroke.Drain || r.Intent == stroke.Open || r.Tool != nil {
			continue
		}
		var path []protocol.PathPoint
		for k := range r.Path {
			pt := &r.Path[k]
			now := pt.Pressure + 1
			limit, _ := t.c.limit(pt.Place(), now)
			if pt.Pressure == 0 || limit < now || now > pt.Place().Zone().Ceiling {
				continue
			}
			if path == nil {
				path = make([]protocol.PathPoint, len(r.Path))
				for n := range r.Path {
					path[n] = protocol.PathPoint{Zone: r.Path[n].Zone}
					if len(s.Path) > n {
						path[n].Pressure = s.Path[n].Pressure
					}
				}
				raised[s.ID] = Change{Zone: pt.Zone, From: strconv.Itoa(pt.Pressure), To: strconv.Itoa(now)}
			}
			path[k].Pressure = &now
		}
		if path != nil {
			was[s.ID], s.Path = s.Path, path
		}
	}
	for range 3 { // taking one back may be enough for the others
		back := false
		for _, f := range protocol.Evaluate(t.q, t.ctx).Findings {
			if f.Severity == protocol.Note || t.had(&f) {
				continue
			}
			for _, id := range f.Steps {
				if _, ok := raised[id]; ok {
					t.q.Steps[t.q.Index(id)].Path = was[id]
					delete(raised, id)
					back = true
				}
			}
		}
		if !back {
			break
		}
	}
	for i := range t.q.Steps {
		if ch, ok := raised[t.q.Steps[i].ID]; ok {
			t.note(t.q.Steps[i].ID, t.ctx.Strokes[t.q.Steps[i].Stroke].Name, Firmed, t.c.firmer, ch)
		}
	}
}

func (t *tailoring) drop(i int, name string, did Did, rule string) int {
	t.note(t.q.Steps[i].ID, name, did, rule, Change{})
	t.q.Steps = slices.Delete(t.q.Steps, i, i+1)
	return -1
}

// firstRule is the rule to which what follows from all changes is put down.
func (t *tailoring) firstRule() string {
	if len(t.changes) > 0 {
		return t.changes[0].Rule
	}
	if t.c.refit == "" && len(t.c.excluded) > 0 {
		return t.c.places[t.c.excluded[0].Side][t.c.excluded[0].Zone]
	}
	return t.c.refit
}

// withoutSome fits the plan when any step of the work may go.
func (t *tailoring) withoutSome(slot int) protocol.Fitted {
	q := t.q.Clone()
	for i := range q.Steps {
		if ph := q.Steps[i].Phase; ph == "work" || ph == "exercises" {
			q.Steps[i].Optional = true
		}
	}
	f := protocol.Fit(q, t.ctx, slot)
	for i := range f.Protocol.Steps {
		s := &f.Protocol.Steps[i]
		s.Optional = t.q.Steps[t.q.Index(s.ID)].Optional
	}
	return f
}

// refit brings the changed plan back to its slot where the plan filled it before,
// and reports whether it changed anything.
func (t *tailoring) refit(now *protocol.Evaluation) bool {
	slot := t.q.Minutes.HandsOn * 60
	if now.Seconds >= float64(slot-protocol.FitGrace) && now.Seconds <= float64(slot) {
		return false
	}
	if t.c.refit == "" && t.was.Seconds > float64(t.was.SlotSeconds)+0.5 {
		return false
	}
	fitted := protocol.FitOf(t.q, t.ctx, now, slot)
	if fitted.MissBy > 0 { // sides worked apart take longer: some of the work has to go
		fitted = t.withoutSome(slot)
	}
	t.overruns = fitted.MissBy > 0
	n := len(fitted.Changed) + len(fitted.Dropped) + len(fitted.Rounds)
	if t.overruns || n == 0 {
		return false
	}
	for _, id := range fitted.Dropped {
		r := protocol.Resolve(t.q, t.q.Index(id), t.ctx)
		t.note(id, r.Name, NoTime, t.firstRule(), Change{})
	}
	t.q = fitted.Protocol
	for i := range t.changes {
		if t.changes[i].Did == Refitted {
			t.changes[i].To = strconv.Itoa(n)
			return true
		}
	}
	t.changes = append(t.changes, Change{Did: Refitted, To: strconv.Itoa(n)})
	return true
}
