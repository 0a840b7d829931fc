package portal

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Calendars finds whose calendar a token opens, before the studio is known.
type Calendars interface {
	// FindCalendar answers the studio and either the practitioner or the client;
	// [studio.ErrNotFound] where the token opens nothing.
	FindCalendar(ctx context.Context, tokenHash []byte) (studioID uuid.UUID, practitioner, client *uuid.UUID, err error)
}

// calendarStore is what calendars are written from.
type calendarStore interface {
	studio.Tx
	RenewCalendar(ctx context.Context, tokenHash []byte, practitioner, client *uuid.UUID, at time.Time) error
	CalendarSince(ctx context.Context, practitioner, client *uuid.UUID) (*time.Time, error)
	// CalendarVisits lists the visits that a calendar shows: those from a time on, cancelled ones
	// that were changed since another, by start.
	CalendarVisits(ctx context.Context, practitioner, client *uuid.UUID, from, changedSince time.Time) ([]CalendarVisit, error)
}

// CalendarVisit is a visit with when it was changed last.
type CalendarVisit struct {
	studio.VisitLine
	ChangedAt time.Time
	Changes   int
}

// CalendarEvent is one appointment of a calendar file. Nothing of it tells of health, of a concern
// or of a protocol.
type CalendarEvent struct {
	UID      string
	Sequence int
	Changed  time.Time
	Start    time.Time
	End      time.Time
	Status   string // CONFIRMED, TENTATIVE or CANCELLED
	Title    string
	Place    string
	// Rule repeats it (RFC 5545, RRULE), but for the starts in Except; Free says that nobody is busy
	// with it: a shift.
	Rule   string
	Except []time.Time
	Free   bool
	// Alarm lets a client's calendar ring three hours before, as they chose.
	Alarm bool
}

// Calendar is a calendar as it is written to a file.
type Calendar struct {
	Name   string
	Zone   string
	Now    time.Time
	Events []CalendarEvent
}

// CalendarFiles writes calendars as files.
type CalendarFiles interface {
	Calendar(c *Calendar) ([]byte, error)
}

// CalendarAddress is a private address, which is shown once.
type CalendarAddress struct {
	Address string `json:"address"`
}

// CalendarState says whether there is a private address, and since when.
type CalendarState struct {
	Since *time.Time `json:"since,omitempty"`
}

// How long a calendar looks back, and how long it keeps what was cancelled (handbook, chapter 6,
// Open formats).
const (
	calendarBack     = 60 * 24 * time.Hour
	cancelledVisible = 30 * 24 * time.Hour
	shiftsAhead      = 6 // months
)

// whose reads whose calendar is asked for: exactly one of a practitioner and a client.
func whose(practitioner, client *uuid.UUID) error {
	if (practitioner == nil) == (client == nil) {
		return studio.FaultAt("/practitioner", words.ChooseAPractitionerOfTheStudio())
	}
	return nil
}

// NewCalendarAddress makes the private address of a calendar anew; the one before ends.
func (s *Service) NewCalendarAddress(ctx context.Context, a *studio.Actor, practitioner, client *uuid.UUID) (*CalendarAddress, error) {
	token := studio.NewToken()
	err := s.setCalendar(ctx, a, "new-calendar-address", studio.HashToken(token), practitioner, client)
	if err != nil {
		return nil, err
	}
	return &CalendarAddress{s.Address + "/api/calendars/" + token + ".ics"}, nil
}

// EndCalendarAddress revokes the private address of a calendar.
func (s *Service) EndCalendarAddress(ctx context.Context, a *studio.Actor, practitioner, client *uuid.UUID) error {
	return s.setCalendar(ctx, a, "end-calendar-address", nil, practitioner, client)
}

func (s *Service) setCalendar(ctx context.Context, a *studio.Actor, operation string, hash []byte, practitioner, client *uuid.UUID) error {
	if err := whose(practitioner, client); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx calendarStore, _ *studio.Studio) error {
		if err := a.May(operation); err != nil {
			return err
		}
		if practitioner != nil && a.Role != studio.Owner && (a.Practitioner == nil || *a.Practitioner != *practitioner) {
			return studio.ErrNotYours // a colleague's calendar is theirs
		}
		if err := tx.RenewCalendar(ctx, hash, practitioner, client, s.Now()); err != nil {
			return err
		}
		of := practitioner
		if of == nil {
			of = client
		}
		return s.Audit(ctx, tx, a, "change", "calendar address", *of)
	})
}

// CalendarOf says whether somebody's calendar has a private address.
func (s *Service) CalendarOf(ctx context.Context, a *studio.Actor, practitioner, client *uuid.UUID) (*CalendarState, error) {
	if err := whose(practitioner, client); err != nil {
		return nil, err
	}
	out := &CalendarState{}
	err := studio.In(ctx, s.Kernel, a, func(tx calendarStore, _ *studio.Studio) (err error) {
		if err := a.May("get-calendar-address"); err != nil {
			return err
		}
		out.Since, err = tx.CalendarSince(ctx, practitioner, client)
		return err
	})
	return out, err
}

// OpenCalendar is the calendar that a private address leads to; alarm lets a client's ring.
func (s *Service) OpenCalendar(ctx context.Context, token string, alarm bool) (*Calendar, error) {
	in, practitioner, client, err := s.Calendars.FindCalendar(ctx, studio.HashToken(strings.TrimSuffix(token, ".ics")))
	if err != nil {
		return nil, err
	}
	out := &Calendar{Now: s.Now()}
	err = studio.Within(ctx, s.Kernel, in, func(tx calendarStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		out.Name, out.Zone = st.Name, st.Zone().String()
		visits, err := tx.CalendarVisits(ctx, practitioner, client, s.Now().Add(-calendarBack), s.Now().Add(-cancelledVisible))
		if err != nil {
			return err
		}
		for i := range visits {
			e := eventOf(&visits[i], st, client != nil)
			e.Alarm = alarm && client != nil
			out.Events = append(out.Events, e)
		}
		if practitioner == nil {
			return nil
		}
		shifts, err := s.Diary.Shifts(ctx, tx, st, *practitioner, s.Now().Add(-calendarBack), s.Now().AddDate(0, shiftsAhead, 0))
		if err != nil {
			return err
		}
		for i := range shifts {
			e, err := shiftEvent(&shifts[i], *practitioner, st)
			if err != nil {
				return err
			}
			out.Events = append(out.Events, e)
		}
		return nil
	})
	if errors.Is(err, studio.ErrNotFound) {
		return nil, studio.ErrNotFound
	}
	return out, err
}

// eventOf is a visit as an event: for its client the appointment at the studio, for its
// practitioner initials and minutes, prepare and reset included.
func eventOf(v *CalendarVisit, st *studio.Studio, forClient bool) CalendarEvent {
	e := CalendarEvent{
		UID: v.ID.String(), Sequence: v.Moves, Changed: v.ChangedAt, Status: "CONFIRMED", Start: v.StartsAt, End: v.EndsAt,
	}
	switch {
	case slices.Contains([]studio.VisitState{studio.Cancelled, studio.LateCancelled, studio.Released, studio.Lapsed}, v.State):
		e.Status = "CANCELLED"
		e.Sequence++
	case v.State == studio.Held:
		e.Status = "TENTATIVE"
	}
	if forClient {
		e.Title = words.PaperCalendarAppointment(st.Name)
		e.Place = strings.ReplaceAll(st.Address, "\n", ", ")
		return e
	}
	e.Start, e.End = v.BusyFrom, v.BusyUntil
	e.Title = words.PaperCalendarInitials(initials(v.ClientName), strconv.Itoa(int(v.EndsAt.Sub(v.StartsAt).Minutes())))
	e.Place = v.RoomName
	return e
}

// shiftEvent is a piece of a shift as an event that comes again.
func shiftEvent(r *series.ShiftRule, practitioner uuid.UUID, st *studio.Studio) (CalendarEvent, error) {
	at := func(day, clock string) (time.Time, error) {
		if clock == "24:00" {
			t, err := series.InstantOf(day+"T23:59", st.Zone())
			return t.Add(time.Minute), err
		}
		return series.InstantOf(day+"T"+clock, st.Zone())
	}
	start, err := at(r.First, r.From)
	if err != nil {
		return CalendarEvent{}, err
	}
	end, err := at(r.First, r.To)
	if err != nil {
		return CalendarEvent{}, err
	}
	last, err := at(r.Last, r.From)
	if err != nil {
		return CalendarEvent{}, err
	}
	e := CalendarEvent{
		UID: uuid.NewSHA1(practitioner, []byte(r.Key)).String(), Changed: start, Start: start, End: end,
		Status: "CONFIRMED", Title: words.PaperCalendarShift(st.Name), Free: true,
	}
	if r.Last > r.First { // UNTIL is in UTC, as DTSTART has a zone
		e.Rule = "FREQ=WEEKLY;INTERVAL=" + strconv.Itoa(r.Every) + ";UNTIL=" + last.UTC().Format("20060102T150405Z")
	}
	for _, day := range r.Except {
		t, err := at(day, r.From)
		if err != nil {
			return CalendarEvent{}, err
		}
		e.Except = append(e.Except, t)
	}
	return e, nil
}

// initials are the first letters of a name's parts.
func initials(name string) string {
	var out strings.Builder
	for part := range strings.FieldsSeq(name) {
		out.WriteRune([]rune(part)[0])
	}
	return strings.ToUpper(out.String())
}
