package adjusting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

func judged(answers map[string]contraindication.Answer) *contraindication.Constraints {
	return contraindication.Merge(contraindication.Trade().Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today).Outcomes)
}

// Rosacea bars friction, tapping, cold, cups and stones on cheeks and nose (handbook, chapter
// 5): circles on the scalp stay as they are, and the reason on the cheek says what bites.
func TestRosaceaBitesOnCheeksAndNoseOnly(t *testing.T) {
	ctx := crafttest.TradeStudio()
	var scalp, cheek string
	for _, st := range stroke.Trade() {
		if st.Family != stroke.Friction {
			continue
		}
		for _, z := range st.Path {
			switch z {
			case "scalp-side":
				scalp = st.Key
			case "mid-cheek", "cheekbone", "nose-side":
				cheek = st.Key
			}
		}
	}
	require.NotEmpty(t, scalp)
	require.NotEmpty(t, cheek)
	p := crafttest.Treatment(40, protocol.Step{Stroke: scalp}, protocol.Step{Stroke: cheek})
	got := adjusting.Adjust(p, ctx, judged(map[string]contraindication.Answer{"rosacea": crafttest.Yes("")}))
	told := 0
	for _, c := range got.Adjustments {
		if c.Kind != adjusting.Swapped && c.Kind != adjusting.OtherHand && c.Kind != adjusting.Dropped {
			continue
		}
		told++
		assert.NotContains(t, c.Step, scalp, "%+v", c)
		assert.Equal(t, string(stroke.Friction), c.What)
		assert.NotEmpty(t, c.At)
	}
	assert.Equal(t, 1, told)
}

// The pressure of a step is the firmest on its path, whatever lowered it: lists, pictures and
// papers tell one number.
func TestOnePressureForAStep(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	lowered := 0
	for i := range protocols {
		p := &protocols[i]
		for _, answers := range []map[string]contraindication.Answer{nil, {"blood-thinners": crafttest.Yes("")}, {"rosacea": crafttest.Yes("")}} {
			got := adjusting.Adjust(p, ctx, judged(answers))
			for k := range got.Evaluation.Steps {
				r := &got.Evaluation.Steps[k]
				most := 0
				for _, at := range r.Path {
					most = max(most, at.Pressure)
				}
				if len(r.Path) > 0 {
					assert.Equal(t, most, r.Pressure, "%s of %s", r.ID, p.Key)
				}
			}
			for _, c := range got.Adjustments {
				if c.Kind == adjusting.Lowered {
					lowered++
					assert.Equal(t, c.Zone, c.At)
				}
			}
		}
	}
	assert.Positive(t, lowered)
}

// What the protocol says for the client's skin is left out at the steps where the
// practitioner says so, and nowhere else.
func TestSkinLeftOutAtAStep(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	p := &protocols[0]
	ctx.SkinType, ctx.SkinStates = "dry", []string{"mature", "sensitive"}
	variants := adjusting.VariantsForSkin(p, ctx.SkinType, ctx.SkinStates)
	whole := adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), variants, p.Minutes.HandsOn)
	step := ""
	for _, c := range whole.Adjustments {
		if c.Skin && c.Kind == adjusting.Lowered {
			step = c.Step
			break
		}
	}
	require.NotEmpty(t, step)
	c := contraindication.Merge(nil)
	c.LeaveSkinOut(step)
	c.Waive(step, contraindication.Merge(nil))
	got := adjusting.AdjustForSkin(p, ctx, c, variants, p.Minutes.HandsOn)
	others := 0
	for _, ch := range got.Adjustments {
		if ch.Step == step {
			assert.NotEqual(t, adjusting.Lowered, ch.Kind, "%+v", ch)
			assert.NotEqual(t, adjusting.Swapped, ch.Kind, "%+v", ch)
		} else if ch.Kind == adjusting.Lowered {
			others++
		}
	}
	assert.Positive(t, others)
	before, after := evaluation.Evaluate(p, ctx), got.Evaluation
	pressure := func(e *evaluation.Evaluation) int {
		for i := range e.Steps {
			if e.Steps[i].ID == step {
				return e.Steps[i].Pressure
			}
		}
		return -1
	}
	assert.Equal(t, pressure(before), pressure(after))
}

// A change at a step on which somebody has decided already needs a yes of its own; what only
// follows from the changes together does not ask again.
func TestADecisionIsNotUndoneUnasked(t *testing.T) {
	for kind, asks := range map[adjusting.AdjustmentKind]bool{
		adjusting.Lowered: true, adjusting.Dosed: true, adjusting.Swapped: true, adjusting.Refitted: false, adjusting.Restored: false, adjusting.NoTime: false,
	} {
		c := adjusting.Adjustment{Kind: kind, Gentler: true, Skin: true}
		c.AskAgain()
		assert.Equal(t, asks, c.Again, kind)
		assert.Equal(t, !asks, c.Gentler, kind)
		assert.Equal(t, !asks, c.Skin, kind)
	}
}
