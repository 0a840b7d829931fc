package postgres_test

import (
	"context"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// Two clients who come together are booked at one start with other hands in rooms of their own, both or
// neither; when one cancels the other's appointment stands, and the desk asks.
func TestTwoWhoComeTogetherAreBookedTogether(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	plans, err := w.svc.Protocols.Protocols(ctx, &w.owner)
	require.NoError(t, err)
	q := diary.TogetherQuestion{When: "from 14 dec", Who: []diary.TogetherGuest{
		{Client: w.client(t, "Kaia Kestrel"), Protocol: plans[0].ID}, {Client: w.client(t, "Ada Abendroth"), Protocol: plans[0].ID},
	}}
	answer, err := w.svc.Diary.FindTogether(ctx, &w.desk, q)
	require.NoError(t, err)
	require.Len(t, answer.Offers, 3)
	places := func(o *diary.TogetherOffer) (out []series.Placed) {
		for _, v := range o.Visits {
			out = append(out, series.Placed{Kind: v.Kind, N: v.N, Start: v.Wall, Practitioner: v.Practitioner.String(), Room: v.Room.String()})
		}
		return out
	}
	n := diary.NewTogether{ID: uuid.New(), TogetherQuestion: q, Visits: places(&answer.Offers[0])}
	both, err := w.svc.Diary.BookTogether(ctx, &w.desk, n)
	require.NoError(t, err)
	require.Len(t, both, 2)
	assert.Equal(t, both[0].StartsAt, both[1].StartsAt)
	assert.NotEqual(t, both[0].Practitioner, both[1].Practitioner)
	assert.NotEqual(t, both[0].Room, both[1].Room)
	again, err := w.svc.Diary.BookTogether(ctx, &w.desk, n)
	require.NoError(t, err)
	assert.Len(t, again, 2, "a repeat is safe")

	q.Who[0].Client, q.Who[1].Client = w.client(t, "Dario Dunmore"), w.client(t, "Hugo Harkin")
	before := w.count(t, "select count(*) from visit")
	_, err = w.svc.Diary.BookTogether(ctx, &w.desk, diary.NewTogether{ID: uuid.New(), TogetherQuestion: q, Visits: n.Visits})
	var taken *diary.SeriesTakenError
	require.ErrorAs(t, err, &taken)
	assert.Equal(t, before, w.count(t, "select count(*) from visit"), "both or neither")

	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, both[0].ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	other, err := w.svc.Diary.Visit(ctx, &w.desk, both[1].ID)
	require.NoError(t, err)
	assert.Equal(t, studio.Booked, other.State)
	calls, err := w.svc.Diary.Calls(ctx, &w.desk)
	require.NoError(t, err)
	require.Len(t, calls, 1)
	assert.Equal(t, both[1].ID, calls[0].Visit)
	assert.Contains(t, calls[0].Reason, both[0].ClientName)

	q.Who[1].Client = q.Who[0].Client
	_, err = w.svc.Diary.FindTogether(ctx, &w.desk, q)
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
}
