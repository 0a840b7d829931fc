package adjusting

import (
	"slices"
	"strconv"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// caps lowers the pressure of a step to what each zone may bear today: along the
// path, under single fingers and the anchor.
func (t *adjuster) caps(i int) {
	s := &t.q.Steps[i]
	r := t.resolved(i)
	worst := Adjustment{}
	worstRule, from := "", -1
	lowerAt := func(id anatomy.ID, zone string, pressure int) (int, bool) {
		limit, rule := t.c.Limit(id, pressure)
		if rule == "" || limit >= pressure {
			return pressure, false
		}
		if pressure > from {
			from, worstRule, worst = pressure, rule, Adjustment{Zone: zone, From: strconv.Itoa(pressure), To: strconv.Itoa(limit)}
		}
		return limit, true
	}
	lower := func(zone string, pressure int) (int, bool) {
		id, ok := t.ctx.Zone(zone)
		if !ok {
			return pressure, false
		}
		return lowerAt(id, zone, pressure)
	}
	var path []protocol.PathPoint
	for k := range r.Path {
		pt := &r.Path[k]
		limit, ok := lowerAt(pt.ZoneID(), pt.Zone, pt.Pressure)
		if !ok {
			continue
		}
		if path == nil {
			path = r.Spelled()
		}
		path[k].Pressure = &limit
	}
	if path != nil {
		s.Path = path
	}
	if a := r.Anchor; a != nil {
		lowered := *a
		lowered.Then = slices.Clone(a.Then)
		limit, changed := lower(a.Zone, a.Pressure)
		lowered.Pressure = limit
		if second := a.Second; second != nil {
			if limit, ok := lower(second.Zone, second.Pressure); ok {
				gentler := *second
				gentler.Pressure, lowered.Second, changed = limit, &gentler, true
			}
		}
		for k := range lowered.Then {
			if limit, ok := lower(lowered.Then[k].Zone, lowered.Then[k].Pressure); ok {
				lowered.Then[k].Pressure, changed = limit, true
			}
		}
		if changed {
			s.Anchor = &lowered
		}
	}
	t.capFingers(s, r, lower)
	if worstRule != "" {
		t.note(s.ID, r.Name, Lowered, worstRule, worst)
	}
}

// capFingers lowers fingers and parts that press on their own account.
func (t *adjuster) capFingers(s *protocol.Step, r *evaluation.Resolved, lower func(zone string, pressure int) (int, bool)) {
	least := func(zone string, pressure int) (int, bool) {
		if zone != "" {
			return lower(zone, pressure)
		}
		out, changed := pressure, false
		for i := range r.Path {
			if limit, ok := lower(r.Path[i].Zone, out); ok {
				out, changed = limit, true
			}
		}
		return out, changed
	}
	var fingers []stroke.Finger
	for i, f := range r.Fingers {
		if limit, ok := least(f.Zone, f.Pressure); ok {
			if fingers == nil {
				fingers = slices.Clone(r.Fingers)
			}
			fingers[i].Pressure = limit
		}
	}
	if fingers != nil {
		s.Fingers = fingers
	}
	capParts := func(parts []stroke.Part) []stroke.Part {
		var out []stroke.Part
		for i := range parts {
			if parts[i].Pressure == nil {
				continue
			}
			if limit, ok := least(parts[i].Zone, *parts[i].Pressure); ok {
				if out == nil {
					out = slices.Clone(parts)
				}
				out[i].Pressure = &limit
			}
		}
		return out
	}
	last := r.Last
	if parts := capParts(r.Parts); parts != nil {
		s.Parts, s.Last = parts, last
	}
	if last != nil {
		l := *last
		changed := false
		if parts := capParts(l.Parts); parts != nil {
			l.Parts, changed = parts, true
		}
		if l.Pressure != nil {
			if limit, ok := least("", *l.Pressure); ok {
				l.Pressure, changed = &limit, true
			}
		}
		if changed {
			s.Last = &l
		}
	}
}

// firm raises the pressure of the work by one level where the client wishes a
// firmer hand: up to what each zone and today's contraindications allow, never of
// opening or draining strokes, and nowhere that would bring a finding.
func (t *adjuster) firm() {
	if t.c.FirmerRule() == "" {
		return
	}
	raised := map[string]Adjustment{}
	was := map[string][]protocol.PathPoint{}
	for i := range t.q.Steps {
		s := &t.q.Steps[i]
		if w := t.c.For(s.ID); w != nil && w.FirmerRule() == "" {
			continue
		}
		r := t.resolved(i)
		if r.Phase != "work" || r.Intent == stroke.Drain || r.Intent == stroke.Open || r.Tool != nil {
			continue
		}
		var path []protocol.PathPoint
		for k := range r.Path {
			pt := &r.Path[k]
			now := pt.Pressure + 1
			limit, _ := t.c.Limit(pt.ZoneID(), now)
			if pt.Pressure == 0 || limit < now || now > pt.ZoneID().Zone().Ceiling {
				continue
			}
			if path == nil {
				path = r.Spelled()
				raised[s.ID] = Adjustment{Zone: pt.Zone, From: strconv.Itoa(pt.Pressure), To: strconv.Itoa(now)}
			}
			path[k].Pressure = &now
		}
		if path != nil {
			was[s.ID], s.Path = s.Path, path
		}
	}
	for range 3 { // taking one back may be enough for the others
		back := false
		for _, f := range evaluation.Evaluate(t.q, t.ctx).Findings {
			if f.Severity == evaluation.Note || t.hadBefore(&f) {
				continue
			}
			for _, id := range f.Steps {
				if _, ok := raised[id]; ok {
					t.q.Steps[t.q.Index(id)].Path = was[id]
					delete(raised, id)
					back = true
				}
			}
		}
		if !back {
			break
		}
	}
	for i := range t.q.Steps {
		if ch, ok := raised[t.q.Steps[i].ID]; ok {
			t.note(t.q.Steps[i].ID, t.ctx.Strokes[t.q.Steps[i].Stroke].Name, Firmed, t.c.FirmerRule(), ch)
		}
	}
}
