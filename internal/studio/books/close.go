package books

import (
	"context"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// TillDay is a day's cash: what stood in the till, and what came and went by kind.
type TillDay struct {
	Float, Sales, PaidIn, Refunds, PaidOut decimal.Decimal
}

// DayClose is a day that was closed.
type DayClose struct {
	Day string `json:"day"`
	money.Closing
	Float   decimal.Decimal `json:"float"`
	Sales   decimal.Decimal `json:"sales"`
	PaidIn  decimal.Decimal `json:"paidIn"`
	Refunds decimal.Decimal `json:"refunds"`
	PaidOut decimal.Decimal `json:"paidOut"`
	Count   map[string]int  `json:"count"`
	Cards   []CardPayment   `json:"cards"`
	// Unmatched are card payments of which the terminal says something else; only before the day is closed.
	Unmatched []CardMismatch `json:"unmatched,omitempty"`
	Note      string         `json:"note"`
	At        time.Time      `json:"at"`
	Account   uuid.UUID      `json:"-"`
}

// closeStore is what closing a day asks for.
type closeStore interface {
	studio.LedgerStore
	// LastClosed is the last day that was closed, empty before the first.
	LastClosed(ctx context.Context) (string, error)
	// FirstOpen is the first day after the last closed one on which anything happened to money; empty where nothing did.
	FirstOpen(ctx context.Context) (string, error)
	// TillDay is the cash of a day, and what stood in the till when it began.
	TillDay(ctx context.Context, day string) (TillDay, error)
	// AloneInBooks keeps everybody else from writing to the ledger until the transaction ends.
	AloneInBooks(ctx context.Context) error
	AddDayClose(ctx context.Context, c *DayClose) error
	DayCloses(ctx context.Context, limit int) ([]DayClose, error) // newest first
	// Balances are what the accounts hold up to a day, all of it where none is named.
	Balances(ctx context.Context, to string) (money.Postings, error)
	// TipsOwed are the tips owed to practitioners, by id.
	TipsOwed(ctx context.Context) (map[uuid.UUID]decimal.Decimal, error)
}

// ClosingDay is the day that is to be closed next, before it is counted: what is expected is not said yet.
type ClosingDay struct {
	// Day is the next to close; Today says that it is today. Nothing to close where it is empty.
	Day      string   `json:"day"`
	Today    bool     `json:"today"`
	Currency string   `json:"currency"`
	Pieces   []string `json:"pieces"`
	Keep     string   `json:"keep"`
	// Waiting are card payments that are not ended, and stored ones at risk.
	Waiting []CardPayment `json:"waiting"`
	Last    *DayClose     `json:"last,omitempty"`
}

// ClosingDay says which day is to be closed next.
func (s *Service) ClosingDay(ctx context.Context, a *studio.Actor) (out *ClosingDay, err error) {
	if err := a.May("get-closing-day"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out = &ClosingDay{Currency: st.Currency, Pieces: money.CoinsAndNotes(st.Minor()), Keep: st.FloatToKeep().StringFixed(st.Minor())}
		if out.Day, err = s.toClose(ctx, tx, st); err != nil {
			return err
		}
		out.Today = out.Day == s.Today(st)
		if out.Waiting, err = tx.Cards(ctx, ""); err != nil {
			return err
		}
		last, err := tx.DayCloses(ctx, 1)
		if err == nil && len(last) > 0 {
			out.Last = &last[0]
		}
		return err
	})
	return out, err
}

// toClose is the first day that is not closed and on which something happened, else today; empty where today is closed.
func (s *Service) toClose(ctx context.Context, tx Store, st *studio.Studio) (string, error) {
	today := s.Today(st)
	first, err := tx.FirstOpen(ctx)
	if err != nil {
		return "", err
	}
	if first != "" && first <= today {
		return first, nil
	}
	last, err := tx.LastClosed(ctx)
	if err != nil || last >= today {
		return "", err
	}
	return today, nil
}

// TillCount is what was counted of each coin and note, to look at (Close false) or to close the day with.
type TillCount struct {
	Day   string         `json:"day" maxLength:"10"`
	Count map[string]int `json:"count"`
	Note  string         `json:"note,omitempty" maxLength:"500"`
	Close bool           `json:"close"`
}

// CountTill says what a count comes to against what is expected, and closes the day where it is asked to: in order, and
// once. What differs is posted with its note, what is above the float goes to the bank.
func (s *Service) CountTill(ctx context.Context, a *studio.Actor, c *TillCount) (out *DayClose, err error) {
	if err := a.May("close-day"); err != nil {
		return nil, err
	}
	terminal, err := s.countedByTerminal(ctx, a, c.Day)
	if err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if c.Close {
			if err := tx.AloneInBooks(ctx); err != nil {
				return err
			}
		}
		day, err := s.toClose(ctx, tx, st)
		if err != nil {
			return err
		}
		if c.Day != day {
			return s.notThisDay(ctx, tx, c.Day, day)
		}
		if out, err = s.counted(ctx, tx, st, c); err != nil {
			return err
		}
		if out.Unmatched, err = unmatched(ctx, tx, st, c.Day, terminal); err != nil || !c.Close {
			return err
		}
		differs := !out.Difference.IsZero() || len(out.Unmatched) > 0
		if differs && strings.TrimSpace(c.Note) == "" {
			return studio.FaultAt("/note", words.SayHowTheDifferenceCameAbout())
		}
		return s.close(ctx, tx, st, a, out)
	})
	return out, err
}

// countedByTerminal is what the terminal counts of a day, and of the payments that the books count on it.
func (s *Service) countedByTerminal(ctx context.Context, a *studio.Actor, day string) (map[uuid.UUID]decimal.Decimal, error) {
	var from time.Time
	var keys []uuid.UUID
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) (err error) {
		if from, err = time.ParseInLocation(time.DateOnly, day, st.Zone()); err != nil {
			return studio.FaultAt("/day", words.EnterADayBetween(studio.FirstDay, studio.LastDay))
		}
		ours, err := tx.CountedCards(ctx, day, nil)
		keys = slices.Collect(maps.Keys(ours))
		return err
	})
	if err != nil {
		return nil, err
	}
	return s.Terminal.Counted(ctx, a.Studio, from, from.AddDate(0, 0, 1), keys)
}

// notThisDay says why a day is not the next to close.
func (s *Service) notThisDay(ctx context.Context, tx Store, asked, next string) error {
	last, err := tx.LastClosed(ctx)
	if err != nil {
		return err
	}
	if asked <= last {
		return &studio.StateError{Code: "day-closed", Sentence: words.TheDayWasClosed()}
	}
	return &studio.StateError{Code: "not-the-next-day", Sentence: words.CloseTheEarlierDayFirst(next)}
}

// counted is what a count comes to.
func (s *Service) counted(ctx context.Context, tx Store, st *studio.Studio, c *TillCount) (*DayClose, error) {
	t, err := tx.TillDay(ctx, c.Day)
	if err != nil {
		return nil, err
	}
	till := money.Till{
		Float: t.Float, Sales: t.Sales, PaidIn: t.PaidIn, Refunds: t.Refunds, PaidOut: t.PaidOut, Keep: st.FloatToKeep(), Count: c.Count,
	}
	closing, err := till.Close()
	if err != nil {
		return nil, studio.FaultAt("/count", words.CountCoinsAndNotes())
	}
	cards, err := tx.Cards(ctx, c.Day)
	if err != nil {
		return nil, err
	}
	return &DayClose{
		Day: c.Day, Closing: closing, Float: t.Float, Sales: t.Sales, PaidIn: t.PaidIn, Refunds: t.Refunds, PaidOut: t.PaidOut,
		Count: c.Count, Cards: cards, Note: strings.TrimSpace(c.Note), At: s.Now(),
	}, nil
}

// close writes a day closed and posts its difference.
func (s *Service) close(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, c *DayClose) error {
	for i := range c.Cards {
		if state := c.Cards[i].State; state == money.CardAsked || state == money.CardUnknown || state == money.CardCancelling {
			return &studio.StateError{Code: "card-open", Sentence: words.ACardPaymentIsStillOpen()}
		}
	}
	balances, err := tx.Balances(ctx, c.Day)
	if err != nil {
		return err
	}
	book := money.BookOf(st.BookRules(), &money.Known{Cash: balances[money.CashTill]})
	done, err := book.Post(&money.Event{Kind: money.DayClosed, Counted: c.Counted, ToBank: c.ToBank})
	if err != nil {
		return err
	}
	// The event is written before the day counts as closed, and so is dated into it.
	err = post(ctx, tx, &studio.LedgerEvent{Kind: money.DayClosed, Day: c.Day, At: c.At, Account: &a.Account, Note: c.Note}, done)
	if err != nil {
		return err
	}
	c.Account = a.Account
	if err := tx.AddDayClose(ctx, c); err != nil {
		return err
	}
	return s.Audit(ctx, tx, a, "close", "day", uuid.Nil)
}

// DayCloses lists the days closed last.
func (s *Service) DayCloses(ctx context.Context, a *studio.Actor) (out []DayClose, err error) {
	if err := a.May("list-day-closes"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		out, err = tx.DayCloses(ctx, closesAtOnce)
		return err
	})
	return out, err
}

const closesAtOnce = 100

// MoneyMove is money that moves without a receipt.
type MoneyMove struct {
	ID uuid.UUID `json:"id" format:"uuid"`
	// Kind: what stood there at first, paid into and out of the till, tips paid out, a supplier paid, what the card
	// company pays, a commission paid.
	Kind         string    `json:"kind" enum:"open,paid-in,paid-out,pay-tips,pay-supplier,card-settle,pay-commission"`
	Amount       string    `json:"amount,omitempty" maxLength:"12"`
	Bank         string    `json:"bank,omitempty" maxLength:"12"`
	Fee          string    `json:"fee,omitempty" maxLength:"12"`
	Practitioner uuid.UUID `json:"practitioner,omitempty" format:"uuid"`
	// Note: the slip of what was paid out, or the initials of who was given it.
	Note string `json:"note,omitempty" maxLength:"300"`
}

// MoveMoney posts money that moves without a receipt. Sent again it changes nothing.
func (s *Service) MoveMoney(ctx context.Context, a *studio.Actor, m *MoneyMove) error {
	operation := "move-money"
	if m.Kind == "paid-in" || m.Kind == "paid-out" || m.Kind == "pay-tips" {
		operation = "move-till"
	}
	if err := a.May(operation); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if there, err := tx.EventThere(ctx, m.ID); err != nil || there {
			return err
		}
		event, err := s.moveEvent(ctx, tx, m)
		if err != nil {
			return err
		}
		known := &money.Known{Tips: map[string]decimal.Decimal{m.Practitioner.String(): event.Gross}}
		event.Gross = decimal.Zero
		done, err := money.BookOf(st.BookRules(), known).Post(event)
		if err != nil {
			return err
		}
		for i := range done.Postings {
			if m.Kind == "pay-tips" && done.Postings[i].Account == money.TipsOwed {
				done.Postings[i].Practitioner = m.Practitioner.String()
			}
		}
		return post(ctx, tx, &studio.LedgerEvent{
			ID: m.ID, Kind: event.Kind, At: s.Now(), Account: &a.Account, Note: strings.TrimSpace(m.Note),
		}, done)
	})
}

// moveEvent is the core's event; of tips Gross is what is owed.
func (s *Service) moveEvent(ctx context.Context, tx Store, m *MoneyMove) (*money.Event, error) {
	amount, err := amountAt("/amount", m.Amount)
	if err != nil {
		return nil, err
	}
	other, err := amountAt("/bank", m.Bank)
	if err != nil {
		return nil, err
	}
	fee, err := amountAt("/fee", m.Fee)
	if err != nil {
		return nil, err
	}
	note := strings.TrimSpace(m.Note) != ""
	switch m.Kind {
	case "open":
		return &money.Event{Kind: money.Opened, Cash: amount, Bank: other}, nil
	case "pay-tips":
		owed, err := tx.TipsOwed(ctx)
		if err != nil {
			return nil, err
		}
		if !owed[m.Practitioner].IsPositive() {
			return nil, &studio.StateError{Code: "no-tips", Sentence: words.NoTipsAreOwed()}
		}
		if !note {
			return nil, studio.FaultAt("/note", words.WriteTheInitials())
		}
		return &money.Event{Kind: money.TipsPaid, Practitioner: m.Practitioner.String(), Gross: owed[m.Practitioner]}, nil
	}
	if !amount.IsPositive() {
		return nil, studio.FaultAt("/amount", words.EnterAnAmountAbove0())
	}
	switch m.Kind {
	case "paid-in":
		return &money.Event{Kind: money.Opened, Cash: amount}, nil
	case "paid-out":
		if !note {
			return nil, studio.FaultAt("/note", words.NameTheSlip())
		}
		return &money.Event{Kind: money.Opened, Cash: amount.Neg()}, nil
	case "card-settle":
		if fee.GreaterThan(amount) {
			return nil, studio.FaultAt("/fee", words.TheFeeIsMoreThanThePayment())
		}
		return &money.Event{Kind: money.CardSettled, Amount: amount, Fee: fee}, nil
	case "pay-commission":
		return &money.Event{Kind: money.CommissionPaidOut, Amount: amount}, nil
	}
	return &money.Event{Kind: money.SupplierPaid, Amount: amount}, nil
}
