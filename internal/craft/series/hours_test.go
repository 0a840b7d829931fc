package series_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// Figures by hand: 50 min sold and 10 min reset on a 15-minute grid in a shift from 9:00 to
// 17:00 can start from 9:00 to 16:00, which is 29 starts; the night of a clock change takes
// nothing from them (Berlin, 28 March 2027, IANA time zone database).
func TestTimesOfADay(t *testing.T) {
	week := series.WeekPieces{}
	for _, d := range []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"} {
		week[d] = [][]string{{"09:00", "17:00"}}
	}
	q := &series.Request{
		Zone: "Europe/Berlin", Now: "2027-03-26T08:00", Open: week, Rooms: []series.RequestRoom{{Key: "one"}, {Key: "two"}},
		Practitioners: []series.RequestPractitioner{{Key: "ann", Shifts: []series.ShiftEntry{{From: "2027-01-04", Days: week}}}},
		Series:        series.RequestSeries{Items: []series.Item{{Sold: 50, Reset: 10}}},
	}
	for _, day := range []string{"2027-03-27", "2027-03-28", "2027-03-29"} {
		list, err := series.Times(q, 1, day, day)
		require.NoError(t, err)
		require.Len(t, list, 29, day)
		assert.Equal(t, day+" 09:00", list[0].Start)
		assert.Equal(t, day+" 16:00", list[28].Start)
		assert.Equal(t, "one", list[0].Room)
	}
}

// The nearest times come in the order of time, whichever side of the wish they lie on, and
// never more than there are.
func TestNearest(t *testing.T) {
	at := func(h int) time.Time { return time.Date(2026, 5, 4, h, 0, 0, 0, time.UTC) }
	list := []time.Time{at(8), at(10), at(13), at(18)}
	self := func(x time.Time) time.Time { return x }
	assert.Equal(t, []time.Time{at(10), at(13)}, series.Nearest(list, self, at(12), 2))
	assert.Len(t, series.Nearest(list, self, at(12), 9), 4)
	assert.Empty(t, series.Nearest(nil, self, at(12), 2))
}

// A closure holds from its first day to its last.
func TestClosedOn(t *testing.T) {
	list := []series.Closure{{From: "2026-12-24", To: "2027-01-02", Reason: "Holidays"}}
	assert.Nil(t, series.ClosedOn(list, "2026-12-23"))
	assert.Equal(t, "Holidays", series.ClosedOn(list, "2026-12-24").Reason)
	assert.NotNil(t, series.ClosedOn(list, "2027-01-02"))
	assert.Nil(t, series.ClosedOn(list, "2027-01-03"))
}

// The times that a client can be given are those of the studio at which the client can come, whatever the client's hours,
// absences, guardian, blocked days and other appointments are: both ways to them agree on random requests.
func TestTimesAreThoseOfTheStudioAtWhichTheClientComes(t *testing.T) {
	left, kept := 0, 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 31))
		q := small(r)
		c := &q.Client
		if r.IntN(3) == 0 {
			c.Guardian = series.WeekPieces{"tue": {{"09:00", "11:00"}}, "thu": {{"10:00", "14:00"}}}
		}
		if r.IntN(3) == 0 {
			c.Absences = [][]string{{"2027-01-06T10:00", "2027-01-07T11:30"}}
		}
		if r.IntN(3) == 0 {
			c.Blocked = [][]string{{"2027-01-08", "2027-01-11"}}
		}
		if r.IntN(4) == 0 {
			c.NotBefore = "2027-01-06"
		}
		for i := range q.Bookings {
			if r.IntN(3) == 0 {
				q.Bookings[i].Client = "this"
			}
		}
		direct, err := series.Times(q, 1, "2027-01-04", "2027-01-15")
		require.NoError(t, err)
		comes, err := series.Comes(q, q.Series.Items[0].Sold)
		require.NoError(t, err)

		anybody := *q
		anybody.Client, anybody.Bookings = series.RequestClient{}, slices.Clone(q.Bookings)
		for i := range anybody.Bookings {
			anybody.Bookings[i].Client = ""
		}
		all, err := series.Times(&anybody, 1, "2027-01-04", "2027-01-15")
		require.NoError(t, err)
		var filtered []string
		for i := range all {
			start, err := time.Parse("2006-01-02 15:04", all[i].Start)
			require.NoError(t, err)
			if comes(start.Unix() / 60) {
				filtered = append(filtered, all[i].Start+all[i].Practitioner+all[i].Room)
			} else {
				left++
			}
		}
		var listed []string
		for i := range direct {
			listed = append(listed, direct[i].Start+direct[i].Practitioner+direct[i].Room)
		}
		require.Equal(t, listed, filtered, "seed %d", seed)
		kept += len(listed)
	}
	assert.Greater(t, left, 1000)
	assert.Greater(t, kept, 1000)
}
