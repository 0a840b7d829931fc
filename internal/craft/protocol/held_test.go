package protocol_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// A draft whose stroke or product was removed meanwhile still opens: each is a
// finding that stops publishing, and its fix takes it out (common practice: the
// work on a draft is not lost).
func TestRemovedStrokeAndProductAreFindings(t *testing.T) {
	ctx := context()
	gone := oil(60)
	gone.Product = "rose"
	p := plan(10, do("effleurage"), protocol.Step{Stroke: "retired", Path: zones("chin"), Dose: ptr(reps(4))}, protocol.Step{Stroke: "spread", Use: gone})
	require.Empty(t, p.ValidateStructure(ctx, ""))
	require.Len(t, p.Validate(ctx, ""), 2, "publishing and giving it still ask for both")
	e := protocol.EvaluateWhole(p, ctx)
	stroke, product := found(e, protocol.StrokeMissing, "retired#2"), found(e, protocol.ProductMissing, "spread#3")
	require.NotNil(t, stroke)
	require.NotNil(t, product)
	assert.Equal(t, protocol.Stopping, stroke.Severity)
	assert.Equal(t, protocol.Stopping, product.Severity)
	for _, f := range []*protocol.Finding{stroke, product} {
		q, err := protocol.Apply(p, ctx, f.ID, f.Fixes[0])
		require.NoError(t, err)
		assert.Nil(t, found(protocol.Evaluate(q, ctx), f.Code, ""))
	}
	assert.NotPanics(t, func() { protocol.Fit(p, ctx, 300) })
	for _, c := range []protocol.Command{protocol.ReverseTheOpening, protocol.OneSideFirst, protocol.InTurnsEach, protocol.SmootherOrder} {
		assert.NotPanics(t, func() { _, _ = protocol.Do(p, ctx, protocol.Order{Command: c}) }, c)
	}
}

// What a plan costs: 12.00 for 50 g of a balm of 0.9 g/mL is 0.24 a gram, so 0.216
// an mL; 4 mL cost 0.86 (by hand; money is rounded once, handbook, chapter 8).
func TestCostOfAProductSoldByWeight(t *testing.T) {
	ctx := context()
	ctx.Products = map[string]*film.Product{"balm": {Key: "balm", Name: "Balm", Form: film.Balm, FullDose: 4, Density: 0.9, Cost: "0.216"}}
	e := protocol.Evaluate(plan(10, protocol.Step{Stroke: "spread", Use: &protocol.Use{Product: "balm", Amount: film.Amount{Value: 3.6, Measure: film.Gram}}}), ctx)
	require.Len(t, e.Products, 1)
	assert.InDelta(t, 4, e.Products[0].ML, 1e-9)
	assert.InDelta(t, 3.6, e.Products[0].G, 1e-9)
	assert.Equal(t, "0.86", e.Products[0].Cost)
}

// The extra repetitions go to the side that is meant, whichever is worked first:
// 3 x 9 s a side and 2 x 9 s more for one (handbook, chapter 3).
func TestEmphasisGoesToItsSide(t *testing.T) {
	for _, first := range []string{"left", "right"} {
		for _, side := range []string{"left", "right"} {
			p := plan(10, protocol.Step{Stroke: "eye-stone", Emphasis: &protocol.Emphasis{Side: side, Extra: 2}})
			p.FirstSide = first
			e := protocol.Evaluate(p, context())
			want := map[string]float64{"left": 27, "right": 27}
			want[side] = 45
			passes := e.Visits[0].Passes
			require.Len(t, passes, 2)
			assert.Equal(t, first, passes[0].Side)
			for _, ps := range passes {
				assert.InDelta(t, want[ps.Side], ps.Seconds, 1e-9, "%s first, more on the %s: %s", first, side, ps.Side)
			}
			assert.InDelta(t, passes[0].Start+passes[0].Seconds+protocol.SideChangeSecond, passes[1].Start, 1e-9)
			assert.InDelta(t, e.Visits[0].End, passes[1].Start+passes[1].Seconds, 1e-9)
		}
	}
}

// Thumb work at 4 tires after 300 s in one run. A rest, or half a minute of other
// work, begins the count anew; so does the note itself (a studio's starting value).
func TestTiredHandsAreCountedFromTheLastRest(t *testing.T) {
	ctx := context()
	strokes := map[string]*stroke.Stroke{}
	for k, s := range ctx.Strokes {
		strokes[k] = s
	}
	strokes["thumbs"] = &stroke.Stroke{Key: "thumbs", Name: "Thumbs", Family: stroke.Petrissage, Hand: "thumb", Intent: stroke.Release, Pressure: 4, Relation: stroke.Carries, Path: []string{"shoulder"}, Sides: stroke.BothAtOnce, Dose: clock(200)}
	ctx.Strokes = strokes
	thumbs := do("thumbs")
	other := func(seconds int) protocol.Step { return protocol.Step{Stroke: "wipe", Dose: ptr(clock(seconds))} }
	tired := func(steps ...protocol.Step) (out []string) {
		for _, f := range protocol.Evaluate(plan(30, steps...), ctx).Findings {
			if f.Code == protocol.HandsTired {
				out = append(out, f.Steps...)
			}
		}
		return out
	}
	assert.Equal(t, []string{"thumbs#2"}, tired(thumbs, thumbs))
	assert.Equal(t, []string{"thumbs#3"}, tired(thumbs, other(29), thumbs), "29 s are no rest")
	assert.Empty(t, tired(thumbs, other(30), thumbs))
	assert.Empty(t, tired(thumbs, do("breathe"), thumbs), "hands off the face rest")
	assert.Equal(t, []string{"thumbs#2", "thumbs#4"}, tired(thumbs, thumbs, thumbs, thumbs), "the count begins anew after each note")
	assert.Empty(t, tired(protocol.Step{Stroke: "thumbs", Dose: ptr(clock(300))}), "300 s are still borne")
}

// Product that is added for a step of a round goes on once, before the round.
func TestProductIsAddedBeforeTheRound(t *testing.T) {
	ctx := context()
	p := plan(30, protocol.Step{Stroke: "spread", Use: &protocol.Use{Product: "serum", Amount: film.Amount{Value: 2, Measure: film.ML}}},
		protocol.Step{Stroke: "press", Dose: ptr(clock(600))},
		protocol.Step{Stroke: "crease", Round: "r"}, protocol.Step{Stroke: "effleurage", Round: "r"}, protocol.Step{Stroke: "press", Round: "r"})
	p.Rounds = []protocol.Round{{ID: "r", Times: 3}}
	valid(t, p)
	thin := found(protocol.Evaluate(p, ctx), protocol.GlideThin, "effleurage#4")
	require.NotNil(t, thin)
	q, err := protocol.Apply(p, ctx, thin.ID, protocol.AddProduct)
	require.NoError(t, err)
	valid(t, q)
	require.Len(t, q.Steps, 6)
	assert.Equal(t, "spread", q.Steps[2].Stroke)
	assert.Empty(t, q.Steps[2].Round)
	assert.Equal(t, "crease#3", q.Steps[3].ID)
	before, after := protocol.Evaluate(p, ctx).Products[0].ML, protocol.Evaluate(q, ctx).Products[0].ML
	assert.InDelta(t, before+q.Steps[2].Use.Amount.Value, after, 1e-9, "once, not once a round")
}

// Opening and closing are never dropped to save time, optional or not (handbook,
// chapter 3).
func TestOpeningAndClosingAreNeverDropped(t *testing.T) {
	optional := func(key string, phase protocol.Phase) protocol.Step {
		return protocol.Step{Stroke: key, Phase: phase, Optional: true}
	}
	p := plan(1, optional("pumps", "open"), optional("effleurage", "open"), optional("neck-open", "work"), optional("effleurage", "work"), optional("neck-glide", "close"), optional("effleurage", "close"))
	got := protocol.Fit(p, context(), 30)
	assert.Equal(t, []string{"effleurage#4"}, got.Dropped)
}

// Nothing goes into the mouth that touched face or hair; clean hands do, and so do
// hands that come from the mouth (common practice).
func TestHandsAreWashedBeforeTheMouth(t *testing.T) {
	ctx := studio()
	unwashed := func(steps ...protocol.Step) *protocol.Finding {
		p := plan(20, steps...)
		p.Setting = ""
		return found(protocol.Evaluate(p, ctx), protocol.NotWashed, "")
	}
	mouth, face := do("mouth-masseter"), do("cheek-palms")
	assert.Nil(t, unwashed(mouth))
	assert.Nil(t, unwashed(mouth, do("mouth-upper-press")))
	after := unwashed(face, mouth)
	require.NotNil(t, after)
	assert.Equal(t, string(protocol.SkinHands), after.Values["after"])
	assert.Equal(t, protocol.Stopping, after.Severity)
	assert.Nil(t, unwashed(face, do("wash-hands"), mouth))
	assert.NotNil(t, unwashed(do("wash-hands"), face, mouth))
}

// Product is taken back to the studio's range in the steps a hand can dose, and
// never to nothing.
func TestLessProductKeepsToTheMeasure(t *testing.T) {
	ctx := context()
	for _, c := range []struct {
		was, want film.Amount
	}{
		{film.Amount{Value: 301, Measure: film.Drops}, film.Amount{Value: 150, Measure: film.Drops}}, // 5 mL
		{film.Amount{Value: 6.03, Measure: film.ML}, film.Amount{Value: 5, Measure: film.ML}},
	} {
		p := plan(10, protocol.Step{Stroke: "spread", Use: &protocol.Use{Product: "oil", Amount: c.was}})
		f := found(protocol.Evaluate(p, ctx), protocol.AmountOver, "spread#1")
		require.NotNil(t, f)
		q, err := protocol.Apply(p, ctx, f.ID, protocol.LessProduct)
		require.NoError(t, err)
		assert.Equal(t, c.want.Measure, q.Steps[0].Use.Amount.Measure)
		assert.InDelta(t, c.want.Value, q.Steps[0].Use.Amount.Value, 1e-9)
	}
}
