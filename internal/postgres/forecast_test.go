package postgres_test

import (
	"context"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The shelf looks ahead by the booked diary: what there is, is used, left or lost, to the thousandth; what
// runs out soonest comes first (handbook, chapter 4, Forecast; sums by hand).
func TestTheShelfLooksAhead(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	lines, err := w.svc.Shelf.Shelf(ctx, &w.owner)
	require.NoError(t, err)
	asked, last := 0, ""
	for i := range lines {
		l, f := &lines[i], &lines[i].Forecast
		lost := decimal.Zero
		for _, u := range f.Unused {
			lost = lost.Add(u.Amount)
		}
		assert.True(t, l.Remaining.Equal(f.Left.Add(f.Demand).Sub(f.Short).Add(lost)), "%s: %s is not %s left, %s of %s used, %s lost",
			l.Product.Name, l.Remaining, f.Left, f.Demand.Sub(f.Short), f.Demand, lost)
		if f.Demand.IsPositive() {
			asked++
		}
		day := "~"
		if f.RunOut != nil {
			day = *f.RunOut
			assert.True(t, f.Short.IsPositive(), l.Product.Name)
		}
		assert.LessOrEqual(t, last, day, "in the order in which they run out")
		last = day
	}
	assert.Greater(t, asked, 3, "the demo's diary takes something")
}
