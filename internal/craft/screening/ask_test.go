package screening_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/screening"
	"softpalm/internal/craft/substance"
)

func rulesOf(p *screening.Pack) map[string]bool {
	out := map[string]bool{}
	for _, r := range p.Rules {
		out[r.ID] = true
	}
	return out
}

// Only what matters for the studio's treatments is asked: what could change
// nothing of them is not, what keeps a client away always is (issue and handbook,
// chapter 5).
func TestOnlyWhatMattersIsAsked(t *testing.T) {
	pack, ctx := screening.Trade(), context()
	ctx.Products = map[string]*film.Product{"oil": ctx.Products["oil"]}
	hands := plan(12, protocol.Step{Stroke: "cheek-drain"}, protocol.Step{Stroke: "jaw-scissor"})
	hands.Steps[0].Use = nil
	asked := rulesOf(pack.For(screening.ScopeOf([]*protocol.Protocol{hands}, ctx)))
	for _, r := range pack.Rules {
		for _, o := range r.Outcomes {
			switch o.Kind {
			case screening.Urgent, screening.Stop, screening.Wait, screening.Letter:
				assert.True(t, asked[r.ID], "%s keeps a client away", r.ID)
			}
		}
	}
	for _, id := range []string{"metal-plate", "nut-allergy", "bee-allergy", "cold-urticaria", "mouth-trouble"} {
		assert.False(t, asked[id], "%s touches nothing of drainage by hand with a plain oil", id)
	}
	ctx = context() // now there is an almond oil on the shelf
	stone := plan(12, protocol.Step{Stroke: "stone-jaw"})
	asked = rulesOf(pack.For(screening.ScopeOf([]*protocol.Protocol{hands, stone}, ctx)))
	assert.True(t, asked["nut-allergy"] && asked["beard"] && asked["oil-wish"])
	assert.False(t, asked["bee-allergy"])
}

// What was told once with a day of its own is not lost at the next door check
// (common practice: the date tells, not the visit).
func TestWhatStillRunsIsCarried(t *testing.T) {
	pack := screening.Trade()
	brow := screening.Place{Zone: "brow", Side: "left"}
	home := map[string]screening.Answer{"filler": yes(today.Plus(-20), brow), "peel": yes(today.Plus(-8)), "cancer": yes(""), "isotretinoin": yes(today.Plus(-3))}
	got := pack.Carried(home, nil, false, today)
	require.Len(t, got, 1, "the peel is over; what only the consultation asks stands there")
	assert.Equal(t, home["filler"], got["filler"])
	assert.Empty(t, pack.Carried(home, nil, false, today.Plus(8)), "28 days are over")
	door := map[string]screening.Answer{"filler": {}, "fever": yes(today.Plus(-1))}
	got = pack.Carried(home, door, false, today)
	assert.NotContains(t, got, "filler", "taken back at the door")
	assert.Contains(t, got, "fever")
	assert.Contains(t, pack.Carried(home, door, true, today), "filler", "told anew since")
	assert.Contains(t, pack.Carried(map[string]screening.Answer{"filler": {}}, map[string]screening.Answer{"filler": yes(today.Plus(-2), brow)}, true, today), "filler", "a no at home does not undo what was told at the door")
}

// What is still so does not run out while the consultation holds: isotretinoin
// still taken counts from the day judged (handbook, chapter 5: now and 180 after).
func TestWhatIsStillSo(t *testing.T) {
	pack := screening.Trade()
	still := map[string]screening.Answer{"isotretinoin": {Yes: true, Still: true}, "retinoid-prescription": {Yes: true, Still: true}}
	for _, ago := range []int{0, 200, 360} {
		day := today.Plus(ago)
		got := pack.Evaluate(map[string]screening.Answer{"isotretinoin": still["isotretinoin"]}, screening.Subject{}, day)
		assert.Equal(t, screening.GoChanged, got.Headline)
		assert.Equal(t, day.Plus(180), got.Outcomes[0].Until)
		assert.Contains(t, pack.Carried(still, nil, false, day), "retinoid-prescription")
	}
	assert.NotContains(t, pack.Carried(still, map[string]screening.Answer{"retinoid-prescription": {}}, false, today), "retinoid-prescription", "stopped, by the newer check")
	none := map[string]screening.Answer{"isotretinoin": still["isotretinoin"]}
	only := &screening.Pack{Rules: slices.DeleteFunc(slices.Clone(pack.Rules), func(r screening.Rule) bool { return r.ID != "isotretinoin" && r.ID != "peel" })}
	none["peel"] = screening.Answer{Yes: true, Still: true}
	problems := only.Check(none, today, screening.Consultation)
	require.Len(t, problems, 1)
	assert.Equal(t, "/answers/peel/day", problems[0].Path, "a peel has a day")
}

// A medicine answers its own rule, or makes a no worth asking about; it is never
// a diagnosis.
func TestMedicines(t *testing.T) {
	pack := screening.Trade()
	no := map[string]screening.Answer{"blood-thinners": {}, "diabetes": {}}
	res := pack.Evaluate(no, screening.Subject{Medicines: []string{"Warfarin", "Metformin"}}, today)
	require.NotEmpty(t, res.Outcomes)
	for _, o := range res.Outcomes {
		assert.Equal(t, "blood-thinners", o.Rule)
	}
	taken := pack.Evaluate(nil, screening.Subject{Medicines: []string{"isotretinoin"}}, today)
	assert.Equal(t, today.Plus(180), taken.Outcomes[0].Until, "still taken: the half year begins tomorrow")
	doubts := pack.Doubts(no, []string{"Warfarin", "Metformin"})
	var rules []string
	for _, d := range doubts {
		rules = append(rules, d.Rule)
	}
	assert.ElementsMatch(t, []string{"clot-heart-kidney", "blood-thinners", "diabetes"}, rules)
	for _, d := range doubts {
		assert.Equal(t, d.Rule == "blood-thinners", d.Counts, d.Rule)
	}
	no["diabetes"] = yes("")
	assert.Len(t, pack.Doubts(no, []string{"Metformin"}), 0)
}

// A patch test: too early, due, clear after 24 hours, taken back by a reaction at
// 48, over after its months (handbook, chapter 5; the grades by the International
// Contact Dermatitis Research Group, from memory).
func TestPatchTests(t *testing.T) {
	at := time.Date(2026, 11, 20, 10, 0, 0, 0, time.UTC)
	p := screening.PatchTest{Product: "peel", Applied: at, Months: 6}
	assert.Equal(t, screening.PatchWaiting, p.State(at.Add(19*time.Hour)))
	assert.False(t, p.MayRead(24, at.Add(19*time.Hour)))
	assert.Equal(t, screening.PatchDue, p.State(at.Add(20*time.Hour)))
	assert.True(t, p.MayRead(24, at.Add(20*time.Hour)))
	assert.False(t, p.MayRead(48, at.Add(24*time.Hour)))
	assert.True(t, p.MayRead(48, at.Add(48*time.Hour)))
	assert.False(t, p.MayRead(36, at.Add(48*time.Hour)))
	p.Readings = append(p.Readings, screening.Reading{Hours: 24, Grade: screening.Negative})
	assert.Equal(t, screening.PatchClear, p.State(at.Add(25*time.Hour)))
	assert.False(t, p.MayRead(24, at.Add(25*time.Hour)), "it was read")
	assert.Equal(t, screening.PatchClear, p.State(time.Date(2027, 5, 20, 9, 59, 0, 0, time.UTC)))
	assert.Equal(t, screening.PatchOver, p.State(time.Date(2027, 5, 20, 10, 0, 0, 0, time.UTC)))
	for _, g := range screening.PatchGrades[1:] {
		q := p
		q.Readings = append([]screening.Reading{}, p.Readings...)
		q.Readings = append(q.Readings, screening.Reading{Hours: 48, Grade: g})
		assert.Equal(t, screening.PatchReacted, q.State(at.Add(48*time.Hour)), g)
	}
}

func TestWhoNeedsAPatchTest(t *testing.T) {
	now := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	products := []*film.Product{
		{Key: "oil", Form: film.Oil}, {Key: "milk", Form: film.Milk}, {Key: "peel", Form: film.WaterySerum, Ingredients: []string{"Aqua", "Lactic Acid"}},
		{Key: "scented", Form: film.Oil, Tags: []string{"essential-oil"}},
	}
	need := func(sensitive bool, used map[string]bool, tests ...screening.PatchTest) [2][]string {
		a, b := screening.PatchNeeds(products, sensitive, used, tests, now)
		return [2][]string{a, b}
	}
	assert.Equal(t, [2][]string{{"peel", "scented"}}, need(false, nil), "actives and essential oils, on any skin")
	assert.Equal(t, [2][]string{{"oil", "peel", "scented"}}, need(true, nil), "sensitive skin: everything that stays on")
	assert.Equal(t, [2][]string{{"scented"}}, need(true, map[string]bool{"oil": true, "peel": true}), "used before")
	clear := screening.PatchTest{Product: "scented", Applied: now.AddDate(0, -1, 0), Months: 6, Readings: []screening.Reading{{Hours: 24, Grade: screening.Negative}}}
	assert.Equal(t, [2][]string{{"peel"}}, need(false, nil, clear))
	clear.Months = 1
	assert.Equal(t, [2][]string{{"peel", "scented"}}, need(false, nil, clear), "its month is over")
	bad := screening.PatchTest{Product: "oil", Applied: now.AddDate(-3, 0, 0), Months: 6, Readings: []screening.Reading{{Hours: 48, Grade: screening.Weak}}}
	assert.Equal(t, [2][]string{{"peel", "scented"}, {"oil"}}, need(false, map[string]bool{"oil": true}, bad), "a reaction does not grow old")

	res := screening.Trade().Evaluate(nil, screening.Subject{Allergies: []substance.Allergy{{Kind: "group", Key: "lanolin", Name: "Lanolin"}}}, today)
	assert.Equal(t, screening.GoChanged, res.Headline)
	res.Outcomes = append(res.Outcomes, screening.PatchOutcomes([]string{"peel"}, []string{"oil"})...)
	assert.Empty(t, screening.PatchOutcomes(nil, nil))
	c := screening.Merge(res.Outcomes)
	assert.Equal(t, screening.PatchFirst, c.ProductRule(products[2]))
	assert.Equal(t, screening.PatchReaction, c.ProductRule(products[0]))
	assert.Empty(t, c.ProductRule(products[1]))
	assert.True(t, screening.MayOverrule(res.Outcomes, screening.PatchFirst), "a missing test may be answered for, with a reason")
	assert.False(t, screening.MayOverrule(res.Outcomes, screening.PatchReaction))
	assert.False(t, screening.MayOverrule(res.Outcomes, "allergy/lanolin"))
}
