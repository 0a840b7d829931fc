package shelf

import (
	"slices"

	"github.com/shopspring/decimal"
)

// Against is use against plan over some records: how many there were, how many of them were weighed or counted, and
// of those the ratio of used to planned in the middle, with the range in which half of them lie.
type Against struct {
	Records  int             `json:"records"`
	Measured int             `json:"measured"`
	Median   decimal.Decimal `json:"median"`
	Low      decimal.Decimal `json:"low"`
	High     decimal.Decimal `json:"high"`
}

// Compare looks at use against plan. The range runs from the middle of the lower half to that of the upper half, the
// middle record counted in both (Tukey's hinges, common practice); ratios have two decimals, 0 where nothing was
// measured. What was written "as planned" tells nothing of the hand and is only counted.
func Compare(records []Dosed) Against {
	out := Against{Records: len(records)}
	var ratios []decimal.Decimal
	for i := range records {
		if r := &records[i]; r.How != AsPlanned && r.Planned.IsPositive() {
			ratios = append(ratios, r.Real.DivRound(r.Planned, exact))
		}
	}
	if out.Measured = len(ratios); out.Measured == 0 {
		return out
	}
	slices.SortFunc(ratios, decimal.Decimal.Cmp)
	half := (len(ratios) + 1) / 2
	out.Median = middle(ratios).Round(2)
	out.Low, out.High = middle(ratios[:half]).Round(2), middle(ratios[len(ratios)-half:]).Round(2)
	return out
}

// middle is the median of sorted numbers.
func middle(sorted []decimal.Decimal) decimal.Decimal {
	n := len(sorted)
	return decimal.Avg(sorted[(n-1)/2], sorted[n/2])
}
