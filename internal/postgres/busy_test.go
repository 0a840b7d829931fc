package postgres_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
)

func calendarFile(events ...string) []byte {
	return []byte("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Test//EN\r\n" + strings.Join(events, "") + "END:VCALENDAR\r\n")
}

func busyEvent(uid string, from, to time.Time) string {
	const form = "20060102T150405Z"
	return fmt.Sprintf("BEGIN:VEVENT\r\nUID:%s\r\nDTSTAMP:20260101T000000Z\r\nSUMMARY:Dentist, root canal\r\nDTSTART:%s\r\nDTEND:%s\r\nEND:VEVENT\r\n",
		uid, from.UTC().Format(form), to.UTC().Format(form))
}

// Busy times of an own calendar are shown first, then written: nothing but begin and end; what is
// booked is flagged and stays; nobody is booked into them; a newer calendar takes their place, and a
// broken one changes nothing.
func TestBusyTimesOfAnOwnCalendar(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	later := v.StartsAt.AddDate(0, 0, 7)
	file := calendarFile(busyEvent("a", v.StartsAt, v.EndsAt), busyEvent("b", later, later.Add(30*time.Minute)))
	busy := func() int { return w.count(t, "select count(*) from absence where kind = 'imported'") }

	dry, err := w.svc.Diary.ImportBusy(ctx, &w.owner, &v.Practitioner, nil, file, true)
	require.NoError(t, err)
	assert.Len(t, dry.Times, 2)
	require.Len(t, dry.Clashes, 1)
	assert.Equal(t, v.ID, dry.Clashes[0].ID)
	assert.Zero(t, busy(), "a preview writes nothing")

	_, err = w.svc.Diary.ImportBusy(ctx, &w.owner, &v.Practitioner, nil, file, false)
	require.NoError(t, err)
	assert.Equal(t, 2, busy())
	assert.Zero(t, w.count(t, "select count(*) from absence where note like '%entist%'"), "no title is kept")
	now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.Equal(t, v.StartsAt, now.StartsAt)
	clashes, err := w.svc.Diary.Clashing(ctx, &w.owner)
	require.NoError(t, err)
	require.NotEmpty(t, clashes)
	assert.Equal(t, diary.MeetsAbsence, clashes[0].Why)
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{
		Protocol: v.Protocol, Practitioner: &v.Practitioner, From: v.StartsAt.AddDate(0, 0, 7).Format(time.DateOnly), Days: 1,
	})
	require.NoError(t, err)
	for _, f := range free {
		assert.False(t, f.Start.Before(later.Add(30*time.Minute)) && f.Start.Add(v.EndsAt.Sub(v.StartsAt)).After(later), "%v", f.Start)
	}

	_, err = w.svc.Diary.ImportBusy(ctx, &w.owner, &v.Practitioner, nil, calendarFile(busyEvent("a", v.StartsAt, v.EndsAt), "BEGIN:VEVENT\r\nUID:x\r\nDTSTART:never\r\nEND:VEVENT\r\n"), false)
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	assert.Equal(t, 2, busy(), "a broken file changes nothing")
	again, err := w.svc.Diary.ImportBusy(ctx, &w.owner, &v.Practitioner, nil, calendarFile(), false)
	require.NoError(t, err)
	assert.Equal(t, 2, again.Replaced)
	assert.Zero(t, busy())

	own, err := w.svc.Diary.ImportBusy(ctx, &w.desk, nil, &v.Client, calendarFile(busyEvent("c", v.StartsAt, v.EndsAt)), false)
	require.NoError(t, err)
	assert.Len(t, own.Clashes, 1, "a client's own")
	_, err = w.svc.Diary.ImportBusy(ctx, &w.desk, &v.Practitioner, nil, file, false)
	require.ErrorIs(t, err, studio.ErrNotYours, "a colleague's calendar is theirs")
}

// An appointment keeps the wall time that was promised when the rules of the zone change, or when
// the studio's zone is corrected (handbook, chapter 6, Clocks).
func TestTheWallTimeStays(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	settings, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	next := settings.Settings
	next.TimeZone = "Europe/Berlin" // an hour before Lisbon
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, settings.Revision, next)
	require.NoError(t, err)
	now, err := w.svc.Diary.Visit(ctx, &w.owner, v.ID)
	require.NoError(t, err)
	assert.True(t, now.StartsAt.Equal(v.StartsAt) || now.StartsAt.Equal(v.StartsAt.Add(-time.Hour)))
	later := w.next(t, w.client(t, "Kaia Kestrel"))
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	assert.Equal(t, 0, w.count(t, "select count(*) from visit where starts_at > now() and state in ('booked', 'confirmed') and promised <> '' "+
		"and promised <> to_char(starts_at at time zone 'Europe/Berlin', 'YYYY-MM-DD\"T\"HH24:MI')"))
	assert.Equal(t, later.Promised, later.StartsAt.In(berlin).Format("2006-01-02T15:04"))

	// What would meet another booking stays, and is listed: here the client's other appointment.
	w.asOwner(t, "visit", "update visit set promised = to_char((starts_at - interval '30 minutes') at time zone 'Europe/Berlin', 'YYYY-MM-DD\"T\"HH24:MI') where id = $1", later.ID)
	require.NoError(t, w.svc.Diary.KeepWallTimes(ctx, w.owner.Studio))
	moved, err := w.svc.Diary.Visit(ctx, &w.owner, later.ID)
	require.NoError(t, err)
	assert.Equal(t, later.StartsAt.Add(-30*time.Minute), moved.StartsAt)
	assert.Equal(t, later.Moves+1, moved.Moves, "its calendar file says so")
}

// fetched is a calendar that an address answers with, or a fault.
type fetched struct {
	data []byte
	err  error
}

func (f *fetched) Fetch(context.Context, string) ([]byte, error) { return f.data, f.err }

// A calendar at an address is read again by itself; while it cannot be read, what was read stays, and
// an empty address ends it.
func TestTheAddressOfAnOwnCalendar(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	from := &fetched{data: calendarFile(busyEvent("a", v.StartsAt.AddDate(0, 0, 2), v.EndsAt.AddDate(0, 0, 2)))}
	w.svc.Diary.Fetch = from
	busy := func() int { return w.count(t, "select count(*) from absence where kind = 'imported'") }
	set := func(address string, dry bool) error {
		_, err := w.svc.Diary.SetBusyAddress(ctx, &w.owner, &v.Practitioner, nil, address, dry)
		return err
	}
	require.NoError(t, set("https://calendar.example/me.ics", true))
	assert.Zero(t, busy())
	require.NoError(t, set("https://calendar.example/me.ics", false))
	require.NoError(t, set("https://calendar.example/me.ics", false), "a repeat is safe")
	assert.Equal(t, 1, busy())
	again := func() *studio.BusyState {
		require.NoError(t, w.svc.Diary.ReadBusyAddresses(ctx, w.owner.Studio))
		r, err := w.svc.Diary.Roster(ctx, &w.owner)
		require.NoError(t, err)
		for _, p := range r.People {
			if p.ID == v.Practitioner {
				return p.BusyAddress
			}
		}
		return nil
	}
	from.data = calendarFile(busyEvent("a", v.StartsAt.AddDate(0, 0, 2), v.EndsAt.AddDate(0, 0, 2)), busyEvent("b", v.StartsAt.AddDate(0, 0, 4), v.EndsAt.AddDate(0, 0, 4)))
	assert.Empty(t, again().Failure)
	assert.Equal(t, 2, busy())
	from.err = fmt.Errorf("web: it answers 404 Not Found")
	assert.Equal(t, "it answers 404 Not Found", again().Failure)
	assert.Equal(t, 2, busy(), "what was read stays")
	from.err, from.data = nil, []byte("<html>")
	assert.NotEmpty(t, again().Failure)
	assert.Equal(t, 2, busy())
	var input *studio.InputError
	from.err = fmt.Errorf("web: this is not an address")
	require.ErrorAs(t, set("nowhere", false), &input)
	require.NoError(t, set("", false))
	assert.Nil(t, again())
	assert.Zero(t, busy())
}
