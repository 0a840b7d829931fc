package adjusting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// asked reports whether a rule with one outcome is asked in a studio that gives a
// protocol.
func asked(p *protocol.Protocol, ctx *protocol.Context, o contraindication.Outcome) bool {
	r := contraindication.Rule{ID: "r", AnswerType: contraindication.YesNo, Stage: contraindication.Both, Outcomes: []contraindication.Outcome{o}}
	return r.Matters(contraindication.ScopeOf([]*protocol.Protocol{p}, ctx))
}

// anyOutcome draws an outcome that could be part of a rule.
func anyOutcome(t *rapid.T, name string) contraindication.Outcome {
	zone := func() []string {
		return []string{anatomy.Zones[rapid.IntRange(0, len(anatomy.Zones)-1).Draw(t, name+" zone")].Key}
	}
	switch rapid.IntRange(0, 9).Draw(t, name) {
	case 0:
		return contraindication.Outcome{Kind: contraindication.LeaveOut, Zones: zone()}
	case 1:
		return contraindication.Outcome{Kind: contraindication.LeaveOut, Zones: zone(), Neighbours: true}
	case 2:
		return contraindication.Outcome{Kind: contraindication.Cap, Pressure: rapid.IntRange(0, 5).Draw(t, name+" cap"), Zones: zone()}
	case 3:
		return contraindication.Outcome{Kind: contraindication.Cap, Pressure: rapid.IntRange(0, 5).Draw(t, name+" cap")}
	case 4:
		return contraindication.Outcome{Kind: contraindication.Exclude, Families: []string{string(rapid.SampledFrom(stroke.Families).Draw(t, name+" family"))}}
	case 5:
		return contraindication.Outcome{Kind: contraindication.Exclude, Tools: []string{rapid.SampledFrom(protocol.ToolKinds).Draw(t, name+" kind")}}
	case 6:
		return contraindication.Outcome{Kind: contraindication.Exclude, Intents: []string{string(rapid.SampledFrom(stroke.Intents).Draw(t, name+" intent"))}}
	case 7:
		return contraindication.Outcome{Kind: contraindication.Exclude, Products: []string{rapid.SampledFrom([]string{"oil", "almond", "rose"}).Draw(t, name+" product")}}
	case 8:
		return contraindication.Outcome{Kind: contraindication.Firmer}
	}
	return contraindication.Outcome{Kind: contraindication.Lighter}
}

// Every rule that could change a plan is asked, also where it changes it only
// because of another answer: a substitute that comes in, a firmer hand.
func TestEveryRuleThatCouldChangeAPlanIsAsked(t *testing.T) {
	ctx := crafttest.TradeStudio()
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
		p := crafttest.Treatment(12, steps...)
		other := anyOutcome(t, "other")
		if rapid.Bool().Draw(t, "take a stroke away") {
			other = contraindication.Outcome{Kind: contraindication.Exclude, Families: []string{string(ctx.Strokes[steps[0].Stroke].Family)}}
		}
		applied := func(list ...contraindication.Outcome) adjusting.AdjustedPlan {
			var out []contraindication.Contraindication
			for _, o := range list {
				ap := contraindication.Contraindication{Rule: "r", Kind: o.Kind, Outcome: o}
				for _, z := range o.Zones {
					ap.Places = append(ap.Places, contraindication.ZoneSide{Zone: z, Side: "both"})
				}
				if o.Neighbours {
					id, _ := anatomy.Lookup(o.Zones[0])
					for _, side := range []anatomy.Side{anatomy.Mid, anatomy.Left, anatomy.Right} {
						for _, n := range anatomy.Near(anatomy.ZoneSide{Zone: id, Side: id.On(side)}) {
							ap.Places = append(ap.Places, contraindication.ZoneSide{Zone: n.Zone.Zone().Key, Side: "both"})
						}
					}
				}
				out = append(out, ap)
			}
			return adjusting.Adjust(p, ctx, contraindication.Merge(out))
		}
		without := applied(other)
		if without.Refused {
			return // nothing is left to change
		}
		o := anyOutcome(t, "outcome")
		if r := rapid.SampledFrom(without.Evaluation.Steps).Draw(t, "of"); len(r.Path) > 0 && rapid.Bool().Draw(t, "about a step of the plan") {
			o = rapid.SampledFrom([]contraindication.Outcome{
				{Kind: contraindication.Exclude, Families: []string{string(r.Family)}},
				{Kind: contraindication.LeaveOut, Zones: []string{r.Path[0].Zone}},
				{Kind: contraindication.Cap, Pressure: max(r.Pressure-1, 0), Zones: []string{r.Path[0].Zone}},
			}).Draw(t, "that")
		}
		with := applied(other, o)
		if with.Refused || !assert.ObjectsAreEqual(without.Protocol, with.Protocol) {
			assert.True(t, asked(p, ctx, o), "%+v beside %+v", o, other)
		}
	})
}

// Asking only what matters never drops a rule that would have changed a plan: for
// any answers, leaving the rules out that are not asked gives the same adjusted
// plan of every protocol in the scope.
func TestWhatIsNotAskedChangesNothing(t *testing.T) {
	ctx := crafttest.TradeStudio()
	pack := contraindication.Trade()
	p := crafttest.Treatment(14, protocol.Step{Stroke: "cheek-drain"}, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "jaw-scissor"}, protocol.Step{Stroke: "stone-jaw"})
	asked := crafttest.RulesOf(pack.AskedIn(contraindication.ScopeOf([]*protocol.Protocol{p}, ctx)))
	left := 0
	for _, r := range pack.Rules {
		if asked[r.ID] || r.AnswerType == contraindication.Nothing {
			continue
		}
		left++
		answers := map[string]contraindication.Answer{r.ID: crafttest.Yes(crafttest.Today.Plus(-1), contraindication.ZoneSide{Zone: "cheekbone", Side: "left"})}
		res := pack.Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today)
		assert.True(t, res.Headline.Treatable(), r.ID)
		got := adjusting.Adjust(p, ctx, contraindication.Merge(res.Outcomes))
		assert.Empty(t, got.Adjustments, r.ID)
	}
	assert.Positive(t, left, "something is not asked")
}
