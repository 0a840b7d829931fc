package protocol_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// What a plan names and nobody knows is refused with its place, wherever it stands.
func TestWhatAPlanNamesIsThere(t *testing.T) {
	step := func(change func(*protocol.Step)) func(*protocol.Protocol) {
		return func(p *protocol.Protocol) { change(&p.Steps[0]) }
	}
	for path, change := range map[string]func(*protocol.Protocol){
		"/steps/0/stroke":                step(func(s *protocol.Step) { s.Stroke = "gone" }),
		"/steps/0/tool/key":              step(func(s *protocol.Step) { s.Tool = &stroke.ToolPart{Key: "gone"} }),
		"/steps/0/tool/part":             step(func(s *protocol.Step) { s.Tool = &stroke.ToolPart{Key: "stone-plate", Part: "gone"} }),
		"/steps/0/mirrorOf":              step(func(s *protocol.Step) { s.MirrorOf = "gone" }),
		"/steps/0/alternateOf":           step(func(s *protocol.Step) { s.AlternateOf = "gone" }),
		"/steps/0/fingers/0/part":        step(func(s *protocol.Step) { s.Fingers = []stroke.Finger{{Part: "gone"}} }),
		"/steps/0/alternates/0/stroke":   step(func(s *protocol.Step) { s.Alternates = []stroke.Alternate{{Stroke: "gone"}} }),
		"/steps/0/alternates/0/tool/key": step(func(s *protocol.Step) { s.Alternates = []stroke.Alternate{{Tool: &stroke.ToolPart{Key: "gone"}}} }),
		"/steps/0/use/choices/0": step(func(s *protocol.Step) {
			s.Use = crafttest.Oil(20)
			s.Use.Choices = []string{"gone"}
		}),
		"/steps/0/use/for/0": step(func(s *protocol.Step) {
			s.Use = crafttest.Oil(20)
			s.Use.For = []string{"gone"}
		}),
		"/steps/0/clears/0":        step(func(s *protocol.Step) { s.Clears = []string{"gone"} }),
		"/steps/0/actsOn/0":        step(func(s *protocol.Step) { s.ActsOn = []string{"gone"} }),
		"/steps/0/path/0/landmark": step(func(s *protocol.Step) { s.Path = []protocol.PathPoint{{Zone: "chin", Landmark: "gone"}} }),
		"/steps/0/gaps/gone":       step(func(s *protocol.Step) { s.Gaps = map[string]string{"gone": ""} }),
		"/sections/0/tools/0": func(p *protocol.Protocol) {
			p.Sections = []protocol.Section{{ID: "a", Name: "A", Tools: []string{"gone"}}}
		},
		"/aftercare/0/product": func(p *protocol.Protocol) { p.Aftercare = []protocol.Aftercare{{Advice: "A", Product: "gone"}} },
		"/concerns/0":          func(p *protocol.Protocol) { p.Concerns = []string{"gone"} },
		"/skinTypes/0":         func(p *protocol.Protocol) { p.SkinTypes = []string{"gone"} },
		"/variants/0/rules/0/stroke": func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Key: "v", Name: "V", Rules: []protocol.VariantRule{{Do: "leave-out", Stroke: "gone"}}}}
		},
		"/variants/0/rules/0/product": func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Key: "v", Name: "V", Rules: []protocol.VariantRule{{Do: "swap-product", Product: "gone"}}}}
		},
		"/variants/0/for/0": func(p *protocol.Protocol) {
			p.Variants = []protocol.Variant{{Key: "v", Name: "V", For: []string{"gone"}, Rules: []protocol.VariantRule{{Do: "cap", By: 2}}}}
		},
	} {
		ctx := crafttest.Studio()
		stone := ctx.Tools["stone-plate"]
		stone.Parts = []string{"long curve"}
		ctx.Tools["stone-plate"] = stone
		p := crafttest.Plan(12, crafttest.Do("temple-press"))
		assert.Empty(t, p.Validate(ctx, ""))
		change(p)
		var paths []string
		for _, f := range p.Validate(ctx, "") {
			paths = append(paths, f.Path)
		}
		assert.Equal(t, []string{path}, paths)
		if path != "/steps/0/stroke" && path != "/steps/0/tool/key" {
			continue
		}
		assert.Empty(t, p.ValidateStructure(ctx, ""), "a draft stays open")
	}
}

// A stroke that is given another key is named so everywhere, and the plan it was in stays as it was.
func TestAStrokeIsRenamedEverywhere(t *testing.T) {
	p := crafttest.Plan(12, protocol.Step{Stroke: "old", Alternates: []stroke.Alternate{{Stroke: "old"}, {Stroke: "other"}}})
	p.Variants = []protocol.Variant{{Rules: []protocol.VariantRule{{Do: "replace", Stroke: "old", With: "old"}, {Do: "swap-product", Product: "old", With: "old"}}}}
	q := p.Renamed(map[string]string{"old": "new"})
	assert.Equal(t, "new", q.Steps[0].Stroke)
	assert.Equal(t, []stroke.Alternate{{Stroke: "new"}, {Stroke: "other"}}, q.Steps[0].Alternates)
	assert.Equal(t, []protocol.VariantRule{{Do: "replace", Stroke: "new", With: "new"}, {Do: "swap-product", Product: "old", With: "old"}}, q.Variants[0].Rules, "a product of the same key is no stroke")
	assert.Equal(t, "old", p.Steps[0].Stroke)
	assert.Equal(t, "old", p.Steps[0].Alternates[0].Stroke)
	assert.Equal(t, "old", p.Variants[0].Rules[0].Stroke)
}
