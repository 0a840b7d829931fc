package books

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Package is several things at one price, from a day on; it is never overwritten. Without parts it is sold no more.
type Package struct {
	ID     uuid.UUID       `json:"id" format:"uuid"`
	Name   string          `json:"name" minLength:"1" maxLength:"60"`
	Parts  []PackagePart   `json:"parts" maxItems:"20"`
	From   string          `json:"from" maxLength:"10"`
	Amount decimal.Decimal `json:"amount"`
}

// PackagePart is so many of a protocol's treatments, of an add-on, or of a product.
type PackagePart struct {
	Protocol *uuid.UUID `json:"protocol,omitempty" format:"uuid"`
	Product  *uuid.UUID `json:"product,omitempty" format:"uuid"`
	Extra    string     `json:"extra,omitempty" maxLength:"60"`
	Qty      int        `json:"qty" minimum:"1" maximum:"60"`
}

// packageStore keeps packages.
type packageStore interface {
	// Packages lists all packages, by their first day, later ones of a day after earlier ones.
	Packages(ctx context.Context) ([]Package, error)
	AddPackage(ctx context.Context, p *Package, by uuid.UUID, at time.Time) error
}

// ListedPackage is a package that is sold, with what its parts cost singly.
type ListedPackage struct {
	Name   string       `json:"name"`
	Price  string       `json:"price"`
	Singly string       `json:"singly"`
	Parts  []ListedPart `json:"parts"`
	// Ahead says that its treatments are paid ahead as a series, and so belong to a client.
	Ahead bool `json:"ahead"`
}

// ListedPart is a part of a package by its name.
type ListedPart struct {
	Name string `json:"name"`
	Qty  int    `json:"qty"`
}

// pack is the package of a name on the day of the list; nil where none is sold.
func (l *priceList) pack(name string) *Package {
	for i := len(l.packages) - 1; i >= 0; i-- {
		if p := &l.packages[i]; p.Name == name && p.From <= l.day {
			if len(p.Parts) == 0 {
				return nil
			}
			return p
		}
	}
	return nil
}

// singly is what one of a part costs by itself.
func (l *priceList) singly(p *PackagePart) (decimal.Decimal, bool) {
	switch {
	case p.Protocol != nil:
		return l.treatment(*p.Protocol, nil)
	case p.Product != nil:
		return l.product(*p.Product)
	}
	return l.extra(p.Extra)
}

// weights are what the parts of a package cost singly: its price is shared by them.
func (l *priceList) weights(p *Package) []decimal.Decimal {
	out := make([]decimal.Decimal, len(p.Parts))
	for i := range p.Parts {
		single, _ := l.singly(&p.Parts[i])
		out[i] = single.Mul(decimal.NewFromInt(int64(p.Parts[i].Qty)))
	}
	return out
}

// treatments counts the visits of a package.
func (p *Package) treatments() (visits int) {
	for i := range p.Parts {
		if p.Parts[i].Protocol != nil {
			visits += p.Parts[i].Qty
		}
	}
	return visits
}

// atOnce reports whether the package is given whole at a visit: it has no treatment but one of the visit's protocol.
func (p *Package) atOnce(of *uuid.UUID) bool {
	visits := p.treatments()
	return visits == 0 || visits == 1 && of != nil && slices.ContainsFunc(p.Parts, func(x PackagePart) bool {
		return x.Protocol != nil && *x.Protocol == *of
	})
}

// soldPart is what a line of a sale sells, or one part of it where the line is a package: after discounts, with the
// visits of what is paid ahead.
type soldPart struct {
	SaleLine
	line   int // of the sale
	amount decimal.Decimal
	name   string
	visits []soldVisit
}

// soldVisit is a visit that is paid ahead: its part of the price, what it costs singly, and the add-ons that go with it.
type soldVisit struct {
	protocol       uuid.UUID
	weight, single decimal.Decimal
	extras         []string
}

// unpack shares what a package is sold for over its parts by their single prices. Treatments that are not given at
// this visit are one series, and add-ons go with its visits in turn.
func (r *reckoning) unpack(line int, amount decimal.Decimal) []soldPart {
	l := &r.sale.Lines[line]
	p := r.prices.pack(l.Package)
	shares := money.Shares(amount, r.prices.weights(p), r.st.Minor())
	series := soldPart{SaleLine: SaleLine{Kind: SellSeries, Package: l.Package, Qty: 1, Visits: p.treatments()}, line: line}
	var out []soldPart
	atOnce := p.atOnce(r.protocol)
	for i, x := range p.Parts {
		part := soldPart{
			SaleLine: SaleLine{Protocol: x.Protocol, Product: x.Product, Extra: x.Extra, Qty: x.Qty, Package: l.Package, Practitioner: l.Practitioner},
			line:     line, amount: shares[i],
		}
		switch {
		case x.Product != nil:
			part.Kind, part.Despite = SellProduct, l.Despite
		case x.Extra != "":
			part.Kind = SellExtra
		default:
			part.Kind = SellTreatment
		}
		if x.Product != nil || atOnce {
			part.name = words.PartOfPackage(part.Qty, r.name(&part.SaleLine), p.Name).Message
			out = append(out, part)
			continue
		}
		series.amount = series.amount.Add(shares[i])
	}
	if !atOnce {
		series.visits = r.visitsOf(p, shares)
		series.name = words.SeriesOfVisits(p.Name, series.Visits).Message
		out = slices.Insert(out, 0, series)
	}
	return out
}

// visitsOf are the visits of a package, in the order of its parts, each with its share.
func (r *reckoning) visitsOf(p *Package, shares []decimal.Decimal) []soldVisit {
	var out []soldVisit
	for i := range p.Parts {
		x := &p.Parts[i]
		if x.Protocol == nil {
			continue
		}
		single, _ := r.prices.singly(x)
		for _, share := range money.Shares(shares[i], make([]decimal.Decimal, x.Qty), r.st.Minor()) {
			out = append(out, soldVisit{protocol: *x.Protocol, weight: share, single: single})
		}
	}
	turn := 0
	for i := range p.Parts {
		x := &p.Parts[i]
		if x.Extra == "" {
			continue
		}
		single, _ := r.prices.singly(x)
		for _, share := range money.Shares(shares[i], make([]decimal.Decimal, x.Qty), r.st.Minor()) {
			v := &out[turn%len(out)]
			v.weight, v.single, v.extras = v.weight.Add(share), v.single.Add(single), append(v.extras, x.Extra)
			turn++
		}
	}
	return out
}

// listedPackages writes the packages down that are sold on the day of the list.
func (l *priceList) listedPackages(products map[uuid.UUID]string, minor int32) []ListedPackage {
	out := []ListedPackage{}
	seen := map[string]bool{}
	for i := len(l.packages) - 1; i >= 0; i-- {
		name := l.packages[i].Name
		p := l.pack(name)
		if seen[name] || p == nil {
			continue
		}
		seen[name] = true
		line := ListedPackage{
			Name: name, Price: p.Amount.StringFixed(minor), Singly: decimal.Sum(decimal.Zero, l.weights(p)...).StringFixed(minor),
			Ahead: p.treatments() > 1,
		}
		for k := range p.Parts {
			line.Parts = append(line.Parts, ListedPart{l.partName(&p.Parts[k], products), p.Parts[k].Qty})
		}
		out = append(out, line)
	}
	slices.SortFunc(out, func(a, b ListedPackage) int { return strings.Compare(a.Name, b.Name) })
	return out
}

// partName is what a part is called.
func (l *priceList) partName(x *PackagePart, products map[uuid.UUID]string) string {
	switch {
	case x.Protocol != nil:
		if p := l.protocol(*x.Protocol); p != nil {
			return p.Body.Name
		}
	case x.Product != nil:
		return products[*x.Product]
	}
	return x.Extra
}

// AddPackage sets what a package has in it and costs from a day on. A day of the past is refused, and a part that has no
// price of its own: the price is shared by single prices.
func (s *Service) AddPackage(ctx context.Context, a *studio.Actor, p *Package) error {
	if err := a.May("add-package"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := priceFrom(&p.From, s.Today(st), p.Amount); err != nil {
			return err
		}
		if p.Name = strings.TrimSpace(p.Name); p.Name == "" {
			return studio.FaultAt("/name", words.NameThePackage())
		}
		prices, err := readPrices(ctx, tx, p.From)
		if err != nil {
			return err
		}
		if err := p.check(prices); err != nil {
			return err
		}
		p.ID = studio.NewID()
		return tx.AddPackage(ctx, p, a.Account, s.Now())
	})
}

// check refuses parts that have no price.
func (p *Package) check(prices *priceList) error {
	for i := range p.Parts {
		x := &p.Parts[i]
		x.Extra = strings.TrimSpace(x.Extra)
		if x.Extra == "" && (x.Protocol == nil) == (x.Product == nil) || x.Extra != "" && (x.Protocol != nil || x.Product != nil) {
			return studio.FaultAt(fmt.Sprintf("/parts/%d", i), words.SayWhatThePriceIsOf())
		}
		if _, ok := prices.singly(x); !ok {
			return studio.FaultAt(fmt.Sprintf("/parts/%d", i), words.ThereIsNoPriceYet())
		}
	}
	return nil
}
