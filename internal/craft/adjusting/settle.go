package adjusting

import (
	"slices"
	"strconv"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
)

// refused reports that nothing sensible is left: something that stops, drainage
// without its opening or drainage route, no way to fit its time, or too little work.
func (t *adjuster) refused(now *evaluation.Evaluation) bool {
	for i := range now.Findings {
		f := &now.Findings[i]
		grave := f.Severity == evaluation.Stopping || drainage(f.Code)
		if grave && !t.hadBefore(f) {
			return true
		}
	}
	if t.overruns {
		return true
	}
	before := work(t.was)
	return before > 0 && work(now) < LeastWork*before
}

// hadBefore reports whether the plan had the finding before it was adjusted.
func (t *adjuster) hadBefore(f *evaluation.Finding) bool {
	return slices.ContainsFunc(t.base().Findings, func(g evaluation.Finding) bool {
		return g.ID == f.ID || g.Code == f.Code && len(f.Steps) > 0 && slices.Equal(g.Steps, f.Steps)
	})
}

// work is the seconds of work and exercises.
func work(e *evaluation.Evaluation) float64 {
	sum := 0.0
	for i := range e.Occurrences {
		if ph := e.Steps[e.Occurrences[i].Step].Phase; ph == "work" || ph == "exercises" {
			sum += e.Occurrences[i].End - e.Occurrences[i].Start
		}
	}
	return sum
}

func drainage(c evaluation.Code) bool {
	switch c {
	case evaluation.DrainClosed,
		evaluation.DrainLeft,
		evaluation.DrainOrder,
		evaluation.DrainBarred,
		evaluation.NoOpening,
		evaluation.NoClosing:
		return true
	}
	return false
}

func glide(c evaluation.Code) bool { return c == evaluation.GlideThin || c == evaluation.GlideWet }

// settle makes the plan whole again and fits it to its slot, at most three times
// over, and returns its evaluation.
func (t *adjuster) settle() *evaluation.Evaluation {
	now := evaluation.EvaluateFlow(t.q, t.ctx, t.unchanged) // only these are made whole
	whole := false
	for range 3 {
		touched := false
		for tries := 0; tries < 60; tries++ {
			next := t.restore(now)
			if next == nil {
				break
			}
			now, touched, whole = next, true, true
		}
		if changed, ok := t.refit(now); ok {
			touched, whole = true, true
			was := now
			now = evaluation.EvaluateChanged(t.q, t.ctx, func(i int) *evaluation.Resolved {
				if slices.Contains(changed, t.q.Steps[i].ID) {
					return nil
				}
				return near(was, i, t.q.Steps[i].ID)
			})
		}
		if !touched {
			break
		}
	}
	if !whole {
		was := now
		now = evaluation.EvaluateChanged(t.q, t.ctx, func(i int) *evaluation.Resolved { return &was.Steps[i] })
	}
	return now
}

// restore applies the first fix of every finding that the adjustments caused,
// that keeps the constraints; failing any, the drains that cannot go anywhere are
// left out together. It returns the new evaluation, nil where nothing is left to
// restore.
func (t *adjuster) restore(now *evaluation.Evaluation) *evaluation.Evaluation {
	homeless := map[string]bool{}
	for k := range now.Findings {
		f := &now.Findings[k]
		dry := t.c.ReapplyRule() != "" && f.Code == evaluation.GlideThin
		if !drainage(f.Code) && !glide(f.Code) || t.hadBefore(f) && !dry || t.hopeless[f.ID] {
			continue
		}
		rule := t.firstRule()
		if dry && t.hadBefore(f) {
			rule = t.c.ReapplyRule()
		}
		for _, fix := range f.Fixes {
			q, err := remedy.ApplyTo(t.q, t.ctx, now, f.ID, fix)
			if err != nil || !t.keeps(q) {
				continue
			}
			t.onFreeSides(q)
			next := evaluation.Evaluate(q, t.ctx)
			if slices.ContainsFunc(next.Findings, func(g evaluation.Finding) bool { return g.ID == f.ID }) {
				continue
			}
			for i := range q.Steps {
				if t.q.Index(q.Steps[i].ID) < 0 {
					t.note(q.Steps[i].ID, t.ctx.Strokes[q.Steps[i].Stroke].Name, Restored, rule, Adjustment{})
				}
			}
			t.q = q
			return next
		}
		if drainage(f.Code) && len(f.Steps) > 0 {
			homeless[f.Steps[0]] = true
		} else {
			t.hopeless[f.ID] = true
		}
	}
	if len(homeless) == 0 {
		return nil
	}
	for i := len(t.q.Steps) - 1; i >= 0; i-- {
		if homeless[t.q.Steps[i].ID] {
			t.routeless[t.q.Steps[i].Stroke] = true
			t.drop(i, t.ctx.Strokes[t.q.Steps[i].Stroke].Name, RouteBlocked, t.closes(evaluation.Resolve(t.q, i, t.ctx)))
		}
	}
	return evaluation.Evaluate(t.q, t.ctx)
}

// onFreeSides makes the steps that a plan has more than this one work only where
// they have somewhere to go.
func (t *adjuster) onFreeSides(q *protocol.Protocol) {
	for i := range q.Steps {
		if t.q.Index(q.Steps[i].ID) >= 0 {
			continue
		}
		r := evaluation.Resolve(q, i, t.ctx)
		if to := freeSide(r, t.off(r)); to != "" {
			q.Steps[i].Sides, q.Steps[i].Departure = to, otherSideOut
		}
	}
}

// keeps reports whether the steps that a plan has more than this one keep every
// constraint as they are.
func (t *adjuster) keeps(q *protocol.Protocol) bool {
	for i := range q.Steps {
		if t.q.Index(q.Steps[i].ID) >= 0 {
			continue
		}
		r := evaluation.Resolve(q, i, t.ctx)
		if t.bars(r) != "" || t.barredZone(r) != "" || t.routeless[r.StrokeKey] || t.ctx.LongNails && r.Scratches() {
			return false
		}
		for k := range r.Path {
			pt := &r.Path[k]
			id := pt.ZoneID()
			if _, rule := t.c.Limit(id, pt.Pressure); rule != "" {
				return false
			}
		}
		if u := q.Steps[i].Use; u != nil && t.ruleOnProduct(t.ctx.Products[u.Product]) != "" {
			return false
		}
	}
	return true
}

// withoutSome fits the plan when any step of the work may go.
func (t *adjuster) withoutSome(slot int) fitting.Fitted {
	q := t.q.Clone()
	for i := range q.Steps {
		if ph := q.Steps[i].Phase; ph == "work" || ph == "exercises" {
			q.Steps[i].Optional = true
		}
	}
	f := fitting.Fit(q, t.ctx, slot)
	for i := range f.Protocol.Steps {
		s := &f.Protocol.Steps[i]
		s.Optional = t.q.Steps[t.q.Index(s.ID)].Optional
	}
	return f
}

// refit brings the changed plan back to its slot where the plan filled it before,
// and reports whether it changed anything, and which steps got another dose.
func (t *adjuster) refit(now *evaluation.Evaluation) (changed []string, ok bool) {
	slot := t.q.Minutes.HandsOnTotal()
	if now.Seconds >= float64(slot-evaluation.FitGrace) && now.Seconds <= float64(slot) {
		return nil, false
	}
	if t.c.RefitRule() == "" && t.was.Seconds > float64(t.was.SlotSeconds)+0.5 {
		return nil, false
	}
	fitted := fitting.FitOf(t.q, t.ctx, now, slot)
	if fitted.MissBy > 0 { // sides worked apart take longer: some of the work has to go
		fitted = t.withoutSome(slot)
	}
	t.overruns = fitted.MissBy > 0
	n := len(fitted.Changed) + len(fitted.Dropped) + len(fitted.Rounds)
	if t.overruns || n == 0 {
		return nil, false
	}
	for _, id := range fitted.Dropped {
		r := evaluation.Resolve(t.q, t.q.Index(id), t.ctx)
		t.note(id, r.Name, NoTime, t.firstRule(), Adjustment{})
	}
	t.q = fitted.Protocol
	for i := range t.adjustments {
		if t.adjustments[i].Kind == Refitted {
			t.adjustments[i].To = strconv.Itoa(n)
			return fitted.Changed, true
		}
	}
	t.adjustments = append(t.adjustments, Adjustment{Kind: Refitted, To: strconv.Itoa(n)})
	return fitted.Changed, true
}
