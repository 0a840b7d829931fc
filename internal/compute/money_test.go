package compute_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/compute"
)

func answers(t *testing.T, topic, questions string) string {
	t.Helper()
	var out strings.Builder
	require.NoError(t, compute.Run(topic, strings.NewReader(questions), &out))
	return out.String()
}

// Figures of the handbook (chapter 8) as other programs ask for them: numbers may be text or numbers, the currency has
// two decimals unless another is said.
func TestMoneyIsAnsweredAsJSON(t *testing.T) {
	for topic, c := range map[string][2]string{
		"shares":        {`[{"total": "100.00", "weights": ["95", 95, 120]}, {"total": 100, "weights": [1, 1, 1], "minor": 0}]`, `[["30.65", "30.64", "38.71"], ["34", "33", "33"]]`},
		"tax":           {`[{"lines": [{"amount": "18.50", "rate": "6"}, {"amount": "60", "rate": null}], "mode": "included"}]`, `[{"lines": [{"net": "17.45", "tax": "1.05", "gross": "18.5"}, {"net": "60", "tax": "0", "gross": "60"}], "rates": {"6": {"net": "17.45", "tax": "1.05", "gross": "18.5"}}}]`},
		"cash-rounding": {`[{"rest": "12.32", "step": "0.05"}]`, `["12.3"]`},
		"series-until":  {`[{"sold": "2026-08-31", "months": 6, "frozen": [["2026-12-01", "2026-12-22"]]}]`, `["2027-03-21"]`},
		"card":          {`[[{"do": "press", "key": "k", "amount": "95"}, {"do": "answer", "key": "k", "is": "offline"}]]`, `[{"states": {"k": "stored"}, "charges": 1, "counted": "95"}]`},
		"price-for-margin": {`[{"rate": "23", "cardPercent": "1.4", "cardFixed": "0.10", "otherCost": "34.09", "step": "1", "perMinute": "0.60", "busyMinutes": 75},
			{"rate": "23", "cardPercent": "1.4", "cardFixed": "0.10", "otherCost": "34.09", "step": "0.50", "percent": "99"}]`, `["100", null]`},
	} {
		assert.JSONEq(t, c[1], answers(t, topic, c[0]), topic)
	}
}

// Questions about money that make no sense are answered with a sentence.
func TestMoneyQuestionsThatMakeNoSense(t *testing.T) {
	for topic, question := range map[string]string{
		"shares":   `[{"total": "1", "weights": [-1]}]`,
		"tax":      `[{"lines": [], "mode": "sometimes"}]`,
		"ledger":   `[{"events": [{"kind": "use", "lot": "none", "amount": -1}]}]`,
		"vouchers": `[{"due": "1", "today": "tomorrow"}]`,
	} {
		assert.Contains(t, answers(t, topic, question), "The question makes no sense", topic)
	}
}
