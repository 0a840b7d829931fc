package adjusting

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// off says on which sides an opening or draining step has nowhere to go: a drain
// where it would run into nodes that may not be used, an opening where all it
// opens is barred.
func (t *adjuster) off(r *evaluation.Resolved) (off [3]bool) {
	if t.barred == (evaluation.BarredNodes{}) || len(r.Path) == 0 {
		return off
	}
	for _, side := range [...]anatomy.Side{anatomy.Left, anatomy.Right} {
		switch r.Intent {
		case stroke.Drain:
			off[side] = t.barred.All(r.Path[len(r.Path)-1].ZoneID(), side)
		case stroke.Open:
			nodes, barred := 0, 0
			for k := range r.Path {
				if id := r.Path[k].ZoneID(); id.Zone().Node != "" {
					nodes++
					if t.barred.All(id, side) {
						barred++
					}
				}
			}
			off[side] = nodes > 0 && nodes == barred
		}
	}
	return off
}

// detour leads a draining path, cut short by what is left out, on to another node
// group of the side that is free, by the shortest of the routes that hands take;
// nil where there is none.
func (t *adjuster) detour(path []protocol.PathPoint, side anatomy.Side) []protocol.PathPoint {
	for n := len(path); n > 0; n-- {
		from, ok := t.ctx.Zone(path[n-1].Zone)
		if !ok {
			continue
		}
		free := func(id anatomy.ID) bool {
			return t.c.RuleAt(id.On(side), id) == "" && (!id.Zone().Midline || t.c.RuleAt(anatomy.Mid, id) == "")
		}
		way := anatomy.PathToNodes(from, free, func(id anatomy.ID) bool {
			g := id.Zone().Node
			return g != "" && g.EntryZone() == id.Zone().Key && !t.barred.All(id, side)
		})
		if way == nil || n == 1 && len(way) == 0 {
			continue
		}
		out := slices.Clone(path[:n])
		for _, id := range way {
			out = append(out, protocol.PathPoint{Zone: id.Zone().Key})
		}
		return out
	}
	return nil
}

// side leads an opening or draining step another way on the side on which it has
// nowhere to go, or leaves that side out.
func (t *adjuster) side(i int, r *evaluation.Resolved) int {
	off := t.off(r)
	if !(off[anatomy.Left] && r.Sides != stroke.RightOnly) && !(off[anatomy.Right] && r.Sides != stroke.LeftOnly) {
		return 0
	}
	rule := t.closes(r)
	last := r.Path[len(r.Path)-1].Zone
	s := &t.q.Steps[i]
	to := freeSide(r, off)
	if r.Intent == stroke.Drain && s.Round == "" {
		side := anatomy.Left
		if off[anatomy.Right] && r.Sides != stroke.LeftOnly {
			side = anatomy.Right
		}
		way := t.detour(r.Spelled(), side)
		switch {
		case way == nil || len(way) < 2:
		case to != "": // the free side keeps its path, the other takes the way round
			m := *s
			m.ID, m.Sides, m.Path = s.ID+"-"+side.String(), onlySide[side], way
			if s.Use != nil {
				half := *s.Use
				half.Amount.Value /= 2
				s.Use, m.Use = &half, &half
			}
			s.Sides, s.Departure = to, otherSideRound
			t.q.Steps = slices.Insert(t.q.Steps, i+1, m)
			if t.barredZone(evaluation.Resolve(t.q, i+1, t.ctx)) == "" {
				t.note(m.ID, r.Name, Rerouted, rule, Adjustment{Zone: last})
				t.changed[s.ID] = true
				return 1
			}
			t.q.Steps = slices.Delete(t.q.Steps, i+1, i+2)
			s = &t.q.Steps[i]
		case r.Sides == stroke.LeftOnly || r.Sides == stroke.RightOnly:
			was := s.Path
			if s.Path = way; t.barredZone(evaluation.Resolve(t.q, i, t.ctx)) == "" {
				t.note(s.ID, r.Name, Rerouted, rule, Adjustment{Zone: last})
				return 0
			}
			s.Path = was
		}
	}
	if to != "" {
		s.Sides, s.Departure = to, otherSideOut
		t.note(s.ID, r.Name, OtherSide, rule, Adjustment{Zone: last, To: string(to)})
		return 0
	}
	return t.drop(i, r.Name, RouteBlocked, rule)
}

// closes is the rule that closes the drainage route of a draining or opening step: the
// one that leaves out the entry zone of a node group that its lymph runs through.
func (t *adjuster) closes(r *evaluation.Resolved) string {
	for k := len(r.Path) - 1; k >= 0; k-- {
		for _, g := range anatomy.NodesOf(r.Path[k].ZoneID()) {
			for ; g != ""; g = g.Next() {
				door, _ := anatomy.Lookup(g.EntryZone())
				if rule := t.ruleOn(door, r.Sides); rule != "" {
					return rule
				}
			}
		}
	}
	return t.firstRule()
}

const (
	otherSideOut   = "the other side is left out today"
	otherSideRound = "the other side is led another way today"
)

// freeSide is the one side on which a step for both still has somewhere to go.
func freeSide(r *evaluation.Resolved, off [3]bool) stroke.Sides {
	if r.Sides != stroke.BothAtOnce && r.Sides != stroke.InTurns || off[anatomy.Left] == off[anatomy.Right] {
		return ""
	}
	if off[anatomy.Left] {
		return stroke.RightOnly
	}
	return stroke.LeftOnly
}

var onlySide = map[anatomy.Side]stroke.Sides{anatomy.Left: stroke.LeftOnly, anatomy.Right: stroke.RightOnly}
