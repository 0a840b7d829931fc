package exchange_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/exchange"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// A record on paper says what was used, how it went, what was marked, what was added later and what was signed.
func TestARecordOnPaper(t *testing.T) {
	at := time.Date(2026, 11, 24, 9, 30, 0, 0, time.UTC)
	r := &treatment.RecordView{
		Visit:   studio.VisitLine{ClientName: "Ada Abendroth", PractitionerName: "Ines Lorca", ProtocolName: "Full-face drainage"},
		Skipped: []string{"Nape glide down"},
		Record: studio.Record{Note: "Pink at the temples.", Uses: []studio.RecordUse{{
			Name: "Calm seed oil", Planned: dec("3.2"), Used: dec("3.174"), Unit: "mL", Reading: shelf.Reading{How: shelf.Weighed},
			Lots: []studio.RecordLot{{Number: "CS-2291"}},
		}}},
		Account: &guide.Account{
			Planned: 2628, Real: 2700, Pauses: 1, Paused: 80, Refit: &guide.TakenRefit{From: "a/1", Minutes: 8},
			Spells: []guide.SpellRecord{{Name: "Cheek glide", Begun: true, Stayed: 3}},
			Marks:  []guide.MarkRecord{{Kind: guide.Tender, Zone: "temple", Side: "left", Minute: 17.6}},
		},
		Additions: []studio.RecordAddition{{At: at, Author: "Ines Lorca", Body: "She called: all well."}},
		Signature: &treatment.Signature{By: "Ines Lorca", At: at, SHA256: "5bb5e39378"},
	}
	r.Treatment.StartedAt = at
	pdf, err := exchange.RecordPaper(r, "Lantern Row", time.UTC, printed)
	require.NoError(t, err)
	text := pdfText(t, pdf)
	for _, want := range []string{
		"Ada Abendroth", "Full-face drainage", "Calm seed oil", "3.17 mL", "weighed", "CS-2291", "45:00 of 43:48", "Pauses: 1, 1:20", "Fitted by 8 min",
		"Cheek glide: stayed +3", "Tender left temple, minute 18", "Nape glide down", "Pink at the temples.", "She called: all well.", "5bb5e39378",
	} {
		assert.Contains(t, text, want)
	}
}
