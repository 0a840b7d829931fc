// Package calendar knows civil days ([Day]) and adds months as people do.
package calendar

import "time"

// AddMonths returns the moment some months later, on the same day of the month and
// at the same time of day; where that month is too short, on its last day. (The
// standard library goes on into the month after.)
func AddMonths(t time.Time, months int) time.Time {
	y, m, d := t.Date()
	last := time.Date(y, m+time.Month(months)+1, 0, 0, 0, 0, 0, t.Location()).Day()
	return time.Date(y, m+time.Month(months), min(d, last), t.Hour(), t.Minute(), t.Second(), t.Nanosecond(), t.Location())
}
