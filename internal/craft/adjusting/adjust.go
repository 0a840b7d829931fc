package adjusting

import (
	"slices"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

// AdjustedPlan is a plan fitted to a client today. Refused is set when nothing
// sensible is left; the protocol is then the one that was tried.
type AdjustedPlan struct {
	Protocol    *protocol.Protocol     `json:"protocol"`
	Adjustments []Adjustment           `json:"changes"`
	Evaluation  *evaluation.Evaluation `json:"evaluation"`
	Refused     bool                   `json:"refused"`
}

// LeastWork is the part of the work that must be left for an adjusted plan to be
// worth its name (a studio's starting value).
const LeastWork = 0.4

// Adjust applies the constraints to a protocol. With nothing to do it returns
// the protocol as it was. The result never works an excluded place, never
// passes a cap and never breaks an absolute limit the protocol kept; where that
// cannot be had it is refused.
//
// For each step the first that serves is taken: lead the path round the zone or
// work the other side whole, lower the pressure, an alternate hand, tool or
// product, a stroke of the library with the same intent and region, leave the
// step out. Then opening, drainage route and slip are made whole again by another way,
// what cannot be drained to the end of its route is left out, and the plan is fitted to its slot;
// three times at most.
func Adjust(p *protocol.Protocol, ctx *protocol.Context, c *contraindication.Constraints) AdjustedPlan {
	inner := *ctx
	inner.Excluded = c.Excluded()
	t := adjuster{
		ctx:       &inner,
		c:         c,
		q:         p.Clone(),
		barred:    evaluation.Barred(c.Excluded()),
		hopeless:  map[string]bool{},
		routeless: map[string]bool{},
	}
	t.adjustments, t.byProduct = make([]Adjustment, 0, len(p.Steps)), map[string]string{}
	t.p, t.given = p, ctx
	t.was = evaluation.EvaluateTimeline(p, ctx)
	t.changed = map[string]bool{}
	for i := 0; i < len(t.q.Steps); i++ {
		if w := c.For(t.q.Steps[i].ID); w != nil {
			t.c, t.byProduct = w, map[string]string{}
			i += t.step(i)
			t.c, t.byProduct = c, map[string]string{}
			continue
		}
		i += t.step(i)
	}
	t.firm()
	var now *evaluation.Evaluation
	if len(t.adjustments) > 0 || c.RefitRule() != "" || c.ReapplyRule() != "" {
		now = t.settle()
	} else {
		now = t.base()
	}
	Number(t.adjustments)
	out := AdjustedPlan{Protocol: t.q, Adjustments: t.adjustments, Evaluation: now}
	out.Refused = t.refused(now)
	return out
}

type adjuster struct {
	ctx         *protocol.Context
	c           *contraindication.Constraints
	q           *protocol.Protocol
	p           *protocol.Protocol // as it was, with its context
	given       *protocol.Context
	before      *evaluation.Evaluation
	was         *evaluation.Evaluation // its outline only
	changed     map[string]bool        // steps that are no longer as they were
	barred      evaluation.BarredNodes
	adjustments []Adjustment
	// hopeless findings are those that no fix resolves within the constraints.
	hopeless map[string]bool
	// routeless strokes were left out for want of a drainage route; they are not brought back.
	routeless map[string]bool
	// overruns is set where even the shortest plan does not fit the slot.
	overruns bool
	// byProduct are the rules on products found so far, under the constraints t.c.
	byProduct map[string]string
}

// base is the evaluation of the plan before it was adjusted, worked out when it
// is first asked for.
func (t *adjuster) base() *evaluation.Evaluation {
	if t.before == nil {
		t.before = evaluation.Evaluate(t.p, t.given)
	}
	return t.before
}

// resolved is step i as it is now; for one that has not been changed that is
// what it was in the plan.
func (t *adjuster) resolved(i int) *evaluation.Resolved {
	if r := t.unchanged(i); r != nil {
		return r
	}
	return evaluation.Resolve(t.q, i, t.ctx)
}

// unchanged is what step i was in the plan; nil for one that has been changed.
func (t *adjuster) unchanged(i int) *evaluation.Resolved {
	id := t.q.Steps[i].ID
	if t.changed[id] {
		return nil
	}
	return near(t.was, i, id)
}

// near finds the step of an id, which stood at about i: steps are only ever added and taken out. It is nil for a new one.
func near(e *evaluation.Evaluation, i int, id string) *evaluation.Resolved {
	for d := range max(len(e.Steps), i+1) {
		for _, k := range [...]int{i - d, i + d} {
			if k >= 0 && k < len(e.Steps) && e.Steps[k].ID == id {
				return &e.Steps[k]
			}
		}
	}
	return nil
}

func (t *adjuster) note(step, name string, did AdjustmentKind, rule string, ch Adjustment) {
	t.changed[step] = true
	ch.Step, ch.Name, ch.Kind, ch.Rule = step, name, did, rule
	if did == Lowered {
		ch.At = ch.Zone
	}
	if o, ok := t.c.Explained(rule); ok {
		ch.Title, ch.Why = o.Title, o.Why
	}
	switch did {
	case Rerouted, OtherSide, Lowered, Dropped, NoTime, RouteBlocked:
		ch.Gentler = true
	}
	t.adjustments = append(t.adjustments, ch)
}

// step adjusts step i and returns by how many positions the list has grown or
// shrunk behind it.
func (t *adjuster) step(i int) int {
	r := t.resolved(i)
	if t.ctx.LongNails {
		if !t.nails(i, r) {
			return t.drop(i, r.Name, Dropped, contraindication.Nails)
		}
		r = t.resolved(i)
	}
	if rule := t.bars(r); rule != "" {
		bite := t.c.StrokeBite(rule, r, t.kindOf(r))
		why := Adjustment{What: bite.What, At: bite.Zone}
		if isVariantRule(rule) && t.c.NamesStroke(rule, r.StrokeKey) { // meant to go, not to be swapped for its twin
			return t.dropFor(i, r.Name, Dropped, rule, why)
		}
		if !t.otherHand(i, r, rule, why) {
			alt := t.substitute(i, r)
			if alt == nil {
				return t.dropFor(i, r.Name, Dropped, rule, why)
			}
			t.swap(i, r, alt, rule, why)
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
	} else if grown = t.side(i, r); grown < 0 {
		return grown
	}
	for k := i; k <= i+grown; k++ {
		t.caps(k)
		if s := &t.q.Steps[k]; s.Use != nil {
			t.product(s, r.Name)
		}
	}
	return grown
}

func (t *adjuster) drop(i int, name string, did AdjustmentKind, rule string) int {
	return t.dropFor(i, name, did, rule, Adjustment{})
}

// dropFor is drop with what bites at the step.
func (t *adjuster) dropFor(i int, name string, did AdjustmentKind, rule string, why Adjustment) int {
	t.note(t.q.Steps[i].ID, name, did, rule, why)
	t.q.Steps = slices.Delete(t.q.Steps, i, i+1)
	return -1
}

// firstRule is the rule to which what follows from all changes is put down.
func (t *adjuster) firstRule() string {
	if len(t.adjustments) > 0 {
		return t.adjustments[0].Rule
	}
	if t.c.RefitRule() == "" && len(t.c.Excluded()) > 0 {
		return t.c.RuleAt(t.c.Excluded()[0].Side, t.c.Excluded()[0].Zone)
	}
	return t.c.RefitRule()
}
