package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Costs are sums with at most two decimals, written with a point or a comma, or nothing.
func TestCostsOfAnAppointment(t *testing.T) {
	c := Costs{WagePerHour: " 18,50 ", CardPercent: "1.4"}
	require.NoError(t, c.Check())
	assert.Equal(t, "18.5", c.WagePerHour)
	assert.Equal(t, "1", c.Sums().PriceStep.String(), "prices are whole where no step is said")
	for _, bad := range []Costs{
		{WagePerHour: "much"}, {RoomPerHour: "-1"}, {Disposables: "0.333"}, {Laundry: "1e12"}, {CardPercent: "21"}, {CardFixed: "x"}, {PriceStep: "-0.5"},
	} {
		var fault *InputError
		require.ErrorAs(t, bad.Check(), &fault, "%+v", bad)
	}
}
