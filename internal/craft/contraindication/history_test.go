package contraindication_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
)

// What applied when: a wait ends by itself, what has no end ends with the first
// check that does not find it, and a later check of the same day replaces the
// earlier one (handbook, chapter 5: history).
func TestHistory(t *testing.T) {
	pack := contraindication.Trade()
	check := func(day calendar.Day, answers map[string]contraindication.Answer) contraindication.Judged {
		return contraindication.Judged{Day: day, Result: pack.Evaluate(answers, contraindication.ClientProfile{}, day)}
	}
	got := contraindication.History([]contraindication.Judged{
		check("2026-03-20", map[string]contraindication.Answer{"pregnancy": crafttest.Yes("2026-06-01")}),
		check("2026-01-10", map[string]contraindication.Answer{"peel": crafttest.Yes("2026-01-08"), "pregnancy": crafttest.Yes("2026-06-01")}),
		check("2026-09-01", map[string]contraindication.Answer{"cold-sore": crafttest.Yes("")}),
		check("2026-09-01", map[string]contraindication.Answer{}),
	})
	assert.Equal(t, []contraindication.Span{
		{Rule: "peel", Title: "Light peel", Kind: contraindication.Wait, From: "2026-01-10", Until: "2026-01-15"},
		{Rule: "pregnancy", Title: "Pregnancy", Kind: contraindication.Cap, From: "2026-01-10", Until: "2026-09-01"},
	}, got)
	assert.Empty(t, contraindication.History(nil))
	still := contraindication.History([]contraindication.Judged{check("2026-09-01", map[string]contraindication.Answer{"beard": crafttest.Yes("")})})
	assert.Equal(t, calendar.Day(""), still[0].Until)
}
