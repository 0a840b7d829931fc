package evaluation

import "softpalm/internal/craft/anatomy"

// SetLeft is the side on which a set was not drained down the neck.
type SetLeft struct{ OnSide }

// Place is empty: the set is the step itself.
func (*SetLeft) Place() (zone, node string) { return "", "" }

// uncleared is a set of draining strokes on one side that has not had its run
// down the neck yet.
type uncleared struct {
	region anatomy.Region
	step   string
	pass   int
}

// clear follows sets for schools that clear after each: when the next region is
// begun, or the next round, the set before must have been run home.
func (e *Evaluation) clear(set *uncleared, r *Resolved, vi int, side anatomy.Side) {
	if r.arrives() >= 0 || r.endUnsaid() {
		*set = uncleared{}
		return
	}
	from, pass := r.Path[0].id.Zone().Region, e.Occurrences[vi].Number
	if set.step != "" && (set.region != from || set.pass != pass) {
		e.add(NotCleared, Warning, MethodRule, &SetLeft{OnSide: OnSide{side.String()}}, []Fix{ClearSet}, set.step)
	}
	*set = uncleared{from, r.ID, pass}
}
