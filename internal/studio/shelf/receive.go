package shelf

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Delivery is what came in: lots of products, for an order or without one.
type Delivery struct {
	Order *uuid.UUID     `json:"order,omitempty" format:"uuid"`
	Lines []DeliveryLine `json:"lines" minItems:"1" maxItems:"200"`
	// Freight is divided over the lines by their value.
	Freight decimal.Decimal `json:"freight"`
	// Tax on the invoice that the tax office pays back; divided as the freight is, and no part of what goods cost.
	Tax decimal.Decimal `json:"tax,omitempty"`
}

// DeliveryLine is packs of one lot.
type DeliveryLine struct {
	Product uuid.UUID `json:"product" format:"uuid"`
	Number  string    `json:"number" maxLength:"60"`
	// Expiry is a day, a month (2027-06, its last day), or empty where the pack states none.
	Expiry     string          `json:"expiry" maxLength:"10"`
	MonthsOpen int             `json:"monthsOpen" minimum:"0" maximum:"60"`
	Packs      int             `json:"packs" minimum:"1" maximum:"500"`
	PackSize   decimal.Decimal `json:"packSize"`
	// Cost of all packs, without the tax that is paid back.
	Cost decimal.Decimal `json:"cost"`
	Side string          `json:"side" enum:"cabin,retail"`
	// Over says that more came than was ordered, and that it is kept; Short that it is good for less long
	// than the studio wants, and kept.
	Over  bool `json:"over,omitempty"`
	Short bool `json:"short,omitempty"`
}

// Receive puts a delivery on the shelf, all of it or nothing.
func (s *Service) Receive(ctx context.Context, a *studio.Actor, d *Delivery) error {
	if err := a.May("receive-delivery"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx orderStore, st *studio.Studio) error {
		terms, err := s.readOrdering(ctx, tx)
		if err != nil {
			return err
		}
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		if err := studio.CheckMoney("/freight", d.Freight); err != nil {
			return err
		}
		if err := studio.CheckMoney("/tax", d.Tax); err != nil {
			return err
		}
		values := make([]decimal.Decimal, len(d.Lines))
		for i := range d.Lines {
			l := &d.Lines[i]
			k := slices.IndexFunc(products, func(p studio.Product) bool { return p.ID == l.Product })
			if k < 0 {
				return studio.FaultAt(fmt.Sprintf("/lines/%d/product", i), words.ChooseAProductOnTheShelf())
			}
			if err := l.check(&products[k], terms.settings.LeastLifeDays, s.Today(st), fmt.Sprintf("/lines/%d", i)); err != nil {
				return err
			}
			values[i] = l.Cost
		}
		freight, tax := money.Shares(d.Freight, values, st.Minor()), money.Shares(d.Tax, values, st.Minor())
		for i := range d.Lines {
			l := &d.Lines[i]
			n := studio.NewDelivery{
				Product: l.Product, Number: l.Number, Expiry: l.Expiry, Received: s.Today(st), MonthsOpen: l.MonthsOpen,
				Packs: l.Packs, PackSize: l.PackSize, Cost: l.Cost.Add(freight[i]), Tax: tax[i], Minor: st.Minor(),
				Side: l.Side, Order: d.Order,
			}
			if _, err := studio.TakeIn(ctx, tx, &n, &a.Account, s.Now()); err != nil {
				var other *studio.OtherExpiryError
				if errors.As(err, &other) {
					return studio.FaultAt(fmt.Sprintf("/lines/%d/expiry", i), words.LotIsThereWithAnotherDay(other.Number, other.Expiry))
				}
				return err
			}
		}
		if d.Order != nil {
			return received(ctx, tx, *d.Order, d.Lines)
		}
		return nil
	})
}

// check tidies a line and refuses what cannot be.
func (l *DeliveryLine) check(p *studio.Product, leastDays int, today, at string) error {
	l.Number = strings.TrimSpace(l.Number)
	if l.Number == "" {
		return studio.FaultAt(at+"/number", words.CopyTheLotNumberFromThePack())
	}
	if l.Side == "" {
		l.Side = studio.CabinSide
	}
	if err := l.checkDay(p, leastDays, today, at); err != nil {
		return err
	}
	if !l.PackSize.IsPositive() {
		return studio.FaultAt(at+"/packSize", words.EnterTheAmountReceivedAbove0())
	}
	if p.Unit == studio.Pieces && !l.PackSize.Equal(l.PackSize.Truncate(0)) {
		return studio.FaultAt(at+"/packSize", words.PiecesAreWholeNumbers())
	}
	if err := studio.CheckAmount(at+"/packSize", l.PackSize.Mul(decimal.NewFromInt(int64(l.Packs)))); err != nil {
		return err
	}
	if l.Cost.IsNegative() {
		return studio.FaultAt(at+"/cost", words.TheCostCannotBeBelow0())
	}
	return studio.CheckMoney(at+"/cost", l.Cost)
}

// checkDay reads the last day of use and asks where it is near.
func (l *DeliveryLine) checkDay(p *studio.Product, leastDays int, today, at string) error {
	if l.Expiry == "" {
		if l.MonthsOpen == 0 && p.Unit != studio.Pieces {
			return studio.FaultAt(at+"/expiry", words.EnterADateOrMonthsOpen())
		}
		return nil
	}
	expiry := shelf.Pack{Expiry: &l.Expiry}
	day, err := expiry.GoodUntil()
	if err != nil {
		return studio.FaultAt(at+"/expiry", words.EnterUseByDateAsYearMonth())
	}
	if err := studio.CheckDay(at+"/expiry", day); err != nil {
		return err
	}
	l.Expiry = day
	now, _ := time.Parse(time.DateOnly, today)
	if !l.Short && day < now.AddDate(0, 0, leastDays).Format(time.DateOnly) {
		return studio.FaultAt(at+"/expiry", words.GoodForLessLongThanWanted(shortDay(day), leastDays))
	}
	return nil
}
