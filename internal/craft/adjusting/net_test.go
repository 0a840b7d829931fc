package adjusting_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
)

// What the room says of a plan changed for several reasons: each amount once, from the published one to today's (common
// practice: two amounts for one portion are none).
func TestNet(t *testing.T) {
	dosed := func(step, product, from, to string) adjusting.Adjustment {
		return adjusting.Adjustment{Step: step, Name: product, Kind: adjusting.Dosed, From: from, To: to}
	}
	lowered := adjusting.Adjustment{Step: "lift#1", Name: "Lift", Kind: adjusting.Lowered, From: "3", To: "2", Zone: "jawline"}
	again := lowered
	again.From, again.To = "2", "1"
	for _, c := range []struct {
		name      string
		list, net []adjusting.Adjustment
	}{
		{"none", nil, []adjusting.Adjustment{}},
		{"one", []adjusting.Adjustment{dosed("a", "oil", "4 mL", "3 mL")}, []adjusting.Adjustment{dosed("a", "oil", "4 mL", "3 mL")}},
		{
			"oily, then dehydrated",
			[]adjusting.Adjustment{dosed("a", "oil", "4.5 mL", "3.8 mL"), lowered, dosed("a", "oil", "3.8 mL", "4.2 mL")},
			[]adjusting.Adjustment{lowered, dosed("a", "oil", "4.5 mL", "4.2 mL")},
		},
		{
			"there and back",
			[]adjusting.Adjustment{dosed("a", "oil", "4 mL", "3 mL"), dosed("a", "oil", "3 mL", "4 mL"), lowered},
			[]adjusting.Adjustment{lowered},
		},
		{
			"two steps, two products",
			[]adjusting.Adjustment{dosed("a", "oil", "4 mL", "3 mL"), dosed("b", "oil", "3 mL", "2 mL"), dosed("a", "serum", "2 mL", "1 mL")},
			[]adjusting.Adjustment{dosed("a", "oil", "4 mL", "3 mL"), dosed("b", "oil", "3 mL", "2 mL"), dosed("a", "serum", "2 mL", "1 mL")},
		},
		{"what is not an amount stays as it is", []adjusting.Adjustment{lowered, again}, []adjusting.Adjustment{lowered, again}},
	} {
		t.Run(c.name, func(t *testing.T) {
			was := append([]adjusting.Adjustment{}, c.list...)
			assert.Equal(t, c.net, adjusting.Net(c.list))
			assert.ElementsMatch(t, was, c.list, "the list is not changed")
		})
	}
}

// Over all demo plans and skins the amount that the net names is the one of the plan of today, and each step's is named once.
func TestNetIsTodaysPlan(t *testing.T) {
	protocols, ctx := crafttest.Demo(t)
	several := 0
	for i := range protocols {
		for _, skin := range []string{"dry", "oily", "combination"} {
			p, own := &protocols[i], *ctx
			own.SkinType, own.SkinStates = skin, []string{"dehydrated", "mature"}
			out := adjusting.AdjustForSkin(p, &own, contraindication.Merge(nil), adjusting.VariantsForSkin(p, skin, own.SkinStates), p.Minutes.HandsOn)
			if out.Refused {
				continue
			}
			named := map[string]bool{}
			for _, c := range adjusting.Net(out.Adjustments) {
				if c.Kind != adjusting.Dosed {
					continue
				}
				require.False(t, named[c.Step], "%s: %s is named twice", p.Name, c.Step)
				named[c.Step] = true
				amount := out.Protocol.Steps[out.Protocol.Index(c.Step)].Use.Amount
				assert.Equal(t, fmt.Sprintf("%v %s", amount.Value, amount.Measure), c.To, "%s, %s skin: %s", p.Name, skin, c.Step)
			}
			for _, c := range out.Adjustments {
				if c.Kind == adjusting.Dosed {
					several++
				}
			}
			several -= len(named)
		}
	}
	assert.Positive(t, several, "the demo has plans with several reasons for one amount")
}
