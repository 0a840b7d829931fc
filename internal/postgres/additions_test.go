package postgres_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// A record that was signed stays as it is; what is remembered later is added with its day
// and its author, is never changed, and goes with the client (common practice of records).
func TestALockedRecordIsAddedTo(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	_, err := w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Body: "too early"})
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "not-started", state.Code)
	w.checked(t, v, nil)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	left := &room.Treatment.Evaluation.Steps[3]
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Skip, Step: left.ID}))
	_, err = w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Body: "still open"})
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "record-open", state.Code)
	rec, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	locked, err := w.svc.Treatment.SignAndLock(ctx, &w.owner, v.ID, rec.Record)
	require.NoError(t, err)
	assert.Equal(t, []string{left.Name}, locked.Skipped)

	for _, wrong := range []string{" ", strings.Repeat("ж", 4001)} {
		_, err = w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Body: wrong})
		var input *studio.InputError
		require.ErrorAs(t, err, &input)
		assert.Equal(t, "/body", input.Problems[0].Path)
	}
	_, err = w.svc.Treatment.AddToRecord(ctx, &w.desk, v.ID, treatment.NewAddition{Body: "from the desk"})
	require.ErrorIs(t, err, studio.ErrForbidden)
	w.now = w.now.Add(26 * time.Hour)
	_, err = w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Body: " She called: pink until the evening. "})
	require.NoError(t, err)
	w.now = w.now.Add(time.Hour)
	added, err := w.svc.Treatment.AddToRecord(ctx, &w.owner, v.ID, treatment.NewAddition{Body: strings.Repeat("ж", 4000)})
	require.NoError(t, err)
	require.Len(t, added.Additions, 2)
	assert.Equal(t, "She called: pink until the evening.", added.Additions[0].Body)
	assert.Equal(t, w.owner.Name, added.Additions[0].Author)
	assert.Equal(t, w.now, added.Additions[1].At.UTC())
	assert.Equal(t, locked.Record, added.Record)

	file, err := w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	found := 0
	for _, tr := range file.Treatments {
		found += len(tr.Additions)
	}
	assert.Equal(t, 2, found)
	f, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, f.Client.Name))
	assert.Zero(t, w.count(t, "select count(*) from record_addition"))
}
