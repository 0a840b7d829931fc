package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

func (h *handlers) registerLetters(api huma.API) {
	huma.Register(
		api,
		closed("write-letter", http.MethodPost, "/api/clients/{id}/letters", "Write a letter to the client's doctor"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Visit    *uuid.UUID `json:"visit,omitempty" format:"uuid"`
				Question string     `json:"question" maxLength:"4000"`
				// Expected is the day on which the answer is expected; two weeks on where it is empty.
				Expected string `json:"expected,omitempty" maxLength:"10"`
			}
		}) (*body[*studio.Letter], error) {
			l, err := h.rooms.Checks.WriteLetter(ctx, actor(ctx), in.ID, in.Body.Visit, in.Body.Question, in.Body.Expected)
			return reply(l, err)
		},
	)
	huma.Register(
		api,
		closed("answer-letter", http.MethodPost, "/api/letters/{id}/answer", "Record the doctor's answer"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Yes   bool   `json:"yes"`
				Until string `json:"until,omitempty" maxLength:"10"`
				Note  string `json:"note,omitempty" maxLength:"2000"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Checks.AnswerLetter(ctx, actor(ctx), in.ID, in.Body.Yes, in.Body.Until, in.Body.Note))
		},
	)
	scan := closed(
		"add-scan",
		http.MethodPost,
		"/api/letters/{id}/scans",
		"Attach the doctor's answer as scanned: PDF, JPEG or PNG",
	)
	scan.MaxBodyBytes = checks.ScanBytes + 1<<10
	huma.Register(api, scan, func(ctx context.Context, in *struct {
		ByID
		RawBody []byte
	}) (*nothing, error) {
		return nil, answer(h.rooms.Checks.AddScan(ctx, actor(ctx), in.ID, in.RawBody))
	})
	huma.Register(
		api,
		closed("get-scan", http.MethodGet, "/api/scans/{id}", "A doctor's answer as it came"),
		func(ctx context.Context, in *ByID) (*download, error) {
			kind, data, err := h.rooms.Checks.Scan(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return &download{kind, `inline; filename="answer"`, data}, nil
		},
	)
	huma.Register(
		api,
		closed("print-letter", http.MethodGet, "/api/letters/{id}/paper", "The letter as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			p, err := h.rooms.Checks.LetterPaper(ctx, actor(ctx), in.ID)
			return h.print("letter", p, err, h.cfg.Files.LetterPaper)
		},
	)
	huma.Register(
		api,
		closed("print-summary", http.MethodGet, "/api/clients/{id}/summary", "The client's summary as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			p, err := h.rooms.Checks.SummaryPaper(ctx, actor(ctx), in.ID)
			return h.print("summary", p, err, h.cfg.Files.SummaryPaper)
		},
	)
}

func (h *handlers) print(
	name string,
	p *checks.Paper,
	err error,
	paper func(*checks.Paper, time.Time) ([]byte, error),
) (*download, error) {
	if err != nil {
		return nil, answer(err)
	}
	data, err := paper(p, h.rooms.Now())
	if err != nil {
		return nil, answer(err)
	}
	return &download{"application/pdf", `inline; filename="` + name + `.pdf"`, data}, nil
}

// registerPlanned adds the procedures elsewhere that a client plans.
func (h *handlers) registerPlanned(api huma.API) {
	huma.Register(api, closed("list-planned", http.MethodGet, "/api/clients/{id}/planned", "Procedures elsewhere that a client plans"),
		func(ctx context.Context, in *ByID) (*body[*checks.PlannedView], error) {
			v, err := h.rooms.Checks.Planned(ctx, actor(ctx), in.ID)
			return reply(v, err)
		})
	huma.Register(api, closed("add-planned", http.MethodPost, "/api/clients/{id}/planned", "Note a procedure that is planned; the same id twice notes it once"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				ID   uuid.UUID `json:"id" format:"uuid"`
				Rule string    `json:"rule" maxLength:"80"`
				Day  string    `json:"day" maxLength:"10"`
			}
		}) (*struct{}, error) {
			return nil, answer(h.rooms.Checks.AddPlanned(ctx, actor(ctx), studio.PlannedProcedure{ID: in.Body.ID, Client: in.ID, Rule: in.Body.Rule, Day: in.Body.Day}))
		})
	huma.Register(api, closed("remove-planned", http.MethodDelete, "/api/clients/{id}/planned/{planned}", "Take a planned procedure back"),
		func(ctx context.Context, in *struct {
			ByID
			Planned uuid.UUID `path:"planned" format:"uuid"`
		}) (*struct{}, error) {
			return nil, answer(h.rooms.Checks.RemovePlanned(ctx, actor(ctx), in.ID, in.Planned))
		})
}
