package books

import (
	"context"
	"maps"
	"slices"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// LedgerRow is a posting as the accountant reads it: no client's name, and nothing about health.
type LedgerRow struct {
	Date, Event, Receipt string
	No                   int64
	Account              money.Account
	// Amount is a debit above zero and a credit below.
	Amount       decimal.Decimal
	Rate         *decimal.Decimal
	Taxable      *decimal.Decimal
	Practitioner string
	Subject      string // of a protocol or product
	ClientNo     string
	Way          string
	CounterOf    *int64
	Note         string
}

// AccountTotal is what an account opened with, took in and gave, and closed with.
type AccountTotal struct {
	Account money.Account   `json:"account"`
	Opening decimal.Decimal `json:"opening"`
	Debits  decimal.Decimal `json:"debits"`
	Credits decimal.Decimal `json:"credits"`
	Closing decimal.Decimal `json:"closing"`
}

// figureStore reads the ledger.
type figureStore interface {
	studio.Tx
	// LedgerRows lists the postings of some days, in order.
	LedgerRows(ctx context.Context, from, to string) ([]LedgerRow, error)
	// Turnover sums the debits and credits of each account in some days.
	Turnover(ctx context.Context, from, to string) (map[money.Account][2]decimal.Decimal, error)
}

// Month is what the accountant is given of a month.
type Month struct {
	Month    string         `json:"month"`
	From     string         `json:"from"`
	To       string         `json:"to"`
	Currency string         `json:"currency"`
	Studio   string         `json:"studio"`
	Minor    int32          `json:"-"`
	Accounts []AccountTotal `json:"accounts"`
	// OpenDay is a day of the month that is not closed yet.
	OpenDay string      `json:"openDay,omitempty"`
	Rows    []LedgerRow `json:"-"`
}

// MonthOf gathers a month, such as 2026-11, with its postings where rows is set.
func (s *Service) MonthOf(ctx context.Context, a *studio.Actor, month string, rows bool) (out *Month, err error) {
	if err := a.May("get-month"); err != nil {
		return nil, err
	}
	first, err := time.Parse("2006-01", month)
	if err != nil {
		return nil, studio.FaultAt("/month", words.EnterAMonthSuchAs())
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out = &Month{
			Month: month, From: first.Format(time.DateOnly), To: first.AddDate(0, 1, -1).Format(time.DateOnly), Currency: st.Currency,
			Studio: st.Name, Minor: st.Minor(),
		}
		if out.Accounts, err = totals(ctx, tx, out.From, out.To); err != nil {
			return err
		}
		open, err := tx.FirstOpen(ctx)
		if err != nil {
			return err
		}
		if open != "" && open <= out.To && open < s.Today(st) {
			out.OpenDay = max(open, out.From)
		}
		if rows {
			out.Rows, err = tx.LedgerRows(ctx, out.From, out.To)
		}
		return err
	})
	return out, err
}

// totals are the accounts of some days, by name, without those that nothing ever happened to.
func totals(ctx context.Context, tx Store, from, to string) ([]AccountTotal, error) {
	day, err := time.Parse(time.DateOnly, from)
	if err != nil {
		return nil, err
	}
	opening, err := tx.Balances(ctx, day.AddDate(0, 0, -1).Format(time.DateOnly))
	if err != nil {
		return nil, err
	}
	moved, err := tx.Turnover(ctx, from, to)
	if err != nil {
		return nil, err
	}
	names := map[money.Account]bool{}
	for a := range opening {
		names[a] = true
	}
	for a := range moved {
		names[a] = true
	}
	out := []AccountTotal{}
	for _, a := range slices.Sorted(maps.Keys(names)) {
		t := AccountTotal{Account: a, Opening: opening[a], Debits: moved[a][0], Credits: moved[a][1]}
		t.Closing = t.Opening.Add(t.Debits).Sub(t.Credits)
		out = append(out, t)
	}
	return out, nil
}
