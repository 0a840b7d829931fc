package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// Two treatments in one visit are one client time until the client has arrived: asked for, held,
// priced, moved and cancelled as one. Then each is a visit with a record of its own; a press by mistake
// makes one of them again.
func TestTwoTreatmentsInOneVisit(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	q := w.asks(t, "Kaia Kestrel", "once", "from 14 dec", "")
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	q.What[0].Also = []uuid.UUID{plans[1].ID}
	held, answer := w.hold(t, &w.owner, q)
	assert.Equal(t, plans[0].Body.Name+", then "+plans[1].Body.Name, answer.Items[0].Name)
	length := plans[0].Body.Minutes.Treatment + plans[1].Body.Minutes.Treatment
	assert.Equal(t, length, answer.Items[0].Minutes)
	_, err = w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	all, err := w.svc.Diary.SeriesOf(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	v := all.Treatments[0].Visit
	assert.Equal(t, time.Duration(length)*time.Minute, v.EndsAt.Sub(v.StartsAt))
	assert.Equal(t, time.Duration(plans[1].Body.Minutes.Reset)*time.Minute, v.BusyUntil.Sub(v.EndsAt), "the reset of the last")
	assert.Contains(t, w.newestOf(t, studio.BookingMessage).Body, "Price: 173.00 EUR", "both together")

	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{
		Protocol: v.Protocol, Length: v.EndsAt.Sub(v.StartsAt), Reset: v.BusyUntil.Sub(v.EndsAt), Client: &v.Client,
		From: v.StartsAt.AddDate(0, 0, 1).Format(time.DateOnly), Days: 7, Moved: v.ID,
	})
	require.NoError(t, err)
	to := free[len(free)-1]
	v, err = w.svc.Diary.MoveVisit(ctx, &w.owner, v.ID, studio.NewVisit{Practitioner: to.Practitioner, Room: to.Room, Start: to.Start})
	require.NoError(t, err)
	assert.Equal(t, time.Duration(length)*time.Minute, v.EndsAt.Sub(v.StartsAt), "moved as one")

	w.now = v.StartsAt.Add(-10 * time.Minute)
	parts := func() (out []studio.VisitLine) {
		day, err := w.svc.Diary.Day(ctx, &w.owner, v.StartsAt.Format(time.DateOnly))
		require.NoError(t, err)
		for _, x := range day.Visits {
			if x.Client == v.Client && x.State.TakesTime() {
				out = append(out, x)
			}
		}
		return out
	}
	require.Len(t, parts(), 1)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Arrived, "")
	require.NoError(t, err)
	both := parts()
	require.Len(t, both, 2)
	assert.Equal(t, []uuid.UUID{plans[0].ID, plans[1].ID}, []uuid.UUID{both[0].Protocol, both[1].Protocol})
	assert.Equal(t, both[0].EndsAt, both[1].StartsAt, "nothing between them")
	assert.Equal(t, v.BusyUntil, both[1].BusyUntil)
	assert.Equal(t, v.ID, *both[1].PartOf)

	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Booked, "")
	require.NoError(t, err)
	require.Len(t, parts(), 1, "pressed by mistake")
	assert.Equal(t, v.EndsAt, parts()[0].EndsAt)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Arrived, "")
	require.NoError(t, err)

	both = parts()
	require.Len(t, both, 2)
	w.treated(t, both[0], map[string]contraindication.Answer{})
	w.treated(t, both[1], map[string]contraindication.Answer{})
	for _, x := range parts() {
		assert.Equal(t, studio.Done, x.State)
		rec, err := w.svc.Treatment.Record(ctx, &w.owner, x.ID)
		require.NoError(t, err)
		assert.NotNil(t, rec.Treatment.FinishedAt, "a record of its own")
	}
}
