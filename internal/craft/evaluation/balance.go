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
// both sides at once counts for neither. A step that departs, or gives one side more on purpose, is left
// out by itself, and so is one whose side was never stated.
func (e *Evaluation) balance() {
	var left, right float64 // as far as the sides should be alike
	var steps []string
	apart := e.apartFromBalance()
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		quiet := apart[r.ID]
		for i := range v.SideRuns {
			s := v.SideRuns[i].Seconds
			switch v.SideRuns[i].OnSide {
			case anatomy.Left:
				e.LeftSeconds += s
				if !quiet {
					left += s
				}
			case anatomy.Right:
				e.RightSeconds += s
				if !quiet {
					right += s
				}
			default:
				continue
			}
			if !quiet && r.Sides != stroke.InTurns && !contains(steps, r.ID) {
				steps = append(steps, r.ID)
			}
		}
	}
	most := max(left, right)
	if most == 0 || (most-min(left, right))/most <= 0.10 {
		return
	}
	var fixes []Fix
	if len(steps) > 0 {
		fixes = []Fix{MirrorStep}
	}
	e.add(SidesUnequal, Warning, CommonPractice, &SideSeconds{Left: math.Round(left), Right: math.Round(right)}, fixes, steps...)
}

// apartFromBalance are the steps that are not held against each other, with their mirrors.
func (e *Evaluation) apartFromBalance() map[string]bool {
	var out map[string]bool
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Source.Emphasis != nil || r.Source.Departure != "" && r.Sides != stroke.InTurns || r.unsaid("sides") || r.unsaid("firstSide") {
			if out == nil {
				out = map[string]bool{}
			}
			out[r.ID] = true
			if r.Source.MirrorOf != "" {
				out[r.Source.MirrorOf] = true
			}
		}
	}
	for i := range e.Steps {
		if of := e.Steps[i].Source.MirrorOf; of != "" && out[of] {
			out[e.Steps[i].ID] = true
		}
	}
	return out
}
