package studio

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/words"
)

// BookRules are how a studio keeps its books.
type BookRules struct {
	// CashStep is what cash is rounded to where coins are missing; empty rounds nothing.
	CashStep string `json:"cashStep,omitempty" maxLength:"8"`
	// Refund is what an unfinished series gives back.
	Refund money.RefundRule `json:"refund" enum:"pro-rata,single"`
	// FeeRate is the tax in per cent on fees and kept deposits: disputed, so 0 unless the accountant says otherwise.
	FeeRate string `json:"feeRate,omitempty" maxLength:"8"`
	// LateFee and MissedFee are what is proposed, in per cent of the price.
	LateFee   int `json:"lateFee" minimum:"0" maximum:"100"`
	MissedFee int `json:"missedFee" minimum:"0" maximum:"100"`
	// LateSum and MissedSum are proposed instead of a per cent where they are set.
	LateSum   string `json:"lateSum,omitempty" maxLength:"12"`
	MissedSum string `json:"missedSum,omitempty" maxLength:"12"`
	// MissedCounts says that a treatment of a series that was missed or cancelled late may count as given.
	MissedCounts bool `json:"missedCounts"`
	// SeriesMonths and VoucherMonths are how long a series and a voucher are good; 0 for ever.
	SeriesMonths  int `json:"seriesMonths" minimum:"0" maximum:"120"`
	VoucherMonths int `json:"voucherMonths" minimum:"0" maximum:"120"`
	// PriceOfVisitDay says that a booking pays the price of its own day, and not of the day it was booked.
	PriceOfVisitDay bool `json:"priceOfVisitDay,omitempty"`
	// TaxWhenGiven says that the tax of what is paid ahead (series, treatment vouchers, deposits) is due when it is given,
	// and not when it is paid.
	TaxWhenGiven bool `json:"taxWhenGiven,omitempty"`
	// Float is what stays in the till when a day is closed.
	Float string `json:"float,omitempty" maxLength:"12"`
	// Discount is the most, in per cent of a line or receipt, that each role may take off; an owner may take off anything.
	PractitionerDiscount int `json:"practitionerDiscount" minimum:"0" maximum:"100"`
	DeskDiscount         int `json:"deskDiscount" minimum:"0" maximum:"100"`
	// AccountNumbers are the accountant's own, by account.
	AccountNumbers map[money.Account]string `json:"accountNumbers,omitempty"`
}

// UsualBookRules are those with which a studio begins.
func UsualBookRules() BookRules {
	return BookRules{
		Refund: money.ProRata, LateFee: 50, MissedFee: 100, MissedCounts: true, SeriesMonths: 12, VoucherMonths: 36, Float: "150",
		PractitionerDiscount: 10, DeskDiscount: 10,
	}
}

// Check returns what is wrong with the rules.
func (r *BookRules) Check() error {
	if r.Refund == "" {
		r.Refund = money.ProRata
	}
	for _, f := range []struct {
		path string
		text *string
	}{{"/cashStep", &r.CashStep}, {"/feeRate", &r.FeeRate}, {"/float", &r.Float}, {"/lateSum", &r.LateSum}, {"/missedSum", &r.MissedSum}} {
		if *f.text = strings.TrimSpace(strings.ReplaceAll(*f.text, ",", ".")); *f.text == "" {
			continue
		}
		d, err := decimal.NewFromString(*f.text)
		if err != nil {
			return FaultAt(f.path, words.EnterASumUpToMost(MostMoney.String()))
		}
		if err := CheckMoney(f.path, d); err != nil {
			return err
		}
	}
	if sum(r.FeeRate).GreaterThan(decimal.NewFromInt(100)) {
		return FaultAt("/feeRate", words.ATaxRateIsFrom0To100())
	}
	return nil
}

// ProposedFee is what is proposed of a price for a visit that was cancelled late or missed, and the per cent that it is;
// 0 per cent where the fee is a sum of its own.
func (r *BookRules) ProposedFee(price decimal.Decimal, missed bool, minor int32) (fee decimal.Decimal, percent int) {
	own, percent := r.LateSum, r.LateFee
	if missed {
		own, percent = r.MissedSum, r.MissedFee
	}
	if own != "" {
		return sum(own), 0
	}
	return money.Fee(price, percent, minor), percent
}

// BookRules are the studio's rules as the ledger wants them.
func (s *Studio) BookRules() money.Rules {
	return money.Rules{
		Minor: s.Minor(), CashStep: sum(s.Books.CashStep), FeeRate: sum(s.Books.FeeRate), Mode: s.Tax.Mode,
	}
}

// FloatToKeep is what stays in the till when a day is closed.
func (s *Studio) FloatToKeep() decimal.Decimal { return sum(s.Books.Float) }

// TaxRate is the tax in per cent; nil where there is none.
func (s *Studio) TaxRate() *decimal.Decimal { return s.Tax.rate() }

// LedgerEvent is something that happened to money or goods, with its postings. No and Day are set when it is written:
// an event of a day that is closed is dated on the first open one.
type LedgerEvent struct {
	ID        uuid.UUID
	No        int64
	Kind      money.EventKind
	Day       string // of its moment where empty
	At        time.Time
	Account   *uuid.UUID
	ReceiptNo string
	Client    *uuid.UUID
	Visit     *uuid.UUID
	CounterOf *uuid.UUID
	Note      string
	Postings  []money.Posting
}

// LedgerStore writes events; they never change again.
type LedgerStore interface {
	Tx
	AddLedgerEvent(ctx context.Context, e *LedgerEvent) error
}

// postMovement posts what a movement of the stock is worth.
func postMovement(ctx context.Context, tx LedgerStore, m *Movement, product uuid.UUID) error {
	kind, postings := money.Moved(&money.GoodsMoved{
		Kind: m.Kind, First: m.First, Value: m.Value, Tax: m.Tax, Credit: m.Credit, Subject: product.String(),
	})
	if len(postings) == 0 {
		return nil
	}
	return tx.AddLedgerEvent(ctx, &LedgerEvent{
		ID: m.ID, Kind: kind, At: m.At, Account: m.Account, Client: m.Client, Visit: m.Visit, Postings: postings,
	})
}

// PostBatch posts a batch that was made of goods of the shelf.
func PostBatch(ctx context.Context, tx LedgerStore, m *Movement, product uuid.UUID) error {
	postings := money.BatchMade(m.Value, product.String())
	if len(postings) == 0 {
		return nil
	}
	return tx.AddLedgerEvent(ctx, &LedgerEvent{ID: m.ID, Kind: money.Blended, At: m.At, Account: m.Account, Postings: postings})
}

// ProtocolPrices are the prices of single treatments, with their first days.
type ProtocolPrices interface {
	// PricesOn are the prices of a day by protocol, of those that the price list has.
	PricesOn(ctx context.Context, tx Tx, day string) (map[uuid.UUID]decimal.Decimal, error)
	// SetPrice sets a protocol's price from a day on.
	SetPrice(ctx context.Context, tx Tx, protocol uuid.UUID, amount decimal.Decimal, day string, by uuid.UUID, at time.Time) error
}

// SeriesVisits earns the share of a prepaid series when one of its visits is given.
type SeriesVisits interface {
	// EarnShare earns the next share of the client's series that has one of the visit's protocol, if there is one.
	EarnShare(ctx context.Context, tx Tx, v *Visit, by *uuid.UUID, at time.Time) error
}
