package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/portal"
)

// OfCalendar says whose calendar is asked for: a practitioner's or a client's.
type OfCalendar struct {
	Practitioner string `query:"practitioner" maxLength:"36"`
	Client       string `query:"client" maxLength:"36"`
}

// registerCalendars adds private calendar addresses, and what they lead to.
func (h *handlers) registerCalendars(api huma.API) {
	huma.Register(api, closed("get-calendar-address", http.MethodGet, "/api/calendar-address", "Whether a calendar has a private address"),
		func(ctx context.Context, in *OfCalendar) (*body[*portal.CalendarState], error) {
			v, err := h.rooms.Portal.CalendarOf(ctx, actor(ctx), optionalID(in.Practitioner), optionalID(in.Client))
			return reply(v, err)
		})
	huma.Register(api, closed("new-calendar-address", http.MethodPost, "/api/calendar-address", "Make the private address of a calendar anew; it is shown once"),
		func(ctx context.Context, in *OfCalendar) (*body[*portal.CalendarAddress], error) {
			v, err := h.rooms.Portal.NewCalendarAddress(ctx, actor(ctx), optionalID(in.Practitioner), optionalID(in.Client))
			return reply(v, err)
		})
	huma.Register(api, closed("end-calendar-address", http.MethodDelete, "/api/calendar-address", "Revoke the private address of a calendar"),
		func(ctx context.Context, in *OfCalendar) (*struct{}, error) {
			return nil, answer(h.rooms.Portal.EndCalendarAddress(ctx, actor(ctx), optionalID(in.Practitioner), optionalID(in.Client)))
		})
	huma.Register(api, open("open-calendar", http.MethodGet, "/api/calendars/{token}", "A calendar by its private address, as iCalendar"),
		func(ctx context.Context, in *struct {
			Token string `path:"token" maxLength:"100"`
			Alarm bool   `query:"alarm"`
		}) (*calendarFile, error) {
			c, err := h.rooms.Portal.OpenCalendar(ctx, in.Token, in.Alarm)
			if err != nil {
				return nil, answer(err)
			}
			return h.calendarFile(c)
		})
	huma.Register(api, open("own-calendar", http.MethodGet, "/api/appointments/calendar", "A client's own appointments, or one of them, as a calendar file"),
		func(ctx context.Context, in *struct {
			LinkToken
			Visit string `query:"visit" maxLength:"36"`
			Alarm bool   `query:"alarm"`
		}) (*calendarFile, error) {
			c, err := h.rooms.Portal.OwnCalendar(ctx, in.Token, optionalID(in.Visit), in.Alarm)
			if err != nil {
				return nil, answer(err)
			}
			return h.calendarFile(c)
		})
}

func (h *handlers) calendarFile(c *portal.Calendar) (*calendarFile, error) {
	data, err := h.cfg.Files.Calendar(c)
	if err != nil {
		return nil, answer(err)
	}
	return &calendarFile{"text/calendar; charset=utf-8", "no-store", "noindex", data}, nil
}

// calendarFile is a calendar that nobody keeps a copy of on the way.
type calendarFile struct {
	ContentType string `header:"Content-Type"`
	Cache       string `header:"Cache-Control"`
	Robots      string `header:"X-Robots-Tag"`
	Body        []byte
}
