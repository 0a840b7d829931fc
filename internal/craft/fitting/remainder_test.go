package fitting_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
)

// Every prepared re-fit of the demo's plans is that of the remainder by itself, for every spell's end and every number
// of minutes; what is protected stays, and a fit ends in its window or says by how much it misses.
func TestPreparedRefits(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	key := func(step string, pass int) string { return fmt.Sprintf("%s/%d", step, pass) }
	for i := range protocols {
		p := &protocols[i]
		e := evaluation.EvaluateTimeline(p, ctx)
		steps := fitting.StepsToRefit(p, ctx, e, key)
		require.Len(t, steps, len(e.Occurrences))
		planned := 0.0
		ends := make([]float64, len(steps))
		for k := range steps {
			ends[k] = e.Occurrences[k].End
			planned += steps[k].Lead + float64(int(steps[k].Per*float64(steps[k].Planned)+steps[k].Once+0.5))
		}
		assert.InDelta(t, e.Seconds, planned, 1, "%s: doses come to the plan", p.Key)
		all, err := fitting.PrepareRefits(steps, e.Seconds, ends, nil)
		require.NoError(t, err)
		for _, k := range []int{0, 1, len(steps) / 3, len(steps) / 2, len(steps) - 1} {
			boundary := 0.0
			if k > 0 {
				boundary = ends[k-1]
			}
			for _, m := range []int{-5, 0, 3, 8, 15} {
				alone, err := (&fitting.Remainder{Slot: e.Seconds - boundary - 60*float64(m), Steps: steps[k:]}).Refit()
				require.NoError(t, err)
				fit := all[k].Fits[m]
				if held := len(groupsAcross(steps, k)); held == 0 {
					assert.InDelta(t, alone.MissBy, fit.MissBy, 0.011, "%s from %d, %d min", p.Key, k, m)
				}
				for _, s := range steps[k:] {
					dose, changed := fit.Doses[s.ID]
					if !changed {
						continue
					}
					assert.False(t, s.Fixed, s.ID)
					if dose == 0 {
						assert.True(t, s.Optional && s.Product == "" && s.Phase != "open" && s.Phase != "close", "%s is never left out", s.ID)
					} else {
						assert.True(t, dose >= s.Min && dose <= s.Max, s.ID)
					}
				}
			}
		}
	}
}

// groupsAcross are the choices that reach across a boundary.
func groupsAcross(steps []fitting.RefitStep, k int) (out []string) {
	for _, s := range steps[k:] {
		for _, before := range steps[:k] {
			if s.Group != "" && s.Group == before.Group {
				out = append(out, s.Group)
			}
		}
	}
	return out
}

// A second side gets the dose that its first side really had, at no cost; it is left out where that was (handbook,
// chapter 7, Protected).
func TestTheSecondSideIsHeld(t *testing.T) {
	steps := []fitting.RefitStep{
		{ID: "left", Planned: 8, Min: 4, Max: 12, Per: 3, Phase: "work", Group: "g"},
		{ID: "right", Planned: 8, Min: 4, Max: 12, Per: 3, Phase: "work", Group: "g"},
		{ID: "brow", Planned: 8, Min: 4, Max: 12, Per: 3, Phase: "work"},
	}
	ends := []float64{24, 48, 72}
	for had, want := range map[int]int{11: 11, 0: 0} {
		all, err := fitting.PrepareRefits(steps, 72, ends, fitting.Course{"left": had})
		require.NoError(t, err)
		for m, fit := range all[1].Fits {
			assert.Equal(t, want, fit.Doses["right"], "%d min", m)
		}
	}
	all, err := fitting.PrepareRefits(steps, 72, ends, nil)
	require.NoError(t, err)
	both := all[0].Fits[0]
	assert.Equal(t, both.Doses["left"], both.Doses["right"], "before the first side they share a choice")
}

func BenchmarkPreparedRefits(b *testing.B) {
	protocols, ctx := crafttest.Demo(b)
	p := &protocols[0]
	e := evaluation.EvaluateTimeline(p, ctx)
	steps := fitting.StepsToRefit(p, ctx, e, func(step string, pass int) string { return fmt.Sprint(step, pass) })
	ends := make([]float64, len(steps))
	for k := range steps {
		ends[k] = e.Occurrences[k].End
	}
	b.ReportMetric(float64(len(steps)), "spells")
	for b.Loop() {
		if _, err := fitting.PrepareRefits(steps, e.Seconds, ends, nil); err != nil {
			b.Fatal(err)
		}
	}
}
