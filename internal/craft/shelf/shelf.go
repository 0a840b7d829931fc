// Package shelf knows lots: which may be used, which goes first, what is left
// and what a treatment cost. Amounts are in the product's unit, money in exact
// decimals. Movements are only ever added; what is left is their sum.
package shelf

import (
	"fmt"

	"github.com/shopspring/decimal"
)

const dayLayout = "2006-01-02"

// Kind is a kind of stock movement.
type Kind string

// The kinds of movement. Receive and Return add; the others take; Stocktake may do either.
const (
	Receive   Kind = "receive"
	Treatment Kind = "treatment"
	Waste     Kind = "waste"
	Tester    Kind = "tester"
	Retail    Kind = "retail"
	Stocktake Kind = "stocktake"
	Dispose   Kind = "dispose"
	Return    Kind = "return"
)

// Fits reports whether an amount has the sign its kind wants: what is received or
// comes back is above zero, a stocktake either way, everything else leaves the
// shelf.
func (k Kind) Fits(amount decimal.Decimal) bool {
	switch k {
	case Receive, Return:
		return amount.IsPositive()
	case Stocktake:
		return !amount.IsZero()
	}
	return amount.IsNegative()
}

// Lot is one delivery of a product.
type Lot struct {
	ID     string
	Number string
	// Expiry and Opened are days (2006-01-02); Opened is empty for a closed pack.
	Expiry, Opened string
	// MonthsOpen is how long it keeps once opened; 0 sets no limit.
	MonthsOpen int
	// UnitCost is the cost of one unit (mL, g).
	UnitCost decimal.Decimal
	// Remaining is the sum of the lot's movements.
	Remaining decimal.Decimal
}

// Pack is the lot as one container.
func (l *Lot) Pack() Pack {
	p := Pack{Lot: l.Number, MonthsOpen: l.MonthsOpen, Left: l.Remaining}
	if l.Expiry != "" {
		p.Expiry = &l.Expiry
	}
	if l.Opened != "" {
		p.Opened = &l.Opened
	}
	return p
}

// UseBy is the lot's last day of use; see [Pack.GoodUntil].
func (l *Lot) UseBy() string {
	p := l.Pack()
	until, err := p.GoodUntil()
	if err != nil {
		return l.Expiry
	}
	return until
}

// Usable reports whether the lot may be used on a day: something is left and it
// is still good.
func (l *Lot) Usable(today string) bool {
	good := l.UseBy()
	return l.Remaining.IsPositive() && (good == "" || today <= good)
}

// Taken is an amount taken from one lot.
type Taken struct {
	Lot    *Lot
	Amount decimal.Decimal
}

// ShortError says that the shelf holds too little.
type ShortError struct {
	Asked, Have decimal.Decimal
}

func (e *ShortError) Error() string {
	return fmt.Sprintf("the shelf holds %s, %s was asked for", e.Have, e.Asked)
}

// Take picks an amount from the lots, first to expire first out, an opened lot
// before a closed one of the same day. It returns a *ShortError with what it
// could pick when the good lots hold too little; stock never goes below zero.
func Take(lots []*Lot, amount decimal.Decimal, today string) ([]Taken, error) {
	packs := make([]Pack, len(lots))
	for i, l := range lots {
		packs[i] = l.Pack()
	}
	list, err := inOrder(packs)
	if err != nil {
		return nil, err
	}
	var out []Taken
	rest := amount
	for _, p := range list {
		l := lots[p.at]
		if !rest.IsPositive() {
			break
		}
		if !l.Usable(today) {
			continue
		}
		n := decimal.Min(rest, l.Remaining)
		out = append(out, Taken{l, n})
		rest = rest.Sub(n)
	}
	if rest.IsPositive() {
		return out, &ShortError{Asked: amount, Have: amount.Sub(rest)}
	}
	return out, nil
}

// Cost is what the taken amounts cost, rounded to cents at the end only.
func Cost(taken []Taken) decimal.Decimal {
	sum := decimal.Zero
	for _, t := range taken {
		sum = sum.Add(t.Amount.Mul(t.Lot.UnitCost))
	}
	return sum.Round(2)
}

// TreatmentsLeft is how many whole treatments of a usual amount the rest gives;
// -1 where no usual amount is known.
func TreatmentsLeft(left, usual decimal.Decimal) int {
	if !usual.IsPositive() {
		return -1
	}
	return int(left.Div(usual).IntPart())
}
