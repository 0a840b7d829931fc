package exchange_test

import (
	"bytes"
	"encoding/json"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/exchange"
	"softpalm/internal/studio/portal"
)

// debianPython is the Python that Debian's python3-icalendar belongs to; another may come first in
// the path.
const debianPython = "/usr/bin/python3"

// readCalendar reads a calendar file with a reader of another author (python3-icalendar).
const readCalendar = `
import sys, json, icalendar
cal = icalendar.Calendar.from_ical(sys.stdin.buffer.read())
out = []
for e in cal.walk("VEVENT"):
    out.append({k: str(e.get(k)) for k in ("UID", "SEQUENCE", "STATUS", "SUMMARY", "LOCATION", "CLASS")} |
        {"start": e.decoded("DTSTART").isoformat(), "end": e.decoded("DTEND").isoformat(), "tzid": e["DTSTART"].params["TZID"],
         "rule": e["RRULE"].to_ical().decode() if "RRULE" in e else "", "except": ",".join(x.dt.isoformat() for x in (e["EXDATE"].dts if "EXDATE" in e else [])),
         "transp": str(e.get("TRANSP")), "alarm": str(e.walk("VALARM")[0].decoded("TRIGGER")) if e.walk("VALARM") else "",
         "stamp": e.decoded("DTSTAMP").isoformat(), "changed": e.decoded("LAST-MODIFIED").isoformat()})
zones = []
for z in cal.walk("VTIMEZONE"):
    tz = z.to_tz()
    import datetime
    zones.append({"id": str(z["TZID"]), "winter": tz.utcoffset(datetime.datetime(2027, 1, 15, 12)).total_seconds(), "summer": tz.utcoffset(datetime.datetime(2027, 7, 15, 12)).total_seconds()})
json.dump({"events": out, "zones": zones, "refresh": str(cal.get("REFRESH-INTERVAL").dt) if hasattr(cal.get("REFRESH-INTERVAL"), "dt") else str(cal.get("REFRESH-INTERVAL")), "version": str(cal.get("VERSION"))}, sys.stdout)
`

// A shift comes again by a rule whose UNTIL is in UTC, without the days that are left out, and takes
// nobody's time; a client's calendar rings where they chose so. Read by python3-icalendar.
func TestShiftsAndAlarmsReadByAForeignReader(t *testing.T) {
	if exec.Command(debianPython, "-c", "import icalendar").Run() != nil {
		t.Skip("python3-icalendar is not installed; make test installs it")
	}
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	at := func(day int) time.Time { return time.Date(2027, 3, day, 9, 0, 0, 0, berlin) }
	c := &portal.Calendar{Name: "Studio", Zone: "Europe/Berlin", Now: at(1), Events: []portal.CalendarEvent{
		{UID: "s", Changed: at(1), Start: at(1), End: at(1).Add(8 * time.Hour), Status: "CONFIRMED", Title: "Shift", Free: true,
			Rule: "FREQ=WEEKLY;INTERVAL=2;UNTIL=20270426T070000Z", Except: []time.Time{at(15), at(29)}},
		{UID: "a", Changed: at(1), Start: at(2), End: at(2).Add(time.Hour), Status: "CONFIRMED", Title: "Appointment", Alarm: true},
	}}
	data, err := exchange.Files{}.Calendar(c)
	require.NoError(t, err)
	cmd := exec.Command(debianPython, "-c", readCalendar)
	cmd.Stdin = bytes.NewReader(data)
	raw, err := cmd.Output()
	require.NoError(t, err)
	var got struct {
		Events  []map[string]string
		Refresh string
	}
	require.NoError(t, json.Unmarshal(raw, &got))
	assert.Contains(t, string(data), "\r\nREFRESH-INTERVAL;VALUE=DURATION:PT1H\r\n")
	require.Len(t, got.Events, 2)
	assert.Equal(t, "FREQ=WEEKLY;UNTIL=20270426T070000Z;INTERVAL=2", got.Events[0]["rule"])
	assert.Equal(t, "2027-03-15T09:00:00+01:00,2027-03-29T09:00:00+02:00", got.Events[0]["except"], "nine o'clock, before and after the clocks change")
	assert.Equal(t, "TRANSPARENT", got.Events[0]["transp"])
	assert.Empty(t, got.Events[0]["alarm"])
	assert.Equal(t, "-1 day, 21:00:00", got.Events[1]["alarm"], "three hours before")

	busy, err := exchange.Files{}.BusyTimes(data, berlin, at(1), at(31))
	require.NoError(t, err)
	require.Len(t, busy, 1, "a shift is no busy time")
	assert.True(t, busy[0].Start.Equal(at(2)))
}

// A calendar file is what RFC 5545 asks, read by python3-icalendar: instants across a clock change in
// two zones and in one whose clock moves by half an hour (IANA time zone database: Berlin and New
// York in March 2027, Lord Howe in April), text with commas and line breaks, sequence and status.
func TestACalendarReadByAForeignReader(t *testing.T) {
	if exec.Command(debianPython, "-c", "import icalendar").Run() != nil {
		t.Skip("python3-icalendar is not installed; make test installs it")
	}
	for zone, offsets := range map[string][2]float64{
		"Europe/Berlin": {3600, 7200}, "America/New_York": {-18000, -14400}, "Australia/Lord_Howe": {39600, 37800}, "Asia/Kolkata": {19800, 19800},
	} {
		loc, err := time.LoadLocation(zone)
		require.NoError(t, err)
		now := time.Date(2027, 2, 1, 9, 0, 0, 0, time.UTC)
		c := &portal.Calendar{Name: "Studio; one, two", Zone: zone, Now: now}
		for i, day := range []string{"2027-03-10", "2027-03-30", "2027-04-10", "2027-11-10"} {
			start, err := time.ParseInLocation("2006-01-02 15:04", day+" 10:15", loc)
			require.NoError(t, err)
			c.Events = append(c.Events, portal.CalendarEvent{
				UID: strings.Repeat("u", 30) + string(rune('a'+i)), Sequence: i, Changed: now, Start: start, End: start.Add(time.Hour),
				Status: []string{"CONFIRMED", "TENTATIVE", "CANCELLED", "CONFIRMED"}[i], Title: "Appointment, " + strings.Repeat("Long name é ", 9), Place: "9 Lantern Row, 1000 Harbour",
			})
		}
		data, err := exchange.Files{}.Calendar(c)
		require.NoError(t, err)
		for line := range bytes.SplitSeq(bytes.TrimSuffix(data, []byte("\r\n")), []byte("\r\n")) {
			assert.LessOrEqual(t, len(line), 75, "a line is folded at 75 octets")
			assert.NotContains(t, string(line), "\n", "every line ends in CRLF")
		}
		cmd := exec.Command(debianPython, "-c", readCalendar)
		cmd.Stdin = bytes.NewReader(data)
		raw, err := cmd.Output()
		require.NoError(t, err, "python3-icalendar reads it")
		var got struct {
			Version string
			Events  []map[string]string
			Zones   []struct {
				ID             string
				Winter, Summer float64
			}
		}
		require.NoError(t, json.Unmarshal(raw, &got))
		assert.Equal(t, "2.0", got.Version)
		require.Len(t, got.Zones, 1)
		assert.Equal(t, zone, got.Zones[0].ID)
		assert.InDelta(t, offsets[0], got.Zones[0].Winter, 0, zone)
		assert.InDelta(t, offsets[1], got.Zones[0].Summer, 0, zone)
		require.Len(t, got.Events, 4)
		for i, e := range got.Events {
			want := &c.Events[i]
			start, err := time.Parse(time.RFC3339, e["start"])
			require.NoError(t, err)
			end, err := time.Parse(time.RFC3339, e["end"])
			require.NoError(t, err)
			assert.True(t, start.Equal(want.Start), "%s: %s", zone, e["start"])
			assert.True(t, end.Equal(want.End))
			assert.Equal(t, want.UID, e["UID"])
			assert.Equal(t, want.Title, e["SUMMARY"])
			assert.Equal(t, want.Place, e["LOCATION"])
			assert.Equal(t, want.Status, e["STATUS"])
			assert.Equal(t, "PRIVATE", e["CLASS"])
			assert.Equal(t, zone, e["tzid"])
		}
	}
}
