package studio

import (
	"slices"
	"strings"
	"time"

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
}

// Lot is a lot with its product.
type Lot struct {
	shelf.Lot
	UUID     uuid.UUID
	Product  uuid.UUID
	Received string
}

// Movement is one stock movement; only ever added.
type Movement struct {
	ID      uuid.UUID
	Lot     uuid.UUID
	Kind    shelf.Kind
	Amount  decimal.Decimal // in the product's unit; what leaves is negative
	Planned *decimal.Decimal
	Visit   *uuid.UUID
	Account *uuid.UUID
	Note    string
	At      time.Time
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

func InUnit(p *Product, mL float64) decimal.Decimal {
	return decimal.NewFromFloat(mL * p.PerML(slip.Measure(p.Unit))).Round(2)
}

func LotsOf(lots []Lot, product uuid.UUID) []*shelf.Lot {
	var out []*shelf.Lot
	for i := range lots {
		if lots[i].Product == product {
			out = append(out, &lots[i].Lot)
		}
	}
	return out
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
