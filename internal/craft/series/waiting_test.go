package series_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// The order in which a freed time is offered, by hand (handbook, chapter 6, Everyday diary):
// displaced, most days late, least sliver, waiting longest; whom it does not serve is left out.
func TestWhoComesFirstOnTheWaitingList(t *testing.T) {
	day := [][]string{{"09:00", "13:00"}}
	week := series.WeekPieces{"mon": day, "tue": day}
	ask := func(sold int, change func(q *series.Request)) *series.Request {
		q := &series.Request{
			Zone: "UTC", Now: "2027-01-04T08:00", Shortest: 60, Open: week, Rooms: []series.RequestRoom{{Key: "one"}},
			Practitioners: []series.RequestPractitioner{{Key: "ann", Shifts: []series.ShiftEntry{{From: "2027-01-04", Days: week}}}},
			Bookings:      []series.RequestBooking{},
			Series:        series.RequestSeries{Items: []series.Item{{Sold: sold, Reset: 15}}},
		}
		ann, one := "ann", "one"
		for _, start := range []string{"2027-01-05T09:00", "2027-01-05T11:30"} { // 10:00 to 11:30 is free
			q.Bookings = append(q.Bookings, series.RequestBooking{Practitioner: &ann, Room: &one, Start: start, Sold: 60})
		}
		if change != nil {
			change(q)
		}
		return q
	}
	freed := series.Freed{Practitioner: "ann", From: "2027-01-05 10:00", To: "2027-01-05 11:30"}
	got, err := series.WhoComesFirst(freed, []series.Waiter{
		{Key: "long", Since: "2026-12-01T09:00", Request: ask(60, nil)},
		{Key: "longer", Since: "2026-11-01T09:00", Request: ask(60, nil)},
		{Key: "fits exactly", Since: "2027-01-03T09:00", Request: ask(75, nil)},
		{Key: "too long a visit", Since: "2026-01-01T09:00", Request: ask(90, nil)},
		{Key: "late", LateDays: 2, Since: "2027-01-03T09:00", Request: ask(60, nil)},
		{Key: "later", LateDays: 5, Since: "2027-01-03T09:00", Request: ask(60, nil)},
		{Key: "displaced", Displaced: true, Since: "2027-01-04T07:00", Request: ask(60, nil)},
		{Key: "has to wait", Displaced: true, Since: "2026-01-01T09:00", Request: ask(60, func(q *series.Request) { q.Client.NotBefore = "2027-01-06" })},
		{Key: "cannot come", Since: "2026-01-01T09:00", Request: ask(60, func(q *series.Request) { q.Client.Possible = series.WeekPieces{"mon": day} })},
		{Key: "wants another", Since: "2026-01-01T09:00", Request: ask(60, func(q *series.Request) { q.Series.Practitioner = &series.WantedPerson{How: "must", Who: "bo"} })},
	})
	require.NoError(t, err)
	var keys []string
	for _, s := range got {
		keys = append(keys, s.Key)
	}
	assert.Equal(t, []string{"displaced", "later", "late", "fits exactly", "longer", "long"}, keys)
	assert.Equal(t, "2027-01-05 10:00", got[0].Placed.Start)
	assert.Equal(t, 0, got[3].Sliver)
	assert.Equal(t, 1, got[4].Sliver)
}
