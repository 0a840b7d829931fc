package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/protocols"
)

// ImportView is what a file adds, or would add: counts of a studio file, or the
// things of a protocol or library file one by one.
type ImportView struct {
	Format  string                  `json:"format"`
	Counts  *house.Counts           `json:"counts,omitempty"`
	Brought *protocols.ImportResult `json:"brought,omitempty"`
}

func (h *handlers) importFile(ctx context.Context, data []byte, dry bool) (v ImportView, err error) {
	a := actor(ctx)
	v.Format = h.cfg.Files.FormatOf(data)
	switch v.Format {
	case "soft-palm-protocol":
		f, err := h.cfg.Files.ReadProtocol(data)
		if err != nil {
			return v, err
		}
		v.Brought, err = h.rooms.Protocols.ImportProtocol(ctx, a, f, dry)
		return v, err
	case "soft-palm-library":
		f, err := h.cfg.Files.ReadLibrary(data)
		if err != nil {
			return v, err
		}
		v.Brought, err = h.rooms.Protocols.ImportLibrary(ctx, a, f, dry)
		return v, err
	}
	if err := a.May("import-studio"); err != nil {
		return v, err
	}
	b, err := h.cfg.Files.ReadBundle(data)
	if err != nil {
		return v, err
	}
	v.Counts, err = h.rooms.House.Import(ctx, a, b, dry)
	return v, err
}

func (h *handlers) registerTablet(api huma.API) {
	huma.Register(
		api,
		closed("set-pin", http.MethodPut, "/api/pin", "Choose the PIN that unlocks the tablet"),
		func(ctx context.Context, in *struct {
			Body struct {
				PIN string `json:"pin" maxLength:"8"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.House.SetPIN(ctx, actor(ctx), in.Body.PIN))
		},
	)
	huma.Register(
		api,
		closed(
			"hand-over-tablet",
			http.MethodPost,
			"/api/clients/{id}/hand-over",
			"Lock this session to the client's consultation",
		),
		func(ctx context.Context, in *ByID) (*body[LinkOut], error) {
			token, until, err := h.rooms.House.HandOverTablet(ctx, actor(ctx), signedIn(ctx).Session.ID, in.ID)
			return reply(LinkOut{Token: token, Until: until}, err)
		},
	)
	huma.Register(
		api,
		closed("unlock-tablet", http.MethodPost, "/api/take-back", "Take the tablet back with the PIN"),
		func(ctx context.Context, in *struct {
			Body struct {
				PIN string `json:"pin" maxLength:"20"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.House.UnlockTablet(ctx, actor(ctx), signedIn(ctx).Session.ID, in.Body.PIN))
		},
	)
}

func (h *handlers) registerAudit(api huma.API) {
	huma.Register(
		api,
		closed("audit-log", http.MethodGet, "/api/audit", "The newest lines of the audit log"),
		func(ctx context.Context, in *struct {
			Before time.Time `query:"before"`
		}) (*body[[]studio.AuditLine], error) {
			list, err := h.rooms.House.AuditLog(ctx, actor(ctx), in.Before)
			return reply(list, err)
		},
	)
}

func (h *handlers) registerImport(api huma.API) {
	bring := closed(
		"import-file",
		http.MethodPost,
		"/api/import",
		"Import a studio, protocol or library file; with dry it only reports what it would add",
	)
	bring.MaxBodyBytes = BodyLimitBytes
	huma.Register(api, bring, func(ctx context.Context, in *struct {
		Dry     bool `query:"dry"`
		RawBody []byte
	}) (*body[ImportView], error) {
		v, err := h.importFile(ctx, in.RawBody, in.Dry)
		return reply(v, err)
	})
}
