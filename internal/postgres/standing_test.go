package postgres_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// A standing booking has no end: it is laid twelve weeks ahead, and again as they pass, each visit on
// its weekday of the month; nothing is added twice.
func TestAStandingBookingIsLaidAhead(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, answer := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "every first tuesday", "", ""))
	days := func(list []series.Placed) (out []string) {
		for _, v := range list {
			if v.Kind == "treatment" {
				out = append(out, v.Start[:10])
			}
		}
		return out
	}
	assert.Equal(t, []string{"2026-12-01", "2027-01-05", "2027-02-02"}, days(places(answer.Best)))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	require.Len(t, booked.Treatments, 3)
	extend := func() []string {
		require.NoError(t, w.svc.Diary.ExtendStanding(ctx, w.owner.Studio))
		v, err := w.svc.Diary.SeriesOf(ctx, &w.owner, booked.ID)
		require.NoError(t, err)
		var out []string
		for _, x := range v.Treatments {
			require.NotNil(t, x.Visit, "treatment %d", x.N)
			out = append(out, x.Visit.StartsAt.Format(time.DateOnly))
		}
		return out
	}
	assert.Equal(t, []string{"2026-12-01", "2027-01-05", "2027-02-02"}, extend(), "twelve weeks reach to 16 February")
	w.now = time.Date(2026, 12, 20, 9, 0, 0, 0, time.UTC)
	want := []string{"2026-12-01", "2027-01-05", "2027-02-02", "2027-03-02"}
	assert.Equal(t, want, extend())
	assert.Equal(t, want, extend(), "nothing twice")
	assert.Equal(t, studio.BookingMessage, w.newest(t).Kind, "and the client is told")
	w.now = time.Date(2027, 1, 20, 9, 0, 0, 0, time.UTC)
	assert.Equal(t, append(want, "2027-04-06"), extend())
}
