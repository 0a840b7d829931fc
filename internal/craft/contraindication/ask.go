package contraindication

import (
	"slices"

	"softpalm/internal/craft/calendar"
)

// AskedIn returns the pack with only the rules that matter in a scope. Judging goes
// by the whole pack; this is for asking.
func (p *Pack) AskedIn(s *Scope) *Pack {
	out := &Pack{Version: p.Version, Lists: p.Lists, Spoken: p.Spoken}
	for _, r := range p.Rules {
		if r.Matters(s) {
			out.Rules = append(out.Rules, r)
		}
	}
	return out
}

// AnswersInForce are the answers with a day of their own that still run, from a client's
// consultation and newest pre-treatment check (either may be nil), so that what was answered
// once need not be answered again. The check goes before the consultation unless the
// consultation is newer and says yes.
func (p *Pack) AnswersInForce(
	consultation, check map[string]Answer,
	consultationNewer bool,
	today calendar.Day,
) map[string]Answer {
	out := map[string]Answer{}
	for _, r := range p.Rules {
		if r.Stage == Consultation || r.AnswerType != Date && r.AnswerType != DateAndZones {
			continue
		}
		a, checked := check[r.ID]
		if c := consultation[r.ID]; !checked || consultationNewer && c.Yes {
			a = c
		}
		if a.Yes && a.Ongoing && r.AllowOngoing ||
			a.Yes && a.Day != "" &&
				slices.ContainsFunc(r.Outcomes, func(o Outcome) bool { return o.Days > 0 && today < a.Day.Plus(o.Days) }) {
			out[r.ID] = a
		}
	}
	return out
}

// MedicineConflict is a no that a medicine the client takes makes worth asking about, or
// that does not count because of it.
type MedicineConflict struct {
	Rule  string `json:"rule"`
	Title string `json:"title"`
	// Medicine is what the client takes.
	Medicine string `json:"medicine"`
	// Counts says that the medicine answers the rule with yes whatever was said.
	Counts bool `json:"counts,omitempty"`
}

// MedicineConflicts lists them. They say nothing of why the medicine is taken.
func (p *Pack) MedicineConflicts(answers map[string]Answer, medicines []string) []MedicineConflict {
	out := []MedicineConflict{}
	who := ClientProfile{Medicines: medicines}
	for _, r := range p.Rules {
		if answers[r.ID].Yes {
			continue
		}
		if m, ok := who.takes(r.FromMedicines); ok {
			out = append(out, MedicineConflict{r.ID, r.Title, m, true})
		} else if m, ok := who.takes(r.AskMedicines); ok {
			out = append(out, MedicineConflict{r.ID, r.Title, m, false})
		}
	}
	return out
}
