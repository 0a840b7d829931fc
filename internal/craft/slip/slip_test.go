package slip_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// The minutes at which a full dose crosses the slip of a sliding hand: worked
// figures of the handbook, chapter 4.
func TestWhenAFullDoseStopsSliding(t *testing.T) {
	mid := slip.RegionIndex(anatomy.Middle)
	for form, want := range map[slip.Form]float64{
		slip.DayCream: 10.6, slip.MoistSerum: 24.2, slip.Oil: 37.9, slip.MassageCream: 21.2, slip.WaterySerum: 4.5,
	} {
		left := func(minutes float64) float64 {
			var f slip.Coat
			f.Apply(0, 1<<mid, anatomy.Mid, 4*slip.ShareOf(anatomy.Middle), 4, slip.HalfLife(form))
			return f.Slip(minutes*60, mid, anatomy.Mid)
		}
		need := slip.Need(stroke.SlideGlide).Least
		assert.Greater(t, left(want-0.06), need, form)
		assert.Less(t, left(want+0.06), need, form)
	}
}

// In a 17-minute full-face routine a day cream is gone by the second half, a
// watery serum almost at once; a moisturising serum and an oil last (handbook, chapter 4).
func TestSeventeenMinuteRoutine(t *testing.T) {
	face := uint(1<<slip.RegionIndex(anatomy.Upper) | 1<<slip.RegionIndex(anatomy.Middle) | 1<<slip.RegionIndex(anatomy.Lower) | 1<<slip.RegionIndex(anatomy.Neck) | 1<<slip.RegionIndex(anatomy.Chest) | 1<<slip.RegionIndex(anatomy.SideFace) | 1<<slip.RegionIndex(anatomy.Shoulder))
	need := slip.Need(stroke.SlideGlide).Least
	for form, lasts := range map[slip.Form]bool{slip.DayCream: false, slip.WaterySerum: false, slip.MoistSerum: true, slip.Oil: true} {
		var f slip.Coat
		f.Apply(0, face, anatomy.Mid, 4, 4, slip.HalfLife(form))
		left := f.Slip(17*60, slip.RegionIndex(anatomy.Middle), anatomy.Mid)
		assert.Equal(t, lasts, left >= need, "%s: slip %.0f after 17 min", form, left)
	}
}

// Each layer fades as amount x 2^(-t/half-life); slip is their sum, at most 100;
// a warm damp towel leaves 0.05 (handbook, chapter 4). Figures by hand.
func TestLayers(t *testing.T) {
	mid := slip.RegionIndex(anatomy.Middle)
	bits := uint(1 << mid)
	var f slip.Coat
	assert.Zero(t, f.Slip(0, mid, anatomy.Mid))
	assert.False(t, f.Stated())
	f.Apply(0, bits, anatomy.Mid, 0.4, 4, 10) // region share 0.2 of 4 mL is 0.8: half a dose
	assert.InDelta(t, 50, f.Slip(0, mid, anatomy.Left), 1e-9)
	assert.InDelta(t, 25, f.Slip(600, mid, anatomy.Left), 1e-9)
	f.Apply(600, bits, anatomy.Left, 0.4, 4, 25) // one side: a full dose for that side
	assert.InDelta(t, 100, f.Slip(600, mid, anatomy.Left), 1e-9, "never above 100")
	assert.InDelta(t, 25, f.Slip(600, mid, anatomy.Mid), 1e-9, "midline takes the drier side")
	f.Remove(bits, slip.Wiped)
	assert.InDelta(t, 25*0.05, f.Slip(600, mid, anatomy.Right), 1e-9)
	for i := range 20 { // little by little: none of the slip is lost
		f.Apply(700+float64(i), bits, anatomy.Mid, 0.001, 4, 25)
	}
	assert.Greater(t, f.Slip(720, mid, anatomy.Right), 20*0.12)
}

func TestSkinFactor(t *testing.T) {
	for _, c := range []struct {
		skin   string
		states []string
		want   float64
	}{{"normal", nil, 1}, {"combination", nil, 1}, {"dry", nil, 0.8}, {"oily", nil, 1.25}, {"dry", []string{"dehydrated", "mature"}, 0.75}, {"oily", []string{"mature"}, 0.85}, {"", nil, 1}} {
		assert.Equal(t, c.want, slip.SkinFactor(c.skin, c.states), "%s %v", c.skin, c.states)
	}
}

// European Pharmacopoeia 2.1.1: 20 drops of water weigh 1.000 +- 0.050 g (from
// memory).
func TestAmounts(t *testing.T) {
	water := &slip.Product{DropsPerML: 20, Density: 1}
	mL, ok := slip.Amount{Value: 20, Measure: slip.Drops}.In(water)
	assert.True(t, ok)
	assert.InDelta(t, 1, mL, 0.05)
	oil := &slip.Product{Density: 0.92, MLPerPump: 1.5}
	mL, _ = slip.Amount{Value: 0.92, Measure: slip.Gram}.In(oil)
	assert.InDelta(t, 1, mL, 1e-12)
	mL, _ = slip.Amount{Value: 2, Measure: slip.Pumps}.In(oil)
	assert.InDelta(t, 3, mL, 1e-12)
	_, ok = slip.Amount{Value: 2, Measure: slip.Drops}.In(oil)
	assert.False(t, ok, "drops of a product that was never counted")
}

// An amount that was never measured is refused rather than guessed; an unweighed
// product counts as water (common practice).
func TestAmountsThatWereNeverMeasured(t *testing.T) {
	bare, weighed := &slip.Product{}, &slip.Product{DropsPerML: 20, MLPerPump: 1.5, Density: 0.9}
	for measure, want := range map[slip.Measure]float64{slip.Drops: 2, slip.Pumps: 60, slip.Gram: 40 / 0.9, slip.ML: 40} {
		got, ok := slip.Amount{Value: 40, Measure: measure}.In(weighed)
		assert.True(t, ok, measure)
		assert.InDelta(t, want, got, 1e-9, measure)
		_, ok = slip.Amount{Value: 40, Measure: measure}.In(bare)
		assert.Equal(t, measure == slip.ML || measure == slip.Gram, ok, measure)
	}
	assert.InDelta(t, 1, bare.GramsPerML(), 0)
}

// Product without a half-life or without a usual amount gives no slip, and does not
// state that there is any.
func TestProductThatGivesNoSlip(t *testing.T) {
	face := uint(1) << slip.RegionIndex(anatomy.Middle)
	for _, c := range []struct {
		full, half float64
		slides     bool
	}{{4, 25, true}, {0, 25, false}, {4, 0, false}} {
		var f slip.Coat
		f.Apply(0, face, anatomy.Mid, 1, c.full, c.half)
		assert.Equal(t, c.slides, f.Stated(), "%+v", c)
	}
}

// A mist is water: a full dose adds 40, gone in a minute or so; more of it adds no more (handbook,
// chapter 4). Hands that slide on carry product to what is drier, half of the difference.
func TestMistAndWhatHandsCarryOn(t *testing.T) {
	mid, low := slip.RegionIndex(anatomy.Middle), slip.RegionIndex(anatomy.Lower)
	var f slip.Coat
	f.ApplyProduct(0, 1<<mid, anatomy.Mid, 5, &slip.Product{Form: slip.Mist, FullDose: 1}, 1)
	assert.InDelta(t, 40, f.Slip(0, mid, anatomy.Mid), 1e-9)
	assert.InDelta(t, 10, f.Slip(60, mid, anatomy.Mid), 1e-9)

	var oil slip.Coat
	oil.ApplyProduct(0, 1<<mid, anatomy.Mid, 4*slip.ShareOf(anatomy.Middle), &slip.Product{Form: slip.Oil, FullDose: 4}, 1)
	oil.CarryOn(0, 1<<mid|1<<low)
	assert.InDelta(t, 100, oil.Slip(0, mid, anatomy.Mid), 1e-9)
	assert.InDelta(t, 50, oil.Slip(0, low, anatomy.Mid), 1e-9)
	assert.InDelta(t, 25, oil.Slip(25*60, low, anatomy.Mid), 1e-9, "it fades as what it came from")
}

// Where little slip is the method there is a band in which hands slide and rollers grip; where full slip
// is, there is none.
func TestTheBandBetweenGrippingAndSliding(t *testing.T) {
	for method, band := range map[string]bool{"little": true, "full": false, "": false} {
		assert.Equal(t, band, slip.NeedUnder(stroke.SlideGlide, method).Least <= slip.NeedUnder(stroke.GripGlide, method).Most, method)
	}
}

// However long ago the last of a product went on, what goes on now counts in full and fades by half in its
// half-life (the model of the handbook, chapter 4).
func TestSlipAfterADay(t *testing.T) {
	var f slip.Coat
	bits := uint(1) << slip.RegionIndex(anatomy.Middle)
	mid := slip.RegionIndex(anatomy.Middle)
	const day = 24 * 3600.0
	for _, at := range []float64{0, day, 2 * day} {
		assert.InDelta(t, 0, f.Slip(at, mid, anatomy.Left), 1e-9)
		f.Apply(at, bits, anatomy.Mid, 0.4, 4, 0.5)
		assert.InDelta(t, 50, f.Slip(at, mid, anatomy.Left), 1e-9, "half a full dose on a fifth of the skin")
		assert.InDelta(t, 25, f.Slip(at+30, mid, anatomy.Left), 1e-9)
		f.Apply(at+30, bits, anatomy.Mid, 0.2, 4, 25)
		assert.InDelta(t, 12.5+25*math.Exp2(-30./1500), f.Slip(at+60, mid, anatomy.Left), 1e-9, "each fades by its own half-life")
		f.Remove(bits, 0)
	}
}
