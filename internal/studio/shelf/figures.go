package shelf

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
)

// Figures are what was used against what was planned, and what the stock is worth.
type Figures struct {
	// Since is the first day of the uses, three months back.
	Since          string       `json:"since"`
	ByProduct      []FigureLine `json:"byProduct"`
	ByProtocol     []FigureLine `json:"byProtocol"`
	ByPractitioner []FigureLine `json:"byPractitioner"`
	ByMonth        []FigureLine `json:"byMonth"` // newest first
	Worth          []WorthLine  `json:"worth"`
	WorthOfAll     Worth        `json:"worthOfAll"`
}

// FigureLine is use against plan of one product, protocol, practitioner or month, by name. OverPlan is what was used
// beyond the plan, at the cost of its lots; below zero where it was less.
type FigureLine struct {
	Name string `json:"name"`
	shelf.Against
	OverPlan decimal.Decimal `json:"overPlan"`
}

// Worth of what is left: each lot at its own cost, first in first out, and by moving average.
type Worth struct {
	AtCost   decimal.Decimal `json:"atCost"`
	FirstOut decimal.Decimal `json:"firstOut"`
	Average  decimal.Decimal `json:"average"`
}

// WorthLine is what the stock of a product is worth.
type WorthLine struct {
	Product uuid.UUID       `json:"product"`
	Name    string          `json:"name"`
	Unit    string          `json:"unit"`
	Left    decimal.Decimal `json:"left"`
	Worth
}

// NamedUse stands for a month's uses that are the same in product, practitioner, protocol and amount. Times says how many
// they are, and OverPlan is the sum over all of them.
type NamedUse struct {
	shelf.Dosed
	Times                                       int
	OverPlan                                    decimal.Decimal
	Month                                       string // YYYY-MM
	ProductName, ProtocolName, PractitionerName string
}

// figureStore is what figures are read from.
type figureStore interface {
	Store
	// NamedUses counts the uses since a day that are alike.
	NamedUses(ctx context.Context, since string) ([]NamedUse, error)
	// LayersLeft lists, oldest first, those deliveries of each product that are left where the oldest are emptied first.
	LayersLeft(ctx context.Context) (map[uuid.UUID][]shelf.Layer, error)
}

// figureMonths is how far back uses are looked at.
const figureMonths = 3

// Figures looks at the uses of the last three months, and at what the stock is worth.
func (s *Service) Figures(ctx context.Context, a *studio.Actor) (*Figures, error) {
	if err := a.May("get-shelf-figures"); err != nil {
		return nil, err
	}
	out := &Figures{}
	err := studio.In(ctx, s.Kernel, a, func(tx figureStore, st *studio.Studio) error {
		today, err := time.Parse(time.DateOnly, s.Today(st))
		if err != nil {
			return err
		}
		out.Since = today.AddDate(0, -figureMonths, 0).Format(time.DateOnly)
		uses, err := tx.NamedUses(ctx, out.Since)
		if err != nil {
			return err
		}
		out.ByProduct = grouped(uses, func(u *NamedUse) string { return u.ProductName })
		out.ByProtocol = grouped(uses, func(u *NamedUse) string { return u.ProtocolName })
		out.ByPractitioner = grouped(uses, func(u *NamedUse) string { return u.PractitionerName })
		out.ByMonth = grouped(uses, func(u *NamedUse) string { return u.Month })
		slices.Reverse(out.ByMonth)
		return out.worth(ctx, tx)
	})
	return out, err
}

// grouped looks at uses by what they have in common, in order of its name.
func grouped(uses []NamedUse, name func(*NamedUse) string) []FigureLine {
	records, over := map[string][]shelf.Dosed{}, map[string]decimal.Decimal{}
	for i := range uses {
		u := &uses[i]
		k := name(u)
		for range u.Times {
			records[k] = append(records[k], u.Dosed)
		}
		over[k] = over[k].Add(u.OverPlan)
	}
	out := make([]FigureLine, 0, len(records))
	for k, of := range records {
		out = append(out, FigureLine{k, shelf.Compare(of), over[k]})
	}
	slices.SortFunc(out, func(a, b FigureLine) int { return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) })
	return out
}

// worth values what is left of each product three ways.
func (f *Figures) worth(ctx context.Context, tx figureStore) error {
	products, err := tx.Products(ctx)
	if err != nil {
		return err
	}
	packs, err := tx.Packs(ctx)
	if err != nil {
		return err
	}
	ids := make([]uuid.UUID, len(products))
	for i := range products {
		ids[i] = products[i].ID
	}
	layers, err := tx.Layers(ctx, studio.LayersOf(packs))
	if err != nil {
		return err
	}
	averages, err := tx.AverageWorths(ctx, ids)
	if err != nil {
		return err
	}
	deliveries, err := tx.LayersLeft(ctx)
	if err != nil {
		return err
	}
	f.Worth = []WorthLine{}
	for i := range products {
		p := &products[i]
		l := line(p, packs, layers, "")
		w := WorthLine{Product: p.ID, Name: p.Name, Unit: p.Unit}
		for k := range l.Packs {
			w.Left = w.Left.Add(l.Packs[k].Left)
		}
		if !w.Left.IsPositive() {
			continue
		}
		w.Worth = Worth{l.Value, shelf.FirstOut(deliveries[p.ID], w.Left), averages[p.ID]}
		f.Worth = append(f.Worth, w)
		all := &f.WorthOfAll
		all.AtCost, all.FirstOut, all.Average = all.AtCost.Add(w.AtCost), all.FirstOut.Add(w.FirstOut), all.Average.Add(w.Average)
	}
	return nil
}
