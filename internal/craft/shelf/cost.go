package shelf

import (
	"errors"

	"github.com/shopspring/decimal"
)

// LotCost is a lot's cost, its amount received, and what is taken from it in order. Minor are the decimals
// of the currency, 2 where absent.
type LotCost struct {
	Cost   decimal.Decimal   `json:"cost"`
	Amount decimal.Decimal   `json:"amount"`
	Takes  []decimal.Decimal `json:"takes"`
	Minor  *int32            `json:"minor,omitempty"`
}

// OfTakes is the cost of each take: the lot's value before less its value after. So takes add up to the
// lot's cost to the cent.
func (l *LotCost) OfTakes() ([]decimal.Decimal, error) {
	if !l.Amount.IsPositive() {
		return nil, errors.New("the amount received must be above 0")
	}
	layer := Layer{Cost: l.Cost, Amount: l.Amount, Left: l.Amount, Minor: 2}
	if l.Minor != nil {
		layer.Minor = *l.Minor
	}
	out := make([]decimal.Decimal, len(l.Takes))
	for i, take := range l.Takes {
		if take.GreaterThan(layer.Left) {
			return nil, errors.New("more is taken than the lot holds")
		}
		out[i] = layer.Move(take.Neg()).Neg()
	}
	return out, nil
}

// Layer is what one delivery of a lot cost, the amount it brought and what is left of it. Minor are the
// decimals of the currency.
type Layer struct {
	Cost, Amount, Left decimal.Decimal
	Minor              int32
}

// Move adds an amount to what is left, or takes a negative one, and returns what the stock is worth more
// (or, below zero, less): the layer's value after less its value before, each rounded to the currency.
func (l *Layer) Move(amount decimal.Decimal) decimal.Decimal {
	before := valueOf(l.Cost, l.Left, l.Amount, l.Minor)
	l.Left = l.Left.Add(amount)
	return valueOf(l.Cost, l.Left, l.Amount, l.Minor).Sub(before)
}

// valueOf is the part of a cost that is left, rounded to the currency.
func valueOf(cost, left, amount decimal.Decimal, minor int32) decimal.Decimal {
	return cost.Mul(left).DivRound(amount, minor+12).Round(minor)
}

// Issue is something that comes in at a cost, or goes out.
type Issue struct {
	In   *decimal.Decimal `json:"in,omitempty"`
	Cost *decimal.Decimal `json:"cost,omitempty"`
	Out  *decimal.Decimal `json:"out,omitempty"`
}

// StockValue is what is left and its worth two ways: first in, first out, and by moving average.
type StockValue struct {
	Left    decimal.Decimal `json:"left"`
	FIFO    decimal.Decimal `json:"fifo"`
	Average decimal.Decimal `json:"average"`
}

// Value works out the worth of what is left after receipts and takes in order. First in, first out
// empties lots by day of receipt, what is left of one valued as a lot; the moving average takes
// round(value x amount / left) at each issue, all of it at the last (handbook, chapter 4).
func Value(issues []Issue) (StockValue, error) {
	type layer struct{ cost, amount, left decimal.Decimal }
	var layers []layer
	var out StockValue
	for _, i := range issues {
		switch {
		case i.In != nil && i.Cost != nil:
			layers = append(layers, layer{*i.Cost, *i.In, *i.In})
			out.Left, out.Average = out.Left.Add(*i.In), out.Average.Add(*i.Cost)
		case i.Out != nil:
			if i.Out.GreaterThan(out.Left) {
				return out, errors.New("more goes out than there is")
			}
			out.Average, out.Left = out.Average.Sub(AveragePart(out.Average, *i.Out, out.Left)), out.Left.Sub(*i.Out)
			for k, rest := 0, *i.Out; k < len(layers) && rest.IsPositive(); k++ {
				n := decimal.Min(rest, layers[k].left)
				layers[k].left, rest = layers[k].left.Sub(n), rest.Sub(n)
			}
		default:
			return out, errors.New("each entry needs in with its cost, or out")
		}
	}
	for _, l := range layers {
		if l.left.IsPositive() {
			out.FIFO = out.FIFO.Add(valueOf(l.cost, l.left, l.amount, 2))
		}
	}
	return out, nil
}

// AveragePart is what an amount that goes out takes of a worth by moving average: its part of what is left,
// all of it with the last.
func AveragePart(worth, out, left decimal.Decimal) decimal.Decimal {
	if out.GreaterThanOrEqual(left) {
		return worth
	}
	return valueOf(worth, out, left, 2)
}

// FirstOut is the worth of what is left of a product where its layers, oldest first, were emptied in that order:
// the newest are left, each valued as a lot.
func FirstOut(layers []Layer, left decimal.Decimal) decimal.Decimal {
	sum := decimal.Zero
	for i := len(layers) - 1; i >= 0 && left.IsPositive(); i-- {
		l := layers[i]
		l.Left = decimal.Min(l.Amount, left)
		sum, left = sum.Add(l.Worth(l.Left)), left.Sub(l.Left)
	}
	return sum
}

// Worth is what a part of what is left is worth, rounded to the currency.
func (l *Layer) Worth(part decimal.Decimal) decimal.Decimal {
	return valueOf(l.Cost, part, l.Amount, l.Minor)
}
