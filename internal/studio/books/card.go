package books

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// CardPayment is one payment of a sale by card.
type CardPayment struct {
	ID        uuid.UUID       `json:"id"`
	Sale      uuid.UUID       `json:"sale"`
	Amount    decimal.Decimal `json:"amount"`
	State     money.CardState `json:"state" enum:"asked,approved,declined,unknown,stored,refused,cancelling,reversed"`
	Reason    string          `json:"reason,omitempty"`
	AskedAt   time.Time       `json:"askedAt"`
	ChangedAt time.Time       `json:"changedAt"`
	// Seconds since the terminal was asked.
	Seconds int `json:"seconds"`
	// Day it is counted on, with its receipt; empty before.
	Day     string `json:"day,omitempty"`
	Receipt string `json:"receipt,omitempty"`
}

// cardStore keeps card payments.
type cardStore interface {
	studio.Tx
	AddCard(ctx context.Context, c *CardPayment) error
	// LiveCard is the payment of a sale that is asked, unknown, cancelling, approved or stored.
	LiveCard(ctx context.Context, sale uuid.UUID) (*CardPayment, error)
	// LastCard is the newest payment of a sale.
	LastCard(ctx context.Context, sale uuid.UUID) (*CardPayment, error)
	SetCard(ctx context.Context, id uuid.UUID, state money.CardState, reason string, at time.Time) error
	CountCard(ctx context.Context, id uuid.UUID, day string) error
	// Cards lists payments that wait for something, and those counted on a day, oldest first.
	Cards(ctx context.Context, day string) ([]CardPayment, error)
}

// noAnswerAfter is how long the terminal may take; then what became of the payment is unknown.
const noAnswerAfter = 30 * time.Second

// Sale says how far a sale has come. A card payment that is not ended is asked for first: after a crash, too.
func (s *Service) Sale(ctx context.Context, a *studio.Actor, id uuid.UUID) (*Paid, error) {
	if err := a.May("get-sale"); err != nil {
		return nil, err
	}
	var live *CardPayment
	err := studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		live, err = tx.LiveCard(ctx, id)
		if errors.Is(err, studio.ErrNotFound) {
			err = nil
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	says := TerminalAnswer{}
	if live != nil && !live.State.Counts() {
		if says, err = s.ask(ctx, a, live); err != nil {
			return nil, err
		}
	}
	var out *Paid
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		sale, receipt, err := tx.LockSale(ctx, id)
		if err != nil {
			return err
		}
		if live != nil && receipt == nil {
			if err := s.heard(ctx, tx, st, a, sale, live.ID, says); err != nil {
				return err
			}
		}
		out, err = s.paid(ctx, tx, id)
		return err
	})
	return out, err
}

// askedWithin is how long the question may take to reach the terminal.
const askedWithin = 5 * time.Second

// ask asks the terminal what became of a payment. One that never reached it, because the server stopped in between, is
// declined there for good, so that it cannot be charged later.
func (s *Service) ask(ctx context.Context, a *studio.Actor, c *CardPayment) (TerminalAnswer, error) {
	says, err := s.Terminal.Answer(ctx, a.Studio, c.ID)
	if err != nil || says.Is != Unheard {
		return says, err
	}
	if s.Now().Sub(c.AskedAt) < askedWithin {
		return TerminalAnswer{Is: NoAnswer}, nil
	}
	if err := s.Terminal.Cancel(ctx, a.Studio, c.ID); err != nil {
		return says, err
	}
	return TerminalAnswer{Is: "declined", Reason: words.TheTerminalNeverHeardOfIt().Message}, nil
}

// heard takes what the terminal says of a payment, and issues the receipt once it counts.
func (s *Service) heard(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, sale *Sale, id uuid.UUID, says TerminalAnswer) error {
	c, err := tx.LiveCard(ctx, sale.ID)
	if errors.Is(err, studio.ErrNotFound) || err == nil && c.ID != id {
		return nil // it has ended meanwhile
	}
	if err != nil {
		return err
	}
	next := c.State
	switch {
	case c.State == money.CardAsked && says.Is != NoAnswer:
		next = c.State.After("answer", says.Is)
	case c.State == money.CardAsked && s.Now().Sub(c.AskedAt) >= noAnswerAfter:
		next = c.State.After("answer", "timeout")
	case says.Is != NoAnswer:
		next = c.State.After("ask", says.Is)
	}
	if next != c.State {
		if err := tx.SetCard(ctx, c.ID, next, says.Reason, s.Now()); err != nil {
			return err
		}
	}
	if !next.Counts() {
		return nil
	}
	// The money is taken: what was asked for is issued, whatever the seller's limits are now.
	r, err := s.reckon(ctx, tx, st, sellerOf(a), sale, true)
	if err != nil {
		return err
	}
	return s.issue(ctx, tx, a, r, c)
}

// sellerOf is who sold what is paid: the sale was allowed when the card was asked.
func sellerOf(a *studio.Actor) *studio.Actor {
	seller := *a
	seller.Role = studio.Owner
	return &seller
}

// CancelCard takes a card payment back that is not approved yet.
func (s *Service) CancelCard(ctx context.Context, a *studio.Actor, sale uuid.UUID) (*Paid, error) {
	if err := a.May("cancel-card"); err != nil {
		return nil, err
	}
	// What the terminal says by now comes first: an approved payment is not cancelled.
	out, err := s.Sale(ctx, a, sale)
	if err != nil || out.Receipt != nil || out.Card == nil {
		return out, err
	}
	was := out.Card
	next := was.State.After("cancel", "")
	if next == was.State {
		return out, nil
	}
	if err := s.Terminal.Cancel(ctx, a.Studio, was.ID); err != nil {
		return nil, err
	}
	if says, err := s.Terminal.Answer(ctx, a.Studio, was.ID); err != nil || says.Is == "approved" {
		return s.Sale(ctx, a, sale) // it was approved a moment before
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		_, receipt, err := tx.LockSale(ctx, sale)
		if err != nil {
			return err
		}
		c, err := tx.LiveCard(ctx, sale)
		if err == nil && receipt == nil && c.ID == was.ID && c.State == was.State {
			if err := tx.SetCard(ctx, c.ID, next, words.CancelledAtTheDesk().Message, s.Now()); err != nil {
				return err
			}
		} else if err != nil && !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		out, err = s.paid(ctx, tx, sale)
		return err
	})
	return out, err
}

// SettleCard sends a payment in that was stored while the terminal was offline. Refused it is owed by the client.
func (s *Service) SettleCard(ctx context.Context, a *studio.Actor, sale uuid.UUID) (*CardPayment, error) {
	if err := a.May("settle-card"); err != nil {
		return nil, err
	}
	var stored *CardPayment
	err := studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		stored, err = tx.LastCard(ctx, sale)
		return err
	})
	if err != nil || stored.State != money.CardStored {
		return stored, err
	}
	says, err := s.Terminal.Settle(ctx, a.Studio, stored.ID)
	if err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		_, receipt, err := tx.LockSale(ctx, sale)
		if err != nil {
			return err
		}
		c, err := tx.LastCard(ctx, sale)
		if err != nil || c.State != money.CardStored {
			stored = c
			return err
		}
		next := c.State.After("settle", says.Is)
		if next == c.State {
			return nil
		}
		if err := tx.SetCard(ctx, c.ID, next, says.Reason, s.Now()); err != nil {
			return err
		}
		stored.State, stored.Reason = next, says.Reason
		if next != money.CardRefused || receipt == nil {
			return nil
		}
		return s.owedInstead(ctx, tx, st, a, c, *receipt)
	})
	return stored, err
}

// owedInstead makes a refused card payment a debt of the client.
func (s *Service) owedInstead(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, c *CardPayment, receipt uuid.UUID) error {
	r, err := tx.Receipt(ctx, receipt)
	if err != nil {
		return err
	}
	done := money.Done{Postings: money.CardRefusedPostings(c.Amount)}
	err = post(ctx, tx, &studio.LedgerEvent{
		Kind: money.CardBounced, At: s.Now(), Account: &a.Account, ReceiptNo: r.Number, Client: r.Client, Visit: r.Visit,
	}, done)
	if err != nil {
		return err
	}
	return tx.AddDebt(ctx, &Debt{Receipt: receipt, Client: r.Client, Amount: c.Amount, Due: s.Today(st)})
}
