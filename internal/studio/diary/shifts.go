package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// Shifts are when a practitioner works between two moments, as rules: without closed days, and
// without pieces for which they are away.
func (s *Service) Shifts(
	ctx context.Context, within studio.Tx, st *studio.Studio, practitioner uuid.UUID, from, to time.Time,
) ([]series.ShiftRule, error) {
	a := asked(st, s.Now())
	if err := a.gatherWho(ctx, studio.As[finderStore](within), st, from); err != nil {
		return nil, err
	}
	for i := range a.request.Practitioners {
		p := &a.request.Practitioners[i]
		if p.Key != practitioner.String() {
			continue
		}
		off := func(day, begin, end string) bool {
			if series.ClosedOn(st.Closures, day) != nil {
				return true
			}
			for _, x := range p.Absences {
				if x[0] <= day+"T"+begin && x[1] >= day+"T"+end {
					return true
				}
			}
			return false
		}
		return series.ShiftRules(p.Shifts, from.In(st.Zone()).Format(time.DateOnly), to.In(st.Zone()).Format(time.DateOnly), off)
	}
	return nil, nil
}
