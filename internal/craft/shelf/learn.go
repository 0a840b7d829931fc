package shelf

import (
	"errors"
	"math"
	"slices"

	"github.com/shopspring/decimal"
)

// Dosed is a record of a product: planned against real, and how it was measured.
type Dosed struct {
	Practitioner string          `json:"practitioner"`
	Planned      decimal.Decimal `json:"planned"`
	Real         decimal.Decimal `json:"real"`
	How          string          `json:"how" enum:"as planned,counted,weighed"`
}

// Teaches reports whether a record says something of a habit: it was measured, and is no slip of the pen
// (below a third or above three times the plan).
func (d *Dosed) Teaches() bool {
	return d.How != AsPlanned && d.Planned.IsPositive() && d.Real.IsPositive() && !Doubtful(d.Planned, d.Real)
}

// DoseFactors is how much is used of what is planned: in the studio and by practitioner, to 4 decimals,
// and how many records they rest on.
type DoseFactors struct {
	Studio        decimal.Decimal            `json:"studio"`
	Practitioners map[string]decimal.Decimal `json:"practitioners"`
	Used          int                        `json:"used"`
}

// newest is how many records a learned figure rests on at most; prior how many a starting value counts.
const (
	newest = 40
	prior  = 5
)

// Factors works out the dose factors of a product from its records, oldest first: the studio's
// (5 + sum of ratios) / (5 + n), a practitioner's the same from the studio's (handbook, chapter 4).
func Factors(records []Dosed) DoseFactors {
	var all []decimal.Decimal
	own := map[string][]decimal.Decimal{}
	for i := range records {
		d := &records[i]
		own[d.Practitioner] = append(own[d.Practitioner], nil...)
		if d.Teaches() {
			r := d.Real.DivRound(d.Planned, exact)
			all, own[d.Practitioner] = append(all, r), append(own[d.Practitioner], r)
		}
	}
	towards := func(start decimal.Decimal, ratios []decimal.Decimal) decimal.Decimal {
		ratios = ratios[max(0, len(ratios)-newest):]
		sum := start.Mul(decimal.NewFromInt(prior))
		for _, r := range ratios {
			sum = sum.Add(r)
		}
		return sum.DivRound(decimal.NewFromInt(int64(prior+len(ratios))), exact)
	}
	studio := towards(decimal.NewFromInt(1), all)
	out := DoseFactors{Studio: studio.Round(4), Practitioners: map[string]decimal.Decimal{}, Used: len(all)}
	for who, ratios := range own {
		out.Practitioners[who] = towards(studio, ratios).Round(4)
	}
	return out
}

// Slid is what a record says of how long an application slid: product had to be added at a minute (at),
// it was still sliding (beyond), or already dry (before).
type Slid struct {
	Minute float64 `json:"minute"`
	Kind   string  `json:"kind" enum:"at,beyond,before"`
	// Slip0 just after the application, 100 where absent; Need of the stroke, 35 where absent; Skin the
	// skin's factor, 1 where absent.
	Slip0 *float64 `json:"slip0,omitempty"`
	Need  *float64 `json:"need,omitempty"`
	Skin  *float64 `json:"skin,omitempty"`
}

// halfLife is the half-life that an observation speaks of; false where it says nothing.
func (s *Slid) halfLife() (float64, bool) {
	from, need, skin := or(s.Slip0, 100), or(s.Need, 35), or(s.Skin, 1)
	if from <= need || need <= 0 || s.Minute <= 0 || skin <= 0 {
		return 0, false
	}
	return s.Minute / math.Log2(from/need) / skin, true
}

func or(v *float64, usual float64) float64 {
	if v == nil {
		return usual
	}
	return *v
}

// Observed is a product's prior half-life in minutes with what was seen since, oldest first.
type Observed struct {
	Prior        float64 `json:"prior"`
	Observations []Slid  `json:"observations"`
}

// HalfLife is the studio's own half-life in minutes: exp(m), m the minimum of the squares of the handbook
// (chapter 4), the prior counting five times, a bound only while the estimate breaks it; held between a
// third and three times the prior.
func (o *Observed) HalfLife() (float64, error) {
	if o.Prior <= 0 {
		return 0, errors.New("the prior half-life must be above 0")
	}
	type seen struct {
		log  float64
		kind string
	}
	var list []seen
	for i := range o.Observations {
		s := &o.Observations[i]
		if !slices.Contains([]string{"at", "beyond", "before"}, s.Kind) {
			return 0, errors.New("an observation is at, beyond or before")
		}
		if h, ok := s.halfLife(); ok {
			list = append(list, seen{math.Log(h), s.Kind})
		}
	}
	list = list[max(0, len(list)-newest):]
	start := math.Log(o.Prior)
	// The derivative grows with m: its one zero is found by halving.
	slope := func(m float64) float64 {
		d := prior * (m - start)
		for _, s := range list {
			if s.kind == "at" || s.kind == "beyond" && s.log > m || s.kind == "before" && m > s.log {
				d += m - s.log
			}
		}
		return d
	}
	low, high := start-math.Log(3), start+math.Log(3)
	for range 200 {
		if mid := (low + high) / 2; slope(mid) > 0 {
			high = mid
		} else {
			low = mid
		}
	}
	return math.Exp((low + high) / 2), nil
}
