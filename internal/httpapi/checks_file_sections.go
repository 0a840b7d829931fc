package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

func (h *handlers) registerFileSections(api huma.API) {
	huma.Register(
		api,
		closed("list-letters", http.MethodGet, "/api/clients/{id}/letters", "The letters about a client, newest first"),
		func(ctx context.Context, in *ByID) (*body[[]studio.Letter], error) {
			return reply(h.rooms.Checks.LettersOf(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("list-patch-tests", http.MethodGet, "/api/clients/{id}/patch-tests", "A client's patch tests, newest first"),
		func(ctx context.Context, in *ByID) (*body[[]studio.PatchTest], error) {
			return reply(h.rooms.Checks.PatchTestsOf(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("list-pre-checks", http.MethodGet, "/api/clients/{id}/pre-checks", "A client's pre-treatment checks, newest first"),
		func(ctx context.Context, in *byPage) (*body[PreChecksView], error) {
			list, more, err := h.rooms.Checks.ChecksOf(ctx, actor(ctx), in.ID, optionalID(in.After))
			return reply(PreChecksView{list, more}, err)
		},
	)
	huma.Register(
		api,
		closed("get-caution-history", http.MethodGet, "/api/clients/{id}/caution-history", "Which contraindications of a client applied when"),
		func(ctx context.Context, in *ByID) (*body[*checks.CautionHistory], error) {
			return reply(h.rooms.Checks.CautionHistory(ctx, actor(ctx), in.ID))
		},
	)
}

// PreChecksView is one page of a client's pre-treatment checks; More is the last of them where there are older ones.
type PreChecksView struct {
	Checks []studio.CheckLine `json:"checks"`
	More   *uuid.UUID         `json:"more,omitempty" format:"uuid"`
}
