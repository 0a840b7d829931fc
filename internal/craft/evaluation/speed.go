package evaluation

import (
	"math"

	"softpalm/internal/craft/stroke"
)

// Moving is a speed of the hand in cm/s, and the zone where it matters.
type Moving struct {
	Zone  string  `json:"zone,omitempty"`
	Speed float64 `json:"speed"`
}

func (*Moving) apart() string                { return "" }
func (m *Moving) Place() (zone, node string) { return m.Zone, "" }

func (e *Evaluation) checkSpeed(r *Resolved) {
	if r.Speed == 0 || r.Relation != stroke.Slides {
		return
	}
	if r.Speed > 30 {
		for i := range r.Path {
			if r.Path[i].id.Zone().Delicate {
				e.add(SpeedDrag, Warning, CommonPractice, &Moving{r.Path[i].Zone, math.Round(r.Speed)}, nil, r.ID)
				return
			}
		}
	}
	if r.Intent == stroke.Soothe && (r.Speed < 1 || r.Speed > 10) {
		e.add(SpeedSoothe, Note, TouchStudy, &Moving{Speed: math.Round(10*r.Speed) / 10}, nil, r.ID)
	}
}
