package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// ClientEditView is a client as it was changed on a screen, and the revision it was made from.
type ClientEditView struct {
	studio.ClientFields
	Revision int `json:"revision" minimum:"1"`
}

func (h *handlers) registerClients(api huma.API) {
	huma.Register(
		api,
		closed("list-clients", http.MethodGet, "/api/clients", "Clients by name, e-mail address or telephone number"),
		func(ctx context.Context, in *struct {
			Search string `query:"search" maxLength:"100"`
			After  string `query:"after" maxLength:"300"`
		}) (*body[ClientListView], error) {
			list, next, err := h.rooms.Clients.Clients(ctx, actor(ctx), in.Search, in.After)
			return reply(ClientListView{list, next}, err)
		},
	)
	huma.Register(
		api,
		closed("get-client", http.MethodGet, "/api/clients/{id}", "A client's file"),
		func(ctx context.Context, in *ByID) (*body[ClientFileView], error) {
			f, err := h.rooms.Clients.Client(ctx, actor(ctx), in.ID)
			return reply(ClientFileView{
				Client:        f.Client,
				Visits:        f.Visits,
				MoreVisits:    f.MoreVisits,
				Today:         f.Today,
				Consultations: f.Consultations,
				ValidUntil:    f.ValidUntil,
			}, err)
		},
	)
	huma.Register(
		api,
		closed("list-client-visits", http.MethodGet, "/api/clients/{id}/visits", "A client's appointments, newest first"),
		func(ctx context.Context, in *byPage) (*body[ClientVisitsView], error) {
			list, more, err := h.rooms.Clients.ClientVisits(ctx, actor(ctx), in.ID, optionalID(in.After))
			return reply(ClientVisitsView{list, more}, err)
		},
	)
	huma.Register(
		api,
		closed("add-client", http.MethodPost, "/api/clients", "Add a client"),
		func(ctx context.Context, in *struct{ Body studio.ClientFields }) (*body[*studio.Client], error) {
			c, err := h.rooms.Clients.AddClient(ctx, actor(ctx), in.Body)
			return reply(c, err)
		},
	)
	huma.Register(
		api,
		closed("change-client", http.MethodPut, "/api/clients/{id}", "Change a client"),
		func(ctx context.Context, in *struct {
			ByID
			Body ClientEditView
		}) (*body[*studio.Client], error) {
			c, err := h.rooms.Clients.ChangeClient(ctx, actor(ctx), in.ID, in.Body.Revision, in.Body.ClientFields)
			return reply(c, err)
		},
	)
}

func (h *handlers) registerBriefs(api huma.API) {
	huma.Register(
		api,
		closed("get-brief", http.MethodGet, "/api/clients/{id}/brief", "What to know of a client before the next treatment"),
		func(ctx context.Context, in *struct {
			ByID
			Visit string `query:"visit" maxLength:"36"`
		}) (*body[*studio.Brief], error) {
			b, err := h.rooms.Checks.Brief(ctx, actor(ctx), in.ID, optionalID(in.Visit))
			return reply(b, err)
		},
	)
	huma.Register(
		api,
		closed("get-inbox", http.MethodGet, "/api/inbox", "What waits for somebody at the studio"),
		func(ctx context.Context, _ *struct{}) (*body[[]studio.InboxItem], error) {
			list, err := h.rooms.Checks.Inbox(ctx, actor(ctx))
			return reply(list, err)
		},
	)
	huma.Register(
		api,
		closed("add-note", http.MethodPost, "/api/clients/{id}/notes", "Pin a note to a place or a stroke"),
		func(ctx context.Context, in *struct {
			ByID
			Body studio.PinnedNote
		}) (*body[*studio.ClientNote], error) {
			n, err := h.rooms.Clients.AddNote(ctx, actor(ctx), in.ID, in.Body)
			return reply(n, err)
		},
	)
	huma.Register(
		api,
		closed("remove-note", http.MethodDelete, "/api/clients/{id}/notes/{note}", "Take a note away"),
		func(ctx context.Context, in *struct {
			ByID
			Note uuid.UUID `path:"note" format:"uuid"`
		}) (*nothing, error) {
			return nil, answer(h.rooms.Clients.RemoveNote(ctx, actor(ctx), in.ID, in.Note))
		},
	)
}

func (h *handlers) registerConsents(api huma.API) {
	huma.Register(
		api,
		closed("list-consents", http.MethodGet, "/api/clients/{id}/consents", "A client's consents, newest first"),
		func(ctx context.Context, in *ByID) (*body[[]studio.Consent], error) {
			return reply(h.rooms.Clients.Consents(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("consent-texts", http.MethodGet, "/api/consents/texts", "The texts that clients sign"),
		func(ctx context.Context, _ *struct{}) (*body[[]studio.ConsentText], error) {
			return reply(h.rooms.Clients.ConsentTexts(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("sign-consent", http.MethodPost, "/api/clients/{id}/consents", "Save a signed consent"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Kind      studio.ConsentKind `json:"kind" enum:"treatment,photos,mouth"`
				Signer    string             `json:"signer" maxLength:"200"`
				Guardian  bool               `json:"guardian"`
				Signature [][]int            `json:"signature" maxItems:"500"`
			}
		}) (*body[*studio.Consent], error) {
			c, err := h.rooms.Clients.SignConsent(
				ctx,
				actor(ctx),
				in.ID,
				in.Body.Kind,
				in.Body.Signer,
				in.Body.Guardian,
				in.Body.Signature,
			)
			return reply(c, err)
		},
	)
	huma.Register(
		api,
		closed("withdraw-consent", http.MethodPost, "/api/consents/{id}/withdrawal", "Withdraw a consent"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Clients.WithdrawConsent(ctx, actor(ctx), in.ID))
		},
	)
}

func (h *handlers) registerPrivacy(api huma.API) {
	huma.Register(
		api,
		closed("list-past-files", http.MethodGet, "/api/past-files", "Clients whose files are kept longer than the settings say"),
		func(ctx context.Context, _ *struct{}) (*body[[]studio.PastFile], error) {
			return reply(h.rooms.Clients.PastFiles(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("export-client", http.MethodGet, "/api/clients/{id}/export", "Everything stored about a client, as a file"),
		func(ctx context.Context, in *ByID) (*download, error) {
			f, err := h.rooms.Clients.ExportClient(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return h.file(f, "client.json")
		},
	)
	huma.Register(
		api,
		closed("print-client", http.MethodGet, "/api/clients/{id}/file", "Everything stored about a client, as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			f, err := h.rooms.Clients.ExportClient(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.ClientPaper(f, h.rooms.Now())
			if err != nil {
				return nil, answer(err)
			}
			return &download{"application/pdf", `inline; filename="client.pdf"`, data}, nil
		},
	)
	huma.Register(
		api,
		closed("erase-client", http.MethodPost, "/api/clients/{id}/erasure", "Erase a client for good"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Confirm string `json:"confirm" maxLength:"200"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Clients.EraseClient(ctx, actor(ctx), in.ID, in.Body.Confirm))
		},
	)
}

// ClientFileView is what a client's file opens with; its sections are asked for one by one.
type ClientFileView struct {
	Client studio.Client `json:"client"`
	// Visits are the newest; MoreVisits is the last of them where there are older ones.
	Visits     []studio.VisitLine `json:"visits"`
	MoreVisits *uuid.UUID         `json:"moreVisits,omitempty" format:"uuid"`
	// Today is the newest check, where it was made today.
	Today *studio.PreCheck `json:"today,omitempty"`
	// Consultations are those that wait for something, and the one that was reviewed last, first.
	Consultations []studio.Consultation `json:"consultations"`
	// ValidUntil is the day the consultation that counts has to be made again.
	ValidUntil string `json:"validUntil,omitempty"`
}

// byPage asks for a section of a client's file by pages: what comes after one, or the first.
type byPage struct {
	ByID
	After string `query:"after" format:"uuid"`
}

// ClientVisitsView is one page of a client's appointments; More is the last of them where there are older ones.
type ClientVisitsView struct {
	Visits []studio.VisitLine `json:"visits"`
	More   *uuid.UUID         `json:"more,omitempty" format:"uuid"`
}

// ClientListView is one page of clients.
type ClientListView struct {
	Clients []studio.ClientLine `json:"clients"`
	Next    string              `json:"next,omitempty"`
}
