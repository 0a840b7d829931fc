package money

import (
	"errors"

	"github.com/shopspring/decimal"
)

// Cash is what changes hands for a rest where coins are missing: the rest rounded to the step; negative where money
// is given back. A step of 0 rounds nothing (handbook, chapter 8).
func Cash(rest, step decimal.Decimal) (decimal.Decimal, error) {
	if step.IsNegative() {
		return decimal.Zero, errors.New("the step of cash must not be below 0")
	}
	if step.IsZero() {
		return rest, nil
	}
	return rest.DivRound(step, 0).Mul(step), nil
}

// Till is a day's cash: what was in the till, what came and went, what is to stay in it, and what was counted of each
// coin and note.
type Till struct {
	Float   decimal.Decimal `json:"float"`
	Sales   decimal.Decimal `json:"sales"`
	PaidIn  decimal.Decimal `json:"paidIn"`
	Refunds decimal.Decimal `json:"refunds"`
	PaidOut decimal.Decimal `json:"paidOut"`
	Keep    decimal.Decimal `json:"keep"`
	// Count is how many there are, by the worth of a coin or note.
	Count map[string]int `json:"count"`
}

// Closing is what a till should hold, what it holds, the difference, and what goes to the bank.
type Closing struct {
	Expected   decimal.Decimal `json:"expected"`
	Counted    decimal.Decimal `json:"counted"`
	Difference decimal.Decimal `json:"difference"`
	ToBank     decimal.Decimal `json:"toBank"`
}

// Close counts a till: expected = float + cash sales + paid in - refunds - paid out; the difference is counted less
// expected; what is above the float to keep goes to the bank (handbook, chapter 8, Day close).
func (t *Till) Close() (Closing, error) {
	c := Closing{Expected: t.Float.Add(t.Sales).Add(t.PaidIn).Sub(t.Refunds).Sub(t.PaidOut)}
	for worth, n := range t.Count {
		each, err := decimal.NewFromString(worth)
		if err != nil || !each.IsPositive() || n < 0 {
			return c, errors.New("each coin and note needs a worth above 0, and a number of them")
		}
		c.Counted = c.Counted.Add(each.Mul(decimal.NewFromInt(int64(n))))
	}
	c.Difference = c.Counted.Sub(c.Expected)
	c.ToBank = decimal.Max(decimal.Zero, c.Counted.Sub(t.Keep))
	return c, nil
}

// CoinsAndNotes are the worths of coins and notes in falling order, as most currencies have them: 1, 2 and 5 in every
// power of ten, from the smallest unit to 500 of the larger (from memory: the euro and most others; 1000 times as much
// where a currency has no smaller unit).
func CoinsAndNotes(minor int32) []string {
	smallest, largest := -minor, int32(2)
	if minor == 0 {
		smallest, largest = 0, 4
	}
	var out []string
	for power := largest; power >= smallest; power-- {
		for _, n := range []int64{5, 2, 1} {
			decimals := int32(0)
			if power < 0 {
				decimals = minor
			}
			out = append(out, decimal.New(n, power).StringFixed(decimals))
		}
	}
	return out
}

// Handed are the sums that somebody is likely to hand over for an amount in cash: the amount itself, and the next whole
// 5, 10, 20, 50 and 100 above it.
func Handed(amount decimal.Decimal) []decimal.Decimal {
	if !amount.IsPositive() {
		return nil
	}
	out := []decimal.Decimal{amount}
	for _, whole := range []int64{5, 10, 20, 50, 100} {
		of := decimal.NewFromInt(whole)
		next := amount.DivRound(of, exact).Ceil().Mul(of)
		if next.GreaterThan(out[len(out)-1]) {
			out = append(out, next)
		}
	}
	return out
}

// CountOf is an amount in the fewest coins and notes.
func CountOf(amount decimal.Decimal, minor int32) map[string]int {
	out := map[string]int{}
	for _, piece := range CoinsAndNotes(minor) {
		worth := decimal.RequireFromString(piece)
		n := amount.DivRound(worth, exact).Floor()
		if n.IsPositive() {
			out[piece] = int(n.IntPart())
			amount = amount.Sub(n.Mul(worth))
		}
	}
	return out
}
