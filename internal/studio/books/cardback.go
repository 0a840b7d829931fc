package books

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// CardBack is money that the terminal gave back for a receipt.
type CardBack struct {
	ID, Receipt uuid.UUID
	Amount      decimal.Decimal
	Day         string
	At          time.Time
}

// cardBackStore keeps what the terminal gave back, and what it is to be compared with.
type cardBackStore interface {
	AddCardBack(ctx context.Context, c *CardBack) error
	// CountedCards are the payments that count on a day, and what was given back on it below zero, by key; those of the
	// keys named too, whatever their day.
	CountedCards(ctx context.Context, day string, keys []uuid.UUID) (map[uuid.UUID]decimal.Decimal, error)
}

// terminalFirst says that the terminal is to give so much back before the receipt is written.
type terminalFirst struct{ amount decimal.Decimal }

func (e *terminalFirst) Error() string {
	return "books: the terminal gives " + e.amount.String() + " back first"
}

// withCardBack gives money back. What goes back by card the terminal gives first, under the receipt's own key, so that
// a repeat does not give it twice; where the receipt cannot be written after all, it takes it back again.
func (s *Service) withCardBack(ctx context.Context, a *studio.Actor, key uuid.UUID, do func(given decimal.Decimal) error) error {
	err := do(decimal.Zero)
	var first *terminalFirst
	if !errors.As(err, &first) {
		return err
	}
	says, err := s.Terminal.GiveBack(ctx, a.Studio, key, first.amount)
	if err != nil {
		return err
	}
	if says.Is != "approved" {
		return &studio.StateError{Code: "card-back-declined", Sentence: words.TheTerminalDidNotGiveItBack(says.Reason)}
	}
	err = do(first.amount)
	if err == nil {
		return nil
	}
	if undone := s.Terminal.Cancel(ctx, a.Studio, key); undone != nil {
		return fmt.Errorf("books: given back by card without a receipt: %w", errors.Join(err, undone))
	}
	return err
}

// givingBack is [Service.withCardBack] of a use case that writes in one transaction.
func (s *Service) givingBack(
	ctx context.Context, a *studio.Actor, key uuid.UUID, give func(given decimal.Decimal, tx Store, st *studio.Studio) error,
) error {
	return s.withCardBack(ctx, a, key, func(given decimal.Decimal) error {
		return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error { return give(given, tx, st) })
	})
}

// cardBack keeps what a counter-receipt gives back by card; it is written once the terminal gave exactly that.
func cardBack(ctx context.Context, tx Store, done money.Done, given decimal.Decimal, r *Receipt) error {
	back := done.Taken[money.ByCard].Neg()
	if !back.Equal(given) {
		return &terminalFirst{back}
	}
	if !back.IsPositive() {
		return nil
	}
	return tx.AddCardBack(ctx, &CardBack{ID: r.ID, Receipt: r.ID, Amount: back, Day: r.Day, At: r.At})
}

// CardMismatch is a card payment of which the books and the terminal say different amounts; empty where one of them
// knows nothing of it.
type CardMismatch struct {
	Key      uuid.UUID `json:"key"`
	Books    string    `json:"books,omitempty"`
	Terminal string    `json:"terminal,omitempty"`
}

// unmatched compares the cards of a day with the terminal's, key by key.
func unmatched(ctx context.Context, tx cardBackStore, st *studio.Studio, day string, terminal map[uuid.UUID]decimal.Decimal) ([]CardMismatch, error) {
	var keys []uuid.UUID
	for key := range terminal {
		keys = append(keys, key)
	}
	ours, err := tx.CountedCards(ctx, day, keys)
	if err != nil {
		return nil, err
	}
	out := []CardMismatch{}
	for _, m := range money.MatchCards(ours, terminal) {
		line := CardMismatch{Key: m.Key}
		if m.Ours != nil {
			line.Books = m.Ours.StringFixed(st.Minor())
		}
		if m.Theirs != nil {
			line.Terminal = m.Theirs.StringFixed(st.Minor())
		}
		out = append(out, line)
	}
	slices.SortFunc(out, func(a, b CardMismatch) int { return cmp.Compare(a.Key.String(), b.Key.String()) })
	return out, nil
}
