package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/demo"
	"softpalm/internal/studio/house"
)

func (h *handlers) registerSettings(api huma.API) {
	huma.Register(
		api,
		closed("get-settings", http.MethodGet, "/api/settings", "The studio's settings"),
		func(ctx context.Context, _ *struct{}) (*body[*house.SettingsView], error) {
			v, err := h.rooms.House.Settings(ctx, actor(ctx))
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		closed("change-settings", http.MethodPut, "/api/settings", "Change the studio's settings"),
		func(ctx context.Context, in *struct{ Body house.SettingsView }) (*body[*house.SettingsView], error) {
			v, err := h.rooms.House.ChangeSettings(ctx, actor(ctx), in.Body.Revision, in.Body.Settings)
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		open("make-studio", http.MethodPost, "/api/studio", "Make the studio, where there is none yet"),
		func(ctx context.Context, in *struct {
			Origin
			Body house.NewStudio
		}) (*nothing, error) {
			shipped, err := h.cfg.Files.ReadBundle(demo.Studio)
			if err != nil {
				return nil, answer(err)
			}
			return nil, answer(h.rooms.House.FirstStudio(ctx, in.Body, shipped, in.From))
		},
	)
}
