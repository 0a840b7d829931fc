package evaluation

import "math"

// OffTime is how many seconds a plan is over or under its hands-on time, the slot.
type OffTime struct {
	plain
	Seconds float64 `json:"seconds"`
	Slot    int     `json:"slot"`
}

// FitGrace is how many seconds short of its slot a plan may stay.
const FitGrace = 15

func (e *Evaluation) fit() {
	over := e.Seconds - float64(e.SlotSeconds)
	off := &OffTime{Seconds: math.Round(math.Abs(over)), Slot: e.SlotSeconds}
	switch {
	case over > 0.5:
		e.add(FitOver, Warning, Plan, off, []Fix{FitSlot})
	case over < -FitGrace-0.5 && len(e.Steps) > 0:
		e.add(FitUnder, Note, Plan, off, []Fix{FitSlot})
	}
}
