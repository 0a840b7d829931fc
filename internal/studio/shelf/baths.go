package shelf

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Bath is a disinfectant bath as it is kept.
type Bath struct {
	ID       uuid.UUID `json:"id"`
	Product  string    `json:"product"`
	Lot      string    `json:"lot"`
	Dilution string    `json:"dilution"`
	// Contact is how many minutes a piece stays in it, by its label.
	Contact   int       `json:"contact" minimum:"1" maximum:"1440"`
	MadeAt    time.Time `json:"madeAt"`
	GoodUntil time.Time `json:"goodUntil"`
	Good      bool      `json:"good"`
}

func (b *Bath) core() *shelf.Bath {
	return &shelf.Bath{MadeAt: b.MadeAt, GoodUntil: b.GoodUntil, Contact: time.Duration(b.Contact) * time.Minute}
}

// HeatCycle is a load of a steriliser.
type HeatCycle struct {
	Number  int        `json:"number"`
	Load    []PieceRef `json:"load" minItems:"1" maxItems:"60"`
	Celsius int        `json:"celsius" minimum:"60" maximum:"200"`
	Minutes int        `json:"minutes" minimum:"1" maximum:"600"`
	// Passed is what the indicator says.
	Passed bool      `json:"passed"`
	By     string    `json:"by"`
	At     time.Time `json:"at"`
	// Since are the appointments since the last good cycle of what was in a load that failed.
	Since []string `json:"since"`
}

// NewBath is a bath as somebody makes it up.
type NewBath struct {
	Product  string `json:"product" maxLength:"120"`
	Lot      string `json:"lot" maxLength:"60"`
	Dilution string `json:"dilution" maxLength:"60"`
	Contact  int    `json:"contact" minimum:"1" maximum:"1440"`
	// Hours it is good for, by its label.
	Hours int `json:"hours" minimum:"1" maximum:"1000"`
}

// MakeBath makes up a bath; the ones before are discarded.
func (s *Service) MakeBath(ctx context.Context, a *studio.Actor, n *NewBath) error {
	if err := a.May("make-bath"); err != nil {
		return err
	}
	if n.Product = strings.TrimSpace(n.Product); n.Product == "" {
		return studio.FaultAt("/product", words.NameTheDisinfectant())
	}
	return studio.In(ctx, s.Kernel, a, func(tx toolStore, _ *studio.Studio) error {
		b := &Bath{
			ID: studio.NewID(), Product: n.Product, Lot: strings.TrimSpace(n.Lot), Dilution: strings.TrimSpace(n.Dilution), Contact: n.Contact,
			MadeAt: s.Now(), GoodUntil: s.Now().Add(time.Duration(n.Hours) * time.Hour),
		}
		return tx.AddBath(ctx, b, a.Account)
	})
}

// DiscardBath throws a bath away; what lies in it stays where it is and is to clean again when it comes out.
func (s *Service) DiscardBath(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("discard-bath"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx toolStore, _ *studio.Studio) error { return tx.DiscardBath(ctx, id, s.Now()) })
}

// AddHeatCycle writes down a load of the steriliser. Where the indicator says that it failed, everything in
// the load is to clean again, and the appointments since its last good cycle are named.
func (s *Service) AddHeatCycle(ctx context.Context, a *studio.Actor, c *HeatCycle) (*HeatCycle, error) {
	if err := a.May("add-heat-cycle"); err != nil {
		return nil, err
	}
	return c, studio.In(ctx, s.Kernel, a, func(tx toolStore, st *studio.Studio) error {
		r, err := s.toolsNow(ctx, tx, st, true)
		if err != nil {
			return err
		}
		list, err := tx.HeatCycles(ctx)
		if err != nil {
			return err
		}
		c.At, c.By, c.Number, c.Since = s.Now(), a.Name, 1, []string{}
		if len(list) > 0 {
			c.Number = list[0].Number + 1
		}
		for k, ref := range c.Load {
			i := slices.IndexFunc(r.pieces, func(p Piece) bool { return p.Tool == ref.Tool && p.Number == ref.Number })
			if i < 0 {
				return studio.FaultAt(fmt.Sprintf("/load/%d", k), words.ThereIsNoSuchPiece())
			}
			state := shelf.PieceReady
			if !c.Passed {
				state = shelf.PieceToClean
				good, err := tx.LastGoodCycle(ctx, ref)
				if err != nil && !errors.Is(err, studio.ErrNotFound) {
					return err
				}
				visits, err := tx.PieceVisits(ctx, ref, good)
				if err != nil {
					return err
				}
				for _, v := range visits {
					if !slices.Contains(c.Since, v) {
						c.Since = append(c.Since, v)
					}
				}
			}
			if _, err := s.setPiece(ctx, tx, &r.pieces[i], state, words.HeatCycleNumber(c.Number).Message, a); err != nil {
				return err
			}
		}
		return tx.AddHeatCycle(ctx, studio.NewID(), c, a.Account)
	})
}
