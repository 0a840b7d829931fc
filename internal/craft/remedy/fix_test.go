package remedy_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Whatever the plan, its school and the skin: a fix that can be applied leaves a
// plan that holds together, takes its own finding away, and adds none of its kind.
func TestAFixAddsNothingOfItsOwnKind(t *testing.T) {
	keys := make([]string, 0, 145)
	for _, st := range stroke.Trade() {
		keys = append(keys, st.Key)
	}
	pick := func(t *rapid.T, name string, of ...string) string { return rapid.SampledFrom(of).Draw(t, name) }
	rapid.Check(t, func(t *rapid.T) {
		ctx := crafttest.Studio()
		if s := pick(t, "skin", "", "sensitive", "couperose", "dehydrated", "acne-prone"); s != "" {
			ctx.SkinStates = []string{s}
		}
		var steps []protocol.Step
		for range rapid.IntRange(1, 12).Draw(t, "steps") {
			s := protocol.Step{Stroke: rapid.SampledFrom(keys).Draw(t, "stroke"), Phase: protocol.Phase(pick(t, "phase", "open", "work", "work", "work", "close"))}
			if rapid.IntRange(0, 4).Draw(t, "odd") == 0 {
				s.Pressure = crafttest.Ptr(rapid.IntRange(0, 5).Draw(t, "pressure"))
			}
			if rapid.IntRange(0, 5).Draw(t, "oily") == 0 {
				s = crafttest.Oiled(s)
			}
			steps = append(steps, s)
		}
		p := crafttest.Plan(rapid.IntRange(2, 20).Draw(t, "slot"), steps...)
		p.Setting = pick(t, "setting", "", "self")
		p.Concerns = []string{pick(t, "concern", "jowls", "puffiness", "clenching", "eye-lines")}
		p.Method = protocol.Method{Drainage: pick(t, "drainage", "", "none", "only-close", "whole"), Clearing: pick(t, "clearing", "", "after-set"), Closing: pick(t, "closing", "", "reverse"),
			Eye: pick(t, "eye", "", "outward", "in-below"), Slip: pick(t, "slip", "", "dry"), Redness: pick(t, "redness", "", "avoided"), Sides: pick(t, "sides", "", "each-step")}
		if len(p.Validate(ctx, "")) > 0 {
			return
		}
		e := evaluation.Evaluate(p, ctx)
		had := map[string]bool{}
		for _, f := range e.Findings {
			had[f.ID] = true
		}
		for _, f := range e.Findings {
			for _, fix := range f.Fixes {
				q, err := remedy.Apply(p, ctx, f.ID, fix)
				if err != nil {
					continue // says in words that it cannot
				}
				if ps := q.Validate(ctx, ""); len(ps) > 0 {
					t.Fatalf("%s for %s breaks the plan: %v", fix, f.ID, ps)
				}
				for _, g := range evaluation.Evaluate(q, ctx).Findings {
					if g.Code == f.Code && !had[g.ID] {
						t.Fatalf("%s for %s adds %s %v", fix, f.ID, g.ID, g.Values)
					}
					if g.ID == f.ID && (len(f.Steps) == 0 || sameFault(&f, &g)) {
						t.Fatalf("%s leaves %s standing: %v", fix, f.ID, g.Values)
					}
				}
			}
		}
	})
}

func sameFault(f, g *evaluation.Finding) bool {
	zone, node := f.Values.Place()
	otherZone, otherNode := g.Values.Place()
	return zone == otherZone && node == otherNode
}

// A draft whose stroke or product was removed meanwhile still opens: each is a
// finding that stops publishing, and its fix takes it out (common practice: the
// work on a draft is not lost).
func TestRemovedStrokeAndProductAreFindings(t *testing.T) {
	ctx := crafttest.SmallStudio()
	gone := crafttest.Oil(60)
	gone.Product = "rose"
	p := crafttest.Plan(10, crafttest.Do("effleurage"), protocol.Step{Stroke: "retired", Path: crafttest.Zones("chin"), Dose: crafttest.Ptr(crafttest.Reps(4))}, protocol.Step{Stroke: "spread", Use: gone})
	require.Empty(t, p.ValidateStructure(ctx, ""))
	require.Len(t, p.Validate(ctx, ""), 2, "publishing and giving it still ask for both")
	e := evaluation.EvaluateWithSetUp(p, ctx)
	stroke, product := crafttest.Found(e, evaluation.StrokeMissing, "retired#2"), crafttest.Found(e, evaluation.ProductMissing, "spread#3")
	require.NotNil(t, stroke)
	require.NotNil(t, product)
	assert.Equal(t, evaluation.Stopping, stroke.Severity)
	assert.Equal(t, evaluation.Stopping, product.Severity)
	for _, f := range []*evaluation.Finding{stroke, product} {
		q, err := remedy.Apply(p, ctx, f.ID, f.Fixes[0])
		require.NoError(t, err)
		assert.Nil(t, crafttest.Found(evaluation.Evaluate(q, ctx), f.Code, ""))
	}
	assert.NotPanics(t, func() { fitting.Fit(p, ctx, 300) })
	for _, c := range []remedy.Command{remedy.ReverseTheOpening, remedy.OneSideFirst, remedy.InTurnsEach, remedy.SmootherOrder} {
		assert.NotPanics(t, func() { _, _ = remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: c}) }, c)
	}
}

// Product that is added for a step of a round goes on once, before the round.
func TestProductIsAddedBeforeTheRound(t *testing.T) {
	ctx := crafttest.SmallStudio()
	p := crafttest.Plan(30, protocol.Step{Stroke: "spread", Use: &protocol.Use{Product: "serum", Amount: slip.Amount{Value: 2, Measure: slip.ML}}},
		protocol.Step{Stroke: "press", Dose: crafttest.Ptr(crafttest.Clock(600))},
		protocol.Step{Stroke: "crease", Round: "r"}, protocol.Step{Stroke: "effleurage", Round: "r"}, protocol.Step{Stroke: "press", Round: "r"})
	p.Rounds = []protocol.Round{{ID: "r", Times: 3}}
	crafttest.Valid(t, p)
	thin := crafttest.Found(evaluation.Evaluate(p, ctx), evaluation.GlideThin, "effleurage#4")
	require.NotNil(t, thin)
	q, err := remedy.Apply(p, ctx, thin.ID, evaluation.AddProduct)
	require.NoError(t, err)
	crafttest.Valid(t, q)
	require.Len(t, q.Steps, 6)
	assert.Equal(t, "spread", q.Steps[2].Stroke)
	assert.Empty(t, q.Steps[2].Round)
	assert.Equal(t, "crease#3", q.Steps[3].ID)
	before, after := evaluation.Evaluate(p, ctx).Products[0].ML, evaluation.Evaluate(q, ctx).Products[0].ML
	assert.InDelta(t, before+q.Steps[2].Use.Amount.Value, after, 1e-9, "once, not once a round")
}

// Product is taken back to the studio's range in the steps a hand can dose, and
// never to nothing.
func TestLessProductKeepsToTheMeasure(t *testing.T) {
	ctx := crafttest.SmallStudio()
	for _, c := range []struct {
		was, want slip.Amount
	}{
		{slip.Amount{Value: 301, Measure: slip.Drops}, slip.Amount{Value: 150, Measure: slip.Drops}}, // 5 mL
		{slip.Amount{Value: 6.03, Measure: slip.ML}, slip.Amount{Value: 5, Measure: slip.ML}},
	} {
		p := crafttest.Plan(10, protocol.Step{Stroke: "spread", Use: &protocol.Use{Product: "oil", Amount: c.was}})
		f := crafttest.Found(evaluation.Evaluate(p, ctx), evaluation.AmountOver, "spread#1")
		require.NotNil(t, f)
		q, err := remedy.Apply(p, ctx, f.ID, evaluation.LessProduct)
		require.NoError(t, err)
		assert.Equal(t, c.want.Measure, q.Steps[0].Use.Amount.Measure)
		assert.InDelta(t, c.want.Value, q.Steps[0].Use.Amount.Value, 1e-9)
	}
}

// Every fix takes its own finding away, whatever the plan: property over
// random plans of the test library.
func TestFixesFix(t *testing.T) {
	keys := []string{"effleurage", "eye-stone", "twin-balls", "pumps", "neck-open", "ear-open", "crease", "face-drain", "neck-glide", "spread", "lift", "press"}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 9).Draw(t, "steps")
		var steps []protocol.Step
		for i := range n {
			s := crafttest.Do(rapid.SampledFrom(keys).Draw(t, "stroke"))
			if rapid.Bool().Draw(t, "pressed") {
				s.Pressure = crafttest.Ptr(rapid.IntRange(0, 5).Draw(t, "pressure"))
			}
			if s.Stroke == "spread" || i == 0 {
				s.Use = crafttest.Oil(float64(rapid.IntRange(5, 200).Draw(t, "drops")))
			}
			steps = append(steps, s)
		}
		p := crafttest.Plan(rapid.IntRange(1, 6).Draw(t, "slot"), steps...)
		ctx := crafttest.SmallStudio()
		e := evaluation.Evaluate(p, ctx)
		for _, f := range e.Findings {
			for _, fix := range f.Fixes {
				q, err := remedy.Apply(p, ctx, f.ID, fix)
				if err != nil {
					continue // says in words that it cannot
				}
				if ps := q.Validate(ctx, ""); len(ps) > 0 {
					t.Fatalf("%s for %s breaks the plan: %v", fix, f.ID, ps)
				}
				for _, g := range evaluation.Evaluate(q, ctx).Findings {
					if g.ID == f.ID && (len(f.Steps) == 0 || sameFault(&f, &g)) {
						t.Fatalf("%s leaves %s standing: %v", fix, f.ID, g.Values)
					}
				}
			}
		}
		if _, err := remedy.Apply(p, ctx, "no-such", evaluation.Blot); err == nil {
			t.Fatal("a fix for no finding was applied")
		}
	})
}
