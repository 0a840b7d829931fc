package adjusting

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// barredZone returns the rule that bars any place the step touches, on its path or
// besides it.
func (t *adjuster) barredZone(r *evaluation.Resolved) string {
	if len(t.c.Excluded()) == 0 {
		return ""
	}
	for i := range r.Path {
		id := r.Path[i].ZoneID()
		if rule := t.ruleOn(id, r.Sides); rule != "" {
			return rule
		}
	}
	for zone := range r.Besides {
		if id, ok := t.ctx.Zone(zone); ok {
			if rule := t.ruleOn(id, r.Sides); rule != "" {
				return rule
			}
		}
	}
	return ""
}

func (t *adjuster) anchored(r *evaluation.Resolved) string {
	if r.Anchor == nil {
		return ""
	}
	if id, ok := t.ctx.Zone(r.Anchor.Zone); ok {
		if rule := t.ruleOn(id, r.Sides); rule != "" {
			return rule
		}
	}
	if second := r.Anchor.Second; second != nil {
		if id, ok := t.ctx.Zone(second.Zone); ok {
			if rule := t.ruleOn(id, r.Sides); rule != "" {
				return rule
			}
		}
	}
	for _, then := range r.Anchor.Then {
		if id, ok := t.ctx.Zone(then.Zone); ok {
			if rule := t.ruleOn(id, r.Sides); rule != "" {
				return rule
			}
		}
	}
	return ""
}

// ruleOn returns the rule that bars a zone on any side that the sides touch.
func (t *adjuster) ruleOn(id anatomy.ID, s stroke.Sides) string {
	on, n := touched(id, s)
	for _, side := range on[:n] {
		if r := t.c.RuleAt(side, id); r != "" {
			return r
		}
	}
	return ""
}

// touched lists the sides of a zone that a way of working sides touches: the
// first n of on.
func touched(id anatomy.ID, s stroke.Sides) (on [3]anatomy.Side, n int) {
	z := id.Zone()
	if !z.Paired {
		return [3]anatomy.Side{anatomy.Mid}, 1
	}
	if s != stroke.RightOnly {
		on[n] = anatomy.Left
		n++
	}
	if s != stroke.LeftOnly {
		on[n] = anatomy.Right
		n++
	}
	if z.Midline {
		on[n] = anatomy.Mid
		n++
	}
	return on, n
}

// zones leads the step round places that are left out. Where only one side is
// affected, the step is split: the free side keeps the whole path.
func (t *adjuster) zones(i int, r *evaluation.Resolved) int {
	if rule := t.anchored(r); rule != "" { // the path may be free, the anchor hand is not
		return t.substituteOrDrop(i, r, rule)
	}
	rule, zone, barred := t.barredPath(r)
	if rule == "" { // a finger or a part has a place of its own there
		return t.substituteOrDrop(i, r, t.barredZone(r))
	}
	paired := r.Sides == stroke.BothAtOnce || r.Sides == stroke.InTurns
	if paired && !barred[anatomy.Mid] && barred[anatomy.Left] != barred[anatomy.Right] && t.q.Steps[i].Round == "" {
		return t.splitSides(i, r, rule, zone, barred[anatomy.Left])
	}
	path := t.pathLeft(i, r)
	if len(path) == 0 {
		return t.substituteOrDrop(i, r, rule)
	}
	s := &t.q.Steps[i]
	whole := s.Path
	s.Path = path
	if t.barredZone(evaluation.Resolve(t.q, i, t.ctx)) != "" { // a finger of its own runs there
		s.Path = whole
		return t.substituteOrDrop(i, r, rule)
	}
	t.note(s.ID, r.Name, Rerouted, rule, Adjustment{Zone: zone})
	return 0
}

// substituteOrDrop puts another stroke of the same intent in a step's place, or
// removes the step. It returns by how many steps the protocol has grown.
func (t *adjuster) substituteOrDrop(i int, r *evaluation.Resolved, rule string) int {
	if alt := t.substitute(i, r); alt != nil {
		t.swap(i, r, alt, rule, Adjustment{})
		return 0
	}
	return t.drop(i, r.Name, Dropped, rule)
}

// barredPath is the rule that avoids a zone of the path, that zone, and the sides on
// which the path is barred; "" where the path is free.
func (t *adjuster) barredPath(r *evaluation.Resolved) (rule, zone string, barred map[anatomy.Side]bool) {
	barred = map[anatomy.Side]bool{}
	for _, pt := range r.Path {
		id := pt.ZoneID()
		on, n := touched(id, r.Sides)
		for _, side := range on[:n] {
			if by := t.c.RuleAt(side, id); by != "" {
				rule, zone = by, pt.Zone
				barred[side] = true
			}
		}
	}
	return rule, zone, barred
}

// pathAround is a step's path on one side without the zones to avoid; nil where
// nothing sensible is left of it.
func (t *adjuster) pathAround(i int, r *evaluation.Resolved, side anatomy.Side) []protocol.PathPoint {
	said := r.Spelled()
	var out []protocol.PathPoint
	for k, pt := range r.Path {
		id := pt.ZoneID()
		if t.c.RuleAt(id.On(side), id) == "" && (!id.Zone().Midline || t.c.RuleAt(anatomy.Mid, id) == "") {
			out = append(out, said[k])
		}
	}
	if len(r.Path) > 1 && len(out) < 2 && r.Relation == stroke.Slides {
		return nil // a glide needs somewhere to go
	}
	if r.Intent == stroke.Drain && len(out) > 0 && out[len(out)-1].Zone != r.Path[len(r.Path)-1].Zone {
		return t.detour(out, side) // it would end short of its node
	}
	return out
}

// pathLeft is what is left of a step's path on the sides that it works.
func (t *adjuster) pathLeft(i int, r *evaluation.Resolved) []protocol.PathPoint {
	switch r.Sides {
	case stroke.RightOnly:
		return t.pathAround(i, r, anatomy.Right)
	case stroke.LeftOnly:
		return t.pathAround(i, r, anatomy.Left)
	}
	var path []protocol.PathPoint
	for _, pt := range t.pathAround(i, r, anatomy.Left) {
		id := t.ctx.ZoneOf(pt.Zone)
		if t.ruleOn(id, r.Sides) == "" {
			path = append(path, pt)
		}
	}
	if len(path) < 2 && len(r.Path) > 1 && r.Relation == stroke.Slides {
		return nil
	}
	return path
}

// splitSides works the whole path on the free side only, and adds a step for what is
// left of the path on the other side, where that is worth a step.
func (t *adjuster) splitSides(i int, r *evaluation.Resolved, rule, zone string, leftBarred bool) int {
	s := &t.q.Steps[i]
	free, other, off := stroke.LeftOnly, stroke.RightOnly, anatomy.Right
	if leftBarred {
		free, other, off = stroke.RightOnly, stroke.LeftOnly, anatomy.Left
	}
	was := s.Sides
	s.Sides = free
	if also := t.barredZone(evaluation.Resolve(t.q, i, t.ctx)); also != "" { // a finger of its own is barred there too
		s.Sides = was
		return t.substituteOrDrop(i, r, also)
	}
	s.Departure = otherSideOut
	t.note(s.ID, r.Name, OtherSide, rule, Adjustment{Zone: zone, To: string(free)})
	path := t.pathAround(i, r, off)
	n := len(path)
	if n == 0 || path[n-1].Zone == r.Path[len(r.Path)-1].Zone && t.off(r)[off] {
		return 0
	}
	both := s.Use
	if s.Use != nil { // each side gets its half
		half := *s.Use
		half.Amount.Value /= 2
		s.Use = &half
	}
	m := *s
	m.ID, m.Sides, m.Path = s.ID+"-"+off.String(), other, path
	t.q.Steps = slices.Insert(t.q.Steps, i+1, m)
	if t.barredZone(evaluation.Resolve(t.q, i+1, t.ctx)) == "" {
		return 1
	}
	t.q.Steps = slices.Delete(t.q.Steps, i+1, i+2) // a finger of its own runs there
	t.q.Steps[i].Use = both
	return 0
}
