package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

func (h *handlers) registerProtocolFiles(api huma.API) {
	huma.Register(
		api,
		closed("get-protocol-file", http.MethodGet, "/api/protocols/{id}/file", "A protocol as a file; version 0 is your draft"),
		func(ctx context.Context, in *struct {
			ID      uuid.UUID `path:"id" format:"uuid"`
			Version int       `query:"version" minimum:"0"`
		}) (*download, error) {
			f, err := h.rooms.Protocols.ProtocolToFile(ctx, actor(ctx), in.ID, in.Version)
			if err != nil {
				return nil, answer(err)
			}
			return h.file(f, f.Protocol.Key+".json")
		},
	)
	huma.Register(
		api,
		closed("print-protocol", http.MethodGet, "/api/protocols/{id}/card", "A protocol's card as PDF; version 0 is your draft"),
		func(ctx context.Context, in *struct {
			ID      uuid.UUID `path:"id" format:"uuid"`
			Version int       `query:"version" minimum:"0"`
			Size    string    `query:"size" enum:"A4,A5,wall" default:"A4" doc:"wall is one A4 page of names and times"`
		}) (*download, error) {
			o, err := h.rooms.Protocols.ExportProtocol(ctx, actor(ctx), in.ID, in.Version)
			if err != nil {
				return nil, answer(err)
			}
			var data []byte
			if in.Size == "wall" {
				data, err = h.cfg.Files.WallCard(o.Protocol, o.Evaluation, o.Studio, o.Version, h.rooms.Now())
			} else {
				data, err = h.cfg.Files.ProtocolCard(o.Protocol, o.Evaluation, o.Context, o.Studio, o.Version, in.Size, h.rooms.Now())
			}
			if err != nil {
				return nil, answer(err)
			}
			return &download{"application/pdf", `inline; filename="` + o.Protocol.Key + `.pdf"`, data}, nil
		},
	)
	huma.Register(
		api,
		closed(
			"get-protocol-csv",
			http.MethodGet,
			"/api/protocols/{id}/csv",
			"A protocol's steps as CSV; version 0 is your draft",
		),
		func(ctx context.Context, in *struct {
			ID      uuid.UUID `path:"id" format:"uuid"`
			Version int       `query:"version" minimum:"0"`
		}) (*download, error) {
			o, err := h.rooms.Protocols.ExportProtocol(ctx, actor(ctx), in.ID, in.Version)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.StepsCSV(o.Protocol, o.Evaluation)
			if err != nil {
				return nil, answer(err)
			}
			return &download{"text/csv; charset=utf-8", `attachment; filename="` + o.Protocol.Key + `.csv"`, data}, nil
		},
	)
	huma.Register(
		api,
		closed("get-library-file", http.MethodGet, "/api/library/file", "The studio's own strokes and tools as a file"),
		func(ctx context.Context, _ *struct{}) (*download, error) {
			f, err := h.rooms.Protocols.LibraryToFile(ctx, actor(ctx))
			if err != nil {
				return nil, answer(err)
			}
			return h.file(f, "library.json")
		},
	)
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
