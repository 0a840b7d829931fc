package screening

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/substance"
)

// Scope is what a studio's treatments touch; rules that could change nothing of
// it need not be asked.
type Scope struct {
	pressure [anatomy.Count]int // the most, -1 where a zone is not worked
	families map[string]bool
	intents  map[string]bool
	tools    map[string]bool
	tags     map[string]bool
	forms    map[string]bool
}

// ScopeOf gathers what some protocols work, with the products on the shelf, any
// of which may come into a plan.
func ScopeOf(plans []*protocol.Protocol, ctx *protocol.Context) *Scope {
	s := &Scope{families: map[string]bool{}, intents: map[string]bool{}, tools: map[string]bool{}, tags: map[string]bool{}, forms: map[string]bool{}}
	for i := range s.pressure {
		s.pressure[i] = -1
	}
	for _, p := range plans {
		for i := range p.Steps {
			if ctx.Strokes[p.Steps[i].Stroke] == nil {
				continue // the plan is outdated and cannot be given
			}
			r := protocol.Resolve(p, i, ctx)
			s.families[string(r.Family)], s.intents[string(r.Intent)] = true, true
			if r.Tool != nil {
				s.tools[ctx.Tools[r.Tool.Key].Kind] = true
			}
			for k := range r.Path {
				id := r.Path[k].Place()
				s.pressure[id] = max(s.pressure[id], r.Path[k].Pressure)
			}
		}
	}
	for _, p := range ctx.Products {
		s.forms[string(p.Form)] = true
		for _, tag := range p.Carried() {
			s.tags[tag] = true
		}
	}
	return s
}

func (s *Scope) zone(zones []string, atLeast int) bool {
	for _, z := range zones {
		if id, ok := anatomy.Lookup(z); ok && s.pressure[id] >= atLeast {
			return true
		}
	}
	return false
}

func anyOf(of map[string]bool, list []string) bool {
	return slices.ContainsFunc(list, func(k string) bool { return of[k] })
}

// touches reports whether an outcome could change anything of the scope.
func (s *Scope) touches(o *Outcome) bool {
	switch o.Kind {
	case LeaveOut:
		return o.FromAnswer && len(o.Zones) == 0 || s.zone(o.Zones, 0)
	case Cap:
		if o.FromAnswer || len(o.Zones) == 0 {
			return slices.Max(s.pressure[:]) > o.Pressure
		}
		return s.zone(o.Zones, o.Pressure+1)
	case Exclude:
		return anyOf(s.families, o.Families) || anyOf(s.intents, o.Intents) || anyOf(s.tools, o.Tools) || slices.ContainsFunc(o.Tags, func(t string) bool { return s.tags[substance.CanonicalTag(t)] }) || anyOf(s.forms, o.Forms)
	case Mind:
		return len(o.Zones) == 0 || s.zone(o.Zones, 0)
	}
	return true
}

// Matters reports whether a rule could change anything of the scope, or asks for
// something to be kept in mind there.
func (r *Rule) Matters(s *Scope) bool {
	return slices.ContainsFunc(r.Outcomes, func(o Outcome) bool { return s.touches(&o) })
}

// For returns the pack with only the rules that matter in a scope. Judging goes
// by the whole pack; this is for asking.
func (p *Pack) For(s *Scope) *Pack {
	out := &Pack{Version: p.Version, Lists: p.Lists}
	for _, r := range p.Rules {
		if r.Matters(s) {
			out.Rules = append(out.Rules, r)
		}
	}
	return out
}

// Carried are the answers with a day of their own that still run, from a client's
// consultation and newest door check (either may be nil), so that what was told
// once need not be told again. The check goes before the consultation unless the
// consultation is newer and says yes.
func (p *Pack) Carried(consultation, check map[string]Answer, consultationNewer bool, today Day) map[string]Answer {
	out := map[string]Answer{}
	for _, r := range p.Rules {
		if r.Stage == Consultation || r.Asks != Date && r.Asks != DateAndZones {
			continue
		}
		a, checked := check[r.ID]
		if c := consultation[r.ID]; !checked || consultationNewer && c.Yes {
			a = c
		}
		if a.Yes && a.Still && r.MayLast || a.Yes && a.Day != "" && slices.ContainsFunc(r.Outcomes, func(o Outcome) bool { return o.Days > 0 && today < a.Day.Plus(o.Days) }) {
			out[r.ID] = a
		}
	}
	return out
}

// Doubt is a no that a medicine the client takes makes worth asking about, or
// that does not count because of it.
type Doubt struct {
	Rule  string `json:"rule"`
	Title string `json:"title"`
	// Medicine is what the client takes.
	Medicine string `json:"medicine"`
	// Counts says that the medicine answers the rule with yes whatever was said.
	Counts bool `json:"counts,omitempty"`
}

// Doubts lists them. They say nothing of why the medicine is taken.
func (p *Pack) Doubts(answers map[string]Answer, medicines []string) []Doubt {
	out := []Doubt{}
	who := Subject{Medicines: medicines}
	for _, r := range p.Rules {
		if answers[r.ID].Yes {
			continue
		}
		if m, ok := who.takes(r.FromMedicines); ok {
			out = append(out, Doubt{r.ID, r.Title, m, true})
		} else if m, ok := who.takes(r.AskMedicines); ok {
			out = append(out, Doubt{r.ID, r.Title, m, false})
		}
	}
	return out
}

// PatchSensitive reports whether a client's skin counts as sensitive for patch
// tests: by its state, or by the answer.
func PatchSensitive(states []string, answers map[string]Answer) bool {
	return slices.Contains(states, "sensitive") || answers["sensitive"].Yes
}
