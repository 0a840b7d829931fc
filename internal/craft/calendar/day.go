package calendar

import "time"

// Day is a civil date written 2006-01-02; empty means no date.
type Day string

const dayLayout = "2006-01-02"

// Valid reports whether the day is a date of the calendar.
func (d Day) Valid() bool {
	_, err := time.Parse(dayLayout, string(d))
	return err == nil
}

// Plus returns the day n days later. It panics when d is not valid.
func (d Day) Plus(n int) Day {
	t, err := time.Parse(dayLayout, string(d))
	if err != nil {
		panic("calendar: not a day: " + string(d))
	}
	return Day(t.AddDate(0, 0, n).Format(dayLayout))
}

// Since counts the days from another day to this one.
func (d Day) Since(o Day) int {
	a, _ := time.Parse(dayLayout, string(d)) // both were checked
	b, _ := time.Parse(dayLayout, string(o))
	return int(a.Sub(b).Hours() / 24)
}
