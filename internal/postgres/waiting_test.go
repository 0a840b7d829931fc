package postgres_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
)

// A practitioner is ill today: the visits not yet arrived are laid again together, shown as a list
// of calls, and written as they were shown; who finds no place waits first. A day that changed
// meanwhile is shown anew.
func TestAPractitionerIsIll(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	var ill uuid.UUID
	count := map[uuid.UUID]int{}
	for _, v := range day.Visits {
		if (v.State == studio.Booked || v.State == studio.Confirmed) && v.StartsAt.After(w.now) {
			count[v.Practitioner]++
			if count[v.Practitioner] > count[ill] {
				ill = v.Practitioner
			}
		}
	}
	require.Positive(t, count[ill])
	q := diary.AbsentQuestion{Practitioner: ill, From: w.now, To: day.Closes.Add(time.Hour)}
	plan, err := w.svc.Diary.LayAbsentDay(ctx, &w.desk, q)
	require.NoError(t, err)
	require.Len(t, plan.Calls, count[ill])
	for i, c := range plan.Calls {
		if i > 0 {
			assert.False(t, c.Was.Before(plan.Calls[i-1].Was), "calls come in the order in which the visits began")
		}
		if c.To != nil {
			assert.False(t, *c.With == ill && c.To.Before(q.To), "not with who is away")
		}
	}
	before, err := w.svc.Diary.Visit(ctx, &w.owner, plan.Calls[0].Visit)
	require.NoError(t, err)
	assert.True(t, before.StartsAt.Equal(plan.Calls[0].Was), "looking writes nothing")

	var changed *diary.NewDayChangedError
	_, err = w.svc.Diary.AcceptAbsentDay(ctx, &w.desk, q, plan.Calls[1:])
	require.ErrorAs(t, err, &changed)
	assert.Equal(t, plan, changed.Now)

	_, err = w.svc.Diary.AcceptAbsentDay(ctx, &w.desk, q, plan.Calls)
	require.NoError(t, err)
	calls, err := w.svc.Diary.Calls(ctx, &w.desk)
	require.NoError(t, err)
	require.Len(t, calls, len(plan.Calls))
	for i, c := range plan.Calls {
		v, err := w.svc.Diary.Visit(ctx, &w.owner, c.Visit)
		require.NoError(t, err)
		if c.To == nil {
			assert.Equal(t, studio.Cancelled, v.State, "cancelled by the studio is never late")
			continue
		}
		assert.True(t, v.StartsAt.Equal(*c.To))
		assert.Equal(t, *c.With, v.Practitioner)
		assert.Equal(t, studio.Booked, v.State)
		assert.Equal(t, v.ID, calls[i].Visit)
	}
	require.NoError(t, w.svc.Diary.CallMade(ctx, &w.desk, calls[0].ID))
	left, err := w.svc.Diary.Calls(ctx, &w.desk)
	require.NoError(t, err)
	assert.Len(t, left, len(calls)-1)
	again, err := w.svc.Diary.LayAbsentDay(ctx, &w.desk, q)
	require.NoError(t, err)
	assert.Empty(t, again.Calls, "nothing of the day is left with them")
}

// A visit is cancelled, and its time is offered to the first whom it serves; the hold takes it
// from everybody else, and once it is booked they wait no more.
func TestAFreedTimeGoesToTheWaitingList(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "once", "7 dec at 10:00", "only Tove"))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	v := booked.Treatments[0].Visit
	plan := v.Protocol
	wait := func(name, when, with string, notice int) uuid.UUID {
		id := uuid.New()
		n := diary.NewWaiter{ID: id, Client: w.client(t, name), Protocol: plan, When: when, With: with, Notice: notice}
		require.NoError(t, w.svc.Diary.Wait(ctx, &w.desk, n))
		require.NoError(t, w.svc.Diary.Wait(ctx, &w.desk, n), "sent twice waits once")
		w.now = w.now.Add(time.Minute)
		return id
	}
	others, err := w.svc.Diary.Waiting(ctx, &w.desk)
	require.NoError(t, err)
	for _, o := range others { // those of the demo
		require.NoError(t, w.svc.Diary.StopWaiting(ctx, &w.desk, o.ID))
	}
	wait("Teo Tarn", "fri", "", 0)           // cannot come on a Monday
	wait("Una Umber", "mon", "only Ines", 0) // wants somebody else
	first := wait("Nils Norwood", "mon tue before 1", "", 0)
	second := wait("Paolo Pellin", "", "", 24*60)
	list, err := w.svc.Diary.Waiting(ctx, &w.desk)
	require.NoError(t, err)
	require.Len(t, list, 4)

	fits, err := w.svc.Diary.WhoFits(ctx, &w.desk, v.ID)
	require.NoError(t, err)
	assert.Empty(t, fits, "the time is not free")
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, v.ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	fits, err = w.svc.Diary.WhoFits(ctx, &w.desk, v.ID)
	require.NoError(t, err)
	require.Len(t, fits, 2)
	assert.Equal(t, first, fits[0].ID)
	assert.Equal(t, second, fits[1].ID)
	assert.True(t, fits[0].Start.Equal(v.StartsAt))

	offer := func(who uuid.UUID, f diary.Fit) (*diary.SeriesView, error) {
		return w.svc.Diary.OfferTime(ctx, &w.desk, who, uuid.New(), series.Spot{Start: f.Wall, Practitioner: f.Practitioner.String()})
	}
	offered, err := offer(first, fits[0])
	require.NoError(t, err)
	assert.Equal(t, 30*time.Minute, offered.HeldUntil.Sub(w.now))
	var taken *diary.SeriesTakenError
	_, err = offer(second, fits[1])
	require.ErrorAs(t, err, &taken, "one is asked at a time")

	w.now = w.now.Add(31 * time.Minute) // the first does not answer
	fits, err = w.svc.Diary.WhoFits(ctx, &w.desk, v.ID)
	require.NoError(t, err)
	require.Len(t, fits, 2)
	offered, err = offer(second, fits[1])
	require.NoError(t, err)
	_, err = w.svc.Diary.BookSeries(ctx, &w.desk, offered.ID)
	require.NoError(t, err)
	list, err = w.svc.Diary.Waiting(ctx, &w.desk)
	require.NoError(t, err)
	assert.Len(t, list, 3)
	for _, l := range list {
		assert.NotEqual(t, second, l.ID)
	}
}

// What a studio file says of the diary is told by place where it makes no sense, and nothing is
// added (rosters, absences, series, the waiting list).
func TestTheDiaryComesInWithAFile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	series, err := w.svc.Diary.ClientSeries(ctx, &w.owner, w.client(t, "Xenia"))
	require.NoError(t, err)
	require.Len(t, series, 1)
	assert.Equal(t, 2, series[0].Given)
	assert.Equal(t, studio.SeriesRunning, series[0].State)
	behind, err := w.svc.Diary.ClientSeries(ctx, &w.owner, w.client(t, "Wanda"))
	require.NoError(t, err)
	assert.Equal(t, 2, behind[0].Due)
	assert.Equal(t, 10, behind[0].LateBy, "eighteen days since the first of a weekly series: ten more than it allows")
	for path, change := range map[string]func(b *house.Bundle){
		"/roster/0/practitioner": func(b *house.Bundle) { b.Roster = []house.BundleShift{{Practitioner: "nobody", From: "today"}} },
		"/roster/0/from":         func(b *house.Bundle) { b.Roster = []house.BundleShift{{Practitioner: "tove", From: "soon"}} },
		"/absences/0/to": func(b *house.Bundle) {
			b.Absences = []house.BundleAbsence{{Practitioner: "tove", From: "today+3", To: "today+2"}}
		},
		"/series/0/often":   func(b *house.Bundle) { b.Series = []house.BundleSeries{{Key: "x", Often: "now and then"}} },
		"/waiting/0/client": func(b *house.Bundle) { b.Waiting = []house.BundleWaiter{{Client: "nobody", Since: "today"}} },
	} {
		b := &house.Bundle{}
		change(b)
		var bad *studio.InputError
		_, err := w.svc.House.Import(ctx, &w.owner, b, false)
		require.ErrorAs(t, err, &bad, path)
		var paths []string
		for _, p := range bad.Problems {
			paths = append(paths, p.Path)
		}
		assert.Contains(t, paths, path)
	}
}

// Shifts, absences, equipment and a client's hours are entered as they are typed; what is not
// understood is told at its field, an absence over appointments says how many and moves nothing.
func TestRostersAndHoursAreTyped(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v, err := w.svc.Diary.Roster(ctx, &w.desk)
	require.NoError(t, err)
	tove := v.People[2].ID
	n := diary.NewShift{ID: uuid.New(), Practitioner: tove, From: "2026-12-07", Every: 1, Hours: "mon 14-19, tue off"}
	require.NoError(t, w.svc.Diary.AddShift(ctx, &w.desk, n))
	require.NoError(t, w.svc.Diary.AddShift(ctx, &w.desk, n), "sent twice adds once")
	q := w.asks(t, "Kaia Kestrel", "once", "7 dec", "only Tove")
	found, err := w.svc.Diary.FindSeries(ctx, &w.desk, q)
	require.NoError(t, err)
	require.Equal(t, series.Optimal, found.Status)
	assert.Equal(t, "2026-12-07 14:00", found.Best.Visits[len(found.Best.Visits)-1].Wall)
	var bad *studio.InputError
	n.ID, n.Hours = uuid.New(), "whenever it suits"
	require.ErrorAs(t, w.svc.Diary.AddShift(ctx, &w.desk, n), &bad)
	assert.Equal(t, "/hours", bad.Problems[0].Path)
	n.Hours, n.To = "mon 9-12", "2026-12-01"
	require.ErrorAs(t, w.svc.Diary.AddShift(ctx, &w.desk, n), &bad)
	assert.Equal(t, "/to", bad.Problems[0].Path)

	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	visit := day.Visits[len(day.Visits)-1]
	clash, err := w.svc.Diary.AddAbsence(ctx, &w.desk, studio.Absence{
		ID: uuid.New(), Practitioner: &visit.Practitioner, Start: visit.StartsAt, End: visit.EndsAt, Kind: studio.Away,
	})
	require.NoError(t, err)
	assert.Equal(t, 1, clash.Appointments)
	still, err := w.svc.Diary.Visit(ctx, &w.owner, visit.ID)
	require.NoError(t, err)
	assert.True(t, still.StartsAt.Equal(visit.StartsAt))

	h, err := w.svc.Diary.SaveClientHours(ctx, &w.desk, q.Client, diary.TypedHours{Possible: "tue thu after 5", Bedtime: "22:30"})
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"17:00", "24:00"}}, h.Possible["tue"])
	_, err = w.svc.Diary.SaveClientHours(ctx, &w.desk, q.Client, diary.TypedHours{Likes: "sunshine"})
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "/likes", bad.Problems[0].Path)
}

// Rooms are added and changed as the studio changes; two of one name would be mixed up.
func TestRoomsAreAddedAndChanged(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	id := uuid.New()
	attic := diary.RoomFields{Name: " Attic ", Equipment: []string{"lamp", " lamp", ""}, Places: 2}
	require.NoError(t, w.svc.Diary.AddRoom(ctx, &w.owner, id, attic))
	require.NoError(t, w.svc.Diary.AddRoom(ctx, &w.owner, id, attic), "a repeat is safe")
	room := func() diary.RosterRoom {
		v, err := w.svc.Diary.Roster(ctx, &w.desk)
		require.NoError(t, err)
		i := slices.IndexFunc(v.Rooms, func(r diary.RosterRoom) bool { return r.ID == id })
		require.GreaterOrEqual(t, i, 0)
		return v.Rooms[i]
	}
	assert.Equal(t, "Attic", room().Name)
	assert.Equal(t, []string{"lamp"}, room().Equipment)
	assert.Equal(t, 2, room().Places)
	var bad *studio.InputError
	require.ErrorAs(t, w.svc.Diary.AddRoom(ctx, &w.owner, uuid.New(), diary.RoomFields{Name: "attic", Places: 1}), &bad)
	require.ErrorAs(t, w.svc.Diary.SaveRoom(ctx, &w.owner, id, diary.RoomFields{Name: " ", Places: 1}), &bad)
	require.NoError(t, w.svc.Diary.SaveRoom(ctx, &w.owner, id, diary.RoomFields{Name: "Loft", Places: 1}))
	assert.Equal(t, "Loft", room().Name)
	assert.Empty(t, room().Equipment)
	require.ErrorIs(t, w.svc.Diary.SaveRoom(ctx, &w.owner, uuid.New(), diary.RoomFields{Name: "Cellar", Places: 1}), studio.ErrNotFound)
	require.ErrorIs(t, w.svc.Diary.SaveRoom(ctx, &w.desk, id, attic), studio.ErrForbidden)
}

// Somebody walks in: what fits now is offered practitioner by practitioner, ten minutes longer for a
// new client, and one press books them as arrived; their time is taken from then on.
func TestAWalkInIsPlacedInOneStep(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.now = w.now.Add(6*time.Hour + 50*time.Minute) // before both rooms are taken
	c, err := w.svc.Clients.AddClient(ctx, &w.desk, studio.ClientFields{Name: "Wim Walker"})
	require.NoError(t, err)
	fits, err := w.svc.Diary.WalkIn(ctx, &w.desk, c.ID)
	require.NoError(t, err)
	require.Len(t, fits, 3)
	for _, p := range fits {
		for _, f := range p.Fits {
			assert.GreaterOrEqual(t, p.Free, f.Minutes)
			assert.False(t, f.Start.Before(w.now))
		}
		if len(p.Fits) == 0 {
			assert.NotEmpty(t, p.Why)
			continue
		}
		assert.Equal(t, f10(p.Fits[0]), p.Fits[0].Minutes)
	}
	i := slices.IndexFunc(fits, func(p diary.FitsNow) bool { return len(p.Fits) > 0 })
	require.GreaterOrEqual(t, i, 0)
	n := diary.NewWalkIn{ID: uuid.New(), Client: c.ID, Protocol: fits[i].Fits[0].Protocol, Practitioner: fits[i].Practitioner}
	v, err := w.svc.Diary.PlaceWalkIn(ctx, &w.desk, n)
	require.NoError(t, err)
	assert.Equal(t, studio.Arrived, v.State)
	again, err := w.svc.Diary.PlaceWalkIn(ctx, &w.desk, n)
	require.NoError(t, err)
	assert.Equal(t, v.ID, again.ID)
	var taken *diary.SeriesTakenError
	other := n
	other.ID, other.Client = uuid.New(), w.client(t, "Kaia Kestrel")
	_, err = w.svc.Diary.PlaceWalkIn(ctx, &w.desk, other)
	require.ErrorAs(t, err, &taken)
	assert.Equal(t, series.PersonTaken, taken.Limit)
}

// f10 is how long a visit is with ten minutes for the consultation of a new client.
func f10(f diary.ProtocolNow) int { return int(f.Until.Sub(f.Start).Minutes()) }

// A visit of a series that is laid again because its practitioner is away keeps the rhythm: its gaps to the visits before and
// after stay within what was agreed.
func TestAnAbsenceKeepsTheRhythmOfASeries(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	booked := w.booked(t, "4 weekly", "from 7 dec", "rather Maud")
	second := booked.Treatments[1].Visit
	away := diary.AbsentQuestion{Practitioner: second.Practitioner, From: second.StartsAt.Add(-6 * time.Hour), To: second.StartsAt.Add(14 * time.Hour)}
	plan, err := w.svc.Diary.LayAbsentDay(ctx, &w.desk, away)
	require.NoError(t, err)
	i := slices.IndexFunc(plan.Calls, func(c diary.NewDayCall) bool { return c.Visit == second.ID })
	require.GreaterOrEqual(t, i, 0)
	require.NotNil(t, plan.Calls[i].To, "it finds a place")
	_, err = w.svc.Diary.AcceptAbsentDay(ctx, &w.desk, away, plan.Calls)
	require.NoError(t, err)
	now, err := w.svc.Diary.SeriesOf(ctx, &w.owner, booked.ID)
	require.NoError(t, err)
	for k := 1; k < len(now.Treatments); k++ {
		days := now.Treatments[k].Visit.StartsAt.Sub(now.Treatments[k-1].Visit.StartsAt).Hours() / 24
		assert.InDelta(t, 7, days, 1.6, "a week, give or take a day (handbook, chapter 6: 6 to 8 days)")
	}
}
