package shelf

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
)

// ShelfLine is a product with what is left of it.
type ShelfLine struct {
	Product studio.Product
	Packs   []studio.Pack
	// Remaining is what may still be used in the cabin; Blocked what may not; Retail what stands for sale.
	Remaining, Blocked, Retail decimal.Decimal
	// Open is what the open packs hold.
	Open decimal.Decimal
	// Usual is what one treatment takes; Treatments how many whole ones are left, TreatmentsOpen of them in
	// the open pack.
	Usual                      decimal.Decimal
	Treatments, TreatmentsOpen int
	// Value is what the packs are worth, each at its own lot's cost.
	Value decimal.Decimal
	// Forecast is what the diary takes of it in the days to come, see [Horizon].
	Forecast shelf.RunOut
	// Reorder is whether to order, how much, and why.
	Reorder Reorder
	// Factors are what records teach of its doses.
	Factors shelf.DoseFactors
}

// Shelf lists products in the order in which they run out, then by name, with packs, first to expire first.
func (s *Service) Shelf(ctx context.Context, a *studio.Actor) ([]ShelfLine, error) {
	if err := a.May("get-shelf"); err != nil {
		return nil, err
	}
	var out []ShelfLine
	err := studio.In(ctx, s.Kernel, a, func(tx forecastStore, st *studio.Studio) error {
		f, err := s.look(ctx, tx, st)
		if err != nil {
			return err
		}
		out = f.lines()
		return nil
	})
	return out, err
}

// line is a product with what is left of it, without its forecast.
func line(p *studio.Product, packs []studio.Pack, layers map[uuid.UUID]*shelf.Layer, today string) ShelfLine {
	l := ShelfLine{Product: *p, Packs: []studio.Pack{}}
	var worth []uuid.UUID
	for i := range packs {
		q := &packs[i]
		if q.Product != p.ID {
			continue
		}
		l.Packs = append(l.Packs, *q)
		if layer := layers[q.Layer]; layer != nil && !slices.Contains(worth, q.Layer) {
			worth = append(worth, q.Layer) // all its packs together, so that nothing is rounded twice
			l.Value = l.Value.Add(layer.Worth(layer.Left))
		}
		switch {
		case q.Side == studio.RetailSide:
			l.Retail = l.Retail.Add(q.Left)
		case q.Side == studio.TesterSide:
		case !q.Usable(today):
			l.Blocked = l.Blocked.Add(q.Left)
		default:
			l.Remaining = l.Remaining.Add(q.Left)
			if q.Opened != nil {
				l.Open = l.Open.Add(q.Left)
			}
		}
	}
	return l
}

// Leans reports whether the product runs out before the next delivery could be there.
func (l *ShelfLine) Leans() bool {
	return l.Forecast.RunOut != nil && *l.Forecast.RunOut < l.Reorder.Delivery
}

// What a product may want done today, the most pressing first.
const (
	AsksShort   = "short"       // it runs out before the next delivery could be there
	AsksClear   = "clear"       // a pack may not be used any more
	AsksReorder = "reorder"     // it is at its re-order point
	AsksTester  = "tester-past" // a tester stands out past its day
	AsksLastDay = "last-day"    // today is the last day of a pack
)

// Asks is what the product wants done today, empty where it wants nothing.
func (l *ShelfLine) Asks(today string) string {
	until := func(side bool, past bool) bool {
		return slices.ContainsFunc(l.Packs, func(p studio.Pack) bool {
			day := p.Until()
			return day != "" && (p.Side == studio.TesterSide) == side &&
				(past && day < today || !past && p.Usable(today) && p.Left.IsPositive() && day <= today)
		})
	}
	switch {
	case l.Leans():
		return AsksShort
	case l.Blocked.IsPositive():
		return AsksClear
	case l.Reorder.Order.Order:
		return AsksReorder
	case until(true, true):
		return AsksTester
	case until(false, false):
		return AsksLastDay
	}
	return ""
}

// bySoonest puts what runs out soonest first, then what is to be ordered although nothing booked runs it out.
func bySoonest(a, b ShelfLine) int {
	day := func(l *ShelfLine) string {
		if l.Forecast.RunOut == nil {
			return "~"
		}
		return *l.Forecast.RunOut
	}
	order := func(l *ShelfLine) int {
		if l.Reorder.Order.Order {
			return 0
		}
		return 1
	}
	return cmp.Or(strings.Compare(day(&a), day(&b)), cmp.Compare(order(&a), order(&b)))
}

// lines are all products with their forecasts.
func (f *foresight) lines() []ShelfLine { return slices.Clone(f.all) }

// workOut works them out; memory is what is kept of forecasts, nil where nothing may be.
func (f *foresight) workOut(memory *studio.Remembered) ([]ShelfLine, error) {
	out := []ShelfLine{}
	for i := range f.lib.Products {
		l := line(&f.lib.Products[i], f.packs, f.layers, f.today)
		if err := f.foresee(&l, memory); err != nil {
			return nil, err
		}
		out = append(out, l)
	}
	slices.SortStableFunc(out, bySoonest)
	return out, nil
}
