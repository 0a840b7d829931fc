package exchange

import (
	"bytes"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/teambition/rrule-go"

	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
	"softpalm/words"
)

// mostBusy is how many busy times are read of one file.
const mostBusy = 5000

// BusyTimes reads when somebody is busy out of a calendar file (RFC 5545): events that are neither
// transparent nor cancelled, and busy times of VFREEBUSY. Whole days are days of the zone, as are
// times that name none. Rules are followed from one moment to another. Only begin and end are read,
// by start, joined where they touch; a file with a fault answers a *[studio.InputError].
func (Files) BusyTimes(data []byte, zone *time.Location, from, to time.Time) ([]diary.BusyPiece, error) {
	cal, err := ics.ParseCalendar(bytes.NewReader(data))
	if err != nil {
		return nil, studio.FaultAt("", words.ThisIsNotACalendarFile())
	}
	r := &busyReader{zone: zone, zones: zonesOf(cal), from: from, to: to}
	moved := r.overridden(cal)
	for _, c := range cal.Components {
		switch c := c.(type) {
		case *ics.VEvent:
			err = r.event(&c.ComponentBase, moved)
		case *ics.VBusy:
			err = r.freeBusy(&c.ComponentBase)
		}
		if err == nil && len(r.out) > mostBusy {
			err = errTooMany
		}
		if err != nil {
			return nil, studio.FaultAt("", words.ThisCalendarCannotBeRead(err.Error()))
		}
	}
	return joined(r.out), nil
}

var errTooMany = fmt.Errorf("it holds more than %d busy times", mostBusy)

// busyReader collects the busy times of a calendar.
type busyReader struct {
	zone     *time.Location
	zones    map[string]clockOf
	from, to time.Time
	out      []diary.BusyPiece
}

func (r *busyReader) add(start, end time.Time) {
	if start.Before(end) && start.Before(r.to) && end.After(r.from) {
		r.out = append(r.out, diary.BusyPiece{Start: start, End: end})
	}
}

// joined are busy times by start, those that touch joined.
func joined(list []diary.BusyPiece) []diary.BusyPiece {
	slices.SortFunc(list, func(a, b diary.BusyPiece) int { return a.Start.Compare(b.Start) })
	out := []diary.BusyPiece{}
	for _, p := range list {
		if last := len(out) - 1; last >= 0 && !p.Start.After(out[last].End) {
			if p.End.After(out[last].End) {
				out[last].End = p.End
			}
			continue
		}
		out = append(out, p)
	}
	return out
}

// written is a time as a calendar writes it: a wall time (kept as if it were UTC) with its clock.
type written struct {
	wall  time.Time
	clock clockOf
	day   bool // a whole day
}

func (w written) instant() time.Time { return w.clock(w.wall) }

// property returns the first property of a name, nil where there is none.
func property(c *ics.ComponentBase, name ics.ComponentProperty) *ics.IANAProperty {
	return c.GetProperty(name)
}

func valueOf(c *ics.ComponentBase, name ics.ComponentProperty) string {
	if p := property(c, name); p != nil {
		return strings.TrimSpace(p.Value)
	}
	return ""
}

// read reads one time of a property.
func (r *busyReader) read(p *ics.IANAProperty, value string) (written, error) {
	fail := func() (written, error) { return written{}, fmt.Errorf("%s %q is not a time", p.IANAToken, value) }
	value = strings.TrimSpace(value)
	if day, err := time.Parse("20060102", value); err == nil {
		return written{day, in(r.zone), true}, nil
	}
	utc := strings.HasSuffix(value, "Z")
	wall, err := time.Parse(wallTime, strings.TrimSuffix(value, "Z"))
	if err != nil {
		return fail()
	}
	clock := in(r.zone)
	if ids := p.ICalParameters["TZID"]; len(ids) > 0 && !utc {
		named, err := r.named(ids[0])
		if err != nil {
			return written{}, err
		}
		clock = named
	}
	if utc {
		clock = in(time.UTC)
	}
	return written{wall, clock, false}, nil
}

// spans returns when an event begins and how long it lasts by the wall clock.
func (r *busyReader) spans(c *ics.ComponentBase) (start written, length time.Duration, err error) {
	p := property(c, ics.ComponentPropertyDtStart)
	if p == nil {
		return start, 0, fmt.Errorf("an event has no DTSTART")
	}
	if start, err = r.read(p, p.Value); err != nil {
		return start, 0, err
	}
	if e := property(c, ics.ComponentPropertyDtEnd); e != nil {
		end, err := r.read(e, e.Value)
		if err != nil {
			return start, 0, err
		}
		if start.day || end.day {
			return start, end.wall.Sub(start.wall), nil
		}
		return start, end.instant().Sub(start.instant()), nil
	}
	if d := valueOf(c, "DURATION"); d != "" {
		length, err = duration(d)
		return start, length, err
	}
	if start.day {
		length = 24 * time.Hour
	}
	return start, length, nil
}

// key tells one occurrence of a repeated event from the others.
func key(uid string, w written) string { return uid + " " + w.instant().UTC().Format(time.RFC3339) }

// overridden are the occurrences that an event of their own stands for.
func (r *busyReader) overridden(cal *ics.Calendar) map[string]bool {
	out := map[string]bool{}
	for _, e := range cal.Events() {
		if p := property(&e.ComponentBase, ics.ComponentPropertyRecurrenceId); p != nil {
			if w, err := r.read(p, p.Value); err == nil {
				out[key(valueOf(&e.ComponentBase, ics.ComponentPropertyUniqueId), w)] = true
			}
		}
	}
	return out
}

// event adds the busy times of one event.
func (r *busyReader) event(c *ics.ComponentBase, moved map[string]bool) error {
	if strings.EqualFold(valueOf(c, "TRANSP"), "TRANSPARENT") || strings.EqualFold(valueOf(c, "STATUS"), "CANCELLED") {
		return nil
	}
	start, length, err := r.spans(c)
	if err != nil {
		return err
	}
	walls, err := r.occurrences(c, start)
	if err != nil {
		return err
	}
	uid := valueOf(c, ics.ComponentPropertyUniqueId)
	one := property(c, ics.ComponentPropertyRecurrenceId) != nil
	for _, wall := range walls {
		w := written{wall, start.clock, start.day}
		if !one && moved[key(uid, w)] {
			continue
		}
		if start.day { // a day may have 23 or 25 hours
			r.add(w.instant(), start.clock(wall.Add(length)))
			continue
		}
		r.add(w.instant(), w.instant().Add(length))
	}
	return nil
}

// occurrences are the wall times at which an event begins: itself, those of its rules and dates,
// less those that are left out.
func (r *busyReader) occurrences(c *ics.ComponentBase, start written) ([]time.Time, error) {
	set := &rrule.Set{}
	set.DTStart(start.wall)
	set.RDate(start.wall)
	until := start.wall.Add(r.to.Sub(start.instant())).Add(24 * time.Hour)
	for i := range c.Properties {
		p := &c.Properties[i]
		switch strings.ToUpper(p.IANAToken) {
		case "RRULE":
			rule, err := r.rule(p.Value, start)
			if err != nil {
				return nil, err
			}
			next := rule.Iterator()
			for at, more := next(); more && at.Before(until); at, more = next() {
				set.RDate(at)
				if len(set.GetRDate()) > 10*mostBusy {
					return nil, errTooMany
				}
			}
		case "RDATE", "EXDATE":
			for value := range strings.SplitSeq(p.Value, ",") {
				value, _, _ = strings.Cut(value, "/")
				w, err := r.read(p, value)
				if err != nil {
					return nil, err
				}
				if !w.day && !start.day {
					w.wall = start.wall.Add(w.instant().Sub(start.instant())) // in the event's own clock
					w.wall = nearest(start.clock, w)
				}
				if strings.EqualFold(p.IANAToken, "RDATE") {
					set.RDate(w.wall)
				} else {
					set.ExDate(w.wall)
				}
			}
		}
	}
	return set.All(), nil
}

// nearest is the wall time of a clock at the instant of another: an hour may lie between them.
func nearest(clock clockOf, w written) time.Time {
	at := w.clock(w.wall)
	for _, by := range []time.Duration{0, time.Hour, -time.Hour, 30 * time.Minute, -30 * time.Minute} {
		if wall := w.wall.Add(by); clock(wall).Equal(at) {
			return wall
		}
	}
	return w.wall
}

// rule reads a rule whose wall times are those of its event. UNTIL is an instant where the event has
// a zone.
func (r *busyReader) rule(text string, start written) (*rrule.RRule, error) {
	option, err := rrule.StrToROption(text)
	if err != nil {
		return nil, fmt.Errorf("the rule %q is not understood", text)
	}
	if option.Freq > rrule.DAILY {
		return nil, fmt.Errorf("the rule %q repeats within a day", text)
	}
	if strings.HasSuffix(upper(text, "UNTIL="), "Z") {
		option.Until = start.wall.Add(option.Until.Sub(start.instant())).Add(time.Hour) // an hour for the clocks
	}
	option.Dtstart = start.wall
	return rrule.NewRRule(*option)
}

// upper is the value of a part of a rule, in capitals.
func upper(rule, part string) string {
	rule = strings.ToUpper(rule)
	at := strings.Index(rule, part)
	if at < 0 {
		return ""
	}
	value, _, _ := strings.Cut(rule[at+len(part):], ";")
	return value
}

// freeBusy adds the periods of a VFREEBUSY that are not free.
func (r *busyReader) freeBusy(c *ics.ComponentBase) error {
	for i := range c.Properties {
		p := &c.Properties[i]
		if !strings.EqualFold(p.IANAToken, "FREEBUSY") {
			continue
		}
		if kinds := p.ICalParameters["FBTYPE"]; len(kinds) > 0 && strings.EqualFold(kinds[0], "FREE") {
			continue
		}
		for period := range strings.SplitSeq(p.Value, ",") {
			from, to, ok := strings.Cut(period, "/")
			start, err := r.read(p, from)
			if !ok || err != nil {
				return fmt.Errorf("%q is not a period", period)
			}
			if strings.HasPrefix(strings.TrimSpace(to), "P") {
				length, err := duration(to)
				if err != nil {
					return err
				}
				r.add(start.instant(), start.instant().Add(length))
				continue
			}
			end, err := r.read(p, to)
			if err != nil {
				return err
			}
			r.add(start.instant(), end.instant())
		}
	}
	return nil
}

var durationForm = regexp.MustCompile(`^\+?P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$`)

// duration reads a length of time as RFC 5545 writes it (3.3.6): P1DT2H30M.
func duration(text string) (time.Duration, error) {
	m := durationForm.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return 0, fmt.Errorf("%q is not a length of time", text)
	}
	var out time.Duration
	for i, unit := range []time.Duration{7 * 24 * time.Hour, 24 * time.Hour, time.Hour, time.Minute, time.Second} {
		n, _ := strconv.Atoi(m[i+1])
		out += time.Duration(n) * unit
	}
	return out, nil
}
