package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	shelfroom "softpalm/internal/studio/shelf"
)

func (h *handlers) registerOrders(api huma.API) {
	huma.Register(
		api,
		closed("get-order-lists", http.MethodGet, "/api/order-lists", "What to order today, by supplier"),
		func(ctx context.Context, _ *struct{}) (*body[[]shelfroom.OrderList], error) {
			return reply(h.rooms.Shelf.OrderLists(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("get-order-terms", http.MethodGet, "/api/order-terms", "Suppliers, and how the studio orders"),
		func(ctx context.Context, _ *struct{}) (*body[*shelfroom.OrderTerms], error) {
			return reply(h.rooms.Shelf.Terms(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("save-supplier", http.MethodPut, "/api/suppliers", "What is known of a supplier"),
		func(ctx context.Context, in *struct{ Body shelfroom.Supplier }) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.SaveSupplier(ctx, actor(ctx), in.Body))
		},
	)
	huma.Register(
		api,
		closed("save-order-settings", http.MethodPut, "/api/order-settings", "How the studio orders and counts"),
		func(ctx context.Context, in *struct{ Body shelfroom.OrderSettings }) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.SaveOrderSettings(ctx, actor(ctx), in.Body))
		},
	)
	huma.Register(
		api,
		closed("list-orders", http.MethodGet, "/api/orders", "Orders, newest first"),
		func(ctx context.Context, in *struct {
			Open bool `query:"open"`
		}) (*body[[]shelfroom.PurchaseOrder], error) {
			return reply(h.rooms.Shelf.Orders(ctx, actor(ctx), in.Open))
		},
	)
	huma.Register(
		api,
		closed("add-order", http.MethodPost, "/api/orders", "Write an order, as a draft or as sent"),
		func(ctx context.Context, in *struct{ Body shelfroom.NewOrder }) (*body[*shelfroom.PurchaseOrder], error) {
			return reply(h.rooms.Shelf.AddOrder(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("change-order", http.MethodPut, "/api/orders/{id}", "Write a draft anew"),
		func(ctx context.Context, in *struct {
			ByID
			Revision int `query:"revision" minimum:"1"`
			Body     shelfroom.NewOrder
		}) (*body[*shelfroom.PurchaseOrder], error) {
			return reply(h.rooms.Shelf.ChangeOrder(ctx, actor(ctx), in.ID, in.Revision, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("close-order", http.MethodPost, "/api/orders/{id}/close", "Close an order that will not come whole"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.CloseOrder(ctx, actor(ctx), in.ID))
		},
	)
}

// registerOrderPapers offers an order as a file and as a paper.
func (h *handlers) registerOrderPapers(api huma.API) {
	huma.Register(
		api,
		closed("get-order-csv", http.MethodGet, "/api/orders/{id}/csv", "An order as CSV"),
		func(ctx context.Context, in *ByID) (*download, error) {
			o, err := h.rooms.Shelf.Order(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.OrderCSV(o)
			return &download{"text/csv; charset=utf-8", `attachment; filename="order-` + o.Number + `.csv"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("print-order", http.MethodGet, "/api/orders/{id}/paper", "An order as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			o, err := h.rooms.Shelf.Order(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.OrderPaper(o, who.Studio.Name, who.Studio.Address, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="order-` + o.Number + `.pdf"`, data}, err
		},
	)
}
