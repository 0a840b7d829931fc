package diary

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/studio"
)

// Every row of the table of states (handbook, chapter 6, Visits and their states), and the times at
// which a step is allowed, by hand.
func TestTheTableOfStates(t *testing.T) {
	st := &studio.Studio{TimeZone: "Africa/Lagos", Diary: studio.UsualDiaryRules()}
	zone := st.Zone()
	start := time.Date(2027, 1, 11, 14, 0, 0, 0, zone)
	at := func(h, m int) time.Time { return time.Date(2027, 1, 11, h, m, 0, 0, zone) }
	const (
		booked, confirmed, arrived = studio.Booked, studio.Confirmed, studio.Arrived
		cancelled, late, missed    = studio.Cancelled, studio.LateCancelled, studio.NoShow
	)
	for _, c := range []struct {
		from, to studio.VisitState
		now      time.Time
		becomes  studio.VisitState // empty: refused
	}{
		{booked, confirmed, at(9, 0), confirmed},
		{booked, arrived, at(12, 0), arrived},
		{booked, arrived, at(11, 59), ""}, // two hours before at the earliest
		{booked, arrived, at(23, 59), arrived},
		{booked, arrived, start.AddDate(0, 0, 1), ""},
		{booked, cancelled, start.Add(-24 * time.Hour), cancelled},
		{booked, cancelled, start.Add(-24*time.Hour + time.Minute), late},
		{booked, missed, at(14, 14), ""},
		{booked, missed, at(14, 15), missed},
		{booked, studio.InRoom, at(14, 0), ""}, // the room sets it, never the desk
		{booked, studio.Done, at(15, 0), ""},
		{confirmed, arrived, at(13, 50), arrived},
		{confirmed, cancelled, start.AddDate(0, 0, -3), cancelled},
		{confirmed, missed, at(14, 20), missed},
		{confirmed, booked, at(9, 0), ""}, // only by moving
		{arrived, booked, at(13, 55), booked},
		{arrived, cancelled, at(13, 55), late},
		{arrived, missed, at(14, 30), missed},
		{arrived, confirmed, at(13, 55), ""},
		{studio.InRoom, cancelled, at(14, 30), ""},
		{studio.InRoom, arrived, at(14, 30), ""},
		{missed, arrived, at(14, 40), arrived},
		{missed, arrived, start.AddDate(0, 0, 1), ""},
		{missed, booked, at(14, 40), ""},
		{studio.Done, booked, at(16, 0), ""},
		{studio.Done, cancelled, at(16, 0), ""},
		{cancelled, booked, at(9, 0), ""},
		{late, arrived, at(13, 55), ""},
		{studio.Lapsed, booked, at(9, 0), ""},
		{studio.Released, booked, at(9, 0), ""},
		{studio.Held, arrived, at(13, 55), ""},
		{arrived, arrived, at(13, 55), arrived}, // sent twice
	} {
		v := &studio.Visit{State: c.from, StartsAt: start}
		becomes, refused := step(v, c.to, c.now, st)
		if c.becomes == "" {
			assert.NotNil(t, refused, "%s to %s at %s", c.from, c.to, c.now)
			continue
		}
		assert.Nil(t, refused, "%s to %s at %s", c.from, c.to, c.now)
		assert.Equal(t, c.becomes, becomes, "%s to %s at %s", c.from, c.to, c.now)
	}
	assert.Equal(t, start.Add(-24*time.Hour), st.FreeUntil(&studio.Visit{StartsAt: start}))
}

// Only what is held until its hour, or booked and on its way, takes time (handbook, chapter 6).
func TestWhichStatesTakeTime(t *testing.T) {
	takes := []studio.VisitState{studio.Held, studio.Booked, studio.Confirmed, studio.Arrived, studio.InRoom, studio.Done}
	for _, s := range takes {
		assert.True(t, s.TakesTime(), s)
	}
	for _, s := range []studio.VisitState{studio.Cancelled, studio.LateCancelled, studio.NoShow, studio.Lapsed, studio.Released} {
		assert.False(t, s.TakesTime(), s)
	}
}
