package studio

import (
	"strings"

	"github.com/shopspring/decimal"
	"golang.org/x/text/currency"

	"softpalm/internal/craft/money"
	"softpalm/words"
)

// Tax is the usual tax that a studio's prices bear; none where there is no rate.
type Tax struct {
	// TaxName is what it is called where the studio is: VAT, GST, sales tax.
	TaxName string `json:"taxName,omitempty" maxLength:"40"`
	// Rate is in per cent, a decimal text such as 23 or 8.875.
	Rate string `json:"taxRate,omitempty" maxLength:"8"`
	// Mode says whether prices have it in them, or it is added.
	Mode money.TaxMode `json:"taxMode,omitempty" enum:"included,added"`
	// Number is what the studio is registered under.
	Number string `json:"taxNumber,omitempty" maxLength:"40"`
}

// taxDecimals is how fine a rate may be: some are given in thousandths of a per cent.
const taxDecimals = 3

// Check returns what is wrong with the tax.
func (t *Tax) Check() error {
	t.TaxName, t.Rate, t.Number = strings.TrimSpace(t.TaxName), strings.TrimSpace(strings.ReplaceAll(t.Rate, ",", ".")), strings.TrimSpace(t.Number)
	if t.Mode == "" {
		t.Mode = money.TaxIncluded
	}
	if t.Rate == "" {
		return nil
	}
	r, err := decimal.NewFromString(t.Rate)
	if err != nil || r.IsNegative() || r.GreaterThan(decimal.NewFromInt(100)) || -r.Exponent() > taxDecimals {
		return FaultAt("/taxRate", words.ATaxRateIsFrom0To100())
	}
	t.Rate = r.String()
	if t.TaxName == "" {
		return FaultAt("/taxName", words.EnterWhatTheTaxIsCalled())
	}
	return nil
}

// rate is the tax in per cent; nil where there is none.
func (t *Tax) rate() *decimal.Decimal {
	r, err := decimal.NewFromString(t.Rate)
	if err != nil {
		return nil
	}
	return &r
}

// RateOr0 is the tax in per cent, 0 where there is none.
func (t *Tax) RateOr0() decimal.Decimal {
	if r := t.rate(); r != nil {
		return *r
	}
	return decimal.Zero
}

// Asked is what a client pays for a price, with the tax in it.
type Asked struct {
	// Amount and Tax are decimal texts; Tax is empty where there is none.
	Amount  string `json:"amount"`
	Tax     string `json:"tax,omitempty"`
	TaxName string `json:"taxName,omitempty"`
}

// Asked returns what a client pays for a price of the studio.
func (s *Studio) Asked(price string) Asked {
	p, err := decimal.NewFromString(price)
	if err != nil {
		return Asked{Amount: price}
	}
	line, minor := s.Taxed(p), s.Minor()
	out := Asked{Amount: line.Gross.StringFixed(minor)}
	if s.Tax.rate() != nil {
		out.Tax, out.TaxName = line.Tax.StringFixed(minor), s.Tax.TaxName
	}
	return out
}

// Taxed is a price of the studio without tax, its tax, and both together.
func (s *Studio) Taxed(price decimal.Decimal) money.Taxed {
	lines, _ := money.Tax([]money.Line{{Amount: price, Rate: s.Tax.rate()}}, s.Tax.Mode, s.Minor())
	return lines[0]
}

// PriceFor is the price of the studio at which a client pays at least an amount: the same where the tax is in it, else
// what is left of it without the tax, rounded up to the studio's step.
func (s *Studio) PriceFor(gross decimal.Decimal) decimal.Decimal {
	if s.Tax.Mode != money.TaxAdded {
		return gross
	}
	hundred, step := decimal.NewFromInt(100), s.Costs.Sums().PriceStep
	steps, rest := gross.Mul(hundred).QuoRem(hundred.Add(s.Tax.RateOr0()).Mul(step), 0)
	if rest.IsPositive() {
		steps = steps.Add(decimal.NewFromInt(1))
	}
	return steps.Mul(step)
}

// Minor is how many decimals the studio's currency has.
func (s *Studio) Minor() int32 { return MinorOf(s.Currency) }

// usualMinor is how many decimals most currencies have.
const usualMinor = 2

// MinorOf is how many decimals a currency has (ISO 4217, by the tables of package currency).
func MinorOf(code string) int32 {
	unit, err := currency.ParseISO(code)
	if err != nil {
		return usualMinor
	}
	scale, _ := currency.Standard.Rounding(unit)
	return int32(scale)
}
