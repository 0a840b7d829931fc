package stroke_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
)

// With sets there is a rest between two of them and none after the last (handbook,
// timing): three sets with rests of 5 s have two rests. Figures by hand.
func TestRestsLieBetweenSets(t *testing.T) {
	for _, c := range []struct {
		name string
		dose stroke.Dose
		want float64
	}{
		{"counted: 3 x (6 + 2) x 2 s and 2 x 5 s", stroke.Dose{Kind: stroke.Reps, Planned: 6, Reverse: 2, Sets: 3, Rest: 5}, 58},
		{"breaths: 3 x 2 x (4 + 1 + 6) s and 2 x 5 s", stroke.Dose{Kind: stroke.Breaths, Planned: 2, In: 4, Pause: 1, Out: 6, Sets: 3, Rest: 5}, 76},
		{"timed: 3 x 20 s and 2 x 5 s", stroke.Dose{Kind: stroke.Clock, Planned: 20, Sets: 3, Rest: 5}, 70},
		{"one set has no rest", stroke.Dose{Kind: stroke.Clock, Planned: 20, Rest: 5}, 20},
	} {
		assert.InDelta(t, c.want, c.dose.SideSeconds(2), 1e-12, c.name)
	}
}

// The other sense keeps its proportion, to the nearest whole repetition and at least one.
func TestReversedRepetitionsKeepTheirProportion(t *testing.T) {
	of := func(planned, reverse, now int) int {
		return stroke.Dose{Kind: stroke.Reps, Planned: planned, Reverse: reverse}.With(now).Reverse
	}
	assert.Equal(t, 2, of(6, 4, 3))
	assert.Equal(t, 3, of(6, 4, 5), "3.33 is nearer to 3")
	assert.Equal(t, 1, of(6, 1, 1), "never none")
	assert.Equal(t, 0, of(6, 0, 12), "what goes one way only stays so")
	assert.Equal(t, 4, of(0, 4, 12), "without a plan there is no proportion")
	assert.Equal(t, 1, of(1, 1, 1))
}

// The bounds of a dose, each at its last good value and at the first that is refused, with
// the field that is at fault.
func TestTheBoundsOfADose(t *testing.T) {
	type dose = stroke.Dose
	nan := math.NaN()
	for _, c := range []struct {
		name      string
		good, bad dose
		path      string
	}{
		{"planned from 1", dose{Kind: stroke.Clock, Planned: 1}, dose{Kind: stroke.Clock}, "/planned"},
		{"planned to 3600", dose{Kind: stroke.Clock, Planned: 3600}, dose{Kind: stroke.Clock, Planned: 3601}, "/planned"},
		{"20 sets", dose{Kind: stroke.Clock, Planned: 9, Sets: 20}, dose{Kind: stroke.Clock, Planned: 9, Sets: 21}, "/planned"},
		{"least as planned", dose{Kind: stroke.Clock, Planned: 9, Min: 9}, dose{Kind: stroke.Clock, Planned: 9, Min: 10}, "/min"},
		{"most as planned", dose{Kind: stroke.Clock, Planned: 9, Max: 9}, dose{Kind: stroke.Clock, Planned: 9, Max: 8}, "/max"},
		{"ceiling as planned", dose{Kind: stroke.Clock, Planned: 9, Ceiling: 9}, dose{Kind: stroke.Clock, Planned: 9, Ceiling: 8}, "/ceiling"},
		{"rest from nought", dose{Kind: stroke.Clock, Planned: 9, Rest: 0}, dose{Kind: stroke.Clock, Planned: 9, Rest: -1}, "/kind"},
		{"rest to an hour", dose{Kind: stroke.Clock, Planned: 9, Rest: 3600}, dose{Kind: stroke.Clock, Planned: 9, Rest: 3601}, "/kind"},
		{"rest is a number", dose{Kind: stroke.Clock, Planned: 9}, dose{Kind: stroke.Clock, Planned: 9, Rest: nan}, "/kind"},
		{"breaths last", dose{Kind: stroke.Breaths, Planned: 2, Out: 1}, dose{Kind: stroke.Breaths, Planned: 2}, "/out"},
		{"one point", dose{Kind: stroke.Positions, Planned: 1, Places: 1, Seconds: 1}, dose{Kind: stroke.Positions, Planned: 1, Seconds: 1}, "/places"},
		{"seconds at a point", dose{Kind: stroke.Positions, Planned: 1, Places: 1, Seconds: 0.5}, dose{Kind: stroke.Positions, Planned: 1, Places: 1}, "/places"},
		{"100 points", dose{Kind: stroke.Positions, Planned: 1, Places: 100, Seconds: 1}, dose{Kind: stroke.Positions, Planned: 1, Places: 101, Seconds: 1}, "/kind"},
		{"2 senses", dose{Kind: stroke.Positions, Planned: 1, Places: 1, Seconds: 1, Senses: 2}, dose{Kind: stroke.Positions, Planned: 1, Places: 1, Seconds: 1, Senses: 3}, "/kind"},
		{"reversed from nought", dose{Kind: stroke.Reps, Planned: 1}, dose{Kind: stroke.Reps, Planned: 1, Reverse: -1}, "/kind"},
		{"reversed to 3600", dose{Kind: stroke.Reps, Planned: 1, Reverse: 3600}, dose{Kind: stroke.Reps, Planned: 1, Reverse: 3601}, "/kind"},
		{"reversed when counted", dose{Kind: stroke.Reps, Planned: 1, Reverse: 1}, dose{Kind: stroke.Clock, Planned: 1, Reverse: 1}, "/reverse"},
	} {
		assert.Empty(t, c.good.Validate(""), c.name)
		assert.Equal(t, []string{"/dose" + c.path}, paths(c.bad.Validate("/dose")), c.name)
	}
	assert.Empty(t, dose{Kind: stroke.Inherited, Planned: -1}.Validate(""), "one that is inherited has nothing of its own")
}

// The bounds of a part: more than nothing and at most ten minutes, done at most 50 times,
// with a pressure from 0 to 5.
func TestTheBoundsOfAPart(t *testing.T) {
	level := func(n int) *int { return &n }
	for _, c := range []struct {
		name      string
		good, bad stroke.Part
		path      string
	}{
		{"more than nothing", stroke.Part{Seconds: 0.1}, stroke.Part{}, "/seconds"},
		{"ten minutes", stroke.Part{Seconds: 600}, stroke.Part{Seconds: 600.1}, "/seconds"},
		{"50 times", stroke.Part{Seconds: 1, Count: 50}, stroke.Part{Seconds: 1, Count: 51}, "/seconds"},
		{"not less than once", stroke.Part{Seconds: 1}, stroke.Part{Seconds: 1, Count: -1}, "/seconds"},
		{"resting", stroke.Part{Seconds: 1, Pressure: level(0)}, stroke.Part{Seconds: 1, Pressure: level(-1)}, "/pressure"},
		{"deep", stroke.Part{Seconds: 1, Pressure: level(5)}, stroke.Part{Seconds: 1, Pressure: level(6)}, "/pressure"},
	} {
		assert.Empty(t, stroke.ValidateParts([]stroke.Part{c.good}, ""), c.name)
		assert.Equal(t, []string{"/parts/0" + c.path}, paths(stroke.ValidateParts([]stroke.Part{c.bad}, "/parts")), c.name)
	}
}

func paths(faults []problem.Fault) (out []string) {
	for _, f := range faults {
		out = append(out, f.Path)
	}
	return out
}
