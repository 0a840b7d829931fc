package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// What was wasted yesterday is written down today, under its day: not before the pack came, not ahead of today, and
// not before the lot was counted (handbook, chapter 4, Movements).
func TestAMovementIsDatedBack(t *testing.T) {
	w := newWorld(t)
	ctx, s := context.Background(), w.svc.Shelf
	product := w.product(t, "Late oil", "mL", nil)
	pack := w.receive(t, product, "L-1", "2029-01-01", 1, "100", "10.00")[0]
	w.now = w.now.AddDate(0, 0, 5)
	day := func(ago int) string { return w.now.AddDate(0, 0, -ago).Format(time.DateOnly) }
	waste := func(ago int) error {
		return s.MovePack(ctx, &w.owner, pack.ID, shelfroom.PackMove{Kind: shelf.Waste, Amount: some("1"), Reason: "spilled", Day: day(ago)})
	}
	require.NoError(t, waste(2))
	moves, err := s.Movements(ctx, &w.owner, product, time.Time{})
	require.NoError(t, err)
	assert.Equal(t, day(2), moves[0].At.Format(time.DateOnly))
	assert.Equal(t, "/day", at(waste(-1)))
	assert.Equal(t, "/day", at(waste(60)), "before the pack came")
	assert.Equal(t, "/day", at(s.MovePack(ctx, &w.owner, pack.ID, shelfroom.PackMove{Kind: shelf.Stocktake, Amount: some("90"), Day: day(1)})), "a count is of today")

	sheet, err := s.StartCount(ctx, &w.owner, nil, false)
	require.NoError(t, err)
	require.NotEmpty(t, sheet.Lines)
	_, err = s.CountPack(ctx, &w.owner, pack.ID, shelfroom.Counting{Found: some("99")})
	require.NoError(t, err)
	_, err = s.CloseCount(ctx, &w.owner)
	require.NoError(t, err)
	w.now = w.now.AddDate(0, 0, 2)
	assert.Equal(t, "/day", at(waste(3)), "the lot was counted since")
	require.NoError(t, waste(1))
	require.NoError(t, waste(2), "on the day of the count: after it")
	assert.Equal(t, "97", w.lineOf(t, product).Remaining.String())
}

// What the stock is worth by moving average is kept by its movements, as the whole history says; first in first out
// values what is left as the newest deliveries (handbook, chapter 4: 80 left of 20.00 and 30.00 for 100 each).
func TestWhatTheStockIsWorth(t *testing.T) {
	w := newWorld(t)
	ctx, s := context.Background(), w.svc.Shelf
	product := w.product(t, "Worth oil", "mL", nil)
	first := w.receive(t, product, "W-1", "2029-01-01", 1, "100", "20.00")[0]
	w.now = w.now.AddDate(0, 0, 1)
	second := w.receive(t, product, "W-2", "2029-06-01", 1, "100", "30.00")[0]
	require.NoError(t, s.MovePack(ctx, &w.owner, second.ID, shelfroom.PackMove{Kind: shelf.Dispose, Amount: some("20")}))
	require.NoError(t, s.MovePack(ctx, &w.owner, first.ID, shelfroom.PackMove{Kind: shelf.Dispose}))
	f, err := s.Figures(ctx, &w.owner)
	require.NoError(t, err)
	var worth *shelfroom.WorthLine
	for i := range f.Worth {
		if f.Worth[i].Product == product {
			worth = &f.Worth[i]
		}
	}
	require.NotNil(t, worth)
	assert.Equal(t, []string{"80", "24", "24", "20"}, []string{worth.Left.String(), worth.AtCost.String(), worth.FirstOut.String(), worth.Average.String()})
	assert.NotEmpty(t, f.ByProduct)
	assert.NotEmpty(t, f.ByProtocol)
	_, err = s.Figures(ctx, &w.desk)
	require.ErrorIs(t, err, studio.ErrForbidden)
	wrong := w.ownerQuery(t, `select count(*) from product p where average_worth <> (select coalesce(sum(average), 0) from stock_movement m
		where m.studio_id = p.studio_id and m.product_id = p.id)`)
	assert.Zero(t, wrong)
}

// Another closure asks for what was weighed with the old one; the next weighing clears it. A sealed pack has no sticker.
func TestAnotherClosure(t *testing.T) {
	w := newWorld(t)
	ctx, s := context.Background(), w.svc.Shelf
	product := w.product(t, "Closure oil", "mL", nil)
	weigh := func() {
		_, err := s.Calibrate(ctx, &w.owner, product, &shelfroom.NewCalibration{
			Measure: "drops", Each: 20, Grams: []decimal.Decimal{dec("0.61"), dec("0.60"), dec("0.63")}, Step: dec("0.01"), Density: dec("0.92"), Keep: true,
		})
		require.NoError(t, err)
	}
	due := func() bool {
		taught, err := s.LearnedOf(ctx, &w.owner, product)
		require.NoError(t, err)
		require.Len(t, taught.Calibrations, 1)
		return taught.Calibrations[0].Due
	}
	weigh()
	assert.False(t, due())
	require.NoError(t, s.ChangeClosure(ctx, &w.owner, product))
	assert.True(t, due())
	w.now = w.now.Add(time.Hour)
	weigh()
	assert.False(t, due())

	pack := w.receive(t, product, "C-1", "2029-01-01", 1, "100", "10.00")[0]
	var state *studio.StateError
	_, err := s.StickerOf(ctx, &w.owner, pack.ID)
	require.ErrorAs(t, err, &state)
	require.NoError(t, s.OpenPack(ctx, &w.owner, pack.ID))
	label, err := s.StickerOf(ctx, &w.owner, pack.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"C-1", w.now.Format(time.DateOnly)}, []string{label.Lot, label.Opened})
}
