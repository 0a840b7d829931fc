package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
)

// What a client pays, by currencies with two, no and three decimals (ISO 4217) and both
// ways of pricing (the project's handbook, chapter 8; the others by hand).
func TestWhatAClientIsAskedFor(t *testing.T) {
	for _, c := range []struct {
		currency, price string
		tax             Tax
		want            Asked
	}{
		{"EUR", "95.00", Tax{TaxName: "VAT", Rate: "23", Mode: money.TaxIncluded}, Asked{"95.00", "17.76", "VAT"}},
		{"EUR", "95.00", Tax{TaxName: "VAT", Rate: "23", Mode: money.TaxAdded}, Asked{"116.85", "21.85", "VAT"}},
		{"USD", "80", Tax{TaxName: "sales tax", Rate: "8.875", Mode: money.TaxAdded}, Asked{"87.10", "7.10", "sales tax"}},
		{"JPY", "9900", Tax{TaxName: "consumption tax", Rate: "10", Mode: money.TaxIncluded}, Asked{"9900", "900", "consumption tax"}},
		{"KWD", "12.345", Tax{}, Asked{Amount: "12.345"}},
		{"EUR", "95.00", Tax{TaxName: "VAT", Rate: "0", Mode: money.TaxIncluded}, Asked{"95.00", "0.00", "VAT"}},
		{"XQX", "5.5", Tax{}, Asked{Amount: "5.50"}},
	} {
		st := Studio{Currency: c.currency, Tax: c.tax}
		assert.Equal(t, c.want, st.Asked(c.price), "%+v", c)
	}
}

// A rate is a number of per cent, with a comma or a point, and has a name.
func TestATaxIsChecked(t *testing.T) {
	for rate, right := range map[string]bool{"": true, "23": true, "8,875": true, " 0 ": true, "100": true, "-1": false, "101": false, "ten": false, "1.2345": false, "1e2": true, "NaN": false} {
		tax := Tax{TaxName: "VAT", Rate: rate}
		assert.Equal(t, right, tax.Check() == nil, "%q", rate)
		assert.Equal(t, money.TaxIncluded, tax.Mode)
	}
	comma := Tax{TaxName: "VAT", Rate: "8,875"}
	require.NoError(t, comma.Check())
	assert.Equal(t, "8.875", comma.Rate)
	require.Error(t, (&Tax{Rate: "23"}).Check(), "a tax has a name")
}
