package evaluation

import (
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// This file judges what a single step does to the skin: how hard, which way and
// how fast.

// IsStill reports whether the pressure is a still press or an anchored stretch,
// which may go one higher on bone and muscle belly.
func (r *Resolved) IsStill() bool {
	return r.Relation == stroke.Still || r.Relation == stroke.Carries && r.Anchor != nil
}

func (e *Evaluation) checkPressure(r *Resolved, ctx *protocol.Context) {
	reasoned := Warning
	if r.Source.Departure != "" {
		reasoned = Note
	}
	judge := func(id anatomy.ID, zone string, pressure int, still bool) {
		z := id.Zone()
		ceiling := z.Ceiling
		if still {
			ceiling = z.StillCeiling
		}
		if pressure <= ceiling {
			return
		}
		vals := values{"zone": zone, "pressure": pressure, "ceiling": ceiling}
		switch {
		case z.Absolute:
			e.add(PressureAbsolute, Stopping, CommonPractice, vals, []Fix{LowerPressure, LeaveZone}, r.ID)
		default:
			e.add(PressureCeiling, reasoned, CommonPractice, vals, []Fix{LowerPressure, LeaveZone}, r.ID)
		}
	}
	for i := range r.Path {
		pt := &r.Path[i]
		judge(pt.id, pt.Zone, pt.Pressure, r.IsStill())
		if pt.Zone == "throat" && r.Tool != nil {
			e.add(ToolOnThroat, Stopping, CommonPractice, values{"zone": pt.Zone}, []Fix{LeaveZone, DropTool}, r.ID)
		}
		if r.Sides == stroke.BothAtOnce && pt.Pressure > 1 && carotid(pt.Zone) {
			e.add(PressureNeck, Stopping, CommonPractice, values{"zone": pt.Zone, "pressure": pt.Pressure}, []Fix{TakeTurns, LowerPressure}, r.ID)
		}
		if r.Intent == stroke.Drain && pt.Pressure > 2 {
			e.add(PressureDrain, Warning, CommonPractice, values{"zone": pt.Zone, "pressure": pt.Pressure, "ceiling": 2}, []Fix{LowerPressure}, r.ID)
		}
		if len(ctx.Excluded) > 0 {
			e.excluded(r, pt.Zone, ctx)
		}
	}
	if r.Anchor != nil {
		if id, ok := anatomy.Lookup(r.Anchor.Zone); ok {
			judge(id, r.Anchor.Zone, r.Anchor.Pressure, true)
		}
		for _, c := range r.Anchor.Then {
			if id, ok := anatomy.Lookup(c.Zone); ok {
				judge(id, c.Zone, c.Pressure, true)
			}
		}
		if r.Sides == stroke.BothAtOnce && r.Anchor.Pressure > 1 && carotid(r.Anchor.Zone) && r.TouchesNeck() {
			e.add(PressureNeck, Stopping, CommonPractice, values{"zone": r.Anchor.Zone, "pressure": r.Anchor.Pressure}, []Fix{TakeTurns, LowerPressure}, r.ID)
		}
	}
	if len(ctx.Excluded) > 0 {
		for zone := range r.Besides {
			e.excluded(r, zone, ctx)
		}
	}
	for _, f := range r.Fingers {
		if id, ok := anatomy.Lookup(f.Zone); ok {
			judge(id, f.Zone, f.Pressure, r.IsStill())
			continue
		}
		for i := range r.Path {
			judge(r.Path[i].id, r.Path[i].Zone, f.Pressure, r.IsStill())
		}
	}
	at := func(part *stroke.Part) {
		if part.Pressure == nil {
			return
		}
		if id, ok := anatomy.Lookup(part.Zone); ok {
			judge(id, part.Zone, *part.Pressure, part.Kind == stroke.Hold || part.Kind == stroke.Pulse)
			return
		}
		for i := range r.Path {
			judge(r.Path[i].id, r.Path[i].Zone, *part.Pressure, r.IsStill() || part.Kind == stroke.Hold)
		}
	}
	for i := range r.Parts {
		at(&r.Parts[i])
	}
	if r.Last != nil {
		for i := range r.Last.Parts {
			at(&r.Last.Parts[i])
		}
		if r.Last.Pressure != nil {
			for i := range r.Path {
				judge(r.Path[i].id, r.Path[i].Zone, *r.Last.Pressure, r.IsStill())
			}
		}
	}
}
