package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio"
)

func (h *handlers) registerMessages(api huma.API) {
	huma.Register(
		api,
		closed("list-messages", http.MethodGet, "/api/messages", "The newest messages that would have been sent"),
		func(ctx context.Context, _ *struct{}) (*body[[]studio.Message], error) {
			list, err := h.rooms.Portal.Messages(ctx, actor(ctx))
			return reply(list, err)
		},
	)
}
