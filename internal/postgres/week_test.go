package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// A week in numbers adds up from its days, and they from their appointments: what was given,
// cancelled, missed, is not signed, what clients pay for it and what it took.
func TestTheOwnersWeek(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	today := w.now.Format(time.DateOnly)
	day := func(of *diary.Week) diary.WeekDay {
		for _, d := range of.Days {
			if d.Date == today {
				return d
			}
		}
		t.Fatal("today is not in its week")
		return diary.WeekDay{}
	}
	before, err := w.svc.Diary.Week(ctx, &w.owner, "")
	require.NoError(t, err)
	require.Len(t, before.Days, 7)
	monday, err := time.Parse(time.DateOnly, before.From)
	require.NoError(t, err)
	assert.Equal(t, time.Monday, monday.Weekday())
	assert.Zero(t, day(before).Given)
	assert.Positive(t, day(before).Minutes)
	weekday := [...]string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}[w.now.Weekday()]
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(within studio.Tx) error {
		tx := within.(*postgres.Tx)
		people, err := tx.Practitioners(ctx)
		require.NoError(t, err)
		return tx.AddRosterEntry(ctx, &studio.RosterEntry{
			ID: studio.NewID(), Practitioner: people[0].ID, From: today, To: today, Every: 1, Days: series.WeekPieces{weekday: {}},
		})
	}))
	swapped, err := w.svc.Diary.Week(ctx, &w.owner, "")
	require.NoError(t, err)
	assert.Less(t, day(swapped).Minutes, day(before).Minutes, "a day off by the roster")
	coming := day(before).Coming
	require.Greater(t, coming, 2)

	v := w.first(t)
	w.treated(t, v, nil)
	d, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	var rest []studio.VisitLine
	for _, l := range d.Visits {
		if l.ID != v.ID && (l.State == studio.Booked || l.State == studio.Confirmed) {
			rest = append(rest, l)
		}
	}
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, rest[0].ID, studio.Cancelled, "ill")
	require.NoError(t, err)
	w.now = rest[1].StartsAt.Add(time.Hour)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, rest[1].ID, studio.NoShow, "")
	require.NoError(t, err)
	after, err := w.svc.Diary.Week(ctx, &w.owner, today)
	require.NoError(t, err)
	now := day(after)
	assert.Equal(t, 1, now.Given)
	assert.Equal(t, coming-3, now.Coming)
	assert.Equal(t, 1, now.Cancelled)
	assert.Equal(t, 1, now.Missed)
	assert.Zero(t, now.Unsigned)
	p, err := w.svc.Protocols.ExportProtocol(ctx, &w.owner, v.Protocol, v.Version)
	require.NoError(t, err)
	assert.Equal(t, p.Protocol.Price.Amount, now.Asked, "the demo's prices have their tax in them")
	r, err := w.svc.Treatment.Record(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, r.Cost.StringFixed(2), now.Products)
	sum, total := decimal.Zero, 0
	for _, x := range after.Days {
		sum, total = sum.Add(decimal.RequireFromString(x.Asked)), total+x.Booked
	}
	assert.Equal(t, sum.StringFixed(2), after.Total.Asked)
	assert.Equal(t, total, after.Total.Booked)
	practitioner := w.owner
	practitioner.Role = studio.Practitioner
	_, err = w.svc.Diary.Week(ctx, &practitioner, "")
	assert.ErrorIs(t, err, studio.ErrForbidden)
	_, err = w.svc.Diary.Week(ctx, &w.owner, "soon")
	var bad *studio.InputError
	assert.ErrorAs(t, err, &bad)
}
