package contraindication

import (
	"maps"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Scope is what a studio's treatments touch, and what adjusting them may bring in;
// rules that could change nothing of it need not be asked.
type Scope struct {
	pressure [anatomy.Slots]int  // the most, on the path or besides it; -1 where a zone is not touched
	ceiling  [anatomy.Slots]int  // of the zones that are touched
	drained  [anatomy.Slots]bool // the entry zones of node groups that something drains through
	families map[string]bool
	intents  map[string]bool
	tools    map[string]bool
	strokes  map[string]bool
	tags     map[string]bool
	forms    map[string]bool
	products []*slip.Product
}

// ScopeOf gathers what some protocols touch, with the products on the shelf, any
// of which may come into a plan, and the strokes that may take another's place.
func ScopeOf(plans []*protocol.Protocol, ctx *protocol.Context) *Scope {
	s := &Scope{
		families: map[string]bool{},
		intents:  map[string]bool{},
		tools:    map[string]bool{},
		strokes:  map[string]bool{},
		tags:     map[string]bool{},
		forms:    map[string]bool{},
	}
	for i := range s.pressure {
		s.pressure[i] = -1
	}
	for _, p := range plans {
		s.addPlan(p, ctx)
	}
	for _, key := range slices.Sorted(maps.Keys(ctx.Products)) {
		p := ctx.Products[key]
		s.products = append(s.products, p)
		s.forms[string(p.Form)] = true
		for _, tag := range p.AllTags() {
			s.tags[tag] = true
		}
	}
	return s
}

// addPlan adds the steps of a protocol, each as written and with every substitute
// that adjusting may choose for it.
func (s *Scope) addPlan(p *protocol.Protocol, ctx *protocol.Context) {
	for i := range p.Steps {
		st := ctx.Strokes[p.Steps[i].Stroke]
		if st == nil {
			continue // the protocol is outdated and cannot be given
		}
		r := evaluation.Resolve(p, i, ctx)
		s.addStep(r, ctx)
		for _, a := range st.Alternates {
			if a.Tool != nil && ctx.Tools[a.Tool.Key].Name != "" {
				s.tools[ctx.Tools[a.Tool.Key].Kind] = true
			}
			if sub := ctx.Strokes[a.Stroke]; sub != nil {
				s.addSubstitute(&p.Steps[i], sub, p, ctx)
			}
		}
		for _, sub := range ctx.Strokes {
			if evaluation.Substitutes(sub, r) {
				s.addSubstitute(&p.Steps[i], sub, p, ctx)
			}
		}
	}
	if s.intents[string(stroke.Drain)] || s.intents[string(stroke.Open)] {
		for _, st := range ctx.Strokes { // what opens the route and drains to its end
			if st.Tool == nil && (st.Intent == stroke.Open || st.Intent == stroke.Drain && st.Relation == stroke.Slides) {
				s.addSubstitute(&protocol.Step{}, st, p, ctx)
			}
		}
	}
}

func (s *Scope) addSubstitute(step *protocol.Step, sub *stroke.Stroke, p *protocol.Protocol, ctx *protocol.Context) {
	if sub.Tool != nil && ctx.Tools[sub.Tool.Key].Name == "" || s.strokes[sub.Key] && step.Sides == "" {
		return
	}
	probe := protocol.Protocol{
		DefaultDose: p.DefaultDose,
		FirstSide:   p.FirstSide,
		Steps:       []protocol.Step{protocol.SubstituteStroke(step, sub)},
	}
	probe.Steps[0].Section = ""
	s.addStep(evaluation.Resolve(&probe, 0, ctx), ctx)
}

// addStep adds what one step touches: its path, and under single fingers, parts
// and the anchor hand.
func (s *Scope) addStep(r *evaluation.Resolved, ctx *protocol.Context) {
	for _, f := range r.Families() {
		s.families[string(f)] = true
	}
	s.intents[string(r.Intent)], s.strokes[r.StrokeKey] = true, true
	if r.Tool != nil {
		s.tools[ctx.Tools[r.Tool.Key].Kind] = true
	}
	for zone, pressure := range r.Presses {
		if id, ok := ctx.Zone(zone); ok {
			s.pressure[id.Index()] = max(s.pressure[id.Index()], pressure)
			s.ceiling[id.Index()] = id.Zone().Ceiling
		}
	}
	if r.Intent != stroke.Drain && r.Intent != stroke.Open {
		return
	}
	for k := range r.Path {
		for _, g := range anatomy.NodesOf(r.Path[k].ZoneID()) {
			for ; g != ""; g = g.Next() {
				if id, ok := anatomy.Lookup(g.EntryZone()); ok {
					s.drained[id.Index()] = true
				}
			}
		}
	}
}

// touchesZone reports whether a zone is worked with a pressure of at least so
// much, where a client may ask for the work one level firmer.
func (s *Scope) touchesZone(zones []string, atLeast int) bool {
	return slices.ContainsFunc(zones, func(z string) bool {
		id, ok := anatomy.Lookup(z)
		return ok && s.touches(id.Index(), atLeast)
	})
}

// touches is [Scope.touchesZone] for one place in the tables by zone.
func (s *Scope) touches(zone, atLeast int) bool {
	return s.pressure[zone] >= 0 && s.firmest(zone) >= atLeast
}

// firmest is the most pressure on a zone when the client wishes a firmer hand.
func (s *Scope) firmest(zone int) int {
	if p := s.pressure[zone]; p > 0 && p < s.ceiling[zone] {
		return p + 1
	}
	return s.pressure[zone]
}

func anyOf(of map[string]bool, list []string) bool {
	return slices.ContainsFunc(list, func(k string) bool { return of[k] })
}

// touchesAny is [Scope.touchesZone] for every zone there is.
func (s *Scope) touchesAny(atLeast int) bool {
	for zone := range s.pressure {
		if s.touches(zone, atLeast) {
			return true
		}
	}
	return false
}

// Matters reports whether a rule could change anything of the scope, or asks for
// a precaution there.
func (r *Rule) Matters(s *Scope) bool {
	for i := range r.Outcomes {
		if o := &r.Outcomes[i]; o.Kind.effect().canMatter(s, o) {
			return true
		}
	}
	return false
}
