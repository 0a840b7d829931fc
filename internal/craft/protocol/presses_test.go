package protocol_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
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
		code protocol.Code
		zone string
	}{
		{"the path", protocol.Step{Stroke: "jaw-sweep", Path: zones("temple"), Pressure: ptr(5)}, protocol.PressureCeiling, "temple"},
		{"a finger of its own", protocol.Step{Stroke: "jaw-sweep", Fingers: []stroke.Finger{{Part: "thumb", Pressure: 3, Zone: "outer-eye-corner"}}}, protocol.PressureCeiling, "outer-eye-corner"},
		{"a finger along the path", protocol.Step{Stroke: "jaw-sweep", Path: zones("temple"), Pressure: ptr(1), Fingers: []stroke.Finger{{Part: "thumb", Pressure: 5}}}, protocol.PressureCeiling, "temple"},
		{"a part", protocol.Step{Stroke: "jaw-sweep", Path: zones("temple"), Pressure: ptr(1), Parts: parts(move(2), stroke.Part{Kind: stroke.Move, Seconds: 1, Pressure: ptr(5)})}, protocol.PressureCeiling, "temple"},
		{"a part in another place", protocol.Step{Stroke: "jaw-sweep", Parts: parts(move(2), stroke.Part{Kind: stroke.Hold, Seconds: 1, Zone: "outer-eye-corner", Pressure: ptr(4)})}, protocol.PressureCeiling, "outer-eye-corner"},
		{"the last time", protocol.Step{Stroke: "jaw-sweep", Path: zones("temple"), Pressure: ptr(1), Last: &stroke.Last{Pressure: ptr(5)}}, protocol.PressureCeiling, "temple"},
		{"a part of the last time", protocol.Step{Stroke: "jaw-sweep", Path: zones("temple"), Pressure: ptr(1), Last: &stroke.Last{Parts: parts(move(2), stroke.Part{Kind: stroke.Hold, Seconds: 1, Pressure: ptr(5)})}}, protocol.PressureCeiling, "temple"},
		{"the other hand", protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "throat", Pressure: 1, Role: "supports"}}, protocol.PressureAbsolute, "throat"},
		{"where the other hand goes", protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "temple", Pressure: 1, Role: "supports", Then: []stroke.AnchorChange{{Zone: "throat", Pressure: 2, Role: "catches"}}}}, protocol.PressureAbsolute, "throat"},
	} {
		t.Run(c.name, func(t *testing.T) {
			ctx := studio()
			p := plan(10, oiled(do("spread-passes")), c.step)
			p.School.Drainage = "none"
			require.Empty(t, p.Validate(ctx, ""))
			f := found(protocol.Evaluate(p, ctx), c.code, "jaw-sweep#2")
			require.NotNil(t, f, "%+v", protocol.Evaluate(p, ctx).Findings)
			assert.Equal(t, c.zone, f.Values["zone"])
			q, err := protocol.Apply(p, ctx, f.ID, protocol.LowerPressure)
			require.NoError(t, err)
			now := protocol.Evaluate(q, ctx)
			assert.Nil(t, found(now, c.code, "jaw-sweep#2"), "%+v", now.Findings)
			was, is := protocol.Resolve(p, 1, ctx), protocol.Resolve(q, 1, ctx)
			assert.Equal(t, len(was.Path), len(is.Path))
			assert.Equal(t, len(was.Parts), len(is.Parts))
			assert.Equal(t, len(was.Fingers), len(is.Fingers))
			assert.Equal(t, was.Anchor == nil, is.Anchor == nil)
			assert.Equal(t, was.Last == nil, is.Last == nil)
			assert.InDelta(t, protocol.Evaluate(p, ctx).Seconds, now.Seconds, 1e-9, "pressure takes no time")
		})
	}
}

// Both sides of the neck are never pressed at once with more than a feather, also
// where one of the hands only holds (handbook, chapter 1: absolute).
func TestTheOtherHandOnTheNeck(t *testing.T) {
	ctx := studio()
	for _, c := range []struct {
		pressure int
		stops    bool
	}{{1, false}, {2, true}} {
		p := plan(10, oiled(do("spread-passes")), protocol.Step{Stroke: "neck-side-open", Sides: stroke.BothAtOnce, Pressure: ptr(1), Anchor: &stroke.Anchor{Zone: "side-neck", Pressure: c.pressure, Role: "holds-taut"}})
		p.School.Drainage = "none"
		f := found(protocol.Evaluate(p, ctx), protocol.PressureNeck, "neck-side-open#2")
		assert.Equal(t, c.stops, f != nil, "at %d", c.pressure)
		if f != nil {
			assert.Equal(t, protocol.Stopping, f.Severity)
		}
	}
}

// A finding is put aside by what it weighs: a note as it is, a warning with its
// reason, what stops never (handbook, chapter 3).
func TestPuttingAside(t *testing.T) {
	ctx := studio()
	p := plan(10, do("cheek-scoop"), protocol.Step{Stroke: "neck-side-open", Sides: stroke.BothAtOnce, Pressure: ptr(3)})
	e := protocol.Evaluate(p, ctx)
	for _, f := range e.Findings {
		p.Dismissed = append(p.Dismissed, protocol.Dismissal{Finding: f.ID})
	}
	seen := map[protocol.Severity]int{}
	for _, f := range protocol.Evaluate(p, ctx).Findings {
		seen[f.Severity]++
		assert.Equal(t, f.Severity == protocol.Note, f.Dismissed, "%s without a reason", f.ID)
	}
	for i := range p.Dismissed {
		p.Dismissed[i].Why = "we looked at it together"
	}
	for _, f := range protocol.Evaluate(p, ctx).Findings {
		assert.Equal(t, f.Severity != protocol.Stopping, f.Dismissed, "%s with a reason", f.ID)
		if f.Dismissed {
			assert.Equal(t, "we looked at it together", f.Why)
		}
	}
	assert.Positive(t, seen[protocol.Stopping])
	assert.Positive(t, seen[protocol.Warning])
}

// A collection has no order: what a stroke is in itself is judged, opening,
// carrying home, phases and fit are not (handbook, chapter 3).
func TestACollectionIsJudgedStrokeByStroke(t *testing.T) {
	ctx := studio()
	p := plan(5, do("cheek-drain"), protocol.Step{Stroke: "cheek-scoop", Pressure: ptr(5)})
	p.Setting = ""
	whole := protocol.Evaluate(p, ctx)
	p.Collection = true
	alone := protocol.Evaluate(p, ctx)
	assert.NotNil(t, found(whole, protocol.DrainLeft, "cheek-drain#1"))
	assert.Nil(t, found(alone, protocol.DrainLeft, ""))
	assert.Nil(t, found(alone, protocol.PhaseMissing, ""))
	assert.NotNil(t, found(whole, protocol.PressureCeiling, "cheek-scoop#2"))
	assert.NotNil(t, found(alone, protocol.PressureCeiling, "cheek-scoop#2"))
	for _, f := range alone.Findings {
		assert.True(t, slices.ContainsFunc(whole.Findings, func(g protocol.Finding) bool { return g.ID == f.ID }), "%s is no new finding", f.ID)
	}
}

// A protocol with one thing wrong is told by place, as a JSON pointer into the
// protocol file's own names, and nothing else is complained of.
func TestEveryFaultOfAProtocol(t *testing.T) {
	ctx := studio()
	good := func() *protocol.Protocol {
		p := plan(10, oiled(do("spread-passes")), do("cheek-scoop"), do("jaw-sweep"), do("temple-press"))
		p.School.Drainage = "none"
		p.Sections = []protocol.Section{{ID: "s", Name: "S"}}
		p.Rounds = []protocol.Round{{ID: "r", Times: 2}}
		p.Steps[1].Round, p.Steps[2].Round, p.Steps[1].Section = "r", "r", "s"
		p.Cues = []protocol.Cue{{Every: 60}}
		return p
	}
	require.Empty(t, good().Validate(ctx, ""))
	for _, c := range []struct {
		path  string
		spoil func(p *protocol.Protocol)
	}{
		{"/minutes/handsOn", func(p *protocol.Protocol) { p.Minutes.HandsOn = p.Minutes.Sold + 1 }},
		{"/defaultDose", func(p *protocol.Protocol) { p.DefaultDose = stroke.Dose{Kind: stroke.Inherited} }},
		{"/defaultDose/kind", func(p *protocol.Protocol) { p.DefaultDose = stroke.Dose{Kind: "often"} }},
		{"/rounds/1/id", func(p *protocol.Protocol) { p.Rounds = append(p.Rounds, protocol.Round{ID: "r", Times: 1}) }},
		{"/rounds/0/times", func(p *protocol.Protocol) { p.Rounds[0].Times = 21 }},
		{"/rounds/0/min", func(p *protocol.Protocol) { p.Rounds[0].Min = 3 }},
		{"/rounds/0/min", func(p *protocol.Protocol) { p.Rounds[0].Max = 1 }},
		{"/sections/1/id", func(p *protocol.Protocol) { p.Sections = append(p.Sections, protocol.Section{ID: "s"}) }},
		{"/sections/0/defaultDose", func(p *protocol.Protocol) { p.Sections[0].DefaultDose = &stroke.Dose{Kind: stroke.Inherited} }},
		{"/sections/0/defaultDose/planned", func(p *protocol.Protocol) { p.Sections[0].DefaultDose = &stroke.Dose{Kind: stroke.Reps} }},
		{"/cues/0/every", func(p *protocol.Protocol) { p.Cues[0].Every = 5 }},
		{"/steps/2/id", func(p *protocol.Protocol) { p.Steps[2].ID = p.Steps[1].ID }},
		{"/steps/3/stroke", func(p *protocol.Protocol) { p.Steps[3].Stroke = "moon-glide" }},
		{"/steps/3/phase", func(p *protocol.Protocol) { p.Steps[3].Phase = "afterglow" }},
		{"/steps/3/path/1/zone", func(p *protocol.Protocol) { p.Steps[3].Path = zones("temple", "moon") }},
		{"/steps/3/path/0/pressure", func(p *protocol.Protocol) { p.Steps[3].Path = []protocol.PathPoint{{Zone: "temple", Pressure: ptr(6)}} }},
		{"/steps/3/pressure", func(p *protocol.Protocol) { p.Steps[3].Pressure = ptr(-1) }},
		{"/steps/3/dose/planned", func(p *protocol.Protocol) { p.Steps[3].Dose = &stroke.Dose{Kind: stroke.Clock} }},
		{"/steps/3/section", func(p *protocol.Protocol) { p.Steps[3].Section = "t" }},
		{"/steps/3/anchor/zone", func(p *protocol.Protocol) { p.Steps[3].Anchor = &stroke.Anchor{Zone: "moon"} }},
		{"/steps/3/parts/0/seconds", func(p *protocol.Protocol) { p.Steps[3].Parts = parts(hold(-1)) }},
		{"/steps/3/last/parts/0/seconds", func(p *protocol.Protocol) { p.Steps[3].Last = &stroke.Last{Parts: parts(hold(0))} }},
		{"/steps/3/fingers/0/zone", func(p *protocol.Protocol) { p.Steps[3].Fingers = []stroke.Finger{{Part: "thumb", Zone: "moon"}} }},
		{"/steps/3/gaps/colour", func(p *protocol.Protocol) { p.Steps[3].Gaps = map[string]string{"colour": "pink"} }},
		{"/steps/3/hand", func(p *protocol.Protocol) { p.Steps[3].Hand = "elbow" }},
		{"/steps/3/tool/key", func(p *protocol.Protocol) { p.Steps[3].Tool = &stroke.ToolPart{Key: "gold-fork"} }},
		{"/steps/0/use/product", func(p *protocol.Protocol) { p.Steps[0].Use.Product = "moon-oil" }},
		{"/steps/0/use/amount/measure", func(p *protocol.Protocol) { p.Steps[0].Use.Amount = film.Amount{Value: 2, Measure: film.Presses} }},
		{"/steps/3/round", func(p *protocol.Protocol) { p.Steps[3].Round = "q" }},
		{"/steps/3/round", func(p *protocol.Protocol) { p.Steps[2].Round, p.Steps[3].Round = "", "r" }},
		{"/variants/0/rules/0/zones/0", func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Rules: []protocol.VariantRule{{Do: "lighter", Zones: []string{"moon"}}}}}
		}},
		{"/variants/0/rules/0/stroke", func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Rules: []protocol.VariantRule{{Do: "leave-out", Stroke: "moon-glide"}}}}
		}},
		{"/variants/0/rules/0/with", func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Rules: []protocol.VariantRule{{Do: "replace", Stroke: "cheek-scoop", With: "moon-glide"}}}}
		}},
		{"/variants/0/rules/0/by", func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Rules: []protocol.VariantRule{{Do: "slower"}}}}
		}},
	} {
		p := good()
		c.spoil(p)
		ps := p.Validate(ctx, "/protocol")
		if assert.Len(t, ps, 1, "%s: %+v", c.path, ps) {
			assert.Equal(t, "/protocol"+c.path, ps[0].Path)
			assert.NotEmpty(t, ps[0].Message)
		}
	}
}
