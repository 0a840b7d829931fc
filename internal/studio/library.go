package studio

import (
	"context"
	"maps"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Library is what protocols are made of. Strokes holds the trade's repertoire
// and the studio's own; one of its own takes the place of a trade stroke of the
// same key.
type Library struct {
	Strokes  []stroke.Stroke
	Tools    []protocol.Tool
	Products []Product
	// Zones are those that the studio added.
	Zones    []anatomy.OwnZone
	Currency string
	// Own lists the keys of the studio's own strokes.
	Own []string
	// context is what it gathers, once it did.
	context *protocol.Context
}

// Context gathers what the core judges a protocol against.
func (l *Library) Context() *protocol.Context {
	if l.context != nil {
		own := *l.context // who asks says for whom, and may add what a file brings
		own.Strokes, own.Products, own.Tools = maps.Clone(own.Strokes), maps.Clone(own.Products), maps.Clone(own.Tools)
		return &own
	}
	c := &protocol.Context{
		Strokes:  stroke.ByKey(l.Strokes),
		Products: make(map[string]*slip.Product, len(l.Products)),
		Tools:    make(map[string]protocol.Tool, len(l.Tools)),
		Zones:    anatomy.Own(l.Zones),
	}
	for i := range l.Products {
		p := &l.Products[i]
		if p.Unit == Pieces {
			continue // what is counted in pieces is in no plan of strokes
		}
		core := p.Product
		if p.LearnedHalfLife > 0 {
			core.HalfLife = p.LearnedHalfLife
		}
		if p.PackSize.IsPositive() {
			perML := decimal.NewFromFloat(p.PerML(slip.Measure(p.Unit)))
			core.Cost = p.Price.Mul(perML).DivRound(p.PackSize, 6).String()
		}
		c.Products[p.Key] = &core
	}
	for _, t := range l.Tools {
		c.Tools[t.Key] = t
	}
	return c
}

// Growing is a copy that may be added to, as an import does.
func (l *Library) Growing() Library {
	return Library{
		Strokes: slices.Clone(l.Strokes), Tools: slices.Clone(l.Tools), Products: slices.Clone(l.Products),
		Zones: slices.Clone(l.Zones), Currency: l.Currency, Own: slices.Clone(l.Own),
	}
}

// LibraryStore is what a library is read from.
type LibraryStore interface {
	Tx
	Strokes(ctx context.Context) ([]stroke.Stroke, error)    // by key
	Tools(ctx context.Context) ([]protocol.Tool, error)      // by key
	Products(ctx context.Context) ([]Product, error)         // by name
	OwnZones(ctx context.Context) ([]anatomy.OwnZone, error) // by key
}

// ReadLibrary gathers the trade's repertoire, the studio's own strokes and zones, its tools
// and its products.
func ReadLibrary(ctx context.Context, tx LibraryStore) (*Library, error) {
	kept, err := Keep(ctx, tx, "library", []Area{InCatalog}, func() (*Library, error) { return readLibrary(ctx, tx) })
	if err != nil {
		return nil, err
	}
	own := *kept // who reads it says its currency
	return &own, nil
}

func readLibrary(ctx context.Context, tx LibraryStore) (*Library, error) {
	var l Library
	var err error
	own, err := tx.Strokes(ctx)
	if err != nil {
		return nil, err
	}
	l.Strokes, l.Own = withTrade(own), make([]string, len(own))
	for i := range own {
		l.Own[i] = own[i].Key
	}
	if l.Tools, err = tx.Tools(ctx); err != nil {
		return nil, err
	}
	if l.Products, err = tx.Products(ctx); err != nil {
		return nil, err
	}
	if l.Zones, err = tx.OwnZones(ctx); err != nil {
		return nil, err
	}
	l.context = l.Context()
	return &l, nil
}

// withTrade joins the trade's strokes with a studio's own, by key.
func withTrade(own []stroke.Stroke) []stroke.Stroke {
	list := slices.Clone(own)
	for _, st := range stroke.Trade() {
		if !slices.ContainsFunc(own, func(o stroke.Stroke) bool { return o.Key == st.Key }) {
			list = append(list, st)
		}
	}
	slices.SortFunc(list, func(a, b stroke.Stroke) int { return strings.Compare(a.Key, b.Key) })
	return list
}
