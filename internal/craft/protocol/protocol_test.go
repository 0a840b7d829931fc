package protocol_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// A grade per method: common practice.
func TestExpectedRedness(t *testing.T) {
	for method, want := range map[string]int{"avoided": 0, "": 1, "expected": 2} {
		assert.Equal(t, want, protocol.Method{Redness: method}.ExpectedRedness(), method)
	}
}

// A protocol with one thing wrong is told by place, as a JSON pointer into the
// protocol file's own names, and nothing else is complained of.
func TestEveryFaultOfAProtocol(t *testing.T) {
	ctx := crafttest.Studio()
	good := func() *protocol.Protocol {
		p := crafttest.Plan(10, crafttest.Oiled(crafttest.Do("spread-passes")), crafttest.Do("cheek-scoop"), crafttest.Do("jaw-sweep"), crafttest.Do("temple-press"))
		p.Method.Drainage = "none"
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
		{"/minutes/handsOn", func(p *protocol.Protocol) { p.Minutes.HandsOn = p.Minutes.Treatment + 1 }},
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
		{"/steps/3/path/1/zone", func(p *protocol.Protocol) { p.Steps[3].Path = crafttest.Zones("temple", "moon") }},
		{"/steps/3/path/0/pressure", func(p *protocol.Protocol) {
			p.Steps[3].Path = []protocol.PathPoint{{Zone: "temple", Pressure: crafttest.Ptr(6)}}
		}},
		{"/steps/3/pressure", func(p *protocol.Protocol) { p.Steps[3].Pressure = crafttest.Ptr(-1) }},
		{"/steps/3/dose/planned", func(p *protocol.Protocol) { p.Steps[3].Dose = &stroke.Dose{Kind: stroke.Clock} }},
		{"/steps/3/section", func(p *protocol.Protocol) { p.Steps[3].Section = "t" }},
		{"/steps/3/anchor/zone", func(p *protocol.Protocol) { p.Steps[3].Anchor = &stroke.Anchor{Zone: "moon"} }},
		{"/steps/3/parts/0/seconds", func(p *protocol.Protocol) { p.Steps[3].Parts = crafttest.Parts(crafttest.Hold(-1)) }},
		{"/steps/3/last/parts/0/seconds", func(p *protocol.Protocol) { p.Steps[3].Last = &stroke.Last{Parts: crafttest.Parts(crafttest.Hold(0))} }},
		{"/steps/3/fingers/0/zone", func(p *protocol.Protocol) { p.Steps[3].Fingers = []stroke.Finger{{Part: "thumb", Zone: "moon"}} }},
		{"/steps/3/gaps/colour", func(p *protocol.Protocol) { p.Steps[3].Gaps = map[string]string{"colour": "pink"} }},
		{"/steps/3/hand", func(p *protocol.Protocol) { p.Steps[3].Hand = "elbow" }},
		{"/steps/3/tool/key", func(p *protocol.Protocol) { p.Steps[3].Tool = &stroke.ToolPart{Key: "gold-fork"} }},
		{"/steps/0/use/product", func(p *protocol.Protocol) { p.Steps[0].Use.Product = "moon-oil" }},
		{"/steps/0/use/amount/measure", func(p *protocol.Protocol) { p.Steps[0].Use.Amount = slip.Amount{Value: 2, Measure: slip.Pumps} }},
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

func TestValidateNamesThePlace(t *testing.T) {
	p := crafttest.Plan(10, crafttest.Do("pumps"), crafttest.Do("nothing-such"), protocol.Step{Stroke: "lift", Path: crafttest.Zones("elbow")}, protocol.Step{Stroke: "lift", Use: &protocol.Use{Product: "serum", Amount: slip.Amount{Value: 3, Measure: slip.Drops}}},
		protocol.Step{Stroke: "neck-open", Round: "r"}, crafttest.Do("pumps"), protocol.Step{Stroke: "neck-open", Round: "r"})
	p.Rounds = []protocol.Round{{ID: "r", Times: 2}}
	p.Steps[5].ID = p.Steps[0].ID
	p.Minutes.Treatment = 5
	var paths []string
	for _, pr := range p.Validate(crafttest.SmallStudio(), "/protocol") {
		paths = append(paths, pr.Path)
	}
	assert.Equal(t, []string{"/protocol/minutes/handsOn", "/protocol/steps/1/stroke", "/protocol/steps/2/path/0/zone", "/protocol/steps/3/use/amount/measure", "/protocol/steps/5/id", "/protocol/steps/6/round"}, paths)
}
