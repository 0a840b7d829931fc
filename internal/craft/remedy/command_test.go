package remedy_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/stroke"
)

// A common ending is the opening in reverse order (handbook, rules of thumb 3).
func TestReverseTheOpening(t *testing.T) {
	p, ctx := crafttest.Fixture(t, "stone-one-side")
	p.Steps = slices.DeleteFunc(p.Steps, func(s protocol.Step) bool { return s.Phase == "close" && s.Stroke != "feather-sweep" })
	require.NotNil(t, crafttest.Found(evaluation.Evaluate(p, ctx), evaluation.ClosingOther, ""))
	d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.ReverseTheOpening})
	require.NoError(t, err)
	assert.Equal(t, []string{"feather-sweep", "ear-fork", "neck-side-open", "collarbone-pumps"}, crafttest.StrokesOf(d.Protocol, "close"))
	assert.Nil(t, crafttest.Found(evaluation.Evaluate(d.Protocol, ctx), evaluation.ClosingOther, ""))
	assert.Len(t, d.Comparison.Steps, 3)
	again, err := remedy.RunCommand(d.Protocol, ctx, remedy.CommandRequest{Command: remedy.ReverseTheOpening})
	require.NoError(t, err)
	assert.Equal(t, crafttest.StrokesOf(d.Protocol, "close"), crafttest.StrokesOf(again.Protocol, "close"), "twice changes nothing more")
}

// One whole side, compare, then the other, and back: the strokes and the working
// time of each side stay the same (handbook, schools of sides).
func TestSidesAreReorderedAndRetimed(t *testing.T) {
	ctx := crafttest.Studio()
	spread := crafttest.Oiled(crafttest.Do("spread-passes"))
	spread.Phase = "apply"
	p := crafttest.Plan(20, spread, crafttest.Do("stone-jaw"), crafttest.Do("stone-cheek"), crafttest.Do("crease-rub"))
	p.Method.Drainage = "none"
	d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.OneSideFirst})
	require.NoError(t, err)
	q := d.Protocol
	assert.Equal(t, []string{"stone-jaw", "stone-cheek", "crease-rub", "stone-jaw", "stone-cheek", "crease-rub"}, crafttest.StrokesOf(q, "work"))
	assert.Len(t, crafttest.StrokesOf(q, "compare"), 1)
	before, after := evaluation.Evaluate(p, ctx), evaluation.Evaluate(q, ctx)
	assert.InDelta(t, before.LeftSeconds, after.LeftSeconds, 1e-9)
	assert.InDelta(t, before.RightSeconds, after.RightSeconds, 1e-9)
	assert.Nil(t, crafttest.Found(after, evaluation.SidesUnequal, ""))
	assert.Equal(t, "whole-side", q.Method.Sides)

	back, err := remedy.RunCommand(q, ctx, remedy.CommandRequest{Command: remedy.InTurnsEach})
	require.NoError(t, err)
	assert.Equal(t, crafttest.StrokesOf(p, "work"), crafttest.StrokesOf(back.Protocol, "work"))
	assert.InDelta(t, before.LeftSeconds, evaluation.Evaluate(back.Protocol, ctx).LeftSeconds, 1e-9)

	both, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.BothAtOnceEach})
	if err == nil { // a tool and an anchored pinch stay in turns
		for _, r := range evaluation.Evaluate(both.Protocol, ctx).Steps {
			assert.False(t, r.Tool != nil && r.Sides == stroke.BothAtOnce, r.Name)
		}
	}
}

// Side two mirrors side one with listed departures (handbook, schools of sides).
func TestMirrorListsDepartures(t *testing.T) {
	ctx := crafttest.Studio()
	left := protocol.Step{ID: "a", Stroke: "stone-jaw", Sides: stroke.LeftOnly, Dose: crafttest.Ptr(crafttest.Reps(7))}
	p := crafttest.Plan(20, crafttest.Oiled(crafttest.Do("spread-passes")), left,
		protocol.Step{ID: "b", Stroke: "stone-jaw", Sides: stroke.RightOnly, MirrorOf: "a"},
		protocol.Step{ID: "c", Stroke: "stone-cheek", Sides: stroke.LeftOnly},
		protocol.Step{ID: "d", Stroke: "stone-cheek", Sides: stroke.RightOnly, MirrorOf: "c", Dose: crafttest.Ptr(crafttest.Reps(8)), Departure: "the weaker side"})
	d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.MirrorSides})
	require.NoError(t, err)
	assert.Equal(t, []string{"d"}, d.Departures)
	assert.Equal(t, 7, evaluation.Resolve(d.Protocol, 2, ctx).Dose.Planned)
	assert.Equal(t, stroke.RightOnly, d.Protocol.Steps[2].Sides)
	assert.Equal(t, 8, evaluation.Resolve(d.Protocol, 4, ctx).Dose.Planned)
}

// The eyes-only ten minutes of a longer routine keeps opening and closing and
// fits its slot (handbook, fitting).
func TestShortenToAConcern(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	p := &protocols[0]
	d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.ShortenTo, Concern: "puffiness", Seconds: 15 * 60})
	require.NoError(t, err)
	e := evaluation.Evaluate(d.Protocol, ctx)
	assert.Zero(t, d.MissBy)
	assert.LessOrEqual(t, e.Seconds, 900.0)
	assert.GreaterOrEqual(t, e.Seconds, 885.0)
	assert.Equal(t, crafttest.StrokesOf(p, "open"), crafttest.StrokesOf(d.Protocol, "open"))
	assert.Equal(t, crafttest.StrokesOf(p, "close"), crafttest.StrokesOf(d.Protocol, "close"))
	assert.Less(t, len(crafttest.StrokesOf(d.Protocol, "work")), len(crafttest.StrokesOf(p, "work")))
	for _, f := range e.Findings {
		assert.NotEqual(t, evaluation.Stopping, f.Severity, f.ID)
	}
	_, err = remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.ShortenTo, Concern: "no-such"})
	assert.Error(t, err)
}

// A smoother order travels less and finds nothing that was not there before.
func TestSmootherOrder(t *testing.T) {
	ctx := crafttest.Studio()
	p := crafttest.Plan(12, crafttest.Do("shoulder-knead"), crafttest.Do("temple-press"), crafttest.Do("shoulder-knead"), crafttest.Do("point-brow"), crafttest.Do("shoulder-knead"), crafttest.Do("point-temple"))
	p.Method.Drainage = "none"
	before := evaluation.Evaluate(p, ctx)
	d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.SmootherOrder})
	require.NoError(t, err)
	after := evaluation.Evaluate(d.Protocol, ctx)
	assert.Less(t, after.Jumps, before.Jumps)
	assert.Less(t, after.Seconds, before.Seconds)
	had := crafttest.Codes(before)
	for _, id := range crafttest.Codes(after) {
		assert.Contains(t, had, id)
	}
	_, err = remedy.RunCommand(d.Protocol, ctx, remedy.CommandRequest{Command: remedy.SmootherOrder})
	assert.Error(t, err, "already the smoothest")
}

// A command that has nothing to do says so in a sentence and changes nothing.
func TestCommandsThatHaveNothingToDo(t *testing.T) {
	ctx := crafttest.Studio()
	for _, c := range []struct {
		name  string
		steps []protocol.Step
		order remedy.CommandRequest
	}{
		{"no opening", []protocol.Step{crafttest.Do("cheek-scoop")}, remedy.CommandRequest{Command: remedy.ReverseTheOpening}},
		{"no pairs to mirror", []protocol.Step{crafttest.Do("cheek-scoop")}, remedy.CommandRequest{Command: remedy.MirrorSides}},
		{"one side, of a midline stroke only", []protocol.Step{crafttest.Do("forehead-knuckles")}, remedy.CommandRequest{Command: remedy.OneSideFirst}},
		{"both at once already", []protocol.Step{{Stroke: "cheek-scoop", Sides: stroke.BothAtOnce}}, remedy.CommandRequest{Command: remedy.BothAtOnceEach}},
		{"a concern that there is none of", []protocol.Step{crafttest.Do("cheek-scoop")}, remedy.CommandRequest{Command: remedy.ShortenTo, Concern: "immortality", Seconds: 600}},
		{"a concern that nothing serves", []protocol.Step{crafttest.Do("shoulder-knead")}, remedy.CommandRequest{Command: remedy.ShortenTo, Concern: "dark-circles", Seconds: 600}},
		{"one step in any order", []protocol.Step{crafttest.Do("cheek-scoop")}, remedy.CommandRequest{Command: remedy.SmootherOrder}},
		{"a command that is none", []protocol.Step{crafttest.Do("cheek-scoop")}, remedy.CommandRequest{Command: "polish"}},
	} {
		p := crafttest.Plan(10, c.steps...)
		before := p.Clone()
		d, err := remedy.RunCommand(p, ctx, c.order)
		require.Error(t, err, "%s: %+v", c.name, d)
		assert.Greater(t, len(err.Error()), 15, "%s: %s", c.name, err)
		assert.True(t, protocol.Compare(before, p).Same(), c.name)
	}
}

// Fitting to a time moves the plan's own times with it, in whole minutes, and
// never sells less than the hands work.
func TestFittingMovesTheTimesOfThePlan(t *testing.T) {
	ctx := crafttest.Studio()
	p := crafttest.Plan(20, crafttest.Do("cheek-scoop"), crafttest.Do("jaw-sweep"), crafttest.Do("temple-press"))
	p.Minutes = protocol.Minutes{Treatment: 30, HandsOn: 20, Reset: 10}
	for _, c := range []struct{ seconds, handsOn, sold int }{{600, 10, 20}, {601, 11, 21}, {0, 20, 30}} {
		d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.FitTo, Seconds: c.seconds})
		require.NoError(t, err)
		assert.Equal(t, c.handsOn, d.Protocol.Minutes.HandsOn, "%d s", c.seconds)
		assert.Equal(t, c.sold, d.Protocol.Minutes.Treatment, "%d s", c.seconds)
		assert.Equal(t, 10, d.Protocol.Minutes.Reset)
	}
	assert.Equal(t, 20, p.Minutes.HandsOn, "the plan that was is as it was")
}
