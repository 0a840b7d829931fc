package series

import "time"

// Standing is a booking without an end: "every first Tuesday", "standing every 4 weeks". It is a series
// that is laid some weeks ahead, and again as they pass (handbook, chapter 6, Everyday diary).
type Standing struct {
	// Nth is which of a month's weekdays, from 1 to 4, 5 for the last; 0 where the rhythm alone says.
	Nth     int
	Weekday string // mon to sun
}

// StandingAhead is how many days a standing booking is laid ahead: twelve weeks.
const StandingAhead = 12 * daysOfAWeek

// nths are the words for which weekday of a month.
var nths = map[string]int{"first": 1, "1st": 1, "second": 2, "2nd": 2, "third": 3, "3rd": 3, "fourth": 4, "4th": 4, "last": 5}

// standing reads that a booking has no end, and how many words that took.
func (r *reading) standing() (Standing, int) {
	w := r.peek(0)
	if w == "standing" || w == "always" {
		return Standing{}, 1
	}
	if w != "every" && w != "each" {
		return Standing{}, 0
	}
	nth, ok := nths[r.peek(1)]
	day, named := weekdayOfWord(r.peek(2))
	if !ok || !named {
		return Standing{}, 0
	}
	return Standing{nth, day}, 3
}

// Days are the days of a standing booking on a weekday of each month, after a day and through another.
func (s Standing) Days(after, through string) []string {
	from, err := time.Parse(time.DateOnly, after)
	if err != nil || s.Nth == 0 {
		return nil
	}
	var out []string
	for month := time.Date(from.Year(), from.Month(), 1, 0, 0, 0, 0, time.UTC); ; month = month.AddDate(0, 1, 0) {
		day := s.in(month).Format(time.DateOnly)
		if day > through {
			return out
		}
		if day > after {
			out = append(out, day)
		}
	}
}

// in is the day of a month.
func (s Standing) in(month time.Time) time.Time {
	if s.Nth == 5 {
		day := month.AddDate(0, 1, -1)
		for weekdayOf(daysOf(day.Date())) != s.Weekday {
			day = day.AddDate(0, 0, -1)
		}
		return day
	}
	day := month
	for weekdayOf(daysOf(day.Date())) != s.Weekday {
		day = day.AddDate(0, 0, 1)
	}
	return day.AddDate(0, 0, daysOfAWeek*(s.Nth-1))
}

// standingSlack is by how many days a visit of a weekday of the month may lie beside it.
const standingSlack = 3

// Gap is the gap from one day of a standing booking to the next.
func (s Standing) Gap(from, to string) Gap {
	a, _ := dayOf(from)
	b, _ := dayOf(to)
	return Gap{Ideal: b - a, Least: max(b-a-standingSlack, 1), Most: b - a + standingSlack}
}
