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

const (
	regions   = len(anatomy.Regions)
	maxLayers = 8
)

var shareByIndex = func() (s [regions]float64) {
	for i, r := range anatomy.Regions {
		s[i] = share[r]
	}
	return s
}()

// layer is an amount applied at one time.
type layer struct {
	amount float64
	from   int // index into applications
}

// application is one moment of putting product on, shared by the layers of all
// regions it reached. Times and half-life are seconds.
type application struct {
	at, halfLife float64
	left         float64 // what is left of it at Film.now
}

// Coat is the product on the skin, region by region and side by side. The zero
// value is bare, clean skin. Times are seconds from the start and must not run
// backward between calls.
type Coat struct {
	layers       [regions][2][maxLayers]layer
	n            [regions][2]int
	applications []application
	now          float64
	stated       bool
}

// Stated reports whether any product was applied at all.
func (f *Coat) Stated() bool { return f.stated }

// ApplyProduct spreads mL of a product as [Coat.Apply] does; factor is that of the skin on its half-life.
func (f *Coat) ApplyProduct(at float64, regionBits uint, side anatomy.Side, mL float64, p *Product, factor float64) {
	f.apply(at, regionBits, side, mL, p.FullDose, p.HalfLifeMinutes()*factor, FullSlip(p.Form))
}

// CarryOn lets hands that slide over regions take product along: what is drier than the wettest region
// on their way gains half of the difference, from the same applications (common practice; the share is
// an estimate). It says nothing of how much is used.
func (f *Coat) CarryOn(at float64, regionBits uint) {
	if len(f.applications) == 0 {
		return
	}
	f.at(at)
	for s := range 2 {
		wettest, most := -1, 0.0
		var has [regions]float64
		for r := range regions {
			if regionBits&(1<<r) == 0 || shareByIndex[r] == 0 {
				continue
			}
			if has[r] = f.slip(r, s); has[r] > most {
				wettest, most = r, has[r]
			}
		}
		for r := range regions {
			if wettest < 0 || r == wettest || regionBits&(1<<r) == 0 || shareByIndex[r] == 0 {
				continue
			}
			if part := (most - has[r]) / 2 / most; part > 0.01 {
				for _, l := range f.layers[wettest][s][:f.n[wettest][s]] {
					f.add(r, s, layer{l.amount * part, l.from})
				}
			}
		}
	}
}

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
	sum := 0.0
	for r := range regions {
		if regionBits&(1<<r) != 0 {
			sum += shareByIndex[r]
		}
	}
	if sum == 0 {
		return
	}
	if side != anatomy.Mid {
		sum /= 2
	}
	add := min(full*amount/(fullDose*sum), full)
	f.at(at)
	f.applications = append(f.applications, application{at, halfLifeMinutes * 60, 1})
	from := len(f.applications) - 1
	for r := range regions {
		for s := range 2 {
			if regionBits&(1<<r) == 0 || shareByIndex[r] == 0 || side != anatomy.Mid && int(side)-1 != s {
				continue
			}
			f.add(r, s, layer{add, from})
		}
	}
}

// add lays one more coat on a region; one of an application that is there already joins it.
func (f *Coat) add(r, s int, more layer) {
	n := f.n[r][s]
	for i := range n {
		if f.layers[r][s][i].from == more.from {
			f.layers[r][s][i].amount += more.amount
			return
		}
	}
	if n == maxLayers { // merge the oldest two: the oldest has all but faded
		l := f.layers[r][s][:]
		if second := &f.applications[l[1].from]; second.left > 0 {
			l[1].amount += l[0].amount * f.applications[l[0].from].left / second.left
		}
		copy(l, l[1:])
		n--
	}
	f.layers[r][s][n] = more
	f.n[r][s] = n + 1
}

// at brings every application to a moment; what is left of one is worked out
// once a moment, however many layers it has.
func (f *Coat) at(now float64) {
	if now == f.now {
		return
	}
	f.now = now
	for i := range f.applications {
		a := &f.applications[i]
		a.left = math.Exp2(-(now - a.at) / a.halfLife)
	}
}

// Remove leaves only the given part (0 to 1) of every layer in the regions.
func (f *Coat) Remove(regionBits uint, keep float64) {
	for r := range regions {
		if regionBits&(1<<r) == 0 {
			continue
		}
		for s := range 2 {
			for i := range f.n[r][s] {
				f.layers[r][s][i].amount *= keep
			}
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
	for _, l := range f.layers[region][side][:f.n[region][side]] {
		sum += l.amount * f.applications[l.from].left
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
