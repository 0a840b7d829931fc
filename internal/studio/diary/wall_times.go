package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// retimeStore is what appointments keep their wall time in.
type retimeStore interface {
	Store
	BusyTimes(ctx context.Context, from, to, now time.Time) ([]studio.BusyTime, error)
	RetimeVisit(ctx context.Context, id uuid.UUID, by time.Duration) error
}

// KeepWallTimes works out anew when the appointments to come of a studio begin: when the rules of
// its time zone have changed, or its zone was corrected, the wall time that was promised stays and
// the instant changes. One that would meet another booking stays where it is, and is listed among
// the clashes.
func (s *Service) KeepWallTimes(ctx context.Context, in uuid.UUID) error {
	return studio.Within(ctx, s.Kernel, in, func(tx retimeStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		return s.keepWallTimes(ctx, tx, st)
	})
}

func (s *Service) keepWallTimes(ctx context.Context, tx retimeStore, st *studio.Studio) error {
	now := s.Now()
	visits, err := tx.Visits(ctx, now, now.Add(ahead))
	if err != nil {
		return err
	}
	by := map[uuid.UUID]time.Duration{}
	for i := range visits {
		v := &visits[i]
		if v.Promised == "" || v.State != studio.Booked && v.State != studio.Confirmed {
			continue
		}
		if v.Promised == v.StartsAt.In(st.Zone()).Format(moment) {
			continue
		}
		at, err := series.InstantOf(v.Promised, st.Zone())
		if err != nil {
			return err
		}
		if at.After(now) && !at.Equal(v.StartsAt) {
			by[v.ID] = at.Sub(v.StartsAt)
		}
	}
	if len(by) == 0 {
		return nil
	}
	if err := tx.LockDiary(ctx); err != nil {
		return err
	}
	busy, err := tx.BusyTimes(ctx, now.Add(-48*time.Hour), now.Add(ahead), now)
	if err != nil {
		return err
	}
	leaveMeeting(busy, by)
	for i := range visits {
		if d, changes := by[visits[i].ID]; changes {
			if err := tx.RetimeVisit(ctx, visits[i].ID, d); err != nil {
				return err
			}
		}
	}
	return nil
}

// leaveMeeting takes out of the changes what would meet something that keeps its instant, until
// nothing meets any more.
func leaveMeeting(busy []studio.BusyTime, by map[uuid.UUID]time.Duration) {
	for again := true; again; {
		again = false
		for i := range busy {
			for k := range busy {
				a, b := &busy[i], &busy[k]
				if i == k || by[a.Visit] == by[b.Visit] || by[a.Visit] == 0 || !meetAfter(a, b, by) {
					continue
				}
				delete(by, a.Visit)
				again = true
			}
		}
	}
}

// meetAfter reports whether two bookings need the same practitioner, room or client at one time once
// the changes are made.
func meetAfter(a, b *studio.BusyTime, by map[uuid.UUID]time.Duration) bool {
	shared := a.Practitioner == b.Practitioner || a.Room == b.Room
	if shared && a.From.Add(by[a.Visit]).Before(b.Until.Add(by[b.Visit])) && b.From.Add(by[b.Visit]).Before(a.Until.Add(by[a.Visit])) {
		return true
	}
	return a.Client == b.Client && a.Start.Add(by[a.Visit]).Before(b.End.Add(by[b.Visit])) && b.Start.Add(by[b.Visit]).Before(a.End.Add(by[a.Visit]))
}
