package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/anatomy"
)

// OwnZoneBody is a zone of the studio's own as it is typed; its key is made from its name.
type OwnZoneBody struct {
	Name     string            `json:"name"               minLength:"1" maxLength:"40"`
	Paired   bool              `json:"paired"`
	Ceiling  int               `json:"ceiling"            minimum:"1"   maximum:"5"`
	DrainsTo anatomy.NodeGroup `json:"drainsTo,omitempty" enum:"terminus,axillary,deep-cervical,preauricular,submandibular,submental,mastoid,occipital,"`
	Note     string            `json:"note,omitempty"     maxLength:"200"`
}

func (b *OwnZoneBody) zone(key string) anatomy.OwnZone {
	return anatomy.OwnZone{Key: key, Name: b.Name, Paired: b.Paired, Ceiling: b.Ceiling, DrainsTo: b.DrainsTo, Note: b.Note}
}

func (h *handlers) registerZones(api huma.API) {
	huma.Register(
		api,
		closed("list-zones", http.MethodGet, "/api/zones", "Zones of the body, those of the studio's own last"),
		func(ctx context.Context, _ *struct{}) (*body[[]anatomy.Zone], error) {
			return reply(h.rooms.Protocols.Zones(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("add-zone", http.MethodPost, "/api/zones", "Add a zone of the studio's own; its key is made from its name"),
		func(ctx context.Context, in *struct{ Body OwnZoneBody }) (*body[*anatomy.OwnZone], error) {
			z, err := h.rooms.Protocols.SaveZone(ctx, actor(ctx), in.Body.zone(""), nil)
			return reply(z, err)
		},
	)
	huma.Register(
		api,
		closed("change-zone", http.MethodPut, "/api/zones/{key}", "Change a zone of the studio's own"),
		func(ctx context.Context, in *struct {
			Key  string `path:"key" maxLength:"60"`
			Body struct {
				Zone OwnZoneBody `json:"zone"`
				// Was is the zone as it was on the screen.
				Was *anatomy.OwnZone `json:"was,omitempty"`
			}
		}) (*body[*anatomy.OwnZone], error) {
			z, err := h.rooms.Protocols.SaveZone(ctx, actor(ctx), in.Body.Zone.zone(in.Key), in.Body.Was)
			return reply(z, err)
		},
	)
	huma.Register(
		api,
		closed("drop-zone", http.MethodDelete, "/api/zones/{key}", "Remove a zone of the studio's own that nothing works"),
		func(ctx context.Context, in *struct {
			Key string `path:"key" maxLength:"60"`
		}) (*nothing, error) {
			return nil, answer(h.rooms.Protocols.DropZone(ctx, actor(ctx), in.Key))
		},
	)
}
