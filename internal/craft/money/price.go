package money

import (
	"errors"

	"github.com/shopspring/decimal"
)

// Wanted is a margin that a price is asked for: of the net in per cent, or for each busy minute. OtherCost are the
// terms that do not hang on the price; CardShare is the part of visits paid by card, 1 where absent.
type Wanted struct {
	Rate              decimal.Decimal  `json:"rate"`
	CardPercent       decimal.Decimal  `json:"cardPercent"`
	CardFixed         decimal.Decimal  `json:"cardFixed"`
	CardShare         *decimal.Decimal `json:"cardShare,omitempty"`
	CommissionPercent decimal.Decimal  `json:"commissionPercent,omitempty"`
	OtherCost         decimal.Decimal  `json:"otherCost"`
	Step              decimal.Decimal  `json:"step"`
	Percent           *decimal.Decimal `json:"percent,omitempty"`
	PerMinute         *decimal.Decimal `json:"perMinute,omitempty"`
	BusyMinutes       decimal.Decimal  `json:"busyMinutes,omitempty"`
}

// Price is the least gross price on the step that leaves the margin; nil where no price does (handbook, chapter 8):
// (C [+ w x minutes]) / (1 [- p] - k - c (1 + r)) x (1 + r), rounded up.
func (w *Wanted) Price() (*decimal.Decimal, error) {
	if !w.Step.IsPositive() {
		return nil, errors.New("the step of prices must be above 0")
	}
	if (w.Percent == nil) == (w.PerMinute == nil) {
		return nil, errors.New("say the margin either in per cent or for each minute")
	}
	share := decimal.NewFromInt(1)
	if w.CardShare != nil {
		share = *w.CardShare
	}
	// In hundredths, so that nothing is rounded before the one division.
	withTax := hundred.Add(w.Rate)
	divisor := hundred.Sub(w.CommissionPercent).Mul(hundred).Sub(w.CardPercent.Mul(share).Mul(withTax))
	need := w.OtherCost.Add(w.CardFixed.Mul(share))
	if w.Percent != nil {
		divisor = divisor.Sub(w.Percent.Mul(hundred))
	} else {
		need = need.Add(w.PerMinute.Mul(w.BusyMinutes))
	}
	if !divisor.IsPositive() {
		return nil, nil
	}
	// gross = need / (divisor / 10000) x withTax / 100, counted in steps and rounded up.
	steps, rest := need.Mul(withTax).Mul(hundred).QuoRem(divisor.Mul(w.Step), 0)
	if rest.IsPositive() {
		steps = steps.Add(decimal.NewFromInt(1))
	}
	price := steps.Mul(w.Step)
	return &price, nil
}

// LostShare is the part of visits that may stay away before a higher price costs more than it brings: the net rise
// over the margin with it; nil where nothing is risen or left (handbook, chapter 8, the tenth question).
func LostShare(netRise, margin decimal.Decimal) *decimal.Decimal {
	with := margin.Add(netRise)
	if !netRise.IsPositive() || !with.IsPositive() {
		return nil
	}
	share := netRise.DivRound(with, 4)
	return &share
}

// Bases are a practitioner's net takings of treatments and of retail sold; per cents of them in the other use.
type Bases struct {
	Treatment decimal.Decimal `json:"treatment"`
	Retail    decimal.Decimal `json:"retail"`
}

// Commissions are takings and per cents by practitioner. Minor are the decimals of the currency, 2 where absent.
type Commissions struct {
	Bases   map[string]Bases `json:"bases"`
	Percent map[string]Bases `json:"percent"`
	Minor   *int32           `json:"minor,omitempty"`
}

// Commission is what each practitioner is owed: treatments and retail rounded each (handbook, chapter 8). Nobody
// without a per cent is owed anything.
func (c *Commissions) Commission() (map[string]decimal.Decimal, error) {
	out, minor := map[string]decimal.Decimal{}, minorOf(c.Minor)
	for who, base := range c.Bases {
		percent := c.Percent[who]
		out[who] = percentOf(base.Treatment, percent.Treatment, minor).Add(percentOf(base.Retail, percent.Retail, minor))
	}
	return out, nil
}

// Fee is what is proposed for a visit cancelled late or missed: so many per cent of its price.
func Fee(price decimal.Decimal, percent int, minor int32) decimal.Decimal {
	return percentOf(price, decimal.NewFromInt(int64(percent)), minor)
}

// CommissionPostings owe a practitioner a commission; none where it is 0.
func CommissionPostings(amount decimal.Decimal, practitioner string) []Posting {
	if amount.IsZero() {
		return nil
	}
	return []Posting{
		{Account: CommissionPaid, Amount: amount, Practitioner: practitioner},
		{Account: CommissionOwed, Amount: amount.Neg(), Practitioner: practitioner},
	}
}
