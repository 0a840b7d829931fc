// Package patch knows which products need a patch test on which skin, how a test is
// read, and how long its result is valid.
package patch

import (
	"slices"
	"time"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/slip"
)

// PatchSensitive reports whether a client's skin counts as sensitive for patch
// tests: by its state, or by the answer.
func PatchSensitive(states []string, answers map[string]contraindication.Answer) bool {
	return slices.Contains(states, "sensitive") || answers["sensitive"].Yes
}

// PatchGrade is how the skin answered a patch test.
type PatchGrade string

// The grades, by the scale of the International Contact Dermatitis Research Group
// (from memory): negative, doubtful (?+), weak (+), strong (++), extreme (+++),
// and irritant.
const (
	Negative PatchGrade = "negative"
	Doubtful PatchGrade = "doubtful"
	Weak     PatchGrade = "weak"
	Strong   PatchGrade = "strong"
	Extreme  PatchGrade = "extreme"
	Irritant PatchGrade = "irritant"
)

// PatchGrades lists the grades, the mildest first.
var PatchGrades = []PatchGrade{Negative, Doubtful, Weak, Strong, Extreme, Irritant}

// Reading is one look at a patch test.
type Reading struct {
	// Hours after it was applied that the reading is for.
	Hours int        `json:"hours" enum:"24,48"`
	Grade PatchGrade `json:"grade" enum:"negative,doubtful,weak,strong,extreme,irritant"`
	At    time.Time  `json:"at"`
	// FromPicture says that it was made from the client's picture, as the 48-hour one may be.
	FromPicture bool `json:"fromPicture,omitempty"`
}

// PatchTest is a product tried on a small place.
type PatchTest struct {
	Product string    `json:"product"`
	Applied time.Time `json:"applied"`
	// Months a negative result holds from the day it was applied.
	Months   int       `json:"months" minimum:"1" maximum:"36"`
	Readings []Reading `json:"readings"`
}

// PatchState is the state of a patch test.
type PatchState string

// The states. A negative reading after 24 hours lets the product be used; the
// one after 48 hours may still take that back.
const (
	PatchWaiting PatchState = "waiting" // too early for a reading
	PatchDue     PatchState = "due"     // a reading is due before it says anything
	PatchClear   PatchState = "clear"
	PatchOver    PatchState = "over" // negative, and too long ago
	PatchReacted PatchState = "reacted"
)

// Until is when a negative result no longer holds.
func (p *PatchTest) Until() time.Time { return calendar.AddMonths(p.Applied, p.Months) }

// readEarly is how much before its hour a reading may be made.
const readEarly = 4 * time.Hour

// State is the state of the test at a moment. A reaction remains whatever was
// read before or after it.
func (p *PatchTest) State(now time.Time) PatchState {
	for _, r := range p.Readings {
		if r.Grade != Negative {
			return PatchReacted
		}
	}
	switch {
	case len(p.Readings) > 0 && !now.Before(p.Until()):
		return PatchOver
	case len(p.Readings) > 0:
		return PatchClear
	case now.Before(p.Applied.Add(24*time.Hour - readEarly)):
		return PatchWaiting
	}
	return PatchDue
}

// MayRead reports whether the reading for some hours may be made at a moment.
func (p *PatchTest) MayRead(hours int, now time.Time) bool {
	if hours != 24 && hours != 48 || slices.ContainsFunc(p.Readings, func(r Reading) bool { return r.Hours == hours }) {
		return false
	}
	return !now.Before(p.Applied.Add(time.Duration(hours)*time.Hour - readEarly))
}

// leaveOn reports whether a form stays on the skin; milk is wiped off and mist
// is mostly water.
func leaveOn(f slip.Form) bool { return f != slip.Milk && f != slip.Mist }

// active reports whether a product is one that is tested on any skin: an active
// or an essential oil.
func active(p *slip.Product) bool {
	return p.HasTag("active", "acid", "retinoid", "exfoliant", "essential-oil", "salicylic", "hydroquinone")
}

// PatchNeeds sorts out, at a moment, which products a client needs a patch test
// of before they are used, and which ones a test showed a reaction to. Sensitive
// skin needs one of everything that stays on, any skin of an active or an
// essential oil; what was used in an earlier treatment is not new any more
// (handbook, chapter 5). Both lists are in the products' order.
func PatchNeeds(
	products []*slip.Product,
	sensitive bool,
	used map[string]bool,
	tests []PatchTest,
	now time.Time,
) (untested, reacted []string) {
	for _, p := range products {
		clear, bad := false, false
		for i := range tests {
			if tests[i].Product == p.Key {
				state := tests[i].State(now)
				clear, bad = clear || state == PatchClear, bad || state == PatchReacted
			}
		}
		switch {
		case bad:
			reacted = append(reacted, p.Key)
		case !clear && !used[p.Key] && (active(p) || sensitive && leaveOn(p.Form)):
			untested = append(untested, p.Key)
		}
	}
	return untested, reacted
}

// PatchOutcomes are what patch tests ask of a plan: products that need one first,
// and those that one showed a reaction to, by key (see [PatchNeeds]). They join
// the outcomes of the day's check when a plan is adjusted.
func PatchOutcomes(untested, reacted []string) []contraindication.Contraindication {
	var out []contraindication.Contraindication
	if len(reacted) > 0 {
		out = append(
			out,
			contraindication.Contraindication{
				Rule:    contraindication.PatchReaction,
				Title:   "Reaction to a patch test",
				Kind:    contraindication.Exclude,
				Outcome: contraindication.Outcome{Kind: contraindication.Exclude, Products: reacted},
				Why:     "The skin reacted to the patch test of this product.",
				Basis:   contraindication.CommonPractice,
			},
		)
	}
	if len(untested) > 0 {
		out = append(
			out,
			contraindication.Contraindication{
				Rule:    contraindication.PatchFirst,
				Title:   "Patch test first",
				Kind:    contraindication.Exclude,
				Outcome: contraindication.Outcome{Kind: contraindication.Exclude, Products: untested},
				Why:     "New on this skin: sensitive skin, an active ingredient or an essential oil needs a patch test first.",
				Basis:   contraindication.CommonPractice,
			},
		)
	}
	return out
}
