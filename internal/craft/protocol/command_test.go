package protocol_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

func strokesOf(p *protocol.Protocol, phase protocol.Phase) []string {
	var out []string
	for i := range p.Steps {
		if p.Steps[i].Phase == phase {
			out = append(out, p.Steps[i].Stroke)
		}
	}
	return out
}

// A common ending is the opening in reverse order (handbook, rules of thumb 3).
func TestReverseTheOpening(t *testing.T) {
	p, ctx := fixture(t, "stone-one-side")
	p.Steps = slices.DeleteFunc(p.Steps, func(s protocol.Step) bool { return s.Phase == "close" && s.Stroke != "feather-sweep" })
	require.NotNil(t, found(protocol.Evaluate(p, ctx), protocol.ClosingOther, ""))
	d, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.ReverseTheOpening})
	require.NoError(t, err)
	assert.Equal(t, []string{"feather-sweep", "ear-fork", "neck-side-open", "collarbone-pumps"}, strokesOf(d.Protocol, "close"))
	assert.Nil(t, found(protocol.Evaluate(d.Protocol, ctx), protocol.ClosingOther, ""))
	assert.Len(t, d.Comparison.Steps, 3)
	again, err := protocol.Do(d.Protocol, ctx, protocol.Order{Command: protocol.ReverseTheOpening})
	require.NoError(t, err)
	assert.Equal(t, strokesOf(d.Protocol, "close"), strokesOf(again.Protocol, "close"), "twice changes nothing more")
}

// One whole side, compare, then the other, and back: the strokes and the working
// time of each side stay the same (handbook, schools of sides).
func TestSidesAreReorderedAndRetimed(t *testing.T) {
	ctx := studio()
	spread := oiled(do("spread-passes"))
	spread.Phase = "apply"
	p := plan(20, spread, do("stone-jaw"), do("stone-cheek"), do("crease-rub"))
	p.School.Drainage = "none"
	d, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.OneSideFirst})
	require.NoError(t, err)
	q := d.Protocol
	assert.Equal(t, []string{"stone-jaw", "stone-cheek", "crease-rub", "stone-jaw", "stone-cheek", "crease-rub"}, strokesOf(q, "work"))
	assert.Len(t, strokesOf(q, "compare"), 1)
	before, after := protocol.Evaluate(p, ctx), protocol.Evaluate(q, ctx)
	assert.InDelta(t, before.LeftSeconds, after.LeftSeconds, 1e-9)
	assert.InDelta(t, before.RightSeconds, after.RightSeconds, 1e-9)
	assert.Nil(t, found(after, protocol.SidesUnequal, ""))
	assert.Equal(t, "whole-side", q.School.Sides)

	back, err := protocol.Do(q, ctx, protocol.Order{Command: protocol.InTurnsEach})
	require.NoError(t, err)
	assert.Equal(t, strokesOf(p, "work"), strokesOf(back.Protocol, "work"))
	assert.InDelta(t, before.LeftSeconds, protocol.Evaluate(back.Protocol, ctx).LeftSeconds, 1e-9)

	both, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.BothAtOnceEach})
	if err == nil { // a tool and an anchored pinch stay in turns
		for _, r := range protocol.Evaluate(both.Protocol, ctx).Steps {
			assert.False(t, r.Tool != nil && r.Sides == stroke.BothAtOnce, r.Name)
		}
	}
}

// Side two mirrors side one with listed departures (handbook, schools of sides).
func TestMirrorListsDepartures(t *testing.T) {
	ctx := studio()
	left := protocol.Step{ID: "a", Stroke: "stone-jaw", Sides: stroke.LeftOnly, Dose: ptr(reps(7))}
	p := plan(20, oiled(do("spread-passes")), left,
		protocol.Step{ID: "b", Stroke: "stone-jaw", Sides: stroke.RightOnly, MirrorOf: "a"},
		protocol.Step{ID: "c", Stroke: "stone-cheek", Sides: stroke.LeftOnly},
		protocol.Step{ID: "d", Stroke: "stone-cheek", Sides: stroke.RightOnly, MirrorOf: "c", Dose: ptr(reps(8)), Departure: "the weaker side"})
	d, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.MirrorSides})
	require.NoError(t, err)
	assert.Equal(t, []string{"d"}, d.Departures)
	assert.Equal(t, 7, protocol.Resolve(d.Protocol, 2, ctx).Dose.Planned)
	assert.Equal(t, stroke.RightOnly, d.Protocol.Steps[2].Sides)
	assert.Equal(t, 8, protocol.Resolve(d.Protocol, 4, ctx).Dose.Planned)
}

// The eyes-only ten minutes of a longer routine keeps opening and closing and
// fits its slot (handbook, fitting).
func TestShortenToAConcern(t *testing.T) {
	protocols, ctx := demoProtocols(t)
	p := &protocols[0]
	d, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.ShortenTo, Concern: "puffiness", Seconds: 15 * 60})
	require.NoError(t, err)
	e := protocol.Evaluate(d.Protocol, ctx)
	assert.Zero(t, d.MissBy)
	assert.LessOrEqual(t, e.Seconds, 900.0)
	assert.GreaterOrEqual(t, e.Seconds, 885.0)
	assert.Equal(t, strokesOf(p, "open"), strokesOf(d.Protocol, "open"))
	assert.Equal(t, strokesOf(p, "close"), strokesOf(d.Protocol, "close"))
	assert.Less(t, len(strokesOf(d.Protocol, "work")), len(strokesOf(p, "work")))
	for _, f := range e.Findings {
		assert.NotEqual(t, protocol.Stopping, f.Severity, f.ID)
	}
	_, err = protocol.Do(p, ctx, protocol.Order{Command: protocol.ShortenTo, Concern: "no-such"})
	assert.Error(t, err)
}

// A smoother order travels less and finds nothing that was not there before.
func TestSmootherOrder(t *testing.T) {
	ctx := studio()
	p := plan(12, do("shoulder-knead"), do("temple-press"), do("shoulder-knead"), do("point-brow"), do("shoulder-knead"), do("point-temple"))
	p.School.Drainage = "none"
	before := protocol.Evaluate(p, ctx)
	d, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.SmootherOrder})
	require.NoError(t, err)
	after := protocol.Evaluate(d.Protocol, ctx)
	assert.Less(t, after.Jumps, before.Jumps)
	assert.Less(t, after.Seconds, before.Seconds)
	had := codes(before)
	for _, id := range codes(after) {
		assert.Contains(t, had, id)
	}
	_, err = protocol.Do(d.Protocol, ctx, protocol.Order{Command: protocol.SmootherOrder})
	assert.Error(t, err, "already the smoothest")
}

// Two versions, step by step: what was added, taken out, altered and moved.
func TestCompareRecognisesMovedSteps(t *testing.T) {
	was := plan(12, do("shoulder-knead"), do("temple-press"), do("point-brow"), do("jaw-scissor"), do("cheek-scoop"))
	now := was.Clone()
	now.Steps = []protocol.Step{was.Steps[0], was.Steps[4], was.Steps[1], was.Steps[3], {ID: "new", Stroke: "ear-knead", Phase: "work"}}
	now.Steps[3].Pressure = ptr(1)
	now.Minutes.HandsOn = 10
	c := protocol.Compare(was, now)
	type line struct {
		step   string
		change protocol.Changed
		from   int
		to     int
	}
	var got []line
	for _, s := range c.Steps {
		got = append(got, line{s.Step, s.Change, s.From, s.To})
	}
	assert.Equal(t, []line{
		{"cheek-scoop#5", protocol.Moved, 5, 2},
		{"point-brow#3", protocol.Removed, 3, 0},
		{"jaw-scissor#4", protocol.Altered, 4, 4},
		{"new", protocol.Added, 0, 5},
	}, got)
	assert.Equal(t, []string{"pressure"}, c.Steps[2].Fields)
	assert.Equal(t, []string{"minutes"}, c.Fields)
	assert.True(t, protocol.Compare(was, was.Clone()).Same())
	// A step whose id is gone is known again by stroke, sides and phase.
	renamed := was.Clone()
	renamed.Steps[2].ID = "other"
	assert.True(t, protocol.Compare(was, renamed).Same())
}

// A command that has nothing to do says so in a sentence and changes nothing.
func TestCommandsThatHaveNothingToDo(t *testing.T) {
	ctx := studio()
	for _, c := range []struct {
		name  string
		steps []protocol.Step
		order protocol.Order
	}{
		{"no opening", []protocol.Step{do("cheek-scoop")}, protocol.Order{Command: protocol.ReverseTheOpening}},
		{"no pairs to mirror", []protocol.Step{do("cheek-scoop")}, protocol.Order{Command: protocol.MirrorSides}},
		{"one side, of a midline stroke only", []protocol.Step{do("forehead-knuckles")}, protocol.Order{Command: protocol.OneSideFirst}},
		{"both at once already", []protocol.Step{{Stroke: "cheek-scoop", Sides: stroke.BothAtOnce}}, protocol.Order{Command: protocol.BothAtOnceEach}},
		{"a concern that there is none of", []protocol.Step{do("cheek-scoop")}, protocol.Order{Command: protocol.ShortenTo, Concern: "immortality", Seconds: 600}},
		{"a concern that nothing serves", []protocol.Step{do("shoulder-knead")}, protocol.Order{Command: protocol.ShortenTo, Concern: "dark-circles", Seconds: 600}},
		{"one step in any order", []protocol.Step{do("cheek-scoop")}, protocol.Order{Command: protocol.SmootherOrder}},
		{"a command that is none", []protocol.Step{do("cheek-scoop")}, protocol.Order{Command: "polish"}},
	} {
		p := plan(10, c.steps...)
		before := p.Clone()
		d, err := protocol.Do(p, ctx, c.order)
		require.Error(t, err, "%s: %+v", c.name, d)
		assert.Greater(t, len(err.Error()), 15, "%s: %s", c.name, err)
		assert.True(t, protocol.Compare(before, p).Same(), c.name)
	}
}

// Fitting to a time moves the plan's own times with it, in whole minutes, and
// never sells less than the hands work.
func TestFittingMovesTheTimesOfThePlan(t *testing.T) {
	ctx := studio()
	p := plan(20, do("cheek-scoop"), do("jaw-sweep"), do("temple-press"))
	p.Minutes = protocol.Minutes{Sold: 30, HandsOn: 20, Reset: 10}
	for _, c := range []struct{ seconds, handsOn, sold int }{{600, 10, 20}, {601, 11, 21}, {0, 20, 30}} {
		d, err := protocol.Do(p, ctx, protocol.Order{Command: protocol.FitTo, Seconds: c.seconds})
		require.NoError(t, err)
		assert.Equal(t, c.handsOn, d.Protocol.Minutes.HandsOn, "%d s", c.seconds)
		assert.Equal(t, c.sold, d.Protocol.Minutes.Sold, "%d s", c.seconds)
		assert.Equal(t, 10, d.Protocol.Minutes.Reset)
	}
	assert.Equal(t, 20, p.Minutes.HandsOn, "the plan that was is as it was")
}
