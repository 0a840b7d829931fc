package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/teambition/rrule-go"
)

// clockOf turns a wall time, kept as if it were UTC, into its instant: in a gap with the offset
// before it, in an overlap the first (RFC 5545, 3.3.5).
type clockOf func(wall time.Time) time.Time

// in is the clock of a zone.
func in(zone *time.Location) clockOf {
	return func(wall time.Time) time.Time {
		offset := func(at time.Time) time.Duration {
			_, seconds := at.In(zone).Zone()
			return time.Duration(seconds) * time.Second
		}
		before := offset(wall.Add(-24 * time.Hour))
		first := wall.Add(-before)
		now := offset(first)
		if now == before {
			return first
		}
		if second := wall.Add(-now); offset(second) == now {
			return second
		}
		return first
	}
}

// named is the clock of a zone that a calendar names: of the IANA database, or as the calendar
// itself describes it.
func (r *busyReader) named(id string) (clockOf, error) {
	if zone, err := time.LoadLocation(id); err == nil && id != "" && id != "Local" {
		return in(zone), nil
	}
	if clock, ok := r.zones[id]; ok {
		return clock, nil
	}
	return nil, fmt.Errorf("there is no time zone %q", id)
}

// onset is a change of a described zone's clock: the wall time before it, and the offsets.
type onset struct {
	wall          time.Time
	before, after time.Duration
}

// zonesOf are the zones that a calendar describes, by name.
func zonesOf(cal *ics.Calendar) map[string]clockOf {
	out := map[string]clockOf{}
	for _, c := range cal.Components {
		z, ok := c.(*ics.VTimezone)
		if !ok {
			continue
		}
		var all []onset
		for _, part := range z.Components {
			switch part := part.(type) {
			case *ics.Standard:
				all = append(all, onsetsOf(&part.ComponentBase)...)
			case *ics.Daylight:
				all = append(all, onsetsOf(&part.ComponentBase)...)
			}
		}
		if len(all) > 0 {
			slices.SortFunc(all, func(a, b onset) int { return a.wall.Compare(b.wall) })
			out[valueOf(&z.ComponentBase, ics.ComponentPropertyTzid)] = described(all)
		}
	}
	return out
}

// lastOnset is how far a described zone is followed.
var lastOnset = time.Date(2100, 1, 1, 0, 0, 0, 0, time.UTC)

// onsetsOf are the changes that one part of a described zone makes.
func onsetsOf(c *ics.ComponentBase) []onset {
	start, err := time.Parse(wallTime, valueOf(c, ics.ComponentPropertyDtStart))
	before, ok := offsetOf(valueOf(c, "TZOFFSETFROM"))
	after, too := offsetOf(valueOf(c, "TZOFFSETTO"))
	if err != nil || !ok || !too {
		return nil
	}
	out := []onset{{start, before, after}}
	if text := valueOf(c, ics.ComponentPropertyRrule); text != "" {
		option, err := rrule.StrToROption(text)
		if err != nil || option.Freq != rrule.YEARLY {
			return out
		}
		option.Dtstart = start
		rule, err := rrule.NewRRule(*option)
		if err != nil {
			return out
		}
		for _, at := range rule.Between(start, lastOnset, false) {
			out = append(out, onset{at, before, after})
		}
	}
	return out
}

// offsetOf reads an offset from UTC such as +0130.
func offsetOf(text string) (time.Duration, bool) {
	if len(text) < len("+0000") {
		return 0, false
	}
	hours, err := strconv.Atoi(text[1:3])
	minutes, err2 := strconv.Atoi(text[3:5])
	if err != nil || err2 != nil {
		return 0, false
	}
	out := time.Duration(hours)*time.Hour + time.Duration(minutes)*time.Minute
	if text[0] == '-' {
		out = -out
	}
	return out, true
}

// described is the clock of a described zone, whose changes are sorted.
func described(all []onset) clockOf {
	return func(wall time.Time) time.Time {
		offset := all[0].before
		for _, o := range all {
			if o.wall.After(wall) {
				break
			}
			offset = o.after
			if skipped := o.after - o.before; skipped > 0 && wall.Before(o.wall.Add(skipped)) {
				offset = o.before
			}
		}
		return wall.Add(-offset)
	}
}
