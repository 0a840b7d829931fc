package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/money"
	"softpalm/internal/httpapi"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/protocols"
)

// The studio's own words reach whom they are for: the room, a client who opens a private
// link, and who signs. What was signed before keeps its text and stays valid.
func TestTheStudiosOwnTexts(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	now, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	next := now.Settings
	next.Emergency, next.Policies, next.ConsentTreatment = "Ring the bell in the hall.", "Cancel a day before.", "I agree to the massage."
	next.Address = "9 Lantern Row"
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, now.Revision, next)
	require.NoError(t, err)

	signed, err := w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "Somebody", false, signature)
	require.NoError(t, err)
	assert.Equal(t, "I agree to the massage.", signed.Body)
	assert.NotEqual(t, studio.StandardConsentTexts[0].Version, signed.Version)
	texts, err := w.svc.Clients.ConsentTexts(ctx, &w.desk)
	require.NoError(t, err)
	assert.Equal(t, signed.Version, texts[0].Version)

	link, err := w.svc.Checks.NewLink(ctx, &w.owner, v.Client, false)
	require.NoError(t, err)
	seen, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "phone"})
	require.NoError(t, err)
	assert.Equal(t, "Cancel a day before.", seen.Policies)

	w.checked(t, v, nil)
	require.NoError(t, w.start(t, v.ID))
	var room httpapi.RoomGuideView
	status, _ := w.as(t, "owner@demo.example", "demo palms 1")("GET", "/api/visits/"+v.ID.String()+"/room", nil, &room)
	require.Equal(t, 200, status)
	assert.Equal(t, "Ring the bell in the hall.", room.Emergency)
	assert.Equal(t, "9 Lantern Row", room.Address)
}

// Files past their time are listed for the owner, the longest first.
func TestFilesPastTheirTime(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	list, err := w.svc.Clients.PastFiles(ctx, &w.owner)
	require.NoError(t, err)
	assert.Empty(t, list)
	w.now = start.AddDate(10, 6, 0)
	list, err = w.svc.Clients.PastFiles(ctx, &w.owner)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	today := calendar.Day(w.now.Format(time.DateOnly))
	for i, f := range list {
		assert.LessOrEqual(t, f.Past, today)
		assert.Less(t, f.Last, today.Plus(-3650))
		if i > 0 {
			assert.LessOrEqual(t, list[i-1].Last, f.Last, "the longest first")
		}
	}
	_, err = w.svc.Clients.PastFiles(ctx, &w.desk)
	require.ErrorIs(t, err, studio.ErrForbidden)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, list[0].Client, list[0].Name))
	w.asOwner(t, "client", "update client set birth_date = '2013-03-02' where id = $1", list[1].Client)
	after, err := w.svc.Clients.PastFiles(ctx, &w.owner)
	require.NoError(t, err)
	assert.Equal(t, list[2:], after, "one is deleted, the other was 13 when last seen")
}

// What a client pays has the studio's tax in it as soon as the settings say so.
func TestPricesHaveTheStudiosTax(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	now, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	next := now.Settings
	next.Tax = studio.Tax{TaxName: "VAT", Rate: "20", Mode: money.TaxAdded, Number: "XX 1"}
	saved, err := w.svc.House.ChangeSettings(ctx, &w.owner, now.Revision, next)
	require.NoError(t, err)
	assert.Equal(t, next.Tax, saved.Tax)
	var list []httpapi.ProtocolListView
	status, _ := w.as(t, "desk@demo.example", "demo palms 3")("GET", "/api/protocols", nil, &list)
	require.Equal(t, 200, status)
	require.NotEmpty(t, list)
	for _, p := range list {
		price := decimal.RequireFromString(p.Price)
		assert.Equal(t, price.Mul(decimal.RequireFromString("1.2")).StringFixed(2), p.Asked.Amount, p.Name)
		assert.Equal(t, "VAT", p.Asked.TaxName)
	}
}

// What a protocol costs and leaves follows from the settings; only an owner may ask, and nothing is saved by asking.
func TestTheMarginFollowsTheSettings(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	now, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	next := now.Settings
	next.Costs = studio.Costs{WagePerHour: "20", RoomPerHour: "6"}
	saved, err := w.svc.House.ChangeSettings(ctx, &w.owner, now.Revision, next)
	require.NoError(t, err)
	assert.Equal(t, next.Costs, saved.Costs)

	plans, err := w.plans(ctx)
	require.NoError(t, err)
	plan := plans[0]
	as := w.as(t, "owner@demo.example", "demo palms 1")
	ask := func(query string) (m protocols.Margin) {
		status, body := as("GET", "/api/protocols/"+plan.ID.String()+"/margin"+query, nil, &m)
		require.Equal(t, 200, status, body)
		return m
	}
	is := ask("")
	assert.Equal(t, []string{"disposables", "laundry", "card"}, is.Unsaid)
	hours := decimal.NewFromInt(int64(is.Minutes)).DivRound(decimal.NewFromInt(60), 12)
	terms := map[string]string{}
	for _, term := range is.Terms {
		terms[term.Name] = term.Amount
	}
	assert.Equal(t, hours.Mul(decimal.NewFromInt(20)).StringFixed(2), terms["time"])
	assert.Equal(t, hours.Mul(decimal.NewFromInt(6)).StringFixed(2), terms["room"])
	dearer := ask("?percent=70")
	percent := decimal.RequireFromString(dearer.Percent)
	assert.True(t, percent.GreaterThanOrEqual(decimal.NewFromInt(70)), dearer.Percent)
	assert.Equal(t, is.Price, ask("").Price, "nothing was saved")

	status, _ := as("GET", "/api/protocols/"+plan.ID.String()+"/margin?price=free", nil, nil)
	assert.Equal(t, 422, status)
	status, _ = w.as(t, "maud@demo.example", "demo palms 2")("GET", "/api/protocols/"+plan.ID.String()+"/margin", nil, nil)
	assert.Equal(t, 403, status)
}
