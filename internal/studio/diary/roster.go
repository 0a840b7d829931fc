package diary

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// rosterStore is what rosters, absences, rooms and clients' hours are kept in.
type rosterStore interface {
	studio.Tx
	Practitioners(ctx context.Context) ([]studio.Person, error)
	Rooms(ctx context.Context) ([]studio.Room, error)
	Roster(ctx context.Context) ([]studio.RosterEntry, error)
	AddRosterEntry(ctx context.Context, e *studio.RosterEntry) error
	RemoveRosterEntry(ctx context.Context, id uuid.UUID) error
	Absences(ctx context.Context, from, to time.Time) ([]studio.Absence, error)
	AddAbsence(ctx context.Context, a *studio.Absence) error
	RemoveAbsence(ctx context.Context, id uuid.UUID) error
	BusyTimes(ctx context.Context, from, to, now time.Time) ([]studio.BusyTime, error)
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	ClientHours(ctx context.Context, client uuid.UUID) (*studio.ClientHours, error)
	SaveClientHours(ctx context.Context, client uuid.UUID, h *studio.ClientHours) error
}

// RosterView is who works when, who is away, and what the rooms have.
type RosterView struct {
	People   []RosterPerson       `json:"people"`
	Rooms    []RosterRoom         `json:"rooms"`
	Entries  []studio.RosterEntry `json:"entries"`
	Absences []studio.Absence     `json:"absences"`
	// Tools are those of which there are pieces, ToolsOut the pieces that are not there.
	Tools    []RosterTool     `json:"tools"`
	ToolsOut []studio.ToolOut `json:"toolsOut"`
}

// RosterTool is a tool with its pieces.
type RosterTool struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Pieces int    `json:"pieces"`
}

// RosterPerson is a practitioner with the usual week.
type RosterPerson struct {
	ID   uuid.UUID         `json:"id"`
	Name string            `json:"name"`
	Week series.WeekPieces `json:"week"`
	// Busy is how many busy times of an own calendar are to come.
	Busy int `json:"busy"`
	// BusyAddress is how it stands with the address of that calendar, nil where there is none.
	BusyAddress *studio.BusyState `json:"busyAddress,omitempty"`
}

// RosterRoom is a room with what is in it.
type RosterRoom struct {
	studio.Room
	Equipment []string `json:"equipment"`
}

// Roster returns rosters, and the absences that are not over.
func (s *Service) Roster(ctx context.Context, a *studio.Actor) (*RosterView, error) {
	out := &RosterView{People: []RosterPerson{}, Rooms: []RosterRoom{}}
	err := studio.In(ctx, s.Kernel, a, func(tx rosterStore, st *studio.Studio) error {
		if err := a.May("get-roster"); err != nil {
			return err
		}
		people, err := tx.Practitioners(ctx)
		if err != nil {
			return err
		}
		for i := range people {
			week := people[i].Week
			if week == (series.Week{}) {
				week = st.Open
			}
			out.People = append(out.People, RosterPerson{ID: people[i].ID, Name: people[i].Name, Week: pieces(week)})
		}
		rooms, err := tx.Rooms(ctx)
		if err != nil {
			return err
		}
		for _, r := range rooms {
			out.Rooms = append(out.Rooms, RosterRoom{r, orEmpty(r.Equipment)})
		}
		if out.Entries, err = tx.Roster(ctx); err != nil {
			return err
		}
		all, err := tx.Absences(ctx, s.Now(), s.Now().Add(ahead))
		if err != nil {
			return err
		}
		if err := s.rosterTools(ctx, studio.As[toolStore](tx), st, out); err != nil {
			return err
		}
		addresses, err := studio.As[addressStore](tx).BusyAddresses(ctx)
		if err != nil {
			return err
		}
		for i := range out.People {
			for _, b := range addresses {
				if b.Practitioner != nil && *b.Practitioner == out.People[i].ID {
					out.People[i].BusyAddress = &studio.BusyState{ReadAt: b.ReadAt, Failure: b.Failure}
				}
			}
			out.People[i].Busy = imported(all, func(x *studio.Absence) bool { return x.Practitioner != nil && *x.Practitioner == out.People[i].ID })
		}
		out.Absences = slices.DeleteFunc(all, func(x studio.Absence) bool { return x.Client != nil || x.Kind == studio.Imported })
		return nil
	})
	return out, err
}

// rosterTools adds the tools of which there are pieces, and those that are not there.
func (s *Service) rosterTools(ctx context.Context, tx toolStore, st *studio.Studio, out *RosterView) (err error) {
	tools, err := tx.Tools(ctx)
	if err != nil {
		return err
	}
	out.Tools = []RosterTool{}
	for i := range tools {
		if t := &tools[i]; t.Pieces > 0 {
			out.Tools = append(out.Tools, RosterTool{t.Key, t.Name, t.Pieces})
		}
	}
	out.ToolsOut, err = tx.ToolsOut(ctx, s.Today(st))
	return err
}

// imported counts the busy times of own calendars of somebody.
func imported(all []studio.Absence, of func(*studio.Absence) bool) (n int) {
	for i := range all {
		if x := &all[i]; x.Kind == studio.Imported && of(x) {
			n++
		}
	}
	return n
}

// NewShift asks for a line of a roster, with its hours as they are typed. ID is chosen by the
// caller.
type NewShift struct {
	ID           uuid.UUID `json:"id" format:"uuid"`
	Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
	From         string    `json:"from" maxLength:"10"`
	To           string    `json:"to,omitempty" maxLength:"10"`
	Every        int       `json:"every" minimum:"1" maximum:"52"`
	Hours        string    `json:"hours" maxLength:"200"`
	Note         string    `json:"note,omitempty" maxLength:"200"`
}

// AddShift adds a line to a roster.
func (s *Service) AddShift(ctx context.Context, a *studio.Actor, n NewShift) error {
	return studio.In(ctx, s.Kernel, a, func(tx rosterStore, _ *studio.Studio) error {
		if err := a.May("add-shift"); err != nil {
			return err
		}
		week, unread := series.ReadShift(n.Hours)
		if len(unread) > 0 || len(week) == 0 {
			return studio.FaultAt("/hours", words.TheseHoursWereNotUnderstood(strings.Join(unread, " ")))
		}
		for _, f := range []struct{ at, day string }{{"/from", n.From}, {"/to", n.To}} {
			if _, err := time.Parse(time.DateOnly, f.day); err != nil && (f.day != "" || f.at == "/from") {
				return studio.FaultAt(f.at, words.EnterDateAsYearMonthDayFor())
			}
		}
		if n.To != "" && n.To < n.From {
			return studio.FaultAt("/to", words.AShiftEndsAfterItBegins())
		}
		entries, err := tx.Roster(ctx)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(entries, func(e studio.RosterEntry) bool { return e.ID == n.ID }) {
			return nil // sent twice
		}
		if err := tx.AddRosterEntry(ctx, &studio.RosterEntry{
			ID: n.ID, Practitioner: n.Practitioner, From: n.From, To: n.To, Every: n.Every, Days: week, Note: n.Note,
		}); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", n.Practitioner)
	})
}

// RemoveShift takes a line out of a roster.
func (s *Service) RemoveShift(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx rosterStore, _ *studio.Studio) error {
		if err := a.May("remove-shift"); err != nil {
			return err
		}
		if err := tx.RemoveRosterEntry(ctx, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", id)
	})
}

// Clashes is how many appointments fall into a time that was just blocked: they are flagged, and
// nothing is moved.
type Clashes struct {
	Appointments int `json:"appointments"`
}

// AddAbsence notes that a practitioner or a client is away, or a room closed.
func (s *Service) AddAbsence(ctx context.Context, a *studio.Actor, x studio.Absence) (*Clashes, error) {
	out := &Clashes{}
	err := studio.In(ctx, s.Kernel, a, func(tx rosterStore, _ *studio.Studio) error {
		if err := a.May("add-absence"); err != nil {
			return err
		}
		if !x.Start.Before(x.End) {
			return studio.FaultAt("/end", words.AnAbsenceEndsAfterItBegins())
		}
		of := 0
		for _, id := range []*uuid.UUID{x.Practitioner, x.Client, x.Room} {
			if id != nil {
				of++
			}
		}
		if of != 1 {
			return studio.FaultAt("/practitioner", words.ChooseAPractitionerOfTheStudio())
		}
		there, err := tx.Absences(ctx, x.Start, x.End)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(there, func(o studio.Absence) bool { return o.ID == x.ID }) {
			if err := tx.AddAbsence(ctx, &x); err != nil {
				return err
			}
		}
		busy, err := tx.BusyTimes(ctx, x.Start, x.End, s.Now())
		if err != nil {
			return err
		}
		for i := range busy {
			b := &busy[i]
			if x.Practitioner != nil && b.Practitioner == *x.Practitioner || x.Room != nil && b.Room == *x.Room || x.Client != nil && b.Client == *x.Client {
				out.Appointments++
			}
		}
		return s.Audit(ctx, tx, a, "change", "roster", x.ID)
	})
	return out, err
}

// RemoveAbsence takes an absence back.
func (s *Service) RemoveAbsence(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx rosterStore, _ *studio.Studio) error {
		if err := a.May("remove-absence"); err != nil {
			return err
		}
		if err := tx.RemoveAbsence(ctx, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", id)
	})
}

// ClientHours returns when a client can come.
func (s *Service) ClientHours(ctx context.Context, a *studio.Actor, client uuid.UUID) (*studio.ClientHours, error) {
	var out *studio.ClientHours
	err := studio.In(ctx, s.Kernel, a, func(tx rosterStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "get-client-hours", client); err != nil {
			return err
		}
		_, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		if out, err = tx.ClientHours(ctx, client); err != nil {
			return err
		}
		addresses, err := studio.As[addressStore](tx).BusyAddresses(ctx)
		if err != nil {
			return err
		}
		for _, b := range addresses {
			if b.Client != nil && *b.Client == client {
				out.BusyAddress = &studio.BusyState{ReadAt: b.ReadAt, Failure: b.Failure}
			}
		}
		all, err := tx.Absences(ctx, s.Now(), s.Now().Add(ahead))
		out.Busy = imported(all, func(x *studio.Absence) bool { return x.Client != nil && *x.Client == client })
		return err
	})
	return out, err
}

// TypedHours are a client's hours as they are typed: "tue thu after 5"; empty is any time.
type TypedHours struct {
	Possible string `json:"possible" maxLength:"200"`
	Likes    string `json:"likes" maxLength:"200"`
	Guardian string `json:"guardian" maxLength:"200"`
	Bedtime  string `json:"bedtime" maxLength:"5"`
}

// SaveClientHours says when a client can come and likes to come, and when a minor's guardian can.
func (s *Service) SaveClientHours(ctx context.Context, a *studio.Actor, client uuid.UUID, n TypedHours) (*studio.ClientHours, error) {
	var out *studio.ClientHours
	err := studio.In(ctx, s.Kernel, a, func(tx rosterStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "save-client-hours", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		h := &studio.ClientHours{Bedtime: n.Bedtime}
		for _, f := range []struct {
			at, text string
			to       *series.WeekPieces
		}{{"/possible", n.Possible, &h.Possible}, {"/likes", n.Likes, &h.Likes}, {"/guardian", n.Guardian, &h.Guardian}} {
			w := series.ReadWhen(f.text, s.Today(st))
			for _, heard := range w.Heard {
				if heard.As != series.HeardWeekdays && heard.As != series.HeardHours && heard.As != series.HeardNotWeekdays {
					return studio.FaultAt(f.at, words.TheseHoursWereNotUnderstood(string([]rune(f.text)[heard.From:heard.To])))
				}
			}
			*f.to = w.Possible
		}
		if _, err := time.Parse("15:04", n.Bedtime); n.Bedtime != "" && err != nil {
			return studio.FaultAt("/bedtime", words.TimeIsNotATimeOfDay(n.Bedtime))
		}
		if err := tx.SaveClientHours(ctx, client, h); err != nil {
			return err
		}
		var err error
		out, err = tx.ClientHours(ctx, client)
		return err
	})
	return out, err
}
