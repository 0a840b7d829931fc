package main

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	shelfroom "softpalm/internal/studio/shelf"
)

// demoShelf works the demo's shelf as a studio would have in the weeks before: orders and deliveries, a
// stocktake with differences, a batch, a recall, a tester, tools on their way back from the bath. It uses
// the use cases themselves, each at its own day.
type demoShelf struct {
	db    *postgres.DB
	now   func() time.Time
	actor *studio.Actor
	lines map[string]*shelfroom.ShelfLine // by product
}

// workDemoShelf runs the script for the owner of a demo that was just made.
func workDemoShelf(ctx context.Context, db *postgres.DB, now func() time.Time, owner house.Credentials) error {
	d := &demoShelf{db: db, now: now}
	in, err := d.at(0).House.SignIn(ctx, owner, "demo")
	if err != nil {
		return err
	}
	d.actor = &in.Actor
	if err := d.at(0).House.SignOut(ctx, &in.Actor, in.Session.ID); err != nil {
		return err
	}
	if err := d.read(ctx); err != nil {
		return err
	}
	for name, step := range map[string]func(context.Context) error{"orders": d.orders, "recall": d.recall, "tools": d.tools} {
		if err := step(ctx); err != nil {
			return fmt.Errorf("the demo's %s: %w", name, err)
		}
	}
	if err := d.mix(ctx); err != nil {
		return fmt.Errorf("the demo's batch: %w", err)
	}
	if err := d.count(ctx); err != nil {
		return fmt.Errorf("the demo's stocktake: %w", err)
	}
	return d.tester(ctx)
}

// at is the studio some hours from now.
func (d *demoShelf) at(hours int) *rooms.Rooms {
	return rooms.New(d.db, func() time.Time { return d.now().Add(time.Duration(hours) * time.Hour) }, "", nil)
}

func (d *demoShelf) read(ctx context.Context) error {
	list, err := d.at(0).Shelf.Shelf(ctx, d.actor)
	d.lines = map[string]*shelfroom.ShelfLine{}
	for i := range list {
		d.lines[list[i].Product.Key] = &list[i]
	}
	return err
}

func (d *demoShelf) id(key string) uuid.UUID { return d.lines[key].Product.ID }

// pack is the pack of a lot.
func (d *demoShelf) pack(key, lot string) *studio.Pack {
	for i := range d.lines[key].Packs {
		if p := &d.lines[key].Packs[i]; p.Lot == lot {
			return p
		}
	}
	return nil
}

const day = 24

// orders are three that came whole, from which the lead time is learned, and one on its way.
func (d *demoShelf) orders(ctx context.Context) error {
	for i, o := range []struct{ sent, came int }{{-58, -53}, {-39, -32}, {-23, -17}} {
		n := &shelfroom.NewOrder{Supplier: "Plain Clinic Goods", Send: true, Lines: []shelfroom.NewOrderLine{{Product: d.id("gloves-m"), Packs: 1, Why: "used up"}}}
		order, err := d.at(o.sent*day).Shelf.AddOrder(ctx, d.actor, n)
		if err != nil {
			return err
		}
		line := shelfroom.DeliveryLine{
			Product: d.id("gloves-m"), Number: fmt.Sprintf("G-3%d", i), Expiry: d.now().AddDate(2, i, 0).Format(time.DateOnly),
			Packs: 1, PackSize: decimal.NewFromInt(100), Cost: decimal.RequireFromString("8.90"), Side: studio.CabinSide,
		}
		if err := d.at(o.came*day).Shelf.Receive(ctx, d.actor, &shelfroom.Delivery{Order: &order.ID, Lines: []shelfroom.DeliveryLine{line}}); err != nil {
			return err
		}
	}
	n := &shelfroom.NewOrder{Supplier: "Linden Botanics", Send: true, Lines: []shelfroom.NewOrderLine{
		{Product: d.id("rose-mist"), Packs: 1, Why: "for the summer"}, {Product: d.id("lavender-drops"), Packs: 2, Why: "for the blends"},
	}}
	if _, err := d.at(-2*day).Shelf.AddOrder(ctx, d.actor, n); err != nil {
		return err
	}
	return d.at(0).Shelf.SaveSupplier(ctx, d.actor, shelfroom.Supplier{
		Name: "Plain Clinic Goods", LeastValue: decimal.NewFromInt(25), OrderCost: decimal.NewFromInt(6), Email: "orders@plain-clinic.example",
	})
}

// mix makes an evening blend twice: one is still on the trolley.
func (d *demoShelf) mix(ctx context.Context) error {
	months := 3
	most := decimal.RequireFromString("1")
	r, err := d.at(-20*day).Shelf.SaveRecipe(ctx, d.actor, &shelfroom.Recipe{
		Product: d.id("lantern-blend"), Name: "Lantern evening blend", RecipeBody: shelfroom.RecipeBody{
			Parts: []shelfroom.RecipePart{
				{Product: d.id("kernel-base"), Amount: decimal.NewFromInt(30), Measure: "mL"},
				{Product: d.id("lavender-drops"), Amount: decimal.NewFromInt(4), Measure: "drops", DermalMax: &most},
			},
			Yield: decimal.NewFromInt(30), Note: "Drops last, swirl, never shake.", Keeps: shelf.Keeps{Months: &months},
		},
	})
	if err != nil {
		return err
	}
	for _, hours := range []int{-12 * day, -4 * day} {
		n := &shelfroom.NewBatch{Recipe: r.ID, Yield: decimal.NewFromInt(30), Parts: []shelfroom.WeighedPart{
			{Product: d.id("kernel-base"), Amount: decimal.NewFromInt(30)}, {Product: d.id("lavender-drops"), Amount: decimal.RequireFromString("0.2")},
		}}
		if _, err := d.at(hours).Shelf.MakeBatch(ctx, d.actor, n); err != nil {
			return err
		}
	}
	return nil
}

// recall is of a lot that was used up weeks ago: whom it reached is on the list.
func (d *demoShelf) recall(ctx context.Context) error {
	lots, err := d.at(0).Shelf.LotsNumbered(ctx, d.actor, d.id("day-shield"), "SP-51")
	if err != nil {
		return err
	}
	trace, err := d.at(-26).Shelf.StartRecall(ctx, d.actor, lots, "Supplier’s notice: filter strength below the label")
	if err != nil || len(trace.Clients) == 0 {
		return err
	}
	call := shelfroom.RecallCall{Client: trace.Clients[0].ID, Outcome: "reached", Note: "No trouble, thanked us."}
	return d.at(-25).Shelf.NoteCall(ctx, d.actor, *trace.Recall, call)
}

// count is a stocktake of a few days ago with two differences.
func (d *demoShelf) count(ctx context.Context) error {
	s := d.at(-3 * day).Shelf
	if _, err := s.StartCount(ctx, d.actor, []string{"Drawer", "Fridge"}, false); err != nil {
		return err
	}
	if err := d.read(ctx); err != nil {
		return err
	}
	for key, found := range map[string]string{"spatulas": "96", "cool-gel": "141.5"} {
		n := decimal.RequireFromString(found)
		c := shelfroom.Counting{Found: &n, Reason: map[string]string{"spatulas": "Four broken, thrown away unwritten", "cool-gel": "Left in the pump"}[key]}
		if _, err := s.CountPack(ctx, d.actor, d.lines[key].Packs[0].ID, c); err != nil {
			return err
		}
	}
	for _, key := range []string{"head-bands", "dew-serum"} {
		full := d.lines[key].Packs[0].Left
		if _, err := s.CountPack(ctx, d.actor, d.lines[key].Packs[0].ID, shelfroom.Counting{Found: &full}); err != nil {
			return err
		}
	}
	_, err := s.CloseCount(ctx, d.actor)
	return err
}

// tools are a bath made this morning, a piece in it, one drying, one chilling; and the linen.
func (d *demoShelf) tools(ctx context.Context) error {
	s := d.at(-1).Shelf
	bath := &shelfroom.NewBath{Product: "Clear tool disinfectant", Dilution: "2 %", Contact: 10, Hours: 24}
	if err := s.MakeBath(ctx, d.actor, bath); err != nil {
		return err
	}
	for _, m := range []struct {
		tool   string
		number int
		states []shelf.PieceState
	}{
		{"stone-plate", 2, []shelf.PieceState{shelf.PieceToClean, shelf.PieceInBath}},
		{"stone-plate", 3, []shelf.PieceState{shelf.PieceToClean}},
		{"twin-ball", 1, []shelf.PieceState{shelf.PieceToClean, shelf.PieceInBath}},
	} {
		for _, to := range m.states {
			if _, err := s.MovePiece(ctx, d.actor, shelfroom.PieceRef{Tool: m.tool, Number: m.number}, to, ""); err != nil {
				return err
			}
		}
	}
	if _, err := d.at(0).Shelf.MovePiece(ctx, d.actor, shelfroom.PieceRef{Tool: "twin-ball", Number: 1}, shelf.PieceDrying, ""); err != nil {
		return err
	}
	for _, l := range []shelfroom.Linen{
		{Kind: "Hand towels", Clean: 22, ToWash: 9, Washing: 6, PerVisit: 2, Charge: decimal.RequireFromString("0.35")},
		{Kind: "Couch covers", Clean: 11, ToWash: 4, PerVisit: 1, Charge: decimal.RequireFromString("0.90")},
		{Kind: "Warm compress cloths", Clean: 12, ToWash: 8, PerVisit: 3, Charge: decimal.RequireFromString("0.15")},
	} {
		if err := s.SaveLinen(ctx, d.actor, l); err != nil {
			return err
		}
	}
	return nil
}

// tester puts one of the balms for sale out on the retail shelf.
func (d *demoShelf) tester(ctx context.Context) error {
	return d.at(-9*day).Shelf.MovePack(ctx, d.actor, d.pack("night-balm", "NB-24").ID, shelfroom.PackMove{Kind: shelf.Tester, Note: "spatulas beside it"})
}
