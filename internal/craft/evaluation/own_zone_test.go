package evaluation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// withOwnZones gives the studio of the tests calves without a node group, and upper arms that empty into
// the armpit (common practice).
func withOwnZones(c *protocol.Context) {
	c.Zones = anatomy.Own([]anatomy.OwnZone{
		{Key: "own-calf", Name: "Calves", Paired: true, Ceiling: 3},
		{Key: "own-arm", Name: "Upper arms", Paired: true, Ceiling: 3, DrainsTo: anatomy.Axillary},
	})
}

// A zone of the studio's own is judged by its own ceiling, as every other one (handbook, chapter 1).
func TestAStudiosOwnZoneHasItsCeiling(t *testing.T) {
	anchored := at("shoulder-knead", 3, "shoulder")
	anchored.Anchor = &stroke.Anchor{Zone: "own-calf", Pressure: 4}
	judged(t, evaluation.PressureCeiling, []fair{
		{why: "at its ceiling", ctx: withOwnZones, steps: []protocol.Step{at("shoulder-knead", 3, "own-calf")}},
		{why: "above its ceiling", ctx: withOwnZones, steps: []protocol.Step{at("shoulder-knead", 4, "own-calf")}, want: evaluation.Warning, on: "own-calf"},
		{why: "the other hand rests there too firmly", ctx: withOwnZones, steps: []protocol.Step{anchored}, want: evaluation.Warning, on: "own-calf"},
	})
}

// Where no node group is known nothing is said of the way home; where one is, it counts.
func TestDrainingAStudiosOwnZone(t *testing.T) {
	drain := func(zones ...string) protocol.Step {
		s := at("cheek-drain", 1, zones...)
		s.Phase = "work"
		return s
	}
	flow := func(p *protocol.Protocol) { p.Method.Drainage = "" }
	judged(t, evaluation.DrainLeft, []fair{
		{why: "no node group", ctx: withOwnZones, plan: flow, steps: []protocol.Step{drain("own-calf", "knee")}},
		{why: "to the armpit", ctx: withOwnZones, plan: flow, steps: []protocol.Step{drain("own-arm", "armpit")}},
		{why: "left lying in the arm", ctx: withOwnZones, plan: flow, steps: []protocol.Step{drain("shoulder", "own-arm")}, want: evaluation.Warning, on: "own-arm"},
	})
	judged(t, evaluation.DrainAway, []fair{
		{why: "from the armpit out into the arm", ctx: withOwnZones, plan: flow, steps: []protocol.Step{drain("shoulder", "armpit", "own-arm")}},
		{why: "from the nodes of the neck back", ctx: withOwnZones, plan: flow, steps: []protocol.Step{drain("side-neck", "own-arm")}},
	})
}

func TestLoadsTellAStudiosOwnZonesApart(t *testing.T) {
	ctx := crafttest.Studio()
	withOwnZones(ctx)
	p := crafttest.Plan(12, at("shoulder-knead", 3, "own-calf"), at("shoulder-knead", 2, "own-arm", "own-gone"))
	assert.Equal(t, "/steps/1/path/1/zone", p.Validate(ctx, "")[0].Path, "a zone that the studio does not have is told")
	require.Empty(t, p.ValidateStructure(ctx, ""), "a draft stays open when one was removed")
	e := evaluation.Evaluate(p, ctx)
	loads := map[string]int{}
	for _, l := range e.Loads {
		loads[l.Zone]++
	}
	assert.Equal(t, map[string]int{"own-calf": 2, "own-arm": 2, "own-gone": 1}, loads)
	assert.Zero(t, e.Steps[1].Speed, "no way is measured where no place is known")
}
