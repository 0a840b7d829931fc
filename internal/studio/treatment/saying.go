package treatment

import (
	"math"
	"strconv"
	"strings"

	"softpalm/internal/craft/measuring"
	"softpalm/words"
)

// Said is a sentence about what was measured or graded.
type Said struct {
	// Verdict is change, no-change or too-few; empty where nothing is judged.
	Verdict measuring.Verdict `json:"verdict,omitempty" enum:"change,no-change,too-few,"`
	Text    string            `json:"text"`
}

// amountOf is a length or an angle in words, with its sign where it is a change.
func amountOf(v float64, with measuring.Instrument, signed bool) string {
	text := strconv.FormatFloat(math.Round(math.Abs(v)*10)/10, 'f', 1, 64)
	if signed && text != "0.0" {
		sign := "+"
		if v < 0 {
			sign = "−"
		}
		text = sign + text
	}
	if with == measuring.Photo {
		return text + "°"
	}
	return text + " mm"
}

// sayChange says what a change comes to; a change inside the noise is never called one. A hope counts where it was stated
// before.
func sayChange(verdict measuring.Verdict, change float64, noise *float64, with measuring.Instrument, hope string) string {
	switch {
	case verdict == measuring.TooFew || noise == nil:
		return words.BriefMeasureTooFew
	case verdict == measuring.NoChange:
		return words.BriefMeasureNoChange(amountOf(change, with, false), amountOf(*noise, with, false))
	}
	text := words.BriefMeasureChange(amountOf(change, with, true), amountOf(*noise, with, false))
	switch {
	case hope == "":
		return text
	case (hope == "longer") == (change > 0):
		return words.BriefMeasureHoped(text)
	}
	return words.BriefMeasureAgainst(text)
}

// provisional adds that few repeats are behind a verdict.
func provisional(text string, j *measuring.Judged) string {
	if j.Provisional && j.Multiplier != nil {
		return words.BriefMeasureProvisional(text, j.Nu)
	}
	return text
}

// sayAsymmetry says whether left and right differ.
func sayAsymmetry(m *measuring.Measure, left, right float64, j *measuring.Judged, with measuring.Instrument) Said {
	if j.AsymmetryLimitMM == nil {
		return Said{measuring.TooFew, words.BriefAsymmetryTooFew}
	}
	difference, noise := amountOf(left-right, with, false), amountOf(*j.AsymmetryLimitMM, with, false)
	if !*j.Real {
		return Said{measuring.NoChange, words.BriefAsymmetryNone(difference, noise)}
	}
	index := strconv.FormatFloat(math.Abs(math.Round(*j.Asymmetry*10)/10), 'f', 1, 64)
	return Said{measuring.Change, provisional(words.BriefAsymmetryReal(index, difference, noise, m.Weaker(left-right), *j.ExtraPercent), j)}
}

// sayGrades says how grades by the same person moved; grades are never measured.
func sayGrades(m *measuring.Measure, first, last float64, day string) Said {
	d := math.Abs(last - first)
	n := strings.TrimSuffix(strconv.FormatFloat(d, 'f', 1, 64), ".0")
	switch {
	case d == 0:
		return Said{measuring.NoChange, words.BriefGradedSame(day)}
	case d < m.Step:
		return Said{measuring.NoChange, words.BriefGradedNear(day, n)}
	case last < first:
		return Said{measuring.Change, words.BriefGradedLower(n, day)}
	}
	return Said{measuring.Change, words.BriefGradedHigher(n, day)}
}
