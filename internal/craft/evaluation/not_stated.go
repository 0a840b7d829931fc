package evaluation

import "softpalm/internal/craft/stroke"

// Unsaid is a property of a step that was never stated, with the words it came with. The plan is worked
// out with the usual value; the list is a question to its writer, and no finding.
type Unsaid struct {
	Step     string `json:"step"`
	Property string `json:"property"`
	Said     string `json:"said,omitempty"`
}

// NotStated is how such a property was a finding once, in plans prepared until then.
type NotStated struct {
	plain
	Property string `json:"property"`
	Said     string `json:"said"`
}

func (n *NotStated) apart() string { return n.Property }

// gaps lists what a step never said.
func (e *Evaluation) gaps(r *Resolved) {
	if len(r.Source.Gaps) == 0 && len(r.Stroke.Gaps) == 0 {
		return
	}
	for _, property := range stroke.Properties {
		said, ok := r.Source.Gaps[property]
		if !ok {
			said, ok = r.Stroke.Gaps[property]
		}
		if ok {
			e.NotStated = append(e.NotStated, Unsaid{r.ID, property, said})
		}
	}
}
