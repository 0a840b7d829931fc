package evaluation

import "math"

// FitGrace is how many seconds short of its slot a plan may stay.
const FitGrace = 15

func (e *Evaluation) fit() {
	over := e.Seconds - float64(e.SlotSeconds)
	vals := values{"seconds": math.Round(math.Abs(over)), "slot": e.SlotSeconds}
	switch {
	case over > 0.5:
		e.add(FitOver, Warning, Plan, vals, []Fix{FitSlot})
	case over < -FitGrace-0.5 && len(e.Steps) > 0:
		e.add(FitUnder, Note, Plan, vals, []Fix{FitSlot})
	}
}
