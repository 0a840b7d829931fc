// Package messages says when a client is told what about their appointments: before them, after
// them, and as a series goes on (handbook, chapter 6, Visits and their states). It knows no texts
// and sends nothing.
package messages

import (
	"slices"
	"time"
)

// Kind is what a message is for.
type Kind string

// The kinds of message, in the order in which they fall due.
const (
	Prepare     Kind = "prepare"      // consultation to fill in; patch test explained where one is due
	AnythingNew Kind = "anything-new" // anything new since last time? confirm, or ask to move
	Reminder    Kind = "reminder"
	Short       Kind = "short" // hours before, by choice
	NextDay     Kind = "next-day"
	HalfWay     Kind = "half-way" // of a series; to the practitioner as well, like the next two
	TwoLeft     Kind = "two-left"
	ReviewDue   Kind = "review-due"
)

// OfSeries reports whether a message tells how far a series has come.
func (k Kind) OfSeries() bool { return k == HalfWay || k == TwoLeft || k == ReviewDue }

// Timing is when messages are due. Times of the day are minutes after midnight.
type Timing struct {
	// QuietFrom and QuietTo are when nobody is written to: from the evening to the morning.
	QuietFrom, QuietTo int
	// PrepareDays is how many days before the first appointment.
	PrepareDays int
	// AnythingNewHours, ReminderHours and ShortHours are hours before an appointment.
	AnythingNewHours, ReminderHours, ShortHours int
	// FreeHours is how many hours before free cancelling ends the reminder comes at least.
	FreeHours int
	// NextDayAt is the time of the day after.
	NextDayAt int
}

// Usual is the timetable of the handbook.
func Usual() Timing {
	return Timing{
		QuietFrom: 20*60 + 30, QuietTo: 8 * 60, PrepareDays: 7, AnythingNewHours: 72, ReminderHours: 48, ShortHours: 3,
		FreeHours: 4, NextDayAt: 10 * 60,
	}
}

// beforeQuiet is how many minutes before the quiet hours a message goes that would fall into them:
// time to be on its way before they begin.
const beforeQuiet = 15

// State is how far an appointment has come, as far as messages ask.
type State int

// The states: what is neither to come nor over is told of by nobody.
const (
	Gone State = iota // cancelled, missed, or not over yet
	ToCome
	Over
)

// Visit is an appointment of one client.
type Visit struct {
	ID         string
	Start, End time.Time
	// Since is when it was booked or moved last.
	Since time.Time
	// FreeUntil is until when cancelling is free.
	FreeUntil time.Time
	State     State
	// First says that the client is to be prepared for it: the first of a series, or of a client
	// whose consultation is missing.
	First bool
	// Short says that the client wants a short message on the day.
	Short bool
	// PatchTest marks one that is not a treatment.
	PatchTest bool
	// N of Of treatments of its series; 0 where it stands alone.
	N, Of int
	// Reviewed says that the end review of its series is made, or that none was promised.
	Reviewed bool
}

// Due is one message about one visit.
type Due struct {
	Visit string
	Kind  Kind
	At    time.Time
	// Until is from when it is not worth sending any more.
	Until time.Time
}

// Message is what goes to the client at one time: at most one a day, the later merged into the
// earlier.
type Message struct {
	At    time.Time
	Parts []Due
}

// Plan lists what is due about a client's visits, by time: what fell due before a visit was booked
// or moved is left out, as is what would come after it has begun.
func Plan(visits []Visit, t *Timing, zone *time.Location) []Due {
	var out []Due
	for i := range visits {
		v := &visits[i]
		switch v.State {
		case ToCome:
			out = append(out, before(v, t, zone)...)
		case Over:
			out = append(out, after(v, t, zone)...)
		}
	}
	order := []Kind{Prepare, AnythingNew, Reminder, Short, NextDay, HalfWay, TwoLeft, ReviewDue}
	slices.SortStableFunc(out, func(a, b Due) int {
		if c := a.At.Compare(b.At); c != 0 {
			return c
		}
		return slices.Index(order, a.Kind) - slices.Index(order, b.Kind)
	})
	return out
}

// before is what is due before a visit.
func before(v *Visit, t *Timing, zone *time.Location) (out []Due) {
	add := func(kind Kind, at time.Time) {
		if at = t.awake(at, zone); at.After(v.Since) && at.Before(v.Start) {
			out = append(out, dueUntil(v.ID, kind, at, v.Start))
		}
	}
	hours := func(n int) time.Time { return v.Start.Add(-time.Duration(n) * time.Hour) }
	if v.First && !v.PatchTest {
		at := t.awake(v.Start.In(zone).AddDate(0, 0, -t.PrepareDays), zone)
		if !at.After(v.Since) { // at booking
			at = v.Since
		}
		out = append(out, dueUntil(v.ID, Prepare, at, v.Start))
	}
	if !v.PatchTest {
		add(AnythingNew, hours(t.AnythingNewHours))
	}
	reminder := hours(t.ReminderHours)
	if latest := v.FreeUntil.Add(-time.Duration(t.FreeHours) * time.Hour); latest.Before(reminder) {
		reminder = latest
	}
	add(Reminder, reminder)
	if v.Short {
		add(Short, hours(t.ShortHours))
	}
	return out
}

// dueUntil is a message about a visit that is worth sending until the visit begins.
func dueUntil(visit string, kind Kind, at, start time.Time) Due {
	until := at.Add(late)
	if start.Before(until) {
		until = start
	}
	return Due{visit, kind, at, until}
}

// A series has a middle worth telling of from four treatments on, and two left of three or more.
const (
	fewestForHalf = 4
	fewestForTwo  = 3
)

// after is what is due once a visit has taken place.
func after(v *Visit, t *Timing, zone *time.Location) (out []Due) {
	if v.PatchTest {
		return nil
	}
	day := v.End.In(zone).AddDate(0, 0, 1)
	at := t.awake(time.Date(day.Year(), day.Month(), day.Day(), t.NextDayAt/60, t.NextDayAt%60, 0, 0, zone), zone)
	add := func(kind Kind) { out = append(out, Due{v.ID, kind, at, at.Add(late)}) }
	add(NextDay)
	switch {
	case v.Of == 0:
	case v.N == v.Of:
		if !v.Reviewed {
			add(ReviewDue)
		}
	case v.N == v.Of-2 && v.Of >= fewestForTwo:
		add(TwoLeft)
	case v.N == (v.Of+1)/2 && v.Of >= fewestForHalf:
		add(HalfWay)
	}
	return out
}

// Quiet reports whether nobody is written to at a time.
func (t *Timing) Quiet(at time.Time, zone *time.Location) bool {
	m := minuteOf(at.In(zone))
	return m >= t.QuietFrom || m < t.QuietTo
}

// awake moves a time out of the quiet hours: to before they begin, never later.
func (t *Timing) awake(at time.Time, zone *time.Location) time.Time {
	if !t.Quiet(at, zone) {
		return at
	}
	local := at.In(zone)
	if minuteOf(local) < t.QuietTo {
		local = local.AddDate(0, 0, -1)
	}
	last := t.QuietFrom - beforeQuiet
	return time.Date(local.Year(), local.Month(), local.Day(), last/60, last%60, 0, 0, zone)
}

func minuteOf(t time.Time) int { return t.Hour()*60 + t.Minute() }

// Merge puts what is due on one local day into one message, at the time of the first.
func Merge(due []Due, zone *time.Location) []Message {
	var out []Message
	for _, d := range due {
		if last := len(out) - 1; last >= 0 && SameDay(out[last].At, d.At, zone) {
			out[last].Parts = append(out[last].Parts, d)
			continue
		}
		out = append(out, Message{d.At, []Due{d}})
	}
	return out
}

// SameDay reports whether two times lie on one local day.
func SameDay(a, b time.Time, zone *time.Location) bool {
	return a.In(zone).Format(time.DateOnly) == b.In(zone).Format(time.DateOnly)
}

// late is how long after its time a message is still worth sending, where the server was away.
const late = 24 * time.Hour

// Now is the message that is to be sent at a moment, nil where there is none, and when to look
// again, the zero time where nothing is to come. sent says what was sent already. What is overdue
// and what falls due later on the same day go together; in quiet hours all wait for the morning.
func Now(due []Due, sent func(Due) bool, now time.Time, t *Timing, zone *time.Location) (*Message, time.Time) {
	var one Message
	var later time.Time
	ripe := false
	for _, d := range due {
		switch {
		case sent(d) || !d.Until.After(now):
		case d.At.After(now) && !SameDay(d.At, now, zone):
			if later.IsZero() {
				later = d.At
			}
		default:
			ripe = ripe || !d.At.After(now)
			one.Parts = append(one.Parts, d)
		}
	}
	switch {
	case len(one.Parts) == 0:
		return nil, later
	case !ripe:
		return nil, one.Parts[0].At
	case t.Quiet(now, zone):
		return nil, t.morning(now, zone)
	}
	one.At = now
	return &one, later
}

// morning is when the quiet hours that hold a time end.
func (t *Timing) morning(at time.Time, zone *time.Location) time.Time {
	local := at.In(zone)
	if minuteOf(local) >= t.QuietFrom {
		local = local.AddDate(0, 0, 1)
	}
	return time.Date(local.Year(), local.Month(), local.Day(), t.QuietTo/60, t.QuietTo%60, 0, 0, zone)
}
