package drafting

import (
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
)

// polish takes the fixes that findings offer until none is left but such notes
// as only inform; it fits again in between. It returns nil and the strokes in the
// way where a finding stays.
func (d *drafting) polish(p *protocol.Protocol) (*protocol.Protocol, []string) {
	// Fixes leave a valid plan nearly always: looking once, at the end, takes a fifth less than after each of them.
	q, offending := d.fix(p, func(*protocol.Protocol) bool { return true })
	if valid := func(q *protocol.Protocol) bool { return q.Validate(d.ctx, "") == nil }; !valid(q) {
		q, offending = d.fix(p, valid)
	}
	if len(offending) > 0 {
		return nil, offending
	}
	return q, nil
}

// fix takes the fixes that leave a plan which serves, and names the strokes in the way of what stays.
func (d *drafting) fix(p *protocol.Protocol, serves func(*protocol.Protocol) bool) (*protocol.Protocol, []string) {
	tries := map[string]int{}
	e := evaluation.Evaluate(p, d.ctx)
	for range 40 {
		next := -1
		for i := range e.Findings {
			if f := &e.Findings[i]; tries[f.ID] < 4 && !tellsOnly(f) && len(f.Fixes) > 0 {
				next = i
				break
			}
		}
		if next < 0 {
			break
		}
		f := e.Findings[next]
		tries[f.ID]++
		for _, fix := range f.Fixes[min(tries[f.ID]-1, len(f.Fixes)-1):] {
			if q, after, err := remedy.ApplyEvaluated(p, d.ctx, e, f.ID, fix); err == nil && serves(q) {
				p, e = q, after
				break
			}
		}
	}
	var offending []string
	for _, f := range e.Findings {
		if f.Severity == evaluation.Note || tellsOnly(&f) {
			continue
		}
		for _, id := range f.Steps {
			if i := p.Index(id); i >= 0 {
				offending = append(offending, p.Steps[i].Stroke)
			}
		}
		if len(f.Steps) == 0 {
			offending = append(offending, string(f.Code))
		}
	}
	return p, offending
}

// tellsOnly marks findings that a draft may leave standing.
func tellsOnly(f *evaluation.Finding) bool {
	switch f.Code {
	case evaluation.SpeedSoothe,
		evaluation.HandsDay,
		evaluation.HandsTired,
		evaluation.LateDrain,
		evaluation.FlowBreaks,
		evaluation.ClosingOther,
		evaluation.SidesMethod,
		evaluation.GlideSlick,
		evaluation.GlideUnknown:
		return f.Severity == evaluation.Note
	}
	return false
}
