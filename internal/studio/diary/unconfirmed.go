package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/messages"
	"softpalm/internal/studio"
)

// Unconfirmed is an appointment whose client was reminded and has not confirmed it.
type Unconfirmed struct {
	studio.VisitLine
	Phone string `json:"phone"`
}

// remindedStore is what the list of unconfirmed appointments is read from.
type remindedStore interface {
	Store
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	BookedAt(ctx context.Context, client uuid.UUID) (map[uuid.UUID]time.Time, error)
}

// Unconfirmed lists the appointments to come whose reminder was due and that nobody has confirmed,
// by start. What was booked after that time is left out: it was agreed on just now.
func (s *Service) Unconfirmed(ctx context.Context, a *studio.Actor) ([]Unconfirmed, error) {
	out := []Unconfirmed{}
	err := studio.In(ctx, s.Kernel, a, func(tx remindedStore, st *studio.Studio) error {
		if err := a.May("list-unconfirmed"); err != nil {
			return err
		}
		timing, now := st.Timing(), s.Now()
		visits, err := tx.Visits(ctx, now, now.Add(time.Duration(timing.ReminderHours)*time.Hour))
		if err != nil {
			return err
		}
		for i := range visits {
			v := &visits[i]
			if v.State != studio.Booked {
				continue
			}
			since, err := tx.BookedAt(ctx, v.Client)
			if err != nil {
				return err
			}
			if !reminded(v, since[v.ID], now, &timing, st) {
				continue
			}
			c, err := tx.Client(ctx, v.Client)
			if err != nil {
				return err
			}
			out = append(out, Unconfirmed{*v, c.Phone})
		}
		return nil
	})
	return out, err
}

// reminded reports whether the reminder of a visit was due.
func reminded(v *studio.VisitLine, since, now time.Time, timing *messages.Timing, st *studio.Studio) bool {
	for _, d := range messages.Plan([]messages.Visit{{
		Start: v.StartsAt, End: v.EndsAt, Since: since, FreeUntil: st.FreeUntil(&v.Visit), State: messages.ToCome, PatchTest: v.Kind != studio.ForTreatment,
	}}, timing, st.Zone()) {
		if d.Kind == messages.Reminder && !d.At.After(now) {
			return true
		}
	}
	return false
}
