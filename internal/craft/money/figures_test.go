package money_test

import (
	"encoding/json"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
)

// read reads a question as other programs ask it.
func read[T any](t *testing.T, raw string) *T {
	t.Helper()
	var q T
	require.NoError(t, json.Unmarshal([]byte(raw), &q))
	return &q
}

// written is an answer as other programs read it.
func written(t *testing.T, answer any) string {
	t.Helper()
	raw, err := json.Marshal(answer)
	require.NoError(t, err)
	return string(raw)
}

func dec(text string) decimal.Decimal { return decimal.RequireFromString(text) }

func ptr[T any](v T) *T { return &v }

// Discounts of the handbook (chapter 8; compute README: 10.10 less 5 % is 9.59): quantity x price, minus per cent,
// minus an amount, then a share of the receipt's by largest remainder.
func TestDiscounts(t *testing.T) {
	for _, c := range []struct{ why, question, want string }{
		{"a per cent", `{"lines": [{"qty": 3, "price": "9.99", "percent": 15}], "receiptDiscount": 0}`, `["25.47"]`},
		{"a half cent goes away from zero", `{"lines": [{"qty": 1, "price": "10.10", "percent": 5}], "receiptDiscount": 0}`, `["9.59"]`},
		{"per cent and amount", `{"lines": [{"qty": 2, "price": "50", "percent": 10, "off": "5"}], "receiptDiscount": 0}`, `["85"]`},
		{"one on the receipt", `{"lines": [{"qty": 1, "price": "95"}, {"qty": 1, "price": "95"}, {"qty": 1, "price": "120"}], "receiptDiscount": "100"}`, `["64.35","64.36","81.29"]`},
		{"a voucher takes none of it", `{"lines": [{"qty": 1, "price": "60", "fixed": true}, {"qty": 1, "price": "40"}], "receiptDiscount": "10"}`, `["60","30"]`},
		{"a currency without cents", `{"lines": [{"qty": 1, "price": "999", "percent": 15}], "receiptDiscount": 0, "minor": 0}`, `["849"]`},
	} {
		got, err := read[money.Discounted](t, c.question).Amounts()
		require.NoError(t, err, c.why)
		assert.JSONEq(t, c.want, written(t, got), c.why)
	}
	for _, bad := range []string{
		`{"lines": [{"qty": 1, "price": "10", "percent": 101}]}`,
		`{"lines": [{"qty": 1, "price": "10", "percent": -1}]}`,
		`{"lines": [{"qty": 1, "price": "10"}, {"qty": 1, "price": "90", "fixed": true}], "receiptDiscount": "11"}`,
	} {
		_, err := read[money.Discounted](t, bad).Amounts()
		require.Error(t, err, bad)
	}
}

// Cash where coins are missing (handbook, chapter 8: 12.32, 12.33 and 7.65).
func TestCash(t *testing.T) {
	for _, c := range [][3]string{
		{"12.32", "0.05", "12.30"}, {"12.33", "0.05", "12.35"}, {"7.65", "0.10", "7.70"}, {"-12.33", "0.05", "-12.35"},
		{"12.33", "0", "12.33"}, {"1249", "5", "1250"}, {"0.02", "0.05", "0"},
	} {
		got, err := money.Cash(dec(c[0]), dec(c[1]))
		require.NoError(t, err)
		assert.True(t, dec(c[2]).Equal(got), "%s by %s: %s", c[0], c[1], got)
	}
	_, err := money.Cash(dec("1"), dec("-0.05"))
	require.Error(t, err)
}

// The day of the handbook: 150.00 + 312.45 - 25.00 - 12.80 = 424.65, counted 424.25, 274.25 to the bank.
func TestDayClose(t *testing.T) {
	till := read[money.Till](t, `{"float": "150.00", "sales": "312.45", "refunds": "25.00", "paidIn": 0, "paidOut": "12.80", "keep": "150.00",
		"count": {"50": 5, "20": 7, "10": 2, "5": 1, "2": 3, "0.50": 5, "0.05": 15}}`)
	got, err := till.Close()
	require.NoError(t, err)
	assert.JSONEq(t, `{"expected": "424.65", "counted": "424.25", "difference": "-0.4", "toBank": "274.25"}`, written(t, got))
	till.Keep = dec("500")
	got, err = till.Close()
	require.NoError(t, err)
	assert.True(t, got.ToBank.IsZero(), "not below zero")
	for _, worth := range []string{"a note", "-5", "0"} {
		till.Count = map[string]int{worth: 1}
		_, err = till.Close()
		require.Error(t, err, worth)
	}
}

// Vouchers pay in turn the less of what is left and what is due, on their last day too, and nothing past it.
func TestVouchers(t *testing.T) {
	got, err := read[money.Vouchers](t, `{"due": "95.00", "today": "2026-11-24", "vouchers": [
		{"ref": "past", "left": "50", "goodUntil": "2026-11-23"}, {"ref": "last day", "left": "60", "goodUntil": "2026-11-24"},
		{"ref": "without a day", "left": "40", "goodUntil": ""}, {"ref": "not needed", "left": "10", "goodUntil": "2027-01-01"}]}`).Use()
	require.NoError(t, err)
	assert.JSONEq(t, `{"rest": "0", "used": [{"ref": "past", "used": "0", "left": "50"}, {"ref": "last day", "used": "60", "left": "0"},
		{"ref": "without a day", "used": "35", "left": "5"}, {"ref": "not needed", "used": "0", "left": "10"}]}`, written(t, got))
	_, err = (&money.Vouchers{Today: "soon"}).Use()
	require.Error(t, err)
}

// A series of 6 at 500.00 after two visits of 95.00 gives back 333.32 or 310.00 (handbook, chapter 8).
func TestSeriesRefund(t *testing.T) {
	six := `"price": "500.00", "weights": [1, 1, 1, 1, 1, 1], "singles": ["95", "95", "95", "95", "95", "95"]`
	for _, c := range []struct{ why, question, want string }{
		{"pro rata", `{` + six + `, "paid": "500.00", "delivered": 2, "rule": "pro-rata"}`, "333.32"},
		{"by single prices", `{` + six + `, "paid": "500.00", "delivered": 2, "rule": "single"}`, "310.00"},
		{"only what came in", `{` + six + `, "paid": "200.00", "delivered": 2, "rule": "pro-rata"}`, "33.32"},
		{"never below zero", `{` + six + `, "paid": "100.00", "delivered": 2, "rule": "single"}`, "0"},
		{"nothing given yet", `{` + six + `, "paid": "500.00", "delivered": 0, "rule": "pro-rata"}`, "500.00"},
	} {
		got, err := read[money.UnfinishedSeries](t, c.question).Refund()
		require.NoError(t, err, c.why)
		assert.True(t, dec(c.want).Equal(got), "%s: %s", c.why, got)
	}
	for _, bad := range []string{
		`{` + six + `, "paid": "1", "delivered": 7, "rule": "pro-rata"}`, `{` + six + `, "paid": "1", "delivered": 1, "rule": "kindly"}`,
		`{"price": "500", "weights": [1, 1], "paid": "1", "delivered": 1, "rule": "single"}`,
	} {
		_, err := read[money.UnfinishedSeries](t, bad).Refund()
		require.Error(t, err, bad)
	}
}

// The last day: 31 August 2026 + 6 months, frozen 21 days, is 21 March 2027 (handbook, chapter 8).
func TestLastDayOfASeries(t *testing.T) {
	for _, c := range []struct {
		frozen [][2]calendar.Day
		want   calendar.Day
	}{
		{nil, "2027-02-28"},
		{[][2]calendar.Day{{"2026-12-01", "2026-12-22"}}, "2027-03-21"},
		{[][2]calendar.Day{{"2026-12-01", "2026-12-15"}, {"2026-12-10", "2026-12-22"}}, "2027-03-21"}, // days frozen twice count once
		{[][2]calendar.Day{{"2026-12-01", "2026-12-01"}}, "2027-02-28"},
	} {
		got, err := (&money.SoldSeries{Sold: "2026-08-31", Months: 6, Frozen: c.frozen}).LastDay()
		require.NoError(t, err)
		assert.Equal(t, c.want, got)
	}
	for _, bad := range []money.SoldSeries{
		{Sold: "soon"}, {Sold: "2026-08-31", Months: -1}, {Sold: "2026-08-31", Frozen: [][2]calendar.Day{{"2026-12-22", "2026-12-01"}}},
	} {
		_, err := bad.LastDay()
		require.Error(t, err)
	}
}

// The treatment of the handbook's table, term by term: cost 35.52, margin 41.72, 54.0 %, 0.56 a minute.
func TestCostOfATreatment(t *testing.T) {
	visit := read[money.Visit](t, `{"gross": "95.00", "rate": "23", "busyMinutes": 75, "products": ["0.56", "0.52", "0.29"],
		"disposables": [["2", "0.08"], ["4", "0.03"], ["1", "0.05"]], "tools": [{"price": "48.00", "expectedUses": 400}, {"price": "36.00", "expectedUses": 300}],
		"laundry": [["1", "1.10"], ["3", "0.35"]], "wagePerHour": "18.00", "roomPerHour": "6.00", "paidByCard": "95.00", "cardPercent": "1.4", "cardFixed": "0.10"}`)
	got, err := visit.Earn()
	require.NoError(t, err)
	assert.JSONEq(t, `{"terms": {"products": "1.37", "disposables": "0.33", "tools": "0.24", "laundry": "2.15", "time": "22.5", "room": "7.5",
		"card": "1.43", "commission": "0"}, "cost": "35.52", "net": "77.24", "margin": "41.72", "percent": "54", "perMinute": "0.56"}`, written(t, got))
	assert.JSONEq(t, `["2", "0.08"]`, written(t, visit.Disposables[0]))

	visit.PaidByCard = decimal.Zero
	visit.CommissionPercent = dec("30")
	visit.Tools[0].Uses = ptr(dec("2"))
	got, err = visit.Earn()
	require.NoError(t, err)
	assert.Equal(t, []string{"0", "23.17", "0.36"}, []string{got.Terms.Card.String(), got.Terms.Commission.String(), got.Terms.Tools.String()},
		"no fixed fee without a card; 30 % of 77.24; a tool used twice")

	visit.Tools[0].ExpectedUses = decimal.Zero
	_, err = visit.Earn()
	require.ErrorContains(t, err, "uses")
	_, err = (&money.Visit{BusyMinutes: dec("-1")}).Earn()
	require.Error(t, err)
	require.Error(t, json.Unmarshal([]byte(`["1"]`), &money.Pieces{}))
	require.Error(t, json.Unmarshal([]byte(`7`), &money.Pieces{}))
}

// The prices of the handbook: 60 % takes 110.00 at a step of 0.50, 0.60 a minute takes 100.00 at a step of 1.00, and
// 99 % no price.
func TestPriceForAMargin(t *testing.T) {
	base := money.Wanted{Rate: dec("23"), CardPercent: dec("1.4"), CardFixed: dec("0.10"), OtherCost: dec("34.09")}
	price := func(change func(*money.Wanted)) *decimal.Decimal {
		w := base
		change(&w)
		got, err := w.Price()
		require.NoError(t, err)
		return got
	}
	got := price(func(w *money.Wanted) { w.Step, w.Percent = dec("0.50"), ptr(dec("60")) })
	assert.Equal(t, "110", got.String())
	got = price(func(w *money.Wanted) {
		w.Step, w.PerMinute, w.BusyMinutes = dec("1.00"), ptr(dec("0.60")), dec("75")
	})
	assert.Equal(t, "100", got.String())
	assert.Nil(t, price(func(w *money.Wanted) { w.Step, w.Percent = dec("0.50"), ptr(dec("99")) }))
	got = price(func(w *money.Wanted) {
		w.Step, w.Percent, w.OtherCost, w.CardPercent, w.CardFixed, w.Rate = dec("0.01"), ptr(dec("50")), dec("50"), decimal.Zero, decimal.Zero, decimal.Zero
	})
	assert.Equal(t, "100", got.String(), "a price that lies on the step is not raised")

	for _, w := range []money.Wanted{{Percent: ptr(dec("1"))}, {Step: dec("1")}, {Step: dec("1"), Percent: ptr(dec("1")), PerMinute: ptr(dec("1"))}} {
		_, err := w.Price()
		require.Error(t, err)
	}
}

// The price that is asked for leaves the margin, and one step less does not: both by the formula of the margin itself.
func TestThePriceIsTheLeastThatLeavesTheMargin(t *testing.T) {
	margin := func(w *money.Wanted, gross decimal.Decimal) decimal.Decimal {
		net := gross.Mul(dec("100")).DivRound(dec("100").Add(w.Rate), 20)
		return net.Sub(w.OtherCost).Sub(w.CardFixed).Sub(gross.Mul(w.CardPercent).Shift(-2)).Sub(net.Mul(w.CommissionPercent).Shift(-2)).DivRound(net, 20)
	}
	for cents := int64(500); cents < 9000; cents += 333 {
		for _, percent := range []string{"5", "33.3", "60"} {
			w := money.Wanted{
				Rate: dec("23"), CardPercent: dec("1.4"), CardFixed: dec("0.10"), CommissionPercent: dec("12.5"),
				OtherCost: decimal.New(cents, -2), Step: dec("0.05"), Percent: ptr(dec(percent)),
			}
			price, err := w.Price()
			require.NoError(t, err)
			want := dec(percent).Shift(-2)
			assert.True(t, margin(&w, *price).GreaterThanOrEqual(want.Sub(dec("0.000000001"))), "%d %s", cents, percent)
			assert.True(t, margin(&w, price.Sub(w.Step)).LessThan(want), "%d %s", cents, percent)
		}
	}
}

// Visits one may lose before a higher price costs: net rise / (margin + net rise); 4.07 / 45.79 by hand.
func TestLostShare(t *testing.T) {
	assert.Equal(t, "0.0889", money.LostShare(dec("4.07"), dec("41.72")).String())
	assert.Nil(t, money.LostShare(decimal.Zero, dec("41.72")))
	assert.Nil(t, money.LostShare(dec("1"), dec("-2")))
}

// 30 % of 1234.56 and 10 % of 87.40, rounded each; nobody without a per cent is owed anything.
func TestCommission(t *testing.T) {
	got, err := read[money.Commissions](t, `{"bases": {"ines": {"treatment": "1234.56", "retail": "87.40"}, "mara": {"treatment": "410.03", "retail": "0"},
		"tove": {"treatment": "100", "retail": "100"}}, "percent": {"ines": {"treatment": "30", "retail": "10"}, "mara": {"treatment": "35", "retail": "10"}}}`).Commission()
	require.NoError(t, err)
	assert.JSONEq(t, `{"ines": "379.11", "mara": "143.51", "tove": "0"}`, written(t, got))
}
