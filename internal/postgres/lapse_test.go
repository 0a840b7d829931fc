package postgres_test

import (
	"context"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
)

// A voucher is the holder's until its last day is over; what is left then becomes the studio's by hand, once, and pays
// nothing any more (handbook, chapter 8, Vouchers).
func TestAVoucherLapses(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "40.00")
	last := w.now.AddDate(0, 1, 0)
	line := books.SaleLine{Kind: books.SellVoucher, Amount: "60", Until: last.Format("2006-01-02")}
	number := w.pay(t, sale(nil, by(money.ByCash), line)).Paper.Lines[0].Number
	w.pay(t, sale(nil, []books.SalePay{{By: money.ByVoucher, Ref: number}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	assert.Equal(t, "-20.00", w.balances(t)["vouchers-owed"])

	var state *studio.StateError
	w.now = last
	require.ErrorAs(t, w.svc.Books.LapseVoucher(ctx, &w.owner, number), &state, "its last day is not over")
	assert.Equal(t, "still-good", state.Code)
	w.now = last.AddDate(0, 0, 1)
	require.Error(t, w.svc.Books.LapseVoucher(ctx, &studio.Actor{Studio: w.owner.Studio, Role: studio.Trainee}, number), "not for everybody")
	for range 2 {
		require.NoError(t, w.svc.Books.LapseVoucher(ctx, &w.owner, number), "a repeat changes nothing")
		sums := w.balances(t)
		assert.Empty(t, sums["vouchers-owed"])
		assert.Equal(t, "-20.00", sums["breakage"])
	}
	list, err := w.svc.Books.VoucherList(ctx, &w.owner)
	require.NoError(t, err)
	assert.True(t, list[0].Lapsed)
	pay := sale(nil, []books.SalePay{{By: money.ByVoucher, Ref: number, Despite: "the owner says so"}, {By: money.ByCash}},
		books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
	_, err = w.svc.Books.Pay(ctx, &w.owner, pay)
	assert.Equal(t, "/pay/0/ref", at(err), "nothing is left of it")
	require.Error(t, w.svc.Books.LapseVoucher(ctx, &w.owner, "no such number"))
	w.same(t)
}

// A deposit pays for the appointment that it was left for, once, and for no other.
func TestADepositPaysItsAppointment(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plan := w.plan(t, "95.00")
	v := w.first(t)
	left := sale(&v.Client, by(money.ByCash), books.SaleLine{Kind: books.SellDeposit, Amount: "20"})
	left.Visit = &v.ID
	w.pay(t, left)
	require.Equal(t, "-16.26", w.balances(t)["deposits-owed"], "20.00 without its tax of 23 %")
	to, err := w.svc.Books.VisitSale(ctx, &w.desk, v.ID)
	require.NoError(t, err)
	require.Len(t, to.Deposits, 1)
	ref := to.Deposits[0].ID.String()

	with := func(visit *uuid.UUID, ref string) *books.Sale {
		s := sale(&v.Client, []books.SalePay{{By: money.ByDeposit, Ref: ref}, {By: money.ByCash}}, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan})
		s.Visit = visit
		return s
	}
	for name, s := range map[string]*books.Sale{"no deposit": with(&v.ID, "x"), "of nobody": with(&v.ID, uuid.NewString()), "without its appointment": with(nil, ref)} {
		_, err := w.svc.Books.Quote(ctx, &w.owner, s)
		assert.Equal(t, "/pay/0/ref", at(err), name)
	}
	q, err := w.svc.Books.Quote(ctx, &w.owner, with(&v.ID, ref))
	require.NoError(t, err)
	paid := w.pay(t, with(&v.ID, ref))
	assert.Equal(t, "95.00", q.Total)
	assert.Equal(t, "95", paid.Total.String())
	sums := w.balances(t)
	assert.Empty(t, sums["deposits-owed"])
	assert.Equal(t, "95.00", sums["cash"], "20.00 before, 75.00 now")
	_, err = w.svc.Books.Quote(ctx, &w.owner, with(&v.ID, ref))
	assert.Error(t, err, "it is used")
	w.same(t)
}
