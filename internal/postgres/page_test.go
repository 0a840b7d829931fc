package postgres_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/portal"
)

// A client's page: appointments of their own are confirmed, cancelled, late within a day, and asked
// to be moved; nothing of anybody else's, and no word of what is treated. A held time is taken.
func TestAClientActsOnTheirPage(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client, other := w.client(t, "Kaia Kestrel"), w.first(t)
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "2 weekly", "from 10 dec", ""))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	made, err := w.svc.Portal.NewClientPage(ctx, &w.desk, client, true)
	require.NoError(t, err)
	assert.NotEmpty(t, made.SentTo)
	token := made.Address[strings.Index(made.Address, "#")+1:]
	page, err := w.svc.Portal.OpenAppointments(ctx, token)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(page.Appointments), 2)
	first, second := booked.Treatments[0].Visit, booked.Treatments[1].Visit

	page, err = w.svc.Portal.Act(ctx, token, portal.ActConfirm, first.ID, "")
	require.NoError(t, err)
	state := func(id uuid.UUID) studio.VisitState {
		v, err := w.svc.Diary.Visit(ctx, &w.owner, id)
		require.NoError(t, err)
		return v.State
	}
	assert.Equal(t, studio.Confirmed, state(first.ID))
	_, err = w.svc.Portal.Act(ctx, token, portal.ActMove, second.ID, "a week later")
	require.NoError(t, err)
	_, err = w.svc.Portal.Act(ctx, token, portal.ActMove, second.ID, "again")
	require.NoError(t, err)
	calls, err := w.svc.Diary.Calls(ctx, &w.desk)
	require.NoError(t, err)
	require.Len(t, calls, 1, "asking twice asks once")
	assert.Equal(t, "Asks to move: a week later", calls[0].Reason)
	_, err = w.svc.Portal.Act(ctx, token, portal.ActCancel, second.ID, "")
	require.NoError(t, err)
	assert.Equal(t, studio.Cancelled, state(second.ID))
	w.now = first.StartsAt.Add(-23 * time.Hour)
	_, err = w.svc.Portal.Act(ctx, token, portal.ActCancel, first.ID, "")
	require.NoError(t, err)
	assert.Equal(t, studio.LateCancelled, state(first.ID))

	_, err = w.svc.Portal.Act(ctx, token, portal.ActCancel, other.ID, "")
	require.ErrorIs(t, err, studio.ErrNotFound, "somebody else's")
	assert.NotEqual(t, studio.Cancelled, state(other.ID))

	id := uuid.New()
	require.NoError(t, w.svc.Diary.Wait(ctx, &w.desk, diary.NewWaiter{ID: id, Client: client, Protocol: first.Protocol}))
	at := series.Spot{Start: first.StartsAt.AddDate(0, 0, 3).Format("2006-01-02 15:04"), Practitioner: first.Practitioner.String()}
	offered, err := w.svc.Diary.OfferTime(ctx, &w.desk, id, uuid.New(), at)
	require.NoError(t, err)
	page, err = w.svc.Portal.OpenAppointments(ctx, token)
	require.NoError(t, err)
	require.Len(t, page.Offers, 1)
	page, err = w.svc.Portal.Act(ctx, token, portal.ActTake, offered.ID, "")
	require.NoError(t, err)
	assert.Empty(t, page.Offers)
	assert.True(t, page.Appointments[len(page.Appointments)-1].Start.Equal(offered.Treatments[0].Visit.StartsAt))

	again, err := w.svc.Portal.NewClientPage(ctx, &w.desk, client, false)
	require.NoError(t, err)
	_, err = w.svc.Portal.OpenAppointments(ctx, token)
	require.ErrorIs(t, err, portal.ErrPage, "the one before has ended")
	w.now = w.now.Add(121 * 24 * time.Hour)
	_, err = w.svc.Portal.OpenAppointments(ctx, again.Address[strings.Index(again.Address, "#")+1:])
	require.ErrorIs(t, err, portal.ErrPage)
}
