// Package series finds times for visits. Times are instants; opening hours and
// the grid are local to the studio's time zone, so a visit at ten stays at ten
// across a clock change. The package reads no clock: the caller says from when.
package series

import (
	"sort"
	"time"

	"softpalm/words"
)

// Grid is the step on which visits start.
const Grid = 15 * time.Minute

// Span is a time from Start up to but not including End.
type Span struct {
	Start, End time.Time
}

// Overlaps reports whether the two spans share a moment.
func (s Span) Overlaps(t Span) bool { return s.Start.Before(t.End) && t.Start.Before(s.End) }

// Hours are the minutes after local midnight between which work is done on a
// weekday; From equal to To is a day off.
type Hours struct {
	From int `json:"from" minimum:"0" maximum:"1440"`
	To   int `json:"to" minimum:"0" maximum:"1440"`
}

// Week holds hours by weekday, Sunday first.
type Week [7]Hours

// Validate returns a sentence about the first day whose hours make no sense.
func (w Week) Validate() error {
	for d, h := range w {
		if h.From < 0 || h.To > 24*60 || h.From > h.To {
			return words.HoursEndBeforeTheyBegin(time.Weekday(d))
		}
	}
	return nil
}

// Holds reports whether a span lies within the hours of its day.
func (w Week) Holds(s Span, zone *time.Location) bool {
	from := s.Start.In(zone)
	h := w[from.Weekday()]
	return from.Hour()*60+from.Minute() >= h.From && within(h, s, s, zone)
}

// Closure is a time of whole days on which the studio is closed, the last included.
type Closure struct {
	From   string `json:"from" maxLength:"10"`
	To     string `json:"to" maxLength:"10"`
	Reason string `json:"reason" maxLength:"120"`
}

// ClosedOn returns the closure that a day lies in, nil where the studio is open as usual.
func ClosedOn(list []Closure, day string) *Closure {
	for i := range list {
		if list[i].From <= day && day <= list[i].To {
			return &list[i]
		}
	}
	return nil
}

// Resource is a practitioner or a room with what already takes their time.
type Resource struct {
	ID   string
	Week Week // zero value: as the studio
	Busy []Span
}

// Query asks for free times.
type Query struct {
	Zone *time.Location
	// Open are the studio's hours.
	Open Week
	// Closures are days on which nobody is treated.
	Closures []Closure
	// From is the earliest start; Days how many local days to look at from there.
	From time.Time
	Days int
	// Length is the time sold, Reset what the room and practitioner need after it.
	Length, Reset time.Duration
	Practitioners []Resource
	Rooms         []Resource
	// ClientBusy are the client's own visits, without resets.
	ClientBusy []Span
}

// Time is a free time with who and where.
type Time struct {
	Start        time.Time
	Practitioner string
	Room         string
}

// Free returns every free start on the grid, earliest first, each practitioner
// once a start, with the first room that is free. Local times that a clock
// change skips are not offered.
func Free(q Query) []Time {
	var out []Time
	day := q.From.In(q.Zone)
	for n := range q.Days {
		y, m, d := day.Year(), day.Month(), day.Day()+n
		if ClosedOn(q.Closures, time.Date(y, m, d, 12, 0, 0, 0, q.Zone).Format(time.DateOnly)) != nil {
			continue
		}
		weekday := time.Date(y, m, d, 12, 0, 0, 0, q.Zone).Weekday()
		open := q.Open[weekday]
		for minute := open.From; minute < open.To; minute += int(Grid / time.Minute) {
			start := time.Date(y, m, d, minute/60, minute%60, 0, 0, q.Zone)
			if start.Hour() != minute/60 || start.Minute() != minute%60 || start.Before(q.From) {
				continue
			}
			client := Span{start, start.Add(q.Length)}
			busy := Span{start, client.End.Add(q.Reset)}
			if taken(q.ClientBusy, client) || !within(open, client, busy, q.Zone) {
				continue
			}
			for i := range q.Practitioners {
				p := &q.Practitioners[i]
				hours := open
				if p.Week != (Week{}) {
					hours = p.Week[weekday]
				}
				if hours.From > minute || !within(hours, client, busy, q.Zone) || taken(p.Busy, busy) {
					continue
				}
				for j := range q.Rooms {
					if !taken(q.Rooms[j].Busy, busy) {
						out = append(out, Time{start, p.ID, q.Rooms[j].ID})
						break
					}
				}
			}
		}
	}
	return out
}

// within reports whether a visit that starts in the hours also ends, reset
// included, before they do.
func within(h Hours, client, busy Span, zone *time.Location) bool {
	s := client.Start.In(zone)
	close := time.Date(s.Year(), s.Month(), s.Day(), h.To/60, h.To%60, 0, 0, zone)
	return h.From < h.To && !busy.End.After(close)
}

func taken(busy []Span, s Span) bool {
	for _, b := range busy {
		if b.Overlaps(s) {
			return true
		}
	}
	return false
}

// Nearest returns the n times nearest to the one wished for, in order of time.
func Nearest(times []Time, wish time.Time, n int) []Time {
	near := append([]Time(nil), times...)
	sort.SliceStable(near, func(i, j int) bool {
		return near[i].Start.Sub(wish).Abs() < near[j].Start.Sub(wish).Abs()
	})
	near = near[:min(n, len(near))]
	sort.SliceStable(near, func(i, j int) bool { return near[i].Start.Before(near[j].Start) })
	return near
}
