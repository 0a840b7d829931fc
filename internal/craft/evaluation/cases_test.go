package evaluation_test

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Every check has a table of cases, spoken and silent, and a row in the reviewer's table.
func TestEveryCheckHasItsCasesAndItsRow(t *testing.T) {
	source, err := os.ReadFile("finding.go")
	require.NoError(t, err)
	table, err := os.ReadFile("../../../docs/craft/checks.md")
	require.NoError(t, err)
	tests, err := filepath.Glob("*_test.go")
	require.NoError(t, err)
	var all strings.Builder
	for _, name := range tests {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		all.Write(data)
	}
	for _, m := range regexp.MustCompile(`(?m)^\t(\w+)\s+Code = "([\w-]+)"`).FindAllStringSubmatch(string(source), -1) {
		if m[1] == "NotSaid" {
			continue // of plans prepared long ago, no longer found
		}
		assert.Contains(t, all.String(), "judged(t, evaluation."+m[1]+", []fair{", m[1])
		assert.Contains(t, string(table), "`"+m[2]+"`", m[1])
	}
}

func skin(kind string, states ...string) func(*protocol.Context) {
	return func(c *protocol.Context) { c.SkinType, c.SkinStates = kind, states }
}

func lasting(key string, seconds int) protocol.Step {
	return protocol.Step{Stroke: key, Dose: crafttest.Ptr(crafttest.Clock(seconds))}
}

func using(key, product string, ml float64) protocol.Step {
	s := crafttest.Do(key)
	s.Use = &protocol.Use{Product: product, Amount: slip.Amount{Value: ml, Measure: slip.ML}}
	return s
}

func departing(s protocol.Step) protocol.Step {
	s.Departure = "on purpose"
	return s
}

func method(set func(*protocol.Method)) func(*protocol.Protocol) {
	return func(p *protocol.Protocol) {
		p.Method.Drainage = ""
		set(&p.Method)
	}
}

// Skin, product and nails (handbook, chapters 3 and 4; common practice).
func TestWhatSkinAndNailsBear(t *testing.T) {
	also := crafttest.Do("cheek-palms")
	also.AlsoFamilies = []stroke.Family{stroke.Friction}
	judged(t, evaluation.Unsuited, []fair{
		{why: "rubbing on sensitive skin", ctx: skin("sensitive"), steps: []protocol.Step{crafttest.Do("neck-circles")}, want: evaluation.Warning},
		{why: "a glide that is rubbing too", ctx: skin("sensitive"), steps: []protocol.Step{also}, want: evaluation.Warning},
		{why: "a glide", ctx: skin("sensitive"), steps: []protocol.Step{crafttest.Do("cheek-palms")}},
		{why: "skin that is not known", steps: []protocol.Step{crafttest.Do("neck-circles")}},
		{why: "a product for other skins", ctx: skin("oily", "acne-prone"), steps: []protocol.Step{using("spread-passes", "cream", 4)}, want: evaluation.Warning},
		{why: "redness of the cheeks, work on the forehead", ctx: skin("dry", "couperose"), steps: []protocol.Step{crafttest.Do("stone-forehead")}},
		{why: "a departure", ctx: skin("sensitive"), steps: []protocol.Step{departing(crafttest.Do("neck-circles"))}},
	})
	avoided := method(func(m *protocol.Method) { m.Redness = "avoided" })
	judged(t, evaluation.Redness, []fair{
		{why: "rubbing in a method that avoids it", plan: avoided, steps: []protocol.Step{crafttest.Do("crease-rub")}, want: evaluation.Warning},
		{why: "a glide that is rubbing too", plan: avoided, steps: []protocol.Step{also}, want: evaluation.Warning},
		{why: "a cup", plan: avoided, steps: []protocol.Step{crafttest.Do("cup-cheek")}, want: evaluation.Warning},
		{why: "another method", steps: []protocol.Step{crafttest.Do("crease-rub")}},
		{why: "a departure", plan: avoided, steps: []protocol.Step{departing(crafttest.Do("crease-rub"))}},
	})
	nails := func(c *protocol.Context) { c.LongNails = true }
	knuckles := crafttest.Do("under-bone-drag")
	knuckles.Hand = "fist knuckles"
	judged(t, evaluation.LongNails, []fair{
		{why: "a thumb that has another way", ctx: nails, steps: []protocol.Step{crafttest.Do("under-bone-drag")}, want: evaluation.Warning},
		{why: "the other way is taken", ctx: nails, steps: []protocol.Step{knuckles}},
		{why: "inside the mouth", ctx: nails, steps: []protocol.Step{crafttest.Do("mouth-masseter")}, want: evaluation.Warning},
		{why: "flat palms", ctx: nails, steps: []protocol.Step{crafttest.Do("cheek-palms")}},
		{why: "short nails", steps: []protocol.Step{crafttest.Do("under-bone-drag")}},
	})
	acid := using("spread-passes", "acid", 2)
	since := func(what string, days ...int) func(*protocol.Context) {
		return func(c *protocol.Context) { c.DaysSince = map[string][]int{what: days} }
	}
	judged(t, evaluation.TooOften, []fair{
		{why: "an acid four days after another", ctx: since(evaluation.Exfoliation, 4), steps: []protocol.Step{acid}, want: evaluation.Warning},
		{why: "an acid a week after", ctx: since(evaluation.Exfoliation, 7), steps: []protocol.Step{acid}},
		{why: "a third roller in the week", ctx: since(evaluation.RollerWork, 1, 3), steps: []protocol.Step{crafttest.Do("twin-ball-nose")}},
		{why: "a fourth roller in the week", ctx: since(evaluation.RollerWork, 1, 3, 6), steps: []protocol.Step{crafttest.Do("twin-ball-nose")}, want: evaluation.Warning},
		{why: "days that are not known", steps: []protocol.Step{acid}},
	})
}

// Cold, masks and tools (handbook, chapter 4).
func TestColdMasksAndTools(t *testing.T) {
	mask := using("mask-rest", "mask", 8)
	open := mask
	open.Dose = &stroke.Dose{Kind: stroke.Free, Planned: 480}
	judged(t, evaluation.NoTime, []fair{
		{why: "a mask by feel", steps: []protocol.Step{open}, want: evaluation.Warning},
		{why: "a mask of eight minutes", steps: []protocol.Step{mask}},
		{why: "resting hands by feel", steps: []protocol.Step{{Stroke: "mask-rest", Dose: open.Dose}}},
	})
	judged(t, evaluation.ColdLong, []fair{
		{why: "eleven minutes", steps: []protocol.Step{lasting("cold-rest", 330), lasting("cold-roller-face", 330)}, want: evaluation.Warning},
		{why: "ten minutes", steps: []protocol.Step{lasting("cold-rest", 300), lasting("cold-roller-face", 290)}},
		{why: "eleven minutes warm", steps: []protocol.Step{lasting("warm-compress", 660)}},
	})
	under := crafttest.Do("cold-rest")
	under.Path = crafttest.Zones("under-eye", "temple")
	judged(t, evaluation.ColdStill, []fair{
		{why: "resting under the eye", steps: []protocol.Step{under}, want: evaluation.Warning},
		{why: "resting on the cheekbone", steps: []protocol.Step{crafttest.Do("cold-rest")}},
		{why: "rolled past the eye", steps: []protocol.Step{crafttest.Do("cold-globes-eye")}},
	})
	judged(t, evaluation.ColdDry, []fair{
		{why: "cold on dehydrated skin", ctx: skin("dry", "dehydrated"), steps: []protocol.Step{crafttest.Do("cold-rest")}, want: evaluation.Note},
		{why: "after a mist", ctx: skin("dry", "dehydrated"), steps: []protocol.Step{using("mist-veil", "mist", 1), crafttest.Do("cold-rest")}},
		{why: "other skin", ctx: skin("dry"), steps: []protocol.Step{crafttest.Do("cold-rest")}},
	})
	busy := func(c *protocol.Context) { c.ReadyIn = map[string]float64{"stone-plate": 3} }
	judged(t, evaluation.ToolBusy, []fair{
		{why: "wanted at the beginning", ctx: busy, steps: []protocol.Step{crafttest.Do("stone-jaw"), crafttest.Do("stone-cheek")}, want: evaluation.Warning},
		{why: "ready by then", ctx: busy, steps: []protocol.Step{lasting("shoulder-knead", 200), crafttest.Do("stone-jaw")}},
		{why: "another tool", ctx: busy, steps: []protocol.Step{crafttest.Do("cup-cheek")}},
	})
	judged(t, evaluation.PorousTwice, []fair{
		{why: "a mitt taken up again", steps: []protocol.Step{crafttest.Do("mitt-polish"), crafttest.Do("cheek-palms"), crafttest.Do("mitt-polish")}, want: evaluation.Warning},
		{why: "still in the hand", steps: []protocol.Step{crafttest.Do("mitt-polish"), crafttest.Do("mitt-polish")}},
		{why: "a tool that is washed", steps: []protocol.Step{crafttest.Do("stone-jaw"), crafttest.Do("cheek-palms"), crafttest.Do("stone-jaw")}},
		{why: "a departure", steps: []protocol.Step{crafttest.Do("mitt-polish"), crafttest.Do("cheek-palms"), departing(crafttest.Do("mitt-polish"))}},
	})
	throat := at("stone-neck", 0, "throat")
	palm := at("neck-palms-up", 0, "throat")
	judged(t, evaluation.ToolOnThroat, []fair{
		{why: "a stone on the throat", steps: []protocol.Step{throat}, want: evaluation.Stopping, on: "throat"},
		{why: "a hand", steps: []protocol.Step{palm}},
		{why: "a stone beside it", steps: []protocol.Step{crafttest.Do("stone-neck")}},
	})
}

// Gloves and hands inside the mouth (common practice; work on a client only).
func TestWorkInsideTheMouth(t *testing.T) {
	bare := crafttest.Do("mouth-masseter")
	bare.Gloves = "none"
	self := func(p *protocol.Protocol) { p.Setting = "self" }
	judged(t, evaluation.NoGloves, []fair{
		{why: "with bare hands", steps: []protocol.Step{bare}, want: evaluation.Stopping},
		{why: "gloves are put on", steps: []protocol.Step{crafttest.Do("mouth-masseter")}},
		{why: "in one's own mouth", plan: self, steps: []protocol.Step{bare}},
	})
	judged(t, evaluation.NotWashed, []fair{
		{why: "after the face", steps: []protocol.Step{crafttest.Do("cheek-palms"), crafttest.Do("mouth-masseter")}, want: evaluation.Stopping},
		{why: "washed between", steps: []protocol.Step{crafttest.Do("cheek-palms"), crafttest.Do("wash-hands"), crafttest.Do("mouth-masseter")}},
		{why: "from place to place in the mouth", steps: []protocol.Step{crafttest.Do("mouth-masseter"), crafttest.Do("mouth-upper-press")}},
	})
	kept := crafttest.Do("cheek-palms")
	kept.Gloves = "keep"
	judged(t, evaluation.GlovesKept, []fair{
		{why: "on the face with the gloves from the mouth", steps: []protocol.Step{crafttest.Do("mouth-masseter"), kept}, want: evaluation.Stopping},
		{why: "taken off", steps: []protocol.Step{crafttest.Do("mouth-masseter"), crafttest.Do("cheek-palms")}},
	})
}

// What the plan names and what is left out today.
func TestWhatIsGoneOrLeftOut(t *testing.T) {
	judged(t, evaluation.ProductMissing, []fair{
		{why: "on the shelf", steps: []protocol.Step{using("spread-passes", "oil", 3)}},
	})
	judged(t, evaluation.StrokeMissing, []fair{
		{why: "in the library", steps: []protocol.Step{crafttest.Do("cheek-palms")}},
	})
	gone := crafttest.Plan(12, crafttest.Do("moon-glide"), using("spread-passes", "moon-oil", 3))
	e := evaluation.Evaluate(gone, crafttest.Studio())
	for _, code := range []evaluation.Code{evaluation.StrokeMissing, evaluation.ProductMissing} {
		f := crafttest.Found(e, code, "")
		if assert.NotNil(t, f, code) {
			assert.Equal(t, evaluation.Stopping, f.Severity)
		}
	}
	left := func(zone string, side anatomy.Side) func(*protocol.Context) {
		return func(c *protocol.Context) {
			c.Excluded = []anatomy.ZoneSide{{Zone: crafttest.MustZone(t, zone), Side: side}}
		}
	}
	right := crafttest.Do("cheek-palms")
	right.Sides = stroke.RightOnly
	judged(t, evaluation.ExcludedZone, []fair{
		{why: "worked on that side", ctx: left("cheekbone", anatomy.Left), steps: []protocol.Step{crafttest.Do("cheek-palms")}, want: evaluation.Stopping, on: "cheekbone"},
		{why: "the other side", ctx: left("cheekbone", anatomy.Left), steps: []protocol.Step{right}},
		{why: "another zone", ctx: left("temple", anatomy.Left), steps: []protocol.Step{crafttest.Do("cheek-palms")}},
	})
	flow := method(func(*protocol.Method) {})
	judged(t, evaluation.DrainBarred, []fair{
		{why: "to nodes left out", plan: flow, ctx: left("collarbone-hollow", anatomy.Left), steps: []protocol.Step{at("cheek-drain", 1, "cheekbone", "front-of-ear")}, want: evaluation.Stopping},
		{why: "nothing left out", plan: flow, steps: []protocol.Step{at("cheek-drain", 1, "cheekbone", "front-of-ear")}},
		{why: "a method without drainage", ctx: left("collarbone-hollow", anatomy.Left), steps: []protocol.Step{at("cheek-drain", 1, "cheekbone", "front-of-ear")}},
	})
}

// Order of the drainage (handbook, chapter 1, rules of thumb).
func TestOrderOfDrainage(t *testing.T) {
	flow := method(func(m *protocol.Method) { m.Drainage, m.Opening = "open-and-close", "nearest-first" })
	drain := at("cheek-drain", 1, "cheekbone", "front-of-ear")
	home := at("cheek-drain", 1, "front-of-ear", "below-ear", "side-neck", "collarbone-hollow")
	judged(t, evaluation.DrainOrder, []fair{
		{why: "the ear before the neck", plan: flow, steps: []protocol.Step{crafttest.Do("ear-fork"), crafttest.Do("neck-side-open"), drain, home}, want: evaluation.Warning},
		{why: "from the hollow up", plan: flow, steps: []protocol.Step{crafttest.Do("collarbone-pumps"), crafttest.Do("neck-side-open"), crafttest.Do("ear-fork"), drain, home}},
		{why: "a method without drainage", steps: []protocol.Step{crafttest.Do("ear-fork"), crafttest.Do("neck-side-open")}},
	})
	judged(t, evaluation.NoOpening, []fair{
		{why: "drained, nothing opened", plan: flow, steps: []protocol.Step{drain, home}, want: evaluation.Warning},
		{why: "opened", plan: flow, steps: []protocol.Step{crafttest.Do("collarbone-pumps"), drain, home}},
		{why: "nothing drains", plan: flow, steps: []protocol.Step{crafttest.Do("cheek-palms")}},
	})
	judged(t, evaluation.NoClosing, []fair{
		{why: "drained, and not carried home", plan: flow, steps: []protocol.Step{crafttest.Do("collarbone-pumps"), drain}, want: evaluation.Warning},
		{why: "carried home", plan: flow, steps: []protocol.Step{crafttest.Do("collarbone-pumps"), drain, home}},
		{why: "nothing drains", plan: flow, steps: []protocol.Step{crafttest.Do("cheek-palms")}},
	})
	judged(t, evaluation.PressureDrain, []fair{
		{why: "a drain at medium", steps: []protocol.Step{at("cheek-drain", 3, "cheekbone", "mid-cheek")}, want: evaluation.Warning, on: "cheekbone"},
		{why: "a drain at light", steps: []protocol.Step{at("cheek-drain", 2, "cheekbone", "mid-cheek")}},
		{why: "a lift at medium", steps: []protocol.Step{at("cheek-palms", 3, "mid-cheek", "cheekbone")}},
	})
	outward := method(func(m *protocol.Method) { m.Eye = "outward" })
	judged(t, evaluation.EyeInward, []fair{
		{why: "under the eye towards the nose", plan: outward, steps: []protocol.Step{at("eye-rim-drain", 1, "outer-eye-corner", "orbital-rim", "inner-eye-corner")}, want: evaluation.Warning},
		{why: "under the eye outwards", plan: outward, steps: []protocol.Step{at("eye-rim-drain", 1, "inner-eye-corner", "orbital-rim", "outer-eye-corner")}},
		{why: "a method without a rule", steps: []protocol.Step{at("eye-rim-drain", 1, "outer-eye-corner", "orbital-rim", "inner-eye-corner")}},
	})
}

// Amounts, slip and the pace of the hands.
func TestAmountsSlipAndPace(t *testing.T) {
	judged(t, evaluation.AmountOver, []fair{
		{why: "six mL of a product for five", steps: []protocol.Step{using("spread-passes", "oil", 6)}, want: evaluation.Warning},
		{why: "in two steps", steps: []protocol.Step{using("spread-passes", "oil", 3), using("spread-passes", "oil", 3)}, want: evaluation.Warning},
		{why: "five mL", steps: []protocol.Step{using("spread-passes", "oil", 5)}},
	})
	knead := crafttest.Do("shoulder-knead")
	judged(t, evaluation.GlideSlick, []fair{
		{why: "kneading on a rich film", steps: []protocol.Step{using("spread-passes", "oil", 5), knead}, want: evaluation.Note},
		{why: "on a thin film", steps: []protocol.Step{using("spread-passes", "oil", 2), knead}},
		{why: "a hold", steps: []protocol.Step{using("spread-passes", "oil", 5), crafttest.Do("occiput-hold")}},
	})
	dry := method(func(m *protocol.Method) { m.Slip = "dry" })
	judged(t, evaluation.DryDrag, []fair{
		{why: "sliding on the rim", plan: dry, steps: []protocol.Step{crafttest.Do("eye-rim-drain")}, want: evaluation.Warning},
		{why: "carried", plan: dry, steps: []protocol.Step{crafttest.Do("crows-stretch")}},
		{why: "over firm skin", plan: dry, steps: []protocol.Step{crafttest.Do("cheek-palms")}},
		{why: "a departure", plan: dry, steps: []protocol.Step{departing(crafttest.Do("eye-rim-drain"))}},
	})
	quick := at("eye-rim-drain", 1, "inner-eye-corner", "orbital-rim", "temple")
	quick.Parts = crafttest.Parts(crafttest.Move(0.1))
	judged(t, evaluation.SpeedDrag, []fair{
		{why: "fast past the eye", steps: []protocol.Step{quick}, want: evaluation.Warning},
		{why: "at the stroke's own pace", steps: []protocol.Step{crafttest.Do("eye-rim-drain")}},
	})
	soothe := crafttest.Do("feathering")
	soothe.Parts = crafttest.Parts(crafttest.Move(0.3))
	slow := crafttest.Do("feathering")
	slow.Parts = crafttest.Parts(crafttest.Move(2.5))
	judged(t, evaluation.SpeedSoothe, []fair{ // Loken and others, Nature Neuroscience 12, 2009 (from memory)
		{why: "over 10 cm/s", steps: []protocol.Step{soothe}, want: evaluation.Note},
		{why: "near 3 cm/s", steps: []protocol.Step{slow}},
		{why: "a lift", steps: []protocol.Step{quick}},
	})
	judged(t, evaluation.EyeLoad, []fair{
		{why: "over four minutes on the rim", steps: []protocol.Step{{Stroke: "eye-rim-drain", Path: crafttest.Zones("orbital-rim"), Dose: crafttest.Ptr(crafttest.Clock(300))}}, want: evaluation.Warning, on: "orbital-rim"},
		{why: "two minutes", steps: []protocol.Step{{Stroke: "eye-rim-drain", Path: crafttest.Zones("orbital-rim"), Dose: crafttest.Ptr(crafttest.Clock(120))}}},
		{why: "resting cold", steps: []protocol.Step{{Stroke: "cold-rest", Path: crafttest.Zones("orbital-rim"), Dose: crafttest.Ptr(crafttest.Clock(300))}}},
	})
}

// The plan as a whole: its length, its flow, its sides, the practitioner's hands.
func TestThePlanAsAWhole(t *testing.T) {
	slot := func(minutes int) func(*protocol.Protocol) {
		return func(p *protocol.Protocol) {
			p.Minutes = protocol.Minutes{HandsOn: minutes, Treatment: minutes}
			p.Method.Drainage = "none"
		}
	}
	unsaid := lasting("shoulder-knead", 60)
	unsaid.Dose = &stroke.Dose{Kind: stroke.Unknown, Planned: 60}
	unsaid.Gaps = map[string]string{"dose": "not said"}
	judged(t, evaluation.FitOver, []fair{
		{why: "a minute too long", plan: slot(2), steps: []protocol.Step{lasting("shoulder-knead", 180)}, want: evaluation.Warning},
		{why: "as long as it may be", plan: slot(3), steps: []protocol.Step{lasting("shoulder-knead", 180)}},
		{why: "a time never stated", plan: slot(1), steps: []protocol.Step{unsaid, unsaid}},
	})
	judged(t, evaluation.FitUnder, []fair{
		{why: "a minute too short", plan: slot(4), steps: []protocol.Step{lasting("shoulder-knead", 180)}, want: evaluation.Note},
		{why: "within fifteen seconds", plan: slot(3), steps: []protocol.Step{lasting("shoulder-knead", 166)}},
		{why: "a time never stated", plan: slot(4), steps: []protocol.Step{unsaid}},
	})
	var restless, calm []protocol.Step
	for range 6 {
		restless = append(restless, lasting("stone-jaw", 20), lasting("cheek-palms", 20), lasting("cup-cheek", 20))
		calm = append(calm, lasting("cheek-palms", 60))
	}
	judged(t, evaluation.FlowBreaks, []fair{
		{why: "a tool every twenty seconds", steps: restless, want: evaluation.Note},
		{why: "hands that stay", steps: calm},
	})
	whole := func(sides string) func(*protocol.Protocol) {
		return method(func(m *protocol.Method) { m.Sides = sides })
	}
	turns, both := at("cheek-palms", 2, "lower-cheek", "cheekbone"), at("cheek-palms", 2, "lower-cheek", "cheekbone")
	turns.Sides = stroke.InTurns
	judged(t, evaluation.SidesMethod, []fair{
		{why: "in turns where both are worked", plan: whole("both"), steps: []protocol.Step{turns}, want: evaluation.Note},
		{why: "both where each step is worked in turns", plan: whole("each-step"), steps: []protocol.Step{both}, want: evaluation.Note},
		{why: "as the method says", plan: whole("both"), steps: []protocol.Step{both}},
		{why: "a departure", plan: whole("both"), steps: []protocol.Step{departing(turns)}},
		{why: "a method that says nothing", steps: []protocol.Step{turns}},
	})
	thumbs := func(seconds int) protocol.Step {
		s := lasting("under-bone-drag", seconds)
		s.Pressure = crafttest.Ptr(4)
		return s
	}
	judged(t, evaluation.HandsTired, []fair{
		{why: "six minutes of thumbs", steps: []protocol.Step{thumbs(90), thumbs(90)}, want: evaluation.Note},
		{why: "a rest between", steps: []protocol.Step{thumbs(90), lasting("cheek-palms", 30), thumbs(90)}},
		{why: "light", steps: []protocol.Step{lasting("under-bone-drag", 360)}},
	})
	today := func(minutes float64) func(*protocol.Context) {
		return func(c *protocol.Context) { c.HandsToday = minutes }
	}
	judged(t, evaluation.HandsDay, []fair{
		{why: "over an hour with this one", ctx: today(59), steps: []protocol.Step{thumbs(90)}, want: evaluation.Note},
		{why: "under an hour", ctx: today(50), steps: []protocol.Step{thumbs(90)}},
		{why: "nothing tiring in this one", ctx: today(80), steps: []protocol.Step{lasting("cheek-palms", 60)}},
	})
}
