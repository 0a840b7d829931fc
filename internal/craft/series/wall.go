package series

import (
	"fmt"
	"strconv"
	"time"
)

// dayMinutes is how long a day is by the wall clock.
const dayMinutes = 24 * 60

// wall turns wall time of a zone into instants and back. Days are counted from 1970-01-01,
// instants in minutes since then.
type wall struct {
	zone *time.Location
	days map[int]dayClock
}

// dayClock is what one day's clock does: its midnight, and whether the clock runs evenly.
type dayClock struct {
	midnight int64
	even     bool
}

func newWall(name string) (*wall, error) {
	zone, err := time.LoadLocation(name)
	if err != nil || name == "" {
		return nil, fmt.Errorf("there is no time zone %q", name)
	}
	return &wall{zone, map[int]dayClock{}}, nil
}

// offset is how far the zone is before UTC at an instant, in minutes.
func (w *wall) offset(at int64) int64 {
	_, seconds := time.Unix(at*60, 0).In(w.zone).Zone()
	return int64(seconds / 60)
}

// at is the instant of a wall time: in a gap of the clock with the offset before it, in an
// overlap the first (RFC 5545, 3.3.5). skipped reports a time that the clock leaves out.
func (w *wall) at(day, minutes int) (instant int64, skipped bool) {
	c, known := w.days[day]
	if !known {
		first, _ := w.resolve(day, 0)
		next, _ := w.resolve(day+1, 0)
		c = dayClock{first, next-first == dayMinutes}
		w.days[day] = c
	}
	if c.even && minutes >= 0 && minutes <= dayMinutes {
		return c.midnight + int64(minutes), false
	}
	return w.resolve(day, minutes)
}

func (w *wall) resolve(day, minutes int) (int64, bool) {
	naive := int64(day)*dayMinutes + int64(minutes)
	before := w.offset(naive - dayMinutes)
	first := naive - before
	now := w.offset(first)
	if now == before {
		return first, false
	}
	second := naive - now
	return map[bool]int64{true: second, false: first}[w.offset(second) == now], w.offset(second) != now
}

// of is the day of an instant and its minutes by the wall clock.
func (w *wall) of(instant int64) (day, minutes int) {
	t := time.Unix(instant*60, 0).In(w.zone)
	return daysOf(t.Date()), t.Hour()*60 + t.Minute()
}

func daysOf(y int, m time.Month, d int) int {
	return int(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / (dayMinutes * 60))
}

// weekdayOf is mon to sun.
func weekdayOf(day int) string {
	return [...]string{"thu", "fri", "sat", "sun", "mon", "tue", "wed"}[((day%7)+7)%7]
}

func parseDay(s string) (int, error) {
	t, err := time.Parse(time.DateOnly, s)
	if err != nil {
		return 0, fmt.Errorf("%q is no day", s)
	}
	return daysOf(t.Date()), nil
}

func parseHour(s string) (int, error) {
	if len(s) != 5 || s[2] != ':' {
		return 0, fmt.Errorf("%q is no hour", s)
	}
	h, err1 := strconv.Atoi(s[:2])
	m, err2 := strconv.Atoi(s[3:])
	if err1 != nil || err2 != nil || h < 0 || m < 0 || m > 59 || h*60+m > dayMinutes {
		return 0, fmt.Errorf("%q is no hour", s)
	}
	return h*60 + m, nil
}

// parseMoment reads a wall time; a day alone is its midnight.
func parseMoment(s string) (day, minutes int, err error) {
	if len(s) < 10 {
		return 0, 0, fmt.Errorf("%q is no moment", s)
	}
	if day, err = parseDay(s[:10]); err != nil || len(s) == 10 {
		return day, 0, err
	}
	if s[10] != 'T' && s[10] != ' ' || len(s) < 16 {
		return 0, 0, fmt.Errorf("%q is no moment", s)
	}
	minutes, err = parseHour(s[11:16])
	return day, minutes, err
}

// dayText and clockText write a day and minutes of a day.
func dayText(day int) string {
	return time.Unix(int64(day)*dayMinutes*60, 0).UTC().Format(time.DateOnly)
}

func clockText(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// InstantOf is the instant of a wall time, 2006-01-02T15:04, in a zone: in a gap of the clock with
// the offset before it, in an overlap the first (RFC 5545, 3.3.5).
func InstantOf(text string, zone *time.Location) (time.Time, error) {
	t, err := time.Parse("2006-01-02T15:04", text)
	if err != nil {
		return time.Time{}, fmt.Errorf("%q is not a wall time", text)
	}
	w := &wall{zone, map[int]dayClock{}}
	at, _ := w.at(daysOf(t.Date()), t.Hour()*60+t.Minute())
	return time.Unix(at*60, 0).In(zone), nil
}
