package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	shelfroom "softpalm/internal/studio/shelf"
)

// MovementView is a stock movement as the screens show it.
type MovementView struct {
	ID     uuid.UUID       `json:"id"`
	Kind   shelf.Kind      `json:"kind"`
	Amount decimal.Decimal `json:"amount"`
	Value  decimal.Decimal `json:"value"`
	Lot    string          `json:"lot"`
	Pack   int             `json:"pack"`
	By     string          `json:"by"`
	Client string          `json:"client"`
	Visit  *uuid.UUID      `json:"visit,omitempty"`
	Sure   bool            `json:"sure"`
	Reason string          `json:"reason"`
	Note   string          `json:"note"`
	At     time.Time       `json:"at"`
	// Countered says that it was taken back.
	Countered bool `json:"countered"`
}

func movementView(m *shelfroom.MovementLine) MovementView {
	return MovementView{
		ID: m.ID, Kind: m.Kind, Amount: m.Amount, Value: m.Value, Lot: m.LotNumber, Pack: m.PackNumber, By: m.By, Client: m.ClientName,
		Visit: m.Visit, Sure: m.Sure, Reason: m.Reason, Note: m.Note, At: m.At, Countered: m.Countered,
	}
}

func (h *handlers) registerStock(api huma.API) {
	huma.Register(
		api,
		closed("receive-delivery", http.MethodPost, "/api/deliveries", "Receive a delivery, all of it or nothing"),
		func(ctx context.Context, in *struct{ Body shelfroom.Delivery }) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.Receive(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("scan-code", http.MethodGet, "/api/scan", "What a scanned code means on this shelf"),
		func(ctx context.Context, in *struct {
			Code string `query:"code" maxLength:"200"`
		}) (*body[*shelfroom.Found], error) {
			return reply(h.rooms.Shelf.Scan(ctx, actor(ctx), in.Code))
		},
	)
	huma.Register(
		api,
		closed("move-pack", http.MethodPost, "/api/packs/{id}/movements", "Waste, sell, send back or dispose of a pack"),
		func(ctx context.Context, in *struct {
			ByID
			Body shelfroom.PackMove
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.MovePack(ctx, actor(ctx), in.ID, in.Body))
		},
	)
	huma.Register(
		api,
		closed("counter-movement", http.MethodPost, "/api/movements/{id}/counter", "Take a movement back"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Note string `json:"note" maxLength:"300"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.CounterMovement(ctx, actor(ctx), in.ID, in.Body.Note))
		},
	)
}

func (h *handlers) registerPacks(api huma.API) {
	huma.Register(
		api,
		closed("open-pack", http.MethodPost, "/api/packs/{id}/open", "A pack was opened today"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.OpenPack(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("print-sticker", http.MethodGet, "/api/packs/{id}/sticker", "The sticker of an opened pack, as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			l, err := h.rooms.Shelf.StickerOf(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.OpenedSticker(l, who.Studio.Name, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="sticker.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("change-side", http.MethodPut, "/api/packs/{id}/side", "Put a pack on the treatment or the retail side"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Side string `json:"side" enum:"cabin,retail"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.ChangeSide(ctx, actor(ctx), in.ID, in.Body.Side))
		},
	)
	huma.Register(
		api,
		closed("block-lot", http.MethodPut, "/api/lots/{id}/block", "Block a lot, or let it be used again"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				// Why it is blocked; empty to let it be used again.
				Why string `json:"why" maxLength:"300"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.BlockLot(ctx, actor(ctx), in.ID, in.Body.Why))
		},
	)
}
