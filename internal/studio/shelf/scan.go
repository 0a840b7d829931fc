package shelf

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Found is what a scanned code means on this shelf. What is not known is empty.
type Found struct {
	GTIN    string     `json:"gtin"`
	Lot     string     `json:"lot"`
	Expiry  string     `json:"expiry"`
	Product *uuid.UUID `json:"product,omitempty"`
	Name    string     `json:"name"`
	// LotID is the lot where it is on the shelf; Pack the pack, where the code names one or the lot has one
	// open pack, else the next to be used.
	LotID *uuid.UUID `json:"lotId,omitempty"`
	Pack  *uuid.UUID `json:"pack,omitempty"`
}

// Scan reads a code and finds what it names on the shelf.
func (s *Service) Scan(ctx context.Context, a *studio.Actor, code string) (*Found, error) {
	if err := a.May("scan-code"); err != nil {
		return nil, err
	}
	var out *Found
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		read, err := shelf.ReadCode(code, s.Today(st))
		if err != nil {
			return studio.FaultAt("/code", words.ThisCodeCannotBeRead(err.Error()))
		}
		out = &Found{GTIN: read.GTIN, Lot: read.Lot, Expiry: read.Expiry}
		packs, err := tx.Packs(ctx)
		if err != nil {
			return err
		}
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		out.find(read, packs, products, s.Today(st))
		return nil
	})
	return out, err
}

// find looks for what a code names.
func (f *Found) find(read shelf.Scanned, packs []studio.Pack, products []studio.Product, today string) {
	take := func(p *studio.Pack) {
		f.Product, f.LotID, f.Pack, f.Lot = &p.Product, &p.LotID, &p.ID, p.Lot
	}
	for i := range products {
		if p := &products[i]; read.GTIN != "" && p.GTIN == read.GTIN {
			f.Product, f.Name = &p.ID, p.Name
		}
	}
	var of []studio.Pack
	for i := range packs {
		p := &packs[i]
		switch {
		case read.Pack != "" && p.ID.String() == read.Pack:
			take(p)
		case read.Lot != "" && p.Lot == read.Lot && (f.Product == nil || p.Product == *f.Product):
			of = append(of, *p)
		}
	}
	if len(of) > 0 {
		take(&of[0])
		core := make([]shelf.Pack, len(of))
		for i := range of {
			core[i] = of[i].Pack
		}
		if next, err := shelf.PickFrom(core, of[0].Size, today); err == nil && len(next.Taken) > 0 {
			take(&of[next.Taken[0].At])
		}
	}
	for i := range products {
		if f.Product != nil && products[i].ID == *f.Product {
			f.Name = products[i].Name
		}
	}
}
