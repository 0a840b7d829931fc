package evaluation

import (
	"math"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/slip"
)

// Planned is what a plan takes of a product, in every measure in which the
// product can be dosed (0 where it cannot), and what it costs.
type Planned struct {
	Product string  `json:"product"`
	Name    string  `json:"name"`
	ML      float64 `json:"ml"`
	G       float64 `json:"g"`
	Drops   float64 `json:"drops,omitempty"`
	Pumps   float64 `json:"presses,omitempty"`
	// Optional is set where every step may do without it; it is planned for all the same.
	Optional bool `json:"optional,omitempty"`
	// Usual is what the practitioner usually takes instead, in mL, where that is a twentieth or more beside
	// the plan; 0 else. Nothing follows from it.
	Usual float64 `json:"usual,omitempty"`
	// Cost is exact, in the studio's currency; empty where it is not known.
	Cost string `json:"cost,omitempty"`
}

func (e *Evaluation) lastUse(product string) string {
	for i := len(e.Steps) - 1; i >= 0; i-- {
		if u := e.Steps[i].Source.Use; u != nil && u.Product == product {
			return e.Steps[i].ID
		}
	}
	return ""
}

// count adds an amount to what a plan takes of a product.
func (e *Evaluation) count(prod *slip.Product, mL float64, optional bool) {
	for i := range e.Products {
		if e.Products[i].Product == prod.Key {
			e.Products[i].ML += mL
			e.Products[i].Optional = e.Products[i].Optional && optional
			return
		}
	}
	e.Products = append(e.Products, Planned{Product: prod.Key, Name: prod.Name, ML: mL, Optional: optional})
}

// habit is from which share beside the plan on a habit is told.
const habit = 0.05

// usually says what a practitioner with a habit takes instead.
func (pl *Planned) usually(factor float64) {
	if factor > 0 && math.Abs(factor-1) >= habit {
		pl.Usual = pl.ML * factor
	}
}

// measure fills in the amount in the product's other measures and its cost, which it returns where it is known.
func (pl *Planned) measure(prod *slip.Product) (cost decimal.Decimal, known bool) {
	pl.G = pl.ML * prod.GramsPerML()
	pl.Drops = pl.ML * prod.DropsPerML
	if prod.MLPerPump > 0 {
		pl.Pumps = pl.ML / prod.MLPerPump
	}
	each, err := decimal.NewFromString(prod.Cost)
	if err != nil {
		return cost, false
	}
	cost = each.Mul(decimal.NewFromFloat(pl.ML)).Round(2)
	pl.Cost = cost.StringFixed(2)
	return cost, true
}
