package evaluation

import "softpalm/internal/craft/protocol"

// Gone is the key of a stroke or a product that is no longer there.
type Gone struct {
	plain
	Stroke  string `json:"stroke,omitempty"`
	Product string `json:"product,omitempty"`
}

// checkThere finds steps whose stroke or product was removed since.
func (e *Evaluation) checkThere(r *Resolved, ctx *protocol.Context) {
	if r.Stroke.Gone {
		e.add(StrokeMissing, Stopping, StudioLibrary, &Gone{Stroke: r.Source.Stroke}, []Fix{LeaveStep}, r.ID)
	}
	if u := r.Source.Use; u != nil && ctx.Products[u.Product] == nil {
		e.add(ProductMissing, Stopping, StudioLibrary, &Gone{Product: u.Product}, []Fix{DropProduct}, r.ID)
	}
}
