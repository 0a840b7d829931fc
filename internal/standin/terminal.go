// Package standin holds simulated devices that ship with the application, for studios that have none yet, for teaching
// and for tests.
package standin

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	"softpalm/words"
)

// Plan is what the terminal will say of a payment.
type Plan string

// The plans. An unknown one says nothing for longer than anybody waits; an offline one is stored until it is settled.
const (
	Approves        Plan = "approved"
	Declines        Plan = "declined"
	UnknownApproved Plan = "unknown-approved"
	UnknownDeclined Plan = "unknown-declined"
	OfflineSettled  Plan = "offline-settled"
	OfflineRefused  Plan = "offline-refused"
)

// byCents are the plans that the cents of an amount ask for while the test switch is on (handbook, chapter 8, Card).
var byCents = map[int64]Plan{1: Declines, 2: UnknownApproved, 3: UnknownDeclined, 4: OfflineSettled, 5: OfflineRefused}

// TerminalSettings are what is set on the terminal's own panel: the answers to come, in order, then it approves.
type TerminalSettings struct {
	Next []Plan `json:"next" maxItems:"20" enum:"approved,declined,unknown-approved,unknown-declined,offline-settled,offline-refused"`
	// ByCents lets the cents of an amount choose the answer: .01 declined, .02 and .03 unknown, .04 and .05 offline.
	ByCents bool `json:"byCents"`
	// Seconds until it answers, and until it answers where that is not known at first.
	Seconds int `json:"seconds" minimum:"0" maximum:"25"`
	Late    int `json:"late" minimum:"31" maximum:"600"`
}

// Usual are the settings that a terminal begins with.
func Usual() TerminalSettings { return TerminalSettings{Next: []Plan{}, Seconds: 3, Late: 45} }

// Charge is a payment as the terminal knows it.
type Charge struct {
	Key         uuid.UUID       `json:"key"`
	Amount      decimal.Decimal `json:"amount"`
	Plan        Plan            `json:"plan"`
	AskedAt     time.Time       `json:"askedAt"`
	CancelledAt *time.Time      `json:"cancelledAt,omitempty"`
	SettledAt   *time.Time      `json:"settledAt,omitempty"`
}

// Says is what the terminal says of the payment at a moment.
func (c *Charge) Says(s TerminalSettings, now time.Time) books.TerminalAnswer {
	after := time.Duration(s.Seconds) * time.Second
	if c.Plan == UnknownApproved || c.Plan == UnknownDeclined {
		after = time.Duration(s.Late) * time.Second
	}
	switch {
	case c.Amount.IsNegative() && c.CancelledAt != nil:
		return books.TerminalAnswer{Is: "reversed"}
	case c.Amount.IsNegative() && c.Plan == Declines: // money given back is answered at once
		return books.TerminalAnswer{Is: "declined", Reason: words.TheCardWasDeclined().Message}
	case c.Amount.IsNegative():
		return books.TerminalAnswer{Is: "approved"}
	case now.Sub(c.AskedAt) < after && c.CancelledAt != nil && c.Plan != UnknownApproved && c.Plan != UnknownDeclined:
		return books.TerminalAnswer{Is: "declined", Reason: words.CancelledAtTheDesk().Message}
	case now.Sub(c.AskedAt) < after:
		return books.TerminalAnswer{Is: books.NoAnswer}
	case c.CancelledAt != nil && (c.Plan == UnknownApproved || c.CancelledAt.Sub(c.AskedAt) < after):
		return books.TerminalAnswer{Is: "reversed"}
	case c.Plan == Declines || c.Plan == UnknownDeclined:
		return books.TerminalAnswer{Is: "declined", Reason: words.TheCardWasDeclined().Message}
	case c.Plan == OfflineSettled || c.Plan == OfflineRefused:
		return books.TerminalAnswer{Is: "stored"}
	}
	return books.TerminalAnswer{Is: "approved"}
}

// Store keeps the terminal's own account.
type Store interface {
	studio.Tx
	// LockTerminal returns the settings, held until the transaction ends.
	LockTerminal(ctx context.Context) (TerminalSettings, error)
	SaveTerminal(ctx context.Context, s TerminalSettings) error
	Charge(ctx context.Context, key uuid.UUID) (*Charge, error)
	AddCharge(ctx context.Context, c *Charge) error
	SaveCharge(ctx context.Context, c *Charge) error
	Charges(ctx context.Context, limit int) ([]Charge, error) // newest first
	// ChargesBetween lists payments asked for between two moments, and those of the keys.
	ChargesBetween(ctx context.Context, from, to time.Time, keys []uuid.UUID) ([]Charge, error)
}

// Terminal is the simulated card terminal.
type Terminal struct{ *studio.Kernel }

// Ask begins a payment; the same key again is the same payment.
func (t *Terminal) Ask(ctx context.Context, of, key uuid.UUID, amount decimal.Decimal) error {
	return studio.Within(ctx, t.Kernel, of, func(tx Store) error {
		s, err := tx.LockTerminal(ctx)
		if err != nil {
			return err
		}
		if _, err := tx.Charge(ctx, key); !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		_, err = t.charge(ctx, tx, s, key, amount)
		return err
	})
}

// charge keeps a payment with the plan that is next for it.
func (t *Terminal) charge(ctx context.Context, tx Store, s TerminalSettings, key uuid.UUID, amount decimal.Decimal) (*Charge, error) {
	c := &Charge{Key: key, Amount: amount, Plan: Approves, AskedAt: t.Now()}
	cents := amount.Abs().Mul(decimal.NewFromInt(100)).IntPart() % 100
	switch plan, asked := byCents[cents]; {
	case s.ByCents && asked:
		c.Plan = plan
	case len(s.Next) > 0:
		c.Plan, s.Next = s.Next[0], s.Next[1:]
		if err := tx.SaveTerminal(ctx, s); err != nil {
			return nil, err
		}
	}
	return c, tx.AddCharge(ctx, c)
}

// GiveBack gives money back: it is declined where that is the next answer, and else given at once.
func (t *Terminal) GiveBack(ctx context.Context, of, key uuid.UUID, amount decimal.Decimal) (out books.TerminalAnswer, err error) {
	err = studio.Within(ctx, t.Kernel, of, func(tx Store) error {
		s, err := tx.LockTerminal(ctx)
		if err != nil {
			return err
		}
		c, err := tx.Charge(ctx, key)
		if errors.Is(err, studio.ErrNotFound) {
			c, err = t.charge(ctx, tx, s, key, amount.Neg())
		}
		if err != nil {
			return err
		}
		out = c.Says(s, t.Now())
		return nil
	})
	return out, err
}

// Counted are the payments between two moments, and those of the keys named, that count as taken.
func (t *Terminal) Counted(ctx context.Context, of uuid.UUID, from, to time.Time, keys []uuid.UUID) (map[uuid.UUID]decimal.Decimal, error) {
	out := map[uuid.UUID]decimal.Decimal{}
	err := studio.Within(ctx, t.Kernel, of, func(tx Store) error {
		s, err := tx.LockTerminal(ctx)
		if err != nil {
			return err
		}
		list, err := tx.ChargesBetween(ctx, from, to, keys)
		for i := range list {
			c := &list[i]
			refused := c.SettledAt != nil && c.Plan == OfflineRefused
			if says := c.Says(s, t.Now()).Is; !refused && (says == "approved" || says == "stored") {
				out[c.Key] = c.Amount
			}
		}
		return err
	})
	return out, err
}

// Bring keeps a payment that was made before a file was brought in.
func (t *Terminal) Bring(ctx context.Context, within studio.Tx, c *books.CardPayment) error {
	plan := Approves
	if c.State == money.CardStored {
		plan = OfflineSettled
	}
	return studio.As[Store](within).AddCharge(ctx, &Charge{Key: c.ID, Amount: c.Amount, Plan: plan, AskedAt: c.AskedAt})
}

// Answer is what became of a payment.
func (t *Terminal) Answer(ctx context.Context, of, key uuid.UUID) (out books.TerminalAnswer, err error) {
	err = studio.Within(ctx, t.Kernel, of, func(tx Store) error {
		s, err := tx.LockTerminal(ctx)
		if err != nil {
			return err
		}
		c, err := tx.Charge(ctx, key)
		if errors.Is(err, studio.ErrNotFound) {
			out = books.TerminalAnswer{Is: books.Unheard}
			return nil
		}
		if err == nil {
			out = c.Says(s, t.Now())
		}
		return err
	})
	return out, err
}

// Cancel takes a payment back that was not answered yet; what is approved later is reversed. One that it never heard of
// is not charged any more.
func (t *Terminal) Cancel(ctx context.Context, of, key uuid.UUID) error {
	return studio.Within(ctx, t.Kernel, of, func(tx Store) error {
		s, err := tx.LockTerminal(ctx)
		if err != nil {
			return err
		}
		c, err := tx.Charge(ctx, key)
		now := t.Now()
		if errors.Is(err, studio.ErrNotFound) {
			return tx.AddCharge(ctx, &Charge{Key: key, Plan: Declines, AskedAt: now.Add(-time.Hour)})
		}
		answered := err == nil && !c.Amount.IsNegative() && c.Says(s, t.Now()).Is != books.NoAnswer
		if err != nil || c.CancelledAt != nil || answered {
			return err
		}
		c.CancelledAt = &now
		return tx.SaveCharge(ctx, c)
	})
}

// Settle sends in a payment that was stored while the terminal was offline.
func (t *Terminal) Settle(ctx context.Context, of, key uuid.UUID) (out books.TerminalAnswer, err error) {
	err = studio.Within(ctx, t.Kernel, of, func(tx Store) error {
		c, err := tx.Charge(ctx, key)
		if err != nil {
			return err
		}
		out = books.TerminalAnswer{Is: "approved"}
		if c.Plan == OfflineRefused {
			out = books.TerminalAnswer{Is: "refused", Reason: words.TheCardWasDeclined().Message}
		}
		if c.SettledAt != nil {
			return nil
		}
		now := t.Now()
		c.SettledAt = &now
		return tx.SaveCharge(ctx, c)
	})
	return out, err
}

// TerminalPanel is what is seen on the terminal's own panel.
type TerminalPanel struct {
	TerminalSettings
	Charges []ChargeLine `json:"charges"`
}

// ChargeLine is a payment, and what the terminal says of it now.
type ChargeLine struct {
	Charge
	Says string `json:"says" enum:",approved,declined,stored,reversed"`
}

// chargesShown is how many payments the panel shows.
const chargesShown = 12

// Panel shows the terminal.
func (t *Terminal) Panel(ctx context.Context, a *studio.Actor) (out *TerminalPanel, err error) {
	if err := a.May("get-terminal"); err != nil {
		return nil, err
	}
	err = studio.Within(ctx, t.Kernel, a.Studio, func(tx Store) error {
		s, err := tx.LockTerminal(ctx)
		if err != nil {
			return err
		}
		list, err := tx.Charges(ctx, chargesShown)
		out = &TerminalPanel{TerminalSettings: s, Charges: []ChargeLine{}}
		for i := range list {
			out.Charges = append(out.Charges, ChargeLine{list[i], list[i].Says(s, t.Now()).Is})
		}
		return err
	})
	return out, err
}

// Set sets the terminal's next answers.
func (t *Terminal) Set(ctx context.Context, a *studio.Actor, s TerminalSettings) error {
	if err := a.May("set-terminal"); err != nil {
		return err
	}
	return studio.Within(ctx, t.Kernel, a.Studio, func(tx Store) error {
		if _, err := tx.LockTerminal(ctx); err != nil {
			return err
		}
		return tx.SaveTerminal(ctx, s)
	})
}
