package money_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
)

// sold500 is the handbook's series of 6 at 500.00 with 23 % in it, sold by card, with its tax due at the sale or later.
func sold500(later bool) money.Event {
	return money.Event{Kind: money.Receipt, Pay: []money.Pay{{By: money.ByCard}}, Lines: []money.EventLine{{ReceiptLine: money.ReceiptLine{
		Kind: money.SeriesLine, Gross: dec("500"), Rate: ptr(dec("23")), Ref: "S", Visits: 6, Deferred: later,
	}}}}
}

// postedBy posts events and answers the balances they leave.
func postedBy(t *testing.T, mode money.TaxMode, events ...money.Event) money.Postings {
	t.Helper()
	book := money.NewBook(money.Rules{Minor: 2, Mode: mode})
	sums := money.Postings{}
	for i := range events {
		done, err := book.Post(&events[i])
		require.NoError(t, err)
		require.True(t, money.Sum(done.Postings).Balanced())
		for a, amount := range money.Sum(done.Postings) {
			sums[a] = sums[a].Add(amount)
		}
	}
	return sums
}

func holds(t *testing.T, sums money.Postings, want map[money.Account]string) {
	t.Helper()
	for a, amount := range sums {
		if text, named := want[a]; named || !amount.IsZero() {
			assert.Equal(t, text, amount.StringFixed(2), a)
		}
	}
}

// Tax of what is paid ahead may be due at delivery (handbook, chapter 8, Prepaid things): the sale owes the gross, each
// visit its own tax, 67.75 net of a share of 83.34 as on the handbook's small day.
func TestTaxOfASeriesDueWhenItsVisitsAreGiven(t *testing.T) {
	visit := money.Event{Kind: money.Delivered, Series: "S"}
	holds(t, postedBy(t, "", sold500(true)), map[money.Account]string{money.CardCompany: "500.00", money.SeriesOwed: "-500.00"})
	holds(t, postedBy(t, "", sold500(true), visit), map[money.Account]string{
		money.CardCompany: "500.00", money.SeriesOwed: "-416.66", money.Treatments: "-67.75", money.OutputTax: "-15.59",
	})
	all := []money.Event{sold500(true), visit, visit, visit, visit, visit, visit}
	holds(t, postedBy(t, "", all...), map[money.Account]string{
		money.CardCompany: "500.00", money.SeriesOwed: "0.00", money.Treatments: "-406.50", money.OutputTax: "-93.50",
	})
}

// Given back by either rule, or with its tax added to the price, a series leaves the same in the books in the end,
// whenever its tax was due (follows from the handbook's formulas).
func TestWhenTaxIsDueChangesNothingInTheEnd(t *testing.T) {
	visit := money.Event{Kind: money.Delivered, Series: "S"}
	for _, mode := range []money.TaxMode{money.TaxIncluded, money.TaxAdded} {
		for _, rule := range []money.RefundRule{money.ProRata, money.Single} {
			back := money.Event{Kind: money.SeriesRefunded, Series: "S", Rule: rule, Single: dec("95"), Pay: []money.Pay{{By: money.ByBank}}}
			assert.Equal(t, postedBy(t, mode, sold500(false), visit, back), postedBy(t, mode, sold500(true), visit, back), "%s, %s", mode, rule)
		}
	}
}

// A treatment voucher used for another protocol counts as its gross share, and the rest is paid (handbook, chapter 8):
// 83.34 of 95.00. The tax of the share comes off the receipt's, so that the whole bears it once.
func TestATreatmentVoucherPaysForAnotherTreatment(t *testing.T) {
	other := money.Event{Kind: money.Receipt, Pay: []money.Pay{{By: money.ByVoucher, Ref: "S"}, {By: money.ByCash}}, Lines: []money.EventLine{{
		ReceiptLine: money.ReceiptLine{Kind: money.TreatmentLine, Gross: dec("95"), Rate: ptr(dec("23"))},
	}}}
	holds(t, postedBy(t, "", sold500(false), other), map[money.Account]string{
		money.CardCompany: "500.00", money.SeriesOwed: "-338.75", money.CashTill: "11.66", money.Treatments: "-77.24", money.OutputTax: "-95.67",
	})
	holds(t, postedBy(t, "", sold500(true), other), map[money.Account]string{
		money.CardCompany: "500.00", money.SeriesOwed: "-416.66", money.CashTill: "11.66", money.Treatments: "-77.24", money.OutputTax: "-17.76",
	})
	share := dec("-83.34")
	back := money.Event{Kind: money.Credited, Event: 1, Lines: []money.EventLine{{Index: 0}}, Pay: []money.Pay{
		{By: money.ByVoucher, Ref: "S", Amount: &share}, {By: money.ByCash},
	}}
	holds(t, postedBy(t, "", sold500(false), other, back), map[money.Account]string{
		money.CardCompany: "500.00", money.SeriesOwed: "-406.50", money.OutputTax: "-93.50",
	})

	cheap := other
	cheap.Lines = []money.EventLine{{ReceiptLine: money.ReceiptLine{Kind: money.RetailLine, Gross: dec("20"), Rate: ptr(dec("23"))}}}
	book := money.NewBook(money.Rules{Minor: 2})
	first := sold500(false)
	_, err := book.Post(&first)
	require.NoError(t, err)
	_, err = book.Post(&cheap)
	assert.ErrorContains(t, err, "counts for more than is due")
}
