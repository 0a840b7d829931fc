package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

func (h *handlers) registerLinks(api huma.API) {
	huma.Register(
		api,
		closed("new-link", http.MethodPost, "/api/clients/{id}/link", "A private link for the client's consultation"),
		func(ctx context.Context, in *struct {
			ByID
			Send bool `query:"send"`
		}) (*body[LinkOut], error) {
			l, err := h.rooms.Checks.NewLink(ctx, actor(ctx), in.ID, in.Send)
			return reply(LinkOut{Token: l.Token, Until: l.Until, SentTo: l.SentTo, Mailed: l.Mailed, Message: l.Message, For: l.For}, err)
		},
	)
	huma.Register(
		api,
		closed("withdraw-link", http.MethodPost, "/api/clients/{id}/link/withdrawal", "End the client's private link"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Checks.WithdrawLink(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		open("open-link", http.MethodGet, "/api/consultation", "What a private link opens"),
		func(ctx context.Context, in *struct {
			LinkToken
			Origin
		}) (*body[*checks.LinkView], error) {
			v, err := h.rooms.Checks.Linked(ctx, in.caller(ctx, in.From))
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		open("list-link-zones", http.MethodGet, "/api/consultation/zones", "The zones of the body, for a client who marks one"),
		func(context.Context, *struct{}) (*body[[]anatomy.Zone], error) { return reply(anatomy.Zones[:], nil) },
	)
	huma.Register(
		api,
		open("save-link", http.MethodPut, "/api/consultation", "Save the client's answers so far, or send them"),
		func(ctx context.Context, in *struct {
			LinkToken
			Origin
			Body struct {
				Answers map[string]contraindication.Answer `json:"answers"`
				History studio.ClientHistory               `json:"history"`
				Send    bool                               `json:"send"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Checks.SaveLinked(ctx, in.caller(ctx, in.From), in.Body.Answers, in.Body.History, in.Body.Send))
		},
	)
	huma.Register(
		api,
		open(
			"search-link",
			http.MethodGet,
			"/api/consultation/substances",
			"Ingredients or medicines by any of their names, for the client",
		),
		func(ctx context.Context, in *struct {
			LinkToken
			Origin
			SubstanceQuery
		}) (*body[[]substance.Hit], error) {
			list, err := h.rooms.Checks.SearchLinked(ctx, in.caller(ctx, in.From), in.Kind, in.Text)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("search-substances", http.MethodGet, "/api/substances", "Ingredients or medicines by any of their names"),
		func(_ context.Context, in *struct{ SubstanceQuery }) (*body[[]substance.Hit], error) {
			return reply(checks.Substances(in.Kind, in.Text), nil)
		},
	)
}

func (h *handlers) registerChecks(api huma.API) {
	huma.Register(
		api,
		closed(
			"find-medicine-conflicts",
			http.MethodGet,
			"/api/medicine-conflicts",
			"The rules that some medicines answer, or make worth asking about",
		),
		func(ctx context.Context, in *struct {
			Medicine []string `query:"medicine,explode" maxItems:"40"`
		}) (*body[[]contraindication.MedicineConflict], error) {
			list, err := h.rooms.Checks.MedicineConflicts(ctx, actor(ctx), in.Medicine)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("get-questions", http.MethodGet, "/api/clients/{id}/questions", "What to ask a client today"),
		func(ctx context.Context, in *ByID) (*body[*checks.Questions], error) {
			q, err := h.rooms.Checks.QuestionsFor(ctx, actor(ctx), in.ID)
			return reply(q, err)
		},
	)
	huma.Register(
		api,
		closed(
			"review-consultation",
			http.MethodPost,
			"/api/clients/{id}/consultations/{consultation}/review",
			"Count a consultation from now on",
		),
		func(ctx context.Context, in *struct {
			ByID
			Consultation uuid.UUID `path:"consultation" format:"uuid"`
			Body         struct {
				Answers map[string]contraindication.Answer `json:"answers"`
				History studio.ClientHistory               `json:"history"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Checks.Review(ctx, actor(ctx), in.ID, in.Consultation, in.Body.Answers, in.Body.History))
		},
	)
	huma.Register(
		api,
		closed(
			"save-pre-check",
			http.MethodPost,
			"/api/clients/{id}/pre-checks",
			"Save a pre-treatment check and give its result",
		),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Visit   *uuid.UUID                         `json:"visit,omitempty" format:"uuid"`
				Answers map[string]contraindication.Answer `json:"answers"`
				History *studio.ClientHistory              `json:"history,omitempty"`
				// Together are the rules that were answered no in one go, each of them asked.
				Together []string `json:"together,omitempty" maxItems:"400"`
			}
		}) (*body[*studio.PreCheck], error) {
			b := in.Body
			sc, err := h.rooms.Checks.SavePreCheck(ctx, actor(ctx), in.ID, b.Visit, b.Answers, b.History, b.Together)
			return reply(sc, err)
		},
	)
}

// LinkToken opens one consultation; it travels in a header, never in an address,
// so that it stands in no log.
type LinkToken struct {
	Token string `header:"X-Link-Token" required:"true" maxLength:"100"`
}

// caller is who holds the link: where from, and in which session of a tablet.
func (l *LinkToken) caller(ctx context.Context, from string) checks.LinkCaller {
	by := checks.LinkCaller{Token: l.Token, From: from}
	if in := signedIn(ctx); in != nil && in.Session.Locked {
		by.Session = &in.Session.ID
	}
	return by
}

// SubstanceQuery is what is searched for.
type SubstanceQuery struct {
	Kind string `query:"kind" enum:"allergen,medicine" default:"allergen"`
	Text string `query:"text" maxLength:"100"`
}

// LinkOut is a private link's token and its end.
type LinkOut struct {
	// Token is empty where the link was sent to the client instead, to SentTo.
	Token  string    `json:"token,omitempty"`
	Until  time.Time `json:"until"`
	SentTo string    `json:"sentTo,omitempty"`
	// Mailed says that the mail server sends it; else the owner passes it on.
	Mailed bool `json:"mailed,omitempty"`
	// Message is the text to send the link with; empty for who sees no health data.
	Message string `json:"message,omitempty"`
	// For is when the appointment begins until which the link opens.
	For *time.Time `json:"for,omitempty"`
}
