package adjusting_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Every standard variant of the demo protocols suits the skin it is for, fits
// its slot, and keeps the rule it is named for (handbook, variants by skin type).
func TestStandardVariantsSuitTheirSkin(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	for i := range protocols {
		p := &protocols[i]
		for _, v := range adjusting.StandardVariants() {
			got := adjusting.Vary(p, &v, ctx)
			if got.Refused {
				continue // says so; the stone protocol has little left without its stone
			}
			for _, f := range got.Evaluation.Findings {
				assert.NotEqual(t, evaluation.Stopping, f.Severity, "%s, %s: %s", p.Name, v.Name, f.ID)
				if f.Code == evaluation.Unsuited {
					assert.Fail(t, "unsuited", "%s, %s: %s %v", p.Name, v.Name, f.ID, f.Values)
				}
			}
			assert.LessOrEqual(t, got.Evaluation.Seconds, float64(got.Evaluation.SlotSeconds)+0.5, "%s, %s", p.Name, v.Name)
		}
	}
	full := &protocols[0]
	find := func(key string) *protocol.Variant {
		for _, v := range adjusting.VariantsOf(full) {
			if v.Key == key {
				return &v
			}
		}
		return nil
	}
	base := evaluation.Evaluate(full, ctx)
	pressure := map[string]int{}
	for _, r := range base.Steps {
		pressure[r.ID] = r.Pressure
	}
	for _, r := range adjusting.Vary(full, find("sensitive"), ctx).Evaluation.Steps {
		assert.NotEqual(t, stroke.Friction, r.Family)
		assert.NotEqual(t, stroke.Tapotement, r.Family)
		if was, ok := pressure[r.ID]; ok && was > 1 {
			for _, pt := range r.Path {
				assert.Less(t, pt.Pressure, was, "%s is a level lighter", r.Name)
			}
		}
	}
	oil := func(e *evaluation.Evaluation) float64 {
		sum := 0.0
		for _, pl := range e.Products {
			if ctx.Products[pl.Product].HalfLifeMinutes() > 0 {
				sum += pl.ML
			}
		}
		return sum
	}
	assert.Less(t, oil(adjusting.Vary(full, find("oily"), ctx).Evaluation), oil(base), "oily: fewer drops")
	assert.Greater(t, oil(adjusting.Vary(full, find("dry"), ctx).Evaluation), oil(base), "dry: more slip")
}

// An edit of the base reaches every variant; the base is never changed by one.
func TestAnEditOfTheBaseReachesEveryVariant(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	p := protocols[0].Clone()
	before, _ := json.Marshal(p)
	for i := range p.Steps {
		if p.Steps[i].Phase == "work" {
			p.Steps = append(p.Steps[:i:i], p.Steps[i+1:]...)
			break
		}
	}
	gone := protocol.Compare(&protocols[0], p).Steps[0].Step
	for _, v := range adjusting.VariantsOf(p) {
		assert.Negative(t, adjusting.Vary(p, &v, ctx).Protocol.Index(gone), v.Name)
	}
	again, _ := json.Marshal(&protocols[0])
	assert.JSONEq(t, string(before), string(again))
}

// The rules one by one, on a plan of the studio's own.
func TestRules(t *testing.T) {
	_, ctx := crafttest.Demo(t)
	p := &protocol.Protocol{Key: "t", Name: "T", Setting: "self", Method: protocol.Method{Drainage: "none"}, Minutes: protocol.Minutes{Treatment: 20, HandsOn: 10}, DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3},
		Steps: []protocol.Step{
			{ID: "a", Stroke: "spread-passes", Phase: "apply", Use: &protocol.Use{Product: "calm-oil", Amount: slip.Amount{Value: 90, Measure: slip.Drops}}},
			{ID: "b", Stroke: "cheek-scoop", Phase: "work"}, {ID: "c", Stroke: "forehead-effleurage", Phase: "work"}, {ID: "d", Stroke: "zigzag-friction", Phase: "work"},
		}}
	vary := func(r protocol.VariantRule) *protocol.Protocol {
		require.Empty(t, (&protocol.Protocol{Name: "x", DefaultDose: p.DefaultDose, Minutes: p.Minutes, Variants: []protocol.Variant{{Key: "v", Rules: []protocol.VariantRule{r}}}}).Validate(ctx, ""))
		return adjusting.Vary(p, &protocol.Variant{Key: "v", Name: "V", Rules: []protocol.VariantRule{r}}, ctx).Protocol
	}
	at := func(q *protocol.Protocol, id string) *evaluation.Resolved {
		i := q.Index(id)
		if i < 0 {
			return nil
		}
		return evaluation.Resolve(q, i, ctx)
	}
	assert.Equal(t, 2, at(vary(protocol.VariantRule{Do: "cap", By: 2}), "b").Path[0].Pressure)
	assert.Equal(t, 2, at(vary(protocol.VariantRule{Do: "lighter", By: 1, Zones: []string{"mid-cheek"}}), "b").Path[1].Pressure)
	assert.Equal(t, 3, at(vary(protocol.VariantRule{Do: "lighter", By: 1, Zones: []string{"mid-cheek"}}), "b").Path[2].Pressure, "only where it says")
	assert.Nil(t, at(vary(protocol.VariantRule{Do: "leave-out", Stroke: "zigzag-friction"}), "x"))
	assert.NotEqual(t, "zigzag-friction", func() string {
		if r := at(vary(protocol.VariantRule{Do: "leave-out", Stroke: "zigzag-friction"}), "d"); r != nil {
			return r.StrokeKey
		}
		return ""
	}())
	assert.Equal(t, "cheek-palms", at(vary(protocol.VariantRule{Do: "replace", Stroke: "cheek-scoop", With: "cheek-palms"}), "b").StrokeKey)
	assert.Equal(t, slip.Amount{Value: 72, Measure: slip.Drops}, vary(protocol.VariantRule{Do: "amount", By: 80}).Steps[0].Use.Amount, "a fifth less, in whole drops")
	oil := ctx.Products["calm-oil"]
	most := int(oil.RangeMax * oil.DropsPerML / 90 * 100)
	assert.InDelta(t, oil.RangeMax*oil.DropsPerML, vary(protocol.VariantRule{Do: "amount", By: most}).Steps[0].Use.Amount.Value, 1, "up to the studio's range")
	assert.Equal(t, 90.0, vary(protocol.VariantRule{Do: "amount", By: most + 10}).Steps[0].Use.Amount.Value, "and not beyond it")
	assert.Equal(t, "dew-serum", vary(protocol.VariantRule{Do: "swap-product", Product: "calm-oil", With: "dew-serum"}).Steps[0].Use.Product)
	assert.InDelta(t, 1.2*3.5, stroke.MoveSeconds(at(vary(protocol.VariantRule{Do: "slower", By: 120}), "c").Parts), 0.05)
	assert.Equal(t, 8, vary(protocol.VariantRule{Do: "hands-on", By: 8}).Minutes.HandsOn)
}
