// Package series finds times for visits: the best series for a client ([Find]), every time at
// which one visit could be ([Times]), the limit that forbids another ([Why]), and the day of a
// practitioner who is away laid again ([LayDayAgain]). It also reads what people say about time
// ([ReadWhen], [ReadOften], [ReadWith]). Habits go by the wall clock of the studio, so a visit at
// ten stays at ten across a clock change; physics goes by elapsed time. The package reads no
// clock: the caller says when it is. The rules are those of the handbook, chapter 6.
package series

import (
	"sort"
	"time"

	"softpalm/words"
)

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

// Nearest returns the n of a list that start nearest to a moment, in order of time.
func Nearest[T any](list []T, start func(T) time.Time, wish time.Time, n int) []T {
	near := append([]T(nil), list...)
	sort.SliceStable(near, func(i, j int) bool { return start(near[i]).Sub(wish).Abs() < start(near[j]).Sub(wish).Abs() })
	near = near[:min(n, len(near))]
	sort.SliceStable(near, func(i, j int) bool { return start(near[i]).Before(start(near[j])) })
	return near
}
