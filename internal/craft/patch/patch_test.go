package patch_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/substance"
)

// A patch test: too early, due, clear after 24 hours, taken back by a reaction at
// 48, over after its months (handbook, chapter 5; the grades by the International
// Contact Dermatitis Research Group, from memory).
func TestPatchTests(t *testing.T) {
	at := time.Date(2026, 11, 20, 10, 0, 0, 0, time.UTC)
	p := patch.PatchTest{Product: "peel", Applied: at, Months: 6}
	assert.Equal(t, patch.PatchWaiting, p.State(at.Add(19*time.Hour)))
	assert.False(t, p.MayRead(24, at.Add(19*time.Hour)))
	assert.Equal(t, patch.PatchDue, p.State(at.Add(20*time.Hour)))
	assert.True(t, p.MayRead(24, at.Add(20*time.Hour)))
	assert.False(t, p.MayRead(48, at.Add(24*time.Hour)))
	assert.True(t, p.MayRead(48, at.Add(48*time.Hour)))
	assert.False(t, p.MayRead(36, at.Add(48*time.Hour)))
	p.Readings = append(p.Readings, patch.Reading{Hours: 24, Grade: patch.Negative})
	assert.Equal(t, patch.PatchClear, p.State(at.Add(25*time.Hour)))
	assert.False(t, p.MayRead(24, at.Add(25*time.Hour)), "it was read")
	assert.Equal(t, patch.PatchClear, p.State(time.Date(2027, 5, 20, 9, 59, 0, 0, time.UTC)))
	assert.Equal(t, patch.PatchOver, p.State(time.Date(2027, 5, 20, 10, 0, 0, 0, time.UTC)))
	for _, g := range patch.PatchGrades[1:] {
		q := p
		q.Readings = append([]patch.Reading{}, p.Readings...)
		q.Readings = append(q.Readings, patch.Reading{Hours: 48, Grade: g})
		assert.Equal(t, patch.PatchReacted, q.State(at.Add(48*time.Hour)), g)
	}
}

func TestWhoNeedsAPatchTest(t *testing.T) {
	now := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	products := []*slip.Product{
		{Key: "oil", Form: slip.Oil}, {Key: "milk", Form: slip.Milk}, {Key: "peel", Form: slip.WaterySerum, Ingredients: []string{"Aqua", "Lactic Acid"}},
		{Key: "scented", Form: slip.Oil, Tags: []string{"essential-oil"}},
	}
	need := func(sensitive bool, used map[string]bool, tests ...patch.PatchTest) [2][]string {
		a, b := patch.PatchNeeds(products, sensitive, used, tests, now)
		return [2][]string{a, b}
	}
	assert.Equal(t, [2][]string{{"peel", "scented"}}, need(false, nil), "actives and essential oils, on any skin")
	assert.Equal(t, [2][]string{{"oil", "peel", "scented"}}, need(true, nil), "sensitive skin: everything that stays on")
	assert.Equal(t, [2][]string{{"scented"}}, need(true, map[string]bool{"oil": true, "peel": true}), "used before")
	clear := patch.PatchTest{Product: "scented", Applied: now.AddDate(0, -1, 0), Months: 6, Readings: []patch.Reading{{Hours: 24, Grade: patch.Negative}}}
	assert.Equal(t, [2][]string{{"peel"}}, need(false, nil, clear))
	clear.Months = 1
	assert.Equal(t, [2][]string{{"peel", "scented"}}, need(false, nil, clear), "its month is over")
	bad := patch.PatchTest{Product: "oil", Applied: now.AddDate(-3, 0, 0), Months: 6, Readings: []patch.Reading{{Hours: 48, Grade: patch.Weak}}}
	assert.Equal(t, [2][]string{{"peel", "scented"}, {"oil"}}, need(false, map[string]bool{"oil": true}, bad), "a reaction does not grow old")

	res := contraindication.Trade().Evaluate(nil, contraindication.ClientProfile{Allergies: []substance.Allergy{{Kind: "group", Key: "lanolin", Name: "Lanolin"}}}, crafttest.Today)
	assert.Equal(t, contraindication.OKWithAdjustments, res.Headline)
	res.Outcomes = append(res.Outcomes, patch.PatchOutcomes([]string{"peel"}, []string{"oil"})...)
	assert.Empty(t, patch.PatchOutcomes(nil, nil))
	c := contraindication.Merge(res.Outcomes)
	assert.Equal(t, contraindication.PatchFirst, c.ProductRule(products[2]))
	assert.Equal(t, contraindication.PatchReaction, c.ProductRule(products[0]))
	assert.Empty(t, c.ProductRule(products[1]))
	assert.True(t, contraindication.MayOverride(res.Outcomes, contraindication.PatchFirst), "a missing test may be answered for, with a reason")
	assert.False(t, contraindication.MayOverride(res.Outcomes, contraindication.PatchReaction))
	assert.False(t, contraindication.MayOverride(res.Outcomes, "allergy/lanolin"))
}
