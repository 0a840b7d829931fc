package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	shelfroom "softpalm/internal/studio/shelf"
)

func (h *handlers) registerCounts(api huma.API) {
	huma.Register(
		api,
		closed("get-count", http.MethodGet, "/api/stocktake", "The open stocktake, or the last one closed"),
		func(ctx context.Context, _ *struct{}) (*body[*shelfroom.CountSheet], error) {
			return reply(h.rooms.Shelf.Count(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("start-count", http.MethodPost, "/api/stocktake", "Start a stocktake, or go on with the open one"),
		func(ctx context.Context, in *struct {
			Body struct {
				// Places to count; all where none is named.
				Places []string `json:"places" maxItems:"40"`
				// Due counts only the few packs whose turn it is.
				Due bool `json:"due,omitempty"`
			}
		}) (*body[*shelfroom.CountSheet], error) {
			return reply(h.rooms.Shelf.StartCount(ctx, actor(ctx), in.Body.Places, in.Body.Due))
		},
	)
	huma.Register(
		api,
		closed("count-pack", http.MethodPut, "/api/stocktake/packs/{id}", "What was found in a pack"),
		func(ctx context.Context, in *struct {
			ByID
			Body shelfroom.Counting
		}) (*body[*shelfroom.CountLine], error) {
			return reply(h.rooms.Shelf.CountPack(ctx, actor(ctx), in.ID, in.Body))
		},
	)
	huma.Register(
		api,
		closed("close-count", http.MethodPost, "/api/stocktake/close", "Close the stocktake: differences become movements"),
		func(ctx context.Context, _ *struct{}) (*body[*shelfroom.CountSheet], error) {
			return reply(h.rooms.Shelf.CloseCount(ctx, actor(ctx)))
		},
	)
}

func (h *handlers) registerRecalls(api huma.API) {
	type lots struct {
		Lots []uuid.UUID `json:"lots" minItems:"1" maxItems:"50"`
	}
	huma.Register(
		api,
		closed("trace-lots", http.MethodPost, "/api/traces", "Whom lots have reached, without doing anything"),
		func(ctx context.Context, in *struct{ Body lots }) (*body[*shelfroom.LotTrace], error) {
			return reply(h.rooms.Shelf.Trace(ctx, actor(ctx), in.Body.Lots))
		},
	)
	huma.Register(
		api,
		closed("trace-client", http.MethodGet, "/api/clients/{id}/lots", "Which lots reached a client in the last 90 days"),
		func(ctx context.Context, in *ByID) (*body[[]shelfroom.TraceRow], error) {
			return reply(h.rooms.Shelf.LotsOfClient(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("start-recall", http.MethodPost, "/api/recalls", "Block lots and all batches that hold them, and list whom they reached"),
		func(ctx context.Context, in *struct {
			Body struct {
				Lots   []uuid.UUID `json:"lots" minItems:"1" maxItems:"50"`
				Reason string      `json:"reason" maxLength:"300"`
			}
		}) (*body[*shelfroom.LotTrace], error) {
			return reply(h.rooms.Shelf.StartRecall(ctx, actor(ctx), in.Body.Lots, in.Body.Reason))
		},
	)
	huma.Register(
		api,
		closed("list-recalls", http.MethodGet, "/api/recalls", "Recalls, newest first"),
		func(ctx context.Context, _ *struct{}) (*body[[]shelfroom.RecallLine], error) {
			return reply(h.rooms.Shelf.Recalls(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("get-recall", http.MethodGet, "/api/recalls/{id}", "A recall, whom it reached and the calls made"),
		func(ctx context.Context, in *ByID) (*body[*shelfroom.LotTrace], error) {
			return reply(h.rooms.Shelf.Recall(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("note-call", http.MethodPost, "/api/recalls/{id}/calls", "How it went to reach a client"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Client  uuid.UUID `json:"client" format:"uuid"`
				Outcome string    `json:"outcome" enum:"reached,message-left,not-reached"`
				Note    string    `json:"note,omitempty" maxLength:"300"`
			}
		}) (*nothing, error) {
			call := shelfroom.RecallCall{Client: in.Body.Client, Outcome: in.Body.Outcome, Note: in.Body.Note}
			return nil, answer(h.rooms.Shelf.NoteCall(ctx, actor(ctx), in.ID, call))
		},
	)
}

func (h *handlers) registerRecallPapers(api huma.API) {
	huma.Register(
		api,
		closed("print-recall", http.MethodGet, "/api/recalls/{id}/paper", "Whom a recall reached, as PDF"),
		func(ctx context.Context, in *struct {
			ByID
			Names bool `query:"names"`
		}) (*download, error) {
			who := signedIn(ctx)
			t, err := h.rooms.Shelf.Recall(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.RecallPaper(t, in.Names, who.Studio.Name, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="recall.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("get-recall-csv", http.MethodGet, "/api/recalls/{id}/csv", "Whom a recall reached, as comma-separated values"),
		func(ctx context.Context, in *ByID) (*download, error) {
			t, err := h.rooms.Shelf.Recall(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.RecallCSV(t)
			return &download{"text/csv; charset=utf-8", `attachment; filename="recall.csv"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("print-recall-letters", http.MethodGet, "/api/recalls/{id}/letters", "A letter to each client whom a recall reached, as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			t, err := h.rooms.Shelf.Recall(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.RecallLetters(t, who.Studio.Name, who.Studio.Address, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="letters.pdf"`, data}, err
		},
	)
}

func (h *handlers) registerShelfFigures(api huma.API) {
	huma.Register(
		api,
		closed("get-shelf-figures", http.MethodGet, "/api/shelf/figures", "What was used against what was planned, and what the stock is worth"),
		func(ctx context.Context, _ *struct{}) (*body[*shelfroom.Figures], error) {
			return reply(h.rooms.Shelf.Figures(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("work-out-mix", http.MethodPost, "/api/blends", "How many drops of an essential oil go into a carrier"),
		func(ctx context.Context, in *struct{ Body shelfroom.Blending }) (*body[*shelfroom.BlendAnswer], error) {
			return reply(h.rooms.Shelf.Blend(actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("dilute", http.MethodPost, "/api/dilutions", "How much concentrate and water make a weaker solution"),
		func(ctx context.Context, in *struct{ Body shelf.Dilution }) (*body[*shelf.Diluted], error) {
			return reply(h.rooms.Shelf.Dilute(actor(ctx), &in.Body))
		},
	)
}

func (h *handlers) registerMixing(api huma.API) {
	huma.Register(
		api,
		closed("list-recipes", http.MethodGet, "/api/recipes", "Recipes, by name"),
		func(ctx context.Context, _ *struct{}) (*body[[]shelfroom.Recipe], error) {
			return reply(h.rooms.Shelf.Recipes(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("save-recipe", http.MethodPut, "/api/recipes", "Write a recipe, or a new version of one"),
		func(ctx context.Context, in *struct {
			Body struct {
				ID      *uuid.UUID `json:"id,omitempty" format:"uuid"`
				Product uuid.UUID  `json:"product" format:"uuid"`
				Name    string     `json:"name" maxLength:"120"`
				shelfroom.RecipeBody
			}
		}) (*body[*shelfroom.Recipe], error) {
			r := &shelfroom.Recipe{Product: in.Body.Product, Name: in.Body.Name, RecipeBody: in.Body.RecipeBody}
			if in.Body.ID != nil {
				r.ID = *in.Body.ID
			}
			return reply(h.rooms.Shelf.SaveRecipe(ctx, actor(ctx), r))
		},
	)
	huma.Register(
		api,
		closed("drop-recipe", http.MethodDelete, "/api/recipes/{id}", "Take a recipe off the list"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.DropRecipe(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("plan-batch", http.MethodGet, "/api/recipes/{id}/batch", "Work out a batch without making it"),
		func(ctx context.Context, in *struct {
			ByID
			Amount string `query:"amount" maxLength:"12"`
		}) (*body[*shelfroom.Making], error) {
			amount, err := decimal.NewFromString(in.Amount)
			if err != nil {
				amount = decimal.Zero
			}
			return reply(h.rooms.Shelf.PlanBatch(ctx, actor(ctx), in.ID, amount))
		},
	)
	huma.Register(
		api,
		closed("make-batch", http.MethodPost, "/api/batches", "Make a batch: its parts leave, the batch comes in"),
		func(ctx context.Context, in *struct{ Body shelfroom.NewBatch }) (*body[*shelfroom.Batch], error) {
			return reply(h.rooms.Shelf.MakeBatch(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("list-batches", http.MethodGet, "/api/batches", "Batches, newest first"),
		func(ctx context.Context, _ *struct{}) (*body[[]shelfroom.Batch], error) {
			return reply(h.rooms.Shelf.Batches(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("print-label", http.MethodGet, "/api/batches/{id}/label", "The label of a batch, as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			b, err := h.rooms.Shelf.Batch(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.BatchLabel(b, who.Studio.Name, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="label.pdf"`, data}, err
		},
	)
}
