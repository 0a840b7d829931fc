package postgres_test

import (
	"context"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/portal"
)

// told are the messages to a client by kind, the oldest first.
func (w *world) told(t *testing.T, name string) (out []studio.Message) {
	t.Helper()
	list, err := w.messages(context.Background())
	require.NoError(t, err)
	for i := len(list) - 1; i >= 0; i-- {
		if list[i].Name == name {
			out = append(out, list[i])
		}
	}
	return out
}

// wake lets a client be told what is due at a time.
func (w *world) wake(t *testing.T, client uuid.UUID, at time.Time) {
	t.Helper()
	w.now = at
	require.NoError(t, w.svc.Portal.TellDue(context.Background(), w.owner.Studio, client))
}

// booked books a series of Kaia Kestrel as it is asked for.
func (w *world) booked(t *testing.T, often, when, with string) *diary.SeriesView {
	t.Helper()
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", often, when, with))
	booked, err := w.svc.Diary.BookSeries(context.Background(), &w.owner, held.ID)
	require.NoError(t, err)
	return booked
}

// twoWeekly books two visits of Kaia Kestrel, from 14 December on.
func (w *world) twoWeekly(t *testing.T) *diary.SeriesView {
	t.Helper()
	return w.booked(t, "2 weekly", "from 14 dec", "")
}

// linkIn is the address that follows a word in a message.
func linkIn(t *testing.T, body, path string) string {
	t.Helper()
	found := regexp.MustCompile(regexp.QuoteMeta(path) + `#(\S+)`).FindStringSubmatch(body)
	require.NotNil(t, found, body)
	return found[1]
}

// A booking is told at once, with price, until when it is free, a calendar file, the client's page,
// why the message came and how to stop it; and with nothing about health or what is treated.
func TestABookingIsTold(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	booked := w.twoWeekly(t)
	all := w.told(t, "Kaia Kestrel")
	require.Len(t, all, 1, "one message for the whole series")
	m := all[0]
	assert.Equal(t, studio.BookingMessage, m.Kind)
	first := booked.Treatments[0].Visit
	zone, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	assert.Contains(t, m.Body, first.StartsAt.In(zone).Format("Monday 2 January 2006, 15:04"))
	assert.Contains(t, m.Body, "Price: ")
	assert.Equal(t, 2, strings.Count(m.Body, "Moving or cancelling it is free until "))
	assert.Contains(t, m.Body, first.StartsAt.Add(-24*time.Hour).In(zone).Format("Monday 2 January 2006, 15:04"))
	assert.Contains(t, m.Body, "You get this message because")
	for _, word := range []string{"drainage", "stone", "lift", "acne", "rosacea", first.ProtocolName} {
		assert.NotContains(t, strings.ToLower(m.Body), strings.ToLower(word))
	}
	assert.Contains(t, m.Attachment, "BEGIN:VCALENDAR")
	assert.Equal(t, 2, strings.Count(m.Attachment, "BEGIN:VEVENT"))

	token := linkIn(t, m.Body, "/appointments")
	page, err := w.svc.Portal.OpenAppointments(ctx, token)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(page.Appointments), 2)
	_, err = w.svc.Portal.Act(ctx, linkIn(t, m.Body, "/appointments?stop"), portal.ActStop, uuid.Nil, "")
	require.NoError(t, err)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, first.ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	assert.Len(t, w.told(t, "Kaia Kestrel"), 1, "who wants no messages gets none")
	page, err = w.svc.Portal.Act(ctx, token, portal.ActResume, uuid.Nil, "")
	require.NoError(t, err)
	assert.False(t, page.NoMessages)
}

// The timetable: what is due goes once, a visit that was moved is told of anew, one that was
// cancelled no more.
func TestTheTimetableOfMessages(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	booked := w.twoWeekly(t)
	first, second := booked.Treatments[0].Visit, booked.Treatments[1].Visit
	client := first.Client
	kinds := func() (out []studio.MessageKind) {
		for _, m := range w.told(t, "Kaia Kestrel") {
			out = append(out, m.Kind)
		}
		return out
	}
	w.wake(t, client, first.StartsAt.Add(-8*24*time.Hour))
	already := len(kinds()) // the booking, and what is due about an earlier appointment
	w.wake(t, client, first.StartsAt.Add(-7*24*time.Hour+time.Minute))
	w.wake(t, client, first.StartsAt.Add(-7*24*time.Hour+2*time.Minute))
	require.Len(t, kinds(), already+1, "the week before, once")
	w.wake(t, client, first.StartsAt.Add(-72*time.Hour+time.Minute))
	assert.Contains(t, w.newest(t).Body, "Is anything new")
	w.wake(t, client, first.StartsAt.Add(-48*time.Hour+time.Minute))
	assert.Contains(t, w.newest(t).Body, "A reminder")
	require.Len(t, kinds(), already+3)
	w.wake(t, client, first.StartsAt.Add(-3*time.Hour+time.Minute))
	require.Len(t, kinds(), already+3, "the short one is by choice")

	w.now = second.StartsAt.Add(-6 * 24 * time.Hour)
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{
		Protocol: second.Protocol, Client: &client, From: second.StartsAt.AddDate(0, 0, 1).Format(time.DateOnly), Days: 7,
	})
	require.NoError(t, err)
	require.NotEmpty(t, free)
	to := free[len(free)-1]
	moved, err := w.svc.Diary.MoveVisit(ctx, &w.owner, second.ID, studio.NewVisit{Practitioner: to.Practitioner, Room: to.Room, Start: to.Start})
	require.NoError(t, err)
	m := w.newest(t)
	assert.Equal(t, studio.MovingMessage, m.Kind)
	assert.Contains(t, m.Body, "It was on "+second.StartsAt.UTC().Format("Monday 2 January 2006"))
	assert.Contains(t, m.Attachment, "SEQUENCE:1")
	n := len(kinds())
	w.wake(t, client, moved.StartsAt.Add(-48*time.Hour+time.Minute))
	require.Len(t, kinds(), n+1)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, second.ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	assert.Equal(t, studio.CancellingMessage, w.newest(t).Kind)
	n = len(kinds())
	w.wake(t, client, moved.StartsAt.Add(-time.Hour))
	require.Len(t, kinds(), n, "nothing about what does not take place")
}

// A press by mistake is taken back before anybody reads of it.
func TestACancellingThatIsUndoneIsNotTold(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	booked := w.twoWeekly(t)
	mails := w.mailServer(t)
	id := booked.Treatments[0].Visit.ID
	_, err := w.svc.Diary.SetVisitState(ctx, &w.desk, id, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	assert.Equal(t, studio.CancellingMessage, w.newest(t).Kind)
	assert.Zero(t, w.sendDue(t), "it waits until the press cannot be undone any more")
	_, err = w.svc.Diary.UndoCancel(ctx, &w.desk, id)
	require.NoError(t, err)
	w.now = w.now.Add(5 * time.Minute)
	assert.Zero(t, w.sendDue(t))
	assert.Empty(t, mails.Mails())
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, id, studio.Cancelled, "Client is ill after all")
	require.NoError(t, err)
	w.now = w.now.Add(5 * time.Minute)
	assert.Equal(t, 1, w.sendDue(t))
	require.Len(t, mails.Mails(), 1)
	assert.Contains(t, mails.Mails()[0], "text/calendar")
}

// Whom the practitioner's absence moved hears nothing before the desk has called.
func TestNothingIsToldBeforeTheDeskCalls(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	from := time.Date(v.StartsAt.Year(), v.StartsAt.Month(), v.StartsAt.Day(), 0, 0, 0, 0, v.StartsAt.Location())
	q := diary.AbsentQuestion{Practitioner: v.Practitioner, From: from, To: from.AddDate(0, 0, 1)}
	before, err := w.messages(ctx)
	require.NoError(t, err)
	laid, err := w.svc.Diary.LayAbsentDay(ctx, &w.owner, q)
	require.NoError(t, err)
	require.NotEmpty(t, laid.Calls)
	_, err = w.svc.Diary.AcceptAbsentDay(ctx, &w.owner, q, laid.Calls)
	require.NoError(t, err)
	after, err := w.messages(ctx)
	require.NoError(t, err)
	assert.Len(t, after, len(before))
	calls, err := w.svc.Diary.Calls(ctx, &w.owner)
	require.NoError(t, err)
	require.NoError(t, w.svc.Diary.CallMade(ctx, &w.owner, calls[0].ID))
	m := w.newest(t)
	assert.Equal(t, calls[0].ClientName, m.Name)
	assert.Contains(t, []studio.MessageKind{studio.MovingMessage, studio.CancellingMessage}, m.Kind)
}

// Jobs wake at their time, in the transaction of what they are about: one that is undone leaves
// none, and the same asked twice is done once.
func TestJobsWakeAtTheirTime(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	db, err := postgres.Open(ctx, w.appURL)
	require.NoError(t, err)
	defer db.Close()
	client := w.client(t, "Kaia Kestrel")
	wake := func(at time.Time, then error) {
		err := db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
			if err := tx.(*postgres.Tx).Wake(ctx, client, at); err != nil {
				return err
			}
			return then
		})
		require.ErrorIs(t, err, then)
	}
	soon := time.Now().Add(time.Second)
	wake(soon, nil)
	wake(soon, nil)
	wake(soon.Add(time.Millisecond), studio.ErrRehearsal)
	wake(soon.AddDate(0, 0, 1), nil)
	var told atomic.Int32
	jobs, err := db.Jobs(func() time.Time { return time.Now().AddDate(-5, 0, 0) }, func(_ context.Context, in, who uuid.UUID) error {
		assert.Equal(t, []uuid.UUID{w.owner.Studio, client}, []uuid.UUID{in, who})
		told.Add(1)
		return nil
	}, func(context.Context, uuid.UUID) error { return nil })
	require.NoError(t, err)
	require.NoError(t, jobs.Start(ctx))
	assert.Eventually(t, func() bool { return told.Load() == 1 }, 20*time.Second, 50*time.Millisecond)
	require.NoError(t, jobs.Stop(ctx))
	assert.EqualValues(t, 1, told.Load())
}

// How far a series has come is told to whoever treated last as well: by initials, and with nothing about health.
func TestProgressIsToldToThePractitioner(t *testing.T) {
	w := newWorld(t)
	booked := w.booked(t, "6 weekly", "from 7 dec", "must Maud")
	told := map[string]string{}
	for i := range booked.Treatments {
		v := booked.Treatments[i].Visit
		require.NoError(t, w.direct(w.ownerURL, "update visit set state = 'done' where id = '"+v.ID.String()+"'"))
		w.wake(t, v.Client, v.EndsAt.Add(24*time.Hour))
		w.wake(t, v.Client, v.EndsAt.Add(25*time.Hour)) // a repeat tells nothing twice
		for _, m := range w.told(t, "Maud Ferrant") {
			if m.Kind == studio.ProgressMessage {
				told[m.Body] = m.To
			}
		}
	}
	list, err := w.messages(context.Background())
	require.NoError(t, err)
	sent := 0
	for i := range list {
		if list[i].Kind == studio.ProgressMessage {
			sent++
		}
	}
	assert.Len(t, told, sent, "each once, to the one who treated")
	require.NotEmpty(t, told)
	half := false
	for body, to := range told {
		assert.Equal(t, "maud@demo.example", to)
		assert.NotContains(t, body, "Kestrel")
		assert.Contains(t, body, "Maud Ferrant")
		assert.NotContains(t, strings.ToLower(body), "skin")
		half = half || strings.Contains(body, "half done: 3 of 6")
	}
	assert.True(t, half, "after the third of six")
	assert.Len(t, told, 3, "half way, two left, review due (handbook, chapter 6)")
}
