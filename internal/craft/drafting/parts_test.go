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
	return &stroke.Stroke{Key: "own", Name: "own", Intent: intent, Family: family, Relation: stroke.Slides, Glide: stroke.SlideGlide, Pressure: 2, Path: path, Sides: stroke.BothAtOnce, Dose: crafttest.Reps(3), Parts: crafttest.Parts(crafttest.Move(2))}
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
		{"an exercise has no path", Question{}, with(func(s *stroke.Stroke) { s.Intent, s.Path = stroke.Tone, nil }), true},
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

// How well a stroke serves: each zone more, each later intent and concern less, with a
// little for what always pleases and for a tool that was laid out.
func TestHowWellAStrokeServes(t *testing.T) {
	ctx := crafttest.Studio()
	jowls, puffy := protocol.ConcernOf("jowls"), protocol.ConcernOf("puffiness")
	require.NotNil(t, jowls)
	require.NotNil(t, puffy)
	plain := map[stroke.Intent]float64{stroke.Soothe: 0.15, stroke.Drain: 0.15, stroke.Lift: 0.1, stroke.Tone: -0.1, stroke.Release: 0, stroke.Stimulate: 0}
	elsewhere := "crown"
	for _, c := range append(jowls.Zones, puffy.Zones...) {
		require.NotEqual(t, elsewhere, c)
	}
	d := draftingOf(Question{Concerns: []string{"jowls", "puffiness"}}, ctx)
	for intent, little := range plain {
		assert.InDelta(t, little, d.score(strokeOf(intent, stroke.Effleurage, elsewhere)), 1e-9, intent)
	}
	one := func(c *protocol.Concern, other *protocol.Concern) string {
		for _, z := range c.Zones {
			if !slices.Contains(other.Zones, z) {
				return z
			}
		}
		t.Fatal("no zone of its own")
		return ""
	}
	jowl := one(jowls, puffy)
	for in, intent := range jowls.Intents {
		assert.InDelta(t, 1-0.25*float64(in)+plain[intent], d.score(strokeOf(intent, stroke.Effleurage, jowl)), 1e-9, "%d %s", in, intent)
	}
	first := jowls.Intents[0]
	var two []string
	for _, z := range jowls.Zones {
		if !slices.Contains(puffy.Zones, z) && len(two) < 2 {
			two = append(two, z)
		}
	}
	require.Len(t, two, 2)
	assert.InDelta(t, 1.3+plain[first], d.score(strokeOf(first, stroke.Effleurage, two...)), 1e-9)
	withTool := strokeOf(first, stroke.Effleurage, jowl)
	withTool.Tool = &stroke.ToolPart{Key: "stone-plate"}
	assert.InDelta(t, 1.3+plain[first], d.score(withTool), 1e-9)
	puff := one(puffy, jowls)
	assert.InDelta(t, 1/1.5+plain[puffy.Intents[0]], d.score(strokeOf(puffy.Intents[0], stroke.Effleurage, puff)), 1e-9, "the second concern counts less")
	for intent, little := range plain {
		if !slices.Contains(jowls.Intents, intent) {
			assert.InDelta(t, 0.2+little, d.score(strokeOf(intent, stroke.Effleurage, jowl)), 1e-9, "there, with another intent: %s", intent)
		}
	}
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

// Doses in the measure of the hand: whole drops up to forty, half presses of a pump, tenths
// of a millilitre.
func TestDosesInTheMeasureOfTheHand(t *testing.T) {
	for _, c := range []struct {
		p     slip.Product
		share float64
		want  slip.Amount
	}{
		{slip.Product{FullDose: 1, DropsPerML: 20}, 1, slip.Amount{Value: 20, Measure: slip.Drops}},
		{slip.Product{FullDose: 2, DropsPerML: 20}, 1, slip.Amount{Value: 40, Measure: slip.Drops}},
		{slip.Product{FullDose: 2.05, DropsPerML: 20}, 1, slip.Amount{Value: 2.1, Measure: slip.ML}},
		{slip.Product{FullDose: 1.23, DropsPerML: 20}, 1, slip.Amount{Value: 25, Measure: slip.Drops}},
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

// Tools are laid out, picked up and cleaned: one in a quarter of an hour, two in half an
// hour, three in more; a tool that is out already may be used again.
func TestHowManyToolsAreLaidOut(t *testing.T) {
	tool := func(key string) *stroke.Stroke { return &stroke.Stroke{Tool: &stroke.ToolPart{Key: key}} }
	for _, c := range []struct{ minutes, most int }{{5, 1}, {15, 1}, {16, 2}, {30, 2}, {31, 3}, {60, 3}} {
		d := &drafting{q: Question{Minutes: c.minutes}}
		for i, key := range []string{"a", "b", "c", "d"} {
			assert.Equal(t, i < c.most, d.layable(tool(key)), "%d min, tool %d", c.minutes, i+1)
			if i < c.most {
				d.chosen = append(d.chosen, candidate{st: tool(key)}, candidate{st: tool(key)}, candidate{st: &stroke.Stroke{}})
			}
		}
		assert.True(t, d.layable(tool("a")), "it is out already")
		assert.True(t, d.layable(&stroke.Stroke{}), "hands are always there")
	}
}

// Strokes come in by score, without a twin while others wait, and go out from the last, but
// never one that a promise rests on.
func TestStrokesComeInAndGoOut(t *testing.T) {
	st := func(key string, intent stroke.Intent, path ...string) candidate {
		return candidate{st: &stroke.Stroke{Key: key, Intent: intent, Path: path}}
	}
	d := &drafting{q: Question{Minutes: 20}, waiting: []candidate{st("a", stroke.Lift, "chin"), st("twin", stroke.Lift, "chin"), st("other way", stroke.Drain, "chin"), st("last twin", stroke.Lift, "chin")}}
	keys := func() (out []string) {
		for _, c := range d.chosen {
			out = append(out, c.st.Key)
		}
		return out
	}
	require.True(t, d.take())
	require.True(t, d.take())
	assert.Equal(t, []string{"a", "other way"}, keys())
	require.True(t, d.take())
	assert.Equal(t, []string{"a", "other way", "last twin"}, keys(), "a twin comes in as the last that waits")
	require.True(t, d.take())
	assert.False(t, d.take())
	assert.Len(t, d.chosen, 4)
	assert.True(t, d.more(), "doses get a wider range")
	assert.True(t, d.more(), "twice")
	assert.False(t, d.more())

	d.chosen[3].must, d.chosen[0].must = true, true
	last := d.chosen[2].st.Key
	require.True(t, d.less())
	assert.NotContains(t, keys(), last)
	require.True(t, d.less())
	assert.False(t, d.less())
	assert.Len(t, d.chosen, 2)
}

// The order of work: hands before tools, from the shoulders over the scalp and the forehead
// down, freeing before lifting, draining last.
func TestTheOrderOfWork(t *testing.T) {
	zones := []string{"shoulder", "crown", "forehead", "under-eye", "mid-cheek", "chin"}
	var want []candidate
	for _, tool := range []string{"", "a-stone", "b-stone"} {
		for _, z := range zones {
			for _, in := range []stroke.Intent{stroke.Soothe, stroke.Stimulate, stroke.Release, stroke.Lift, stroke.Tone, stroke.Drain} {
				for _, key := range []string{"a", "b"} {
					st := &stroke.Stroke{Key: key, Intent: in, Path: []string{z}}
					if tool != "" {
						st.Tool = &stroke.ToolPart{Key: tool}
					}
					want = append(want, candidate{st: st})
				}
			}
		}
	}
	for i := range want {
		for j := range want {
			got := workOrder(want[i], want[j])
			assert.Equal(t, i < j, got < 0, "%s before %s", want[i].st.Key, want[j].st.Key)
			assert.Equal(t, i == j, got == 0)
		}
	}
	for i, z := range zones {
		_, ok := anatomy.Lookup(z)
		require.True(t, ok, z)
		assert.Equal(t, i > 0, i > 0 && regionRank(&stroke.Stroke{Path: []string{z}}) > regionRank(&stroke.Stroke{Path: []string{zones[i-1]}}), z)
	}
	exercise := regionRank(&stroke.Stroke{})
	for _, z := range anatomy.Zones {
		assert.Less(t, regionRank(&stroke.Stroke{Path: []string{z.Key}}), exercise, z.Key)
	}
}

// Only what the drains of the plan run into is opened, from the heart on; a method that
// opens with one sweep does that.
func TestWhatADraftOpens(t *testing.T) {
	ctx := crafttest.Studio()
	drain := func(path ...string) []candidate {
		return []candidate{{st: strokeOf(stroke.Drain, stroke.Effleurage, path...)}}
	}
	opened := func(q Question, work []candidate) (groups []anatomy.NodeGroup) {
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
		d.closing(func(phase protocol.Phase, key string, use *protocol.Use) *protocol.Step {
			assert.Equal(t, protocol.Phase("close"), phase)
			assert.Nil(t, use)
			got = append(got, key)
			return &protocol.Step{}
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
			d.chosen = append(d.chosen, candidate{st: ctx.Strokes[key], must: true})
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
	assert.Equal(t, "settle look-over apply open work close wake", phases(short))
	assert.Equal(t, "settle look-over apply work wake", phases(compose(Question{Minutes: 24, Products: all, Method: protocol.Method{Drainage: "none"}}, "cheek-scoop", "lobe-to-hollow")))
	assert.Equal(t, "settle look-over apply work wake", phases(compose(Question{Minutes: 24, Products: all}, "temple-press")), "nothing drains: nothing is opened")
	assert.Equal(t, "settle look-over work wake", phases(compose(Question{Minutes: 24, Products: all, Method: protocol.Method{Slip: "dry"}}, "temple-press")))
	assert.Equal(t, protocol.Minutes{Treatment: 35, HandsOn: 25, Reset: 10}, long.Minutes)
	assert.Equal(t, []int{5, 2, 10}, []int{long.Steps[0].Dose.Planned, long.Steps[0].Dose.Min, long.Steps[0].Dose.Max})
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
	assert.InDelta(t, 0.8*4, mL(step(oily, "spread-passes").Use.Amount, ctx.Products["oil"]), 0.06, "less on oily skin")
	assert.InDelta(t, 4, mL(step(long, "spread-passes").Use.Amount, ctx.Products["oil"]), 0.06)
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
		d.chosen = []candidate{{st: ctx.Strokes[c.key]}}
		p := d.compose()
		has := slices.ContainsFunc(p.Steps, func(s protocol.Step) bool { return s.Stroke == "mist-veil" })
		assert.Equal(t, c.mist, has, "%+v", c)
	}
}

// Steps that no promise rests on and that serve little may go; doses widen when there are
// not enough strokes.
func TestWhatMayGoAndWhatMayGrow(t *testing.T) {
	ctx := crafttest.Studio()
	d := draftingOf(Question{Minutes: 20, Products: []string{"oil"}}, ctx)
	scoop := ctx.Strokes["cheek-scoop"]
	for _, c := range []struct {
		must     bool
		score    float64
		optional bool
	}{{false, 0.49, true}, {false, 0.5, false}, {true, 0.1, false}} {
		d.chosen = []candidate{{st: scoop, must: c.must, score: c.score}}
		p := d.compose()
		i := slices.IndexFunc(p.Steps, func(s protocol.Step) bool { return s.Stroke == "cheek-scoop" })
		assert.Equal(t, c.optional, p.Steps[i].Optional, "%+v", c)
		assert.Nil(t, p.Steps[i].Dose)
	}
	for stretch := 1; stretch <= 2; stretch++ {
		d.stretch = stretch
		p := d.compose()
		i := slices.IndexFunc(p.Steps, func(s protocol.Step) bool { return s.Stroke == "cheek-scoop" })
		require.NotNil(t, p.Steps[i].Dose)
		assert.Equal(t, max(scoop.Dose.Max, scoop.Dose.Planned)*(1+stretch), p.Steps[i].Dose.Max)
	}
	for _, st := range ctx.Strokes {
		if st.Dose.Kind == stroke.Until && d.suits(st) {
			d.chosen = []candidate{{st: st}}
			p := d.compose()
			i := slices.IndexFunc(p.Steps, func(s protocol.Step) bool { return s.Stroke == st.Key })
			assert.Nil(t, p.Steps[i].Dose, "%s ends when it lets go", st.Key)
		}
	}
}

// Notes that only inform may stay in a draft; warnings may not.
func TestNotesThatMayStay(t *testing.T) {
	for code, stays := range map[evaluation.Code]bool{evaluation.FlowBreaks: true, evaluation.GlideThin: false, evaluation.DrainLeft: false} {
		assert.Equal(t, stays, tellsOnly(&evaluation.Finding{Code: code, Severity: evaluation.Note}), code)
		assert.False(t, tellsOnly(&evaluation.Finding{Code: code, Severity: evaluation.Warning}), code)
	}
}
