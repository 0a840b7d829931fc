package shelf

import (
	"context"
	"errors"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
	"softpalm/words"
)

// NewProduct is a product to add to the shelf, without stock.
type NewProduct struct {
	studio.FileProduct
	Unit      string          `json:"unit" enum:"mL,g"`
	PackSize  decimal.Decimal `json:"packSize"`
	Price     decimal.Decimal `json:"price"`
	ReorderAt decimal.Decimal `json:"reorderAt"`
}

// AddProduct puts a product on the shelf.
func (s *Service) AddProduct(ctx context.Context, a *studio.Actor, n NewProduct) (id uuid.UUID, err error) {
	if err := a.May("add-product"); err != nil {
		return id, err
	}
	switch {
	case !n.PackSize.IsPositive():
		return id, studio.FaultAt("/packSize", words.APackHoldsMoreThanNothing())
	case n.Price.IsNegative() || n.ReorderAt.IsNegative():
		return id, studio.FaultAt("/price", words.PriceReOrderPointCannotBelow0())
	case n.RangeMax < n.RangeMin:
		return id, studio.FaultAt("/rangeMax", words.UsualAmountEndsRangeMaxMLBeforeBegins(n.RangeMax, n.RangeMin))
	case n.FullDose <= 0:
		return id, studio.FaultAt("/fullDose", words.EnterAmountForFaceNeckDCollet())
	}
	for path, d := range map[string]decimal.Decimal{"/packSize": n.PackSize, "/reorderAt": n.ReorderAt} {
		if err := studio.CheckAmount(path, d); err != nil {
			return id, err
		}
	}
	if err := studio.CheckMoney("/price", n.Price); err != nil {
		return id, err
	}
	made := studio.Contents{Ingredients: n.Ingredients, Tags: n.Tags, Unsuited: n.Unsuited}
	if err := made.Tidy(); err != nil {
		return id, err
	}
	n.Ingredients, n.Tags, n.Unsuited = made.Ingredients, made.Tags, made.Unsuited
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c := lib.Context()
		if n.Key == "" {
			n.Key = studio.FreeKey(n.Name, "product", func(k string) bool { return c.Products[k] != nil })
		}
		p := studio.Product{
			ID:        studio.NewID(),
			Product:   n.Core(),
			Unit:      n.Unit,
			PackSize:  n.PackSize,
			Price:     n.Price,
			ReorderAt: n.ReorderAt,
		}
		p.Usual()
		id = p.ID
		if err := tx.AddProduct(ctx, &p); errors.Is(err, studio.ErrExists) {
			return studio.FaultAt("/key", words.ThereProductWithKeyKeyAlready(n.Key))
		} else if err != nil {
			return err
		}
		return nil
	})
	return id, err
}

// SaveContents writes what a product is made of, at a revision. One that was changed
// meanwhile answers a [*studio.ChangedError] with what is there, and nothing is written.
func (s *Service) SaveContents(ctx context.Context, a *studio.Actor, product uuid.UUID, c studio.RevisedContents) error {
	if err := a.May("save-contents"); err != nil {
		return err
	}
	if err := c.Tidy(); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		was, err := tx.LockContents(ctx, product)
		if err != nil {
			return err
		}
		if was.Revision != c.Revision {
			return &studio.ChangedError{Contents: was}
		}
		return tx.SaveContents(ctx, product, c.Contents)
	})
}
