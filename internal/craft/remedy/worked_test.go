package remedy_test

import (
	"maps"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// The worked fixes of this file are by hand: a plan, what was found in it, and the plan that
// a practitioner expects after the press (common practice; order of opening and ways home
// from the project's handbook, chapters 1 and 3).

// finding is one of a code on a step, as an evaluation would make it.
func finding(code evaluation.Code, on string, values evaluation.Payload) evaluation.Finding {
	f := evaluation.Finding{ID: "found", Code: code, Values: values}
	if on != "" {
		f.Steps = []string{on}
	}
	return f
}

// fix does once what a fix does for a finding.
func fix(p *protocol.Protocol, ctx *protocol.Context, f evaluation.Finding, with evaluation.Fix) (*protocol.Protocol, error) {
	e := evaluation.Evaluate(p, ctx)
	f.Fixes = []evaluation.Fix{with}
	e.Findings = append(e.Findings, f)
	return remedy.ApplyTo(p, ctx, e, f.ID, with)
}

// order writes a plan as "phase stroke, ...".
func order(p *protocol.Protocol) string {
	out := []string{}
	for i := range p.Steps {
		out = append(out, string(p.Steps[i].Phase)+" "+p.Steps[i].Stroke)
	}
	return strings.Join(out, ", ")
}

func at(s protocol.Step, phase protocol.Phase) protocol.Step {
	s.Phase = phase
	return s
}

func path(s *protocol.Step) string {
	out := []string{}
	for _, p := range s.Path {
		out = append(out, p.Zone)
	}
	return strings.Join(out, " ")
}

// with is the small studio with strokes of one's own added, or taken away where nil.
func with(own map[string]*stroke.Stroke) *protocol.Context {
	ctx := crafttest.SmallStudio()
	ctx.Strokes = maps.Clone(ctx.Strokes)
	for k, st := range own {
		delete(ctx.Strokes, k)
		if st != nil {
			st.Key, st.Name = k, k
			ctx.Strokes[k] = st
		}
	}
	return ctx
}

// Nodes are opened from the terminus up: what opens a node comes before what needs it.
func TestWhereOpeningsGo(t *testing.T) {
	ctx := crafttest.SmallStudio()
	drain, pumps, neck, ear := crafttest.Do("face-drain"), at(crafttest.Do("pumps"), "open"), at(crafttest.Do("neck-open"), "open"), at(crafttest.Do("ear-open"), "open")
	closed := func(on string, g anatomy.NodeGroup) evaluation.Finding {
		return finding(evaluation.DrainClosed, on, &evaluation.NotOpen{Node: g})
	}
	early := func(on string, g anatomy.NodeGroup) evaluation.Finding {
		return finding(evaluation.DrainOrder, on, &evaluation.TooEarly{Needs: g})
	}
	for _, c := range []struct {
		name  string
		steps []protocol.Step
		f     evaluation.Finding
		fix   evaluation.Fix
		want  string
	}{
		{"the step that opens it, whatever lies between", []protocol.Step{crafttest.Do("effleurage"), drain, crafttest.Do("neck-glide"), pumps, neck},
			closed("face-drain#2", anatomy.Terminus), evaluation.MoveBefore, "work effleurage, work pumps, work face-drain, work neck-glide, open neck-open"},
		{"the first of several", []protocol.Step{ear, neck, pumps, pumps}, early("ear-open#1", anatomy.Terminus), evaluation.MoveBefore, "open pumps, open ear-open, open neck-open, open pumps"},
		{"all that is missing, from the terminus up", []protocol.Step{crafttest.Do("effleurage"), drain}, closed("face-drain#2", anatomy.Preauricular), evaluation.OpenFirst,
			"work effleurage, open pumps, open neck-open, open ear-open, work face-drain"},
		{"not what is open already", []protocol.Step{pumps, drain}, closed("face-drain#2", anatomy.Preauricular), evaluation.OpenFirst,
			"open pumps, open neck-open, open ear-open, work face-drain"},
		{"what is opened later does not count", []protocol.Step{drain, pumps}, closed("face-drain#1", anatomy.DeepCervical), evaluation.OpenFirst,
			"open pumps, open neck-open, work face-drain, open pumps"},
		{"the terminus alone", []protocol.Step{drain}, closed("face-drain#1", anatomy.Terminus), evaluation.OpenFirst, "open pumps, work face-drain"},
	} {
		q, err := fix(crafttest.Plan(10, c.steps...), ctx, c.f, c.fix)
		require.NoError(t, err, c.name)
		assert.Equal(t, c.want, order(q), c.name)
		for i := range q.Steps {
			if q.Index(q.Steps[i].ID) != i {
				t.Errorf("%s: two steps are called %s", c.name, q.Steps[i].ID)
			}
			if c.fix == evaluation.OpenFirst && strings.Contains(q.Steps[i].ID, "-open-") {
				assert.Equal(t, stroke.BothAtOnce, q.Steps[i].Sides)
			}
		}
	}
	_, err := fix(crafttest.Plan(10, pumps, drain, neck), ctx, closed("face-drain#2", anatomy.Terminus), evaluation.MoveBefore)
	require.Error(t, err, "what opens it is there before")
	_, err = fix(crafttest.Plan(10, drain), with(map[string]*stroke.Stroke{"neck-open": nil}), closed("face-drain#1", anatomy.Preauricular), evaluation.OpenFirst)
	require.ErrorContains(t, err, "library", "no stroke that opens the neck")

	one := with(map[string]*stroke.Stroke{"neck-open": nil, "ear-open": nil, "both-open": {Manner: stroke.Manner{Intent: stroke.Open}, Pressure: 1, Relation: stroke.Slides, Path: []string{"side-neck", "front-of-ear"}, Sides: stroke.BothAtOnce, Dose: crafttest.Reps(3), Parts: crafttest.Parts(crafttest.Move(2))}})
	q, err := fix(crafttest.Plan(10, drain), one, closed("face-drain#1", anatomy.Preauricular), evaluation.OpenFirst)
	require.NoError(t, err)
	assert.Equal(t, "open pumps, open both-open, open both-open, work face-drain", order(q))
	assert.NotEqual(t, q.Steps[1].ID, q.Steps[2].ID)
}

// The whole opening stands before the first step that needs it: one that drains, lifts or
// releases.
func TestTheWholeOpeningGoesBeforeWhatNeedsIt(t *testing.T) {
	ctx := with(map[string]*stroke.Stroke{"jaw-open": {Manner: stroke.Manner{Intent: stroke.Open}, Pressure: 1, Relation: stroke.Carries, Path: []string{"under-jaw"}, Sides: stroke.BothAtOnce, Dose: crafttest.Reps(3), Parts: crafttest.Parts(crafttest.Move(2))}})
	opening := "open pumps, open neck-open, open ear-open, open jaw-open"
	none := finding(evaluation.NoOpening, "", evaluation.Nothing{})
	for _, needs := range []string{"face-drain", "lift", "press"} { // drains, lifts, releases
		q, err := fix(crafttest.Plan(10, crafttest.Do("effleurage"), crafttest.Do(needs), crafttest.Do("neck-glide")), ctx, none, evaluation.OpenAll)
		require.NoError(t, err)
		assert.Equal(t, "work effleurage, "+opening+", work "+needs+", work neck-glide", order(q))
	}
	q, err := fix(crafttest.Plan(10, crafttest.Do("effleurage")), ctx, none, evaluation.OpenAll)
	require.NoError(t, err)
	assert.Equal(t, "work effleurage, "+opening, order(q), "nothing needs it: at the end")
	_, err = fix(crafttest.Plan(10, crafttest.Do("lift")), crafttest.SmallStudio(), none, evaluation.OpenAll)
	require.Error(t, err, "nothing opens below the jaw")
}

// What was moved is carried home from where it lies, before the plan ends.
func TestTheWayHome(t *testing.T) {
	ctx := crafttest.SmallStudio()
	for zone, want := range map[string]string{
		"temple":    "temple front-of-ear below-ear side-neck collarbone-hollow",
		"below-ear": "below-ear side-neck collarbone-hollow",
		"side-neck": "side-neck collarbone-hollow",
		"":          "front-of-ear below-ear side-neck collarbone-hollow",
		"cheekbone": "cheekbone front-of-ear below-ear side-neck collarbone-hollow",
	} {
		p := crafttest.Plan(10, at(crafttest.Do("breathe"), "settle"), crafttest.Do("face-drain"), at(crafttest.Do("effleurage"), "finish"), at(crafttest.Do("breathe"), "wake"), at(crafttest.Do("wipe"), "reset"))
		q, err := fix(p, ctx, finding(evaluation.DrainLeft, "", &evaluation.Undrained{AtZone: evaluation.AtZone{Zone: zone}}), evaluation.CarryHome)
		require.NoError(t, err, zone)
		require.Equal(t, "settle breathe, work face-drain, close neck-glide, finish effleurage, wake breathe, reset wipe", order(q), zone)
		s := &q.Steps[2]
		assert.Equal(t, want, path(s), zone)
		assert.Equal(t, 1, *s.Pressure)
		assert.Equal(t, stroke.BothAtOnce, s.Sides)
	}
	for name, st := range map[string]*stroke.Stroke{
		"none":                 nil,
		"one that stays":       {Manner: stroke.Manner{Intent: stroke.Drain}, Relation: stroke.Still, Path: []string{"collarbone-hollow"}, Dose: crafttest.Reps(3)},
		"one that ends before": {Manner: stroke.Manner{Intent: stroke.Drain}, Relation: stroke.Slides, Path: []string{"collarbone-hollow", "side-neck"}, Dose: crafttest.Reps(3)},
		"one with a tool":      {Manner: stroke.Manner{Intent: stroke.Drain}, Relation: stroke.Slides, Tool: &stroke.ToolPart{Key: "stone"}, Path: []string{"side-neck", "collarbone-hollow"}, Dose: crafttest.Reps(3)},
		"one that lifts":       {Manner: stroke.Manner{Intent: stroke.Lift}, Relation: stroke.Slides, Path: []string{"side-neck", "collarbone-hollow"}, Dose: crafttest.Reps(3)},
		"one of no path":       {Manner: stroke.Manner{Intent: stroke.Drain}, Relation: stroke.Slides, Dose: crafttest.Reps(3)},
	} {
		_, err := fix(crafttest.Plan(10, crafttest.Do("breathe")), with(map[string]*stroke.Stroke{"neck-glide": nil, "own": st}), finding(evaluation.DrainLeft, "", evaluation.Nothing{}), evaluation.CarryHome)
		require.Error(t, err, name)
	}

	p := crafttest.Plan(10, crafttest.Do("face-drain"), protocol.Step{Stroke: "lift", Round: "r"}, crafttest.Do("effleurage"))
	q, err := fix(p, ctx, finding(evaluation.NotCleared, "lift#2", evaluation.Nothing{}), evaluation.ClearSet)
	require.NoError(t, err)
	assert.Equal(t, "work face-drain, work lift, work neck-glide, work effleurage", order(q))
	assert.Equal(t, "r", q.Steps[2].Round)
	assert.Equal(t, "cheekbone front-of-ear below-ear side-neck collarbone-hollow", path(&q.Steps[2]))
	_, err = fix(p, with(map[string]*stroke.Stroke{"neck-glide": {Manner: stroke.Manner{Intent: stroke.Drain}, Path: []string{"collarbone-hollow"}, Dose: crafttest.Reps(3)}}), finding(evaluation.NotCleared, "lift#2", evaluation.Nothing{}), evaluation.ClearSet)
	require.Error(t, err, "a stroke on the hollow alone runs down no neck")
}

// A path is turned round with its pressures.
func TestAPathIsReversed(t *testing.T) {
	ctx := crafttest.SmallStudio()
	for _, c := range []struct{ was, want string }{
		{"chin", "chin"}, {"chin jawline", "jawline chin"}, {"chin jawline temple", "temple jawline chin"}, {"chin jawline cheekbone temple", "temple cheekbone jawline chin"},
	} {
		s := protocol.Step{Stroke: "effleurage", Path: crafttest.Zones(strings.Fields(c.was)...)}
		s.Path[0].Pressure = crafttest.Ptr(3)
		q, err := fix(crafttest.Plan(10, s), ctx, finding(evaluation.DrainAway, "effleurage#1", evaluation.Nothing{}), evaluation.ReversePath)
		require.NoError(t, err)
		assert.Equal(t, c.want, path(&q.Steps[0]))
		assert.Equal(t, 3, *q.Steps[0].Path[len(q.Steps[0].Path)-1].Pressure)
		assert.Equal(t, c.was, path(&s), "the plan that was is as it was")
	}
}

// Pressure comes down to the limit where it was above it, in every part of the stroke, and
// nowhere else.
func TestPressureComesDownToTheLimit(t *testing.T) {
	ctx := crafttest.SmallStudio()
	three, four := 3, 4
	s := protocol.Step{
		Stroke: "effleurage", Pressure: &four,
		Path:    []protocol.PathPoint{{Zone: "jawline", Pressure: &three}, {Zone: "temple"}, {Zone: "under-eye"}},
		Anchor:  &stroke.Anchor{Zone: "temple", Pressure: 4, Then: []stroke.AnchorChange{{Zone: "temple", Pressure: 4}, {Zone: "chin", Pressure: 4}}},
		Fingers: []stroke.Finger{{Part: "index", Pressure: 4}, {Part: "middle", Pressure: 1}, {Part: "ring", Pressure: 4, Zone: "temple"}, {Part: "thumb", Pressure: 4, Zone: "chin"}},
		Parts:   []stroke.Part{{Kind: stroke.Move, Seconds: 3, Pressure: &four}, {Kind: stroke.Hold, Seconds: 2, Zone: "temple", Pressure: &four}, {Kind: stroke.Hold, Seconds: 2, Zone: "chin", Pressure: &four}, {Kind: stroke.Hold, Seconds: 1}},
		Last:    &stroke.Last{Pressure: &four, Parts: []stroke.Part{{Kind: stroke.Hold, Seconds: 4, Pressure: &four}}},
	}
	p := crafttest.Plan(10, s)
	f := finding(evaluation.PressureDrain, "effleurage#1", &evaluation.AboveLimit{AtZone: evaluation.AtZone{Zone: "temple"}, Pressure: 4, Ceiling: 2})
	q, err := fix(p, ctx, f, evaluation.LowerPressure)
	require.NoError(t, err)
	got := &q.Steps[0]
	for i := range got.Path {
		zone := crafttest.MustZone(t, got.Path[i].Zone).Zone()
		require.NotNil(t, got.Path[i].Pressure, zone.Key)
		assert.Equal(t, min(2, zone.Ceiling), *got.Path[i].Pressure, zone.Key)
	}
	assert.Equal(t, []int{2, 2, 4}, []int{got.Anchor.Pressure, got.Anchor.Then[0].Pressure, got.Anchor.Then[1].Pressure})
	assert.Equal(t, []int{2, 1, 2, 4}, []int{got.Fingers[0].Pressure, got.Fingers[1].Pressure, got.Fingers[2].Pressure, got.Fingers[3].Pressure})
	assert.Equal(t, []int{2, 2, 4}, []int{*got.Parts[0].Pressure, *got.Parts[1].Pressure, *got.Parts[2].Pressure})
	assert.Nil(t, got.Parts[3].Pressure)
	assert.Equal(t, []int{2, 2}, []int{*got.Last.Pressure, *got.Last.Parts[0].Pressure})
	assert.Equal(t, 4, *p.Steps[0].Parts[0].Pressure, "the plan that was is as it was")
	assert.Equal(t, 4, p.Steps[0].Anchor.Pressure)

	f = finding(evaluation.PressureCeiling, "effleurage#1", &evaluation.AboveLimit{AtZone: evaluation.AtZone{Zone: "under-eye"}, Pressure: 4, Ceiling: 1})
	q, err = fix(crafttest.Plan(10, protocol.Step{Stroke: "effleurage", Pressure: &four, Path: crafttest.Zones("jawline", "under-eye")}), ctx, f, evaluation.LowerPressure)
	require.NoError(t, err)
	got = &q.Steps[0]
	under := crafttest.MustZone(t, "under-eye").Zone()
	assert.Equal(t, under.Ceiling, *got.Path[1].Pressure)
	if jaw := crafttest.MustZone(t, "jawline").Zone(); jaw.Ceiling >= 4 {
		assert.Nil(t, got.Path[0].Pressure, "each zone keeps to its own limit, not to that of the one found")
	}
	assert.Nil(t, got.Anchor)
	assert.Empty(t, got.Parts)
	assert.Nil(t, got.Last)

	still := crafttest.MustZone(t, "temple").Zone()
	q, err = fix(crafttest.Plan(10, protocol.Step{Stroke: "press", Pressure: crafttest.Ptr(5)}), ctx,
		finding(evaluation.PressureCeiling, "press#1", &evaluation.AboveLimit{AtZone: evaluation.AtZone{Zone: "temple"}, Pressure: 5, Ceiling: still.StillCeiling}), evaluation.LowerPressure)
	require.NoError(t, err)
	assert.Equal(t, still.StillCeiling, *q.Steps[0].Path[0].Pressure, "a still press has the limit of a still press")
}

// A zone is left out of the path; a step that works nowhere else goes; one whose anchor or
// finger stands there is not changed but refused.
func TestAZoneIsLeftOut(t *testing.T) {
	ctx := crafttest.SmallStudio()
	there := func(code evaluation.Code, zone string) evaluation.Finding {
		return finding(code, "effleurage#1", &evaluation.AtZone{Zone: zone})
	}
	s := protocol.Step{Stroke: "effleurage", Path: crafttest.Zones("chin", "under-eye", "jawline")}
	q, err := fix(crafttest.Plan(10, s, crafttest.Do("press")), ctx, there(evaluation.ToolOnThroat, "chin"), evaluation.LeaveZone)
	require.NoError(t, err)
	assert.Equal(t, "under-eye jawline", path(&q.Steps[0]))
	q, err = fix(crafttest.Plan(10, s, crafttest.Do("press")), ctx, there(evaluation.DryDrag, "chin"), evaluation.LeaveZone)
	require.NoError(t, err)
	assert.Equal(t, "jawline", path(&q.Steps[0]), "in dry work all delicate skin is left out at once")
	s.Path = crafttest.Zones("chin")
	q, err = fix(crafttest.Plan(10, s, crafttest.Do("press")), ctx, there(evaluation.ToolOnThroat, "chin"), evaluation.LeaveZone)
	require.NoError(t, err)
	assert.Equal(t, "work press", order(q))
	s.Anchor = &stroke.Anchor{Zone: "temple", Pressure: 1}
	_, err = fix(crafttest.Plan(10, s), ctx, there(evaluation.ToolOnThroat, "temple"), evaluation.LeaveZone)
	require.Error(t, err)
}

// Product is taken off before the step that has too much of it; a step that puts it on
// itself just does not.
func TestBlotting(t *testing.T) {
	ctx := crafttest.SmallStudio()
	slick := finding(evaluation.GlideSlick, "crease#2", evaluation.Nothing{})
	p := crafttest.Plan(10, crafttest.Do("spread"), at(crafttest.Do("crease"), "exercises"))
	q, err := fix(p, ctx, slick, evaluation.Blot)
	require.NoError(t, err)
	assert.Equal(t, "work spread, exercises wipe, exercises crease", order(q))
	assert.Equal(t, "wipe", q.Steps[1].Remove)
	assert.Equal(t, "nasolabial", path(&q.Steps[1]))
	assert.Equal(t, stroke.BothAtOnce, q.Steps[1].Sides)
	p.Steps[1].Use = crafttest.Oil(20)
	q, err = fix(p, ctx, slick, evaluation.Blot)
	require.NoError(t, err)
	assert.Equal(t, "work spread, exercises crease", order(q))
	assert.Nil(t, q.Steps[1].Use)
	p.Steps[1].Use = nil
	for name, st := range map[string]*stroke.Stroke{"none": nil, "one that rubs": {Manner: stroke.Manner{Intent: stroke.Cleanse}, Relation: stroke.Slides, Path: []string{"chin"}, Dose: crafttest.Clock(9)}} {
		_, err = fix(p, with(map[string]*stroke.Stroke{"wipe": st}), slick, evaluation.Blot)
		require.Error(t, err, name)
	}
}

// A stroke that slides too dry gets the product again, in a dose for the regions it works.
func TestProductIsAddedInADoseForThePath(t *testing.T) {
	ctx := crafttest.SmallStudio()
	thin := func(on, product string) evaluation.Finding {
		return finding(evaluation.GlideThin, on, &evaluation.SlipBelow{Product: product})
	}
	regions := map[anatomy.Region]bool{}
	for _, z := range []string{"forehead-centre", "temple"} {
		regions[crafttest.MustZone(t, z).Zone().Region] = true
	}
	share := 0.0
	for r := range regions {
		share += slip.ShareOf(r)
	}
	p := crafttest.Plan(10, crafttest.Do("breathe"), at(crafttest.Do("effleurage"), "finish"))
	q, err := fix(p, ctx, thin("effleurage#2", "oil"), evaluation.AddProduct)
	require.NoError(t, err)
	assert.Equal(t, "work breathe, apply spread, finish effleurage", order(q))
	use := q.Steps[1].Use
	assert.Equal(t, slip.Drops, use.Amount.Measure)
	assert.InDelta(t, 0.6*4*30*share, use.Amount.Value, 1, "whole drops, rounded up, of six tenths of the full dose")
	assert.GreaterOrEqual(t, use.Amount.Value, 0.6*4*30*share-1e-6)
	assert.InDelta(t, use.Amount.Value, float64(int(use.Amount.Value)), 0)
	assert.Equal(t, "forehead-centre temple", path(&q.Steps[1]))

	q, err = fix(p, ctx, thin("effleurage#2", "serum"), evaluation.AddProduct)
	require.NoError(t, err)
	assert.Equal(t, slip.ML, q.Steps[1].Use.Amount.Measure)
	assert.InDelta(t, 0.6*3*share, q.Steps[1].Use.Amount.Value, 0.0051)

	q, err = fix(crafttest.Plan(10, at(crafttest.Do("effleurage"), "wake")), ctx, thin("effleurage#1", "serum"), evaluation.AddProduct)
	require.NoError(t, err)
	assert.Equal(t, protocol.Phase("apply"), q.Steps[0].Phase)
	q, err = fix(crafttest.Plan(10, crafttest.Do("effleurage")), ctx, thin("effleurage#1", "serum"), evaluation.AddProduct)
	require.NoError(t, err)
	assert.Equal(t, protocol.Phase("work"), q.Steps[0].Phase)

	for _, product := range []string{"", "no-such"} {
		_, err = fix(p, ctx, thin("effleurage#2", product), evaluation.AddProduct)
		require.Error(t, err)
	}
	_, err = fix(p, with(map[string]*stroke.Stroke{"spread": nil}), thin("effleurage#2", "oil"), evaluation.AddProduct)
	require.Error(t, err)

	first := crafttest.Plan(10, protocol.Step{Stroke: "effleurage", Round: "r"}, protocol.Step{Stroke: "press", Round: "r"})
	first.Rounds = []protocol.Round{{ID: "r", Times: 2}}
	q, err = fix(first, ctx, thin("press#2", "oil"), evaluation.AddProduct)
	require.NoError(t, err)
	assert.Equal(t, "work spread, work effleurage, work press", order(q), "a round at the beginning of the plan")
}

// Mist goes on before the cold, before its round, in what the product's range begins with.
func TestMistBeforeTheCold(t *testing.T) {
	mist := &stroke.Stroke{Manner: stroke.Manner{Intent: stroke.Spread}, Relation: stroke.Still, Pressure: 0, Path: []string{"mid-cheek"}, Dose: crafttest.Clock(10)}
	ctx := with(map[string]*stroke.Stroke{"mist-on": mist})
	ctx.Products = map[string]*slip.Product{
		"a-oil":  {Key: "a-oil", Form: slip.Oil, FullDose: 4},
		"b-mist": {Key: "b-mist", Form: slip.Mist, FullDose: 1, RangeMin: 0.8, Unsuited: []string{"dehydrated"}},
		"c-mist": {Key: "c-mist", Form: slip.Mist, FullDose: 1, RangeMin: 0.2},
	}
	dry := finding(evaluation.ColdDry, "press#3", evaluation.Nothing{})
	steps := []protocol.Step{crafttest.Do("breathe"), {Stroke: "effleurage", Round: "r"}, {Stroke: "press", Round: "r", Phase: "close"}}
	p := crafttest.Plan(10, steps...)
	p.Rounds = []protocol.Round{{ID: "r", Times: 2}}
	q, err := fix(p, ctx, dry, evaluation.MistFirst)
	require.NoError(t, err)
	assert.Equal(t, "work breathe, close mist-on, work effleurage, close press", order(q))
	assert.Equal(t, &protocol.Use{Product: "b-mist", Amount: slip.Amount{Value: 0.8, Measure: slip.ML}}, q.Steps[1].Use)
	ctx.SkinStates = []string{"dehydrated"}
	q, err = fix(p, ctx, dry, evaluation.MistFirst)
	require.NoError(t, err)
	assert.Equal(t, &protocol.Use{Product: "c-mist", Amount: slip.Amount{Value: 0.5, Measure: slip.ML}}, q.Steps[1].Use, "one that suits the skin, half a millilitre at least")
	p.Steps[1].Round, p.Steps[2].Round = "", ""
	q, err = fix(p, ctx, dry, evaluation.MistFirst)
	require.NoError(t, err)
	assert.Equal(t, "work breathe, work effleurage, close mist-on, close press", order(q))
	delete(ctx.Products, "c-mist")
	_, err = fix(p, ctx, dry, evaluation.MistFirst)
	require.Error(t, err)
}

// A phase that is missing goes where the phases have it, waking up just before the reset.
func TestAPhaseIsAddedInItsPlace(t *testing.T) {
	rest := func(intent stroke.Intent, kind stroke.DoseKind, path ...string) *stroke.Stroke {
		return &stroke.Stroke{Manner: stroke.Manner{Intent: intent, Family: stroke.Rest}, Path: path, Dose: stroke.Dose{Kind: kind, Planned: 3, In: 4, Out: 6}}
	}
	ctx := with(map[string]*stroke.Stroke{"z-settle": rest(stroke.Settle, stroke.Breaths), "a-settle": rest(stroke.Settle, stroke.Clock), "z-look": rest(stroke.LookOver, stroke.Clock, "chin"), "a-look": rest(stroke.LookOver, stroke.Clock),
		"z-wake": rest(stroke.Finish, stroke.Clock), "a-wake": rest(stroke.Finish, stroke.Clock, "chin")})
	tool := rest(stroke.Finish, stroke.Clock)
	tool.Tool = &stroke.ToolPart{Key: "stone"}
	ctx.Strokes["b-wake"] = tool
	p := crafttest.Plan(10, at(crafttest.Do("wipe"), "cleanse"), crafttest.Do("press"), at(crafttest.Do("effleurage"), "finish"), at(crafttest.Do("wipe"), "reset"))
	for phase, want := range map[protocol.Phase]string{
		"settle":    "settle z-settle, cleanse wipe, work press, finish effleurage, reset wipe",
		"look-over": "look-over z-look, cleanse wipe, work press, finish effleurage, reset wipe",
		"wake":      "cleanse wipe, work press, finish effleurage, wake z-wake, reset wipe",
	} {
		q, err := fix(p, ctx, finding(evaluation.PhaseMissing, "", &evaluation.NoPhase{Phase: phase}), evaluation.AddPhase)
		require.NoError(t, err, phase)
		assert.Equal(t, want, order(q), phase)
	}
	q, err := fix(crafttest.Plan(10, at(crafttest.Do("breathe"), "settle"), at(crafttest.Do("press"), "work")), ctx, finding(evaluation.PhaseMissing, "", &evaluation.NoPhase{Phase: "look-over"}), evaluation.AddPhase)
	require.NoError(t, err)
	assert.Equal(t, "settle breathe, look-over z-look, work press", order(q))
	q, err = fix(crafttest.Plan(10, at(crafttest.Do("breathe"), "settle")), ctx, finding(evaluation.PhaseMissing, "", &evaluation.NoPhase{Phase: "look-over"}), evaluation.AddPhase)
	require.NoError(t, err)
	assert.Equal(t, "settle breathe, look-over z-look", order(q))
	_, err = fix(p, crafttest.SmallStudio(), finding(evaluation.PhaseMissing, "", &evaluation.NoPhase{Phase: "settle"}), evaluation.AddPhase)
	require.Error(t, err)
	_, err = fix(p, ctx, finding(evaluation.PhaseMissing, "", &evaluation.NoPhase{Phase: "compare"}), evaluation.AddPhase)
	require.Error(t, err)
}

// One-sided steps without a counterpart get one, right after them, on the other side.
func TestTheOtherSideIsAdded(t *testing.T) {
	ctx := crafttest.SmallStudio()
	p := crafttest.Plan(10, crafttest.Do("lift"), protocol.Step{Stroke: "effleurage", Sides: stroke.RightOnly}, crafttest.Do("press"),
		protocol.Step{ID: "done", Stroke: "lift", Sides: stroke.LeftOnly}, protocol.Step{Stroke: "lift", Sides: stroke.RightOnly, MirrorOf: "done"})
	q, err := fix(p, ctx, finding(evaluation.SidesUnequal, "", evaluation.Nothing{}), evaluation.MirrorStep)
	require.NoError(t, err)
	assert.Equal(t, "work lift, work lift, work effleurage, work effleurage, work press, work lift, work lift", order(q))
	assert.Equal(t, []stroke.Sides{"", stroke.RightOnly, stroke.RightOnly, stroke.LeftOnly}, []stroke.Sides{q.Steps[0].Sides, q.Steps[1].Sides, q.Steps[2].Sides, q.Steps[3].Sides})
	assert.Equal(t, []string{"lift#1", "effleurage#2"}, []string{q.Steps[1].MirrorOf, q.Steps[3].MirrorOf})
}

// Cold stays below ten minutes in all, every step by the same share; strokes round the eye
// lose repetitions, the longest first, down to what they need.
func TestDosesComeDown(t *testing.T) {
	ctx := crafttest.Studio()
	globes := &stroke.ToolPart{Key: "cold-globes"}
	cold := func(seconds int) protocol.Step {
		return protocol.Step{Stroke: "temple-press", Tool: globes, Sides: stroke.BothAtOnce, Dose: &stroke.Dose{Kind: stroke.Clock, Planned: seconds, Min: 300}}
	}
	p := crafttest.Plan(30, cold(800), crafttest.Do("cheek-scoop"), cold(400))
	q, err := fix(p, ctx, finding(evaluation.ColdLong, "temple-press#1", &evaluation.TooLong{}), evaluation.ShorterCold)
	require.NoError(t, err)
	first, second := q.Steps[0].Dose, q.Steps[2].Dose
	e := evaluation.Evaluate(p, ctx)
	total := float64(e.Steps[0].Seconds + e.Steps[2].Seconds)
	limit := evaluation.ColdSeconds - 10*evaluation.SideChangeSecond
	assert.Equal(t, int(800*limit/total), first.Planned)
	assert.Equal(t, int(400*limit/total), second.Planned)
	assert.Equal(t, min(300, first.Planned), first.Min)
	assert.Equal(t, min(300, second.Planned), second.Min)
	assert.Nil(t, q.Steps[1].Dose)
	after := evaluation.Evaluate(q, ctx)
	assert.LessOrEqual(t, float64(after.Steps[0].Seconds+after.Steps[2].Seconds), evaluation.ColdSeconds)

	small := crafttest.SmallStudio()
	eye := func(n int) protocol.Step {
		return protocol.Step{Stroke: "effleurage", Path: crafttest.Zones("under-eye", "temple"), Sides: stroke.BothAtOnce, Dose: &stroke.Dose{Kind: stroke.Reps, Planned: n, Min: 2, Max: 100}}
	}
	p = crafttest.Plan(30, eye(40), eye(30), crafttest.Do("press"))
	f := finding(evaluation.EyeLoad, "effleurage#1", &evaluation.Slid{AtZone: evaluation.AtZone{Zone: "under-eye"}})
	q, err = fix(p, small, f, evaluation.LessLoad)
	require.NoError(t, err)
	load := func(q *protocol.Protocol) (most float64) {
		for _, l := range evaluation.Evaluate(q, small).Loads {
			if l.Zone == "under-eye" {
				most = max(most, l.Sliding)
			}
		}
		return most
	}
	require.Greater(t, load(p), evaluation.UnderEyeSeconds)
	assert.LessOrEqual(t, load(q), evaluation.UnderEyeSeconds+0.5)
	assert.Greater(t, load(q), evaluation.UnderEyeSeconds-4, "and not a repetition more than that takes away")
	assert.InDelta(t, q.Steps[0].Dose.Planned, q.Steps[1].Dose.Planned, 1, "the longest first: they end alike")
	least := eye(100)
	least.Dose.Min = 100
	_, err = fix(crafttest.Plan(30, least), small, f, evaluation.LessLoad)
	require.Error(t, err, "as short as it may be")
}

// The stroke for promised zones is by hand, works most of them, and serves the concern with
// its first intent before its second; several are added where one does not reach.
func TestPromisedZonesAreWorked(t *testing.T) {
	c := protocol.ConcernOf("jowls")
	require.NotNil(t, c)
	require.GreaterOrEqual(t, len(c.Intents), 2)
	own := func(intent stroke.Intent, path ...string) *stroke.Stroke {
		return &stroke.Stroke{Manner: stroke.Manner{Intent: intent, Family: stroke.Effleurage}, Glide: stroke.SlideGlide, Relation: stroke.Slides, Pressure: 2, Path: path, Sides: stroke.BothAtOnce, Dose: crafttest.Reps(3), Parts: crafttest.Parts(crafttest.Move(3))}
	}
	want := func(name string, strokes map[string]*stroke.Stroke, zones []string, expect string) {
		t.Helper()
		ctx := &protocol.Context{Strokes: map[string]*stroke.Stroke{}, Products: map[string]*slip.Product{}, Tools: map[string]protocol.Tool{}}
		for k, st := range strokes {
			st.Key, st.Name = k, k
			ctx.Strokes[k] = st
		}
		ctx.Strokes["begin"] = own(stroke.Soothe, "forehead-centre")
		ctx.Strokes["begin"].Key = "begin"
		p := crafttest.Plan(10, at(crafttest.Do("begin"), "open"), crafttest.Do("begin"), at(crafttest.Do("begin"), "close"))
		q, err := fix(p, ctx, finding(evaluation.Promise, "", &evaluation.Unworked{Concern: "jowls", Zones: zones}), evaluation.WorkZone)
		if expect == "" {
			require.Error(t, err, name)
			return
		}
		require.NoError(t, err, name)
		assert.Equal(t, "open begin, work begin, "+expect+", close begin", order(q), name)
	}
	first, second := c.Intents[0], c.Intents[1]
	both := []string{"jawline", "chin"}
	want("most zones", map[string]*stroke.Stroke{"a": own(first, "jawline"), "b": own(first, "jawline", "chin")}, both, "work b")
	want("the earlier intent", map[string]*stroke.Stroke{"a": own(second, "jawline", "chin"), "b": own(first, "jawline", "chin")}, both, "work b")
	want("more zones before the earlier intent", map[string]*stroke.Stroke{"a": own(second, "jawline", "chin"), "b": own(first, "jawline")}, both, "work a")
	want("the shorter path", map[string]*stroke.Stroke{"a": own(first, "jawline", "chin", "temple"), "b": own(first, "jawline", "chin")}, both, "work b")
	want("the first by key", map[string]*stroke.Stroke{"b": own(first, "jawline", "chin"), "a": own(first, "jawline", "chin")}, both, "work a")
	want("two, each its zone", map[string]*stroke.Stroke{"a": own(first, "jawline"), "b": own(first, "chin")}, both, "work a, work b")
	want("none with that intent", map[string]*stroke.Stroke{"a": own(stroke.Cleanse, "jawline", "chin")}, both, "")
	want("none that reaches", map[string]*stroke.Stroke{"a": own(first, "jawline")}, both, "")
	withTool, grips := own(first, "jawline", "chin"), own(first, "jawline", "chin")
	withTool.Tool, grips.Glide = &stroke.ToolPart{Key: "stone"}, stroke.GripGlide
	want("by hand", map[string]*stroke.Stroke{"a": withTool, "b": own(first, "jawline", "chin", "temple")}, both, "work b")
	want("not gripping dry", map[string]*stroke.Stroke{"a": grips, "b": own(first, "jawline", "chin", "temple")}, both, "work b")
	_, err := fix(crafttest.Plan(10, crafttest.Do("press")), crafttest.SmallStudio(), finding(evaluation.Promise, "", &evaluation.Unworked{Concern: "our own", Zones: both}), evaluation.WorkZone)
	require.Error(t, err)
}

// Gloves from the mouth come off on the step that kept them on, and hygiene steps stand
// before the step, in its phase and round.
func TestHygieneIsPutIn(t *testing.T) {
	ctx := with(map[string]*stroke.Stroke{"wash-hands": {Manner: stroke.Manner{Intent: stroke.Finish, Family: stroke.Rest}, Dose: crafttest.Clock(30)}})
	p := crafttest.Plan(10, protocol.Step{Stroke: "press", Gloves: "keep"}, protocol.Step{Stroke: "lift", Gloves: "none", Round: "r", Phase: "exercises"}, protocol.Step{Stroke: "press", Gloves: "keep"})
	q, err := fix(p, ctx, finding(evaluation.GlovesKept, "lift#2", evaluation.Nothing{}), evaluation.WearGloves)
	require.NoError(t, err)
	assert.Equal(t, []string{"", "", "keep"}, []string{q.Steps[0].Gloves, q.Steps[1].Gloves, q.Steps[2].Gloves})
	q, err = fix(p, ctx, finding(evaluation.NotWashed, "lift#2", &evaluation.Touched{}), evaluation.WashHands)
	require.NoError(t, err)
	assert.Equal(t, "work press, exercises wash-hands, exercises lift, work press", order(q))
	assert.Equal(t, "r", q.Steps[1].Round)
	_, err = fix(p, ctx, finding(evaluation.HandsTired, "lift#2", &evaluation.TooLong{}), evaluation.ShakeOut)
	require.Error(t, err, "the library has no such stroke")
}
