package exchange_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/exchange"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// The report of a reaction says what was noticed and what lay on the skin; it names no client (Regulation (EC)
// 1223/2009 article 23 is why it is written; from memory).
func TestAReactionOnPaper(t *testing.T) {
	at := time.Date(2026, 11, 24, 9, 30, 0, 0, time.UTC)
	grade := 1
	r := &treatment.ReactionReport{Initials: "A. A.", Born: "1950", ReactionView: treatment.ReactionView{
		Reaction: studio.Reaction{
			NoticedAt: at, NoticedBy: "the client", Kind: "rash", Grade: 2, Done: "Cool compress.",
			Zones:    []contraindication.ZoneSide{{Zone: "cheek", Side: "left"}},
			Products: []studio.ReactionProduct{{Name: "Calm seed oil", Lot: "CS-2291", SetAside: true}},
			FollowUp: []studio.FollowUp{{DoneAt: &at, Now: reaction.Better, Grade: &grade, Note: "Pale pink."}},
			Outcome:  reaction.Doctor, ClosedAt: &at, Note: "Her own doctor.",
		},
		Protocol: "Full-face drainage", Day: "2026-11-23",
	}}
	pdf, err := exchange.ReactionPaper(r, "Lantern Row", time.UTC, printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{
		"A. A. 1950", "the client", "Rash", "2: Moderate", "left", "Full-face drainage", "Cool compress.", "Calm seed oil", "CS-2291", "set aside",
		"Better, Grade 1", "Pale pink.", "Referred to a doctor", "Her own doctor.", "not a diagnosis",
	} {
		assert.Contains(t, text, want)
	}
}
