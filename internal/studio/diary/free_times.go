package diary

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// FreeTimes returns the free times for the length of a protocol and its reset.
func (s *Service) FreeTimes(ctx context.Context, a *studio.Actor, q studio.FreeQuery) (out []studio.FreeTime, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out, err = s.FreeTimesIn(ctx, tx, st, q)
		return err
	})
	return out, err
}

// FreeStarts are the moments of [Service.FreeTimes]: what is the same of a moment is said once.
func (s *Service) FreeStarts(ctx context.Context, a *studio.Actor, q studio.FreeQuery) ([]studio.FreeStart, error) {
	list, err := s.FreeTimes(ctx, a, q)
	if err != nil {
		return nil, err
	}
	out := []studio.FreeStart{}
	for i := range list {
		if n := len(out); n == 0 || !out[n-1].Start.Equal(list[i].Start) {
			out = append(out, studio.FreeStart{FreeTime: list[i]})
		} else {
			out[n-1].Others = append(out[n-1].Others, list[i].PractitionerName)
		}
	}
	return out, nil
}

// FreeTimesIn is [Service.FreeTimes] inside a transaction. The times of the studio are kept; from them are taken those that have
// passed, and those at which the client cannot come.
func (s *Service) FreeTimesIn(ctx context.Context, within studio.Tx, st *studio.Studio, q studio.FreeQuery) ([]studio.FreeTime, error) {
	from, err := s.firstDay(st, &q)
	if err != nil {
		return nil, err
	}
	tx, now := studio.As[finderStore](within), s.Now()
	busy, err := tx.BusyTimes(ctx, st.Midnight(from.Add(-beside)), st.Midnight(from.AddDate(0, 0, q.Days).Add(beside)), now)
	if err != nil {
		return nil, err
	}
	all, err := s.timesOfStudio(ctx, tx, st, &q, from, busy)
	if err != nil {
		return nil, err
	}
	comes := func(int64) bool { return true }
	if q.Client != nil {
		if comes, err = s.whenComes(ctx, tx, st, &q, all.sold, busy); err != nil {
			return nil, err
		}
	}
	out := make([]studio.FreeTime, 0, len(all.times))
	suits := false
	for i := range all.times {
		at := all.times[i].Start
		if i == 0 || !at.Equal(all.times[i-1].Start) { // many begin at the same moment, with other people or in other rooms
			suits = !at.Before(now.Truncate(time.Minute)) && comes(at.Unix()/60)
		}
		if suits {
			out = append(out, all.times[i])
		}
	}
	return out, nil
}

// firstDay settles in the query which days are asked for, from today at the earliest, and returns the noon of the first.
func (s *Service) firstDay(st *studio.Studio, q *studio.FreeQuery) (time.Time, error) {
	if q.From != "" && !calendar.Day(q.From).Valid() {
		return time.Time{}, studio.FaultAt("/from", words.EnterDateAsYearMonthDayFor())
	}
	q.From, q.Days = max(s.Today(st), q.From), min(max(q.Days, 1), 31)
	return time.ParseInLocation(moment, q.From+"T12:00", st.Zone())
}

// studioTimes are free times for a length, whoever comes.
type studioTimes struct {
	times []studio.FreeTime
	sold  int
}

// timesOfStudio are the free times of the days that are asked for, from the midnight of the first on, for a client who can always
// come.
func (s *Service) timesOfStudio(
	ctx context.Context, tx finderStore, st *studio.Studio, q *studio.FreeQuery, from time.Time, busy []studio.BusyTime,
) (*studioTimes, error) {
	held := 0 // holds lapse although nothing is changed
	for i := range busy {
		if busy[i].HeldUntil != nil {
			held++
		}
	}
	practitioner := uuid.Nil
	if q.Practitioner != nil {
		practitioner = *q.Practitioner
	}
	key := fmt.Sprintf("free times for %s, %s and %s with %s but %s, on %s and from %s for %d days, %d held, by settings %d",
		q.Protocol, q.Length, q.Reset, practitioner, q.Moved, s.Today(st), q.From, q.Days, held, st.Changes)
	areas := []studio.Area{studio.InCatalog, studio.InPlans, studio.InDiary}
	return studio.Keep(ctx, tx, key, areas, func() (*studioTimes, error) { return s.findTimes(ctx, tx, st, q, from) })
}

func (s *Service) findTimes(ctx context.Context, tx finderStore, st *studio.Studio, q *studio.FreeQuery, from time.Time) (*studioTimes, error) {
	h, err := s.gatherBetween(ctx, tx, st, nil, ofVisit(q.Moved), st.Midnight(from), from.AddDate(0, 0, q.Days))
	if err != nil {
		return nil, err
	}
	item := series.Item{Sold: minutes(q.Length), Reset: minutes(q.Reset)}
	if q.Length == 0 {
		o := h.offer(q.Protocol)
		if o == nil {
			return nil, studio.ErrNotFound
		}
		item = o.item(&studio.SeriesItem{Marks: o.marks})
	}
	h.request.Now = q.From + "T00:00"
	h.request.Series.Items = []series.Item{item}
	if q.Practitioner != nil {
		h.request.Series.Practitioner = &series.WantedPerson{How: "must", Who: q.Practitioner.String()}
	}
	list, err := series.Times(&h.request, 1, q.From, from.AddDate(0, 0, q.Days-1).Format(time.DateOnly))
	if err != nil {
		return nil, err
	}
	times, err := h.free(list)
	return &studioTimes{times, item.Sold}, err
}

// whenComes returns a function that reports whether the client can come at a start, in minutes since 1970, for so many minutes.
func (s *Service) whenComes(
	ctx context.Context, tx finderStore, st *studio.Studio, q *studio.FreeQuery, sold int, busy []studio.BusyTime,
) (func(int64) bool, error) {
	a := asked(st, s.Now())
	for i := range busy {
		if b := &busy[i]; b.Client == *q.Client && b.Visit != q.Moved {
			a.request.Bookings = append(a.request.Bookings, a.booking(b, q.Client))
		}
	}
	var err error
	if a.away, err = tx.Absences(ctx, s.Now().Add(-beside), s.Now().Add(ahead)); err != nil {
		return nil, err
	}
	if a.request.Client.Blocked, a.letter, err = s.Checks.Waits(ctx, tx, st, *q.Client); err != nil {
		return nil, err
	}
	if err := a.gatherClient(ctx, tx, *q.Client); err != nil {
		return nil, err
	}
	return series.Comes(&a.request, sold)
}

// free are placements as free times.
func (a *asking) free(list []series.Placed) ([]studio.FreeTime, error) {
	out := make([]studio.FreeTime, 0, len(list))
	starts := map[string]time.Time{} // many begin at the same moment, with other people or in other rooms
	for _, p := range list {
		start, known := starts[p.Start]
		if !known {
			var err error
			if start, err = a.at(p.Start); err != nil {
				return nil, err
			}
			starts[p.Start] = start
		}
		out = append(out, studio.FreeTime{
			Start:            start,
			Practitioner:     uuid.MustParse(p.Practitioner),
			PractitionerName: a.name(p.Practitioner),
			Room:             uuid.MustParse(p.Room),
			RoomName:         a.name(p.Room),
		})
	}
	return out, nil
}
