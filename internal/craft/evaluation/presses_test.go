package evaluation_test

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

// Everything that presses is held against the ceiling of the zone it presses on
// (handbook, chapter 1: temple 3, outer-eye-corner 2, throat 0 and absolute, a
// still press one higher except there): the path, single fingers, a
// part of the stroke, its last time, the other hand where it lies and where it
// goes. Lowering the pressure mends it and leaves the rest as it was.
func TestEverythingThatPressesHasACeiling(t *testing.T) {
	for _, c := range []struct {
		name string
		step protocol.Step
		code evaluation.Code
		zone string
	}{
		{"the path", protocol.Step{Stroke: "jaw-sweep", Path: crafttest.Zones("temple"), Pressure: crafttest.Ptr(5)}, evaluation.PressureCeiling, "temple"},
		{"a finger of its own", protocol.Step{Stroke: "jaw-sweep", Fingers: []stroke.Finger{{Part: "thumb", Pressure: 3, Zone: "outer-eye-corner"}}}, evaluation.PressureCeiling, "outer-eye-corner"},
		{"a finger along the path", protocol.Step{Stroke: "jaw-sweep", Path: crafttest.Zones("temple"), Pressure: crafttest.Ptr(1), Fingers: []stroke.Finger{{Part: "thumb", Pressure: 5}}}, evaluation.PressureCeiling, "temple"},
		{"a part", protocol.Step{Stroke: "jaw-sweep", Path: crafttest.Zones("temple"), Pressure: crafttest.Ptr(1), Parts: crafttest.Parts(crafttest.Move(2), stroke.Part{Kind: stroke.Move, Seconds: 1, Pressure: crafttest.Ptr(5)})}, evaluation.PressureCeiling, "temple"},
		{"a part in another place", protocol.Step{Stroke: "jaw-sweep", Parts: crafttest.Parts(crafttest.Move(2), stroke.Part{Kind: stroke.Hold, Seconds: 1, Zone: "outer-eye-corner", Pressure: crafttest.Ptr(4)})}, evaluation.PressureCeiling, "outer-eye-corner"},
		{"the last time", protocol.Step{Stroke: "jaw-sweep", Path: crafttest.Zones("temple"), Pressure: crafttest.Ptr(1), Last: &stroke.Last{Pressure: crafttest.Ptr(5)}}, evaluation.PressureCeiling, "temple"},
		{"a part of the last time", protocol.Step{Stroke: "jaw-sweep", Path: crafttest.Zones("temple"), Pressure: crafttest.Ptr(1), Last: &stroke.Last{Parts: crafttest.Parts(crafttest.Move(2), stroke.Part{Kind: stroke.Hold, Seconds: 1, Pressure: crafttest.Ptr(5)})}}, evaluation.PressureCeiling, "temple"},
		{"the other hand", protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "throat", Pressure: 1, Role: "supports"}}, evaluation.PressureAbsolute, "throat"},
		{"where the other hand goes", protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "temple", Pressure: 1, Role: "supports", Then: []stroke.AnchorChange{{Zone: "throat", Pressure: 2, Role: "catches"}}}}, evaluation.PressureAbsolute, "throat"},
	} {
		t.Run(c.name, func(t *testing.T) {
			ctx := crafttest.Studio()
			p := crafttest.Plan(10, crafttest.Oiled(crafttest.Do("spread-passes")), c.step)
			p.Method.Drainage = "none"
			require.Empty(t, p.Validate(ctx, ""))
			f := crafttest.Found(evaluation.Evaluate(p, ctx), c.code, "jaw-sweep#2")
			require.NotNil(t, f, "%+v", evaluation.Evaluate(p, ctx).Findings)
			zone, _ := f.Values.Place()
			assert.Equal(t, c.zone, zone)
			q, err := remedy.Apply(p, ctx, f.ID, evaluation.LowerPressure)
			require.NoError(t, err)
			now := evaluation.Evaluate(q, ctx)
			assert.Nil(t, crafttest.Found(now, c.code, "jaw-sweep#2"), "%+v", now.Findings)
			was, is := evaluation.Resolve(p, 1, ctx), evaluation.Resolve(q, 1, ctx)
			assert.Equal(t, len(was.Path), len(is.Path))
			assert.Equal(t, len(was.Parts), len(is.Parts))
			assert.Equal(t, len(was.Fingers), len(is.Fingers))
			assert.Equal(t, was.Anchor == nil, is.Anchor == nil)
			assert.Equal(t, was.Last == nil, is.Last == nil)
			assert.InDelta(t, evaluation.Evaluate(p, ctx).Seconds, now.Seconds, 1e-9, "pressure takes no time")
		})
	}
}

// Both sides of the neck are never pressed at once with more than a feather, also
// where one of the hands only holds (handbook, chapter 1: absolute).
func TestTheOtherHandOnTheNeck(t *testing.T) {
	ctx := crafttest.Studio()
	for _, c := range []struct {
		pressure int
		stops    bool
	}{{1, false}, {2, true}} {
		p := crafttest.Plan(10, crafttest.Oiled(crafttest.Do("spread-passes")), protocol.Step{Stroke: "neck-side-open", Sides: stroke.BothAtOnce, Pressure: crafttest.Ptr(1), Anchor: &stroke.Anchor{Zone: "side-neck", Pressure: c.pressure, Role: "holds-taut"}})
		p.Method.Drainage = "none"
		f := crafttest.Found(evaluation.Evaluate(p, ctx), evaluation.PressureNeck, "neck-side-open#2")
		assert.Equal(t, c.stops, f != nil, "at %d", c.pressure)
		if f != nil {
			assert.Equal(t, evaluation.Stopping, f.Severity)
		}
	}
}

// A finding is put aside by what it weighs: a note as it is, a warning with its
// reason, what stops never (handbook, chapter 3).
func TestPuttingAside(t *testing.T) {
	ctx := crafttest.Studio()
	p := crafttest.Plan(10, crafttest.Do("cheek-scoop"), protocol.Step{Stroke: "neck-side-open", Sides: stroke.BothAtOnce, Pressure: crafttest.Ptr(3)})
	e := evaluation.Evaluate(p, ctx)
	for _, f := range e.Findings {
		p.Dismissed = append(p.Dismissed, protocol.Dismissal{Finding: f.ID})
	}
	seen := map[evaluation.Severity]int{}
	for _, f := range evaluation.Evaluate(p, ctx).Findings {
		seen[f.Severity]++
		assert.Equal(t, f.Severity == evaluation.Note, f.Dismissed, "%s without a reason", f.ID)
	}
	for i := range p.Dismissed {
		p.Dismissed[i].Why = "we looked at it together"
	}
	for _, f := range evaluation.Evaluate(p, ctx).Findings {
		assert.Equal(t, f.Severity != evaluation.Stopping, f.Dismissed, "%s with a reason", f.ID)
		if f.Dismissed {
			assert.Equal(t, "we looked at it together", f.Why)
		}
	}
	assert.Positive(t, seen[evaluation.Stopping])
	assert.Positive(t, seen[evaluation.Warning])
}

// A collection has no order: what a stroke is in itself is judged, opening,
// carrying home, phases and fit are not (handbook, chapter 3).
func TestACollectionIsJudgedStrokeByStroke(t *testing.T) {
	ctx := crafttest.Studio()
	p := crafttest.Plan(5, crafttest.Do("cheek-drain"), protocol.Step{Stroke: "cheek-scoop", Pressure: crafttest.Ptr(5)})
	p.Setting = ""
	whole := evaluation.Evaluate(p, ctx)
	p.Collection = true
	alone := evaluation.Evaluate(p, ctx)
	assert.NotNil(t, crafttest.Found(whole, evaluation.DrainLeft, "cheek-drain#1"))
	assert.Nil(t, crafttest.Found(alone, evaluation.DrainLeft, ""))
	assert.Nil(t, crafttest.Found(alone, evaluation.PhaseMissing, ""))
	assert.NotNil(t, crafttest.Found(whole, evaluation.PressureCeiling, "cheek-scoop#2"))
	assert.NotNil(t, crafttest.Found(alone, evaluation.PressureCeiling, "cheek-scoop#2"))
	for _, f := range alone.Findings {
		assert.True(t, slices.ContainsFunc(whole.Findings, func(g evaluation.Finding) bool { return g.ID == f.ID }), "%s is no new finding", f.ID)
	}
}
