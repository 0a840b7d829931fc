package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
)

// Retention is how long a client's file is kept.
type Retention struct {
	// KeepYears counts from the last appointment.
	KeepYears int `json:"keepYears" minimum:"1" maximum:"50"`
	// KeepMinorsTo is the age to which the file of a client is kept at least who was under
	// 18 at the last appointment.
	KeepMinorsTo int `json:"keepMinorsTo" minimum:"18" maximum:"60"`
}

// The retention that a new studio begins with: common practice of insurers, from memory.
// What binds a studio is the law and the insurer of its place.
const (
	usualKeepYears    = 10
	usualKeepMinorsTo = 25
)

// UsualRetention is the retention that a new studio begins with.
func UsualRetention() Retention { return Retention{usualKeepYears, usualKeepMinorsTo} }

// PastFile is a client's file that is kept longer than the studio wants.
type PastFile struct {
	Client uuid.UUID `json:"client"`
	Name   string    `json:"name"`
	// Last is the day of the last appointment or consultation, or on which the file was made.
	Last calendar.Day `json:"last"`
	// Past is the day from which the file need not be kept.
	Past calendar.Day `json:"past"`
	Born calendar.Day `json:"-"`
}

// Past returns the day from which a client's file is kept longer than the studio wants,
// after the last day on which the client was seen or changed. Born may be empty.
func (r Retention) Past(last, born calendar.Day) calendar.Day {
	past := laterYears(last, r.KeepYears)
	if born.Valid() && last < laterYears(born, OfAge) {
		past = max(past, laterYears(born, r.KeepMinorsTo))
	}
	return past
}

// laterYears is the day some years later; 29 February becomes 1 March where there is none.
func laterYears(d calendar.Day, years int) calendar.Day {
	t, err := time.Parse(time.DateOnly, string(d))
	if err != nil {
		return d
	}
	return calendar.Day(t.AddDate(years, 0, 0).Format(time.DateOnly))
}
