// Package money knows what a studio takes, owes and earns: shares, taxes, discounts, refunds, costs, prices for a
// margin, card payments, the till and the ledger (handbook, chapter 8). Amounts are exact decimals in one
// currency; minor is how many decimals it has (ISO 4217: EUR 2, JPY 0). Rounding is half
// away from zero.
package money

import (
	"slices"

	"github.com/shopspring/decimal"
)

// Shares gives a total away over weights by largest remainder, so that the shares add up
// to it exactly: each share is rounded down to the smallest unit, and what is left over
// goes one unit each to the largest remainders, the earliest first where they are equal.
// Weights that are all 0 count as equal. A negative total is shared without its sign.
func Shares(total decimal.Decimal, weights []decimal.Decimal, minor int32) []decimal.Decimal {
	if len(weights) == 0 {
		return nil
	}
	sum := decimal.Zero
	for _, w := range weights {
		sum = sum.Add(w)
	}
	if sum.IsZero() {
		weights = slices.Repeat([]decimal.Decimal{decimal.NewFromInt(1)}, len(weights))
		sum = decimal.NewFromInt(int64(len(weights)))
	}
	units := total.Abs().Shift(minor)
	left, order := units, make([]int, len(weights))
	shares, rest := make([]decimal.Decimal, len(weights)), make([]decimal.Decimal, len(weights))
	for i, w := range weights {
		order[i] = i
		shares[i], rest[i] = units.Mul(w).QuoRem(sum, 0)
		left = left.Sub(shares[i])
	}
	slices.SortStableFunc(order, func(a, b int) int { return rest[b].Cmp(rest[a]) })
	for i := 0; left.IsPositive(); i++ {
		shares[order[i]] = shares[order[i]].Add(decimal.NewFromInt(1))
		left = left.Sub(decimal.NewFromInt(1))
	}
	for i := range shares {
		shares[i] = shares[i].Shift(-minor)
		if total.IsNegative() {
			shares[i] = shares[i].Neg()
		}
	}
	return shares
}

// TaxMode says whether prices have their tax in them.
type TaxMode string

// The modes of tax.
const (
	TaxIncluded TaxMode = "included"
	TaxAdded    TaxMode = "added"
)

// Line is an amount on a receipt, after discounts. Rate is its tax in per cent; nil where
// it bears none, which is not the same as 0 %.
type Line struct {
	Amount decimal.Decimal
	Rate   *decimal.Decimal
}

// Taxed is an amount without tax, its tax, and both together.
type Taxed struct{ Net, Tax, Gross decimal.Decimal }

// Tax works out what a receipt's lines bear: it is rounded once for each rate, and shared
// over the lines of that rate by their amounts. The second answer is the same by rate.
func Tax(lines []Line, mode TaxMode, minor int32) ([]Taxed, map[string]Taxed) {
	out, rates := make([]Taxed, len(lines)), map[string]Taxed{}
	byRate := map[string][]int{}
	for i, l := range lines {
		if l.Rate == nil {
			out[i] = Taxed{Net: l.Amount, Gross: l.Amount}
			continue
		}
		byRate[l.Rate.String()] = append(byRate[l.Rate.String()], i)
	}
	hundred := decimal.NewFromInt(100)
	for rate, at := range byRate {
		r, sum, amounts := *lines[at[0]].Rate, decimal.Zero, make([]decimal.Decimal, len(at))
		for k, i := range at {
			amounts[k] = lines[i].Amount.Abs()
			sum = sum.Add(lines[i].Amount)
		}
		per := hundred
		if mode == TaxIncluded {
			per = per.Add(r)
		}
		tax := sum.Mul(r).DivRound(per, minor)
		for k, share := range Shares(tax, amounts, minor) {
			out[at[k]] = taxed(lines[at[k]].Amount, share, mode)
		}
		rates[rate] = taxed(sum, tax, mode)
	}
	return out, rates
}

func taxed(amount, tax decimal.Decimal, mode TaxMode) Taxed {
	if mode == TaxIncluded {
		return Taxed{Net: amount.Sub(tax), Tax: tax, Gross: amount}
	}
	return Taxed{Net: amount, Tax: tax, Gross: amount.Add(tax)}
}
