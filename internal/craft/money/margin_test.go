package money_test

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/money"
)

// Margin by the minute, rounded half away from zero (arithmetic done by hand).
func TestMargin(t *testing.T) {
	d := decimal.RequireFromString
	for _, c := range []struct {
		net, cost         string
		minutes           int
		margin, perMinute string
	}{
		{"77.24", "0.83", 75, "76.41", "1.02"},
		{"10", "12.5", 5, "-2.5", "-0.5"},
		{"50", "0", 0, "50", "0"},
		{"0.02", "0", 16, "0.02", "0"},
	} {
		margin, per := money.Margin(d(c.net), d(c.cost), c.minutes, 2)
		assert.True(t, d(c.margin).Equal(margin), "%+v: %s", c, margin)
		assert.True(t, d(c.perMinute).Equal(per), "%+v: %s", c, per)
	}
}
