package diary

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// What a client may do with appointments of their own, by the link of their page (handbook,
// chapter 6, Visits and their states). There is no account behind it: the log of changes has none.

// ownVisit returns a client's own appointment and holds it.
func ownVisit(ctx context.Context, tx Store, client, visit uuid.UUID) (*studio.VisitLine, error) {
	v, err := tx.LockVisit(ctx, visit)
	if err != nil {
		return nil, err
	}
	if v.Client != client {
		return nil, studio.ErrNotFound
	}
	return v, nil
}

// ConfirmOwn confirms an appointment.
func (s *Service) ConfirmOwn(ctx context.Context, within studio.Tx, st *studio.Studio, client, visit uuid.UUID) error {
	return s.ownStep(ctx, within, st, client, visit, studio.Confirmed, "")
}

// CancelOwn cancels an appointment; within a day of its start that is late.
func (s *Service) CancelOwn(ctx context.Context, within studio.Tx, st *studio.Studio, client, visit uuid.UUID) error {
	return s.ownStep(ctx, within, st, client, visit, studio.Cancelled, words.ByTheClientsLink().Message)
}

func (s *Service) ownStep(
	ctx context.Context, within studio.Tx, st *studio.Studio, client, visit uuid.UUID, to studio.VisitState, reason string,
) error {
	tx := studio.As[Store](within)
	v, err := ownVisit(ctx, tx, client, visit)
	if err != nil {
		return err
	}
	if v.State != studio.Booked && v.State != studio.Confirmed {
		return &studio.StateError{Code: "visit-state", Sentence: words.CallTheStudioAboutThisAppointment()}
	}
	becomes, refused := step(&v.Visit, to, s.Now(), st)
	if refused != nil {
		return refused
	}
	if becomes == v.State {
		return nil
	}
	if err := tx.SetVisitState(ctx, visit, becomes); err != nil {
		return err
	}
	if err := tx.AddCancelling(ctx, visit, becomes, nil, s.Now(), reason); err != nil || !cancelled(becomes) {
		return err
	}
	if err := s.askTheOthers(ctx, tx, &v.Visit, v.ClientName); err != nil {
		return err
	}
	return s.Messages.Tell(ctx, tx, st, noLonger(client, visit))
}

// AskToMove puts a client's wish to have an appointment moved on the desk's list of calls.
func (s *Service) AskToMove(ctx context.Context, within studio.Tx, _ *studio.Studio, client, visit uuid.UUID, text string) error {
	type store interface {
		Store
		AddCall(ctx context.Context, c *studio.Call) error
		Calls(ctx context.Context) ([]studio.Call, error)
	}
	tx := studio.As[store](within)
	v, err := ownVisit(ctx, tx, client, visit)
	if err != nil {
		return err
	}
	if v.State != studio.Booked && v.State != studio.Confirmed {
		return &studio.StateError{Code: "visit-state", Sentence: words.CallTheStudioAboutThisAppointment()}
	}
	open, err := tx.Calls(ctx)
	if err != nil {
		return err
	}
	for i := range open {
		if open[i].Visit == visit {
			return nil // asked already
		}
	}
	reason := words.AsksToMove(strings.TrimSpace(text)).Message
	return tx.AddCall(ctx, &studio.Call{
		ID: studio.NewID(), Visit: visit, Client: client, WasAt: v.StartsAt, WasWith: v.Practitioner, Reason: reason, At: s.Now(),
	})
}

// ownActor is a client who acts by link: no account stands behind it.
func ownActor(st *studio.Studio) *studio.Actor {
	return &studio.Actor{Studio: st.ID, Role: studio.FrontDesk}
}

// ownSeries refuses a series of somebody else.
func (s *Service) ownSeries(ctx context.Context, st *studio.Studio, client, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, ownActor(st), func(tx seriesStore, _ *studio.Studio) error {
		sr, err := tx.Series(ctx, id)
		if err == nil && sr.Client != client {
			err = studio.ErrNotFound
		}
		return err
	})
}

// TakeOffer books a time that is held for a client.
func (s *Service) TakeOffer(ctx context.Context, st *studio.Studio, client, id uuid.UUID) error {
	if err := s.ownSeries(ctx, st, client, id); err != nil {
		return err
	}
	_, err := s.BookSeries(ctx, ownActor(st), id)
	return err
}

// LeaveOffer lets go of a time that is held for a client.
func (s *Service) LeaveOffer(ctx context.Context, st *studio.Studio, client, id uuid.UUID) error {
	if err := s.ownSeries(ctx, st, client, id); err != nil {
		return err
	}
	return s.ReleaseSeries(ctx, ownActor(st), id)
}
