package contraindication

import (
	"slices"

	"softpalm/internal/craft/calendar"
)

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
func (p *Pack) Carried(consultation, check map[string]Answer, consultationNewer bool, today calendar.Day) map[string]Answer {
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
