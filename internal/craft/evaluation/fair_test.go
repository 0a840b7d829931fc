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

// A plan that drains, in order: opened, worked, carried home.
func drained(work ...protocol.Step) []protocol.Step {
	open := []protocol.Step{crafttest.Do("collarbone-pumps"), crafttest.Do("neck-side-open"), crafttest.Do("ear-fork"), crafttest.Do("under-jaw-circles")}
	return append(open, work...)
}

func opensAndCloses(p *protocol.Protocol) { p.Method.Drainage, p.Method.Slip = "", "dry" }

func way(key string, zones ...string) protocol.Step {
	return protocol.Step{Stroke: key, Path: crafttest.Zones(zones...)}
}

// Lymph is home at the terminus, the armpit, the collarbone and the nodes below it, also where the sweep
// runs on (handbook, chapter 1, rule of thumb 3).
func TestTheWayHome(t *testing.T) {
	unsaid := way("cheek-drain", "mid-cheek", "front-of-ear")
	unsaid.Gaps = map[string]string{"path": "towards the ear"}
	home := func(zones ...string) []protocol.Step {
		return drained(way("cheek-drain", "mid-cheek", "front-of-ear"), way("neck-drain", append([]string{"front-of-ear", "side-neck"}, zones...)...))
	}
	judged(t, evaluation.DrainLeft, []fair{
		{why: "left in front of the ear", steps: drained(way("cheek-drain", "mid-cheek", "front-of-ear")), plan: opensAndCloses, want: evaluation.Warning, on: "front-of-ear"},
		{why: "carried to the terminus", steps: home("collarbone-hollow"), plan: opensAndCloses},
		{why: "through the terminus and on to the chest", steps: home("collarbone-hollow", "chest"), plan: opensAndCloses},
		{why: "an end at the collarbone has arrived", steps: home("collarbone"), plan: opensAndCloses},
		{why: "the nodes below the collarbone count", steps: home("collarbone", "below-collarbone"), plan: opensAndCloses},
		{why: "an end never stated is a question", steps: drained(unsaid), plan: opensAndCloses},
		{why: "an excerpt goes on elsewhere", steps: drained(way("cheek-drain", "mid-cheek", "front-of-ear")), plan: func(p *protocol.Protocol) { opensAndCloses(p); p.Excerpt = true }},
		{why: "sittings are not one flow", steps: drained(way("cheek-drain", "mid-cheek", "front-of-ear")), plan: func(p *protocol.Protocol) { opensAndCloses(p); p.Sittings = true }},
	})
	judged(t, evaluation.DrainClosed, []fair{
		{why: "what was brought through the terminus needs no other node", steps: home("collarbone-hollow", "chest"), plan: opensAndCloses},
	})
	judged(t, evaluation.DrainAway, []fair{
		{why: "on to the chest is not back", steps: home("collarbone-hollow", "chest"), plan: opensAndCloses},
		{why: "from the ear to the cheek is", steps: drained(way("cheek-drain", "front-of-ear", "mid-cheek")), plan: opensAndCloses, want: evaluation.Warning},
	})
	judged(t, evaluation.NeckUp, []fair{
		{why: "under the chin to under the jaw drains, though it rises", steps: []protocol.Step{way("neck-drain", "under-chin", "under-jaw")}},
		{why: "up the side of the neck does not", steps: []protocol.Step{way("neck-drain", "collarbone", "side-neck")}, want: evaluation.Warning},
	})
	judged(t, evaluation.LiftDown, []fair{
		{why: "a ring round the eye may pass the forehead", steps: []protocol.Step{way("cheek-scoop", "brow", "forehead", "outer-eye-corner", "orbital-rim")}},
		{why: "from the forehead to the cheek is down", steps: []protocol.Step{way("cheek-scoop", "forehead", "mid-cheek")}, want: evaluation.Warning},
	})
}

// Any zone of the concern's group keeps the promise, under whatever of the hands (common practice).
func TestPromisedZones(t *testing.T) {
	eyes := func(p *protocol.Protocol) { p.Concerns = []string{"puffiness"} }
	finger := crafttest.Do("jaw-drain")
	finger.Fingers = []stroke.Finger{{Part: "index", Zone: "mid-cheek", Pressure: 1}}
	held := crafttest.Do("temple-press")
	held.Anchor = &stroke.Anchor{Zone: "orbital-rim", Pressure: 1, Role: "rests"}
	unsaid := crafttest.Do("temple-press")
	unsaid.Gaps = map[string]string{"path": "there"}
	judged(t, evaluation.Promise, []fair{
		{why: "nothing of the group is worked", steps: []protocol.Step{crafttest.Do("temple-press")}, plan: eyes, want: evaluation.Warning},
		{why: "one of the group suffices", steps: []protocol.Step{crafttest.Do("cheek-drain")}, plan: eyes},
		{why: "a finger that runs there counts", steps: []protocol.Step{finger}, plan: eyes},
		{why: "the other hand counts", steps: []protocol.Step{held}, plan: eyes},
		{why: "a place never stated may be the one", steps: []protocol.Step{unsaid}, plan: eyes},
		{why: "an excerpt promises for the whole", steps: []protocol.Step{crafttest.Do("temple-press")}, plan: func(p *protocol.Protocol) { eyes(p); p.Excerpt = true }},
	})
}

// Sides are compared by what was stated; one departure quiets its own step (common practice).
func TestSidesAndMirrors(t *testing.T) {
	left := protocol.Step{ID: "a", Stroke: "temple-press", Sides: stroke.LeftOnly, Dose: crafttest.Ptr(crafttest.Clock(60))}
	right := protocol.Step{ID: "b", Stroke: "temple-press", Sides: stroke.RightOnly, MirrorOf: "a", Dose: crafttest.Ptr(crafttest.Clock(60))}
	with := func(s protocol.Step, change func(*protocol.Step)) protocol.Step { change(&s); return s }
	longer := with(right, func(s *protocol.Step) { s.Dose = crafttest.Ptr(crafttest.Clock(90)) })
	judged(t, evaluation.MirrorOther, []fair{
		{why: "the same on both sides", steps: []protocol.Step{left, right}},
		{why: "longer on the second", steps: []protocol.Step{left, longer}, want: evaluation.Note},
		{why: "a dose never stated is not compared", steps: []protocol.Step{left, with(longer, func(s *protocol.Step) { s.Gaps = map[string]string{"dose": "the same"} })}},
		{why: "other words are no difference", steps: []protocol.Step{left, with(right, func(s *protocol.Step) { s.Note, s.Client = "as before", "Breathe out." })}},
		{why: "the other hand held elsewhere is one", steps: []protocol.Step{left, with(right, func(s *protocol.Step) { s.Anchor = &stroke.Anchor{Zone: "forehead", Role: "supports"} })}, want: evaluation.Note},
	})
	alone := protocol.Step{ID: "c", Stroke: "cheek-scoop", Sides: stroke.LeftOnly, Dose: crafttest.Ptr(crafttest.Clock(60))}
	judged(t, evaluation.SidesUnequal, []fair{
		{why: "one side alone", steps: []protocol.Step{alone}, want: evaluation.Warning},
		{why: "a departure quiets its own step", steps: []protocol.Step{with(alone, func(s *protocol.Step) { s.Departure = "the stiff side" })}},
		{why: "and not the others", steps: []protocol.Step{with(alone, func(s *protocol.Step) { s.Departure = "the stiff side" }), with(alone, func(s *protocol.Step) { s.ID = "d" })}, want: evaluation.Warning},
		{why: "with a departure its mirror is not held against it", steps: []protocol.Step{left, with(longer, func(s *protocol.Step) { s.Departure = "the stiff side" })}},
		{why: "a side never stated is a question", steps: []protocol.Step{with(alone, func(s *protocol.Step) { s.Gaps = map[string]string{"sides": "one side"} })}},
	})
}

// Checks that speak only where there is a reason to (handbook, chapters 1, 3 and 6; common practice).
func TestFindingsThatNeedTheirReason(t *testing.T) {
	wash := crafttest.Do("wash-hands")
	event := func(p *protocol.Protocol) { p.Concerns = []string{"event-tomorrow"} }
	judged(t, evaluation.HairToEyes, []fair{
		{why: "from the scalp to the eyes", steps: []protocol.Step{crafttest.Do("scalp-circles"), crafttest.Do("eye-circles")}, want: evaluation.Warning},
		{why: "from the opening of the ear, too", steps: []protocol.Step{way("temple-press", "ear-opening"), crafttest.Do("eye-circles")}, want: evaluation.Warning},
		{why: "on oneself as well", steps: []protocol.Step{crafttest.Do("scalp-circles"), crafttest.Do("eye-circles")}, plan: func(p *protocol.Protocol) { p.Setting = "self" }, want: evaluation.Warning},
		{why: "once until the hands are washed", steps: []protocol.Step{crafttest.Do("scalp-circles"), crafttest.Do("eye-circles"), crafttest.Do("eye-rim-drain")}, want: evaluation.Warning},
		{why: "washed in between", steps: []protocol.Step{crafttest.Do("scalp-circles"), wash, crafttest.Do("eye-circles")}},
		{why: "palms that cover the eyes do not touch them", steps: []protocol.Step{crafttest.Do("scalp-circles"), crafttest.Do("palms-over-eyes")}},
		{why: "the back of the head is no hair to speak of", steps: []protocol.Step{crafttest.Do("nape-glide"), crafttest.Do("eye-circles")}},
		{why: "the brow is not the eye", steps: []protocol.Step{crafttest.Do("scalp-circles"), way("temple-press", "brow")}},
	})
	judged(t, evaluation.EventRough, []fair{
		{why: "friction", steps: []protocol.Step{crafttest.Do("circular-friction")}, plan: event, want: evaluation.Warning},
		{why: "deep work", steps: []protocol.Step{at("temple-knuckles", 4, "temple")}, plan: event, want: evaluation.Warning},
		{why: "light work", steps: []protocol.Step{at("temple-press", 2, "temple")}, plan: event},
		{why: "no event", steps: []protocol.Step{crafttest.Do("circular-friction")}},
	})
	sets := func(steps ...protocol.Step) []protocol.Step { return drained(steps...) }
	afterSet := func(p *protocol.Protocol) { opensAndCloses(p); p.Method.Clearing = "after-set" }
	cheek, brow, home := way("cheek-scoop", "mid-cheek", "cheekbone"), way("cheek-scoop", "brow", "forehead"), way("neck-drain", "below-ear", "side-neck", "collarbone-hollow")
	judged(t, evaluation.NotCleared, []fair{
		{why: "a set of lifts without its run home", steps: sets(cheek, brow, home), plan: afterSet, want: evaluation.Warning},
		{why: "run home in between", steps: sets(cheek, home, brow, home), plan: afterSet},
		{why: "a school that clears at the end", steps: sets(cheek, brow, home), plan: opensAndCloses},
	})
	closes := func(sweep string) func(*protocol.Protocol) {
		return func(p *protocol.Protocol) { opensAndCloses(p); p.Method.Closing = sweep }
	}
	sweep := way("neck-drain", "chin", "jawline", "below-ear", "side-neck", "collarbone-hollow")
	sweep.Phase = "close"
	pieces := func(zones ...string) protocol.Step {
		s := way("neck-drain", zones...)
		s.Phase = "close"
		return s
	}
	judged(t, evaluation.ClosingOther, []fair{
		{why: "no sweep from the chin", steps: drained(home), plan: closes("chin-sweep"), want: evaluation.Note},
		{why: "with its sweep", steps: drained(sweep), plan: closes("chin-sweep")},
		{why: "a sweep in two strokes", steps: drained(pieces("chin", "jawline", "ear-lobe"), pieces("ear-lobe", "side-neck", "collarbone-hollow")), plan: closes("chin-sweep")},
		{why: "two strokes that do not meet", steps: drained(pieces("chin", "jawline"), pieces("ear-lobe", "side-neck", "collarbone-hollow")), plan: closes("chin-sweep"), want: evaluation.Note},
		{why: "the chin is not the forehead", steps: drained(sweep), plan: closes("forehead-sweep"), want: evaluation.Note},
		{why: "a school that asks for none", steps: drained(home), plan: opensAndCloses},
	})
	oiled := crafttest.Oiled(crafttest.Do("spread-passes"))
	cleansed := crafttest.Do("cleansing-circles")
	usual := []protocol.Step{{Stroke: "breathe-together", Phase: "settle"}, {Stroke: "look-over", Phase: "look-over"}, {Stroke: "sit-up", Phase: "wake"}}
	judged(t, evaluation.PhaseMissing, []fair{
		{why: "product on skin that was not cleansed", steps: append(usual, oiled), want: evaluation.Note},
		{why: "cleansed first", steps: append(usual, cleansed, oiled)},
		{why: "the plan begins on clean skin", steps: append(usual, oiled), plan: func(p *protocol.Protocol) { p.Preconditions = []string{protocol.CleanSkin} }},
		{why: "nothing is massaged in", steps: append(usual, crafttest.Do("temple-press"))},
		{why: "nobody is asked at home", steps: []protocol.Step{oiled}, plan: func(p *protocol.Protocol) { p.Setting = "self" }},
		{why: "an excerpt has its phases elsewhere", steps: []protocol.Step{oiled}, plan: func(p *protocol.Protocol) { p.Excerpt = true }},
	})
	drain := []protocol.Step{crafttest.Do("still-neck-home")}
	judged(t, evaluation.NoTissues, []fair{
		{why: "a list without tissues", steps: drain, plan: func(p *protocol.Protocol) { p.LayOut = []string{"mirror"} }, want: evaluation.Note},
		{why: "a list with them", steps: drain, plan: func(p *protocol.Protocol) { p.LayOut = []string{"mirror", protocol.Tissues} }},
		{why: "no list is no omission", steps: drain},
	})
	bed := func(c *protocol.Context) { c.ToBed = 60 }
	judged(t, evaluation.LateDrain, []fair{
		{why: "within two hours of a known bedtime", steps: drain, ctx: bed, want: evaluation.Note},
		{why: "a bedtime that is not known", steps: drain},
		{why: "nothing is drained", steps: []protocol.Step{crafttest.Do("temple-press")}, ctx: bed},
	})
}

// What was never said is a list of questions, and no finding among the findings.
func TestWhatWasNeverSaidIsNoFinding(t *testing.T) {
	p := crafttest.Plan(12, protocol.Step{Stroke: "temple-press", Gaps: map[string]string{"pressure": "stronger than before", "dose": ""}})
	e := evaluation.Evaluate(p, crafttest.Studio())
	assert.Equal(t, []evaluation.Unsaid{{Step: "temple-press#1", Property: "dose"}, {Step: "temple-press#1", Property: "pressure", Said: "stronger than before"}}, e.NotStated)
	for _, f := range e.Findings {
		assert.NotEqual(t, evaluation.NotSaid, f.Code)
	}
}

// Product for some skins is planned for where the skin is not known, and left off for another one; that it
// is gone from the shelf is told all the same.
func TestProductForSomeSkins(t *testing.T) {
	plan := func(c *protocol.Context, key string) *evaluation.Evaluation {
		s := crafttest.Oiled(crafttest.Do("spread-passes"))
		s.Use.Product, s.Use.For, s.Use.Optional = key, []string{"dry", "sensitive"}, true
		p := crafttest.Plan(12, s)
		return evaluation.Evaluate(p, c)
	}
	for _, c := range []struct {
		kind   string
		states []string
		uses   int
	}{{"", nil, 1}, {"dry", nil, 1}, {"oily", nil, 0}, {"oily", []string{"sensitive"}, 1}} {
		ctx := crafttest.Studio()
		ctx.SkinType, ctx.SkinStates = c.kind, c.states
		e := plan(ctx, "oil")
		if assert.Len(t, e.Products, c.uses, "%s %v", c.kind, c.states) && c.uses > 0 {
			assert.True(t, e.Products[0].Optional)
		}
		assert.NotNil(t, crafttest.Found(plan(ctx, "gone"), evaluation.ProductMissing, ""))
	}
}
