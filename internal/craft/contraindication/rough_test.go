package contraindication_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
)

// A day that is remembered roughly counts from the latest day it can mean, so that the wait
// is never too short (common practice, from memory).
func TestRoughDays(t *testing.T) {
	for _, c := range []struct {
		rough string
		today calendar.Day
		want  calendar.Day
	}{
		{"3w", "2026-11-24", "2026-11-06"},
		{"1w", "2026-11-24", "2026-11-20"},
		{"2m", "2026-11-24", "2026-10-08"},
		{"1m", "2026-03-31", "2026-03-14"}, // a month before is 28 February
		{"1y", "2026-11-24", "2026-01-23"},
		{"2026-10", "2026-11-24", "2026-10-31"},
		{"2028-02", "2028-11-24", "2028-02-29"},
		{"2026-11", "2026-11-24", "2026-11-24"}, // not later than today
		{"2026-12", "2026-11-24", ""},
		{"0w", "2026-11-24", ""}, {"3d", "2026-11-24", ""}, {"2026-13", "2026-11-24", ""}, {"3w", "soon", ""}, {"", "2026-11-24", ""}, {"100w", "2026-11-24", ""},
	} {
		got, ok := contraindication.RoughDay(c.rough, c.today)
		assert.Equal(t, c.want, got, "%s on %s", c.rough, c.today)
		assert.Equal(t, c.want != "", ok, "%s on %s", c.rough, c.today)
	}
}

// What was counted on the day it was said keeps its day, however much later it is looked at.
func TestRoughAnswersAreDatedOnce(t *testing.T) {
	said := map[string]contraindication.Answer{"filler": {Yes: true, Rough: "3w"}, "peel": {Yes: true, Day: "2026-11-20"}, "laser": {Yes: true, Rough: "?"}}
	dated := contraindication.Dated(said, "2026-11-24")
	assert.EqualValues(t, "2026-11-06", dated["filler"].Day)
	assert.EqualValues(t, "2026-11-20", dated["peel"].Day)
	assert.Empty(t, dated["laser"].Day)
	assert.Empty(t, said["filler"].Day, "what was given is not changed")
	assert.Equal(t, dated, contraindication.Dated(dated, "2026-12-24"))
	assert.NotNil(t, contraindication.Dated(nil, "2026-11-24"))
	faults := contraindication.Trade().Check(dated, "2026-11-24", contraindication.Consultation)
	paths := map[string]bool{}
	for _, f := range faults {
		paths[f.Path] = true
	}
	assert.True(t, paths["/answers/laser/day"])
	assert.False(t, paths["/answers/filler/day"])
}
