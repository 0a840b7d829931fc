package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/portal"
)

// A client's calendar holds the client's own appointments to come, or the one that was asked for, and rings where they want
// it; what is cancelled says so.
func TestAClientsOwnCalendar(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	booked := w.twoWeekly(t)
	token := linkIn(t, w.told(t, "Kaia Kestrel")[0].Body, "/appointments")
	all, err := w.svc.Portal.OwnCalendar(ctx, token, nil, false)
	require.NoError(t, err)
	page, err := w.svc.Portal.OpenAppointments(ctx, token)
	require.NoError(t, err)
	assert.Len(t, all.Events, len(page.Appointments), "what the page shows")
	assert.Equal(t, "Europe/Lisbon", all.Zone)
	for _, e := range all.Events {
		assert.False(t, e.Alarm)
		assert.True(t, e.End.After(w.now))
	}

	first, second := booked.Treatments[0].Visit, booked.Treatments[1].Visit
	one, err := w.svc.Portal.OwnCalendar(ctx, token, &first.ID, true)
	require.NoError(t, err)
	require.Len(t, one.Events, 1)
	assert.True(t, one.Events[0].Start.Equal(first.StartsAt))
	assert.True(t, one.Events[0].Alarm)

	others := w.first(t)
	_, err = w.svc.Portal.OwnCalendar(ctx, token, &others.ID, false)
	require.ErrorIs(t, err, studio.ErrNotFound, "another client's appointment")
	_, err = w.svc.Portal.OwnCalendar(ctx, "not a link", nil, false)
	require.Error(t, err)

	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, second.ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	one, err = w.svc.Portal.OwnCalendar(ctx, token, &second.ID, false)
	require.NoError(t, err)
	assert.Equal(t, "CANCELLED", one.Events[0].Status, "so that the client's calendar takes it out (RFC 5545, 3.8.1.11)")
	assert.Equal(t, 1, one.Events[0].Sequence)
}

// A held series that is sent waits for its client, who takes it or lets it go by link; another client's link can do neither,
// and what was let go is free again.
func TestAnOfferIsTakenOrLeftByLink(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.twoWeekly(t)
	token := linkIn(t, w.told(t, "Kaia Kestrel")[0].Body, "/appointments")
	offer := func(when string) uuid.UUID {
		held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "once", when, ""))
		sent, err := w.svc.Diary.SendHold(ctx, &w.owner, held.ID)
		require.NoError(t, err)
		assert.True(t, sent.HeldUntil.After(held.HeldUntil.Add(time.Minute)), "longer than at the desk")
		told := len(w.told(t, "Kaia Kestrel"))
		again, err := w.svc.Diary.SendHold(ctx, &w.owner, held.ID)
		require.NoError(t, err)
		assert.Equal(t, sent.HeldUntil, again.HeldUntil, "a repeat holds it no longer")
		assert.Len(t, w.told(t, "Kaia Kestrel"), told, "and tells nothing")
		page, err := w.svc.Portal.OpenAppointments(ctx, token)
		require.NoError(t, err)
		require.Len(t, page.Offers, 1)
		assert.Equal(t, held.ID, page.Offers[0].Series)
		return held.ID
	}

	left := offer("from 4 jan")
	var st *studio.Studio
	require.NoError(t, w.within(func(tx *postgres.Tx) (err error) {
		st, err = tx.Studio(ctx)
		return err
	}))
	stranger := w.client(t, "Greta Gillow")
	require.ErrorIs(t, w.svc.Diary.LeaveOffer(ctx, st, stranger, left), studio.ErrNotFound)
	require.ErrorIs(t, w.svc.Diary.TakeOffer(ctx, st, stranger, left), studio.ErrNotFound)
	page, err := w.svc.Portal.Act(ctx, token, portal.ActLeave, left, "")
	require.NoError(t, err)
	assert.Empty(t, page.Offers)
	appointments := len(page.Appointments)

	taken := offer("from 4 jan")
	page, err = w.svc.Portal.Act(ctx, token, portal.ActTake, taken, "")
	require.NoError(t, err)
	assert.Empty(t, page.Offers)
	assert.Len(t, page.Appointments, appointments+1)
	_, err = w.svc.Portal.Act(ctx, token, portal.ActTake, left, "")
	require.Error(t, err, "what was let go is no offer any more")
}
