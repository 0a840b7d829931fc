package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/studio/books"
)

// registerPrices offers the price list and what changes it.
func (h *handlers) registerPrices(api huma.API) {
	huma.Register(
		api,
		closed("get-price-list", http.MethodGet, "/api/price-list", "What the studio sells, at today's prices"),
		func(ctx context.Context, _ *struct{}) (*body[*books.PriceList], error) {
			return reply(h.rooms.Books.PriceList(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("add-price", http.MethodPost, "/api/prices", "Set a price from a day on"),
		func(ctx context.Context, in *struct{ Body books.DatedPrice }) (*nothing, error) {
			return nil, answer(h.rooms.Books.AddPrice(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("add-package", http.MethodPost, "/api/packages", "Set what a package has in it and costs from a day on"),
		func(ctx context.Context, in *struct{ Body books.Package }) (*nothing, error) {
			return nil, answer(h.rooms.Books.AddPackage(ctx, actor(ctx), &in.Body))
		},
	)
}

// registerSales offers sales and how they are paid.
func (h *handlers) registerSales(api huma.API) {
	huma.Register(
		api,
		closed("get-visit-sale", http.MethodGet, "/api/visits/{id}/sale", "What there is to pay for an appointment"),
		func(ctx context.Context, in *ByID) (*body[*books.VisitSale], error) {
			return reply(h.rooms.Books.VisitSale(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("list-paid-visits", http.MethodGet, "/api/paid-visits", "How the appointments of a day were paid"),
		func(ctx context.Context, in *struct {
			Day string `query:"day" maxLength:"10" required:"true"`
		}) (*body[[]books.VisitPaid], error) {
			return reply(h.rooms.Books.PaidVisits(ctx, actor(ctx), in.Day))
		},
	)
	huma.Register(
		api,
		closed("quote-sale", http.MethodPost, "/api/sales/quote", "Work out what a sale comes to"),
		func(ctx context.Context, in *struct{ Body books.Sale }) (*body[*books.Bill], error) {
			return reply(h.rooms.Books.Quote(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("pay-sale", http.MethodPost, "/api/sales", "Take a sale's money and issue its receipt"),
		func(ctx context.Context, in *struct{ Body books.Sale }) (*body[*books.Paid], error) {
			return reply(h.rooms.Books.Pay(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("get-sale", http.MethodGet, "/api/sales/{id}", "How far a sale has come; asks the terminal first"),
		func(ctx context.Context, in *ByID) (*body[*books.Paid], error) {
			return reply(h.rooms.Books.Sale(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("cancel-card", http.MethodPost, "/api/sales/{id}/cancel", "Take a card payment back that is not approved yet"),
		func(ctx context.Context, in *ByID) (*body[*books.Paid], error) {
			return reply(h.rooms.Books.CancelCard(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("settle-card", http.MethodPost, "/api/sales/{id}/settle", "Send a stored card payment in"),
		func(ctx context.Context, in *ByID) (*body[*books.CardPayment], error) {
			return reply(h.rooms.Books.SettleCard(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("answer-fee", http.MethodPost, "/api/visits/{id}/fee", "Waive a fee, keep the deposit for it, or count the visit"),
		func(ctx context.Context, in *struct {
			ByID
			Body books.FeeAnswer
		}) (*nothing, error) {
			return nil, answer(h.rooms.Books.AnswerFee(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
}

// registerReceipts offers receipts and what is given back of them.
func (h *handlers) registerReceipts(api huma.API) {
	huma.Register(
		api,
		closed("list-receipts", http.MethodGet, "/api/receipts", "Receipts of some days, newest first, a hundred at a time; today's where none are named"),
		func(ctx context.Context, in *books.ReceiptQuery) (*body[[]books.ReceiptLine], error) {
			return reply(h.rooms.Books.Receipts(ctx, actor(ctx), *in))
		},
	)
	huma.Register(
		api,
		closed("get-receipt", http.MethodGet, "/api/receipts/{id}", "A receipt"),
		func(ctx context.Context, in *ByID) (*body[*books.Receipt], error) {
			return reply(h.rooms.Books.Receipt(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("refund-receipt", http.MethodPost, "/api/receipts/{id}/refund", "Give lines of a receipt back by a counter-receipt"),
		func(ctx context.Context, in *struct {
			ByID
			Body books.LinesBack
		}) (*body[*books.Receipt], error) {
			return reply(h.rooms.Books.GiveBack(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("refund-deposit", http.MethodPost, "/api/deposits/{id}/refund", "Give a deposit back"),
		func(ctx context.Context, in *struct {
			ByID
			Body books.DepositBack
		}) (*body[*books.Receipt], error) {
			return reply(h.rooms.Books.GiveDepositBack(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
}

// registerPrepaid offers series and vouchers paid ahead.
func (h *handlers) registerPrepaid(api huma.API) {
	huma.Register(
		api,
		closed("list-sold-series", http.MethodGet, "/api/clients/{id}/sold-series", "A client's series paid ahead"),
		func(ctx context.Context, in *ByID) (*body[[]books.Strip], error) {
			return reply(h.rooms.Books.Strips(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("change-sold-series", http.MethodPost, "/api/sold-series/{id}", "Let a series rest, hand it over, or let it lapse"),
		func(ctx context.Context, in *struct {
			ByID
			Body books.SeriesChange
		}) (*nothing, error) {
			return nil, answer(h.rooms.Books.ChangeSeries(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("refund-series", http.MethodPost, "/api/sold-series/{id}/refund", "Give back what is left of a series"),
		func(ctx context.Context, in *struct {
			ByID
			Body books.SeriesBack
		}) (*body[*books.Receipt], error) {
			return reply(h.rooms.Books.GiveSeriesBack(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("list-vouchers", http.MethodGet, "/api/vouchers", "Amount vouchers, newest first"),
		func(ctx context.Context, _ *struct{}) (*body[[]books.Voucher], error) {
			return reply(h.rooms.Books.VoucherList(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("get-voucher", http.MethodGet, "/api/vouchers/{number}", "What a voucher's number is"),
		func(ctx context.Context, in *struct {
			Number string    `path:"number" maxLength:"20"`
			Visit  uuid.UUID `query:"visit" format:"uuid"`
		}) (*body[*books.FoundVoucher], error) {
			return reply(h.rooms.Books.FindVoucher(ctx, actor(ctx), in.Number, in.Visit))
		},
	)
	huma.Register(
		api,
		closed("use-voucher", http.MethodPost, "/api/vouchers/{number}/use", "Give a voucher for treatments to the client who brings it"),
		func(ctx context.Context, in *struct {
			Number string `path:"number" maxLength:"20"`
			Body   books.VoucherUsed
		}) (*nothing, error) {
			return nil, answer(h.rooms.Books.UseTreatmentVoucher(ctx, actor(ctx), in.Number, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("lapse-voucher", http.MethodPost, "/api/vouchers/{number}/lapse", "Keep what is left of a voucher past its day"),
		func(ctx context.Context, in *struct {
			Number string `path:"number" pattern:"^[0-9]{12}$"`
		}) (*nothing, error) {
			return nil, answer(h.rooms.Books.LapseVoucher(ctx, actor(ctx), in.Number))
		},
	)
}
