package compute_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/compute"
)

func ask(t *testing.T, topic, questions string) []map[string]any {
	t.Helper()
	var out strings.Builder
	require.NoError(t, compute.Run(topic, strings.NewReader(questions), &out))
	var answers []map[string]any
	require.NoError(t, json.Unmarshal([]byte(out.String()), &answers))
	return answers
}

// A question that makes no sense has a sentence in its place, and the others their answers.
func TestAQuestionThatMakesNoSenseLeavesTheOthersTheirAnswers(t *testing.T) {
	answers := ask(t, "series", `[
		{"zone": "Nowhere/Land", "series": {"items": []}},
		{"zone": "UTC", "grid": "often"},
		{"zone": "UTC", "now": "2027-01-04T08:00", "open": {"mon": [["09:00", "10:00"]]}, "rooms": [{"key": "one"}],
		 "practitioners": [{"key": "a", "shifts": [{"from": "2027-01-04", "days": {"mon": [["09:00", "10:00"]]}}]}],
		 "series": {"items": [{"sold": 60}]}}]`)
	require.Len(t, answers, 3)
	for _, a := range answers[:2] {
		failure, _ := a["error"].(map[string]any)
		assert.NotEmpty(t, failure["message"])
	}
	assert.Equal(t, "optimal", answers[2]["status"])
}

func TestWhatIsNoListAndWhatIsNoTopic(t *testing.T) {
	var out strings.Builder
	require.ErrorContains(t, compute.Run("series", strings.NewReader(`{}`), &out), "no JSON list")
	require.ErrorContains(t, compute.Run("weather", strings.NewReader(`[]`), &out), "the topics are ")
	require.Error(t, compute.Schema("weather", &out))
	assert.Empty(t, out.String())
}

// The schema names what a question and an answer hold.
func TestEveryTopicHasItsSchema(t *testing.T) {
	for _, topic := range compute.Topics() {
		var out strings.Builder
		require.NoError(t, compute.Schema(topic, &out))
		var schema map[string]any
		require.NoError(t, json.Unmarshal([]byte(out.String()), &schema))
		assert.Contains(t, schema, "question")
		assert.Contains(t, schema, "answer")
	}
}
