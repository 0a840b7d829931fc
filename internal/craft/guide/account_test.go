package guide_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// told is a plan of spreading over the face and a lift of one side after the other, with its account of a log that begins
// each spell some seconds after the one before.
func told(t *testing.T, more ...guide.Event) (*evaluation.Evaluation, *guide.Account) {
	t.Helper()
	p := crafttest.Plan(10, protocol.Step{Stroke: "spread", Use: crafttest.Oil(90)}, protocol.Step{Stroke: "lift", Sides: stroke.InTurns})
	e := evaluation.Evaluate(p, crafttest.SmallStudio())
	spells := guide.PlannedSpells(e)
	require.Len(t, spells, 2)
	events := []guide.Event{
		{ID: "1", Device: "A", Seq: 1, N: 1, At: 0, Kind: guide.Start},
		{ID: "2", Device: "A", Seq: 2, N: 2, At: 0, Kind: guide.Begin, Spell: spells[0].Key},
		{ID: "3", Device: "A", Seq: 3, N: 3, At: 30_000, Kind: guide.Begin, Spell: spells[1].Key},
	}
	for i, x := range more {
		x.Device, x.Seq, x.N = "A", 4+i, 4+i
		events = append(events, x)
	}
	return e, guide.AccountOf(e, &guide.Log{Arrived: events})
}

// A treatment as it went beside its plan: seconds by step and by phase, marks with their minute, what was paused.
func TestAccount(t *testing.T) {
	e, a := told(t,
		guide.Event{ID: "4", At: 36_000, Kind: guide.Tender, Zone: "jawline", Side: "left"},
		guide.Event{ID: "5", At: 40_000, Kind: guide.Pause},
		guide.Event{ID: "6", At: 100_000, Kind: guide.Resume},
		guide.Event{ID: "7", At: 120_000, Kind: guide.Finish},
	)
	require.Len(t, a.Spells, 2)
	assert.Equal(t, []string{e.Steps[0].Name, e.Steps[1].Name}, []string{a.Spells[0].Name, a.Spells[1].Name})
	assert.InDelta(t, 30-e.Occurrences[0].Lead, a.Spells[0].Real, 0.051, "from its beginning to the next one's, less the way there")
	assert.InDelta(t, 30-e.Occurrences[1].Lead, a.Spells[1].Real, 0.051, "10 s before the pause and 20 s after it")
	assert.InDelta(t, a.Spells[0].Real+a.Spells[1].Real, a.Real, 0.11)
	assert.InDelta(t, float64(e.Steps[0].Seconds+e.Steps[1].Seconds), a.Planned, 0.11)
	assert.Equal(t, []any{60.0, 1}, []any{a.Paused, a.Pauses})
	assert.Equal(t, []bool{false, true}, []bool{a.Spells[0].Paused, a.Spells[1].Paused})
	require.Len(t, a.Marks, 1)
	assert.InDelta(t, 0.6, a.Marks[0].Minute, 0.051, "the 36th second of hands-on time")
	phases := 0.0
	for _, p := range a.Phases {
		phases += p.Real
	}
	assert.InDelta(t, a.Real, phases, 0.11)
	assert.Empty(t, a.Stops)
	assert.False(t, a.Stopped)
}

// Stop keeps the minute, the step and the zones under the hands: of a step that works one side after the other those of the
// side in hand.
func TestStopsOfAnAccount(t *testing.T) {
	e, _ := told(t)
	lift := &e.Occurrences[1]
	require.Len(t, lift.SideRuns, 2)
	change := (lift.SideRuns[1].Start - lift.Start + lift.Lead) * 1000
	for _, c := range []struct {
		after float64
		side  string
	}{
		{30_000 + lift.Lead*1000 + 500, lift.SideRuns[0].Side},
		{30_000 + change + 500, lift.SideRuns[1].Side},
	} {
		_, a := told(t, guide.Event{ID: "4", At: c.after, Kind: guide.Stop})
		assert.True(t, a.Stopped)
		require.Len(t, a.Stops, 1)
		assert.Equal(t, e.Steps[1].Name, a.Stops[0].Step)
		assert.InDelta(t, c.after/60_000, a.Stops[0].Minute, 0.051)
		require.NotEmpty(t, a.Stops[0].Zones)
		for _, z := range a.Stops[0].Zones {
			assert.True(t, e.Steps[1].OnZone(z.Zone))
			assert.Equal(t, c.side, z.Side)
		}
	}
	_, a := told(t, guide.Event{ID: "4", At: 10_000, Kind: guide.Note})
	assert.Equal(t, []guide.StopRecord{}, a.Stops)
	_, a = told(t, guide.Event{ID: "4", At: 20_000, Kind: guide.Stop}, guide.Event{ID: "5", At: 25_000, Kind: guide.GoOn})
	require.Len(t, a.Stops, 1, "one that was gone on from is kept as well")
	assert.IsType(t, []contraindication.ZoneSide{}, a.Stops[0].Zones)
}
