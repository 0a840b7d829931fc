package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio/checks"
)

func (h *handlers) registerRules(api huma.API) {
	huma.Register(
		api,
		closed("get-rules", http.MethodGet, "/api/rules", "The questions of the pre-treatment check"),
		func(ctx context.Context, _ *struct{}) (*body[*checks.RulesView], error) {
			v, err := h.rooms.Checks.Rules(ctx, actor(ctx))
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		closed(
			"amend-rule",
			http.MethodPost,
			"/api/rules/{rule}",
			"Set the studio's waiting period for a rule; with save false it only lists the appointments it would affect",
		),
		func(ctx context.Context, in *struct {
			Rule string `path:"rule" maxLength:"60"`
			Body struct {
				checks.RuleSave
				Days int `json:"days" minimum:"0" maximum:"3650"`
			}
		}) (*body[[]checks.AffectedVisit], error) {
			list, err := h.rooms.Checks.AmendRule(ctx, actor(ctx), in.Rule, in.Body.Days, in.Body.RuleSave)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed(
			"save-rule",
			http.MethodPost,
			"/api/own-rules",
			"Add or change a studio rule; with save false it only lists the appointments it would affect",
		),
		func(ctx context.Context, in *struct {
			Body struct {
				checks.RuleSave
				Rule contraindication.Rule `json:"rule"`
			}
		}) (*body[[]checks.AffectedVisit], error) {
			list, err := h.rooms.Checks.SaveRule(ctx, actor(ctx), in.Body.Rule, in.Body.RuleSave)
			return reply(list, err)
		},
	)
}

func (h *handlers) registerPolicies(api huma.API) {
	huma.Register(
		api,
		closed(
			"import-rules",
			http.MethodPost,
			"/api/rule-pack",
			"Use standard rules from a file, or (without) the shipped ones; with save false it only tells what would change",
		),
		func(ctx context.Context, in *struct {
			Body struct {
				checks.RuleSave
				Pack *contraindication.Pack `json:"pack,omitempty"`
			}
		}) (*body[*checks.RulesImport], error) {
			v, err := h.rooms.Checks.ImportRules(ctx, actor(ctx), in.Body.Pack, in.Body.RuleSave)
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		closed("export-rules", http.MethodGet, "/api/rule-pack", "The standard rules as a file"),
		func(ctx context.Context, _ *struct{}) (*download, error) {
			v, err := h.rooms.Checks.Rules(ctx, actor(ctx))
			if err != nil {
				return nil, answer(err)
			}
			return h.file(v.Own.Standard(), "rules.json")
		},
	)
	huma.Register(
		api,
		closed("retire-rule", http.MethodPost, "/api/own-rules/retirement", "Delete a studio rule"),
		func(ctx context.Context, in *struct {
			Body struct {
				checks.RuleSave
				Rule string `json:"rule" maxLength:"80"`
			}
		}) (*body[[]checks.AffectedVisit], error) {
			list, err := h.rooms.Checks.RetireRule(ctx, actor(ctx), in.Body.Rule, in.Body.RuleSave)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed(
			"decide-policy",
			http.MethodPost,
			"/api/policies/{policy}",
			"Turn a studio policy on or off; with save false it only lists the appointments it would affect",
		),
		func(ctx context.Context, in *struct {
			Policy string `path:"policy" maxLength:"60"`
			Body   struct {
				checks.RuleSave
				On bool `json:"on"`
			}
		}) (*body[[]checks.AffectedVisit], error) {
			list, err := h.rooms.Checks.DecidePolicy(ctx, actor(ctx), in.Policy, in.Body.On, in.Body.RuleSave)
			return reply(list, err)
		},
	)
}
