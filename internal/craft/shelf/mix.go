package shelf

import (
	"errors"

	"github.com/shopspring/decimal"
)

var hundred = decimal.NewFromInt(100)

// Blend is essential oil in a carrier, at a strength in per cent of the carrier. DermalMax is the oil's
// limit in per cent of the blend, from the supplier's sheet; nil where there is none.
type Blend struct {
	CarrierML  decimal.Decimal  `json:"carrierML"`
	Percent    decimal.Decimal  `json:"percent"`
	DropsPerML decimal.Decimal  `json:"dropsPerML"`
	DermalMax  *decimal.Decimal `json:"dermalMax"`
}

// Blended is how many drops go in, and what they come to.
type Blended struct {
	Drops     int64  `json:"drops"`
	OfCarrier string `json:"ofCarrier"`
	OfBlend   string `json:"ofBlend"`
}

// Drops is how many whole drops give the strength, never more: rounded down, and within the dermal
// maximum p: carrier x p / (1 - p).
func (b *Blend) Drops() (Blended, error) {
	if !b.CarrierML.IsPositive() || !b.DropsPerML.IsPositive() || b.Percent.IsNegative() {
		return Blended{}, errors.New("carrier and drops per mL must be above 0, the strength not below")
	}
	drops := b.CarrierML.Mul(b.Percent).Mul(b.DropsPerML).DivRound(hundred, exact).Floor()
	if b.DermalMax != nil {
		if b.DermalMax.IsNegative() || b.DermalMax.GreaterThanOrEqual(hundred) {
			return Blended{}, errors.New("a dermal maximum lies between 0 and 100 per cent")
		}
		most := b.CarrierML.Mul(*b.DermalMax).Mul(b.DropsPerML).DivRound(hundred.Sub(*b.DermalMax), exact).Floor()
		drops = decimal.Min(drops, most)
	}
	oil := drops.DivRound(b.DropsPerML, exact)
	return Blended{
		Drops:     drops.IntPart(),
		OfCarrier: oil.Mul(hundred).DivRound(b.CarrierML, exact).StringFixed(2),
		OfBlend:   oil.Mul(hundred).DivRound(b.CarrierML.Add(oil), exact).StringFixed(2),
	}, nil
}

// BlendMind is what to mind about a blend.
type BlendMind string

// What a blend may ask to be minded, the weightiest first.
const (
	TooStrongForCare BlendMind = "too-strong-for-care"
	TooStrongForFace BlendMind = "too-strong-for-face"
	TooLittleCarrier BlendMind = "too-little-carrier"
	AtDermalMax      BlendMind = "at-dermal-max"
)

// Strengths on a face, in per cent of the carrier: half a per cent at most in pregnancy, for children and sensitive
// skin, one otherwise (handbook, chapter 4, Mixing).
var (
	mostWithCare = decimal.NewFromFloat(0.5)
	mostOnFace   = decimal.NewFromInt(1)
)

// Mind is what to mind about the blend with the drops it comes to; "" where there is nothing. Careful is pregnancy,
// a child, or sensitive skin.
func (b *Blend) Mind(careful bool, drops int64) BlendMind {
	switch {
	case careful && b.Percent.GreaterThan(mostWithCare):
		return TooStrongForCare
	case b.Percent.GreaterThan(mostOnFace):
		return TooStrongForFace
	case drops == 0 && b.Percent.IsPositive():
		return TooLittleCarrier
	case b.DermalMax != nil && decimal.NewFromInt(drops).LessThan(b.CarrierML.Mul(b.Percent).Mul(b.DropsPerML).DivRound(hundred, exact).Floor()):
		return AtDermalMax
	}
	return ""
}

// Dilution is a concentrate made weaker, strengths in per cent.
type Dilution struct {
	Have  decimal.Decimal `json:"have"`
	Want  decimal.Decimal `json:"want"`
	Total decimal.Decimal `json:"total"` // mL
}

// Diluted is what is poured, to a tenth of a mL.
type Diluted struct {
	Concentrate decimal.Decimal `json:"concentrate"`
	Water       decimal.Decimal `json:"water"`
}

// Parts is how much concentrate and water give the total; volumes are taken as additive (common practice).
func (d *Dilution) Parts() (Diluted, error) {
	if !d.Have.IsPositive() || d.Want.IsNegative() || d.Want.GreaterThan(d.Have) || d.Total.IsNegative() {
		return Diluted{}, errors.New("what is wanted must not be stronger than what there is")
	}
	c := d.Total.Mul(d.Want).DivRound(d.Have, exact).Round(1)
	return Diluted{Concentrate: c, Water: d.Total.Sub(c).Round(1)}, nil
}
