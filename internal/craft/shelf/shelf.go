// Package shelf knows lots: which may be used, which goes first, what is left
// and what a treatment cost. Amounts are in the product's unit, money in exact
// decimals. Movements are only ever added; what is left is their sum.
package shelf

import (
	"fmt"
	"sort"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
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

// UseBy is the earlier of expiry and opening + months after opening: the
// last day of use. Source: Regulation (EC) 1223/2009 art. 19 (from memory).
func (l *Lot) UseBy() string {
	if l.Opened == "" || l.MonthsOpen == 0 {
		return l.Expiry
	}
	t, err := time.Parse(dayLayout, l.Opened)
	if err != nil {
		return l.Expiry
	}
	open := calendar.AddMonths(t, l.MonthsOpen).Format(dayLayout)
	if l.Expiry != "" && l.Expiry < open {
		return l.Expiry
	}
	return open
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
	good := make([]*Lot, 0, len(lots))
	for _, l := range lots {
		if l.Usable(today) {
			good = append(good, l)
		}
	}
	sort.SliceStable(good, func(i, j int) bool {
		a, b := good[i], good[j]
		ga, gb := a.UseBy(), b.UseBy()
		switch {
		case ga != gb:
			return gb == "" || ga != "" && ga < gb
		case (a.Opened == "") != (b.Opened == ""):
			return a.Opened != ""
		}
		return a.Number < b.Number
	})
	var out []Taken
	rest := amount
	for _, l := range good {
		if !rest.IsPositive() {
			break
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
