package evaluation

import (
	"math"

	"softpalm/internal/craft/stroke"
)

func (e *Evaluation) checkSpeed(r *Resolved) {
	if r.Speed == 0 || r.Relation != stroke.Slides {
		return
	}
	if r.Speed > 30 {
		for i := range r.Path {
			if r.Path[i].id.Zone().Delicate {
				e.add(SpeedDrag, Warning, CommonPractice, values{"zone": r.Path[i].Zone, "speed": math.Round(r.Speed)}, nil, r.ID)
				return
			}
		}
	}
	if r.Intent == stroke.Soothe && (r.Speed < 1 || r.Speed > 10) {
		e.add(SpeedSoothe, Note, TouchStudy, values{"speed": math.Round(10*r.Speed) / 10}, nil, r.ID)
	}
}
