package evaluation_test

import (
	"math"
	"slices"
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

// Every check of the handbook's chapter 3 that judges more than one stroke's
// pressure, direction or film (those stand in TestFindings). Common practice;
// each case breaks one rule, and what takes it away again is tried.
func TestChecksOfTheWholePlan(t *testing.T) {
	open := []protocol.Step{crafttest.Do("collarbone-pumps"), crafttest.Do("neck-side-open"), crafttest.Do("ear-fork")}
	spread := crafttest.Oiled(crafttest.Do("spread-passes"))
	in := func(s protocol.Step, phase protocol.Phase) protocol.Step { s.Phase = phase; return s }
	cases := []struct {
		name   string
		school protocol.Method
		ctx    func(*protocol.Context)
		plan   func(*protocol.Protocol)
		steps  []protocol.Step
		want   evaluation.Code
		on     string // the step it is found on
		fixes  []evaluation.Fix
	}{
		{"two levels lighter unsaid", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{spread, crafttest.Do("cheek-scoop"), crafttest.Do("eye-circles")}, evaluation.PressureDrop, "eye-circles#3", []evaluation.Fix{evaluation.AnnounceDrop}},
		{"towards nodes left out today", protocol.Method{}, func(c *protocol.Context) {
			c.Excluded = []anatomy.ZoneSide{{Zone: crafttest.MustZone(t, "collarbone-hollow"), Side: anatomy.Left}}
		}, nil, []protocol.Step{crafttest.Do("still-cheek-drain")}, evaluation.DrainBarred, "still-cheek-drain#1", []evaluation.Fix{evaluation.LeaveStep}},
		{"a set without its neck run", protocol.Method{Clearing: "after-set"}, nil, nil, append(slices.Clone(open), crafttest.Do("still-cheek-drain"), crafttest.Do("still-forehead-drain"), crafttest.Do("still-neck-home")), evaluation.NotCleared, "still-cheek-drain#4", []evaluation.Fix{evaluation.ClearSet}},
		{"a closing that is not the opening reversed", protocol.Method{Closing: "reverse", Slip: "dry"}, nil, nil, []protocol.Step{in(crafttest.Do("collarbone-pumps"), "open"), in(crafttest.Do("ear-fork"), "open"), in(crafttest.Do("collarbone-pumps"), "close"), in(crafttest.Do("ear-fork"), "close")}, evaluation.ClosingOther, "ear-fork#4", []evaluation.Fix{evaluation.ReverseOpen}},
		{"inward round the eye, against the school", protocol.Method{Drainage: "none", Eye: "outward"}, nil, nil, []protocol.Step{spread, {Stroke: "eye-circles", Path: crafttest.Zones("outer-eye-corner", "orbital-rim", "inner-eye-corner")}}, evaluation.EyeInward, "eye-circles#2", []evaluation.Fix{evaluation.ReversePath}},
		{"dry, sliding over delicate skin", protocol.Method{Drainage: "none", Slip: "dry"}, nil, nil, []protocol.Step{crafttest.Do("eye-circles")}, evaluation.DryDrag, "eye-circles#1", []evaluation.Fix{evaluation.LeaveZone, evaluation.SayDeparture}},
		{"side two departs unsaid", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{spread, {ID: "a", Stroke: "stone-jaw", Sides: stroke.LeftOnly}, {ID: "b", Stroke: "stone-jaw", Sides: stroke.RightOnly, MirrorOf: "a", Dose: crafttest.Ptr(crafttest.Reps(6))}}, evaluation.MirrorOther, "b", []evaluation.Fix{evaluation.CopyMirror, evaluation.SayDeparture}},
		{"sides worked otherwise than the school says", protocol.Method{Drainage: "none", Sides: "each-step"}, nil, nil, []protocol.Step{spread, crafttest.Do("cheek-scoop")}, evaluation.SidesMethod, "cheek-scoop#2", []evaluation.Fix{evaluation.SayDeparture}},
		{"no wake in the studio", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "" }, []protocol.Step{in(crafttest.Do("breathe-together"), "settle"), in(crafttest.Do("look-over"), "look-over"), crafttest.Do("temple-press")}, evaluation.PhaseMissing, "", []evaluation.Fix{evaluation.AddPhase}},
		{"a mask without a time", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "mask-rest", Dose: &stroke.Dose{Kind: stroke.Free, Planned: 300, Min: 120}, Use: &protocol.Use{Product: "mask", Amount: slip.Amount{Value: 8, Measure: slip.ML}}}}, evaluation.NoTime, "mask-rest#1", []evaluation.Fix{evaluation.StateTime}},
		{"cold for eleven minutes", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "cold-roller-face", Dose: crafttest.Ptr(crafttest.Clock(330))}, {Stroke: "cold-rest", Dose: crafttest.Ptr(crafttest.Clock(330))}}, evaluation.ColdLong, "cold-rest#2", []evaluation.Fix{evaluation.ShorterCold}},
		{"cold resting under the eye", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "cold-rest", Path: crafttest.Zones("under-eye")}}, evaluation.ColdStill, "cold-rest#1", []evaluation.Fix{evaluation.LeaveStep}},
		{"cold on dehydrated skin before mist", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"dehydrated"} }, nil, []protocol.Step{crafttest.Do("cold-rest")}, evaluation.ColdDry, "cold-rest#1", []evaluation.Fix{evaluation.MistFirst}},
		{"a promise unworked", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Concerns = []string{"jowls"} }, []protocol.Step{spread, crafttest.Do("temple-press")}, evaluation.Promise, "", []evaluation.Fix{evaluation.WorkZone}},
		{"hands to and fro", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{crafttest.Do("shoulder-knead"), crafttest.Do("temple-press"), crafttest.Do("shoulder-knead"), crafttest.Do("point-brow"), crafttest.Do("shoulder-knead"), crafttest.Do("point-nose"), crafttest.Do("shoulder-knead"), crafttest.Do("point-temple")}, evaluation.FlowBreaks, "", []evaluation.Fix{evaluation.Smoother}},
		{"too long round the eye", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{spread, {Stroke: "eye-circles", Path: crafttest.Zones("orbital-rim"), Dose: &stroke.Dose{Kind: stroke.Reps, Planned: 50, Min: 3, Max: 60}}}, evaluation.EyeLoad, "eye-circles#2", []evaluation.Fix{evaluation.LessLoad}},
		{"tapping on sensitive skin", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"sensitive"} }, nil, []protocol.Step{crafttest.Do("cheek-tapping")}, evaluation.Unsuited, "cheek-tapping#1", []evaluation.Fix{evaluation.LeaveStep}},
		{"stone on couperose cheeks", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"couperose"} }, nil, []protocol.Step{spread, crafttest.Do("stone-cheek")}, evaluation.Unsuited, "stone-cheek#2", []evaluation.Fix{evaluation.LeaveStep}},
		{"a product unsuited to the skin", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"acne-prone"} }, nil, []protocol.Step{{Stroke: "spread-passes", Use: &protocol.Use{Product: "cream", Amount: slip.Amount{Value: 3, Measure: slip.Pumps}}}}, evaluation.Unsuited, "spread-passes#1", nil},
		{"friction where redness is avoided", protocol.Method{Drainage: "none", Redness: "avoided"}, nil, nil, []protocol.Step{spread, crafttest.Do("circular-friction")}, evaluation.Redness, "circular-friction#2", []evaluation.Fix{evaluation.LeaveStep, evaluation.SayDeparture}},
		{"exfoliated six days ago", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.DaysSince = map[string][]int{"exfoliation": {6}} }, nil, []protocol.Step{spread, crafttest.Do("mitt-polish")}, evaluation.TooOften, "mitt-polish#2", []evaluation.Fix{evaluation.LeaveStep}},
		{"an acid counts as exfoliating", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.DaysSince = map[string][]int{"exfoliation": {2}} }, nil, []protocol.Step{{Stroke: "drop-spread", Use: &protocol.Use{Product: "acid", Amount: slip.Amount{Value: 2, Measure: slip.ML}}}}, evaluation.TooOften, "drop-spread#1", nil},
		{"a roller for the fourth time in the week", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.DaysSince = map[string][]int{"roller": {1, 3, 5}} }, nil, []protocol.Step{crafttest.Do("twin-ball-lines")}, evaluation.TooOften, "twin-ball-lines#1", []evaluation.Fix{evaluation.LeaveStep}},
		{"in the mouth with bare hands", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{{Stroke: "mouth-masseter", Gloves: "none"}}, evaluation.NoGloves, "mouth-masseter#1", []evaluation.Fix{evaluation.WearGloves}},
		{"into the mouth after the scalp", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{crafttest.Do("scalp-circles"), crafttest.Do("mouth-masseter")}, evaluation.NotWashed, "mouth-masseter#2", []evaluation.Fix{evaluation.WashHands}},
		{"gloves kept on afterwards", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{crafttest.Do("mouth-masseter"), {Stroke: "temple-press", Gloves: "keep"}}, evaluation.GlovesKept, "temple-press#2", []evaluation.Fix{evaluation.WearGloves}},
		{"a tool still chilling", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.ReadyIn = map[string]float64{"cold-globes": 30} }, nil, []protocol.Step{crafttest.Do("cold-rest")}, evaluation.ToolBusy, "cold-rest#1", []evaluation.Fix{evaluation.DropTool}},
		{"a mitt used twice", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{spread, crafttest.Do("mitt-polish"), crafttest.Do("temple-press"), crafttest.Do("mitt-polish")}, evaluation.PorousTwice, "mitt-polish#4", []evaluation.Fix{evaluation.DropTool}},
		{"thumbs for six minutes at 4", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "temple-knuckles", Pressure: crafttest.Ptr(4), Dose: crafttest.Ptr(crafttest.Clock(180))}, {Stroke: "temple-knuckles", Pressure: crafttest.Ptr(4), Dose: crafttest.Ptr(crafttest.Clock(180))}}, evaluation.HandsTired, "temple-knuckles#2", []evaluation.Fix{evaluation.ShakeOut}},
		{"over an hour of it in the day", protocol.Method{Drainage: "none"}, func(c *protocol.Context) { c.HandsToday = 58 }, nil, []protocol.Step{{Stroke: "temple-knuckles", Pressure: crafttest.Ptr(4), Dose: crafttest.Ptr(crafttest.Clock(180))}}, evaluation.HandsDay, "", nil},
		{"deep work the day before an event", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Concerns = []string{"event-tomorrow"} }, []protocol.Step{{Stroke: "temple-knuckles", Pressure: crafttest.Ptr(4)}}, evaluation.EventRough, "temple-knuckles#1", []evaluation.Fix{evaluation.LeaveStep, evaluation.SayDeparture}},
		{"from the hair to the eyes", protocol.Method{Drainage: "none"}, nil, nil, []protocol.Step{spread, crafttest.Do("scalp-circles"), crafttest.Do("eye-circles")}, evaluation.HairToEyes, "eye-circles#3", []evaluation.Fix{evaluation.WashHands}},
		{"draining without tissues", protocol.Method{Drainage: "middle", Slip: "dry"}, nil, func(p *protocol.Protocol) { p.LayOut = []string{"mirror"} }, []protocol.Step{crafttest.Do("still-neck-home")}, evaluation.NoTissues, "", nil},
		{"skin not cleansed", protocol.Method{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{in(crafttest.Do("breathe-together"), "settle"), in(crafttest.Do("look-over"), "look-over"), spread, in(crafttest.Do("sit-up"), "wake")}, evaluation.PhaseMissing, "", []evaluation.Fix{evaluation.AddPhase}},
		{"draining an hour before bed", protocol.Method{Drainage: "middle", Slip: "dry"}, func(c *protocol.Context) { c.ToBed = 60 }, nil, []protocol.Step{crafttest.Do("still-neck-home")}, evaluation.LateDrain, "still-neck-home#1", nil},
	}
	seen := map[evaluation.Code]bool{}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			ctx := crafttest.Studio()
			if c.ctx != nil {
				c.ctx(ctx)
			}
			p := crafttest.Plan(12, c.steps...)
			p.Method = c.school
			if c.plan != nil {
				c.plan(p)
			}
			require.Empty(t, p.Validate(ctx, ""))
			f := crafttest.Found(evaluation.Evaluate(p, ctx), c.want, c.on)
			require.NotNil(t, f, "%v", crafttest.Codes(evaluation.Evaluate(p, ctx)))
			seen[c.want] = true
			for _, fix := range c.fixes {
				require.Contains(t, f.Fixes, fix)
				q, err := remedy.Apply(p, ctx, f.ID, fix)
				require.NoError(t, err, "%s", fix)
				require.Empty(t, q.Validate(ctx, ""))
				assert.Nil(t, crafttest.Found(evaluation.Evaluate(q, ctx), c.want, c.on), "%s leaves it standing", fix)
			}
		})
	}
	// The rule beside each: what is allowed is not found.
	for _, c := range []struct {
		name  string
		ctx   func(*protocol.Context)
		steps []protocol.Step
		not   evaluation.Code
	}{
		{"exfoliated a week ago", func(c *protocol.Context) { c.DaysSince = map[string][]int{"exfoliation": {7}} }, []protocol.Step{spread, crafttest.Do("mitt-polish")}, evaluation.TooOften},
		{"a roller for the third time", func(c *protocol.Context) { c.DaysSince = map[string][]int{"roller": {1, 3}} }, []protocol.Step{crafttest.Do("twin-ball-lines")}, evaluation.TooOften},
		{"cold for ten minutes", nil, []protocol.Step{{Stroke: "cold-roller-face", Dose: crafttest.Ptr(crafttest.Clock(600))}}, evaluation.ColdLong},
		{"cold moving under the eye", nil, []protocol.Step{{Stroke: "cold-globes-eye"}}, evaluation.ColdStill},
		{"mist before the cold", func(c *protocol.Context) { c.SkinStates = []string{"dehydrated"} }, []protocol.Step{{Stroke: "mist-veil", Use: &protocol.Use{Product: "mist", Amount: slip.Amount{Value: 1, Measure: slip.ML}}}, crafttest.Do("cold-rest")}, evaluation.ColdDry},
		{"four minutes on the rim", nil, []protocol.Step{spread, {Stroke: "eye-circles", Path: crafttest.Zones("orbital-rim"), Dose: crafttest.Ptr(crafttest.Reps(40))}}, evaluation.EyeLoad},
		{"a still hold on the rim does not count", nil, []protocol.Step{{Stroke: "temple-press", Path: crafttest.Zones("orbital-rim"), Dose: crafttest.Ptr(crafttest.Clock(500)), Pressure: crafttest.Ptr(1)}}, evaluation.EyeLoad},
		{"washed before the mouth", nil, []protocol.Step{crafttest.Do("scalp-circles"), crafttest.Do("wash-hands"), crafttest.Do("mouth-masseter")}, evaluation.NotWashed},
		{"two hours before bed", func(c *protocol.Context) { c.ToBed = 120 }, []protocol.Step{crafttest.Do("still-neck-home")}, evaluation.LateDrain},
		{"stone on the brow with couperose", func(c *protocol.Context) { c.SkinStates = []string{"couperose"} }, []protocol.Step{spread, crafttest.Do("stone-brow")}, evaluation.Unsuited},
	} {
		ctx := crafttest.Studio()
		if c.ctx != nil {
			c.ctx(ctx)
		}
		p := crafttest.Plan(12, c.steps...)
		p.Setting, p.Method.Drainage = "client", "middle"
		require.Empty(t, p.Validate(ctx, ""), c.name)
		assert.Nil(t, crafttest.Found(evaluation.Evaluate(p, ctx), c.not, ""), c.name)
	}
}

// Long nails ask for the alternate meant for them, where the stroke has one.
func TestLongNails(t *testing.T) {
	ctx := crafttest.Studio()
	ctx.LongNails = true
	key := ""
	for k, st := range ctx.Strokes {
		if slices.ContainsFunc(st.Alternates, func(a stroke.Alternate) bool { return a.When == "long-nails" }) && (key == "" || k < key) && st.Tool == nil {
			key = k
		}
	}
	require.NotEmpty(t, key, "no trade stroke has an alternate for long nails")
	p := crafttest.Plan(5, crafttest.Do(key))
	p.Method.Drainage = "none"
	f := crafttest.Found(evaluation.Evaluate(p, ctx), evaluation.LongNails, "")
	require.NotNil(t, f)
	q, err := remedy.Apply(p, ctx, f.ID, evaluation.UseAlternate)
	require.NoError(t, err)
	assert.Nil(t, crafttest.Found(evaluation.Evaluate(q, ctx), evaluation.LongNails, ""))
}

// The loads and totals of a plan, by hand: 6 passes of 3.5 s over three zones give each 7 s at 2, 3
// spreading passes of 10 s and 2 s of holding over fourteen give each 36/14 s at 1; midline zones count once.
func TestLoadsAndTotals(t *testing.T) {
	ctx := crafttest.Studio()
	p := crafttest.Plan(12, crafttest.Oiled(crafttest.Do("spread-passes")), protocol.Step{Stroke: "forehead-effleurage", Dose: crafttest.Ptr(crafttest.Reps(6))})
	p.Method.Drainage = "none"
	p.Minutes = protocol.Minutes{Treatment: 30, HandsOn: 12, Reset: 10}
	p.Cues = []protocol.Cue{{Text: "Slack jaw", Every: 20}}
	e := evaluation.Evaluate(p, ctx)
	for _, l := range e.Loads {
		if l.Zone != "forehead-centre" {
			continue
		}
		assert.Equal(t, "mid", l.Side)
		assert.InDelta(t, 7+36.0/14, l.Seconds, 1e-9)
		assert.InDelta(t, 7+30.0/14, l.Sliding, 1e-9)
		assert.InDelta(t, 7.0/60*2+36.0/14/60, l.Load, 1e-9)
	}
	assert.Equal(t, [2]int{1800, 600}, [2]int{e.TreatmentSeconds, e.ResetSeconds})
	assert.Len(t, e.Cues, int(math.Ceil(e.Seconds/20))-1)
	require.Len(t, e.Products, 1)
	assert.InDelta(t, 3.5*30, e.Products[0].Drops, 1e-9)
	assert.InDelta(t, 3.5*0.92, e.Products[0].G, 1e-9)
	ctx.Products["oil"].Cost = "0.152"
	assert.Equal(t, "0.53", evaluation.Evaluate(p, ctx).Products[0].Cost, "3.5 mL at 0.152")
}

// A film that grows thin is put on again at the last moment, within four
// minutes, at which the hands leave the face anyway.
func TestReapplyAtABreak(t *testing.T) {
	ctx := crafttest.Studio()
	ctx.Products["oil"].HalfLife = 4
	p := crafttest.Plan(30, crafttest.Oiled(crafttest.Do("spread-passes")), protocol.Step{Stroke: "temple-press", Dose: crafttest.Ptr(crafttest.Clock(240))}, protocol.Step{Stroke: "compare-sides", Dose: crafttest.Ptr(crafttest.Clock(60))}, crafttest.Do("temple-press"), crafttest.Do("forehead-effleurage"))
	p.Method.Drainage = "none"
	e := evaluation.Evaluate(p, ctx)
	require.NotEmpty(t, e.Reapply)
	assert.Equal(t, "temple-press#4", e.Reapply[0].Step, "where the hands come back to the face")
	assert.Equal(t, "forehead-effleurage#5", e.Reapply[0].Thin)
}

// The extra repetitions go to the side that is meant, whichever is worked first:
// 3 x 9 s a side and 2 x 9 s more for one (handbook, chapter 3).
func TestEmphasisGoesToItsSide(t *testing.T) {
	for _, first := range []string{"left", "right"} {
		for _, side := range []string{"left", "right"} {
			p := crafttest.Plan(10, protocol.Step{Stroke: "eye-stone", Emphasis: &protocol.Emphasis{Side: side, Extra: 2}})
			p.FirstSide = first
			e := evaluation.Evaluate(p, crafttest.SmallStudio())
			want := map[string]float64{"left": 27, "right": 27}
			want[side] = 45
			passes := e.Occurrences[0].SideRuns
			require.Len(t, passes, 2)
			assert.Equal(t, first, passes[0].Side)
			for _, ps := range passes {
				assert.InDelta(t, want[ps.Side], ps.Seconds, 1e-9, "%s first, more on the %s: %s", first, side, ps.Side)
			}
			assert.InDelta(t, passes[0].Start+passes[0].Seconds+evaluation.SideChangeSecond, passes[1].Start, 1e-9)
			assert.InDelta(t, e.Occurrences[0].End, passes[1].Start+passes[1].Seconds, 1e-9)
		}
	}
}

// Thumb work at 4 tires after 300 s in one run. A rest, or half a minute of other
// work, begins the count anew; so does the note itself (a studio's starting value).
func TestTiredHandsAreCountedFromTheLastRest(t *testing.T) {
	ctx := crafttest.SmallStudio()
	strokes := map[string]*stroke.Stroke{}
	for k, s := range ctx.Strokes {
		strokes[k] = s
	}
	strokes["thumbs"] = &stroke.Stroke{Key: "thumbs", Manner: stroke.Manner{Name: "Thumbs", Family: stroke.Petrissage, Hand: "thumb", Intent: stroke.Release}, Pressure: 4, Relation: stroke.Carries, Path: []string{"shoulder"}, Sides: stroke.BothAtOnce, Dose: crafttest.Clock(200)}
	ctx.Strokes = strokes
	thumbs := crafttest.Do("thumbs")
	other := func(seconds int) protocol.Step {
		return protocol.Step{Stroke: "wipe", Dose: crafttest.Ptr(crafttest.Clock(seconds))}
	}
	tired := func(steps ...protocol.Step) (out []string) {
		for _, f := range evaluation.Evaluate(crafttest.Plan(30, steps...), ctx).Findings {
			if f.Code == evaluation.HandsTired {
				out = append(out, f.Steps...)
			}
		}
		return out
	}
	assert.Equal(t, []string{"thumbs#2"}, tired(thumbs, thumbs))
	assert.Equal(t, []string{"thumbs#3"}, tired(thumbs, other(29), thumbs), "29 s are no rest")
	assert.Empty(t, tired(thumbs, other(30), thumbs))
	assert.Empty(t, tired(thumbs, crafttest.Do("breathe"), thumbs), "hands off the face rest")
	assert.Equal(t, []string{"thumbs#2", "thumbs#4"}, tired(thumbs, thumbs, thumbs, thumbs), "the count begins anew after each note")
	assert.Empty(t, tired(protocol.Step{Stroke: "thumbs", Dose: crafttest.Ptr(crafttest.Clock(300))}), "300 s are still borne")
}

// Nothing goes into the mouth that touched face or hair; clean hands do, and so do
// hands that come from the mouth (common practice).
func TestHandsAreWashedBeforeTheMouth(t *testing.T) {
	ctx := crafttest.Studio()
	unwashed := func(steps ...protocol.Step) *evaluation.Finding {
		p := crafttest.Plan(20, steps...)
		p.Setting = ""
		return crafttest.Found(evaluation.Evaluate(p, ctx), evaluation.NotWashed, "")
	}
	mouth, face := crafttest.Do("mouth-masseter"), crafttest.Do("cheek-palms")
	assert.Nil(t, unwashed(mouth))
	assert.Nil(t, unwashed(mouth, crafttest.Do("mouth-upper-press")))
	after := unwashed(face, mouth)
	require.NotNil(t, after)
	assert.Equal(t, &evaluation.Touched{After: evaluation.SkinHands}, after.Values)
	assert.Equal(t, evaluation.Stopping, after.Severity)
	assert.Nil(t, unwashed(face, crafttest.Do("wash-hands"), mouth))
	assert.NotNil(t, unwashed(crafttest.Do("wash-hands"), face, mouth))
}

// A cue that takes time holds up what comes after it, worked by hand: three holds of 30 s without a way
// between them, a drink of 10 s after every 40 s of work. The first falls into the second hold, the second
// (at 80) into the third; a cue that takes none only moves with them.
func TestACueThatTakesTimeHoldsUpWhatFollows(t *testing.T) {
	ctx := crafttest.Studio()
	hold := protocol.Step{Stroke: "temple-press", Dose: crafttest.Ptr(crafttest.Clock(30))}
	p := crafttest.Plan(30, hold, hold, hold)
	p.Method.Drainage = "none"
	bare := evaluation.Evaluate(p, ctx)
	require.InDelta(t, 90, bare.Seconds, 1e-9)
	p.Cues = []protocol.Cue{{Text: "Jaw loose", Every: 45}, {Text: "Drink", Every: 40, Seconds: 10, Break: true}, {Text: "Water at hand", Seconds: 5}}
	e := evaluation.Evaluate(p, ctx)
	assert.InDelta(t, 115, e.Seconds, 1e-9)
	assert.Equal(t, []evaluation.CueAt{{Text: "Drink", At: 40, Seconds: 10, Break: true}, {Text: "Jaw loose", At: 55}, {Text: "Drink", At: 90, Seconds: 10, Break: true}}, e.Cues)
	var starts, ends []float64
	for i := range e.Occurrences {
		starts, ends = append(starts, e.Occurrences[i].Start), append(ends, e.Occurrences[i].End)
		assert.InDelta(t, e.Occurrences[i].Start, e.Steps[i].Start, 1e-9)
		assert.InDelta(t, e.Occurrences[i].Start, e.Occurrences[i].SideRuns[0].Start, 1e-9)
	}
	assert.Equal(t, []float64{0, 30, 70}, starts)
	assert.Equal(t, []float64{30, 70, 110}, ends)
	p.Cues = []protocol.Cue{{Text: "Drink", Every: 30, Seconds: 10}}
	e = evaluation.Evaluate(p, ctx)
	assert.Equal(t, []float64{0, 40, 80}, []float64{e.Occurrences[0].Start, e.Occurrences[1].Start, e.Occurrences[2].Start})
	assert.InDelta(t, 10, e.Occurrences[1].Lead, 1e-9, "between two steps the pause comes before the second")
	assert.Equal(t, []float64{30, 70}, []float64{e.Cues[0].At, e.Cues[1].At})
}
