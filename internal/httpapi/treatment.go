package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// RoomGuideView is everything the room shows.
type RoomGuideView struct {
	Visit      studio.VisitLine       `json:"visit"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
	Changes    []adjusting.Adjustment `json:"changes"`
	// Heard is where the guide stands by the room's log, HandsOff when hands are to be off.
	Heard    *treatment.RoomHeard `json:"heard"`
	HandsOff time.Time            `json:"handsOff"`
	// StayRoom is how much longer spells may be before an eye's limit is passed.
	StayRoom guide.StayRoom `json:"stayRoom"`
	// LastGrades are those of the client's treatment before, by measure/side.
	LastGrades map[string]float64          `json:"lastGrades"`
	Finished   bool                        `json:"finished"`
	Avoid      []contraindication.ZoneSide `json:"avoid"`
	Mind       []string                    `json:"mind"`
	Headline   string                      `json:"headline"`
	// ClientNotes are the notes of the client's file, with the steps they are about.
	ClientNotes []studio.StepNote `json:"clientNotes"`
	// Emergency is what to do in an emergency, Address where the studio is.
	Emergency string `json:"emergency"`
	Address   string `json:"address"`
}

// RecordView is a treatment's record.
type RecordView struct {
	Visit     studio.VisitLine       `json:"visit"`
	Record    studio.Record          `json:"record"`
	Changes   []adjusting.Adjustment `json:"changes"`
	Overrules []studio.Override      `json:"overrules"`
	// OtherDay is the owner's reason to treat on another day than the appointment's.
	OtherDay string `json:"otherDay,omitempty"`
	// Skipped names the steps that were left out in the room.
	Skipped   []string                `json:"skipped"`
	Additions []studio.RecordAddition `json:"additions"`
	Cost      decimal.Decimal         `json:"cost"`
	Currency  string                  `json:"currency"`
	// Account is how the treatment went by the room's log, absent where nothing was logged.
	Account *guide.Account `json:"account,omitempty"`
	// Signature of a locked record, absent for records locked before signatures were kept.
	Signature *treatment.Signature `json:"signature,omitempty"`
	// Correctable are the fields of a locked record that an addition may correct.
	Correctable []treatment.RecordField `json:"correctable,omitempty"`
	// Reactions and incidents of this visit.
	Reactions []studio.Reaction `json:"reactions"`
	Incidents []studio.Incident `json:"incidents"`
	// Headline of the check that the treatment began with, empty for one begun before it was kept.
	Headline string `json:"headline,omitempty"`
	// Pieces are the tools that were used.
	Pieces []treatment.UsedPiece `json:"pieces"`
	// Measurements and photos of this visit, without the pictures.
	Measurements []studio.Measurement `json:"measurements"`
	Photos       []studio.Photo       `json:"photos"`
	// ExpectedRedness is the highest grade of redness at the end, of 4, that the plan's method expects.
	ExpectedRedness int `json:"expectedRedness"`
	// Next are proposals for the next visit, by rule.
	Next []treatment.Proposal `json:"next"`
	// Choices are what may be said of each product while the record is open.
	Choices    []treatment.UseChoices `json:"choices,omitempty"`
	StartedAt  time.Time              `json:"startedAt"`
	FinishedAt *time.Time             `json:"finishedAt,omitempty"`
}

func record(r *treatment.RecordView, err error) (*body[RecordView], error) {
	if err != nil {
		return nil, answer(err)
	}
	return reply(RecordView{
		Visit:           r.Visit,
		Record:          r.Record,
		Changes:         r.Treatment.Adjustments,
		Overrules:       r.Treatment.Overrides,
		OtherDay:        r.Treatment.OtherDay,
		Skipped:         r.Skipped,
		Additions:       r.Additions,
		Cost:            r.Cost,
		Currency:        r.Currency,
		Account:         r.Account,
		Signature:       r.Signature,
		Correctable:     r.Correctable,
		Reactions:       listed(r.Reactions),
		Incidents:       listed(r.Incidents),
		Next:            listed(r.Next),
		Headline:        r.Treatment.Headline,
		Pieces:          listed(r.Pieces),
		Measurements:    listed(r.Measurements),
		Photos:          listed(r.Photos),
		ExpectedRedness: r.Treatment.Protocol.Method.ExpectedRedness(),
		Choices:         r.Choices,
		StartedAt:       r.Treatment.StartedAt,
		FinishedAt:      r.Treatment.FinishedAt,
	}, nil)
}

func (h *handlers) registerTreatments(api huma.API) {
	huma.Register(
		api,
		closed("start-treatment", http.MethodPost, "/api/visits/{id}/treatment", "Start the treatment; a repeat changes nothing"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				studio.PlanOptions
				Accepted treatment.AcceptedAdjustments `json:"accepted"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Treatment.StartTreatment(ctx, actor(ctx), in.ID, in.Body.PlanOptions, in.Body.Accepted))
		},
	)
	huma.Register(
		api,
		closed("get-room", http.MethodGet, "/api/visits/{id}/room", "What the room shows"),
		func(ctx context.Context, in *ByID) (*body[RoomGuideView], error) {
			r, err := h.rooms.Treatment.Room(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			v := RoomGuideView{
				Visit:       r.Visit,
				Evaluation:  r.Treatment.Evaluation,
				Changes:     r.Changes,
				Heard:       r.Heard,
				HandsOff:    r.HandsOff,
				LastGrades:  r.LastGrades,
				StayRoom:    guide.NewStayRoom(r.Treatment.Evaluation),
				Finished:    r.Treatment.FinishedAt != nil,
				Avoid:       r.Treatment.Avoid,
				Mind:        r.Treatment.Precautions,
				Headline:    r.Treatment.Headline,
				ClientNotes: listed(r.Treatment.ClientNotes),
				Emergency:   r.Emergency,
				Address:     r.Address,
			}
			return reply(v, nil)
		},
	)
	huma.Register(
		api,
		closed("add-events", http.MethodPost, "/api/visits/{id}/events", "Add what happened in the room; a repeat changes nothing"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Events []guide.Event `json:"events" maxItems:"100"`
			}
		}) (*body[*treatment.RoomHeard], error) {
			return reply(h.rooms.Treatment.AddEvents(ctx, actor(ctx), in.ID, in.Body.Events))
		},
	)
	huma.Register(
		api,
		closed("get-room-log", http.MethodGet, "/api/visits/{id}/events", "Where the guide stands by the room's log"),
		func(ctx context.Context, in *ByID) (*body[*treatment.RoomHeard], error) {
			return reply(h.rooms.Treatment.RoomLog(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("get-record", http.MethodGet, "/api/visits/{id}/record", "The treatment's record"),
		func(ctx context.Context, in *ByID) (*body[RecordView], error) {
			return record(h.rooms.Treatment.Record(ctx, actor(ctx), in.ID))
		},
	)
}

func (h *handlers) registerRecords(api huma.API) {
	type recordIn struct {
		ByID
		Body struct {
			// Revision is that of the record that was changed.
			Revision int    `json:"revision" minimum:"0"`
			Note     string `json:"note" maxLength:"8000"`
			Said     string `json:"said,omitempty" maxLength:"4000"`
			Advice   string `json:"advice,omitempty" maxLength:"4000"`
			// BrokenOff says that the treatment was stopped before its end; it counts when the record is locked.
			BrokenOff bool `json:"brokenOff,omitempty"`
			Uses      []struct {
				Product string `json:"product" maxLength:"60"`
				// Planned is accepted and not read: the prepared plan's own amount counts.
				Planned *decimal.Decimal `json:"planned,omitempty"`
				// Real is what was used, where nothing is said of how it was measured.
				Real *decimal.Decimal `json:"real,omitempty"`
				shelf.Reading
				// Pack is the one really in the hand.
				Pack     *uuid.UUID      `json:"pack,omitempty" format:"uuid"`
				Short    string          `json:"short,omitempty" enum:"next,count,"`
				Override string          `json:"override,omitempty" maxLength:"300"`
				Slid     *studio.SlidFor `json:"slid,omitempty"`
			} `json:"uses" maxItems:"50"`
		}
	}
	read := func(in *recordIn) studio.Record {
		r := studio.Record{Revision: in.Body.Revision, Note: in.Body.Note, Said: in.Body.Said, Advice: in.Body.Advice, BrokenOff: in.Body.BrokenOff, Uses: []studio.RecordUse{}}
		for _, u := range in.Body.Uses {
			use := studio.RecordUse{
				Product: u.Product, Reading: u.Reading, Pack: u.Pack, Short: u.Short, Override: u.Override, Slid: u.Slid,
			}
			switch {
			case u.Real != nil && (use.How == "" || use.How == shelf.AsPlanned):
				use.How, use.Used = "", *u.Real
			case use.How == "":
				use.How = shelf.AsPlanned
			}
			r.Uses = append(r.Uses, use)
		}
		return r
	}
	huma.Register(
		api,
		closed("save-record", http.MethodPut, "/api/visits/{id}/record", "Save the record as written so far"),
		func(ctx context.Context, in *recordIn) (*body[RecordView], error) {
			if err := h.rooms.Treatment.SaveRecord(ctx, actor(ctx), in.ID, read(in)); err != nil {
				return nil, answer(err)
			}
			return record(h.rooms.Treatment.Record(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("finish-treatment", http.MethodPost, "/api/visits/{id}/record", "Finish and lock the record"),
		func(ctx context.Context, in *recordIn) (*body[RecordView], error) {
			return record(h.rooms.Treatment.SignAndLock(ctx, actor(ctx), in.ID, read(in)))
		},
	)
	huma.Register(
		api,
		closed("add-to-record", http.MethodPost, "/api/visits/{id}/record/additions", "Add a dated text to a locked record"),
		func(ctx context.Context, in *struct {
			ByID
			Body treatment.NewAddition
		}) (*body[RecordView], error) {
			return record(h.rooms.Treatment.AddToRecord(ctx, actor(ctx), in.ID, in.Body))
		},
	)
}

func (h *handlers) registerRecordPapers(api huma.API) {
	huma.Register(
		api,
		closed("countersign-record", http.MethodPost, "/api/visits/{id}/record/second-signature", "Sign a trainee's record besides them"),
		func(ctx context.Context, in *ByID) (*body[RecordView], error) {
			return record(h.rooms.Treatment.Countersign(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("print-record", http.MethodGet, "/api/visits/{id}/record/paper", "The treatment's record as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			r, err := h.rooms.Treatment.Print(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.RecordPaper(r, who.Studio.Name, who.Studio.Zone(), h.rooms.Now())
			return &download{"application/pdf", `inline; filename="record.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("get-signed-record", http.MethodGet, "/api/visits/{id}/record/signed", "What was signed, as canonical JSON (RFC 8785)"),
		func(ctx context.Context, in *ByID) (*download, error) {
			signed, err := h.rooms.Treatment.SignedRecord(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return &download{"application/json", `attachment; filename="record.json"`, signed}, nil
		},
	)
	huma.Register(
		api,
		closed("answer-proposal", http.MethodPut, "/api/visits/{id}/proposals", "Take a proposal into the next visit, or refuse it"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Code  string `json:"code" maxLength:"40"`
				Key   string `json:"key" maxLength:"200"`
				Taken bool   `json:"taken"`
			}
		}) (*body[RecordView], error) {
			return record(h.rooms.Treatment.AnswerProposal(ctx, actor(ctx), in.ID, in.Body.Code, in.Body.Key, in.Body.Taken))
		},
	)
}

func (h *handlers) registerPaces(api huma.API) {
	huma.Register(
		api,
		closed("get-refits", http.MethodGet, "/api/visits/{id}/refits", "The re-fits of a treatment under way, for every spell's end"),
		func(ctx context.Context, in *ByID) (*body[[]fitting.PreparedRefit], error) {
			return reply(h.rooms.Treatment.Refits(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("forget-pace", http.MethodDelete, "/api/practitioners/{id}/pace", "Start a practitioner's pace over"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Treatment.ForgetPace(ctx, actor(ctx), in.ID))
		},
	)
}
