package contraindication_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
)

// Only what matters for the studio's treatments is asked: what could change
// nothing of them is not, what keeps a client away always is (issue and handbook,
// chapter 5).
func TestOnlyWhatMattersIsAsked(t *testing.T) {
	pack, ctx := contraindication.Trade(), crafttest.TradeStudio()
	ctx.Products = map[string]*slip.Product{"oil": ctx.Products["oil"]}
	hands := crafttest.Treatment(12, protocol.Step{Stroke: "cheek-drain"}, protocol.Step{Stroke: "jaw-scissor"})
	hands.Steps[0].Use = nil
	asked := crafttest.RulesOf(pack.AskedIn(contraindication.ScopeOf([]*protocol.Protocol{hands}, ctx)))
	for _, r := range pack.Rules {
		for _, o := range r.Outcomes {
			switch o.Kind {
			case contraindication.Urgent, contraindication.Stop, contraindication.Wait, contraindication.Letter:
				assert.True(t, asked[r.ID], "%s keeps a client away", r.ID)
			}
		}
	}
	for _, id := range []string{"metal-plate", "nut-allergy", "bee-allergy", "cold-urticaria", "mouth-trouble"} {
		assert.False(t, asked[id], "%s touches nothing of drainage by hand with a plain oil", id)
	}
	ctx = crafttest.TradeStudio() // now there is an almond oil on the shelf
	stone := crafttest.Treatment(12, protocol.Step{Stroke: "stone-jaw"})
	asked = crafttest.RulesOf(pack.AskedIn(contraindication.ScopeOf([]*protocol.Protocol{hands, stone}, ctx)))
	assert.True(t, asked["nut-allergy"] && asked["beard"] && asked["oil-wish"])
	assert.False(t, asked["bee-allergy"])
}

// What was told once with a day of its own is not lost at the next pre-treatment check
// (common practice: the date tells, not the visit).
func TestWhatStillRunsIsCarried(t *testing.T) {
	pack := contraindication.Trade()
	brow := contraindication.ZoneSide{Zone: "brow", Side: "left"}
	home := map[string]contraindication.Answer{"filler": crafttest.Yes(crafttest.Today.Plus(-20), brow), "peel": crafttest.Yes(crafttest.Today.Plus(-8)), "cancer": crafttest.Yes(""), "isotretinoin": crafttest.Yes(crafttest.Today.Plus(-3))}
	got := pack.AnswersInForce(home, nil, false, crafttest.Today)
	require.Len(t, got, 1, "the peel is over; what only the consultation asks stands there")
	assert.Equal(t, home["filler"], got["filler"])
	assert.Empty(t, pack.AnswersInForce(home, nil, false, crafttest.Today.Plus(8)), "28 days are over")
	door := map[string]contraindication.Answer{"filler": {}, "fever": crafttest.Yes(crafttest.Today.Plus(-1))}
	got = pack.AnswersInForce(home, door, false, crafttest.Today)
	assert.NotContains(t, got, "filler", "taken back at the door")
	assert.Contains(t, got, "fever")
	assert.Contains(t, pack.AnswersInForce(home, door, true, crafttest.Today), "filler", "told anew since")
	assert.Contains(t, pack.AnswersInForce(map[string]contraindication.Answer{"filler": {}}, map[string]contraindication.Answer{"filler": crafttest.Yes(crafttest.Today.Plus(-2), brow)}, true, crafttest.Today), "filler", "a no at home does not undo what was told at the door")
}

// What is still so does not run out while the consultation holds: isotretinoin
// still taken counts from the day judged (handbook, chapter 5: now and 180 after).
func TestWhatIsStillSo(t *testing.T) {
	pack := contraindication.Trade()
	still := map[string]contraindication.Answer{"isotretinoin": {Yes: true, Ongoing: true}, "retinoid-prescription": {Yes: true, Ongoing: true}}
	for _, ago := range []int{0, 200, 360} {
		day := crafttest.Today.Plus(ago)
		got := pack.Evaluate(map[string]contraindication.Answer{"isotretinoin": still["isotretinoin"]}, contraindication.ClientProfile{}, day)
		assert.Equal(t, contraindication.OKWithAdjustments, got.Headline)
		assert.Equal(t, day.Plus(180), got.Outcomes[0].Until)
		assert.Contains(t, pack.AnswersInForce(still, nil, false, day), "retinoid-prescription")
	}
	assert.NotContains(t, pack.AnswersInForce(still, map[string]contraindication.Answer{"retinoid-prescription": {}}, false, crafttest.Today), "retinoid-prescription", "stopped, by the newer check")
	none := map[string]contraindication.Answer{"isotretinoin": still["isotretinoin"]}
	only := &contraindication.Pack{Rules: slices.DeleteFunc(slices.Clone(pack.Rules), func(r contraindication.Rule) bool { return r.ID != "isotretinoin" && r.ID != "peel" })}
	none["peel"] = contraindication.Answer{Yes: true, Ongoing: true}
	problems := only.Check(none, crafttest.Today, contraindication.Consultation)
	require.Len(t, problems, 1)
	assert.Equal(t, "/answers/peel/day", problems[0].Path, "a peel has a day")
}

// A medicine answers its own rule, or makes a no worth asking about; it is never
// a diagnosis.
func TestMedicines(t *testing.T) {
	pack := contraindication.Trade()
	no := map[string]contraindication.Answer{"blood-thinners": {}, "diabetes": {}}
	res := pack.Evaluate(no, contraindication.ClientProfile{Medicines: []string{"Warfarin", "Metformin"}}, crafttest.Today)
	require.NotEmpty(t, res.Outcomes)
	for _, o := range res.Outcomes {
		assert.Equal(t, "blood-thinners", o.Rule)
	}
	taken := pack.Evaluate(nil, contraindication.ClientProfile{Medicines: []string{"isotretinoin"}}, crafttest.Today)
	assert.Equal(t, crafttest.Today.Plus(180), taken.Outcomes[0].Until, "still taken: the half year begins tomorrow")
	doubts := pack.MedicineConflicts(no, []string{"Warfarin", "Metformin"})
	var rules []string
	for _, d := range doubts {
		rules = append(rules, d.Rule)
	}
	assert.ElementsMatch(t, []string{"clot-heart-kidney", "blood-thinners", "diabetes"}, rules)
	for _, d := range doubts {
		assert.Equal(t, d.Rule == "blood-thinners", d.Counts, d.Rule)
	}
	no["diabetes"] = crafttest.Yes("")
	assert.Len(t, pack.MedicineConflicts(no, []string{"Metformin"}), 0)
}
