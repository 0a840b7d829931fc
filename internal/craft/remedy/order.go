package remedy

import (
	"slices"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

// smootherOrder looks for an order of the work with less travel, fewer tool
// changes and fewer times off the face that keeps every other rule: no finding
// it did not have. It returns nil where there is none.
func smootherOrder(p *protocol.Protocol, ctx *protocol.Context) *protocol.Protocol {
	e := evaluation.Evaluate(p, ctx)
	best, cost := p, roughness(e)
	had := map[string]bool{}
	for _, f := range e.Findings {
		had[f.ID] = true
	}
	movable := func(s *protocol.Step) bool {
		return (s.Phase == "work" || s.Phase == "exercises") && s.Round == "" && s.Use == nil && s.Remove == ""
	}
	for range 12 {
		next, nextCost := (*protocol.Protocol)(nil), cost
		n := len(best.Steps)
		for i := range n {
			if !movable(&best.Steps[i]) {
				continue
			}
			for j := range n {
				if j == i || !movable(&best.Steps[j]) || !between(best, i, j, movable) {
					continue
				}
				q := best.Clone()
				s := q.Steps[i]
				q.Steps = slices.Insert(slices.Delete(q.Steps, i, i+1), j, s)
				if o := evaluation.EvaluateTimeline(q, ctx); roughness(o) >= nextCost-0.5 {
					continue
				}
				full := evaluation.Evaluate(q, ctx)
				if slices.ContainsFunc(
					full.Findings,
					func(f evaluation.Finding) bool { return !had[f.ID] && f.Code != evaluation.FitUnder },
				) {
					continue
				}
				next, nextCost = q, roughness(full)
			}
		}
		if next == nil {
			break
		}
		best, cost = next, nextCost
	}
	if best == p {
		return nil
	}
	return best
}

// between reports whether everything from i to j may be passed over.
func between(p *protocol.Protocol, i, j int, movable func(*protocol.Step) bool) bool {
	for k := min(i, j); k <= max(i, j); k++ {
		if !movable(&p.Steps[k]) {
			return false
		}
	}
	return true
}

// roughness is what a smoother order lessens: seconds of travel and changes,
// jumps counting as five more.
func roughness(e *evaluation.Evaluation) float64 {
	sum := 5 * float64(e.Jumps)
	for i := range e.Occurrences {
		sum += e.Occurrences[i].Lead
	}
	return sum
}
