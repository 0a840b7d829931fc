package evaluation

import (
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// checkTimed asks for the time of masks and cold.
func (e *Evaluation) checkTimed(r *Resolved, p *protocol.Protocol, ctx *protocol.Context) {
	prod := ctx.ProductOf(r.Source.Use)
	mask := prod != nil && prod.Form == slip.Mask
	cold := r.Tool != nil && ctx.Tools[r.Tool.Key].Cold()
	if (mask || cold) && r.Dose.Open() {
		e.add(NoTime, Warning, CommonPractice, values{"mask": mask}, []Fix{StateTime}, r.ID)
	}
	if cold && r.Relation == stroke.Still && r.Family == stroke.ToolPress && (r.OnZone("under-eye") || r.OnZone("lower-eyelid") || r.OnZone("orbital-rim")) {
		e.add(ColdStill, Warning, CommonPractice, values{}, []Fix{LeaveStep}, r.ID)
	}
}
