package books

import (
	"cmp"
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
	// Figures are those of the month, of the month before, and of the same month a year ago.
	Figures []MonthFigures `json:"figures"`
	// Pays is what the month's treatments left by protocol, practitioner and room.
	Pays Pays `json:"pays"`
	// ProRata is what giving all series back share by share would cost today.
	ProRata decimal.Decimal `json:"proRata"`
	// Numbers are the accountant's own of accounts.
	Numbers map[money.Account]string `json:"numbers,omitempty"`
	// Commissions are those of the month, Posted says that they stand in the ledger already.
	Commissions []Commission `json:"commissions"`
	Posted      bool         `json:"posted"`
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
			Studio: st.Name, Minor: st.Minor(), Numbers: st.Books.AccountNumbers,
		}
		if err := s.left(ctx, tx, st, out, first); err != nil {
			return err
		}
		if out.Accounts, err = totals(ctx, tx, out.From, out.To); err != nil {
			return err
		}
		for _, back := range []int{0, 1, 12} {
			f, err := s.figuresOf(ctx, tx, st, first.AddDate(0, -back, 0))
			if err != nil {
				return err
			}
			out.Figures = append(out.Figures, *f)
		}
		if out.Commissions, err = s.commissions(ctx, tx, st, out.From, out.To); err != nil {
			return err
		}
		if out.Posted, err = tx.CommissionPosted(ctx, month); err != nil {
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

// left works out what the month's treatments left, and what giving all series back would cost.
func (s *Service) left(ctx context.Context, tx Store, st *studio.Studio, out *Month, first time.Time) error {
	begin := time.Date(first.Year(), first.Month(), 1, 0, 0, 0, 0, st.Zone())
	given, err := tx.GivenVisits(ctx, begin, begin.AddDate(0, 1, 0))
	if err != nil {
		return err
	}
	if out.Pays, err = paysOf(given, st, "~"); err != nil {
		return err
	}
	out.Pays.Since = out.From
	list, err := tx.SoldSeriesOf(ctx, nil)
	for i := range list {
		for k := range list[i].Shares {
			if sh := &list[i].Shares[k]; sh.GivenOn == "" {
				out.ProRata = out.ProRata.Add(sh.Gross)
			}
		}
	}
	return err
}

// Number is the accountant's own of an account, else its name.
func (m *Month) Number(a money.Account) string {
	if own := m.Numbers[a]; own != "" {
		return own
	}
	return string(a)
}

// MonthFigures are what a month came to: money taken, earned without tax, still owed to clients at its end, what goods
// cost, and what the closed records left. Amounts are exact.
type MonthFigures struct {
	Month       string          `json:"month"`
	Taken       decimal.Decimal `json:"taken"`
	Earned      decimal.Decimal `json:"earned"`
	Owed        decimal.Decimal `json:"owed"`
	Goods       decimal.Decimal `json:"goods"`
	Margin      decimal.Decimal `json:"margin"`
	Percent     decimal.Decimal `json:"percent"`
	PerMinute   decimal.Decimal `json:"perMinute"`
	Fees        decimal.Decimal `json:"fees"`
	Tips        decimal.Decimal `json:"tips"`
	Differences decimal.Decimal `json:"differences"`
}

// figuresOf sums a month up.
func (s *Service) figuresOf(ctx context.Context, tx Store, st *studio.Studio, first time.Time) (*MonthFigures, error) {
	from, to := first.Format(time.DateOnly), first.AddDate(0, 1, -1).Format(time.DateOnly)
	f := &MonthFigures{Month: first.Format("2006-01")}
	taken, err := tx.TakenByWay(ctx, from, to)
	if err != nil {
		return nil, err
	}
	for _, amount := range taken {
		f.Taken = f.Taken.Add(amount)
	}
	moved, err := tx.Turnover(ctx, from, to)
	if err != nil {
		return nil, err
	}
	sums := money.Postings{}
	for a, sides := range moved {
		sums[a] = sides[0].Sub(sides[1])
	}
	f.Earned, f.Goods = sums.Earned(), sums.CostOfGoods()
	f.Fees, f.Tips, f.Differences = sums[money.Fees].Neg(), moved[money.TipsOwed][1], sums[money.CashDifference].Neg()
	balances, err := tx.Balances(ctx, to)
	if err != nil {
		return nil, err
	}
	f.Owed = balances.OwedToClients()
	begin := time.Date(first.Year(), first.Month(), 1, 0, 0, 0, 0, st.Zone())
	given, err := tx.GivenVisits(ctx, begin, begin.AddDate(0, 1, 0))
	if err != nil {
		return nil, err
	}
	all := &EarnedLine{}
	for i := range given {
		if given[i].Net == nil {
			continue
		}
		real, planned, err := given[i].earn(st)
		if err != nil {
			return nil, err
		}
		all.add(&given[i], &real, &planned)
	}
	all.finish(st.Minor())
	f.Margin, f.Percent, f.PerMinute = all.Margin, all.Percent, all.PerMinute
	return f, nil
}

// totals are the accounts of some days, in their order, without those that nothing ever happened to.
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
	for _, a := range slices.SortedFunc(maps.Keys(names), func(a, b money.Account) int { return cmp.Compare(a.Place(), b.Place()) }) {
		t := AccountTotal{Account: a, Opening: opening[a], Debits: moved[a][0], Credits: moved[a][1]}
		t.Closing = t.Opening.Add(t.Debits).Sub(t.Credits)
		out = append(out, t)
	}
	return out, nil
}
