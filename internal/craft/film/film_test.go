package film_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

// The minutes at which a full dose crosses the slip of a sliding hand: worked
// figures of the handbook, chapter 4.
func TestWhenAFullDoseStopsSliding(t *testing.T) {
	mid := film.RegionIndex(anatomy.Middle)
	for form, want := range map[film.Form]float64{
		film.DayCream: 10.6, film.MoistSerum: 24.2, film.Oil: 37.9, film.MassageCream: 21.2, film.WaterySerum: 4.5,
	} {
		slip := func(minutes float64) float64 {
			var f film.Film
			f.Apply(0, 1<<mid, anatomy.Mid, 4*film.ShareOf(anatomy.Middle), 4, film.HalfLife(form))
			return f.Slip(minutes*60, mid, anatomy.Mid)
		}
		need := film.Need(stroke.SlideGlide).Least
		assert.Greater(t, slip(want-0.06), need, form)
		assert.Less(t, slip(want+0.06), need, form)
	}
}

// In a 17-minute full-face routine a day cream is gone by the second half, a
// watery serum almost at once; a moisturising serum and an oil last (handbook, chapter 4).
func TestSeventeenMinuteRoutine(t *testing.T) {
	face := uint(1<<film.RegionIndex(anatomy.Upper) | 1<<film.RegionIndex(anatomy.Middle) | 1<<film.RegionIndex(anatomy.Lower) | 1<<film.RegionIndex(anatomy.Neck) | 1<<film.RegionIndex(anatomy.Chest) | 1<<film.RegionIndex(anatomy.SideFace) | 1<<film.RegionIndex(anatomy.Shoulder))
	need := film.Need(stroke.SlideGlide).Least
	for form, lasts := range map[film.Form]bool{film.DayCream: false, film.WaterySerum: false, film.MoistSerum: true, film.Oil: true} {
		var f film.Film
		f.Apply(0, face, anatomy.Mid, 4, 4, film.HalfLife(form))
		slip := f.Slip(17*60, film.RegionIndex(anatomy.Middle), anatomy.Mid)
		assert.Equal(t, lasts, slip >= need, "%s: slip %.0f after 17 min", form, slip)
	}
}

// Each layer fades as amount x 2^(-t/half-life); slip is their sum, at most 100;
// a warm damp towel leaves 0.05 (handbook, chapter 4). Figures by hand.
func TestLayers(t *testing.T) {
	mid := film.RegionIndex(anatomy.Middle)
	bits := uint(1 << mid)
	var f film.Film
	assert.Zero(t, f.Slip(0, mid, anatomy.Mid))
	assert.False(t, f.Stated())
	f.Apply(0, bits, anatomy.Mid, 0.4, 4, 10) // region share 0.2 of 4 mL is 0.8: half a dose
	assert.InDelta(t, 50, f.Slip(0, mid, anatomy.Left), 1e-9)
	assert.InDelta(t, 25, f.Slip(600, mid, anatomy.Left), 1e-9)
	f.Apply(600, bits, anatomy.Left, 0.4, 4, 25) // one side: a full dose for that side
	assert.InDelta(t, 100, f.Slip(600, mid, anatomy.Left), 1e-9, "never above 100")
	assert.InDelta(t, 25, f.Slip(600, mid, anatomy.Mid), 1e-9, "midline takes the drier side")
	f.Remove(bits, film.Wiped)
	assert.InDelta(t, 25*0.05, f.Slip(600, mid, anatomy.Right), 1e-9)
	for i := range 20 { // more layers than are kept: none of the slip is lost
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
		assert.Equal(t, c.want, film.SkinFactor(c.skin, c.states), "%s %v", c.skin, c.states)
	}
}

// European Pharmacopoeia 2.1.1: 20 drops of water weigh 1.000 +- 0.050 g (from
// memory).
func TestAmounts(t *testing.T) {
	water := &film.Product{DropsPerML: 20, Density: 1}
	mL, ok := film.Amount{Value: 20, Measure: film.Drops}.In(water)
	assert.True(t, ok)
	assert.InDelta(t, 1, mL, 0.05)
	oil := &film.Product{Density: 0.92, MLPerPress: 1.5}
	mL, _ = film.Amount{Value: 0.92, Measure: film.Gram}.In(oil)
	assert.InDelta(t, 1, mL, 1e-12)
	mL, _ = film.Amount{Value: 2, Measure: film.Presses}.In(oil)
	assert.InDelta(t, 3, mL, 1e-12)
	_, ok = film.Amount{Value: 2, Measure: film.Drops}.In(oil)
	assert.False(t, ok, "drops of a product that was never counted")
}
