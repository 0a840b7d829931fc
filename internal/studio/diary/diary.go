package diary

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Day is one day of the studio.
type Day struct {
	Date          string
	Opens, Closes time.Time
	Practitioners []studio.Person
	Rooms         []studio.Room
	Visits        []studio.VisitLine
}

// Day returns a day's visits; an empty date is today.
func (s *Service) Day(ctx context.Context, a *studio.Actor, date string) (*Day, error) {
	var d Day
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if date == "" {
			date = s.Today(st)
		}
		from, err := time.ParseInLocation(time.DateOnly, date, st.Zone())
		if err != nil {
			return studio.FaultAt("/date", words.EnterDateAsYearMonthDayFor())
		}
		to := from.AddDate(0, 0, 1)
		d.Date = date
		h := st.Open[from.Weekday()]
		d.Opens = time.Date(from.Year(), from.Month(), from.Day(), h.From/60, h.From%60, 0, 0, st.Zone())
		d.Closes = time.Date(from.Year(), from.Month(), from.Day(), h.To/60, h.To%60, 0, 0, st.Zone())
		if d.Practitioners, err = tx.Practitioners(ctx); err != nil {
			return err
		}
		if d.Rooms, err = tx.Rooms(ctx); err != nil {
			return err
		}
		if d.Visits, err = tx.Visits(ctx, from, to); err != nil {
			return err
		}
		d.Visits = slices.DeleteFunc(d.Visits, func(v studio.VisitLine) bool { return a.MayVisit("get-day", &v.Visit) != nil })
		if err := s.lateInRoom(ctx, tx, d.Visits); err != nil {
			return err
		}
		return s.Checks.Outlook(ctx, tx, st, a, d.Visits)
	})
	return &d, err
}

// lateInRoom says by how many minutes treatments under way are late.
func (s *Service) lateInRoom(ctx context.Context, tx Store, visits []studio.VisitLine) error {
	var under []uuid.UUID
	for i := range visits {
		if visits[i].State == studio.InRoom {
			under = append(under, visits[i].ID)
		}
	}
	if len(under) == 0 {
		return nil
	}
	at, err := tx.RoomProgress(ctx, under)
	if err != nil {
		return err
	}
	for i := range visits {
		if p, ok := at[visits[i].ID]; ok {
			visits[i].RoomMinutes = p.LateMinutes(s.Now())
		}
	}
	return nil
}

// nearTimes is how many other times a refused booking is offered.
const nearTimes = 4

// Book books a visit. When the time is taken it answers a *TakenError with the
// nearest free times; the database itself forbids overlap.
func (s *Service) Book(ctx context.Context, a *studio.Actor, n studio.NewVisit) (*studio.VisitLine, error) {
	var out *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := a.May("book-visit"); err != nil {
			return err
		}
		if v, err := tx.Visit(ctx, n.ID); err == nil { // sent twice
			if err := n.Repeats(&v.Visit); err != nil {
				return err
			}
			out, err = s.seen(ctx, tx, st, a, v.ID)
			return err
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		if n.Start.Before(s.Now().Add(-5 * time.Minute)) {
			return studio.FaultAt("/start", words.ThisTimeHasPassedChooseLaterOne())
		}
		if n.Start.After(s.Now().Add(studio.BookingAhead)) {
			return studio.FaultAt("/start", words.BookAtMostTwoYearsAhead())
		}
		number, err := tx.NewestVersion(ctx, n.Protocol)
		if err != nil {
			return err
		}
		p, err := tx.Version(ctx, n.Protocol, number)
		if err != nil {
			return err
		}
		n.Length = time.Duration(p.Minutes.Treatment) * time.Minute
		v := &studio.Visit{
			ID:           n.ID,
			Client:       n.Client,
			Practitioner: n.Practitioner,
			Room:         n.Room,
			Protocol:     n.Protocol,
			Version:      number,
			Kind:         studio.ForTreatment,
			State:        studio.Booked,
			CreatedAt:    s.Now(),
		}
		v.Place(n.Start, p.Minutes)
		if err := s.judgeBooking(ctx, tx, st, v); err != nil {
			return err
		}
		if err := tx.AddVisit(ctx, v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, studio.Booked, &a.Account, s.Now()); err != nil {
			return err
		}
		if err := s.Messages.Tell(ctx, tx, st, booked(v.Client, v.ID)); err != nil {
			return err
		}
		out, err = s.seen(ctx, tx, st, a, v.ID)
		return err
	})
	var taken *studio.TakenError
	if errors.As(err, &taken) {
		taken.Near = s.near(ctx, a, n)
	}
	return out, err
}

// seen is a visit with what is to be expected of it.
func (s *Service) seen(
	ctx context.Context,
	tx Store,
	st *studio.Studio,
	a *studio.Actor,
	id uuid.UUID,
) (*studio.VisitLine, error) {
	v, err := tx.Visit(ctx, id)
	if err != nil {
		return nil, err
	}
	if until := st.FreeUntil(&v.Visit); (v.State == studio.Booked || v.State == studio.Confirmed) && v.StartsAt.After(s.Now()) {
		v.FreeUntil = &until
	}
	if err := s.late(ctx, tx, v); err != nil {
		return nil, err
	}
	one := []studio.VisitLine{*v}
	err = s.Checks.Outlook(ctx, tx, st, a, one)
	return &one[0], err
}

// late says how late the client of a treatment is that should have begun.
func (s *Service) late(ctx context.Context, tx Store, v *studio.VisitLine) error {
	waits := v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived
	if !waits || v.Kind != studio.ForTreatment || !s.Now().After(v.StartsAt) || !s.Now().Before(v.EndsAt) {
		return nil
	}
	p, err := tx.Version(ctx, v.Protocol, v.Version)
	if err != nil {
		return err
	}
	if l := series.LateBy(v.StartsAt, s.Now(), p.Minutes.HandsOn); l.Advice != series.OnTime {
		v.Late = &l
	}
	return nil
}

// MoveVisit moves a visit that has not begun to another time, perhaps with
// another practitioner or in another room. A time that is taken answers a
// *TakenError with the nearest free ones.
func (s *Service) MoveVisit(ctx context.Context, a *studio.Actor, id uuid.UUID, to studio.NewVisit) (*studio.VisitLine, error) {
	var out *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		was, err := tx.LockVisit(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayVisit("move-visit", &was.Visit); err != nil {
			return err
		}
		if was.State != studio.Booked && was.State != studio.Confirmed && was.State != studio.Arrived {
			return &studio.StateError{Code: "visit-state", Sentence: words.ThisAppointmentStateCantMoved(was.State.Word())}
		}
		if was.State == studio.Arrived { // what follows moves with it
			if err := s.unite(ctx, studio.As[joinedStore](tx), a, &was.Visit); err != nil {
				return err
			}
			if was, err = tx.LockVisit(ctx, id); err != nil {
				return err
			}
		}
		if to.Start.Before(s.Now().Add(-5 * time.Minute)) {
			return studio.FaultAt("/start", words.ThisTimeHasPassedChooseLaterOne())
		}
		if to.Start.After(s.Now().Add(studio.BookingAhead)) {
			return studio.FaultAt("/start", words.BookAtMostTwoYearsAhead())
		}
		to.ID, to.Client, to.Protocol = was.ID, was.Client, was.Protocol
		to.Length, to.Reset = was.EndsAt.Sub(was.StartsAt), was.BusyUntil.Sub(was.EndsAt)
		v := was.Visit
		v.MoveTo(to.Start)
		v.Practitioner, v.Room, v.State = to.Practitioner, to.Room, studio.Booked
		if err := s.judgeBooking(ctx, tx, st, &v); err != nil {
			return err
		}
		if err := tx.MoveVisit(ctx, &v); err != nil {
			return err
		}
		if err := s.Checks.MoveLinks(ctx, tx, id, v.StartsAt); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, id, studio.Booked, &a.Account, s.Now()); err != nil {
			return err
		}
		moved := studio.Notice{Kind: studio.MovingMessage, Client: v.Client, Visits: []uuid.UUID{id}, Was: map[uuid.UUID]time.Time{id: was.StartsAt}}
		if err := s.Messages.Tell(ctx, tx, st, moved); err != nil {
			return err
		}
		if out, err = s.seen(ctx, tx, st, a, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "move", "visit", id)
	})
	var taken *studio.TakenError
	if errors.As(err, &taken) {
		taken.Near = s.near(ctx, a, to)
	}
	return out, err
}

// healingDays is how far ahead a visit is offered again after something that has
// to heal first, such as a cold sore (common practice, from memory: about ten
// days); the pre-treatment check of that day decides.
const healingDays = 10

// FirstFree returns the first time a visit could be moved to, from the day its
// waiting ends (or tomorrow, or when what has to heal may have healed) on, with the same practitioner where there is one
// within a month; ErrNotFound where nothing is free.
func (s *Service) FirstFree(ctx context.Context, a *studio.Actor, id uuid.UUID) (*studio.FreeTime, error) {
	var out *studio.FreeTime
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		v, err := tx.Visit(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayVisit("first-free", &v.Visit); err != nil {
			return err
		}
		expected, newest, err := s.Checks.Expect(ctx, tx, st, v.Client, v.StartsAt.In(st.Zone()).Format(time.DateOnly))
		if err != nil {
			return err
		}
		from := s.Now().In(st.Zone()).AddDate(0, 0, 1).Format(time.DateOnly)
		if newest != nil {
			from = max(from, string(newest.Result.NotBefore))
			if h := newest.Result.Headline; h == contraindication.DoNotTreat || h == contraindication.UrgentHelp {
				from = max(from, string(calendar.Day(newest.Day).Plus(healingDays)))
			}
		}
		_, letter, err := s.Checks.Waits(ctx, tx, st, v.Client)
		if err != nil {
			return err
		}
		from = max(from, string(expected.NotBefore), letter)
		for _, who := range []*uuid.UUID{&v.Practitioner, nil} {
			free, err := s.FreeTimesIn(
				ctx,
				tx,
				st,
				studio.FreeQuery{
					Protocol:     v.Protocol,
					Length:       v.EndsAt.Sub(v.StartsAt),
					Reset:        v.BusyUntil.Sub(v.EndsAt),
					Client:       &v.Client,
					Practitioner: who,
					From:         from,
					Days:         31,
					Moved:        v.ID,
				},
			)
			if err != nil {
				return err
			}
			if len(free) > 0 {
				out = &free[0]
				return nil
			}
		}
		return studio.ErrNotFound
	})
	return out, err
}

func (s *Service) near(ctx context.Context, a *studio.Actor, n studio.NewVisit) []studio.FreeTime {
	day := n.Start.Add(-24 * time.Hour)
	free, err := s.FreeTimes(
		ctx,
		a,
		studio.FreeQuery{
			Protocol: n.Protocol,
			Length:   n.Length,
			Reset:    n.Reset,
			Client:   &n.Client,
			From:     day.Format(time.DateOnly),
			Days:     4,
			Moved:    n.ID,
		},
	)
	if err != nil {
		return []studio.FreeTime{}
	}
	return series.Nearest(free, func(f studio.FreeTime) time.Time { return f.Start }, n.Start, nearTimes)
}

// Visit returns a visit.
func (s *Service) Visit(ctx context.Context, a *studio.Actor, id uuid.UUID) (*studio.VisitLine, error) {
	var v *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) (err error) {
		if v, err = s.seen(ctx, tx, st, a, id); err != nil {
			return err
		}
		if err := a.MayVisit("get-visit", &v.Visit); err != nil {
			return err
		}
		return s.tellCancelling(ctx, tx, a, v)
	})
	return v, err
}
