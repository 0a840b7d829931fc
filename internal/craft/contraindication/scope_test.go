package contraindication_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/craft/substance"
)

// matters reports whether a rule with one outcome is asked in a studio that gives a
// protocol.
func matters(p *protocol.Protocol, ctx *protocol.Context, o contraindication.Outcome) bool {
	r := contraindication.Rule{ID: "r", AnswerType: contraindication.YesNo, Stage: contraindication.Both, Outcomes: []contraindication.Outcome{o}}
	return r.Matters(contraindication.ScopeOf([]*protocol.Protocol{p}, ctx))
}

// Each of these changes a plan in one place only: a product, a zone under a single
// finger, under the anchor hand, under a part of the stroke, next to the path, at
// the end of the lymph route.
func TestWhatOneOutcomeTouchesIsAsked(t *testing.T) {
	ctx := crafttest.TradeStudio()
	one := 3
	p := crafttest.Treatment(12,
		protocol.Step{Stroke: "cheek-scoop", Fingers: []stroke.Finger{{Part: "thumb", Zone: "chin", Pressure: 4}}},
		protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "crown", Pressure: 1, Then: []stroke.AnchorChange{{Zone: "occiput", Pressure: 2}}}},
		protocol.Step{Stroke: "forehead-effleurage", Parts: []stroke.Part{{Kind: stroke.Move, Seconds: 3}, {Kind: stroke.Hold, Seconds: 1, Zone: "nape", Pressure: &one}}})
	for name, o := range map[string]contraindication.Outcome{
		"one product":                  {Kind: contraindication.Exclude, Products: []string{"almond"}},
		"a zone under one finger":      {Kind: contraindication.LeaveOut, Zones: []string{"chin"}},
		"pressure under one finger":    {Kind: contraindication.Cap, Pressure: 3, Zones: []string{"chin"}},
		"the anchor hand":              {Kind: contraindication.LeaveOut, Zones: []string{"crown"}},
		"where the anchor hand goes":   {Kind: contraindication.Cap, Pressure: 1, Zones: []string{"occiput"}},
		"a part of the stroke":         {Kind: contraindication.Cap, Pressure: 2, Zones: []string{"nape"}},
		"beside a zone of the path":    {Kind: contraindication.LeaveOut, Zones: []string{"mouth-cheek"}, Neighbours: true},
		"the end of the lymph route":   {Kind: contraindication.LeaveOut, Zones: []string{"collarbone-hollow"}},
		"pressure with a firmer hand":  {Kind: contraindication.Cap, Pressure: 3, Zones: []string{"jawline"}},
		"an intent that drains":        {Kind: contraindication.Exclude, Intents: []string{"drain"}},
		"the studio's form of product": {Kind: contraindication.Exclude, Forms: []string{string(slip.Oil)}},
	} {
		assert.True(t, matters(p, ctx, o), name)
	}
	for name, o := range map[string]contraindication.Outcome{
		"a product of another studio": {Kind: contraindication.Exclude, Products: []string{"rose"}},
		"a zone nobody touches":       {Kind: contraindication.LeaveOut, Zones: []string{"hand"}},
		"a pressure nobody reaches":   {Kind: contraindication.Cap, Pressure: 4, Zones: []string{"crown"}},
		"a tool nobody uses":          {Kind: contraindication.Exclude, Tools: []string{"cold"}},
	} {
		assert.False(t, matters(p, ctx, o), name)
	}
}

// A limit is asked about from one level below what is worked, or what is worked
// when the client prefers firmer pressure (up to the zone's own limit); nodes count
// where something drains through them.
func TestTheEdgesOfWhatIsAsked(t *testing.T) {
	ctx := crafttest.Studio()
	limit := func(pressure int, zones ...string) contraindication.Outcome {
		return contraindication.Outcome{Kind: contraindication.Cap, Pressure: pressure, Zones: zones}
	}
	avoid := func(zone string) contraindication.Outcome {
		return contraindication.Outcome{Kind: contraindication.LeaveOut, Zones: []string{zone}}
	}
	still := stroke.Stroke{Key: "rest", Manner: stroke.Manner{Name: "Rest", Family: stroke.StaticHold, Intent: stroke.Settle, Hand: "finger pads"}, Relation: stroke.Still, Sides: stroke.BothAtOnce,
		Path: []string{"cheekbone"}, Pressure: 2, Dose: stroke.Dose{Kind: stroke.Clock, Planned: 10}}
	only := &protocol.Context{Strokes: map[string]*stroke.Stroke{"rest": &still}, Products: ctx.Products, Tools: ctx.Tools}
	p := &protocol.Protocol{Steps: []protocol.Step{{ID: "a", Stroke: "rest"}}}
	assert.True(t, matters(p, only, limit(1, "cheekbone")))
	assert.True(t, matters(p, only, limit(2, "cheekbone")), "3 when the client prefers it firmer")
	assert.False(t, matters(p, only, limit(3, "cheekbone")))
	still.Pressure = 4
	assert.False(t, matters(p, only, limit(4, "cheekbone")), "the cheekbone takes 4 and no more")
	still.Pressure = 0
	assert.False(t, matters(p, only, limit(0, "cheekbone")), "a resting hand is not made firmer")
	assert.False(t, matters(p, only, avoid("collarbone-hollow")), "nothing drains")
	assert.True(t, matters(p, only, contraindication.Outcome{Kind: contraindication.Precaution, Zones: []string{"cheekbone"}}))
	assert.False(t, matters(p, only, contraindication.Outcome{Kind: contraindication.Precaution, Zones: []string{"chin"}}))
	still.Intent, still.Path = stroke.Drain, []string{"mid-cheek", "front-of-ear"}
	for _, node := range []string{"front-of-ear", "side-neck", "collarbone-hollow"} {
		assert.True(t, matters(p, only, avoid(node)), node)
	}
	assert.False(t, matters(p, only, avoid("under-chin")), "it drains elsewhere")
	gone := &protocol.Protocol{Steps: []protocol.Step{{ID: "a", Stroke: "no-such"}}}
	assert.False(t, matters(gone, only, avoid("cheekbone")))
}

// merged makes constraints of outcomes as a check gives them.
func merged(outcomes ...contraindication.Contraindication) *contraindication.Constraints {
	for i := range outcomes {
		outcomes[i].Kind = outcomes[i].Outcome.Kind
	}
	return contraindication.Merge(outcomes)
}

// The strictest limit counts, the first rule gives the reason, and what is avoided
// is avoided on the marked side only (common practice).
func TestConstraintsAreMerged(t *testing.T) {
	left := func(zone string) []contraindication.ZoneSide {
		return []contraindication.ZoneSide{{Zone: zone, Side: "left"}}
	}
	c := merged(
		contraindication.Contraindication{Rule: "high", Title: "High", Outcome: contraindication.Outcome{Kind: contraindication.Cap, Pressure: 3}},
		contraindication.Contraindication{Rule: "low", Outcome: contraindication.Outcome{Kind: contraindication.Cap, Pressure: 1}, Places: left("chin")},
		contraindication.Contraindication{Rule: "sore", Outcome: contraindication.Outcome{Kind: contraindication.LeaveOut}, Places: left("cheekbone")},
		contraindication.Contraindication{Rule: "later", Outcome: contraindication.Outcome{Kind: contraindication.LeaveOut}, Places: []contraindication.ZoneSide{{Zone: "cheekbone", Side: "left"}, {Zone: "brow", Side: "right"}}},
		contraindication.Contraindication{Rule: "light", Outcome: contraindication.Outcome{Kind: contraindication.Lighter}},
		contraindication.Contraindication{Rule: "firm", Outcome: contraindication.Outcome{Kind: contraindication.Firmer}},
	)
	limit := func(zone string, wanted int) [2]any {
		n, rule := c.Limit(crafttest.MustZone(t, zone), wanted)
		return [2]any{n, rule}
	}
	assert.Equal(t, [2]any{3, "high"}, limit("brow", 5), "lighter gives 4, the limit 3")
	assert.Equal(t, [2]any{2, "light"}, limit("brow", 3))
	assert.Equal(t, [2]any{1, "light"}, limit("brow", 2))
	assert.Equal(t, [2]any{1, ""}, limit("brow", 1), "feather-light stays feather-light")
	assert.Equal(t, [2]any{1, "low"}, limit("chin", 4))
	assert.Equal(t, "firm", c.FirmerRule())
	brow, cheekbone := crafttest.MustZone(t, "brow"), crafttest.MustZone(t, "cheekbone")
	assert.Equal(t, []anatomy.ZoneSide{{Zone: brow, Side: anatomy.Right}, {Zone: cheekbone, Side: anatomy.Left}}, c.Excluded())
	assert.Equal(t, "sore", c.RuleAt(anatomy.Left, cheekbone), "the first rule gives the reason")
	assert.Empty(t, c.RuleAt(anatomy.Right, cheekbone))
	o, ok := c.Explained("high")
	assert.True(t, ok && o.Title == "High")
	_, ok = c.Explained("none")
	assert.False(t, ok)
	c.OnShelf(map[string]float64{"oil": 3})
	assert.True(t, c.Lasts("oil", 3))
	assert.False(t, c.Lasts("oil", 3.5))
	assert.False(t, c.Lasts("balm", 0.1))
	assert.True(t, merged().Lasts("balm", 100), "as far as it is not known")
}

// A product is kept away by its name, its form, its tags in any spelling, and by
// what an allergy finds in it; the first rule gives the reason.
func TestProductsKeptAway(t *testing.T) {
	oil := &slip.Product{Key: "almond", Name: "Almond oil", Form: slip.Oil, Tags: []string{"Nut oil"}, Ingredients: []string{"Prunus Amygdalus Dulcis Oil"}}
	rule := func(o contraindication.Outcome) string {
		o.Kind = contraindication.Exclude
		return merged(contraindication.Contraindication{Rule: "r", Outcome: o}).ProductRule(oil)
	}
	assert.Equal(t, "r", rule(contraindication.Outcome{Products: []string{"almond"}}))
	assert.Equal(t, "r", rule(contraindication.Outcome{Forms: []string{string(slip.Oil)}}))
	assert.Equal(t, "r", rule(contraindication.Outcome{Tags: []string{"nuts"}}))
	assert.Equal(t, "r", rule(contraindication.Outcome{Allergy: &substance.Allergy{Kind: "ingredient", Key: "Prunus Amygdalus Dulcis Oil", Name: "Sweet almond oil"}}))
	assert.Empty(t, rule(contraindication.Outcome{Products: []string{"jojoba"}, Forms: []string{string(slip.Balm)}, Tags: []string{"fragrance"}}))
	assert.Empty(t, merged().ProductRule(nil))
	c := merged(
		contraindication.Contraindication{Rule: "first", Outcome: contraindication.Outcome{Kind: contraindication.Exclude, Tags: []string{"nut-oil"}}},
		contraindication.Contraindication{Rule: "second", Outcome: contraindication.Outcome{Kind: contraindication.Exclude, Tags: []string{"nut-oil"}}})
	c.ExcludeProduct("", "nut-oil", "", "third")
	assert.Equal(t, "first", c.ProductRule(oil))
	c.ExcludeProduct("almond", "", "jojoba", "fourth")
	c.ExcludeProduct("almond", "", "balm", "fifth")
	assert.Equal(t, "fourth", c.ProductRule(oil))
	assert.Equal(t, "jojoba", c.Preferred("almond"))
}
