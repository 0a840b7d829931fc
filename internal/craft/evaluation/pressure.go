package evaluation

import (
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// neckTogether is the most pressure on both sides of the neck at once, drainsAt the
// most that drains; both levels 0 to 5.
const (
	neckTogether = 1
	drainsAt     = 2
)

// AboveLimit is more pressure than a zone or a stroke allows, levels 0 to 5.
type AboveLimit struct {
	AtZone
	Pressure int `json:"pressure"`
	Ceiling  int `json:"ceiling"`
	// Spreading says that product is only spread there.
	Spreading bool `json:"spreading,omitempty"`
}

// worse reports whether a pressure is further above its limit: of the zones of a step the worst is named.
func (a *AboveLimit) worse(than Payload) bool {
	b, ok := than.(*AboveLimit)
	return ok && a.Pressure-a.Ceiling > b.Pressure-b.Ceiling
}

// This file judges how hard a step touches. What was never stated is a question, and is not judged; a
// stop names the step and the zone, and its fixes what lifts it.

// restsAt is the most pressure of resting fingers on the lids and under the eye (handbook, chapter 1).
const restsAt = 2

// IsStill reports whether the pressure is a still press or an anchored stretch,
// which may go one higher on bone and muscle belly.
func (r *Resolved) IsStill() bool {
	return r.Relation == stroke.Still || r.Relation == stroke.Carries && r.Anchor != nil
}

// gentle reports whether a stroke is one that may reach light on both sides of the neck at once:
// application, cleansing, and tapping with the flat hand. Every other one works there (handbook,
// chapter 1).
func (r *Resolved) gentle() bool {
	for _, f := range r.Further.AlsoFamilies {
		if !r.gentleAs(f) {
			return false // it works besides
		}
	}
	return r.gentleAs(r.Family) || r.Intent == stroke.Cleanse || r.Intent == stroke.Spread
}

func (r *Resolved) gentleAs(f stroke.Family) bool {
	switch f {
	case stroke.Application, stroke.CleansingCircle:
		return true
	case stroke.Tapotement:
		return r.Tool == nil && flatHand(r.Hand)
	}
	return false
}

func flatHand(hand string) bool {
	switch hand {
	case "flat palm", "cupped palm", "backs of fingers", "all fingers", "whole hand":
		return true
	}
	return false
}

// rests reports whether the fingers of a step only rest: they may lie on lids and under the eye.
func (r *Resolved) rests() bool {
	return r.Family == stroke.Rest || r.Family == stroke.Exercise
}

// lid reports whether a zone is one on which fingers may rest a little firmer than they work.
func lid(zone string) bool {
	return zone == "upper-eyelid" || zone == "lower-eyelid" || zone == "under-eye"
}

// checkPressure checks every pressure of a step against the limits of the zones that
// it touches.
func (e *Evaluation) checkPressure(r *Resolved, ctx *protocol.Context) {
	for i := range r.Path {
		e.checkPathPressure(r, &r.Path[i])
		if len(ctx.Excluded) > 0 {
			e.excluded(r, r.Path[i].Zone, ctx)
		}
	}
	if most := r.Further.PressureMost; most != nil && r.Further.PressureAs == "" { // the top of a range
		e.limitPathPressure(r, *most, r.IsStill())
	}
	e.checkAnchorPressure(r, ctx)
	if len(ctx.Excluded) > 0 {
		for zone := range r.Besides {
			e.excluded(r, zone, ctx)
		}
	}
	for _, f := range r.Fingers {
		if id, ok := ctx.Zone(f.Zone); ok {
			e.limitPressure(r, id, f.Pressure, r.IsStill())
		} else {
			e.limitPathPressure(r, f.Pressure, r.IsStill())
		}
	}
	for i := range r.Parts {
		e.checkPartPressure(r, &r.Parts[i], ctx)
	}
	if r.Last != nil {
		for i := range r.Last.Parts {
			e.checkPartPressure(r, &r.Last.Parts[i], ctx)
		}
		if r.Last.Pressure != nil {
			e.limitPathPressure(r, *r.Last.Pressure, r.IsStill())
		}
	}
}

// limitPressure finds a pressure above a zone's limit; a limit that is not absolute is
// a note where the step states its reason.
func (e *Evaluation) limitPressure(r *Resolved, id anatomy.ID, pressure int, still bool) {
	e.limitTouch(r, id, pressure, still, r.rests())
}

// limitTouch is [Evaluation.limitPressure] for a hand of which it is known whether it only rests.
func (e *Evaluation) limitTouch(r *Resolved, id anatomy.ID, pressure int, still, rests bool) {
	z := id.Zone()
	ceiling := z.Ceiling
	switch {
	case rests && lid(z.Key):
		ceiling = restsAt
	case still:
		ceiling = z.StillCeiling
	}
	if pressure <= ceiling {
		return
	}
	if z.Key == "front-neck" && pressure <= drainsAt && r.gentle() {
		e.add(PressureNeck, Warning, CommonPractice, &AboveLimit{AtZone{z.Key}, pressure, ceiling, true}, []Fix{LowerPressure, LeaveZone}, r.ID)
		return
	}
	code, severity := PressureCeiling, Warning
	switch {
	case z.Absolute:
		code, severity = PressureAbsolute, Stopping
	case r.Source.Departure != "":
		severity = Note
	}
	e.add(code, severity, CommonPractice, &AboveLimit{AtZone: AtZone{z.Key}, Pressure: pressure, Ceiling: ceiling}, []Fix{LowerPressure, LeaveZone}, r.ID)
}

// limitPathPressure checks one pressure on the whole path.
func (e *Evaluation) limitPathPressure(r *Resolved, pressure int, still bool) {
	for i := range r.Path {
		e.limitPressure(r, r.Path[i].id, pressure, still)
	}
}

func (e *Evaluation) checkPathPressure(r *Resolved, pt *Stop) {
	if pt.Zone == "throat" && r.Tool != nil {
		e.add(ToolOnThroat, Stopping, CommonPractice, &AtZone{pt.Zone}, []Fix{LeaveZone, DropTool}, r.ID)
	}
	if pt.unsaid {
		return
	}
	if e.bothSidesOfNeck(r, pt) {
		return // the pressure is the one cause
	}
	e.limitPressure(r, pt.id, pt.Pressure, r.IsStill())
	if r.Intent == stroke.Drain && pt.Pressure > drainsAt {
		e.add(
			PressureDrain,
			Warning,
			CommonPractice,
			&AboveLimit{AtZone: AtZone{pt.Zone}, Pressure: pt.Pressure, Ceiling: drainsAt},
			[]Fix{LowerPressure},
			r.ID,
		)
	}
}

// bothSidesOfNeck stops a working stroke above a feather on both sides of the neck at once.
func (e *Evaluation) bothSidesOfNeck(r *Resolved, pt *Stop) bool {
	if r.Sides != stroke.BothAtOnce || pt.Pressure <= neckTogether || !carotid(pt.Zone) || r.gentle() && pt.Pressure <= drainsAt {
		return false
	}
	e.add(
		PressureNeck,
		Stopping,
		CommonPractice,
		&AboveLimit{AtZone: AtZone{pt.Zone}, Pressure: pt.Pressure, Ceiling: neckTogether},
		[]Fix{TakeTurns, LowerPressure},
		r.ID,
	)
	return true
}

func (e *Evaluation) checkAnchorPressure(r *Resolved, ctx *protocol.Context) {
	if r.Anchor == nil {
		return
	}
	if id, ok := ctx.Zone(r.Anchor.Zone); ok {
		e.limitTouch(r, id, r.Anchor.Pressure, true, true)
	}
	if second := r.Anchor.Second; second != nil {
		if id, ok := ctx.Zone(second.Zone); ok {
			e.limitTouch(r, id, second.Pressure, true, true)
		}
	}
	for _, c := range r.Anchor.Then {
		if id, ok := ctx.Zone(c.Zone); ok {
			e.limitTouch(r, id, c.Pressure, true, true)
		}
	}
	if r.Sides == stroke.BothAtOnce && r.Anchor.Pressure > 1 && carotid(r.Anchor.Zone) && r.TouchesNeck() {
		e.add(
			PressureNeck,
			Stopping,
			CommonPractice,
			&AboveLimit{AtZone: AtZone{r.Anchor.Zone}, Pressure: r.Anchor.Pressure, Ceiling: neckTogether},
			[]Fix{TakeTurns, LowerPressure},
			r.ID,
		)
	}
}

// checkPartPressure checks a part of one repetition, in its own zone or on the path.
func (e *Evaluation) checkPartPressure(r *Resolved, part *stroke.Part, ctx *protocol.Context) {
	if part.Pressure == nil {
		return
	}
	if id, ok := ctx.Zone(part.Zone); ok {
		e.limitPressure(r, id, *part.Pressure, part.Kind == stroke.Hold || part.Kind == stroke.Pulse)
		return
	}
	e.limitPathPressure(r, *part.Pressure, r.IsStill() || part.Kind == stroke.Hold)
}
