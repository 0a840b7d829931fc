package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// NoPhase is a usual phase that no step belongs to.
type NoPhase struct {
	plain
	Phase protocol.Phase `json:"phase"`
}

func (n *NoPhase) apart() string { return string(n.Phase) }

// usualPhases of work on a client (handbook, chapter 3); the others depend on
// the plan.
var usualPhases = []protocol.Phase{"settle", "look-over", "work", "wake"}

// phases looks for usual phases that a plan on a client lacks. Cleansing is asked for where product is
// massaged in, unless the plan begins on clean skin.
func (e *Evaluation) phases(p *protocol.Protocol, ctx *protocol.Context) {
	have := map[protocol.Phase]bool{}
	for i := range p.Steps {
		have[p.Steps[i].Phase] = true
	}
	wanted := usualPhases
	if !e.cleanses() && e.massages(ctx) && !slices.Contains(p.Preconditions, protocol.CleanSkin) {
		wanted = append([]protocol.Phase{"cleanse"}, wanted...)
	}
	for _, ph := range wanted {
		if !have[ph] {
			var fixes []Fix
			if ph != "work" {
				fixes = []Fix{AddPhase}
			}
			e.add(PhaseMissing, Note, CommonPractice, &NoPhase{Phase: ph}, fixes)
		}
	}
}

// cleanses reports whether some step cleanses, in whatever phase.
func (e *Evaluation) cleanses() bool {
	return e.hasStep(func(r *Resolved) bool { return r.Intent == stroke.Cleanse || r.Family == stroke.CleansingCircle })
}

// massages reports whether some step puts on product to massage with.
func (e *Evaluation) massages(ctx *protocol.Context) bool {
	return e.hasStep(func(r *Resolved) bool {
		prod := ctx.ProductOf(r.Source.Use)
		return prod != nil && slip.Massages(prod.Form)
	})
}
