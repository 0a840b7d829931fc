package drafting

import (
	"slices"
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

// The tests of this file look at the parts of a draft one by one, worked by hand from what
// the handbook says of choosing (chapter 3) and from common practice.

func draftingOf(q Question, ctx *protocol.Context) *drafting { return newDrafting(q, ctx) }

func strokeOf(intent stroke.Intent, family stroke.Family, path ...string) *stroke.Stroke {
	return &stroke.Stroke{Key: "own", Manner: stroke.Manner{Name: "own", Intent: intent, Family: family}, Relation: stroke.Slides, Glide: stroke.SlideGlide, Pressure: 2, Path: path, Sides: stroke.BothAtOnce, Dose: crafttest.Reps(3), Parts: crafttest.Parts(crafttest.Move(2))}
}

// Which strokes a draft may choose from.
func TestWhatADraftMayUse(t *testing.T) {
	ctx := crafttest.Studio()
	soothe := strokeOf(stroke.Soothe, stroke.Effleurage, "jawline")
	with := func(change func(*stroke.Stroke)) *stroke.Stroke {
		st := *soothe
		change(&st)
		return &st
	}
	for _, c := range []struct {
		name string
		q    Question
		st   *stroke.Stroke
		may  bool
	}{
		{"soothing", Question{}, soothe, true},
		{"opening is not work", Question{}, with(func(s *stroke.Stroke) { s.Intent = stroke.Open }), false},
		{"spreading is not work", Question{}, with(func(s *stroke.Stroke) { s.Intent = stroke.Spread }), false},
		{"an exercise nobody asked for", Question{}, with(func(s *stroke.Stroke) { s.Intent, s.Path = stroke.Tone, nil }), false},
		{"an exercise that was asked for", Question{Exercises: true}, with(func(s *stroke.Stroke) { s.Intent, s.Path = stroke.Tone, nil }), true},
		{"a dry grip", Question{}, with(func(s *stroke.Stroke) { s.Glide = stroke.GripGlide }), true},
		{"a dry grip for puffiness", Question{Concerns: []string{"puffiness"}}, with(func(s *stroke.Stroke) { s.Glide = stroke.GripGlide }), false},
		{"a dry grip on sensitive skin", Question{SkinStates: []string{"sensitive"}}, with(func(s *stroke.Stroke) { s.Glide = stroke.GripGlide }), false},
		{"a dry grip where redness is avoided", Question{Method: protocol.Method{Redness: "avoided"}}, with(func(s *stroke.Stroke) { s.Glide = stroke.GripGlide }), false},
		{"a scissor on the cheek of skin prone to acne", Question{SkinStates: []string{"acne-prone"}}, with(func(s *stroke.Stroke) { s.Family, s.Path = "scissor", []string{"mid-cheek"} }), false},
		{"a scissor on the forehead of skin prone to acne", Question{SkinStates: []string{"acne-prone"}}, with(func(s *stroke.Stroke) { s.Family, s.Path = "scissor", []string{"forehead"} }), true},
		{"a sliding drain on a cheek with couperose", Question{SkinStates: []string{"couperose"}}, with(func(s *stroke.Stroke) { s.Intent, s.Path = stroke.Drain, []string{"mid-cheek", "jawline"} }), false},
		{"a drain that does not slide there", Question{SkinStates: []string{"couperose"}}, with(func(s *stroke.Stroke) {
			s.Intent, s.Relation, s.Path = stroke.Drain, "carries", []string{"mid-cheek", "jawline"}
		}), true},
		{"a scoop of 3 on a sensitive cheek", Question{SkinStates: []string{"sensitive"}}, with(func(s *stroke.Stroke) { s.Intent, s.Pressure, s.Path = stroke.Lift, 3, []string{"mid-cheek"} }), false},
		{"a light lift on a sensitive cheek", Question{SkinStates: []string{"sensitive"}}, with(func(s *stroke.Stroke) { s.Intent, s.Path = stroke.Lift, []string{"mid-cheek"} }), true},
		{"the sweep of a closing is not work", Question{}, with(func(s *stroke.Stroke) { s.Key = "feather-sweep" }), false},
		{"sliding over the cheek in a short treatment of the eyes", Question{Minutes: 20, Concerns: []string{"dark-circles"}}, with(func(s *stroke.Stroke) { s.Path = []string{"mid-cheek"} }), false},
		{"sliding over the temple there", Question{Minutes: 20, Concerns: []string{"dark-circles"}}, with(func(s *stroke.Stroke) { s.Path = []string{"temple"} }), true},
		{"other work has one", Question{}, with(func(s *stroke.Stroke) { s.Path = nil }), false},
		{"a zone that there is none of", Question{}, with(func(s *stroke.Stroke) { s.Path = []string{"jawline", "moon"} }), false},
		{"inside the mouth", Question{}, with(func(s *stroke.Stroke) { s.Path = []string{"jawline", "inner-cheek"} }), false},
		{"draining", Question{}, with(func(s *stroke.Stroke) { s.Intent = stroke.Drain }), true},
		{"draining where the method has none", Question{Method: protocol.Method{Drainage: "none"}}, with(func(s *stroke.Stroke) { s.Intent = stroke.Drain }), false},
		{"nothing else where the whole plan drains", Question{Method: protocol.Method{Drainage: "whole"}}, soothe, false},
		{"draining where the whole plan drains", Question{Method: protocol.Method{Drainage: "whole"}}, with(func(s *stroke.Stroke) { s.Intent = stroke.Drain }), true},
		{"a tool that is laid out", Question{Tools: []string{"stone-plate"}}, with(func(s *stroke.Stroke) { s.Tool = &stroke.ToolPart{Key: "stone-plate"} }), true},
		{"a tool that is not", Question{Tools: []string{"cold-globes"}}, with(func(s *stroke.Stroke) { s.Tool = &stroke.ToolPart{Key: "stone-plate"} }), false},
		{"a tool that the studio has not", Question{Tools: []string{"hammer"}}, with(func(s *stroke.Stroke) { s.Tool = &stroke.ToolPart{Key: "hammer"} }), false},
		{"friction", Question{}, with(func(s *stroke.Stroke) { s.Family = stroke.Friction }), true},
		{"friction where redness is avoided", Question{Method: protocol.Method{Redness: "avoided"}}, with(func(s *stroke.Stroke) { s.Family = stroke.Friction }), false},
		{"tapping the day before an event", Question{Concerns: []string{"event-tomorrow"}}, with(func(s *stroke.Stroke) { s.Family = stroke.Tapotement }), false},
		{"a cup where redness is avoided", Question{Tools: []string{"soft-cup"}, Method: protocol.Method{Redness: "avoided"}}, with(func(s *stroke.Stroke) { s.Tool = &stroke.ToolPart{Key: "soft-cup"} }), false},
		{"a mitt where redness is avoided", Question{Tools: []string{"mitt"}, Method: protocol.Method{Redness: "avoided"}}, with(func(s *stroke.Stroke) { s.Tool = &stroke.ToolPart{Key: "mitt"} }), false},
		{"a stone where redness is avoided", Question{Tools: []string{"stone-plate"}, Method: protocol.Method{Redness: "avoided"}}, with(func(s *stroke.Stroke) { s.Tool = &stroke.ToolPart{Key: "stone-plate"} }), true},
		{"a stone on dry skin", Question{Method: protocol.Method{Slip: "dry"}}, with(func(s *stroke.Stroke) { s.Glide = stroke.StoneGlide }), false},
		{"sliding over delicate skin, dry", Question{Method: protocol.Method{Slip: "dry"}}, with(func(s *stroke.Stroke) { s.Path = []string{"jawline", "under-eye"} }), false},
		{"resting on delicate skin, dry", Question{Method: protocol.Method{Slip: "dry"}}, with(func(s *stroke.Stroke) { s.Path, s.Relation = []string{"jawline", "under-eye"}, stroke.Still }), true},
		{"sliding over other skin, dry", Question{Method: protocol.Method{Slip: "dry"}}, soothe, true},
		{"sliding over delicate skin with slip", Question{}, with(func(s *stroke.Stroke) { s.Path = []string{"jawline", "under-eye"} }), true},
	} {
		assert.Equal(t, c.may, draftingOf(c.q, ctx).suits(c.st), c.name)
	}
	d := draftingOf(Question{}, ctx)
	d.barred["own"] = true
	assert.False(t, d.suits(soothe), "what did not pass before is left out for good")
}

// The product for slip: oil before creams, what may irritate or harm later, what does not
// suit never.
func TestTheProductThatSlides(t *testing.T) {
	product := func(key string, form slip.Form, tags ...string) *slip.Product {
		return &slip.Product{Key: key, Form: form, FullDose: 4, Tags: tags}
	}
	unsuited := product("a-oil", slip.Oil)
	unsuited.Unsuited = []string{"oily", "couperose"}
	for _, c := range []struct {
		name     string
		skin     string
		states   []string
		products []*slip.Product
		want     string
	}{
		{"oil before cream", "", nil, []*slip.Product{product("a", slip.MassageCream), product("b", slip.Oil)}, "b"},
		{"cream before serum", "", nil, []*slip.Product{product("a", slip.MoistSerum), product("b", slip.MassageCream)}, "b"},
		{"the first by key", "", nil, []*slip.Product{product("b", slip.Oil), product("a", slip.Oil)}, "a"},
		{"a serum for oily skin", "oily", nil, []*slip.Product{product("a", slip.Oil), product("b", slip.MoistSerum)}, "b"},
		{"a serum not before oil otherwise", "dry", nil, []*slip.Product{product("a", slip.Oil), product("b", slip.MoistSerum)}, "a"},
		{"fragrance last", "", nil, []*slip.Product{product("a", slip.Oil, "fragrance"), product("b", slip.DayCream)}, "b"},
		{"a nut oil after cream and serum", "", nil, []*slip.Product{product("a", slip.Oil, "nut-oil"), product("b", slip.MoistSerum)}, "b"},
		{"a nut oil before a day cream", "", nil, []*slip.Product{product("a", slip.Oil, "nut-oil"), product("b", slip.DayCream)}, "a"},
		{"no milk", "", nil, []*slip.Product{product("a", slip.Milk)}, ""},
		{"no mist", "", nil, []*slip.Product{product("a", slip.Mist)}, ""},
		{"none that does not suit the skin", "oily", nil, []*slip.Product{unsuited}, ""},
		{"none that does not suit its state", "", []string{"couperose"}, []*slip.Product{unsuited}, ""},
		{"it suits another skin", "dry", nil, []*slip.Product{unsuited}, "a-oil"},
		{"no fragrance on sensitive skin", "", []string{"sensitive"}, []*slip.Product{product("a", slip.Oil, "fragrance")}, ""},
		{"no essential oil on sensitive skin", "", []string{"sensitive"}, []*slip.Product{product("a", slip.Oil, "essential-oil")}, ""},
		{"fragrance on skin that bears it", "", nil, []*slip.Product{product("a", slip.Oil, "fragrance")}, "a"},
		{"nothing that clogs on skin prone to acne", "", []string{"acne-prone"}, []*slip.Product{product("a", slip.Oil, "clogging")}, ""},
		{"what clogs on other skin", "", nil, []*slip.Product{product("a", slip.Oil, "clogging")}, "a"},
	} {
		ctx := &protocol.Context{Products: map[string]*slip.Product{}}
		q := Question{SkinType: c.skin, SkinStates: c.states, Products: []string{"no-such"}}
		for _, p := range c.products {
			ctx.Products[p.Key] = p
			q.Products = append(q.Products, p.Key)
		}
		got := draftingOf(q, ctx).slipProduct()
		if c.want == "" {
			assert.Nil(t, got, c.name)
			continue
		}
		require.NotNil(t, got, c.name)
		assert.Equal(t, c.want, got.Key, c.name)
	}
	ctx := &protocol.Context{Products: map[string]*slip.Product{"a": product("a", slip.Mist, "fragrance"), "b": product("b", slip.Mist), "c": product("c", slip.Oil)}}
	d := draftingOf(Question{Products: []string{"c", "b", "a"}, SkinStates: []string{"sensitive"}}, ctx)
	assert.Equal(t, "b", d.productOf(slip.Mist).Key)
	assert.Nil(t, d.productOf(slip.SunCream))
}

// Doses in the measure of the hand: whole drops up to twenty (handbook, chapter 9), half presses of a pump, tenths
// of a millilitre.
func TestDosesInTheMeasureOfTheHand(t *testing.T) {
	for _, c := range []struct {
		p     slip.Product
		share float64
		want  slip.Amount
	}{
		{slip.Product{FullDose: 1, DropsPerML: 20}, 1, slip.Amount{Value: 20, Measure: slip.Drops}},
		{slip.Product{FullDose: 1.05, DropsPerML: 20}, 1, slip.Amount{Value: 1.1, Measure: slip.ML}},
		{slip.Product{FullDose: 0.63, DropsPerML: 20}, 1, slip.Amount{Value: 13, Measure: slip.Drops}},
		{slip.Product{FullDose: 0.01, DropsPerML: 20}, 1, slip.Amount{Value: 1, Measure: slip.Drops}},
		{slip.Product{FullDose: 4, MLPerPump: 1.5}, 1, slip.Amount{Value: 2.5, Measure: slip.Pumps}},
		{slip.Product{FullDose: 1.5, MLPerPump: 1.5}, 1, slip.Amount{Value: 1, Measure: slip.Pumps}},
		{slip.Product{FullDose: 1.4, MLPerPump: 1.5}, 1, slip.Amount{Value: 1.4, Measure: slip.ML}},
		{slip.Product{FullDose: 4}, 0.8, slip.Amount{Value: 3.2, Measure: slip.ML}},
		{slip.Product{FullDose: 0.04}, 1, slip.Amount{Value: 0.1, Measure: slip.ML}},
	} {
		got := amount(&c.p, c.share)
		assert.Equal(t, c.want.Measure, got.Measure, "%+v", c)
		assert.InDelta(t, c.want.Value, got.Value, 1e-9, "%+v", c)
	}
}

// Tools are laid out, picked up and cleaned: one up to half an hour, two beyond (review of the
// composer); a tool that is out already may be used again.
func TestHowManyToolsAreLaidOut(t *testing.T) {
	tool := func(key string) *stroke.Stroke { return &stroke.Stroke{Tool: &stroke.ToolPart{Key: key}} }
	for _, c := range []struct{ minutes, most int }{{5, 1}, {30, 1}, {31, 2}, {60, 2}} {
		d := &drafting{q: Question{Minutes: c.minutes}}
		for i, key := range []string{"a", "b", "c", "d"} {
			assert.Equal(t, i < c.most, d.layable(tool(key)), "%d min, tool %d", c.minutes, i+1)
			if i < c.most {
				d.chosen = append(d.chosen, pick{st: tool(key)}, pick{st: tool(key)}, pick{st: &stroke.Stroke{}})
			}
		}
		assert.True(t, d.layable(tool("a")), "it is out already")
		assert.True(t, d.layable(&stroke.Stroke{}), "hands are always there")
	}
}

// Only what the drains of the plan run into is opened, from the heart on; a method that
// opens with one sweep does that.
func TestWhatADraftOpens(t *testing.T) {
	ctx := crafttest.Studio()
	drain := func(path ...string) []pick {
		return []pick{{st: strokeOf(stroke.Drain, stroke.Effleurage, path...)}}
	}
	opened := func(q Question, work []pick) (groups []anatomy.NodeGroup) {
		for _, key := range draftingOf(q, ctx).opening(work) {
			for _, z := range ctx.Strokes[key].Path {
				id, _ := anatomy.Lookup(z)
				if g := id.Zone().Node; g != "" && !slices.Contains(groups, g) {
					groups = append(groups, g)
				}
			}
		}
		return groups
	}
	base := opened(Question{}, nil)
	for _, g := range []anatomy.NodeGroup{anatomy.Terminus, anatomy.DeepCervical, anatomy.Preauricular} {
		assert.Contains(t, base, g)
	}
	assert.NotContains(t, base, anatomy.Submandibular)
	assert.Contains(t, opened(Question{}, drain("chin", "under-jaw")), anatomy.Submandibular)
	assert.NotContains(t, opened(Question{}, drain("under-jaw", "front-of-ear")), anatomy.Submandibular, "what counts is where it ends")
	lift := drain("chin", "under-jaw")
	lift[0].st.Intent = stroke.Lift
	assert.NotContains(t, opened(Question{}, lift), anatomy.Submandibular)
	assert.NotPanics(t, func() { opened(Question{}, drain()) })
	assert.Equal(t, []string{"feather-sweep"}, draftingOf(Question{Method: protocol.Method{Opening: "feather-sweep"}}, ctx).opening(nil))
}

// How a draft closes, by method and length.
func TestHowADraftCloses(t *testing.T) {
	ctx := crafttest.Studio()
	opened := []string{"collarbone-pumps", "feather-sweep", "ear-fork"}
	reversed := []string{"ear-fork", "collarbone-pumps"}
	if ctx.Strokes["feather-sweep"].Intent == stroke.Open {
		reversed = []string{"ear-fork", "feather-sweep", "collarbone-pumps"}
	}
	sweep := []string{"feather-sweep", "lobe-to-hollow"}
	for _, c := range []struct {
		minutes int
		closing string
		dry     bool
		want    []string
	}{
		{24, "", false, sweep}, {25, "", false, append(slices.Clone(sweep), reversed...)}, {10, "reverse", false, append(slices.Clone(sweep), reversed...)},
		{60, "chin-sweep", false, []string{"jaw-drain", "lobe-to-hollow", "neck-drain"}}, {24, "", true, []string{"still-neck-home"}},
		{60, "chin-sweep", true, []string{"still-neck-home"}},
	} {
		d := draftingOf(Question{Minutes: c.minutes, Method: protocol.Method{Closing: c.closing}}, ctx)
		if !c.dry {
			d.slip = &slip.Product{}
		}
		var got []string
		d.closing(func(phase protocol.Phase, key string) {
			assert.Equal(t, protocol.Phase("close"), phase)
			got = append(got, key)
		}, opened)
		assert.Equal(t, c.want, got, "%+v", c)
	}
}

// The frame of a draft by its length, skin and shelf.
func TestTheFrameOfADraft(t *testing.T) {
	ctx := crafttest.Studio()
	ctx.Products["milk"] = &slip.Product{Key: "milk", Name: "Milk", Form: slip.Milk, FullDose: 3}
	ctx.Products["sun"] = &slip.Product{Key: "sun", Name: "Sun cream", Form: slip.SunCream, FullDose: 1.2}
	all := []string{"oil", "milk", "sun", "mist"}
	compose := func(q Question, chosen ...string) *protocol.Protocol {
		d := draftingOf(q, ctx)
		if q.Method.Slip != "dry" {
			d.slip = d.slipProduct()
		}
		for _, key := range chosen {
			require.NotNil(t, ctx.Strokes[key], key)
			d.chosen = append(d.chosen, pick{st: ctx.Strokes[key], must: true, part: partOf(ctx.Strokes[key])})
		}
		return d.compose()
	}
	phases := func(p *protocol.Protocol) string {
		var out []string
		for i := range p.Steps {
			if ph := string(p.Steps[i].Phase); len(out) == 0 || out[len(out)-1] != ph {
				out = append(out, ph)
			}
		}
		return strings.Join(out, " ")
	}
	long := compose(Question{Minutes: 25, Products: all}, "cheek-scoop", "lobe-to-hollow")
	assert.Equal(t, "settle look-over cleanse apply open work compare close finish wake", phases(long))
	short := compose(Question{Minutes: 24, Products: all}, "cheek-scoop", "lobe-to-hollow")
	assert.Equal(t, "settle look-over cleanse apply open work close finish wake", phases(short))
	assert.Equal(t, "settle look-over cleanse apply work finish wake", phases(compose(Question{Minutes: 24, Products: all, Method: protocol.Method{Drainage: "none"}}, "cheek-scoop", "lobe-to-hollow")))
	assert.Equal(t, "settle look-over cleanse apply work finish wake", phases(compose(Question{Minutes: 24, Products: all}, "temple-press")), "nothing drains: nothing is opened")
	assert.Equal(t, "settle look-over cleanse work finish wake", phases(compose(Question{Minutes: 24, Products: all, Method: protocol.Method{Slip: "dry"}}, "temple-press")))
	assert.Equal(t, protocol.Minutes{Treatment: 35, HandsOn: 25, Reset: 10}, long.Minutes)
	assert.Equal(t, []int{4, 2, 8}, []int{long.Steps[0].Dose.Planned, long.Steps[0].Dose.Min, long.Steps[0].Dose.Max})
	assert.Equal(t, []int{2, 1, 4}, []int{short.Steps[0].Dose.Planned, short.Steps[0].Dose.Min, short.Steps[0].Dose.Max})
	step := func(p *protocol.Protocol, key string) *protocol.Step {
		for i := range p.Steps {
			if p.Steps[i].Stroke == key {
				return &p.Steps[i]
			}
		}
		return nil
	}
	require.NotNil(t, step(long, "spread-passes"))
	assert.Nil(t, step(long, "spread-passes").Dose, "the stroke's own passes")
	assert.Equal(t, 2, step(short, "spread-passes").Dose.Planned)
	assert.Equal(t, "wipe", step(long, "towel-wipe").Remove)
	oily := compose(Question{Minutes: 30, SkinType: "oily", Products: all}, "cheek-scoop")
	assert.Equal(t, []string{"oily"}, oily.SkinTypes)
	lower := mL(step(compose(Question{Minutes: 30, Products: all}, "cheek-scoop"), "spread-passes").Use.Amount, ctx.Products["oil"])
	assert.InDelta(t, 0.8*lower, mL(step(oily, "spread-passes").Use.Amount, ctx.Products["oil"]), 0.1, "less on oily skin")
	dry := compose(Question{Minutes: 30, SkinType: "dry", Products: all}, "cheek-scoop")
	assert.InDelta(t, 1.15*lower, mL(step(dry, "spread-passes").Use.Amount, ctx.Products["oil"]), 0.1, "more on dry skin")
	assert.Less(t, lower, 4*0.6, "half the face takes no full dose")
	assert.Empty(t, long.SkinTypes)
	ids := map[string]bool{}
	for i := range long.Steps {
		assert.False(t, ids[long.Steps[i].ID])
		ids[long.Steps[i].ID] = true
	}
	for i := range long.Steps {
		if u := long.Steps[i].Use; u != nil {
			assert.Contains(t, all, u.Product)
		}
	}

	sensitive := compose(Question{Minutes: 30, SkinStates: []string{"sensitive"}, Products: all}, "cheek-scoop")
	plain := ctx.Strokes["cheek-scoop"].Pressure
	require.GreaterOrEqual(t, plain, 2)
	assert.Equal(t, plain-1, *step(sensitive, "cheek-scoop").Pressure)
	assert.Nil(t, step(long, "cheek-scoop").Pressure)
}

func mL(a slip.Amount, p *slip.Product) float64 {
	switch a.Measure {
	case slip.Drops:
		return a.Value / p.DropsPerML
	case slip.Pumps:
		return a.Value * p.MLPerPump
	}
	return a.Value
}

// Mist goes before the cold on dehydrated skin, and only then.
func TestADraftMistsBeforeCold(t *testing.T) {
	ctx := crafttest.Studio()
	var cold, stone string
	for key, st := range ctx.Strokes {
		if st.Tool != nil && st.Glide != stroke.GripGlide && st.Intent != stroke.Tone {
			if ctx.Tools[st.Tool.Key].Cold() {
				cold = key
			} else if st.Tool.Key == "stone-plate" {
				stone = key
			}
		}
	}
	require.NotEmpty(t, cold)
	require.NotEmpty(t, stone)
	for _, c := range []struct {
		state, key string
		products   []string
		mist       bool
	}{
		{"dehydrated", cold, []string{"oil", "mist"}, true}, {"dehydrated", stone, []string{"oil", "mist"}, false},
		{"", cold, []string{"oil", "mist"}, false}, {"dehydrated", cold, []string{"oil"}, false},
	} {
		q := Question{Minutes: 20, Products: c.products, Tools: []string{"cold-globes", "stone-plate"}}
		if c.state != "" {
			q.SkinStates = []string{c.state}
		}
		d := draftingOf(q, ctx)
		d.slip = d.slipProduct()
		d.chosen = []pick{{st: ctx.Strokes[c.key], part: byTool}}
		p := d.compose()
		has := slices.ContainsFunc(p.Steps, func(s protocol.Step) bool { return s.Stroke == "mist-veil" })
		assert.Equal(t, c.mist, has, "%+v", c)
	}
}

// Notes that only inform may stay in a draft; warnings may not.
func TestNotesThatMayStay(t *testing.T) {
	for code, stays := range map[evaluation.Code]bool{evaluation.FlowBreaks: true, evaluation.GlideThin: false, evaluation.DrainLeft: false} {
		assert.Equal(t, stays, tellsOnly(&evaluation.Finding{Code: code, Severity: evaluation.Note}), code)
		assert.False(t, tellsOnly(&evaluation.Finding{Code: code, Severity: evaluation.Warning}), code)
	}
}

// How a stroke serves a concern: its zones with its intents, then what is beside them (review of the
// composer).
func TestHowAStrokeServes(t *testing.T) {
	jowls := protocol.ConcernOf("jowls") // jawline and lower cheek; lift, release, drain; beside them the chin
	require.Contains(t, jowls.Also, "chin")
	for _, c := range []struct {
		intent stroke.Intent
		zone   string
		want   int
	}{{stroke.Lift, "jawline", 2}, {stroke.Drain, "lower-cheek", 2}, {stroke.Soothe, "jawline", 1}, {stroke.Lift, "chin", 1}, {stroke.Soothe, "chin", 0}, {stroke.Lift, "crown", 0}} {
		assert.Equal(t, c.want, serves(strokeOf(c.intent, stroke.Effleurage, c.zone), jowls), "%+v", c)
	}
	d := draftingOf(Question{Concerns: []string{"jowls", "puffiness"}}, crafttest.Studio())
	first, second := strokeOf(stroke.Lift, stroke.Effleurage, "jawline"), strokeOf(stroke.Drain, stroke.Effleurage, "mid-cheek")
	assert.Greater(t, d.score(first), d.score(second), "the first concern counts more")
	assert.Greater(t, d.score(strokeOf(stroke.Lift, stroke.Effleurage, "jawline", "lower-cheek")), d.score(first), "two zones more than one")
	assert.Greater(t, d.score(first), d.score(strokeOf(stroke.Drain, stroke.Effleurage, "jawline")), "its first intent more than a later one")
	assert.Zero(t, d.score(strokeOf(stroke.Lift, stroke.Effleurage, "crown")))
}

// The arc: big slow strokes, hair, the face with the concerns' strokes last, home, tools with the cold
// one last, calm; in a region firm before light and drains last (review of the composer).
func TestTheArcOfTheWork(t *testing.T) {
	ctx := crafttest.Studio()
	d := draftingOf(Question{Concerns: []string{"jowls"}, Minutes: 45}, ctx)
	tool := func(key string, on bool) pick {
		st := strokeOf(stroke.Lift, stroke.ToolGlide, "jawline")
		st.Tool = &stroke.ToolPart{Key: key}
		return pick{st: st, on: on, part: byTool}
	}
	hand := func(intent stroke.Intent, pressure int, zone string, on bool, at part) pick {
		st := strokeOf(intent, stroke.Effleurage, zone)
		st.Pressure = pressure
		return pick{st: st, on: on, part: at}
	}
	want := []pick{
		hand(stroke.Soothe, 2, "shoulder", false, arriving),
		hand(stroke.Soothe, 3, "crown", false, inHair),
		hand(stroke.Lift, 2, "mid-cheek", false, working),
		hand(stroke.Soothe, 2, "forehead", false, working),
		hand(stroke.Lift, 3, "jawline", true, working),
		hand(stroke.Lift, 2, "jawline", true, working),
		hand(stroke.Drain, 1, "jawline", true, working),
		hand(stroke.Drain, 1, "side-neck", false, carryingHome),
		tool("stone-plate", true),
		tool("cold-globes", true),
		hand(stroke.Soothe, 2, "forehead", false, calming),
	}
	for i := range want {
		for j := range want {
			if i < j {
				assert.Negative(t, d.arc(want[i], want[j]), "%d before %d", i, j)
				assert.Positive(t, d.arc(want[j], want[i]), "%d after %d", j, i)
			}
		}
	}
}

// How many strokes a teacher takes (review of the composer for 30, 45 and 60 minutes).
func TestHowManyStrokesATeacherTakes(t *testing.T) {
	for minutes, want := range map[int][2]int{30: {8, 14}, 45: {14, 20}, 60: {18, 26}} {
		least, most := span(minutes)
		assert.Equal(t, want, [2]int{least, most}, minutes)
	}
	last := 0
	for minutes := 5; minutes <= 120; minutes++ {
		least, most := span(minutes)
		assert.True(t, least >= 1 && least <= most && most >= last, minutes)
		last = most
	}
}
