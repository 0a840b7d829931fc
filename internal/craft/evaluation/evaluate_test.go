package evaluation_test

import (
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

// What a plan costs: 12.00 for 50 g of a balm of 0.9 g/mL is 0.24 a gram, so 0.216
// an mL; 4 mL cost 0.86 (by hand; money is rounded once, handbook, chapter 8).
func TestCostOfAProductSoldByWeight(t *testing.T) {
	ctx := crafttest.SmallStudio()
	ctx.Products = map[string]*slip.Product{"balm": {Key: "balm", Name: "Balm", Form: slip.Balm, FullDose: 4, Density: 0.9, Cost: "0.216"}}
	e := evaluation.Evaluate(crafttest.Plan(10, protocol.Step{Stroke: "spread", Use: &protocol.Use{Product: "balm", Amount: slip.Amount{Value: 3.6, Measure: slip.Gram}}}), ctx)
	require.Len(t, e.Products, 1)
	assert.InDelta(t, 4, e.Products[0].ML, 1e-9)
	assert.InDelta(t, 3.6, e.Products[0].G, 1e-9)
	assert.Equal(t, "0.86", e.Products[0].Cost)
}

// The worked example of the handbook, chapter 3: working seconds only.
func TestWorkedExample(t *testing.T) {
	p := crafttest.Plan(30, crafttest.Do("breathe"), crafttest.Do("effleurage"),
		protocol.Step{Stroke: "eye-stone"}, crafttest.Do("twin-balls"), crafttest.Do("pumps"), crafttest.Do("crease"))
	crafttest.Valid(t, p)
	e := evaluation.Evaluate(p, crafttest.SmallStudio())
	sum := 0
	for i, want := range []int{30, 9, 57, 39, 33, 63} {
		assert.Equal(t, want, e.Steps[i].Seconds, e.Steps[i].Name)
		sum += e.Steps[i].Seconds
	}
	assert.Equal(t, 231, sum)
}

// Positions x seconds x rounds: 4 x 3 s x 3 = 36 s, 72 s in each sense
// (handbook, chapter 3); the other kinds by hand from the same formula.
func TestEveryDoseKindIsTimed(t *testing.T) {
	for _, c := range []struct {
		name string
		dose stroke.Dose
		turn bool
		want float64
	}{
		{"positions", stroke.Dose{Kind: stroke.Positions, Planned: 3, Places: 4, Seconds: 3}, false, 36},
		{"positions in each sense", stroke.Dose{Kind: stroke.Positions, Planned: 3, Places: 4, Seconds: 3, Senses: 2}, false, 72},
		{"reps", crafttest.Reps(5), false, 10},
		{"sets with rests, in turns", stroke.Dose{Kind: stroke.Reps, Planned: 3, Sets: 3, Rest: 4}, true, 2*18 + 2*8 + 3},
		{"clock", crafttest.Clock(45), true, 93},
		{"breaths", stroke.Dose{Kind: stroke.Breaths, Planned: 2, In: 4, Pause: 1, Out: 6}, false, 22},
		{"until a sign", stroke.Dose{Kind: stroke.Until, Planned: 20}, false, 20},
		{"free", stroke.Dose{Kind: stroke.Free, Planned: 25, Min: 10}, false, 25},
		{"not said", stroke.Dose{Kind: stroke.Unknown, Planned: 15}, false, 15},
		{"inherited: three of two seconds", stroke.Dose{Kind: stroke.Inherited}, false, 6},
	} {
		s := protocol.Step{Stroke: "neck-open", Dose: &c.dose}
		if c.turn {
			s.Sides = stroke.InTurns
		}
		p := crafttest.Plan(10, s)
		crafttest.Valid(t, p)
		assert.Equal(t, c.want, evaluation.Evaluate(p, crafttest.SmallStudio()).Steps[0].Working, c.name)
	}
}

// Transition min(distance / 8 cm/s, 2 s), 2 s when the hands leave the face,
// 6 s to pick a tool up; a round is worked as a unit; the pace scales working
// seconds (handbook, chapter 3). Figures by hand.
func TestTimeline(t *testing.T) {
	p := crafttest.Plan(30, crafttest.Do("effleurage"), crafttest.Do("face-drain"), crafttest.Do("eye-stone"), crafttest.Do("breathe"))
	e := evaluation.Evaluate(p, crafttest.SmallStudio())
	temple, cheek := crafttest.Mark(t, "temple"), crafttest.Mark(t, "mid-cheek")
	travel := anatomy.Distance(temple, cheek) / 8
	require.Less(t, travel, 2.0)
	assert.InDelta(t, 9+travel, e.Occurrences[1].Start, 1e-9)
	assert.InDelta(t, e.Occurrences[1].End+6+2, e.Occurrences[2].Start, 1e-9, "picks up the stone")
	assert.InDelta(t, e.Occurrences[2].End+2, e.Occurrences[3].Start, 1e-9, "leaves the face")
	assert.Equal(t, []evaluation.SideRun{{Side: "left", Start: e.Occurrences[2].Start, Seconds: 27}, {Side: "right", Start: e.Occurrences[2].Start + 30, Seconds: 27}}, bare(e.Occurrences[2].SideRuns))

	ctx := crafttest.SmallStudio()
	ctx.Pace = 1.1
	assert.Equal(t, 10, evaluation.Evaluate(p, ctx).Steps[0].Seconds, "9 s x 1.1, to whole seconds")

	p.Rounds = []protocol.Round{{ID: "r", Times: 3}}
	p.Steps[0].Round, p.Steps[1].Round = "r", "r"
	crafttest.Valid(t, p)
	e = evaluation.Evaluate(p, crafttest.SmallStudio())
	var order []int
	for _, v := range e.Occurrences {
		order = append(order, v.Step)
	}
	assert.Equal(t, []int{0, 1, 0, 1, 0, 1, 2, 3}, order)

	p.Steps[0].Dose = &stroke.Dose{Kind: stroke.Free, Planned: 30, Min: 10}
	p.Steps[0].Round, p.Steps[1].Round = "", ""
	e = evaluation.Evaluate(p, crafttest.SmallStudio())
	assert.Equal(t, 1, e.OpenSteps)
	assert.InDelta(t, e.Seconds-20, e.AtLeast, 1e-9)
}

func bare(ps []evaluation.SideRun) []evaluation.SideRun {
	out := make([]evaluation.SideRun, len(ps))
	for i, p := range ps {
		out[i] = evaluation.SideRun{Side: p.Side, Start: p.Start, Seconds: p.Seconds}
	}
	return out
}

// One side more than the other is added separately (handbook, chapter 3).
func TestEmphasisIsAddedSeparately(t *testing.T) {
	p := crafttest.Plan(10, protocol.Step{Stroke: "eye-stone", Emphasis: &protocol.Emphasis{Side: "right", Extra: 2}})
	e := evaluation.Evaluate(p, crafttest.SmallStudio())
	assert.Equal(t, 57+18, e.Steps[0].Seconds)
	assert.InDelta(t, 27, e.LeftSeconds, 1e-9)
	assert.InDelta(t, 45, e.RightSeconds, 1e-9)
	assert.NotContains(t, crafttest.Codes(e), "sides-unequal", "a stated emphasis is no fault")
}

// What each check finds, and on which step. The rules are the handbook's,
// chapters 1 to 3 (common practice); each case breaks one of them.
func TestFindings(t *testing.T) {
	opened := []protocol.Step{crafttest.Do("pumps"), crafttest.Do("neck-open"), crafttest.Do("ear-open")}
	with := func(steps ...protocol.Step) []protocol.Step {
		return append(append([]protocol.Step{}, opened...), steps...)
	}
	cases := []struct {
		name  string
		steps []protocol.Step
		want  []string // beside fit
	}{
		{"an opened, drained and emptied face has nothing to say", with(crafttest.Do("face-drain"), crafttest.Do("neck-glide")), nil},
		{"pressure above a ceiling", []protocol.Step{{Stroke: "press", Pressure: crafttest.Ptr(5)}}, []string{"pressure-ceiling:press#1"}},
		{"a still press may go one higher", []protocol.Step{{Stroke: "press", Pressure: crafttest.Ptr(4)}}, nil},
		{"above an absolute ceiling, reason or not", []protocol.Step{{Stroke: "press", Path: crafttest.Zones("under-eye"), Pressure: crafttest.Ptr(2), Departure: "asked for"}}, []string{"pressure-absolute:press#1"}},
		{"both sides of the neck at once", []protocol.Step{{Stroke: "press", Path: crafttest.Zones("side-neck"), Pressure: crafttest.Ptr(2)}}, []string{"pressure-both-neck:press#1"}},
		{"the same in turns", []protocol.Step{{Stroke: "press", Path: crafttest.Zones("side-neck"), Pressure: crafttest.Ptr(2), Sides: stroke.InTurns}}, nil},
		{"a tool on the throat", []protocol.Step{{Stroke: "press", Path: crafttest.Zones("throat"), Pressure: crafttest.Ptr(0), Tool: &stroke.ToolPart{Key: "stone"}, Sides: stroke.Midline}}, []string{"tool-on-throat:press#1"}},
		{"an anchoring hand is judged too", []protocol.Step{{Stroke: "press", Anchor: &stroke.Anchor{Zone: "front-neck", Pressure: 2}}}, []string{"pressure-absolute:press#1"}},
		{"a neighbouring zone with a pressure of its own", []protocol.Step{{Stroke: "crease", Path: []protocol.PathPoint{{Zone: "nasolabial"}, {Zone: "upper-lip", Pressure: crafttest.Ptr(3)}}}}, []string{"pressure-ceiling:crease#1"}},
		{"a deep drain", with(protocol.Step{Stroke: "face-drain", Pressure: crafttest.Ptr(3)}, crafttest.Do("neck-glide")), []string{"pressure-drain:face-drain#4", "pressure-ceiling:face-drain#4"}},
		{"an ear opened before the neck", []protocol.Step{crafttest.Do("pumps"), crafttest.Do("ear-open"), crafttest.Do("neck-open"), crafttest.Do("face-drain"), crafttest.Do("neck-glide")}, []string{"drainage-order:ear-open#2"}},
		{"drained towards a closed node", []protocol.Step{crafttest.Do("pumps"), crafttest.Do("neck-open"), crafttest.Do("face-drain"), crafttest.Do("neck-glide")}, []string{"drainage-closed:face-drain#3"}},
		{"left at the ear", with(crafttest.Do("face-drain")), []string{"drainage-no-close", "drainage-left:face-drain#4"}},
		{"never opened", []protocol.Step{crafttest.Do("face-drain"), crafttest.Do("neck-glide")}, []string{"drainage-no-open"}},
		{"a neck drain going up", with(protocol.Step{Stroke: "neck-glide", Path: crafttest.Zones("collarbone-hollow", "side-neck")}, crafttest.Do("neck-glide"), protocol.Step{Stroke: "neck-glide", Path: crafttest.Zones("side-neck", "collarbone-hollow")}), []string{"direction-neck:neck-glide#4"}},
		{"a face drain running back", with(protocol.Step{Stroke: "face-drain", Path: crafttest.Zones("temple", "forehead-centre")}, protocol.Step{Stroke: "face-drain", Path: crafttest.Zones("forehead-centre", "temple", "front-of-ear")}, crafttest.Do("neck-glide")), []string{"direction-drain:face-drain#4"}},
		{"a lift going down", []protocol.Step{{Stroke: "lift", Path: crafttest.Zones("cheekbone", "jawline"), Sides: stroke.BothAtOnce, Use: crafttest.Oil(90)}}, []string{"direction-lift:lift#1"}},
		{"one side only", []protocol.Step{{Stroke: "lift", Use: crafttest.Oil(90)}}, []string{"sides-unequal:lift#1"}},
		{"no product stated", []protocol.Step{crafttest.Do("effleurage")}, []string{"glide-unknown:effleurage#1"}},
		{"a serum gone thin", []protocol.Step{{Stroke: "spread", Use: &protocol.Use{Product: "serum", Amount: slip.Amount{Value: 2, Measure: slip.ML}}}, {Stroke: "press", Dose: crafttest.Ptr(crafttest.Clock(420))}, crafttest.Do("effleurage")}, []string{"glide-thin:effleurage#3"}},
		{"a gripping roller on a wet face", []protocol.Step{{Stroke: "spread", Use: crafttest.Oil(60)}, crafttest.Do("twin-balls")}, []string{"glide-wet:twin-balls#2"}},
		{"more oil than the range", []protocol.Step{{Stroke: "spread", Use: crafttest.Oil(180)}}, []string{"amount-over:spread#1"}},
		{"dragging delicate skin", []protocol.Step{{Stroke: "effleurage", Path: crafttest.Zones("outer-eye-corner", "temple"), Parts: crafttest.Parts(crafttest.Move(0.1)), Use: crafttest.Oil(90)}}, []string{"speed-delicate:effleurage#1"}},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			p := crafttest.Plan(10, c.steps...)
			crafttest.Valid(t, p)
			var got []string
			for _, f := range evaluation.Evaluate(p, crafttest.SmallStudio()).Findings {
				if f.Code != evaluation.FitUnder && f.Code != evaluation.SpeedSoothe {
					got = append(got, f.ID)
				}
			}
			assert.ElementsMatch(t, c.want, got)
		})
	}
}

// What one school requires another forbids (handbook, schools).
func TestChecksObeyTheSchool(t *testing.T) {
	p := crafttest.Plan(10, crafttest.Do("face-drain"))
	p.Method.Drainage = "none"
	assert.Equal(t, []string{"fit-under"}, crafttest.Codes(evaluation.Evaluate(p, crafttest.SmallStudio())))
	p = crafttest.Plan(10, crafttest.Do("ear-open"), crafttest.Do("neck-open"), crafttest.Do("pumps"), crafttest.Do("face-drain"), crafttest.Do("neck-glide"))
	p.Method.Opening = "kneaded"
	assert.Equal(t, []string{"fit-under"}, crafttest.Codes(evaluation.Evaluate(p, crafttest.SmallStudio())), "the order check is only for nearest the heart first")
	p.Method.Opening = ""
	assert.Contains(t, crafttest.Codes(evaluation.Evaluate(p, crafttest.SmallStudio())), "drainage-order:ear-open#1")
}

// A zone left out today must not be worked, on its side only.
func TestExclusions(t *testing.T) {
	ctx := crafttest.SmallStudio()
	cheek, _ := anatomy.Lookup("cheekbone")
	ctx.Excluded = []anatomy.ZoneSide{{Zone: cheek, Side: anatomy.Right}}
	p := crafttest.Plan(1, protocol.Step{Stroke: "lift", Use: crafttest.Oil(90)})
	assert.NotContains(t, crafttest.Codes(evaluation.Evaluate(p, ctx)), "excluded-zone:lift#1:right", "works the left only")
	p.Steps[0].Sides = stroke.BothAtOnce
	assert.Contains(t, crafttest.Codes(evaluation.Evaluate(p, ctx)), "excluded-zone:lift#1:right")
}

func BenchmarkEvaluate60Steps(b *testing.B) {
	p, ctx := crafttest.Sixty(), crafttest.SmallStudio()
	b.ReportAllocs()
	for b.Loop() {
		evaluation.Evaluate(p, ctx)
	}
}
