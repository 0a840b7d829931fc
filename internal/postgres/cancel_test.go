package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// Cancelling keeps its reason and can be taken back for a minute, by who did it and where
// the time is still free; what was confirmed is confirmed again (common practice).
func TestCancellingIsUndone(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.next(t, w.first(t).Client)
	_, err := w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Confirmed, "")
	require.NoError(t, err)
	var input *studio.InputError
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Cancelled, " ")
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/reason", input.Problems[0].Path)
	cancel := func() *studio.VisitLine {
		t.Helper()
		out, err := w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Cancelled, " Client is ill ")
		require.NoError(t, err)
		return out
	}
	gone := cancel()
	assert.Equal(t, "Client is ill", gone.CancelReason)
	require.NotNil(t, gone.UndoUntil)
	assert.WithinDuration(t, w.now.Add(time.Minute), *gone.UndoUntil, time.Millisecond)
	seen, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, "Client is ill", seen.CancelReason)
	assert.Nil(t, seen.UndoUntil, "somebody else cancelled it")
	var state *studio.StateError
	_, err = w.svc.Diary.UndoCancel(ctx, &w.owner, v.ID)
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "too-late", state.Code)

	w.now = w.now.Add(59 * time.Second)
	back, err := w.svc.Diary.UndoCancel(ctx, &w.desk, v.ID)
	require.NoError(t, err)
	assert.Equal(t, studio.Confirmed, back.State)
	assert.Nil(t, back.UndoUntil)
	_, err = w.svc.Diary.UndoCancel(ctx, &w.desk, v.ID)
	require.ErrorAs(t, err, &state, "there is nothing to undo any more")

	cancel()
	w.now = w.now.Add(2 * time.Minute)
	_, err = w.svc.Diary.UndoCancel(ctx, &w.desk, v.ID)
	require.ErrorAs(t, err, &state)
	seen, err = w.svc.Diary.Visit(ctx, &w.desk, v.ID)
	require.NoError(t, err)
	assert.Nil(t, seen.UndoUntil)

	again := w.next(t, w.client(t, "Viktor"))
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, again.ID, studio.Cancelled, "by mistake")
	require.NoError(t, err)
	other, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "Pia Lindqvist", SkinType: "dry"})
	require.NoError(t, err)
	_, err = w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: other.ID, Practitioner: again.Practitioner, Room: again.Room, Protocol: again.Protocol, Start: again.StartsAt})
	require.NoError(t, err)
	var taken *studio.TakenError
	_, err = w.svc.Diary.UndoCancel(ctx, &w.desk, again.ID)
	require.ErrorAs(t, err, &taken, "the time was given away")
	seen, err = w.svc.Diary.Visit(ctx, &w.owner, again.ID)
	require.NoError(t, err)
	assert.Contains(t, []studio.VisitState{studio.Cancelled, studio.LateCancelled}, seen.State)
}

// A visit that was cancelled in time stays so, however late the same is asked again.
func TestCancelledTwiceIsNotLate(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	first := w.first(t)
	v := w.again(t, first.Client, first.Protocol, "2026-12-14")
	w.now = start
	out, err := w.svc.Diary.SetVisitState(ctx, &w.owner, v.ID, studio.Cancelled, "ill")
	require.NoError(t, err)
	require.Equal(t, studio.Cancelled, out.State)
	w.now = v.StartsAt.Add(-time.Hour)
	out, err = w.svc.Diary.SetVisitState(ctx, &w.owner, v.ID, studio.Cancelled, "ill")
	require.NoError(t, err)
	assert.Equal(t, studio.Cancelled, out.State)
}

// Why a visit was cancelled may tell of health: it goes with a deleted client.
func TestADeletedClientsCancellingTellsNothing(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	_, err := w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	require.Equal(t, 1, w.count(t, "select count(*) from visit_change where reason <> ''"))
	f, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, f.Client.Name))
	assert.Zero(t, w.count(t, "select count(*) from visit_change where reason <> ''"))
}
