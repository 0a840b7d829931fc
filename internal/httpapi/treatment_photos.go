package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// photoRequest is the largest request with a photo: its bytes are written in base64.
const photoRequest = treatment.PhotoBytes/3*4 + 1<<14

func (h *handlers) registerPhotos(api huma.API) {
	huma.Register(
		api,
		closed("list-photos", http.MethodGet, "/api/clients/{id}/photos", "Photos in a client's file, oldest first"),
		func(ctx context.Context, in *ByID) (*body[[]studio.Photo], error) {
			return reply(h.rooms.Treatment.Photos(ctx, actor(ctx), in.ID))
		},
	)
	add := closed("add-photo", http.MethodPost, "/api/clients/{id}/photos", "Add a photo that was shown before; a repeat changes nothing")
	add.MaxBodyBytes = photoRequest
	huma.Register(api, add, func(ctx context.Context, in *struct {
		ByID
		Body treatment.NewPhoto
	}) (*body[[]studio.Photo], error) {
		return reply(h.rooms.Treatment.AddPhoto(ctx, actor(ctx), in.ID, in.Body))
	})
	huma.Register(
		api,
		closed("get-photo", http.MethodGet, "/api/photos/{id}", "A photo, as JPEG"),
		func(ctx context.Context, in *ByID) (*download, error) {
			p, err := h.rooms.Treatment.Photo(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return &download{"image/jpeg", `inline; filename="photo.jpg"`, p.Image}, nil
		},
	)
	huma.Register(
		api,
		closed("remove-photo", http.MethodDelete, "/api/photos/{id}", "Delete a photo for good"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Treatment.RemovePhoto(ctx, actor(ctx), in.ID))
		},
	)
}
