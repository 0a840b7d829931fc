package series_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
)

// Somebody walks in at 10:07: Ann has a visit at 11:00, Bo is at work until 13:00, Cy is busy. By
// hand: 53 minutes hold 45 and their reset of 5 with 3 to prepare, and nothing longer.
func TestWhatFitsNow(t *testing.T) {
	week := series.WeekPieces{"mon": {{"09:00", "13:00"}}}
	ann, cy, one := "ann", "cy", "one"
	shift := []series.ShiftEntry{{From: "2027-01-04", Days: week}}
	q := &series.Request{
		Zone: "Europe/Lisbon", Now: "2027-01-04T10:07", Open: week, Rooms: []series.RequestRoom{{Key: "one"}, {Key: "two"}},
		Practitioners: []series.RequestPractitioner{{Key: "ann", Shifts: shift}, {Key: "bo", Shifts: shift}, {Key: "cy", Shifts: shift}},
		Bookings: []series.RequestBooking{
			{Practitioner: &ann, Start: "2027-01-04T11:00", Sold: 60},
			{Practitioner: &cy, Room: &one, Start: "2027-01-04T09:30", Sold: 60},
		},
		Series: series.RequestSeries{Items: []series.Item{{Prepare: 3, Sold: 45, Reset: 5}, {Sold: 60}}},
	}
	now, err := series.At(q)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"ann": 53, "bo": 173, "cy": 0}, now.Free())
	at, why, err := now.AtOnce(1, "ann")
	require.NoError(t, err)
	require.Nil(t, why)
	assert.Equal(t, series.Placed{Kind: "treatment", N: 1, Start: "2027-01-04 10:10", Practitioner: "ann", Room: "two"}, *at)
	_, why, err = now.AtOnce(2, "ann")
	require.NoError(t, err)
	assert.Equal(t, series.PersonTaken, why.Limit)
	_, why, err = now.AtOnce(1, "cy")
	require.NoError(t, err)
	assert.Equal(t, series.PersonTaken, why.Limit)
}
