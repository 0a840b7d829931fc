package shelf_test

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/shelf"
)

var dec = decimal.RequireFromString

// Good until the earlier of expiry and opening + months after opening:
// Regulation (EC) 1223/2009 art. 19 (from memory). Dates by the calendar.
func TestGoodUntil(t *testing.T) {
	for _, c := range []struct {
		expiry, opened string
		months         int
		want           string
	}{
		{"2027-06-30", "", 6, "2027-06-30"},
		{"2027-06-30", "2026-11-24", 6, "2027-05-24"},
		{"2027-03-01", "2026-11-24", 6, "2027-03-01"},
		{"2030-01-01", "2027-08-31", 6, "2028-02-29"}, // a leap February
		{"2030-01-01", "2026-08-31", 6, "2027-02-28"},
		{"", "2026-01-15", 12, "2027-01-15"},
		{"2027-06-30", "2026-11-24", 0, "2027-06-30"},
	} {
		l := shelf.Lot{Expiry: c.expiry, Opened: c.opened, MonthsOpen: c.months}
		assert.Equal(t, c.want, l.UseBy(), "%+v", c)
	}
	l := shelf.Lot{Expiry: "2026-11-24", Remaining: dec("1")}
	assert.True(t, l.Usable("2026-11-24"), "good on its last day")
	assert.False(t, l.Usable("2026-11-25"), "an expired lot is blocked")
}

// First to expire goes first out (common practice); costs by hand:
// 3 x 0.40 + 2 x 0.55 = 2.30.
func TestTake(t *testing.T) {
	late := &shelf.Lot{Number: "B", Expiry: "2028-01-01", UnitCost: dec("0.55"), Remaining: dec("30")}
	soon := &shelf.Lot{Number: "A", Expiry: "2027-01-01", UnitCost: dec("0.40"), Remaining: dec("3")}
	gone := &shelf.Lot{Number: "0", Expiry: "2026-01-01", UnitCost: dec("9"), Remaining: dec("50")}
	taken, err := shelf.Take([]*shelf.Lot{late, gone, soon}, dec("5"), "2026-11-24")
	require.NoError(t, err)
	require.Len(t, taken, 2)
	assert.Equal(t, []string{"A", "B"}, []string{taken[0].Lot.Number, taken[1].Lot.Number})
	assert.Equal(t, "2.30", shelf.Cost(taken).StringFixed(2))

	_, err = shelf.Take([]*shelf.Lot{late, gone, soon}, dec("33.01"), "2026-11-24")
	var short *shelf.ShortError
	require.ErrorAs(t, err, &short)
	assert.Equal(t, "33", short.Have.String())

	opened := &shelf.Lot{Number: "C", Expiry: "2028-01-01", Opened: "2026-11-01", Remaining: dec("1")}
	taken, _ = shelf.Take([]*shelf.Lot{late, opened}, dec("1"), "2026-11-24")
	assert.Equal(t, "C", taken[0].Lot.Number, "the open bottle before a closed one of the same day")

	assert.Equal(t, 12, shelf.TreatmentsLeft(dec("30"), dec("2.4")))
	assert.Equal(t, -1, shelf.TreatmentsLeft(dec("30"), decimal.Zero))
}

// A lot without a last day is used last, an opened one before a closed one of the
// same day, and then by number (common practice: nothing stands open longer than it
// must).
func TestTheOrderOfLots(t *testing.T) {
	lot := func(number, expiry, opened string) *shelf.Lot {
		return &shelf.Lot{Number: number, Expiry: expiry, Opened: opened, Remaining: dec("1")}
	}
	order := func(lots ...*shelf.Lot) (out []string) {
		taken, err := shelf.Take(lots, decimal.NewFromInt(int64(len(lots))), "2026-11-24")
		require.NoError(t, err)
		for _, x := range taken {
			out = append(out, x.Lot.Number)
		}
		return out
	}
	want := []string{"soon", "open", "b1", "b2", "never-open", "never"}
	lots := []*shelf.Lot{lot("never", "", ""), lot("b2", "2027-05-01", ""), lot("soon", "2027-01-01", ""), lot("never-open", "", "2026-01-01"), lot("b1", "2027-05-01", ""), lot("open", "2027-05-01", "2026-11-01")}
	assert.Equal(t, want, order(lots...))
	for i, j := 0, len(lots)-1; i < j; i, j = i+1, j-1 {
		lots[i], lots[j] = lots[j], lots[i]
	}
	assert.Equal(t, want, order(lots...), "whatever order they come in")
	first, second := lot("same", "2027-05-01", ""), lot("same", "2027-05-01", "")
	taken, err := shelf.Take([]*shelf.Lot{first, second}, dec("1"), "2026-11-24")
	require.NoError(t, err)
	assert.Same(t, first, taken[0].Lot, "of two deliveries alike the one that is listed first")
}
