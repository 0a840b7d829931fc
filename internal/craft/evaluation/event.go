package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Rough is what may still show on the day after: deep, friction or another reddening.
type Rough struct {
	plain
	What string `json:"what" enum:"deep,friction,reddens"`
}

// deepAt is the pressure from which work is deep (handbook, chapter 6: a step at 4 to 5).
const deepAt = 4

// checkEvent finds deep or rubbing work in a plan for the day before an event (handbook, chapter 6,
// countdown; common practice). It holds in every method and setting.
func (e *Evaluation) checkEvent(r *Resolved, p *protocol.Protocol, ctx *protocol.Context) {
	if !slices.Contains(p.Concerns, "event-tomorrow") || r.Source.Departure != "" {
		return
	}
	kind := r.kind(ctx)
	what := ""
	switch {
	case r.has(stroke.Friction):
		what = "friction"
	case kind == "cup" || kind == "mitt":
		what = "reddens"
	case !r.PressureUnsaid && r.hardest() >= deepAt && r.Family != stroke.Exercise && r.Tool == nil,
		r.Tool != nil && ctx.Tools[r.Tool.Key].Roller() && r.Glide == stroke.GripGlide:
		what = "deep"
	}
	if what != "" {
		e.add(EventRough, Warning, CommonPractice, &Rough{What: what}, []Fix{LeaveStep, SayDeparture}, r.ID)
	}
}
