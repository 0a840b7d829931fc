package evaluation_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
)

// A finding comes back from JSON as it was, with the payload of its code: so a
// prepared plan keeps it.
func TestFindingsComeBackFromJSON(t *testing.T) {
	for _, name := range crafttest.FixtureKeys(t) {
		p, ctx := crafttest.Fixture(t, name)
		ctx.LongNails, ctx.ToBed = true, 30
		p.Minutes.HandsOn++
		for _, found := range evaluation.Evaluate(p, ctx).Findings {
			data, err := json.Marshal(found)
			require.NoError(t, err)
			var back evaluation.Finding
			require.NoError(t, json.Unmarshal(data, &back), "%s: %s", name, data)
			assert.Equal(t, found, back, name)
		}
	}
}

func TestEveryPayloadIsReadByItsCode(t *testing.T) {
	for code, empty := range evaluation.Payloads {
		data, err := json.Marshal(evaluation.Finding{ID: string(code), Code: code, Values: empty(), Steps: []string{}, Fixes: []evaluation.Fix{}})
		require.NoError(t, err)
		var back evaluation.Finding
		require.NoError(t, json.Unmarshal(data, &back))
		assert.IsType(t, empty(), back.Values, code)
	}
	var f evaluation.Finding
	assert.ErrorContains(t, json.Unmarshal([]byte(`{"code":"unheard-of"}`), &f), "unheard-of")
	assert.Error(t, json.Unmarshal([]byte(`{"code":"glide-thin","values":{"slip":"wet"}}`), &f))
}
