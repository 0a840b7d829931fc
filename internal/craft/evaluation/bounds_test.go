package evaluation

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// The tests of this file try each check on both sides of its limit. The limits are the
// handbook's, chapters 1, 3 and 4, or a studio's starting values, as each check states.

func stops(pressure int, zones ...string) []Stop {
	out := []Stop{}
	for _, z := range zones {
		id, ok := anatomy.Lookup(z)
		if !ok {
			panic("there is no zone " + z)
		}
		out = append(out, Stop{Zone: z, Pressure: pressure, Height: id.Zone().Centre.Y, id: id})
	}
	return out
}

// step is a step worked with a stroke, ready to be judged.
func step(change func(*Resolved)) *Resolved {
	r := &Resolved{ID: "s", Source: &protocol.Step{}, Manner: &stroke.Manner{}, Stroke: &stroke.Stroke{}, Further: &stroke.Further{}, Dose: &stroke.Dose{Kind: stroke.Reps, Planned: 3}, Relation: stroke.Slides, Sides: stroke.BothAtOnce, Phase: "work"}
	change(r)
	return r
}

// one is the finding of a code; nil where there is none.
func (e *Evaluation) one(code Code) *Finding {
	for i := range e.Findings {
		if e.Findings[i].Code == code {
			return &e.Findings[i]
		}
	}
	return nil
}

// As few breaks as the work allows: one of each kind in so many minutes and one more, of
// ten minutes at least.
func TestTheLimitsOfFlow(t *testing.T) {
	for _, c := range []struct {
		minutes             float64
		lifted, tool, jumps int
		found               bool
	}{
		{5, 5, 3, 4, false}, {5, 6, 0, 0, true}, {5, 0, 4, 0, true}, {5, 0, 0, 5, true},
		{12.5, 6, 4, 5, false}, {12, 5, 4, 5, false}, {12, 5, 5, 5, true}, {12, 5, 4, 6, true}, {25, 11, 7, 9, false}, {25, 12, 0, 0, true}, {25, 0, 8, 0, true}, {25, 0, 0, 10, true},
	} {
		e := &Evaluation{Seconds: 60 * c.minutes, TimesLifted: c.lifted, ToolChanges: c.tool, Jumps: c.jumps}
		e.flow()
		require.Equal(t, c.found, e.one(FlowBreaks) != nil, "%+v", c)
		if c.found {
			assert.Equal(t, &Breaks{Left: c.lifted, Tools: c.tool, Jumps: c.jumps}, e.one(FlowBreaks).Values)
		}
	}
}

// Draining within two hours of bed; exfoliating once, rollers and deep work three times in
// seven days.
func TestWhatComesTooOftenOrTooLate(t *testing.T) {
	drain := step(func(r *Resolved) { r.Intent = stroke.Drain })
	for bed, found := range map[float64]bool{0: false, 0.5: true, 119.9: true, 120: false} {
		e := &Evaluation{Steps: []Resolved{*step(func(*Resolved) {}), *drain, *step(func(*Resolved) {})}}
		e.habits(&protocol.Context{ToBed: bed})
		assert.Equal(t, found, e.one(LateDrain) != nil, "%v minutes", bed)
		e = &Evaluation{Steps: []Resolved{*step(func(*Resolved) {})}}
		e.habits(&protocol.Context{ToBed: bed})
		assert.Nil(t, e.one(LateDrain), "nothing drains")
	}
	tools := map[string]protocol.Tool{"roller": {Name: "R", Kind: "cylinder-roller"}, "mitt": {Name: "M", Kind: "mitt"}, "stone": {Name: "S", Kind: "stone"}}
	products := map[string]*slip.Product{"acid": {Key: "acid", Tags: []string{"acid"}}, "scrub": {Key: "scrub", Tags: []string{"exfoliant"}}, "oil": {Key: "oil"}}
	ctx := &protocol.Context{Tools: tools, Products: products}
	with := func(tool string) *Resolved { return step(func(r *Resolved) { r.Tool = &stroke.ToolPart{Key: tool} }) }
	use := func(product string) *Resolved {
		return step(func(r *Resolved) { r.Source = &protocol.Step{Use: &protocol.Use{Product: product}} })
	}
	press := func(level int, in stroke.Intent) *Resolved {
		return step(func(r *Resolved) { r.Path, r.Intent = stops(level, "temple"), in })
	}
	for _, c := range []struct {
		what string
		r    *Resolved
		is   bool
	}{
		{Exfoliation, with("mitt"), true}, {Exfoliation, use("acid"), true}, {Exfoliation, use("scrub"), true}, {Exfoliation, use("oil"), false}, {Exfoliation, with("stone"), false},
		{RollerWork, with("roller"), true}, {RollerWork, with("stone"), false},
		{DeepWork, press(5, stroke.Release), true}, {DeepWork, press(4, stroke.Release), false}, {DeepWork, press(5, stroke.Drain), false},
	} {
		e := &Evaluation{Steps: []Resolved{*c.r}}
		assert.Equal(t, c.is, e.SkinIntensiveSteps(ctx)[c.what] == "s", "%s %+v", c.what, c.r.Tool)
	}
	for _, c := range []struct {
		what  string
		days  []int
		r     *Resolved
		found bool
	}{
		{Exfoliation, []int{6}, with("mitt"), true}, {Exfoliation, []int{7}, with("mitt"), false}, {Exfoliation, []int{6}, with("stone"), false},
		{RollerWork, []int{1, 3}, with("roller"), false}, {RollerWork, []int{1, 3, 6}, with("roller"), true}, {RollerWork, []int{1, 3, 7}, with("roller"), false},
		{DeepWork, []int{1, 3}, press(5, stroke.Lift), false}, {DeepWork, []int{0, 1, 2}, press(5, stroke.Lift), true},
	} {
		e := &Evaluation{Steps: []Resolved{*c.r}}
		of := *ctx
		of.DaysSince = map[string][]int{c.what: c.days}
		e.habits(&of)
		require.Equal(t, c.found, e.one(TooOften) != nil, "%s %v", c.what, c.days)
		if c.found {
			assert.Equal(t, c.what, e.one(TooOften).Values.(*Again).What)
			assert.Equal(t, 7, e.one(TooOften).Values.(*Again).Days)
		}
	}
}

// Five minutes of thumbs, pinch or knuckles at 4 without half a minute's rest, and an hour
// of it in the day.
func TestTheLimitsOfTheHands(t *testing.T) {
	hard := step(func(r *Resolved) { r.Path, r.Hand = stops(4, "temple"), "thumb" })
	require.True(t, stroke.Tires(hard.Hand), "the hand part of this test tires")
	soft := step(func(r *Resolved) { r.Path, r.Hand = stops(3, "temple"), "thumb" })
	tool := step(func(r *Resolved) { r.Path, r.Hand, r.Tool = stops(4, "temple"), "thumb", &stroke.ToolPart{} })
	palm := step(func(r *Resolved) { r.Path, r.Hand = stops(4, "temple"), "flat palm" })
	off := step(func(*Resolved) {})
	plan := func(parts ...any) *Evaluation {
		e := &Evaluation{}
		at := 0.0
		for i := 0; i < len(parts); i += 2 {
			e.Steps = append(e.Steps, *parts[i].(*Resolved))
			e.Occurrences = append(e.Occurrences, Occurrence{Step: len(e.Steps) - 1, Start: at, End: at + parts[i+1].(float64)})
			at += parts[i+1].(float64)
		}
		return e
	}
	for _, c := range []struct {
		e     *Evaluation
		found bool
	}{
		{plan(hard, 300.0), false}, {plan(hard, 300.5), true}, {plan(soft, 400.0), false}, {plan(tool, 400.0), false}, {plan(palm, 400.0), false},
		{plan(hard, 200.0, soft, 29.0, hard, 101.0), true}, {plan(hard, 200.0, soft, 30.0, hard, 101.0), false}, {plan(hard, 200.0, off, 1.0, hard, 101.0), false},
		{plan(hard, 200.0, hard, 100.0), false}, {plan(hard, 200.0, hard, 101.0), true},
	} {
		c.e.tiring(&protocol.Context{})
		assert.Equal(t, c.found, c.e.one(HandsTired) != nil, "%+v", c.e.Occurrences)
	}
	e := plan(hard, 301.0)
	e.tiring(&protocol.Context{})
	assert.Equal(t, &TooLong{Minutes: 5.02, Most: 5}, e.one(HandsTired).Values)
	assert.InDelta(t, 301, e.Tiring(), 1e-9)
	assert.InDelta(t, 110, plan(soft, 40.0, hard, 60.0, soft, 10.0, hard, 50.0).Tiring(), 1e-9)
	for today, found := range map[float64]bool{57: false, 57.1: true, 90: true} {
		e := plan(hard, 180.0)
		e.tiring(&protocol.Context{HandsToday: today})
		assert.Equal(t, found, e.one(HandsDay) != nil, "%v", today)
		e = plan(soft, 180.0)
		e.tiring(&protocol.Context{HandsToday: today + 30})
		assert.Nil(t, e.one(HandsDay), "this plan adds nothing to it")
	}
}

// A client is told before the pressure drops by two levels or more, from one step on the
// face to the next.
func TestDropsOfPressure(t *testing.T) {
	plan := func(levels ...int) *Evaluation {
		e := &Evaluation{}
		for i, l := range levels {
			e.Steps = append(e.Steps, *step(func(r *Resolved) {
				if r.ID = string(rune('a' + i)); l >= 0 {
					r.Path = stops(l, "temple")
				}
			}))
			e.Occurrences = append(e.Occurrences, Occurrence{Step: i, Number: 1})
		}
		return e
	}
	for _, c := range []struct {
		e     *Evaluation
		found bool
	}{{plan(3, 2), false}, {plan(3, 1), true}, {plan(2, 0), true}, {plan(1, 3), false}, {plan(4, -1, 1), false}, {plan(0, 0), false}} {
		c.e.announcements(&protocol.Protocol{})
		assert.Equal(t, c.found, c.e.one(PressureDrop) != nil, "%+v", c.e.Steps)
	}
	said := plan(4, 1)
	said.Steps[1].Source = &protocol.Step{Announce: true}
	said.announcements(&protocol.Protocol{})
	assert.Nil(t, said.one(PressureDrop))
	again := plan(4, 1)
	again.Occurrences[1].Number = 2
	again.announcements(&protocol.Protocol{})
	assert.Nil(t, again.one(PressureDrop), "the client knows the round by then")
	hardest := plan(1, 1)
	hardest.Steps[0].Path = append(stops(4, "temple"), stops(1, "temple")...)
	hardest.announcements(&protocol.Protocol{})
	assert.Equal(t, &Lighter{From: 4, To: 1}, hardest.one(PressureDrop).Values)
}

// Not faster than 30 cm/s over delicate skin; soothing between 1 and 10 cm/s (Loken and
// others, 2009, from memory).
func TestTheLimitsOfSpeed(t *testing.T) {
	for _, c := range []struct {
		speed float64
		in    stroke.Intent
		zone  string
		rel   stroke.Relation
		drag  bool
		slow  bool
	}{
		{30, stroke.Lift, "under-eye", stroke.Slides, false, false}, {30.1, stroke.Lift, "under-eye", stroke.Slides, true, false}, {60, stroke.Lift, "jawline", stroke.Slides, false, false},
		{60, stroke.Lift, "under-eye", stroke.Still, false, false}, {1, stroke.Soothe, "jawline", stroke.Slides, false, false}, {0.9, stroke.Soothe, "jawline", stroke.Slides, false, true},
		{10, stroke.Soothe, "jawline", stroke.Slides, false, false}, {10.1, stroke.Soothe, "jawline", stroke.Slides, false, true}, {0, stroke.Soothe, "jawline", stroke.Slides, false, false}, {20, stroke.Lift, "jawline", stroke.Slides, false, false},
	} {
		e := &Evaluation{}
		e.checkSpeed(step(func(r *Resolved) { r.Speed, r.Intent, r.Relation, r.Path = c.speed, c.in, c.rel, stops(1, c.zone) }))
		assert.Equal(t, c.drag, e.one(SpeedDrag) != nil, "%+v", c)
		assert.Equal(t, c.slow, e.one(SpeedSoothe) != nil, "%+v", c)
		if c.slow {
			assert.InDelta(t, c.speed, e.one(SpeedSoothe).Values.(*Moving).Speed, 1e-9)
		}
		if c.drag {
			assert.Equal(t, &Moving{"under-eye", 30}, e.one(SpeedDrag).Values)
		}
	}
}

// Left and right may differ by a tenth; what the practitioner states is not judged.
func TestTheBalanceOfTheSides(t *testing.T) {
	plan := func(left, right float64, sides stroke.Sides) *Evaluation {
		e := &Evaluation{Steps: []Resolved{*step(func(r *Resolved) { r.Sides = sides }), *step(func(r *Resolved) { r.ID = "m" })}}
		e.Occurrences = []Occurrence{{Step: 0, SideRuns: []SideRun{{OnSide: anatomy.Left, Seconds: left}, {OnSide: anatomy.Right, Seconds: right}}}, {Step: 1, SideRuns: []SideRun{{OnSide: anatomy.Mid, Seconds: 50}}}}
		return e
	}
	for _, c := range []struct {
		left, right float64
		found       bool
	}{{100, 90, false}, {100, 89, true}, {89, 100, true}, {90, 100, false}, {0, 0, false}, {10, 0, true}} {
		e := plan(c.left, c.right, stroke.LeftOnly)
		e.balance()
		require.Equal(t, c.found, e.one(SidesUnequal) != nil, "%+v", c)
		if c.found {
			assert.Equal(t, []string{"s"}, e.one(SidesUnequal).Steps, "work on the midline is no cause")
			assert.Equal(t, []Fix{MirrorStep}, e.one(SidesUnequal).Fixes)
		}
		assert.InDelta(t, c.left, e.LeftSeconds, 1e-9)
		assert.InDelta(t, c.right, e.RightSeconds, 1e-9)
	}
	turns := plan(100, 50, stroke.InTurns)
	turns.balance()
	assert.Empty(t, turns.one(SidesUnequal).Steps)
	assert.Empty(t, turns.one(SidesUnequal).Fixes)
	for name, c := range map[string]struct {
		source protocol.Step
		sides  stroke.Sides
		found  bool
	}{
		"more for one side": {protocol.Step{Emphasis: &protocol.Emphasis{}}, stroke.InTurns, false}, "a departure": {protocol.Step{Departure: "the weaker side"}, stroke.LeftOnly, false},
		"a departure in turns": {protocol.Step{Departure: "harder"}, stroke.InTurns, true},
	} {
		e := plan(100, 50, c.sides)
		e.Steps[0].Source = &c.source
		e.balance()
		assert.Equal(t, c.found, e.one(SidesUnequal) != nil, name)
	}
}

// Which way a lift, a drain down the neck and a stroke round the eye run, over every pair of
// zones.
func TestTheWayOfStrokes(t *testing.T) {
	for i := range anatomy.Zones {
		for j := range anatomy.Zones {
			a, b := &anatomy.Zones[i], &anatomy.Zones[j]
			if a == b {
				continue
			}
			path := stops(1, a.Key, b.Key)
			fall, aside := a.Centre.Y-b.Centre.Y, math.Abs(a.Centre.X-b.Centre.X)
			e := &Evaluation{}
			e.checkDirection(step(func(r *Resolved) { r.Path, r.Intent = path, stroke.Lift }), protocol.Method{})
			assert.Equal(t, !(EyeZone(a.Key) && EyeZone(b.Key)) && fall > 1 && fall > aside/2, e.one(LiftDown) != nil, "a lift from %s to %s", a.Key, b.Key)

			low := func(z *anatomy.Zone) bool { return z.Region == anatomy.Neck || z.Region == anatomy.Chest }
			nape := map[string]bool{"nape": true, "back-neck": true, "occiput": true, "skull-edge": true}
			for _, method := range []string{"", "down"} {
				e = &Evaluation{}
				r := step(func(r *Resolved) { r.Path, r.Intent = path, stroke.Drain })
				e.checkDirection(r, protocol.Method{Nape: method})
				free := method == "" && nape[a.Key] && nape[b.Key]
				way := anatomy.FlowDirection(path[0].id, path[1].id)
				up := low(a) && low(b) && b.Centre.Y > a.Centre.Y+1 && way != anatomy.Forward // along a route it drains
				assert.Equal(t, !free && up, e.one(NeckUp) != nil, "a drain from %s to %s, %q", a.Key, b.Key, method)
				away := way == anatomy.Backward
				assert.Equal(t, !free && !up && away, e.one(DrainAway) != nil, "a drain from %s to %s, %q", a.Key, b.Key, method)
				assert.Equal(t, !free && !up && away, r.away)
			}
			for _, method := range []string{"", "outward", "in-below"} {
				e = &Evaluation{}
				e.checkDirection(step(func(r *Resolved) { r.Path = path }), protocol.Method{Eye: method})
				in := EyeZone(a.Key) && EyeZone(b.Key) && b.Centre.X < a.Centre.X
				below := path[0].Height < 11.5 && path[1].Height < 11.5
				want := in && (method == "outward" || method == "in-below" && !below)
				require.Equal(t, want, e.one(EyeInward) != nil, "from %s to %s, %q", a.Key, b.Key, method)
				if want {
					assert.Equal(t, []Fix{ReversePath}, e.one(EyeInward).Fixes)
				}
			}
		}
	}
	e := &Evaluation{}
	e.checkDirection(step(func(r *Resolved) {
		r.Path, r.Intent, r.Source = stops(1, "forehead", "chin"), stroke.Lift, &protocol.Step{Departure: "so asked"}
	}), protocol.Method{})
	e.checkDirection(step(func(r *Resolved) { r.Path, r.Intent = stops(1, "forehead"), stroke.Lift }), protocol.Method{})
	e.checkDirection(step(func(r *Resolved) { r.Path, r.Relation = stops(1, "outer-eye-corner", "inner-eye-corner"), stroke.Still }), protocol.Method{Eye: "outward"})
	assert.Empty(t, e.Findings)
}

// A limit may be reached and not passed; a still press has one of its own; an absolute one
// stops; a reason turns a warning into a note.
func TestTheLimitsOfPressure(t *testing.T) {
	for i := range anatomy.Zones {
		z := &anatomy.Zones[i]
		for _, relation := range []stroke.Relation{stroke.Slides, stroke.Still, stroke.Carries} {
			for _, anchor := range []*stroke.Anchor{nil, {}} {
				limit := z.Ceiling
				if relation == stroke.Still || relation == stroke.Carries && anchor != nil {
					limit = z.StillCeiling
				}
				for level := 0; level <= 5; level++ {
					for _, why := range []string{"", "so asked"} {
						e := &Evaluation{}
						e.checkPressure(step(func(r *Resolved) {
							r.Path, r.Relation, r.Anchor, r.Source, r.Sides = stops(level, z.Key), relation, anchor, &protocol.Step{Departure: why}, stroke.InTurns
						}), &protocol.Context{})
						f := e.one(PressureCeiling)
						if z.Absolute {
							f = e.one(PressureAbsolute)
						}
						require.Equal(t, level > limit, f != nil, "%s, %s at %d", z.Key, relation, level)
						if f == nil {
							continue
						}
						want := Warning
						if z.Absolute {
							want = Stopping
						} else if why != "" {
							want = Note
						}
						assert.Equal(t, want, f.Severity, z.Key)
						assert.Equal(t, &AboveLimit{AtZone: AtZone{z.Key}, Pressure: level, Ceiling: limit}, f.Values)
					}
				}
			}
		}
	}
	two := 2
	for _, c := range []struct {
		name  string
		r     *Resolved
		code  Code
		found bool
	}{
		{"both sides of the neck at 1", step(func(r *Resolved) { r.Path = stops(1, "side-neck") }), PressureNeck, false},
		{"both sides of the neck at 2", step(func(r *Resolved) { r.Path = stops(2, "side-neck") }), PressureNeck, true},
		{"in turns at 2", step(func(r *Resolved) { r.Path, r.Sides = stops(2, "side-neck"), stroke.InTurns }), PressureNeck, false},
		{"the front of the neck at 2", step(func(r *Resolved) { r.Path = stops(2, "front-neck") }), PressureNeck, true},
		{"the jaw at 2", step(func(r *Resolved) { r.Path = stops(2, "jawline") }), PressureNeck, false},
		{"an anchor there at 1", step(func(r *Resolved) {
			r.Path, r.Anchor = stops(1, "side-neck"), &stroke.Anchor{Zone: "side-neck", Pressure: 1}
		}), PressureNeck, false},
		{"an anchor there at 2", step(func(r *Resolved) {
			r.Path, r.Anchor = stops(1, "side-neck"), &stroke.Anchor{Zone: "side-neck", Pressure: 2}
		}), PressureNeck, true},
		{"an anchor there, working elsewhere", step(func(r *Resolved) {
			r.Path, r.Anchor = stops(1, "jawline"), &stroke.Anchor{Zone: "side-neck", Pressure: 2}
		}), PressureNeck, false},
		{"draining at 2", step(func(r *Resolved) { r.Path, r.Intent = stops(2, "jawline"), stroke.Drain }), PressureDrain, false},
		{"draining at 3", step(func(r *Resolved) { r.Path, r.Intent = stops(3, "jawline"), stroke.Drain }), PressureDrain, true},
		{"lifting at 3", step(func(r *Resolved) { r.Path, r.Intent = stops(3, "jawline"), stroke.Lift }), PressureDrain, false},
		{"a tool on the throat", step(func(r *Resolved) { r.Path, r.Tool = stops(0, "throat"), &stroke.ToolPart{} }), ToolOnThroat, true},
		{"a hand on the throat", step(func(r *Resolved) { r.Path = stops(0, "throat") }), ToolOnThroat, false},
		{"a tool elsewhere", step(func(r *Resolved) { r.Path, r.Tool = stops(0, "jawline"), &stroke.ToolPart{} }), ToolOnThroat, false},
		{"a finger too hard under the eye", step(func(r *Resolved) {
			r.Path, r.Fingers = stops(0, "jawline"), []stroke.Finger{{Zone: "under-eye", Pressure: 5}}
		}), PressureCeiling, true},
		{"a finger too hard along the path", step(func(r *Resolved) { r.Path, r.Fingers = stops(0, "under-eye"), []stroke.Finger{{Pressure: 5}} }), PressureCeiling, true},
		{"a part without a pressure of its own", step(func(r *Resolved) { r.Path, r.Parts = stops(0, "under-eye"), []stroke.Part{{Kind: stroke.Move}} }), PressureCeiling, false},
		{"the last repetition leaned in", step(func(r *Resolved) { r.Path, r.Last = stops(0, "under-eye"), &stroke.Last{Pressure: &two} }), PressureCeiling, two > zone("under-eye").Ceiling},
	} {
		e := &Evaluation{}
		e.checkPressure(c.r, &protocol.Context{})
		found := e.one(c.code) != nil || c.code == PressureCeiling && e.one(PressureAbsolute) != nil
		assert.Equal(t, c.found, found, c.name)
	}
	higher := ""
	for i := range anatomy.Zones {
		if z := &anatomy.Zones[i]; z.StillCeiling > z.Ceiling && !z.Absolute {
			higher = z.Key
		}
	}
	require.NotEmpty(t, higher)
	level := zone(higher).StillCeiling
	for kind, found := range map[stroke.PartKind]bool{stroke.Move: true, stroke.Hold: false, stroke.Pulse: false, stroke.Back: true} {
		e := &Evaluation{}
		e.checkPressure(step(func(r *Resolved) {
			r.Path, r.Parts = stops(0, "jawline"), []stroke.Part{{Kind: kind, Zone: higher, Pressure: &level}}
		}), &protocol.Context{})
		assert.Equal(t, found, e.one(PressureCeiling) != nil, "%s at %s", kind, higher)
		along := found || kind == stroke.Pulse // along a path that slides only a hold is still
		e = &Evaluation{}
		e.checkPressure(step(func(r *Resolved) { r.Path, r.Parts = stops(0, higher), []stroke.Part{{Kind: kind, Pressure: &level}} }), &protocol.Context{})
		assert.Equal(t, along, e.one(PressureCeiling) != nil, "%s along the path", kind)
		e = &Evaluation{}
		e.checkPressure(step(func(r *Resolved) {
			r.Path, r.Relation, r.Parts = stops(0, higher), stroke.Still, []stroke.Part{{Kind: kind, Pressure: &level}}
		}), &protocol.Context{})
		assert.Nil(t, e.one(PressureCeiling), "%s of a still press", kind)
	}
}

func zone(key string) *anatomy.Zone {
	id, _ := anatomy.Lookup(key)
	return id.Zone()
}

// Holds and changes of hand do not slide; resting and clock doses are counted whole.
func TestHowMuchOfAStrokeSlides(t *testing.T) {
	part := func(kind stroke.PartKind, seconds float64, count int) stroke.Part {
		return stroke.Part{Kind: kind, Seconds: seconds, Count: count}
	}
	for _, c := range []struct {
		relation stroke.Relation
		dose     stroke.DoseKind
		parts    []stroke.Part
		rep      float64
		want     float64
	}{
		{stroke.Still, stroke.Reps, []stroke.Part{part(stroke.Move, 4, 0)}, 4, 0},
		{stroke.Slides, stroke.Reps, []stroke.Part{part(stroke.Move, 4, 0)}, 4, 1},
		{stroke.Slides, stroke.Reps, []stroke.Part{part(stroke.Move, 3, 0), part(stroke.Hold, 1, 0)}, 4, 0.75},
		{stroke.Slides, stroke.Reps, []stroke.Part{part(stroke.Move, 2, 0), part(stroke.Hold, 1, 2)}, 4, 0.5},
		{stroke.Slides, stroke.Reps, []stroke.Part{part(stroke.Move, 3, 0), part(stroke.Swap, 1, 1)}, 4, 0.75},
		{stroke.Slides, stroke.Clock, []stroke.Part{part(stroke.Move, 2, 0), part(stroke.Hold, 2, 0)}, 4, 1},
		{stroke.Slides, stroke.Reps, nil, 0, 1},
	} {
		r := step(func(r *Resolved) {
			r.Relation, r.Parts, r.rep, r.Dose = c.relation, c.parts, c.rep, &stroke.Dose{Kind: c.dose, Planned: 3}
		})
		assert.InDelta(t, c.want, r.SlidingShare(), 1e-9, "%+v", c)
	}
	for seconds, found := range map[float64]bool{90.5: false, 90.6: true} {
		e := &Evaluation{Steps: []Resolved{*step(func(r *Resolved) { r.Path = stops(2, "under-eye") }), *step(func(r *Resolved) { r.ID, r.Path = "other", stops(2, "jawline") }), *step(func(r *Resolved) { r.ID, r.Path, r.Relation = "rest", stops(0, "under-eye"), stroke.Still })}}
		e.Occurrences = []Occurrence{{Step: 0, SideRuns: []SideRun{{OnSide: anatomy.Left, Seconds: seconds}}}, {Step: 1, SideRuns: []SideRun{{OnSide: anatomy.Mid, Seconds: 60}}}}
		e.load()
		require.Equal(t, found, e.one(EyeLoad) != nil, "%v", seconds)
		if found {
			assert.Equal(t, []string{"s"}, e.one(EyeLoad).Steps)
		}
		for _, l := range e.Loads {
			if l.Zone == "jawline" {
				assert.InDelta(t, 2, l.Load, 1e-9, "a minute at 2, on each side")
				assert.InDelta(t, 60, l.Sliding, 1e-9)
			}
		}
	}
}

// A promise is kept by work, opening, closing and preparing, not by the rest.
func TestWhatKeepsAPromise(t *testing.T) {
	for phase, keeps := range map[protocol.Phase]bool{"work": true, "exercises": true, "open": true, "close": true, "prepare": true, "settle": false, "cleanse": false, "finish": false, "compare": false} {
		e := &Evaluation{Steps: []Resolved{*step(func(r *Resolved) { r.Path, r.Phase = stops(1, "jawline"), phase })}}
		assert.Equal(t, keeps, e.worksAny([]string{"jawline"}), phase)
		assert.False(t, e.worksAny([]string{"chin"}), phase)
	}
}

// Redness, skins that a product is not for, and nails.
func TestWhatDoesNotSuit(t *testing.T) {
	ctx := &protocol.Context{Tools: map[string]protocol.Tool{"cup": {Name: "C", Kind: "cup"}, "mitt": {Name: "M", Kind: "mitt"}, "stone": {Name: "S", Kind: "stone"}}, Products: map[string]*slip.Product{"cream": {Key: "cream", Name: "Cream", Unsuited: []string{"oily"}}}}
	tool := func(key string) *Resolved { return step(func(r *Resolved) { r.Tool = &stroke.ToolPart{Key: key} }) }
	family := func(f stroke.Family) *Resolved { return step(func(r *Resolved) { r.Family = f }) }
	for _, c := range []struct {
		r       *Resolved
		reddens bool
	}{{tool("cup"), true}, {tool("mitt"), true}, {tool("stone"), false}, {family(stroke.Friction), true}, {family(stroke.Tapotement), true}, {family(stroke.Effleurage), false}} {
		for _, method := range []string{"", "avoided"} {
			e := &Evaluation{}
			e.checkSuitability(c.r, &protocol.Protocol{Method: protocol.Method{Redness: method}}, ctx)
			assert.Equal(t, c.reddens && method == "avoided", e.one(Redness) != nil, "%+v", c.r.Family)
		}
	}
	said := family(stroke.Friction)
	said.Source = &protocol.Step{Departure: "so asked"}
	e := &Evaluation{}
	e.checkSuitability(said, &protocol.Protocol{Method: protocol.Method{Redness: "avoided"}}, ctx)
	assert.Empty(t, e.Findings)
	for skin, found := range map[string]bool{"oily": true, "dry": false, "": false} {
		for _, why := range []string{"", "so asked"} {
			of := *ctx
			of.SkinType = skin
			e := &Evaluation{}
			e.checkSuitability(step(func(r *Resolved) { r.Source = &protocol.Step{Use: &protocol.Use{Product: "cream"}, Departure: why} }), &protocol.Protocol{}, &of)
			assert.Equal(t, found && why == "", e.one(Unsuited) != nil, "%q %q", skin, why)
		}
	}
	nails := &stroke.Stroke{Manner: stroke.Manner{Hand: "fingertips", Alternates: []stroke.Alternate{{When: "long-nails", Hand: "knuckles"}}}}
	for _, c := range []struct {
		hand, zone string
		st         *stroke.Stroke
		found      bool
		fix        Fix
	}{{"fingertips", "temple", nails, true, UseAlternate}, {"knuckles", "temple", nails, false, ""}, {"fingertips", "temple", &stroke.Stroke{Manner: stroke.Manner{Hand: "fingertips"}}, false, ""}, {"fingertips", "ear-opening", &stroke.Stroke{Manner: stroke.Manner{Hand: "fingertips"}}, true, LeaveStep}} {
		for _, long := range []bool{true, false} {
			of := *ctx
			of.LongNails = long
			e := &Evaluation{}
			e.checkSuitability(step(func(r *Resolved) { r.Hand, r.Stroke, r.Path = c.hand, c.st, stops(1, c.zone) }), &protocol.Protocol{}, &of)
			require.Equal(t, c.found && long, e.one(LongNails) != nil, "%+v", c)
			if c.found && long {
				assert.Equal(t, []Fix{c.fix}, e.one(LongNails).Fixes)
			}
		}
	}
}

// Amounts in every measure, added up over a product's uses, with what they cost.
func TestAmountsOfAPlan(t *testing.T) {
	oil := &slip.Product{Key: "oil", Name: "Oil", Density: 0.92, DropsPerML: 30, MLPerPump: 1.5, Cost: "0.155"}
	e := &Evaluation{}
	e.count(oil, 2, true)
	e.count(&slip.Product{Key: "milk", Name: "Milk"}, 1, true)
	e.count(oil, 1, false)
	require.Len(t, e.Products, 2)
	assert.Equal(t, []bool{false, true}, []bool{e.Products[0].Optional, e.Products[1].Optional}, "one step needs the oil")
	e.Products[0].measure(oil)
	assert.InDelta(t, 3, e.Products[0].ML, 1e-9)
	assert.InDelta(t, 2.76, e.Products[0].G, 1e-9)
	assert.InDelta(t, 90, e.Products[0].Drops, 1e-9)
	assert.InDelta(t, 2, e.Products[0].Pumps, 1e-9)
	assert.Equal(t, "0.47", e.Products[0].Cost)
	e.Products[0].usually(1.0938)
	assert.InDelta(t, 3.28, e.Products[0].Usual, 0.002, "the plan stays 3")
	e.Products[1].usually(1.04)
	assert.Zero(t, e.Products[1].Usual, "so near that it says nothing")
	e.Products[1].measure(&slip.Product{Key: "milk"})
	assert.Zero(t, e.Products[1].Pumps)
	assert.Empty(t, e.Products[1].Cost, "a cost that is not known is not nought")
	e.Steps = []Resolved{*step(func(r *Resolved) { r.ID, r.Source = "a", &protocol.Step{Use: &protocol.Use{Product: "oil"}} }), *step(func(r *Resolved) { r.ID, r.Source = "b", &protocol.Step{Use: &protocol.Use{Product: "oil"}} }), *step(func(r *Resolved) { r.ID = "c" })}
	assert.Equal(t, "b", e.lastUse("oil"))
	assert.Empty(t, e.lastUse("milk"))
}

// A tool that is not ready yet is found once, with the steps that want it before, and how
// long it is still to wait.
func TestToolsThatAreNotReady(t *testing.T) {
	plan := func() *Evaluation {
		e := &Evaluation{}
		for i, at := range []float64{60, 300, 599, 600} {
			e.Steps = append(e.Steps, *step(func(r *Resolved) { r.ID, r.ToolName = string(rune('a'+i)), "Globes" }))
			e.Occurrences = append(e.Occurrences, Occurrence{Step: i, Start: at, Tool: "globes"})
		}
		e.Occurrences[1].Tool = "stone"
		return e
	}
	e := plan()
	e.toolReady("globes", 10)
	require.NotNil(t, e.one(ToolBusy))
	assert.Equal(t, []string{"a", "c"}, e.one(ToolBusy).Steps)
	assert.Equal(t, &ToolInUse{Tool: "Globes", Minutes: 9}, e.one(ToolBusy).Values)
	e = plan()
	e.toolReady("globes", 9.99)
	assert.Equal(t, []string{"a", "c"}, e.one(ToolBusy).Steps)
	e = plan()
	e.toolReady("globes", 1)
	assert.Nil(t, e.one(ToolBusy), "ready as it is wanted")
	e = plan()
	e.Occurrences[2].Step = 0
	e.toolReady("globes", 20)
	assert.Equal(t, []string{"a", "d"}, e.one(ToolBusy).Steps, "a step that comes again is named once")
}

// A stroke that the skin does not bear is taken out, or done the other way that it names.
func TestWhatTheSkinDoesNotBear(t *testing.T) {
	ctx := &protocol.Context{SkinStates: []string{"sensitive"}}
	for name, c := range map[string]struct {
		alternates []stroke.Alternate
		fixes      []Fix
	}{"no other way": {nil, []Fix{LeaveStep}}, "another way": {[]stroke.Alternate{{Stroke: "other"}}, []Fix{UseAlternate, LeaveStep}}} {
		r := step(func(r *Resolved) {
			r.Family, r.Stroke, r.Path = stroke.Tapotement, &stroke.Stroke{Manner: stroke.Manner{Alternates: c.alternates}}, stops(2, "mid-cheek")
		})
		e := &Evaluation{}
		e.checkSuitability(r, &protocol.Protocol{}, ctx)
		require.NotNil(t, e.one(Unsuited), name)
		assert.Equal(t, c.fixes, e.one(Unsuited).Fixes, name)
		e = &Evaluation{}
		e.checkSuitability(r, &protocol.Protocol{}, &protocol.Context{})
		assert.Nil(t, e.one(Unsuited), "a skin that is not known")
		r.Source = &protocol.Step{Departure: "so asked"}
		e = &Evaluation{}
		e.checkSuitability(r, &protocol.Protocol{}, ctx)
		assert.Nil(t, e.one(Unsuited), name)
	}
}

// Where a node's entry is left out, it and every node that empties into it are out of reach
// on that side; another zone of the node bars nothing.
func TestWhichNodesAreBarred(t *testing.T) {
	for i := range anatomy.Zones {
		z := &anatomy.Zones[i]
		id, _ := anatomy.Lookup(z.Key)
		for _, side := range []anatomy.Side{anatomy.Left, anatomy.Right, anatomy.Mid} {
			b := Barred([]anatomy.ZoneSide{{Zone: id, Side: side}})
			for _, g := range anatomy.NodeGroups {
				through := false
				for n := g; n != ""; n = n.Next() {
					through = through || n == z.Node && z.Node.EntryZone() == z.Key
				}
				assert.Equal(t, through && side != anatomy.Right, b[anatomy.Left][g.Rank()], "%s on %v, %s", z.Key, side, g)
				assert.Equal(t, through && side != anatomy.Left, b[anatomy.Right][g.Rank()], "%s on %v, %s", z.Key, side, g)
			}
		}
	}
	assert.Equal(t, BarredNodes{}, Barred(nil))
}
