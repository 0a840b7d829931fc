package pace_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/pace"
)

// The handbook's worked ratios (chapter 7): the far 1.40 is pulled in; pace 0.96.
func TestTheWorkedPace(t *testing.T) {
	r := pace.Ratios{Ratios: []float64{0.90, 0.95, 0.88, 1.40, 0.92, 0.91}}
	got, err := r.Estimate()
	require.NoError(t, err)
	assert.InDelta(t, -0.0793, got.RobustMean, 5e-5)
	assert.InDelta(t, -0.0433, got.Theta, 5e-5)
	assert.InDelta(t, 0.96, got.Pace, 1e-9)
	got, err = (&pace.Ratios{Ratios: []float64{0.8, 0.8}}).Estimate()
	require.NoError(t, err)
	assert.InDelta(t, 1, got.Pace, 1e-9, "two teach nothing yet")
	_, err = (&pace.Ratios{Ratios: []float64{0}}).Estimate()
	require.Error(t, err)
}

// Which spells say something of the hands, row by row (chapter 7, Real against planned).
func TestInformative(t *testing.T) {
	good := pace.Spell{Stroke: "glide", Planned: 24, Real: 20, EndedBy: "pedal", Dose: "reps"}
	assert.True(t, good.Informative())
	for name, change := range map[string]func(*pace.Spell){
		"a timer ended it": func(s *pace.Spell) { s.EndedBy = "auto" },
		"by the clock":     func(s *pace.Spell) { s.Dose = "clock" },
		"stayed":           func(s *pace.Spell) { s.Stayed = true },
		"skipped":          func(s *pace.Spell) { s.Skipped = true },
		"worked again":     func(s *pace.Spell) { s.Repeated = true },
		"paused":           func(s *pace.Spell) { s.Paused = true },
		"estimated":        func(s *pace.Spell) { s.Estimated = true },
		"under 5 s":        func(s *pace.Spell) { s.Planned, s.Real = 4, 4 },
		"much too short":   func(s *pace.Spell) { s.Real = 9 },
		"much too long":    func(s *pace.Spell) { s.Real = 61 },
	} {
		s := good
		change(&s)
		assert.False(t, s.Informative(), name)
	}
}

// A pace leans on the prior until there are records, stays within its bounds, and a stroke leans on the practitioner's.
func TestLearning(t *testing.T) {
	slow := func(real float64) []pace.Spell {
		var out []pace.Spell
		for range 6 {
			out = append(out, pace.Spell{Stroke: "glide", Planned: 25, Real: real, EndedBy: "tap", Dose: "reps"})
		}
		return append(out, pace.Spell{Stroke: "press", Planned: 10, Real: 10, EndedBy: "key", Dose: "positions"})
	}
	var many pace.Treatments
	for range 60 {
		many.Treatments = append(many.Treatments, slow(50))
	}
	got, err := many.Learn()
	require.NoError(t, err)
	assert.InDelta(t, 1.5, got.Pace, 1e-9, "never beyond its bounds")
	assert.Equal(t, 30, got.From, "the newest thirty")
	few := pace.Treatments{Treatments: [][]pace.Spell{slow(30), slow(30), slow(30)}}
	got, err = few.Learn()
	require.NoError(t, err)
	assert.InDelta(t, 1.07, got.Pace, 1e-9, "3 of 8 parts of ln(190/160)")
	assert.InDelta(t, 1.11, got.Strokes["glide"].Pace, 1e-9, "5 parts of that, 3 of ln 1.2")
	short := pace.Treatments{Treatments: [][]pace.Spell{slow(30)[3:], slow(30)[3:], slow(30)[3:]}}
	got, err = short.Learn()
	require.NoError(t, err)
	assert.Zero(t, got.From, "under two minutes of them a treatment says nothing in all")
	assert.InDelta(t, 1.07, got.Strokes["glide"].Pace, 1e-9, "but of its strokes: 3 of 8 parts of ln 1.2")
}
