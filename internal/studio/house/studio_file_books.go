package house

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// BundleMoney is something that happened to the studio's money: a price or a package set, a sale, a visit of a series given, a
// series given back, a day closed, or money that moved without a receipt.
type BundleMoney struct {
	Kind string `json:"kind" enum:"open,price,package,sale,given,series-back,close,card-settle,pay-supplier,paid-in,paid-out"`
	Day  string `json:"day" maxLength:"12"`
	Time string `json:"time,omitempty" pattern:"^([0-2][0-9]:[0-5][0-9])?$"`
	// Client by key; Visit is when the client's appointment began: its time on that day, or its day and time.
	Client string            `json:"client,omitempty" maxLength:"60"`
	Visit  string            `json:"visit,omitempty" maxLength:"20"`
	Lines  []BundleMoneyLine `json:"lines,omitempty" maxItems:"60"`
	Pay    []BundleMoneyPay  `json:"pay,omitempty" maxItems:"12"`
	Tip    string            `json:"tip,omitempty" maxLength:"12"`
	TipFor string            `json:"tipFor,omitempty" maxLength:"60"`
	Amount string            `json:"amount,omitempty" maxLength:"12"`
	Other  string            `json:"other,omitempty" maxLength:"12"`
	Note   string            `json:"note,omitempty" maxLength:"300"`
	Ref    string            `json:"ref,omitempty" maxLength:"60"`
	// Of a price; of a package the note is its name and the lines are its parts.
	Protocol   string `json:"protocol,omitempty" maxLength:"60"`
	Product    string `json:"product,omitempty" maxLength:"60"`
	Extra      string `json:"extra,omitempty" maxLength:"60"`
	Visits     int    `json:"visits,omitempty" minimum:"0" maximum:"60"`
	Minutes    int    `json:"minutes,omitempty" minimum:"0" maximum:"240"`
	Difference string `json:"difference,omitempty" maxLength:"12"`
}

// BundleMoneyLine is a line of a sale.
type BundleMoneyLine struct {
	Kind         string `json:"kind" enum:"treatment,extra,product,series,voucher,treatment-voucher,fee,deposit,package"`
	Package      string `json:"package,omitempty" maxLength:"60"`
	Protocol     string `json:"protocol,omitempty" maxLength:"60"`
	Product      string `json:"product,omitempty" maxLength:"60"`
	Extra        string `json:"extra,omitempty" maxLength:"60"`
	Amount       string `json:"amount,omitempty" maxLength:"12"`
	Qty          int    `json:"qty,omitempty" minimum:"0" maximum:"1000"`
	Visits       int    `json:"visits,omitempty" minimum:"0" maximum:"60"`
	Percent      string `json:"percent,omitempty" maxLength:"6"`
	Why          string `json:"why,omitempty" maxLength:"200"`
	Giver        string `json:"giver,omitempty" maxLength:"300"`
	Practitioner string `json:"practitioner,omitempty" maxLength:"60"`
}

// BundleMoneyPay is a way that a sale was paid; Ref names the sale that sold the voucher.
type BundleMoneyPay struct {
	By      money.Way `json:"by" enum:"cash,card,bank,later,voucher"`
	Ref     string    `json:"ref,omitempty" maxLength:"60"`
	Amount  string    `json:"amount,omitempty" maxLength:"12"`
	Due     string    `json:"due,omitempty" maxLength:"12"`
	Offline bool      `json:"offline,omitempty"`
}

// moneyStore is what the money of a file is read against.
type moneyStore interface {
	studio.Tx
	Accounts(ctx context.Context) ([]studio.Account, error)
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
}

// addBooks plays what happened to the studio's money, in the order of the file.
func (im *importer) addBooks(ctx context.Context, b *Bundle) error {
	if len(b.Books) == 0 {
		return nil
	}
	products := map[string]uuid.UUID{}
	list, err := im.tx.Products(ctx)
	if err != nil {
		return err
	}
	for i := range list {
		products[list[i].Key] = list[i].ID
	}
	visits, err := im.visitsByTime(ctx)
	if err != nil {
		return err
	}
	events := make([]studio.MoneyBrought, len(b.Books))
	for i := range b.Books {
		at := fmt.Sprintf("/books/%d", i)
		events[i] = im.money(&b.Books[i], at, products, visits)
		if i > 0 && events[i].At.Before(events[i-1].At) {
			im.fault(at+"/time", words.MoneyIsToldInItsOrder())
		}
	}
	if err := im.stop(); err != nil {
		return err
	}
	owner, err := im.owner(ctx)
	if err != nil {
		return err
	}
	err = im.s.Books.BringMoney(ctx, im.tx, im.st, owner, events)
	var bad *studio.InputError
	if errors.As(err, &bad) {
		im.faults = append(im.faults, bad.Problems...)
		return im.stop()
	}
	return err
}

// owner is the account in whose name a file's money is posted.
func (im *importer) owner(ctx context.Context) (*studio.Actor, error) {
	accounts, err := studio.As[moneyStore](im.tx).Accounts(ctx)
	if err != nil {
		return nil, err
	}
	for i := range accounts {
		if accounts[i].Role == studio.Owner {
			return &studio.Actor{Studio: im.st.ID, Account: accounts[i].ID, Name: accounts[i].Name, Role: studio.Owner}, nil
		}
	}
	return nil, studio.ErrNotFound
}

// visitsByTime finds appointments by client and the wall time at which they began.
func (im *importer) visitsByTime(ctx context.Context) (map[string]uuid.UUID, error) {
	visits, err := studio.As[moneyStore](im.tx).Visits(ctx, im.now.AddDate(-2, 0, 0), im.now.AddDate(1, 0, 0))
	out := map[string]uuid.UUID{}
	for i := range visits {
		out[visits[i].Client.String()+visits[i].StartsAt.In(im.st.Zone()).Format("2006-01-02 15:04")] = visits[i].ID
	}
	return out, err
}

// money is an event with the ids of what it names.
func (im *importer) money(m *BundleMoney, at string, products, visits map[string]uuid.UUID) studio.MoneyBrought {
	find := func(field, key string, among map[string]uuid.UUID) *uuid.UUID {
		if key == "" {
			return nil
		}
		id, ok := among[key]
		if !ok {
			im.fault(at+field, words.ThereIsNoFieldVal(field[1:], key))
		}
		return &id
	}
	plan := func(field, key string) *uuid.UUID {
		plans := map[string]uuid.UUID{}
		for k, p := range im.plans {
			plans[k] = p.id
		}
		return find(field, key, plans)
	}
	e := studio.MoneyBrought{
		Kind: m.Kind, Day: im.day(m.Day, at+"/day"), Client: find("/client", m.Client, im.clients), Tip: m.Tip, Amount: m.Amount, Other: m.Other,
		Note: m.Note, Ref: m.Ref, Protocol: plan("/protocol", m.Protocol), Product: find("/product", m.Product, products), Extra: m.Extra,
		Visits: m.Visits, Minutes: m.Minutes, Difference: m.Difference,
	}
	clock := m.Time
	if clock == "" {
		clock = "19:30"
	}
	start, err := time.ParseInLocation("2006-01-02 15:04", e.Day+" "+clock, im.st.Zone())
	if err != nil {
		im.fault(at+"/time", words.TimeIsNotATimeOfDay(clock))
	}
	e.At = start
	if m.Visit != "" && e.Client != nil {
		day, clock := e.Day, m.Visit
		if named, at2, two := strings.Cut(m.Visit, " "); two {
			day, clock = im.day(named, at+"/visit"), at2
		}
		e.Visit = find("/visit", e.Client.String()+day+" "+clock, visits)
	}
	if id := find("/tipFor", m.TipFor, im.people); id != nil {
		e.TipFor = *id
	}
	for _, l := range m.Lines {
		e.Lines = append(e.Lines, studio.LineBrought{
			Kind: l.Kind, Protocol: plan("/protocol", l.Protocol), Product: find("/product", l.Product, products), Extra: l.Extra, Package: l.Package,
			Amount: l.Amount, Qty: l.Qty, Visits: l.Visits, Percent: l.Percent, Why: l.Why, Giver: l.Giver,
			Practitioner: find("/practitioner", l.Practitioner, im.people),
		})
	}
	for _, p := range m.Pay {
		paid := studio.PayBrought{By: p.By, Ref: p.Ref, Amount: p.Amount, Offline: p.Offline}
		if p.Due != "" {
			paid.Due = im.day(p.Due, at+"/pay")
		}
		e.Pay = append(e.Pay, paid)
	}
	return e
}
