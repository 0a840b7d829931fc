package fitting_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// The plans of this file are fitted by hand (the rules of fitting: the project's handbook,
// chapter 3). A repetition of face-drain takes three seconds.

func drain(planned, least, most int) protocol.Step {
	return protocol.Step{Stroke: "face-drain", Dose: &stroke.Dose{Kind: stroke.Reps, Planned: planned, Min: least, Max: most}}
}

// lasts is how long a plan takes, in whole seconds that it fits into.
func lasts(p *protocol.Protocol) int {
	return int(math.Ceil(evaluation.Evaluate(p, crafttest.SmallStudio()).Seconds))
}

func dose(f fitting.Fitted, i int) int {
	return evaluation.Resolve(f.Protocol, i, crafttest.SmallStudio()).Dose.Planned
}

// What stands in the way is told where a plan cannot be fitted: the steps that are as short,
// or as long, as they may be; by how many seconds it misses.
func TestWhatIsInTheWay(t *testing.T) {
	ctx := crafttest.SmallStudio()
	p := crafttest.Plan(10, drain(5, 4, 6), drain(5, 5, 5))
	now := lasts(p)
	short := fitting.Fit(p, ctx, now-10)
	assert.Equal(t, 7, short.MissBy, "three seconds less is all that can be had")
	assert.Equal(t, []string{"face-drain#1", "face-drain#2"}, short.InTheWay)
	assert.Equal(t, []string{"face-drain#1"}, short.Changed)
	assert.Equal(t, 4, dose(short, 0))
	long := fitting.Fit(p, ctx, now+3+evaluation.FitGrace+4)
	assert.Equal(t, -5, long.MissBy, "three seconds more is all that can be had; the plan ends within its last second")
	assert.Equal(t, []string{"face-drain#1", "face-drain#2"}, long.InTheWay)
	assert.Equal(t, 6, dose(long, 0))
	for _, slot := range []int{now, now + 1, now + evaluation.FitGrace - 1} {
		fits := fitting.Fit(p, ctx, slot)
		assert.Zero(t, fits.MissBy, "%d s of %d", now, slot)
		assert.Empty(t, fits.InTheWay)
		assert.Empty(t, fits.Changed)
	}
	assert.Equal(t, []string{"face-drain#1"}, fitting.Fit(p, ctx, now-1).Changed)
	assert.Equal(t, []string{"face-drain#1"}, fitting.Fit(p, ctx, now+evaluation.FitGrace+1).Changed)
	assert.Equal(t, 5, p.Steps[0].Dose.Planned, "the plan that was is as it was")
}

// Steps that mirror or take turns with each other change together; where their ranges
// differ each changes alone.
func TestStepsThatBelongTogether(t *testing.T) {
	ctx := crafttest.SmallStudio()
	for name, c := range map[string]struct {
		change  func(s *protocol.Step)
		changed []string
	}{
		"mirrored":            {func(s *protocol.Step) { s.MirrorOf = "a" }, []string{"a", "b"}},
		"in turn":             {func(s *protocol.Step) { s.AlternateOf = "a" }, []string{"a", "b"}},
		"of nobody":           {func(*protocol.Step) {}, []string{"a"}},
		"another least":       {func(s *protocol.Step) { s.MirrorOf, s.Dose.Min = "a", 4 }, []string{"a"}},
		"another most":        {func(s *protocol.Step) { s.MirrorOf, s.Dose.Max = "a", 7 }, []string{"a"}},
		"otherwise planned":   {func(s *protocol.Step) { s.MirrorOf, s.Dose.Planned = "a", 6 }, []string{"b"}},
		"counted differently": {func(s *protocol.Step) { s.MirrorOf, s.Dose.Kind = "a", stroke.Clock }, []string{"a"}},
	} {
		a, b := drain(5, 3, 6), drain(5, 3, 6)
		a.ID, b.ID = "a", "b"
		c.change(&b)
		p := crafttest.Plan(10, a, b)
		f := fitting.Fit(p, ctx, lasts(p)-2)
		assert.Equal(t, c.changed, f.Changed, name)
		assert.Zero(t, f.MissBy, name)
	}
}

// What a change costs: its share of what was planned times the weight of the step, three
// times the weight where a step is dropped; a weight of 0 counts as 1.
func TestWhatAChangeCosts(t *testing.T) {
	ctx := crafttest.SmallStudio()
	for _, c := range []struct {
		first, second float64 // weights
		changed       string
		penalty       float64
	}{{0, 2, "face-drain#1", 0.2}, {2, 0, "face-drain#2", 0.2}, {0.5, 1, "face-drain#1", 0.1}, {3, 2, "face-drain#2", 0.4}} {
		a, b := drain(5, 1, 9), drain(5, 1, 9)
		a.Weight, b.Weight = c.first, c.second
		p := crafttest.Plan(10, a, b)
		f := fitting.Fit(p, ctx, lasts(p)-3)
		assert.Equal(t, []string{c.changed}, f.Changed, "%+v", c)
		assert.InDelta(t, c.penalty, f.Penalty, 1e-6, "%+v", c)
	}
	p := crafttest.Plan(10, drain(5, 5, 5), protocol.Step{Stroke: "face-drain", Dose: &stroke.Dose{Kind: stroke.Reps, Planned: 5, Min: 5, Max: 5}, Optional: true, Weight: 2})
	f := fitting.Fit(p, ctx, lasts(p)-10)
	assert.Equal(t, []string{"face-drain#2"}, f.Dropped)
	assert.InDelta(t, 6, f.Penalty, 1e-6)
	require.Len(t, f.Protocol.Steps, 1)
	assert.Equal(t, "face-drain#1", f.Protocol.Steps[0].ID)
}

// Of a round only the number changes, within its bounds; clock doses change in fives and to
// their very ends.
func TestRoundsAndClockDoses(t *testing.T) {
	ctx := crafttest.SmallStudio()
	round := func(times, least, most int) *protocol.Protocol {
		a, b := drain(5, 1, 9), drain(5, 1, 9)
		a.Round, b.Round = "r", "r"
		p := crafttest.Plan(10, drain(4, 4, 4), a, b)
		p.Rounds = []protocol.Round{{ID: "r", Times: times, Min: least, Max: most}}
		return p
	}
	three, two, four := lasts(round(3, 1, 5)), lasts(round(2, 1, 5)), lasts(round(4, 1, 5))
	for _, c := range []struct {
		slot, times int
		penalty     float64
	}{{three, 3, 0}, {three - 1, 2, 2.0 / 3}, {two, 2, 2.0 / 3}, {four, 4, 2.0 / 3}} {
		f := fitting.Fit(round(3, 1, 5), ctx, c.slot)
		assert.Equal(t, c.times, f.Protocol.Rounds[0].Times, "%+v", c)
		assert.InDelta(t, c.penalty, f.Penalty, 1e-6, "%+v", c)
		assert.Empty(t, f.Changed)
		if c.times != 3 {
			assert.Equal(t, []string{"r"}, f.Rounds)
			assert.Equal(t, []int{1, 5}, []int{f.Protocol.Rounds[0].Min, f.Protocol.Rounds[0].Max}, "its bounds stay")
		} else {
			assert.Empty(t, f.Rounds)
		}
	}
	stuck := fitting.Fit(round(3, 3, 3), ctx, two)
	assert.Positive(t, stuck.MissBy)
	assert.Empty(t, stuck.Rounds)

	clock := func() *protocol.Protocol {
		return crafttest.Plan(10, drain(4, 4, 4), protocol.Step{Stroke: "wipe", Dose: &stroke.Dose{Kind: stroke.Clock, Planned: 30, Min: 18, Max: 43}})
	}
	now := lasts(clock())
	for _, c := range []struct{ slot, want int }{{now, 30}, {now - 1, 28}, {now - 12, 18}, {now + evaluation.FitGrace + 1, 33}, {now + evaluation.FitGrace + 12, 43}} {
		f := fitting.Fit(clock(), ctx, c.slot)
		assert.Equal(t, c.want, dose(f, 1), "%d s, from %d", c.slot, now)
		assert.Zero(t, f.MissBy)
	}
}
