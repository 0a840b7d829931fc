package reaction

import (
	"strings"
	"time"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/words"
)

// Standing is a bar that a reaction left on a product for a client.
type Standing struct {
	Product string
	Name    string
	Bar     Bar
	// Since is when the reaction was noticed: only a patch test applied after it can lift the bar.
	Since time.Time
}

// Now is the bar at a moment: one until a patch test is lifted by a test applied after the reaction that reads negative.
func (s *Standing) Now(tests []patch.PatchTest, at time.Time) Bar {
	if s.Bar != BlockedUntilPatch {
		return s.Bar
	}
	for i := range tests {
		t := &tests[i]
		if t.Product == s.Product && t.Applied.After(s.Since) && t.State(at) == patch.PatchClear {
			return Free
		}
	}
	return s.Bar
}

// StandingNow are the bars on a client's products at a moment, the strictest of each, in the order in which they are
// given; free ones are left out.
func StandingNow(all []Standing, tests []patch.PatchTest, at time.Time) []Standing {
	var out []Standing
	place := map[string]int{}
	for i := range all {
		s := all[i]
		s.Bar = s.Now(tests, at)
		if s.Bar == Free || s.Bar == "" {
			continue
		}
		if k, ok := place[s.Product]; !ok {
			place[s.Product] = len(out)
			out = append(out, s)
		} else if stricter(s.Bar, out[k].Bar) {
			out[k] = s
		}
	}
	return out
}

// The rules under which earlier reactions speak.
const (
	Rule      = "reaction"
	PatchRule = "reaction-patch-test"
	AskRule   = "reaction-ask"
)

// Outcomes are what earlier reactions ask of a plan (see [StandingNow]): products that may not be used, those that need
// a patch test first, and a question before those that may. None can be overridden.
func Outcomes(bars []Standing) []contraindication.Contraindication {
	var out []contraindication.Contraindication
	for _, of := range []struct {
		bar        Bar
		rule       string
		kind       contraindication.Kind
		title, why string
	}{
		{Blocked, Rule, contraindication.Exclude, words.BriefReactionBlockedTitle, words.BriefReactionBlockedWhy},
		{BlockedUntilPatch, PatchRule, contraindication.Exclude, words.BriefReactionPatchTitle, words.BriefReactionPatchWhy},
		{Ask, AskRule, contraindication.Precaution, words.BriefReactionAskTitle, words.BriefReactionAskWhy},
	} {
		o := contraindication.Contraindication{
			Rule: of.rule, Title: of.title, Kind: of.kind, Outcome: contraindication.Outcome{Kind: of.kind}, Why: of.why,
			Basis: contraindication.CommonPractice,
		}
		var names []string
		for i := range bars {
			if bars[i].Bar == of.bar {
				o.Outcome.Products, names = append(o.Outcome.Products, bars[i].Product), append(names, bars[i].Name)
			}
		}
		if len(names) == 0 {
			continue
		}
		if of.bar == Ask {
			o.Outcome.Instruction = words.BriefAskBeforeUsing(strings.Join(names, ", "))
		}
		out = append(out, o)
	}
	return out
}
