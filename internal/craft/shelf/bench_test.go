package shelf_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/shelf"
)

// 200 products, 12 protocols, 90 days booked with 12 visits a day by five practitioners, six packs a product:
// picked and forecast, all of them. The limit is 100 ms.
func BenchmarkForecastOfAShelf(b *testing.B) {
	today := time.Date(2026, 11, 24, 0, 0, 0, 0, time.UTC)
	day := func(n int) string { return today.AddDate(0, 0, n).Format(time.DateOnly) }
	var visits []shelf.Booked
	for n := range 90 {
		for k := range 12 {
			visits = append(visits, shelf.Booked{Day: day(n), Practitioner: fmt.Sprint(k % 5), Protocol: fmt.Sprint((n + k) % 12)})
		}
	}
	demands := make([]shelf.Demand, 200)
	for i := range demands {
		d := &demands[i]
		*d = shelf.Demand{Today: day(0), Days: 90, BookedOnly: 14, Visits: visits, Doses: map[string]decimal.Decimal{}, Factors: map[string]decimal.Decimal{}, Baseline: make([]decimal.Decimal, 7)}
		for k := range 4 {
			d.Doses[fmt.Sprint((i+k*3)%12)] = decimal.NewFromInt(int64(2 + k))
		}
		for k := range 5 {
			d.Factors[fmt.Sprint(k)] = decimal.RequireFromString("1.0838")
		}
		for k := range d.Baseline {
			d.Baseline[k] = decimal.NewFromInt(12)
		}
		for k := range 6 {
			until := day(20 + 40*k)
			d.Packs = append(d.Packs, shelf.Pack{Lot: fmt.Sprint(k), Expiry: &until, MonthsOpen: 6, Left: decimal.NewFromInt(250)})
		}
	}
	b.ResetTimer()
	for b.Loop() {
		for i := range demands {
			_, err := demands[i].Forecast()
			require.NoError(b, err)
			_, err = shelf.PickFrom(demands[i].Packs, decimal.NewFromInt(5), day(0))
			require.NoError(b, err)
		}
	}
}
