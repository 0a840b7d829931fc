package diary

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

const (
	// shortestReason is how long a reason to cancel is at least: "ill" is one.
	shortestReason = 3
	// undoFor is how long cancelling can be taken back; the server allows some more, for a
	// press at the end of it.
	undoFor   = time.Minute
	undoGrace = 15 * time.Second
)

// SetVisitState moves a visit on. Cancelling asks for a reason; once it is not free any more
// it is recorded as late.
func (s *Service) SetVisitState(
	ctx context.Context,
	a *studio.Actor,
	id uuid.UUID,
	to studio.VisitState,
	reason string,
) (*studio.VisitLine, error) {
	return s.setVisitState(ctx, a, id, to, reason, false)
}

// CancelByStudio cancels a visit for a reason of the studio's, which is never late.
func (s *Service) CancelByStudio(ctx context.Context, a *studio.Actor, id uuid.UUID, reason string) (*studio.VisitLine, error) {
	return s.setVisitState(ctx, a, id, studio.Cancelled, reason, true)
}

func (s *Service) setVisitState(
	ctx context.Context,
	a *studio.Actor,
	id uuid.UUID,
	to studio.VisitState,
	reason string,
	byStudio bool,
) (*studio.VisitLine, error) {
	if reason = strings.TrimSpace(reason); to != studio.Cancelled {
		reason = ""
	}
	var out *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.LockVisit(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayVisit("set-visit-state", &v.Visit); err != nil {
			return err
		}
		if to == studio.Cancelled && v.State != to && len(reason) < shortestReason {
			return studio.FaultAt("/reason", words.SayWhyTheAppointmentIsCancelled())
		}
		becomes, refused := step(&v.Visit, to, s.Now(), st)
		if refused != nil {
			return refused
		}
		if byStudio && becomes == studio.LateCancelled {
			becomes = studio.Cancelled
		}
		to = becomes
		if v.State != to {
			if v.State == studio.Arrived { // pressed by mistake, or it does not take place
				if err := s.unite(ctx, studio.As[joinedStore](tx), a, &v.Visit); err != nil {
					return err
				}
			}
			if err := tx.SetVisitState(ctx, id, to); err != nil {
				return err
			}
			if err := tx.AddCancelling(ctx, id, to, &a.Account, s.Now(), reason); err != nil {
				return err
			}
			if to == studio.Arrived {
				if err := s.divide(ctx, studio.As[joinedStore](tx), a, &v.Visit); err != nil {
					return err
				}
			}
			if cancelled(to) {
				if err := s.askTheOthers(ctx, tx, &v.Visit, v.ClientName); err != nil {
					return err
				}
				if err := s.Messages.Tell(ctx, tx, st, noLonger(v.Client, id)); err != nil {
					return err
				}
			}
		}
		if out, err = s.seen(ctx, tx, st, a, id); err != nil {
			return err
		}
		return s.tellCancelling(ctx, tx, a, out)
	})
	return out, err
}

// booked and noLonger tell a client of visits.
func booked(client uuid.UUID, visits ...uuid.UUID) studio.Notice {
	return studio.Notice{Kind: studio.BookingMessage, Client: client, Visits: visits}
}

func noLonger(client uuid.UUID, visits ...uuid.UUID) studio.Notice {
	return studio.Notice{Kind: studio.CancellingMessage, Client: client, Visits: visits}
}

func cancelled(s studio.VisitState) bool { return s == studio.Cancelled || s == studio.LateCancelled }

// tellCancelling fills in why a cancelled visit was, and until when the actor may undo it.
func (s *Service) tellCancelling(ctx context.Context, tx Store, a *studio.Actor, v *studio.VisitLine) error {
	if !cancelled(v.State) {
		return nil
	}
	changes, err := tx.VisitChanges(ctx, v.ID)
	if err != nil || len(changes) == 0 {
		return err
	}
	last := &changes[0]
	v.CancelReason = last.Reason
	if until := last.At.Add(undoFor); len(changes) > 1 && last.Account != nil && *last.Account == a.Account && s.Now().Before(until) {
		v.UndoUntil = &until
	}
	return nil
}

// UndoCancel takes back what the actor cancelled a moment ago, where the time is still free.
func (s *Service) UndoCancel(ctx context.Context, a *studio.Actor, id uuid.UUID) (*studio.VisitLine, error) {
	var out *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.LockVisit(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayVisit("undo-cancel", &v.Visit); err != nil {
			return err
		}
		changes, err := tx.VisitChanges(ctx, id)
		if err != nil {
			return err
		}
		if !cancelled(v.State) || len(changes) < 2 || changes[0].Account == nil || *changes[0].Account != a.Account ||
			s.Now().After(changes[0].At.Add(undoFor+undoGrace)) {
			return &studio.StateError{Code: "too-late", Sentence: words.CancellingCanBeUndoneForAMinute()}
		}
		back := changes[1].State
		if err := tx.SetVisitState(ctx, id, back); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, id, back, &a.Account, s.Now()); err != nil {
			return err
		}
		if back == studio.Arrived {
			if err := s.divide(ctx, studio.As[joinedStore](tx), a, &v.Visit); err != nil {
				return err
			}
		}
		if err := s.Messages.TakeBack(ctx, tx, id, studio.CancellingMessage); err != nil {
			return err
		}
		out, err = s.seen(ctx, tx, st, a, id)
		return err
	})
	return out, err
}
