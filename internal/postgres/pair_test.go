package postgres_test

import (
	"context"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// placed are the visits of an offer as they are booked.
func placed(o *diary.TogetherOffer) (out []series.Placed) {
	for _, v := range o.Visits {
		out = append(out, series.Placed{Kind: v.Kind, N: v.N, Start: v.Wall, Practitioner: v.Practitioner.String(), Room: v.Room.String()})
	}
	return out
}

// Two clients who come together are booked at one start with other hands in rooms of their own, both or
// neither; when one cancels the other's appointment stands, and the desk asks.
func TestTwoWhoComeTogetherAreBookedTogether(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	roster, err := w.svc.Diary.Roster(ctx, &w.owner)
	require.NoError(t, err)
	for _, r := range roster.Rooms {
		require.NoError(t, w.svc.Diary.SaveRoom(ctx, &w.owner, r.ID, diary.RoomFields{Name: r.Name, Equipment: r.Equipment, Places: 1}))
	}
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	q := diary.TogetherQuestion{When: "from 14 dec", Who: []diary.TogetherGuest{
		{Client: w.client(t, "Kaia Kestrel"), Protocol: plans[0].ID}, {Client: w.client(t, "Ada Abendroth"), Protocol: plans[0].ID},
	}}
	answer, err := w.svc.Diary.FindTogether(ctx, &w.desk, q)
	require.NoError(t, err)
	require.Len(t, answer.Offers, 3)
	n := diary.NewTogether{ID: uuid.New(), TogetherQuestion: q, Visits: placed(&answer.Offers[0])}
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

// person is a practitioner who treats none of some visits.
func (w *world) person(t *testing.T, visits []studio.VisitLine) uuid.UUID {
	t.Helper()
	v, err := w.svc.Diary.Roster(context.Background(), &w.owner)
	require.NoError(t, err)
	for _, p := range v.People {
		if !slices.ContainsFunc(visits, func(x studio.VisitLine) bool { return x.Practitioner == p.ID }) {
			return p.ID
		}
	}
	t.Fatal("everybody treats one of them")
	return uuid.Nil
}

// A room with two couches holds two who come together, booked in it at once; nobody else gets in, and
// who moves away from there has their new room alone.
func TestARoomWithTwoCouchesIsSharedByAPair(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	id := uuid.New()
	require.NoError(t, w.svc.Diary.AddRoom(ctx, &w.owner, id, diary.RoomFields{Name: "Pair room", Places: 2}))
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	q := diary.TogetherQuestion{When: "from 14 dec", Who: []diary.TogetherGuest{
		{Client: w.client(t, "Kaia Kestrel"), Protocol: plans[0].ID}, {Client: w.client(t, "Ada Abendroth"), Protocol: plans[0].ID},
	}}
	answer, err := w.svc.Diary.FindTogether(ctx, &w.desk, q)
	require.NoError(t, err)
	require.NotEmpty(t, answer.Offers)
	n := diary.NewTogether{ID: uuid.New(), TogetherQuestion: q, Visits: placed(&answer.Offers[0])}
	both, err := w.svc.Diary.BookTogether(ctx, &w.desk, n)
	require.NoError(t, err)
	require.Len(t, both, 2)
	assert.Equal(t, []uuid.UUID{id, id}, []uuid.UUID{both[0].Room, both[1].Room})

	third := both[0].Visit
	third.ID, third.Client, third.Practitioner = uuid.New(), w.client(t, "Hugo Harkin"), w.person(t, both)
	third.Series, third.Together, third.SharesRoom = nil, nil, nil
	err = w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error { return tx.(*postgres.Tx).AddVisit(ctx, &third) })
	var clash *studio.TakenError
	require.ErrorAs(t, err, &clash, "the database keeps others out")
	assert.Equal(t, "room", clash.What)

	q.Who[0].Client, q.Who[1].Client = w.client(t, "Dario Dunmore"), w.client(t, "Hugo Harkin")
	_, err = w.svc.Diary.BookTogether(ctx, &w.desk, diary.NewTogether{ID: uuid.New(), TogetherQuestion: q, Visits: n.Visits})
	var taken *diary.SeriesTakenError
	require.ErrorAs(t, err, &taken, "another pair finds it taken")
}
