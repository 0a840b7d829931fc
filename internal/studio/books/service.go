// Package books is the room of money: prices, sales and their receipts, card payments, what is paid ahead, the day's
// close, and what the ledger says of it all.
package books

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
)

// Service carries out the use cases of the books room.
type Service struct {
	*studio.Kernel
	Terminal Terminal
	Shelf    Shelf
	Diary    Diary
	Messages Messages
}

// Terminal is a card terminal. A payment has one key: asked again it is the same payment.
type Terminal interface {
	// Ask begins a payment.
	Ask(ctx context.Context, studio, key uuid.UUID, amount decimal.Decimal) error
	// Answer is what became of a payment; [NoAnswer] where nothing is known yet.
	Answer(ctx context.Context, studio, key uuid.UUID) (TerminalAnswer, error)
	// Cancel takes a payment back, also one that is approved later.
	Cancel(ctx context.Context, studio, key uuid.UUID) error
	// GiveBack gives money back that was paid by card; the same key again gives it once.
	GiveBack(ctx context.Context, studio, key uuid.UUID, amount decimal.Decimal) (TerminalAnswer, error)
	// Counted are the payments asked for between two moments that count as taken, and those of the keys named: what was
	// given back is below zero.
	Counted(ctx context.Context, studio uuid.UUID, from, to time.Time, keys []uuid.UUID) (map[uuid.UUID]decimal.Decimal, error)
	// Bring keeps a payment that was made before a file was brought in.
	Bring(ctx context.Context, tx studio.Tx, c *CardPayment) error
	// Settle sends a payment in that was stored while the terminal was offline.
	Settle(ctx context.Context, studio, key uuid.UUID) (TerminalAnswer, error)
}

// TerminalAnswer is what a terminal says of a payment, and why where it declines.
type TerminalAnswer struct {
	Is     string // approved, declined, stored, reversed, refused, or [NoAnswer]
	Reason string
}

// NoAnswer is what a terminal says while it does not know yet, Unheard what it says of a payment that it was never asked
// for.
const (
	NoAnswer = ""
	Unheard  = "unheard"
)

// Shelf is what this room asks of the shelf.
type Shelf interface {
	// SellPacks takes whole packs of a product for sale off the shelf, the first to expire first. What a client is to
	// keep away from is sold only with a word of reason.
	SellPacks(ctx context.Context, tx studio.Tx, st *studio.Studio, a *studio.Actor, sold studio.PacksSold) error
}

// Store is what this room asks of the one studio's data, inside a transaction.
// Lookups answer [studio.ErrNotFound]; lists are in a stated order and never nil.
type Store interface {
	studio.LedgerStore
	saleStore
	priceStore
	cardStore
	cardBackStore
	receiptStore
	prepaidStore
	closeStore
	figureStore
	sundayStore
	payStore
	moveStore
	numbersStore
}

// saleStore is what a sale is made of.
type saleStore interface {
	studio.Tx
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	// LockVisit returns a visit and holds it until the transaction ends.
	LockVisit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	// VisitBookedAt is when a visit was booked.
	VisitBookedAt(ctx context.Context, visit uuid.UUID) (time.Time, error)
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	Products(ctx context.Context) ([]studio.Product, error)
	Practitioners(ctx context.Context) ([]studio.Person, error)
	// AddSale keeps a sale; false where one with its id is there.
	AddSale(ctx context.Context, s *Sale, by uuid.UUID, at time.Time) (bool, error)
	// LockSale returns a sale, held until the transaction ends, and its receipt if it has one.
	LockSale(ctx context.Context, id uuid.UUID) (*Sale, *uuid.UUID, error)
	SaveSale(ctx context.Context, s *Sale) error
	// OpenSales lists sales without a receipt that have a card payment which is not ended.
	OpenSales(ctx context.Context, visit *uuid.UUID) ([]uuid.UUID, error)
	// PaidVisits lists how the visits that begin between two moments were paid, those alone that were.
	PaidVisits(ctx context.Context, from, to time.Time) ([]VisitPaid, error)
	FeeWaived(ctx context.Context, visit uuid.UUID) (string, error)
	WaiveFee(ctx context.Context, visit uuid.UUID, reason string, by uuid.UUID, at time.Time) error
}

// terms are the studio's rules with the time zone's day of a moment.
func (s *Service) dayOf(st *studio.Studio, at time.Time) string {
	return at.In(st.Zone()).Format(time.DateOnly)
}

// post writes an event with what the core made of it.
func post(ctx context.Context, tx studio.LedgerStore, e *studio.LedgerEvent, done money.Done) error {
	if len(done.Postings) == 0 {
		return nil
	}
	if e.ID == uuid.Nil {
		e.ID = studio.NewID()
	}
	e.Postings = done.Postings
	return tx.AddLedgerEvent(ctx, e)
}
