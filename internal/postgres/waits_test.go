package postgres_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// A procedure that is planned in mid-series blocks its own day and the waiting period of its rule: a
// wait of 14 from 20 October allows 3 November (handbook, chapter 6, hard limit 11). What is booked
// already in these days is shown, and the rest of the series can be moved.
func TestAPlannedProcedureBlocksDays(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Kaia Kestrel")
	view, err := w.svc.Checks.Planned(ctx, &w.owner, client)
	require.NoError(t, err)
	require.NotEmpty(t, view.Rules)
	rule := view.Rules[0]
	for _, r := range view.Rules {
		if r.Days == 14 {
			rule = r
		}
	}
	require.Equal(t, 14, rule.Days)
	booked := w.twoWeekly(t) // 14 and 21 December
	second := booked.Treatments[1].Visit
	day := second.StartsAt.AddDate(0, 0, -3).Format(time.DateOnly)
	p := studio.PlannedProcedure{ID: uuid.New(), Client: client, Rule: rule.Rule, Day: day}
	require.NoError(t, w.svc.Checks.AddPlanned(ctx, &w.owner, p))
	require.NoError(t, w.svc.Checks.AddPlanned(ctx, &w.owner, p), "a repeat is safe")
	view, err = w.svc.Checks.Planned(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Len(t, view.Planned, 1)
	free := second.StartsAt.AddDate(0, 0, 11).Format(time.DateOnly)
	assert.Equal(t, second.StartsAt.AddDate(0, 0, 10).Format(time.DateOnly), view.Planned[0].To)

	again, err := w.svc.Diary.SeriesOf(ctx, &w.owner, booked.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{2}, again.TooEarly, "only what lies in the wait")
	assert.Equal(t, free, again.NotBefore)
	laid, err := w.svc.Diary.LaySeries(ctx, &w.owner, booked.ID, nil)
	require.NoError(t, err)
	require.NotNil(t, laid.Best)
	for _, x := range laid.Best.Visits {
		assert.False(t, x.Wall[:10] >= day && x.Wall[:10] < free, "the rest is moved out of the wait: %s", x.Wall)
	}
	answer, err := w.svc.Diary.FindSeries(ctx, &w.desk, w.asks(t, "Kaia Kestrel", "once", "from "+day, ""))
	require.NoError(t, err)
	require.Equal(t, series.Optimal, answer.Status)
	assert.GreaterOrEqual(t, answer.Best.Visits[len(answer.Best.Visits)-1].Wall[:10], free, "the desk is not told why, and books past it")
	_, err = w.svc.Checks.Planned(ctx, &w.desk, client)
	require.ErrorIs(t, err, studio.ErrForbidden)

	p.ID, p.Day = uuid.New(), "2026-01-01"
	var input *studio.InputError
	require.ErrorAs(t, w.svc.Checks.AddPlanned(ctx, &w.owner, p), &input)
	require.NoError(t, w.svc.Checks.RemovePlanned(ctx, &w.owner, client, view.Planned[0].ID))
	again, err = w.svc.Diary.SeriesOf(ctx, &w.owner, booked.ID)
	require.NoError(t, err)
	assert.Empty(t, again.TooEarly)
}

// A letter that was asked for lets nothing be booked before the day on which it is expected; visits are
// marked, and two days ahead the desk is told that it has not come (hard limit 11).
func TestALetterIsAwaited(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"cancer": {Yes: true}})
	expected := w.now.AddDate(0, 0, 10).Format(time.DateOnly)
	_, err := w.svc.Checks.WriteLetter(ctx, &w.owner, v.Client, nil, "May the face be massaged?", expected)
	require.NoError(t, err)
	answer, err := w.svc.Diary.FindSeries(ctx, &w.desk, w.asks(t, v.ClientName, "once", "", ""))
	require.NoError(t, err)
	require.Equal(t, series.Optimal, answer.Status)
	last := answer.Best.Visits[len(answer.Best.Visits)-1]
	assert.GreaterOrEqual(t, last.Wall[:10], expected)
	held, err := w.svc.Diary.HoldSeries(ctx, &w.desk, diary.NewSeries{ID: uuid.New(), SeriesQuestion: w.asks(t, v.ClientName, "once", "", ""), Visits: places(answer.Best)})
	require.NoError(t, err)
	booked, err := w.svc.Diary.BookSeries(ctx, &w.desk, held.ID)
	require.NoError(t, err)
	id := booked.Treatments[0].Visit.ID
	one, err := w.svc.Diary.Visit(ctx, &w.desk, id)
	require.NoError(t, err)
	assert.True(t, one.LetterOpen)
	told := func() bool {
		list, err := w.svc.Diary.Clashing(ctx, &w.desk)
		require.NoError(t, err)
		for _, c := range list {
			if c.ID == id && c.Why == diary.MeetsLetter {
				return true
			}
		}
		return false
	}
	assert.False(t, told())
	w.now = one.StartsAt.Add(-47 * time.Hour)
	assert.True(t, told())
}

// Missed visits: the first of a series is given back, a second counts as used; after two in twelve
// months a deposit is asked for (handbook, chapter 6, No-show). The end review comes with the last
// treatment, and no sooner than a fortnight after the first.
func TestMissedVisitsAndTheEndReview(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "4 weekly", "from 14 dec", ""))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	miss := func(n int) *diary.SeriesView {
		v, err := w.svc.Diary.SeriesOf(ctx, &w.owner, booked.ID)
		require.NoError(t, err)
		x := v.Treatments[n].Visit
		w.now = x.StartsAt.Add(20 * time.Minute)
		_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, x.ID, studio.NoShow, "")
		require.NoError(t, err)
		v, err = w.svc.Diary.SeriesOf(ctx, &w.owner, booked.ID)
		require.NoError(t, err)
		return v
	}
	v := miss(0)
	assert.Equal(t, 1, v.Due, "the first is given back")
	assert.Zero(t, v.Used)
	v = miss(1)
	assert.Equal(t, 1, v.Used, "the second is used")
	assert.Equal(t, 1, v.Due)
	answer, err := w.svc.Diary.FindSeries(ctx, &w.desk, w.asks(t, "Kaia Kestrel", "once", "from 1 mar", ""))
	require.NoError(t, err)
	assert.Equal(t, 2, answer.Missed)
	assert.True(t, answer.Deposit)
	_, err = w.svc.Diary.ReviewSeries(ctx, &w.owner, booked.ID, diary.ReviewAsked{Found: "Softer", Decision: studio.GoOn})
	var state *studio.StateError
	require.ErrorAs(t, err, &state, "treatments are still to come")

	short, _ := w.hold(t, &w.owner, w.asks(t, "Ada Abendroth", "2 every 4 days", "from "+w.now.AddDate(0, 0, 1).Format("2 jan"), ""))
	running, err := w.svc.Diary.BookSeries(ctx, &w.owner, short.ID)
	require.NoError(t, err)
	for _, x := range running.Treatments {
		w.now = x.Visit.StartsAt.Add(-5 * time.Minute)
		w.treated(t, *x.Visit, map[string]contraindication.Answer{})
	}
	review := func() (*diary.SeriesView, error) {
		return w.svc.Diary.ReviewSeries(ctx, &w.owner, running.ID, diary.ReviewAsked{Found: "Softer along the jaw", Decision: studio.GoOn})
	}
	_, err = review()
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "too-early", state.Code)
	w.now = running.Treatments[0].Visit.StartsAt.AddDate(0, 0, 14)
	done, err := review()
	require.NoError(t, err)
	assert.Equal(t, studio.SeriesFinished, done.State)
	assert.Equal(t, "Softer along the jaw", done.Review.Found)
	_, err = review()
	require.NoError(t, err, "a repeat is safe")
	seen, err := w.svc.Diary.SeriesOf(ctx, &w.desk, running.ID)
	require.NoError(t, err)
	assert.Empty(t, seen.Review.Found, "the front desk sees that it was reviewed, and nothing of the skin")
	assert.Equal(t, studio.GoOn, seen.Review.Decision)
}

// Every series carries its home care (handbook, chapter 6, What is sold): written by those who treat,
// never over words that the writer has not seen, and not shown to the front desk.
func TestASeriesCarriesItsHomeCare(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Ada Abendroth", "2 weekly", "from 1 mar", ""))
	write := func(a *studio.Actor, text, was string) (*diary.SeriesView, error) {
		return w.svc.Diary.WriteHomeCare(ctx, a, held.ID, diary.HomeCareAsked{HomeCare: text, Was: was})
	}
	for range 2 { // a repeat is safe
		v, err := write(&w.owner, " Feather sweeps, two minutes each evening. ", "")
		require.NoError(t, err)
		assert.Equal(t, "Feather sweeps, two minutes each evening.", v.HomeCare)
	}
	var state *studio.StateError
	_, err := write(&w.owner, "Cold stones in the morning.", "")
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "changed-meanwhile", state.Code)
	_, err = write(&w.desk, "Anything", "Feather sweeps, two minutes each evening.")
	require.ErrorIs(t, err, studio.ErrForbidden)
	booked, err := w.svc.Diary.BookSeries(ctx, &w.desk, held.ID)
	require.NoError(t, err)
	assert.Empty(t, booked.HomeCare, "nothing of it for the front desk")
	v, err := w.svc.Diary.SeriesOf(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	assert.Equal(t, "Feather sweeps, two minutes each evening.", v.HomeCare, "booking keeps it")

	file, err := w.svc.Clients.ExportClient(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	i := slices.IndexFunc(file.Series, func(s studio.Series) bool { return s.ID == held.ID })
	require.GreaterOrEqual(t, i, 0, "a client's file says what the studio keeps")
	assert.Equal(t, "Feather sweeps, two minutes each evening.", file.Series[i].HomeCare)
}

// Pieces of a tool that are being mended are not there on these days; retired ones no more.
func TestToolsThatAreNotThere(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	roster, err := w.svc.Diary.Roster(ctx, &w.owner)
	require.NoError(t, err)
	pieces := 0
	for _, x := range roster.Tools {
		if x.Key == "stone-plate" {
			pieces = x.Pieces
		}
	}
	require.Positive(t, pieces)
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	times := func(day string) int {
		free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: plans[1].ID, From: day, Days: 1})
		require.NoError(t, err)
		return len(free)
	}
	require.Positive(t, times("2026-12-14"))
	out := studio.ToolOut{ID: uuid.New(), Tool: "stone-plate", Pieces: pieces, From: "2026-12-14", To: "2026-12-15", Reason: studio.ToolMended}
	require.NoError(t, w.svc.Diary.AddToolOut(ctx, &w.owner, out))
	require.NoError(t, w.svc.Diary.AddToolOut(ctx, &w.owner, out))
	assert.Zero(t, times("2026-12-14"))
	assert.Zero(t, times("2026-12-15"))
	assert.Positive(t, times("2026-12-17"))
	require.NoError(t, w.svc.Diary.RemoveToolOut(ctx, &w.owner, out.ID))
	assert.Positive(t, times("2026-12-14"))
	retired := studio.ToolOut{ID: uuid.New(), Tool: "stone-plate", Pieces: pieces, From: "2026-12-14", Reason: studio.ToolRetired}
	require.NoError(t, w.svc.Diary.AddToolOut(ctx, &w.owner, retired))
	assert.Zero(t, times("2027-03-01"))
	retired.Pieces = pieces + 1
	var input *studio.InputError
	require.ErrorAs(t, w.svc.Diary.AddToolOut(ctx, &w.owner, retired), &input)
}

// Before an event the desk is told what a client would get for the first time in the last fortnight,
// and what may redden the day before.
func TestAnEventAsksForWhatWasTried(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	nobody, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "New Person"})
	require.NoError(t, err)
	q := w.asks(t, "Kaia Kestrel", "3 weekly", "before 12 feb wedding", "")
	q.Client = nobody.ID
	kinds := func(q diary.SeriesQuestion) map[series.CautionKind]int {
		answer, err := w.svc.Diary.FindSeries(ctx, &w.desk, q)
		require.NoError(t, err)
		require.Equal(t, series.Optimal, answer.Status)
		out := map[series.CautionKind]int{}
		for _, c := range answer.Best.Cautions {
			out[c.Kind] = c.N
		}
		return out
	}
	assert.NotContains(t, kinds(q), series.Untried, "the first visit lies more than a fortnight before")
	q.Often = "once"
	assert.Contains(t, kinds(q), series.Untried)
	q.When = "from 1 feb"
	assert.Empty(t, kinds(q), "no event, nothing to look at")
}

// The end review may have a quarter of an hour of its own; making the review closes it. A treatment
// that was stopped in the room is broken off, with its record, and takes time until its real end.
func TestAReviewOfItsOwnAndATreatmentBrokenOff(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Ada Abendroth", "2 every 4 days", "from 30 nov", ""))
	running, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	none, err := w.svc.Diary.ReviewTimes(ctx, &w.desk, running.ID)
	require.NoError(t, err)
	assert.Empty(t, none, "treatments are still to come")
	for i, x := range running.Treatments {
		w.now = x.Visit.StartsAt.Add(-5 * time.Minute)
		if i == 0 {
			w.treated(t, *x.Visit, map[string]contraindication.Answer{})
			continue
		}
		w.checked(t, *x.Visit, map[string]contraindication.Answer{})
		require.NoError(t, w.start(t, x.Visit.ID))
		rec, err := w.svc.Treatment.Record(ctx, &w.owner, x.Visit.ID)
		require.NoError(t, err)
		w.now = x.Visit.StartsAt.Add(20 * time.Minute)
		rec.Record.BrokenOff = true
		_, err = w.svc.Treatment.SignAndLock(ctx, &w.owner, x.Visit.ID, rec.Record)
		require.NoError(t, err)
		stopped, err := w.svc.Diary.Visit(ctx, &w.owner, x.Visit.ID)
		require.NoError(t, err)
		assert.Equal(t, studio.BrokenOff, stopped.State)
		assert.True(t, stopped.EndsAt.Equal(w.now), "its time is free again")
	}
	v, err := w.svc.Diary.SeriesOf(ctx, &w.owner, running.ID)
	require.NoError(t, err)
	assert.Equal(t, 2, v.Given)
	times, err := w.svc.Diary.ReviewTimes(ctx, &w.desk, running.ID)
	require.NoError(t, err)
	require.NotEmpty(t, times)
	assert.GreaterOrEqual(t, times[0].Start.Format(time.DateOnly), v.ReviewFrom, "no sooner than a fortnight after the first")
	n := studio.NewVisit{ID: uuid.New(), Practitioner: times[0].Practitioner, Room: times[0].Room, Start: times[0].Start}
	v, err = w.svc.Diary.BookReview(ctx, &w.desk, running.ID, n)
	require.NoError(t, err)
	require.NotNil(t, v.ReviewVisit)
	_, err = w.svc.Diary.BookReview(ctx, &w.desk, running.ID, n)
	require.NoError(t, err, "a repeat is safe")
	w.now = times[0].Start
	v, err = w.svc.Diary.ReviewSeries(ctx, &w.owner, running.ID, diary.ReviewAsked{Found: "Calmer", Decision: studio.Stop})
	require.NoError(t, err)
	assert.Equal(t, studio.SeriesFinished, v.State)
	assert.Equal(t, studio.Done, v.ReviewVisit.State)
}
