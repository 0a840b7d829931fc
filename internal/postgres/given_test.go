package postgres_test

import (
	"context"
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
)

// given are the treatments of some weeks, by appointment.
func (w *world) given(t *testing.T, protocol string) map[uuid.UUID]books.GivenVisit {
	t.Helper()
	out := map[uuid.UUID]books.GivenVisit{}
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		list, err := tx.GivenVisits(context.Background(), w.now.AddDate(0, -3, 0), w.now.Add(time.Hour), protocol)
		for _, g := range list {
			assert.NotContains(t, out, g.Visit, "each treatment once")
			out[g.Visit] = g
		}
		return err
	}))
	return out
}

// What treatments brought (handbook, chapter 8, What a visit leaves): each its own net without what was given back, with
// the part of it that the card company sees; or its share of a series; nothing where nobody has paid. 95.00 with 23 % of
// tax in it is 77.24 net, by hand.
func TestWhatTreatmentsBrought(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.taxed(t, "23")
	w.terminal(t)
	v := w.first(t)
	plan := v.Protocol
	w.price(t, books.DatedPrice{Protocol: &plan, Amount: decimal.NewFromInt(95)})
	pay := func(visit uuid.UUID, how ...books.SalePay) *books.Receipt {
		s := sale(&v.Client, how, books.SaleLine{Kind: books.SellTreatment, Protocol: &plan, Practitioner: &v.Practitioner})
		s.Visit = &visit
		return w.pay(t, s)
	}
	next := func() uuid.UUID {
		again := w.again(t, v.Client, plan, w.now.AddDate(0, 0, 8).Format(time.DateOnly))
		w.treated(t, again, nil)
		return again.ID
	}

	w.treated(t, v, nil)
	pay(v.ID, by(money.ByCash)...)
	half := next()
	pay(half, books.SalePay{By: money.ByCard, Amount: "47.50"}, books.SalePay{By: money.ByCash})
	twice := next()
	first := pay(twice, by(money.ByCash)...)
	_, err := w.svc.Books.GiveBack(ctx, &w.owner, first.ID, &books.LinesBack{ID: studio.NewID(), Lines: []int{0}, Why: "paid by the wrong way"})
	require.NoError(t, err)
	pay(twice, by(money.ByCard)...)
	nobody := next()

	got := w.given(t, "")
	net, card := decimal.RequireFromString("77.24"), decimal.RequireFromString
	for _, want := range []struct {
		name  string
		visit uuid.UUID
		net   *decimal.Decimal
		card  decimal.Decimal
	}{
		{"cash", v.ID, &net, decimal.Zero},
		{"half by card", half, &net, card("47.50")},
		{"given back in cash and paid by card", twice, &net, card("95")},
		{"nobody has paid", nobody, nil, decimal.Zero},
	} {
		t.Run(want.name, func(t *testing.T) {
			g, there := got[want.visit]
			require.True(t, there)
			if want.net == nil {
				assert.Nil(t, g.Net)
			} else if assert.NotNil(t, g.Net) {
				assert.Equal(t, want.net.StringFixed(2), g.Net.StringFixed(2))
			}
			assert.Equal(t, want.card.StringFixed(2), g.Card.StringFixed(2))
			assert.Equal(t, g.PlannedMinutes, g.Minutes, "the diary's minutes are those of the plan")
			assert.Positive(t, g.Minutes)
		})
	}
	name := got[v.ID].Protocol
	unpaid, alike := 0, 0
	for _, g := range got {
		if g.Net == nil {
			unpaid++
		}
		if g.Protocol == name {
			alike++
		}
	}
	assert.Len(t, w.given(t, name), alike, "only those of the protocol")
	assert.Less(t, alike, len(got))
	assert.Empty(t, w.given(t, name+" of another studio"))

	earned, err := w.svc.Books.EarnedOf(ctx, &w.owner, name, "")
	require.NoError(t, err)
	assert.Len(t, earned, 3, "those paid for")
	assert.Equal(t, twice, earned[0].Visit, "the newest first")
	sunday, err := w.svc.Books.Sunday(ctx, &w.owner, "")
	require.NoError(t, err)
	assert.Equal(t, unpaid, sunday.Pays.Unpaid)
	require.Len(t, sunday.Pays.Protocols, 1)
	assert.Equal(t, "231.72", sunday.Pays.Protocols[0].Net.StringFixed(2), "three times 77.24")
}

// A visit of a series brings its share, and of the card what the series was paid with (handbook, chapter 8, Shares: the
// first of six of 500.00 is 83.34, 67.75 net).
func TestWhatAShareBrought(t *testing.T) {
	w := newWorld(t)
	w.taxed(t, "23")
	w.terminal(t)
	v := w.first(t)
	plan := v.Protocol
	w.price(t, books.DatedPrice{Protocol: &plan, Visits: 6, Amount: decimal.NewFromInt(500)})
	w.pay(t, sale(&v.Client, by(money.ByCard), books.SaleLine{Kind: books.SellSeries, Protocol: &plan, Visits: 6}))
	w.treated(t, v, nil)
	g, there := w.given(t, "")[v.ID]
	require.True(t, there)
	require.NotNil(t, g.Net)
	assert.Equal(t, "67.75", g.Net.StringFixed(2))
	assert.Equal(t, "83.34", g.Card.StringFixed(2))
}
