package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
)

// ZoneView is a zone of the body.
type ZoneView = anatomy.Zone

// LibraryView is what protocols are made of.
type LibraryView struct {
	// Zones are those built in, then those of the studio's own.
	Zones []anatomy.Zone `json:"zones"`
	// OwnZones are those that the studio added, as they are edited.
	OwnZones []anatomy.OwnZone `json:"ownZones"`
	Strokes  []stroke.Stroke   `json:"strokes"`
	Tools    []protocol.Tool   `json:"tools"`
	Products []ProductView     `json:"products"`
	Phases   []protocol.Phase  `json:"phases"`
	// HandParts are the parts of the hand that work.
	HandParts []string           `json:"handParts"`
	Concerns  []protocol.Concern `json:"concerns"`
	// Routes are the edges of the lymph graph.
	Routes []anatomy.Route `json:"routes"`
	// Own lists the keys of strokes of the studio's own.
	Own []string `json:"own"`
	// Figures say how each stroke moves, by key.
	Figures map[string]stroke.Figure `json:"figures"`
	// Tags that rules speak of; products may carry others besides.
	Tags []substance.Tag `json:"tags"`
}

func (h *handlers) registerLibrary(api huma.API) {
	huma.Register(
		api,
		closed("get-library", http.MethodGet, "/api/library", "Zones, strokes, tools and products"),
		func(ctx context.Context, _ *struct{}) (*body[LibraryView], error) {
			l, err := h.rooms.Protocols.Library(ctx, actor(ctx))
			if err != nil {
				return nil, answer(err)
			}
			v := LibraryView{
				Zones:     anatomy.WithOwn(l.Zones),
				OwnZones:  l.Zones,
				Strokes:   l.Strokes,
				Tools:     l.Tools,
				Products:  []ProductView{},
				Phases:    protocol.Phases,
				HandParts: stroke.HandParts,
				Concerns:  protocol.Concerns,
				Routes:    anatomy.Routes(),
				Own:       l.Own,
				Figures:   make(map[string]stroke.Figure, len(l.Strokes)),
				Tags:      substance.KnownTags(),
			}
			for i := range l.Strokes {
				v.Figures[l.Strokes[i].Key] = l.Strokes[i].Motion().Figure()
			}
			for i := range l.Products {
				if p := &l.Products[i]; p.Unit != studio.Pieces { // disposables are in no plan of strokes
					v.Products = append(v.Products, productView(p))
				}
			}
			return reply(v, nil)
		},
	)
	huma.Register(
		api,
		closed("add-stroke", http.MethodPost, "/api/strokes", "Add a stroke of the studio's own; its key is made from its name"),
		func(ctx context.Context, in *struct{ Body stroke.Stroke }) (*body[*stroke.Stroke], error) {
			in.Body.Key = ""
			st, err := h.rooms.Protocols.SaveStroke(ctx, actor(ctx), in.Body, nil)
			return reply(st, err)
		},
	)
	huma.Register(
		api,
		closed("change-stroke", http.MethodPut, "/api/strokes/{key}", "Replace a studio stroke"),
		func(ctx context.Context, in *struct {
			Key  string `path:"key" maxLength:"60"`
			Body struct {
				Stroke stroke.Stroke `json:"stroke"`
				// Was is the stroke as it was on the screen.
				Was *stroke.Stroke `json:"was,omitempty"`
			}
		}) (*body[*stroke.Stroke], error) {
			in.Body.Stroke.Key = in.Key
			st, err := h.rooms.Protocols.SaveStroke(ctx, actor(ctx), in.Body.Stroke, in.Body.Was)
			return reply(st, err)
		},
	)
	huma.Register(
		api,
		closed("drop-stroke", http.MethodDelete, "/api/strokes/{key}", "Remove a stroke of the studio's own"),
		func(ctx context.Context, in *struct {
			Key string `path:"key" maxLength:"60"`
		}) (*nothing, error) {
			return nil, answer(h.rooms.Protocols.DropStroke(ctx, actor(ctx), in.Key))
		},
	)
	huma.Register(
		api,
		closed("add-tool", http.MethodPost, "/api/tools", "Add a tool; its key is made from its name"),
		func(ctx context.Context, in *struct{ Body protocol.Tool }) (*body[*protocol.Tool], error) {
			in.Body.Key = ""
			t, err := h.rooms.Protocols.AddTool(ctx, actor(ctx), in.Body)
			return reply(t, err)
		},
	)
}
