package series

import (
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// deepFrom is the pressure from which work is deep (handbook, chapter 6).
const deepFrom = 4

// MarksOf proposes the marks of a treatment from its steps: draining where most working
// seconds drain; deep with a step at pressure 4 or 5, a gripping roller or cups. What was set by
// hand on the protocol stands.
func MarksOf(p *protocol.Protocol, ctx *protocol.Context) Marks {
	var m Marks
	all, draining := 0.0, 0.0
	e := evaluation.EvaluateTimeline(p, ctx)
	for i := range e.Steps {
		s := &e.Steps[i]
		seconds := float64(s.Seconds * p.TimesOf(s.Source.Round))
		all += seconds
		if s.Intent == stroke.Drain || s.Intent == stroke.Open {
			draining += seconds
		}
		m.Deep = m.Deep || s.Pressure >= deepFrom
		if s.Tool != nil {
			tool := ctx.Tools[s.Tool.Key]
			m.Deep = m.Deep || tool.Kind == "cup" || tool.Roller() && s.Glide == stroke.GripGlide
		}
	}
	m.Draining = draining > all/2
	return m.byHand(p.Marked)
}

// byHand are marks with those that were set by hand.
func (m Marks) byHand(set *protocol.Marked) Marks {
	if set == nil {
		return m
	}
	for _, x := range []struct {
		by *bool
		to *bool
	}{{set.Draining, &m.Draining}, {set.Deep, &m.Deep}, {set.Glow, &m.Glow}} {
		if x.by != nil {
			*x.to = *x.by
		}
	}
	return m
}
