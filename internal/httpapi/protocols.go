package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
)

// ProtocolListView is a protocol in the list.
type ProtocolListView struct {
	ID       uuid.UUID `json:"id"`
	Key      string    `json:"key"`
	Name     string    `json:"name"`
	Summary  string    `json:"summary"`
	Version  int       `json:"version"`
	HasDraft bool      `json:"hasDraft"`
	Steps    int       `json:"steps"`
	Sold     int       `json:"sold"`
	HandsOn  int       `json:"handsOn"`
	Reset    int       `json:"reset"`
	Price    string    `json:"price"`
	Currency string    `json:"currency"`
	// Asked is what a client pays for it.
	Asked     studio.Asked `json:"asked"`
	Concerns  []string     `json:"concerns"`
	SkinTypes []string     `json:"skinTypes"`
	Published *time.Time   `json:"published,omitempty"`
}

// OpenedView is a protocol opened for work.
type OpenedView struct {
	ID         uuid.UUID              `json:"id"`
	Version    int                    `json:"version"`
	HasDraft   bool                   `json:"hasDraft"`
	Revision   int                    `json:"revision"`
	BasedOn    int                    `json:"basedOn"`
	Protocol   protocol.Protocol      `json:"protocol"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
}

// SavedDraftView is a draft's new revision and what follows from it: whole, or as what has changed since the evaluation
// that the screen knows.
type SavedDraftView struct {
	Number     int                    `json:"number"`
	Sum        string                 `json:"sum"`
	Evaluation *evaluation.Evaluation `json:"evaluation,omitempty"`
	Changes    *Changes               `json:"changes,omitempty"`
}

// FixedDraftView is a draft after a fix, saved.
type FixedDraftView struct {
	Number     int                    `json:"number"`
	Protocol   *protocol.Protocol     `json:"protocol"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
}

// DraftEditView is a draft as it stands on the screen, and what it was made from.
type DraftEditView struct {
	Revision int               `json:"revision" minimum:"0"`
	BasedOn  int               `json:"basedOn" minimum:"0"`
	Protocol protocol.Protocol `json:"protocol"`
}

func (v *DraftEditView) edit() protocols.DraftEdit {
	return protocols.DraftEdit{Revision: v.Revision, BasedOn: v.BasedOn, Protocol: &v.Protocol}
}

// NumberView is a revision or version number.
type NumberView struct {
	Number int `json:"number"`
}

func (h *handlers) registerProtocols(api huma.API) {
	huma.Register(
		api,
		closed("list-protocols", http.MethodGet, "/api/protocols", "The studio's protocols"),
		func(ctx context.Context, _ *struct{}) (*body[[]ProtocolListView], error) {
			list, err := h.rooms.Protocols.Protocols(ctx, actor(ctx))
			st := &signedIn(ctx).Studio
			out := make([]ProtocolListView, len(list))
			for i, p := range list {
				b := &p.Body
				out[i] = ProtocolListView{
					ID:        p.ID,
					Key:       p.Key,
					Name:      b.Name,
					Summary:   b.Summary,
					Version:   p.Version,
					HasDraft:  p.HasDraft,
					Steps:     len(b.Steps),
					Sold:      b.Minutes.Treatment,
					HandsOn:   b.Minutes.HandsOn,
					Reset:     b.Minutes.Reset,
					Price:     b.Price.Amount,
					Currency:  b.Price.Currency,
					Asked:     st.Asked(b.Price.Amount),
					Concerns:  listed(b.Concerns),
					SkinTypes: listed(b.SkinTypes),
					Published: p.PublishedAt,
				}
			}
			return reply(out, err)
		},
	)
	huma.Register(
		api,
		closed("open-protocol", http.MethodGet, "/api/protocols/{id}", "Open a protocol: your draft, or the newest version"),
		func(ctx context.Context, in *ByID) (*body[OpenedView], error) {
			o, err := h.rooms.Protocols.OpenProtocol(ctx, actor(ctx), in.ID)
			return reply(OpenedView{
				ID:         in.ID,
				Version:    o.Version,
				HasDraft:   o.HasDraft,
				Revision:   o.Draft.Revision,
				BasedOn:    o.Draft.BasedOn,
				Protocol:   o.Draft.Body,
				Evaluation: o.Evaluation,
			}, err)
		},
	)
	huma.Register(
		api,
		closed("add-protocol", http.MethodPost, "/api/protocols", "Add a protocol as your draft"),
		func(ctx context.Context, in *struct{ Body protocol.Protocol }) (*body[IDView], error) {
			id, err := h.rooms.Protocols.AddProtocol(ctx, actor(ctx), &in.Body)
			return reply(IDView{id}, err)
		},
	)
}

func (h *handlers) registerDrafts(api huma.API) {
	huma.Register(
		api,
		closed("save-draft", http.MethodPut, "/api/protocols/{id}/draft", "Save your draft and evaluate it"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				DraftEditView
				// Known is the sum of the evaluation that the screen has.
				Known string `json:"known,omitempty" maxLength:"64"`
			}
		}) (*body[SavedDraftView], error) {
			saved, err := h.rooms.Protocols.SaveDraft(ctx, actor(ctx), in.ID, in.Body.edit())
			if err != nil {
				return nil, answer(err)
			}
			v := SavedDraftView{Number: saved.Revision}
			if v.Sum, v.Changes, err = h.told.since(in.Body.Known, saved.Evaluation); v.Changes == nil {
				v.Evaluation = saved.Evaluation
			}
			return reply(v, err)
		},
	)
	huma.Register(
		api,
		closed(
			"fix-draft",
			http.MethodPost,
			"/api/protocols/{id}/draft/fix",
			"Apply a fix of a finding to your draft and save it",
		),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				DraftEditView
				Finding string         `json:"finding" maxLength:"200"`
				Fix     evaluation.Fix `json:"fix" maxLength:"60"`
			}
		}) (*body[FixedDraftView], error) {
			fixed, err := h.rooms.Protocols.FixDraft(ctx, actor(ctx), in.ID, in.Body.edit(), in.Body.Finding, in.Body.Fix)
			if err != nil {
				return nil, answer(err)
			}
			return reply(FixedDraftView{Number: fixed.Revision, Protocol: fixed.Protocol, Evaluation: fixed.Evaluation}, nil)
		},
	)
	huma.Register(
		api,
		closed("drop-draft", http.MethodDelete, "/api/protocols/{id}/draft", "Go back to the newest version"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Protocols.DropDraft(ctx, actor(ctx), in.ID))
		},
	)
}

func (h *handlers) registerVersions(api huma.API) {
	huma.Register(
		api,
		closed("publish-protocol", http.MethodPost, "/api/protocols/{id}/versions", "Publish your draft as the next version"),
		func(ctx context.Context, in *ByID) (*body[NumberView], error) {
			n, err := h.rooms.Protocols.Publish(ctx, actor(ctx), in.ID)
			return reply(NumberView{n}, err)
		},
	)
	huma.Register(
		api,
		closed("get-publishing", http.MethodGet, "/api/protocols/{id}/publishing", "What publishing your draft would mean"),
		func(ctx context.Context, in *ByID) (*body[*protocols.Publishing], error) {
			p, err := h.rooms.Protocols.Publishing(ctx, actor(ctx), in.ID)
			return reply(p, err)
		},
	)
	huma.Register(
		api,
		closed("get-margin", http.MethodGet, "/api/protocols/{id}/margin", "What a protocol costs and leaves, now or at another price"),
		func(ctx context.Context, in *struct {
			ByID
			protocols.PriceQuestion
		}) (*body[*protocols.Margin], error) {
			m, err := h.rooms.Protocols.MarginOf(ctx, actor(ctx), in.ID, in.PriceQuestion)
			return reply(m, err)
		},
	)
	huma.Register(
		api,
		closed("list-versions", http.MethodGet, "/api/protocols/{id}/versions", "A protocol's versions, newest first"),
		func(ctx context.Context, in *ByID) (*body[[]studio.VersionLine], error) {
			list, err := h.rooms.Protocols.VersionsOf(ctx, actor(ctx), in.ID)
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed(
			"compare-versions",
			http.MethodGet,
			"/api/protocols/{id}/comparison",
			"Two versions of a protocol, step by step; 0 is your draft",
		),
		func(ctx context.Context, in *struct {
			ID  uuid.UUID `path:"id" format:"uuid"`
			Was int       `query:"was" minimum:"0"`
			Now int       `query:"now" minimum:"0"`
		}) (*body[ComparisonView], error) {
			c, was, now, err := h.rooms.Protocols.CompareVersions(ctx, actor(ctx), in.ID, in.Was, in.Now)
			return reply(ComparisonView{was, now, c}, err)
		},
	)
}

// ComparisonView is two versions of a protocol and in what they differ.
type ComparisonView struct {
	Was        *protocol.Protocol  `json:"was"`
	Now        *protocol.Protocol  `json:"now"`
	Comparison protocol.Comparison `json:"comparison"`
}
