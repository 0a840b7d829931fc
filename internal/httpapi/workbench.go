package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/shelf"
)

// DoneView is a protocol after a command.
type DoneView struct {
	Done       *remedy.CommandResult  `json:"done"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
}

// VariationView is a variant of a protocol, worked out.
type VariationView struct {
	Variant    protocol.Variant       `json:"variant"`
	Protocol   *protocol.Protocol     `json:"protocol"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
	Changes    []adjusting.Adjustment `json:"changes"`
	Refused    bool                   `json:"refused"`
	Comparison protocol.Comparison    `json:"comparison"`
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
			Protocol protocol.Protocol     `json:"protocol"`
			Order    remedy.CommandRequest `json:"order"`
		}
	}) (*body[DoneView], error) {
		d, e, err := h.svc.Protocols.CommandProtocol(ctx, actor(ctx), &in.Body.Protocol, in.Body.Order)
		return reply(DoneView{d, e}, err)
	})
	huma.Register(api, closed("draft-protocol", http.MethodPost, "/api/draft", "Compose a first draft from a question, without keeping it"), func(ctx context.Context, in *struct{ Body drafting.Question }) (*body[FixedView], error) {
		p, e, err := h.svc.Protocols.DraftProtocol(ctx, actor(ctx), in.Body)
		return reply(FixedView{p, e}, err)
	})
	huma.Register(api, closed("vary-protocol", http.MethodPost, "/api/variants", "Every variant of a protocol, worked out"), func(ctx context.Context, in *struct {
		Body struct {
			Protocol protocol.Protocol `json:"protocol"`
		}
	}) (*body[[]VariationView], error) {
		list, err := h.svc.Protocols.VaryProtocol(ctx, actor(ctx), &in.Body.Protocol)
		out := make([]VariationView, len(list))
		for i, v := range list {
			out[i] = VariationView{v.Variant, v.Adjusted.Protocol, v.Adjusted.Evaluation, v.Adjusted.Adjustments, v.Adjusted.Refused, v.Comparison}
		}
		return reply(out, err)
	})
	huma.Register(api, closed("list-versions", http.MethodGet, "/api/protocols/{id}/versions", "A protocol's versions, newest first"), func(ctx context.Context, in *ByID) (*body[[]studio.VersionLine], error) {
		list, err := h.svc.Protocols.VersionsOf(ctx, actor(ctx), in.ID)
		return reply(list, err)
	})
	huma.Register(api, closed("compare-versions", http.MethodGet, "/api/protocols/{id}/comparison", "Two versions of a protocol, step by step; 0 is your draft"), func(ctx context.Context, in *struct {
		ID  uuid.UUID `path:"id" format:"uuid"`
		Was int       `query:"was" minimum:"0"`
		Now int       `query:"now" minimum:"0"`
	}) (*body[ComparisonView], error) {
		c, was, now, err := h.svc.Protocols.CompareVersions(ctx, actor(ctx), in.ID, in.Was, in.Now)
		return reply(ComparisonView{was, now, c}, err)
	})
	huma.Register(api, closed("get-protocol-file", http.MethodGet, "/api/protocols/{id}/file", "A protocol as a file; version 0 is your draft"), func(ctx context.Context, in *struct {
		ID      uuid.UUID `path:"id" format:"uuid"`
		Version int       `query:"version" minimum:"0"`
	}) (*download, error) {
		f, err := h.svc.Protocols.ProtocolToFile(ctx, actor(ctx), in.ID, in.Version)
		if err != nil {
			return nil, answer(err)
		}
		return h.file(f, f.Protocol.Key+".json")
	})
	huma.Register(api, closed("print-protocol", http.MethodGet, "/api/protocols/{id}/card", "A protocol's card as PDF; version 0 is your draft"), func(ctx context.Context, in *struct {
		ID      uuid.UUID `path:"id" format:"uuid"`
		Version int       `query:"version" minimum:"0"`
		Size    string    `query:"size" enum:"A4,A5" default:"A4"`
	}) (*download, error) {
		o, err := h.svc.Protocols.ExportProtocol(ctx, actor(ctx), in.ID, in.Version)
		if err != nil {
			return nil, answer(err)
		}
		data, err := h.cfg.Files.ProtocolCard(o.Protocol, o.Evaluation, o.Context, o.Studio, o.Version, in.Size, h.svc.Now())
		if err != nil {
			return nil, answer(err)
		}
		return &download{"application/pdf", `inline; filename="` + o.Protocol.Key + `.pdf"`, data}, nil
	})
	huma.Register(api, closed("get-protocol-csv", http.MethodGet, "/api/protocols/{id}/csv", "A protocol's steps as CSV; version 0 is your draft"), func(ctx context.Context, in *struct {
		ID      uuid.UUID `path:"id" format:"uuid"`
		Version int       `query:"version" minimum:"0"`
	}) (*download, error) {
		o, err := h.svc.Protocols.ExportProtocol(ctx, actor(ctx), in.ID, in.Version)
		if err != nil {
			return nil, answer(err)
		}
		data, err := h.cfg.Files.StepsCSV(o.Protocol, o.Evaluation)
		if err != nil {
			return nil, answer(err)
		}
		return &download{"text/csv; charset=utf-8", `attachment; filename="` + o.Protocol.Key + `.csv"`, data}, nil
	})
	huma.Register(api, closed("add-stroke", http.MethodPost, "/api/strokes", "Add a stroke of the studio's own; its key is made from its name"), func(ctx context.Context, in *struct{ Body stroke.Stroke }) (*body[*stroke.Stroke], error) {
		in.Body.Key = ""
		st, err := h.svc.Protocols.SaveStroke(ctx, actor(ctx), in.Body)
		return reply(st, err)
	})
	huma.Register(api, closed("change-stroke", http.MethodPut, "/api/strokes/{key}", "Keep a stroke of the studio's own in place of what has the key"), func(ctx context.Context, in *struct {
		Key  string `path:"key" maxLength:"60"`
		Body stroke.Stroke
	}) (*body[*stroke.Stroke], error) {
		in.Body.Key = in.Key
		st, err := h.svc.Protocols.SaveStroke(ctx, actor(ctx), in.Body)
		return reply(st, err)
	})
	huma.Register(api, closed("drop-stroke", http.MethodDelete, "/api/strokes/{key}", "Remove a stroke of the studio's own"), func(ctx context.Context, in *struct {
		Key string `path:"key" maxLength:"60"`
	}) (*nothing, error) {
		return nil, answer(h.svc.Protocols.DropStroke(ctx, actor(ctx), in.Key))
	})
	huma.Register(api, closed("add-tool", http.MethodPost, "/api/tools", "Add a tool; its key is made from its name"), func(ctx context.Context, in *struct{ Body protocol.Tool }) (*body[*protocol.Tool], error) {
		in.Body.Key = ""
		t, err := h.svc.Protocols.AddTool(ctx, actor(ctx), in.Body)
		return reply(t, err)
	})
	huma.Register(api, closed("add-product", http.MethodPost, "/api/products", "Put a product on the shelf; its key is made from its name"), func(ctx context.Context, in *struct{ Body shelf.NewProduct }) (*body[IDView], error) {
		in.Body.Key = ""
		id, err := h.svc.Shelf.AddProduct(ctx, actor(ctx), in.Body)
		return reply(IDView{id}, err)
	})
	huma.Register(api, closed("get-library-file", http.MethodGet, "/api/library/file", "The studio's own strokes and tools as a file"), func(ctx context.Context, _ *struct{}) (*download, error) {
		f, err := h.svc.Protocols.LibraryToFile(ctx, actor(ctx))
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
