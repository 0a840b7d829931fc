package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/reaction"
	"softpalm/internal/studio/treatment"
)

func (h *handlers) registerReactions(api huma.API) {
	huma.Register(
		api,
		closed("list-reactions", http.MethodGet, "/api/clients/{id}/reactions", "Reactions of a client, newest first"),
		func(ctx context.Context, in *ByID) (*body[[]treatment.ReactionView], error) {
			return reply(h.rooms.Treatment.Reactions(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("open-reaction", http.MethodPost, "/api/clients/{id}/reactions", "Record a reaction; a repeat changes nothing"),
		func(ctx context.Context, in *struct {
			ByID
			Body treatment.NewReaction
		}) (*body[*treatment.ReactionView], error) {
			return reply(h.rooms.Treatment.OpenReaction(ctx, actor(ctx), in.ID, in.Body))
		},
	)
	huma.Register(
		api,
		closed("answer-follow-up", http.MethodPost, "/api/reactions/{id}/follow-ups/{n}", "Save how a reaction is at a follow-up; a repeat changes nothing"),
		func(ctx context.Context, in *struct {
			ByID
			N    int `path:"n" minimum:"1"`
			Body treatment.FollowUpAnswer
		}) (*body[*treatment.ReactionView], error) {
			return reply(h.rooms.Treatment.AnswerFollowUp(ctx, actor(ctx), in.ID, in.N, in.Body))
		},
	)
	huma.Register(
		api,
		closed("close-reaction", http.MethodPost, "/api/reactions/{id}/close", "Close a reaction"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Outcome reaction.Outcome `json:"outcome" enum:"settled,doctor,mistake"`
				Note    string           `json:"note" maxLength:"2000"`
			}
		}) (*body[*treatment.ReactionView], error) {
			return reply(h.rooms.Treatment.CloseReaction(ctx, actor(ctx), in.ID, in.Body.Outcome, in.Body.Note))
		},
	)
	huma.Register(
		api,
		closed("print-reaction", http.MethodGet, "/api/reactions/{id}/paper", "A reaction as PDF, without other clients"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			r, err := h.rooms.Treatment.ReactionReport(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.ReactionPaper(r, who.Studio.Name, who.Studio.Zone(), h.rooms.Now())
			return &download{"application/pdf", `inline; filename="reaction.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("add-incident", http.MethodPost, "/api/visits/{id}/incidents", "Record an incident; a repeat changes nothing"),
		func(ctx context.Context, in *struct {
			ByID
			Body treatment.NewIncident
		}) (*body[RecordView], error) {
			return record(h.rooms.Treatment.AddIncident(ctx, actor(ctx), in.ID, in.Body))
		},
	)
}
