package evaluation

import (
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Leads is the part of a path that runs the wrong way, from zone to zone.
type Leads struct {
	plain
	From string `json:"from"`
	To   string `json:"to"`
}

// checkDirection judges which way a step runs by its intent: a lift up and out,
// a neck drain down, any drain towards its node. The nape may be settled upward
// unless the method says down; the method decides round the eye.
func (e *Evaluation) checkDirection(r *Resolved, school protocol.Method) {
	if len(r.Path) < 2 || r.Source.Departure != "" {
		return
	}
	first, last := &r.Path[0], &r.Path[len(r.Path)-1]
	if school.Eye != "" && r.Relation == stroke.Slides && r.inward(school.Eye) {
		way := SayDeparture // a whole circle runs inward either way round
		if !r.turned().inward(school.Eye) {
			way = ReversePath
		}
		e.add(EyeInward, Warning, MethodRule, &Leads{From: first.Zone, To: last.Zone}, []Fix{way}, r.ID)
	}
	switch r.Intent {
	case stroke.Lift:
		if r.roundTheEye() {
			return // out above and in below, or the other way: the eye's school decides
		}
		a, b := first.id.Zone().Centre, last.id.Zone().Centre
		if b.Y < a.Y-1 && b.Y-a.Y < -0.5*math.Abs(b.X-a.X) {
			e.add(LiftDown, Warning, CommonPractice, &Leads{From: first.Zone, To: last.Zone}, []Fix{ReversePath}, r.ID)
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
			e.add(NeckUp, Warning, CommonPractice, &Leads{From: first.Zone, To: last.Zone}, []Fix{ReversePath}, r.ID)
			return
		}
		for i := 1; i < len(r.Path); i++ {
			if anatomy.FlowDirection(r.Path[i-1].id, r.Path[i].id) == anatomy.Backward {
				r.away = true
				e.add(DrainAway, Warning, Anatomy, &Leads{From: r.Path[i-1].Zone, To: r.Path[i].Zone}, []Fix{ReversePath}, r.ID)
				return
			}
		}
	}
}
