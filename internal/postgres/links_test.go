package postgres_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"regexp"
	"sync/atomic"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
)

var tokenInMessage = regexp.MustCompile(`http://studio\.example/consultation#([A-Za-z0-9_-]{43})`)

// The front desk has a link sent and never holds it: the token goes to the client's own
// address, and nobody reads a client's link from an account.
func TestTheDeskHasALinkSentAndNeverHoldsIt(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	desk := w.signedIn(t, "desk@demo.example", "demo palms 3")
	client := w.client(t, "Viktor")
	who, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)

	res, body := desk("POST", "/api/clients/"+client.String()+"/link", "")
	require.Equal(t, 200, res.StatusCode, body)
	var made struct{ Token, SentTo string }
	require.NoError(t, json.Unmarshal([]byte(body), &made))
	assert.Empty(t, made.Token)
	assert.Equal(t, who.Client.Email, made.SentTo)
	res, _ = desk("GET", "/api/messages", "")
	assert.Equal(t, 403, res.StatusCode, "the desk does not read messages either")

	sent, err := w.messages(ctx)
	require.NoError(t, err)
	require.Len(t, sent, 1)
	found := tokenInMessage.FindStringSubmatch(sent[0].Body)
	require.NotNil(t, found, sent[0].Body)
	_, err = w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: found[1], From: "phone"})
	require.NoError(t, err)
	res, body = desk("GET", "/api/consultation", "", "X-Link-Token", found[1])
	assert.Equal(t, 409, res.StatusCode, body)
	assert.Contains(t, body, "signed-in")

	w.now = w.now.Add(checks.LinkLength)
	sent, err = w.messages(ctx)
	require.NoError(t, err)
	assert.Empty(t, sent[0].Body, "a link that has ended is not shown any more")

	nowhere, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "No Address", SkinType: "dry"})
	require.NoError(t, err)
	_, err = w.svc.Checks.NewLink(ctx, &w.desk, nowhere.ID, false)
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "no-address", state.Code)
	file, err := w.svc.Clients.Client(ctx, &w.owner, nowhere.ID)
	require.NoError(t, err)
	assert.Empty(t, file.Consultations, "nothing half-made")
}

// A client has one link at a time: a new one ends the older, and one press ends it.
func TestAClientHasOneLink(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.client(t, "Viktor")
	open := func(l *checks.NewLink) error {
		_, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: l.Token, From: "phone"})
		return err
	}
	first, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	require.NoError(t, open(first))
	second, err := w.svc.Checks.NewLink(ctx, &w.owner, client, false)
	require.NoError(t, err)
	require.ErrorIs(t, open(first), checks.ErrLink)
	require.NoError(t, open(second))
	require.NoError(t, w.svc.Checks.WithdrawLink(ctx, &w.desk, client))
	require.ErrorIs(t, open(second), checks.ErrLink)
	require.ErrorIs(t, w.svc.Checks.WithdrawLink(ctx, &w.owner, uuid.New()), studio.ErrNotFound)
}

// What a client answers on the desk's tablet opens on that tablet only, while the client
// holds it, and begins without what was answered before.
func TestTheDesksTabletTellsNothing(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, map[string]contraindication.Answer{"nut-allergy": {Yes: true}})
	call := w.api(t)
	cookie, csrf := w.session(t, call, "desk@demo.example", "demo palms 3")
	post := func(method, path, body string) (int, string) {
		res, out := call(method, path, body, "Cookie", cookie, "X-CSRF-Token", csrf)
		return res.StatusCode, out
	}
	status, body := post("PUT", "/api/pin", `{"pin":"0815"}`)
	require.Equal(t, 204, status, body)
	status, body = post("POST", "/api/clients/"+v.Client.String()+"/hand-over", "")
	require.Equal(t, 200, status, body)
	var link struct{ Token string }
	require.NoError(t, json.Unmarshal([]byte(body), &link))
	res, body := call("GET", "/api/consultation", "", "X-Link-Token", link.Token)
	assert.Equal(t, 409, res.StatusCode, "the token alone opens nothing: %s", body)
	res, body = call("GET", "/api/consultation", "", "X-Link-Token", link.Token, "Cookie", cookie)
	require.Equal(t, 200, res.StatusCode, body)
	var shown checks.LinkView
	require.NoError(t, json.Unmarshal([]byte(body), &shown))
	assert.Empty(t, shown.Answers, "the desk is shown no earlier answers")
	assert.Empty(t, shown.History.SkinType)
	status, body = post("POST", "/api/take-back", `{"pin":"0815"}`)
	require.Equal(t, 204, status, body)
	_, err := w.svc.Checks.Linked(ctx, checks.LinkCaller{Token: link.Token, From: "desk"})
	require.ErrorIs(t, err, checks.ErrLink, "taken back, the link has ended")
}

// A deleted client cannot be read, changed, booked, checked or linked, and a check at the
// same moment leaves no health data behind.
func TestADeletedClientIsGone(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	answers := noTo(w, contraindication.PreTreatment)
	who, err := w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.NoError(t, err)
	var erased, checked atomic.Int32
	together(50, func(n int) error {
		if n == 25 {
			err := w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, who.Client.Name)
			if err == nil {
				erased.Add(1)
			}
			return err
		}
		all := noTo(w, contraindication.Consultation)
		for id, a := range answers {
			all[id] = a
		}
		_, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, nil, all, &studio.ClientHistory{}, nil)
		if err == nil {
			checked.Add(1)
		}
		return err
	})
	if erased.Load() == 0 { // refused as somebody was in the way: try again
		require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, v.Client, who.Client.Name))
	}
	t.Logf("%d checks came before the deletion", checked.Load())
	for _, table := range []string{"pre_check", "consultation", "letter", "consent", "patch_test", "message"} {
		assert.Zero(t, w.count(t, "select count(*) from "+table+" where client_id = '"+v.Client.String()+"'"), table)
	}
	_, err = w.svc.Clients.Client(ctx, &w.owner, v.Client)
	require.ErrorIs(t, err, studio.ErrNotFound, "read")
	_, err = w.svc.Clients.ChangeClient(ctx, &w.owner, v.Client, who.Client.Revision, who.Client.ClientFields)
	require.ErrorIs(t, err, studio.ErrNotFound, "changed")
	_, err = w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, nil, answers, nil, nil)
	require.ErrorIs(t, err, studio.ErrNotFound, "checked")
	_, err = w.svc.Checks.NewLink(ctx, &w.owner, v.Client, false)
	require.ErrorIs(t, err, studio.ErrNotFound, "linked")
	start := w.now.AddDate(0, 0, 8)
	_, err = w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: v.Client, Practitioner: v.Practitioner, Room: v.Room, Protocol: v.Protocol, Start: start})
	require.ErrorIs(t, err, studio.ErrNotFound, "booked")
}

// count counts over all rows, which only a role that row security does not hold can.
func (w *world) count(t *testing.T, query string) (n int) {
	t.Helper()
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	require.NoError(t, owner.QueryRow(query).Scan(&n))
	return n
}
