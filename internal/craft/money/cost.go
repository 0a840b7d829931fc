package money

import (
	"encoding/json"
	"errors"

	"github.com/shopspring/decimal"
)

// Pieces are so many of something at a cost each; in JSON a pair [number, cost of one].
type Pieces struct{ Number, Each decimal.Decimal }

// UnmarshalJSON reads the pair.
func (p *Pieces) UnmarshalJSON(raw []byte) error {
	var pair []decimal.Decimal
	if err := json.Unmarshal(raw, &pair); err != nil {
		return err
	}
	if len(pair) != 2 {
		return errors.New("a pair is a number and the cost of one")
	}
	p.Number, p.Each = pair[0], pair[1]
	return nil
}

// MarshalJSON writes the pair.
func (p Pieces) MarshalJSON() ([]byte, error) {
	return json.Marshal([2]decimal.Decimal{p.Number, p.Each})
}

// Wear is a tool that wears out after so many uses. Uses is 1 where absent.
type Wear struct {
	Price        decimal.Decimal  `json:"price"`
	ExpectedUses decimal.Decimal  `json:"expectedUses"`
	Uses         *decimal.Decimal `json:"uses,omitempty"`
}

// Visit is a treatment with everything that its cost hangs on. Products are the costs of what was taken from the
// shelf; PaidByCard is the part of the price that was paid so.
type Visit struct {
	Gross             decimal.Decimal   `json:"gross"`
	Rate              decimal.Decimal   `json:"rate"`
	BusyMinutes       decimal.Decimal   `json:"busyMinutes"`
	Products          []decimal.Decimal `json:"products"`
	Disposables       []Pieces          `json:"disposables"`
	Tools             []Wear            `json:"tools"`
	Laundry           []Pieces          `json:"laundry"`
	WagePerHour       decimal.Decimal   `json:"wagePerHour"`
	RoomPerHour       decimal.Decimal   `json:"roomPerHour"`
	PaidByCard        decimal.Decimal   `json:"paidByCard"`
	CardPercent       decimal.Decimal   `json:"cardPercent"`
	CardFixed         decimal.Decimal   `json:"cardFixed"`
	CommissionPercent decimal.Decimal   `json:"commissionPercent,omitempty"`
	Minor             *int32            `json:"minor,omitempty"`
	// Net is what is left of the price without tax where it is known exactly, as the share of a series is; it is no part
	// of the format.
	Net *decimal.Decimal `json:"-"`
}

// CostTerms are the parts of a cost, each rounded once.
type CostTerms struct {
	Products    decimal.Decimal `json:"products"`
	Disposables decimal.Decimal `json:"disposables"`
	Tools       decimal.Decimal `json:"tools"`
	Laundry     decimal.Decimal `json:"laundry"`
	Time        decimal.Decimal `json:"time"`
	Room        decimal.Decimal `json:"room"`
	Card        decimal.Decimal `json:"card"`
	Commission  decimal.Decimal `json:"commission"`
}

// Sum is the whole cost.
func (t *CostTerms) Sum() decimal.Decimal {
	return decimal.Sum(t.Products, t.Disposables, t.Tools, t.Laundry, t.Time, t.Room, t.Card, t.Commission)
}

// Earnings are what a visit costs and what it leaves: in money, in per cent of the net (one decimal), and for each
// minute of the diary.
type Earnings struct {
	Terms     CostTerms       `json:"terms"`
	Cost      decimal.Decimal `json:"cost"`
	Net       decimal.Decimal `json:"net"`
	Margin    decimal.Decimal `json:"margin"`
	Percent   decimal.Decimal `json:"percent"`
	PerMinute decimal.Decimal `json:"perMinute"`
}

// Earn works out a visit's cost term by term, and its margin (handbook, chapter 8, Cost and margin of a treatment).
func (v *Visit) Earn() (Earnings, error) {
	minor := minorOf(v.Minor)
	wear := decimal.Zero
	for _, t := range v.Tools {
		if !t.ExpectedUses.IsPositive() {
			return Earnings{}, errors.New("a tool needs the uses expected of it, above 0")
		}
		uses := decimal.NewFromInt(1)
		if t.Uses != nil {
			uses = *t.Uses
		}
		wear = wear.Add(t.Price.Mul(uses).DivRound(t.ExpectedUses, minor+exact))
	}
	if v.BusyMinutes.IsNegative() {
		return Earnings{}, errors.New("the busy minutes must not be below 0")
	}
	e := Earnings{Net: v.Gross.Sub(includedTax(v.Gross, v.Rate, minor))}
	if v.Net != nil {
		e.Net = *v.Net
	}
	e.Terms = CostTerms{
		Products:    decimal.Sum(decimal.Zero, v.Products...).Round(minor),
		Disposables: cost(v.Disposables).Round(minor),
		Tools:       wear.Round(minor),
		Laundry:     cost(v.Laundry).Round(minor),
		Time:        v.WagePerHour.Mul(v.BusyMinutes).DivRound(sixty, minor),
		Room:        v.RoomPerHour.Mul(v.BusyMinutes).DivRound(sixty, minor),
		Commission:  percentOf(e.Net, v.CommissionPercent, minor),
	}
	if v.PaidByCard.IsPositive() {
		e.Terms.Card = v.PaidByCard.Mul(v.CardPercent).DivRound(hundred, minor+exact).Add(v.CardFixed).Round(minor)
	}
	e.Cost = e.Terms.Sum()
	e.Margin = e.Net.Sub(e.Cost)
	if v.BusyMinutes.IsPositive() {
		e.PerMinute = e.Margin.DivRound(v.BusyMinutes, minor)
	}
	if e.Net.IsPositive() {
		e.Percent = e.Margin.Mul(hundred).DivRound(e.Net, 1)
	}
	return e, nil
}

// exact are decimals beyond the currency's that keep a quotient from being rounded before its time.
const exact = 12

var sixty = decimal.NewFromInt(60)

func cost(pieces []Pieces) decimal.Decimal {
	sum := decimal.Zero
	for _, p := range pieces {
		sum = sum.Add(p.Number.Mul(p.Each))
	}
	return sum
}

// Plus are the terms of two treatments together.
func (t *CostTerms) Plus(o *CostTerms) CostTerms {
	return CostTerms{
		t.Products.Add(o.Products), t.Disposables.Add(o.Disposables), t.Tools.Add(o.Tools), t.Laundry.Add(o.Laundry), t.Time.Add(o.Time),
		t.Room.Add(o.Room), t.Card.Add(o.Card), t.Commission.Add(o.Commission),
	}
}
