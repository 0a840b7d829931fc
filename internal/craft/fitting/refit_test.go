package fitting_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"

	"softpalm/internal/craft/fitting"
)

func half() *float64 { w := 0.5; return &w }
func two() *float64  { w := 2.0; return &w }

// aMinuteShort is the handbook's worked remainder (chapter 7, Late, early, over).
func aMinuteShort(slot float64) fitting.Remainder {
	return fitting.Remainder{Slot: slot, Steps: []fitting.RefitStep{
		{ID: "open", Planned: 6, Min: 4, Max: 8, Per: 3, Phase: "open", Lead: 2},
		{ID: "cheek", Planned: 9, Min: 5, Max: 12, Per: 3, Phase: "work", Lead: 1},
		{ID: "brow", Planned: 6, Min: 3, Max: 6, Per: 4, Phase: "work", Lead: 2, Optional: true},
		{ID: "jaw", Planned: 60, Min: 30, Max: 90, Per: 1, Grain: 5, Phase: "work", Lead: 2, Weight: two()},
		{ID: "temple", Planned: 5, Min: 3, Max: 6, Per: 5, Phase: "work", Lead: 1, Optional: true, Weight: half()},
		{ID: "close", Planned: 6, Min: 4, Max: 8, Per: 3, Phase: "close", Lead: 2},
	}}
}

func TestTheWorkedRefit(t *testing.T) {
	r := aMinuteShort(127)
	got, err := r.Refit()
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"open": 6, "cheek": 5, "brow": 4, "jaw": 35, "temple": 3, "close": 6}, got.Doses)
	assert.InDelta(t, 1.811110, got.Penalty, 1e-9)
	assert.Equal(t, []any{127.0, 4, 0.0, true}, []any{got.Seconds, got.Changes, got.MissBy, got.Unique})
	r.Slot = 182 + 15
	got, err = r.Refit()
	require.NoError(t, err)
	assert.Zero(t, got.Changes, "as planned it ends within the window")
	r.Slot = 10
	got, err = r.Refit()
	require.NoError(t, err)
	assert.Positive(t, got.MissBy, "even the shortest is too long")
	assert.Equal(t, 4, got.Doses["open"], "opening and closing are shortened, never dropped")
}

// tried is the answer found by trying every choice.
type tried struct {
	class          int
	off, penalty   int
	changes, equal int
	doses          []int
}

func (a *tried) order(b *tried) int {
	for _, d := range []int{a.class - b.class, a.off - b.off, a.penalty - b.penalty, a.changes - b.changes} {
		if d != 0 {
			return d
		}
	}
	return 0
}

// tryAll tries every dose of every step, without groups, against one cap.
func tryAll(r *fitting.Remainder) tried {
	doses := make([][]int, len(r.Steps))
	least := 0.0
	for i, s := range r.Steps {
		for d := s.Min; d <= s.Max; d++ {
			doses[i] = append(doses[i], d)
		}
		if !slices.Contains(doses[i], s.Planned) {
			doses[i] = append(doses[i], s.Planned)
		}
		if s.Optional && s.Phase == "work" {
			doses[i] = append(doses[i], 0)
		}
		if s.Held != nil {
			doses[i] = []int{*s.Held}
		}
		low := math.Inf(1)
		for _, d := range doses[i] {
			low = min(low, s.Loads["eye"]*float64(d))
		}
		least += low
	}
	limit := max(r.Caps["eye"], least)
	best := tried{class: 9}
	now := make([]int, len(r.Steps))
	var try func(i int)
	try = func(i int) {
		if i < len(r.Steps) {
			for _, d := range doses[i] {
				now[i] = d
				try(i + 1)
			}
			return
		}
		c := tried{equal: 1, doses: slices.Clone(now)}
		total, load := 0, 0.0
		for k, s := range r.Steps {
			load += s.Loads["eye"] * float64(now[k])
			total += int(s.Lead)
			if now[k] > 0 {
				total += int(math.Round(r.Pace * s.Per * float64(now[k])))
			}
			if s.Held != nil || now[k] == s.Planned {
				continue
			}
			c.changes++
			if now[k] == 0 {
				c.penalty += 3_000_000
			} else {
				c.penalty += int(math.Round(1e6 * math.Abs(float64(now[k]-s.Planned)) / float64(s.Planned)))
			}
		}
		switch slot := int(r.Slot); {
		case load > limit:
			return
		case total > slot:
			c.class, c.off = 2, total-slot
		case total < slot-15:
			c.class, c.off = 1, slot-15-total
		}
		switch o := c.order(&best); {
		case best.class == 9 || o < 0:
			best = c
		case o == 0:
			c.equal = best.equal + 1
			if before(c.doses, best.doses, r.Steps) {
				best.doses = c.doses
			}
			best.equal = c.equal
		}
	}
	try(0)
	return best
}

// before reports whether among equals a comes first: the earliest changed, then the larger dose.
func before(a, b []int, steps []fitting.RefitStep) bool {
	for i := range a {
		if a[i] == b[i] {
			continue
		}
		if (a[i] == steps[i].Planned) != (b[i] == steps[i].Planned) {
			return b[i] == steps[i].Planned
		}
		return a[i] > b[i]
	}
	return false
}

// The re-fit is the best of all, ties and number of equals included, on random remainders whose choices can all be tried.
func TestRefitAgainstTryingAll(t *testing.T) {
	rng := rand.New(rand.NewPCG(17, 3))
	for n := range 400 {
		r := fitting.Remainder{Pace: []float64{1, 0.9, 1.13}[rng.IntN(3)], Caps: map[string]float64{"eye": float64(4 + rng.IntN(12))}}
		planned := 0
		for i := range 2 + rng.IntN(4) {
			s := fitting.RefitStep{ID: fmt.Sprint("s", i), Planned: 2 + rng.IntN(6), Per: float64(1 + rng.IntN(5)), Lead: float64(rng.IntN(3)), Phase: "work"}
			s.Min, s.Max = max(1, s.Planned-rng.IntN(3)), s.Planned+rng.IntN(3)
			s.Optional = rng.IntN(3) == 0
			if rng.IntN(3) == 0 {
				s.Phase = []string{"open", "close", "apply"}[rng.IntN(3)]
			}
			if rng.IntN(6) == 0 {
				held := rng.IntN(2) * (s.Planned - 1)
				s.Held = &held
			}
			if rng.IntN(2) == 0 {
				s.Loads = map[string]float64{"eye": float64(1 + rng.IntN(2))}
			}
			planned += int(s.Lead) + int(s.Per)*s.Planned
			r.Steps = append(r.Steps, s)
		}
		r.Slot = math.Max(1, float64(planned+rng.IntN(40)-28))
		got, err := r.Refit()
		require.NoError(t, err)
		want := tryAll(&r)
		doses := make([]int, len(r.Steps))
		for i := range r.Steps {
			doses[i] = got.Doses[r.Steps[i].ID]
		}
		require.Equal(t, want.doses, doses, "instance %d: %+v", n, r)
		require.Equal(t, []any{want.changes, want.equal == 1}, []any{got.Changes, got.Unique}, "instance %d", n)
		require.InDelta(t, float64(want.penalty)/1e6, got.Penalty, 1e-9)
		sign := map[int]float64{0: 0, 1: -1, 2: 1}[want.class]
		require.InDelta(t, sign*float64(want.off), got.MissBy, 1e-9)
	}
}

// On remainders of 30 steps, with groups that share a choice and a cap that binds, the penalty is that of a general
// solver of integer programmes (GLPK's glpsol, Debian).
func TestRefitEqualsGLPK(t *testing.T) {
	crafttest.NeedGLPK(t)
	rng := rand.New(rand.NewPCG(4, 8))
	dir := t.TempDir()
	solved := 0
	for n := range 25 {
		r := fitting.Remainder{Pace: 1, Caps: map[string]float64{"eye": 60}}
		planned := 0
		for i := range 30 {
			s := fitting.RefitStep{ID: fmt.Sprint("s", i), Planned: 3 + rng.IntN(8), Per: float64(1 + rng.IntN(5)), Lead: float64(rng.IntN(3)), Phase: "work"}
			s.Min, s.Max, s.Optional = max(1, s.Planned-3), s.Planned+4, rng.IntN(4) == 0
			if i%5 == 4 { // shares its choice with the step before
				before := &r.Steps[i-1]
				s.Planned, s.Min, s.Max, s.Optional = before.Planned, before.Min, before.Max, before.Optional
				s.Group, before.Group = fmt.Sprint("g", i), fmt.Sprint("g", i)
			}
			if i%4 == 0 {
				s.Loads = map[string]float64{"eye": 1}
			}
			planned += int(s.Lead) + int(s.Per)*s.Planned
			r.Steps = append(r.Steps, s)
		}
		r.Slot = float64(planned - rng.IntN(240))
		got, err := r.Refit()
		require.NoError(t, err)
		if got.MissBy != 0 {
			continue
		}
		want, ok := crafttest.GLPK(t, dir, refitProgramme(&r))
		require.True(t, ok, "instance %d", n)
		assert.InDelta(t, want/1e6, got.Penalty, 2e-6, "instance %d", n)
		solved++
	}
	assert.Greater(t, solved, 15, "most must fit, for the comparison to say much")
}

// refitProgramme writes a remainder as an integer programme: one dose a step, equal doses in a group.
func refitProgramme(r *fitting.Remainder) string {
	var cost, time, load, rows, names strings.Builder
	fixed := 0.0
	for i, s := range r.Steps {
		fixed += s.Lead
		var one []string
		for d := s.Min; d <= s.Max+1; d++ {
			dose, penalty := d, int(math.Round(1e6*math.Abs(float64(d-s.Planned))/float64(s.Planned)))
			if d > s.Max {
				if !s.Optional {
					break
				}
				dose, penalty = 0, 3_000_000
			}
			x := fmt.Sprintf("x%d_%d", i, dose)
			one = append(one, x)
			fmt.Fprintf(&cost, "\n + %d %s", penalty, x)
			fmt.Fprintf(&time, "\n + %d %s", dose*int(s.Per), x)
			fmt.Fprintf(&load, "\n + %d %s", dose*int(s.Loads["eye"]), x)
			fmt.Fprintf(&names, " %s\n", x)
			if s.Group != "" && i > 0 && r.Steps[i-1].Group == s.Group {
				fmt.Fprintf(&rows, " %s - x%d_%d = 0\n", x, i-1, dose)
			}
		}
		fmt.Fprintf(&rows, " %s = 1\n", strings.Join(one, " + "))
	}
	slot := r.Slot - fixed
	return fmt.Sprintf("Minimize\n goal:%s\nSubject To\n%s%s <= %d\n%s >= %d\n%s <= %d\nBinary\n%sEnd\n",
		cost.String(), rows.String(), time.String(), int(slot), time.String(), int(slot)-15, load.String(), int(r.Caps["eye"]), names.String())
}
