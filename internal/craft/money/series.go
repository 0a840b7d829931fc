package money

import (
	"errors"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
)

// RefundRule says what an unfinished series gives back.
type RefundRule string

// The rules of a refund: what the visits given cost as shares of the series, or at their single prices.
const (
	ProRata RefundRule = "pro-rata"
	Single  RefundRule = "single"
)

// UnfinishedSeries is a series of which the first visits were given. Weights share the price over its visits;
// Singles are their single prices. Minor are the decimals of the currency, 2 where absent.
type UnfinishedSeries struct {
	Price     decimal.Decimal   `json:"price"`
	Paid      decimal.Decimal   `json:"paid"`
	Weights   []decimal.Decimal `json:"weights"`
	Delivered int               `json:"delivered"`
	Rule      RefundRule        `json:"rule"`
	Singles   []decimal.Decimal `json:"singles,omitempty"`
	Minor     *int32            `json:"minor,omitempty"`
}

// Refund is what was paid less what the visits given cost by the rule, never below zero (handbook, chapter 8).
func (s *UnfinishedSeries) Refund() (decimal.Decimal, error) {
	if s.Delivered < 0 || s.Delivered > len(s.Weights) {
		return decimal.Zero, errors.New("more visits were given than the series has")
	}
	return RefundOf(s.Rule, s.Paid, Shares(s.Price, s.Weights, minorOf(s.Minor))[:s.Delivered], s.Singles)
}

// RefundOf is what was paid less what the visits given cost by the rule: their gross shares of the price, or their
// single prices; never below zero.
func RefundOf(rule RefundRule, paid decimal.Decimal, sharesGiven, singles []decimal.Decimal) (decimal.Decimal, error) {
	each := sharesGiven
	switch {
	case rule == Single && len(singles) < len(sharesGiven):
		return decimal.Zero, errors.New("each visit that was given needs its single price")
	case rule == Single:
		each = singles[:len(sharesGiven)]
	case rule != ProRata:
		return decimal.Zero, errors.New("the rule must be pro-rata or single")
	}
	for _, one := range each {
		paid = paid.Sub(one)
	}
	return decimal.Max(decimal.Zero, paid), nil
}

// TaxBack is the tax in a refund of a series: all that is left where the refund is what is left of the price, else
// the refund's own at the rate (handbook, chapter 8).
func TaxBack(refund, grossLeft, taxLeft, rate decimal.Decimal, minor int32) decimal.Decimal {
	if refund.Equal(grossLeft) {
		return taxLeft
	}
	return includedTax(refund, rate, minor)
}

// includedTax is the tax that an amount has in it.
func includedTax(gross, rate decimal.Decimal, minor int32) decimal.Decimal {
	return gross.Mul(rate).DivRound(hundred.Add(rate), minor)
}

// SoldSeries is a series sold on a day and good for so many months, frozen from some days up to, not with, others.
type SoldSeries struct {
	Sold   calendar.Day      `json:"sold"`
	Months int               `json:"months"`
	Frozen [][2]calendar.Day `json:"frozen"`
}

// LastDay is the last day of the series: the day sold plus its months by the calendar, plus the days frozen, each
// counted once (handbook, chapter 8).
func (s *SoldSeries) LastDay() (calendar.Day, error) {
	sold, err := time.Parse(time.DateOnly, string(s.Sold))
	if err != nil || s.Months < 0 {
		return "", errors.New("a series needs the day it was sold, and months not below 0")
	}
	frozen := map[calendar.Day]bool{}
	for _, f := range s.Frozen {
		if !f[0].Valid() || !f[1].Valid() || f[1] < f[0] {
			return "", errors.New("a series is frozen from a day to a later one")
		}
		for d := f[0]; d < f[1]; d = d.Plus(1) {
			frozen[d] = true
		}
	}
	last := calendar.Day(calendar.AddMonths(sold, s.Months).Format(time.DateOnly))
	return last.Plus(len(frozen)), nil
}

// Deposit is an amount paid ahead, with its tax in it.
func Deposit(gross decimal.Decimal, rate *decimal.Decimal, minor int32) Taxed {
	if rate == nil {
		return Taxed{Net: gross, Gross: gross}
	}
	tax := includedTax(gross, *rate, minor)
	return Taxed{Net: gross.Sub(tax), Tax: tax, Gross: gross}
}
