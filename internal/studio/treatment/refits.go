package treatment

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
)

// Refits are the re-fits of a treatment that is under way, prepared for the end of every spell, for a tablet to keep:
// it picks one and works nothing out. None for a treatment begun before re-fits were prepared.
func (s *Service) Refits(ctx context.Context, a *studio.Actor, visit uuid.UUID) (out []fitting.PreparedRefit, err error) {
	if err := a.May("get-refits"); err != nil {
		return nil, err
	}
	return out, studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		_, err := visitFor(ctx, tx, a, "get-refits", visit)
		if err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil || t.Evaluation == nil || len(t.ToRefit) != len(t.Evaluation.Occurrences) {
			out = []fitting.PreparedRefit{}
			return err
		}
		events, err := tx.RoomEvents(ctx, visit)
		if err != nil {
			return err
		}
		l := guide.Log{Arrived: events}
		ends := make([]float64, len(t.ToRefit))
		for i := range ends {
			ends[i] = t.Evaluation.Occurrences[i].End
		}
		out, err = fitting.PrepareRefits(t.ToRefit, t.Evaluation.Seconds, ends, courseOf(t, l.Merge()))
		return err
	})
}

// courseOf are the doses that spells really had: what one stayed with is more, what was skipped none.
func courseOf(t *studio.Treatment, s guide.State) fitting.Course {
	out := fitting.Course{}
	for i := range t.Evaluation.Occurrences {
		o := &t.Evaluation.Occurrences[i]
		r := &t.Evaluation.Steps[o.Step]
		key := guide.SpellKey(r.ID, o.Number)
		if add := s.Stays[key]; add > 0 {
			out[key] = r.Dose.Planned + add
		}
		for _, id := range s.Skipped {
			if id == r.ID {
				out[key] = 0
			}
		}
	}
	return out
}
