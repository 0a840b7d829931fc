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
		return s.Checks.Outlook(ctx, tx, st, a, d.Visits)
	})
	return &d, err
}

// FreeTimes returns the free times for the length of a protocol and its reset.
func (s *Service) FreeTimes(ctx context.Context, a *studio.Actor, q studio.FreeQuery) (out []studio.FreeTime, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out, err = s.FreeTimesIn(ctx, tx, st, q)
		return err
	})
	return out, err
}

// FreeTimesIn is [Service.FreeTimes] inside a transaction.
func (s *Service) FreeTimesIn(
	ctx context.Context,
	within studio.Tx,
	st *studio.Studio,
	q studio.FreeQuery,
) ([]studio.FreeTime, error) {
	tx := studio.As[Store](within)
	if q.Length == 0 {
		p, err := tx.Version(ctx, q.Protocol, 0)
		if err != nil {
			return nil, err
		}
		q.Length, q.Reset = time.Duration(p.Minutes.Treatment)*time.Minute, time.Duration(p.Minutes.Reset)*time.Minute
	}
	from := s.Now()
	if q.From != "" {
		day, err := time.ParseInLocation(time.DateOnly, q.From, st.Zone())
		if err != nil {
			return nil, studio.FaultAt("/from", words.EnterDateAsYearMonthDayFor())
		}
		if day.After(from) {
			from = day
		}
	}
	people, err := tx.Practitioners(ctx)
	if err != nil {
		return nil, err
	}
	rooms, err := tx.Rooms(ctx)
	if err != nil {
		return nil, err
	}
	days := min(max(q.Days, 1), 31)
	visits, err := tx.Visits(ctx, from.Add(-24*time.Hour), from.AddDate(0, 0, days+1))
	if err != nil {
		return nil, err
	}
	busyPerson, busyRoom := map[uuid.UUID][]series.Span{}, map[uuid.UUID][]series.Span{}
	query := series.Query{Zone: st.Zone(), Open: st.Open, Closures: st.Closures, From: from, Days: days, Length: q.Length, Reset: q.Reset}
	for _, v := range visits {
		if !v.State.TakesTime() {
			continue
		}
		span := series.Span{Start: v.StartsAt, End: v.BusyUntil}
		busyPerson[v.Practitioner] = append(busyPerson[v.Practitioner], span)
		busyRoom[v.Room] = append(busyRoom[v.Room], span)
		if q.Client != nil && v.Client == *q.Client {
			query.ClientBusy = append(query.ClientBusy, series.Span{Start: v.StartsAt, End: v.EndsAt})
		}
	}
	names := map[string]string{}
	for _, pr := range people {
		names[pr.ID.String()] = pr.Name
		if q.Practitioner == nil || pr.ID == *q.Practitioner {
			query.Practitioners = append(
				query.Practitioners,
				series.Resource{ID: pr.ID.String(), Week: pr.Week, Busy: busyPerson[pr.ID]},
			)
		}
	}
	for _, r := range rooms {
		names[r.ID.String()] = r.Name
		query.Rooms = append(query.Rooms, series.Resource{ID: r.ID.String(), Busy: busyRoom[r.ID]})
	}
	free := series.Free(query)
	out := make([]studio.FreeTime, 0, len(free))
	for _, f := range free {
		out = append(
			out,
			studio.FreeTime{
				Start:            f.Start,
				Practitioner:     uuid.MustParse(f.Practitioner),
				PractitionerName: names[f.Practitioner],
				Room:             uuid.MustParse(f.Room),
				RoomName:         names[f.Room],
			},
		)
	}
	return out, nil
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
		if err := s.judgeBooking(ctx, tx, st, n); err != nil {
			return err
		}
		v := &studio.Visit{
			ID:           n.ID,
			Client:       n.Client,
			Practitioner: n.Practitioner,
			Room:         n.Room,
			Protocol:     n.Protocol,
			Version:      number,
			Kind:         studio.ForTreatment,
			StartsAt:     n.Start,
			EndsAt:       n.Start.Add(time.Duration(p.Minutes.Treatment) * time.Minute),
			State:        studio.Booked,
			CreatedAt:    s.Now(),
		}
		v.BusyUntil = v.EndsAt.Add(time.Duration(p.Minutes.Reset) * time.Minute)
		if err := tx.AddVisit(ctx, v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, studio.Booked, &a.Account, s.Now()); err != nil {
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
	one := []studio.VisitLine{*v}
	err = s.Checks.Outlook(ctx, tx, st, a, one)
	return &one[0], err
}

// judgeBooking refuses a time at which the studio is closed, and a day on which
// what is known of the client asks to wait.
func (s *Service) judgeBooking(ctx context.Context, tx Store, st *studio.Studio, n studio.NewVisit) error {
	if c := series.ClosedOn(st.Closures, n.Start.In(st.Zone()).Format(time.DateOnly)); c != nil {
		return studio.FaultAt("/start", words.StudioIsClosedUntilReason(c.To, c.Reason))
	}
	if !st.Open.Holds(series.Span{Start: n.Start, End: n.Start.Add(n.Length)}, st.Zone()) {
		return studio.FaultAt("/start", words.StudioClosedAtThisTimeChooseTime())
	}
	people, err := tx.Practitioners(ctx)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(people, func(p studio.Person) bool { return p.ID == n.Practitioner })
	if i < 0 {
		return studio.FaultAt("/practitioner", words.ChooseAPractitionerOfTheStudio())
	}
	if week := people[i].Week; week != (series.Week{}) && !week.Holds(series.Span{Start: n.Start, End: n.Start.Add(n.Length)}, st.Zone()) {
		return studio.FaultAt("/start", words.PersonDoesNotWorkAtThisTime(people[i].Name))
	}
	expected, _, err := s.Checks.Expect(ctx, tx, st, n.Client, n.Start.In(st.Zone()).Format(time.DateOnly))
	if err != nil {
		return err
	}
	if until := expected.NotBefore; until != "" {
		return &studio.StateError{Code: "before-waiting-ends", Sentence: words.ThisClientHasWaitingPeriodFirstDay(string(until))}
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
		if to.Start.Before(s.Now().Add(-5 * time.Minute)) {
			return studio.FaultAt("/start", words.ThisTimeHasPassedChooseLaterOne())
		}
		if to.Start.After(s.Now().Add(studio.BookingAhead)) {
			return studio.FaultAt("/start", words.BookAtMostTwoYearsAhead())
		}
		to.Client, to.Protocol = was.Client, was.Protocol
		to.Length, to.Reset = was.EndsAt.Sub(was.StartsAt), was.BusyUntil.Sub(was.EndsAt)
		if err := s.judgeBooking(ctx, tx, st, to); err != nil {
			return err
		}
		v := was.Visit
		by := to.Start.Sub(was.StartsAt)
		v.StartsAt, v.EndsAt, v.BusyUntil = to.Start, was.EndsAt.Add(by), was.BusyUntil.Add(by)
		v.Practitioner, v.Room, v.State = to.Practitioner, to.Room, studio.Booked
		if err := tx.MoveVisit(ctx, &v); err != nil {
			return err
		}
		if err := s.Checks.MoveLinks(ctx, tx, id, v.StartsAt); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, id, studio.Booked, &a.Account, s.Now()); err != nil {
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
		from = max(from, string(expected.NotBefore))
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
		},
	)
	if err != nil {
		return []studio.FreeTime{}
	}
	times := make([]series.Time, len(free))
	at := map[series.Time]studio.FreeTime{}
	for i, f := range free {
		times[i] = series.Time{Start: f.Start, Practitioner: f.Practitioner.String(), Room: f.Room.String()}
		at[times[i]] = f
	}
	out := make([]studio.FreeTime, 0, nearTimes)
	for _, t := range series.Nearest(times, n.Start, nearTimes) {
		out = append(out, at[t])
	}
	return out
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
