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

	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
	"softpalm/words"
)

// CalibrationLine is a calibration as it is kept.
type CalibrationLine struct {
	Measure string `json:"measure"`
	Day     string `json:"day"`
	shelf.Calibrated
	Closure string `json:"closure"`
	// ClosureChanged is the day on which another closure was put on, empty where none was.
	ClosureChanged string `json:"closureChanged,omitempty"`
	// Due says that it is asked for again: it is a year old, or the closure is another.
	Due bool `json:"due"`
}

// NewCalibration is some drops, presses or spatulas, weighed several times.
type NewCalibration struct {
	Measure string            `json:"measure" enum:"drops,presses,spatulas"`
	Each    int               `json:"each" minimum:"1" maximum:"1000"`
	Grams   []decimal.Decimal `json:"grams" minItems:"1" maxItems:"20"`
	Step    decimal.Decimal   `json:"step"`
	Density decimal.Decimal   `json:"density"`
	Closure string            `json:"closure" maxLength:"60"`
	// Keep writes it to the product; else it is only worked out.
	Keep bool `json:"keep"`
}

// measureStore keeps calibrations.
type measureStore interface {
	Store
	AddCalibration(ctx context.Context, product uuid.UUID, n *NewCalibration, r *shelf.Calibrated, day string, by uuid.UUID, at time.Time) error
	// Calibrations lists the newest of each measure of a product.
	Calibrations(ctx context.Context, product uuid.UUID) ([]CalibrationLine, error)
	// ClosureChanged marks the newest calibration of each measure of a product.
	ClosureChanged(ctx context.Context, product uuid.UUID, day string) error
}

// Weighed is what came of weighing drops, presses or spatulas; Coarse says that more is to be weighed.
type Weighed struct {
	shelf.Calibrated
	Coarse bool `json:"coarse"`
}

// Calibrate works out what a drop, a press or a spatula of a product holds, and keeps it where so asked.
func (s *Service) Calibrate(ctx context.Context, a *studio.Actor, product uuid.UUID, n *NewCalibration) (*Weighed, error) {
	if err := a.May("calibrate"); err != nil {
		return nil, err
	}
	for i, g := range n.Grams {
		if !g.IsPositive() || g.GreaterThan(decimal.NewFromInt(10_000)) {
			return nil, studio.FaultAt(fmt.Sprintf("/grams/%d", i), words.EnterWhatTheScaleShows())
		}
	}
	if !n.Step.IsPositive() || n.Step.GreaterThan(decimal.NewFromInt(100)) {
		return nil, studio.FaultAt("/step", words.EnterTheScalesStep())
	}
	if !n.Density.IsPositive() || n.Density.GreaterThan(decimal.NewFromInt(3)) {
		return nil, studio.FaultAt("/density", words.EnterTheDensity())
	}
	c := shelf.Calibration{Readings: n.Grams, Drops: n.Each, Step: n.Step, Density: n.Density}
	result, err := c.Result()
	if err != nil {
		return nil, studio.FaultAt("/grams", words.EnterWhatTheScaleShows())
	}
	out := &Weighed{result, result.Coarse()}
	if !n.Keep {
		return out, nil
	}
	return out, studio.In(ctx, s.Kernel, a, func(tx measureStore, st *studio.Studio) error {
		if _, err := tx.LockContents(ctx, product); err != nil {
			return err
		}
		p, err := productOf(ctx, tx, product)
		if err != nil {
			return err
		}
		p.Density, _ = n.Density.Float64()
		each, err := decimal.NewFromString(result.MLEach)
		if err != nil {
			return err
		}
		perML, err := decimal.NewFromString(result.PerML)
		if err != nil {
			return err
		}
		switch n.Measure {
		case string(slip.Drops):
			p.DropsPerML, _ = perML.Float64()
		case "presses":
			p.MLPerPump, _ = each.Float64()
		default:
			p.MLPerSpatula, _ = each.Float64()
		}
		if err := tx.SaveSupply(ctx, p); err != nil {
			return err
		}
		return tx.AddCalibration(ctx, product, n, &result, s.Today(st), a.Account, s.Now())
	})
}

// ChangeClosure says that another closure was put on a product's packs: what was weighed with the old one is asked
// for again.
func (s *Service) ChangeClosure(ctx context.Context, a *studio.Actor, product uuid.UUID) error {
	if err := a.May("change-closure"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx measureStore, st *studio.Studio) error {
		if _, err := tx.LockContents(ctx, product); err != nil {
			return err
		}
		return tx.ClosureChanged(ctx, product, s.Today(st))
	})
}

func productOf(ctx context.Context, tx Store, id uuid.UUID) (*studio.Product, error) {
	list, err := tx.Products(ctx)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(list, func(p studio.Product) bool { return p.ID == id })
	if i < 0 {
		return nil, studio.ErrNotFound
	}
	return &list[i], nil
}

// SupplyChange is how a product is bought, kept and measured, as somebody writes it.
type SupplyChange struct {
	studio.Supply
	PackSize  decimal.Decimal `json:"packSize"`
	ReorderAt decimal.Decimal `json:"reorderAt"`
	Density   float64         `json:"density" minimum:"0" maximum:"3"`
}

// SaveSupply writes how a product is bought and kept.
func (s *Service) SaveSupply(ctx context.Context, a *studio.Actor, product uuid.UUID, n *SupplyChange) error {
	if err := a.May("save-supply"); err != nil {
		return err
	}
	if n.GTIN = strings.TrimSpace(n.GTIN); n.GTIN != "" {
		gtin, err := shelf.GTIN(n.GTIN)
		if err != nil {
			return studio.FaultAt("/gtin", words.CheckTheBarcodeNumber(err.Error()))
		}
		n.GTIN = gtin
	}
	if !n.PackSize.IsPositive() {
		return studio.FaultAt("/packSize", words.APackHoldsMoreThanNothing())
	}
	for path, d := range map[string]decimal.Decimal{"/packSize": n.PackSize, "/reorderAt": n.ReorderAt} {
		if err := studio.CheckAmount(path, d); err != nil {
			return err
		}
	}
	if n.ReorderAt.IsNegative() {
		return studio.FaultAt("/reorderAt", words.PriceReOrderPointCannotBelow0())
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		if _, err := tx.LockContents(ctx, product); err != nil {
			return err
		}
		p, err := productOf(ctx, tx, product)
		if err != nil {
			return err
		}
		spatula := p.MLPerSpatula // found by weighing, not written here
		p.Supply, p.PackSize, p.ReorderAt, p.Density = n.Supply, n.PackSize, n.ReorderAt, n.Density
		p.MLPerSpatula = spatula
		p.Place, p.Supplier, p.Article = strings.TrimSpace(p.Place), strings.TrimSpace(p.Supplier), strings.TrimSpace(p.Article)
		p.MinPacks = max(p.MinPacks, 1)
		if err := tx.SaveSupply(ctx, p); errors.Is(err, studio.ErrExists) {
			return studio.FaultAt("/gtin", words.AnotherProductHasThisBarcode())
		} else if err != nil {
			return err
		}
		return nil
	})
}
