package evaluation

import (
	"math"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// TooLong is more minutes of something than there should be.
type TooLong struct {
	plain
	Minutes float64 `json:"minutes"`
	Most    float64 `json:"most"`
}

// Limits of cold and of the practitioner's joints. The first is the handbook's,
// chapter 4; the others are starting values of a studio.
const (
	ColdSeconds     = 600.0
	TiringSeconds   = 300.0
	TiringDayMinute = 60.0
)

// Tiring is how many seconds a plan asks of the practitioner's thumb, pinch and
// knuckle at 4 to 5.
func (e *Evaluation) Tiring() float64 {
	all := 0.0
	for vi := range e.Occurrences {
		if v := &e.Occurrences[vi]; e.tires(v) {
			all += v.End - v.Start
		}
	}
	return all
}

func (e *Evaluation) tires(v *Occurrence) bool {
	r := &e.Steps[v.Step]
	return r.Tool == nil && r.hardest() >= 4 && stroke.Tires(r.Hand)
}

// tiring judges the tiring work: in one run without a pause, and over the day.
func (e *Evaluation) tiring(ctx *protocol.Context) {
	run := 0.0
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		r := &e.Steps[v.Step]
		if !e.tires(v) {
			if len(r.Path) == 0 || v.End-v.Start >= 30 {
				run = 0
			}
			continue
		}
		run += v.End - v.Start
		if run > TiringSeconds {
			e.add(
				HandsTired,
				Note,
				StudioLimit,
				&TooLong{Minutes: round2(run / 60), Most: TiringSeconds / 60},
				[]Fix{ShakeOut},
				r.ID,
			)
			run = 0
		}
	}
	all := e.Tiring()
	if day := ctx.HandsToday + all/60; all > 0 && day > TiringDayMinute {
		e.add(HandsDay, Note, StudioLimit, &TooLong{Minutes: math.Round(day), Most: TiringDayMinute}, nil)
	}
}
