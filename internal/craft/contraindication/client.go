package contraindication

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/substance"
)

// ClientProfile is what a pack needs to know of the client besides the answers.
type ClientProfile struct {
	// Born is empty where it is not known.
	Born       calendar.Day
	SkinStates []string
	// Letters are the doctors' answers that allow what a rule asks a letter for.
	Letters []LetterConsent
	// Medicines by name, and what the client is allergic to.
	Medicines []string
	Allergies []substance.Allergy
}

// takes reports whether the client takes a medicine of one of the classes, and
// which.
func (s *ClientProfile) takes(classes []string) (string, bool) {
	if len(classes) > 0 {
		for _, m := range s.Medicines {
			if slices.Contains(classes, substance.Class(m)) {
				return m, true
			}
		}
	}
	return "", false
}

// LetterConsent is a doctor's written yes to what a rule asks a letter for, valid
// through its last day.
type LetterConsent struct {
	Rule  string       `json:"rule"`
	Until calendar.Day `json:"until"`
}

// Age returns whole years on a day. Someone born on 29 February is a year older
// on 1 March where there is no 29th. It is -1 where the birth date is not known.
func (s *ClientProfile) Age(today calendar.Day) int {
	if !s.Born.Valid() || !today.Valid() {
		return -1
	}
	b, t := string(s.Born), string(today)
	var by, ty int
	_, _ = fmt.Sscanf(b[:4], "%d", &by) // both are valid days
	_, _ = fmt.Sscanf(t[:4], "%d", &ty)
	if t[5:] < b[5:] {
		return ty - by - 1
	}
	return ty - by
}

// pregnancyDays counts from the first day of the last cycle to the expected
// date of birth (common practice); nobody is taken to be pregnant three weeks after it.
const (
	pregnancyDays = 280
	overdueDays   = 21
)

// week returns the completed weeks of pregnancy on a day.
func week(due, today calendar.Day) int { return (pregnancyDays - due.Since(today)) / 7 }

// ofAllergies are the outcomes of what the client is allergic to.
func (s *ClientProfile) ofAllergies() []Contraindication {
	var out []Contraindication
	for i := range s.Allergies {
		a := &s.Allergies[i]
		does := ""
		if a.Kind == "words" {
			does = "This is not in our tables. Read the label of every product."
		}
		out = append(
			out,
			Contraindication{
				Rule:    "allergy/" + a.Key,
				Title:   "Allergic to " + a.Name,
				Kind:    Exclude,
				Outcome: Outcome{Kind: Exclude, Allergy: a, Instruction: does},
				Why:     "The client named this allergy, so products that contain it are not used.",
				Basis:   CommonPractice,
			},
		)
	}
	return out
}
