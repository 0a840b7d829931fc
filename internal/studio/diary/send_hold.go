package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// SendHold sends a held series to its client, who books it or lets it go by link. It is held for as
// long as clients have to answer, and counts as the one renewal. One waits for a client at a time.
func (s *Service) SendHold(ctx context.Context, a *studio.Actor, id uuid.UUID) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("send-hold"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		switch {
		case sr.State != studio.SeriesOffered:
			return &studio.StateError{Code: "series-state", Sentence: words.ThisHoldHasLapsed()}
		case sr.HeldBy == nil: // sent already
			out, err = s.view(ctx, tx, a, id)
			return err
		case sr.Renewed:
			return &studio.StateError{Code: "series-state", Sentence: words.AHoldIsRenewedOnce()}
		}
		holds, err := tx.Holds(ctx, s.Now())
		if err != nil {
			return err
		}
		for i := range holds {
			if holds[i].Client == sr.Client && holds[i].HeldBy == nil {
				return &studio.StateError{Code: "too-many-holds", Sentence: words.AnotherOfferWaitsForThisClient()}
			}
		}
		until := s.Now().Add(s.waits(st, visits))
		if err := s.holdUntil(ctx, tx, sr, visits, until); err != nil {
			return err
		}
		sent, err := s.Messages.Offer(ctx, tx, st, sr.Client, visits, until)
		if err != nil {
			return err
		}
		if !sent {
			return &studio.StateError{Code: "no-address", Sentence: words.ThisClientGetsNoMessages()}
		}
		out, err = s.view(ctx, tx, a, id)
		return err
	})
	return out, err
}

// waits is how long an offer waits for a client's answer: no longer than at the desk where the first
// visit begins soon.
func (s *Service) waits(st *studio.Studio, visits []studio.VisitLine) time.Duration {
	for i := range visits {
		if visits[i].StartsAt.Sub(s.Now()) < soonBegins {
			return st.Hold()
		}
	}
	return st.HoldByLink()
}

// holdUntil holds a series for a client who answers by link: nobody at the desk holds it any more.
func (s *Service) holdUntil(ctx context.Context, tx holdStore, sr *studio.Series, visits []studio.VisitLine, until time.Time) error {
	sr.HeldUntil, sr.HeldBy, sr.Renewed = &until, nil, true
	for i := range visits {
		if v := &visits[i].Visit; v.State == studio.Held {
			v.HeldUntil = &until
			if err := tx.MoveVisit(ctx, v); err != nil {
				return err
			}
		}
	}
	return tx.SaveSeries(ctx, sr)
}
