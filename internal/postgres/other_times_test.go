package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// spot is the question about one visit of an offer, with the others where they stand.
func spot(q diary.SeriesQuestion, best *diary.SeriesOffer, n int) (out diary.SeriesSpot) {
	out.SeriesQuestion = q
	for _, v := range best.Visits {
		if v.Kind != "treatment" {
			continue
		}
		at := series.Spot{Start: v.Wall, Practitioner: v.Practitioner.String()}
		out.Current = append(out.Current, series.CurrentVisit(at))
		if v.N == n {
			out.At = diary.MovedVisit{N: n, Spot: at}
		}
	}
	return out
}

// Why a visit is not earlier is told day by day back from where it stands, by the same limits as for a single spot; and the
// other times at which it could be keep the days and hours that were asked for.
func TestWhyNotEarlierAndOtherTimes(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	q := w.asks(t, "Kaia Kestrel", "3 weekly", "tue thu after 2, from 7 dec", "")
	answer, err := w.svc.Diary.FindSeries(ctx, &w.desk, q)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, answer.Status)

	first, last := spot(q, answer.Best, 1), spot(q, answer.Best, 3)
	for _, asked := range []diary.SeriesSpot{first, last} {
		earlier, err := w.svc.Diary.WhyNotEarlier(ctx, &w.desk, asked)
		require.NoError(t, err)
		require.NotEmpty(t, earlier)
		stands, err := time.Parse("2006-01-02 15:04", asked.At.Start)
		require.NoError(t, err)
		for i, e := range earlier {
			day := stands.AddDate(0, 0, -i-1)
			assert.Equal(t, day.Format(time.DateOnly), e.Day, "day by day")
			if e.Day < "2026-12-07" {
				assert.NotEmpty(t, e.Limit, "%s is before the day asked for", e.Day)
			}
			if asked.At.N == 3 { // the visits after one are laid again, so only the last is asked about as a single spot is
				one := asked
				one.At.Start = day.Format("2006-01-02 15:04")
				why, err := w.svc.Diary.WhyNotThere(ctx, &w.desk, one)
				require.NoError(t, err)
				assert.Equal(t, *why, e.WhyNot, "on %s", e.Day)
			}
		}
	}

	second := spot(q, answer.Best, 2)
	times, err := w.svc.Diary.SeriesTimes(ctx, &w.desk, second)
	require.NoError(t, err)
	require.NotEmpty(t, times)
	there, err := time.Parse("2006-01-02 15:04", second.At.Start)
	require.NoError(t, err)
	itself := false
	for _, v := range times {
		wall, err := time.Parse("2006-01-02 15:04", v.Wall)
		require.NoError(t, err)
		assert.Contains(t, []time.Weekday{time.Tuesday, time.Thursday}, wall.Weekday(), v.Wall)
		assert.GreaterOrEqual(t, wall.Hour(), 14, v.Wall)
		assert.LessOrEqual(t, wall.Sub(there).Abs(), 15*24*time.Hour, v.Wall)
		assert.NotEmpty(t, v.PractitionerName)
		itself = itself || v.Wall == second.At.Start && v.Practitioner.String() == second.At.Practitioner
	}
	assert.True(t, itself, "where it stands is one of them")

	second.At.Start = "tomorrow"
	_, err = w.svc.Diary.WhyNotEarlier(ctx, &w.desk, second)
	assert.Equal(t, "/at/start", at(err))
	_, err = w.svc.Diary.SeriesTimes(ctx, &w.desk, second)
	assert.Equal(t, "/at/start", at(err))
	none := first
	none.At.N = 9
	_, err = w.svc.Diary.SeriesTimes(ctx, &w.desk, none)
	assert.Equal(t, "/at", at(err), "there is no ninth visit")
	_, err = w.svc.Diary.WhyNotEarlier(ctx, &studio.Actor{Studio: w.owner.Studio, Role: studio.Trainee}, first)
	require.Error(t, err)
}
