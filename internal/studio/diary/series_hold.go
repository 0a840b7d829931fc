package diary

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// holdStore is what series are held and booked in.
type holdStore interface {
	askStore
	LockDiary(ctx context.Context) error
	LapseHolds(ctx context.Context, now time.Time) error
	Holds(ctx context.Context, now time.Time) ([]studio.Series, error)
	AddSeries(ctx context.Context, s *studio.Series) error
	SaveSeries(ctx context.Context, s *studio.Series) error
	Series(ctx context.Context, id uuid.UUID) (*studio.Series, error)
	LockSeries(ctx context.Context, id uuid.UUID) (*studio.Series, error)
	SeriesVisits(ctx context.Context, id uuid.UUID) ([]studio.VisitLine, error)
	AddVisit(ctx context.Context, v *studio.Visit) error
	MoveVisit(ctx context.Context, v *studio.Visit) error
	SetVisitState(ctx context.Context, id uuid.UUID, state studio.VisitState) error
	EndWaitingOf(ctx context.Context, offered uuid.UUID, at time.Time) error
	AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error
	AddCancelling(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time, reason string) error
}

// SeriesTakenError says that a series cannot be as it was chosen any more: which visit, and what
// forbids it. Answer is the new best where one was asked for.
type SeriesTakenError struct {
	Visit  int
	Limit  series.Limit
	Name   string
	Answer *SeriesAnswer
}

func (e *SeriesTakenError) Error() string { return "diary: a visit of the series cannot be as chosen" }

// NewSeries asks to hold a series that was offered. ID is chosen by the caller, so that the same
// request sent twice holds once.
type NewSeries struct {
	ID uuid.UUID `json:"id" format:"uuid"`
	SeriesQuestion
	Visits []series.Placed `json:"visits" minItems:"1" maxItems:"61"`
}

// HoldSeries holds a whole series for some minutes, or nothing of it. Where a visit cannot be any
// more it answers a *SeriesTakenError with the new best.
func (s *Service) HoldSeries(ctx context.Context, a *studio.Actor, n NewSeries) (*SeriesView, error) {
	n.Moved, n.Current = nil, nil
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("hold-series"); err != nil {
			return err
		}
		if err := tx.LockDiary(ctx); err != nil {
			return err
		}
		now := s.Now()
		if err := tx.LapseHolds(ctx, now); err != nil {
			return err
		}
		if _, err := tx.Series(ctx, n.ID); err == nil { // sent twice
			out, err = s.view(ctx, tx, a, n.ID)
			return err
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		if err := fewEnough(ctx, tx, st, a, now); err != nil {
			return err
		}
		h, err := s.hear(ctx, tx, st, n.SeriesQuestion, nil)
		if err != nil {
			return err
		}
		placed, err := h.check(n.Visits)
		if err != nil {
			return err
		}
		until := now.Add(st.Hold())
		sr := &studio.Series{
			ID: n.ID, Client: n.Client, State: studio.SeriesOffered, Asked: n.SeriesAsked, HeldUntil: &until, HeldBy: &a.Account,
			CreatedAt: now, Items: h.items,
		}
		sr.Asked.PerWeek = h.request.Series.PerWeek
		if err := tx.AddSeries(ctx, sr); err != nil {
			return err
		}
		if err := s.addVisits(ctx, tx, a, h, sr, placed, studio.Held); err != nil {
			return err
		}
		out, err = s.view(ctx, tx, a, n.ID)
		return err
	})
	return out, s.withNewBest(ctx, a, err, n.SeriesQuestion)
}

// withNewBest adds the new best series to an answer that a visit is taken.
func (s *Service) withNewBest(ctx context.Context, a *studio.Actor, err error, q SeriesQuestion) error {
	var taken *SeriesTakenError
	var room *studio.TakenError
	switch {
	case errors.As(err, &taken):
	case errors.As(err, &room): // booked past the diary's lock
		taken = &SeriesTakenError{Limit: series.PersonTaken}
	default:
		return err
	}
	if taken.Answer, err = s.FindSeries(ctx, a, q); err != nil {
		return err
	}
	return taken
}

// fewEnough refuses a hold too many of one person; what waits for a client's answer is not counted.
func fewEnough(ctx context.Context, tx holdStore, st *studio.Studio, a *studio.Actor, now time.Time) error {
	holds, err := tx.Holds(ctx, now)
	if err != nil {
		return err
	}
	mine := 0
	for i := range holds {
		if holds[i].HeldBy != nil && *holds[i].HeldBy == a.Account {
			mine++
		}
	}
	if mine >= st.Diary.MostHolds {
		return &studio.StateError{Code: "too-many-holds", Sentence: words.YouHoldSeriesAlready(strconv.Itoa(mine))}
	}
	return nil
}

// check looks whether a series still obeys every limit, and gives each visit its room.
func (h *heard) check(visits []series.Placed) ([]series.Placed, error) {
	treatments := 0
	for _, v := range visits {
		if v.Kind == "treatment" {
			treatments++
		}
	}
	if treatments != len(h.items) {
		return nil, studio.FaultAt("/visits", words.TheSeriesHasOtherVisits())
	}
	placed, failed, why, err := series.Check(&h.request, visits)
	if err != nil {
		return nil, studio.FaultAt("/visits", words.ThereIsNoSuchVisit())
	}
	if why != nil {
		return nil, &SeriesTakenError{Visit: visits[failed].N, Limit: why.Limit, Name: h.name(why.Key)}
	}
	return placed, nil
}

// addVisits adds the visits of a series in a state.
func (s *Service) addVisits(
	ctx context.Context, tx holdStore, a *studio.Actor, h *heard, sr *studio.Series, placed []series.Placed, state studio.VisitState,
) error {
	for i := range placed {
		v, err := h.visit(sr, &placed[i])
		if err != nil {
			return err
		}
		v.State, v.CreatedAt = state, s.Now()
		if state == studio.Held {
			v.HeldUntil = sr.HeldUntil
		}
		if err := tx.AddVisit(ctx, v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, state, &a.Account, s.Now()); err != nil {
			return err
		}
	}
	return nil
}

// visit is a placement as a visit of the series.
func (h *heard) visit(sr *studio.Series, p *series.Placed) (*studio.Visit, error) {
	start, err := h.at(p.Start)
	if err != nil {
		return nil, err
	}
	v := &studio.Visit{ID: studio.NewID(), Client: sr.Client, Series: &sr.ID, Item: p.N, Kind: studio.ForTreatment}
	if v.Practitioner, err = uuid.Parse(p.Practitioner); err != nil {
		return nil, err
	}
	if v.Room, err = uuid.Parse(p.Room); err != nil {
		return nil, err
	}
	if p.Kind == "patch" {
		v.Kind = studio.ForPatchTest
		for _, product := range h.patch {
			v.Products = append(v.Products, product.Key)
		}
		v.Place(start, protocol.Minutes{Treatment: minutes(patchSold), Reset: minutes(patchReset)})
		return v, nil
	}
	o := h.sold(h.items[p.N-1].Protocol, h.items[p.N-1].Also)
	v.Protocol, v.Version, v.Also, v.Tools = o.ID, o.Version, o.also, o.tools
	v.Place(start, o.Body.Minutes)
	return v, nil
}

// BookSeries books a series that is held. One whose hold has lapsed meanwhile is booked all the
// same where its times are still free; where not, it answers a *SeriesTakenError with the new best.
func (s *Service) BookSeries(ctx context.Context, a *studio.Actor, id uuid.UUID) (*SeriesView, error) {
	var out *SeriesView
	var asked SeriesQuestion
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("book-series"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		switch sr.State {
		case studio.SeriesOffered:
			err = s.setAll(ctx, tx, a, visits, studio.Held, studio.Booked)
		case studio.SeriesLapsed:
			asked = questionOf(sr)
			err = s.bookLapsed(ctx, tx, st, a, sr, visits)
		case studio.SeriesRunning: // sent twice
		default:
			err = &studio.StateError{Code: "series-state", Sentence: words.ThisSeriesIsOver()}
		}
		if err != nil {
			return err
		}
		sr.State, sr.HeldUntil = studio.SeriesRunning, nil
		if err := tx.SaveSeries(ctx, sr); err != nil {
			return err
		}
		if err := tx.EndWaitingOf(ctx, id, s.Now()); err != nil {
			return err
		}
		if err := s.tellSeries(ctx, tx, st, id); err != nil {
			return err
		}
		if out, err = s.view(ctx, tx, a, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "book", "series", id)
	})
	return out, s.withNewBest(ctx, a, err, asked)
}

// tellSeries tells a client of all the visits of a series that was booked.
func (s *Service) tellSeries(ctx context.Context, tx holdStore, st *studio.Studio, id uuid.UUID) error {
	visits, err := tx.SeriesVisits(ctx, id)
	if err != nil {
		return err
	}
	var ids []uuid.UUID
	var client uuid.UUID
	for i := range visits {
		if visits[i].State == studio.Booked {
			client, ids = visits[i].Client, append(ids, visits[i].ID)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	return s.Messages.Tell(ctx, tx, st, booked(client, ids...))
}

// lockSeries takes the diary and a series, with its visits, until the transaction ends.
func (s *Service) lockSeries(ctx context.Context, tx holdStore, id uuid.UUID) (*studio.Series, []studio.VisitLine, error) {
	if err := tx.LockDiary(ctx); err != nil {
		return nil, nil, err
	}
	if err := tx.LapseHolds(ctx, s.Now()); err != nil {
		return nil, nil, err
	}
	sr, err := tx.LockSeries(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	visits, err := tx.SeriesVisits(ctx, id)
	return sr, visits, err
}

// setAll moves the visits that are in one state to another.
func (s *Service) setAll(ctx context.Context, tx holdStore, a *studio.Actor, visits []studio.VisitLine, from, to studio.VisitState) error {
	for i := range visits {
		if visits[i].State != from {
			continue
		}
		if err := tx.SetVisitState(ctx, visits[i].ID, to); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, visits[i].ID, to, &a.Account, s.Now()); err != nil {
			return err
		}
	}
	return nil
}

// bookLapsed books the times of a hold that has lapsed, where they are still free.
func (s *Service) bookLapsed(
	ctx context.Context, tx holdStore, st *studio.Studio, a *studio.Actor, sr *studio.Series, visits []studio.VisitLine,
) error {
	h, err := s.hear(ctx, tx, st, questionOf(sr), &sr.ID)
	if err != nil {
		return err
	}
	var wanted []series.Placed
	for i := range visits {
		if v := &visits[i]; v.State == studio.Lapsed {
			wanted = append(wanted, h.placed(&v.Visit))
		}
	}
	placed, err := h.check(wanted)
	if err != nil {
		return err
	}
	return s.addVisits(ctx, tx, a, h, sr, placed, studio.Booked)
}

// placed is a visit as the finder writes it.
func (a *asking) placed(v *studio.Visit) series.Placed {
	kind := "treatment"
	if v.Kind == studio.ForPatchTest {
		kind = "patch"
	}
	return series.Placed{
		Kind: kind, N: v.Item, Start: v.StartsAt.In(a.zone).Format("2006-01-02 15:04"),
		Practitioner: v.Practitioner.String(), Room: v.Room.String(),
	}
}

// questionOf is a series as the question that it answers.
func questionOf(sr *studio.Series) SeriesQuestion {
	q := SeriesQuestion{Client: sr.Client, SeriesAsked: sr.Asked, Gaps: sr.Items}
	for i := range sr.Items {
		last := len(q.What) - 1
		if last >= 0 && q.What[last].Protocol == sr.Items[i].Protocol && slices.Equal(q.What[last].Also, sr.Items[i].Also) {
			q.What[last].Visits++
			continue
		}
		q.What = append(q.What, AskedProtocol{sr.Items[i].Protocol, 1, sr.Items[i].Also})
	}
	return q
}

// ReleaseSeries lets go of a series that is held.
func (s *Service) ReleaseSeries(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx holdStore, _ *studio.Studio) error {
		if err := a.May("release-series"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		switch sr.State {
		case studio.SeriesLapsed:
			return nil
		case studio.SeriesOffered:
		default:
			return &studio.StateError{Code: "series-state", Sentence: words.ThisSeriesIsBookedAlready()}
		}
		if err := s.setAll(ctx, tx, a, visits, studio.Held, studio.Released); err != nil {
			return err
		}
		sr.State, sr.HeldUntil = studio.SeriesLapsed, nil
		return tx.SaveSeries(ctx, sr)
	})
}

// RenewHold holds a series for as long again, once.
func (s *Service) RenewHold(ctx context.Context, a *studio.Actor, id uuid.UUID) (*SeriesView, error) {
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, st *studio.Studio) error {
		if err := a.May("renew-hold"); err != nil {
			return err
		}
		sr, visits, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		switch {
		case sr.State != studio.SeriesOffered:
			return &studio.StateError{Code: "series-state", Sentence: words.ThisHoldHasLapsed()}
		case sr.Renewed:
			return &studio.StateError{Code: "series-state", Sentence: words.AHoldIsRenewedOnce()}
		}
		until := s.Now().Add(st.Hold())
		sr.HeldUntil, sr.Renewed = &until, true
		for i := range visits {
			if v := &visits[i].Visit; v.State == studio.Held {
				v.HeldUntil = &until
				if err := tx.MoveVisit(ctx, v); err != nil {
					return err
				}
			}
		}
		if err := tx.SaveSeries(ctx, sr); err != nil {
			return err
		}
		out, err = s.view(ctx, tx, a, id)
		return err
	})
	return out, err
}
