package studio

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
)

// Day is one day of the studio.
type Day struct {
	Date          string
	Opens, Closes time.Time
	Practitioners []Person
	Rooms         []Room
	Visits        []VisitLine
}

// Day returns a day's visits; an empty date is today.
func (s *Service) Day(ctx context.Context, a *Actor, date string) (*Day, error) {
	var d Day
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		if date == "" {
			date = s.today(st)
		}
		from, err := time.ParseInLocation(time.DateOnly, date, st.Zone())
		if err != nil {
			return faultAt("/date", "Write the day as year-month-day.")
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
		return s.look(ctx, tx, st, a, d.Visits)
	})
	return &d, err
}

// deskWord is what the front desk may know of a door check.
func deskWord(headline string) string {
	switch headline {
	case "", "go", "go-with-changes":
		return headline
	}
	return "not"
}

// FreeTime is a time that can be booked.
type FreeTime struct {
	Start            time.Time `json:"start"`
	Practitioner     uuid.UUID `json:"practitioner"`
	PractitionerName string    `json:"practitionerName"`
	Room             uuid.UUID `json:"room"`
	RoomName         string    `json:"roomName"`
}

// FreeQuery asks for times: for a protocol, or for a length with its reset. A nil
// Practitioner is any; From empty is now.
type FreeQuery struct {
	Protocol     uuid.UUID
	Length       time.Duration
	Reset        time.Duration
	Client       *uuid.UUID
	Practitioner *uuid.UUID
	From         string // a day
	Days         int    // 1 to 31
}

// FreeTimes returns the free times for the length of a protocol and its reset.
func (s *Service) FreeTimes(ctx context.Context, a *Actor, q FreeQuery) (out []FreeTime, err error) {
	err = s.in(ctx, a, func(tx Tx, st *Studio) error {
		out, err = s.freeTimes(ctx, tx, st, q)
		return err
	})
	return out, err
}

func (s *Service) freeTimes(ctx context.Context, tx Tx, st *Studio, q FreeQuery) ([]FreeTime, error) {
	if q.Length == 0 {
		p, err := tx.Version(ctx, q.Protocol, 0)
		if err != nil {
			return nil, err
		}
		q.Length, q.Reset = time.Duration(p.Minutes.Sold)*time.Minute, time.Duration(p.Minutes.Reset)*time.Minute
	}
	from := s.Now()
	if q.From != "" {
		day, err := time.ParseInLocation(time.DateOnly, q.From, st.Zone())
		if err != nil {
			return nil, faultAt("/from", "Write the day as year-month-day.")
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
	query := series.Query{Zone: st.Zone(), Open: st.Open, From: from, Days: days, Length: q.Length, Reset: q.Reset}
	for _, v := range visits {
		if !v.State.takesTime() {
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
			query.Practitioners = append(query.Practitioners, series.Resource{ID: pr.ID.String(), Week: pr.Week, Busy: busyPerson[pr.ID]})
		}
	}
	for _, r := range rooms {
		names[r.ID.String()] = r.Name
		query.Rooms = append(query.Rooms, series.Resource{ID: r.ID.String(), Busy: busyRoom[r.ID]})
	}
	free := series.Free(query)
	out := make([]FreeTime, 0, len(free))
	for _, f := range free {
		out = append(out, FreeTime{f.Start, uuid.MustParse(f.Practitioner), names[f.Practitioner], uuid.MustParse(f.Room), names[f.Room]})
	}
	return out, nil
}

func (s VisitState) takesTime() bool { return s != Cancelled && s != LateCancelled && s != NoShow }

// NewVisit asks for a booking. ID is chosen by the caller, so that the same
// request sent twice books once.
type NewVisit struct {
	ID           uuid.UUID
	Client       uuid.UUID
	Practitioner uuid.UUID
	Room         uuid.UUID
	Protocol     uuid.UUID
	Start        time.Time
	// Length and Reset of the visit where there is no protocol to tell them.
	Length, Reset time.Duration
}

// nearTimes is how many other times a refused booking is offered.
const nearTimes = 4

// Book books a visit. When the time is taken it answers a *TakenError with the
// nearest free times; the database itself forbids overlap.
func (s *Service) Book(ctx context.Context, a *Actor, n NewVisit) (*VisitLine, error) {
	var out *VisitLine
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		if v, err := tx.Visit(ctx, n.ID); err == nil {
			out = v // sent twice
			return nil
		} else if !errors.Is(err, ErrNotFound) {
			return err
		}
		if n.Start.Before(s.Now().Add(-5 * time.Minute)) {
			return faultAt("/start", "That time has passed. Choose one that is still to come.")
		}
		number, err := tx.NewestVersion(ctx, n.Protocol)
		if err != nil {
			return err
		}
		p, err := tx.Version(ctx, n.Protocol, number)
		if err != nil {
			return err
		}
		n.Length = time.Duration(p.Minutes.Sold) * time.Minute
		if err := s.judgeBooking(ctx, tx, st, n); err != nil {
			return err
		}
		v := &Visit{ID: n.ID, Client: n.Client, Practitioner: n.Practitioner, Room: n.Room, Protocol: n.Protocol, Version: number, Kind: ForTreatment,
			StartsAt: n.Start, EndsAt: n.Start.Add(time.Duration(p.Minutes.Sold) * time.Minute), State: Booked, CreatedAt: s.Now()}
		v.BusyUntil = v.EndsAt.Add(time.Duration(p.Minutes.Reset) * time.Minute)
		if err := tx.AddVisit(ctx, v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, Booked, &a.Account, s.Now()); err != nil {
			return err
		}
		out, err = s.seen(ctx, tx, st, a, v.ID)
		return err
	})
	var taken *TakenError
	if errors.As(err, &taken) {
		taken.Near = s.near(ctx, a, n)
	}
	return out, err
}

// seen is a visit with what is to be expected of it.
func (s *Service) seen(ctx context.Context, tx Tx, st *Studio, a *Actor, id uuid.UUID) (*VisitLine, error) {
	v, err := tx.Visit(ctx, id)
	if err != nil {
		return nil, err
	}
	one := []VisitLine{*v}
	err = s.look(ctx, tx, st, a, one)
	return &one[0], err
}

// judgeBooking refuses a time at which the studio is closed, and a day on which
// what is known of the client asks to wait.
func (s *Service) judgeBooking(ctx context.Context, tx Tx, st *Studio, n NewVisit) error {
	if !st.Open.Holds(series.Span{Start: n.Start, End: n.Start.Add(n.Length)}, st.Zone()) {
		return faultAt("/start", "The studio is closed then. Choose a time within its hours.")
	}
	t, err := s.told(ctx, tx, st, n.Client)
	if err != nil {
		return err
	}
	if until := t.on(st.Pack(), n.Start.In(st.Zone()).Format(time.DateOnly)).NotBefore; until != "" {
		return &StateError{"before-waiting-ends", "What is known of the client asks to wait. The first day that may be booked is " + string(until) + "."}
	}
	return nil
}

// MoveVisit moves a visit that has not begun to another time, perhaps with
// another practitioner or in another room. A time that is taken answers a
// *TakenError with the nearest free ones.
func (s *Service) MoveVisit(ctx context.Context, a *Actor, id uuid.UUID, to NewVisit) (*VisitLine, error) {
	var out *VisitLine
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		was, err := tx.Visit(ctx, id)
		if err != nil {
			return err
		}
		if was.State != Booked && was.State != Confirmed && was.State != Arrived {
			return &StateError{"visit-state", "A visit that is " + string(was.State) + " cannot be moved."}
		}
		if to.Start.Before(s.Now().Add(-5 * time.Minute)) {
			return faultAt("/start", "That time has passed. Choose one that is still to come.")
		}
		to.Client, to.Protocol = was.Client, was.Protocol
		to.Length, to.Reset = was.EndsAt.Sub(was.StartsAt), was.BusyUntil.Sub(was.EndsAt)
		if err := s.judgeBooking(ctx, tx, st, to); err != nil {
			return err
		}
		v := was.Visit
		by := to.Start.Sub(was.StartsAt)
		v.StartsAt, v.EndsAt, v.BusyUntil = to.Start, was.EndsAt.Add(by), was.BusyUntil.Add(by)
		v.Practitioner, v.Room, v.State = to.Practitioner, to.Room, Booked
		if err := tx.MoveVisit(ctx, &v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, id, Booked, &a.Account, s.Now()); err != nil {
			return err
		}
		if out, err = s.seen(ctx, tx, st, a, id); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "move", "visit", id)
	})
	var taken *TakenError
	if errors.As(err, &taken) {
		taken.Near = s.near(ctx, a, to)
	}
	return out, err
}

// healingDays is how far ahead a visit is offered again after something that has
// to heal first, such as a cold sore (common practice, from memory: about ten
// days); the door check of that day decides.
const healingDays = 10

// FirstFree returns the first time a visit could be moved to, from the day its
// waiting ends (or tomorrow, or when what has to heal may have healed) on, with the same practitioner where there is one
// within a month; ErrNotFound where nothing is free.
func (s *Service) FirstFree(ctx context.Context, a *Actor, id uuid.UUID) (*FreeTime, error) {
	var out *FreeTime
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		v, err := tx.Visit(ctx, id)
		if err != nil {
			return err
		}
		t, err := s.told(ctx, tx, st, v.Client)
		if err != nil {
			return err
		}
		from := s.Now().In(st.Zone()).AddDate(0, 0, 1).Format(time.DateOnly)
		if t.screening != nil {
			from = max(from, string(t.screening.Result.NotBefore))
			if h := t.screening.Result.Headline; h == contraindication.NotHere || h == contraindication.UrgentHelp {
				from = max(from, string(calendar.Day(t.screening.Day).Plus(healingDays)))
			}
		}
		from = max(from, string(t.on(st.Pack(), v.StartsAt.In(st.Zone()).Format(time.DateOnly)).NotBefore))
		for _, who := range []*uuid.UUID{&v.Practitioner, nil} {
			free, err := s.freeTimes(ctx, tx, st, FreeQuery{Protocol: v.Protocol, Length: v.EndsAt.Sub(v.StartsAt), Reset: v.BusyUntil.Sub(v.EndsAt), Client: &v.Client, Practitioner: who, From: from, Days: 31})
			if err != nil {
				return err
			}
			if len(free) > 0 {
				out = &free[0]
				return nil
			}
		}
		return ErrNotFound
	})
	return out, err
}

func (s *Service) near(ctx context.Context, a *Actor, n NewVisit) []FreeTime {
	day := n.Start.Add(-24 * time.Hour)
	free, err := s.FreeTimes(ctx, a, FreeQuery{Protocol: n.Protocol, Length: n.Length, Reset: n.Reset, Client: &n.Client, From: day.Format(time.DateOnly), Days: 4})
	if err != nil {
		return []FreeTime{}
	}
	times := make([]series.Time, len(free))
	at := map[series.Time]FreeTime{}
	for i, f := range free {
		times[i] = series.Time{Start: f.Start, Practitioner: f.Practitioner.String(), Room: f.Room.String()}
		at[times[i]] = f
	}
	out := make([]FreeTime, 0, nearTimes)
	for _, t := range series.Nearest(times, n.Start, nearTimes) {
		out = append(out, at[t])
	}
	return out
}

// Visit returns a visit.
func (s *Service) Visit(ctx context.Context, a *Actor, id uuid.UUID) (*VisitLine, error) {
	var v *VisitLine
	err := s.in(ctx, a, func(tx Tx, st *Studio) (err error) {
		v, err = s.seen(ctx, tx, st, a, id)
		return err
	})
	return v, err
}

// freeCancelling is how long before a visit cancelling is free.
const freeCancelling = 24 * time.Hour

// steps a visit may take by hand; the room takes the others.
var visitSteps = map[VisitState][]VisitState{
	Booked:    {Confirmed, Arrived, Cancelled, NoShow},
	Confirmed: {Arrived, Cancelled, NoShow},
	Arrived:   {Cancelled, NoShow},
	NoShow:    {Arrived},
}

// SetVisitState moves a visit on. Cancelling within 24 hours of it is recorded
// as late.
func (s *Service) SetVisitState(ctx context.Context, a *Actor, id uuid.UUID, to VisitState) (*VisitLine, error) {
	var out *VisitLine
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		v, err := tx.Visit(ctx, id)
		if err != nil {
			return err
		}
		allowed := v.State == to
		for _, next := range visitSteps[v.State] {
			allowed = allowed || next == to
		}
		if !allowed {
			return &StateError{"visit-state", "A visit that is " + string(v.State) + " cannot become " + string(to) + "."}
		}
		if to == Cancelled && v.StartsAt.Sub(s.Now()) < freeCancelling {
			to = LateCancelled
		}
		if v.State != to {
			if err := tx.SetVisitState(ctx, id, to); err != nil {
				return err
			}
			if err := tx.AddVisitChange(ctx, id, to, &a.Account, s.Now()); err != nil {
				return err
			}
		}
		out, err = tx.Visit(ctx, id)
		return err
	})
	return out, err
}
