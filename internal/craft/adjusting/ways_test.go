package adjusting_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

func exclude(o contraindication.Outcome) contraindication.Contraindication {
	o.Kind = contraindication.Exclude
	return contraindication.Contraindication{Rule: "r", Kind: contraindication.Exclude, Title: "T", Why: "w", Outcome: o}
}

// zonesOf are the zones on the path of the step with an id.
func zonesOf(e *evaluation.Evaluation, id string) []string {
	for i := range e.Steps {
		if e.Steps[i].ID == id {
			out := []string{}
			for _, pt := range e.Steps[i].Path {
				out = append(out, pt.Zone)
			}
			return out
		}
	}
	return nil
}

// Where the nodes that a stroke drains into are closed on one side although its
// own path is free, that side goes another way and the other keeps its own: from
// the chest to the armpit where the collarbone's hollow is left out (handbook,
// chapter 1: below-collarbone drains to the terminus; that hands also sweep it out
// to the armpit is common practice).
func TestASideWhoseNodesAreClosedGoesAnotherWay(t *testing.T) {
	up := []protocol.PathPoint{{Zone: "breastbone"}, {Zone: "chest"}, {Zone: "below-collarbone"}}
	closed := crafttest.LeaveOut(contraindication.ZoneSide{Zone: "collarbone-hollow", Side: "left"})
	for _, c := range []struct {
		name  string
		step  protocol.Step
		sides map[string]stroke.Sides // by step id
	}{
		{"both", protocol.Step{Stroke: "chest-drain", Path: up}, map[string]stroke.Sides{"f-chest-drain": stroke.RightOnly, "f-chest-drain-left": stroke.LeftOnly}},
		{"the closed side alone", protocol.Step{Stroke: "chest-drain", Sides: stroke.LeftOnly, Path: up}, map[string]stroke.Sides{"f-chest-drain": stroke.LeftOnly}},
		{"the free side alone", protocol.Step{Stroke: "chest-drain", Sides: stroke.RightOnly, Path: up}, map[string]stroke.Sides{"f-chest-drain": stroke.RightOnly}},
	} {
		t.Run(c.name, func(t *testing.T) {
			c.step.Use = &protocol.Use{Product: "oil", Amount: slip.Amount{Value: 1, Measure: slip.ML}}
			got := adjusting.Adjust(crafttest.Treatment(15, c.step, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "forehead-effleurage"}), crafttest.TradeStudio(), contraindication.Merge([]contraindication.Contraindication{closed}))
			require.False(t, got.Refused, "%+v", got.Adjustments)
			used := 0.0
			for i := range got.Evaluation.Steps {
				r := &got.Evaluation.Steps[i]
				if r.StrokeKey != "chest-drain" {
					continue
				}
				assert.Equal(t, c.sides[r.ID], r.Sides, r.ID)
				want := []string{"breastbone", "chest", "below-collarbone"}
				if r.Sides == stroke.LeftOnly {
					want = append(want, "armpit")
				}
				assert.Equal(t, want, zonesOf(got.Evaluation, r.ID))
				delete(c.sides, r.ID)
				used += got.Protocol.Steps[i].Use.Amount.Value
			}
			assert.Empty(t, c.sides, "every side is worked")
			assert.InDelta(t, 1, used, 1e-9, "no more product than before")
		})
	}
}

// A stroke that may not be done with its tool or hand is done with the one that
// it names itself, before another stroke is looked for (handbook, chapter 5).
func TestAnotherHandOrToolFirst(t *testing.T) {
	ctx := crafttest.TradeStudio()
	own := *ctx.Strokes["stone-jaw"]
	own.Key, own.Name = "own-jaw", "Own jaw glide"
	for _, c := range []struct {
		name       string
		alternates []stroke.Alternate
		did        adjusting.AdjustmentKind
		hand       string
		tool       string
	}{
		{"a hand", []stroke.Alternate{{Hand: "fist knuckles"}, {Stroke: "jaw-sweep"}}, adjusting.OtherHand, "fist knuckles", ""},
		{"a tool of another kind", []stroke.Alternate{{Tool: &stroke.ToolPart{Key: "cylinder"}}}, adjusting.OtherHand, "", "cylinder"},
		{"not a tool that is barred as well", []stroke.Alternate{{Tool: &stroke.ToolPart{Key: "soft-cup"}}, {Stroke: "jaw-sweep"}}, adjusting.Swapped, "", ""},
		{"not a tool that the studio has not got", []stroke.Alternate{{Tool: &stroke.ToolPart{Key: "gold-fork"}}, {Stroke: "jaw-sweep"}}, adjusting.Swapped, "", ""},
		{"not a hand meant for long nails", []stroke.Alternate{{When: "long-nails", Hand: "fist knuckles"}, {Stroke: "jaw-sweep"}}, adjusting.Swapped, "", ""},
		{"its own other stroke before the library's", []stroke.Alternate{{Stroke: "jaw-sweep"}}, adjusting.Swapped, "", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			st := own
			st.Alternates = c.alternates
			ctx.Strokes["own-jaw"] = &st
			got := adjusting.Adjust(crafttest.Treatment(12, protocol.Step{Stroke: "own-jaw"}, protocol.Step{Stroke: "cheek-scoop"}), ctx, contraindication.Merge([]contraindication.Contraindication{exclude(contraindication.Outcome{Tools: []string{"stone", "cup"}})}))
			i := slices.IndexFunc(got.Adjustments, func(ch adjusting.Adjustment) bool { return ch.Step == "f-own-jaw" })
			require.GreaterOrEqual(t, i, 0)
			assert.Equal(t, c.did, got.Adjustments[i].Kind)
			r := &got.Evaluation.Steps[got.Protocol.Index("f-own-jaw")]
			if c.did == adjusting.Swapped {
				assert.Equal(t, "jaw-sweep", r.StrokeKey)
				return
			}
			tool := ""
			if r.Tool != nil {
				tool = r.Tool.Key
			}
			assert.Equal(t, "own-jaw", r.StrokeKey)
			assert.Equal(t, c.tool, tool)
			if c.hand != "" {
				assert.Equal(t, c.hand, r.Hand)
			}
		})
	}
}

// A client who does not want oil on the skin gets a product of another form, the
// one that the practitioner asks for where it serves (handbook, chapter 5: a
// preference).
func TestAProductOfAnotherForm(t *testing.T) {
	ctx := crafttest.TradeStudio()
	for _, p := range []slip.Product{
		{Key: "cream", Name: "Cream", Form: slip.MassageCream, FullDose: 4, RangeMin: 2, RangeMax: 5},
		{Key: "serum", Name: "Serum", Form: slip.MoistSerum, FullDose: 4, RangeMin: 2, RangeMax: 5},
		{Key: "milk", Name: "Milk", Form: slip.Milk, FullDose: 4, RangeMin: 2, RangeMax: 5},
	} {
		ctx.Products[p.Key] = &p
	}
	p := crafttest.Treatment(12, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "jaw-scissor"})
	took := func(set func(*contraindication.Constraints)) (string, []string) {
		c := contraindication.Merge([]contraindication.Contraindication{exclude(contraindication.Outcome{Forms: []string{"oil", "balm"}})})
		if set != nil {
			set(c)
		}
		got := adjusting.Adjust(p, ctx, c)
		for _, ch := range got.Adjustments {
			if ch.Kind == adjusting.Replaced {
				if u := got.Protocol.Steps[0].Use; u != nil {
					return u.Product, ch.Others
				}
			}
		}
		return "", nil
	}
	product, others := took(nil)
	assert.Equal(t, "serum", product, "nearest to the oil's half-life")
	assert.Equal(t, []string{"serum", "cream"}, others, "what cleanses does not serve")
	product, _ = took(func(c *contraindication.Constraints) { c.Prefer("almond", "cream") })
	assert.Equal(t, "cream", product, "the one asked for")
	product, _ = took(func(c *contraindication.Constraints) { c.Prefer("almond", "milk") })
	assert.Equal(t, "serum", product, "one that does not serve is not taken, asked for or not")
	product, _ = took(func(c *contraindication.Constraints) { c.OnShelf(map[string]float64{"cream": 100}) })
	assert.Equal(t, "cream", product, "the only one there is enough of")
}

// What touches a place besides the path is kept off it as well: the other hand,
// also where it goes later, a finger, a part of the stroke (handbook, chapter 5:
// leave the zone out).
func TestNothingElseTouchesAPlaceThatIsLeftOut(t *testing.T) {
	two := 2
	for _, c := range []struct {
		name string
		step protocol.Step
	}{
		{"the other hand", protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "temple", Pressure: 1, Role: "supports"}}},
		{"where the other hand goes later", protocol.Step{Stroke: "jaw-sweep", Anchor: &stroke.Anchor{Zone: "chin", Pressure: 1, Role: "catches", Then: []stroke.AnchorChange{{Zone: "temple", Pressure: 1, Role: "supports"}}}}},
		{"a finger", protocol.Step{Stroke: "jaw-sweep", Fingers: []stroke.Finger{{Part: "thumb", Pressure: 1, Zone: "temple"}}}},
		{"a part", protocol.Step{Stroke: "jaw-sweep", Parts: []stroke.Part{{Kind: stroke.Move, Seconds: 2}, {Kind: stroke.Hold, Seconds: 1, Zone: "temple", Pressure: &two}}}},
		{"a part of the last time", protocol.Step{Stroke: "jaw-sweep", Last: &stroke.Last{Parts: []stroke.Part{{Kind: stroke.Hold, Seconds: 2, Zone: "temple"}}}}},
	} {
		t.Run(c.name, func(t *testing.T) {
			ctx := crafttest.TradeStudio()
			p := crafttest.Treatment(15, c.step, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "chin-knead"})
			asks := contraindication.Merge([]contraindication.Contraindication{crafttest.LeaveOut(contraindication.ZoneSide{Zone: "temple", Side: "both"})})
			here := *ctx
			here.Excluded = asks.Excluded()
			assert.True(t, slices.ContainsFunc(evaluation.Evaluate(p, &here).Findings, func(f evaluation.Finding) bool {
				return f.Code == evaluation.ExcludedZone && f.Steps[0] == "f-jaw-sweep"
			}), "the plan is found to touch it")
			got := adjusting.Adjust(p, ctx, asks)
			for i := range got.Evaluation.Steps {
				r := &got.Evaluation.Steps[i]
				assert.False(t, slices.ContainsFunc(r.Path, func(pt evaluation.Stop) bool { return pt.Zone == "temple" }), r.Name)
				for zone := range r.Besides {
					assert.NotEqual(t, "temple", zone, r.Name)
				}
			}
			assert.True(t, slices.ContainsFunc(got.Adjustments, func(ch adjusting.Adjustment) bool { return ch.Step == "f-jaw-sweep" && ch.Title == "T" }), "%+v", got.Adjustments)
		})
	}
}

// A cap holds for everything that presses: the path, single fingers, parts, the
// last time, the other hand, wherever it goes.
func TestACapHoldsForEveryFingerAndPart(t *testing.T) {
	four := 4
	hard := protocol.Step{Stroke: "jaw-sweep", Pressure: &four,
		Anchor:  &stroke.Anchor{Zone: "chin", Pressure: 3, Role: "supports", Then: []stroke.AnchorChange{{Zone: "temple", Pressure: 3, Role: "catches"}}},
		Fingers: []stroke.Finger{{Part: "thumb", Pressure: 3, Zone: "lower-cheek"}, {Part: "index", Pressure: 4}},
		Parts:   []stroke.Part{{Kind: stroke.Move, Seconds: 2}, {Kind: stroke.Hold, Seconds: 1, Pressure: &four}, {Kind: stroke.Pulse, Seconds: 1, Count: 2, Zone: "jaw-angle", Pressure: &four}},
		Last:    &stroke.Last{Pressure: &four, Parts: []stroke.Part{{Kind: stroke.Hold, Seconds: 3, Pressure: &four}}}}
	for _, c := range []struct {
		name  string
		zones []string
		most  func(zone string) int
	}{
		{"everywhere", nil, func(string) int { return 2 }},
		{"on the jaw's angle", []string{"jaw-angle"}, func(zone string) int {
			if zone == "jaw-angle" {
				return 2
			}
			return 4
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			places := []contraindication.ZoneSide{}
			for _, z := range c.zones {
				places = append(places, contraindication.ZoneSide{Zone: z, Side: "both"})
			}
			got := adjusting.Adjust(crafttest.Treatment(15, hard, protocol.Step{Stroke: "cheek-scoop"}), crafttest.TradeStudio(), contraindication.Merge([]contraindication.Contraindication{{Rule: "r", Kind: contraindication.Cap, Title: "T", Why: "w", Places: places, Outcome: contraindication.Outcome{Kind: contraindication.Cap, Pressure: 2, Zones: c.zones}}}))
			r := &got.Evaluation.Steps[got.Protocol.Index("f-jaw-sweep")]
			along := 4 // what presses along the whole path may press as its most careful zone bears
			for i := range r.Path {
				assert.LessOrEqual(t, r.Path[i].Pressure, c.most(r.Path[i].Zone), r.Path[i].Zone)
				along = min(along, c.most(r.Path[i].Zone))
			}
			holds := func(what, zone string, pressure int) {
				most := along
				if zone != "" {
					most = c.most(zone)
				}
				assert.LessOrEqual(t, pressure, most, what)
			}
			for _, f := range r.Fingers {
				holds("finger", f.Zone, f.Pressure)
			}
			holds("the other hand", r.Anchor.Zone, r.Anchor.Pressure)
			for _, then := range r.Anchor.Then {
				holds("the other hand later", then.Zone, then.Pressure)
			}
			require.NotNil(t, r.Last, "how the last time differs is kept")
			for _, part := range append(slices.Clone(r.Parts), r.Last.Parts...) {
				if part.Pressure != nil {
					holds("a part", part.Zone, *part.Pressure)
				}
			}
			holds("the last time", "", *r.Last.Pressure)
			assert.True(t, slices.ContainsFunc(got.Adjustments, func(ch adjusting.Adjustment) bool {
				return ch.Step == r.ID && ch.Kind == adjusting.Lowered && ch.Gentler
			}), "%+v", got.Adjustments)
		})
	}
	assert.Equal(t, 4, *hard.Last.Pressure, "the plan as published is as it was")
	assert.Equal(t, 4, hard.Fingers[1].Pressure)
}

// Where the sides are worked apart and nothing can be shortened, some of the work
// goes, never the opening or the closing, and the plan fits again (handbook,
// chapter 5: refitted).
func TestSomeOfTheWorkGoesSoThatTheRestFits(t *testing.T) {
	ctx := crafttest.TradeStudio()
	fixed := &stroke.Dose{Kind: stroke.Reps, Planned: 4, Min: 4, Max: 4}
	work := []protocol.Step{}
	for _, k := range []string{"cheek-scoop", "forehead-effleurage", "cheek-knuckles", "forehead-knuckles", "cheek-scoop", "cheek-knuckles", "brow-scoop"} {
		work = append(work, protocol.Step{Stroke: k, Dose: fixed})
	}
	p := crafttest.Treatment(1, work...)
	for i := range p.Steps { // nothing gives way
		d := *evaluation.Resolve(p, i, ctx).Dose
		d.Min, d.Max = d.Planned, d.Planned
		p.Steps[i].Dose = &d
	}
	seconds := evaluation.Evaluate(p, ctx).Seconds
	p.Minutes.HandsOn = int(seconds/60) + 1
	p.Minutes.Treatment = p.Minutes.HandsOn + 10
	sore := crafttest.LeaveOut(contraindication.ZoneSide{Zone: "nasolabial", Side: "left"}, contraindication.ZoneSide{Zone: "mid-cheek", Side: "left"})
	got := adjusting.Adjust(p, ctx, contraindication.Merge([]contraindication.Contraindication{sore}))
	require.False(t, got.Refused, "%+v", got.Adjustments)
	assert.LessOrEqual(t, got.Evaluation.Seconds, float64(p.Minutes.HandsOn*60)+0.5)
	gone := 0
	for _, ch := range got.Adjustments {
		if ch.Kind == adjusting.NoTime {
			gone++
			assert.True(t, ch.Gentler)
		}
	}
	assert.Positive(t, gone, "%.0f s of %d; %+v", got.Evaluation.Seconds, p.Minutes.HandsOn*60, got.Adjustments)
	for i := range p.Steps {
		if ph := p.Steps[i].Phase; ph != "work" {
			assert.GreaterOrEqual(t, got.Protocol.Index(p.Steps[i].ID), 0, "%s stays", p.Steps[i].ID)
		}
	}
}

// What makes a plan whole again is light work: a wish for a lighter hand does not
// stand in its way, a feather stays a feather. Product goes on again where a rule
// asks for it, with and without the wish.
func TestALighterHandStillMakesThePlanWhole(t *testing.T) {
	ctx := crafttest.TradeStudio()
	ctx.Products["oil"].HalfLife = 5 // soon gone
	p := crafttest.Treatment(30, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "jaw-scissor"}, protocol.Step{Stroke: "forehead-effleurage"}, protocol.Step{Stroke: "cheek-knuckles"})
	p.Steps[0].Use.Product = "oil"
	p = fitting.Fit(p, ctx, 30*60).Protocol
	thin := func(e *evaluation.Evaluation) (n int) {
		for _, f := range e.Findings {
			if f.Code == evaluation.GlideThin {
				n++
			}
		}
		return n
	}
	require.Positive(t, thin(evaluation.Evaluate(p, ctx)))
	wish := contraindication.Contraindication{Rule: "wish", Kind: contraindication.Lighter, Title: "Wish", Why: "w", Outcome: contraindication.Outcome{Kind: contraindication.Lighter}}
	for _, asks := range [][]contraindication.Contraindication{nil, {wish}} {
		c := contraindication.Merge(asks)
		c.Explain("again", "Again", "It dries.")
		c.Reapply("again")
		got := adjusting.Adjust(p, ctx, c)
		assert.Zero(t, thin(got.Evaluation), "%+v", got.Adjustments)
		assert.True(t, slices.ContainsFunc(got.Adjustments, func(ch adjusting.Adjustment) bool {
			return ch.Kind == adjusting.Restored && ch.Rule == "again" && ch.Why == "It dries."
		}), "%+v", got.Adjustments)
	}
	still := adjusting.Adjust(p, ctx, contraindication.Merge([]contraindication.Contraindication{wish}))
	assert.Positive(t, thin(still.Evaluation), "what was thin before is the plan's own affair where nothing asks for more")
}

// A stroke whose one side is led another way is still held to today's pressure
// limits, on both sides. Found by the property test of all constraints.
func TestASideLedAnotherWayKeepsThePressureLimit(t *testing.T) {
	ctx := crafttest.TradeStudio()
	for _, key := range []string{"stone-eye", "cheek-to-ear", "chin-to-ear"} {
		if ctx.Strokes[key] == nil {
			continue
		}
		p := crafttest.Treatment(30, protocol.Step{Stroke: key})
		limits := []contraindication.Contraindication{
			{Rule: "A", Title: "A", Why: "w", Kind: contraindication.LeaveOut, Places: []contraindication.ZoneSide{{Zone: "front-of-ear", Side: "left"}}},
			{Rule: "B", Title: "B", Why: "w", Kind: contraindication.Cap, Outcome: contraindication.Outcome{Pressure: 0}},
		}
		got := adjusting.Adjust(p, ctx, contraindication.Merge(limits))
		assert.True(t, slices.ContainsFunc(got.Adjustments, func(a adjusting.Adjustment) bool { return a.Kind == adjusting.Rerouted }), key)
		for _, r := range got.Evaluation.Steps {
			for _, pt := range r.Path {
				assert.Zero(t, pt.Pressure, "%s: %s on %s", key, r.ID, pt.Zone)
			}
		}
	}
}

// One side of the path is left out, and a finger has a place that is left out on the
// other: then no side is free, and the fork round the ear is not worked at all
// (handbook, chapter 5: leave the zone out).
func TestASideIsFreeOnlyWhereEveryFingerIsFree(t *testing.T) {
	ctx := crafttest.TradeStudio()
	asks := contraindication.Merge([]contraindication.Contraindication{crafttest.LeaveOut(
		contraindication.ZoneSide{Zone: "front-of-ear", Side: "left"}, contraindication.ZoneSide{Zone: "behind-ear", Side: "right"})})
	got := adjusting.Adjust(crafttest.Treatment(30, protocol.Step{Stroke: "breathe-together"}), ctx, asks)
	for i := range got.Evaluation.Steps {
		r := &got.Evaluation.Steps[i]
		assert.False(t, touches(r, "front-of-ear", "left") || touches(r, "behind-ear", "right"), r.ID)
	}
}
