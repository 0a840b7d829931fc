package evaluation

import (
	"reflect"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Mirror is the step of the first side that a step of the second should match.
type Mirror struct {
	plain
	Of string `json:"of"`
}

// SidesWorked is how a step works the sides, and how the method does.
type SidesWorked struct {
	plain
	Sides  stroke.Sides `json:"sides"`
	Method string       `json:"method"`
}

// mirrors compares the second side with the first: what differs must say so.
func (e *Evaluation) mirrors(p *protocol.Protocol) {
	for i := range p.Steps {
		m := &p.Steps[i]
		r := &e.Steps[i]
		if m.MirrorOf != "" && m.Departure == "" {
			if k := p.Index(m.MirrorOf); k >= 0 && !e.Steps[k].mirrors(r) {
				e.add(MirrorOther, Note, MethodRule, &Mirror{Of: m.MirrorOf}, []Fix{CopyMirror, SayDeparture}, m.ID)
			}
		}
		if r.Phase != "work" || m.Departure != "" || len(r.Path) == 0 {
			continue
		}
		wrong := false
		switch p.Method.Sides {
		case "both":
			wrong = r.Sides == stroke.InTurns
		case "each-step":
			wrong = r.Sides == stroke.BothAtOnce
		case "whole-side":
			wrong = r.Sides == stroke.BothAtOnce || r.Sides == stroke.InTurns
		}
		if wrong {
			e.add(SidesMethod, Note, MethodRule, &SidesWorked{Sides: r.Sides, Method: p.Method.Sides}, []Fix{SayDeparture}, m.ID)
		}
	}
}

// mirrors reports whether m does on its side what r does on the other.
func (r *Resolved) mirrors(m *Resolved) bool {
	if r.Stroke != m.Stroke || r.Working != m.Working || r.Hand != m.Hand || !reflect.DeepEqual(r.Tool, m.Tool) ||
		len(r.Path) != len(m.Path) ||
		*r.Dose != *m.Dose {
		return false
	}
	for i := range r.Path {
		if r.Path[i].Zone != m.Path[i].Zone || r.Path[i].Pressure != m.Path[i].Pressure {
			return false
		}
	}
	return true
}
