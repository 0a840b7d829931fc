package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

func (h *handlers) registerPlans(api huma.API) {
	huma.Register(
		api,
		closed(
			"get-plan",
			http.MethodPost,
			"/api/visits/{id}/plan",
			"Today's plan for an appointment, with overrides tried out; nothing is saved",
		),
		func(ctx context.Context, in *struct {
			ByID
			Body studio.PlanOptions
		}) (*body[PlanView], error) {
			p, err := h.rooms.Checks.PlanFor(ctx, actor(ctx), in.ID, in.Body)
			if err != nil {
				return nil, answer(err)
			}
			return reply(PlanView{
				Protocol:    p.Protocol,
				Changes:     p.Adjustments,
				Evaluation:  p.Evaluation,
				Before:      p.AsPublished,
				Refused:     p.Refused,
				Fitted:      p.Fitted,
				PreCheck:    p.PreCheck,
				Outcomes:    p.Outcomes,
				Treatable:   p.PreCheck.Result.Headline.Treatable(),
				Missing:     p.MissingConsents,
				Overrulable: p.OverridableRules,
				TakeBack:    p.OverridableAdjustments,
				Stock:       p.Stock,
				ForSkin:     p.SkinVariants,
				Minds:       listed(p.PractitionerNotes),
				ClientNotes: listed(p.ClientNotes),
				Pace:        p.Pace,
			}, nil)
		},
	)
	huma.Register(
		api,
		closed(
			"list-alternatives",
			http.MethodGet,
			"/api/visits/{id}/possible",
			"Other protocols that would be possible today, best first",
		),
		func(ctx context.Context, in *ByID) (*body[[]checks.AlternativeProtocol], error) {
			list, err := h.rooms.Checks.Alternatives(ctx, actor(ctx), in.ID)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("switch-protocol", http.MethodPost, "/api/visits/{id}/protocol", "Switch the appointment to another protocol"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Protocol uuid.UUID `json:"protocol" format:"uuid"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Checks.SwitchProtocol(ctx, actor(ctx), in.ID, in.Body.Protocol))
		},
	)
}

// PlanView is a visit's plan adjusted to today's pre-treatment check.
type PlanView struct {
	Protocol   *protocol.Protocol     `json:"protocol"`
	Changes    []adjusting.Adjustment `json:"changes"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
	// Before is the plan as published, for the same skin.
	Before  *evaluation.Evaluation `json:"before"`
	Refused bool                   `json:"refused"`
	// Fitted is what a late client's plan lost.
	Fitted   *studio.FittedPlan `json:"fitted,omitempty"`
	PreCheck *studio.PreCheck   `json:"preCheck"`
	// Outcomes are those of the check, and of patch tests as they stand now.
	Outcomes []contraindication.Contraindication `json:"outcomes"`
	// Treatable tells whether the pre-treatment check lets the client be treated today.
	Treatable bool `json:"treatable"`
	// Missing are the consents without which the plan cannot start.
	Missing []studio.ConsentKind `json:"missing" enum:"treatment,photos,mouth"`
	// Overrulable are the rules that may be set aside with a reason, TakeBack the
	// changes that may be taken back one by one.
	Overrulable []string `json:"overrulable"`
	TakeBack    []string `json:"takeBack"`
	// Stock is how many mL of each product may be used today, by key.
	Stock map[string]float64 `json:"stock"`
	// ForSkin are the names of the protocol's variants for the client's skin, taken
	// or not.
	ForSkin []string `json:"forSkin"`
	// Minds are the things that practitioners see to on their own side.
	Minds []string `json:"minds"`
	// ClientNotes are the notes of the client's file, with the steps they are about.
	ClientNotes []studio.StepNote `json:"clientNotes"`
	// Pace at which it is planned: the practitioner's own, 1 where nothing was learned.
	Pace studio.Pace `json:"pace"`
}
