package treatment

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/pace"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
)

// learnStore is where the room's log leaves what it teaches.
type learnStore interface {
	Store
	AddSpellTimes(ctx context.Context, visit, practitioner uuid.UUID, times []guide.SpellTime, at time.Time) error
	// SpellTimes lists the spells of a practitioner's newest treatments since they were told to start over, a
	// treatment each, oldest first.
	SpellTimes(ctx context.Context, practitioner uuid.UUID, treatments int) ([][]pace.Spell, error)
	SavePace(ctx context.Context, practitioner uuid.UUID, p pace.Learned) error
	ForgetPace(ctx context.Context, practitioner uuid.UUID, at time.Time) error
	Pace(ctx context.Context, practitioner uuid.UUID) (studio.Pace, error)
}

// remembered is how many treatments a pace is learned from; more than count, as not all of them say something.
const remembered = 60

// learnFromRoom keeps how long the spells of a treatment took and how long its products slid, and works the
// practitioner's pace out anew.
func (s *Service) learnFromRoom(ctx context.Context, within studio.Tx, t *studio.Treatment, v *studio.Visit, at time.Time) error {
	tx := studio.As[learnStore](within)
	events, err := tx.RoomEvents(ctx, v.ID)
	if err != nil || len(events) == 0 || t.Evaluation == nil {
		return err
	}
	l := guide.Log{Arrived: events}
	_, times := l.Story(guide.PlannedSpells(t.Evaluation))
	if err := tx.AddSpellTimes(ctx, v.ID, v.Practitioner, times, at); err != nil {
		return err
	}
	if err := s.learnSlip(ctx, tx, t, &l, at); err != nil {
		return err
	}
	past, err := tx.SpellTimes(ctx, v.Practitioner, remembered)
	if err != nil {
		return err
	}
	learned, err := (&pace.Treatments{Treatments: past}).Learn()
	if err != nil {
		return err
	}
	return tx.SavePace(ctx, v.Practitioner, learned)
}

// learnSlip gives the shelf what the room saw of how long products slid. Where the record says it itself, that stands.
func (s *Service) learnSlip(ctx context.Context, tx learnStore, t *studio.Treatment, l *guide.Log, at time.Time) error {
	lib, err := studio.ReadLibrary(ctx, tx)
	if err != nil {
		return err
	}
	cx := lib.Context()
	skin := slip.SkinFactor(t.SkinType, t.SkinStates)
	observed, err := guide.SlippingsOf(t.Evaluation, l, func(key string) float64 {
		if p := cx.Products[key]; p != nil {
			return p.HalfLifeMinutes() * skin
		}
		return 0
	}).Observe()
	if err != nil {
		return err
	}
	var taught []uuid.UUID
	for _, o := range observed.Observations {
		i := slices.IndexFunc(lib.Products, func(p studio.Product) bool { return p.Key == o.Product })
		said := slices.ContainsFunc(t.Record.Uses, func(u studio.RecordUse) bool { return u.Product == o.Product && u.Slid != nil })
		lasted := studio.SlidFor{Kind: o.Kind, Minute: decimal.NewFromFloat(o.Minutes).Round(1), Slip: o.Slip, Need: o.Need}
		if i < 0 || said || !lasted.Minute.IsPositive() || o.Need <= 0 {
			continue
		}
		if err := tx.AddSlipObservation(ctx, lib.Products[i].ID, t.Visit, lasted, skin, at); err != nil {
			return err
		}
		if !slices.Contains(taught, lib.Products[i].ID) {
			taught = append(taught, lib.Products[i].ID)
		}
	}
	return s.Shelf.Learn(ctx, tx, taught)
}

// ForgetPace starts a practitioner's pace over: plans are timed as published again. The records stay.
func (s *Service) ForgetPace(ctx context.Context, a *studio.Actor, practitioner uuid.UUID) error {
	if err := a.May("forget-pace"); err != nil {
		return err
	}
	if own := a.Practitioner != nil && *a.Practitioner == practitioner; !own && a.May("forget-paces-of-others") != nil {
		return studio.ErrNotYours
	}
	return studio.In(ctx, s.Kernel, a, func(tx learnStore, _ *studio.Studio) error {
		return tx.ForgetPace(ctx, practitioner, s.Now())
	})
}
