package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
)

// ComposedView is a protocol that the core composed, with its evaluation.
type ComposedView struct {
	Protocol   *protocol.Protocol     `json:"protocol"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
}

func (h *handlers) registerWorkbench(api huma.API) {
	huma.Register(
		api,
		closed("evaluate-protocol", http.MethodPost, "/api/evaluate", "Evaluate a protocol without saving it"),
		func(ctx context.Context, in *struct {
			Body struct {
				Protocol   protocol.Protocol `json:"protocol"`
				SkinType   string            `json:"skinType,omitempty" maxLength:"40"`
				SkinStates []string          `json:"skinStates,omitempty" maxItems:"10"`
			}
		}) (*body[*evaluation.Evaluation], error) {
			e, err := h.rooms.Protocols.EvaluateProtocol(ctx, actor(ctx), &in.Body.Protocol, in.Body.SkinType, in.Body.SkinStates)
			return reply(e, err)
		},
	)
	huma.Register(
		api,
		closed("command-protocol", http.MethodPost, "/api/command", "Run a workbench command on a protocol without saving it"),
		func(ctx context.Context, in *struct {
			Body struct {
				Protocol protocol.Protocol     `json:"protocol"`
				Order    remedy.CommandRequest `json:"order"`
			}
		}) (*body[CommandView], error) {
			d, e, err := h.rooms.Protocols.CommandProtocol(ctx, actor(ctx), &in.Body.Protocol, in.Body.Order)
			return reply(CommandView{d, e}, err)
		},
	)
	huma.Register(
		api,
		closed("draft-protocol", http.MethodPost, "/api/draft", "Suggest a first draft from a question, without saving it"),
		func(ctx context.Context, in *struct{ Body drafting.Question }) (*body[ComposedView], error) {
			p, e, err := h.rooms.Protocols.DraftProtocol(ctx, actor(ctx), in.Body)
			return reply(ComposedView{p, e}, err)
		},
	)
	huma.Register(
		api,
		closed("vary-protocol", http.MethodPost, "/api/variants", "Every variant of a protocol, worked out"),
		func(ctx context.Context, in *struct {
			Body struct {
				Protocol protocol.Protocol `json:"protocol"`
			}
		}) (*body[[]VariationView], error) {
			list, err := h.rooms.Protocols.VaryProtocol(ctx, actor(ctx), &in.Body.Protocol)
			out := make([]VariationView, len(list))
			for i, v := range list {
				out[i] = VariationView{
					Variant:    v.Variant,
					Protocol:   v.Adjusted.Protocol,
					Evaluation: v.Adjusted.Evaluation,
					Changes:    v.Adjusted.Adjustments,
					Refused:    v.Adjusted.Refused,
					Comparison: v.Comparison,
				}
			}
			return reply(out, err)
		},
	)
}

// DoneView is a protocol after a command.
type CommandView struct {
	Done       *remedy.CommandResult  `json:"done"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
}

// VariationView is a variant of a protocol, worked out.
type VariationView struct {
	Variant    protocol.Variant       `json:"variant"`
	Protocol   *protocol.Protocol     `json:"protocol"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
	Changes    []adjusting.Adjustment `json:"changes"`
	Refused    bool                   `json:"refused"`
	Comparison protocol.Comparison    `json:"comparison"`
}
