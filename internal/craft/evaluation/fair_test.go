package evaluation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// fair is one case of a check: what it says of a plan, "" where it keeps silent, and why.
type fair struct {
	why  string
	plan func(*protocol.Protocol)
	ctx  func(*protocol.Context)
	// steps of the plan; those without a phase work.
	steps []protocol.Step
	want  evaluation.Severity
	on    string
}

// judged tries the cases of one check.
func judged(t *testing.T, code evaluation.Code, cases []fair) {
	t.Helper()
	for _, c := range cases {
		t.Run(string(code)+", "+c.why, func(t *testing.T) {
			ctx := crafttest.Studio()
			if c.ctx != nil {
				c.ctx(ctx)
			}
			p := crafttest.Plan(12, c.steps...)
			p.Setting, p.Method.Drainage = "client", "none"
			if c.plan != nil {
				c.plan(p)
			}
			require.Empty(t, p.Validate(ctx, ""))
			e := evaluation.Evaluate(p, ctx)
			var said []evaluation.Finding
			for _, f := range e.Findings {
				if f.Code == code {
					said = append(said, f)
				}
			}
			if c.want == "" {
				assert.Empty(t, said)
				return
			}
			require.Len(t, said, 1, "one cause gives one finding: %v", crafttest.Codes(e))
			assert.Equal(t, c.want, said[0].Severity)
			if c.on != "" {
				zone, _ := said[0].Values.Place()
				assert.Equal(t, c.on, zone, "the worst zone is named")
			}
		})
	}
}

func at(key string, pressure int, zones ...string) protocol.Step {
	return protocol.Step{Stroke: key, Pressure: crafttest.Ptr(pressure), Sides: stroke.BothAtOnce, Path: crafttest.Zones(zones...)}
}

// Both sides of the neck at once: working strokes stop above a feather; spreading, cleansing and
// flat-handed tapping may be light (handbook, chapter 1, Ceilings).
func TestBothSidesOfTheNeck(t *testing.T) {
	flat := at("cheek-tapping", 2, "side-neck")
	flat.Hand = "flat palm"
	fingertip := at("cheek-tapping", 2, "side-neck")
	fingertip.Hand = "finger pads"
	unsaid := protocol.Step{Stroke: "shoulder-knead", Sides: stroke.BothAtOnce, Path: crafttest.Zones("side-neck"), Gaps: map[string]string{"pressure": "not said"}}
	turns := at("shoulder-knead", 2, "side-neck")
	turns.Sides = stroke.InTurns
	judged(t, evaluation.PressureNeck, []fair{
		{why: "spreading is no pressing", steps: []protocol.Step{at("spread-passes", 2, "side-neck", "jawline")}},
		{why: "spreading over the front is warned of once", steps: []protocol.Step{at("spread-passes", 2, "front-neck", "side-neck")}, want: evaluation.Warning, on: "front-neck"},
		{why: "a spreading at medium is pressing", steps: []protocol.Step{at("spread-passes", 3, "side-neck")}, want: evaluation.Stopping, on: "side-neck"},
		{why: "the flat hand taps light", steps: []protocol.Step{flat}},
		{why: "fingertips tap harder than they seem", steps: []protocol.Step{fingertip}, want: evaluation.Stopping},
		{why: "kneading works", steps: []protocol.Step{at("shoulder-knead", 2, "shoulder", "side-neck")}, want: evaluation.Stopping, on: "side-neck"},
		{why: "a feather is allowed", steps: []protocol.Step{at("shoulder-knead", 1, "side-neck")}},
		{why: "one side after the other is the way out", steps: []protocol.Step{turns}},
		{why: "what was never stated is a question", steps: []protocol.Step{unsaid}},
	})
	judged(t, evaluation.PressureAbsolute, []fair{
		{why: "one finding for the front of the neck", steps: []protocol.Step{at("shoulder-knead", 2, "front-neck")}},
		{why: "a pressure never stated stops nothing", steps: []protocol.Step{{Stroke: "shoulder-knead", Path: crafttest.Zones("front-neck"), Gaps: map[string]string{"pressure": ""}}}},
		{why: "fingers may rest a little firmer on the lids", steps: []protocol.Step{at("palms-over-eyes", 2, "upper-eyelid", "under-eye")}},
		{why: "resting is no pressing at medium", steps: []protocol.Step{at("palms-over-eyes", 3, "under-eye")}, want: evaluation.Stopping},
		{why: "a pressing finger is not resting", steps: []protocol.Step{at("temple-press", 2, "under-eye")}, want: evaluation.Stopping},
	})
	judged(t, evaluation.PressureCeiling, []fair{
		{why: "the worst zone is named, not the first", steps: []protocol.Step{at("cheek-scoop", 5, "cheekbone", "orbital-rim")}, want: evaluation.Warning, on: "orbital-rim"},
	})
}

// A client is told of lighter work where it could be taken for less care (common practice).
func TestWhenAClientIsToldOfLighterWork(t *testing.T) {
	firm, light := crafttest.Do("cheek-scoop"), crafttest.Do("eye-circles")
	compare := light
	compare.Phase = "compare"
	section := light
	section.Section = "eyes"
	unsaid := light
	unsaid.Gaps = map[string]string{"pressure": "gently"}
	judged(t, evaluation.PressureDrop, []fair{
		{why: "two levels lighter in the same work", steps: []protocol.Step{firm, light}, want: evaluation.Note},
		{why: "nobody is told on oneself", steps: []protocol.Step{firm, light}, plan: func(p *protocol.Protocol) { p.Setting = "self" }},
		{why: "nor where it is taught", steps: []protocol.Step{firm, light}, plan: func(p *protocol.Protocol) { p.Setting = "taught" }},
		{why: "a look is no work", steps: []protocol.Step{firm, compare}},
		{why: "resting hands neither", steps: []protocol.Step{firm, crafttest.Do("palms-over-eyes"), light}},
		{why: "a new section is new work", steps: []protocol.Step{firm, section}, plan: func(p *protocol.Protocol) {
			p.Sections = []protocol.Section{{ID: "eyes", Name: "Eyes"}}
		}},
		{why: "a pressure never stated drops from nothing", steps: []protocol.Step{firm, unsaid}},
	})
}

// Slip is judged by what the hands really carry (handbook, chapter 4, and common practice).
func TestSlipIsJudgedFairly(t *testing.T) {
	warm := func(drops float64) protocol.Step {
		return protocol.Step{Stroke: "warm-product", Use: crafttest.Oil(drops)}
	}
	glide := func(zones ...string) protocol.Step {
		return protocol.Step{Stroke: "cheek-drain", Path: crafttest.Zones(zones...), Sides: stroke.BothAtOnce}
	}
	use := func(s protocol.Step, product string, mL float64) protocol.Step {
		s.Use = &protocol.Use{Product: product, Amount: slip.Amount{Value: mL, Measure: slip.ML}}
		return s
	}
	unsaid := use(glide("side-neck", "chin", "mid-cheek", "forehead"), "oil", 0.1)
	unsaid.Gaps = map[string]string{"amount": "some"}
	judged(t, evaluation.GlideThin, []fair{
		{why: "what two steps took into the palms adds up", steps: []protocol.Step{warm(20), warm(40), glide("chin", "mid-cheek", "forehead")}},
		{why: "one of them alone is too little", steps: []protocol.Step{warm(2), glide("chin", "mid-cheek", "forehead", "side-neck", "chest")}, want: evaluation.Warning},
		{why: "the palms give to all they spread over, not whole to the first touch", steps: []protocol.Step{warm(60), glide("side-neck"), glide("chin", "lower-cheek"), glide("mid-cheek", "forehead")}},
		{why: "resting hands take nothing of it", steps: []protocol.Step{warm(60), crafttest.Do("palms-over-eyes"), glide("mid-cheek", "forehead")}},
		{why: "hands carry product on to the next region", steps: []protocol.Step{use(glide("mid-cheek", "chin"), "oil", 2), glide("mid-cheek", "temple")}},
		{why: "a mist is water", steps: []protocol.Step{use(glide("mid-cheek"), "mist", 1)}, want: evaluation.Warning},
		{why: "below the ear is face as well as neck", steps: []protocol.Step{use(glide("side-neck"), "oil", 2), glide("below-ear")}},
		{why: "an amount never stated is a question", steps: []protocol.Step{unsaid, glide("chin", "mid-cheek"), glide("forehead")}},
		{why: "little slip is judged by its own need", steps: []protocol.Step{use(glide("chin", "mid-cheek", "forehead"), "oil", 0.5)}, plan: func(p *protocol.Protocol) { p.Method.Slip = "little" }},
		{why: "the same is thin where full slip is the method", steps: []protocol.Step{use(glide("chin", "mid-cheek", "forehead"), "oil", 0.5)}, want: evaluation.Warning},
	})
	judged(t, evaluation.GlideUnknown, []fair{
		{why: "one question for an amount never stated", steps: []protocol.Step{unsaid, glide("chin", "mid-cheek"), glide("forehead")}, want: evaluation.Note},
		{why: "one question where no product is said at all", steps: []protocol.Step{glide("chin", "mid-cheek"), glide("forehead")}, want: evaluation.Note},
	})
	little := func(p *protocol.Protocol) { p.Method.Slip = "little" }
	band := use(glide("chin", "mid-cheek"), "oil", 0.5)
	judged(t, evaluation.GlideWet, []fair{
		{why: "between gripping and sliding both go", steps: []protocol.Step{band, {Stroke: "twin-ball-lines", Path: crafttest.Zones("chin", "mid-cheek")}}, plan: little},
		{why: "a gripping roller on a wet face", steps: []protocol.Step{use(glide("chin", "mid-cheek"), "oil", 2), {Stroke: "twin-ball-lines", Path: crafttest.Zones("chin", "mid-cheek")}}, want: evaluation.Warning},
	})
}
