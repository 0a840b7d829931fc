package series_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// A day in figures by hand: nine to five with a break from 12 to 13 is 420 minutes, less an hour
// away 360; a visit of 75 minutes from ten is taken; 15 minutes between it and the absence are a
// sliver. A closed day has nothing.
func TestLoadsOfADay(t *testing.T) {
	week := series.WeekPieces{"mon": {{"09:00", "12:00"}, {"13:00", "17:00"}}, "tue": {{"09:00", "17:00"}}}
	ann := "ann"
	q := &series.Request{
		Zone: "Europe/Berlin", Now: "2027-01-04T08:00", Shortest: 60, Open: series.WeekPieces{"mon": {{"09:00", "18:00"}}, "tue": {{"09:00", "18:00"}}},
		Closures: [][]string{{"2027-01-05", "2027-01-05"}},
		Practitioners: []series.RequestPractitioner{{
			Key: "ann", Shifts: []series.ShiftEntry{{From: "2027-01-04", Days: week}}, Absences: [][]string{{"2027-01-04T11:30", "2027-01-04T13:30"}},
		}},
		Bookings: []series.RequestBooking{{Practitioner: &ann, Start: "2027-01-04T10:00", Sold: 60, Reset: 15}},
	}
	list, err := series.Loads(q, "2027-01-04", 2)
	require.NoError(t, err)
	assert.Equal(t, []series.DayLoad{
		{Day: "2027-01-04", Open: true, People: []series.PersonLoad{{
			Key: "ann", Works: 360, Taken: 75, Pieces: [][2]string{{"09:00", "11:30"}, {"13:30", "17:00"}}, Slivers: [][2]string{{"11:15", "11:30"}},
		}}},
		{Day: "2027-01-05", People: []series.PersonLoad{{Key: "ann", Pieces: [][2]string{}, Slivers: [][2]string{}}}},
	}, list)

	q.Open["mon"] = [][]string{{"09:00", "16:00"}} // the studio closes an hour before her shift ends
	list, err = series.Loads(q, "2027-01-04", 1)
	require.NoError(t, err)
	assert.Equal(t, 300, list[0].People[0].Works)
	assert.Equal(t, 75, list[0].People[0].Taken)
}
