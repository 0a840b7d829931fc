package postgres_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
	"softpalm/internal/exchange"
	"softpalm/internal/postgres"
	"softpalm/internal/standin"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
)

// rules changes how the studio keeps its books.
func (w *world) rules(t *testing.T, change func(*studio.BookRules)) {
	t.Helper()
	ctx := context.Background()
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		change(&st.Books)
		return tx.SaveSettings(ctx, st)
	}))
}

// terminal sets the card terminal's next answers; it answers at once.
func (w *world) terminal(t *testing.T, next ...standin.Plan) {
	t.Helper()
	settings := standin.Usual()
	settings.Seconds, settings.Next = 0, append(settings.Next, next...)
	require.NoError(t, w.svc.Terminal.Set(context.Background(), &w.owner, settings))
}

// earn gives a visit of a protocol.
func (w *world) earn(t *testing.T, v studio.VisitLine, protocol uuid.UUID, n int) {
	t.Helper()
	given := v.Visit
	given.Protocol, given.ID = protocol, w.visitOf(t, v, n)
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		return w.svc.Books.EarnShare(context.Background(), tx, &given, nil, w.now)
	}))
}

func (w *world) strip(t *testing.T, client uuid.UUID) books.Strip {
	t.Helper()
	list, err := w.svc.Books.Strips(context.Background(), &w.owner, client)
	require.NoError(t, err)
	require.Len(t, list, 1)
	return list[0]
}

// Where the studio owes the tax of prepaid things at delivery (handbook, chapter 8, Prepaid things), the receipt of a
// series bears none, each visit owes its own, and what is given back by single price leaves what it does otherwise.
func TestTaxAtDelivery(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	w.rules(t, func(r *studio.BookRules) { r.TaxWhenGiven, r.Refund = true, money.Single })
	plan := w.plan(t, "95.00")
	w.price(t, books.DatedPrice{Protocol: &plan, Visits: 6, Amount: decimal.NewFromInt(500)})
	v := w.first(t)
	r := w.pay(t, sale(&v.Client, by(money.ByBank), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 6}))
	assert.Empty(t, r.Paper.Taxes)
	assert.Equal(t, map[string]string{"bank": "500.00", "series-owed": "-500.00"}, w.balances(t))
	w.earn(t, v, plan, 1)
	assert.Equal(t, map[string]string{"bank": "500.00", "series-owed": "-416.66", "treatments": "-67.75", "output-tax": "-15.59"}, w.balances(t))
	assert.Equal(t, "416.66", w.strip(t, v.Client).Owed)

	deposit := sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellDeposit, Amount: "20"})
	deposit.Visit = &v.ID
	kept := w.pay(t, deposit)
	assert.Empty(t, kept.Paper.Taxes)
	assert.Equal(t, "-20.00", w.balances(t)["deposits-owed"])

	back, err := w.svc.Books.GiveSeriesBack(ctx, &w.owner, w.strip(t, v.Client).ID, &books.SeriesBack{ID: studio.NewID(), Rule: money.Single, By: money.ByBank, Why: "moves away"})
	require.NoError(t, err)
	assert.Empty(t, back.Paper.Taxes, "none was paid that could come back")
	sums := w.balances(t)
	assert.Equal(t, []string{"95.00", "-9.48", "-17.77"}, []string{sums["bank"], sums["breakage"], sums["output-tax"]}, "as on the handbook's small day")
	w.same(t)
}

// A package at 100.00 of things that cost 95.00, 95.00 and 120.00 singly (handbook, chapter 8, Shares: 30.65, 30.64,
// 38.71): its treatments are one series with those shares, its products go off the shelf, and its add-ons go with the
// treatments.
func TestAPackage(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	plan := w.plan(t, "95.00")
	list, err := w.plans(ctx)
	require.NoError(t, err)
	other := list[1].ID
	w.price(t, books.DatedPrice{Protocol: &other, Amount: decimal.NewFromInt(120)})
	v := w.first(t)
	pack := func(name, amount string, parts ...books.PackagePart) error {
		return w.svc.Books.AddPackage(ctx, &w.owner, &books.Package{Name: name, Amount: decimal.RequireFromString(amount), Parts: parts})
	}
	require.NoError(t, pack("Winter", "100.00", books.PackagePart{Protocol: &plan, Qty: 2}, books.PackagePart{Protocol: &other, Qty: 1}))
	lines := func(r *books.Receipt) (out []string) {
		for _, l := range r.Paper.Lines {
			out = append(out, fmt.Sprint(l.Kind, " ", l.Gross))
		}
		return out
	}
	one := books.SaleLine{Kind: books.SellPackage, Package: "Winter"}
	_, err = w.svc.Books.Pay(ctx, &w.desk, sale(nil, by(money.ByCash), one))
	assert.Equal(t, "/client", at(err), "what is paid ahead belongs to somebody")
	assert.Equal(t, []string{"series 100.00"}, lines(w.pay(t, sale(&v.Client, by(money.ByCash), one))))
	var shares []string
	for _, sh := range w.strip(t, v.Client).Shares {
		shares = append(shares, sh.Gross.StringFixed(2))
	}
	assert.Equal(t, []string{"30.65", "30.64", "38.71"}, shares)
	w.earn(t, v, other, 1)
	assert.Equal(t, "-31.47", w.balances(t)["treatments"], "its net share: 81.30 over 95, 95, 120")
	w.same(t)

	w.price(t, books.DatedPrice{Extra: "Hand massage", Minutes: 10, Amount: decimal.NewFromInt(15)})
	require.NoError(t, pack("With hands", "104.50", books.PackagePart{Protocol: &v.Protocol, Qty: 1}, books.PackagePart{Extra: "Hand massage", Qty: 1}))
	w.price(t, books.DatedPrice{Protocol: &v.Protocol, Amount: decimal.NewFromInt(95)})
	today := sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellPackage, Package: "With hands", Percent: "10", Why: "a gift"})
	today.Visit = &v.ID
	w.rules(t, func(r *studio.BookRules) { r.PriceOfVisitDay = true })
	assert.Equal(t, []string{"treatment 81.23", "extra 12.82"}, lines(w.pay(t, today)), "94.05 over 95 and 15, the tie to the first; given at once")
	again := *today
	again.ID = studio.NewID()
	_, err = w.svc.Books.Pay(ctx, &w.owner, &again)
	var state *studio.StateError
	require.ErrorAs(t, err, &state, "the treatment is paid once")

	assert.Equal(t, "/parts/0", at(pack("Empty", "10", books.PackagePart{Qty: 1})))
	assert.Equal(t, "/parts/0", at(pack("Unpriced", "10", books.PackagePart{Extra: "Nothing", Qty: 1})))
	require.NoError(t, pack("Winter", "0"), "sold no more")
	prices, err := w.svc.Books.PriceList(ctx, &w.desk)
	require.NoError(t, err)
	require.Len(t, prices.Packages, 1)
	assert.Equal(t, "With hands", prices.Packages[0].Name)
}

// A treatment voucher brought for another protocol counts as its gross share and the rest is paid (handbook, chapter 8,
// Vouchers); it is used once, never in part, and comes back with what it paid for.
func TestATreatmentVoucherForAnotherTreatment(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	plan := w.plan(t, "95.00")
	list, err := w.plans(ctx)
	require.NoError(t, err)
	v := w.first(t)
	for _, p := range list {
		if p.ID != plan {
			w.price(t, books.DatedPrice{Protocol: &p.ID, Amount: decimal.NewFromInt(120)})
		}
	}
	other := list[1].ID
	number := w.pay(t, sale(nil, by(money.ByBank), books.SaleLine{Kind: books.SellTreatmentVoucher, Protocol: &plan, Visits: 1})).Paper.Lines[0].Number
	pays := func(line books.SaleLine) *books.Sale {
		s := sale(&v.Client, []books.SalePay{{By: money.ByVoucher, Ref: number}, {By: money.ByCash}}, line)
		s.Visit = &v.ID
		return s
	}
	w.price(t, books.DatedPrice{Extra: "Hand massage", Amount: decimal.NewFromInt(15)})
	w.rules(t, func(r *studio.BookRules) { r.PriceOfVisitDay = true })
	_, err = w.svc.Books.Pay(ctx, &w.owner, pays(books.SaleLine{Kind: books.SellExtra, Extra: "Hand massage"}))
	assert.Equal(t, "/pay/0/ref", at(err), "95.00 for 15.00: not in part")
	nobody := sale(nil, []books.SalePay{{By: money.ByVoucher, Ref: number}, {By: money.ByCash}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &other})
	_, err = w.svc.Books.Pay(ctx, &w.owner, nobody)
	assert.Equal(t, "/pay/0/ref", at(err), "it pays for an appointment")

	r := w.pay(t, pays(books.SaleLine{Kind: books.SellTreatment, Protocol: &other}))
	assert.Equal(t, []string{"95.00", "25.00"}, []string{r.Paper.Ways[0].Covers, r.Paper.Ways[1].Covers})
	assert.Equal(t, map[string]string{"bank": "95.00", "cash": "25.00", "treatments": "-97.56", "output-tax": "-22.44"}, w.balances(t), "the tax of 120.00, once")
	w.same(t)
	again := pays(books.SaleLine{Kind: books.SellExtra, Extra: "Hand massage"})
	_, err = w.svc.Books.Pay(ctx, &w.owner, again)
	assert.Equal(t, "/pay/0/ref", at(err), "it was used")

	_, err = w.svc.Books.GiveBack(ctx, &w.owner, r.ID, &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "not as wished"})
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"bank": "95.00", "series-owed": "-77.24", "output-tax": "-17.76"}, w.balances(t))
	found, err := w.svc.Books.FindVoucher(ctx, &w.desk, number, v.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, found.Treatments, "its treatment is there again")
	assert.Equal(t, "95.00", found.Counts)
	w.same(t)
}

// Money goes back by card when the terminal has given it, once for a repeat, and not at all where it declines; at the
// day's close its keys and the books' are compared (handbook, chapter 8, Paying and Day close).
func TestMoneyBackByCard(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	w.terminal(t)
	r := w.pay(t, sale(nil, by(money.ByCard), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	back := &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "not as wished"}
	w.terminal(t, standin.Declines)
	_, err := w.svc.Books.GiveBack(ctx, &w.owner, r.ID, back)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "card-back-declined", state.Code)
	assert.Equal(t, "95.00", w.balances(t)["card"], "nothing was written")

	back.ID = studio.NewID()
	for range 2 {
		given, err := w.svc.Books.GiveBack(ctx, &w.owner, r.ID, back)
		require.NoError(t, err)
		assert.Equal(t, back.ID, given.ID)
	}
	assert.Empty(t, w.balances(t)["card"])
	panel, err := w.svc.Terminal.Panel(ctx, &w.owner)
	require.NoError(t, err)
	require.Len(t, panel.Charges, 3, "taken, declined, given back")

	day, err := w.svc.Books.ClosingDay(ctx, &w.owner)
	require.NoError(t, err)
	count := &books.TillCount{Day: day.Day, Count: map[string]int{}}
	closing, err := w.svc.Books.CountTill(ctx, &w.owner, count)
	require.NoError(t, err)
	assert.Empty(t, closing.Unmatched)
	// Somebody keys an amount in by hand that no sale knows.
	stray := uuid.New()
	require.NoError(t, w.svc.Terminal.Ask(ctx, w.owner.Studio, stray, decimal.NewFromInt(12)))
	count.Close = true
	_, err = w.svc.Books.CountTill(ctx, &w.owner, count)
	assert.Equal(t, "/note", at(err))
	count.Note = "12.00 keyed in by hand"
	closing, err = w.svc.Books.CountTill(ctx, &w.owner, count)
	require.NoError(t, err)
	assert.Equal(t, []books.CardMismatch{{Key: stray, Terminal: "12.00"}}, closing.Unmatched)
}

// A series bought after today's treatment begins with it (common practice).
func TestASeriesBoughtAfterTheTreatmentBeginsWithIt(t *testing.T) {
	w := newWorld(t)
	v := w.first(t)
	w.price(t, books.DatedPrice{Protocol: &v.Protocol, Amount: decimal.NewFromInt(95)})
	require.NoError(t, w.direct(w.ownerURL, "update visit set state = 'done' where id = '"+v.ID.String()+"'"))
	s := sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellSeries, Protocol: &v.Protocol, Visits: 3})
	s.Visit = &v.ID
	w.pay(t, s)
	assert.Equal(t, 1, w.strip(t, v.Client).Given)
	assert.Equal(t, v.ID, *w.strip(t, v.Client).Shares[0].Visit)
}

// A client who can be written to is told by itself, sixty days before the end and fourteen, each time once and not at
// night; of what, the message does not say (handbook, chapter 8, Expiry).
func TestTheClientOfASeriesThatEndsIsToldByItself(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	w.pay(t, sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 3}))
	w.earn(t, v, plan, 1)
	last, err := time.Parse(time.DateOnly, w.strip(t, v.Client).Until)
	require.NoError(t, err)
	told := func(days, hour int) (n int) {
		t.Helper()
		w.now = last.AddDate(0, 0, -days).Add(time.Duration(hour) * time.Hour)
		require.NoError(t, w.svc.Books.RemindOfSeries(ctx, w.owner.Studio))
		list, err := w.messages(ctx)
		require.NoError(t, err)
		for i := range list {
			if list[i].Kind == studio.SeriesEndsMessage {
				n++
			}
		}
		return n
	}
	assert.Zero(t, told(61, 12))
	assert.Zero(t, told(60, 3), "not at night")
	assert.Equal(t, 1, told(60, 12))
	assert.Contains(t, w.newestOf(t, studio.SeriesEndsMessage).Body, "2 treatments of your series are left")
	assert.NotContains(t, w.newestOf(t, studio.SeriesEndsMessage).Body, w.strip(t, v.Client).Name)
	assert.Equal(t, 1, told(59, 12))
	require.NoError(t, w.direct(w.ownerURL, "update client set no_messages = true where id = '"+v.Client.String()+"'"))
	assert.Equal(t, 1, told(14, 12))
	assert.True(t, w.strip(t, v.Client).RemindNow, "who wants no messages stays for the desk")
	require.NoError(t, w.direct(w.ownerURL, "update client set no_messages = false where id = '"+v.Client.String()+"'"))
	assert.Equal(t, 2, told(13, 12))
	assert.False(t, w.strip(t, v.Client).RemindNow)
}

// A fee is a per cent of the price or a sum of its own, and a missed treatment of a series counts only where the studio
// says so (handbook, chapter 8, Late-cancel fee; Series).
func TestTheFeeOfAMissedAppointment(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.price(t, books.DatedPrice{Protocol: &v.Protocol, Amount: decimal.NewFromInt(95)})
	w.pay(t, sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellSeries, Protocol: &v.Protocol, Visits: 3}))
	missed := func(state string, change func(*studio.BookRules)) *books.VisitSale {
		t.Helper()
		require.NoError(t, w.direct(w.ownerURL, "update visit set state = '"+state+"' where id = '"+v.ID.String()+"'"))
		w.rules(t, func(r *studio.BookRules) { *r = studio.UsualBookRules(); r.PriceOfVisitDay = true; change(r) })
		out, err := w.svc.Books.VisitSale(ctx, &w.owner, v.ID)
		require.NoError(t, err)
		return out
	}
	usual := func(*studio.BookRules) {}
	assert.Equal(t, "47.50", missed("late-cancelled", usual).Fee.Fee)
	assert.Equal(t, "95.00", missed("no-show", usual).Fee.Fee)
	own := missed("no-show", func(r *studio.BookRules) { r.MissedSum = "30" })
	assert.Equal(t, []any{"30.00", 0, true}, []any{own.Fee.Fee, own.Fee.Percent, own.MayCount})
	none := missed("no-show", func(r *studio.BookRules) { r.MissedFee, r.MissedCounts = 0, false })
	assert.Nil(t, none.Fee)
	assert.False(t, none.MayCount)
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Books.AnswerFee(ctx, &w.owner, v.ID, &books.FeeAnswer{Count: true}), &state)
	missed("no-show", usual)
	require.NoError(t, w.svc.Books.AnswerFee(ctx, &w.owner, v.ID, &books.FeeAnswer{Count: true}))
	assert.Equal(t, 1, w.strip(t, v.Client).Given)
}

// The accountant's own numbers stand in the files instead of the names (handbook, chapter 8, The month).
func TestAccountNumbers(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	require.Error(t, w.svc.Books.SetAccountNumbers(ctx, &w.owner, map[money.Account]string{"petty": "1"}))
	require.Error(t, w.svc.Books.SetAccountNumbers(ctx, &w.owner, map[money.Account]string{money.CashTill: "123456789012345678901"}))
	require.NoError(t, w.svc.Books.SetAccountNumbers(ctx, &w.owner, map[money.Account]string{money.CashTill: " 1000 ", money.Bank: ""}))
	m, err := w.svc.Books.MonthRows(ctx, &w.owner, "2026-11")
	require.NoError(t, err)
	ledger, err := exchange.LedgerCSV(m)
	require.NoError(t, err)
	assert.Contains(t, string(ledger), ",1000,95.00,")
	assert.Contains(t, string(ledger), ",treatments,")
	m, err = w.svc.Books.MonthAccounts(ctx, &w.owner, "2026-11")
	require.NoError(t, err)
	accounts, err := exchange.AccountsCSV(m)
	require.NoError(t, err)
	assert.Contains(t, string(accounts), "\n1000,")
}
