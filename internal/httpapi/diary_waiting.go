package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// registerAbsent adds what is done when a practitioner is away: the day laid again, and the calls.
func (h *handlers) registerAbsent(api huma.API) {
	huma.Register(api, closed("lay-absent-day", http.MethodPost, "/api/absent-day/lay", "The visits of a practitioner who is away laid again"),
		func(ctx context.Context, in *struct{ Body diary.AbsentQuestion }) (*body[*diary.NewDay], error) {
			d, err := h.rooms.Diary.LayAbsentDay(ctx, actor(ctx), in.Body)
			return reply(d, err)
		})
	huma.Register(api, closed("accept-absent-day", http.MethodPost, "/api/absent-day", "Write the absence and the new day as it was shown"),
		func(ctx context.Context, in *struct {
			Body struct {
				diary.AbsentQuestion
				Calls []diary.NewDayCall `json:"calls" maxItems:"200"`
			}
		}) (*body[*diary.NewDay], error) {
			d, err := h.rooms.Diary.AcceptAbsentDay(ctx, actor(ctx), in.Body.AbsentQuestion, in.Body.Calls)
			return reply(d, err)
		})
	huma.Register(api, closed("list-calls", http.MethodGet, "/api/calls", "The clients who are still to be called"),
		func(ctx context.Context, _ *struct{}) (*body[[]diary.OpenCall], error) {
			list, err := h.rooms.Diary.Calls(ctx, actor(ctx))
			return reply(list, err)
		})
	huma.Register(api, closed("list-unconfirmed", http.MethodGet, "/api/unconfirmed", "Appointments whose clients were reminded and have not confirmed"),
		func(ctx context.Context, _ *struct{}) (*body[[]diary.Unconfirmed], error) {
			list, err := h.rooms.Diary.Unconfirmed(ctx, actor(ctx))
			return reply(list, err)
		})
	huma.Register(api, closed("call-made", http.MethodPost, "/api/calls/{id}/made", "Note that a client was called"),
		func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.CallMade(ctx, actor(ctx), in.ID))
		})
}

// registerWaiting adds the waiting list.
func (h *handlers) registerWaiting(api huma.API) {
	huma.Register(api, closed("list-waiting", http.MethodGet, "/api/waiting", "The waiting list"),
		func(ctx context.Context, _ *struct{}) (*body[[]diary.WaitingLine], error) {
			list, err := h.rooms.Diary.Waiting(ctx, actor(ctx))
			return reply(list, err)
		})
	huma.Register(api, closed("add-waiter", http.MethodPost, "/api/waiting", "Put a client on the waiting list; the same id twice does so once"),
		func(ctx context.Context, in *struct{ Body diary.NewWaiter }) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.Wait(ctx, actor(ctx), in.Body))
		})
	huma.Register(api, closed("remove-waiter", http.MethodDelete, "/api/waiting/{id}", "Take a client off the waiting list"),
		func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.StopWaiting(ctx, actor(ctx), in.ID))
		})
	huma.Register(api, closed("who-fits", http.MethodGet, "/api/visits/{id}/waiting", "Whom the time of a visit serves that does not take place"),
		func(ctx context.Context, in *ByID) (*body[[]diary.Fit], error) {
			list, err := h.rooms.Diary.WhoFits(ctx, actor(ctx), in.ID)
			return reply(list, err)
		})
	huma.Register(api, closed("offer-time", http.MethodPost, "/api/waiting/{id}/offer", "Hold a time for somebody on the waiting list"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Series uuid.UUID   `json:"series" format:"uuid"`
				At     series.Spot `json:"at"`
			}
		}) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.OfferTime(ctx, actor(ctx), in.ID, in.Body.Series, in.Body.At)
			return reply(v, err)
		})
}

// registerWalkIn adds what fits somebody who walks in.
func (h *handlers) registerWalkIn(api huma.API) {
	huma.Register(api, closed("walk-in", http.MethodGet, "/api/walk-in", "What fits now for a client who walked in"),
		func(ctx context.Context, in *struct {
			Client uuid.UUID `query:"client" required:"true" format:"uuid"`
		}) (*body[[]diary.FitsNow], error) {
			list, err := h.rooms.Diary.WalkIn(ctx, actor(ctx), in.Client)
			return reply(list, err)
		})
	huma.Register(api, closed("place-walk-in", http.MethodPost, "/api/walk-in", "Book a client who walked in, arrived at once; the same id twice does so once"),
		func(ctx context.Context, in *struct{ Body diary.NewWalkIn }) (*body[*studio.VisitLine], error) {
			v, err := h.rooms.Diary.PlaceWalkIn(ctx, actor(ctx), in.Body)
			return reply(v, err)
		})
}
