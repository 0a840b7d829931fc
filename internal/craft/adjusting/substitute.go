package adjusting

import (
	"slices"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// swap puts another stroke into the step.
func (t *adjuster) swap(i int, r *evaluation.Resolved, alt *stroke.Stroke, rule string, why Adjustment) {
	s := &t.q.Steps[i]
	*s = protocol.SubstituteStroke(s, alt)
	t.note(
		s.ID,
		r.Name,
		Swapped,
		rule,
		Adjustment{
			From: r.Name, To: alt.Name, What: why.What, At: why.At,
			Gentler: onlyGentler(r, evaluation.Resolve(t.q, i, t.ctx)),
		},
	)
}

// onlyGentler reports whether a stroke in the place of another does the same less
// strongly: one of the same family, by hand, on no other zone and nowhere with
// more pressure. Anything else is another treatment, which the practitioner
// accepts by itself.
func onlyGentler(was, now *evaluation.Resolved) bool {
	if now.Family != was.Family || now.Tool != nil {
		return false
	}
	for _, f := range now.Further.AlsoFamilies {
		if !slices.Contains(was.Families(), f) {
			return false
		}
	}
	most := map[string]int{}
	for zone, pressure := range was.Presses {
		most[zone] = max(most[zone], pressure)
	}
	for zone, pressure := range now.Presses {
		if allowed, touched := most[zone]; !touched || pressure > allowed {
			return false
		}
	}
	return true
}

// otherHand takes the first alternate hand or tool of the stroke itself that is
// not barred.
func (t *adjuster) otherHand(i int, r *evaluation.Resolved, rule string, why Adjustment) bool {
	s := &t.q.Steps[i]
	for _, a := range t.ctx.Strokes[s.Stroke].Alternates {
		if a.Stroke != "" || a.LeaveOut || a.Hand == "" && a.Tool == nil || a.When == contraindication.Nails {
			continue
		}
		was := *s
		if a.Hand != "" {
			s.Hand, s.Tool = a.Hand, nil
		} else if t.ctx.Tools[a.Tool.Key].Name != "" {
			s.Tool = a.Tool
		}
		if now := evaluation.Resolve(t.q, i, t.ctx); t.bars(now) == "" && !(t.ctx.LongNails && now.Scratches()) {
			t.note(s.ID, r.Name, OtherHand, rule, Adjustment{From: r.ToolName, To: a.Hand, What: why.What, At: why.At})
			return true
		}
		*s = was
	}
	return false
}

// bars returns the rule that excludes a step by family, intent, stroke or tool.
func (t *adjuster) bars(r *evaluation.Resolved) string {
	return t.c.StrokeRule(r, t.kindOf(r))
}

// kindOf is the kind of tool a step is worked with, "" by hand.
func (t *adjuster) kindOf(r *evaluation.Resolved) string {
	if r.Tool == nil {
		return ""
	}
	return t.ctx.Tools[r.Tool.Key].Kind
}

// substitute finds a stroke for one that is barred: its alternates in order, then
// the library stroke of the same intent that shares most of its path.
func (t *adjuster) substitute(i int, r *evaluation.Resolved) *stroke.Stroke {
	s := t.q.Steps[i]
	fits := func(alt *stroke.Stroke) bool {
		if alt.Tool != nil && t.ctx.Tools[alt.Tool.Key].Name == "" {
			return false
		}
		probe := protocol.Protocol{
			DefaultDose: t.q.DefaultDose,
			FirstSide:   t.q.FirstSide,
			Steps:       []protocol.Step{protocol.SubstituteStroke(&s, alt)},
		}
		probe.Steps[0].Section = ""
		now := evaluation.Resolve(&probe, 0, t.ctx)
		return t.bars(now) == "" && t.barredZone(now) == "" && !(t.ctx.LongNails && now.Scratches())
	}
	for _, a := range t.ctx.Strokes[s.Stroke].Alternates {
		if alt := t.ctx.Strokes[a.Stroke]; alt != nil && a.When != contraindication.Nails && fits(alt) {
			return alt
		}
	}
	var best *stroke.Stroke
	most := 0
	for _, alt := range t.ctx.Strokes { // in any order: the key decides between equals
		if !evaluation.Substitutes(alt, r) {
			continue
		}
		shared := evaluation.SharedZones(alt, r)
		if (shared > most || shared == most && best != nil && alt.Key < best.Key) && fits(alt) {
			best, most = alt, shared
		}
	}
	return best
}
