package diary

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Absence asks what becomes of the visits of a practitioner who is away from one moment until
// another.
type AbsentQuestion struct {
	Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
	From         time.Time `json:"from"`
	To           time.Time `json:"to"`
}

// NewDay is the day laid again: the calls to make, in the order in which the visits began, and
// the rooms that other visits change to.
type NewDay struct {
	Points int          `json:"points"`
	Calls  []NewDayCall `json:"calls"`
	Rooms  []NewDayRoom `json:"rooms"`
}

// NewDayCall is a client to be called: what the appointment was and what it becomes. To is null
// where it found no place.
type NewDayCall struct {
	Visit      uuid.UUID  `json:"visit" format:"uuid"`
	Client     uuid.UUID  `json:"client"`
	ClientName string     `json:"clientName"`
	Phone      string     `json:"phone"`
	Protocol   string     `json:"protocolName"`
	Was        time.Time  `json:"was"`
	To         *time.Time `json:"to"`
	With       *uuid.UUID `json:"with"`
	WithName   string     `json:"withName,omitempty"`
	Room       *uuid.UUID `json:"room"`
	RoomName   string     `json:"roomName,omitempty"`
	// AskFirst marks a client who wants no other practitioner.
	AskFirst bool `json:"askFirst,omitempty"`
}

// NewDayRoom is another visit that keeps its time and practitioner in another room.
type NewDayRoom struct {
	Visit      uuid.UUID `json:"visit"`
	ClientName string    `json:"clientName"`
	At         time.Time `json:"at"`
	Room       uuid.UUID `json:"room"`
	RoomName   string    `json:"roomName"`
}

// NewDayChangedError says that the day changed while it was looked at; it carries the new one.
type NewDayChangedError struct{ Now *NewDay }

func (e *NewDayChangedError) Error() string { return "diary: the day has changed meanwhile" }

// daysOn is on how many days after its own a single visit may be laid again.
const daysOn = 7

// absentStore is what a day is laid again in.
type absentStore interface {
	holdStore
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
	AddAbsence(ctx context.Context, a *studio.Absence) error
	AddCall(ctx context.Context, c *studio.Call) error
	AddWaiter(ctx context.Context, w *studio.Waiter) error
}

// absentDay is a day of a practitioner who is away, before it is laid again.
type absentDay struct {
	*asking
	request series.DayRequest
	visits  map[string]*studio.VisitLine
	phones  map[uuid.UUID]string
}

// LayAbsentDay answers how the visits of a practitioner who is away are laid again, all together.
// Nothing is written, and nobody is told.
func (s *Service) LayAbsentDay(ctx context.Context, a *studio.Actor, q AbsentQuestion) (*NewDay, error) {
	if err := a.May("lay-absent-day"); err != nil {
		return nil, err
	}
	var d *absentDay
	err := studio.In(ctx, s.Kernel, a, func(tx absentStore, st *studio.Studio) (err error) {
		d, err = s.gatherAbsent(ctx, tx, st, q)
		return err
	})
	if err != nil {
		return nil, err
	}
	return d.lay()
}

// AcceptAbsentDay writes the absence and the day as it was shown: visits move, those without a
// place are cancelled by the studio and wait first, and every client is on the list of calls. A
// day that has changed meanwhile answers a *NewDayChangedError.
func (s *Service) AcceptAbsentDay(ctx context.Context, a *studio.Actor, q AbsentQuestion, calls []NewDayCall) (*NewDay, error) {
	var out *NewDay
	err := studio.In(ctx, s.Kernel, a, func(tx absentStore, st *studio.Studio) error {
		if err := a.May("accept-absent-day"); err != nil {
			return err
		}
		if err := tx.LockDiary(ctx); err != nil {
			return err
		}
		if err := tx.LapseHolds(ctx, s.Now()); err != nil {
			return err
		}
		d, err := s.gatherAbsent(ctx, tx, st, q)
		if err != nil {
			return err
		}
		if out, err = d.lay(); err != nil {
			return err
		}
		if !sameCalls(out.Calls, calls) {
			return &NewDayChangedError{out}
		}
		if err := tx.AddAbsence(ctx, &studio.Absence{
			ID: studio.NewID(), Practitioner: &q.Practitioner, Start: q.From, End: q.To, Kind: studio.Ill,
		}); err != nil {
			return err
		}
		if err := s.writeNewDay(ctx, tx, a, d, out); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "lay day again", "practitioner", q.Practitioner)
	})
	return out, err
}

func sameCalls(a, b []NewDayCall) bool {
	return slices.EqualFunc(a, b, func(x, y NewDayCall) bool {
		if x.Visit != y.Visit || (x.To == nil) != (y.To == nil) || (x.With == nil) != (y.With == nil) {
			return false
		}
		return x.To == nil || x.To.Equal(*y.To) && *x.With == *y.With
	})
}

// gatherAbsent gathers a day for the search: the visits of those days, where each may go, and who
// wants nobody else.
func (s *Service) gatherAbsent(ctx context.Context, tx absentStore, st *studio.Studio, q AbsentQuestion) (*absentDay, error) {
	if !q.From.Before(q.To) || q.To.Sub(q.From) > 14*24*time.Hour {
		return nil, studio.FaultAt("/to", words.AnAbsenceEndsAfterItBegins())
	}
	zone := st.Zone()
	from, to := q.From.In(zone), q.To.In(zone)
	first := time.Date(from.Year(), from.Month(), from.Day(), 0, 0, 0, 0, zone)
	last := time.Date(to.Year(), to.Month(), to.Day()+1, 0, 0, 0, 0, zone)
	visits, err := tx.Visits(ctx, first, last)
	if err != nil {
		return nil, err
	}
	d := &absentDay{visits: map[string]*studio.VisitLine{}, phones: map[uuid.UUID]string{}}
	for i := range visits {
		v := &visits[i]
		if v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived {
			d.visits[v.ID.String()] = v
		}
	}
	d.asking, err = s.gather(ctx, tx, st, nil, func(b *studio.BusyTime) bool { return d.visits[b.Visit.String()] != nil })
	if err != nil {
		return nil, err
	}
	a := &d.asking.request
	d.request = series.DayRequest{
		Zone: a.Zone, Now: a.Now, Open: a.Open, Closures: a.Closures, Practitioners: a.Practitioners, Rooms: a.Rooms, Tools: a.Tools,
		Bookings: a.Bookings, Absent: series.Absent{Who: q.Practitioner.String(), From: from.Format(moment), To: to.Format(moment)},
	}
	for i := range visits {
		if v := &visits[i]; d.visits[v.ID.String()] != nil {
			one, err := s.dayVisit(ctx, tx, st, d, v, v.Practitioner == q.Practitioner)
			if err != nil {
				return nil, err
			}
			d.request.Visits = append(d.request.Visits, *one)
		}
	}
	return d, nil
}

// dayVisit is a visit as the search reads it; laid says that it is laid again.
func (s *Service) dayVisit(ctx context.Context, tx absentStore, st *studio.Studio, d *absentDay, v *studio.VisitLine, laid bool) (*series.DayVisit, error) {
	out := &series.DayVisit{
		ID: v.ID.String(), Practitioner: v.Practitioner.String(), Room: v.Room.String(), Start: v.StartsAt.In(d.zone).Format(moment),
		Prepare: minutes(v.StartsAt.Sub(v.BusyFrom)), Sold: minutes(v.EndsAt.Sub(v.StartsAt)), Reset: minutes(v.BusyUntil.Sub(v.EndsAt)),
		Tools: v.Tools, Arrived: v.State == studio.Arrived,
	}
	if v.SharesRoom != nil {
		out.Shares = v.SharesRoom.String()
	}
	if o := d.sold(v.Protocol, after(&v.Visit)); o != nil && v.Kind == studio.ForTreatment {
		out.Skills, out.Equipment = o.Body.Skills, o.Body.Equipment
	}
	if v.Kind == studio.ForPatchTest {
		out.Skills = d.patchSkills()
	}
	if !laid {
		return out, nil
	}
	c, err := tx.Client(ctx, v.Client)
	if err != nil {
		return nil, err
	}
	d.phones[v.Client] = c.Phone
	hours, err := tx.ClientHours(ctx, v.Client)
	if err != nil {
		return nil, err
	}
	out.Possible = hours.Possible
	return out, s.whereTo(ctx, tx, st, d, v, out)
}

// whereTo adds the days to which a visit may go, and whether its client wants nobody else.
func (s *Service) whereTo(ctx context.Context, tx absentStore, st *studio.Studio, d *absentDay, v *studio.VisitLine, out *series.DayVisit) error {
	day := v.StartsAt.In(d.zone)
	least, most := 0, daysOn
	if v.Kind == studio.ForPatchTest {
		most = 0 // it goes by its treatment
	}
	if v.Series != nil {
		sr, err := tx.Series(ctx, *v.Series)
		if err != nil {
			return err
		}
		names := make([]string, len(d.people))
		for i := range d.people {
			names[i] = d.people[i].Name
		}
		want, _ := series.ReadWith(sr.Asked.With, names)
		out.Must = want != nil && want.How == "must"
		if v.Kind == studio.ForTreatment {
			if least, most, err = s.withinGaps(ctx, tx, sr, v, day); err != nil {
				return err
			}
		}
	}
	expected, _, err := s.Checks.Expect(ctx, tx, st, v.Client, day.Format(time.DateOnly))
	if err != nil {
		return err
	}
	for n := least; n <= most; n++ {
		to := day.AddDate(0, 0, n)
		text := to.Format(time.DateOnly)
		if n == 0 || text < string(expected.NotBefore) || d.comesOn(v, text) {
			continue
		}
		out.Days = append(out.Days, text)
	}
	return nil
}

// comesOn reports whether the client of a visit has another one on a day, or is away.
func (d *absentDay) comesOn(v *studio.VisitLine, day string) bool {
	on := func(t time.Time) string { return t.In(d.zone).Format(time.DateOnly) }
	return slices.ContainsFunc(d.busy, func(b studio.BusyTime) bool {
		return b.Client == v.Client && b.Visit != v.ID && on(b.Start) == day
	}) || slices.ContainsFunc(d.away, func(x studio.Absence) bool {
		return x.Client != nil && *x.Client == v.Client && on(x.Start) <= day && day <= on(x.End.Add(-time.Minute))
	})
}

// withinGaps is by how many days a visit of a series may move, so that the gaps to its neighbours
// stay within the rhythm.
func (s *Service) withinGaps(ctx context.Context, tx absentStore, sr *studio.Series, v *studio.VisitLine, day time.Time) (least, most int, err error) {
	visits, err := tx.SeriesVisits(ctx, sr.ID)
	if err != nil {
		return 0, 0, err
	}
	least, most = -daysOn, daysOn
	for i := range visits {
		o := &visits[i]
		if !o.State.TakesTime() || o.Kind != studio.ForTreatment {
			continue
		}
		gap := daysBetween(o.StartsAt.In(day.Location()), day)
		switch o.Item {
		case v.Item - 1:
			it := &sr.Items[v.Item-1]
			least, most = max(least, it.Least-gap), min(most, it.Most-gap)
		case v.Item + 1:
			it := &sr.Items[v.Item]
			least, most = max(least, -gap-it.Most), min(most, -gap-it.Least)
		}
	}
	return least, most, nil
}

// lay asks for the new day and tells it with names.
func (d *absentDay) lay() (*NewDay, error) {
	found, err := series.LayDayAgain(&d.request)
	if err != nil {
		return nil, err
	}
	out := &NewDay{Points: found.Points, Calls: []NewDayCall{}, Rooms: []NewDayRoom{}}
	for _, c := range found.Calls {
		v := d.visits[c.ID]
		call := NewDayCall{
			Visit: v.ID, Client: v.Client, ClientName: v.ClientName, Phone: d.phones[v.Client], Protocol: v.ProtocolName, Was: v.StartsAt, AskFirst: c.AskFirst,
		}
		if c.Start != nil {
			at, err := d.at(*c.Start)
			if err != nil {
				return nil, err
			}
			with, room := uuid.MustParse(*c.Practitioner), uuid.MustParse(*c.Room)
			call.To, call.With, call.Room = &at, &with, &room
			call.WithName, call.RoomName = d.name(*c.Practitioner), d.name(*c.Room)
		}
		out.Calls = append(out.Calls, call)
	}
	for _, r := range found.Rooms {
		v := d.visits[r.ID]
		out.Rooms = append(out.Rooms, NewDayRoom{v.ID, v.ClientName, v.StartsAt, uuid.MustParse(r.Room), d.name(r.Room)})
	}
	return out, nil
}

// writeNewDay moves the visits of a new day, all let go first so that they may take each other's
// times, and lists the calls.
func (s *Service) writeNewDay(ctx context.Context, tx absentStore, a *studio.Actor, d *absentDay, day *NewDay) error {
	for _, c := range day.Calls {
		if err := tx.SetVisitState(ctx, c.Visit, studio.Released); err != nil {
			return err
		}
	}
	for _, r := range day.Rooms {
		if err := tx.SetVisitState(ctx, r.Visit, studio.Released); err != nil {
			return err
		}
	}
	for _, r := range day.Rooms {
		v := d.visits[r.Visit.String()].Visit
		v.Room = r.Room
		if err := tx.MoveVisit(ctx, &v); err != nil {
			return err
		}
	}
	for i := range day.Calls {
		c := &day.Calls[i]
		v := d.visits[c.Visit.String()]
		if err := s.writeCall(ctx, tx, a, v, c); err != nil {
			return err
		}
	}
	return nil
}

// writeCall moves or cancels one visit, and puts its client on the list of calls.
func (s *Service) writeCall(ctx context.Context, tx absentStore, a *studio.Actor, v *studio.VisitLine, c *NewDayCall) error {
	reason := words.PractitionerIsAwayReason().Message
	if c.To == nil {
		if err := tx.SetVisitState(ctx, v.ID, studio.Cancelled); err != nil {
			return err
		}
		if err := tx.AddCancelling(ctx, v.ID, studio.Cancelled, &a.Account, s.Now(), reason); err != nil {
			return err
		}
		if v.Kind == studio.ForTreatment {
			if err := tx.AddWaiter(ctx, &studio.Waiter{
				ID: studio.NewID(), Client: v.Client, Protocol: v.Protocol, Displaced: true, Series: v.Series, Item: v.Item, Reason: reason, Since: s.Now(),
			}); err != nil {
				return err
			}
		}
	} else {
		moved := v.Visit
		moved.MoveTo(*c.To)
		moved.Practitioner, moved.Room, moved.State = *c.With, *c.Room, studio.Booked
		if err := tx.MoveVisit(ctx, &moved); err != nil {
			return err
		}
		if err := s.Checks.MoveLinks(ctx, tx, v.ID, moved.StartsAt); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, studio.Booked, &a.Account, s.Now()); err != nil {
			return err
		}
	}
	return tx.AddCall(ctx, &studio.Call{
		ID: studio.NewID(), Visit: v.ID, Client: v.Client, WasAt: v.StartsAt, WasWith: v.Practitioner, AskFirst: c.AskFirst, Reason: reason, At: s.Now(),
	})
}

// OpenCall is a call that is still to be made.
type OpenCall struct {
	studio.Call
	ClientName string           `json:"clientName"`
	Phone      string           `json:"phone"`
	WasName    string           `json:"wasWithName"`
	Now        studio.VisitLine `json:"now"`
}

// callStore is what the list of calls is read from.
type callStore interface {
	Store
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	Calls(ctx context.Context) ([]studio.Call, error)
	CallMade(ctx context.Context, id, by uuid.UUID, at time.Time) error
}

// Calls lists the calls that are still to be made, in the order in which the visits began.
func (s *Service) Calls(ctx context.Context, a *studio.Actor) ([]OpenCall, error) {
	out := []OpenCall{}
	err := studio.In(ctx, s.Kernel, a, func(tx callStore, _ *studio.Studio) error {
		if err := a.May("list-calls"); err != nil {
			return err
		}
		calls, err := tx.Calls(ctx)
		if err != nil || len(calls) == 0 {
			return err
		}
		people, err := tx.Practitioners(ctx)
		if err != nil {
			return err
		}
		for i := range calls {
			c := &calls[i]
			client, err := tx.Client(ctx, c.Client)
			if err != nil {
				return err
			}
			v, err := tx.Visit(ctx, c.Visit)
			if err != nil {
				return err
			}
			one := OpenCall{Call: *c, ClientName: client.Name, Phone: client.Phone, Now: *v}
			if k := slices.IndexFunc(people, func(p studio.Person) bool { return p.ID == c.WasWith }); k >= 0 {
				one.WasName = people[k].Name
			}
			out = append(out, one)
		}
		return nil
	})
	return out, err
}

// CallMade notes that a client was called, and sends them what became of the appointment.
func (s *Service) CallMade(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx callStore, st *studio.Studio) error {
		if err := a.May("call-made"); err != nil {
			return err
		}
		open, err := tx.Calls(ctx)
		if err != nil {
			return err
		}
		if err := tx.CallMade(ctx, id, a.Account, s.Now()); err != nil {
			return err
		}
		k := slices.IndexFunc(open, func(c studio.Call) bool { return c.ID == id })
		if k < 0 {
			return nil // it was made already
		}
		return s.tellCalled(ctx, tx, st, &open[k])
	})
}

// tellCalled sends a client who was called what became of the appointment.
func (s *Service) tellCalled(ctx context.Context, tx callStore, st *studio.Studio, c *studio.Call) error {
	v, err := tx.Visit(ctx, c.Visit)
	if err != nil {
		return err
	}
	notice := studio.Notice{Kind: studio.MovingMessage, Client: c.Client}
	switch {
	case cancelled(v.State):
		notice = noLonger(c.Client, v.ID)
	case !v.StartsAt.Equal(c.WasAt) || v.Practitioner != c.WasWith:
		notice.Visits, notice.Was = []uuid.UUID{v.ID}, map[uuid.UUID]time.Time{v.ID: c.WasAt}
	}
	return s.Messages.Tell(ctx, tx, st, notice)
}
