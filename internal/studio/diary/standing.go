package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// standingStore is what bookings without an end are laid ahead in.
type standingStore interface {
	holdStore
	// RunningSeries lists the series that are running, by when they were made.
	RunningSeries(ctx context.Context) ([]studio.Series, error)
	AddSeriesItem(ctx context.Context, id uuid.UUID, it *studio.SeriesItem) error
}

// ExtendStanding lays the bookings without an end of a studio twelve weeks ahead: a visit is added
// where it comes next and nothing else has to change for it. Where it does, the treatment is due, and
// the desk decides.
func (s *Service) ExtendStanding(ctx context.Context, in uuid.UUID) error {
	var ids []uuid.UUID
	err := studio.Within(ctx, s.Kernel, in, func(tx standingStore) error {
		all, err := tx.RunningSeries(ctx)
		for i := range all {
			if series.ReadOften(all[i].Asked.Often).Standing != nil {
				ids = append(ids, all[i].ID)
			}
		}
		return err
	})
	if err != nil {
		return err
	}
	for _, id := range ids {
		if err := s.extend(ctx, in, id); err != nil {
			return err
		}
	}
	return nil
}

// extend adds the next visits of one booking without an end.
func (s *Service) extend(ctx context.Context, in, id uuid.UUID) error {
	return studio.Within(ctx, s.Kernel, in, func(tx standingStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		for range mostVisits {
			more, err := s.extendOnce(ctx, tx, st, id)
			if err != nil || !more {
				return err
			}
		}
		return nil
	})
}

// extendOnce adds the next visit, and reports whether there may be another.
func (s *Service) extendOnce(ctx context.Context, tx standingStore, st *studio.Studio, id uuid.UUID) (more bool, err error) {
	sr, visits, err := s.lockSeries(ctx, tx, id)
	if err != nil || sr.State != studio.SeriesRunning || len(sr.Items) >= mostVisits {
		return false, err
	}
	last := sr.Items[len(sr.Items)-1]
	day := ""
	for i := range visits {
		if v := &visits[i]; v.State.TakesTime() && v.Item == last.N && v.Kind == studio.ForTreatment {
			day = v.StartsAt.In(st.Zone()).Format(time.DateOnly)
		}
	}
	if day == "" {
		return false, nil // the last is due still
	}
	next, due := s.nextItem(st, &last, day, series.ReadOften(sr.Asked.Often).Standing)
	if !due {
		return false, nil
	}
	if err := tx.AddSeriesItem(ctx, id, next); err != nil {
		return false, err
	}
	sr.Items = append(sr.Items, *next)
	x, err := s.stand(ctx, tx, st, sr, visits)
	if err != nil {
		return false, err
	}
	answer, err := x.answer(s.Now())
	if err != nil || answer.Best == nil || answer.Best.Changed > 0 {
		return false, err
	}
	changed, err := x.changes(placedOf(answer.Best))
	if err != nil {
		return false, nil // it cannot be as laid: the desk decides
	}
	if err := s.moveAll(ctx, tx, ownActor(st), x, changed); err != nil {
		return false, err
	}
	return true, s.tellMoved(ctx, tx, st, x, changed)
}

// nextItem is the treatment that follows the last one, where it lies within twelve weeks.
func (s *Service) nextItem(st *studio.Studio, last *studio.SeriesItem, day string, standing *series.Standing) (*studio.SeriesItem, bool) {
	next := *last
	next.N++
	through := s.Now().In(st.Zone()).AddDate(0, 0, series.StandingAhead).Format(time.DateOnly)
	if standing.Nth > 0 {
		days := standing.Days(string(calendar.Day(day).Plus(daysOn)), through)
		if len(days) == 0 {
			return nil, false
		}
		next.Gap = standing.Gap(day, days[0])
		return &next, true
	}
	if next.Ideal == 0 { // the first has no gap of its own
		next.Ideal, next.Least, next.Most = 7, 6, 8
	}
	return &next, string(calendar.Day(day).Plus(next.Ideal)) <= through
}

// placedOf are the visits of an offer as they are written.
func placedOf(o *SeriesOffer) (out []series.Placed) {
	for _, v := range o.Visits {
		out = append(out, series.Placed{Kind: v.Kind, N: v.N, Start: v.Wall, Practitioner: v.Practitioner.String(), Room: v.Room.String()})
	}
	return out
}
