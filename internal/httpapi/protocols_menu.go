package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/protocols"
)

func (h *handlers) registerMenu(api huma.API) {
	huma.Register(
		api,
		closed("get-menu", http.MethodGet, "/api/menu", "How the hands travel in each protocol, and what it lacks today"),
		func(ctx context.Context, _ *struct{}) (*body[[]protocols.MenuLine], error) {
			list, err := h.rooms.Protocols.Menu(ctx, actor(ctx))
			return reply(list, err)
		},
	)
}
