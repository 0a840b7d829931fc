// Package slip works out how easily the hands slide on the product applied, for how
// long, and how much product a treatment takes.
//
// # Model
//
// Each region and side of the body carries coats of product. The amount for the
// whole region adds 100, a part of it its share; a coat fades by half in its
// half-life. Slip is the sum of the coats, at most 100. Blotting or wiping scales
// every coat. Half-lives are planning estimates (common practice), to be corrected
// from a studio's own records.
package slip

import (
	"math"
	"math/bits"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// Form is the kind of product; it settles the half-life and usual amounts.
type Form string

// The forms that matter to slip. Other forms (mask, spf) add none.
const (
	Oil          Form = "oil"
	Balm         Form = "balm"
	MoistSerum   Form = "moisturising-serum"
	MassageCream Form = "massage-cream"
	Milk         Form = "cleansing-milk"
	DayCream     Form = "day-cream"
	WaterySerum  Form = "watery-serum"
	Mist         Form = "mist"
	Mask         Form = "mask"
	SunCream     Form = "sun-cream"
	Water        Form = "water"
	ScentOil     Form = "scent-oil" // a few drops for the nose, not for the skin's slip
)

// Forms lists the forms of products.
var Forms = []Form{Oil, Balm, MoistSerum, MassageCream, Milk, DayCream, WaterySerum, Mist, Mask, SunCream, Water, ScentOil}

// Massages reports whether a form is one to massage with: it keeps its slip for
// some minutes and stays on (handbook, chapter 4). Cleansing milk, mist and a
// watery serum take nobody's place but their own kind's.
func Massages(f Form) bool {
	switch f {
	case Oil, Balm, MoistSerum, MassageCream, DayCream:
		return true
	}
	return false
}

// halfLife in minutes, by form: planning estimates of the handbook, chapter 4.
var halfLife = map[Form]float64{
	Oil: 25, Balm: 30, MoistSerum: 16, MassageCream: 14, Milk: 10, DayCream: 7, WaterySerum: 3, Mist: 0.5, Water: 0.5,
}

// HalfLife returns the form's half-life in minutes; 0 where it gives no slip.
func HalfLife(f Form) float64 { return halfLife[f] }

// FullSlip is the slip that a full dose adds: a mist is mostly water (handbook, chapter 4).
func FullSlip(f Form) float64 {
	if f == Mist || f == Water {
		return 40
	}
	return 100
}

// SkinFactor scales the half-life by skin type and states; the smallest of the
// factors that apply counts, save that oily skin alone lengthens it.
func SkinFactor(skinType string, states []string) float64 {
	f := map[string]float64{"dry": 0.8, "oily": 1.25}[skinType]
	if f == 0 {
		f = 1
	}
	for _, s := range states {
		if g := map[string]float64{"dehydrated": 0.75, "mature": 0.85}[s]; g != 0 {
			f = min(f, g)
		}
	}
	return f
}

// Slip needed by a stroke, by its glide need: at least Least, at most Most.
type Slip struct{ Least, Most float64 }

// Need returns the slip that a glide need asks for.
func Need(g stroke.Glide) Slip {
	switch g {
	case stroke.SlideGlide:
		return Slip{35, 100}
	case stroke.StoneGlide:
		return Slip{45, 100}
	case stroke.KneadGlide:
		return Slip{15, 100}
	case stroke.GripGlide:
		return Slip{0, 25}
	}
	return Slip{0, 100}
}

// NeedUnder is [Need] under a method. Where little slip is the method, hands slide on less and grip on
// more: between the two lies a band in which both go (common practice; the figures are estimates).
func NeedUnder(g stroke.Glide, method string) Slip {
	if method == "little" {
		switch g {
		case stroke.SlideGlide:
			return Slip{15, 100}
		case stroke.StoneGlide:
			return Slip{25, 100}
		case stroke.KneadGlide:
			return Slip{5, 100}
		case stroke.GripGlide:
			return Slip{0, 50}
		}
	}
	return Need(g)
}

// Slippery is the slip above which kneading is noted as slippery.
const Slippery = 80

// How much of every layer stays after taking product off.
const (
	Blotted = 0.3
	Wiped   = 0.05
)

// share of a full dose (face to decollete) that each region takes; estimates.
var share = map[anatomy.Region]float64{
	anatomy.Upper: 0.14, anatomy.Middle: 0.2, anatomy.Lower: 0.16, anatomy.SideFace: 0.06,
	anatomy.Neck: 0.18, anatomy.Chest: 0.2, anatomy.Shoulder: 0.06, anatomy.Scalp: 0.0, anatomy.Mouth: 0, anatomy.AddOn: 0.1,
}

// RegionIndex numbers the regions for the arrays of this package.
func RegionIndex(r anatomy.Region) int { return slices.Index(anatomy.Regions[:], r) }

const regions = len(anatomy.Regions)

var shareByIndex = func() (s [regions]float64) {
	for i, r := range anatomy.Regions {
		s[i] = share[r]
	}
	return s
}()

// layer is all the product of one half-life, in seconds. Equal half-lives fade alike, so that what goes on
// later joins what is there: amount x left is the slip it gives a region and side at [Coat.now].
type layer struct {
	halfLife float64
	left     float64
	amount   [regions][2]float64
}

// leastLeft is so little that a layer is written anew before its figures run out of range.
const leastLeft = 1e-100

// Coat is the product on the skin, region by region and side by side. The zero
// value is bare, clean skin. Times are seconds from the start and must not run
// backward between calls.
type Coat struct {
	layers []layer
	now    float64
	stated bool
}

// Stated reports whether any product was applied at all.
func (f *Coat) Stated() bool { return f.stated }

// ApplyProduct spreads mL of a product as [Coat.Apply] does; factor is that of the skin on its half-life.
func (f *Coat) ApplyProduct(at float64, regionBits uint, side anatomy.Side, mL float64, p *Product, factor float64) {
	f.apply(at, regionBits, side, mL, p.FullDose, p.HalfLifeMinutes()*factor, FullSlip(p.Form))
}

// CarryOn lets hands that slide over regions take product along: what is drier than the wettest region
// on their way gains half of the difference, of the same products (common practice; the share is
// an estimate). It says nothing of how much is used.
func (f *Coat) CarryOn(at float64, regionBits uint) {
	if len(f.layers) == 0 {
		return
	}
	f.at(at)
	regionBits &= carrying
	for s := range 2 {
		wettest, most := -1, 0.0
		var has [regions]float64
		for on := regionBits; on != 0; on &= on - 1 {
			r := bits.TrailingZeros(on)
			if has[r] = f.slip(r, s); has[r] > most {
				wettest, most = r, has[r]
			}
		}
		if wettest < 0 {
			continue
		}
		for on := regionBits &^ (1 << wettest); on != 0; on &= on - 1 {
			r := bits.TrailingZeros(on)
			if part := (most - has[r]) / 2 / most; part > 0.01 {
				for i := range f.layers {
					l := &f.layers[i]
					l.amount[r][s] += l.amount[wettest][s] * part
				}
			}
		}
	}
}

// carrying are the regions that carry product, as bits.
var carrying = func() (all uint) {
	for r, share := range shareByIndex {
		if share > 0 {
			all |= 1 << r
		}
	}
	return all
}()

// Apply spreads amount mL over the regions (a bit set of [RegionIndex]) on
// both sides, or on one when side is Left or Right. A full dose is what the
// product wants from face to decollete, in mL.
func (f *Coat) Apply(at float64, regionBits uint, side anatomy.Side, amount, fullDose, halfLifeMinutes float64) {
	f.apply(at, regionBits, side, amount, fullDose, halfLifeMinutes, 100)
}

// apply is [Coat.Apply] of a product of which a full dose adds full.
func (f *Coat) apply(at float64, regionBits uint, side anatomy.Side, amount, fullDose, halfLifeMinutes, full float64) {
	if halfLifeMinutes <= 0 || fullDose <= 0 {
		return
	}
	f.stated = true
	sum := ShareOfAll(regionBits)
	if sum == 0 {
		return
	}
	if side != anatomy.Mid {
		sum /= 2
	}
	f.at(at)
	l := f.layerOf(halfLifeMinutes * 60)
	add := min(full*amount/(fullDose*sum), full) / l.left
	for on := regionBits & carrying; on != 0; on &= on - 1 {
		r := bits.TrailingZeros(on)
		for s := range 2 {
			if side == anatomy.Mid || int(side)-1 == s {
				l.amount[r][s] += add
			}
		}
	}
}

// layerOf is the layer of a half-life.
func (f *Coat) layerOf(halfLife float64) *layer {
	for i := range f.layers {
		if f.layers[i].halfLife == halfLife {
			return &f.layers[i]
		}
	}
	f.layers = append(f.layers, layer{halfLife: halfLife, left: 1})
	return &f.layers[len(f.layers)-1]
}

// at brings every layer to a moment.
func (f *Coat) at(now float64) {
	if now == f.now {
		return
	}
	for i := range f.layers {
		l := &f.layers[i]
		if l.left *= math.Exp2((f.now - now) / l.halfLife); l.left < leastLeft {
			l.scale(^uint(0), l.left)
			l.left = 1
		}
	}
	f.now = now
}

// Remove leaves only the given part (0 to 1) of every layer in the regions.
func (f *Coat) Remove(regionBits uint, keep float64) {
	for i := range f.layers {
		f.layers[i].scale(regionBits, keep)
	}
}

func (l *layer) scale(regionBits uint, by float64) {
	for r := range regions {
		if regionBits&(1<<r) != 0 {
			l.amount[r][0] *= by
			l.amount[r][1] *= by
		}
	}
}

// Slip returns the slip (0 to 100) of a region at a time, on one side; for Mid
// the drier of the two.
func (f *Coat) Slip(at float64, region int, side anatomy.Side) float64 {
	f.at(at)
	switch side {
	case anatomy.Left:
		return f.slip(region, 0)
	case anatomy.Right:
		return f.slip(region, 1)
	}
	return min(f.slip(region, 0), f.slip(region, 1))
}

func (f *Coat) slip(region, side int) float64 {
	sum := 0.0
	for i := range f.layers {
		sum += f.layers[i].amount[region][side] * f.layers[i].left
	}
	return min(sum, 100)
}

// ShareOfAll returns the part of a full dose that some regions take together.
func ShareOfAll(regionBits uint) (sum float64) {
	for r := range regions {
		if regionBits&(1<<r) != 0 {
			sum += shareByIndex[r]
		}
	}
	return sum
}

// ShareOf returns the part of a full dose (face to decollete) that a region takes.
func ShareOf(r anatomy.Region) float64 { return share[r] }
