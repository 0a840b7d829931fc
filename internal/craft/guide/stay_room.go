package guide

import (
	"softpalm/internal/craft/evaluation"
)

// eyes are the zones whose sliding is limited, by the name of their share.
var eyes = []string{"under-eye", "orbital-rim"}

// StayRoom is how much longer a treatment may slide on the eyes (handbook, chapter 7, Stay: up to the load caps).
type StayRoom struct {
	// Left are the seconds of sliding left to each eye after the plan, by limit and side: "under-eye/left".
	Left map[string]float64 `json:"left"`
	// Takes is what a second of staying with a spell takes from each limit, by spell; spells that no limit reaches
	// are left out.
	Takes map[string]map[string]float64 `json:"takes"`
}

// NewStayRoom says how much of the eyes' limits a plan leaves, and which spells would take from it.
func NewStayRoom(e *evaluation.Evaluation) StayRoom {
	room := StayRoom{Left: map[string]float64{}, Takes: map[string]map[string]float64{}}
	for _, share := range eyes {
		for _, side := range []string{"left", "right"} {
			room.Left[share+"/"+side] = max(0, evaluation.EyeLimit(share)-e.EyeSliding(share, side))
		}
	}
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		if takes := eyeShares(r, o); len(takes) > 0 {
			room.Takes[SpellKey(r.ID, o.Number)] = takes
		}
	}
	return room
}

// eyeShares are the parts of a spell's time in which it slides on each eye, by limit and side.
func eyeShares(r *evaluation.Resolved, o *evaluation.Occurrence) map[string]float64 {
	out := map[string]float64{}
	sliding := r.SlidingShare()
	for k := range r.Path {
		share := evaluation.EyeShare(r.Path[k].Zone)
		if share == "" || sliding <= 0 {
			continue
		}
		for _, side := range []string{"left", "right"} {
			if worksOn(o, side) {
				out[share+"/"+side] += sliding / float64(len(r.Path))
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
