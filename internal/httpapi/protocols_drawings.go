package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/figure"
)

func (h *handlers) registerDrawings(api huma.API) {
	huma.Register(
		api,
		closed("draw-steps", http.MethodPost, "/api/drawings", "Draw steps: how the hands move, still and moving"),
		func(_ context.Context, in *struct {
			Body struct {
				Steps []evaluation.Resolved `json:"steps" maxItems:"200"`
				// View is the one to draw from; each step's best view where it is empty.
				View anatomy.View `json:"view,omitempty" enum:"front,left,right,back,mouth,"`
			}
		}) (*body[[]figure.Drawing], error) {
			out := make([]figure.Drawing, len(in.Body.Steps))
			for i := range in.Body.Steps {
				view := in.Body.View
				if view == "" {
					view = in.Body.Steps[i].View
				}
				out[i] = figure.Draw(&in.Body.Steps[i], view)
			}
			return reply(out, nil)
		},
	)
	huma.Register(
		api,
		closed("list-figures", http.MethodGet, "/api/figures", "The figures in which strokes are drawn, each with a sample"),
		func(_ context.Context, _ *struct{}) (*body[[]figure.Sample], error) {
			return reply(figure.Legend(), nil)
		},
	)
}
