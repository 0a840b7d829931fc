package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/shelf"
	shelfroom "softpalm/internal/studio/shelf"
)

func (h *handlers) registerTools(api huma.API) {
	huma.Register(
		api,
		closed("get-pieces", http.MethodGet, "/api/tool-room", "What is clean, and what is not"),
		func(ctx context.Context, _ *struct{}) (*body[*shelfroom.ToolRoom], error) {
			return reply(h.rooms.Shelf.ToolRoom(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("move-piece", http.MethodPost, "/api/tool-room/pieces", "Bring a piece to its next state"),
		func(ctx context.Context, in *struct {
			Body struct {
				shelfroom.PieceRef
				State shelf.PieceState `json:"state" enum:"ready,in use,to clean,in the bath,drying,chilling,put away,retired"`
				Note  string           `json:"note,omitempty" maxLength:"200"`
			}
		}) (*body[*shelfroom.Piece], error) {
			return reply(h.rooms.Shelf.MovePiece(ctx, actor(ctx), in.Body.PieceRef, in.Body.State, in.Body.Note))
		},
	)
	huma.Register(
		api,
		closed("make-bath", http.MethodPost, "/api/baths", "Make up a disinfectant bath"),
		func(ctx context.Context, in *struct{ Body shelfroom.NewBath }) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.MakeBath(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("discard-bath", http.MethodPost, "/api/baths/{id}/discard", "Throw a bath away"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.DiscardBath(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("save-linen", http.MethodPut, "/api/linen", "How much linen of a kind there is, and where"),
		func(ctx context.Context, in *struct{ Body shelfroom.Linen }) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.SaveLinen(ctx, actor(ctx), in.Body))
		},
	)
	huma.Register(
		api,
		closed("move-linen", http.MethodPost, "/api/linen/moves", "Move linen on: into use, the hamper, the wash, back clean"),
		func(ctx context.Context, in *struct {
			Body struct {
				Kind string `json:"kind" maxLength:"60"`
				How  string `json:"how" enum:"use,hamper,wash,clean"`
				// Pieces that move; all that are there where absent.
				Pieces int `json:"pieces,omitempty" minimum:"0" maximum:"1000"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.MoveLinen(ctx, actor(ctx), in.Body.Kind, in.Body.How, in.Body.Pieces))
		},
	)
	huma.Register(
		api,
		closed("add-heat-cycle", http.MethodPost, "/api/heat-cycles", "Write down a load of the steriliser"),
		func(ctx context.Context, in *struct {
			Body struct {
				Load    []shelfroom.PieceRef `json:"load" minItems:"1" maxItems:"60"`
				Celsius int                  `json:"celsius" minimum:"60" maximum:"200"`
				Minutes int                  `json:"minutes" minimum:"1" maximum:"600"`
				Passed  bool                 `json:"passed"`
			}
		}) (*body[*shelfroom.HeatCycle], error) {
			b := in.Body
			return reply(h.rooms.Shelf.AddHeatCycle(ctx, actor(ctx), &shelfroom.HeatCycle{Load: b.Load, Celsius: b.Celsius, Minutes: b.Minutes, Passed: b.Passed}))
		},
	)
}

// TickedItem is an item of a day's list that was seen to, with what was read where that is asked.
type TickedItem struct {
	Key   string `json:"key" maxLength:"60"`
	Value string `json:"value,omitempty" maxLength:"120"`
}

func (h *handlers) registerDayLists(api huma.API) {
	huma.Register(
		api,
		closed("get-day-lists", http.MethodGet, "/api/day-lists", "What is gone through when the day is opened and closed"),
		func(ctx context.Context, _ *struct{}) (*body[*shelfroom.DayLists], error) {
			return reply(h.rooms.Shelf.DayLists(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("tick-day", http.MethodPost, "/api/day-lists/{list}", "Tick items of a list"),
		func(ctx context.Context, in *struct {
			List string `path:"list" enum:"opening,closing"`
			Body struct {
				Items []TickedItem `json:"items" minItems:"1" maxItems:"40"`
			}
		}) (*nothing, error) {
			var ticks []shelfroom.DayTick
			for _, i := range in.Body.Items {
				ticks = append(ticks, shelfroom.DayTick{Item: i.Key, Value: i.Value})
			}
			return nil, answer(h.rooms.Shelf.Tick(ctx, actor(ctx), in.List, ticks))
		},
	)
	huma.Register(
		api,
		closed("print-day-setup", http.MethodGet, "/api/day-setup", "What to lay out for today's treatments, by practitioner, as PDF"),
		func(ctx context.Context, _ *struct{}) (*download, error) {
			who := signedIn(ctx)
			list, err := h.rooms.Diary.DaySetUp(ctx, &who.Actor)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.SetUpPaper(list, who.Studio.Name, h.rooms.Now().In(who.Studio.Zone()))
			return &download{"application/pdf", `inline; filename="set-up.pdf"`, data}, err
		},
	)
}
