package calendar_test

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/calendar"
)

// By the calendar: month ends, leap days, over the turn of a year, backwards.
func TestAddMonths(t *testing.T) {
	for _, c := range []struct {
		from   string
		months int
		want   string
	}{
		{"2026-01-15", 1, "2026-02-15"},
		{"2026-01-31", 1, "2026-02-28"},
		{"2028-01-31", 1, "2028-02-29"},
		{"2026-08-31", 6, "2027-02-28"},
		{"2027-08-31", 6, "2028-02-29"},
		{"2028-02-29", 12, "2029-02-28"},
		{"2026-11-24", 6, "2027-05-24"},
		{"2026-12-31", 2, "2027-02-28"},
		{"2026-12-01", 24, "2028-12-01"},
		{"2026-03-31", -1, "2026-02-28"},
		{"2026-01-31", 0, "2026-01-31"},
	} {
		from, err := time.Parse(time.DateOnly, c.from)
		require.NoError(t, err)
		assert.Equal(t, c.want, calendar.AddMonths(from, c.months).Format(time.DateOnly), "%s and %d", c.from, c.months)
	}
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	at := calendar.AddMonths(time.Date(2026, 11, 24, 10, 30, 0, 0, lisbon), 6)
	assert.Equal(t, "2027-05-24 10:30", at.Format("2006-01-02 15:04"), "ten thirty stays ten thirty in summer")
}
