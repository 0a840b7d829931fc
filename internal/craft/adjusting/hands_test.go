package adjusting_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Long nails: knuckles where the stroke names them, no ear opening (handbook,
// chapter 2, alternates), nothing in the mouth (from memory); each with its reason,
// and not to be overridden: the practitioner may say that the nails are short.
func TestLongNails(t *testing.T) {
	ctx := crafttest.TradeStudio()
	ctx.LongNails = true
	p := crafttest.Treatment(20, protocol.Step{Stroke: "jaw-hook"}, protocol.Step{Stroke: "under-bone-drag"}, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "mastoid-press"}, protocol.Step{Stroke: "mouth-upper-press"})
	got := adjusting.Adjust(p, ctx, contraindication.Merge(nil))
	require.False(t, got.Refused)
	did := map[string]string{}
	for _, c := range got.Adjustments {
		if c.Rule == contraindication.Nails && c.Kind != adjusting.Refitted {
			did[c.Step[2:]] = string(c.Kind) + " " + c.To
			assert.NotEmpty(t, c.Why)
			assert.False(t, adjusting.MayOverrideAdjustment(nil, &c), c.Name)
			assert.Equal(t, c.Kind == adjusting.Dropped, c.Gentler, "%s: knuckles are accepted one by one", c.Name)
		}
	}
	assert.Equal(t, map[string]string{
		"jaw-hook":          "other-hand fist knuckles",
		"under-bone-drag":   "other-hand fist knuckles",
		"mastoid-press":     "other-hand knuckle of one finger",
		"mouth-upper-press": "left-out ",
	}, did)
	ctx.LongNails = false
	assert.Empty(t, adjusting.Adjust(p, ctx, contraindication.Merge(nil)).Adjustments, "short nails change nothing")
}

// Whatever the strokes and whatever else applies, no step of a plan for long nails
// would scratch, and opening and closing stand as for anybody.
func TestNoStepScratches(t *testing.T) {
	keys := []string{}
	for _, st := range stroke.Trade() {
		if st.Family != stroke.Hygiene {
			keys = append(keys, st.Key)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		ctx := crafttest.TradeStudio()
		ctx.LongNails = true
		work := []protocol.Step{}
		for _, k := range rapid.SliceOfN(rapid.SampledFrom(keys), 1, 8).Draw(t, "strokes") {
			work = append(work, protocol.Step{Stroke: k})
		}
		asks := []contraindication.Contraindication{}
		if rapid.Bool().Draw(t, "sore cheek") {
			asks = append(asks, contraindication.Contraindication{Rule: "r", Kind: contraindication.LeaveOut, Title: "Sore", Why: "w", Places: []contraindication.ZoneSide{{Zone: "cheekbone", Side: "left"}}})
		}
		if rapid.Bool().Draw(t, "no stones") {
			asks = append(asks, contraindication.Contraindication{Rule: "s", Kind: contraindication.Exclude, Title: "No stone", Why: "w", Outcome: contraindication.Outcome{Kind: contraindication.Exclude, Tools: []string{"stone", "cup"}}})
		}
		got := adjusting.Adjust(crafttest.Treatment(25, work...), ctx, contraindication.Merge(asks))
		for i := range got.Evaluation.Steps {
			if r := &got.Evaluation.Steps[i]; r.Scratches() {
				t.Fatalf("%s would scratch", r.Name)
			}
		}
		if slices.ContainsFunc(got.Evaluation.Findings, func(f evaluation.Finding) bool { return f.Code == evaluation.LongNails }) {
			t.Fatal("the plan is found to scratch")
		}
	})
}

func TestGlovesAreOnlyMindedWhereTheyAreWorn(t *testing.T) {
	ctx := crafttest.TradeStudio()
	allergic := adjusting.PractitionerState{GloveAllergy: true}
	outside := evaluation.Evaluate(crafttest.Treatment(12, protocol.Step{Stroke: "cheek-scoop"}), ctx)
	inside := evaluation.Evaluate(crafttest.Treatment(12, protocol.Step{Stroke: "mouth-upper-press"}), ctx)
	assert.Empty(t, allergic.PractitionerNotes(outside))
	assert.Len(t, allergic.PractitionerNotes(inside), 1)
	assert.Empty(t, adjusting.PractitionerState{LongNails: true}.PractitionerNotes(inside))
}
