package slip

import (
	"slices"

	"softpalm/internal/craft/substance"
)

// Product is what the core needs to know of a product on the shelf.
type Product struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Form Form   `json:"form"`
	// FullDose is the studio's amount for face to decollete, in mL; RangeMin and
	// RangeMax bound what it calls right.
	FullDose float64 `json:"fullDose"`
	RangeMin float64 `json:"rangeMin"`
	RangeMax float64 `json:"rangeMax"`
	// DropsPerML and MLPerPress are found on the scale; 0 where not dosed so.
	DropsPerML float64 `json:"dropsPerMl"`
	MLPerPump  float64 `json:"mlPerPress"`
	// Density in g per mL; 0 counts as 1.
	Density float64 `json:"density"`
	// HalfLife in minutes as learned by the studio; 0 takes the form's.
	HalfLife float64 `json:"halfLife"`
	// Cost of one mL as a decimal number in the studio's currency; empty where it
	// is not known.
	Cost string `json:"cost,omitempty"`
	// Tags given by the studio; see [Product.AllTags] for all.
	Tags     []string `json:"tags"`
	Unsuited []string `json:"unsuited"`
	// Ingredients as the pack lists them, by INCI name.
	Ingredients []string `json:"ingredients,omitempty"`
}

// HalfLifeMinutes is the product's own half-life, else that of its form.
func (p *Product) HalfLifeMinutes() float64 {
	if p.HalfLife > 0 {
		return p.HalfLife
	}
	return HalfLife(p.Form)
}

// AllTags lists the tags the product carries: those given it, as rules write
// them, what they imply, and what its ingredients bring.
func (p *Product) AllTags() []string { return substance.AllTags(p.Tags, p.Ingredients) }

// HasTag reports whether the product carries any of the tags.
func (p *Product) HasTag(tags ...string) bool {
	return slices.ContainsFunc(p.AllTags(), func(t string) bool { return slices.Contains(tags, t) })
}

// Measure is how the hand doses a product.
type Measure string

// The measures.
const (
	ML    Measure = "mL"
	Gram  Measure = "g"
	Drops Measure = "drops"
	Pumps Measure = "presses"
	// Sprays and Spatulas are said where no shelf has measured them: the amount is then a question.
	Sprays   Measure = "sprays"
	Spatulas Measure = "spatulas"
)

// Amount is a quantity of product in the measure in which it is dosed.
type Amount struct {
	Value   float64 `json:"value" minimum:"0" maximum:"1000"`
	Measure Measure `json:"measure" enum:"mL,g,drops,presses,sprays,spatulas"`
}

// In returns the amount in mL; ok is false where the product was never
// measured in that way.
func (a Amount) In(p *Product) (mL float64, ok bool) {
	switch a.Measure {
	case ML:
		return a.Value, true
	case Gram:
		return a.Value / p.GramsPerML(), true
	case Drops:
		if p.DropsPerML <= 0 {
			return 0, false
		}
		return a.Value / p.DropsPerML, true
	case Pumps:
		if p.MLPerPump <= 0 {
			return 0, false
		}
		return a.Value * p.MLPerPump, true
	}
	return 0, false
}

// smallest is the least by which a hand can dose in each measure (common practice).
var smallest = map[Measure]float64{Drops: 1, Pumps: 0.5, Gram: 0.1, ML: 0.05, Sprays: 1, Spatulas: 0.5}

// Smallest is the least amount that a hand can dose in the measure, and the step
// between amounts.
func (m Measure) Smallest() float64 { return smallest[m] }

// GramsPerML is the density; a product that was never weighed counts as water.
func (p *Product) GramsPerML() float64 {
	if p.Density > 0 {
		return p.Density
	}
	return 1
}

// PerML is how many of a shelf's units (mL or g) one mL of the product is: stock,
// prices and records are in the unit, doses in mL.
func (p *Product) PerML(unit Measure) float64 {
	if unit == Gram {
		return p.GramsPerML()
	}
	return 1
}

// Measures are those in which the product can be dosed: what the scale has found, and sprays and spatulas
// by its form.
func (p *Product) Measures() []string {
	out := []string{string(ML)}
	add := func(can bool, m Measure) {
		if can {
			out = append(out, string(m))
		}
	}
	add(p.Density > 0, Gram)
	add(p.DropsPerML > 0, Drops)
	add(p.MLPerPump > 0, Pumps)
	add(p.Form == Mist || p.Form == Water, Sprays)
	add(p.Form == Balm || p.Form == MassageCream || p.Form == Mask || p.Form == DayCream, Spatulas)
	return out
}

// Measured reports whether the product was ever measured in the amount's way.
func (a Amount) Measured(p *Product) bool {
	if a.Measure == Sprays || a.Measure == Spatulas {
		return true // nobody measures them yet; what they come to is asked
	}
	_, ok := a.In(p)
	return ok
}
