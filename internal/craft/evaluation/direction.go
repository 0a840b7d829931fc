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
	if r.unsaid("path") || r.unsaid("direction") || r.unsaid("intent") {
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
		if r.roundTheEye() || !first.id.Placed() || !last.id.Placed() {
			return // out above and in below, or the other way: the eye's school decides
		}
		a, b := first.id.Zone().Centre, last.id.Zone().Centre
		if b.Y < a.Y-1 && b.Y-a.Y < -0.5*math.Abs(b.X-a.X) {
			e.add(LiftDown, Warning, CommonPractice, &Leads{From: first.Zone, To: last.Zone}, []Fix{ReversePath}, r.ID)
		}
	case stroke.Drain:
		if school.Nape != "down" && r.napeOnly() {
			return
		}
		if r.onNeck() && last.Height > first.Height+1 && !r.alongRoutes() {
			e.add(NeckUp, Warning, CommonPractice, &Leads{From: first.Zone, To: last.Zone}, []Fix{ReversePath}, r.ID)
			return
		}
		if against := r.against(); against > 0 {
			r.away = true
			e.add(DrainAway, Warning, Anatomy, &Leads{From: r.Path[against-1].Zone, To: r.Path[against].Zone}, []Fix{ReversePath}, r.ID)
		}
	}
}

// onNeck reports whether the whole path lies on neck and chest.
func (r *Resolved) onNeck() bool {
	for i := range r.Path {
		if g := r.Path[i].id.Zone().Region; g != anatomy.Neck && g != anatomy.Chest {
			return false
		}
	}
	return true
}

// against is the first stop that a path reaches against the lymph routes before it is home; 0 for none.
func (r *Resolved) against() int {
	end := len(r.Path)
	if home := r.arrives(); home >= 0 {
		end = home + 1
	}
	for i := 1; i < end; i++ {
		if anatomy.FlowDirection(r.Path[i-1].id, r.Path[i].id) == anatomy.Backward {
			return i
		}
	}
	return 0
}

// alongRoutes reports whether every move of a path runs forward: from under the chin to under the jaw,
// which lies higher, is a drain.
func (r *Resolved) alongRoutes() bool {
	for i := 1; i < len(r.Path); i++ {
		if anatomy.FlowDirection(r.Path[i-1].id, r.Path[i].id) != anatomy.Forward {
			return false
		}
	}
	return true
}
