package messages

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func zone(t *testing.T, name string) *time.Location {
	t.Helper()
	z, err := time.LoadLocation(name)
	require.NoError(t, err)
	return z
}

func at(t *testing.T, z *time.Location, wall string) time.Time {
	t.Helper()
	v, err := time.ParseInLocation("2006-01-02 15:04", wall, z)
	require.NoError(t, err)
	return v
}

// visit is one on a Thursday at a time, booked at another, an hour long, free to cancel until a
// day before.
func visit(t *testing.T, z *time.Location, start, since string) Visit {
	t.Helper()
	s := at(t, z, start)
	return Visit{ID: "v", Start: s, End: s.Add(time.Hour), Since: at(t, z, since), FreeUntil: s.Add(-24 * time.Hour), State: ToCome}
}

func walls(due []Due, z *time.Location) map[Kind]string {
	out := map[Kind]string{}
	for _, d := range due {
		out[d.Kind] = d.At.In(z).Format("2006-01-02 15:04")
	}
	return out
}

// The timetable of chapter 6 of the handbook, row by row.
func TestTimetable(t *testing.T) {
	z := zone(t, "Europe/Berlin")
	usual := Usual()
	for name, c := range map[string]struct {
		change func(*Visit)
		start  string
		since  string
		want   map[Kind]string
	}{
		"an appointment weeks ahead": {nil, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			AnythingNew: "2027-03-15 14:00", Reminder: "2027-03-16 14:00",
		}},
		"the first of a series": {func(v *Visit) { v.First = true }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			Prepare: "2027-03-11 14:00", AnythingNew: "2027-03-15 14:00", Reminder: "2027-03-16 14:00",
		}},
		"the first, booked five days before": {func(v *Visit) { v.First = true }, "2027-03-18 14:00", "2027-03-13 09:00", map[Kind]string{
			Prepare: "2027-03-13 09:00", AnythingNew: "2027-03-15 14:00", Reminder: "2027-03-16 14:00",
		}},
		"booked the day before": {nil, "2027-03-18 14:00", "2027-03-17 12:00", map[Kind]string{}},
		"booked between the two": {nil, "2027-03-18 14:00", "2027-03-15 18:00", map[Kind]string{
			Reminder: "2027-03-16 14:00",
		}},
		"a short one by choice": {func(v *Visit) { v.Short = true }, "2027-03-18 14:00", "2027-03-17 12:00", map[Kind]string{
			Short: "2027-03-18 11:00",
		}},
		"a short one that falls before eight": {func(v *Visit) { v.Short = true }, "2027-03-18 10:00", "2027-03-17 12:00", map[Kind]string{
			Short: "2027-03-17 20:15",
		}},
		"due at half past eight in the evening": {nil, "2027-03-18 20:30", "2027-02-01 09:00", map[Kind]string{
			AnythingNew: "2027-03-15 20:15", Reminder: "2027-03-16 20:15",
		}},
		"due at eight in the morning": {nil, "2027-03-18 08:00", "2027-02-01 09:00", map[Kind]string{
			AnythingNew: "2027-03-15 08:00", Reminder: "2027-03-16 08:00",
		}},
		"free cancelling that ends early": {func(v *Visit) { v.FreeUntil = v.Start.Add(-72 * time.Hour) }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			AnythingNew: "2027-03-15 14:00", Reminder: "2027-03-15 10:00",
		}},
		"a patch test": {func(v *Visit) { v.PatchTest, v.First = true, true }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			Reminder: "2027-03-16 14:00",
		}},
		"over": {func(v *Visit) { v.State = Over }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			NextDay: "2027-03-19 10:00",
		}},
		"the third of six": {func(v *Visit) { v.State, v.N, v.Of = Over, 3, 6 }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			NextDay: "2027-03-19 10:00", HalfWay: "2027-03-19 10:00",
		}},
		"the fourth of six": {func(v *Visit) { v.State, v.N, v.Of = Over, 4, 6 }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			NextDay: "2027-03-19 10:00", TwoLeft: "2027-03-19 10:00",
		}},
		"the last of six without its review": {func(v *Visit) { v.State, v.N, v.Of = Over, 6, 6 }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			NextDay: "2027-03-19 10:00", ReviewDue: "2027-03-19 10:00",
		}},
		"the last of six, reviewed": {func(v *Visit) { v.State, v.N, v.Of, v.Reviewed = Over, 6, 6, true }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{
			NextDay: "2027-03-19 10:00",
		}},
		"cancelled": {func(v *Visit) { v.State = Gone }, "2027-03-18 14:00", "2027-02-01 09:00", map[Kind]string{}},
	} {
		t.Run(name, func(t *testing.T) {
			v := visit(t, z, c.start, c.since)
			if c.change != nil {
				c.change(&v)
			}
			assert.Equal(t, c.want, walls(Plan([]Visit{v}, &usual, z), z))
		})
	}
}

// The week before is counted on the calendar, hours by the clock that runs: across both changes of
// the clocks, in a zone that changes by an hour, one by half an hour, and one that never does.
func TestTimetableAcrossTheClocks(t *testing.T) {
	usual := Usual()
	for _, c := range []struct{ zone, start, prepare, reminder string }{
		{"Europe/Berlin", "2027-03-29 14:00", "2027-03-22 14:00", "2027-03-27 13:00"},       // 28 March, an hour less
		{"Europe/Berlin", "2027-11-01 14:00", "2027-10-25 14:00", "2027-10-30 15:00"},       // 31 October, an hour more
		{"Australia/Lord_Howe", "2027-10-04 14:00", "2027-09-27 14:00", "2027-10-02 13:30"}, // 3 October, half an hour less
		{"Asia/Kolkata", "2027-03-29 14:00", "2027-03-22 14:00", "2027-03-27 14:00"},
	} {
		z := zone(t, c.zone)
		v := visit(t, z, c.start, "2027-01-04 09:00")
		v.First = true
		got := walls(Plan([]Visit{v}, &usual, z), z)
		assert.Equal(t, c.prepare, got[Prepare], c)
		assert.Equal(t, c.reminder, got[Reminder], c)
	}
}

// One a day at most: the later is merged into the earlier, whichever visit it is about.
func TestOneMessageADay(t *testing.T) {
	z := zone(t, "Europe/Berlin")
	usual := Usual()
	over := visit(t, z, "2027-03-14 14:00", "2027-02-01 09:00")
	over.ID, over.State = "over", Over // the day after it is the 15th, 10:00
	next := visit(t, z, "2027-03-18 14:00", "2027-02-01 09:00")
	due := Plan([]Visit{next, over}, &usual, z)
	all := Merge(due, z)
	require.Len(t, all, 2)
	assert.Equal(t, "2027-03-15 10:00", all[0].At.Format("2006-01-02 15:04"))
	assert.Equal(t, []Kind{NextDay, AnythingNew}, []Kind{all[0].Parts[0].Kind, all[0].Parts[1].Kind})
	assert.Equal(t, []Kind{Reminder}, []Kind{all[1].Parts[0].Kind})
}

// What is to be sent at a moment, and when to look again.
func TestNow(t *testing.T) {
	z := zone(t, "Europe/Berlin")
	usual := Usual()
	over := visit(t, z, "2027-03-14 14:00", "2027-02-01 09:00")
	over.ID, over.State = "over", Over
	due := Plan([]Visit{visit(t, z, "2027-03-18 14:00", "2027-02-01 09:00"), over}, &usual, z)
	sent := map[Due]bool{}
	look := func(wall string) ([]Kind, string) {
		one, next := Now(due, func(d Due) bool { return sent[d] }, at(t, z, wall), &usual, z)
		again := ""
		if !next.IsZero() {
			again = next.In(z).Format("2006-01-02 15:04")
		}
		if one == nil {
			return nil, again
		}
		kinds := []Kind{}
		for _, p := range one.Parts {
			kinds = append(kinds, p.Kind)
			sent[p] = true
		}
		return kinds, again
	}
	kinds, next := look("2027-03-14 16:00")
	assert.Empty(t, kinds)
	assert.Equal(t, "2027-03-15 10:00", next)
	kinds, next = look("2027-03-15 10:00")
	assert.Equal(t, []Kind{NextDay, AnythingNew}, kinds, "what is due at two goes with what is due at ten")
	assert.Equal(t, "2027-03-16 14:00", next)
	kinds, next = look("2027-03-15 14:00")
	assert.Empty(t, kinds, "nothing twice")
	assert.Equal(t, "2027-03-16 14:00", next)
	kinds, next = look("2027-03-16 22:00")
	assert.Empty(t, kinds, "the server was away; now is quiet")
	assert.Equal(t, "2027-03-17 08:00", next)
	kinds, next = look("2027-03-17 08:00")
	assert.Equal(t, []Kind{Reminder}, kinds)
	assert.Empty(t, next)
	clear(sent)
	kinds, _ = look("2027-03-18 14:00")
	assert.Empty(t, kinds, "no reminder of what has begun")
	kinds, _ = look("2027-03-17 15:00")
	assert.Empty(t, kinds, "nor one that is more than a day late")
}
