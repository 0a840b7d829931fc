package exchange

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// readBusy reads a calendar of some components, in Berlin, and answers the times as local text.
func readBusy(t *testing.T, zone, from, to, components string) ([]string, error) {
	t.Helper()
	z, err := time.LoadLocation(zone)
	require.NoError(t, err)
	day := func(s string) time.Time {
		d, err := time.ParseInLocation(time.DateOnly, s, z)
		require.NoError(t, err)
		return d
	}
	file := "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:-//Test//EN\n" + strings.TrimSpace(components) + "\nEND:VCALENDAR\n"
	list, err := Files{}.BusyTimes([]byte(strings.ReplaceAll(file, "\n", "\r\n")), z, day(from), day(to))
	var out []string
	for _, p := range list {
		out = append(out, p.Start.In(z).Format("2006-01-02 15:04")+" - "+p.End.In(z).Format("2006-01-02 15:04"))
	}
	return out, err
}

func event(lines string) string {
	return "BEGIN:VEVENT\nUID:a\nDTSTAMP:20260101T000000Z\n" + strings.TrimSpace(lines) + "\nEND:VEVENT\n"
}

// What counts as busy, and when it begins and ends (handbook, chapter 6, Open formats; RFC 5545).
func TestBusyTimesOfACalendar(t *testing.T) {
	for name, c := range map[string]struct {
		file string
		want []string
	}{
		"an event with a zone": {event("DTSTART;TZID=America/New_York:20270111T090000\nDTEND;TZID=America/New_York:20270111T100000"),
			[]string{"2027-01-11 15:00 - 2027-01-11 16:00"}},
		"without a zone it is the studio's": {event("DTSTART:20270111T090000\nDURATION:PT1H30M"), []string{"2027-01-11 09:00 - 2027-01-11 10:30"}},
		"in UTC":                            {event("DTSTART:20270111T090000Z\nDTEND:20270111T100000Z"), []string{"2027-01-11 10:00 - 2027-01-11 11:00"}},
		"a whole day is the local day":      {event("DTSTART;VALUE=DATE:20270111"), []string{"2027-01-11 00:00 - 2027-01-12 00:00"}},
		"some whole days, the last left out": {event("DTSTART;VALUE=DATE:20270111\nDTEND;VALUE=DATE:20270114"),
			[]string{"2027-01-11 00:00 - 2027-01-14 00:00"}},
		"transparent is not busy": {event("DTSTART:20270111T090000\nDTEND:20270111T100000\nTRANSP:TRANSPARENT"), nil},
		"nor is cancelled":        {event("DTSTART:20270111T090000\nDTEND:20270111T100000\nSTATUS:CANCELLED"), nil},
		"tentative is":            {event("DTSTART:20270111T090000\nDTEND:20270111T100000\nSTATUS:TENTATIVE"), []string{"2027-01-11 09:00 - 2027-01-11 10:00"}},
		"an event without length": {event("DTSTART:20270111T090000"), nil},
		"what touches is joined": {event("DTSTART:20270111T090000\nDTEND:20270111T100000") + event("DTSTART:20270111T100000\nDTEND:20270111T110000"),
			[]string{"2027-01-11 09:00 - 2027-01-11 11:00"}},
		"busy periods": {"BEGIN:VFREEBUSY\nUID:f\nDTSTAMP:20260101T000000Z\nFREEBUSY:20270111T090000Z/PT1H,20270112T090000Z/20270112T110000Z\n" +
			"FREEBUSY;FBTYPE=FREE:20270113T090000Z/PT1H\nFREEBUSY;FBTYPE=BUSY-UNAVAILABLE:20270114T090000Z/PT1H\nEND:VFREEBUSY\n",
			[]string{"2027-01-11 10:00 - 2027-01-11 11:00", "2027-01-12 10:00 - 2027-01-12 12:00", "2027-01-14 10:00 - 2027-01-14 11:00"}},
		"a week's rule without one day, one moved": {
			event("DTSTART;TZID=Europe/Berlin:20270104T090000\nDTEND;TZID=Europe/Berlin:20270104T100000\nRRULE:FREQ=WEEKLY;COUNT=4\nEXDATE;TZID=Europe/Berlin:20270111T090000") +
				event("RECURRENCE-ID;TZID=Europe/Berlin:20270118T090000\nDTSTART;TZID=Europe/Berlin:20270119T140000\nDTEND;TZID=Europe/Berlin:20270119T150000"),
			[]string{"2027-01-04 09:00 - 2027-01-04 10:00", "2027-01-19 14:00 - 2027-01-19 15:00", "2027-01-25 09:00 - 2027-01-25 10:00"}},
		"dates beside": {event("DTSTART:20270104T090000\nDURATION:PT1H\nRDATE:20270107T090000,20270109T120000"),
			[]string{"2027-01-04 09:00 - 2027-01-04 10:00", "2027-01-07 09:00 - 2027-01-07 10:00", "2027-01-09 12:00 - 2027-01-09 13:00"}},
		"before and after what is asked": {event("DTSTART:20261231T230000\nDTEND:20270101T010000") + event("DTSTART:20270601T090000\nDTEND:20270601T100000"),
			[]string{"2026-12-31 23:00 - 2027-01-01 01:00"}},
	} {
		t.Run(name, func(t *testing.T) {
			got, err := readBusy(t, "Europe/Berlin", "2027-01-01", "2027-02-01", c.file)
			require.NoError(t, err)
			assert.Equal(t, c.want, got)
		})
	}
}

// Rules as RFC 5545, 3.8.5.3, gives them with their dates: a zone's clock changes within them.
func TestBusyRulesOfTheStandard(t *testing.T) {
	const start = "DTSTART;TZID=America/New_York:19970902T090000\nDURATION:PT1H\n"
	for _, c := range []struct {
		rule string
		days string // month-day, in order
	}{
		{"FREQ=DAILY;COUNT=10", "09-02 09-03 09-04 09-05 09-06 09-07 09-08 09-09 09-10 09-11"},
		{"FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH", "09-02 09-04 09-09 09-11 09-16 09-18 09-23 09-25 09-30 10-02"},
		{"FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH", "09-02 09-04 09-16 09-18 09-30 10-02 10-14 10-16"},
		{"FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3", "09-02 09-04 10-07 11-06"},
		{"FREQ=WEEKLY;COUNT=10", "09-02 09-09 09-16 09-23 09-30 10-07 10-14 10-21 10-28 11-04"},
	} {
		got, err := readBusy(t, "America/New_York", "1997-01-01", "1998-01-01", event(start+"RRULE:"+c.rule))
		require.NoError(t, err, c.rule)
		var days []string
		for _, one := range got {
			assert.Contains(t, one, " 09:00 - ", "the hour stays by the wall clock, in summer and in winter")
			days = append(days, one[len("1997-"):len("1997-09-02")])
		}
		want := strings.Fields(c.days)
		if strings.Contains(c.rule, "BYSETPOS") {
			want = []string{"09-02", "09-04", "10-07", "11-06"} // its own start counts as well where the rule leaves it out
		}
		assert.Equal(t, want, days, c.rule)
	}
}

// In a gap the offset before it holds, of an hour that comes twice the first (RFC 5545, 3.3.5); so
// for a zone that the file describes itself and no database knows.
func TestBusyTimesAtTheChangeOfTheClocks(t *testing.T) {
	const own = `BEGIN:VTIMEZONE
TZID:Our Own Zone
BEGIN:STANDARD
DTSTART:19701025T030000
RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU
TZOFFSETFROM:+0200
TZOFFSETTO:+0100
END:STANDARD
BEGIN:DAYLIGHT
DTSTART:19700329T020000
RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU
TZOFFSETFROM:+0100
TZOFFSETTO:+0200
END:DAYLIGHT
END:VTIMEZONE
`
	for _, zone := range []string{"Europe/Berlin", "Our Own Zone"} {
		file := own
		for _, wall := range []string{"20270328T013000", "20270328T023000", "20271031T013000", "20271031T023000", "20271031T030000", "20270701T120000"} {
			file += event("DTSTART;TZID=" + zone + ":" + wall + "\nDURATION:PT5M")
		}
		got, err := readBusy(t, "UTC", "2027-01-01", "2028-01-01", file)
		require.NoError(t, err)
		assert.Equal(t, []string{
			"2027-03-28 00:30 - 2027-03-28 00:35", "2027-03-28 01:30 - 2027-03-28 01:35", // skipped: 03:30 in summer
			"2027-07-01 10:00 - 2027-07-01 10:05",
			"2027-10-30 23:30 - 2027-10-30 23:35", "2027-10-31 00:30 - 2027-10-31 00:35", "2027-10-31 02:00 - 2027-10-31 02:05",
		}, got, zone)
	}
	half, err := readBusy(t, "Australia/Lord_Howe", "2027-01-01", "2028-01-01", event("DTSTART;VALUE=DATE:20271003"))
	require.NoError(t, err)
	assert.Equal(t, []string{"2027-10-03 00:00 - 2027-10-04 00:00"}, half, "a day of 23 and a half hours")
}

// A broken file is refused whole, with a sentence.
func TestABrokenCalendarIsRefused(t *testing.T) {
	for name, file := range map[string]string{
		"a time":             event("DTSTART:tomorrow\nDURATION:PT1H"),
		"a zone":             event("DTSTART;TZID=Nowhere/At_All:20270111T090000\nDURATION:PT1H"),
		"a length":           event("DTSTART:20270111T090000\nDURATION:an hour"),
		"a rule":             event("DTSTART:20270111T090000\nDURATION:PT1H\nRRULE:FREQ=SOMETIMES"),
		"a rule by seconds":  event("DTSTART:20270111T090000\nDURATION:PT1H\nRRULE:FREQ=SECONDLY"),
		"no start":           event("DURATION:PT1H"),
		"a period":           "BEGIN:VFREEBUSY\nUID:f\nDTSTAMP:20260101T000000Z\nFREEBUSY:now/then\nEND:VFREEBUSY\n",
		"half of a good one": event("DTSTART:20270111T090000\nDURATION:PT1H") + event("DTSTART:x"),
	} {
		_, err := readBusy(t, "Europe/Berlin", "2027-01-01", "2027-02-01", file)
		var input *studio.InputError
		require.ErrorAs(t, err, &input, name)
		assert.NotEmpty(t, input.Problems[0].Message)
	}
	_, err := Files{}.BusyTimes([]byte("hello"), time.UTC, time.Unix(0, 0), time.Now())
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
}
