package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/portal"
)

// registerClientPage adds the private page of a client, and what is done on it by its link.
func (h *handlers) registerClientPage(api huma.API) {
	huma.Register(api, closed("new-client-page", http.MethodPost, "/api/clients/{id}/page", "Make the address of a client's page anew"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Send bool `json:"send,omitempty"`
			}
		}) (*body[*portal.PageAddress], error) {
			v, err := h.rooms.Portal.NewClientPage(ctx, actor(ctx), in.ID, in.Body.Send)
			return reply(v, err)
		})
	huma.Register(api, closed("tell-running-late", http.MethodPost, "/api/visits/{id}/late", "Tell a client that the studio is late"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Minutes int `json:"minutes" minimum:"5" maximum:"120"`
				// Offered is what is offered for the wait, from 20 minutes on.
				Offered string `json:"offered,omitempty" maxLength:"300"`
			}
		}) (*struct{}, error) {
			return nil, answer(h.rooms.Portal.TellRunningLate(ctx, actor(ctx), in.ID, in.Body.Minutes, in.Body.Offered))
		})
	huma.Register(api, open("open-appointments", http.MethodGet, "/api/appointments", "A client's own appointments"),
		func(ctx context.Context, in *LinkToken) (*body[*portal.OwnAppointments], error) {
			v, err := h.rooms.Portal.OpenAppointments(ctx, in.Token)
			return reply(v, err)
		})
	huma.Register(api, open("act-on-appointment", http.MethodPut, "/api/appointments/{id}", "Confirm, cancel or ask to move an appointment of one's own; take or leave an offer"),
		func(ctx context.Context, in *struct {
			LinkToken
			ByID
			Body struct {
				Act  portal.OwnAct `json:"act" enum:"confirm,cancel,ask-to-move,take,leave,stop-messages,send-messages"`
				Text string        `json:"text,omitempty" maxLength:"150"`
			}
		}) (*body[*portal.OwnAppointments], error) {
			v, err := h.rooms.Portal.Act(ctx, in.Token, in.Body.Act, in.ID, in.Body.Text)
			return reply(v, err)
		})
}
