package shelf

import (
	"cmp"
	"context"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
)

// GoingOff is what of a pack expires before the booked diary uses it, what that is worth, and what would use it.
type GoingOff struct {
	Product   uuid.UUID       `json:"product"`
	Name      string          `json:"name"`
	Unit      string          `json:"unit"`
	Lot       string          `json:"lot"`
	GoodUntil string          `json:"goodUntil"`
	Amount    decimal.Decimal `json:"amount"`
	Value     decimal.Decimal `json:"value"`
	Uses      []WouldUse      `json:"uses"`
}

// WouldUse is a published protocol that takes the product, with how many whole treatments the amount is enough for.
type WouldUse struct {
	Protocol   string `json:"protocol"`
	Treatments int    `json:"treatments"`
}

// protocolDose is what a published protocol takes of a product.
type protocolDose struct {
	protocol string
	dose     decimal.Decimal
}

// usesNamed is how many protocols are named that would use what goes off, those first that take the most of it.
const usesNamed = 3

// GoingOff lists what expires unused, the first to expire first.
func (s *Service) GoingOff(ctx context.Context, a *studio.Actor) ([]GoingOff, error) {
	if err := a.May("list-going-off"); err != nil {
		return nil, err
	}
	out := []GoingOff{}
	err := studio.In(ctx, s.Kernel, a, func(tx forecastStore, st *studio.Studio) error {
		f, err := s.look(ctx, tx, st)
		if err != nil {
			return err
		}
		lines := f.lines()
		for i := range lines {
			out = append(out, f.goingOff(&lines[i])...)
		}
		return nil
	})
	slices.SortStableFunc(out, func(x, y GoingOff) int { return cmp.Compare(x.GoodUntil, y.GoodUntil) })
	return out, err
}

// goingOff is what goes off of one product.
func (f *foresight) goingOff(l *ShelfLine) []GoingOff {
	var out []GoingOff
	for _, u := range l.Forecast.Unused {
		g := GoingOff{
			Product: l.Product.ID, Name: l.Product.Name, Unit: l.Product.Unit, Lot: u.Lot, GoodUntil: u.GoodUntil, Amount: u.Amount, Uses: []WouldUse{},
		}
		for i := range l.Packs {
			if q := &l.Packs[i]; q.Lot == u.Lot && q.Number == u.Pack && f.layers[q.Layer] != nil {
				g.Value = f.layers[q.Layer].Worth(u.Amount)
			}
		}
		for _, p := range f.takers[l.Product.Key] {
			if n := int(u.Amount.Div(p.dose).IntPart()); n > 0 && len(g.Uses) < usesNamed {
				g.Uses = append(g.Uses, WouldUse{p.protocol, n})
			}
		}
		out = append(out, g)
	}
	return out
}
