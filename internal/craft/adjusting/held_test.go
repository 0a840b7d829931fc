package adjusting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// only is a context with nothing but these strokes, so that none can take
// another's place.
func only(strokes ...stroke.Stroke) *protocol.Context {
	ctx := crafttest.TradeStudio()
	ctx.Strokes = stroke.ByKey(strokes)
	return ctx
}

// timed is a stroke of one zone that always takes as long.
func timed(key, zone string, seconds int) stroke.Stroke {
	return stroke.Stroke{Key: key, Manner: stroke.Manner{Name: key, Family: stroke.Effleurage, Hand: "flat palm", Intent: stroke.Settle}, Relation: stroke.Still, Glide: stroke.AnyGlide, Pressure: 1, Sides: stroke.Midline, Path: []string{zone},
		Dose: stroke.Dose{Kind: stroke.Clock, Planned: seconds, Min: seconds, Max: seconds}}
}

// works is a plan of work alone, without drainage.
func works(minutes int, keys ...string) *protocol.Protocol {
	p := &protocol.Protocol{Key: "t", Name: "T", Setting: "self", Method: protocol.Method{Drainage: "none"}, Minutes: protocol.Minutes{Treatment: minutes + 10, HandsOn: minutes}, DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}}
	for _, k := range keys {
		p.Steps = append(p.Steps, protocol.Step{ID: k, Stroke: k, Phase: "work"})
	}
	return p
}

// A plan is refused when less than two fifths of its work are left (a studio's
// starting value).
func TestTooLittleWorkIsLeft(t *testing.T) {
	for _, c := range []struct {
		left    int
		refused bool
	}{{39, true}, {40, false}, {41, false}} {
		ctx := only(timed("stays", "chin", c.left), timed("goes", "glabella", 100-c.left))
		got := adjusting.Adjust(works(5, "stays", "goes"), ctx, contraindication.Merge([]contraindication.Contraindication{crafttest.LeaveOut(contraindication.ZoneSide{Zone: "glabella", Side: "both"})}))
		require.Len(t, got.Protocol.Steps, 1)
		assert.Equal(t, c.refused, got.Refused, "%d of 100 s left", c.left)
	}
}

// A zone on both sides of the midline and on it is kept off as a whole: a step for
// the right goes round it too where the left is barred.
func TestTheMidlineOfABarredZoneIsKeptOff(t *testing.T) {
	id, _ := anatomy.Lookup("hairline")
	require.True(t, id.Zone().Paired && id.Zone().Midline, "the hairline is both")
	own := timed("brush", "hairline", 60)
	own.Relation, own.Path = stroke.Still, []string{"forehead", "hairline", "temple"}
	for _, sides := range []stroke.Sides{stroke.RightOnly, stroke.LeftOnly, stroke.BothAtOnce} {
		own.Sides = sides
		ctx := only(own)
		got := adjusting.Adjust(works(5, "brush"), ctx, contraindication.Merge([]contraindication.Contraindication{crafttest.LeaveOut(contraindication.ZoneSide{Zone: "hairline", Side: "left"})}))
		require.False(t, got.Refused, sides)
		for _, s := range got.Protocol.Steps {
			assert.NotContains(t, zonesOf(got.Evaluation, s.ID), "hairline", sides)
		}
	}
}

// A step that is parted into its sides takes no more product than before, and one
// that is not parted in the end takes all of it.
func TestAPartedStepHalvesItsProduct(t *testing.T) {
	spread := timed("spread", "chin", 60)
	spread.Sides, spread.Intent, spread.Path = stroke.BothAtOnce, stroke.Spread, []string{"mid-cheek", "cheekbone", "temple"}
	finger := spread
	finger.Fingers = []stroke.Finger{{Part: "thumb", Zone: "cheekbone", Pressure: 1}}
	for name, c := range map[string]struct {
		st      stroke.Stroke
		amounts []float64
	}{
		"parted":                   {spread, []float64{1.5, 1.5}},
		"the free side on its own": {finger, []float64{3}},
	} {
		p := works(5, "spread")
		p.Steps[0].Use = &protocol.Use{Product: "oil", Amount: slip.Amount{Value: 3, Measure: slip.ML}}
		got := adjusting.Adjust(p, only(c.st), contraindication.Merge([]contraindication.Contraindication{crafttest.LeaveOut(contraindication.ZoneSide{Zone: "cheekbone", Side: "left"})}))
		var amounts []float64
		for _, s := range got.Protocol.Steps {
			amounts = append(amounts, s.Use.Amount.Value)
		}
		assert.Equal(t, c.amounts, amounts, name)
		assert.InDelta(t, 3, p.Steps[0].Use.Amount.Value, 1e-9, "the protocol itself is not changed")
	}
}

// A firmer hand goes up to a zone's ceiling and no further (handbook, chapter 1).
func TestAFirmerHandStopsAtTheCeiling(t *testing.T) {
	at, below := anatomy.Zones[0].Key, anatomy.Zones[0].Key
	for _, z := range anatomy.Zones {
		if z.Paired && !z.Midline && z.Ceiling == 2 && z.Region == anatomy.Middle {
			at = z.Key
		}
		if z.Paired && !z.Midline && z.Ceiling == 3 && z.Region == anatomy.Middle {
			below = z.Key
		}
	}
	own := timed("press", at, 60)
	own.Sides, own.Relation, own.Pressure, own.Path = stroke.BothAtOnce, stroke.Carries, 2, []string{at, below}
	firmer := contraindication.Contraindication{Rule: "wish", Kind: contraindication.Firmer, Title: "T", Why: "w", Outcome: contraindication.Outcome{Kind: contraindication.Firmer}}
	got := adjusting.Adjust(works(5, "press"), only(own), contraindication.Merge([]contraindication.Contraindication{firmer}))
	path := got.Evaluation.Steps[0].Path
	assert.Equal(t, 2, path[0].Pressure, "%s bears 2", at)
	assert.Equal(t, 3, path[1].Pressure, "%s bears 3", below)
}

// A stroke in another's place counts as only gentler where it does the same with
// less; anything else wants a yes of its own.
func TestASubstituteIsOnlyGentlerWhenItDoesLess(t *testing.T) {
	barred := timed("barred", "chin", 60)
	barred.Pressure, barred.Path = 2, []string{"chin", "glabella"}
	for name, c := range map[string]struct {
		change  func(*stroke.Stroke)
		gentler bool
	}{
		"the same, lighter":       {func(s *stroke.Stroke) { s.Pressure = 1 }, true},
		"the same pressure":       {func(*stroke.Stroke) {}, true},
		"more pressure":           {func(s *stroke.Stroke) { s.Pressure = 3 }, false},
		"another family":          {func(s *stroke.Stroke) { s.Pressure, s.Family = 1, stroke.Friction }, false},
		"a zone more":             {func(s *stroke.Stroke) { s.Pressure, s.Path = 1, []string{"chin", "lip-centre-lower"} }, false},
		"a finger that is firmer": {func(s *stroke.Stroke) { s.Pressure, s.Fingers = 1, []stroke.Finger{{Part: "thumb", Pressure: 3}} }, false},
		"with a tool":             {func(s *stroke.Stroke) { s.Pressure, s.Tool = 1, &stroke.ToolPart{Key: "stone-plate"} }, false},
	} {
		sub := barred
		sub.Key, sub.Name = "sub", "Sub"
		c.change(&sub)
		first := barred
		first.Alternates = []stroke.Alternate{{Stroke: "sub"}}
		cons := contraindication.Merge(nil)
		cons.ExcludeStrokes(nil, nil, []string{"barred"}, nil, "r")
		got := adjusting.Adjust(works(5, "barred"), only(first, sub), cons)
		require.Len(t, got.Adjustments, 1, name)
		assert.Equal(t, adjusting.Swapped, got.Adjustments[0].Kind, name)
		assert.Equal(t, c.gentler, got.Adjustments[0].Gentler, name)
	}
}

// A step over a named area leaves out what may not be worked today and keeps the rest, with what was said
// of each place; a second contact of the other hand is kept off as well.
func TestAnAreaLeavesOutWhatMayNotBeWorked(t *testing.T) {
	ctx := crafttest.Studio()
	chin := contraindication.Merge([]contraindication.Contraindication{crafttest.LeaveOut(contraindication.ZoneSide{Zone: "chin", Side: "both"})})
	spread := crafttest.Do("spread-passes")
	spread.Path = []protocol.PathPoint{{Zone: "side-neck", Part: "upper"}, {Zone: "whole-face"}}
	got := adjusting.Adjust(crafttest.Plan(5, spread), ctx, chin)
	require.Len(t, got.Protocol.Steps, 1)
	var zones []string
	for _, at := range got.Protocol.Steps[0].Path {
		zones = append(zones, at.Zone)
	}
	assert.Equal(t, append([]string{"side-neck"}, anatomy.Areas["whole-face"][1:]...), zones)
	assert.Equal(t, "upper", got.Protocol.Steps[0].Path[0].Part)

	held := crafttest.Do("temple-press")
	held.Anchor = &stroke.Anchor{Zone: "forehead", Pressure: 1, Role: "rests", Second: &stroke.HandContact{Zone: "chin", Pressure: 1}}
	got = adjusting.Adjust(crafttest.Plan(5, held), ctx, chin)
	for i := range got.Protocol.Steps {
		for zone := range evaluation.Resolve(got.Protocol, i, ctx).Presses {
			assert.NotEqual(t, "chin", zone)
		}
	}
}
