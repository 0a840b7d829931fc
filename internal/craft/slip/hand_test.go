package slip_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/slip"
)

// The table of the handbook, chapter 9, Amounts, row by row, and its worked figures; the fingertip unit is
// Long and Finlay's, 0.5 g (from memory).
func TestAmountsAreTakenAsAHandTakesThem(t *testing.T) {
	dropper := slip.Product{Form: slip.Oil, DropsPerML: 28}
	plain := slip.Product{Form: slip.Oil}
	pump := slip.Product{Form: slip.MassageCream, MLPerPump: 1.5}
	jar := slip.Product{Form: slip.Balm, Density: 1}
	mask := slip.Product{Form: slip.Mask, Density: 1.05}
	sun := slip.Product{Form: slip.SunCream, Density: 1}
	scent := slip.Product{Form: slip.ScentOil, DropsPerML: 30}
	for _, c := range []struct {
		of   slip.Product
		mL   float64
		up   bool
		want slip.HandAmount
	}{
		{dropper, 5.0 / 28, false, slip.HandAmount{Value: 5, Unit: "drops"}},
		{dropper, 0.4 / 28, false, slip.HandAmount{Value: 1, Unit: "drops"}},
		{dropper, 20.0 / 28, false, slip.HandAmount{Value: 20, Unit: "drops"}},
		{dropper, 96.0 / 28, false, slip.HandAmount{Value: 3.5, Unit: "mL"}},
		{slip.Product{Form: slip.Oil, DropsPerML: 30}, 96.0 / 30, false, slip.HandAmount{Value: 3, Unit: "mL"}},
		{dropper, 3.2, true, slip.HandAmount{Value: 3.5, Unit: "mL"}},
		{dropper, 3, true, slip.HandAmount{Value: 3, Unit: "mL"}},
		{dropper, 10.4, false, slip.HandAmount{Value: 10, Unit: "mL"}},
		{dropper, 2.25, false, slip.HandAmount{Value: 2.5, Unit: "mL"}},
		{plain, 0.1, false, slip.HandAmount{Value: 0.5, Unit: "mL", About: true}},
		{plain, 1.5, false, slip.HandAmount{Value: 1.5, Unit: "mL", About: true}},
		{pump, 1.5, false, slip.HandAmount{Value: 1, Unit: "pumps", ML: 1.5}},
		{pump, 3.75, false, slip.HandAmount{Value: 2.5, Unit: "pumps", ML: 3.8}},
		{pump, 0.2, true, slip.HandAmount{Value: 0.5, Unit: "pumps", ML: 0.2}},
		{jar, 0.2, false, slip.HandAmount{Value: 0.25, Unit: "g"}},
		{jar, 1.1, false, slip.HandAmount{Value: 1, Unit: "g"}},
		{jar, 5.2, false, slip.HandAmount{Value: 5, Unit: "g"}},
		{mask, 8, false, slip.HandAmount{Value: 8.5, Unit: "g"}},
		{mask, 10, true, slip.HandAmount{Value: 11, Unit: "g"}},
		{sun, 1.25, false, slip.HandAmount{Value: 2.5, Unit: "fingertips", G: 1.3}},
		{scent, 6.9 / 30, false, slip.HandAmount{Value: 6, Unit: "drops"}},
	} {
		assert.Equal(t, c.want, c.of.ByHand(c.mL, c.up), fmt.Sprintf("%s, %g mL", c.of.Form, c.mL))
	}
}

// Rounding up never takes less, never a whole step more, and leaves what is a step.
func TestPouredOutLasts(t *testing.T) {
	p := slip.Product{Form: slip.Oil, DropsPerML: 30}
	for n := 70; n < 2000; n++ {
		mL := float64(n) / 100
		up := p.ByHand(mL, true).Value
		step := 0.5
		if mL >= 10 {
			step = 1
		}
		assert.GreaterOrEqual(t, up, mL-1e-9)
		assert.Less(t, up, mL+step)
	}
}
