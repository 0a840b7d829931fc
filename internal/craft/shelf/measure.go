package shelf

import (
	"errors"
	"fmt"
	"math"

	"github.com/shopspring/decimal"
)

// thousandth is how fine amounts are kept.
const thousandth = 3

// exact are the digits kept while dividing; results are rounded once, at the end.
const exact = 24

// MeasureError says why a measure gives no amount, with a stable code.
type MeasureError struct{ Code, text string }

func (e *MeasureError) Error() string { return e.text }

// Why a measure gives no amount.
const (
	NeverCalibrated = "never-calibrated"
	DensityUnknown  = "density-unknown"
	HeavierAfter    = "heavier-after"
	BelowNothing    = "below-nothing"
	NotComplete     = "not-complete"
)

// How an amount came to be known.
const (
	AsPlanned = "as planned"
	Counted   = "counted"
	Weighed   = "weighed"
)

// Reading is how the use of a product was measured in the room: counted in a measure, weighed before and
// after, or taken as planned, which moves stock but teaches nothing.
type Reading struct {
	How     string           `json:"how,omitempty" enum:"as planned,counted,weighed"`
	Measure string           `json:"measure,omitempty" enum:"mL,g,pcs,drops,presses,spatulas,ftu"`
	Count   *decimal.Decimal `json:"count,omitempty"`
	Before  *decimal.Decimal `json:"before,omitempty"`
	After   *decimal.Decimal `json:"after,omitempty"`
}

// Used is the amount in the product's unit. An error is a [*MeasureError].
func (r *Reading) Used(p Measured, planned decimal.Decimal) (decimal.Decimal, error) {
	switch r.How {
	case Counted:
		if r.Count == nil {
			return planned, &MeasureError{NotComplete, "nothing was counted yet"}
		}
		c := Count{Value: *r.Count, Measure: r.Measure, Product: p}
		return c.Amount()
	case Weighed:
		if r.Before == nil || r.After == nil {
			return planned, &MeasureError{NotComplete, "it is weighed before and after"}
		}
		w := Weighing{Before: *r.Before, After: *r.After, Unit: p.Unit}
		if p.Density != nil {
			w.Density = *p.Density
		}
		return w.Used()
	}
	return planned, nil
}

// Doubtful reports whether an amount is so far from its plan that the pen may have slipped: below a third
// of it or above three times.
func Doubtful(planned, used decimal.Decimal) bool {
	three := decimal.NewFromInt(3)
	return planned.IsPositive() && used.IsPositive() && (used.Mul(three).LessThan(planned) || used.GreaterThan(planned.Mul(three)))
}

// Measured is a product as far as measuring goes: its unit (mL, g or pcs) and what was found by weighing.
type Measured struct {
	Unit         string           `json:"unit" enum:"mL,g,pcs"`
	DropsPerML   *decimal.Decimal `json:"dropsPerML,omitempty"`
	Density      *decimal.Decimal `json:"density,omitempty"`
	MLPerPress   *decimal.Decimal `json:"mlPerPress,omitempty"`
	MLPerSpatula *decimal.Decimal `json:"mlPerSpatula,omitempty"`
	GPerFTU      *decimal.Decimal `json:"gPerFTU,omitempty"`
}

// Count is an amount as it was measured: mL, g, drops, presses, spatulas or fingertip units (ftu).
type Count struct {
	Value   decimal.Decimal `json:"value"`
	Measure string          `json:"measure" enum:"mL,g,pcs,drops,presses,spatulas,ftu"`
	Product Measured        `json:"product"`
}

// Amount is the count in the product's unit, to a thousandth. What was never calibrated gives no number.
func (c *Count) Amount() (decimal.Decimal, error) {
	p := &c.Product
	if c.Value.IsNegative() {
		return decimal.Zero, &MeasureError{BelowNothing, "an amount is not below 0"}
	}
	each := map[string]*decimal.Decimal{"presses": p.MLPerPress, "spatulas": p.MLPerSpatula, "ftu": p.GPerFTU, "drops": p.DropsPerML}
	n, unit := c.Value, "mL"
	switch c.Measure {
	case "mL":
	case "g", "pcs":
		unit = c.Measure
	case "drops", "presses", "spatulas", "ftu":
		by := each[c.Measure]
		if by == nil || !by.IsPositive() {
			return n, &MeasureError{NeverCalibrated, c.Measure + " were never calibrated for this product; weigh some first"}
		}
		if c.Measure == "drops" {
			n = n.DivRound(*by, exact)
		} else {
			n = n.Mul(*by)
		}
		if c.Measure == "ftu" {
			unit = "g"
		}
	default:
		return n, fmt.Errorf("there is no measure %q", c.Measure)
	}
	if unit != p.Unit {
		if unit == "pcs" || p.Unit == "pcs" {
			return n, fmt.Errorf("%s cannot be turned into %s", unit, p.Unit)
		}
		if p.Density == nil || !p.Density.IsPositive() {
			return n, &MeasureError{DensityUnknown, "the density is not known; weigh 10 mL first"}
		}
		if unit == "g" {
			n = n.DivRound(*p.Density, exact)
		} else {
			n = n.Mul(*p.Density)
		}
	}
	return n.Round(thousandth), nil
}

// Weighing is a bottle on the scale before and after.
type Weighing struct {
	Before  decimal.Decimal `json:"before"`
	After   decimal.Decimal `json:"after"`
	Density decimal.Decimal `json:"density"`
	Unit    string          `json:"unit" enum:"mL,g"`
}

// Used is what was taken between the two weighings, in the product's unit.
func (w *Weighing) Used() (decimal.Decimal, error) {
	g := w.Before.Sub(w.After)
	switch {
	case g.IsNegative():
		return g, &MeasureError{HeavierAfter, "it weighs more after than before; did the cap go back on?"}
	case w.Unit == "g":
		return g.Round(thousandth), nil
	case !w.Density.IsPositive():
		return g, &MeasureError{DensityUnknown, "the density must be above 0"}
	}
	return g.DivRound(w.Density, exact).Round(thousandth), nil
}

// Calibration is some drops, or presses, weighed several times.
type Calibration struct {
	Readings []decimal.Decimal `json:"readings"`
	Drops    int               `json:"drops"`
	Step     decimal.Decimal   `json:"step"` // of the scale, in g
	Density  decimal.Decimal   `json:"density"`
}

// Calibrated is what one drop holds, how many make a mL, and the error (95 %) in per cent.
type Calibrated struct {
	MLEach       string `json:"mlEach"`
	PerML        string `json:"perML"`
	ErrorPercent string `json:"errorPercent"`
}

// coarse is the error in per cent over which more drops, or a finer scale, are asked for (handbook, chapter 4).
var coarse = decimal.NewFromInt(5)

// Coarse reports whether the error is so large that more is to be weighed.
func (c *Calibrated) Coarse() bool {
	percent, err := decimal.NewFromString(c.ErrorPercent)
	return err == nil && percent.GreaterThan(coarse)
}

// Result is the calibration's outcome: 2u / m with u = sqrt(s^2/k + d^2/6), s the sample standard
// deviation of k readings, d the scale's step (two weighings rounded; handbook, chapter 4).
func (c *Calibration) Result() (Calibrated, error) {
	k := len(c.Readings)
	if k == 0 || c.Drops < 1 || !c.Density.IsPositive() {
		return Calibrated{}, errors.New("readings, drops and density must be above 0")
	}
	mean := decimal.Avg(c.Readings[0], c.Readings[1:]...)
	if !mean.IsPositive() {
		return Calibrated{}, errors.New("the readings weigh nothing")
	}
	n := decimal.NewFromInt(int64(c.Drops))
	each := decimal.Sum(c.Readings[0], c.Readings[1:]...).DivRound(n.Mul(c.Density).Mul(decimal.NewFromInt(int64(k))), exact)
	m, _ := mean.Float64()
	spread := 0.0
	for _, r := range c.Readings {
		x, _ := r.Float64()
		spread += (x - m) * (x - m)
	}
	if k > 1 {
		spread /= float64(k - 1)
	}
	d, _ := c.Step.Float64()
	percent := 100 * 2 * math.Sqrt(spread/float64(k)+d*d/6) / m
	return Calibrated{
		MLEach:       each.StringFixed(5),
		PerML:        decimal.NewFromInt(1).DivRound(each, exact).StringFixed(2),
		ErrorPercent: decimal.NewFromFloat(percent).StringFixed(1),
	}, nil
}

// Scale is how a pack is weighed.
type Scale struct {
	Pack    decimal.Decimal  `json:"pack"`
	Step    decimal.Decimal  `json:"step"`
	Density *decimal.Decimal `json:"density,omitempty"`
	Unit    string           `json:"unit" enum:"mL,g"`
}

// Tolerance of a weighed line of a count: the larger of half a per cent of the pack and what the scale
// cannot tell apart.
func (s *Scale) Tolerance() (decimal.Decimal, error) {
	step, _ := s.Step.Float64()
	blur := decimal.NewFromFloat(2 * step / math.Sqrt(6))
	if s.Unit != "g" {
		if s.Density == nil || !s.Density.IsPositive() {
			return blur, errors.New("the density must be above 0")
		}
		blur = blur.DivRound(*s.Density, exact)
	}
	return decimal.Max(s.Pack.Mul(decimal.NewFromFloat(0.005)), blur).Round(thousandth), nil
}

// Line is a pack on a count sheet: weighed (gross and tare), or counted.
type Line struct {
	Left decimal.Decimal `json:"left"` // by the books
	Scale
	Gross   *decimal.Decimal `json:"gross,omitempty"`
	Tare    *decimal.Decimal `json:"tare,omitempty"`
	Counted *decimal.Decimal `json:"counted,omitempty"`
}

// CountedLine is a line's outcome: what was found, and what of the difference is booked.
type CountedLine struct {
	Counted    decimal.Decimal `json:"counted"`
	Tolerance  decimal.Decimal `json:"tolerance"`
	Difference decimal.Decimal `json:"difference"`
	Booked     decimal.Decimal `json:"booked"`
}

// Close compares a line with the books: a difference up to the tolerance is not booked.
func (l *Line) Close() (CountedLine, error) {
	var out CountedLine
	switch {
	case l.Counted != nil:
		out.Counted = *l.Counted
	case l.Gross != nil && l.Tare != nil:
		w := Weighing{Before: *l.Gross, After: *l.Tare, Unit: l.Unit}
		if l.Density != nil {
			w.Density = *l.Density
		}
		var err error
		if out.Counted, err = w.Used(); err != nil {
			return out, errors.New("gross and tare do not give an amount")
		}
		if out.Tolerance, err = l.Tolerance(); err != nil {
			return out, err
		}
	default:
		return out, errors.New("a line is counted, or weighed with gross and tare")
	}
	out.Difference = out.Counted.Sub(l.Left)
	if out.Difference.Abs().GreaterThan(out.Tolerance) {
		out.Booked = out.Difference
	}
	return out, nil
}
