package evaluation

import (
	"reflect"
	"slices"

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

// mirrors reports whether m does on its side what r does on the other. Wording is no difference, and
// what was never stated is not compared.
func (r *Resolved) mirrors(m *Resolved) bool {
	if r.Stroke != m.Stroke || len(r.Path) != len(m.Path) || !sameAnchor(r.Anchor, m.Anchor) {
		return false
	}
	either := func(property string) bool { return r.unsaid(property) || m.unsaid(property) }
	if !either("dose") && (r.Working != m.Working || *r.Dose != *m.Dose) {
		return false
	}
	if !either("hand") && !either("tool") && (r.Hand != m.Hand || !reflect.DeepEqual(r.Tool, m.Tool)) {
		return false
	}
	for i := range r.Path {
		a, b := &r.Path[i], &m.Path[i]
		if a.Zone != b.Zone || !a.unsaid && !b.unsaid && a.Pressure != b.Pressure {
			return false
		}
	}
	return true
}

// sameAnchor reports whether the other hand does the same, in whatever words.
func sameAnchor(a, b *stroke.Anchor) bool {
	if a == nil || b == nil {
		return a == b
	}
	return a.Zone == b.Zone && a.Hand == b.Hand && a.Pressure == b.Pressure && a.Role == b.Role && slices.Equal(a.Then, b.Then)
}
