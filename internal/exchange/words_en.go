package exchange

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
)

// The English words of printed papers.

// mostDrops is the most drops anyone counts; a larger amount is given in mL only.
const mostDrops = 20

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
		sets = fmt.Sprintf("%d sets of ", d.Sets)
	}
	switch d.Kind {
	case stroke.Reps:
		out := fmt.Sprintf("%s%d times", sets, d.Planned)
		if d.Reverse > 0 {
			out += fmt.Sprintf(", then %d in reverse", d.Reverse)
		}
		return out
	case stroke.Clock:
		return fmt.Sprintf("%s%d s", sets, d.Planned)
	case stroke.Breaths:
		out := fmt.Sprintf("%d breaths of %s in, %s out", d.Planned, number(d.In), number(d.Out))
		if d.Pulses > 0 {
			out += fmt.Sprintf(", %d pumps on each out-breath", d.Pulses)
		}
		return out
	case stroke.Positions:
		out := fmt.Sprintf("%d points of %s s, %d times round", d.Places, number(d.Seconds), d.Planned)
		if d.Senses > 1 {
			out += " each way"
		}
		return out
	case stroke.Until:
		return fmt.Sprintf("until %s, about %d s", d.Sign, d.Planned)
	case stroke.Free:
		return fmt.Sprintf("by feel, about %d s", d.Planned)
	case stroke.Unknown:
		return fmt.Sprintf("not stated, planned as %d s", d.Planned)
	}
	return "protocol default"
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
func setUpWords(i evaluation.SetUpItem) string {
	many := func(n int, one, more string) string {
		if n == 1 {
			return one
		}
		return fmt.Sprintf("%d %s", n, more)
	}
	switch i.Kind {
	case "product":
		out := fmt.Sprintf("%s: %s mL", i.Name, number(math.Round(i.ML*10)/10))
		switch {
		case i.Pumps > 0:
			out += " (" + many(int(i.Pumps), "1 pump", "pumps") + ")"
		case i.Drops > 0 && i.Drops <= mostDrops:
			out += fmt.Sprintf(" (%s drops)", number(i.Drops))
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
			out += " (fragile: lay on a towel)"
		}
		return out
	case "bowl":
		return many(i.Count, "A bowl", "bowls")
	case "towel":
		return many(i.Count, "A fresh towel", "fresh towels")
	case "gloves":
		return many(i.Count, "A pair of gloves", "pairs of gloves")
	case "tissues":
		return "Tissues"
	case "water":
		return "A glass of water"
	case "hands":
		return "Hands washed, nails short, rings off"
	}
	return i.Name
}
