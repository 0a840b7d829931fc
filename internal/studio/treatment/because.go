package treatment

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/suggestion"
	"softpalm/words"
)

// pastVisit is a visit that the rules looked at, with its day.
type pastVisit struct {
	day time.Time
	suggestion.Visit
	account *guide.Account
}

// sayProposal says a proposal in a sentence.
func sayProposal(code, about string) string {
	switch code {
	case "lighter-here":
		return words.BriefNextLighterHere(about)
	case "ask-here":
		return words.BriefNextAskHere(about)
	case "product-again":
		return words.BriefNextProductAgain(about)
	case "other-form":
		return words.BriefNextOtherForm(about)
	case "leave-step":
		return words.BriefNextLeaveStep(about)
	case "longer-dose":
		return words.BriefNextLongerDose(about)
	case "more-on-side":
		return words.BriefNextMoreOnSide(about)
	}
	return map[string]string{
		"lighter-all": words.BriefNextLighterAll, "calmer": words.BriefNextCalmer, "book-longer": words.BriefNextBookLonger,
		"book-shorter": words.BriefNextBookShorter, "arrives-late": words.BriefNextArrivesLate, "quiet": words.BriefNextQuiet,
		"baseline": words.BriefNextBaseline, "measure-again": words.BriefNextMeasureAgain, "patch-first": words.BriefNextPatchFirst,
		"home-lighter": words.BriefNextHomeLighter,
	}[code]
}

// because lists what in the records a proposal comes from.
func because(p *Proposal, looked []pastVisit, past *suggestion.Past, zone *time.Location) []string {
	out := []string{}
	now := &looked[len(looked)-1]
	days := func(is func(v *pastVisit) bool) string {
		var list []string
		for i := range looked {
			if is(&looked[i]) {
				list = append(list, dayOf(looked[i].day, zone))
			}
		}
		return strings.Join(list, ", ")
	}
	marked := func(v *pastVisit, kind guide.Kind, key string) []int {
		var minutes []int
		for _, m := range v.account.Marks {
			if m.Kind == kind && (m.Zone+"/"+m.Side == key || m.Product == key) {
				minutes = append(minutes, int(math.Round(m.Minute)))
			}
		}
		return minutes
	}
	switch p.Code {
	case "lighter-here":
		for _, minute := range marked(now, guide.Tender, p.Key) {
			out = append(out, words.BriefBecauseTender(minute))
		}
	case "ask-here":
		out = append(out, words.BriefBecauseTenderOn(days(func(v *pastVisit) bool { return len(marked(v, guide.Tender, p.Key)) > 0 })))
	case "lighter-all":
		out = append(out, words.BriefBecauseLess(days(func(v *pastVisit) bool { return v.Less > 0 })))
	case "product-again":
		product, _, _ := strings.Cut(p.Key, "@")
		for _, minute := range marked(now, guide.Product, product) {
			out = append(out, words.BriefBecauseAdded(minute))
		}
	case "other-form":
		out = append(out, words.BriefBecauseAddedOn(days(func(v *pastVisit) bool { return len(marked(v, guide.Product, p.Key)) > 0 })))
	case "calmer":
		if now.ExpectedRedness == 0 {
			out = append(out, words.BriefBecauseRedAtAll(now.Redness))
		} else {
			out = append(out, words.BriefBecauseRed(now.Redness, now.ExpectedRedness))
		}
	case "leave-step":
		out = append(out, words.BriefBecauseSkipped(days(func(v *pastVisit) bool { return slices.Contains(v.Skipped, p.Key) })))
	case "longer-dose":
		out = append(out, words.BriefBecauseStayed(days(func(v *pastVisit) bool { return slices.Contains(v.Stayed, p.Key) })))
	case "book-longer", "book-shorter":
		for i := range looked {
			v := &looked[i]
			out = append(out, words.BriefBecauseTook(clock(v.Real), clock(v.Planned), dayOf(v.day, zone)))
		}
	case "arrives-late":
		for i := range looked {
			if v := &looked[i]; v.LateMinutes > 0 {
				out = append(out, words.BriefBecauseLate(v.LateMinutes, dayOf(v.day, zone)))
			}
		}
	case "quiet":
		out = append(out, words.BriefBecauseQuiet(days(func(v *pastVisit) bool { return v.Quiet })))
	case "baseline":
		out = append(out, words.BriefBecauseNothingMeasured)
	case "more-on-side":
		out = append(out, words.BriefBecauseAsymmetry)
	case "patch-first":
		out = append(out, words.BriefBecauseReaction(past.OpenReaction))
	case "measure-again":
		out = append(out, words.BriefBecauseMeasured(past.DaysSinceMeasured))
	}
	return out
}

// clock are seconds as m:ss.
func clock(seconds float64) string {
	s := int(seconds + 0.5)
	return fmt.Sprintf("%d:%02d", s/60, s%60)
}
