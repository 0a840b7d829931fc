package evaluation

import "softpalm/internal/craft/protocol"

// checkThere finds steps whose stroke or product was removed since.
func (e *Evaluation) checkThere(r *Resolved, ctx *protocol.Context) {
	if ctx.Strokes[r.Source.Stroke] == nil {
		e.add(StrokeMissing, Stopping, StudioLibrary, values{"stroke": r.Source.Stroke}, []Fix{LeaveStep}, r.ID)
	}
	if u := r.Source.Use; u != nil && ctx.ProductOf(u) == nil {
		e.add(ProductMissing, Stopping, StudioLibrary, values{"product": u.Product}, []Fix{DropProduct}, r.ID)
	}
}
