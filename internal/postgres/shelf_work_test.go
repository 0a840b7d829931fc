package postgres_test

import (
	"context"
	"database/sql"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	shelfroom "softpalm/internal/studio/shelf"
)

// An order is a draft, sent, received in parts and closed short; what is to come counts as on order; three
// deliveries teach the supplier's lead time; a stale change is told (handbook, chapter 4, Ordering).
func TestAnOrderComesInParts(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.svc.Shelf
	product := w.product(t, "Order oil", "mL", nil)
	supply := shelfroom.SupplyChange{PackSize: dec("100"), ReorderAt: dec("250"), Density: 0.92}
	supply.Use, supply.Supplier, supply.LeadDays, supply.MinPacks = "cabin", "Linden Trade", 9, 1
	require.NoError(t, s.SaveSupply(ctx, &w.owner, product, &supply))
	lists, err := s.OrderLists(ctx, &w.owner)
	require.NoError(t, err)
	i := slices.IndexFunc(lists, func(l shelfroom.OrderList) bool { return l.Supplier == "Linden Trade" })
	require.GreaterOrEqual(t, i, 0, "it is below the studio's own least")
	assert.Equal(t, int64(3), lists[i].Lines[0].Packs, "250 in packs of 100")
	assert.Contains(t, lists[i].Lines[0].Why, "250")

	line := []shelfroom.NewOrderLine{{Product: product, Packs: 3}}
	o, err := s.AddOrder(ctx, &w.desk, &shelfroom.NewOrder{Supplier: "Linden Trade", Lines: line})
	require.NoError(t, err)
	assert.Equal(t, []any{shelfroom.Draft, ""}, []any{o.State, o.OrderedOn})
	_, err = s.ChangeOrder(ctx, &w.owner, o.ID, o.Revision+1, &shelfroom.NewOrder{Supplier: "Linden Trade", Lines: line})
	var changed *studio.ChangedError
	require.ErrorAs(t, err, &changed, "a stale change")
	twice := append(slices.Clone(line), line...)
	_, err = s.ChangeOrder(ctx, &w.owner, o.ID, o.Revision, &shelfroom.NewOrder{Lines: twice})
	assert.Equal(t, "/lines/1/product", at(err))
	o, err = s.ChangeOrder(ctx, &w.owner, o.ID, o.Revision, &shelfroom.NewOrder{Supplier: "Linden Trade", Lines: line, Send: true})
	require.NoError(t, err)
	assert.Equal(t, "300", w.lineOf(t, product).Reorder.OnOrder.String())
	assert.False(t, w.lineOf(t, product).Reorder.Order.Order, "it is on its way")
	var state *studio.StateError
	_, err = s.ChangeOrder(ctx, &w.owner, o.ID, o.Revision, &shelfroom.NewOrder{Lines: line})
	require.ErrorAs(t, err, &state, "a sent order stays")

	come := func(number string, packs int, over bool) error {
		d := shelfroom.DeliveryLine{Product: product, Number: number, Expiry: "2030-01-01", Packs: packs, PackSize: dec("100"), Cost: dec("20"), Over: over}
		return s.Receive(ctx, &w.owner, &shelfroom.Delivery{Order: &o.ID, Lines: []shelfroom.DeliveryLine{d}})
	}
	w.now = w.now.AddDate(0, 0, 6)
	require.NoError(t, come("O-1", 2, false))
	assert.Equal(t, "/lines/0/packs", at(come("O-2", 2, false)), "more came than was ordered: it is asked")
	assert.Equal(t, "100", w.lineOf(t, product).Reorder.OnOrder.String())
	require.NoError(t, s.CloseOrder(ctx, &w.owner, o.ID))
	require.NoError(t, s.CloseOrder(ctx, &w.owner, o.ID), "a repeat changes nothing")
	assert.True(t, w.lineOf(t, product).Reorder.OnOrder.IsZero(), "the rest is not on order any more")
	require.ErrorAs(t, come("O-2", 1, false), &state, "nothing is to come of it")

	for k, days := range []int{8, 10} {
		n, err := s.AddOrder(ctx, &w.owner, &shelfroom.NewOrder{Supplier: "Linden Trade", Lines: []shelfroom.NewOrderLine{{Product: product, Packs: 1}}, Send: true})
		require.NoError(t, err)
		o = n
		w.now = w.now.AddDate(0, 0, days)
		require.NoError(t, come("P-"+string(rune('1'+k)), 1, false))
	}
	r := w.lineOf(t, product).Reorder
	assert.Equal(t, []any{"8", 3}, []any{r.LeadDays.String(), r.Learned}, "6, 8 and 10 days")
	orders, err := s.Orders(ctx, &w.owner, false)
	require.NoError(t, err)
	assert.Equal(t, []shelfroom.OrderState{shelfroom.Received, shelfroom.Received, shelfroom.ClosedShort}, []shelfroom.OrderState{orders[0].State, orders[1].State, orders[2].State})
	assert.Equal(t, "2026-003", orders[0].Number)
}

// Numbers of orders have no gap and no double, however many are written at once.
func TestOrderNumbers(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	line := []shelfroom.NewOrderLine{{Product: w.line(t, "calm-oil").Product.ID, Packs: 1}}
	errs := together(12, func(int) error {
		_, err := w.svc.Shelf.AddOrder(ctx, &w.owner, &shelfroom.NewOrder{Lines: line})
		return err
	})
	for _, err := range errs {
		require.NoError(t, err)
	}
	orders, err := w.svc.Shelf.Orders(ctx, &w.owner, true)
	require.NoError(t, err)
	var numbers []string
	for _, o := range orders {
		numbers = append(numbers, o.Number)
	}
	slices.Sort(numbers)
	assert.Len(t, slices.Compact(slices.Clone(numbers)), 12)
	assert.Equal(t, "2026-012", numbers[11])
}

// A few packs whose turn it is are counted at a time, and are not due again the same day.
func TestCountingWhatIsDue(t *testing.T) {
	w := newWorld(t)
	ctx, s := context.Background(), w.svc.Shelf
	w.now = w.now.AddDate(0, 2, 0)
	few, err := s.StartCount(ctx, &w.owner, nil, true)
	require.NoError(t, err)
	assert.LessOrEqual(t, len(few.Lines), 8, "a few a day")
	require.NotEmpty(t, few.Lines, "after two months the dear ones are due")
	for i := range few.Lines {
		_, err = s.CountPack(ctx, &w.owner, few.Lines[i].Pack, shelfroom.Counting{Found: few.Lines[i].Books})
		require.NoError(t, err)
	}
	_, err = s.CloseCount(ctx, &w.owner)
	require.NoError(t, err)
	next, err := s.StartCount(ctx, &w.owner, nil, true)
	require.NoError(t, err)
	for i := range next.Lines {
		assert.NotContains(t, few.Only, next.Lines[i].Pack, "what was counted today is not due again")
	}
	_, err = s.CloseCount(ctx, &w.owner)
	require.NoError(t, err)
}

// A stocktake weighs open packs and counts sealed ones; within the tolerance nothing is booked, far off is
// asked for twice; what is used after a line was counted stays used. Worked figures: gross 191.30, tare
// 82.10, 0.92 = 118.696; 186.30 = 113.261 (handbook, chapter 4, Stocktake).
func TestAStocktake(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.svc.Shelf
	_, err := s.Count(ctx, &w.owner)
	require.ErrorIs(t, err, studio.ErrNotFound)
	product := w.product(t, "Count oil", "mL", func(n *shelfroom.NewProduct) { n.PackSize = dec("250") })
	packs := w.receive(t, product, "C-1", "2029-01-01", 2, "250", "50.00")
	take := dec("131.6")
	require.NoError(t, s.MovePack(ctx, &w.owner, packs[0].ID, shelfroom.PackMove{Kind: shelf.Waste, Amount: &take, Reason: "spilled"}))
	require.NoError(t, s.OpenPack(ctx, &w.owner, packs[0].ID))
	_, err = s.CountPack(ctx, &w.owner, packs[0].ID, shelfroom.Counting{Found: some("1")})
	var state *studio.StateError
	require.ErrorAs(t, err, &state, "none is open")
	_, err = s.StartCount(ctx, &w.desk, nil, false)
	require.ErrorIs(t, err, studio.ErrForbidden)
	c, err := s.StartCount(ctx, &w.owner, []string{}, false)
	require.NoError(t, err)
	again, err := s.StartCount(ctx, &w.owner, []string{"Fridge"}, false)
	require.NoError(t, err)
	assert.Equal(t, c.ID, again.ID, "one at a time: it goes on")

	_, err = s.CountPack(ctx, &w.owner, packs[0].ID, shelfroom.Counting{Gross: some("191.30")})
	assert.Equal(t, "/tare", at(err))
	_, err = s.CountPack(ctx, &w.owner, packs[0].ID, shelfroom.Counting{Gross: some("82"), Tare: some("82.10")})
	assert.Equal(t, "/gross", at(err))
	l, err := s.CountPack(ctx, &w.owner, packs[0].ID, shelfroom.Counting{Gross: some("191.30"), Tare: some("82.10")})
	require.NoError(t, err)
	assert.Equal(t, []string{"118.696", "1.25", "0"}, []string{l.Found.String(), l.Tolerance.String(), l.Booked.String()}, "books 118.4: within the tolerance")
	l, err = s.CountPack(ctx, &w.owner, packs[0].ID, shelfroom.Counting{Gross: some("186.30"), Tare: some("82.10"), Reason: "dripped"})
	require.NoError(t, err)
	assert.Equal(t, []any{"113.261", "-5.139", false}, []any{l.Found.String(), l.Booked.String(), l.Again})
	l, err = s.CountPack(ctx, &w.owner, packs[1].ID, shelfroom.Counting{Found: some("200")})
	require.NoError(t, err)
	assert.True(t, l.Again, "a fifth of the pack: once more")
	_, err = s.CloseCount(ctx, &w.owner)
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "count-again", state.Code)
	l, err = s.CountPack(ctx, &w.owner, packs[1].ID, shelfroom.Counting{Found: some("200")})
	require.NoError(t, err)
	assert.False(t, l.Again, "the same once more is taken")

	more := dec("1")
	require.NoError(t, s.MovePack(ctx, &w.owner, packs[1].ID, shelfroom.PackMove{Kind: shelf.Waste, Amount: &more, Reason: "spilled"}))
	closed, err := s.CloseCount(ctx, &w.owner)
	require.NoError(t, err)
	assert.NotNil(t, closed.ClosedAt)
	assert.Equal(t, 2, closed.Differences)
	assert.Equal(t, "5.51", closed.Lost.String(), "55.139 mL at 0.10")
	line := w.lineOf(t, product)
	assert.Equal(t, []string{"113.261", "199"}, []string{line.Packs[0].Left.String(), line.Packs[1].Left.String()}, "what was spilled since stays spilled")
}

// A batch takes its parts and costs what they cost; it carries their ingredients and tags, through any
// number of mixings, is never sold, and is found by a recall of a part; its use-by is the earliest of all
// (handbook, chapter 4, Mixing and Recall by lot).
func TestABatchAndItsRecall(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.svc.Shelf
	base := w.product(t, "Base", "mL", func(n *shelfroom.NewProduct) { n.Ingredients, n.DropsPerML = []string{"Squalane"}, 30 })
	scent := w.product(t, "Scent", "mL", func(n *shelfroom.NewProduct) {
		n.Ingredients, n.Tags, n.DropsPerML = []string{"Linalool"}, []string{"essential-oil"}, 20
	})
	blend := w.product(t, "Blend", "mL", nil)
	second := w.product(t, "Second blend", "mL", nil)
	basePack := w.receive(t, base, "B-1", "2029-01-01", 1, "100", "10.00")[0]
	w.receive(t, scent, "S-1", "2027-01-31", 1, "10", "10.00")
	months := 3
	recipe := func(makes uuid.UUID, parts ...shelfroom.RecipePart) *shelfroom.Recipe {
		r, err := s.SaveRecipe(ctx, &w.owner, &shelfroom.Recipe{Product: makes, Name: "R", RecipeBody: shelfroom.RecipeBody{Parts: parts, Yield: dec("30"), Keeps: shelf.Keeps{Months: &months}}})
		require.NoError(t, err)
		return r
	}
	most := dec("0.5")
	r := recipe(blend, shelfroom.RecipePart{Product: base, Amount: dec("30"), Measure: "mL"}, shelfroom.RecipePart{Product: scent, Amount: dec("6"), Measure: "drops", DermalMax: &most})
	plan, err := s.PlanBatch(ctx, &w.owner, r.ID, dec("30"))
	require.NoError(t, err)
	assert.Equal(t, int64(6), *plan.Parts[1].Drops, "30 mL at 1 % with 20 drops a mL")
	assert.True(t, plan.Parts[1].OverMax, "0.99 % is above its 0.5")
	assert.Equal(t, "2027-01-31", plan.Until, "the scent's last day comes before three months")
	weighed := &shelfroom.NewBatch{Recipe: r.ID, Yield: dec("29"), Parts: []shelfroom.WeighedPart{{Product: base, Amount: dec("30")}, {Product: scent, Amount: dec("0.3")}}}
	short := *weighed
	short.Parts = []shelfroom.WeighedPart{{Product: base, Amount: dec("101")}}
	_, err = s.MakeBatch(ctx, &w.owner, &short)
	assert.Equal(t, "/parts/0/amount", at(err))
	assert.Equal(t, "100", w.lineOf(t, base).Remaining.String(), "nothing is half made")
	b, err := s.MakeBatch(ctx, &w.owner, weighed)
	require.NoError(t, err)
	assert.Equal(t, w.now.In(time.UTC).Format(time.DateOnly)+" A", b.Number)
	assert.Equal(t, []string{"3.3", "29", "2027-01-31"}, []string{b.Cost.String(), b.Amount.String(), b.Until}, "30 of 100 for 10.00 and 0.3 of 10 for 10.00; what was lost stays in its cost")
	assert.Equal(t, []string{"Squalane", "Linalool"}, b.Ingredients)
	assert.Contains(t, b.Tags, "essential-oil")

	r2 := recipe(second, shelfroom.RecipePart{Product: blend, Amount: dec("10"), Measure: "mL"})
	b2, err := s.MakeBatch(ctx, &w.owner, &shelfroom.NewBatch{Recipe: r2.ID, Yield: dec("10"), Parts: []shelfroom.WeighedPart{{Product: blend, Amount: dec("10")}}})
	require.NoError(t, err)
	assert.Contains(t, b2.Tags, "essential-oil", "through two mixings")
	lib, err := w.svc.Protocols.Library(ctx, &w.owner)
	require.NoError(t, err)
	for _, p := range lib.Products {
		if p.ID == second {
			assert.Contains(t, p.AllTags(), "essential-oil", "screening sees it")
		}
	}
	assert.Equal(t, "/amount", at(s.MovePack(ctx, &w.owner, b2.Pack, shelfroom.PackMove{Kind: shelf.Retail})), "a batch is never sold")

	drop := dec("0.1")
	client := w.client(t, "Greta")
	require.NoError(t, s.MovePack(ctx, &w.owner, basePack.ID, shelfroom.PackMove{Kind: shelf.Waste, Amount: &drop, Reason: "spilled"}))
	_, err = w.svc.Checks.ApplyPatchTest(ctx, &w.owner, client, patchOf(w, t, second, b2.Number))
	require.NoError(t, err)
	trace, err := s.Trace(ctx, &w.owner, []uuid.UUID{basePack.LotID})
	require.NoError(t, err)
	assert.Len(t, trace.Lots, 3, "the lot, the batch, the batch of the batch")
	require.Len(t, trace.Clients, 1)
	assert.Equal(t, []any{client, shelf.PatchTest, true}, []any{trace.Clients[0].ID, trace.Rows[0].Kind, trace.Rows[0].Sure})
	assert.False(t, w.lineOf(t, second).Packs[0].Recalled, "looking does nothing")
	_, err = s.StartRecall(ctx, &w.owner, []uuid.UUID{basePack.LotID}, " ")
	assert.Equal(t, "/reason", at(err))
	started, err := s.StartRecall(ctx, &w.owner, []uuid.UUID{basePack.LotID}, "notice")
	require.NoError(t, err)
	for _, id := range []uuid.UUID{base, blend, second} {
		assert.True(t, w.lineOf(t, id).Packs[0].Recalled)
	}
	require.NoError(t, s.NoteCall(ctx, &w.owner, *started.Recall, shelfroom.RecallCall{Client: client, Outcome: "reached"}))
	got, err := s.Recall(ctx, &w.owner, *started.Recall)
	require.NoError(t, err)
	assert.Len(t, got.Clients[0].Calls, 1)
	back, err := s.LotsOfClient(ctx, &w.owner, client)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(back, func(r shelfroom.TraceRow) bool { return r.Lot == b2.Number }), "backwards from a reaction")
	var state *studio.StateError
	require.ErrorAs(t, s.BlockLot(ctx, &w.owner, basePack.LotID, ""), &state, "a recall is not let go")
}

// Tools go through the bath for its contact time; what a treatment used is to be cleaned; linen moves with
// it; a failed load is to clean again, and the appointments since are named.
func TestToolsAreCleaned(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.svc.Shelf
	piece := func(tool string, n int) shelfroom.Piece {
		room, err := s.ToolRoom(ctx, &w.owner)
		require.NoError(t, err)
		for _, l := range room.Tools {
			for _, p := range l.Pieces {
				if p.Tool == tool && p.Number == n {
					return p
				}
			}
		}
		t.Fatal("no such piece")
		return shelfroom.Piece{}
	}
	ref := shelfroom.PieceRef{Tool: "stone-plate", Number: 1}
	move := func(to shelf.PieceState) error {
		_, err := s.MovePiece(ctx, &w.owner, ref, to, "chipped at the edge")
		return err
	}
	assert.Equal(t, shelf.PieceReady, piece("stone-plate", 1).State, "nothing was written of it")
	require.NoError(t, move(shelf.PieceToClean))
	var state *studio.StateError
	require.ErrorAs(t, move(shelf.PieceReady), &state, "not without cleaning")
	require.ErrorAs(t, move(shelf.PieceInBath), &state, "there is no bath")
	require.NoError(t, s.MakeBath(ctx, &w.owner, &shelfroom.NewBath{Product: "Disinfectant", Contact: 10, Hours: 8}))
	require.NoError(t, move(shelf.PieceInBath))
	w.now = w.now.Add(9 * time.Minute)
	require.NoError(t, move(shelf.PieceDrying))
	assert.Equal(t, shelf.PieceToClean, piece("stone-plate", 1).State, "taken out early, it does not count")
	require.NoError(t, move(shelf.PieceInBath))
	w.now = w.now.Add(10 * time.Minute)
	require.NoError(t, move(shelf.PieceDrying))
	require.NoError(t, move(shelf.PieceReady))
	require.NoError(t, s.SaveLinen(ctx, &w.owner, shelfroom.Linen{Kind: "Towels", Clean: 10, PerVisit: 2}))

	v, r := w.recording(t)
	room, err := s.ToolRoom(ctx, &w.owner)
	require.NoError(t, err)
	used := []shelfroom.Piece{}
	for _, l := range room.Tools {
		for _, p := range l.Pieces {
			if p.State == shelf.PieceInUse {
				used = append(used, p)
			}
		}
	}
	assert.Equal(t, []int{8, 2}, []int{room.Linen[0].Clean, room.Linen[0].InUse})
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *r)
	require.NoError(t, err)
	for _, p := range used {
		now := piece(p.Tool, p.Number)
		assert.Equal(t, []any{shelf.PieceToClean, p.Uses}, []any{now.State, now.Uses})
	}
	room, err = s.ToolRoom(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, 2, room.Linen[0].ToWash)
	require.NoError(t, s.MoveLinen(ctx, &w.owner, "Towels", "wash", 0))
	assert.Equal(t, "/pieces", at(s.MoveLinen(ctx, &w.owner, "Towels", "clean", 3)), "only two are in the wash")

	load := &shelfroom.HeatCycle{Load: []shelfroom.PieceRef{ref}, Celsius: 121, Minutes: 20, Passed: false}
	c, err := s.AddHeatCycle(ctx, &w.owner, load)
	require.NoError(t, err)
	assert.Equal(t, 1, c.Number)
	assert.Equal(t, shelf.PieceToClean, piece("stone-plate", 1).State)
	require.NoError(t, move(shelf.PieceRetired))
	assert.Equal(t, shelf.PieceRetired, piece("stone-plate", 1).State)
	require.ErrorAs(t, move(shelf.PieceReady), &state, "retired for good")
}

// The day's lists name what is not well; a tick stays with who made it; what yesterday's closing left
// stands first this morning.
func TestTheDayIsOpenedAndClosed(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.svc.Shelf
	lists, err := s.DayLists(ctx, &w.desk)
	require.NoError(t, err)
	item := func(list []shelfroom.DayItem, key string) shelfroom.DayItem {
		i := slices.IndexFunc(list, func(x shelfroom.DayItem) bool { return x.Key == key })
		require.GreaterOrEqual(t, i, 0, key)
		return list[i]
	}
	assert.NotEmpty(t, item(lists.Opening, "bottles").Exceptions, "the clay mask is past its day")
	assert.NotEmpty(t, item(lists.Opening, "baths").Exceptions, "none is made")
	assert.Equal(t, "/value", at(s.Tick(ctx, &w.desk, "opening", []shelfroom.DayTick{{Item: "fridge"}})))
	require.NoError(t, s.Tick(ctx, &w.desk, "opening", []shelfroom.DayTick{{Item: "fridge", Value: "4.5"}}))
	require.NoError(t, s.Tick(ctx, &w.owner, "opening", []shelfroom.DayTick{{Item: "fridge", Value: "5"}}))
	lists, err = s.DayLists(ctx, &w.owner)
	require.NoError(t, err)
	fridge := item(lists.Opening, "fridge")
	assert.Equal(t, "5", fridge.Value)
	assert.NotEqual(t, w.owner.Name, fridge.By, "the first who ticked")
	require.NoError(t, s.Tick(ctx, &w.owner, "closing", []shelfroom.DayTick{{Item: "spills"}, {Item: "hamper"}}))
	w.now = w.now.AddDate(0, 0, 1)
	lists, err = s.DayLists(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, "left-from-yesterday", lists.Opening[0].Key)
	assert.Contains(t, lists.Left, "bin-and-surfaces")
	assert.NotContains(t, lists.Left, "hamper")
	assert.Nil(t, item(lists.Opening, "fridge").At, "a new day")
}

// A learned habit lies beside the plan and does not change it (handbook, chapter 4; ratios by hand).
func TestHabitsAreLearned(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	oil := w.line(t, "calm-oil")
	learned, err := w.svc.Shelf.LearnedOf(ctx, &w.owner, oil.Product.ID)
	require.NoError(t, err)
	assert.Positive(t, learned.Records)
	assert.False(t, learned.Dose.Equal(decimal.NewFromInt(1)))
	require.NoError(t, w.svc.Shelf.Forget(ctx, &w.owner, oil.Product.ID, "dose"))
	learned, err = w.svc.Shelf.LearnedOf(ctx, &w.owner, oil.Product.ID)
	require.NoError(t, err)
	assert.Zero(t, learned.Records)
	assert.True(t, learned.Dose.Equal(decimal.NewFromInt(1)), "it starts over")
	require.ErrorIs(t, w.svc.Shelf.Forget(ctx, &w.desk, oil.Product.ID, "dose"), studio.ErrForbidden)
}

// What a pack holds is the sum of its movements, and nobody writes it otherwise.
func TestPacksAreTheSumOfTheirMovements(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(studio.Tx) error { return nil }))
	rows := w.ownerQuery(t, `select count(*) from pack p where remaining <>
		(select coalesce(sum(amount), 0) from stock_movement m where m.studio_id = p.studio_id and m.pack_id = p.id)`)
	assert.Zero(t, rows, "packs that hold something else than their movements say")
	rows = w.ownerQuery(t, `select count(*) from (select c.id from cost_layer c join pack p on p.studio_id = c.studio_id and p.layer_id = c.id
		group by c.studio_id, c.id, c.cost, c.amount
		having round(c.cost * sum(p.remaining) / c.amount, 2) <> (select sum(value) from stock_movement m join pack q on q.studio_id = m.studio_id and q.id = m.pack_id
			where q.studio_id = c.studio_id and q.layer_id = c.id)) x`)
	assert.Zero(t, rows, "layers that are worth something else than their movements say")
}

// The nightly check finds a pack whose balance somebody changed by hand, and a product's worth, and leaves both as they are.
func TestTheNightlyCheckOfBalances(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	wrong, err := w.db.CheckBalances(ctx, w.now)
	require.NoError(t, err)
	assert.Empty(t, wrong)
	require.NoError(t, w.direct(w.ownerURL, `do $$ begin
		set local session_replication_role = replica;
		update pack set remaining = remaining + 2 where id = (select id from pack order by id limit 1);
		update product set average_worth = average_worth + 1 where id = (select id from product order by id limit 1); end $$`))
	wrong, err = w.db.CheckBalances(ctx, w.now)
	require.NoError(t, err)
	require.Len(t, wrong, 2)
	assert.True(t, wrong[0].Pack.Valid)
	assert.Equal(t, "2", wrong[0].Kept.Sub(wrong[0].Sum).String())
	assert.False(t, wrong[1].Pack.Valid)
	assert.Equal(t, "1", wrong[1].Kept.Sub(wrong[1].Sum).String())
	again, err := w.db.CheckBalances(ctx, w.now)
	require.NoError(t, err)
	assert.Equal(t, wrong, again)
}

// patchOf is a patch test of a product on the shelf, from a lot.
func patchOf(w *world, t *testing.T, product uuid.UUID, lot string) checks.NewPatchTest {
	t.Helper()
	return checks.NewPatchTest{Product: w.lineOf(t, product).Product.Key, Lot: lot, Place: "inner forearm", Months: 6}
}

// ownerQuery counts with the rights of the database's owner.
func (w *world) ownerQuery(t *testing.T, query string) (n int) {
	t.Helper()
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	require.NoError(t, owner.QueryRow(query).Scan(&n))
	return n
}
