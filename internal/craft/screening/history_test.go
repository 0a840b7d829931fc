package screening_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/screening"
)

// What applied when: a wait ends by itself, what has no end ends with the first
// check that does not find it, and a later check of the same day replaces the
// earlier one (handbook, chapter 5: history).
func TestHistory(t *testing.T) {
	pack := screening.Trade()
	check := func(day screening.Day, answers map[string]screening.Answer) screening.Judged {
		return screening.Judged{Day: day, Result: pack.Evaluate(answers, screening.Subject{}, day)}
	}
	got := screening.History([]screening.Judged{
		check("2026-03-20", map[string]screening.Answer{"pregnancy": yes("2026-06-01")}),
		check("2026-01-10", map[string]screening.Answer{"peel": yes("2026-01-08"), "pregnancy": yes("2026-06-01")}),
		check("2026-09-01", map[string]screening.Answer{"cold-sore": yes("")}),
		check("2026-09-01", map[string]screening.Answer{}),
	})
	assert.Equal(t, []screening.Span{
		{Rule: "peel", Title: "Light peel", Kind: screening.Wait, From: "2026-01-10", Until: "2026-01-15"},
		{Rule: "pregnancy", Title: "Pregnancy", Kind: screening.Cap, From: "2026-01-10", Until: "2026-09-01"},
	}, got)
	assert.Empty(t, screening.History(nil))
	still := screening.History([]screening.Judged{check("2026-09-01", map[string]screening.Answer{"beard": yes("")})})
	assert.Equal(t, screening.Day(""), still[0].Until)
}
