package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

func (h *handlers) registerDiary(api huma.API) {
	huma.Register(
		api,
		closed("get-day", http.MethodGet, "/api/day", "A day's appointments"),
		func(ctx context.Context, in *struct {
			Date string `query:"date" maxLength:"10"`
		}) (*body[DayView], error) {
			d, err := h.rooms.Diary.Day(ctx, actor(ctx), in.Date)
			return reply(DayView{
				Date:          d.Date,
				Opens:         d.Opens,
				Closes:        d.Closes,
				Practitioners: d.Practitioners,
				Rooms:         d.Rooms,
				Visits:        d.Visits,
			}, err)
		},
	)
	huma.Register(
		api,
		closed("get-preparation", http.MethodGet, "/api/day/preparation", "What to get ready for today's treatments"),
		func(ctx context.Context, in *struct {
			Practitioner string `query:"practitioner" maxLength:"36"`
		}) (*body[*diary.Preparation], error) {
			p, err := h.rooms.Diary.Preparation(ctx, actor(ctx), optionalID(in.Practitioner))
			return reply(p, err)
		},
	)
	huma.Register(
		api,
		closed("get-week", http.MethodGet, "/api/week", "A week of the studio in numbers"),
		func(ctx context.Context, in *struct {
			Date string `query:"date" maxLength:"10"`
		}) (*body[*diary.Week], error) {
			w, err := h.rooms.Diary.Week(ctx, actor(ctx), in.Date)
			return reply(w, err)
		},
	)
	h.registerBooking(api)
}

// registerBooking adds the free times for a single appointment, and booking one.
func (h *handlers) registerBooking(api huma.API) {
	huma.Register(
		api,
		closed("find-free-times", http.MethodGet, "/api/free-times", "Free times for a protocol"),
		func(ctx context.Context, in *struct {
			Protocol     uuid.UUID `query:"protocol" required:"true" format:"uuid"`
			Client       string    `query:"client" maxLength:"36"`
			Practitioner string    `query:"practitioner" maxLength:"36"`
			From         string    `query:"from" maxLength:"10"`
			Days         int       `query:"days" minimum:"1" maximum:"31" default:"7"`
			Moved        string    `query:"moved" maxLength:"36"`
		}) (*body[[]studio.FreeStart], error) {
			q := studio.FreeQuery{
				Protocol:     in.Protocol,
				From:         in.From,
				Days:         in.Days,
				Client:       optionalID(in.Client),
				Practitioner: optionalID(in.Practitioner),
			}
			if moved := optionalID(in.Moved); moved != nil {
				q.Moved = *moved
			}
			list, err := h.rooms.Diary.FreeStarts(ctx, actor(ctx), q)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("book-visit", http.MethodPost, "/api/visits", "Book an appointment; the same id twice books once"),
		func(ctx context.Context, in *struct {
			Body struct {
				ID           uuid.UUID `json:"id" format:"uuid"`
				Client       uuid.UUID `json:"client" format:"uuid"`
				Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
				Room         uuid.UUID `json:"room" format:"uuid"`
				Protocol     uuid.UUID `json:"protocol" format:"uuid"`
				Start        time.Time `json:"start"`
			}
		}) (*body[*studio.VisitLine], error) {
			b := in.Body
			v, err := h.rooms.Diary.Book(
				ctx,
				actor(ctx),
				studio.NewVisit{
					ID:           b.ID,
					Client:       b.Client,
					Practitioner: b.Practitioner,
					Room:         b.Room,
					Protocol:     b.Protocol,
					Start:        b.Start,
				},
			)
			return reply(v, err)
		},
	)
}

// registerStrips adds the diary by occupancy.
func (h *handlers) registerStrips(api huma.API) {
	huma.Register(
		api,
		closed("get-strips", http.MethodGet, "/api/strips", "Days of the diary by occupancy, and one of them as a picture"),
		func(ctx context.Context, in *struct {
			From string `query:"from" maxLength:"10"`
			Day  string `query:"day" maxLength:"10"`
			Days int    `query:"days" minimum:"1" maximum:"70" default:"63"`
		}) (*body[*diary.Strips], error) {
			v, err := h.rooms.Diary.Strips(ctx, actor(ctx), in.From, in.Day, in.Days)
			return reply(v, err)
		},
	)
}

func (h *handlers) registerVisits(api huma.API) {
	huma.Register(
		api,
		closed("get-visit", http.MethodGet, "/api/visits/{id}", "An appointment"),
		func(ctx context.Context, in *ByID) (*body[*studio.VisitLine], error) {
			v, err := h.rooms.Diary.Visit(ctx, actor(ctx), in.ID)
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		closed("set-visit-state", http.MethodPost, "/api/visits/{id}/state", "Confirm, arrive, cancel or miss an appointment"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				State studio.VisitState `json:"state" enum:"booked,confirmed,arrived,cancelled,no-show"`
				// Reason is why it is cancelled.
				Reason string `json:"reason,omitempty" maxLength:"500"`
				// ByStudio says that the studio cancels it, which is never late.
				ByStudio bool `json:"byStudio,omitempty"`
			}
		}) (*body[*studio.VisitLine], error) {
			if in.Body.ByStudio && in.Body.State == studio.Cancelled {
				v, err := h.rooms.Diary.CancelByStudio(ctx, actor(ctx), in.ID, in.Body.Reason)
				return reply(v, err)
			}
			v, err := h.rooms.Diary.SetVisitState(ctx, actor(ctx), in.ID, in.Body.State, in.Body.Reason)
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		closed("undo-cancel", http.MethodPost, "/api/visits/{id}/state/undo", "Take back what was cancelled a moment ago"),
		func(ctx context.Context, in *ByID) (*body[*studio.VisitLine], error) {
			v, err := h.rooms.Diary.UndoCancel(ctx, actor(ctx), in.ID)
			return reply(v, err)
		},
	)
}

func (h *handlers) registerMoves(api huma.API) {
	huma.Register(
		api,
		closed("first-free", http.MethodGet, "/api/visits/{id}/first-free", "The first time an appointment can be moved to"),
		func(ctx context.Context, in *ByID) (*body[*studio.FreeTime], error) {
			f, err := h.rooms.Diary.FirstFree(ctx, actor(ctx), in.ID)
			return reply(f, err)
		},
	)
	huma.Register(
		api,
		closed("move-visit", http.MethodPost, "/api/visits/{id}/move", "Move an appointment to another time"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
				Room         uuid.UUID `json:"room" format:"uuid"`
				Start        time.Time `json:"start"`
			}
		}) (*body[*studio.VisitLine], error) {
			v, err := h.rooms.Diary.MoveVisit(
				ctx,
				actor(ctx),
				in.ID,
				studio.NewVisit{Practitioner: in.Body.Practitioner, Room: in.Body.Room, Start: in.Body.Start},
			)
			return reply(v, err)
		},
	)
}

// DayView is one day of the studio.
type DayView struct {
	Date          string             `json:"date"`
	Opens         time.Time          `json:"opens"`
	Closes        time.Time          `json:"closes"`
	Practitioners []studio.Person    `json:"practitioners"`
	Rooms         []studio.Room      `json:"rooms"`
	Visits        []studio.VisitLine `json:"visits"`
}

func optionalID(s string) *uuid.UUID {
	id, err := uuid.Parse(s)
	if err != nil {
		return nil
	}
	return &id
}
