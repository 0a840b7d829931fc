package exchange

import (
	"bytes"
	"fmt"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"softpalm/internal/studio/portal"
)

// Calendar writes appointments as iCalendar (RFC 5545): lines folded and ended as it asks, times
// with their zone, and the zone's rules for the time that the events cover.
func (Files) Calendar(c *portal.Calendar) ([]byte, error) {
	zone, err := time.LoadLocation(c.Zone)
	if err != nil {
		return nil, fmt.Errorf("exchange: the zone of a calendar: %w", err)
	}
	cal := ics.NewCalendar()
	cal.SetProductId("-//Soft Palm//Appointments//EN")
	cal.SetCalscale("GREGORIAN")
	cal.SetXWRCalName(c.Name)
	cal.SetRefreshInterval("PT1H")
	cal.SetXPublishedTTL("PT1H")
	from, to := c.Now, c.Now
	for i := range c.Events {
		from, to = earlierOf(from, c.Events[i].Start), laterOf(to, c.Events[i].End) // rules go on for less than the year beside
	}
	cal.Components = append(cal.Components, zoneRules(zone, from.AddDate(-1, 0, 0), to.AddDate(1, 0, 0)))
	for i := range c.Events {
		addEvent(cal, &c.Events[i], c, zone)
	}
	var out bytes.Buffer
	if err := cal.SerializeTo(&out, ics.WithNewLineWindows); err != nil {
		return nil, fmt.Errorf("exchange: a calendar: %w", err)
	}
	return out.Bytes(), nil
}

const (
	wallTime = "20060102T150405"
	// alarmBefore is how long before an appointment a calendar rings.
	alarmBefore = "-PT3H"
)

func addEvent(cal *ics.Calendar, e *portal.CalendarEvent, c *portal.Calendar, zone *time.Location) {
	v := cal.AddEvent(e.UID)
	v.SetDtStampTime(c.Now.UTC())
	v.SetModifiedAt(e.Changed.UTC())
	v.SetSequence(e.Sequence)
	inZone := &ics.KeyValues{Key: "TZID", Value: []string{c.Zone}}
	v.AddProperty(ics.ComponentPropertyDtStart, e.Start.In(zone).Format(wallTime), inZone)
	v.AddProperty(ics.ComponentPropertyDtEnd, e.End.In(zone).Format(wallTime), inZone)
	v.SetSummary(e.Title)
	if e.Place != "" {
		v.SetLocation(e.Place)
	}
	v.SetStatus(ics.ObjectStatus(e.Status))
	v.SetClass(ics.ClassificationPrivate)
	if e.Free {
		v.SetTimeTransparency(ics.TransparencyTransparent)
	}
	if e.Rule != "" {
		v.AddRrule(e.Rule)
	}
	if len(e.Except) > 0 {
		days := make([]string, len(e.Except))
		for i, t := range e.Except {
			days[i] = t.In(zone).Format(wallTime)
		}
		v.AddProperty(ics.ComponentPropertyExdate, strings.Join(days, ","), inZone)
	}
	if e.Alarm {
		a := v.AddAlarm()
		a.SetAction(ics.ActionDisplay)
		a.SetTrigger(alarmBefore)
		a.SetProperty(ics.ComponentPropertyDescription, e.Title)
	}
}

// zoneRules is a VTIMEZONE with every change of a zone's clock between two times.
func zoneRules(zone *time.Location, from, to time.Time) *ics.VTimezone {
	out := ics.NewTimezone(zone.String())
	add := func(at time.Time, before, after int, name string, summer bool) {
		token := "STANDARD"
		if summer {
			token = "DAYLIGHT"
		}
		rule := &ics.GeneralComponent{Token: token}
		wall := at.UTC().Add(time.Duration(before) * time.Second)
		rule.AddProperty(ics.ComponentPropertyDtStart, wall.Format(wallTime))
		rule.AddProperty(ics.ComponentProperty("TZOFFSETFROM"), offsetText(before))
		rule.AddProperty(ics.ComponentProperty("TZOFFSETTO"), offsetText(after))
		rule.AddProperty(ics.ComponentProperty("TZNAME"), name)
		out.Components = append(out.Components, rule)
	}
	at := from.In(zone)
	name, offset := at.Zone()
	add(time.Unix(0, 0).UTC().Add(-time.Duration(offset)*time.Second), offset, offset, name, at.IsDST())
	for {
		_, end := at.ZoneBounds()
		if end.IsZero() || end.After(to) {
			return out
		}
		_, before := at.Zone()
		at = end
		name, after := at.Zone()
		add(end, before, after, name, at.IsDST())
	}
}

// offsetText is an offset from UTC in seconds as +0130.
func offsetText(seconds int) string {
	sign := '+'
	if seconds < 0 {
		sign, seconds = '-', -seconds
	}
	return fmt.Sprintf("%c%02d%02d", sign, seconds/3600, seconds/60%60)
}

func earlierOf(a, b time.Time) time.Time {
	if b.Before(a) {
		return b
	}
	return a
}

func laterOf(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}
