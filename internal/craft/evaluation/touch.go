package evaluation

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// hardest is the most pressure on the path.
func (r *Resolved) hardest() int {
	hard := 0
	for i := range r.Path {
		hard = max(hard, r.Path[i].Pressure)
	}
	return hard
}

// TouchesNode reports whether the step's path works a zone of the node group.
func (r *Resolved) TouchesNode(g anatomy.NodeGroup) bool {
	return r.nodes&g.Bit() != 0
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
		if second := r.Anchor.Second; second != nil && !yield(second.Zone, second.Pressure) {
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
		if second := r.Anchor.Second; second != nil && !put(second.Zone) {
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

func (r *Resolved) TouchesNeck() bool {
	for i := range r.Path {
		if carotid(r.Path[i].Zone) {
			return true
		}
	}
	return false
}

// meets reports whether the step's sides touch the place's side.
func (r *Resolved) meets(x anatomy.ZoneSide) bool {
	switch r.Sides {
	case stroke.LeftOnly:
		return x.Side != anatomy.Right
	case stroke.RightOnly:
		return x.Side != anatomy.Left
	}
	return true
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

// roundTheEye reports whether the whole path circles the eye; a ring may pass forehead and temple.
func (r *Resolved) roundTheEye() bool {
	eye := 0
	for i := range r.Path {
		switch zone := r.Path[i].Zone; {
		case EyeZone(zone):
			eye++
		case zone != "forehead" && zone != "forehead-centre" && zone != "glabella" && zone != "temple":
			return false
		}
	}
	n := len(r.Path)
	return eye == n || eye > 1 && EyeZone(r.Path[0].Zone) && EyeZone(r.Path[n-1].Zone)
}

// turned is the step with its path the other way round.
func (r *Resolved) turned() *Resolved {
	path := slices.Clone(r.Path)
	slices.Reverse(path)
	return &Resolved{Path: path}
}

// inward reports whether the path runs towards the nose where the method of the
// eye does not allow it: anywhere round the eye, or only above it.
func (r *Resolved) inward(school string) bool {
	for i := 1; i < len(r.Path); i++ {
		a, b := &r.Path[i-1], &r.Path[i]
		if !EyeZone(a.Zone) || !EyeZone(b.Zone) || b.id.Zone().Centre.X >= a.id.Zone().Centre.X {
			continue
		}
		below := a.Height < 11.5 && b.Height < 11.5
		if school == "outward" || !below {
			return true
		}
	}
	return false
}

func EyeZone(zone string) bool {
	switch zone {
	case "brow", "brow-base", "upper-eyelid", "lower-eyelid", "under-eye", "orbital-rim", "upper-orbital-rim", "inner-eye-corner", "outer-eye-corner":
		return true
	}
	return false
}
