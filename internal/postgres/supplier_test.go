package postgres_test

import (
	"context"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// What is known of a supplier and how the studio orders is kept as it was written; a figure that makes no sense is told where
// it stands, and nothing is kept of it.
func TestTermsOfOrdering(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.svc.Shelf
	before, err := s.Terms(ctx, &w.owner)
	require.NoError(t, err)

	good := shelfroom.Supplier{Name: "  Linden Trade ", LeastValue: dec("150"), OrderCost: dec("7.50"), Email: "orders@linden.example"}
	for where, change := range map[string]func(*shelfroom.Supplier){
		"/name":       func(x *shelfroom.Supplier) { x.Name = "  " },
		"/leastValue": func(x *shelfroom.Supplier) { x.LeastValue = dec("-1") },
		"/orderCost":  func(x *shelfroom.Supplier) { x.OrderCost = dec("0") },
	} {
		bad := good
		change(&bad)
		assert.Equal(t, where, at(s.SaveSupplier(ctx, &w.owner, bad)))
	}
	usual := before.Settings
	usual.ServiceLevel, usual.HoldingPercent, usual.ScaleStep, usual.BlindCount = 99, dec("25"), dec("0.1"), true
	for where, change := range map[string]func(*shelfroom.OrderSettings){
		"/serviceLevel":   func(x *shelfroom.OrderSettings) { x.ServiceLevel = 96 },
		"/holdingPercent": func(x *shelfroom.OrderSettings) { x.HoldingPercent = dec("201") },
		"/scaleStep":      func(x *shelfroom.OrderSettings) { x.ScaleStep = dec("0") },
	} {
		bad := usual
		change(&bad)
		assert.Equal(t, where, at(s.SaveOrderSettings(ctx, &w.owner, bad)))
	}
	same, err := s.Terms(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, before, same, "nothing is kept of what was refused")

	require.NoError(t, s.SaveSupplier(ctx, &w.owner, good))
	good.OrderCost = dec("8")
	require.NoError(t, s.SaveSupplier(ctx, &w.owner, good), "by its name it is one")
	require.NoError(t, s.SaveOrderSettings(ctx, &w.owner, usual))
	terms, err := s.Terms(ctx, &w.owner)
	require.NoError(t, err)
	i := slices.IndexFunc(terms.Suppliers, func(x shelfroom.Supplier) bool { return x.Name == "Linden Trade" })
	require.GreaterOrEqual(t, i, 0, "without the spaces round its name")
	assert.Len(t, terms.Suppliers, len(before.Suppliers)+1)
	assert.Equal(t, []string{"150", "8", "orders@linden.example"}, []string{terms.Suppliers[i].LeastValue.String(), terms.Suppliers[i].OrderCost.String(), terms.Suppliers[i].Email})
	assert.Equal(t, []any{99, "25", "0.1", true}, []any{terms.Settings.ServiceLevel, terms.Settings.HoldingPercent.String(), terms.Settings.ScaleStep.String(), terms.Settings.BlindCount})

	trainee := &studio.Actor{Studio: w.owner.Studio, Role: studio.Trainee}
	require.Error(t, s.SaveSupplier(ctx, trainee, good))
	require.Error(t, s.SaveOrderSettings(ctx, trainee, usual))
}

// A more careful studio keeps more: a higher service level never orders later (handbook, chapter 4, Ordering: the safety
// factors 1.282, 1.645, 2.054 and 2.326).
func TestServiceLevelMovesTheReorderPoint(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	terms, err := w.svc.Shelf.Terms(ctx, &w.owner)
	require.NoError(t, err)
	points := map[uuid.UUID]string{}
	rose := 0
	for _, level := range []int{90, 95, 98, 99} {
		set := terms.Settings
		set.ServiceLevel = level
		require.NoError(t, w.svc.Shelf.SaveOrderSettings(ctx, &w.owner, set))
		lines, err := w.svc.Shelf.Shelf(ctx, &w.owner)
		require.NoError(t, err)
		for i := range lines {
			id, point := lines[i].Product.ID, lines[i].Reorder.Point
			if point == "" { // nothing is known of its use
				continue
			}
			if was, ok := points[id]; ok {
				assert.False(t, dec(point).LessThan(dec(was)), "%s at %d per cent", lines[i].Product.Name, level)
				if dec(point).GreaterThan(dec(was)) {
					rose++
				}
			}
			points[id] = point
		}
	}
	assert.Positive(t, rose, "products whose use varies keep more")
}

// A lot is found by its number, also when nothing is left of it.
func TestALotIsFoundByItsNumber(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	oil, serum := w.product(t, "Recall oil", "mL", nil), w.product(t, "Recall serum", "mL", nil)
	w.receive(t, oil, "R-7", "2030-01-01", 1, "100", "20")
	w.receive(t, serum, "R-7", "2030-01-01", 1, "100", "20")
	found, err := w.svc.Shelf.LotsNumbered(ctx, &w.owner, oil, "R-7")
	require.NoError(t, err)
	require.Len(t, found, 1, "of this product alone")
	other, err := w.svc.Shelf.LotsNumbered(ctx, &w.owner, serum, "R-7")
	require.NoError(t, err)
	assert.NotEqual(t, found, other)
	trace, err := w.svc.Shelf.Trace(ctx, &w.owner, found)
	require.NoError(t, err)
	require.Len(t, trace.Lots, 1)
	assert.Equal(t, "R-7", trace.Lots[0].Number)
	_, err = w.svc.Shelf.LotsNumbered(ctx, &w.owner, oil, "R-8")
	require.ErrorIs(t, err, studio.ErrNotFound)
	_, err = w.svc.Shelf.LotsNumbered(ctx, &studio.Actor{Studio: w.owner.Studio, Role: studio.FrontDesk}, oil, "R-7")
	require.Error(t, err, "whom a lot reached is about health")
}
