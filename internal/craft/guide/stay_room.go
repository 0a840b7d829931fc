package guide

import (
	"softpalm/internal/craft/evaluation"
)

// eyes are the zones whose sliding is limited, by the name of their share.
var eyes = []string{"under-eye", "orbital-rim"}

// StayRoom says by how many seconds each spell may be longer before more sliding lies on an eye than a treatment may
// spend there; spells that no limit reaches are left out (handbook, chapter 7, Stay: up to the load caps).
func StayRoom(e *evaluation.Evaluation) map[string]float64 {
	out := map[string]float64{}
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		sliding := r.SlidingShare()
		if sliding <= 0 || len(r.Path) == 0 {
			continue
		}
		key := SpellKey(r.ID, o.Number)
		for _, share := range eyes {
			zones := 0
			for k := range r.Path {
				if evaluation.EyeShare(r.Path[k].Zone) == share {
					zones++
				}
			}
			if zones == 0 {
				continue
			}
			for _, side := range []string{"left", "right"} {
				if !worksOn(o, side) {
					continue
				}
				left := max(0, evaluation.EyeLimit(share)-e.EyeSliding(share, side))
				room := left / (sliding * float64(zones) / float64(len(r.Path)))
				if was, ok := out[key]; !ok || room < was {
					out[key] = round(room)
				}
			}
		}
	}
	return out
}

// worksOn reports whether an occurrence works on a side.
func worksOn(o *evaluation.Occurrence, side string) bool {
	for i := range o.SideRuns {
		if s := o.SideRuns[i].Side; s == side || s == "both" || s == "mid" {
			return true
		}
	}
	return false
}
