package protocol_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// studio is the trade's library with a shelf and tools, written for these tests.
func studio() *protocol.Context {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Products: map[string]*film.Product{}, Tools: map[string]protocol.Tool{}}
	for _, p := range []film.Product{
		{Key: "oil", Name: "Oil", Form: film.Oil, FullDose: 4, RangeMin: 2, RangeMax: 5, DropsPerML: 30, Density: 0.92},
		{Key: "cream", Name: "Cream", Form: film.MassageCream, FullDose: 4.5, RangeMin: 3, RangeMax: 6, MLPerPress: 1.5, Unsuited: []string{"acne-prone"}},
		{Key: "mist", Name: "Mist", Form: film.Mist, FullDose: 1, RangeMin: 0.5, RangeMax: 2},
		{Key: "mask", Name: "Mask", Form: film.Mask, FullDose: 8, RangeMax: 12},
		{Key: "acid", Name: "Acid serum", Form: film.WaterySerum, FullDose: 3, RangeMax: 5, Tags: []string{"acid"}},
	} {
		ctx.Products[p.Key] = &p
	}
	for _, x := range []protocol.Tool{
		{Key: "stone-plate", Name: "Stone", Kind: "stone"}, {Key: "twin-ball", Name: "Twin-ball", Kind: "twin-ball-roller"},
		{Key: "cold-globes", Name: "Cold globes", Kind: "cold"}, {Key: "mitt", Name: "Mitt", Kind: "mitt", Porous: true},
		{Key: "warm-towel", Name: "Towel", Kind: "compress"}, {Key: "soft-cup", Name: "Cup", Kind: "cup"}, {Key: "cylinder", Name: "Cylinder", Kind: "cylinder-roller"},
	} {
		ctx.Tools[x.Key] = x
	}
	return ctx
}

func oiled(s protocol.Step) protocol.Step {
	s.Use = &protocol.Use{Product: "oil", Amount: film.Amount{Value: 3.5, Measure: film.ML}}
	return s
}

// Every check of the handbook's chapter 3 that judges more than one stroke's
// pressure, direction or film (those stand in TestFindings). Common practice;
// each case breaks one rule, and what takes it away again is tried.
func TestChecksOfTheWholePlan(t *testing.T) {
	open := []protocol.Step{do("collarbone-pumps"), do("neck-side-open"), do("ear-fork")}
	spread := oiled(do("spread-passes"))
	in := func(s protocol.Step, phase protocol.Phase) protocol.Step { s.Phase = phase; return s }
	cases := []struct {
		name   string
		school protocol.School
		ctx    func(*protocol.Context)
		plan   func(*protocol.Protocol)
		steps  []protocol.Step
		want   protocol.Code
		on     string // the step it is found on
		fixes  []protocol.Fix
	}{
		{"two levels lighter unsaid", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{spread, do("cheek-scoop"), do("eye-circles")}, protocol.PressureDrop, "eye-circles#3", []protocol.Fix{protocol.AnnounceDrop}},
		{"towards nodes left out today", protocol.School{}, func(c *protocol.Context) {
			c.Excluded = []anatomy.Place{{Zone: anatomy.ID(mustZone(t, "collarbone-hollow")), Side: anatomy.Left}}
		}, nil, []protocol.Step{do("still-cheek-drain")}, protocol.DrainBarred, "still-cheek-drain#1", []protocol.Fix{protocol.LeaveStep}},
		{"a set without its neck run", protocol.School{Clearing: "after-set"}, nil, nil, append(slices.Clone(open), do("still-cheek-drain"), do("still-forehead-drain"), do("still-neck-home")), protocol.NotCleared, "still-cheek-drain#4", []protocol.Fix{protocol.ClearSet}},
		{"a closing that is not the opening reversed", protocol.School{Closing: "reverse", Slip: "dry"}, nil, nil, []protocol.Step{in(do("collarbone-pumps"), "open"), in(do("ear-fork"), "open"), in(do("collarbone-pumps"), "close"), in(do("ear-fork"), "close")}, protocol.ClosingOther, "ear-fork#4", []protocol.Fix{protocol.ReverseOpen}},
		{"inward round the eye, against the school", protocol.School{Drainage: "none", Eye: "outward"}, nil, nil, []protocol.Step{spread, {Stroke: "eye-circles", Path: zones("outer-eye-corner", "orbital-rim", "inner-eye-corner")}}, protocol.EyeInward, "eye-circles#2", []protocol.Fix{protocol.ReversePath}},
		{"dry, sliding over delicate skin", protocol.School{Drainage: "none", Slip: "dry"}, nil, nil, []protocol.Step{do("eye-circles")}, protocol.DryDrag, "eye-circles#1", []protocol.Fix{protocol.LeaveZone, protocol.SayDeparture}},
		{"side two departs unsaid", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{spread, {ID: "a", Stroke: "stone-jaw", Sides: stroke.LeftOnly}, {ID: "b", Stroke: "stone-jaw", Sides: stroke.RightOnly, MirrorOf: "a", Dose: ptr(reps(6))}}, protocol.MirrorOther, "b", []protocol.Fix{protocol.CopyMirror, protocol.SayDeparture}},
		{"sides worked otherwise than the school says", protocol.School{Drainage: "none", Sides: "each-step"}, nil, nil, []protocol.Step{spread, do("cheek-scoop")}, protocol.SidesSchool, "cheek-scoop#2", []protocol.Fix{protocol.SayDeparture}},
		{"no wake in the studio", protocol.School{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "" }, []protocol.Step{in(do("breathe-together"), "settle"), in(do("look-over"), "look-over"), do("temple-press")}, protocol.PhaseMissing, "", []protocol.Fix{protocol.AddPhase}},
		{"a mask without a time", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "mask-rest", Dose: &stroke.Dose{Kind: stroke.Free, Planned: 300, Min: 120}, Use: &protocol.Use{Product: "mask", Amount: film.Amount{Value: 8, Measure: film.ML}}}}, protocol.NoTime, "mask-rest#1", []protocol.Fix{protocol.StateTime}},
		{"cold for eleven minutes", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "cold-roller-face", Dose: ptr(clock(330))}, {Stroke: "cold-rest", Dose: ptr(clock(330))}}, protocol.ColdLong, "cold-rest#2", []protocol.Fix{protocol.ShorterCold}},
		{"cold resting under the eye", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "cold-rest", Path: zones("under-eye")}}, protocol.ColdStill, "cold-rest#1", []protocol.Fix{protocol.LeaveStep}},
		{"cold on dehydrated skin before mist", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"dehydrated"} }, nil, []protocol.Step{do("cold-rest")}, protocol.ColdDry, "cold-rest#1", []protocol.Fix{protocol.MistFirst}},
		{"a promise unworked", protocol.School{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Concerns = []string{"jowls"} }, []protocol.Step{spread, do("temple-press")}, protocol.Promise, "", []protocol.Fix{protocol.WorkZone}},
		{"hands to and fro", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{do("shoulder-knead"), do("temple-press"), do("shoulder-knead"), do("point-brow"), do("shoulder-knead"), do("point-nose"), do("shoulder-knead"), do("point-temple")}, protocol.FlowBreaks, "", []protocol.Fix{protocol.Smoother}},
		{"too long round the eye", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{spread, {Stroke: "eye-circles", Path: zones("orbital-rim"), Dose: &stroke.Dose{Kind: stroke.Reps, Planned: 50, Min: 3, Max: 60}}}, protocol.EyeLoad, "eye-circles#2", []protocol.Fix{protocol.LessLoad}},
		{"tapping on sensitive skin", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"sensitive"} }, nil, []protocol.Step{do("cheek-tapping")}, protocol.Unsuited, "cheek-tapping#1", []protocol.Fix{protocol.LeaveStep}},
		{"stone on couperose cheeks", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"couperose"} }, nil, []protocol.Step{spread, do("stone-cheek")}, protocol.Unsuited, "stone-cheek#2", []protocol.Fix{protocol.LeaveStep}},
		{"a product unsuited to the skin", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.SkinStates = []string{"acne-prone"} }, nil, []protocol.Step{{Stroke: "spread-passes", Use: &protocol.Use{Product: "cream", Amount: film.Amount{Value: 3, Measure: film.Presses}}}}, protocol.Unsuited, "spread-passes#1", nil},
		{"friction where redness is avoided", protocol.School{Drainage: "none", Redness: "avoided"}, nil, nil, []protocol.Step{spread, do("circular-friction")}, protocol.Redness, "circular-friction#2", []protocol.Fix{protocol.LeaveStep, protocol.SayDeparture}},
		{"exfoliated six days ago", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.DaysSince = map[string][]int{"exfoliation": {6}} }, nil, []protocol.Step{spread, do("mitt-polish")}, protocol.TooOften, "mitt-polish#2", []protocol.Fix{protocol.LeaveStep}},
		{"an acid counts as exfoliating", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.DaysSince = map[string][]int{"exfoliation": {2}} }, nil, []protocol.Step{{Stroke: "drop-spread", Use: &protocol.Use{Product: "acid", Amount: film.Amount{Value: 2, Measure: film.ML}}}}, protocol.TooOften, "drop-spread#1", nil},
		{"a roller for the fourth time in the week", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.DaysSince = map[string][]int{"roller": {1, 3, 5}} }, nil, []protocol.Step{do("twin-ball-lines")}, protocol.TooOften, "twin-ball-lines#1", []protocol.Fix{protocol.LeaveStep}},
		{"in the mouth with bare hands", protocol.School{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{{Stroke: "mouth-masseter", Gloves: "none"}}, protocol.NoGloves, "mouth-masseter#1", []protocol.Fix{protocol.WearGloves}},
		{"into the mouth after the scalp", protocol.School{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{do("scalp-circles"), do("mouth-masseter")}, protocol.NotWashed, "mouth-masseter#2", []protocol.Fix{protocol.WashHands}},
		{"gloves kept on afterwards", protocol.School{Drainage: "none"}, nil, func(p *protocol.Protocol) { p.Setting = "client" }, []protocol.Step{do("mouth-masseter"), {Stroke: "temple-press", Gloves: "keep"}}, protocol.GlovesKept, "temple-press#2", []protocol.Fix{protocol.WearGloves}},
		{"a tool still chilling", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.ReadyIn = map[string]float64{"cold-globes": 30} }, nil, []protocol.Step{do("cold-rest")}, protocol.ToolBusy, "cold-rest#1", []protocol.Fix{protocol.DropTool}},
		{"a mitt used twice", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{spread, do("mitt-polish"), do("temple-press"), do("mitt-polish")}, protocol.PorousTwice, "mitt-polish#4", []protocol.Fix{protocol.DropTool}},
		{"thumbs for six minutes at 4", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "temple-knuckles", Pressure: ptr(4), Dose: ptr(clock(180))}, {Stroke: "temple-knuckles", Pressure: ptr(4), Dose: ptr(clock(180))}}, protocol.HandsTired, "temple-knuckles#2", []protocol.Fix{protocol.ShakeOut}},
		{"over an hour of it in the day", protocol.School{Drainage: "none"}, func(c *protocol.Context) { c.HandsToday = 58 }, nil, []protocol.Step{{Stroke: "temple-knuckles", Pressure: ptr(4), Dose: ptr(clock(180))}}, protocol.HandsDay, "", nil},
		{"something never said", protocol.School{Drainage: "none"}, nil, nil, []protocol.Step{{Stroke: "temple-press", Gaps: map[string]string{"pressure": "stronger than before"}}}, protocol.NotSaid, "temple-press#1", nil},
		{"draining an hour before bed", protocol.School{Drainage: "middle", Slip: "dry"}, func(c *protocol.Context) { c.ToBed = 60 }, nil, []protocol.Step{do("still-neck-home")}, protocol.LateDrain, "still-neck-home#1", nil},
	}
	seen := map[protocol.Code]bool{}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			ctx := studio()
			if c.ctx != nil {
				c.ctx(ctx)
			}
			p := plan(12, c.steps...)
			p.School = c.school
			if c.plan != nil {
				c.plan(p)
			}
			require.Empty(t, p.Validate(ctx, ""))
			f := found(protocol.Evaluate(p, ctx), c.want, c.on)
			require.NotNil(t, f, "%v", codes(protocol.Evaluate(p, ctx)))
			seen[c.want] = true
			for _, fix := range c.fixes {
				require.Contains(t, f.Fixes, fix)
				q, err := protocol.Apply(p, ctx, f.ID, fix)
				require.NoError(t, err, "%s", fix)
				require.Empty(t, q.Validate(ctx, ""))
				assert.Nil(t, found(protocol.Evaluate(q, ctx), c.want, c.on), "%s leaves it standing", fix)
			}
		})
	}
	// The rule beside each: what is allowed is not found.
	for _, c := range []struct {
		name  string
		ctx   func(*protocol.Context)
		steps []protocol.Step
		not   protocol.Code
	}{
		{"exfoliated a week ago", func(c *protocol.Context) { c.DaysSince = map[string][]int{"exfoliation": {7}} }, []protocol.Step{spread, do("mitt-polish")}, protocol.TooOften},
		{"a roller for the third time", func(c *protocol.Context) { c.DaysSince = map[string][]int{"roller": {1, 3}} }, []protocol.Step{do("twin-ball-lines")}, protocol.TooOften},
		{"cold for ten minutes", nil, []protocol.Step{{Stroke: "cold-roller-face", Dose: ptr(clock(600))}}, protocol.ColdLong},
		{"cold moving under the eye", nil, []protocol.Step{{Stroke: "cold-globes-eye"}}, protocol.ColdStill},
		{"mist before the cold", func(c *protocol.Context) { c.SkinStates = []string{"dehydrated"} }, []protocol.Step{{Stroke: "mist-veil", Use: &protocol.Use{Product: "mist", Amount: film.Amount{Value: 1, Measure: film.ML}}}, do("cold-rest")}, protocol.ColdDry},
		{"four minutes on the rim", nil, []protocol.Step{spread, {Stroke: "eye-circles", Path: zones("orbital-rim"), Dose: ptr(reps(48))}}, protocol.EyeLoad},
		{"a still hold on the rim does not count", nil, []protocol.Step{{Stroke: "temple-press", Path: zones("orbital-rim"), Dose: ptr(clock(500)), Pressure: ptr(1)}}, protocol.EyeLoad},
		{"washed before the mouth", nil, []protocol.Step{do("scalp-circles"), do("wash-hands"), do("mouth-masseter")}, protocol.NotWashed},
		{"two hours before bed", func(c *protocol.Context) { c.ToBed = 120 }, []protocol.Step{do("still-neck-home")}, protocol.LateDrain},
		{"stone on the brow with couperose", func(c *protocol.Context) { c.SkinStates = []string{"couperose"} }, []protocol.Step{spread, do("stone-brow")}, protocol.Unsuited},
	} {
		ctx := studio()
		if c.ctx != nil {
			c.ctx(ctx)
		}
		p := plan(12, c.steps...)
		p.Setting, p.School.Drainage = "client", "middle"
		require.Empty(t, p.Validate(ctx, ""), c.name)
		assert.Nil(t, found(protocol.Evaluate(p, ctx), c.not, ""), c.name)
	}
}

func mustZone(t testing.TB, key string) anatomy.ID {
	id, ok := anatomy.Lookup(key)
	require.True(t, ok, key)
	return id
}

// found is the finding of a code, on a step where one is given.
func found(e *protocol.Evaluation, code protocol.Code, on string) *protocol.Finding {
	for i := range e.Findings {
		f := &e.Findings[i]
		if f.Code == code && (on == "" || slices.Contains(f.Steps, on)) {
			return f
		}
	}
	return nil
}

// Long nails ask for the alternate meant for them, where the stroke has one.
func TestLongNails(t *testing.T) {
	ctx := studio()
	ctx.LongNails = true
	key := ""
	for k, st := range ctx.Strokes {
		if slices.ContainsFunc(st.Alternates, func(a stroke.Alternate) bool { return a.When == "long-nails" }) && (key == "" || k < key) && st.Tool == nil {
			key = k
		}
	}
	require.NotEmpty(t, key, "no trade stroke has an alternate for long nails")
	p := plan(5, do(key))
	p.School.Drainage = "none"
	f := found(protocol.Evaluate(p, ctx), protocol.LongNails, "")
	require.NotNil(t, f)
	q, err := protocol.Apply(p, ctx, f.ID, protocol.UseAlternate)
	require.NoError(t, err)
	assert.Nil(t, found(protocol.Evaluate(q, ctx), protocol.LongNails, ""))
}

// Whatever the plan, its school and the skin: a fix that can be applied leaves a
// plan that holds together, takes its own finding away, and adds none of its kind.
func TestAFixAddsNothingOfItsOwnKind(t *testing.T) {
	keys := make([]string, 0, 145)
	for _, st := range stroke.Trade() {
		keys = append(keys, st.Key)
	}
	pick := func(t *rapid.T, name string, of ...string) string { return rapid.SampledFrom(of).Draw(t, name) }
	rapid.Check(t, func(t *rapid.T) {
		ctx := studio()
		if s := pick(t, "skin", "", "sensitive", "couperose", "dehydrated", "acne-prone"); s != "" {
			ctx.SkinStates = []string{s}
		}
		var steps []protocol.Step
		for range rapid.IntRange(1, 12).Draw(t, "steps") {
			s := protocol.Step{Stroke: rapid.SampledFrom(keys).Draw(t, "stroke"), Phase: protocol.Phase(pick(t, "phase", "open", "work", "work", "work", "close"))}
			if rapid.IntRange(0, 4).Draw(t, "odd") == 0 {
				s.Pressure = ptr(rapid.IntRange(0, 5).Draw(t, "pressure"))
			}
			if rapid.IntRange(0, 5).Draw(t, "oily") == 0 {
				s = oiled(s)
			}
			steps = append(steps, s)
		}
		p := plan(rapid.IntRange(2, 20).Draw(t, "slot"), steps...)
		p.Setting = pick(t, "setting", "", "self")
		p.Concerns = []string{pick(t, "concern", "jowls", "puffiness", "clenching", "eye-lines")}
		p.School = protocol.School{Drainage: pick(t, "drainage", "", "none", "only-close", "whole"), Clearing: pick(t, "clearing", "", "after-set"), Closing: pick(t, "closing", "", "reverse"),
			Eye: pick(t, "eye", "", "outward", "in-below"), Slip: pick(t, "slip", "", "dry"), Redness: pick(t, "redness", "", "avoided"), Sides: pick(t, "sides", "", "each-step")}
		if len(p.Validate(ctx, "")) > 0 {
			return
		}
		e := protocol.Evaluate(p, ctx)
		had := map[string]bool{}
		for _, f := range e.Findings {
			had[f.ID] = true
		}
		for _, f := range e.Findings {
			for _, fix := range f.Fixes {
				q, err := protocol.Apply(p, ctx, f.ID, fix)
				if err != nil {
					continue // says in words that it cannot
				}
				if ps := q.Validate(ctx, ""); len(ps) > 0 {
					t.Fatalf("%s for %s breaks the plan: %v", fix, f.ID, ps)
				}
				for _, g := range protocol.Evaluate(q, ctx).Findings {
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

func sameFault(f, g *protocol.Finding) bool {
	return f.Values["zone"] == g.Values["zone"] && f.Values["node"] == g.Values["node"]
}

// The loads and totals of a plan, by hand: 6 passes of 3.5 s over three zones
// give each 7 s, 2 of 5, so 7/60 x 2 minutes x pressure; midline zones count once.
func TestLoadsAndTotals(t *testing.T) {
	ctx := studio()
	p := plan(12, oiled(do("spread-passes")), protocol.Step{Stroke: "forehead-effleurage", Dose: ptr(reps(6))})
	p.School.Drainage = "none"
	p.Minutes = protocol.Minutes{Sold: 30, HandsOn: 12, Reset: 10}
	p.Cues = []protocol.Cue{{Text: "Slack jaw", Every: 20}}
	e := protocol.Evaluate(p, ctx)
	for _, l := range e.Loads {
		if l.Zone != "forehead-centre" {
			continue
		}
		assert.Equal(t, "mid", l.Side)
		assert.InDelta(t, 7, l.Seconds, 1e-9)
		assert.InDelta(t, 7, l.Sliding, 1e-9)
		assert.InDelta(t, 7.0/60*2, l.Load, 1e-9)
	}
	assert.Equal(t, [2]int{1800, 600}, [2]int{e.SoldSeconds, e.ResetSeconds})
	assert.Len(t, e.Cues, int(math.Ceil(e.Seconds/20))-1)
	require.Len(t, e.Products, 1)
	assert.InDelta(t, 3.5*30, e.Products[0].Drops, 1e-9)
	assert.InDelta(t, 3.5*0.92, e.Products[0].G, 1e-9)
	ctx.Products["oil"].Cost = "0.152"
	assert.Equal(t, "0.53", protocol.Evaluate(p, ctx).Products[0].Cost, "3.5 mL at 0.152")
}

// A film that grows thin is put on again at the last moment, within four
// minutes, at which the hands leave the face anyway.
func TestReapplyAtABreak(t *testing.T) {
	ctx := studio()
	ctx.Products["oil"].HalfLife = 4
	p := plan(30, oiled(do("spread-passes")), protocol.Step{Stroke: "temple-press", Dose: ptr(clock(240))}, protocol.Step{Stroke: "compare-sides", Dose: ptr(clock(60))}, do("temple-press"), do("forehead-effleurage"))
	p.School.Drainage = "none"
	e := protocol.Evaluate(p, ctx)
	require.NotEmpty(t, e.Reapply)
	assert.Equal(t, "temple-press#4", e.Reapply[0].Step, "where the hands come back to the face")
	assert.Equal(t, "forehead-effleurage#5", e.Reapply[0].Thin)
}
