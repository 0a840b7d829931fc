package series_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/series"
)

// Every row of the table of rhythms (handbook, chapter 6, Rhythm).
func TestRhythmsAreCompiledToLists(t *testing.T) {
	plain := func(n int) []series.Marks { return make([]series.Marks, n) }
	draining := func(n int) []series.Marks {
		out := plain(n)
		for i := range out {
			out[i].Draining = true
		}
		return out
	}
	glow := func(n int) []series.Marks {
		out := plain(n)
		out[n-1].Glow = true
		return out
	}
	g := func(ideal, least, most int) series.Gap { return series.Gap{Ideal: ideal, Least: least, Most: most} }
	every := func(n int) series.Rhythm { return series.Rhythm{How: series.EveryDays, Number: n} }
	times := func(n int) series.Rhythm { return series.Rhythm{How: series.TimesAWeek, Number: n} }
	for name, c := range map[string]struct {
		rhythm  series.Rhythm
		visits  []series.Marks
		gaps    []series.Gap
		perWeek int
	}{
		"every 7 days":        {every(7), plain(3), []series.Gap{{}, g(7, 6, 8), g(7, 6, 8)}, 0},
		"every 28 days":       {every(28), plain(2), []series.Gap{{}, g(28, 24, 32)}, 0},
		"every 10 days":       {every(10), plain(2), []series.Gap{{}, g(10, 9, 11)}, 0},
		"every day":           {every(1), plain(2), []series.Gap{{}, g(1, 1, 2)}, 0},
		"twice a week":        {times(2), plain(4), []series.Gap{{}, g(3, 2, 5), g(4, 2, 6), g(3, 2, 5)}, 2},
		"three times a week":  {times(3), plain(5), []series.Gap{{}, g(2, 2, 4), g(2, 2, 4), g(3, 2, 5), g(2, 2, 4)}, 3},
		"twice, draining":     {times(2), draining(3), []series.Gap{{}, g(3, 1, 5), g(4, 1, 6)}, 2},
		"reset week":          {series.Rhythm{How: series.Daily}, plain(3), []series.Gap{{}, g(1, 1, 2), g(1, 1, 2)}, 0},
		"one visit":           {every(7), plain(1), []series.Gap{{}}, 0},
		"weekly, then a glow": {every(7), glow(3), []series.Gap{{}, g(7, 6, 8), g(7, 2, 8)}, 0},
		"blocks": {
			series.Rhythm{How: series.InBlocks, Blocks: []series.Block{
				{Visits: 4, How: series.TimesAWeek, Number: 2}, {Visits: 2, How: series.EveryDays, Number: 7},
				{Visits: 1, How: series.EveryDays, Number: 14}, {Visits: 1, How: series.EveryDays, Number: 28},
			}},
			plain(9),
			[]series.Gap{
				{}, g(3, 2, 5), g(4, 2, 6), g(3, 2, 5), g(7, 6, 8), g(7, 6, 8), g(14, 12, 16), g(28, 24, 32), g(28, 24, 32),
			}, 2,
		},
	} {
		gaps, perWeek := c.rhythm.Compile(c.visits)
		assert.Equal(t, c.gaps, gaps, name)
		assert.Equal(t, c.perWeek, perWeek, name)
	}
}

// Deep work asks for 48 hours, the rest for 24 (handbook, chapter 6, Rhythm).
func TestRestOfAVisit(t *testing.T) {
	assert.Equal(t, 48, series.Marks{Deep: true, Draining: true}.Rest())
	assert.Equal(t, 24, series.Marks{Draining: true}.Rest())
}
