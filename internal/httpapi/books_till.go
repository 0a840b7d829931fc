package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/money"
	"softpalm/internal/standin"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
)

// registerTill offers the day's close, money that moves without a receipt, and the accountant's month.
func (h *handlers) registerTill(api huma.API) {
	huma.Register(
		api,
		closed("get-closing-day", http.MethodGet, "/api/closing-day", "The day that is to be closed next"),
		func(ctx context.Context, _ *struct{}) (*body[*books.ClosingDay], error) {
			return reply(h.rooms.Books.ClosingDay(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("close-day", http.MethodPost, "/api/day-closes", "Count the till, and close the day"),
		func(ctx context.Context, in *struct{ Body books.TillCount }) (*body[*books.DayClose], error) {
			return reply(h.rooms.Books.CountTill(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("list-day-closes", http.MethodGet, "/api/day-closes", "The days closed last"),
		func(ctx context.Context, _ *struct{}) (*body[[]books.DayClose], error) {
			return reply(h.rooms.Books.DayCloses(ctx, actor(ctx)))
		},
	)
	move := func(ctx context.Context, in *struct{ Body books.MoneyMove }) (*nothing, error) {
		return nil, answer(h.rooms.Books.MoveMoney(ctx, actor(ctx), &in.Body))
	}
	huma.Register(api, closed("move-till", http.MethodPost, "/api/till", "Pay into or out of the till"), move)
	huma.Register(api, closed("move-money", http.MethodPost, "/api/money", "Post money that moves without a receipt"), move)
	huma.Register(
		api,
		closed("get-books", http.MethodGet, "/api/books", "The owner's questions about a week; today's where no day is named"),
		func(ctx context.Context, in *struct {
			Day string `query:"day" maxLength:"10"`
		}) (*body[*books.Sunday], error) {
			return reply(h.rooms.Books.Sunday(ctx, actor(ctx), in.Day))
		},
	)
	huma.Register(
		api,
		closed("get-month", http.MethodGet, "/api/months/{month}", "A month's accounts"),
		func(ctx context.Context, in *inMonth) (*body[*books.Month], error) {
			return reply(h.rooms.Books.MonthOf(ctx, actor(ctx), in.Month))
		},
	)
	huma.Register(
		api,
		closed("set-account-numbers", http.MethodPut, "/api/account-numbers", "Map accounts to the accountant's own numbers"),
		func(ctx context.Context, in *struct{ Body map[money.Account]string }) (*nothing, error) {
			return nil, answer(h.rooms.Books.SetAccountNumbers(ctx, actor(ctx), in.Body))
		},
	)
	for _, file := range []struct {
		operation, path, summary, name string
		read                           func(*books.Service, context.Context, *studio.Actor, string) (*books.Month, error)
		write                          func(Files, *books.Month) ([]byte, error)
	}{
		{"get-month-csv", "/api/months/{month}/ledger.csv", "A month's postings as CSV", "ledger-", (*books.Service).MonthRows, Files.LedgerCSV},
		{
			"get-accounts-csv", "/api/months/{month}/accounts.csv", "A month's accounts as CSV", "accounts-",
			(*books.Service).MonthAccounts, Files.AccountsCSV,
		},
	} {
		huma.Register(
			api,
			closed(file.operation, http.MethodGet, file.path, file.summary),
			func(ctx context.Context, in *inMonth) (*download, error) {
				m, err := file.read(h.rooms.Books, ctx, actor(ctx), in.Month)
				if err != nil {
					return nil, answer(err)
				}
				data, err := file.write(h.cfg.Files, m)
				return &download{"text/csv; charset=utf-8", `attachment; filename="` + file.name + in.Month + `.csv"`, data}, err
			},
		)
	}
}

// registerMoved offers money that moved without a receipt, tips owed, and what single treatments left.
func (h *handlers) registerMoved(api huma.API) {
	huma.Register(
		api,
		closed("list-moved-money", http.MethodGet, "/api/money", "Money that moved without a receipt, newest first"),
		func(ctx context.Context, _ *struct{}) (*body[[]books.MovedMoney], error) {
			return reply(h.rooms.Books.MovedMoneyList(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("counter-money", http.MethodPost, "/api/money/{id}/counter", "Take money back that was written wrongly"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Why string `json:"why" maxLength:"300"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Books.CounterMoney(ctx, actor(ctx), in.ID, in.Body.Why))
		},
	)
	huma.Register(
		api,
		closed("list-tips", http.MethodGet, "/api/tips", "What is owed in tips"),
		func(ctx context.Context, _ *struct{}) (*body[[]books.TipOwed], error) {
			return reply(h.rooms.Books.TipsOwedList(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("list-earned", http.MethodGet, "/api/earned", "What the treatments of a protocol left, newest first"),
		func(ctx context.Context, in *struct {
			Protocol string `query:"protocol" required:"true" minLength:"1" maxLength:"200"`
			Day      string `query:"day" maxLength:"10"`
		}) (*body[[]books.EarnedVisit], error) {
			return reply(h.rooms.Books.EarnedOf(ctx, actor(ctx), in.Protocol, in.Day))
		},
	)
}

// registerPay offers how practitioners are paid, and a month's commissions.
func (h *handlers) registerPay(api huma.API) {
	huma.Register(
		api,
		closed("list-pay-terms", http.MethodGet, "/api/pay-terms", "Grades and commissions of practitioners"),
		func(ctx context.Context, _ *struct{}) (*body[[]books.PayTerms], error) {
			return reply(h.rooms.Books.PayTermsOf(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("set-pay-terms", http.MethodPut, "/api/pay-terms", "Write a practitioner's grade and commission"),
		func(ctx context.Context, in *struct{ Body books.PayTerms }) (*nothing, error) {
			return nil, answer(h.rooms.Books.SetPayTerms(ctx, actor(ctx), &in.Body))
		},
	)
	huma.Register(
		api,
		closed("post-commission", http.MethodPost, "/api/months/{month}/commission", "Post a month's commissions, once"),
		func(ctx context.Context, in *inMonth) (*nothing, error) {
			return nil, answer(h.rooms.Books.PostCommission(ctx, actor(ctx), in.Month))
		},
	)
}

// inMonth is a month in a path, such as 2026-11.
type inMonth struct {
	Month string `path:"month" pattern:"^[0-9]{4}-[0-9]{2}$"`
}

// registerBookPapers offers receipts, vouchers and months as PDF.
func (h *handlers) registerBookPapers(api huma.API) {
	huma.Register(
		api,
		closed("print-receipt", http.MethodGet, "/api/receipts/{id}/paper", "A receipt as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			if err := actor(ctx).May("print-receipt"); err != nil {
				return nil, answer(err)
			}
			r, err := h.rooms.Books.Receipt(ctx, actor(ctx), in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.ReceiptPaper(r, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="receipt-` + r.Number + `.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("print-voucher", http.MethodGet, "/api/vouchers/{number}/paper", "A voucher as PDF"),
		func(ctx context.Context, in *struct {
			Number string `path:"number" maxLength:"20"`
		}) (*download, error) {
			v, err := h.rooms.Books.VoucherToGive(ctx, actor(ctx), in.Number)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.VoucherPaper(v, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="voucher-` + v.Number + `.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("print-sold-series", http.MethodGet, "/api/clients/{id}/sold-series/paper", "A client's series paid ahead as PDF"),
		func(ctx context.Context, in *ByID) (*download, error) {
			who := signedIn(ctx)
			if err := who.Actor.May("print-sold-series"); err != nil {
				return nil, answer(err)
			}
			list, err := h.rooms.Books.Strips(ctx, &who.Actor, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.SeriesPaper(list, who.Studio.Name, who.Studio.Address, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="series.pdf"`, data}, err
		},
	)
	huma.Register(
		api,
		closed("print-month", http.MethodGet, "/api/months/{month}/paper", "A month's accounts as PDF"),
		func(ctx context.Context, in *inMonth) (*download, error) {
			m, err := h.rooms.Books.MonthOf(ctx, actor(ctx), in.Month)
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.MonthPaper(m, h.rooms.Now())
			return &download{"application/pdf", `inline; filename="accounts-` + in.Month + `.pdf"`, data}, err
		},
	)
}

// registerTerminal offers the simulated card terminal's own panel.
func (h *handlers) registerTerminal(api huma.API) {
	huma.Register(
		api,
		closed("get-terminal", http.MethodGet, "/api/card-terminal", "The simulated card terminal"),
		func(ctx context.Context, _ *struct{}) (*body[*standin.TerminalPanel], error) {
			return reply(h.rooms.Terminal.Panel(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("set-terminal", http.MethodPut, "/api/card-terminal", "Set the simulated terminal's next answers"),
		func(ctx context.Context, in *struct{ Body standin.TerminalSettings }) (*nothing, error) {
			return nil, answer(h.rooms.Terminal.Set(ctx, actor(ctx), in.Body))
		},
	)
}
