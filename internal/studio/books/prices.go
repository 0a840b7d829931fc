package books

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
	"softpalm/words"
)

// DatedPrice is one price of the list, with its first day; it is never overwritten. One of Protocol, Product and Extra is
// set. Visits above 1 is the price of a series of so many.
type DatedPrice struct {
	ID       uuid.UUID       `json:"id" format:"uuid"`
	Protocol *uuid.UUID      `json:"protocol,omitempty" format:"uuid"`
	Product  *uuid.UUID      `json:"product,omitempty" format:"uuid"`
	Extra    string          `json:"extra,omitempty" maxLength:"60"`
	Grade    string          `json:"grade,omitempty" maxLength:"40"`
	Visits   int             `json:"visits" minimum:"1" maximum:"60"`
	Minutes  int             `json:"minutes,omitempty" minimum:"0" maximum:"240"`
	From     string          `json:"from" maxLength:"10"`
	Amount   decimal.Decimal `json:"amount"`
}

// priceStore keeps prices.
type priceStore interface {
	studio.Tx
	// Prices lists all prices, by their first day, later ones of a day after earlier ones.
	Prices(ctx context.Context) ([]DatedPrice, error)
	AddPrice(ctx context.Context, p *DatedPrice, by uuid.UUID, at time.Time) error
	packageStore
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	// Grades are the grades of practitioners, by id.
	Grades(ctx context.Context) (map[uuid.UUID]string, error)
}

// priceList is the list as it was on a day.
type priceList struct {
	prices    []DatedPrice
	packages  []Package
	protocols []studio.ProtocolLine
	grades    map[uuid.UUID]string
	day       string
}

func readPrices(ctx context.Context, tx priceStore, day string) (*priceList, error) {
	l := &priceList{day: day}
	var err error
	if l.prices, err = tx.Prices(ctx); err != nil {
		return nil, err
	}
	if l.packages, err = tx.Packages(ctx); err != nil {
		return nil, err
	}
	if l.protocols, err = tx.Protocols(ctx, uuid.Nil); err != nil {
		return nil, err
	}
	l.grades, err = tx.Grades(ctx)
	return l, err
}

// newest is the price that holds on the day among those that fit: one of the grade before one for all.
func (l *priceList) newest(grade string, fits func(*DatedPrice) bool) (decimal.Decimal, bool) {
	for _, g := range slices.Compact([]string{grade, ""}) {
		for i := len(l.prices) - 1; i >= 0; i-- {
			if p := &l.prices[i]; p.From <= l.day && p.Grade == g && fits(p) {
				return p.Amount, true
			}
		}
	}
	return decimal.Zero, false
}

// protocol is a protocol of the library by its id; nil where it is none that was published.
func (l *priceList) protocol(id uuid.UUID) *studio.ProtocolLine {
	for i := range l.protocols {
		if l.protocols[i].ID == id && l.protocols[i].Version > 0 {
			return &l.protocols[i]
		}
	}
	return nil
}

// treatment is the price of one visit: of the practitioner's grade, else for all, else the one in the protocol.
func (l *priceList) treatment(protocol uuid.UUID, practitioner *uuid.UUID) (decimal.Decimal, bool) {
	grade := ""
	if practitioner != nil {
		grade = l.grades[*practitioner]
	}
	of := func(p *DatedPrice) bool { return p.Protocol != nil && *p.Protocol == protocol && p.Visits == 1 }
	if amount, ok := l.newest(grade, of); ok {
		return amount, true
	}
	line := l.protocol(protocol)
	if line == nil {
		return decimal.Zero, false
	}
	amount, err := decimal.NewFromString(line.Body.Price.Amount)
	return amount, err == nil
}

// series is the price of so many visits together: the list's, else so many times the single one.
func (l *priceList) series(protocol uuid.UUID, visits int) (decimal.Decimal, bool) {
	of := func(p *DatedPrice) bool { return p.Protocol != nil && *p.Protocol == protocol && p.Visits == visits }
	if amount, ok := l.newest("", of); ok && visits > 1 {
		return amount, true
	}
	single, ok := l.treatment(protocol, nil)
	return single.Mul(decimal.NewFromInt(int64(visits))), ok
}

func (l *priceList) product(id uuid.UUID) (decimal.Decimal, bool) {
	return l.newest("", func(p *DatedPrice) bool { return p.Product != nil && *p.Product == id })
}

func (l *priceList) extra(name string) (decimal.Decimal, bool) {
	return l.newest("", func(p *DatedPrice) bool { return p.Extra == name })
}

// PriceList is what the studio sells, with the prices of a day.
type PriceList struct {
	Treatments []ListedTreatment `json:"treatments"`
	Products   []ListedProduct   `json:"products"`
	Extras     []ListedExtra     `json:"extras"`
	Packages   []ListedPackage   `json:"packages"`
	// All are all prices, the newest first.
	All []DatedPrice `json:"all"`
}

// ListedTreatment is a protocol's single price, and the series that are sold of it.
type ListedTreatment struct {
	Protocol uuid.UUID      `json:"protocol"`
	Name     string         `json:"name"`
	Price    string         `json:"price"`
	Series   []ListedSeries `json:"series"`
}

// ListedSeries is the price of so many visits.
type ListedSeries struct {
	Visits int    `json:"visits"`
	Price  string `json:"price"`
}

// ListedProduct is a product for sale; Packs are sealed ones on the retail side.
type ListedProduct struct {
	Product uuid.UUID `json:"product"`
	Name    string    `json:"name"`
	Price   string    `json:"price,omitempty"`
}

// ListedExtra is an add-on with its minutes.
type ListedExtra struct {
	Name    string `json:"name"`
	Minutes int    `json:"minutes"`
	Price   string `json:"price"`
}

// PriceList lists what is sold at today's prices.
func (s *Service) PriceList(ctx context.Context, a *studio.Actor) (out *PriceList, err error) {
	if err := a.May("get-price-list"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		l, err := readPrices(ctx, tx, s.Today(st))
		if err != nil {
			return err
		}
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		out = l.listed(products, st.Minor())
		return nil
	})
	return out, err
}

// listed writes the list down.
func (l *priceList) listed(products []studio.Product, minor int32) *PriceList {
	out := &PriceList{Treatments: []ListedTreatment{}, Products: []ListedProduct{}, Extras: []ListedExtra{}, All: slices.Clone(l.prices)}
	slices.Reverse(out.All)
	for i := range l.protocols {
		p := &l.protocols[i]
		if p.Version == 0 {
			continue
		}
		price, _ := l.treatment(p.ID, nil)
		t := ListedTreatment{Protocol: p.ID, Name: p.Body.Name, Price: price.StringFixed(minor), Series: []ListedSeries{}}
		for visits := 2; visits <= mostVisits; visits++ {
			if amount, ok := l.newest("", func(q *DatedPrice) bool { return q.Protocol != nil && *q.Protocol == p.ID && q.Visits == visits }); ok {
				t.Series = append(t.Series, ListedSeries{visits, amount.StringFixed(minor)})
			}
		}
		out.Treatments = append(out.Treatments, t)
	}
	names := map[uuid.UUID]string{}
	for i := range products {
		p := &products[i]
		names[p.ID] = p.Name
		line := ListedProduct{Product: p.ID, Name: p.Name}
		if price, ok := l.product(p.ID); ok {
			line.Price = price.StringFixed(minor)
		}
		if line.Price != "" || p.Use != studio.CabinSide {
			out.Products = append(out.Products, line)
		}
	}
	out.Packages = l.listedPackages(names, minor)
	seen := map[string]bool{}
	for i := len(l.prices) - 1; i >= 0; i-- {
		if p := &l.prices[i]; p.Extra != "" && !seen[p.Extra] && p.From <= l.day {
			seen[p.Extra] = true
			out.Extras = append(out.Extras, ListedExtra{p.Extra, p.Minutes, p.Amount.StringFixed(minor)})
		}
	}
	slices.SortFunc(out.Extras, func(a, b ListedExtra) int { return strings.Compare(a.Name, b.Name) })
	return out
}

// mostVisits is the longest series that has a price of its own.
const mostVisits = 60

// AddPrice sets a price from a day on. A day of the past is refused: what was sold has its price.
func (s *Service) AddPrice(ctx context.Context, a *studio.Actor, p *DatedPrice) error {
	if err := a.May("add-price"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := priceFrom(&p.From, s.Today(st), p.Amount); err != nil {
			return err
		}
		p.Extra, p.Grade = strings.TrimSpace(p.Extra), strings.TrimSpace(p.Grade)
		set := 0
		for _, is := range []bool{p.Protocol != nil, p.Product != nil, p.Extra != ""} {
			if is {
				set++
			}
		}
		if set != 1 {
			return studio.FaultAt("/protocol", words.SayWhatThePriceIsOf())
		}
		p.ID, p.Visits = studio.NewID(), max(p.Visits, 1)
		return tx.AddPrice(ctx, p, a.Account, s.Now())
	})
}

// priceFrom checks a price and its first day: today where none is said, and never one of the past.
func priceFrom(from *string, today string, amount decimal.Decimal) error {
	if *from == "" {
		*from = today
	}
	if err := studio.CheckDay("/from", *from); err != nil {
		return err
	}
	if *from < today {
		return studio.FaultAt("/from", words.APriceHoldsFromTodayOn())
	}
	return studio.CheckMoney("/amount", amount)
}

// PricesOn are the prices of single treatments on a day by protocol, of those that the list has.
func (s *Service) PricesOn(ctx context.Context, within studio.Tx, day string) (map[uuid.UUID]decimal.Decimal, error) {
	prices, err := studio.As[priceStore](within).Prices(ctx)
	out := map[uuid.UUID]decimal.Decimal{}
	for i := range prices { // by their first day: later ones rule
		if p := &prices[i]; p.Protocol != nil && p.Visits == 1 && p.Grade == "" && p.From <= day {
			out[*p.Protocol] = p.Amount
		}
	}
	return out, err
}

// SetPrice sets the price of a single treatment from a day on.
func (s *Service) SetPrice(
	ctx context.Context, within studio.Tx, protocol uuid.UUID, amount decimal.Decimal, day string, by uuid.UUID, at time.Time,
) error {
	p := &DatedPrice{ID: studio.NewID(), Protocol: &protocol, Visits: 1, From: day, Amount: amount}
	return studio.As[priceStore](within).AddPrice(ctx, p, by, at)
}
