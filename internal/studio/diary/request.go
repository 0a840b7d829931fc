package diary

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// ahead is how far the finder knows the diary.
const ahead = 430 * 24 * time.Hour

// beside is how much of the diary is read before and after the days that are asked for.
const beside = 48 * time.Hour

// moment is wall time as the finder reads it.
const moment = "2006-01-02T15:04"

// finderStore is what the finder's request is gathered from.
type finderStore interface {
	studio.LibraryStore
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	Practitioners(ctx context.Context) ([]studio.Person, error)
	Rooms(ctx context.Context) ([]studio.Room, error)
	Roster(ctx context.Context) ([]studio.RosterEntry, error)
	Absences(ctx context.Context, from, to time.Time) ([]studio.Absence, error)
	ClientHours(ctx context.Context, client uuid.UUID) (*studio.ClientHours, error)
	BusyTimes(ctx context.Context, from, to, now time.Time) ([]studio.BusyTime, error)
}

// asking is the studio as the finder sees it at a moment, with what the answer is told with.
type asking struct {
	zone    *time.Location
	request series.Request
	people  []studio.Person
	rooms   []studio.Room
	lib     *studio.Library
	busy    []studio.BusyTime
	away    []studio.Absence
	offered []studio.ProtocolLine // published ones
	facts   map[uuid.UUID]*offer
	letter  string // the day on which a doctor's answer about the client is expected
	names   map[string]string
}

// offer is a protocol as it is sold.
type offer struct {
	studio.ProtocolLine
	marks series.Marks
	tools map[string]int
	work  series.Work
	// also are the treatments that follow in the same visit.
	also []studio.VisitPart
}

// gather asks the studio's data for everything that a request of the finder needs. client may be
// nil; what leave says, where it is not nil, is left out, as it is laid again.
func (s *Service) gather(
	ctx context.Context, tx finderStore, st *studio.Studio, client *uuid.UUID, leave func(*studio.BusyTime) bool,
) (*asking, error) {
	return s.gatherBetween(ctx, tx, st, client, leave, s.Now(), s.Now().Add(ahead))
}

// gatherBetween is [Service.gather] for times between two moments: what the diary holds at others is not read.
func (s *Service) gatherBetween(
	ctx context.Context, tx finderStore, st *studio.Studio, client *uuid.UUID, leave func(*studio.BusyTime) bool, from, to time.Time,
) (*asking, error) {
	now := s.Now()
	a := asked(st, now)
	q := &a.request
	var err error
	if a.lib, err = studio.ReadLibrary(ctx, tx); err != nil {
		return nil, err
	}
	if err := a.gatherOffers(ctx, tx); err != nil {
		return nil, err
	}
	if err := a.gatherWho(ctx, tx, st, now); err != nil {
		return nil, err
	}
	for i := range a.lib.Tools {
		t := &a.lib.Tools[i]
		q.Tools = append(q.Tools, series.RequestTool{Key: t.Key, Sets: t.Pieces, Out: t.ReadyAfter + t.Chill})
	}
	if a.busy, err = tx.BusyTimes(ctx, st.Midnight(from.Add(-beside)), st.Midnight(to.Add(beside)), now); err != nil {
		return nil, err
	}
	for i := range a.busy {
		b := &a.busy[i]
		if leave != nil && leave(b) {
			continue
		}
		q.Bookings = append(q.Bookings, a.booking(b, client))
	}
	out, err := studio.As[toolStore](tx).ToolsOut(ctx, now.In(a.zone).Format(time.DateOnly))
	if err != nil {
		return nil, err
	}
	gone, err := toolsOut(out, now, a.zone)
	if err != nil {
		return nil, err
	}
	q.Bookings = append(q.Bookings, gone...)
	if client == nil {
		return a, nil
	}
	if q.Client.Blocked, a.letter, err = s.Checks.Waits(ctx, tx, st, *client); err != nil {
		return nil, err
	}
	return a, a.gatherClient(ctx, tx, *client)
}

// asked is the studio with its hours and closures, and nothing else yet.
func asked(st *studio.Studio, now time.Time) *asking {
	a := &asking{zone: st.Zone(), facts: map[uuid.UUID]*offer{}}
	a.request.Zone, a.request.Now = a.zone.String(), now.In(a.zone).Format(moment)
	a.request.Open, a.request.LateFrom, a.request.Weights = pieces(st.Open), st.Diary.LateFrom, st.Diary.Weights()
	for _, c := range st.Closures {
		a.request.Closures = append(a.request.Closures, []string{c.From, c.To})
	}
	return a
}

// ofSeries leaves out the visits of a series; of none where it is nil.
func ofSeries(id *uuid.UUID) func(*studio.BusyTime) bool {
	return func(b *studio.BusyTime) bool { return id != nil && b.Series != nil && *b.Series == *id }
}

// ofVisit leaves out one visit.
func ofVisit(id uuid.UUID) func(*studio.BusyTime) bool {
	return func(b *studio.BusyTime) bool { return b.Visit == id }
}

// booking is what takes time as the finder reads it.
func (a *asking) booking(b *studio.BusyTime, client *uuid.UUID) series.RequestBooking {
	who, room := b.Practitioner.String(), b.Room.String()
	out := series.RequestBooking{
		Practitioner: &who,
		Room:         &room,
		Start:        b.Start.In(a.zone).Format(moment),
		Prepare:      minutes(b.Start.Sub(b.From)),
		Sold:         minutes(b.End.Sub(b.Start)),
		Reset:        minutes(b.Until.Sub(b.End)),
		Tools:        b.Tools,
	}
	if client != nil && b.Client == *client {
		out.Client = "this"
	}
	return out
}

func minutes(d time.Duration) int { return int(d / time.Minute) }

// gatherWho adds practitioners with their rosters, and rooms; with absences from two days before
// a moment on.
func (a *asking) gatherWho(ctx context.Context, tx finderStore, st *studio.Studio, from time.Time) (err error) {
	if a.people, err = tx.Practitioners(ctx); err != nil {
		return err
	}
	if a.rooms, err = tx.Rooms(ctx); err != nil {
		return err
	}
	roster, err := tx.Roster(ctx)
	if err != nil {
		return err
	}
	if a.away, err = tx.Absences(ctx, from.Add(-48*time.Hour), from.Add(ahead)); err != nil {
		return err
	}
	for i := range a.people {
		p := &a.people[i]
		week := p.Week
		if week == (series.Week{}) {
			week = st.Open
		}
		who := series.RequestPractitioner{Key: p.ID.String(), Shifts: []series.ShiftEntry{{From: "2000-01-03", Days: pieces(week)}}}
		who.Skills, who.Until = skills(p)
		for j := range roster {
			if e := &roster[j]; e.Practitioner == p.ID {
				who.Shifts = append(who.Shifts, series.ShiftEntry{From: e.From, To: e.To, Every: e.Every, Days: e.Days})
			}
		}
		who.Absences = a.absent(func(x *studio.Absence) bool { return x.Practitioner != nil && *x.Practitioner == p.ID })
		a.request.Practitioners = append(a.request.Practitioners, who)
	}
	for i := range a.rooms {
		r := &a.rooms[i]
		room := series.RequestRoom{Key: r.ID.String(), Equipment: r.Equipment, Places: r.Places}
		if closed := a.absent(func(x *studio.Absence) bool { return x.Room != nil && *x.Room == r.ID }); len(closed) > 0 {
			if room.Closed, err = json.Marshal(closed); err != nil {
				return err
			}
		}
		a.request.Rooms = append(a.request.Rooms, room)
	}
	return nil
}

// skills are what a practitioner may do: skills, and licences until their last day.
func skills(p *studio.Person) (all []string, until map[string]string) {
	all = slices.Clone(p.Skills)
	for _, l := range p.Licences {
		all = append(all, l.Name)
		if l.Until == "" {
			continue
		}
		if until == nil {
			until = map[string]string{}
		}
		until[l.Name] = max(until[l.Name], l.Until)
	}
	return all, until
}

// absent are absences as the finder reads them.
func (a *asking) absent(of func(*studio.Absence) bool) [][]string {
	var out [][]string
	for i := range a.away {
		if x := &a.away[i]; of(x) {
			out = append(out, []string{x.Start.In(a.zone).Format(moment), x.End.In(a.zone).Format(moment)})
		}
	}
	return out
}

func (a *asking) gatherClient(ctx context.Context, tx finderStore, client uuid.UUID) error {
	h, err := tx.ClientHours(ctx, client)
	if err != nil {
		return err
	}
	c := &a.request.Client
	c.Possible, c.Likes, c.Guardian, c.Bedtime = h.Possible, h.Likes, h.Guardian, h.Bedtime
	c.Absences = a.absent(func(x *studio.Absence) bool { return x.Client != nil && *x.Client == client })
	return nil
}

// pieces are a week's hours, Sunday first, as the finder reads them.
func pieces(w series.Week) series.WeekPieces {
	out := series.WeekPieces{}
	for i, name := range [...]string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"} {
		out[name] = [][]string{}
		if h := w[i]; h.To > h.From {
			out[name] = append(out[name], []string{clockOf(h.From), clockOf(h.To)})
		}
	}
	return out
}

func clockOf(minutes int) string {
	if minutes >= 24*60 {
		return "24:00"
	}
	return time.Date(2000, 1, 1, 0, minutes, 0, 0, time.UTC).Format("15:04")
}

// offers are the protocols on sale.
type offers struct {
	list  []studio.ProtocolLine
	facts map[uuid.UUID]*offer
}

// gatherOffers adds the protocols on sale. What their visits need is kept with them; where nothing may be kept it is worked
// out once it is asked for.
func (a *asking) gatherOffers(ctx context.Context, tx finderStore) error {
	memory, err := tx.Memory(ctx)
	if err != nil {
		return err
	}
	on, err := studio.Keep(ctx, tx, "offers", []studio.Area{studio.InCatalog, studio.InPlans}, func() (*offers, error) {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return nil, err
		}
		all, err := tx.Protocols(ctx, uuid.Nil)
		if err != nil {
			return nil, err
		}
		own := &asking{lib: lib, facts: map[uuid.UUID]*offer{}}
		for _, p := range all {
			if p.Version > 0 && p.Body.OnClient() && !p.Body.Collection {
				own.offered = append(own.offered, p)
			}
		}
		for i := range own.offered {
			if memory != nil {
				own.offer(own.offered[i].ID)
			}
		}
		return &offers{own.offered, own.facts}, nil
	})
	if err != nil {
		return err
	}
	a.offered, a.facts = on.list, on.facts
	for i := range a.offered {
		m := a.offered[i].Body.Minutes
		if busy := m.Prepare + m.Treatment + m.Reset; a.request.Shortest == 0 || busy < a.request.Shortest {
			a.request.Shortest = busy
		}
	}
	return nil
}

// offer returns a protocol with what its visits need; nil where it is not on sale.
func (a *asking) offer(id uuid.UUID) *offer {
	if o, known := a.facts[id]; known {
		return o
	}
	i := slices.IndexFunc(a.offered, func(p studio.ProtocolLine) bool { return p.ID == id })
	if i < 0 {
		return nil
	}
	o := &offer{ProtocolLine: a.offered[i]}
	a.facts[id] = o
	cx := a.lib.Context()
	if len(o.Body.Validate(cx, "")) > 0 {
		return o // it has to be mended first; it can be booked all the same
	}
	o.marks = series.MarksOf(&o.Body, cx)
	o.tools = evaluation.ToolSets(&o.Body, cx)
	o.work = series.WorkOf(&o.Body, cx)
	return o
}

// item is a visit of a protocol as the finder reads it.
func (o *offer) item(it *studio.SeriesItem) series.Item {
	m := o.Body.Minutes
	return series.Item{
		Prepare: m.Prepare, Sold: m.Treatment, Reset: m.Reset, Skills: o.Body.Skills, Equipment: o.Body.Equipment, Tools: o.tools,
		Drain: it.Draining, Deep: it.Deep, Glow: it.Glow, Ideal: it.Ideal, Least: it.Least, Most: it.Most, Rest: it.Rest,
	}
}

// name is what a person, a room or a tool is called.
func (a *asking) name(key string) string {
	if a.names == nil {
		a.names = map[string]string{}
		for i := range a.lib.Tools {
			a.names[a.lib.Tools[i].Key] = a.lib.Tools[i].Name
		}
		for i := range a.rooms {
			a.names[a.rooms[i].ID.String()] = a.rooms[i].Name
		}
		for i := range a.people {
			a.names[a.people[i].ID.String()] = a.people[i].Name
		}
	}
	if name, ok := a.names[key]; ok {
		return name
	}
	return key
}

// at is the instant of wall time as the finder writes it, 2006-01-02 15:04.
func (a *asking) at(text string) (time.Time, error) {
	return series.InstantOf(strings.Replace(text, " ", "T", 1), a.zone)
}
