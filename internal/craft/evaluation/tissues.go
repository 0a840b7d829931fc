package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// layOutTissues asks for tissues where a plan drains and says what is laid out: a wet throat or a runny
// nose is normal then (handbook, chapter 1, rule of thumb 5). A plan that lists nothing is not asked.
func (e *Evaluation) layOutTissues(p *protocol.Protocol) {
	if len(p.LayOut) == 0 || slices.Contains(p.LayOut, protocol.Tissues) {
		return
	}
	for i := range e.Steps {
		if e.Steps[i].Intent == stroke.Drain {
			e.add(NoTissues, Note, CommonPractice, &Nothing{}, nil)
			return
		}
	}
}
