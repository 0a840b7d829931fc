package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// registerRoster adds who works when, who is away, what rooms have, and when clients can come.
func (h *handlers) registerRoster(api huma.API) {
	huma.Register(api, closed("get-roster", http.MethodGet, "/api/roster", "Rosters, absences and rooms"),
		func(ctx context.Context, _ *struct{}) (*body[*diary.RosterView], error) {
			v, err := h.rooms.Diary.Roster(ctx, actor(ctx))
			return reply(v, err)
		})
	huma.Register(api, closed("add-shift", http.MethodPost, "/api/roster", "Add a line to a roster; the same id twice adds it once"),
		func(ctx context.Context, in *struct{ Body diary.NewShift }) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.AddShift(ctx, actor(ctx), in.Body))
		})
	huma.Register(api, closed("remove-shift", http.MethodDelete, "/api/roster/{id}", "Take a line out of a roster"),
		func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.RemoveShift(ctx, actor(ctx), in.ID))
		})
	huma.Register(api, closed("add-absence", http.MethodPost, "/api/absences", "Note that somebody is away or a room closed"),
		func(ctx context.Context, in *struct{ Body studio.Absence }) (*body[*diary.Clashes], error) {
			c, err := h.rooms.Diary.AddAbsence(ctx, actor(ctx), in.Body)
			return reply(c, err)
		})
	huma.Register(api, closed("remove-absence", http.MethodDelete, "/api/absences/{id}", "Take an absence back"),
		func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.RemoveAbsence(ctx, actor(ctx), in.ID))
		})
	bring := closed("import-busy", http.MethodPost, "/api/busy-times", "Read busy times of a calendar file; with dry it only says what it would write")
	bring.MaxBodyBytes = BodyLimitBytes
	huma.Register(api, bring, func(ctx context.Context, in *struct {
		OfCalendar
		Dry     bool `query:"dry"`
		RawBody []byte
	}) (*body[*diary.BusyImport], error) {
		v, err := h.rooms.Diary.ImportBusy(ctx, actor(ctx), optionalID(in.Practitioner), optionalID(in.Client), in.RawBody, in.Dry)
		return reply(v, err)
	})
	huma.Register(api, closed("set-busy-address", http.MethodPut, "/api/busy-address", "Read busy times at an address, and again every hour; an empty address ends it"),
		func(ctx context.Context, in *struct {
			OfCalendar
			Dry  bool `query:"dry"`
			Body struct {
				Address string `json:"address" maxLength:"2000"`
			}
		}) (*body[*diary.BusyImport], error) {
			v, err := h.rooms.Diary.SetBusyAddress(ctx, actor(ctx), optionalID(in.Practitioner), optionalID(in.Client), in.Body.Address, in.Dry)
			return reply(v, err)
		})
	huma.Register(api, closed("list-clashes", http.MethodGet, "/api/clashes", "Appointments that meet an absence or a closed day"),
		func(ctx context.Context, _ *struct{}) (*body[[]diary.Clash], error) {
			v, err := h.rooms.Diary.Clashing(ctx, actor(ctx))
			return reply(v, err)
		})
	huma.Register(api, closed("add-tool-out", http.MethodPost, "/api/tools-out", "Note that pieces of a tool are being mended, or retired; the same id twice notes it once"),
		func(ctx context.Context, in *struct{ Body studio.ToolOut }) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.AddToolOut(ctx, actor(ctx), in.Body))
		})
	huma.Register(api, closed("remove-tool-out", http.MethodDelete, "/api/tools-out/{id}", "Take back that pieces of a tool are not there"),
		func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.RemoveToolOut(ctx, actor(ctx), in.ID))
		})
	huma.Register(api, closed("get-client-hours", http.MethodGet, "/api/clients/{id}/hours", "When a client can come"),
		func(ctx context.Context, in *ByID) (*body[*studio.ClientHours], error) {
			v, err := h.rooms.Diary.ClientHours(ctx, actor(ctx), in.ID)
			return reply(v, err)
		})
	huma.Register(api, closed("save-client-hours", http.MethodPut, "/api/clients/{id}/hours", "Say when a client can come"),
		func(ctx context.Context, in *struct {
			ByID
			Body diary.TypedHours
		}) (*body[*studio.ClientHours], error) {
			v, err := h.rooms.Diary.SaveClientHours(ctx, actor(ctx), in.ID, in.Body)
			return reply(v, err)
		})
}

// registerRooms adds the rooms with what they have.
func (h *handlers) registerRooms(api huma.API) {
	huma.Register(api, closed("add-room", http.MethodPost, "/api/rooms", "Add a room; the same id twice adds it once"),
		func(ctx context.Context, in *struct {
			Body struct {
				ID uuid.UUID `json:"id" format:"uuid"`
				diary.RoomFields
			}
		}) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.AddRoom(ctx, actor(ctx), in.Body.ID, in.Body.RoomFields))
		})
	huma.Register(api, closed("save-room", http.MethodPut, "/api/rooms/{id}", "Say what a room is called, what it has and how many it holds"),
		func(ctx context.Context, in *struct {
			ByID
			Body diary.RoomFields
		}) (*struct{}, error) {
			return nil, answer(h.rooms.Diary.SaveRoom(ctx, actor(ctx), in.ID, in.Body))
		})
}
