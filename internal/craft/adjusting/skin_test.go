package adjusting_test

import (
	"math"
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

func keysOf(list []protocol.Variant) []string {
	out := []string{}
	for _, v := range list {
		out = append(out, v.Key)
	}
	return out
}

// Which variants a skin has: by its type and every state (handbook, variants by
// skin type); a protocol's own in the place of the standard one.
func TestForSkin(t *testing.T) {
	p := &protocol.Protocol{Variants: []protocol.Variant{{Key: "dry", Name: "Our dry", For: []string{"dry"}}, {Key: "evening", Name: "Evening"}}}
	for _, c := range []struct {
		skin   string
		states []string
		want   []string
	}{
		{"normal", nil, []string{}},
		{"combination", []string{"sensitive"}, []string{"sensitive"}},
		{"dry", []string{"mature", "dehydrated"}, []string{"dry", "dehydrated", "mature"}},
		{"oily", []string{"acne-prone", "couperose"}, []string{"oily", "acne-prone", "rosacea"}},
	} {
		assert.Equal(t, c.want, keysOf(adjusting.VariantsForSkin(p, c.skin, c.states)), "%s %v", c.skin, c.states)
	}
	assert.Equal(t, "Our dry", adjusting.VariantsForSkin(p, "dry", nil)[0].Name)
}

// A plan for a client's skin and cautions together: what the protocol itself says
// for the skin is told with its reason and marked, behind the rest; what a caution
// asks stays the caution's, also where the skin asks the same; the published plan
// is as it was.
func TestSkinAndCautionsTogether(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	p := &protocols[0]
	ctx.SkinType, ctx.SkinStates = "dry", []string{"sensitive"}
	variants := adjusting.VariantsForSkin(p, ctx.SkinType, ctx.SkinStates)
	alone := adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), variants, p.Minutes.HandsOn)
	require.False(t, alone.Refused)
	did := map[adjusting.AdjustmentKind]int{}
	for _, c := range alone.Adjustments {
		assert.True(t, c.Skin, "%+v", c)
		did[c.Kind]++
	}
	assert.Positive(t, did[adjusting.Dosed], "dry: more of what slips")
	assert.Positive(t, did[adjusting.Lowered], "sensitive: a level lighter")
	for _, f := range alone.Evaluation.Findings {
		assert.NotEqual(t, evaluation.GlideThin, f.Code, "dry: product goes on again in time (%s)", f.ID)
	}

	none := adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), nil, p.Minutes.HandsOn)
	assert.Empty(t, none.Adjustments)
	assert.True(t, protocol.Compare(p, none.Protocol).Same(), "without variants it is as published")

	caution := func(o contraindication.Outcome) *contraindication.Constraints {
		return contraindication.Merge([]contraindication.Contraindication{{Rule: "caution", Title: "Caution", Why: "w", Kind: o.Kind, Outcome: o}})
	}
	both := adjusting.AdjustForSkin(p, ctx, caution(contraindication.Outcome{Kind: contraindication.Exclude, Families: []string{"friction", "tapotement"}}), variants, p.Minutes.HandsOn)
	cautions, skins := 0, 0
	for _, c := range both.Adjustments {
		if c.Rule == "caution" {
			cautions++
			assert.False(t, c.Skin, "the caution wants its yes: %+v", c)
			assert.Zero(t, skins, "cautions stand first")
		}
		if c.Skin {
			skins++
		}
	}
	assert.Positive(t, cautions)
	assert.Positive(t, skins)
	seen := map[string]bool{}
	for _, c := range both.Adjustments {
		assert.False(t, seen[c.ID], "%s twice", c.ID)
		seen[c.ID] = true
	}
}

// What goes for want of time because a caution parts the sides is the caution's and
// wants its yes, though the skin asked for a change before it.
func TestWhatFollowsFromACautionIsNotTheSkins(t *testing.T) {
	_, ctx := crafttest.Demo(t)
	ctx.SkinType, ctx.SkinStates = "normal", []string{"sensitive"}
	p := &protocol.Protocol{Key: "t", Name: "T", Setting: "self", Method: protocol.Method{Drainage: "none", Slip: "dry"}, DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}}
	for i, k := range []string{"cheek-scoop", "forehead-effleurage", "forehead-effleurage", "forehead-effleurage", "jaw-sweep", "cheek-scoop"} {
		p.Steps = append(p.Steps, protocol.Step{ID: string(rune('a' + i)), Stroke: k, Phase: "work", Dose: &stroke.Dose{Kind: stroke.Reps, Planned: 8, Min: 8, Max: 8}})
	}
	p.Minutes.HandsOn = int(evaluation.Evaluate(p, ctx).Seconds/60) + 1
	p.Minutes.Treatment = p.Minutes.HandsOn
	caution := contraindication.Merge([]contraindication.Contraindication{{Rule: "caution", Title: "Caution", Why: "w", Kind: contraindication.LeaveOut, Places: []contraindication.ZoneSide{{Zone: "forehead", Side: "left"}}}})
	got := adjusting.AdjustForSkin(p, ctx, caution, adjusting.VariantsForSkin(p, "normal", ctx.SkinStates), p.Minutes.HandsOn)
	gone, skins := 0, 0
	for _, c := range got.Adjustments {
		if c.Kind == adjusting.NoTime {
			gone++
			assert.False(t, c.Skin, "%+v", c)
			assert.Equal(t, "Caution", c.Title)
		}
		if c.Skin {
			skins++
		}
	}
	assert.Positive(t, gone, "%+v", got.Adjustments)
	assert.Positive(t, skins, "the lighter hand stays the skin's")
}

// No variant makes a visit longer than it was booked for, and two that slow the
// hand or dose more work one after the other.
func TestSkinNeverOverrunsTheVisit(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	p := protocols[0].Clone()
	longer := []protocol.Variant{{Key: "long", Name: "Long", For: []string{"dry"}, Rules: []protocol.VariantRule{{Do: "hands-on", By: p.Minutes.HandsOn + 10}}}}
	assert.Equal(t, p.Minutes, adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), longer, p.Minutes.HandsOn).Protocol.Minutes)
	assert.Equal(t, p.Minutes.HandsOn+10, adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), longer, math.MaxInt).Protocol.Minutes.HandsOn, "on the workbench it may")
	shorter := []protocol.Variant{{Key: "short", Name: "Short", For: []string{"dry"}, Rules: []protocol.VariantRule{{Do: "hands-on", By: p.Minutes.HandsOn - 5}}}}
	assert.Equal(t, p.Minutes.HandsOn-5, adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), shorter, p.Minutes.HandsOn).Protocol.Minutes.HandsOn)
	for _, states := range [][]string{nil, {"mature"}, {"dehydrated", "mature"}, {"sensitive", "mature"}} {
		ctx.SkinType, ctx.SkinStates = "dry", states
		got := adjusting.AdjustForSkin(p, ctx, contraindication.Merge(nil), adjusting.VariantsForSkin(p, "dry", states), p.Minutes.HandsOn)
		require.False(t, got.Refused, "%v", states)
		assert.LessOrEqual(t, got.Evaluation.Seconds, float64(p.Minutes.HandsOn*60)+0.5, "%v", states)
		for _, f := range got.Evaluation.Findings {
			assert.NotEqual(t, evaluation.Stopping, f.Severity, "%v: %s", states, f.ID)
		}
	}
}
