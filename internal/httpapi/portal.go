package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/portal"
)

func (h *handlers) registerMessages(api huma.API) {
	huma.Register(
		api,
		closed("list-messages", http.MethodGet, "/api/messages", "The newest messages, sent and kept"),
		func(ctx context.Context, _ *struct{}) (*body[*portal.MessageList], error) {
			list, err := h.rooms.Portal.Messages(ctx, actor(ctx))
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("send-message", http.MethodPost, "/api/messages/{id}/send", "Send a message that was kept or could not be sent"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Portal.SendMessage(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("send-test-message", http.MethodPost, "/api/settings/test-message", "Send a test message to one's own address"),
		func(ctx context.Context, _ *struct{}) (*nothing, error) {
			return nil, answer(h.rooms.Portal.SendTest(ctx, actor(ctx)))
		},
	)
}
