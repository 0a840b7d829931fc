package postgres_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"math/rand/v2"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/house"
)

// within runs work in the owner's studio.
func (w *world) within(fn func(tx *postgres.Tx) error) error {
	return w.db.InStudio(context.Background(), w.owner.Studio, func(tx studio.Tx) error { return fn(tx.(*postgres.Tx)) })
}

// direct runs a statement in the owner's studio without the program between, and reads its one row where asked.
func (w *world) direct(url, statement string, into ...any) error {
	ctx := context.Background()
	pool, err := sql.Open("pgx", url)
	if err != nil {
		return err
	}
	defer pool.Close()
	tx, err := pool.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	if _, err := tx.ExecContext(ctx, "select set_config('app.studio_id', $1, true)", w.owner.Studio.String()); err != nil {
		return err
	}
	if len(into) > 0 {
		return tx.QueryRowContext(ctx, statement).Scan(into...)
	}
	if _, err := tx.ExecContext(ctx, statement); err != nil {
		return err
	}
	return tx.Commit()
}

// The database itself keeps the ledger: what does not add up to zero is not committed, nothing is added to an event
// afterwards, changed or removed, and an event is countered once (handbook, chapter 8).
func TestTheLedgerIsOnlyEverAddedTo(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	event := func(postings ...money.Posting) *studio.LedgerEvent {
		return &studio.LedgerEvent{ID: studio.NewID(), Kind: money.Opened, At: w.now, Postings: postings}
	}
	ten := decimal.NewFromInt(10)
	require.Error(t, w.within(func(tx *postgres.Tx) error {
		return tx.AddLedgerEvent(ctx, event(money.Posting{Account: money.CashTill, Amount: ten}))
	}), "ten that come from nowhere")
	assert.Empty(t, w.balances(t))
	right := event(money.Posting{Account: money.CashTill, Amount: ten}, money.Posting{Account: money.Owner, Amount: ten.Neg()})
	require.NoError(t, w.within(func(tx *postgres.Tx) error { return tx.AddLedgerEvent(ctx, right) }))
	for _, statement := range []string{
		"insert into ledger_posting (studio_id, event_id, n, account, amount) values ('%[1]s', '%[2]s', 3, 'cash', 5), ('%[1]s', '%[2]s', 4, 'owner', -5)",
		"update ledger_posting set amount = 20 where studio_id = '%[1]s' and event_id = '%[2]s' and n = 1",
		"delete from ledger_posting where studio_id = '%[1]s' and event_id = '%[2]s'",
		"update ledger_event set day = day - 1 where studio_id = '%[1]s' and id = '%[2]s'",
		"delete from ledger_event where studio_id = '%[1]s' and id = '%[2]s'",
	} {
		for _, url := range []string{w.appURL, w.ownerURL} {
			require.Error(t, w.direct(url, fmt.Sprintf(statement, w.owner.Studio, right.ID)), statement)
		}
	}
	for i := range 2 {
		back := event(money.Countering(right.Postings)...)
		back.CounterOf = &right.ID
		err := w.within(func(tx *postgres.Tx) error { return tx.AddLedgerEvent(ctx, back) })
		assert.Equal(t, i == 0, err == nil, "countered once")
	}
	assert.Empty(t, w.balances(t))
}

// Forty sell at once and a third of them fail at the last moment: the numbers of receipts have no gap, and their days
// do not go back (handbook, chapter 8, Numbered receipts without gaps).
func TestReceiptsAreNumberedWithoutGaps(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	var wait sync.WaitGroup
	var issued atomic.Int64
	broken := errors.New("the power went")
	for i := range 40 {
		wait.Go(func() {
			for {
				err := w.db.Together(ctx, w.owner.Studio, func(work context.Context) error {
					_, err := w.svc.Books.Pay(work, &w.owner, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
					if err == nil && i%3 == 0 {
						return broken
					}
					return err
				})
				switch {
				case err == nil:
					issued.Add(1)
				case errors.Is(err, studio.ErrTryAgain) || errors.Is(err, studio.ErrUnavailable):
					continue
				case !errors.Is(err, broken):
					t.Error(err)
				}
				return
			}
		})
	}
	wait.Wait()
	list, err := w.svc.Books.Receipts(ctx, &w.owner, books.ReceiptQuery{})
	require.NoError(t, err)
	require.Len(t, list, int(issued.Load()))
	assert.Equal(t, 26, len(list))
	for i := range list {
		assert.Equal(t, len(list)-i, list[i].Running)
	}
	assert.Equal(t, decimal.NewFromInt(int64(26*95)).StringFixed(2), w.balances(t)["cash"])
}

// What one sale uses up is not used twice: of twenty who pay with the same voucher, and of twenty presses of one sale,
// one wins.
func TestAVoucherPaysOnce(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	number := w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellVoucher, Amount: "95"})).Paper.Lines[0].Number
	one := sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
	var wait sync.WaitGroup
	var won atomic.Int64
	receipts := sync.Map{}
	for range 20 {
		wait.Go(func() {
			_, err := w.svc.Books.Pay(ctx, &w.owner, sale(nil, []books.SalePay{{By: money.ByVoucher, Ref: number}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
			if err == nil {
				won.Add(1)
			}
		})
		wait.Go(func() {
			copied := *one
			if paid, err := w.svc.Books.Pay(ctx, &w.owner, &copied); err == nil {
				receipts.Store(paid.Receipt.ID, true)
			} else if !errors.Is(err, studio.ErrTryAgain) {
				t.Error(err)
			}
		})
	}
	wait.Wait()
	assert.EqualValues(t, 1, won.Load())
	different := 0
	receipts.Range(func(any, any) bool { different++; return true })
	assert.Equal(t, 1, different)
	assert.Equal(t, "190.00", w.balances(t)["cash"])
	assert.Empty(t, w.balances(t)["vouchers-owed"])
}

// Days close in order and once, while others sell: what comes after is dated on the next day, and a difference wants
// its note (handbook, chapter 8, Day close).
func TestAClosedDayStaysClosed(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "312.45")
	require.NoError(t, w.svc.Books.MoveMoney(ctx, &w.owner, &books.MoneyMove{ID: studio.NewID(), Kind: "open", Amount: "150.00"}))
	first := w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	day, err := w.svc.Books.ClosingDay(ctx, &w.owner)
	require.NoError(t, err)
	count := &books.TillCount{Day: day.Day, Count: map[string]int{"200": 2, "50": 1, "10": 1, "2": 1, "0.20": 1, "0.05": 1}, Close: true}
	_, err = w.svc.Books.CountTill(ctx, &w.owner, count)
	assert.Equal(t, "/note", at(err), "462.25 of 462.45")
	count.Note = "a coin fell behind the till"

	var wait sync.WaitGroup
	var closed atomic.Int64
	for range 10 {
		wait.Go(func() {
			if _, err := w.svc.Books.CountTill(ctx, &w.owner, count); err == nil {
				closed.Add(1)
			}
		})
		wait.Go(func() {
			for {
				_, err := w.svc.Books.Pay(ctx, &w.owner, sale(nil, by(money.ByBank), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
				if errors.Is(err, studio.ErrTryAgain) {
					continue
				}
				if err != nil {
					t.Error(err)
				}
				return
			}
		})
	}
	wait.Wait()
	assert.EqualValues(t, 1, closed.Load())
	assert.Equal(t, "0.20", w.balances(t)["cash-difference"], "a cost of 0.20")
	assert.Equal(t, "150.00", w.balances(t)["cash"], "the float stays, the rest went to the bank")
	late := w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	next, err := time.Parse(time.DateOnly, first.Day)
	require.NoError(t, err)
	assert.Equal(t, next.AddDate(0, 0, 1).Format(time.DateOnly), late.Day, "what comes after is dated on the next day")
	list, err := w.svc.Books.Receipts(ctx, &w.owner, books.ReceiptQuery{From: first.Day, To: late.Day})
	require.NoError(t, err)
	for i := 1; i < len(list); i++ {
		assert.GreaterOrEqual(t, list[i-1].Day, list[i].Day, "days do not go back against numbers")
	}
	_, err = w.svc.Books.CountTill(ctx, &w.owner, count)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "day-closed", state.Code)
}

// Whatever is sold, used up, given back and taken back, the ledger's accounts are what the lots, series, vouchers and
// debts come to (handbook, chapter 8, Always true).
func TestTheLedgerIsWhatIsThere(t *testing.T) {
	for _, later := range []bool{false, true} {
		t.Run(fmt.Sprint("tax at delivery ", later), func(t *testing.T) { soldAtRandom(t, later) })
	}
}

func soldAtRandom(t *testing.T, taxWhenGiven bool) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	w.rules(t, func(r *studio.BookRules) { r.TaxWhenGiven = taxWhenGiven })
	plan := w.plan(t, "95.00")
	v := w.first(t)
	random := rand.New(rand.NewPCG(18, 4))
	var sold []*books.Receipt
	for i := range 60 {
		client := &v.Client
		switch random.IntN(6) {
		case 0:
			w.pay(t, sale(client, by(money.ByBank), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 2 + random.IntN(5)}))
		case 1:
			number := w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellVoucher, Amount: fmt.Sprint(20 + random.IntN(200))})).Paper.Lines[0].Number
			sold = append(sold, w.pay(t, sale(client, []books.SalePay{{By: money.ByVoucher, Ref: number}, {By: money.ByLater}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})))
		case 2:
			given := v.Visit
			given.Protocol = plan
			given.ID = w.visitOf(t, v, i)
			require.NoError(t, w.within(func(tx *postgres.Tx) error { return w.svc.Books.EarnShare(ctx, tx, &given, nil, w.now) }))
		case 3:
			if len(sold) > 0 {
				r := sold[len(sold)-1]
				sold = sold[:len(sold)-1]
				_, err := w.svc.Books.GiveBack(ctx, &w.owner, r.ID, &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "not as wished"})
				require.NoError(t, err)
				_, err = w.svc.Books.GiveBack(ctx, &w.owner, r.ID, &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "again"})
				require.Error(t, err, "once")
			}
		case 4:
			strips, err := w.svc.Books.Strips(ctx, &w.owner, v.Client)
			require.NoError(t, err)
			for k := range strips {
				if strips[k].State == books.SeriesOpen && random.IntN(3) == 0 {
					_, err := w.svc.Books.GiveSeriesBack(ctx, &w.owner, strips[k].ID, &books.SeriesBack{ID: studio.NewID(), Rule: money.ProRata, By: money.ByCash, Why: "moves away"})
					require.NoError(t, err)
					break
				}
			}
		default:
			sold = append(sold, w.pay(t, sale(client, by(money.ByLater), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})))
		}
	}
	w.same(t)
}

// same checks that the ledger's accounts are what the lots, series, vouchers and debts come to.
func (w *world) same(t *testing.T) {
	t.Helper()
	for what, query := range map[string]string{
		"stock":           "select coalesce(sum(value), 0) from stock_movement",
		"series-owed":     "select -coalesce(sum(case when s.tax_when_given then h.gross else h.net end), 0) from series_share h join sold_series s on s.id = h.series_id where s.state = 'open' and h.given_on is null",
		"vouchers-owed":   "select -coalesce(sum(remaining), 0) from voucher",
		"owed-by-clients": "select coalesce(sum(amount - settled), 0) from debt",
	} {
		var there, ledger decimal.Decimal
		require.NoError(t, w.direct(w.appURL, query, &there))
		require.NoError(t, w.direct(w.appURL, "select coalesce(sum(amount), 0) from ledger_posting where account = '"+what+"'", &ledger))
		assert.Equal(t, there.StringFixed(2), ledger.StringFixed(2), what)
	}
}

// visitOf is another appointment of the same client, with an id of its own.
func (w *world) visitOf(t *testing.T, v studio.VisitLine, n int) uuid.UUID {
	t.Helper()
	other := v.Visit
	other.ID = studio.NewID()
	other.Series, other.Item = nil, 0
	other.MoveTo(v.StartsAt.AddDate(0, 0, 100+n))
	require.NoError(t, w.within(func(tx *postgres.Tx) error { return tx.AddVisit(context.Background(), &other) }))
	return other.ID
}

// The demo's three months: every event adds up, receipts have no gap, days are closed in order, and the accounts are
// what is there.
func TestTheDemosBooks(t *testing.T) {
	w := emptyWorld(t)
	ctx := context.Background()
	_, err := w.svc.House.CreateStudio(ctx, bundle(t), true)
	require.NoError(t, err)
	in, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "owner@demo.example", Password: "demo palms 1"}, "test")
	require.NoError(t, err)
	w.owner = in.Actor
	list, err := w.svc.Books.Receipts(ctx, &w.owner, books.ReceiptQuery{From: "2026-01-01", To: "2026-12-31"})
	require.NoError(t, err)
	require.Len(t, list, 100)
	for {
		earlier, err := w.svc.Books.Receipts(ctx, &w.owner, books.ReceiptQuery{From: "2026-01-01", To: "2026-12-31", Before: list[len(list)-1].Number})
		require.NoError(t, err)
		if list = append(list, earlier...); len(earlier) == 0 {
			break
		}
	}
	require.Greater(t, len(list), 100)
	for i := range list {
		assert.Equal(t, len(list)-i, list[i].Running)
	}
	w.windows(t, list)
	w.months(t)
	w.same(t)
	sunday, err := w.svc.Books.Sunday(ctx, &w.owner, "2026-11-20")
	require.NoError(t, err)
	assert.True(t, sunday.Taken.Total.IsPositive())
	assert.NotEmpty(t, sunday.Pays.Protocols)
	assert.Len(t, sunday.Owed.AtRisk, 1, "a card payment that was stored")
	assert.Len(t, sunday.Owed.Differences, 1)
	month, err := w.svc.Books.MonthOf(ctx, &w.owner, "2026-10")
	require.NoError(t, err)
	sum := decimal.Zero
	for _, a := range month.Accounts {
		sum = sum.Add(a.Closing)
	}
	assert.True(t, sum.IsZero(), "all accounts together are zero")
	require.NoError(t, w.svc.Books.SetPayTerms(ctx, &w.owner, &books.PayTerms{Practitioner: *w.owner.Practitioner, Treatments: decimal.NewFromInt(10)}))
	for range 2 {
		require.NoError(t, w.svc.Books.PostCommission(ctx, &w.owner, "2026-10"))
	}
	month, err = w.svc.Books.MonthOf(ctx, &w.owner, "2026-10")
	require.NoError(t, err)
	assert.True(t, month.Posted)
	owed := decimal.Zero
	for _, c := range month.Commissions {
		owed = owed.Add(c.Amount)
	}
	assert.True(t, owed.IsPositive())
	assert.Equal(t, owed.Neg().StringFixed(2), w.balances(t)["commission-owed"], "posted once")
}

// windows asks for receipts of some days, from any of them on: they are those of all receipts, in the same order.
func (w *world) windows(t *testing.T, all []books.ReceiptLine) {
	t.Helper()
	pick := rand.New(rand.NewPCG(3, 5)) //nolint:gosec // days are drawn, no secrets
	for range 40 {
		from, to := all[pick.IntN(len(all))].Day, all[pick.IntN(len(all))].Day
		if from > to {
			from, to = to, from
		}
		before := all[pick.IntN(len(all))]
		var want []string
		for i := range all {
			if r := &all[i]; r.Day >= from && r.Day <= to && r.Running < before.Running && len(want) < 100 {
				want = append(want, r.Number)
			}
		}
		list, err := w.svc.Books.Receipts(context.Background(), &w.owner, books.ReceiptQuery{From: from, To: to, Before: before.Number})
		require.NoError(t, err)
		var got []string
		for i := range list {
			got = append(got, list[i].Number)
		}
		assert.Equal(t, want, got, "%s to %s before %s", from, to, before.Number)
	}
}

// months holds what a month is told by against its postings (double entry, common practice): the accounts open with what
// the month before closed with, move by the postings, and are zero together.
func (w *world) months(t *testing.T) {
	t.Helper()
	ctx := context.Background()
	closing := map[money.Account]decimal.Decimal{}
	for i, month := range []string{"2026-08", "2026-09", "2026-10", "2026-11"} {
		m, err := w.svc.Books.MonthOf(ctx, &w.owner, month)
		require.NoError(t, err)
		alone, err := w.svc.Books.MonthAccounts(ctx, &w.owner, month)
		require.NoError(t, err)
		assert.Equal(t, m.Accounts, alone.Accounts)
		all := decimal.Zero
		moved, taken := w.posted(t, month)
		for _, a := range m.Accounts {
			if i > 0 {
				assert.Equal(t, closing[a.Account].StringFixed(2), a.Opening.StringFixed(2), "%s opens %s", a.Account, month)
			}
			assert.Equal(t, moved[a.Account].StringFixed(2), a.Debits.Sub(a.Credits).StringFixed(2), "%s in %s", a.Account, month)
			closing[a.Account] = a.Closing
			all = all.Add(a.Closing)
		}
		assert.True(t, all.IsZero(), month)
		require.Len(t, m.Figures, 3)
		assert.Equal(t, taken.StringFixed(2), m.Figures[0].Taken.StringFixed(2), "taken in %s", month)
		left, visits := sums(m.Pays.Protocols)
		assert.Equal(t, left.StringFixed(2), m.Figures[0].Margin.StringFixed(2), "left in %s", month)
		for _, other := range [][]books.EarnedLine{m.Pays.Practitioner, m.Pays.Rooms} {
			also, n := sums(other)
			assert.Equal(t, visits, n, "each treatment once")
			assert.Equal(t, left.StringFixed(2), also.StringFixed(2))
		}
	}
}

// posted sums a month's postings by account, and what was taken by any way.
func (w *world) posted(t *testing.T, month string) (moved map[money.Account]decimal.Decimal, taken decimal.Decimal) {
	t.Helper()
	m, err := w.svc.Books.MonthRows(context.Background(), &w.owner, month)
	require.NoError(t, err)
	moved = map[money.Account]decimal.Decimal{}
	for i := range m.Rows {
		r := &m.Rows[i]
		assert.Equal(t, month, r.Date[:len(month)])
		moved[r.Account] = moved[r.Account].Add(r.Amount)
		if r.Way != "" && r.Way == string(r.Account) {
			taken = taken.Add(r.Amount)
		}
	}
	return moved, taken
}

// sums are what the treatments of all lines left, and how many they were.
func sums(lines []books.EarnedLine) (left decimal.Decimal, visits int) {
	for i := range lines {
		left, visits = left.Add(lines[i].Margin), visits+lines[i].Visits
	}
	return left, visits
}
