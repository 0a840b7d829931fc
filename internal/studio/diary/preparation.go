package diary

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
)

// preparationStore is what a day's preparation is worked out from.
type preparationStore interface {
	Store
	studio.LibraryStore
	Packs(ctx context.Context) ([]studio.Pack, error) // that hold something
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	Treatment(ctx context.Context, visit uuid.UUID) (*studio.Treatment, error)
}

// Preparation is what to get ready for the treatments of today that have not begun.
type Preparation struct {
	evaluation.DayNeeds
	// Treatments counts them. Short are the keys of products of which the shelf holds less.
	Treatments int      `json:"treatments"`
	Short      []string `json:"short"`
}

// Preparation works out what today's treatments that have not begun take altogether: those
// of one practitioner, or all of them.
func (s *Service) Preparation(ctx context.Context, a *studio.Actor, practitioner *uuid.UUID) (*Preparation, error) {
	if err := a.May("get-preparation"); err != nil {
		return nil, err
	}
	out := &Preparation{Short: []string{}}
	err := studio.In(ctx, s.Kernel, a, func(tx preparationStore, st *studio.Studio) error {
		today := s.Now().In(st.Zone())
		from := time.Date(today.Year(), today.Month(), today.Day(), 0, 0, 0, 0, st.Zone())
		visits, err := tx.Visits(ctx, from, from.AddDate(0, 0, 1))
		if err != nil {
			return err
		}
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		list := []evaluation.DayTreatment{}
		for i := range visits {
			v := &visits[i]
			if a.MayVisit("get-preparation", &v.Visit) != nil || practitioner != nil && v.Practitioner != *practitioner {
				continue
			}
			items, err := layOut(ctx, tx, lib, v)
			if err != nil {
				return err
			}
			if items != nil {
				list = append(list, evaluation.DayTreatment{Start: v.StartsAt, End: v.EndsAt, SetUp: items})
			}
		}
		out.DayNeeds, out.Treatments = *evaluation.PrepareDay(list, lib.Context().Tools), len(list)
		packs, err := tx.Packs(ctx)
		if err != nil {
			return err
		}
		out.Short = short(out.Products, lib, packs, s.Today(st))
		return nil
	})
	return out, err
}

// SetUpOf is what to lay out for a treatment.
type SetUpOf struct {
	At       time.Time
	Client   string
	Protocol string
	Room     string
	Items    []evaluation.SetUpItem
}

// PractitionerSetUp is what a practitioner lays out today, treatment by treatment.
type PractitionerSetUp struct {
	Name       string
	Treatments []SetUpOf
}

// DaySetUp lists what to lay out for today's treatments that have not begun, by practitioner.
func (s *Service) DaySetUp(ctx context.Context, a *studio.Actor) ([]PractitionerSetUp, error) {
	if err := a.May("print-day-setup"); err != nil {
		return nil, err
	}
	out := []PractitionerSetUp{}
	err := studio.In(ctx, s.Kernel, a, func(tx preparationStore, st *studio.Studio) error {
		today := s.Now().In(st.Zone())
		from := time.Date(today.Year(), today.Month(), today.Day(), 0, 0, 0, 0, st.Zone())
		visits, err := tx.Visits(ctx, from, from.AddDate(0, 0, 1))
		if err != nil {
			return err
		}
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		for i := range visits {
			v := &visits[i]
			items, err := layOut(ctx, tx, lib, v)
			if err != nil {
				return err
			}
			if items == nil {
				continue
			}
			k := slices.IndexFunc(out, func(p PractitionerSetUp) bool { return p.Name == v.PractitionerName })
			if k < 0 {
				k, out = len(out), append(out, PractitionerSetUp{Name: v.PractitionerName})
			}
			out[k].Treatments = append(out[k].Treatments, SetUpOf{v.StartsAt.In(st.Zone()), v.ClientName, v.ProtocolName, v.RoomName, items})
		}
		return nil
	})
	return out, err
}

// layOut is what a treatment to come takes, as published for the client's skin; nil where
// there is nothing to prepare.
func layOut(ctx context.Context, tx preparationStore, lib *studio.Library, v *studio.VisitLine) ([]evaluation.SetUpItem, error) {
	if v.Kind != studio.ForTreatment || v.State != studio.Booked && v.State != studio.Confirmed && v.State != studio.Arrived {
		return nil, nil
	}
	p, err := tx.Version(ctx, v.Protocol, v.Version)
	if err != nil {
		return nil, err
	}
	c, err := tx.Client(ctx, v.Client)
	if errors.Is(err, studio.ErrNotFound) {
		return nil, nil // erased meanwhile
	}
	if err != nil {
		return nil, err
	}
	cx := lib.Context()
	cx.SkinType, cx.SkinStates = c.SkinType, c.SkinStates
	if len(p.Validate(cx, "")) > 0 {
		return nil, nil // it has to be mended first; its visit says so
	}
	return evaluation.EvaluateWithSetUp(adjusting.ForSkin(p, cx), cx).SetUp, nil
}

// short lists the products of which less can be used today than is needed.
func short(need []evaluation.ProductNeed, lib *studio.Library, packs []studio.Pack, today string) []string {
	out := []string{}
	for _, n := range need {
		for i := range lib.Products {
			p := &lib.Products[i]
			if p.Key != n.Key {
				continue
			}
			if left, _ := studio.UsableOf(packs, p.ID, today).Float64(); left/p.PerML(slip.Measure(p.Unit)) < n.ML {
				out = append(out, n.Key)
			}
		}
	}
	return out
}
