package series

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// "Every first Tuesday" by the calendar of 2027 (from memory; the days were checked with cal(1)).
func TestAStandingBooking(t *testing.T) {
	first := ReadOften("every first tuesday")
	assert.Equal(t, &Standing{1, "tue"}, first.Standing)
	assert.Equal(t, HeardStanding, first.Heard[0].As)
	assert.Equal(t, []string{"2027-01-05", "2027-02-02", "2027-03-02", "2027-04-06"}, first.Standing.Days("2027-01-01", "2027-04-30"))
	assert.Equal(t, []string{"2027-02-02"}, first.Standing.Days("2027-01-05", "2027-02-28"), "after the day")
	last := ReadOften("every last fri")
	assert.Equal(t, []string{"2027-01-29", "2027-02-26", "2027-03-26", "2027-04-30"}, last.Standing.Days("2027-01-01", "2027-04-30"))
	assert.Equal(t, Gap{Ideal: 35, Least: 32, Most: 38}, first.Standing.Gap("2027-03-02", "2027-04-06"))
	every := ReadOften("standing every 4 weeks")
	assert.Equal(t, &Standing{}, every.Standing)
	assert.Equal(t, Rhythm{How: EveryDays, Number: 28}, every.Rhythm)
	assert.Nil(t, ReadOften("6 weekly").Standing)
	assert.Nil(t, ReadOften("every second week").Standing)
}
