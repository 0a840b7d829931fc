package evaluation

import "softpalm/internal/craft/protocol"

// NoPhase is a usual phase that no step belongs to.
type NoPhase struct {
	plain
	Phase protocol.Phase `json:"phase"`
}

func (n *NoPhase) apart() string { return string(n.Phase) }

// usualPhases of work on a client (handbook, chapter 3); the others depend on
// the plan.
var usualPhases = []protocol.Phase{"settle", "look-over", "work", "wake"}

func (e *Evaluation) phases(p *protocol.Protocol) {
	have := map[protocol.Phase]bool{}
	for i := range p.Steps {
		have[p.Steps[i].Phase] = true
	}
	for _, ph := range usualPhases {
		if !have[ph] {
			var fixes []Fix
			if ph != "work" {
				fixes = []Fix{AddPhase}
			}
			e.add(PhaseMissing, Note, CommonPractice, &NoPhase{Phase: ph}, fixes)
		}
	}
}
