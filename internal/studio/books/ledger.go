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

	first time.Time // the moment at which the month begins
}

// MonthOf gathers a month, such as 2026-11, without its postings.
func (s *Service) MonthOf(ctx context.Context, a *studio.Actor, month string) (*Month, error) {
	return s.month(ctx, a, month, addAccounts, s.addFigures, s.addCommissions)
}

// MonthAccounts is a month with nothing but its accounts.
func (s *Service) MonthAccounts(ctx context.Context, a *studio.Actor, month string) (*Month, error) {
	return s.month(ctx, a, month, addAccounts)
}

// MonthRows is a month with nothing but its postings.
func (s *Service) MonthRows(ctx context.Context, a *studio.Actor, month string) (*Month, error) {
	return s.month(ctx, a, month, addRows)
}

// month gathers some parts of a month.
func (s *Service) month(
	ctx context.Context, a *studio.Actor, month string, parts ...func(context.Context, Store, *studio.Studio, *Month) error,
) (out *Month, err error) {
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
			first: time.Date(first.Year(), first.Month(), 1, 0, 0, 0, 0, st.Zone()),
		}
		for _, add := range parts {
			if err := add(ctx, tx, st, out); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

func addAccounts(ctx context.Context, tx Store, _ *studio.Studio, out *Month) (err error) {
	out.Accounts, err = totals(ctx, tx, out.From, out.To)
	return err
}

func addRows(ctx context.Context, tx Store, _ *studio.Studio, out *Month) (err error) {
	out.Rows, err = tx.LedgerRows(ctx, out.From, out.To)
	return err
}

// addFigures adds what the month's treatments left, beside those of other months, and what giving all series back
// would cost.
func (s *Service) addFigures(ctx context.Context, tx Store, st *studio.Studio, out *Month) error {
	for _, back := range []int{0, 1, 12} {
		begin := out.first.AddDate(0, -back, 0)
		given, err := tx.GivenVisits(ctx, begin, begin.AddDate(0, 1, 0), "")
		if err != nil {
			return err
		}
		if back == 0 {
			if out.Pays, err = paysOf(given, st, "~"); err != nil {
				return err
			}
			out.Pays.Since = out.From
		}
		f, err := figuresOf(ctx, tx, st, begin, given)
		if err != nil {
			return err
		}
		out.Figures = append(out.Figures, *f)
	}
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

// addCommissions adds the month's commissions, and whether a day of it stands open.
func (s *Service) addCommissions(ctx context.Context, tx Store, st *studio.Studio, out *Month) (err error) {
	if out.Commissions, err = s.commissions(ctx, tx, st, out.From, out.To); err != nil {
		return err
	}
	if out.Posted, err = tx.CommissionPosted(ctx, out.Month); err != nil {
		return err
	}
	open, err := tx.FirstOpen(ctx)
	if err != nil {
		return err
	}
	if open != "" && open <= out.To && open < s.Today(st) {
		out.OpenDay = max(open, out.From)
	}
	return nil
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

// figuresOf sums up the month that begins at a moment, with the treatments given in it.
func figuresOf(ctx context.Context, tx Store, st *studio.Studio, first time.Time, given []GivenVisit) (*MonthFigures, error) {
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
