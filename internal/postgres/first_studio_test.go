package postgres_test

import (
	"context"
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

func newStudio() house.NewStudio {
	n := house.NewStudio{
		Basics:  house.Basics{Name: "Rowan Street Face Studio", Address: "3 Rowan Street", TimeZone: "Europe/Lisbon", Currency: "eur", Open: everyDay()},
		Rooms:   []string{"Window room", "Back room"},
		Shipped: true,
	}
	n.Owner.Name, n.Owner.Email, n.Owner.Password, n.Owner.Treats = "Ана Łęcka", "ana@studio.example", "seven warm stones", true
	return n
}

// The first page makes a studio where there is none, once however many ask at the same
// moment, and a working one: its owner can be booked with what ships.
func TestTheFirstStudio(t *testing.T) {
	w := emptyWorld(t)
	ctx := context.Background()
	for path, wrong := range map[string]func(*house.NewStudio){
		"/name":           func(n *house.NewStudio) { n.Name = " " },
		"/taxRate":        func(n *house.NewStudio) { n.Tax = studio.Tax{TaxName: "VAT", Rate: "a lot"} },
		"/taxName":        func(n *house.NewStudio) { n.Tax = studio.Tax{Rate: "23"} },
		"/timeZone":       func(n *house.NewStudio) { n.TimeZone = "Moon/Tranquility" },
		"/currency":       func(n *house.NewStudio) { n.Currency = "euros" },
		"/open":           func(n *house.NewStudio) { n.Open[1].To = 60 },
		"/rooms":          func(n *house.NewStudio) { n.Rooms = nil },
		"/owner/name":     func(n *house.NewStudio) { n.Owner.Name = "" },
		"/owner/email":    func(n *house.NewStudio) { n.Owner.Email = "ana" },
		"/owner/password": func(n *house.NewStudio) { n.Owner.Password = "too short" },
	} {
		n := newStudio()
		wrong(&n)
		err := w.svc.House.FirstStudio(ctx, n, bundle(t), "wrong "+path)
		var input *studio.InputError
		require.ErrorAs(t, err, &input, path)
		assert.Equal(t, path, input.Problems[0].Path)
	}
	call := w.api(t)
	_, body := call("GET", "/api/session", "")
	assert.Contains(t, body, `"empty":true`)
	made := 0
	for _, err := range together(50, func(i int) error {
		return w.svc.House.FirstStudio(ctx, newStudio(), bundle(t), fmt.Sprint("address ", i))
	}) {
		var state *studio.StateError
		if err == nil {
			made++
			continue
		}
		require.ErrorAs(t, err, &state)
		assert.Equal(t, "studio-exists", state.Code)
	}
	require.Equal(t, 1, made)
	_, body = call("GET", "/api/session", "")
	assert.NotContains(t, body, `"empty"`)
	assert.NotContains(t, body, "demo palms")

	in, err := w.in(t, "ana@studio.example", "seven warm stones", "")
	require.NoError(t, err)
	a := &in.Actor
	list, err := w.svc.Protocols.Protocols(ctx, a)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	clients, _, err := w.svc.Clients.Clients(ctx, a, "", "")
	require.NoError(t, err)
	assert.Empty(t, clients, "nobody of the demo is in it")
	free, err := w.svc.Diary.FreeTimes(ctx, a, studio.FreeQuery{Protocol: list[0].ID, Days: 7})
	require.NoError(t, err)
	assert.NotEmpty(t, free)
	shelf, err := w.svc.Shelf.Shelf(ctx, a)
	require.NoError(t, err)
	require.NotEmpty(t, shelf)
	for _, line := range shelf {
		assert.Empty(t, line.Packs, "nothing is on the shelf before it was received")
	}
}

// Settings are changed at a revision; of two who change them, the second is shown what the
// first saved; and nobody asks owners for a second factor who has none.
func TestSettingsAreChanged(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	now, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	next := now.Settings
	next.Name, next.Address = "Lantern Row", "9 Lantern Row\n1000 Harbour"
	saved, err := w.svc.House.ChangeSettings(ctx, &w.owner, now.Revision, next)
	require.NoError(t, err)
	assert.Equal(t, now.Revision+1, saved.Revision)
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, now.Revision, next)
	var changed *studio.ChangedError
	require.ErrorAs(t, err, &changed)
	assert.Equal(t, "Lantern Row", changed.Other.(*house.SettingsView).Name)
	v := w.next(t, w.client(t, "Viktor"))
	day := v.StartsAt.Format("2006-01-02")
	next.Closures = []series.Closure{{From: day, To: "2026-01-01", Reason: "painters"}}
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, saved.Revision, next)
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/closures/0/to", input.Problems[0].Path)
	next.Closures[0].To = day
	saved, err = w.svc.House.ChangeSettings(ctx, &w.owner, saved.Revision, next)
	require.NoError(t, err)
	assert.Positive(t, saved.Closed, "what is booked already is told")
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: v.Protocol, From: day, Days: 1})
	require.NoError(t, err)
	assert.Empty(t, free)
	_, err = w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: w.client(t, "Greta"), Practitioner: v.Practitioner, Room: v.Room, Protocol: v.Protocol, Start: v.StartsAt.Add(2 * time.Hour)})
	require.ErrorAs(t, err, &input)
	assert.Contains(t, input.Problems[0].Message, "painters")
	next.OwnersNeedFactor = true
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, saved.Revision, next)
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/ownersNeedFactor", input.Problems[0].Path)
	owner := w.signedIn(t, "owner@demo.example", "demo palms 1")
	res, body := owner("GET", "/api/settings", "")
	require.Equal(t, 200, res.StatusCode)
	var shown house.SettingsView
	require.NoError(t, json.Unmarshal([]byte(body), &shown))
	assert.Equal(t, *saved, shown)
	shown.Open[3].From = 1000000
	text, err := json.Marshal(shown)
	require.NoError(t, err)
	res, body = owner("PUT", "/api/settings", string(text))
	assert.Equal(t, 422, res.StatusCode, body)
}
