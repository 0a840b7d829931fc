package series_test

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

func nineToFive() (w series.Week) {
	for d := range w {
		w[d] = series.Hours{From: 9 * 60, To: 17 * 60}
	}
	return w
}

// A span lies within a day's hours from its first minute to its last, by the local
// clock, also across the nights on which clocks change (Lisbon: 25 October 2026 and
// 28 March 2027, from the tz database).
func TestHolds(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	w := nineToFive()
	w[time.Sunday] = series.Hours{}
	for _, c := range []struct {
		day     string
		from    string
		minutes int
		holds   bool
	}{
		{"2026-11-24", "09:00", 480, true},
		{"2026-11-24", "09:00", 481, false},
		{"2026-11-24", "08:59", 30, false},
		{"2026-11-24", "16:30", 30, true},
		{"2026-11-24", "16:31", 30, false},
		{"2026-11-24", "03:00", 60, false},
		{"2026-11-22", "10:00", 60, false}, // a Sunday
		{"2026-10-26", "09:00", 60, true},
		{"2027-03-29", "16:00", 60, true},
		{"2027-03-29", "16:00", 61, false},
		{"2026-11-22", "00:00", 0, false}, // a closed day holds nothing, not even a moment
		{"2026-11-24", "09:30", 60, true}, // the minutes of the start count as well as its hour
	} {
		at, err := time.ParseInLocation("2006-01-02 15:04", c.day+" "+c.from, zone)
		require.NoError(t, err)
		s := series.Span{Start: at.UTC(), End: at.UTC().Add(time.Duration(c.minutes) * time.Minute)}
		assert.Equal(t, c.holds, w.Holds(s, zone), "%s %s for %d min", c.day, c.from, c.minutes)
	}
}

// Figures by hand: 50 min sold and 10 min reset on a 15-minute grid between
// 9:00 and 17:00 can start from 9:00 to 16:00, which is 29 starts.
func TestFree(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	day := time.Date(2026, 11, 24, 0, 0, 0, 0, zone)
	at := func(h, m int) time.Time { return day.Add(time.Duration(h)*time.Hour + time.Duration(m)*time.Minute) }
	q := series.Query{Zone: zone, Open: nineToFive(), From: day, Days: 1, Length: 50 * time.Minute, Reset: 10 * time.Minute,
		Practitioners: []series.Resource{{ID: "a"}}, Rooms: []series.Resource{{ID: "1"}}}
	free := series.Free(q)
	require.Len(t, free, 29)
	assert.Equal(t, at(16, 0), free[28].Start)

	q.Rooms[0].Busy = []series.Span{{Start: at(10, 0), End: at(11, 0)}}
	for _, f := range series.Free(q) {
		assert.False(t, f.Start.After(at(9, 0)) && f.Start.Before(at(11, 0)), "%s overlaps", f.Start)
	}
	assert.Len(t, series.Free(q), 29-7, "9:15 to 10:45 are gone")

	q.Rooms = append(q.Rooms, series.Resource{ID: "2"})
	assert.Len(t, series.Free(q), 29, "the second room takes over")

	q.ClientBusy = []series.Span{{Start: at(9, 0), End: at(9, 50)}}
	assert.Equal(t, at(10, 0), series.Free(q)[0].Start, "a client is in one place at a time; their visit has no reset")

	q.Practitioners[0].Week[time.Wednesday] = series.Hours{From: 600, To: 700}
	assert.Empty(t, series.Free(q), "works Wednesdays only, and it is a Tuesday")
	q.Practitioners, q.ClientBusy = []series.Resource{{ID: "a"}, {ID: "b"}}, nil
	assert.Len(t, series.Free(q), 58)
	near := series.Nearest(series.Free(q), at(12, 5), 3)
	assert.Equal(t, []time.Time{at(12, 0), at(12, 0), at(12, 15)}, []time.Time{near[0].Start, near[1].Start, near[2].Start})
	q.From = at(15, 50)
	assert.Len(t, series.Free(q), 2, "nothing before the asked-for moment")
}

// A 10:00 visit stays at 10:00 local across a clock change, and a local time
// that a change skips is not offered. Clocks went forward in Berlin on
// 2026-03-29 from 2:00 to 3:00 (IANA time zone database).
func TestFreeAcrossAClockChange(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	var always series.Week
	for d := range always {
		always[d] = series.Hours{From: 0, To: 1440}
	}
	q := series.Query{Zone: zone, Open: always, From: time.Date(2026, 3, 28, 0, 0, 0, 0, zone), Days: 3, Length: 30 * time.Minute,
		Practitioners: []series.Resource{{ID: "a"}}, Rooms: []series.Resource{{ID: "1"}}}
	tens := 0
	for _, f := range series.Free(q) {
		local := f.Start.In(zone)
		assert.False(t, local.Day() == 29 && local.Hour() == 2, "%s does not exist", local)
		if local.Hour() == 10 && local.Minute() == 0 {
			tens++
		}
	}
	assert.Equal(t, 3, tens)
	before, after := time.Date(2026, 3, 28, 10, 0, 0, 0, zone), time.Date(2026, 3, 29, 10, 0, 0, 0, zone)
	assert.Equal(t, 23*time.Hour, after.Sub(before))
}

// The nearest times come in the order of time, whichever side of the wish they lie
// on, and never more than there are.
func TestNearest(t *testing.T) {
	noon := time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)
	var times []series.Time
	for _, minutes := range []int{-90, -45, -15, 30, 60, 120} {
		times = append(times, series.Time{Start: noon.Add(time.Duration(minutes) * time.Minute), Practitioner: "a", Room: "1"})
	}
	near := series.Nearest(times, noon, 3)
	require.Len(t, near, 3)
	assert.Equal(t, []series.Time{times[1], times[2], times[3]}, near)
	assert.Len(t, series.Nearest(times, noon, 10), 6)
	assert.Empty(t, series.Nearest(nil, noon, 3))
	assert.Equal(t, noon.Add(-90*time.Minute), times[0].Start, "the list given stays as it is")
	assert.Equal(t, times[1:2], series.Nearest([]series.Time{times[1], {Start: noon.Add(45 * time.Minute)}}, noon, 1), "of two equally near the earlier")
}

// A practitioner's own hours narrow the studio's, a client is in one place at a time,
// and a start on the opening minute and one that ends on the closing minute are both
// offered; by hand.
func TestTheEdgesOfFreeTimes(t *testing.T) {
	day := time.Date(2026, 11, 24, 0, 0, 0, 0, time.UTC)
	at := func(h, m int) time.Time { return day.Add(time.Duration(h)*time.Hour + time.Duration(m)*time.Minute) }
	late := series.Week{}
	late[time.Tuesday] = series.Hours{From: 15*60 + 30, To: 17 * 60}
	q := series.Query{Zone: time.UTC, Open: nineToFive(), From: at(9, 0), Days: 1, Length: time.Hour, Reset: 15 * time.Minute,
		Practitioners: []series.Resource{{ID: "late", Week: late}}, Rooms: []series.Resource{{ID: "1"}, {ID: "2"}}}
	starts := func() (out []string) {
		for _, f := range series.Free(q) {
			out = append(out, f.Start.Format("15:04")+" "+f.Room)
		}
		return out
	}
	assert.Equal(t, []string{"15:30 1", "15:45 1"}, starts())
	q.Rooms[0].Busy = []series.Span{{Start: at(12, 0), End: at(15, 45)}}
	assert.Equal(t, []string{"15:30 2", "15:45 1"}, starts(), "a room is free again at the minute it ends")
	q.ClientBusy = []series.Span{{Start: at(16, 30), End: at(17, 0)}}
	assert.Equal(t, []string{"15:30 2"}, starts(), "the client may leave while the room is reset")
	q.From = at(15, 31)
	assert.Empty(t, starts(), "nothing before the moment asked from")
}
