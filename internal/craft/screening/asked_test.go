package screening_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/screening"
	"softpalm/internal/craft/stroke"
)

// asked reports whether a rule with one outcome is asked in a studio that gives a
// protocol.
func asked(p *protocol.Protocol, ctx *protocol.Context, o screening.Outcome) bool {
	r := screening.Rule{ID: "r", Asks: screening.YesNo, Stage: screening.Both, Outcomes: []screening.Outcome{o}}
	return r.Matters(screening.ScopeOf([]*protocol.Protocol{p}, ctx))
}

// Each of these changes a plan in one place only: a product, a zone under a single
// finger, under the anchor hand, under a part of the stroke, next to the path, at
// the end of the lymph route.
func TestWhatOneOutcomeTouchesIsAsked(t *testing.T) {
	ctx := context()
	one := 3
	p := plan(12,
		protocol.Step{Stroke: "cheek-scoop", Fingers: []stroke.Finger{{Part: "thumb", Zone: "chin", Pressure: 4}}},
		protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "crown", Pressure: 1, Then: []stroke.AnchorChange{{Zone: "occiput", Pressure: 2}}}},
		protocol.Step{Stroke: "forehead-effleurage", Parts: []stroke.Part{{Kind: stroke.Move, Seconds: 3}, {Kind: stroke.Hold, Seconds: 1, Zone: "nape", Pressure: &one}}})
	for name, o := range map[string]screening.Outcome{
		"one product":                  {Kind: screening.Exclude, Products: []string{"almond"}},
		"a zone under one finger":      {Kind: screening.LeaveOut, Zones: []string{"chin"}},
		"pressure under one finger":    {Kind: screening.Cap, Pressure: 3, Zones: []string{"chin"}},
		"the anchor hand":              {Kind: screening.LeaveOut, Zones: []string{"crown"}},
		"where the anchor hand goes":   {Kind: screening.Cap, Pressure: 1, Zones: []string{"occiput"}},
		"a part of the stroke":         {Kind: screening.Cap, Pressure: 2, Zones: []string{"nape"}},
		"beside a zone of the path":    {Kind: screening.LeaveOut, Zones: []string{"mouth-cheek"}, Neighbours: true},
		"the end of the lymph route":   {Kind: screening.LeaveOut, Zones: []string{"collarbone-hollow"}},
		"pressure with a firmer hand":  {Kind: screening.Cap, Pressure: 3, Zones: []string{"jawline"}},
		"an intent that drains":        {Kind: screening.Exclude, Intents: []string{"drain"}},
		"the studio's form of product": {Kind: screening.Exclude, Forms: []string{string(film.Oil)}},
	} {
		assert.True(t, asked(p, ctx, o), name)
	}
	for name, o := range map[string]screening.Outcome{
		"a product of another studio": {Kind: screening.Exclude, Products: []string{"rose"}},
		"a zone nobody touches":       {Kind: screening.LeaveOut, Zones: []string{"hand"}},
		"a pressure nobody reaches":   {Kind: screening.Cap, Pressure: 4, Zones: []string{"crown"}},
		"a tool nobody uses":          {Kind: screening.Exclude, Tools: []string{"cold"}},
	} {
		assert.False(t, asked(p, ctx, o), name)
	}
}

// anyOutcome draws an outcome that could be part of a rule.
func anyOutcome(t *rapid.T, name string) screening.Outcome {
	zone := func() []string {
		return []string{anatomy.Zones[rapid.IntRange(0, len(anatomy.Zones)-1).Draw(t, name+" zone")].Key}
	}
	switch rapid.IntRange(0, 9).Draw(t, name) {
	case 0:
		return screening.Outcome{Kind: screening.LeaveOut, Zones: zone()}
	case 1:
		return screening.Outcome{Kind: screening.LeaveOut, Zones: zone(), Neighbours: true}
	case 2:
		return screening.Outcome{Kind: screening.Cap, Pressure: rapid.IntRange(0, 5).Draw(t, name+" cap"), Zones: zone()}
	case 3:
		return screening.Outcome{Kind: screening.Cap, Pressure: rapid.IntRange(0, 5).Draw(t, name+" cap")}
	case 4:
		return screening.Outcome{Kind: screening.Exclude, Families: []string{string(rapid.SampledFrom(stroke.Families).Draw(t, name+" family"))}}
	case 5:
		return screening.Outcome{Kind: screening.Exclude, Tools: []string{rapid.SampledFrom(protocol.ToolKinds).Draw(t, name+" kind")}}
	case 6:
		return screening.Outcome{Kind: screening.Exclude, Intents: []string{string(rapid.SampledFrom(stroke.Intents).Draw(t, name+" intent"))}}
	case 7:
		return screening.Outcome{Kind: screening.Exclude, Products: []string{rapid.SampledFrom([]string{"oil", "almond", "rose"}).Draw(t, name+" product")}}
	case 8:
		return screening.Outcome{Kind: screening.Firmer}
	}
	return screening.Outcome{Kind: screening.Lighter}
}

// Every rule that could change a plan is asked, also where it changes it only
// because of another answer: a substitute that comes in, a firmer hand.
func TestEveryRuleThatCouldChangeAPlanIsAsked(t *testing.T) {
	ctx := context()
	var known []string
	for _, st := range stroke.Trade() {
		if len(st.Path) > 0 && (st.Tool == nil || ctx.Tools[st.Tool.Key].Name != "") {
			known = append(known, st.Key)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		var steps []protocol.Step
		for range rapid.IntRange(1, 4).Draw(t, "steps") {
			steps = append(steps, protocol.Step{Stroke: rapid.SampledFrom(known).Draw(t, "stroke")})
		}
		p := plan(12, steps...)
		other := anyOutcome(t, "other")
		if rapid.Bool().Draw(t, "take a stroke away") {
			other = screening.Outcome{Kind: screening.Exclude, Families: []string{string(ctx.Strokes[steps[0].Stroke].Family)}}
		}
		applied := func(list ...screening.Outcome) screening.Tailored {
			var out []screening.Applied
			for _, o := range list {
				ap := screening.Applied{Rule: "r", Kind: o.Kind, Outcome: o}
				for _, z := range o.Zones {
					ap.Places = append(ap.Places, screening.Place{Zone: z, Side: "both"})
				}
				if o.Neighbours {
					id, _ := anatomy.Lookup(o.Zones[0])
					for _, side := range []anatomy.Side{anatomy.Mid, anatomy.Left, anatomy.Right} {
						for _, n := range anatomy.Near(anatomy.Place{Zone: id, Side: id.On(side)}) {
							ap.Places = append(ap.Places, screening.Place{Zone: n.Zone.Zone().Key, Side: "both"})
						}
					}
				}
				out = append(out, ap)
			}
			return screening.Tailor(p, ctx, screening.Merge(out))
		}
		without := applied(other)
		if without.Refused {
			return // nothing is left to change
		}
		o := anyOutcome(t, "outcome")
		if r := rapid.SampledFrom(without.Evaluation.Steps).Draw(t, "of"); len(r.Path) > 0 && rapid.Bool().Draw(t, "about a step of the plan") {
			o = rapid.SampledFrom([]screening.Outcome{
				{Kind: screening.Exclude, Families: []string{string(r.Family)}},
				{Kind: screening.LeaveOut, Zones: []string{r.Path[0].Zone}},
				{Kind: screening.Cap, Pressure: max(r.Pressure-1, 0), Zones: []string{r.Path[0].Zone}},
			}).Draw(t, "that")
		}
		with := applied(other, o)
		if with.Refused || !assert.ObjectsAreEqual(without.Protocol, with.Protocol) {
			assert.True(t, asked(p, ctx, o), "%+v beside %+v", o, other)
		}
	})
}
