package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/craft/substance"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/protocols"
	shelfroom "softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
)

type handlers struct {
	cfg Config
	svc *rooms.Rooms
}

// body is an answer.
type body[T any] struct{ Body T }

// nothing is an answer without content.
type nothing struct{}

func reply[T any](v T, err error) (*body[T], error) {
	if err != nil {
		return nil, answer(err)
	}
	return &body[T]{v}, nil
}

// listed makes an absent list an empty one.
func listed(s []string) []string {
	if s == nil {
		return []string{}
	}
	return s
}

// ByID is the id in a path.
type ByID struct {
	ID uuid.UUID `path:"id" format:"uuid"`
}

func (h *handlers) register(api huma.API) {
	h.registerSession(api)
	h.registerClients(api)
	h.registerProtocols(api)
	h.registerWorkbench(api)
	h.registerDiary(api)
	h.registerMoves(api)
	h.registerConsultations(api)
	h.registerPatchTests(api)
	h.registerTablet(api)
	h.registerTreatments(api)
	h.registerShelf(api)
}

// ZoneView is a zone of the body.
type ZoneView = anatomy.Zone

// ClientFileView is a client's file.
type ClientFileView struct {
	Client     studio.Client      `json:"client"`
	Visits     []studio.VisitLine `json:"visits"`
	Screenings []studio.PreCheck  `json:"screenings"`
	// Consultations, those reviewed last first.
	Consultations []studio.Consultation `json:"consultations"`
	// HoldsUntil is the day the consultation that counts has to be made again.
	HoldsUntil string             `json:"holdsUntil,omitempty"`
	Letters    []studio.Letter    `json:"letters"`
	Consents   []studio.Consent   `json:"consents"`
	PatchTests []studio.PatchTest `json:"patchTests"`
	// History tells which cautions applied when.
	History []contraindication.Span `json:"history"`
}

// ClientListView is one page of clients.
type ClientListView struct {
	Clients []studio.ClientLine `json:"clients"`
	Next    string              `json:"next,omitempty"`
}

// PlanView is a visit's plan tailored to today's door check.
type PlanView struct {
	Protocol   *protocol.Protocol     `json:"protocol"`
	Changes    []adjusting.Adjustment `json:"changes"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
	// Before is the plan as published, for the same skin.
	Before    *evaluation.Evaluation `json:"before"`
	Refused   bool                   `json:"refused"`
	Screening *studio.PreCheck       `json:"screening"`
	// Outcomes are those of the check, and of patch tests as they stand now.
	Outcomes []contraindication.Contraindication `json:"outcomes"`
	// Treatable tells whether the door check lets the client be treated today.
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
}

func (h *handlers) registerClients(api huma.API) {
	huma.Register(api, closed("list-clients", http.MethodGet, "/api/clients", "Clients by name"), func(ctx context.Context, in *struct {
		Search string `query:"search" maxLength:"100"`
		After  string `query:"after" maxLength:"300"`
	}) (*body[ClientListView], error) {
		list, next, err := h.svc.Clients.Clients(ctx, actor(ctx), in.Search, in.After)
		return reply(ClientListView{list, next}, err)
	})
	huma.Register(api, closed("get-client", http.MethodGet, "/api/clients/{id}", "A client's file"), func(ctx context.Context, in *ByID) (*body[ClientFileView], error) {
		f, err := h.svc.Clients.Client(ctx, actor(ctx), in.ID)
		return reply(ClientFileView{f.Client, f.Visits, f.PreChecks, f.Consultations, f.ValidUntil, f.Letters, f.Consents, f.PatchTests, f.History}, err)
	})
	huma.Register(api, closed("add-client", http.MethodPost, "/api/clients", "Add a client"), func(ctx context.Context, in *struct{ Body studio.ClientFields }) (*body[*studio.Client], error) {
		c, err := h.svc.Clients.SaveClient(ctx, actor(ctx), nil, in.Body)
		return reply(c, err)
	})
	huma.Register(api, closed("change-client", http.MethodPut, "/api/clients/{id}", "Change a client"), func(ctx context.Context, in *struct {
		ByID
		Body studio.ClientFields
	}) (*body[*studio.Client], error) {
		c, err := h.svc.Clients.SaveClient(ctx, actor(ctx), &in.ID, in.Body)
		return reply(c, err)
	})
	huma.Register(api, closed("get-rules", http.MethodGet, "/api/screening/rules", "The questions of the door check"), func(ctx context.Context, _ *struct{}) (*body[*checks.RulesView], error) {
		v, err := h.svc.Checks.Rules(ctx, actor(ctx))
		return reply(v, err)
	})
	huma.Register(api, closed("screen-client", http.MethodPost, "/api/clients/{id}/screenings", "Judge and keep a door check"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Visit   *uuid.UUID                         `json:"visit,omitempty" format:"uuid"`
			Answers map[string]contraindication.Answer `json:"answers"`
			About   *studio.ClientHistory              `json:"about,omitempty"`
		}
	}) (*body[*studio.PreCheck], error) {
		sc, err := h.svc.Checks.SavePreCheck(ctx, actor(ctx), in.ID, in.Body.Visit, in.Body.Answers, in.Body.About)
		return reply(sc, err)
	})
}

// LibraryView is what protocols are made of.
type LibraryView struct {
	Zones    []anatomy.Zone     `json:"zones"`
	Strokes  []stroke.Stroke    `json:"strokes"`
	Tools    []protocol.Tool    `json:"tools"`
	Products []ProductView      `json:"products"`
	Phases   []protocol.Phase   `json:"phases"`
	Concerns []protocol.Concern `json:"concerns"`
	// Routes are the edges of the lymph graph.
	Routes []anatomy.Route `json:"routes"`
	// Own lists the keys of strokes of the studio's own.
	Own []string `json:"own"`
	// Tags that rules speak of; products may carry others besides.
	Tags []substance.Tag `json:"tags"`
}

// ProductView is a product as the screens show it.
type ProductView struct {
	ID       uuid.UUID `json:"id"`
	Key      string    `json:"key"`
	Name     string    `json:"name"`
	Form     string    `json:"form"`
	Unit     string    `json:"unit"`
	FullDose float64   `json:"fullDose"`
	RangeMin float64   `json:"rangeMin"`
	RangeMax float64   `json:"rangeMax"`
	Tags     []string  `json:"tags"`
	Unsuited []string  `json:"unsuited"`
	// Ingredients as the pack lists them, by INCI name.
	Ingredients []string `json:"ingredients"`
	// Carries lists all tags: those given, what they imply, what the ingredients bring.
	Carries []string `json:"carries"`
	// Measures in which the product can be dosed.
	Measures []string `json:"measures"`
}

func productView(p *studio.Product) ProductView {
	v := ProductView{p.ID, p.Key, p.Name, string(p.Form), p.Unit, p.FullDose, p.RangeMin, p.RangeMax, listed(p.Tags), listed(p.Unsuited), listed(p.Ingredients), p.AllTags(), []string{"mL"}}
	if p.Density > 0 {
		v.Measures = append(v.Measures, "g")
	}
	if p.DropsPerML > 0 {
		v.Measures = append(v.Measures, "drops")
	}
	if p.MLPerPump > 0 {
		v.Measures = append(v.Measures, "presses")
	}
	return v
}

// ProtocolListView is a protocol in the list.
type ProtocolListView struct {
	ID        uuid.UUID  `json:"id"`
	Key       string     `json:"key"`
	Name      string     `json:"name"`
	Summary   string     `json:"summary"`
	Version   int        `json:"version"`
	HasDraft  bool       `json:"hasDraft"`
	Steps     int        `json:"steps"`
	Sold      int        `json:"sold"`
	HandsOn   int        `json:"handsOn"`
	Reset     int        `json:"reset"`
	Price     string     `json:"price"`
	Currency  string     `json:"currency"`
	Concerns  []string   `json:"concerns"`
	SkinTypes []string   `json:"skinTypes"`
	Published *time.Time `json:"published,omitempty"`
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

// FixedView is a protocol after a fix.
type FixedView struct {
	Protocol   *protocol.Protocol     `json:"protocol"`
	Evaluation *evaluation.Evaluation `json:"evaluation"`
}

// IDView is the id of something new.
type IDView struct {
	ID uuid.UUID `json:"id"`
}

// NumberView is a revision or version number.
type NumberView struct {
	Number int `json:"number"`
}

func (h *handlers) registerProtocols(api huma.API) {
	huma.Register(api, closed("get-library", http.MethodGet, "/api/library", "Zones, strokes, tools and products"), func(ctx context.Context, _ *struct{}) (*body[LibraryView], error) {
		l, err := h.svc.Protocols.Library(ctx, actor(ctx))
		if err != nil {
			return nil, answer(err)
		}
		v := LibraryView{anatomy.Zones[:], l.Strokes, l.Tools, make([]ProductView, len(l.Products)), protocol.Phases, protocol.Concerns, anatomy.Routes(), l.Own, substance.KnownTags()}
		for i := range l.Products {
			v.Products[i] = productView(&l.Products[i])
		}
		return reply(v, nil)
	})
	huma.Register(api, closed("list-protocols", http.MethodGet, "/api/protocols", "The studio's protocols"), func(ctx context.Context, _ *struct{}) (*body[[]ProtocolListView], error) {
		list, err := h.svc.Protocols.Protocols(ctx, actor(ctx))
		out := make([]ProtocolListView, len(list))
		for i, p := range list {
			b := &p.Body
			out[i] = ProtocolListView{p.ID, p.Key, b.Name, b.Summary, p.Version, p.HasDraft, len(b.Steps), b.Minutes.Treatment, b.Minutes.HandsOn, b.Minutes.Reset, b.Price.Amount, b.Price.Currency, listed(b.Concerns), listed(b.SkinTypes), p.PublishedAt}
		}
		return reply(out, err)
	})
	huma.Register(api, closed("open-protocol", http.MethodGet, "/api/protocols/{id}", "Open a protocol: your draft, or the newest version"), func(ctx context.Context, in *ByID) (*body[OpenedView], error) {
		o, err := h.svc.Protocols.OpenProtocol(ctx, actor(ctx), in.ID)
		return reply(OpenedView{in.ID, o.Version, o.HasDraft, o.Draft.Revision, o.Draft.BasedOn, o.Draft.Body, o.Evaluation}, err)
	})
	huma.Register(api, closed("add-protocol", http.MethodPost, "/api/protocols", "Begin a protocol as your draft"), func(ctx context.Context, in *struct{ Body protocol.Protocol }) (*body[IDView], error) {
		id, err := h.svc.Protocols.AddProtocol(ctx, actor(ctx), &in.Body)
		return reply(IDView{id}, err)
	})
	huma.Register(api, closed("save-draft", http.MethodPut, "/api/protocols/{id}/draft", "Keep your draft"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Revision int               `json:"revision" minimum:"0"`
			BasedOn  int               `json:"basedOn" minimum:"0"`
			Protocol protocol.Protocol `json:"protocol"`
		}
	}) (*body[NumberView], error) {
		n, err := h.svc.Protocols.SaveDraft(ctx, actor(ctx), in.ID, in.Body.Revision, in.Body.BasedOn, &in.Body.Protocol)
		return reply(NumberView{n}, err)
	})
	huma.Register(api, closed("drop-draft", http.MethodDelete, "/api/protocols/{id}/draft", "Go back to the newest version"), func(ctx context.Context, in *ByID) (*nothing, error) {
		return nil, answer(h.svc.Protocols.DropDraft(ctx, actor(ctx), in.ID))
	})
	huma.Register(api, closed("publish-protocol", http.MethodPost, "/api/protocols/{id}/versions", "Publish your draft as the next version"), func(ctx context.Context, in *ByID) (*body[NumberView], error) {
		n, err := h.svc.Protocols.Publish(ctx, actor(ctx), in.ID)
		return reply(NumberView{n}, err)
	})
	huma.Register(api, closed("evaluate-protocol", http.MethodPost, "/api/evaluate", "Judge a protocol without keeping it"), func(ctx context.Context, in *struct {
		Body struct {
			Protocol   protocol.Protocol `json:"protocol"`
			SkinType   string            `json:"skinType,omitempty" maxLength:"40"`
			SkinStates []string          `json:"skinStates,omitempty" maxItems:"10"`
		}
	}) (*body[*evaluation.Evaluation], error) {
		e, err := h.svc.Protocols.EvaluateProtocol(ctx, actor(ctx), &in.Body.Protocol, in.Body.SkinType, in.Body.SkinStates)
		return reply(e, err)
	})
	huma.Register(api, closed("fix-protocol", http.MethodPost, "/api/fix", "Apply a way out of a finding without keeping it"), func(ctx context.Context, in *struct {
		Body struct {
			Protocol protocol.Protocol `json:"protocol"`
			Finding  string            `json:"finding" maxLength:"200"`
			Fix      evaluation.Fix    `json:"fix" maxLength:"60"`
		}
	}) (*body[FixedView], error) {
		p, e, err := h.svc.Protocols.FixProtocol(ctx, actor(ctx), &in.Body.Protocol, in.Body.Finding, in.Body.Fix)
		return reply(FixedView{p, e}, err)
	})
}

// DayView is one day of the studio.
type DayView struct {
	Date          string             `json:"date"`
	Opens         time.Time          `json:"opens"`
	Closes        time.Time          `json:"closes"`
	Practitioners []studio.Person    `json:"practitioners"`
	Rooms         []studio.Room      `json:"rooms"`
	Visits        []studio.VisitLine `json:"visits"`
}

func (h *handlers) registerDiary(api huma.API) {
	huma.Register(api, closed("get-day", http.MethodGet, "/api/day", "A day's visits"), func(ctx context.Context, in *struct {
		Date string `query:"date" maxLength:"10"`
	}) (*body[DayView], error) {
		d, err := h.svc.Diary.Day(ctx, actor(ctx), in.Date)
		return reply(DayView{d.Date, d.Opens, d.Closes, d.Practitioners, d.Rooms, d.Visits}, err)
	})
	huma.Register(api, closed("find-free-times", http.MethodGet, "/api/free-times", "Free times for a protocol"), func(ctx context.Context, in *struct {
		Protocol     uuid.UUID `query:"protocol" required:"true" format:"uuid"`
		Client       string    `query:"client" maxLength:"36"`
		Practitioner string    `query:"practitioner" maxLength:"36"`
		From         string    `query:"from" maxLength:"10"`
		Days         int       `query:"days" minimum:"1" maximum:"31" default:"7"`
	}) (*body[[]studio.FreeTime], error) {
		q := studio.FreeQuery{Protocol: in.Protocol, From: in.From, Days: in.Days, Client: optionalID(in.Client), Practitioner: optionalID(in.Practitioner)}
		list, err := h.svc.Diary.FreeTimes(ctx, actor(ctx), q)
		return reply(list, err)
	})
	huma.Register(api, closed("book-visit", http.MethodPost, "/api/visits", "Book a visit; the same id twice books once"), func(ctx context.Context, in *struct {
		Body struct {
			ID           uuid.UUID `json:"id" format:"uuid"`
			Client       uuid.UUID `json:"client" format:"uuid"`
			Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
			Room         uuid.UUID `json:"room" format:"uuid"`
			Protocol     uuid.UUID `json:"protocol" format:"uuid"`
			Start        time.Time `json:"start"`
		}
	}) (*body[*studio.VisitLine], error) {
		b := in.Body
		v, err := h.svc.Diary.Book(ctx, actor(ctx), studio.NewVisit{ID: b.ID, Client: b.Client, Practitioner: b.Practitioner, Room: b.Room, Protocol: b.Protocol, Start: b.Start})
		return reply(v, err)
	})
	huma.Register(api, closed("get-visit", http.MethodGet, "/api/visits/{id}", "A visit"), func(ctx context.Context, in *ByID) (*body[*studio.VisitLine], error) {
		v, err := h.svc.Diary.Visit(ctx, actor(ctx), in.ID)
		return reply(v, err)
	})
	huma.Register(api, closed("set-visit-state", http.MethodPost, "/api/visits/{id}/state", "Move a visit on"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			State studio.VisitState `json:"state" enum:"confirmed,arrived,cancelled,no-show"`
		}
	}) (*body[*studio.VisitLine], error) {
		v, err := h.svc.Diary.SetVisitState(ctx, actor(ctx), in.ID, in.Body.State)
		return reply(v, err)
	})
}

func (h *handlers) registerMoves(api huma.API) {
	huma.Register(api, closed("first-free", http.MethodGet, "/api/visits/{id}/first-free", "The first time the visit could be moved to"), func(ctx context.Context, in *ByID) (*body[*studio.FreeTime], error) {
		f, err := h.svc.Diary.FirstFree(ctx, actor(ctx), in.ID)
		return reply(f, err)
	})
	huma.Register(api, closed("possible-protocols", http.MethodGet, "/api/visits/{id}/possible", "Other protocols that would be possible today, best first"), func(ctx context.Context, in *ByID) (*body[[]checks.AlternativeProtocol], error) {
		list, err := h.svc.Checks.Alternatives(ctx, actor(ctx), in.ID)
		return reply(list, err)
	})
	huma.Register(api, closed("take-instead", http.MethodPost, "/api/visits/{id}/protocol", "Give the visit another protocol"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Protocol uuid.UUID `json:"protocol" format:"uuid"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Checks.SwitchProtocol(ctx, actor(ctx), in.ID, in.Body.Protocol))
	})
	huma.Register(api, closed("move-visit", http.MethodPost, "/api/visits/{id}/move", "Move a visit to another time"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
			Room         uuid.UUID `json:"room" format:"uuid"`
			Start        time.Time `json:"start"`
		}
	}) (*body[*studio.VisitLine], error) {
		v, err := h.svc.Diary.MoveVisit(ctx, actor(ctx), in.ID, studio.NewVisit{Practitioner: in.Body.Practitioner, Room: in.Body.Room, Start: in.Body.Start})
		return reply(v, err)
	})
}

func optionalID(s string) *uuid.UUID {
	id, err := uuid.Parse(s)
	if err != nil {
		return nil
	}
	return &id
}

// RoomGuideView is everything the room shows.
type RoomGuideView struct {
	Visit      studio.VisitLine            `json:"visit"`
	Evaluation *evaluation.Evaluation      `json:"evaluation"`
	Changes    []adjusting.Adjustment      `json:"changes"`
	Progress   studio.Progress             `json:"progress"`
	Finished   bool                        `json:"finished"`
	Avoid      []contraindication.ZoneSide `json:"avoid"`
	Mind       []string                    `json:"mind"`
	Headline   string                      `json:"headline"`
}

// RecordView is a treatment's record.
type RecordView struct {
	Visit      studio.VisitLine       `json:"visit"`
	Record     studio.Record          `json:"record"`
	Changes    []adjusting.Adjustment `json:"changes"`
	Overrules  []studio.Override      `json:"overrules"`
	Cost       decimal.Decimal        `json:"cost"`
	Currency   string                 `json:"currency"`
	StartedAt  time.Time              `json:"startedAt"`
	FinishedAt *time.Time             `json:"finishedAt,omitempty"`
}

func record(r *treatment.RecordView, err error) (*body[RecordView], error) {
	if err != nil {
		return nil, answer(err)
	}
	return reply(RecordView{r.Visit, r.Record, r.Treatment.Adjustments, r.Treatment.Overrides, r.Cost, r.Currency, r.Treatment.StartedAt, r.Treatment.FinishedAt}, nil)
}

func (h *handlers) registerTreatments(api huma.API) {
	huma.Register(api, closed("get-plan", http.MethodPost, "/api/visits/{id}/plan", "The visit's plan tailored to today's door check, as if some of it were overruled; nothing is kept"), func(ctx context.Context, in *struct {
		ByID
		Body studio.PlanOptions
	}) (*body[PlanView], error) {
		p, err := h.svc.Checks.PlanFor(ctx, actor(ctx), in.ID, in.Body)
		if err != nil {
			return nil, answer(err)
		}
		return reply(PlanView{p.Protocol, p.Adjustments, p.Evaluation, p.AsPublished, p.Refused, p.PreCheck, p.Outcomes, p.PreCheck.Result.Headline.Treatable(), p.MissingConsents, p.OverridableRules, p.OverridableAdjustments, p.Stock, p.SkinVariants, listed(p.PractitionerNotes)}, nil)
	})
	huma.Register(api, closed("start-treatment", http.MethodPost, "/api/visits/{id}/treatment", "Begin the treatment; twice changes nothing"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			studio.PlanOptions
			Accepted treatment.AcceptedAdjustments `json:"accepted"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Treatment.StartTreatment(ctx, actor(ctx), in.ID, in.Body.PlanOptions, in.Body.Accepted))
	})
	huma.Register(api, closed("get-room", http.MethodGet, "/api/visits/{id}/room", "What the room shows"), func(ctx context.Context, in *ByID) (*body[RoomGuideView], error) {
		r, err := h.svc.Treatment.Room(ctx, actor(ctx), in.ID)
		if err != nil {
			return nil, answer(err)
		}
		v := RoomGuideView{r.Visit, r.Evaluation, r.Treatment.Adjustments, r.Treatment.Progress, r.Treatment.FinishedAt != nil, r.Avoid, r.Precautions, ""}
		if r.PreCheck != nil {
			v.Headline = string(r.PreCheck.Result.Headline)
		}
		return reply(v, nil)
	})
	huma.Register(api, closed("save-progress", http.MethodPut, "/api/visits/{id}/progress", "Keep where the room is"), func(ctx context.Context, in *struct {
		ByID
		Body studio.Progress
	}) (*nothing, error) {
		return nil, answer(h.svc.Treatment.SaveProgress(ctx, actor(ctx), in.ID, in.Body))
	})
	huma.Register(api, closed("get-record", http.MethodGet, "/api/visits/{id}/record", "The treatment's record"), func(ctx context.Context, in *ByID) (*body[RecordView], error) {
		return record(h.svc.Treatment.Record(ctx, actor(ctx), in.ID))
	})
	type recordIn struct {
		ByID
		Body struct {
			Note string `json:"note" maxLength:"8000"`
			Uses []struct {
				Product string          `json:"product" maxLength:"60"`
				Planned decimal.Decimal `json:"planned"`
				Real    decimal.Decimal `json:"real"`
			} `json:"uses" maxItems:"50"`
		}
	}
	read := func(in *recordIn) studio.Record {
		r := studio.Record{Note: in.Body.Note, Uses: []studio.RecordUse{}}
		for _, u := range in.Body.Uses {
			r.Uses = append(r.Uses, studio.RecordUse{Product: u.Product, Planned: u.Planned, Used: u.Real})
		}
		return r
	}
	huma.Register(api, closed("save-record", http.MethodPut, "/api/visits/{id}/record", "Keep what is written so far"), func(ctx context.Context, in *recordIn) (*body[RecordView], error) {
		if err := h.svc.Treatment.SaveRecord(ctx, actor(ctx), in.ID, read(in)); err != nil {
			return nil, answer(err)
		}
		return record(h.svc.Treatment.Record(ctx, actor(ctx), in.ID))
	})
	huma.Register(api, closed("finish-treatment", http.MethodPost, "/api/visits/{id}/record", "Finish and lock the record"), func(ctx context.Context, in *recordIn) (*body[RecordView], error) {
		return record(h.svc.Treatment.SignAndLock(ctx, actor(ctx), in.ID, read(in)))
	})
}

// ShelfLineView is a product with what is left of it.
type ShelfLineView struct {
	Product    ProductView     `json:"product"`
	Left       decimal.Decimal `json:"left"`
	Blocked    decimal.Decimal `json:"blocked"`
	PackSize   decimal.Decimal `json:"packSize"`
	Usual      decimal.Decimal `json:"usual"`
	Treatments int             `json:"treatments"`
	Order      bool            `json:"order"`
	Lots       []LotView       `json:"lots"`
}

// LotView is a lot on the shelf.
type LotView struct {
	ID        uuid.UUID       `json:"id"`
	Number    string          `json:"number"`
	Expiry    string          `json:"expiry"`
	Opened    string          `json:"opened"`
	GoodUntil string          `json:"goodUntil"`
	Received  string          `json:"received"`
	UnitCost  decimal.Decimal `json:"unitCost"`
	Left      decimal.Decimal `json:"left"`
	Usable    bool            `json:"usable"`
}

func (h *handlers) registerShelf(api huma.API) {
	huma.Register(api, closed("get-shelf", http.MethodGet, "/api/shelf", "What is on the shelf"), func(ctx context.Context, _ *struct{}) (*body[[]ShelfLineView], error) {
		in := signedIn(ctx)
		list, err := h.svc.Shelf.Shelf(ctx, &in.Actor)
		today := h.svc.Now().In(in.Studio.Zone()).Format(time.DateOnly)
		out := make([]ShelfLineView, len(list))
		for i := range list {
			l := &list[i]
			out[i] = ShelfLineView{productView(&l.Product), l.Remaining, l.Blocked, l.Product.PackSize, l.Usual, l.Treatments, l.Order, []LotView{}}
			for _, lot := range l.Lots {
				out[i].Lots = append(out[i].Lots, LotView{lot.UUID, lot.Number, lot.Expiry, lot.Opened, lot.UseBy(), lot.Received, lot.UnitCost, lot.Remaining, lot.Usable(today)})
			}
		}
		return reply(out, err)
	})
	huma.Register(api, closed("save-contents", http.MethodPut, "/api/products/{id}/contents", "What a product is made of and whom it is not for"), func(ctx context.Context, in *struct {
		ByID
		Body studio.Contents
	}) (*nothing, error) {
		return nil, answer(h.svc.Shelf.SaveContents(ctx, actor(ctx), in.ID, in.Body))
	})
	huma.Register(api, closed("receive-lot", http.MethodPost, "/api/lots", "Put a delivery on the shelf"), func(ctx context.Context, in *struct {
		Body struct {
			Product    uuid.UUID       `json:"product" format:"uuid"`
			Number     string          `json:"number" maxLength:"60"`
			Expiry     string          `json:"expiry" maxLength:"10"`
			MonthsOpen int             `json:"monthsOpen" minimum:"0" maximum:"60"`
			Amount     decimal.Decimal `json:"amount"`
			Cost       decimal.Decimal `json:"cost"`
		}
	}) (*nothing, error) {
		b := in.Body
		return nil, answer(h.svc.Shelf.ReceiveLot(ctx, actor(ctx), shelfroom.NewLot{Product: b.Product, Number: b.Number, Expiry: b.Expiry, MonthsOpen: b.MonthsOpen, Amount: b.Amount, Cost: b.Cost}))
	})
	huma.Register(api, closed("counter-lot", http.MethodPost, "/api/lots/{id}/movements", "Correct a lot by a movement"), func(ctx context.Context, in *struct {
		ByID
		Body struct {
			Kind   shelf.Kind      `json:"kind" enum:"waste,tester,retail,stocktake,dispose,return"`
			Amount decimal.Decimal `json:"amount"`
			Note   string          `json:"note,omitempty" maxLength:"300"`
		}
	}) (*nothing, error) {
		return nil, answer(h.svc.Shelf.CorrectStock(ctx, actor(ctx), in.ID, in.Body.Kind, in.Body.Amount, in.Body.Note))
	})
	bring := closed("import-file", http.MethodPost, "/api/import", "Bring in a studio, protocol or library file; dry only rehearses it")
	bring.MaxBodyBytes = BodyLimitBytes
	huma.Register(api, bring, func(ctx context.Context, in *struct {
		Dry     bool `query:"dry"`
		RawBody []byte
	}) (*body[ImportView], error) {
		v, err := h.bring(ctx, in.RawBody, in.Dry)
		return reply(v, err)
	})
}

// ImportView is what a file adds, or would add: counts of a studio file, or the
// things of a protocol or library file one by one.
type ImportView struct {
	Format  string                  `json:"format"`
	Counts  *house.Counts           `json:"counts,omitempty"`
	Brought *protocols.ImportResult `json:"brought,omitempty"`
}

func (h *handlers) bring(ctx context.Context, data []byte, dry bool) (v ImportView, err error) {
	a := actor(ctx)
	v.Format = h.cfg.Files.FormatOf(data)
	switch v.Format {
	case "soft-palm-protocol":
		f, err := h.cfg.Files.ReadProtocol(data)
		if err != nil {
			return v, err
		}
		v.Brought, err = h.svc.Protocols.ImportProtocol(ctx, a, f, dry)
		return v, err
	case "soft-palm-library":
		f, err := h.cfg.Files.ReadLibrary(data)
		if err != nil {
			return v, err
		}
		v.Brought, err = h.svc.Protocols.ImportLibrary(ctx, a, f, dry)
		return v, err
	}
	if a.Role != studio.Owner {
		return v, studio.ErrForbidden
	}
	b, err := h.cfg.Files.ReadBundle(data)
	if err != nil {
		return v, err
	}
	v.Counts, err = h.svc.House.Import(ctx, a, b, dry)
	return v, err
}
