package checks

import (
	"context"
	"errors"
	"math"
	"slices"
	"time"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

// skinMemory is how many days back a client's own treatments are looked through.
const skinMemory = 28

// loadPlanContext fills in what a visit's plan is judged against besides itself: what the
// client's skin had lately, what the practitioner's hands did before it today,
// and which tools are still in use or being cleaned when it begins.
func (s *Service) loadPlanContext(
	ctx context.Context,
	tx planStore,
	st *studio.Studio,
	v *studio.VisitLine,
	cx *protocol.Context,
) error {
	cx.DaysSince = map[string][]int{}
	today := st.Midnight(v.StartsAt)
	lately, err := tx.ClientVisits(ctx, v.Client)
	if err != nil {
		return err
	}
	for i := range lately {
		l := &lately[i]
		days := int(math.Round(today.Sub(st.Midnight(l.StartsAt)).Hours() / 24)) // a day of 23 or 25 hours is one
		if !l.State.Given() || l.Kind != studio.ForTreatment || l.ID == v.ID || days < 0 || days > skinMemory {
			continue
		}
		d, _, err := demandsOf(ctx, tx, l, cx)
		if err != nil {
			return err
		}
		for _, kind := range d.SkinIntensive {
			cx.DaysSince[kind] = append(cx.DaysSince[kind], days)
		}
	}
	day, err := tx.Visits(ctx, today, v.StartsAt)
	if err != nil {
		return err
	}
	ready := map[string][]time.Time{}
	for i := range day {
		d := &day[i]
		if d.ID == v.ID || d.Kind != studio.ForTreatment || !d.State.TakesTime() || !d.StartsAt.Before(v.StartsAt) {
			continue
		}
		asks, end, err := demandsOf(ctx, tx, d, cx)
		if err != nil {
			return err
		}
		if d.Practitioner == v.Practitioner {
			cx.HandsToday += asks.TiringMinutes
		}
		for _, key := range asks.Tools {
			ready[key] = append(ready[key], end.Add(time.Duration(cx.Tools[key].ReadyAfter)*time.Minute))
		}
	}
	cx.ReadyIn = readyIn(cx.Tools, ready, v.StartsAt)
	return nil
}

// demandsOf is what a visit's plan asks, as it was given where it was, and when the
// visit ends. A plan that cannot be read any more asks nothing.
func demandsOf(ctx context.Context, tx planStore, v *studio.VisitLine, cx *protocol.Context) (studio.Demands, time.Time, error) {
	end := v.EndsAt
	t, err := tx.Treatment(ctx, v.ID)
	var p *protocol.Protocol
	switch {
	case err == nil:
		p = &t.Protocol
		if t.FinishedAt != nil && t.FinishedAt.Before(end) {
			end = *t.FinishedAt
		}
		if t.Evaluation != nil {
			return t.Demands, end, nil
		}
	case errors.Is(err, studio.ErrNotFound):
		if p, err = tx.Version(ctx, v.Protocol, v.Version); err != nil {
			return studio.Demands{}, end, err
		}
	default:
		return studio.Demands{}, end, err
	}
	if len(p.Validate(cx, "")) > 0 {
		return studio.Demands{}, end, nil
	}
	return studio.DemandsOf(evaluation.EvaluateTimeline(p, cx), cx), end, nil
}

// readyIn says, for each tool of which no piece is free at a moment, in how many
// minutes the first one will be. Ready lists when the pieces taken come back.
func readyIn(tools map[string]protocol.Tool, ready map[string][]time.Time, at time.Time) map[string]float64 {
	out := map[string]float64{}
	for key, list := range ready {
		list = slices.DeleteFunc(list, func(t time.Time) bool { return !t.After(at) })
		pieces := max(tools[key].Pieces, 1)
		if len(list) < pieces {
			continue
		}
		slices.SortFunc(list, time.Time.Compare)
		out[key] = list[len(list)-pieces].Sub(at).Minutes()
	}
	return out
}
