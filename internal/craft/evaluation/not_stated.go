package evaluation

import "softpalm/internal/craft/stroke"

// NotStated is a property of a step that was never stated, and the words it came with.
type NotStated struct {
	plain
	Property string `json:"property"`
	Said     string `json:"said"`
}

func (n *NotStated) apart() string { return n.Property }

// checkGaps shows what was never said; it is judged at the stroke's default.
func (e *Evaluation) checkGaps(r *Resolved) {
	if len(r.Source.Gaps) == 0 && len(r.Stroke.Gaps) == 0 {
		return
	}
	for _, property := range stroke.Properties {
		said, ok := r.Source.Gaps[property]
		if !ok {
			said, ok = r.Stroke.Gaps[property]
		}
		if ok {
			e.add(NotSaid, Note, CommonPractice, &NotStated{Property: property, Said: said}, nil, r.ID)
		}
	}
}
