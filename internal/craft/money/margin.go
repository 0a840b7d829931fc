package money

import "github.com/shopspring/decimal"

// Margin is what is left of a price without tax after what it costs, and how much that is
// for each minute the room and the practitioner are busy; 0 a minute where there are none.
func Margin(net, cost decimal.Decimal, minutes int, minor int32) (margin, perMinute decimal.Decimal) {
	margin = net.Sub(cost)
	if minutes > 0 {
		perMinute = margin.DivRound(decimal.NewFromInt(int64(minutes)), minor)
	}
	return margin, perMinute
}
