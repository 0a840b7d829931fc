package studio

import (
	"cmp"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/substance"
	"softpalm/words"
)

// Product is a product on the shelf with what the core needs of it.
type Product struct {
	// Revision counts the changes of its contents.
	Revision int
	ID       uuid.UUID
	slip.Product
	Unit      string
	PackSize  decimal.Decimal
	Price     decimal.Decimal
	ReorderAt decimal.Decimal
	Supply
	// LearnedHalfLife is the studio's own, in minutes, from so many observations; 0 where there is none.
	LearnedHalfLife float64
	LearnedFrom     int
}

// Supply is how a product is bought and kept.
type Supply struct {
	// Use is where it is used: in the cabin, for sale, or both.
	Use string `json:"use" enum:"cabin,retail,both"`
	// Place is where it stands: the cabinet, the trolley, the retail shelf.
	Place    string `json:"place" maxLength:"60"`
	Supplier string `json:"supplier" maxLength:"120"`
	// Article is the supplier's own number of it, GTIN the one on its pack (14 digits, or empty).
	Article  string `json:"articleNo" maxLength:"60"`
	GTIN     string `json:"gtin" maxLength:"14"`
	LeadDays int    `json:"leadDays" minimum:"0" maximum:"365"`
	MinPacks int    `json:"minPacks" minimum:"1" maximum:"1000"`
	// MonthsOpen is how long a pack keeps once opened; 0 where nothing is stated.
	MonthsOpen int `json:"monthsOpen" minimum:"0" maximum:"60"`
	// Tare is what an empty pack weighs, in g.
	Tare         *decimal.Decimal `json:"tare,omitempty"`
	MLPerSpatula float64          `json:"mlPerSpatula" minimum:"0" maximum:"50"`
	// PerVisit is how many pieces of a disposable every appointment takes.
	PerVisit int `json:"perVisit" minimum:"0" maximum:"100"`
	// PerProtocol is how many more some protocols take, by the protocol's key.
	PerProtocol map[string]int `json:"perProtocol,omitempty"`
}

// Usual fills in what a new product does not say.
func (s *Supply) Usual() {
	s.Use = cmp.Or(s.Use, CabinSide)
	s.LeadDays, s.MinPacks = cmp.Or(s.LeadDays, 5), max(s.MinPacks, 1)
}

// Pieces is the unit of what is counted: gloves, spatulas, caps.
const Pieces = "pcs"

// Measured is the product as far as measuring goes.
func (p *Product) Measured() shelf.Measured {
	known := func(v float64) *decimal.Decimal {
		if v <= 0 {
			return nil
		}
		d := decimal.NewFromFloat(v)
		return &d
	}
	return shelf.Measured{
		Unit:         p.Unit,
		DropsPerML:   known(p.DropsPerML),
		Density:      known(p.Density),
		MLPerPress:   known(p.MLPerPump),
		MLPerSpatula: known(p.MLPerSpatula),
		GPerFTU:      known(fingertipUnit),
	}
}

// fingertipUnit is about how many grams a fingertip unit holds. Source: Long and Finlay, Clin Exp
// Dermatol 16, 1991 (from memory).
const fingertipUnit = 0.5

// Lot is what a supplier numbered, or a batch that was mixed here.
type Lot struct {
	ID         uuid.UUID
	Product    uuid.UUID
	Number     string
	Expiry     string // a day; empty for none
	Received   string
	MonthsOpen int
}

// Contents is what a product is made of and whom it is not for.
type Contents struct {
	// Ingredients as the pack lists them.
	Ingredients []string `json:"ingredients" maxItems:"400"`
	// Tags given by the studio, besides those the ingredients bring.
	Tags []string `json:"tags" maxItems:"40"`
	// Unsuited are the skin types and states it is not for.
	Unsuited []string `json:"unsuited" maxItems:"20"`
}

// RevisedContents are contents with their revision: a change is made to one and gives
// the next.
type RevisedContents struct {
	Contents
	Revision int `json:"revision" minimum:"1"`
}

// Tidy takes out what is empty or there twice, and writes tags as rules do.
func (c *Contents) Tidy() error {
	for _, list := range []*[]string{&c.Ingredients, &c.Tags, &c.Unsuited} {
		out := []string{}
		for _, x := range *list {
			if list == &c.Tags {
				x = substance.CanonicalTag(x)
			}
			if x = strings.TrimSpace(x); x != "" && !slices.Contains(out, x) {
				out = append(out, x)
			}
		}
		*list = out
	}
	if len(c.Ingredients) > 200 {
		return FaultAt("/ingredients", words.ThisListHasMoreThan200Ingredients())
	}
	return nil
}

// InUnit is an amount in mL in the product's unit.
func InUnit(p *Product, mL float64) decimal.Decimal {
	return decimal.NewFromFloat(mL * p.PerML(slip.Measure(p.Unit))).Round(3)
}

// FileProduct is what a protocol needs to know of a product; stock and prices
// stay with the studio.
type FileProduct struct {
	Key        string    `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name       string    `json:"name" minLength:"1" maxLength:"120"`
	Form       slip.Form `json:"form" enum:"oil,balm,moisturising-serum,massage-cream,cleansing-milk,day-cream,watery-serum,mist,mask,sun-cream,water,scent-oil"`
	FullDose   float64   `json:"fullDose" minimum:"0" maximum:"1000"`
	RangeMin   float64   `json:"rangeMin" minimum:"0" maximum:"1000"`
	RangeMax   float64   `json:"rangeMax" minimum:"0" maximum:"1000"`
	DropsPerML float64   `json:"dropsPerMl,omitempty" minimum:"0" maximum:"200"`
	MLPerPress float64   `json:"mlPerPress,omitempty" minimum:"0" maximum:"50"`
	Density    float64   `json:"density,omitempty" minimum:"0" maximum:"3"`
	HalfLife   float64   `json:"halfLife,omitempty" minimum:"0" maximum:"600"`
	Tags       []string  `json:"tags,omitempty" maxItems:"40"`
	Unsuited   []string  `json:"unsuited,omitempty" maxItems:"20"`
	// Ingredients as the pack lists them, by INCI name.
	Ingredients []string `json:"ingredients,omitempty" maxItems:"200"`
}

// Core is the product as the core knows it.
func (f *FileProduct) Core() slip.Product {
	return slip.Product{
		Key:         f.Key,
		Name:        f.Name,
		Form:        f.Form,
		FullDose:    f.FullDose,
		RangeMin:    f.RangeMin,
		RangeMax:    f.RangeMax,
		DropsPerML:  f.DropsPerML,
		MLPerPump:   f.MLPerPress,
		Density:     f.Density,
		HalfLife:    f.HalfLife,
		Tags:        f.Tags,
		Unsuited:    f.Unsuited,
		Ingredients: f.Ingredients,
	}
}

func NewFileProduct(p *slip.Product) FileProduct {
	return FileProduct{
		Key:         p.Key,
		Name:        p.Name,
		Form:        p.Form,
		FullDose:    p.FullDose,
		RangeMin:    p.RangeMin,
		RangeMax:    p.RangeMax,
		DropsPerML:  p.DropsPerML,
		MLPerPress:  p.MLPerPump,
		Density:     p.Density,
		HalfLife:    p.HalfLife,
		Tags:        p.Tags,
		Unsuited:    p.Unsuited,
		Ingredients: p.Ingredients,
	}
}

// CarryParts gives every product that is mixed of others their ingredients and tags, through any number of
// mixings: each mixing is a product and one of its parts.
func CarryParts(products []Product, mixings [][2]uuid.UUID) {
	at := map[uuid.UUID]*Product{}
	for i := range products {
		at[products[i].ID] = &products[i]
	}
	add := func(to *[]string, from []string) (more bool) {
		for _, x := range from {
			if !slices.Contains(*to, x) {
				*to, more = append(slices.Clone(*to), x), true
			}
		}
		return more
	}
	for again := true; again; {
		again = false
		for _, m := range mixings {
			whole, part := at[m[0]], at[m[1]]
			if whole == nil || part == nil {
				continue
			}
			if add(&whole.Ingredients, part.Ingredients) || add(&whole.Tags, part.Tags) {
				again = true
			}
		}
	}
}
