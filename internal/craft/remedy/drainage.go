package remedy

import (
	"maps"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// node returns the group that has to be open, from the finding.
func (x *fixer) node() anatomy.NodeGroup {
	switch found := x.f.Values.(type) {
	case *evaluation.TooEarly:
		return found.Needs
	case *evaluation.NotOpen:
		return found.Node
	}
	return ""
}

func (x *fixer) moveBefore() error {
	g := x.node()
	for i := x.at + 1; i < len(x.q.Steps); i++ {
		if r := &x.e.Steps[i]; r.Intent == stroke.Open && r.TouchesNode(g) {
			moved := x.q.Steps[i]
			copy(x.q.Steps[x.at+1:i+1], x.q.Steps[x.at:i])
			moved.Phase = x.q.Steps[x.at].Phase
			x.q.Steps[x.at] = moved
			return nil
		}
	}
	return words.NoLaterStepOpensThatNode()
}

// Opener returns the library's opening stroke for a group: of those that touch
// it, the one that touches least of what lies upstream, then the shortest path,
// then the earliest key.
func Opener(ctx *protocol.Context, g anatomy.NodeGroup) *stroke.Stroke {
	var best *stroke.Stroke
	bestUpstream := 0
	for _, key := range slices.Sorted(maps.Keys(ctx.Strokes)) {
		st := ctx.Strokes[key]
		if st.Intent != stroke.Open || st.Tool != nil {
			continue
		}
		touches, upstream := false, 0
		for _, z := range st.Zones() {
			id, ok := ctx.Zone(z)
			if !ok || id.Zone().Node == "" {
				continue
			}
			touches = touches || id.Zone().Node == g
			if id.Zone().Node.Rank() > g.Rank() {
				upstream++
			}
		}
		if touches && (best == nil || upstream < bestUpstream || upstream == bestUpstream && len(st.Zones()) < len(best.Path)) {
			best, bestUpstream = st, upstream
		}
	}
	return best
}

func (x *fixer) openFirst() error {
	var groups []anatomy.NodeGroup
	opened := map[anatomy.NodeGroup]bool{}
	start := x.resolved().Start
	for _, o := range x.e.Opened {
		if o.At < start {
			opened[o.Node] = true
		}
	}
	for g := x.node(); g != "" && !opened[g]; g = g.Next() {
		groups = append([]anatomy.NodeGroup{g}, groups...)
	}
	return x.insertOpeners(x.at, groups)
}

func (x *fixer) openAll() error {
	at := len(x.q.Steps)
	for i := range x.e.Steps {
		if in := x.e.Steps[i].Intent; in == stroke.Drain || in == stroke.Lift || in == stroke.Release {
			at = i
			break
		}
	}
	return x.insertOpeners(
		at,
		[]anatomy.NodeGroup{anatomy.Terminus, anatomy.DeepCervical, anatomy.Preauricular, anatomy.Submandibular},
	)
}

func (x *fixer) insertOpeners(at int, groups []anatomy.NodeGroup) error {
	var steps []protocol.Step
	for _, g := range groups {
		st := Opener(x.ctx, g)
		if st == nil {
			return words.LibraryHasNoStrokeThatOpensG(g.EntryZone())
		}
		id := x.q.NewID(st.Key)
		for taken := true; taken; {
			taken = false
			for i := range steps {
				if steps[i].ID == id {
					id, taken = id+"b", true
				}
			}
		}
		steps = append(steps, protocol.Step{ID: id, Stroke: st.Key, Phase: "open", Sides: stroke.BothAtOnce})
	}
	x.q.Insert(at, steps...)
	return nil
}

// drainToTerminus adds, before the finish, strokes that take what was moved down to
// the terminus: from the zone where it was left, by the ways hands take.
func (x *fixer) drainToTerminus() error {
	at := len(x.q.Steps)
	for at > 0 && (x.q.Steps[at-1].Phase == "finish" || x.q.Steps[at-1].Phase == "wake" || x.q.Steps[at-1].Phase == "reset") {
		at--
	}
	zone, _ := x.f.Values.Place()
	if zone == "" {
		zone = "front-of-ear"
	}
	from := x.ctx.ZoneOf(zone)
	route := routeToTerminus(from)
	path := make([]protocol.PathPoint, len(route))
	for i, id := range route {
		path[i].Zone = id.Zone().Key
	}
	feather := 1
	for _, key := range slices.Sorted(maps.Keys(x.ctx.Strokes)) {
		st := x.ctx.Strokes[key]
		if st.Intent == stroke.Drain && st.Tool == nil && st.Relation == stroke.Slides && len(st.Zones()) > 0 &&
			st.Zones()[len(st.Zones())-1] == "collarbone-hollow" {
			x.q.Insert(
				at,
				protocol.Step{
					ID:       x.q.NewID(st.Key),
					Stroke:   st.Key,
					Phase:    "close",
					Path:     path,
					Pressure: &feather,
					Sides:    stroke.BothAtOnce,
				},
			)
			return nil
		}
	}
	return words.LibraryHasNoGlidingStrokeDownCollarbone()
}

// routeToTerminus is the shortest way by zones from a zone to home: breadth first over
// the places that lead on.
func routeToTerminus(from anatomy.ID) []anatomy.ID {
	chain := []string{"temple", "front-of-ear", "below-ear", "side-neck", "collarbone-hollow"}
	out := []anatomy.ID{from}
	for _, key := range chain {
		id, _ := anatomy.Lookup(key)
		if id != from && anatomy.Leads(out[len(out)-1], id) {
			out = append(out, id)
		}
	}
	if !out[len(out)-1].Zone().Node.IsRouteEnd() {
		id, _ := anatomy.Lookup("armpit")
		out = append(out, id)
	}
	return out
}

// clearSet adds the run down the neck after the set that lacks it.
func (x *fixer) clearSet() error {
	key := x.libraryStroke(func(st *stroke.Stroke) bool {
		return st.Intent == stroke.Drain && st.Tool == nil && len(st.Zones()) > 1 && st.Zones()[len(st.Zones())-1] == "collarbone-hollow"
	})
	if key == "" {
		return words.LibraryHasNoGlidingStrokeDownCollarbone()
	}
	s := x.q.Steps[x.at]
	x.q.Insert(
		x.at+1,
		protocol.Step{
			ID:     x.q.NewID(key),
			Stroke: key,
			Phase:  s.Phase,
			Round:  s.Round,
			Path:   x.routePath(x.resolved()),
			Sides:  stroke.BothAtOnce,
		},
	)
	return nil
}

func (x *fixer) routePath(r *evaluation.Resolved) []protocol.PathPoint {
	route := routeToTerminus(r.Path[len(r.Path)-1].ZoneID())
	path := make([]protocol.PathPoint, len(route))
	for i, id := range route {
		path[i].Zone = id.Zone().Key
	}
	return path
}
