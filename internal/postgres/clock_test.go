package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
)

// A clock that was two days ahead for a while and is right again: the check of the day to
// come judges nothing, the room keeps going, nobody stays shut out, and what happened to a
// visit stays in its order.
func TestAClockThatWasWrongForAWhile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	right := w.now
	v := w.first(t)

	w.now = right.Add(48 * time.Hour)
	w.checked(t, v, map[string]contraindication.Answer{"fever": {Yes: true, Day: "2026-11-26", Ongoing: true}})
	for range 30 {
		_, err := w.in(t, "maud@demo.example", "wrong wrong", "")
		require.Error(t, err)
	}

	w.now = right
	_, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err, "nobody is shut out until the day that the clock showed")
	_, err = w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, studio.PlanOptions{})
	var state *studio.StateError
	require.ErrorAs(t, err, &state, "a check of a day to come is none of today")
	assert.Equal(t, "no-door-check", state.Code)
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	for _, x := range day.Visits {
		if x.ID == v.ID {
			assert.NotEqual(t, string(contraindication.DoNotTreat), x.Outlook)
		}
	}
	w.checked(t, v, nil)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID), "today's check counts, though the other is dated later")

	w.now = right.Add(48 * time.Hour)
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Skip, Step: "one"}))
	w.now = right.Add(time.Minute)
	require.NoError(t, w.happened(v.ID, guide.Event{Kind: guide.Skip, Step: "two"}))
	room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"one", "two"}, room.Heard.Standing.Skipped, "whatever the clock said, nothing is thrown away")

	next := w.next(t, w.client(t, "Greta"))
	for i, to := range []studio.VisitState{studio.Confirmed, studio.Arrived, studio.NoShow, studio.Arrived} {
		w.now = next.StartsAt.Add(time.Duration(4-i) * 30 * time.Minute) // every step half an hour before the one before
		_, err := w.svc.Diary.SetVisitState(ctx, &w.owner, next.ID, to, "asked to")
		require.NoError(t, err)
	}
	assert.Equal(t, 1, w.count(t, "select count(*) from (select array_agg(state order by at) as states from visit_change where visit_id = '"+next.ID.String()+
		"') x where states[cardinality(states)-3:] = array['confirmed', 'arrived', 'no-show', 'arrived']"), "in the order in which it happened")
}
