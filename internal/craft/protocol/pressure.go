package protocol

import (
	"math"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// This file judges what a single step does to the skin: how hard, which way and
// how fast.

// still reports whether the pressure is a still press or an anchored stretch,
// which may go one higher on bone and muscle belly.
func (r *Resolved) still() bool {
	return r.Relation == stroke.Still || r.Relation == stroke.Carries && r.Anchor != nil
}

func (e *Evaluation) checkPressure(r *Resolved, ctx *Context) {
	reasoned := Warning
	if r.step.Departure != "" {
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
		judge(pt.id, pt.Zone, pt.Pressure, r.still())
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
		if r.Sides == stroke.BothAtOnce && r.Anchor.Pressure > 1 && carotid(r.Anchor.Zone) && r.touchesNeck() {
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
			judge(id, f.Zone, f.Pressure, r.still())
			continue
		}
		for i := range r.Path {
			judge(r.Path[i].id, r.Path[i].Zone, f.Pressure, r.still())
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
			judge(r.Path[i].id, r.Path[i].Zone, *part.Pressure, r.still() || part.Kind == stroke.Hold)
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
				judge(r.Path[i].id, r.Path[i].Zone, *r.Last.Pressure, r.still())
			}
		}
	}
}

// Presses yields every zone that a step touches with the pressure there: along
// its path, and under single fingers, parts and the anchor hand. A finger or part
// without a zone of its own presses along the whole path.
func (r *Resolved) Presses(yield func(zone string, pressure int) bool) {
	along := func(zone string, pressure int) bool {
		if zone != "" {
			return yield(zone, pressure)
		}
		for i := range r.Path {
			if !yield(r.Path[i].Zone, pressure) {
				return false
			}
		}
		return true
	}
	for i := range r.Path {
		if !yield(r.Path[i].Zone, r.Path[i].Pressure) {
			return
		}
	}
	for i := range r.Fingers {
		if !along(r.Fingers[i].Zone, r.Fingers[i].Pressure) {
			return
		}
	}
	if r.Anchor != nil {
		if !yield(r.Anchor.Zone, r.Anchor.Pressure) {
			return
		}
		for i := range r.Anchor.Then {
			if !yield(r.Anchor.Then[i].Zone, r.Anchor.Then[i].Pressure) {
				return
			}
		}
	}
	last := noParts
	if r.Last != nil {
		last = r.Last.Parts
		if r.Last.Pressure != nil && !along("", *r.Last.Pressure) {
			return
		}
	}
	for _, parts := range [...][]stroke.Part{r.Parts, last} {
		for i := range parts {
			switch {
			case parts[i].Pressure != nil:
				if !along(parts[i].Zone, *parts[i].Pressure) {
					return
				}
			case parts[i].Zone != "":
				if !yield(parts[i].Zone, r.Pressure) {
					return
				}
			}
		}
	}
}

// Besides yields the zones that a step touches besides its path: under fingers and
// parts that work a place of their own, and under the other hand, which may change
// its place.
func (r *Resolved) Besides(yield func(zone string) bool) {
	put := func(zone string) bool { return zone == "" || yield(zone) }
	for i := range r.Fingers {
		if !put(r.Fingers[i].Zone) {
			return
		}
	}
	if r.Anchor != nil {
		if !put(r.Anchor.Zone) {
			return
		}
		for i := range r.Anchor.Then {
			if !put(r.Anchor.Then[i].Zone) {
				return
			}
		}
	}
	last := noParts
	if r.Last != nil {
		last = r.Last.Parts
	}
	for _, parts := range [...][]stroke.Part{r.Parts, last} {
		for i := range parts {
			if !put(parts[i].Zone) {
				return
			}
		}
	}
}

func carotid(zone string) bool { return zone == "front-neck" || zone == "side-neck" }

func (r *Resolved) touchesNeck() bool {
	for i := range r.Path {
		if carotid(r.Path[i].Zone) {
			return true
		}
	}
	return false
}

// excluded reports a zone that is left out today.
func (e *Evaluation) excluded(r *Resolved, zone string, ctx *Context) {
	for _, x := range ctx.Excluded {
		if x.Zone.Zone().Key == zone && r.meets(x) {
			e.add(ExcludedZone, Stopping, CommonPractice, values{"zone": zone, "side": x.Side.String()}, []Fix{LeaveZone}, r.ID)
		}
	}
}

// announcements finds drops of two levels between neighbouring steps that the
// client is not told about.
func (e *Evaluation) announcements() {
	prev := -1
	for vi := range e.Visits {
		r := &e.Steps[e.Visits[vi].Step]
		if len(r.Path) == 0 || e.Visits[vi].Pass > 1 {
			prev = -1
			continue
		}
		last := 0
		for i := range r.Path {
			last = max(last, r.Path[i].Pressure)
		}
		if prev >= 0 && prev-last >= 2 && !r.step.Announce {
			e.add(PressureDrop, Note, CommonPractice, values{"from": prev, "to": last}, []Fix{AnnounceDrop}, r.ID)
		}
		prev = last
	}
}

// meets reports whether the step's sides touch the place's side.
func (r *Resolved) meets(x anatomy.Place) bool {
	switch r.Sides {
	case stroke.LeftOnly:
		return x.Side != anatomy.Right
	case stroke.RightOnly:
		return x.Side != anatomy.Left
	}
	return true
}

// checkDirection judges which way a step runs by its intent: a lift up and out,
// a neck drain down, any drain towards its node. The nape may be settled upward
// unless the school says down; the school decides round the eye.
func (e *Evaluation) checkDirection(r *Resolved, school School) {
	if len(r.Path) < 2 || r.step.Departure != "" {
		return
	}
	first, last := &r.Path[0], &r.Path[len(r.Path)-1]
	if school.Eye != "" && r.Relation == stroke.Slides && r.inward(school.Eye) {
		way := SayDeparture // a whole circle runs inward either way round
		if !r.turned().inward(school.Eye) {
			way = ReversePath
		}
		e.add(EyeInward, Warning, SchoolRule, values{"from": first.Zone, "to": last.Zone}, []Fix{way}, r.ID)
	}
	switch r.Intent {
	case stroke.Lift:
		if r.roundTheEye() {
			return // out above and in below, or the other way: the eye's school decides
		}
		a, b := first.id.Zone().Centre, last.id.Zone().Centre
		if b.Y < a.Y-1 && b.Y-a.Y < -0.5*math.Abs(b.X-a.X) {
			e.add(LiftDown, Warning, CommonPractice, values{"from": first.Zone, "to": last.Zone}, []Fix{ReversePath}, r.ID)
		}
	case stroke.Drain:
		neck := true
		for i := range r.Path {
			g := r.Path[i].id.Zone().Region
			neck = neck && (g == anatomy.Neck || g == anatomy.Chest)
		}
		if school.Nape != "down" && r.napeOnly() {
			return
		}
		if neck && last.Height > first.Height+1 {
			e.add(NeckUp, Warning, CommonPractice, values{"from": first.Zone, "to": last.Zone}, []Fix{ReversePath}, r.ID)
			return
		}
		for i := 1; i < len(r.Path); i++ {
			if anatomy.WayOf(r.Path[i-1].id, r.Path[i].id) == anatomy.Backward {
				r.away = true
				e.add(DrainAway, Warning, Anatomy, values{"from": r.Path[i-1].Zone, "to": r.Path[i].Zone}, []Fix{ReversePath}, r.ID)
				return
			}
		}
	}
}

// napeOnly reports whether the whole path lies at the back of neck and head.
func (r *Resolved) napeOnly() bool {
	for i := range r.Path {
		switch r.Path[i].Zone {
		case "nape", "back-neck", "occiput", "skull-edge":
		default:
			return false
		}
	}
	return true
}

// roundTheEye reports whether the whole path circles the eye.
func (r *Resolved) roundTheEye() bool {
	for i := range r.Path {
		if !eyeZone(r.Path[i].Zone) {
			return false
		}
	}
	return true
}

// turned is the step with its path the other way round.
func (r *Resolved) turned() *Resolved {
	path := slices.Clone(r.Path)
	slices.Reverse(path)
	return &Resolved{Path: path}
}

// inward reports whether the path runs towards the nose where the school of the
// eye does not allow it: anywhere round the eye, or only above it.
func (r *Resolved) inward(school string) bool {
	for i := 1; i < len(r.Path); i++ {
		a, b := &r.Path[i-1], &r.Path[i]
		if !eyeZone(a.Zone) || !eyeZone(b.Zone) || b.id.Zone().Centre.X >= a.id.Zone().Centre.X {
			continue
		}
		below := a.Height < 11.5 && b.Height < 11.5
		if school == "outward" || !below {
			return true
		}
	}
	return false
}

func eyeZone(zone string) bool {
	switch zone {
	case "brow", "brow-base", "upper-eyelid", "lower-eyelid", "under-eye", "orbital-rim", "inner-eye-corner", "outer-eye-corner":
		return true
	}
	return false
}

func (e *Evaluation) checkSpeed(r *Resolved) {
	if r.Speed == 0 || r.Relation != stroke.Slides {
		return
	}
	if r.Speed > 30 {
		for i := range r.Path {
			if r.Path[i].id.Zone().Delicate {
				e.add(SpeedDrag, Warning, CommonPractice, values{"zone": r.Path[i].Zone, "speed": math.Round(r.Speed)}, nil, r.ID)
				return
			}
		}
	}
	if r.Intent == stroke.Soothe && (r.Speed < 1 || r.Speed > 10) {
		e.add(SpeedSoothe, Note, TouchStudy, values{"speed": math.Round(10*r.Speed) / 10}, nil, r.ID)
	}
}
