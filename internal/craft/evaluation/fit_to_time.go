package evaluation

import (
	"math"

	"softpalm/internal/craft/stroke"
)

// OffTime is how many seconds a plan is over or under its hands-on time, the slot.
type OffTime struct {
	plain
	Seconds float64 `json:"seconds"`
	Slot    int     `json:"slot"`
}

// FitGrace is how many seconds short of its slot a plan may stay.
const FitGrace = 15

// fit compares the planned time with the slot. Where a time was never stated it is not held against the
// plan: only what is surely too long is.
func (e *Evaluation) fit() {
	if e.timesUnsaid() {
		if over := e.AtLeast - float64(e.SlotSeconds); over > 0.5 {
			e.add(FitOver, Warning, Plan, &OffTime{Seconds: math.Round(over), Slot: e.SlotSeconds}, []Fix{FitSlot})
		}
		return
	}
	over := e.Seconds - float64(e.SlotSeconds)
	off := &OffTime{Seconds: math.Round(math.Abs(over)), Slot: e.SlotSeconds}
	switch {
	case over > 0.5:
		e.add(FitOver, Warning, Plan, off, []Fix{FitSlot})
	case over < -FitGrace-0.5 && len(e.Steps) > 0:
		e.add(FitUnder, Note, Plan, off, []Fix{FitSlot})
	}
}

func (e *Evaluation) timesUnsaid() bool {
	return e.hasStep(func(r *Resolved) bool {
		return r.Dose.Kind == stroke.Unknown && r.unsaid("dose")
	})
}
