package contraindication

import (
	"maps"
	"regexp"
	"strconv"
	"time"

	"softpalm/internal/craft/calendar"
)

// A rough day is what people remember who do not know the day: "3w", "2m" and "1y" are
// about three weeks, two months and a year ago, "2026-10" is some time in October.
var roughDay = regexp.MustCompile(`^(?:([1-9][0-9]?)([wmy])|([12][0-9]{3})-(0[1-9]|1[0-2]))$`)

// How much later than remembered it may have been, in days: somebody who says three weeks
// may mean two and a half (common practice, from memory).
var roughLater = map[string]int{"w": 3, "m": 14, "y": 60}

// RoughDay returns the latest day that a rough one can mean, so that a waiting time counted
// from it is never too short; false where it is none, or begins after today.
func RoughDay(rough string, today calendar.Day) (calendar.Day, bool) {
	m := roughDay.FindStringSubmatch(rough)
	now, err := time.Parse(time.DateOnly, string(today))
	if m == nil || err != nil {
		return "", false
	}
	var day time.Time
	n, _ := strconv.Atoi(m[1])
	switch {
	case m[3] != "":
		first, err := time.Parse("2006-01", rough)
		if err != nil || first.After(now) {
			return "", false
		}
		day = first.AddDate(0, 1, -1)
	case m[2] == "w":
		day = now.AddDate(0, 0, -7*n+roughLater["w"])
	case m[2] == "m":
		day = calendar.AddMonths(now, -n).AddDate(0, 0, roughLater["m"])
	default:
		day = calendar.AddMonths(now, -12*n).AddDate(0, 0, roughLater["y"])
	}
	if day.After(now) {
		day = now
	}
	return calendar.Day(day.Format(time.DateOnly)), true
}

// Dated gives every answer with a rough day and no other the day it is counted from. An
// answer that has its day keeps it: it was counted on the day it was given.
func Dated(answers map[string]Answer, today calendar.Day) map[string]Answer {
	out := map[string]Answer{}
	maps.Copy(out, answers)
	for id, a := range out {
		if a.Rough == "" || a.Day != "" {
			continue
		}
		if day, ok := RoughDay(a.Rough, today); ok {
			a.Day = day
			out[id] = a
		}
	}
	return out
}
