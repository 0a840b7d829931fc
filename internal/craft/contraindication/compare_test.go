package contraindication_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/contraindication"
)

// Two packs are compared rule by rule: what is new, what is gone, what asks for more or
// for less, and what only reads otherwise.
func TestChangesBetweenPacks(t *testing.T) {
	trade := contraindication.Trade()
	assert.Empty(t, trade.Changes(trade))
	next := &contraindication.Pack{Version: "2027", Lists: trade.Lists, Rules: slices.Clone(trade.Rules)}
	at := func(id string) int {
		return slices.IndexFunc(next.Rules, func(r contraindication.Rule) bool { return r.ID == id })
	}
	days := func(id string, by int) {
		r := &next.Rules[at(id)]
		r.Outcomes = slices.Clone(r.Outcomes)
		for i := range r.Outcomes {
			if r.Outcomes[i].Days > 0 {
				r.Outcomes[i].Days += by
			}
		}
	}
	days("peel", 7)
	days("laser", -1)
	next.Rules[at("waxing")].Question = "Waxed lately?"
	next.Rules = slices.Delete(next.Rules, at("beard"), at("beard")+1)
	henna := trade.Rules[0]
	henna.ID, henna.Title = "henna", "Henna"
	next.Rules = append(next.Rules, henna)
	want := map[string]contraindication.PackChange{
		"peel":   {Kind: "changed"},
		"laser":  {Kind: "changed", Loosens: true},
		"waxing": {Kind: "changed"},
		"beard":  {Kind: "removed", Loosens: true},
		"henna":  {Kind: "added"},
	}
	got := trade.Changes(next)
	assert.Len(t, got, len(want))
	for _, c := range got {
		assert.Equal(t, want[c.Rule].Kind, c.Kind, c.Rule)
		assert.Equal(t, want[c.Rule].Loosens, c.Loosens, c.Rule)
		assert.NotEmpty(t, c.Title)
	}
	assert.Equal(t, "beard", got[len(got)-1].Rule, "what is gone comes last")
}
