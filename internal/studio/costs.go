package studio

import (
	"strings"

	"github.com/shopspring/decimal"

	"softpalm/words"
)

// Costs are what an appointment costs a studio beside its products and tools; empty where they are not known.
// All but CardPercent are sums in the studio's currency, as decimal texts.
type Costs struct {
	// WagePerHour is a practitioner's pay with all that the studio pays on it.
	WagePerHour string `json:"wagePerHour,omitempty" maxLength:"12"`
	// RoomPerHour is rent, power and insurance for each hour in which the studio is open.
	RoomPerHour string `json:"roomPerHour,omitempty" maxLength:"12"`
	// Disposables and Laundry are for one appointment: gloves and wipes, towels and sheets.
	Disposables string `json:"disposables,omitempty" maxLength:"12"`
	Laundry     string `json:"laundry,omitempty" maxLength:"12"`
	// CardPercent and CardFixed are what the card company takes of a payment.
	CardPercent string `json:"cardPercent,omitempty" maxLength:"8"`
	CardFixed   string `json:"cardFixed,omitempty" maxLength:"12"`
	// PriceStep is what prices are rounded up to.
	PriceStep string `json:"priceStep,omitempty" maxLength:"12"`
}

// Check returns what is wrong with the costs.
func (c *Costs) Check() error {
	for _, f := range []struct {
		path string
		text *string
	}{
		{"/wagePerHour", &c.WagePerHour}, {"/roomPerHour", &c.RoomPerHour}, {"/disposables", &c.Disposables},
		{"/laundry", &c.Laundry}, {"/cardFixed", &c.CardFixed}, {"/priceStep", &c.PriceStep}, {"/cardPercent", &c.CardPercent},
	} {
		*f.text = strings.TrimSpace(strings.ReplaceAll(*f.text, ",", "."))
		if *f.text == "" {
			continue
		}
		d, err := decimal.NewFromString(*f.text)
		if err != nil {
			return FaultAt(f.path, words.EnterASumUpToMost(MostMoney.String()))
		}
		if err := CheckMoney(f.path, d); err != nil {
			return err
		}
		*f.text = d.String()
	}
	if percent := sum(c.CardPercent); percent.GreaterThan(decimal.NewFromInt(mostCardPercent)) {
		return FaultAt("/cardPercent", words.ACardFeeIsFrom0To20PerCent())
	}
	return nil
}

// mostCardPercent is the most that a card company can be said to take.
const mostCardPercent = 20

// Sums are the costs as numbers, 0 where they are not known. The step of prices is one whole unit of the currency
// where none is said.
type Sums struct {
	WagePerHour, RoomPerHour, Disposables, Laundry, CardPercent, CardFixed, PriceStep decimal.Decimal
}

// Sums reads the costs.
func (c *Costs) Sums() Sums {
	s := Sums{
		WagePerHour: sum(c.WagePerHour), RoomPerHour: sum(c.RoomPerHour), Disposables: sum(c.Disposables), Laundry: sum(c.Laundry),
		CardPercent: sum(c.CardPercent), CardFixed: sum(c.CardFixed), PriceStep: sum(c.PriceStep),
	}
	if !s.PriceStep.IsPositive() {
		s.PriceStep = decimal.NewFromInt(1)
	}
	return s
}

func sum(text string) decimal.Decimal {
	d, err := decimal.NewFromString(text)
	if err != nil {
		return decimal.Zero
	}
	return d
}
