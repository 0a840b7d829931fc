package evaluation

import (
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Untimed is a step that needs a stated time: a mask, else cold.
type Untimed struct {
	plain
	Mask bool `json:"mask"`
}

// checkTimed asks for the time of masks and cold.
func (e *Evaluation) checkTimed(r *Resolved, p *protocol.Protocol, ctx *protocol.Context) {
	prod := ctx.ProductOf(r.Source.Use)
	mask := prod != nil && prod.Form == slip.Mask
	cold := r.Tool != nil && ctx.Tools[r.Tool.Key].Cold()
	if (mask || cold) && r.Dose.Open() {
		e.add(NoTime, Warning, CommonPractice, &Untimed{Mask: mask}, []Fix{StateTime}, r.ID)
	}
	if cold && r.Relation == stroke.Still && r.Family == stroke.ToolPress &&
		(r.OnZone("under-eye") || r.OnZone("lower-eyelid") || r.OnZone("orbital-rim")) {
		e.add(ColdStill, Warning, CommonPractice, &Nothing{}, []Fix{LeaveStep}, r.ID)
	}
}
