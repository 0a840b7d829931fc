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
}

// Shelf lists products by name with lots, first to expire first.
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
		usual, err := s.usualAmounts(ctx, tx, a, lib)
		if err != nil {
			return err
		}
		for _, p := range lib.Products {
			line := ShelfLine{Product: p, Lots: []studio.Lot{}, Usual: usual[p.Key]}
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
			out = append(out, line)
		}
		return nil
	})
	return out, err
}

// usualAmounts is the most that any published protocol takes of each product, all
// its steps together.
func (s *Service) usualAmounts(
	ctx context.Context,
	tx Store,
	a *studio.Actor,
	lib *studio.Library,
) (map[string]decimal.Decimal, error) {
	list, err := tx.Protocols(ctx, a.Account)
	if err != nil {
		return nil, err
	}
	usual := map[string]decimal.Decimal{}
	for _, pl := range list {
		if pl.Version == 0 {
			continue
		}
		takes := map[string]float64{}
		for _, st := range pl.Body.Steps {
			if st.Use == nil {
				continue
			}
			if i := slices.IndexFunc(lib.Products, func(p studio.Product) bool { return p.Key == st.Use.Product }); i >= 0 {
				mL, _ := st.Use.Amount.In(&lib.Products[i].Product)
				takes[st.Use.Product] += mL
			}
		}
		for i := range lib.Products {
			p := &lib.Products[i]
			usual[p.Key] = decimal.Max(usual[p.Key], studio.InUnit(p, takes[p.Key]))
		}
	}
	return usual, nil
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
