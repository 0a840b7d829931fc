package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/substance"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

// LinkToken opens one consultation; it travels in a header, never in an address,
// so that it stands in no log.
type LinkToken struct {
	Token string `header:"X-Link-Token" required:"true" maxLength:"100"`
}

func (h *handlers) registerConsultations(api huma.API) {
	huma.Register(api, closed("new-link", http.MethodPost, "/api/clients/{id}/link", "A private link for the client's consultation"), func(ctx context.Context, in *ByID) (*body[LinkOut], error) {
		token, until, err := h.svc.Checks.NewLink(ctx, actor(ctx), in.ID)
		return reply(LinkOut{token, until}, err)
	})
	huma.Register(api, open("open-link", http.MethodGet, "/api/consultation", "What a private link opens"), func(ctx context.Context, in *struct {
		LinkToken
		Origin
	}) (*body[*checks.LinkView], error) {
		v, err := h.svc.Checks.Linked(ctx, in.Token, in.From)
		return reply(v, err)
	})
	huma.Register(api, open("save-link", http.MethodPut, "/api/consultation", "Keep what the client answered so far, or send it in"), func(ctx context.Context, in *struct {
		LinkToken
		Origin
		Body struct {
			Answers map[string]contraindication.Answer `json:"answers"`
			About   studio.ClientHistory               `json:"about"`
			Send    bool                               `json:"send"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Checks.SaveLinked(ctx, in.Token, in.From, in.Body.Answers, in.Body.About, in.Body.Send))
	})
	huma.Register(api, open("search-link", http.MethodGet, "/api/consultation/substances", "Ingredients or medicines by any of their names, for the client"), func(ctx context.Context, in *struct {
		LinkToken
		Origin
		SubstanceQuery
	}) (*body[[]substance.Hit], error) {
		list, err := h.svc.Checks.SearchLinked(ctx, in.Token, in.From, in.Kind, in.Text)
		return reply(list, err)
	})
	huma.Register(api, closed("search-substances", http.MethodGet, "/api/substances", "Ingredients or medicines by any of their names"), func(_ context.Context, in *struct{ SubstanceQuery }) (*body[[]substance.Hit], error) {
		return reply(checks.Substances(in.Kind, in.Text), nil)
	})
	huma.Register(api, closed("list-doubts", http.MethodGet, "/api/screening/doubts", "The rules that some medicines answer, or make worth asking about"), func(ctx context.Context, in *struct {
		Medicine []string `query:"medicine,explode" maxItems:"40"`
	}) (*body[[]contraindication.MedicineConflict], error) {
		list, err := h.svc.Checks.MedicineConflicts(ctx, actor(ctx), in.Medicine)
		return reply(list, err)
	})
	huma.Register(api, closed("get-questions", http.MethodGet, "/api/clients/{id}/questions", "What to ask a client today"), func(ctx context.Context, in *ByID) (*body[*checks.Questions], error) {
		q, err := h.svc.Checks.QuestionsFor(ctx, actor(ctx), in.ID)
		return reply(q, err)
	})
	huma.Register(api, closed("review-consultation", http.MethodPost, "/api/clients/{id}/consultations/{consultation}/review", "Count a consultation from now on"), func(ctx context.Context, in *struct {
		ByID
		Consultation uuid.UUID `path:"consultation" format:"uuid"`
		Body         struct {
			Answers map[string]contraindication.Answer `json:"answers"`
			About   studio.ClientHistory               `json:"about"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Checks.Review(ctx, actor(ctx), in.ID, in.Consultation, in.Body.Answers, in.Body.About))
	})
	huma.Register(api, closed("write-letter", http.MethodPost, "/api/clients/{id}/letters", "Write a letter to the client's doctor"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Visit    *uuid.UUID `json:"visit,omitempty" format:"uuid"`
			Question string     `json:"question" maxLength:"4000"`
		}
	}) (*body[*studio.Letter], error) {
		l, err := h.svc.Checks.WriteLetter(ctx, actor(ctx), in.ID, in.Body.Visit, in.Body.Question)
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
		return nil, answer(h.svc.Checks.AnswerLetter(ctx, actor(ctx), in.ID, in.Body.Yes, in.Body.Until, in.Body.Note))
	})
	scan := closed("add-scan", http.MethodPost, "/api/letters/{id}/scans", "Keep the doctor's answer as it came: PDF, JPEG or PNG")
	scan.MaxBodyBytes = checks.ScanBytes + 1<<10
	huma.Register(api, scan, func(ctx context.Context, in *struct {
		ByID
		RawBody []byte
	}) (*nothing, error) {
		return nil, answer(h.svc.Checks.AddScan(ctx, actor(ctx), in.ID, in.RawBody))
	})
	huma.Register(api, closed("get-scan", http.MethodGet, "/api/scans/{id}", "A doctor's answer as it came"), func(ctx context.Context, in *ByID) (*download, error) {
		kind, data, err := h.svc.Checks.Scan(ctx, actor(ctx), in.ID)
		if err != nil {
			return nil, answer(err)
		}
		return &download{kind, `inline; filename="answer"`, data}, nil
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
		c, err := h.svc.Clients.SignConsent(ctx, actor(ctx), in.ID, in.Body.Kind, in.Body.Signer, in.Body.Guardian, in.Body.Signature)
		return reply(c, err)
	})
	huma.Register(api, closed("withdraw-consent", http.MethodPost, "/api/consents/{id}/withdrawal", "Withdraw a consent"), func(ctx context.Context, in *ByID) (*nothing, error) {
		return nil, answer(h.svc.Clients.WithdrawConsent(ctx, actor(ctx), in.ID))
	})
	huma.Register(api, closed("export-client", http.MethodGet, "/api/clients/{id}/export", "Everything kept of a client, as a file"), func(ctx context.Context, in *ByID) (*download, error) {
		f, err := h.svc.Clients.ExportClient(ctx, actor(ctx), in.ID)
		if err != nil {
			return nil, answer(err)
		}
		return h.file(f, "client.json")
	})
	huma.Register(api, closed("print-client", http.MethodGet, "/api/clients/{id}/file", "Everything kept of a client, as PDF"), func(ctx context.Context, in *ByID) (*download, error) {
		f, err := h.svc.Clients.ExportClient(ctx, actor(ctx), in.ID)
		if err != nil {
			return nil, answer(err)
		}
		data, err := h.cfg.Files.ClientPaper(f, h.svc.Now())
		if err != nil {
			return nil, answer(err)
		}
		return &download{"application/pdf", `inline; filename="client.pdf"`, data}, nil
	})
	huma.Register(api, closed("erase-client", http.MethodPost, "/api/clients/{id}/erasure", "Erase a client for good"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Confirm string `json:"confirm" maxLength:"200"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Clients.EraseClient(ctx, actor(ctx), in.ID, in.Body.Confirm))
	})
	huma.Register(api, closed("print-letter", http.MethodGet, "/api/letters/{id}/paper", "The letter as PDF"), func(ctx context.Context, in *ByID) (*download, error) {
		p, err := h.svc.Checks.LetterPaper(ctx, actor(ctx), in.ID)
		return h.print("letter", p, err, h.cfg.Files.LetterPaper)
	})
	huma.Register(api, closed("print-summary", http.MethodGet, "/api/clients/{id}/summary", "The client's summary as PDF"), func(ctx context.Context, in *ByID) (*download, error) {
		p, err := h.svc.Checks.SummaryPaper(ctx, actor(ctx), in.ID)
		return h.print("summary", p, err, h.cfg.Files.SummaryPaper)
	})
	huma.Register(api, closed("amend-rule", http.MethodPost, "/api/screening/rules/{rule}", "The studio's own days for a rule; keep false only tells which visits it would touch"), func(ctx context.Context, in *struct {
		Rule string `path:"rule" maxLength:"60"`
		Body struct {
			Days   int    `json:"days"`
			Reason string `json:"reason" maxLength:"1000"`
			Keep   bool   `json:"keep"`
		}
	}) (*body[[]checks.AffectedVisit], error) {
		list, err := h.svc.Checks.AmendRule(ctx, actor(ctx), in.Rule, in.Body.Days, in.Body.Reason, in.Body.Keep)
		return reply(list, err)
	})
	huma.Register(api, closed("save-rule", http.MethodPost, "/api/screening/own-rules", "Add or change a rule of the studio's own; keep false only tells which visits it would touch"), func(ctx context.Context, in *struct {
		Body struct {
			Rule   contraindication.Rule `json:"rule"`
			Reason string                `json:"reason" maxLength:"1000"`
			Keep   bool                  `json:"keep"`
		}
	}) (*body[[]checks.AffectedVisit], error) {
		list, err := h.svc.Checks.SaveRule(ctx, actor(ctx), in.Body.Rule, in.Body.Reason, in.Body.Keep)
		return reply(list, err)
	})
	huma.Register(api, closed("retire-rule", http.MethodPost, "/api/screening/own-rules/retirement", "Take a rule of the studio's own away"), func(ctx context.Context, in *struct {
		Body struct {
			Rule   string `json:"rule" maxLength:"80"`
			Reason string `json:"reason" maxLength:"1000"`
			Keep   bool   `json:"keep"`
		}
	}) (*body[[]checks.AffectedVisit], error) {
		list, err := h.svc.Checks.RetireRule(ctx, actor(ctx), in.Body.Rule, in.Body.Reason, in.Body.Keep)
		return reply(list, err)
	})
	huma.Register(api, closed("decide-policy", http.MethodPost, "/api/screening/policies/{policy}", "Decide on a policy of the studio; keep false only tells which visits it would touch"), func(ctx context.Context, in *struct {
		Policy string `path:"policy" maxLength:"60"`
		Body   struct {
			On     bool   `json:"on"`
			Reason string `json:"reason" maxLength:"1000"`
			Keep   bool   `json:"keep"`
		}
	}) (*body[[]checks.AffectedVisit], error) {
		list, err := h.svc.Checks.DecidePolicy(ctx, actor(ctx), in.Policy, in.Body.On, in.Body.Reason, in.Body.Keep)
		return reply(list, err)
	})
	huma.Register(api, closed("audit-log", http.MethodGet, "/api/audit", "The newest lines of the audit log"), func(ctx context.Context, in *struct {
		Before time.Time `query:"before"`
	}) (*body[[]studio.AuditLine], error) {
		list, err := h.svc.House.AuditLog(ctx, actor(ctx), in.Before)
		return reply(list, err)
	})
}

// SubstanceQuery is what is searched for.
type SubstanceQuery struct {
	Kind string `query:"kind" enum:"allergen,medicine" default:"allergen"`
	Text string `query:"text" maxLength:"100"`
}

// LinkOut is a private link's token and its end.
type LinkOut struct {
	Token string    `json:"token"`
	Until time.Time `json:"until"`
}

func (h *handlers) print(name string, p *checks.Paper, err error, paper func(*checks.Paper, time.Time) ([]byte, error)) (*download, error) {
	if err != nil {
		return nil, answer(err)
	}
	data, err := paper(p, h.svc.Now())
	if err != nil {
		return nil, answer(err)
	}
	return &download{"application/pdf", `inline; filename="` + name + `.pdf"`, data}, nil
}

func (h *handlers) registerPatchTests(api huma.API) {
	huma.Register(api, closed("apply-patch-test", http.MethodPost, "/api/clients/{id}/patch-tests", "Record a patch test as applied now"), func(ctx context.Context, in *struct {
		ByID
		Body checks.NewPatchTest
	}) (*body[*studio.PatchTest], error) {
		p, err := h.svc.Checks.ApplyPatchTest(ctx, actor(ctx), in.ID, in.Body)
		return reply(p, err)
	})
	huma.Register(api, closed("read-patch-test", http.MethodPost, "/api/patch-tests/{id}/readings", "Record how the skin answered"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Hours int              `json:"hours" enum:"24,48"`
			Grade patch.PatchGrade `json:"grade" enum:"negative,doubtful,weak,strong,extreme,irritant"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Checks.ReadPatchTest(ctx, actor(ctx), in.ID, in.Body.Hours, in.Body.Grade))
	})
	huma.Register(api, closed("patch-offer", http.MethodGet, "/api/visits/{id}/patch-test", "What a visit needs a patch test of, and free times for it"), func(ctx context.Context, in *ByID) (*body[*checks.PatchOffer], error) {
		o, err := h.svc.Checks.PatchOfferFor(ctx, actor(ctx), in.ID)
		return reply(o, err)
	})
	huma.Register(api, closed("book-patch-test", http.MethodPost, "/api/visits/{id}/patch-test", "Book the ten minutes for a visit's patch test; the same id twice books once"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			ID           uuid.UUID `json:"id" format:"uuid"`
			Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
			Room         uuid.UUID `json:"room" format:"uuid"`
			Start        time.Time `json:"start"`
		}
	}) (*body[*studio.VisitLine], error) {
		b := in.Body
		v, err := h.svc.Checks.BookPatchTest(ctx, actor(ctx), in.ID, studio.NewVisit{ID: b.ID, Practitioner: b.Practitioner, Room: b.Room, Start: b.Start})
		return reply(v, err)
	})
}

func (h *handlers) registerTablet(api huma.API) {
	huma.Register(api, closed("set-pin", http.MethodPut, "/api/pin", "Choose the PIN with which the tablet is taken back"), func(ctx context.Context, in *struct {
		Body struct {
			PIN string `json:"pin" maxLength:"8"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.House.SetPIN(ctx, actor(ctx), in.Body.PIN))
	})
	huma.Register(api, closed("hand-over-tablet", http.MethodPost, "/api/clients/{id}/hand-over", "Lock this session to the client's consultation"), func(ctx context.Context, in *ByID) (*body[LinkOut], error) {
		token, until, err := h.svc.House.HandOverTablet(ctx, actor(ctx), signedIn(ctx).Session.ID, in.ID)
		return reply(LinkOut{token, until}, err)
	})
	huma.Register(api, closed(takeBack, http.MethodPost, "/api/take-back", "Take the tablet back with the PIN"), func(ctx context.Context, in *struct {
		Body struct {
			PIN string `json:"pin" maxLength:"20"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.House.UnlockTablet(ctx, actor(ctx), signedIn(ctx).Session.ID, in.Body.PIN))
	})
}
