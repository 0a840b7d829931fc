package remedy_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

func run(t *testing.T, p *protocol.Protocol, ctx *protocol.Context, c remedy.CommandRequest) *protocol.Protocol {
	t.Helper()
	d, err := remedy.RunCommand(p, ctx, c)
	require.NoError(t, err)
	return d.Protocol
}

// The opening in reverse stands at the end of the closing, before the finish; other steps of
// the closing stay, and steps that open elsewhere are left alone (worked by hand; the
// handbook's rule of thumb 3).
func TestTheOpeningInReverse(t *testing.T) {
	ctx := crafttest.SmallStudio()
	p := crafttest.Plan(10, at(crafttest.Do("breathe"), "settle"), at(crafttest.Do("pumps"), "open"), at(crafttest.Do("effleurage"), "open"), at(protocol.Step{Stroke: "neck-open", Round: "r", MirrorOf: "x"}, "open"),
		crafttest.Do("ear-open"), at(crafttest.Do("ear-open"), "close"), at(crafttest.Do("neck-glide"), "close"), at(crafttest.Do("breathe"), "finish"), at(crafttest.Do("breathe"), "wake"))
	q := run(t, p, ctx, remedy.CommandRequest{Command: remedy.ReverseTheOpening})
	assert.Equal(t, "settle breathe, open pumps, open effleurage, open neck-open, work ear-open, close neck-glide, close neck-open, close pumps, finish breathe, wake breathe", order(q))
	assert.Empty(t, q.Steps[6].Round)
	assert.Empty(t, q.Steps[6].MirrorOf)
	assert.Equal(t, "r", q.Steps[3].Round)
	q = run(t, crafttest.Plan(10, at(crafttest.Do("pumps"), "open"), crafttest.Do("lift")), ctx, remedy.CommandRequest{Command: remedy.ReverseTheOpening})
	assert.Equal(t, "open pumps, work lift, close pumps", order(q))
}

// One whole side, a comparison, then the other: in every run of work, with the midline
// before and half the product for each side (worked by hand).
func TestOneWholeSideThenTheOther(t *testing.T) {
	ctx := with(map[string]*stroke.Stroke{"compare": {Manner: stroke.Manner{Intent: stroke.LookOver, Family: stroke.Rest}, Dose: crafttest.Clock(10)}, "a-look": {Manner: stroke.Manner{Intent: stroke.LookOver, Family: stroke.Rest}, Path: []string{"chin"}, Dose: crafttest.Clock(10)}})
	use := crafttest.Oil(20)
	p := crafttest.Plan(20, at(crafttest.Do("spread"), "apply"), protocol.Step{Stroke: "effleurage", Use: use}, crafttest.Do("look"), crafttest.Do("crease"), crafttest.Do("lift"),
		at(crafttest.Do("breathe"), "compare"), at(crafttest.Do("press"), "exercises"), protocol.Step{Stroke: "press", Round: "r"}, at(crafttest.Do("effleurage"), "close"))
	p.Rounds = []protocol.Round{{ID: "r", Times: 2}}
	q := run(t, p, ctx, remedy.CommandRequest{Command: remedy.OneSideFirst})
	assert.Equal(t, "apply spread, work look, work lift, work effleurage, work crease, compare compare, work effleurage, work crease, compare breathe, exercises press, compare compare, exercises press, work press, close effleurage", order(q))
	first, second := stroke.Sides(p.WorkedSide(true).String()), stroke.Sides(p.WorkedSide(false).String())
	require.NotEqual(t, first, second)
	assert.Equal(t, []stroke.Sides{first, first, second, second}, []stroke.Sides{q.Steps[3].Sides, q.Steps[4].Sides, q.Steps[6].Sides, q.Steps[7].Sides})
	assert.Equal(t, []string{q.Steps[3].ID, q.Steps[4].ID}, []string{q.Steps[6].MirrorOf, q.Steps[7].MirrorOf})
	assert.InDelta(t, 10, q.Steps[3].Use.Amount.Value, 0)
	assert.InDelta(t, 10, q.Steps[6].Use.Amount.Value, 0)
	assert.Nil(t, q.Steps[7].Use)
	assert.InDelta(t, 20, use.Amount.Value, 0, "the plan that was is as it was")
	ids := map[string]bool{}
	for i := range q.Steps {
		assert.False(t, ids[q.Steps[i].ID], q.Steps[i].ID)
		ids[q.Steps[i].ID] = true
	}

	back := run(t, q, ctx, remedy.CommandRequest{Command: remedy.InTurnsEach})
	assert.Equal(t, "each-step", back.Method.Sides)
	assert.Equal(t, "apply spread, work look, work lift, work effleurage, work crease, compare compare, compare breathe, exercises press, compare compare, work press, close effleurage", order(back))
	assert.Equal(t, stroke.InTurns, back.Steps[3].Sides)
}

// Both sides at once where a stroke can: not with a tool, an anchored hand or a press on the
// neck that is more than a feather (the neck: the handbook, chapter 1).
func TestBothSidesAtOnceWhereAStrokeCan(t *testing.T) {
	ctx := crafttest.SmallStudio()
	neck := func(pressure int) protocol.Step {
		return protocol.Step{Stroke: "effleurage", Path: crafttest.Zones("side-neck"), Pressure: &pressure, Sides: stroke.InTurns}
	}
	p := crafttest.Plan(20, crafttest.Do("crease"), crafttest.Do("eye-stone"), protocol.Step{Stroke: "crease", Anchor: &stroke.Anchor{Zone: "temple", Pressure: 1}}, neck(1), neck(2),
		protocol.Step{Stroke: "crease", Phase: "close"}, protocol.Step{ID: "l", Stroke: "effleurage", Sides: stroke.LeftOnly}, protocol.Step{Stroke: "effleurage", Sides: stroke.RightOnly, MirrorOf: "l"},
		protocol.Step{ID: "m", Stroke: "effleurage", Sides: stroke.LeftOnly}, protocol.Step{Stroke: "effleurage", Sides: stroke.RightOnly, MirrorOf: "m", Departure: "the weaker side"})
	q := run(t, p, ctx, remedy.CommandRequest{Command: remedy.BothAtOnceEach})
	want := []stroke.Sides{stroke.BothAtOnce, stroke.InTurns, stroke.InTurns, stroke.BothAtOnce, stroke.InTurns, stroke.InTurns, stroke.BothAtOnce, stroke.BothAtOnce, stroke.RightOnly}
	require.Len(t, q.Steps, len(want))
	for i := range want {
		r := evaluation.Resolve(q, i, ctx)
		assert.Equal(t, want[i], r.Sides, "%d %s", i, q.Steps[i].Stroke)
	}
	assert.Empty(t, q.Method.Sides)
}

// What serves a concern stays, with draining that ends at the nodes; the frame of the plan
// may be dropped for time, but not what puts product on or takes it off (worked by hand).
func TestAShortPlanKeepsWhatServes(t *testing.T) {
	ctx := crafttest.SmallStudio()
	c := protocol.ConcernOf("jowls")
	require.NotNil(t, c)
	serving, other := c.Zones[0], "forehead-centre"
	require.NotContains(t, c.Zones, other)
	p := crafttest.Plan(20,
		at(protocol.Step{Stroke: "wipe", Remove: "wipe"}, "cleanse"), at(crafttest.Do("effleurage"), "prepare"), at(protocol.Step{Stroke: "spread", Use: crafttest.Oil(60)}, "prepare"), at(crafttest.Do("pumps"), "open"),
		protocol.Step{ID: "serves", Stroke: "effleurage", Path: crafttest.Zones(other, serving)}, protocol.Step{ID: "elsewhere", Stroke: "effleurage", Path: crafttest.Zones(other)},
		protocol.Step{ID: "drains", Stroke: "face-drain", Path: crafttest.Zones(other, "collarbone-hollow")}, protocol.Step{ID: "short", Stroke: "face-drain", Path: crafttest.Zones(other, "temple")},
		at(protocol.Step{ID: "idle", Stroke: "breathe"}, "compare"), at(protocol.Step{ID: "glance", Stroke: "press"}, "compare"), at(crafttest.Do("neck-glide"), "close"), at(crafttest.Do("effleurage"), "finish"))
	q := run(t, p, ctx, remedy.CommandRequest{Command: remedy.ShortenTo, Concern: "jowls", Seconds: 1200})
	assert.Equal(t, []string{"jowls"}, q.Concerns)
	for id, stays := range map[string]bool{"serves": true, "elsewhere": false, "drains": true, "short": false, "idle": false} {
		assert.Equal(t, stays, q.Index(id) >= 0, id)
	}
	for i := range q.Steps {
		s := &q.Steps[i]
		frame := s.Phase == "prepare" || s.Phase == "cleanse" || s.Phase == "compare" || s.Phase == "finish"
		assert.Equal(t, frame && s.Use == nil && s.Remove == "", s.Optional, "%s %s", s.Phase, s.Stroke)
	}
	assert.Equal(t, 20, q.Minutes.HandsOn)
}

// A smoother order moves work only: nothing passes a round, product that is put on or taken
// off, or another phase (worked by hand).
func TestASmootherOrderMovesWorkOnly(t *testing.T) {
	ctx := crafttest.Studio()
	far, near := crafttest.Do("shoulder-knead"), crafttest.Do("temple-press")
	for name, between := range map[string]protocol.Step{
		"a round":      {Stroke: "point-brow", Round: "r"},
		"product":      {Stroke: "spread-passes", Use: &protocol.Use{Product: "oil", Amount: slip.Amount{Value: 3, Measure: slip.ML}}},
		"a wipe":       {Stroke: "point-brow", Remove: "wipe"},
		"another part": {Stroke: "point-brow", Phase: "compare"},
	} {
		p := crafttest.Plan(12, far, near, between, far, crafttest.Do("point-temple"))
		if between.Round != "" {
			p.Rounds = []protocol.Round{{ID: "r", Times: 1}}
		}
		p.Method.Drainage = "none"
		before := order(p)
		d, err := remedy.RunCommand(p, ctx, remedy.CommandRequest{Command: remedy.SmootherOrder})
		if err != nil {
			continue // no better order on either side of it
		}
		q := d.Protocol
		at := q.Index(between.Stroke + "#3")
		assert.Equal(t, 2, at, "%s: %s became %s", name, before, order(q))
	}
}
