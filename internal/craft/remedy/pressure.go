package remedy

import (
	"reflect"
	"slices"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

func (x *fixer) lowerPressure() error {
	r, s := x.resolved(), &x.q.Steps[x.at]
	above, ok := x.f.Values.(*evaluation.AboveLimit)
	if !ok {
		return words.ThisFixNotEnoughHereChooseAnother()
	}
	zone, ceiling := above.Zone, above.Ceiling
	path := x.path()
	for i := range path {
		at := r.Path[i].ZoneID().Zone()
		limit := at.Ceiling
		if r.IsStill() {
			limit = at.StillCeiling
		}
		if x.f.Code != evaluation.PressureCeiling && x.f.Code != evaluation.PressureAbsolute {
			limit = min(limit, ceiling)
		}
		if r.Path[i].Pressure > limit {
			path[i].Pressure = &limit
		}
	}
	s.Path = path
	if r.Anchor != nil {
		a := *r.Anchor
		a.Then = slices.Clone(a.Then)
		if a.Zone == zone {
			a.Pressure = min(a.Pressure, ceiling)
		}
		if second := a.Second; second != nil && second.Zone == zone && second.Pressure > ceiling {
			gentler := *second
			gentler.Pressure, a.Second = ceiling, &gentler
		}
		for i := range a.Then {
			if a.Then[i].Zone == zone {
				a.Then[i].Pressure = min(a.Then[i].Pressure, ceiling)
			}
		}
		if !reflect.DeepEqual(a, *r.Anchor) {
			s.Anchor = &a
		}
	}
	if len(r.Fingers) > 0 {
		s.Fingers = slices.Clone(r.Fingers)
		for i := range s.Fingers {
			if f := &s.Fingers[i]; f.Zone == "" || f.Zone == zone {
				f.Pressure = min(f.Pressure, ceiling)
			}
		}
	}
	lower := func(parts []stroke.Part) ([]stroke.Part, bool) {
		out, changed := slices.Clone(parts), false
		for i := range out {
			if out[i].Pressure != nil && *out[i].Pressure > ceiling && (out[i].Zone == "" || out[i].Zone == zone) {
				p := ceiling
				out[i].Pressure, changed = &p, true
			}
		}
		return out, changed
	}
	last := r.Last
	if parts, changed := lower(r.Parts); changed {
		s.Parts, s.Last = parts, last
	}
	if last != nil {
		l := *last
		var changed bool
		l.Parts, changed = lower(l.Parts)
		if l.Pressure != nil && *l.Pressure > ceiling {
			p := ceiling
			l.Pressure, changed = &p, true
		}
		if changed {
			s.Last = &l
		}
	}
	return nil
}

func (x *fixer) leaveZone() error {
	r := x.resolved()
	found, _ := x.f.Values.Place()
	for zone := range r.Besides {
		if zone == found {
			return words.FingerPartStrokeOrOtherHandHas()
		}
	}
	kept := x.path()[:0]
	for i, pt := range x.path() {
		drags := x.f.Code == evaluation.DryDrag && r.Path[i].ZoneID().Zone().Delicate
		if pt.Zone != found && !drags {
			kept = append(kept, pt)
		}
	}
	if len(kept) == 0 {
		x.q.Steps = append(x.q.Steps[:x.at], x.q.Steps[x.at+1:]...)
		return nil
	}
	x.q.Steps[x.at].Path = kept
	return nil
}

func (x *fixer) reversePath() error {
	path := x.path()
	for i, j := 0, len(path)-1; i < j; i, j = i+1, j-1 {
		path[i], path[j] = path[j], path[i]
	}
	x.q.Steps[x.at].Path = path
	return nil
}
