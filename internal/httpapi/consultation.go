package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/screening"
	"softpalm/internal/studio"
)

// LinkToken opens one consultation; it travels in a header, never in an address,
// so that it stands in no log.
type LinkToken struct {
	Token string `header:"X-Link-Token" required:"true" maxLength:"100"`
}

func (h *handlers) registerConsultations(api huma.API) {
	huma.Register(api, closed("new-link", http.MethodPost, "/api/clients/{id}/link", "A private link for the client's consultation"), func(ctx context.Context, in *ByID) (*body[LinkOut], error) {
		token, until, err := h.svc.NewLink(ctx, actor(ctx), in.ID)
		return reply(LinkOut{token, until}, err)
	})
	huma.Register(api, open("open-link", http.MethodGet, "/api/consultation", "What a private link opens"), func(ctx context.Context, in *struct {
		LinkToken
		Origin
	}) (*body[*studio.LinkView], error) {
		v, err := h.svc.Linked(ctx, in.Token, in.From)
		return reply(v, err)
	})
	huma.Register(api, open("save-link", http.MethodPut, "/api/consultation", "Keep what the client answered so far, or send it in"), func(ctx context.Context, in *struct {
		LinkToken
		Origin
		Body struct {
			Answers map[string]screening.Answer `json:"answers"`
			Send    bool                        `json:"send"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.SaveLinked(ctx, in.Token, in.From, in.Body.Answers, in.Body.Send))
	})
	huma.Register(api, closed("review-consultation", http.MethodPost, "/api/clients/{id}/consultations/{consultation}/review", "Count a consultation from now on"), func(ctx context.Context, in *struct {
		ByID
		Consultation uuid.UUID `path:"consultation" format:"uuid"`
		Body         struct {
			Answers map[string]screening.Answer `json:"answers"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Review(ctx, actor(ctx), in.ID, &in.Consultation, in.Body.Answers))
	})
	huma.Register(api, closed("write-letter", http.MethodPost, "/api/clients/{id}/letters", "Write a letter to the client's doctor"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Visit    *uuid.UUID `json:"visit,omitempty" format:"uuid"`
			Question string     `json:"question" maxLength:"4000"`
		}
	}) (*body[*studio.Letter], error) {
		l, err := h.svc.WriteLetter(ctx, actor(ctx), in.ID, in.Body.Visit, in.Body.Question)
		return reply(l, err)
	})
	huma.Register(api, closed("answer-letter", http.MethodPost, "/api/letters/{id}/answer", "Record the doctor's answer"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Yes   bool   `json:"yes"`
			Until string `json:"until,omitempty" maxLength:"10"`
			Note  string `json:"note,omitempty" maxLength:"2000"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.AnswerLetter(ctx, actor(ctx), in.ID, in.Body.Yes, in.Body.Until, in.Body.Note))
	})
	huma.Register(api, closed("consent-texts", http.MethodGet, "/api/consents/texts", "The texts that clients sign"), func(context.Context, *struct{}) (*body[[]studio.ConsentText], error) {
		return reply(studio.ConsentTexts, nil)
	})
	huma.Register(api, closed("sign-consent", http.MethodPost, "/api/clients/{id}/consents", "Keep a signed consent"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Kind      studio.ConsentKind `json:"kind" enum:"treatment,photos,mouth"`
			Signer    string             `json:"signer" maxLength:"200"`
			Guardian  bool               `json:"guardian"`
			Signature [][]int            `json:"signature" maxItems:"500"`
		}
	}) (*body[*studio.Consent], error) {
		c, err := h.svc.SignConsent(ctx, actor(ctx), in.ID, in.Body.Kind, in.Body.Signer, in.Body.Guardian, in.Body.Signature)
		return reply(c, err)
	})
	huma.Register(api, closed("withdraw-consent", http.MethodPost, "/api/consents/{id}/withdrawal", "Withdraw a consent"), func(ctx context.Context, in *ByID) (*nothing, error) {
		return nil, answer(h.svc.WithdrawConsent(ctx, actor(ctx), in.ID))
	})
	huma.Register(api, closed("export-client", http.MethodGet, "/api/clients/{id}/export", "Everything kept of a client, as a file"), func(ctx context.Context, in *ByID) (*download, error) {
		f, err := h.svc.ExportClient(ctx, actor(ctx), in.ID)
		if err != nil {
			return nil, answer(err)
		}
		return h.file(f, "client.json")
	})
	huma.Register(api, closed("erase-client", http.MethodPost, "/api/clients/{id}/erasure", "Erase a client for good"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Confirm string `json:"confirm" maxLength:"200"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.EraseClient(ctx, actor(ctx), in.ID, in.Body.Confirm))
	})
	huma.Register(api, closed("print-letter", http.MethodGet, "/api/letters/{id}/paper", "The letter as PDF"), func(ctx context.Context, in *ByID) (*download, error) {
		p, err := h.svc.LetterPaper(ctx, actor(ctx), in.ID)
		return h.print("letter", p, err, h.cfg.Files.LetterPaper)
	})
	huma.Register(api, closed("print-summary", http.MethodGet, "/api/clients/{id}/summary", "The client's summary as PDF"), func(ctx context.Context, in *ByID) (*download, error) {
		p, err := h.svc.SummaryPaper(ctx, actor(ctx), in.ID)
		return h.print("summary", p, err, h.cfg.Files.SummaryPaper)
	})
	huma.Register(api, closed("amend-rule", http.MethodPost, "/api/screening/rules/{rule}", "The studio's own days for a rule; keep false only tells which visits it would touch"), func(ctx context.Context, in *struct {
		Rule string `path:"rule" maxLength:"60"`
		Body struct {
			Days   int    `json:"days"`
			Reason string `json:"reason" maxLength:"1000"`
			Keep   bool   `json:"keep"`
		}
	}) (*body[[]studio.Touched], error) {
		list, err := h.svc.AmendRule(ctx, actor(ctx), in.Rule, in.Body.Days, in.Body.Reason, in.Body.Keep)
		return reply(list, err)
	})
	huma.Register(api, closed("audit-log", http.MethodGet, "/api/audit", "The newest lines of the audit log"), func(ctx context.Context, in *struct {
		Before time.Time `query:"before"`
	}) (*body[[]studio.AuditLine], error) {
		list, err := h.svc.AuditLog(ctx, actor(ctx), in.Before)
		return reply(list, err)
	})
}

// LinkOut is a private link's token and its end.
type LinkOut struct {
	Token string    `json:"token"`
	Until time.Time `json:"until"`
}

func (h *handlers) print(name string, p *studio.Paper, err error, paper func(*studio.Paper, time.Time) ([]byte, error)) (*download, error) {
	if err != nil {
		return nil, answer(err)
	}
	data, err := paper(p, h.svc.Now())
	if err != nil {
		return nil, answer(err)
	}
	return &download{"application/pdf", `inline; filename="` + name + `.pdf"`, data}, nil
}
