package postgres_test

import (
	"context"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// A private address shows a client's appointments and nothing else; it is kept as its hash, made
// anew with one press and then leads nowhere; what was cancelled stays visible as cancelled.
func TestCalendarAddresses(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Kaia Kestrel")
	held, _ := w.hold(t, &w.owner, w.asks(t, "Kaia Kestrel", "2 weekly", "from 7 dec", ""))
	booked, err := w.svc.Diary.BookSeries(ctx, &w.owner, held.ID)
	require.NoError(t, err)
	call := w.api(t)
	open := func(address string) (int, string) {
		res, body := call("GET", address[strings.Index(address, "/api/"):], "")
		if res.StatusCode == 200 {
			assert.Equal(t, "text/calendar; charset=utf-8", res.Header.Get("Content-Type"))
			assert.Equal(t, "no-store", res.Header.Get("Cache-Control"))
		}
		return res.StatusCode, body
	}
	made, err := w.svc.Portal.NewCalendarAddress(ctx, &w.desk, nil, &client)
	require.NoError(t, err)
	status, body := open(made.Address)
	require.Equal(t, 200, status)
	events := regexp.MustCompile(`(?m)^UID:(\S+)`).FindAllStringSubmatch(body, -1)
	first := booked.Treatments[0].Visit
	var uids []string
	for _, e := range events {
		uids = append(uids, e[1])
	}
	assert.Contains(t, uids, first.ID.String())
	assert.Contains(t, body, "SUMMARY:Appointment")
	for _, word := range []string{"drainage", "stone", "lift", "Kaia", "Kestrel"} {
		assert.NotContains(t, strings.ToLower(body), strings.ToLower(word), "nothing of what is treated, nor a name")
	}
	_, err = w.svc.Diary.SetVisitState(ctx, &w.desk, first.ID, studio.Cancelled, "Client is ill")
	require.NoError(t, err)
	_, body = open(made.Address)
	assert.Contains(t, body, "STATUS:CANCELLED")
	w.now = w.now.Add(31 * 24 * time.Hour)
	_, body = open(made.Address)
	assert.NotContains(t, body, "STATUS:CANCELLED", "after thirty days it goes")

	again, err := w.svc.Portal.NewCalendarAddress(ctx, &w.desk, nil, &client)
	require.NoError(t, err)
	status, _ = open(made.Address)
	assert.Equal(t, 404, status, "the one before has ended")
	status, _ = open(again.Address)
	assert.Equal(t, 200, status)
	require.NoError(t, w.svc.Portal.EndCalendarAddress(ctx, &w.desk, nil, &client))
	status, _ = open(again.Address)
	assert.Equal(t, 404, status)
	status, _ = open("/api/calendars/" + strings.Repeat("x", 43))
	assert.Equal(t, 404, status)

	// A practitioner's calendar has initials and minutes; nobody makes a colleague's.
	day, err := w.svc.Diary.Day(ctx, &w.owner, "2026-11-24")
	require.NoError(t, err)
	maud := day.Practitioners[1].ID
	own, err := w.svc.Portal.NewCalendarAddress(ctx, &w.owner, &maud, nil)
	require.NoError(t, err)
	_, body = open(own.Address)
	assert.Contains(t, body, "SUMMARY:DD 50 min")
	assert.NotContains(t, body, "Dunmore")
	stranger := studio.Actor{Studio: w.owner.Studio, Account: uuid.New(), Role: studio.Practitioner, Practitioner: &day.Practitioners[0].ID}
	_, err = w.svc.Portal.NewCalendarAddress(ctx, &stranger, &maud, nil)
	require.ErrorIs(t, err, studio.ErrNotYours)
	assert.Zero(t, w.count(t, "select count(*) from calendar_link where encode(token_hash, 'escape') like '%"+own.Address[len(own.Address)-24:len(own.Address)-4]+"%'"))
}
