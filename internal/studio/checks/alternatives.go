package checks

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// alternativeStore is what other protocols are found in.
type alternativeStore interface {
	LockVisit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	planStore
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	NewestVersion(ctx context.Context, id uuid.UUID) (int, error) // 0 before the first
	MoveVisit(ctx context.Context, v *studio.Visit) error
}

// AlternativeProtocol is another protocol that would be possible at a visit today.
type AlternativeProtocol struct {
	Protocol uuid.UUID `json:"protocol"`
	Name     string    `json:"name"`
	// Minutes sold.
	Minutes int `json:"minutes"`
	// Changes today's cautions ask of it, of its Steps.
	Changes int `json:"changes"`
	Steps   int `json:"steps"`
}

// Alternatives lists the studio's published protocols that something sensible is left
// of with today's pre-treatment check, the one that has to change least first; the visit's
// own is not among them.
func (s *Service) Alternatives(ctx context.Context, a *studio.Actor, visit uuid.UUID) ([]AlternativeProtocol, error) {
	if err := a.May("list-alternatives"); err != nil {
		return nil, err
	}
	out := []AlternativeProtocol{}
	err := studio.In(ctx, s.Kernel, a, func(tx alternativeStore, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("list-alternatives", &v.Visit); err != nil {
			return err
		}
		sc, err := todaysPreCheck(ctx, tx, v.Client, s.Today(st))
		if err != nil {
			return noPreCheck(err)
		}
		w, err := s.loadPlanInputs(ctx, tx, st, v.Client)
		if err != nil {
			return err
		}
		if !sc.Result.Headline.Treatable() {
			return nil
		}
		list, err := tx.Protocols(ctx, a.Account)
		if err != nil {
			return err
		}
		for _, p := range list {
			if p.Version == 0 || p.ID == v.Protocol {
				continue
			}
			t, err := w.adjust(ctx, tx, p.ID, p.Version, sc, &studio.PlanOptions{}, 0)
			var outdated *studio.StateError
			if errors.As(err, &outdated) || (err == nil && t.Refused) {
				continue // outdated, or nothing left of it either
			}
			if err != nil {
				return err
			}
			out = append(out, AlternativeProtocol{
				Protocol: p.ID,
				Name:     t.Protocol.Name,
				Minutes:  t.Protocol.Minutes.Treatment,
				Changes:  len(t.Adjustments),
				Steps:    len(t.Protocol.Steps),
			})
		}
		slices.SortStableFunc(
			out,
			func(a, b AlternativeProtocol) int { return cmp.Compare(a.Changes*b.Steps, b.Changes*a.Steps) },
		)
		return nil
	})
	return out, err
}

// SwitchProtocol gives a visit that has not begun the newest version of another
// protocol, from the same start. A time that is taken answers a *TakenError.
func (s *Service) SwitchProtocol(ctx context.Context, a *studio.Actor, visit, protocolID uuid.UUID) error {
	if err := a.May("switch-protocol"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx alternativeStore, _ *studio.Studio) error {
		v, err := tx.LockVisit(ctx, visit)
		if err != nil {
			return err
		}
		if v.Kind != studio.ForTreatment || v.State != studio.Booked && v.State != studio.Confirmed && v.State != studio.Arrived {
			return &studio.StateError{Code: "visit-state", Sentence: words.ProtocolThisAppointmentCanNoLongerChanged()}
		}
		number, err := tx.NewestVersion(ctx, protocolID)
		if err != nil {
			return err
		}
		p, err := tx.Version(ctx, protocolID, number)
		if err != nil {
			return err
		}
		to := v.Visit
		to.Protocol, to.Version = protocolID, number
		to.Place(v.StartsAt, p.Minutes)
		if err := tx.MoveVisit(ctx, &to); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change protocol", "visit", visit)
	})
}
