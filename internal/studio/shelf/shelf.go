package shelf

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ShelfLine is a product with what is left of it.
type ShelfLine struct {
	Product studio.Product
	Lots    []studio.Lot
	// Remaining is what may still be used; Blocked what is past its day.
	Remaining, Blocked decimal.Decimal
	// Usual is what one treatment plans, at most; Treatments how many whole ones are left.
	Usual      decimal.Decimal
	Treatments int
	Order      bool
	// Forecast is what the booked diary takes of it in the days to come, see [Horizon].
	Forecast shelf.RunOut
}

// Horizon is for how many days the shelf looks ahead.
const Horizon = 56

// Shelf lists products in the order in which they run out, then by name, with lots, first to expire first.
func (s *Service) Shelf(ctx context.Context, a *studio.Actor) ([]ShelfLine, error) {
	var out []ShelfLine
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		lots, err := tx.Lots(ctx)
		if err != nil {
			return err
		}
		takes, err := s.takes(ctx, tx, a, lib)
		if err != nil {
			return err
		}
		booked, err := s.booked(ctx, tx, st)
		if err != nil {
			return err
		}
		for _, p := range lib.Products {
			line := ShelfLine{Product: p, Lots: []studio.Lot{}, Usual: most(takes[p.Key])}
			for _, l := range lots {
				if l.Product != p.ID {
					continue
				}
				line.Lots = append(line.Lots, l)
				if l.Usable(s.Today(st)) {
					line.Remaining = line.Remaining.Add(l.Remaining)
				} else {
					line.Blocked = line.Blocked.Add(l.Remaining)
				}
			}
			line.Treatments = shelf.TreatmentsLeft(line.Remaining, line.Usual)
			line.Order = line.Remaining.LessThan(p.ReorderAt)
			if line.Forecast, err = s.forecast(&line, takes[p.Key], booked, s.Today(st)); err != nil {
				return err
			}
			out = append(out, line)
		}
		slices.SortStableFunc(out, bySoonest)
		return nil
	})
	return out, err
}

// bySoonest puts what runs out soonest first.
func bySoonest(a, b ShelfLine) int {
	day := func(l *ShelfLine) string {
		if l.Forecast.RunOut == nil {
			return "~"
		}
		return *l.Forecast.RunOut
	}
	return strings.Compare(day(&a), day(&b))
}

// takes is what each published protocol takes of each product, all its steps together: by product, then
// by protocol.
func (s *Service) takes(
	ctx context.Context,
	tx Store,
	a *studio.Actor,
	lib *studio.Library,
) (map[string]map[string]decimal.Decimal, error) {
	list, err := tx.Protocols(ctx, a.Account)
	if err != nil {
		return nil, err
	}
	out := map[string]map[string]decimal.Decimal{}
	for _, pl := range list {
		if pl.Version == 0 {
			continue
		}
		sum := map[string]float64{}
		for _, st := range pl.Body.Steps {
			if st.Use == nil {
				continue
			}
			if i := slices.IndexFunc(lib.Products, func(p studio.Product) bool { return p.Key == st.Use.Product }); i >= 0 {
				mL, _ := st.Use.Amount.In(&lib.Products[i].Product)
				sum[st.Use.Product] += mL
			}
		}
		for i := range lib.Products {
			p := &lib.Products[i]
			if out[p.Key] == nil {
				out[p.Key] = map[string]decimal.Decimal{}
			}
			out[p.Key][pl.ID.String()] = studio.InUnit(p, sum[p.Key])
		}
	}
	return out, nil
}

// most is the most that any protocol takes.
func most(takes map[string]decimal.Decimal) (out decimal.Decimal) {
	for _, d := range takes {
		out = decimal.Max(out, d)
	}
	return out
}

// booked are the treatments to come, not yet begun, from today to the horizon.
func (s *Service) booked(ctx context.Context, tx Store, st *studio.Studio) ([]shelf.Booked, error) {
	zone := st.Zone()
	today, err := time.ParseInLocation(time.DateOnly, s.Today(st), zone)
	if err != nil {
		return nil, err
	}
	visits, err := tx.Visits(ctx, today, today.AddDate(0, 0, Horizon))
	if err != nil {
		return nil, err
	}
	var out []shelf.Booked
	for i := range visits {
		v := &visits[i]
		if v.State != studio.Booked && v.State != studio.Confirmed && v.State != studio.Arrived {
			continue
		}
		day := v.StartsAt.In(zone).Format(time.DateOnly)
		out = append(out, shelf.Booked{Day: day, Practitioner: v.Practitioner.String(), Protocol: v.Protocol.String()})
		for _, also := range v.Also {
			out = append(out, shelf.Booked{Day: day, Practitioner: v.Practitioner.String(), Protocol: also.Protocol.String()})
		}
	}
	return out, nil
}

// forecast is what the booked diary takes of a product, and when it runs out.
func (s *Service) forecast(line *ShelfLine, takes map[string]decimal.Decimal, booked []shelf.Booked, today string) (shelf.RunOut, error) {
	d := shelf.Demand{Today: today, Days: Horizon, BookedOnly: Horizon, Doses: takes, Visits: booked}
	for i := range line.Lots {
		if line.Lots[i].Usable(today) { // what is past its day is told apart
			d.Packs = append(d.Packs, line.Lots[i].Pack())
		}
	}
	return d.Forecast()
}

// NewLot is a delivery to add to stock.
type NewLot struct {
	Product    uuid.UUID
	Number     string
	Expiry     string
	MonthsOpen int
	Amount     decimal.Decimal
	Cost       decimal.Decimal // of the whole lot
}

// ReceiveLot puts a delivery on the shelf.
func (s *Service) ReceiveLot(ctx context.Context, a *studio.Actor, n NewLot) error {
	if err := a.May("receive-lot"); err != nil {
		return err
	}
	if strings.TrimSpace(n.Number) == "" {
		return studio.FaultAt("/number", words.CopyTheLotNumberFromThePack())
	}
	if _, err := time.Parse(time.DateOnly, n.Expiry); err != nil {
		return studio.FaultAt("/expiry", words.EnterUseByDateAsYearMonth())
	}
	if err := studio.CheckDay("/expiry", n.Expiry); err != nil {
		return err
	}
	if err := studio.CheckAmount("/amount", n.Amount); err != nil {
		return err
	}
	if !n.Amount.IsPositive() {
		return studio.FaultAt("/amount", words.EnterTheAmountReceivedAbove0())
	}
	if n.Cost.IsNegative() {
		return studio.FaultAt("/cost", words.TheCostCannotBeBelow0())
	}
	if err := studio.CheckMoney("/cost", n.Cost); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		today := s.Today(st)
		l := &studio.Lot{UUID: studio.NewID(), Product: n.Product, Received: today}
		l.Number, l.Expiry, l.MonthsOpen = strings.TrimSpace(n.Number), n.Expiry, n.MonthsOpen
		l.UnitCost = n.Cost.DivRound(n.Amount, 6)
		if err := tx.AddLot(ctx, l); err != nil {
			if errors.Is(err, studio.ErrExists) {
				return studio.FaultAt("/number", words.LotNumberThisProductAlreadyOnShelf(l.Number))
			}
			return err
		}
		return tx.AddMovement(
			ctx,
			&studio.Movement{
				ID:      studio.NewID(),
				Lot:     l.UUID,
				Kind:    shelf.Receive,
				Amount:  n.Amount,
				Account: &a.Account,
				At:      s.Now(),
			},
		)
	})
}

// CorrectStock adds a movement that corrects a lot: waste, dispose, stocktake and
// the like. What leaves is negative; a lot never goes below zero.
func (s *Service) CorrectStock(
	ctx context.Context,
	a *studio.Actor,
	lot uuid.UUID,
	kind shelf.Kind,
	amount decimal.Decimal,
	note string,
) error {
	if err := a.May("correct-stock"); err != nil {
		return err
	}
	if kind == shelf.Treatment || kind == shelf.Receive {
		return studio.FaultAt("/kind", words.TreatmentsDeliveriesRecordedAutomaticallyChooseAnotherReason())
	}
	if err := studio.CheckAmount("/amount", amount); err != nil {
		return err
	}
	if amount.IsZero() {
		return studio.FaultAt("/amount", words.SayHowMuch())
	}
	if !kind.Fits(amount) {
		return studio.FaultAt("/amount", words.UseMinusForStockGoingOutPlus())
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		find := func() (*studio.Lot, error) {
			lots, err := tx.Lots(ctx)
			if err != nil {
				return nil, err
			}
			for i := range lots {
				if lots[i].UUID == lot {
					return &lots[i], nil
				}
			}
			return nil, studio.ErrNotFound
		}
		l, err := find()
		if err != nil {
			return err
		}
		if err := tx.LockLots(ctx, []uuid.UUID{l.Product}); err != nil {
			return err
		}
		if l, err = find(); err != nil { // what is left, now that nobody else can take from it
			return err
		}
		if l.Remaining.Add(amount).IsNegative() {
			return studio.FaultAt("/amount", words.OnlyRemainingIsLeftInLotNumber(l.Remaining, l.Number))
		}
		return tx.AddMovement(
			ctx,
			&studio.Movement{
				ID:      studio.NewID(),
				Lot:     lot,
				Kind:    kind,
				Amount:  amount,
				Account: &a.Account,
				Note:    note,
				At:      s.Now(),
			},
		)
	})
}
