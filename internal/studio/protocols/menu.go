package protocols

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
)

// menuStore is what says whether a protocol can be given today.
type menuStore interface {
	protocolStore
	Packs(ctx context.Context) ([]studio.Pack, error)                    // that hold something
	ToolsOut(ctx context.Context, from string) ([]studio.ToolOut, error) // from a day on
	Practitioners(ctx context.Context) ([]studio.Person, error)          // by name
}

// Lack is what a protocol wants today and the studio does not have.
type Lack struct {
	Kind string `json:"kind" enum:"product,tool,skill"`
	Name string `json:"name"`
}

// MenuLine is a protocol on the menu: the way of its hands, and what is lacking today.
type MenuLine struct {
	Protocol uuid.UUID                `json:"protocol"`
	Seconds  float64                  `json:"seconds"`
	Travel   []evaluation.TravelPoint `json:"travel"`
	Lacks    []Lack                   `json:"lacks"`
}

// Menu says of every protocol how the hands travel and whether it can be given today: enough of each
// product in packs that may be used, a piece of each tool that is not out, somebody with the skills.
func (s *Service) Menu(ctx context.Context, a *studio.Actor) ([]MenuLine, error) {
	var out []MenuLine
	err := studio.In(ctx, s.Kernel, a, func(tx menuStore, st *studio.Studio) (err error) {
		key := fmt.Sprintf("menu of %s on %s", a.Account, s.Today(st))
		from := []studio.Area{studio.InCatalog, studio.InPlans, studio.InStock, studio.InDiary}
		out, err = studio.Keep(ctx, tx, key, from, func() ([]MenuLine, error) { return s.menuOf(ctx, tx, a, s.Today(st)) })
		return err
	})
	return out, err
}

// menuOf works the menu out for a day.
func (s *Service) menuOf(ctx context.Context, tx menuStore, a *studio.Actor, today string) ([]MenuLine, error) {
	lib, err := studio.ReadLibrary(ctx, tx)
	if err != nil {
		return nil, err
	}
	m := menu{lib: lib.Context(), units: map[string]slip.Measure{}, left: map[string]decimal.Decimal{}, pieces: map[string]int{}}
	if err := m.shelf(ctx, tx, lib, today); err != nil {
		return nil, err
	}
	if err := m.hands(ctx, tx, lib, today); err != nil {
		return nil, err
	}
	list, err := tx.Protocols(ctx, a.Account)
	if err != nil {
		return nil, err
	}
	out := make([]MenuLine, len(list))
	for i := range list {
		p := &list[i].Body
		e := evaluation.Evaluate(p, m.lib)
		out[i] = MenuLine{Protocol: list[i].ID, Seconds: e.Seconds, Travel: e.Travel(), Lacks: m.lacks(p, e)}
	}
	return out, nil
}

// menu is what the studio has today.
type menu struct {
	lib    *protocol.Context
	units  map[string]slip.Measure
	left   map[string]decimal.Decimal // by product, in its unit, in packs that may be used
	pieces map[string]int             // by tool
	able   [][]string                 // the skills of each practitioner
}

func (m *menu) shelf(ctx context.Context, tx menuStore, lib *studio.Library, today string) error {
	packs, err := tx.Packs(ctx)
	if err != nil {
		return err
	}
	for i := range lib.Products {
		p := &lib.Products[i]
		m.units[p.Key] = slip.Measure(p.Unit)
		m.left[p.Key] = studio.UsableOf(packs, p.ID, today)
	}
	return nil
}

func (m *menu) hands(ctx context.Context, tx menuStore, lib *studio.Library, today string) error {
	for i := range lib.Tools {
		m.pieces[lib.Tools[i].Key] = lib.Tools[i].Pieces
	}
	out, err := tx.ToolsOut(ctx, today)
	if err != nil {
		return err
	}
	for i := range out {
		if out[i].From <= today {
			m.pieces[out[i].Tool] -= out[i].Pieces
		}
	}
	people, err := tx.Practitioners(ctx)
	if err != nil {
		return err
	}
	for i := range people {
		can := slices.Clone(people[i].Skills)
		for _, l := range people[i].Licences {
			if l.Until == "" || l.Until >= today {
				can = append(can, l.Name)
			}
		}
		m.able = append(m.able, can)
	}
	return nil
}

// lacks lists what a plan wants and the studio does not have today.
func (m *menu) lacks(p *protocol.Protocol, e *evaluation.Evaluation) []Lack {
	out := []Lack{}
	for i := range e.Products {
		pl := &e.Products[i]
		need := decimal.NewFromFloat(pl.ML * m.lib.Products[pl.Product].PerML(m.units[pl.Product])).Round(3)
		if !pl.Optional && m.left[pl.Product].LessThan(need) {
			out = append(out, Lack{"product", pl.Name})
		}
	}
	for _, key := range e.Tools {
		if m.pieces[key] < 1 {
			name := m.lib.Tools[key].Name
			if name == "" {
				name = key
			}
			out = append(out, Lack{"tool", name})
		}
	}
	for _, skill := range p.Skills {
		if !slices.ContainsFunc(m.able, func(can []string) bool { return slices.Contains(can, skill) }) {
			out = append(out, Lack{"skill", skill})
		}
	}
	return out
}
