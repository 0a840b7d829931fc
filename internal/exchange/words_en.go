package exchange

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// The English words of printed papers.

// clock writes seconds as 2:05.
func clock(seconds float64) string {
	s := int(seconds + 0.5)
	return fmt.Sprintf("%d:%02d", s/60, s%60)
}

func number(x float64) string { return strconv.FormatFloat(x, 'f', -1, 64) }

// doseWords says a dose in short.
func doseWords(d *stroke.Dose) string {
	sets := ""
	if d.Sets > 1 {
		sets = words.PaperSetsSetsOf(d.Sets)
	}
	switch d.Kind {
	case stroke.Reps:
		out := words.PaperSetsPlannedTimes(sets, d.Planned)
		if d.Reverse > 0 {
			out += words.PaperThenReverseInReverse(d.Reverse)
		}
		return out
	case stroke.Clock:
		return fmt.Sprintf("%s%d s", sets, d.Planned)
	case stroke.Breaths:
		out := words.PaperPlannedBreathsOfInInOutOut(d.Planned, number(d.In), number(d.Out))
		if d.Pulses > 0 {
			out += words.PaperPulsesPumpsOnEachOutBreath(d.Pulses)
		}
		return out
	case stroke.Counts:
		return words.PaperPlannedCounts(d.Planned, number(d.Seconds))
	case stroke.Positions:
		out := words.PaperPlacesPointsSecondsSPlannedTimesRound(d.Places, number(d.Seconds), d.Planned)
		if d.Senses > 1 {
			out += words.PaperEachWay
		}
		return out
	case stroke.Until:
		return words.PaperUntilSignAboutPlannedS(d.Sign, d.Planned)
	case stroke.Free:
		return words.PaperByFeelAboutPlannedS(d.Planned)
	case stroke.Unknown:
		return words.PaperNotStatedPlannedAsPlannedS(d.Planned)
	}
	return words.PaperProtocolDefault
}

// several is more than one of a thing: 2 warm towels, 2 brushes.
func several(n int, name string) string {
	letters := []rune(name)
	if len(letters) > 1 && unicode.IsLower(letters[1]) { // SPF stays as it is
		letters[0] = unicode.ToLower(letters[0])
		name = string(letters)
	}
	for _, end := range []string{"s", "x", "ch", "sh"} {
		if strings.HasSuffix(name, end) {
			return fmt.Sprintf("%d %ses", n, name)
		}
	}
	return fmt.Sprintf("%d %ss", n, name)
}

// setUpWords names one item of the set-up list.
// portionWords are the portions of a product, one after the other.
func portionWords(i *evaluation.SetUpItem) string {
	each := make([]string, len(i.Portions))
	for k := range i.Portions {
		each[k] = handAmount(&i.Portions[k])
	}
	list := strings.Join(each, words.PaperHandThen)
	if i.Total != nil {
		return words.PaperInPortions(handAmount(i.Total), len(each), list)
	}
	return list
}

// handAmount is an amount as a hand takes it, with its small print.
func handAmount(a *slip.HandAmount) string {
	n := number(a.Value)
	out := ""
	switch a.Unit {
	case slip.HandDrops:
		if out = words.PaperHandDrops(n); a.Value == 1 {
			out = words.PaperHandDrop
		}
	case slip.HandPumps:
		if out = words.PaperHandPumps(fraction(a.Value)); a.Value <= 1 {
			out = words.PaperHandPump(fraction(a.Value))
		}
	case slip.HandFingertips:
		if out = words.PaperHandFingertips(fraction(a.Value)); a.Value <= 1 {
			out = words.PaperHandFingertip(fraction(a.Value))
		}
	case slip.HandGrams:
		switch {
		case a.Value <= pea:
			out = words.PaperHandPea(fraction(a.Value))
		case a.Value < hazelnut:
			out = words.PaperHandHazelnut(fraction(a.Value))
		default:
			out = words.PaperHandGrams(n)
		}
	default:
		if a.Value < 1 {
			n = fraction(a.Value)
		}
		if out = words.PaperHandML(n); a.About {
			out = words.PaperHandAbout(out)
		}
	}
	if a.ML > 0 {
		out += words.PaperSmallPrintML(number(a.ML))
	}
	if a.G > 0 {
		out += words.PaperSmallPrintG(number(a.G))
	}
	return out
}

// A pea of cream is up to half a gram, a hazelnut less than two.
const (
	pea      = 0.5
	hazelnut = 2
)

// fraction writes halves and quarters as a hand counts them.
func fraction(x float64) string {
	whole, rest := math.Modf(x)
	sign := map[float64]string{0.25: "¼", 0.5: "½", 0.75: "¾"}[rest]
	if whole == 0 && sign != "" {
		return sign
	}
	return number(whole) + sign
}

func setUpWords(i evaluation.SetUpItem) string {
	many := func(n int, one, more string) string {
		if n == 1 {
			return one
		}
		return fmt.Sprintf("%d %s", n, more)
	}
	switch i.Kind {
	case "product":
		out := words.PaperNameAmount(i.Name, portionWords(&i))
		if i.Optional {
			out += words.PaperIfWanted
		}
		return out
	case "tool":
		out := i.Name
		if i.Count > 1 {
			out = several(i.Count, out)
		}
		if len(i.Parts) > 0 {
			out += ": " + strings.Join(i.Parts, ", ")
		}
		if i.Fragile {
			out += words.PaperFragileLayOnATowel
		}
		return out
	case "bowl":
		return many(i.Count, words.PaperABowl, "bowls")
	case "towel":
		return many(i.Count, words.PaperAFreshTowel, words.PaperFreshTowels)
	case "gloves":
		return many(i.Count, words.PaperAPairOfGloves, words.PaperPairsOfGloves)
	case "tissues":
		return words.PaperTissues
	case "water":
		return words.PaperAGlassOfWater
	case "hands":
		return words.PaperHandsWashedNailsShortRingsOff
	}
	return wordFor(i.Name)
}
