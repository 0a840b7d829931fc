package postgres_test

import (
	"context"
	"errors"
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
	"softpalm/internal/rooms"
	"softpalm/internal/standin"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/protocols"
)

// sale is a sale of lines, for a client or nobody, paid as said.
func sale(client *uuid.UUID, pay []books.SalePay, lines ...books.SaleLine) *books.Sale {
	for i := range lines {
		lines[i].Qty = max(lines[i].Qty, 1)
	}
	return &books.Sale{ID: studio.NewID(), Client: client, Lines: lines, Pay: pay}
}

func by(way money.Way) []books.SalePay { return []books.SalePay{{By: way}} }

// pay pays a sale and answers its receipt.
func (w *world) pay(t *testing.T, s *books.Sale) *books.Receipt {
	t.Helper()
	paid, err := w.svc.Books.Pay(context.Background(), &w.owner, s)
	require.NoError(t, err)
	require.NotNil(t, paid.Receipt, "%+v", paid.Card)
	return paid.Receipt
}

// price sets a price from today on.
func (w *world) price(t *testing.T, p books.DatedPrice) {
	t.Helper()
	require.NoError(t, w.svc.Books.AddPrice(context.Background(), &w.owner, &p))
}

// forward puts the server's clock forward.
func (w *world) forward(by time.Duration) { w.now = w.now.Add(by) }

// plan is the first protocol of the tests, at a price.
func (w *world) plan(t *testing.T, price string) uuid.UUID {
	t.Helper()
	list, err := w.plans(context.Background())
	require.NoError(t, err)
	w.price(t, books.DatedPrice{Protocol: &list[0].ID, Amount: decimal.RequireFromString(price)})
	return list[0].ID
}

// taxed gives the studio its tax, in per cent, in its prices.
func (w *world) taxed(t *testing.T, rate string) {
	t.Helper()
	require.NoError(t, w.db.InStudio(context.Background(), w.owner.Studio, func(tx studio.Tx) error {
		st, err := tx.Studio(context.Background())
		if err != nil {
			return err
		}
		st.Tax = studio.Tax{TaxName: "VAT", Rate: rate, Mode: money.TaxIncluded}
		return tx.(interface {
			SaveSettings(context.Context, *studio.Studio) error
		}).SaveSettings(context.Background(), st)
	}))
}

// balances are the studio's accounts, without the stock and what it was bought for.
func (w *world) balances(t *testing.T) map[string]string {
	t.Helper()
	out := map[string]string{}
	require.NoError(t, w.db.InStudio(context.Background(), w.owner.Studio, func(tx studio.Tx) error {
		sums, err := tx.(books.Store).Balances(context.Background(), "")
		for a, amount := range sums {
			switch a {
			case money.Stock, money.Suppliers, money.ProductsUsed, money.StockDifference, money.Waste:
			default:
				out[string(a)] = amount.StringFixed(2)
			}
		}
		return err
	}))
	return out
}

// The handbook's small day (chapter 8, The ledger underneath), sold, paid and given back through the use cases: a series
// by card, its first visit, a voucher for cash, a treatment with a tip by that voucher and cash, a deposit kept, the
// series given back by single price, and the card company's payment.
func TestASmallDayOfPaying(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	plan := w.plan(t, "95.00")
	w.price(t, books.DatedPrice{Protocol: &plan, Visits: 6, Amount: decimal.NewFromInt(500)})
	v := w.first(t)

	require.NoError(t, w.svc.Terminal.Set(ctx, &w.owner, standin.TerminalSettings{Next: []standin.Plan{}, Late: 45}))
	series := w.pay(t, sale(&v.Client, by(money.ByCard), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 6}))
	assert.Equal(t, "93.50", series.Paper.Taxes[0].Tax)
	assert.Equal(t, map[string]string{"card": "500.00", "series-owed": "-406.50", "output-tax": "-93.50"}, w.balances(t))

	given := v.Visit
	given.Protocol = plan
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
		return w.svc.Books.EarnShare(ctx, tx, &given, nil, w.svc.Now())
	}))
	assert.Equal(t, "-67.75", w.balances(t)["treatments"])
	strips, err := w.svc.Books.Strips(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.Len(t, strips, 1)
	assert.Equal(t, 1, strips[0].Given)
	assert.Equal(t, "83.34", strips[0].Shares[0].Gross.StringFixed(2))
	assert.Equal(t, "338.75", strips[0].Owed)
	assert.Equal(t, []string{"416.66", "405.00"}, []string{strips[0].Back[0].Back, strips[0].Back[1].Back})

	voucher := w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellVoucher, Amount: "60"}))
	number := voucher.Paper.Lines[0].Number
	treated := sale(&v.Client, []books.SalePay{{By: money.ByVoucher, Ref: number}, {By: money.ByCash, Given: "50"}}, books.SaleLine{
		Kind: books.SellTreatment, Protocol: &plan, Practitioner: &v.Practitioner,
	})
	treated.Tip, treated.TipFor = "5", v.Practitioner
	r := w.pay(t, treated)
	assert.Equal(t, "17.76", r.Paper.Taxes[0].Tax)
	assert.Equal(t, "40.00", r.Paper.Ways[1].Taken)
	assert.Equal(t, "10.00", r.Paper.Ways[1].Change)
	assert.Equal(t, "0.00", r.Paper.Ways[0].Left)

	deposit := sale(&v.Client, by(money.ByCard), books.SaleLine{Kind: books.SellDeposit, Amount: "20"})
	deposit.Visit = &v.ID
	w.pay(t, deposit)
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
		return tx.(interface {
			SetVisitState(context.Context, uuid.UUID, studio.VisitState) error
		}).SetVisitState(ctx, v.ID, studio.NoShow)
	}))
	require.NoError(t, w.svc.Books.AnswerFee(ctx, &w.owner, v.ID, &books.FeeAnswer{KeepDeposit: true}))
	require.NoError(t, w.svc.Books.AnswerFee(ctx, &w.owner, v.ID, &books.FeeAnswer{KeepDeposit: true}), "a repeat keeps nothing twice")
	assert.Equal(t, "-20.00", w.balances(t)["fees"])

	back, err := w.svc.Books.GiveSeriesBack(ctx, &w.owner, strips[0].ID, &books.SeriesBack{ID: studio.NewID(), Rule: money.Single, By: money.ByBank, Why: "moves away"})
	require.NoError(t, err)
	assert.Equal(t, "-405", back.Total.String())
	require.NoError(t, w.svc.Books.MoveMoney(ctx, &w.owner, &books.MoneyMove{ID: studio.NewID(), Kind: "card-settle", Amount: "520", Fee: "7.28"}))
	assert.Equal(t, map[string]string{
		"cash": "100.00", "bank": "107.72", "card-fees": "7.28", "output-tax": "-35.53", "tips-owed": "-5.00",
		"treatments": "-144.99", "fees": "-20.00", "breakage": "-9.48",
	}, w.balances(t))
	assert.Equal(t, []string{"000001", "000002", "000003", "000004", "000005"}, []string{
		series.Number[5:], voucher.Number[5:], r.Number[5:], "000004", back.Number[5:],
	})
}

// A card payment is one payment whatever is pressed: unknown after half a minute, asked for until it is approved late,
// and one receipt; cancelled while unknown it is reversed; stored and refused it is owed by the client.
func TestACardPaymentIsOnePayment(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	line := books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}
	set := func(plans ...standin.Plan) {
		require.NoError(t, w.svc.Terminal.Set(ctx, &w.owner, standin.TerminalSettings{Next: plans, Seconds: 2, Late: 45}))
	}
	look := func(s *books.Sale) *books.Paid {
		t.Helper()
		paid, err := w.svc.Books.Sale(ctx, &w.owner, s.ID)
		require.NoError(t, err)
		return paid
	}
	later := w.forward

	set(standin.UnknownApproved)
	s := sale(&v.Client, by(money.ByCard), line)
	for range 3 {
		paid, err := w.svc.Books.Pay(ctx, &w.owner, s)
		require.NoError(t, err)
		assert.Equal(t, money.CardAsked, paid.Card.State)
	}
	later(31 * time.Second)
	assert.Equal(t, money.CardUnknown, look(s).Card.State)
	other := *s
	other.Tip, other.TipFor = "5", v.Practitioner
	_, err := w.svc.Books.Pay(ctx, &w.owner, &other)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "card-other-amount", state.Code)
	later(20 * time.Second)
	paid := look(s)
	require.NotNil(t, paid.Receipt, "the late approval issues the receipt")
	assert.Equal(t, paid.Receipt.ID, look(s).Receipt.ID, "once")
	panel, err := w.svc.Terminal.Panel(ctx, &w.owner)
	require.NoError(t, err)
	assert.Len(t, panel.Charges, 1)

	set(standin.Declines)
	s = sale(&v.Client, by(money.ByCard), line)
	_, err = w.svc.Books.Pay(ctx, &w.owner, s)
	require.NoError(t, err)
	later(3 * time.Second)
	paid = look(s)
	assert.Equal(t, money.CardDeclined, paid.Card.State)
	assert.NotEmpty(t, paid.Card.Reason)
	s.Pay = by(money.ByCash)
	w.pay(t, s)

	set(standin.UnknownApproved)
	s = sale(&v.Client, by(money.ByCard), line)
	_, err = w.svc.Books.Pay(ctx, &w.owner, s)
	require.NoError(t, err)
	later(31 * time.Second)
	look(s)
	paid, err = w.svc.Books.CancelCard(ctx, &w.owner, s.ID)
	require.NoError(t, err)
	assert.Equal(t, money.CardCancelling, paid.Card.State)
	later(31 * time.Second)
	paid = look(s)
	assert.Equal(t, money.CardReversed, paid.Card.State)
	assert.Nil(t, paid.Receipt)

	set(standin.OfflineRefused)
	s = sale(&v.Client, by(money.ByCard), line)
	_, err = w.svc.Books.Pay(ctx, &w.owner, s)
	require.NoError(t, err)
	later(3 * time.Second)
	paid = look(s)
	require.NotNil(t, paid.Receipt, "a stored payment counts as taken")
	before := w.balances(t)
	c, err := w.svc.Books.SettleCard(ctx, &w.owner, s.ID)
	require.NoError(t, err)
	assert.Equal(t, money.CardRefused, c.State)
	after := w.balances(t)
	assert.Equal(t, "95.00", after["owed-by-clients"])
	assert.NotEqual(t, before["card"], after["card"])
	r, err := w.svc.Books.Receipt(ctx, &w.owner, paid.Receipt.ID)
	require.NoError(t, err)
	assert.Equal(t, "95", r.Owed.String())
	owed := books.SaleLine{Kind: books.SellDebt, Receipt: &r.ID, Amount: "95.01"}
	_, err = w.svc.Books.Pay(ctx, &w.owner, sale(&v.Client, by(money.ByCash), owed))
	assert.Equal(t, "/lines/0/amount", at(err), "no more than is owed")
	owed.Amount = "40"
	w.pay(t, sale(&v.Client, by(money.ByCash), owed))
	assert.Equal(t, "55.00", w.balances(t)["owed-by-clients"])
	owed.Amount = ""
	set(standin.Approves)
	all := sale(&v.Client, by(money.ByCard), owed)
	_, err = w.svc.Books.Pay(ctx, &w.owner, all)
	require.NoError(t, err)
	later(3 * time.Second)
	paid = look(all)
	require.NotNil(t, paid.Receipt)
	assert.Empty(t, paid.Receipt.Paper.Taxes, "no income, and no tax")
	assert.Empty(t, w.balances(t)["owed-by-clients"])
	_, err = w.svc.Books.Pay(ctx, &w.owner, sale(&v.Client, by(money.ByCash), owed))
	assert.Equal(t, "/lines/0/receipt", at(err), "nothing is owed any more")
}

// A server that stops between the terminal's approval and the receipt finds the payment again and issues the receipt
// once; one that stops before the terminal heard of it charges nobody (handbook, chapter 8, Card).
func TestAfterACrashTheKeyIsAskedForFirst(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	s := sale(&v.Client, by(money.ByCard), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
	s.Visit = &v.ID
	_, err := w.svc.Books.Pay(ctx, &w.owner, s)
	require.NoError(t, err)
	w.forward(time.Hour)
	again := rooms.New(w.db, func() time.Time { return w.now }, "http://studio.example", nil) // another process
	page, err := again.Books.VisitSale(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	require.NotNil(t, page.Open, "the page begins with what was left open")
	var wait sync.WaitGroup
	receipts := sync.Map{}
	for range 8 {
		wait.Go(func() {
			paid, err := again.Books.Sale(ctx, &w.owner, *page.Open)
			if err == nil && paid.Receipt != nil {
				receipts.Store(paid.Receipt.ID, true)
			}
		})
	}
	wait.Wait()
	n := 0
	receipts.Range(func(any, any) bool { n++; return true })
	assert.Equal(t, 1, n)
	assert.Equal(t, "95.00", w.balances(t)["card"])
	_, err = again.Books.Pay(ctx, &w.owner, sale2(s))
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "visit-paid", state.Code)

	lost := sale(nil, by(money.ByCard), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
	silent := *w.svc.Books
	silent.Terminal = unplugged{w.svc.Books.Terminal}
	_, err = silent.Pay(ctx, &w.owner, lost)
	require.ErrorIs(t, err, errUnplugged)
	w.forward(10 * time.Second)
	paid, err := w.svc.Books.Sale(ctx, &w.owner, lost.ID)
	require.NoError(t, err)
	assert.Equal(t, money.CardDeclined, paid.Card.State)
	require.NoError(t, w.svc.Terminal.Ask(ctx, w.owner.Studio, paid.Card.ID, paid.Card.Amount), "the question arrives after all")
	says, err := w.svc.Terminal.Answer(ctx, w.owner.Studio, paid.Card.ID)
	require.NoError(t, err)
	assert.Equal(t, "declined", says.Is, "and charges nobody")
}

// sale2 is the same sale under another key.
func sale2(s *books.Sale) *books.Sale {
	other := *s
	other.ID = studio.NewID()
	other.Pay = by(money.ByCash)
	return &other
}

// unplugged is a terminal that the question never reaches.
type unplugged struct{ books.Terminal }

var errUnplugged = errors.New("the cable is out")

func (unplugged) Ask(context.Context, uuid.UUID, uuid.UUID, decimal.Decimal) error {
	return errUnplugged
}

// A voucher for a treatment belongs to whoever brings it, is good whatever the price is by then, and its treatment
// comes off it when its record closes (handbook, chapter 8, Vouchers).
func TestAVoucherForATreatment(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	plan := w.plan(t, "95.00")
	v := w.first(t)
	number := w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatmentVoucher, Protocol: &plan, Visits: 1, Giver: "For you"})).Paper.Lines[0].Number
	w.price(t, books.DatedPrice{Protocol: &plan, Amount: decimal.NewFromInt(120)})
	found, err := w.svc.Books.FindVoucher(ctx, &w.desk, number, uuid.Nil)
	require.NoError(t, err)
	assert.Equal(t, "treatment", found.Kind)
	assert.Equal(t, 1, found.Treatments)
	_, err = w.svc.Books.FindVoucher(ctx, &w.desk, "123", uuid.Nil)
	assert.Equal(t, "/number", at(err))
	for range 2 {
		require.NoError(t, w.svc.Books.UseTreatmentVoucher(ctx, &w.desk, number, &books.VoucherUsed{Client: v.Client}))
	}
	given := v.Visit
	given.Protocol = plan
	require.NoError(t, w.within(func(tx *postgres.Tx) error { return w.svc.Books.EarnShare(ctx, tx, &given, nil, w.now) }))
	assert.Equal(t, "-77.24", w.balances(t)["treatments"], "at what was paid for it")
	assert.Empty(t, w.balances(t)["series-owed"])
	clients, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	for _, c := range clients {
		if c.ID != v.Client {
			assert.Equal(t, "/number", at(w.svc.Books.UseTreatmentVoucher(ctx, &w.desk, number, &books.VoucherUsed{Client: c.ID})))
			break
		}
	}
}

// A series rests and is good for longer, goes to another client with its shares, and lapses by hand after its last day
// alone; a price of another day and of a grade holds for what is booked then.
func TestASeriesRestsGoesOnAndLapses(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	w.pay(t, sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 3}))
	strip := func(client uuid.UUID) books.Strip {
		t.Helper()
		list, err := w.svc.Books.Strips(ctx, &w.owner, client)
		require.NoError(t, err)
		require.Len(t, list, 1)
		return list[0]
	}
	s := strip(v.Client)
	assert.Equal(t, "2027-11-24", s.Until, "twelve months")
	assert.Equal(t, "2027-09-25", s.RemindOn, "sixty days before")
	assert.Equal(t, "/restTo", at(w.svc.Books.ChangeSeries(ctx, &w.owner, s.ID, &books.SeriesChange{RestFrom: "2026-12-10", RestTo: "2026-12-01"})))
	require.NoError(t, w.svc.Books.ChangeSeries(ctx, &w.owner, s.ID, &books.SeriesChange{RestFrom: "2026-12-01", RestTo: "2026-12-22"}))
	assert.Equal(t, "2027-12-15", strip(v.Client).Until)
	other := uuid.Nil
	clients, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	for _, c := range clients {
		if c.ID != v.Client {
			other = c.ID
		}
	}
	require.NoError(t, w.svc.Books.ChangeSeries(ctx, &w.owner, s.ID, &books.SeriesChange{To: &other}))
	assert.Equal(t, "231.71", strip(other).Owed, "the same amount is owed")
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Books.ChangeSeries(ctx, &w.owner, s.ID, &books.SeriesChange{Lapse: true}), &state)
	assert.Equal(t, "still-good", state.Code)
	w.forward(500 * 24 * time.Hour)
	require.NoError(t, w.svc.Books.ChangeSeries(ctx, &w.owner, s.ID, &books.SeriesChange{Lapse: true}))
	assert.Equal(t, "-231.71", w.balances(t)["breakage"])
	assert.Empty(t, w.balances(t)["series-owed"])
}

// The client of a series that ends is to be reminded sixty days before and fourteen; each time once (handbook,
// chapter 8, Expiry).
func TestASeriesThatEndsAsksForAReminder(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	w.pay(t, sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 3}))
	asks := func() (n int) {
		t.Helper()
		list, err := w.svc.Checks.Inbox(ctx, &w.desk)
		require.NoError(t, err)
		for i := range list {
			if list[i].Kind == studio.SeriesEnds {
				n++
			}
		}
		strips, err := w.svc.Books.Strips(ctx, &w.owner, v.Client)
		require.NoError(t, err)
		assert.Equal(t, n == 1, strips[0].RemindNow)
		return n
	}
	strips, err := w.svc.Books.Strips(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	last, err := time.Parse(time.DateOnly, strips[0].Until)
	require.NoError(t, err)
	for _, c := range []struct {
		before int
		asks   int
	}{{61, 0}, {60, 1}, {20, 0}, {14, 1}, {3, 0}} {
		w.now = last.AddDate(0, 0, -c.before).Add(12 * time.Hour)
		assert.Equal(t, c.asks, asks(), "%d days before", c.before)
		if c.asks == 1 {
			require.NoError(t, w.svc.Books.ChangeSeries(ctx, &w.owner, strips[0].ID, &books.SeriesChange{Reminded: true}))
			assert.Zero(t, asks())
		}
	}
}

// An appointment that began before midnight belongs to the day it began, also when it is paid after midnight; once that
// day is closed it is dated on the next (handbook, chapter 8, Day close). Its price is that of the day it was booked.
func TestAMidnightVisitBelongsToTheDayItBegan(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	first := w.first(t)
	late := first.Visit
	late.ID, late.Series, late.Item, late.Protocol = studio.NewID(), nil, 0, plan
	late.CreatedAt = w.now
	late.MoveTo(time.Date(2026, 12, 10, 23, 15, 0, 0, time.UTC))
	require.NoError(t, w.within(func(tx *postgres.Tx) error { return tx.AddVisit(ctx, &late) }))
	w.now = time.Date(2026, 12, 9, 12, 0, 0, 0, time.UTC)
	w.price(t, books.DatedPrice{Protocol: &plan, Amount: decimal.NewFromInt(120)})
	w.now = time.Date(2026, 12, 11, 0, 40, 0, 0, time.UTC)
	s := sale(&late.Client, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
	s.Visit = &late.ID
	bill, err := w.svc.Books.Quote(ctx, &w.owner, s)
	require.NoError(t, err)
	assert.Equal(t, "95.00", bill.Due, "the price of the day it was booked")
	r := w.pay(t, s)
	assert.Equal(t, "2026-12-10", r.Day)
	w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	list, err := w.svc.Books.Receipts(ctx, &w.owner, books.ReceiptQuery{From: "2026-12-11", To: "2026-12-11"})
	require.NoError(t, err)
	require.Len(t, list, 1, "what is sold at the desk is of the new day")
	assert.Equal(t, "120", list[0].Total.String())
}

// Who may take off how much, why, and what is not discounted (handbook, chapter 8, Discounts): a limit by role, a
// reason always, vouchers and deposits never.
func TestDiscountsHaveALimitAndAReason(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "9.99")
	three := func(percent, why string) *books.Sale {
		return sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan, Qty: 3, Percent: percent, Why: why})
	}
	bill, err := w.svc.Books.Quote(ctx, &w.owner, three("15", "a friend"))
	require.NoError(t, err)
	assert.Equal(t, "25.47", bill.Due, "3 x 9.99 - 15 %")
	_, err = w.svc.Books.Quote(ctx, &w.desk, three("15", "a friend"))
	assert.Equal(t, "/lines/0/percent", at(err), "the desk takes off up to 10 %")
	_, err = w.svc.Books.Quote(ctx, &w.desk, three("10", ""))
	assert.Equal(t, "/lines/0/why", at(err))
	_, err = w.svc.Books.Quote(ctx, &w.owner, three("101", "a friend"))
	assert.Equal(t, "/lines/0/percent", at(err))
	off := three("", "")
	off.Off, off.OffWhy = "50", "all of it"
	_, err = w.svc.Books.Quote(ctx, &w.owner, off)
	assert.Equal(t, "/off", at(err))
	_, err = w.svc.Books.Quote(ctx, &w.owner, sale(nil, nil, books.SaleLine{Kind: books.SellVoucher, Amount: "50", Percent: "10", Why: "no"}))
	assert.Equal(t, "/lines/0/percent", at(err))
	for path, s := range map[string]*books.Sale{
		"/client":           sale(nil, by(money.ByLater), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}),
		"/lines/0/protocol": sale(nil, nil, books.SaleLine{Kind: books.SellTreatment}),
		"/lines/0/amount":   sale(nil, nil, books.SaleLine{Kind: books.SellVoucher}),
		"/pay/1/amount":     sale(nil, []books.SalePay{{By: money.ByCash}, {By: money.ByBank}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}),
		"/pay/0/given":      sale(nil, []books.SalePay{{By: money.ByCash, Given: "5"}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}),
		"/pay/0/ref":        sale(nil, []books.SalePay{{By: money.ByVoucher, Ref: "079927398714"}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}),
	} {
		_, err := w.svc.Books.Quote(ctx, &w.owner, s)
		assert.Equal(t, path, at(err))
	}
	_, err = w.svc.Books.Pay(ctx, &w.owner, sale(nil, nil, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	assert.Equal(t, "/pay", at(err), "something is still due")
}

// A product is sold by whole sealed packs of the retail side, costs what its lot cost, and comes back by a
// counter-receipt, each line once; cash without small coins is rounded and the tax stays (handbook, chapter 8).
func TestAProductIsSoldRoundedAndGivenBack(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		st.Books.CashStep = "0.05"
		return tx.SaveSettings(ctx, st)
	}))
	product := w.product(t, "Night balm for home", "mL", nil)
	w.price(t, books.DatedPrice{Product: &product, Amount: decimal.RequireFromString("12.33")})
	buy := func(n int) *books.Sale {
		return sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellProduct, Product: &product, Qty: n})
	}
	_, err := w.svc.Books.Pay(ctx, &w.owner, buy(1))
	assert.Equal(t, "/lines/0/qty", at(err), "none stands on the retail side")
	for _, p := range w.receive(t, product, "R-1", "2029-01-01", 2, "100", "20.00") {
		require.NoError(t, w.svc.Shelf.ChangeSide(ctx, &w.owner, p.ID, studio.RetailSide))
	}
	before := w.balances(t)
	r := w.pay(t, buy(1))
	assert.Equal(t, "12.35", r.Paper.Ways[0].Taken)
	assert.Equal(t, "0.02", r.Paper.Rounding)
	assert.Equal(t, "2.31", r.Paper.Taxes[0].Tax, "tax does not change")
	assert.Equal(t, "-10.02", w.balances(t)["retail"])
	assert.Equal(t, "10.00", w.balances(t)["retail-cost"])
	back, err := w.svc.Books.GiveBack(ctx, &w.owner, r.ID, &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "another scent"})
	require.NoError(t, err)
	assert.Equal(t, "-12.35", back.Paper.Ways[0].Taken)
	assert.Equal(t, r.Number, back.Paper.First)
	after := w.balances(t)
	assert.Equal(t, before["cash"], after["cash"])
	assert.Empty(t, after["retail"])
	_, err = w.svc.Books.GiveBack(ctx, &w.desk, r.ID, &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "again"})
	require.ErrorIs(t, err, studio.ErrForbidden)
}

// A supplier who was paid twice is set right by a counter-entry, once; tips are paid out of the till to whom they are
// owed, against initials (handbook, chapter 8).
func TestWrongMoneyIsCounteredAndTipsArePaidOut(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	for range 2 {
		require.NoError(t, w.svc.Books.MoveMoney(ctx, &w.owner, &books.MoneyMove{ID: studio.NewID(), Kind: "pay-supplier", Amount: "38.00", Note: "Linden Botanics"}))
	}
	twice := studio.NewID()
	for range 2 { // the same sent twice is written once
		require.NoError(t, w.svc.Books.MoveMoney(ctx, &w.owner, &books.MoneyMove{ID: twice, Kind: "paid-in", Amount: "20.00"}))
	}
	moved, err := w.svc.Books.MovedMoneyList(ctx, &w.owner)
	require.NoError(t, err)
	require.Len(t, moved, 3)
	assert.Equal(t, "/why", at(w.svc.Books.CounterMoney(ctx, &w.owner, moved[1].ID, " ")))
	for range 2 {
		require.NoError(t, w.svc.Books.CounterMoney(ctx, &w.owner, moved[1].ID, "paid twice"))
	}
	assert.Equal(t, "-38.00", w.balances(t)["bank"])
	s := sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
	s.Tip, s.TipFor = "5", v.Practitioner
	w.pay(t, s)
	owed, err := w.svc.Books.TipsOwedList(ctx, &w.desk)
	require.NoError(t, err)
	require.Len(t, owed, 1)
	out := &books.MoneyMove{ID: studio.NewID(), Kind: "pay-tips", Practitioner: v.Practitioner}
	assert.Equal(t, "/note", at(w.svc.Books.MoveMoney(ctx, &w.desk, out)))
	out.Note = "IL"
	require.NoError(t, w.svc.Books.MoveMoney(ctx, &w.desk, out))
	assert.Empty(t, w.balances(t)["tips-owed"])
	assert.Equal(t, "115.00", w.balances(t)["cash"], "20.00 paid in and 95.00")
	require.Error(t, w.svc.Books.MoveMoney(ctx, &w.desk, &books.MoneyMove{ID: studio.NewID(), Kind: "pay-tips", Practitioner: v.Practitioner, Note: "IL"}))
	require.ErrorIs(t, w.svc.Books.MoveMoney(ctx, &w.desk, &books.MoneyMove{ID: studio.NewID(), Kind: "card-settle", Amount: "1"}), studio.ErrForbidden)
}

// A protocol costs what the price list says once that says anything: a price set there is shown in the library and
// opened in the workbench, and one that is published with a protocol holds from that day on.
func TestAProtocolCostsWhatThePriceListSays(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "99.00")
	shown := func() string {
		t.Helper()
		list, err := w.svc.Protocols.Protocols(ctx, &w.owner)
		require.NoError(t, err)
		for i := range list {
			if list[i].ID == plan {
				return list[i].Body.Price.Amount
			}
		}
		return ""
	}
	assert.Equal(t, "99.00", shown())
	opened, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, plan)
	require.NoError(t, err)
	assert.Equal(t, "99.00", opened.Draft.Body.Price.Amount)
	opened.Draft.Body.Price.Amount = "104.50"
	_, err = w.svc.Protocols.SaveDraft(ctx, &w.owner, plan, protocols.DraftEdit{BasedOn: opened.Draft.BasedOn, Protocol: &opened.Draft.Body})
	require.NoError(t, err)
	assert.Equal(t, "99.00", shown(), "a draft changes no price")
	_, err = w.svc.Protocols.Publish(ctx, &w.owner, plan)
	require.NoError(t, err)
	assert.Equal(t, "104.50", shown())
	list, err := w.svc.Books.PriceList(ctx, &w.desk)
	require.NoError(t, err)
	for _, l := range list.Treatments {
		if l.Protocol == plan {
			assert.Equal(t, "104.50", l.Price)
		}
	}
	assert.Len(t, list.All, 2, "none is overwritten")
}

// Of twenty desks that take an appointment's money at once one does; while its card payment is open nobody takes it
// another way (a race has one winner).
func TestAnAppointmentIsPaidOnce(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	of := func(way money.Way) *books.Sale {
		s := sale(&v.Client, by(way), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
		s.Visit = &v.ID
		return s
	}
	card := of(money.ByCard)
	_, err := w.svc.Books.Pay(ctx, &w.desk, card)
	require.NoError(t, err)
	var state *studio.StateError
	_, err = w.svc.Books.Pay(ctx, &w.desk, of(money.ByCash))
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "card-open", state.Code)
	_, err = w.svc.Books.CancelCard(ctx, &w.desk, card.ID)
	require.NoError(t, err)
	var wait sync.WaitGroup
	var won atomic.Int64
	for range 20 {
		wait.Go(func() {
			if _, err := w.svc.Books.Pay(ctx, &w.desk, of(money.ByCash)); err == nil {
				won.Add(1)
			}
		})
	}
	wait.Wait()
	assert.EqualValues(t, 1, won.Load())
	assert.Equal(t, "95.00", w.balances(t)["cash"])
}
