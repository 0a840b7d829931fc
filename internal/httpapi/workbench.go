package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/screening"
	"softpalm/internal/studio"
)

// DoneView is a protocol after a command.
type DoneView struct {
	Done       *protocol.Done       `json:"done"`
	Evaluation *protocol.Evaluation `json:"evaluation"`
}

// VariationView is a variant of a protocol, worked out.
type VariationView struct {
	Variant    protocol.Variant     `json:"variant"`
	Protocol   *protocol.Protocol   `json:"protocol"`
	Evaluation *protocol.Evaluation `json:"evaluation"`
	Changes    []screening.Change   `json:"changes"`
	Refused    bool                 `json:"refused"`
	Comparison protocol.Comparison  `json:"comparison"`
}

// ComparisonView is two versions of a protocol and in what they differ.
type ComparisonView struct {
	Was        *protocol.Protocol  `json:"was"`
	Now        *protocol.Protocol  `json:"now"`
	Comparison protocol.Comparison `json:"comparison"`
}

func (h *handlers) registerWorkbench(api huma.API) {
	huma.Register(api, closed("command-protocol", http.MethodPost, "/api/command", "Run a command on a protocol without keeping it"), func(ctx context.Context, in *struct {
		Body struct {
			Protocol protocol.Protocol `json:"protocol"`
			Order    protocol.Order    `json:"order"`
		}
	}) (*body[DoneView], error) {
		d, e, err := h.svc.CommandProtocol(ctx, actor(ctx), &in.Body.Protocol, in.Body.Order)
		return reply(DoneView{d, e}, err)
	})
	huma.Register(api, closed("draft-protocol", http.MethodPost, "/api/draft", "Compose a first draft from a question, without keeping it"), func(ctx context.Context, in *struct{ Body protocol.Question }) (*body[FixedView], error) {
		p, e, err := h.svc.DraftProtocol(ctx, actor(ctx), in.Body)
		return reply(FixedView{p, e}, err)
	})
	huma.Register(api, closed("vary-protocol", http.MethodPost, "/api/variants", "Every variant of a protocol, worked out"), func(ctx context.Context, in *struct {
		Body struct {
			Protocol protocol.Protocol `json:"protocol"`
		}
	}) (*body[[]VariationView], error) {
		list, err := h.svc.VaryProtocol(ctx, actor(ctx), &in.Body.Protocol)
		out := make([]VariationView, len(list))
		for i, v := range list {
			out[i] = VariationView{v.Variant, v.Tailored.Protocol, v.Tailored.Evaluation, v.Tailored.Changes, v.Tailored.Refused, v.Comparison}
		}
		return reply(out, err)
	})
	huma.Register(api, closed("list-versions", http.MethodGet, "/api/protocols/{id}/versions", "A protocol's versions, newest first"), func(ctx context.Context, in *ByID) (*body[[]studio.VersionLine], error) {
		list, err := h.svc.VersionsOf(ctx, actor(ctx), in.ID)
		return reply(list, err)
	})
	huma.Register(api, closed("compare-versions", http.MethodGet, "/api/protocols/{id}/comparison", "Two versions of a protocol, step by step; 0 is your draft"), func(ctx context.Context, in *struct {
		ID  uuid.UUID `path:"id" format:"uuid"`
		Was int       `query:"was" minimum:"0"`
		Now int       `query:"now" minimum:"0"`
	}) (*body[ComparisonView], error) {
		c, was, now, err := h.svc.CompareVersions(ctx, actor(ctx), in.ID, in.Was, in.Now)
		return reply(ComparisonView{was, now, c}, err)
	})
	huma.Register(api, closed("get-protocol-file", http.MethodGet, "/api/protocols/{id}/file", "A protocol as a file; version 0 is your draft"), func(ctx context.Context, in *struct {
		ID      uuid.UUID `path:"id" format:"uuid"`
		Version int       `query:"version" minimum:"0"`
	}) (*download, error) {
		f, err := h.svc.ProtocolToFile(ctx, actor(ctx), in.ID, in.Version)
		if err != nil {
			return nil, answer(err)
		}
		return h.file(f, f.Protocol.Key+".json")
	})
	huma.Register(api, closed("get-library-file", http.MethodGet, "/api/library/file", "The studio's own strokes and tools as a file"), func(ctx context.Context, _ *struct{}) (*download, error) {
		f, err := h.svc.LibraryToFile(ctx, actor(ctx))
		if err != nil {
			return nil, answer(err)
		}
		return h.file(f, "library.json")
	})
}

// download is an answer that the browser saves.
type download struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (h *handlers) file(v any, name string) (*download, error) {
	data, err := h.cfg.Files.Write(v)
	if err != nil {
		return nil, answer(err)
	}
	return &download{"application/json", `attachment; filename="` + name + `"`, data}, nil
}
