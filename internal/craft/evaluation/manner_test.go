package evaluation_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// A step shares how its stroke is done, and what it says itself is its own: neither the stroke nor another
// step of it hears of it.
func TestWhatAStepSaysLeavesItsStrokeAlone(t *testing.T) {
	ctx := crafttest.TradeStudio()
	st := *ctx.Strokes["feather-sweep"]
	st.Manner = stroke.Manner{
		Name: "Own", Family: st.Family, Intent: st.Intent, Hand: "flat palm", Fingers: []stroke.Finger{{Part: "thumb", Pressure: 1}},
		Direction: "up", CircleDirection: "outward", Tempo: "slow", Ending: "hold", Last: &stroke.Last{Does: "leans in"},
		Anchor: &stroke.Anchor{Zone: "chin", Role: "supports"}, Find: "Find.", Sign: "Sign.", Client: "Client.", Cue: "Cue.",
		Precaution: "Care.", Alternates: []stroke.Alternate{{Does: "Less."}},
	}
	st.Key = "own"
	ctx.Strokes["own"] = &st
	before, err := json.Marshal(&st)
	require.NoError(t, err)

	plain := protocol.Step{ID: "plain", Stroke: "own", Phase: "work"}
	says := protocol.Step{
		ID: "says", Stroke: "own", Phase: "work", Hand: "knuckles", Fingers: []stroke.Finger{{Part: "index", Pressure: 2}},
		Direction: "down", CircleDirection: "inward", Tempo: "quick", Ending: "lift-off", Last: &stroke.Last{Does: "lets go"},
		Anchor: &stroke.Anchor{Zone: "temple", Role: "rests"}, Find: "There.", Sign: "Red.", Client: "Breathes.", Cue: "So.",
		Precaution: "Slowly.", Alternates: []stroke.Alternate{{Does: "More."}},
	}
	clears := protocol.Step{ID: "clears", Stroke: "own", Phase: "work", Clears: []string{
		"fingers", "anchor", "client", "find", "sign", "cue", "caution", "direction", "sense", "tempo", "ending", "alternates", "last",
	}}
	e := evaluation.Evaluate(crafttest.Plan(10, plain, says, clears), ctx)

	after, err := json.Marshal(&st)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after))
	assert.Equal(t, st.Manner, *e.Steps[0].Manner)
	assert.Equal(t, stroke.Manner{
		Name: "Own", Family: st.Family, Intent: st.Intent, Hand: "knuckles", Fingers: says.Fingers, Direction: "down",
		CircleDirection: "inward", Tempo: "quick", Ending: "lift-off", Last: says.Last, Anchor: says.Anchor, Find: "There.", Sign: "Red.",
		Client: "Breathes.", Cue: "So.", Precaution: "Slowly.", Alternates: says.Alternates,
	}, *e.Steps[1].Manner)
	assert.Equal(t, stroke.Manner{Name: "Own", Family: st.Family, Intent: st.Intent, Hand: "flat palm"}, *e.Steps[2].Manner)
}
