package money

import (
	"errors"

	"github.com/shopspring/decimal"
)

// Priced is a line before tax: so many of something at a price, less a per cent and an amount. A fixed line (a
// voucher, a tip) takes no share of a discount on the whole receipt.
type Priced struct {
	Qty     decimal.Decimal `json:"qty"`
	Price   decimal.Decimal `json:"price"`
	Percent decimal.Decimal `json:"percent,omitempty"`
	Off     decimal.Decimal `json:"off,omitempty"`
	Fixed   bool            `json:"fixed,omitempty"`
}

// Discounted are the lines of a receipt and a discount on all of them. Minor are the decimals of the currency,
// 2 where absent.
type Discounted struct {
	Lines           []Priced        `json:"lines"`
	ReceiptDiscount decimal.Decimal `json:"receiptDiscount"`
	Minor           *int32          `json:"minor,omitempty"`
}

// Amounts are the lines after all discounts: quantity x price, minus the rounded per cent, minus the amount off,
// minus the line's share of the discount on the receipt by largest remainder (handbook, chapter 8).
func (d *Discounted) Amounts() ([]decimal.Decimal, error) {
	minor := minorOf(d.Minor)
	out, weights := make([]decimal.Decimal, len(d.Lines)), make([]decimal.Decimal, len(d.Lines))
	sum := decimal.Zero
	for i, l := range d.Lines {
		if l.Percent.IsNegative() || l.Percent.GreaterThan(hundred) {
			return nil, errors.New("a discount must be from 0 to 100 %")
		}
		full := l.Qty.Mul(l.Price)
		out[i] = full.Round(minor).Sub(percentOf(full, l.Percent, minor)).Sub(l.Off)
		if !l.Fixed {
			weights[i] = out[i].Abs()
			sum = sum.Add(weights[i])
		}
	}
	if d.ReceiptDiscount.IsZero() {
		return out, nil
	}
	if d.ReceiptDiscount.GreaterThan(sum) {
		return nil, errors.New("the discount is more than the lines that may take one")
	}
	for i, share := range Shares(d.ReceiptDiscount, weights, minor) {
		out[i] = out[i].Sub(share)
	}
	return out, nil
}

var hundred = decimal.NewFromInt(100)

// percentOf is so many per cent of an amount, rounded to the currency.
func percentOf(amount, percent decimal.Decimal, minor int32) decimal.Decimal {
	return amount.Mul(percent).DivRound(hundred, minor)
}

// minorOf are the decimals of the currency, 2 where none are said.
func minorOf(minor *int32) int32 {
	if minor == nil {
		return 2
	}
	return *minor
}
