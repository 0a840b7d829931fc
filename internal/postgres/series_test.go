package postgres_test

import (
	"context"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/series"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

// asks is a question about a client's series of the first protocol.
func (w *world) asks(t *testing.T, name, often, when, with string) diary.SeriesQuestion {
	t.Helper()
	plans, err := w.plans(context.Background())
	require.NoError(t, err)
	return diary.SeriesQuestion{
		Client: w.client(t, name), What: []diary.AskedProtocol{{Protocol: plans[0].ID}},
		SeriesAsked: studio.SeriesAsked{Often: often, When: when, With: with},
	}
}

// places are the visits of an offer as they are held.
func places(o *diary.SeriesOffer) (out []series.Placed) {
	for _, v := range o.Visits {
		out = append(out, series.Placed{Kind: v.Kind, N: v.N, Start: v.Wall, Practitioner: v.Practitioner.String(), Room: v.Room.String()})
	}
	return out
}

// hold finds the best series and holds it.
func (w *world) hold(t *testing.T, a *studio.Actor, q diary.SeriesQuestion) (*diary.SeriesView, *diary.SeriesAnswer) {
	t.Helper()
	answer, err := w.svc.Diary.FindSeries(context.Background(), a, q)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, answer.Status)
	v, err := w.svc.Diary.HoldSeries(context.Background(), a, diary.NewSeries{ID: uuid.New(), SeriesQuestion: q, Visits: places(answer.Best)})
	require.NoError(t, err)
	return v, answer
}

func states(v *diary.SeriesView) (out []studio.VisitState) {
	for _, t := range v.Treatments {
		if t.Visit == nil {
			out = append(out, "")
			continue
		}
		out = append(out, t.Visit.State)
	}
	return out
}

// A line as it is typed becomes a series: found, held, booked; each visit stands where the
// finder put it, with its room and its tools, and nothing is there twice when asked twice.
func TestASeriesIsFoundHeldAndBooked(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	q := w.asks(t, "Kaia Kestrel", "4 weekly", "tue thu after 2, from 7 dec", "rather Maud")
	answer, err := w.svc.Diary.FindSeries(ctx, &w.desk, q)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, answer.Status)
	require.Len(t, answer.Items, 4)
	for _, v := range answer.Best.Visits {
		if v.Kind == "treatment" {
			assert.Contains(t, []time.Weekday{time.Tuesday, time.Thursday}, v.Start.Weekday())
			assert.Equal(t, "Maud Ferrant", v.PractitionerName)
		}
	}
	for _, other := range answer.Others {
		assert.GreaterOrEqual(t, other.More, 0)
	}
	n := diary.NewSeries{ID: uuid.New(), SeriesQuestion: q, Visits: places(answer.Best)}
	held, err := w.svc.Diary.HoldSeries(ctx, &w.desk, n)
	require.NoError(t, err)
	assert.Equal(t, studio.SeriesOffered, held.State)
	assert.Equal(t, 10*time.Minute, held.HeldUntil.Sub(w.now))
	assert.Equal(t, []studio.VisitState{studio.Held, studio.Held, studio.Held, studio.Held}, states(held))
	again, err := w.svc.Diary.HoldSeries(ctx, &w.desk, n)
	require.NoError(t, err)
	assert.Equal(t, held, again)

	// What is held is not among the day's appointments, and is no free time.
	first := held.Treatments[0].Visit
	day, err := w.svc.Diary.Day(ctx, &w.owner, first.StartsAt.Format(time.DateOnly))
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(day.Visits, func(v studio.VisitLine) bool { return v.ID == first.ID }))
	holds, err := w.svc.Diary.Holds(ctx, &w.owner)
	require.NoError(t, err)
	i := slices.IndexFunc(holds, func(h diary.Hold) bool { return h.ClientName == "Kaia Kestrel" })
	require.GreaterOrEqual(t, i, 0)
	assert.False(t, holds[i].Mine)

	booked, err := w.svc.Diary.BookSeries(ctx, &w.desk, held.ID)
	require.NoError(t, err)
	assert.Equal(t, studio.SeriesRunning, booked.State)
	assert.Equal(t, []studio.VisitState{studio.Booked, studio.Booked, studio.Booked, studio.Booked}, states(booked))
	twice, err := w.svc.Diary.BookSeries(ctx, &w.desk, held.ID)
	require.NoError(t, err)
	assert.Equal(t, booked, twice)
	list, err := w.svc.Diary.ClientSeries(ctx, &w.owner, q.Client)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Zero(t, list[0].Due)
	assert.Zero(t, list[0].LateBy)
}

// A hold lapses at its hour, inside the next booking that would meet it. Where its times are
// still free it is booked all the same; where not, the answer says which visit fails and what is
// best now. One person holds two series at most, and renews each once.
func TestAHoldLapses(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	q := w.asks(t, "Kaia Kestrel", "3 weekly", "mon 10-13, from 7 dec", "")
	held, answer := w.hold(t, &w.owner, q)
	_, err := w.svc.Diary.RenewHold(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	var state *studio.StateError
	_, err = w.svc.Diary.RenewHold(ctx, &w.owner, held.ID)
	require.ErrorAs(t, err, &state)

	w.now = w.now.Add(11 * time.Minute)
	_, err = w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err, "lapsed, but still free")

	late := w.asks(t, "Teo Tarn", "3 weekly", "mon 10-13, from 4 jan", "")
	held, answer = w.hold(t, &w.owner, late)
	w.now = w.now.Add(11 * time.Minute)
	first := answer.Best.Visits[0]
	_, err = w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{
		ID: uuid.New(), Client: w.client(t, "Una Umber"), Practitioner: first.Practitioner, Room: first.Room, Protocol: late.What[0].Protocol, Start: first.Start,
	})
	require.NoError(t, err, "a hold that has lapsed takes no time")
	var taken *diary.SeriesTakenError
	_, err = w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.ErrorAs(t, err, &taken)
	assert.Equal(t, 1, taken.Visit)
	assert.Equal(t, series.PersonTaken, taken.Limit)
	require.NotNil(t, taken.Answer)
	require.Equal(t, series.Optimal, taken.Answer.Status)

	for _, name := range []string{"Nils Norwood", "Paolo Pellin"} {
		w.hold(t, &w.owner, w.asks(t, name, "2 weekly", "", ""))
	}
	third := w.asks(t, "Una Umber", "2 weekly", "from 11 jan", "")
	a, err := w.svc.Diary.FindSeries(ctx, &w.owner, third)
	require.NoError(t, err)
	_, err = w.svc.Diary.HoldSeries(ctx, &w.owner, diary.NewSeries{ID: uuid.New(), SeriesQuestion: third, Visits: places(a.Best)})
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "too-many-holds", state.Code)
}

// Fifty people book series that meet in one hour: nothing is double, whoever loses gets the new
// best (handbook, chapter 6).
func TestFiftyBookSeriesThatMeet(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	clients, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	q := w.asks(t, "Kaia Kestrel", "3 weekly", "wed 10-11, from 11 jan", "")
	best, err := w.svc.Diary.FindSeries(ctx, &w.owner, q)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, best.Status)
	var wg sync.WaitGroup
	errs := make([]error, 50)
	for i := range errs {
		wg.Go(func() {
			actor := &studio.Actor{Studio: w.owner.Studio, Account: uuid.New(), Role: studio.Owner}
			mine := q
			mine.Client = clients[i%len(clients)].ID
			_, errs[i] = w.svc.Diary.HoldSeries(ctx, actor, diary.NewSeries{ID: uuid.New(), SeriesQuestion: mine, Visits: places(best.Best)})
		})
	}
	wg.Wait()
	won := 0
	for _, err := range errs {
		if err == nil {
			won++
			continue
		}
		var taken *diary.SeriesTakenError
		if assert.ErrorAs(t, err, &taken) {
			assert.NotNil(t, taken.Answer)
		}
	}
	assert.Equal(t, 1, won)
	assert.Zero(t, w.count(t, `select count(*) from visit a join visit b on a.id < b.id and a.practitioner_id = b.practitioner_id
		and a.state in ('held', 'booked') and b.state in ('held', 'booked') and tstzrange(a.busy_from, a.busy_until) && tstzrange(b.busy_from, b.busy_until)`))
}

// A visit of a booked series is moved and the others follow as few as must: each keeps its
// identity, is booked again, and its moves are counted; the first agreed start stays beside it.
func TestAVisitOfASeriesIsMoved(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "4 weekly", "from 7 dec", ""))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	second := booked.Treatments[1].Visit
	times, err := w.svc.Diary.StandingTimes(ctx, &w.owner, held.ID, 2)
	require.NoError(t, err)
	later := second.StartsAt.AddDate(0, 0, 3).Format(time.DateOnly)
	i := slices.IndexFunc(times, func(v diary.OfferedVisit) bool { return v.Wall[:10] == later })
	require.GreaterOrEqual(t, i, 0)
	to := diary.MovedVisit{N: 2, Spot: series.Spot{Start: times[i].Wall, Practitioner: times[i].Practitioner.String()}}
	laid, err := w.svc.Diary.LaySeries(ctx, &w.owner, held.ID, &to)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, laid.Status)
	assert.Equal(t, 3, laid.Best.Changed, "ten days is more than a weekly rhythm allows: all the others follow")
	why, err := w.svc.Diary.WhyNotStanding(ctx, &w.owner, held.ID, to)
	require.NoError(t, err)
	assert.Equal(t, series.GapTooLong, why.Limit)

	i = slices.IndexFunc(times, func(v diary.OfferedVisit) bool {
		return v.Wall[:10] == second.StartsAt.AddDate(0, 0, 1).Format(time.DateOnly)
	})
	require.GreaterOrEqual(t, i, 0)
	to.Spot = series.Spot{Start: times[i].Wall, Practitioner: times[i].Practitioner.String()}
	laid, err = w.svc.Diary.LaySeries(ctx, &w.owner, held.ID, &to)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, laid.Status)
	assert.LessOrEqual(t, laid.Best.Changed, 1)
	moved, err := w.svc.Diary.MoveSeries(ctx, &w.owner, held.ID, places(laid.Best))
	require.NoError(t, err)
	now := moved.Treatments[1].Visit
	assert.Equal(t, second.ID, now.ID)
	assert.Equal(t, studio.Booked, now.State)
	assert.True(t, now.StartsAt.Equal(times[i].Start))
	assert.True(t, now.AgreedAt.Equal(second.StartsAt))
	assert.Equal(t, 1, now.Moves)
	assert.Zero(t, moved.Treatments[0].Visit.Moves)
}

// A pause cancels the visits to come, which is not late; when the series is taken up the rest is
// laid again from the day of return. Breaking off asks why, and is final.
func TestASeriesIsPausedAndTakenUp(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "3 weekly", "", ""))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	first := booked.Treatments[0].Visit
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, first.ID, studio.Confirmed, "")
	require.NoError(t, err)
	w.now = first.StartsAt.Add(-10 * time.Minute)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, first.ID, studio.Arrived, "")
	require.NoError(t, err)

	var bad *studio.InputError
	_, err = w.svc.Diary.SetSeriesState(ctx, &w.owner, held.ID, studio.SeriesPaused, "")
	require.ErrorAs(t, err, &bad)
	paused, err := w.svc.Diary.SetSeriesState(ctx, &w.owner, held.ID, studio.SeriesPaused, "Away for work")
	require.NoError(t, err)
	assert.Equal(t, 2, paused.Due)
	w.now = w.now.AddDate(0, 0, 42)
	_, err = w.svc.Diary.SetSeriesState(ctx, &w.owner, held.ID, studio.SeriesRunning, "")
	require.NoError(t, err)
	laid, err := w.svc.Diary.LaySeries(ctx, &w.owner, held.ID, nil)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, laid.Status)
	taken, err := w.svc.Diary.MoveSeries(ctx, &w.owner, held.ID, places(laid.Best))
	require.NoError(t, err)
	assert.Zero(t, taken.Due)
	assert.True(t, taken.Treatments[1].Visit.StartsAt.After(w.now))
	assert.Equal(t, 7, taken.Treatments[2].Days)
	_, err = w.svc.Diary.SetSeriesState(ctx, &w.owner, held.ID, studio.SeriesBrokenOff, "Moved away")
	require.NoError(t, err)
	var state *studio.StateError
	_, err = w.svc.Diary.SetSeriesState(ctx, &w.owner, held.ID, studio.SeriesRunning, "")
	require.ErrorAs(t, err, &state)
}

// Rosters, absences, equipment, skills and hours of the client narrow what is found.
func TestWhatNarrowsTheTimes(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	q := w.asks(t, "Kaia Kestrel", "once", "from 7 dec", "only Maud")
	before, err := w.svc.Diary.FindSeries(ctx, &w.owner, q)
	require.NoError(t, err)
	require.Equal(t, "2026-12-07", before.Best.Visits[0].Wall[:10])
	maud := before.Best.Visits[0].Practitioner
	in := func(do func(tx *postgres.Tx) error) {
		require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error { return do(tx.(*postgres.Tx)) }))
	}
	in(func(tx *postgres.Tx) error { // a day off, and away the day after
		if err := tx.AddRosterEntry(ctx, &studio.RosterEntry{ID: studio.NewID(), Practitioner: maud, From: "2026-12-07", To: "2026-12-07", Every: 1, Days: series.WeekPieces{"mon": {}}}); err != nil {
			return err
		}
		return tx.AddAbsence(ctx, &studio.Absence{ID: studio.NewID(), Practitioner: &maud, Kind: studio.Away,
			Start: before.Best.Visits[0].Start.AddDate(0, 0, 1).Truncate(24 * time.Hour), End: before.Best.Visits[0].Start.AddDate(0, 0, 2).Truncate(24 * time.Hour)})
	})
	after, err := w.svc.Diary.FindSeries(ctx, &w.owner, q)
	require.NoError(t, err)
	assert.Equal(t, "2026-12-09", after.Best.Visits[0].Wall[:10])
	in(func(tx *postgres.Tx) error {
		return tx.SaveClientHours(ctx, q.Client, &studio.ClientHours{Possible: series.WeekPieces{"fri": {{"15:00", "17:00"}}}})
	})
	after, err = w.svc.Diary.FindSeries(ctx, &w.owner, q)
	require.NoError(t, err)
	assert.Equal(t, "2026-12-11", after.Best.Visits[0].Wall[:10])
	why, err := w.svc.Diary.WhyNotThere(ctx, &w.owner, diary.SeriesSpot{SeriesQuestion: q, At: diary.MovedVisit{N: 1, Spot: series.Spot{Start: "2026-12-07 10:00", Practitioner: maud.String()}}})
	require.NoError(t, err)
	assert.Equal(t, series.NoShift, why.Limit)
	assert.Equal(t, "Maud Ferrant", why.Name)
}

// After a treatment the next visit is proposed at once: the gap that is the client's habit, the
// same hour and hands; the finder takes it as it is.
func TestSameAgain(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	q, err := w.svc.Diary.SameAgain(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	answer, err := w.svc.Diary.FindSeries(ctx, &w.owner, *q)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, answer.Status)
	for _, heard := range [][]series.Heard{answer.Often, answer.When, answer.With} {
		assert.False(t, slices.ContainsFunc(heard, func(h series.Heard) bool { return h.As == series.HeardNothing }), heard)
	}
	next := answer.Best.Visits[len(answer.Best.Visits)-1]
	days := next.Start.Sub(v.StartsAt).Hours() / 24
	assert.GreaterOrEqual(t, days, 5.0)
	assert.LessOrEqual(t, days, 64.0)
	assert.Equal(t, "rather "+v.PractitionerName, q.With)
}

// What is learnt of a client judges her series again: visits in a waiting period are named, and
// the rest is laid from the day on which it ends.
func TestASeriesIsJudgedAgain(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	q := w.asks(t, "Kaia Kestrel", "3 weekly", "from 25 nov", "")
	held, _ := w.hold(t, &w.owner, q)
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	assert.Empty(t, booked.TooEarly)
	answers := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
	answers["peel"] = contraindication.Answer{Yes: true, Day: calendar.Day(w.now.Format(time.DateOnly))}
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, q.Client, nil, answers, nil, nil)
	require.NoError(t, err)
	judged, err := w.svc.Diary.SeriesOf(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	require.Equal(t, []int{1}, judged.TooEarly)
	laid, err := w.svc.Diary.LaySeries(ctx, &w.owner, held.ID, nil)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, laid.Status)
	moved, err := w.svc.Diary.MoveSeries(ctx, &w.owner, held.ID, places(laid.Best))
	require.NoError(t, err)
	assert.Empty(t, moved.TooEarly)
	assert.GreaterOrEqual(t, moved.Treatments[0].Visit.StartsAt.Format(time.DateOnly), judged.NotBefore)
}
