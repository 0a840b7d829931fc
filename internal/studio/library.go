package studio

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/craft/substance"
)

var notKey = regexp.MustCompile(`[^a-z0-9]+`)

// keyOf makes a key of a name: lower case, hyphenated.
func keyOf(name string) string {
	key := strings.Trim(notKey.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(key) > 50 {
		key = strings.TrimRight(key[:50], "-")
	}
	return key
}

// freeKey returns a key made from a name that nothing has yet.
func freeKey(name, fallback string, taken func(string) bool) string {
	stem := keyOf(name)
	if stem == "" {
		stem = fallback
	}
	key := stem
	for n := 2; taken(key); n++ {
		key = fmt.Sprintf("%s-%d", stem, n)
	}
	return key
}

// SaveStroke keeps a stroke of the studio's own. One without a key is new and
// gets a key from its name; one with the key of a trade stroke takes its place in
// this studio.
func (s *Service) SaveStroke(ctx context.Context, a *Actor, st stroke.Stroke) (*stroke.Stroke, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c := lib.context()
		if st.Key == "" {
			st.Key = freeKey(st.Name, "stroke", func(k string) bool { return c.Strokes[k] != nil })
		}
		if st.Tool != nil && c.Tools[st.Tool.Key].Name == "" {
			return faultAt("/tool/key", "The studio has no tool %q.", st.Tool.Key)
		}
		if ps := st.Validate(""); len(ps) > 0 {
			return &InputError{ps}
		}
		return tx.SaveStroke(ctx, &st)
	})
	return &st, err
}

// DropStroke removes a stroke of the studio's own that no protocol and no booked
// visit uses; where it stood in for a trade stroke, that one is back.
func (s *Service) DropStroke(ctx context.Context, a *Actor, key string) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error {
		if stroke.ByKey(stroke.Trade())[key] == nil {
			users, err := tx.StrokeUsers(ctx, key)
			if err != nil {
				return err
			}
			if len(users) > 0 {
				return &StateError{"stroke-in-use", "The protocol " + users[0] + " uses this stroke, in a draft, as published, or in a version that a visit is booked with. Take it out there first."}
			}
		}
		return tx.DropStroke(ctx, key)
	})
}

// AddTool adds a tool under a key made from its name.
func (s *Service) AddTool(ctx context.Context, a *Actor, t protocol.Tool) (*protocol.Tool, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c := lib.context()
		if t.Key == "" {
			t.Key = freeKey(t.Name, "tool", func(k string) bool { return c.Tools[k].Name != "" })
		}
		if err := tx.AddTool(ctx, &t); errors.Is(err, ErrExists) {
			return faultAt("/key", "There is a tool with the key %q already.", t.Key)
		} else if err != nil {
			return err
		}
		return nil
	})
	return &t, err
}

// NewProduct is a product to put on the shelf, without stock.
type NewProduct struct {
	FileProduct
	Unit      string          `json:"unit" enum:"mL,g"`
	PackSize  decimal.Decimal `json:"packSize"`
	Price     decimal.Decimal `json:"price"`
	ReorderAt decimal.Decimal `json:"reorderAt"`
}

// AddProduct puts a product on the shelf.
func (s *Service) AddProduct(ctx context.Context, a *Actor, n NewProduct) (id uuid.UUID, err error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return id, err
	}
	switch {
	case !n.PackSize.IsPositive():
		return id, faultAt("/packSize", "A pack holds more than nothing.")
	case n.Price.IsNegative() || n.ReorderAt.IsNegative():
		return id, faultAt("/price", "Price and re-order point are not below zero.")
	case n.RangeMax < n.RangeMin:
		return id, faultAt("/rangeMax", "The range ends (%v mL) before it begins (%v mL).", n.RangeMax, n.RangeMin)
	case n.FullDose <= 0:
		return id, faultAt("/fullDose", "Say how much is a full dose from face to decollete, in mL.")
	}
	made := Contents{n.Ingredients, n.Tags, n.Unsuited}
	if err := made.tidy(); err != nil {
		return id, err
	}
	n.Ingredients, n.Tags, n.Unsuited = made.Ingredients, made.Tags, made.Unsuited
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c := lib.context()
		if n.Key == "" {
			n.Key = freeKey(n.Name, "product", func(k string) bool { return c.Products[k] != nil })
		}
		p := Product{ID: newID(), Product: n.Core(), Unit: n.Unit, PackSize: n.PackSize, Price: n.Price, ReorderAt: n.ReorderAt}
		id = p.ID
		if err := tx.AddProduct(ctx, &p); errors.Is(err, ErrExists) {
			return faultAt("/key", "There is a product with the key %q already.", n.Key)
		} else if err != nil {
			return err
		}
		return nil
	})
	return id, err
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

// tidy takes out what is empty or there twice, and writes tags as rules do.
func (c *Contents) tidy() error {
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
		return faultAt("/ingredients", "That are more than 200 ingredients. Check the commas between them.")
	}
	return nil
}

// SaveContents writes what a product is made of.
func (s *Service) SaveContents(ctx context.Context, a *Actor, product uuid.UUID, c Contents) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	if err := c.tidy(); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error { return tx.SaveContents(ctx, product, c) })
}
