package shelf

import (
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Blending is drops of an essential oil in a carrier, as somebody wants them.
type Blending struct {
	CarrierML  decimal.Decimal  `json:"carrierML"`
	Percent    decimal.Decimal  `json:"percent"`
	DropsPerML decimal.Decimal  `json:"dropsPerML"`
	DermalMax  *decimal.Decimal `json:"dermalMax,omitempty"`
	// Careful is a face in pregnancy, a child's or sensitive skin.
	Careful bool `json:"careful,omitempty"`
}

// BlendAnswer is how many drops go in, what they come to, and what to mind.
type BlendAnswer struct {
	shelf.Blended
	// Mind is a sentence where the strength is more than usual, or too little for a drop; empty where there is nothing.
	Mind string `json:"mind"`
}

// Blend works out drops in a carrier. Nothing is written.
func (s *Service) Blend(a *studio.Actor, n *Blending) (*BlendAnswer, error) {
	if err := a.May("work-out-mix"); err != nil {
		return nil, err
	}
	switch {
	case !n.CarrierML.IsPositive() || n.CarrierML.GreaterThan(decimal.NewFromInt(10_000)):
		return nil, studio.FaultAt("/carrierML", words.EnterHowMuchCarrier())
	case n.Percent.IsNegative() || n.Percent.GreaterThan(decimal.NewFromInt(100)):
		return nil, studio.FaultAt("/percent", words.EnterAPerCent())
	case !n.DropsPerML.IsPositive() || n.DropsPerML.GreaterThan(decimal.NewFromInt(1000)):
		return nil, studio.FaultAt("/dropsPerML", words.EnterDropsPerML())
	case n.DermalMax != nil && (n.DermalMax.IsNegative() || !n.DermalMax.LessThan(decimal.NewFromInt(100))):
		return nil, studio.FaultAt("/dermalMax", words.EnterAPerCent())
	}
	b := shelf.Blend{CarrierML: n.CarrierML, Percent: n.Percent, DropsPerML: n.DropsPerML, DermalMax: n.DermalMax}
	drops, err := b.Drops()
	if err != nil {
		return nil, err
	}
	out := &BlendAnswer{Blended: drops}
	switch b.Mind(n.Careful, drops.Drops) {
	case shelf.TooLittleCarrier:
		out.Mind = words.TooLittleCarrierForThisStrength().Message
	case shelf.TooStrongForCare:
		out.Mind = words.NoneOrHalfAPerCentAtMost().Message
	case shelf.TooStrongForFace:
		out.Mind = words.AFaceTakesOnePerCentAtMost().Message
	case shelf.AtDermalMax:
		out.Mind = words.HeldDownByTheDermalMaximum().Message
	}
	return out, nil
}

// Dilute works out how much concentrate and water make a weaker solution. Nothing is written.
func (s *Service) Dilute(a *studio.Actor, n *shelf.Dilution) (*shelf.Diluted, error) {
	if err := a.May("dilute"); err != nil {
		return nil, err
	}
	hundred := decimal.NewFromInt(100)
	switch {
	case !n.Have.IsPositive() || n.Have.GreaterThan(hundred):
		return nil, studio.FaultAt("/have", words.EnterAPerCent())
	case !n.Want.IsPositive() || n.Want.GreaterThan(n.Have):
		return nil, studio.FaultAt("/want", words.WantedIsNotStrongerThanThereIs())
	case !n.Total.IsPositive() || n.Total.GreaterThan(decimal.NewFromInt(100_000)):
		return nil, studio.FaultAt("/total", words.EnterHowMuchIsWanted())
	}
	parts, err := n.Parts()
	return &parts, err
}
