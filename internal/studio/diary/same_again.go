package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// The gap that is proposed between two visits: that to the treatment before where it is a habit,
// else four weeks (common practice).
const (
	usualGap       = 28
	leastHabit     = 5
	mostHabit      = 60
	habitEitherWay = time.Hour // "same hour" is an hour either way
)

// SameAgain proposes the next visit after one: the same protocol, the ideal day, about the same
// hour, the same hands. It is a question about a single visit, in the words of the line.
func (s *Service) SameAgain(ctx context.Context, a *studio.Actor, id uuid.UUID) (*SeriesQuestion, error) {
	type store interface {
		Store
		ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	}
	var out *SeriesQuestion
	err := studio.In(ctx, s.Kernel, a, func(tx store, st *studio.Studio) error {
		v, err := tx.Visit(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayVisit("same-again", &v.Visit); err != nil {
			return err
		}
		if v.Kind != studio.ForTreatment {
			return studio.ErrNotFound
		}
		all, err := tx.ClientVisits(ctx, v.Client)
		if err != nil {
			return err
		}
		zone := st.Zone()
		gap := usualGap
		for i := range all { // newest first
			o := &all[i]
			if o.Kind != studio.ForTreatment || !o.State.Given() || !o.StartsAt.Before(v.StartsAt) {
				continue
			}
			if days := daysBetween(o.StartsAt.In(zone), v.StartsAt.In(zone)); days >= leastHabit && days <= mostHabit {
				gap = days
			}
			break
		}
		start := v.StartsAt.In(zone)
		ideal := start.AddDate(0, 0, gap)
		if today := s.Now().In(zone); ideal.Before(today) {
			ideal = today
		}
		from, to := start.Add(-habitEitherWay), v.EndsAt.In(zone).Add(habitEitherWay)
		out = &SeriesQuestion{
			Client: v.Client,
			What:   []AskedProtocol{{Protocol: v.Protocol, Also: after(&v.Visit)}},
			SeriesAsked: studio.SeriesAsked{
				Often: "once",
				When:  "from " + ideal.Format(time.DateOnly) + ", rather " + from.Format("15:04") + "-" + to.Format("15:04"),
				With:  "rather " + v.PractitionerName,
			},
		}
		return nil
	})
	return out, err
}
