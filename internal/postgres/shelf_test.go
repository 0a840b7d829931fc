package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// receive puts packs of a lot on the shelf.
func (w *world) receive(t *testing.T, product uuid.UUID, number, expiry string, packs int, size, cost string) []studio.Pack {
	t.Helper()
	n := shelfroom.DeliveryLine{Product: product, Number: number, Expiry: expiry, Packs: packs, PackSize: dec(size), Cost: dec(cost), Short: true}
	require.NoError(t, w.svc.Shelf.Receive(context.Background(), &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{n}}))
	list, err := w.svc.Shelf.Shelf(context.Background(), &w.owner)
	require.NoError(t, err)
	var out []studio.Pack
	for i := range list {
		for _, p := range list[i].Packs {
			if p.Product == product && p.Lot == number {
				out = append(out, p)
			}
		}
	}
	require.NotEmpty(t, out)
	return out
}

// product adds a product of its own to the shelf.
func (w *world) product(t *testing.T, name, unit string, change func(*shelfroom.NewProduct)) uuid.UUID {
	t.Helper()
	n := shelfroom.NewProduct{Unit: unit, PackSize: dec("100"), Price: dec("20")}
	n.Name, n.Form, n.FullDose, n.RangeMin, n.RangeMax, n.Density = name, "oil", 4, 2, 5, 0.92
	if change != nil {
		change(&n)
	}
	id, err := w.svc.Shelf.AddProduct(context.Background(), &w.owner, n)
	require.NoError(t, err)
	return id
}

// lineOf is a product on the shelf, by id.
func (w *world) lineOf(t *testing.T, product uuid.UUID) shelfroom.ShelfLine {
	t.Helper()
	list, err := w.svc.Shelf.Shelf(context.Background(), &w.owner)
	require.NoError(t, err)
	for i := range list {
		if list[i].Product.ID == product {
			return list[i]
		}
	}
	t.Fatal("no such product")
	return shelfroom.ShelfLine{}
}

// A delivery is checked line by line, comes in whole or not at all, divides its freight by value, and adds
// packs to a lot that is there where product and last day agree (handbook, chapter 4, Receive).
func TestADelivery(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	oil, other := w.line(t, "calm-oil").Product.ID, w.line(t, "almond-oil").Product.ID
	good := shelfroom.DeliveryLine{Product: oil, Number: " CS-9 ", Expiry: "2030-01", MonthsOpen: 6, Packs: 2, PackSize: dec("250"), Cost: dec("82")}
	for path, spoil := range map[string]func(*shelfroom.DeliveryLine){
		"/lines/0/number":   func(n *shelfroom.DeliveryLine) { n.Number = "  " },
		"/lines/0/expiry":   func(n *shelfroom.DeliveryLine) { n.Expiry = "31/01/2030" },
		"/lines/0/packSize": func(n *shelfroom.DeliveryLine) { n.PackSize = decimal.Zero },
		"/lines/0/cost":     func(n *shelfroom.DeliveryLine) { n.Cost = dec("-1") },
		"/lines/0/product":  func(n *shelfroom.DeliveryLine) { n.Product = uuid.New() },
	} {
		n := good
		spoil(&n)
		assert.Equal(t, path, at(w.svc.Shelf.Receive(ctx, &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{n}})))
	}
	near := good
	near.Expiry = w.now.AddDate(0, 1, 0).Format(time.DateOnly)
	assert.Equal(t, "/lines/0/expiry", at(w.svc.Shelf.Receive(ctx, &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{near}})), "good for a month only")
	before := w.lineOf(t, oil)
	bad := shelfroom.DeliveryLine{Product: other, Number: "", Packs: 1, PackSize: dec("250"), Cost: dec("1"), Expiry: "2030-01-01"}
	assert.Equal(t, "/lines/1/number", at(w.svc.Shelf.Receive(ctx, &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{good, bad}})))
	assert.Equal(t, before.Remaining.String(), w.lineOf(t, oil).Remaining.String(), "nothing is half received")

	second := shelfroom.DeliveryLine{Product: other, Number: "AG-9", Expiry: "2030-01-01", Packs: 1, PackSize: dec("250"), Cost: dec("41")}
	d := &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{good, second}, Freight: dec("10")}
	require.NoError(t, w.svc.Shelf.Receive(ctx, &w.desk, d), "the desk has the box on the table")
	now := w.lineOf(t, oil)
	assert.Equal(t, before.Remaining.Add(dec("500")).String(), now.Remaining.String())
	assert.Equal(t, before.Value.Add(dec("88.67")).String(), now.Value.String(), "82.00 and two thirds of 10.00: 6.67 by largest remainder")
	last := now.Packs[len(now.Packs)-1]
	assert.Equal(t, []any{"CS-9", 2, "2030-01-31"}, []any{last.Lot, last.Number, *last.Expiry}, "a month means its last day")

	again := good
	again.Number, again.Packs, again.Cost = "CS-9", 1, dec("50")
	require.NoError(t, w.svc.Shelf.Receive(ctx, &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{again}}))
	packs := w.lineOf(t, oil).Packs
	assert.Equal(t, 3, packs[len(packs)-1].Number, "the same lot again adds packs to it")
	assert.NotEqual(t, packs[len(packs)-2].Layer, packs[len(packs)-1].Layer, "at a cost of their own")
	again.Expiry = "2030-02-28"
	assert.Equal(t, "/lines/0/expiry", at(w.svc.Shelf.Receive(ctx, &w.owner, &shelfroom.Delivery{Lines: []shelfroom.DeliveryLine{again}})), "the same number with another day")
	w.now = time.Date(2030, 2, 1, 9, 0, 0, 0, time.UTC)
	assert.Zero(t, w.lineOf(t, oil).Remaining.IntPart(), "past their day packs are blocked, not gone")
	assert.True(t, w.lineOf(t, oil).Blocked.GreaterThanOrEqual(dec("750")))
}

// Whatever is done with packs is a movement that can be taken back once; what a pack holds and is worth is
// the sum of its movements, and never below nothing, whoever else moves it at the same moment. A whole lot
// taken out costs what it cost, to the cent.
func TestPacksAreMoved(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	product := w.product(t, "Measure oil", "mL", nil)
	packs := w.receive(t, product, "M-1", "2029-01-01", 3, "100", "10.00")
	move := func(pack uuid.UUID, kind shelf.Kind, amount, reason string) error {
		n := shelfroom.PackMove{Kind: kind, Reason: reason}
		if amount != "" {
			d := dec(amount)
			n.Amount = &d
		}
		return w.svc.Shelf.MovePack(ctx, &w.owner, pack, n)
	}
	one, two, three := packs[0].ID, packs[1].ID, packs[2].ID
	assert.Equal(t, "/amount", at(move(one, shelf.Waste, "1", "")), "waste has a reason")
	require.NoError(t, move(one, shelf.Waste, "1.5", "spilled"))
	taught, err := w.svc.Shelf.LearnedOf(ctx, &w.owner, product)
	require.NoError(t, err)
	require.Len(t, taught.Waste, 1)
	assert.Equal(t, w.now.Format("2006-01"), taught.Waste[0].Month)
	assert.Equal(t, "1.5", taught.Waste[0].Wasted.String())
	assert.Equal(t, []string{"spilled"}, taught.Waste[0].Reasons)
	assert.True(t, taught.Waste[0].Much, "nothing was used, so any waste is much")
	assert.Equal(t, "/amount", at(move(one, shelf.Retail, "", "")), "not whole any more")
	assert.Equal(t, "/amount", at(move(two, shelf.Tester, "5", "")))
	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.desk, two, shelfroom.PackMove{Kind: shelf.Retail}), "the desk sells")
	assert.Equal(t, "/amount", at(move(three, shelf.Return, "101", "")), "more than was sold of the lot")
	require.NoError(t, move(two, shelf.Return, "100", ""))
	require.NoError(t, move(three, shelf.Tester, "", ""))
	require.NoError(t, move(one, shelf.Stocktake, "97", ""), "a count finds 97 of 98.5")
	require.ErrorIs(t, w.svc.Shelf.MovePack(ctx, &w.desk, one, shelfroom.PackMove{Kind: shelf.Stocktake}), studio.ErrForbidden)
	assert.Equal(t, "/kind", at(move(one, shelf.Treatment, "1", "")))
	now := w.lineOf(t, product)
	assert.Equal(t, "197", now.Remaining.String())
	assert.Equal(t, studio.TesterSide, now.Packs[2].Side, "a tester stands out, its day is watched")

	moves, err := w.svc.Shelf.Movements(ctx, &w.owner, product, time.Time{})
	require.NoError(t, err)
	require.Len(t, moves, 8)
	var waste *shelfroom.MovementLine
	for i := range moves {
		if moves[i].Kind == shelf.Waste {
			waste = &moves[i]
		}
	}
	require.NoError(t, w.svc.Shelf.CounterMovement(ctx, &w.owner, waste.ID, "it was the other bottle"))
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Shelf.CounterMovement(ctx, &w.owner, waste.ID, "again"), &state, "once per movement")
	assert.Equal(t, "98.5", w.lineOf(t, product).Packs[0].Left.String())
	taught, err = w.svc.Shelf.LearnedOf(ctx, &w.owner, product)
	require.NoError(t, err)
	assert.Empty(t, taught.Waste, "what was taken back was not wasted")

	errs := together(6, func(int) error { return move(one, shelf.Dispose, "98.5", "") })
	done := 0
	for _, err := range errs {
		if err == nil {
			done++
		}
	}
	assert.Equal(t, 1, done, "one empties it, the others find it empty: %v", errs)
	require.NoError(t, move(two, shelf.Dispose, "", ""))
	worth := decimal.Zero
	moves, err = w.svc.Shelf.Movements(ctx, &w.owner, product, time.Time{})
	require.NoError(t, err)
	for i := range moves {
		worth = worth.Add(moves[i].Value)
	}
	assert.True(t, worth.IsZero(), "what came in for 10.00 went out for 10.00, not %s", worth)
}

// A sealed pack changes sides; a lot is blocked with a reason and let go; a scan finds the pack.
func TestPacksStandAndAreFound(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	product := w.product(t, "Measure oil", "mL", nil)
	packs := w.receive(t, product, "M-1", "2029-01-01", 2, "100", "20.00")
	require.NoError(t, w.svc.Shelf.ChangeSide(ctx, &w.desk, packs[0].ID, studio.RetailSide))
	assert.Equal(t, []string{"100", "100"}, []string{w.lineOf(t, product).Remaining.String(), w.lineOf(t, product).Retail.String()})
	require.NoError(t, w.svc.Shelf.OpenPack(ctx, &w.owner, packs[1].ID))
	require.NoError(t, w.svc.Shelf.OpenPack(ctx, &w.owner, packs[1].ID), "opening it twice changes nothing")
	assert.Equal(t, "/side", at(w.svc.Shelf.ChangeSide(ctx, &w.owner, packs[1].ID, studio.RetailSide)), "an open one is not sold")
	require.NoError(t, w.svc.Shelf.BlockLot(ctx, &w.owner, packs[0].LotID, "smells off"))
	l := w.lineOf(t, product)
	assert.True(t, l.Remaining.IsZero())
	assert.Equal(t, "100", l.Blocked.String(), "of the treatment side")
	require.NoError(t, w.svc.Shelf.BlockLot(ctx, &w.owner, packs[0].LotID, ""))

	supply := shelfroom.SupplyChange{PackSize: dec("100"), Density: 0.92}
	supply.Use, supply.GTIN, supply.Supplier, supply.LeadDays = "both", "9506000134352", "Linden Trade", 6
	require.NoError(t, w.svc.Shelf.SaveSupply(ctx, &w.owner, product, &supply))
	supply.GTIN = "9506000134353"
	assert.Equal(t, "/gtin", at(w.svc.Shelf.SaveSupply(ctx, &w.owner, product, &supply)), "a digit was misread")
	supply.GTIN = "9506000134352"
	assert.Equal(t, "/gtin", at(w.svc.Shelf.SaveSupply(ctx, &w.owner, w.line(t, "calm-oil").Product.ID, &supply)), "it is another product's")
	found, err := w.svc.Shelf.Scan(ctx, &w.owner, "(01)09506000134352(17)290101(10)M-1")
	require.NoError(t, err)
	assert.Equal(t, []any{product, "M-1", "2029-01-01", packs[1].ID}, []any{*found.Product, found.Lot, found.Expiry, *found.Pack}, "the open pack of the lot")
	found, err = w.svc.Shelf.Scan(ctx, &w.owner, shelf.OwnCode+packs[0].ID.String())
	require.NoError(t, err)
	assert.Equal(t, packs[0].ID, *found.Pack)
	_, err = w.svc.Shelf.Scan(ctx, &w.owner, "9506000134353")
	assert.Equal(t, "/code", at(err))
}

// recording is the record of a treatment that has begun, with a product's uses to be written.
func (w *world) recording(t *testing.T) (studio.VisitLine, *studio.Record) {
	t.Helper()
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, nil)
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotEmpty(t, rec.Record.Uses)
	return v, &rec.Record
}

func some(s string) *decimal.Decimal {
	d := dec(s)
	return &d
}

// What was used is weighed, counted or as planned; it comes from the pack really in the hand; where the
// books show less, the rest comes from the next pack or the pack is counted first. Worked figures: 186.42
// less 183.50 g at 0.92 = 3.174 mL; 96 drops at 30 per mL = 3.2 mL (handbook, chapter 4, Measuring).
func TestARecordIsMeasured(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, r := w.recording(t)
	use := func(key string) *studio.RecordUse {
		for i := range r.Uses {
			if r.Uses[i].Product == key {
				return &r.Uses[i]
			}
		}
		t.Fatal("the plan takes no " + key)
		return nil
	}
	oil := use("calm-oil")
	oil.Reading = shelf.Reading{How: shelf.Weighed, Before: some("186.42"), After: some("187")}
	require.NoError(t, w.svc.Treatment.SaveRecord(ctx, &w.owner, v.ID, *r))
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	var problem string
	for _, c := range rec.Choices {
		if c.Product == "calm-oil" {
			problem = c.Problem
			assert.True(t, c.Weighing && c.Slides)
			assert.Equal(t, "mL", c.Measures[0].Measure, "nobody counts %s drops", c.Measures[1].Planned)
		}
	}
	assert.Contains(t, problem, "cap", "more after than before")
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
	assert.NotEmpty(t, at(err), "it is not signed so")

	r = &rec.Record
	oil = use("calm-oil")
	oil.After = some("183.50")
	line := w.line(t, "calm-oil")
	late := line.Packs[len(line.Packs)-1]
	oil.Pack = &late.ID
	oil.Slid = &studio.SlidFor{Kind: "beyond", Minute: dec("30")}
	others := 0
	for i := range r.Uses {
		if r.Uses[i].Product != "calm-oil" && others == 0 {
			r.Uses[i].Reading = shelf.Reading{How: shelf.Counted, Measure: r.Uses[i].Unit, Count: some("2.5")}
			others++
		}
	}
	done, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *r)
	require.NoError(t, err)
	r = &done.Record
	oil = use("calm-oil")
	assert.Equal(t, "3.174", oil.Used.String())
	require.Len(t, oil.Lots, 1)
	assert.Equal(t, late.Lot, oil.Lots[0].Number, "the lot really in the hand wins")
	assert.True(t, oil.Lots[0].Sure && oil.Lots[0].Opens, "its first use opens it, and says so")
	assert.Equal(t, "0.52", oil.Lots[0].Cost.String(), "3.174 of 250 for 41.00")
	for i := range r.Uses {
		if u := &r.Uses[i]; u.How == shelf.AsPlanned && u.Used.IsPositive() {
			assert.False(t, u.Lots[0].Sure, "a proposal nobody looked at is only likely")
		}
	}
	learned, err := w.svc.Shelf.LearnedOf(ctx, &w.owner, line.Product.ID)
	require.NoError(t, err)
	assert.Equal(t, shelf.Weighed, learned.Uses[len(learned.Uses)-1].How)
	assert.Equal(t, 1, learned.Observations)
	assert.InDelta(t, 25.0, learned.PriorHalfLife, 0)
	require.NoError(t, w.svc.Shelf.Forget(ctx, &w.owner, line.Product.ID, "half-life"))
	learned, err = w.svc.Shelf.LearnedOf(ctx, &w.owner, line.Product.ID)
	require.NoError(t, err)
	assert.Zero(t, learned.Observations)
}

// A treatment is never held up by the books: more was used than the pack in the hand shows, so the rest
// comes from the next one, or this one is counted first. A blocked pack needs a reason, a recalled one is
// never used.
func TestTheBooksHoldNothingUp(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, r := w.recording(t)
	i := 0
	for r.Uses[i].Product != "calm-oil" {
		i++
	}
	line := w.line(t, "calm-oil")
	hand := line.Packs[0]
	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.owner, hand.ID, shelfroom.PackMove{Kind: shelf.Stocktake, Amount: some("2")}))
	r.Uses[i].Pack = &hand.ID
	_, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *r)
	assert.NotEmpty(t, at(err), "3.2 of 2: what to do is asked")
	require.NoError(t, w.svc.Shelf.BlockLot(ctx, &w.owner, hand.LotID, "smells off"))
	r.Uses[i].Short = "next"
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *r)
	assert.NotEmpty(t, at(err), "a blocked lot needs a reason")
	_, err = w.svc.Shelf.StartRecall(ctx, &w.owner, []uuid.UUID{hand.LotID}, "notice of the supplier")
	require.NoError(t, err)
	r.Uses[i].Override = "it was already on the skin"
	_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *r)
	assert.NotEmpty(t, at(err), "never override a recall")
	other := line.Packs[1]
	require.NoError(t, w.svc.Shelf.MovePack(ctx, &w.owner, other.ID, shelfroom.PackMove{Kind: shelf.Stocktake, Amount: some("1.5")}))
	r.Uses[i].Pack, r.Uses[i].Override, r.Uses[i].Short = &other.ID, "", "count"
	done, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, *r)
	require.NoError(t, err)
	assert.Equal(t, r.Uses[i].Planned.String(), done.Record.Uses[i].Used.String())
	moves, err := w.svc.Shelf.Movements(ctx, &w.owner, line.Product.ID, time.Time{})
	require.NoError(t, err)
	assert.Equal(t, []shelf.Kind{shelf.Treatment, shelf.Stocktake}, []shelf.Kind{moves[0].Kind, moves[1].Kind}, "counted first, then used")
	assert.True(t, w.line(t, "calm-oil").Remaining.IsZero())
}

// Two finish with the last 3 mL at the same moment: one gets them, the other is asked; nobody's stock goes
// below nothing.
func TestTwoFinishWithTheLast(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	product := w.product(t, "Last oil", "mL", nil)
	pack := w.receive(t, product, "L-1", "2029-01-01", 1, "3", "1.00")[0]
	amount := dec("3")
	errs := together(8, func(int) error {
		return w.svc.Shelf.MovePack(ctx, &w.owner, pack.ID, shelfroom.PackMove{Kind: shelf.Waste, Amount: &amount, Reason: "dried-up"})
	})
	done := 0
	for _, err := range errs {
		if err == nil {
			done++
		}
	}
	assert.Equal(t, 1, done, "%v", errs)
}
