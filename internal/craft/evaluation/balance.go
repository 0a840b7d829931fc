package evaluation

import (
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// SideSeconds is how many seconds each side is worked.
type SideSeconds struct {
	plain
	Left  float64 `json:"left"`
	Right float64 `json:"right"`
}

// balance compares the seconds given to left and right; work on the midline or
// both sides at once counts for neither.
func (e *Evaluation) balance() {
	stated := false
	var steps []string
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		if r.Source.Emphasis != nil || r.Source.Departure != "" && r.Sides != stroke.InTurns {
			stated = true
		}
		for i := range v.SideRuns {
			switch v.SideRuns[i].OnSide {
			case anatomy.Left:
				e.LeftSeconds += v.SideRuns[i].Seconds
			case anatomy.Right:
				e.RightSeconds += v.SideRuns[i].Seconds
			default:
				continue
			}
			if r.Sides != stroke.InTurns && !contains(steps, r.ID) {
				steps = append(steps, r.ID)
			}
		}
	}
	most := max(e.LeftSeconds, e.RightSeconds)
	if most == 0 || stated || (most-min(e.LeftSeconds, e.RightSeconds))/most <= 0.10 {
		return
	}
	var fixes []Fix
	if len(steps) > 0 {
		fixes = []Fix{MirrorStep}
	}
	e.add(
		SidesUnequal,
		Warning,
		CommonPractice,
		&SideSeconds{Left: math.Round(e.LeftSeconds), Right: math.Round(e.RightSeconds)},
		fixes,
		steps...)
}
