// Package contraindication turns the answers of a consultation and a pre-treatment
// check into what may be done today.
//
// A [Pack] is data: rules with a plain question, the outcomes of a yes, how long
// they run, why, and the basis of it. [Pack.Evaluate] gives every outcome that
// applies, and the strictest as the headline. [Constraints] merge the outcomes into
// the limits that package adjusting applies to a protocol.
//
// The package never diagnoses. It gives the contraindications usually taught in the
// trade and defers to local regulations, to the practitioner's licence and to the
// client's doctor. Dates are civil days of the studio; the caller says which day is
// today.
package contraindication

import (
	"slices"
	"sort"

	"softpalm/internal/craft/calendar"
)

// Contraindication is an outcome of a rule that applies today.
type Contraindication struct {
	Rule        string       `json:"rule"`
	Title       string       `json:"title"`
	Kind        Kind         `json:"kind"`
	Until       calendar.Day `json:"until,omitempty"`
	Places      []ZoneSide   `json:"places,omitempty"`
	Outcome     Outcome      `json:"outcome"`
	Why         string       `json:"why"`
	Basis       string       `json:"basis"`
	RuleOfThumb bool         `json:"doubtful,omitempty"`
	// Allowed says that a doctor's letter, valid through Until, answers this.
	Allowed bool `json:"allowed,omitempty"`
}

// Result is what a pre-treatment check gives. NotBefore is the first day without a wait.
type Result struct {
	Headline    Headline           `json:"headline" enum:"go,go-with-changes,needs-letter,not-before,not-here,urgent"`
	NotBefore   calendar.Day       `json:"notBefore,omitempty"`
	Outcomes    []Contraindication `json:"outcomes"`
	PackVersion string             `json:"packVersion"`
}

// Evaluate judges answers that [Pack.Check] found nothing lacking in. Skin
// states answer the rules that follow from them, the age those that ask nothing.
func (p *Pack) Evaluate(answers map[string]Answer, who ClientProfile, today calendar.Day) Result {
	res := Result{Headline: OKToTreat, PackVersion: p.Version, Outcomes: []Contraindication{}}
	age := who.Age(today)
	for _, r := range p.Rules {
		a := answers[r.ID]
		for _, s := range r.FromSkin {
			a.Yes = a.Yes || slices.Contains(who.SkinStates, s)
		}
		if _, ok := who.takes(r.FromMedicines); ok && !a.Yes {
			a = Answer{Yes: true, Day: today}
		}
		if !r.given(a) {
			continue
		}
		for _, o := range r.Outcomes {
			ap, ok := r.apply(o, a, age, today)
			if !ok {
				continue
			}
			if o.AsksLetter() {
				for _, l := range who.Letters {
					if l.Rule == r.ID && today <= l.Until {
						ap.Kind, ap.Until, ap.Places, ap.Outcome.Instruction = Precaution, l.Until, nil, ""
						ap.Allowed = true
					}
				}
			}
			if ap.Kind == Wait && ap.Until > res.NotBefore {
				res.NotBefore = ap.Until
			}
			if h := ap.Kind.headline(); rank[h] > rank[res.Headline] {
				res.Headline = h
			}
			res.Outcomes = append(res.Outcomes, ap)
		}
	}
	for _, ap := range who.ofAllergies() {
		if h := ap.Kind.headline(); rank[h] > rank[res.Headline] {
			res.Headline = h
		}
		res.Outcomes = append(res.Outcomes, ap)
	}
	sort.SliceStable(res.Outcomes, func(i, j int) bool {
		return rank[res.Outcomes[i].Kind.headline()] > rank[res.Outcomes[j].Kind.headline()]
	})
	return res
}

// apply gives an outcome of the rule as it holds today, or false where it does
// not: its days are over, or the client's age or week is another.
func (r *Rule) apply(o Outcome, a Answer, age int, today calendar.Day) (Contraindication, bool) {
	ap := Contraindication{
		Rule:        r.ID,
		Title:       r.Title,
		Kind:        o.Kind,
		Outcome:     o,
		Why:         r.Why,
		Basis:       r.Basis,
		RuleOfThumb: r.RuleOfThumb,
	}
	if age < 0 {
		if o.UnderAge > 0 || r.AnswerType == Nothing {
			return ap, false
		}
	} else if age < o.FromAge || (o.UnderAge > 0 && age >= o.UnderAge) {
		return ap, false
	}
	if r.AnswerType == DueDate && a.Day != "" {
		w := week(a.Day, today)
		if a.Day.Since(today) < -overdueDays || w < o.FromWeek || (o.BeforeWeek > 0 && w >= o.BeforeWeek) {
			return ap, false
		}
	}
	if worst, uneven := a.worst(); worst < o.FromGrade || uneven < o.Uneven || o.Option != a.Option && r.AnswerType == Choice {
		return ap, false
	}
	if o.Days > 0 {
		from := a.Day
		if from == "" || a.Ongoing && r.AllowOngoing {
			from = today
		}
		ap.Until = from.Plus(o.Days)
		if today >= ap.Until {
			return ap, false
		}
	}
	ap.Places = o.places(a.Zones)
	return ap, true
}
