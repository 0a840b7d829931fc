package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// registerFinding adds what is asked of the finder; nothing of it writes.
func (h *handlers) registerFinding(api huma.API) {
	huma.Register(api, closed("find-series", http.MethodPost, "/api/series/find", "The best series for a client, with two others"),
		func(ctx context.Context, in *struct{ Body diary.SeriesQuestion }) (*body[*diary.SeriesAnswer], error) {
			a, err := h.rooms.Diary.FindSeries(ctx, actor(ctx), in.Body)
			return reply(a, err)
		})
	huma.Register(api, closed("series-times", http.MethodPost, "/api/series/times", "Every time at which a visit of a series could be"),
		func(ctx context.Context, in *struct{ Body diary.SeriesSpot }) (*body[[]diary.OfferedVisit], error) {
			list, err := h.rooms.Diary.SeriesTimes(ctx, actor(ctx), in.Body)
			return reply(list, err)
		})
	huma.Register(api, closed("why-not", http.MethodPost, "/api/series/why", "The limit that forbids a visit of a series at a time"),
		func(ctx context.Context, in *struct{ Body diary.SeriesSpot }) (*body[*diary.WhyNot], error) {
			why, err := h.rooms.Diary.WhyNotThere(ctx, actor(ctx), in.Body)
			return reply(why, err)
		})
	huma.Register(api, closed("why-not-earlier", http.MethodPost, "/api/series/earlier", "Why a visit of a series is not on an earlier day"),
		func(ctx context.Context, in *struct{ Body diary.SeriesSpot }) (*body[[]diary.EarlierDay], error) {
			list, err := h.rooms.Diary.WhyNotEarlier(ctx, actor(ctx), in.Body)
			return reply(list, err)
		})
	huma.Register(api, closed("lay-series", http.MethodPost, "/api/series/{id}/lay", "A booked series laid again, with one visit moved or none"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Moved *diary.MovedVisit `json:"moved,omitempty"`
			}
		}) (*body[*diary.SeriesAnswer], error) {
			a, err := h.rooms.Diary.LaySeries(ctx, actor(ctx), in.ID, in.Body.Moved)
			return reply(a, err)
		})
	huma.Register(api, closed("standing-times", http.MethodGet, "/api/series/{id}/times", "Every time at which a visit of a booked series could be"),
		func(ctx context.Context, in *struct {
			ByID
			N int `query:"n" minimum:"1" maximum:"60"`
		}) (*body[[]diary.OfferedVisit], error) {
			list, err := h.rooms.Diary.StandingTimes(ctx, actor(ctx), in.ID, in.N)
			return reply(list, err)
		})
	huma.Register(api, closed("standing-why", http.MethodPost, "/api/series/{id}/why", "The limit that forbids a visit of a booked series at a time"),
		func(ctx context.Context, in *struct {
			ByID
			Body diary.MovedVisit
		}) (*body[*diary.WhyNot], error) {
			why, err := h.rooms.Diary.WhyNotStanding(ctx, actor(ctx), in.ID, in.Body)
			return reply(why, err)
		})
}

// registerAgain adds what is asked about a single visit for the next.
func (h *handlers) registerAgain(api huma.API) {
	huma.Register(api, closed("same-again", http.MethodGet, "/api/visits/{id}/again", "The next visit like this one, as a question for the finder"),
		func(ctx context.Context, in *ByID) (*body[*diary.SeriesQuestion], error) {
			q, err := h.rooms.Diary.SameAgain(ctx, actor(ctx), in.ID)
			return reply(q, err)
		})
}

// registerSeries adds what holds, books and changes series.
func (h *handlers) registerSeries(api huma.API) {
	huma.Register(api, closed("hold-series", http.MethodPost, "/api/series", "Hold a whole series for ten minutes; the same id twice holds once"),
		func(ctx context.Context, in *struct{ Body diary.NewSeries }) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.HoldSeries(ctx, actor(ctx), in.Body)
			return reply(v, err)
		})
	onSeries := func(id, path, summary string, do func(context.Context, *studio.Actor, uuid.UUID) (*diary.SeriesView, error)) {
		huma.Register(api, closed(id, http.MethodPost, "/api/series/{id}/"+path, summary),
			func(ctx context.Context, in *ByID) (*body[*diary.SeriesView], error) {
				v, err := do(ctx, actor(ctx), in.ID)
				return reply(v, err)
			})
	}
	onSeries("renew-hold", "renew", "Hold a series for another ten minutes, once",
		func(ctx context.Context, a *studio.Actor, id uuid.UUID) (*diary.SeriesView, error) {
			return h.rooms.Diary.RenewHold(ctx, a, id)
		})
	onSeries("send-hold", "send", "Send a series that is held to its client, who answers by link",
		func(ctx context.Context, a *studio.Actor, id uuid.UUID) (*diary.SeriesView, error) {
			return h.rooms.Diary.SendHold(ctx, a, id)
		})
	onSeries("book-series", "book", "Book a series that is held",
		func(ctx context.Context, a *studio.Actor, id uuid.UUID) (*diary.SeriesView, error) {
			return h.rooms.Diary.BookSeries(ctx, a, id)
		})
	huma.Register(api, closed("release-series", http.MethodPost, "/api/series/{id}/release", "Let go of a series that is held"),
		func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.ReleaseSeries(ctx, actor(ctx), in.ID))
		})
	huma.Register(api, closed("move-series", http.MethodPost, "/api/series/{id}/visits", "Move the visits of a booked series together"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Visits []series.Placed `json:"visits" minItems:"1" maxItems:"61"`
			}
		}) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.MoveSeries(ctx, actor(ctx), in.ID, in.Body.Visits)
			return reply(v, err)
		})
	huma.Register(api, closed("set-series-state", http.MethodPost, "/api/series/{id}/state", "Pause, take up, finish or break off a series"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				State  studio.SeriesState `json:"state" enum:"running,paused,finished,broken-off"`
				Reason string             `json:"reason,omitempty" maxLength:"500"`
			}
		}) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.SetSeriesState(ctx, actor(ctx), in.ID, in.Body.State, in.Body.Reason)
			return reply(v, err)
		})
	huma.Register(api, closed("get-series", http.MethodGet, "/api/series/{id}", "A series with its visits"),
		func(ctx context.Context, in *ByID) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.SeriesOf(ctx, actor(ctx), in.ID)
			return reply(v, err)
		})
	huma.Register(api, closed("list-series", http.MethodGet, "/api/clients/{id}/series", "A client's series, newest first"),
		func(ctx context.Context, in *ByID) (*body[[]diary.SeriesView], error) {
			list, err := h.rooms.Diary.ClientSeries(ctx, actor(ctx), in.ID)
			return reply(list, err)
		})
	huma.Register(api, closed("list-holds", http.MethodGet, "/api/holds", "The series that are held at the moment"),
		func(ctx context.Context, _ *struct{}) (*body[[]diary.Hold], error) {
			list, err := h.rooms.Diary.Holds(ctx, actor(ctx))
			return reply(list, err)
		})
}

// registerReviews adds what belongs to a series besides its visits: the end review and the home care.
func (h *handlers) registerReviews(api huma.API) {
	huma.Register(api, closed("review-series", http.MethodPost, "/api/series/{id}/review", "Finish a series with its end review"),
		func(ctx context.Context, in *struct {
			ByID
			Body diary.ReviewAsked
		}) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.ReviewSeries(ctx, actor(ctx), in.ID, in.Body)
			return reply(v, err)
		})
	huma.Register(api, closed("write-home-care", http.MethodPut, "/api/series/{id}/home-care", "Write the home care of a series"),
		func(ctx context.Context, in *struct {
			ByID
			Body diary.HomeCareAsked
		}) (*body[*diary.SeriesView], error) {
			v, err := h.rooms.Diary.WriteHomeCare(ctx, actor(ctx), in.ID, in.Body)
			return reply(v, err)
		})
	huma.Register(api, closed("review-times", http.MethodGet, "/api/series/{id}/review-times", "The next times for an end review of its own"),
		func(ctx context.Context, in *ByID) (*body[[]studio.FreeTime], error) {
			v, err := h.rooms.Diary.ReviewTimes(ctx, actor(ctx), in.ID)
			return reply(v, err)
		})
	huma.Register(api, closed("book-review", http.MethodPost, "/api/series/{id}/review-visit", "Book the end review as an appointment of its own; the same id twice books once"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				ID           uuid.UUID `json:"id" format:"uuid"`
				Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
				Room         uuid.UUID `json:"room" format:"uuid"`
				Start        time.Time `json:"start"`
			}
		}) (*body[*diary.SeriesView], error) {
			b := &in.Body
			v, err := h.rooms.Diary.BookReview(ctx, actor(ctx), in.ID, studio.NewVisit{ID: b.ID, Practitioner: b.Practitioner, Room: b.Room, Start: b.Start})
			return reply(v, err)
		})
}

// registerTogether adds what books those who come together.
func (h *handlers) registerTogether(api huma.API) {
	huma.Register(api, closed("find-together", http.MethodPost, "/api/together/find", "The best times for clients who come together"),
		func(ctx context.Context, in *struct{ Body diary.TogetherQuestion }) (*body[*diary.TogetherAnswer], error) {
			v, err := h.rooms.Diary.FindTogether(ctx, actor(ctx), in.Body)
			return reply(v, err)
		})
	huma.Register(api, closed("book-together", http.MethodPost, "/api/together", "Book all who come together, or none; the same id twice books once"),
		func(ctx context.Context, in *struct{ Body diary.NewTogether }) (*body[[]studio.VisitLine], error) {
			v, err := h.rooms.Diary.BookTogether(ctx, actor(ctx), in.Body)
			return reply(v, err)
		})
}
