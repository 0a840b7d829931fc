package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/patch"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

func (h *handlers) registerPatchTests(api huma.API) {
	huma.Register(
		api,
		closed("apply-patch-test", http.MethodPost, "/api/clients/{id}/patch-tests", "Record a patch test as applied now"),
		func(ctx context.Context, in *struct {
			ByID
			Body checks.NewPatchTest
		}) (*body[*studio.PatchTest], error) {
			p, err := h.rooms.Checks.ApplyPatchTest(ctx, actor(ctx), in.ID, in.Body)
			return reply(p, err)
		},
	)
	huma.Register(
		api,
		closed("read-patch-test", http.MethodPost, "/api/patch-tests/{id}/readings", "Record how the skin answered"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Hours int              `json:"hours" enum:"24,48"`
				Grade patch.PatchGrade `json:"grade" enum:"negative,doubtful,weak,strong,extreme,irritant"`
				// FromPicture says that it was made from the client's picture.
				FromPicture bool `json:"fromPicture,omitempty"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Checks.ReadPatchTest(ctx, actor(ctx), in.ID, patch.Reading{Hours: in.Body.Hours, Grade: in.Body.Grade, FromPicture: in.Body.FromPicture}))
		},
	)
	huma.Register(
		api,
		closed(
			"patch-offer",
			http.MethodGet,
			"/api/visits/{id}/patch-test",
			"Products an appointment needs a patch test of, and free times for it",
		),
		func(ctx context.Context, in *ByID) (*body[*checks.PatchOffer], error) {
			o, err := h.rooms.Checks.PatchOfferFor(ctx, actor(ctx), in.ID)
			return reply(o, err)
		},
	)
	huma.Register(
		api,
		closed(
			"book-patch-test",
			http.MethodPost,
			"/api/visits/{id}/patch-test",
			"Book a 10-minute patch test before an appointment; the same id twice books once",
		),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				ID           uuid.UUID `json:"id" format:"uuid"`
				Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
				Room         uuid.UUID `json:"room" format:"uuid"`
				Start        time.Time `json:"start"`
			}
		}) (*body[*studio.VisitLine], error) {
			b := in.Body
			v, err := h.rooms.Checks.BookPatchTest(
				ctx,
				actor(ctx),
				in.ID,
				studio.NewVisit{ID: b.ID, Practitioner: b.Practitioner, Room: b.Room, Start: b.Start},
			)
			return reply(v, err)
		},
	)
}
