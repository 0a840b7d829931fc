package slip

import "math"

// HandUnit is what a hand counts product in.
type HandUnit string

// The units of the hand. A pump is one press; a fingertip is what lies on the last joint of the index.
const (
	HandDrops      HandUnit = "drops"
	HandML         HandUnit = "mL"
	HandPumps      HandUnit = "pumps"
	HandGrams      HandUnit = "g"
	HandFingertips HandUnit = "fingertips"
)

// HandAmount is an amount as a hand takes it: a number in steps that the hand can take (handbook,
// chapter 9, Amounts). The books keep the exact amount.
type HandAmount struct {
	Value float64  `json:"value"`
	Unit  HandUnit `json:"unit" enum:"drops,mL,pumps,g,fingertips"`
	// About says that no dropper or pump is known: the eye measures.
	About bool `json:"about,omitempty"`
	// ML is the small print beside pumps, G beside fingertips, each to 0.1; 0 for none.
	ML float64 `json:"ml,omitempty"`
	G  float64 `json:"g,omitempty"`
}

// Limits and steps of the hand (handbook, chapter 9, Amounts). A fingertip of cream is about half a gram
// (Long and Finlay, "The finger-tip unit", Clinical and Experimental Dermatology 16, 1991; from memory).
const (
	// MostDrops are counted; more is measured.
	MostDrops        = 20.0
	wholeFrom        = 10.0 // mL and g from here on in whole ones
	smallGrams       = 2.0  // below it a pea or a hazelnut
	gramsAFingertip  = 0.5
	halfStep         = 0.5
	quarterStep      = 0.25
	smallPrintPlaces = 10.0
)

// nearest rounds to steps, half away from zero; up rounds up, for what is poured out and has to last.
func nearest(x, step float64, up bool) float64 {
	n := x / step
	if whole := math.Round(n); math.Abs(n-whole) < 1e-9 {
		n = whole // what is a step already stays
	}
	if up {
		return math.Ceil(n) * step
	}
	return math.Round(n) * step
}

func tenth(x float64) float64 { return math.Round(x*smallPrintPlaces) / smallPrintPlaces }

// ByHand is how a hand takes so many mL of a product. up rounds what is poured out at the start, so that
// it lasts: oil and masks in a bowl.
func (p *Product) ByHand(mL float64, up bool) HandAmount {
	drops := mL * p.DropsPerML
	switch {
	case p.MLPerPump > 0:
		return HandAmount{Value: max(nearest(mL/p.MLPerPump, halfStep, false), halfStep), Unit: HandPumps, ML: tenth(mL)}
	case p.Form == ScentOil && p.DropsPerML > 0:
		return HandAmount{Value: max(math.Floor(drops+1e-9), 1), Unit: HandDrops}
	case p.DropsPerML > 0 && drops <= MostDrops+1e-9:
		return HandAmount{Value: max(math.Round(drops), 1), Unit: HandDrops}
	case p.Form == MassageCream || p.Form == Balm || p.Form == Mask:
		return grams(mL*p.GramsPerML(), up)
	case p.Form == DayCream || p.Form == SunCream:
		g := mL * p.GramsPerML()
		return HandAmount{Value: max(nearest(g/gramsAFingertip, halfStep, false), halfStep), Unit: HandFingertips, G: tenth(g)}
	}
	step := halfStep
	if mL >= wholeFrom {
		step = 1
	}
	return HandAmount{Value: max(nearest(mL, step, up), halfStep), Unit: HandML, About: p.DropsPerML == 0}
}

// grams is what a spatula takes out of a jar.
func grams(g float64, up bool) HandAmount {
	step := halfStep
	switch {
	case g < smallGrams:
		step = quarterStep
	case g >= wholeFrom:
		step = 1
	}
	return HandAmount{Value: max(nearest(g, step, up), step), Unit: HandGrams}
}
