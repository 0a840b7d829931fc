package postgres_test

import (
	"bytes"
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"regexp"
	"sort"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
)

// operation is one of the API's, with a path that can be called.
type operation struct {
	id, method, path, template string
	closed                     bool
}

var braces = regexp.MustCompile(`\{[a-z]+\}`)

// operations lists every operation that the server registers.
func (w *world) operations() []operation {
	api := httpapi.NewAPI(http.NewServeMux(), httpapi.Config{Rooms: w.svc, Ready: w.db.Ready, Files: exchange.Files{}})
	var out []operation
	for path, item := range api.OpenAPI().Paths {
		for _, op := range []*huma.Operation{item.Get, item.Post, item.Put, item.Delete, item.Patch} {
			if op == nil {
				continue
			}
			out = append(out, operation{op.OperationID, op.Method, braces.ReplaceAllString(path, uuid.NewString()), path, len(op.Security) > 0})
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].id < out[j].id })
	return out
}

// Every door is locked unless it is meant to be open: without a session nothing
// answers but the operations below (the zones of the body are the same for everybody), with one nothing is changed without its CSRF
// token, and while a client holds the tablet only taking it back and signing out
// are left (OWASP ASVS 4 and 13, from memory).
func TestEveryDoorIsLocked(t *testing.T) {
	w := newWorld(t)
	call := w.api(t)
	ops := w.operations()
	require.Greater(t, len(ops), 80)
	var open []string
	for _, op := range ops {
		if !op.closed {
			open = append(open, op.id)
		}
	}
	assert.Equal(t, []string{
		"act-on-appointment", "forgotten-password", "get-session", "join", "list-link-zones", "make-studio",
		"open-appointments", "open-calendar", "open-joining", "open-link", "own-calendar", "save-link", "search-link", "sign-in",
	}, open)

	res, body := call("POST", "/api/sign-in", `{"email":"maud@demo.example","password":"demo palms 2"}`)
	require.Equal(t, 200, res.StatusCode)
	cookie, _, _ := strings.Cut(res.Header.Get("Set-Cookie"), ";")
	var session struct{ CSRF string }
	require.NoError(t, json.Unmarshal([]byte(body), &session))
	for _, op := range ops {
		if !op.closed {
			continue
		}
		res, body := call(op.method, op.path, "{}")
		assert.Equal(t, 401, res.StatusCode, "%s without a session: %s", op.id, body)
		if op.method != "GET" {
			res, body = call(op.method, op.path, "{}", "Cookie", cookie)
			assert.Equal(t, 403, res.StatusCode, "%s without its token: %s", op.id, body)
			assert.Contains(t, body, `"code":"csrf"`, op.id)
		}
	}
	status := func(method, path, body string) int {
		res, _ := call(method, path, body, "Cookie", cookie, "X-CSRF-Token", session.CSRF)
		return res.StatusCode
	}
	require.Equal(t, 204, status("PUT", "/api/pin", `{"pin":"4711"}`))
	require.Equal(t, 200, status("POST", "/api/clients/"+w.client(t, "Viktor").String()+"/hand-over", ""))
	for _, op := range ops {
		if op.closed && op.id != "unlock-tablet" && op.id != "sign-out" {
			res, body := call(op.method, op.path, "{}", "Cookie", cookie, "X-CSRF-Token", session.CSRF)
			assert.Equal(t, 409, res.StatusCode, "%s on a tablet handed over: %s", op.id, body)
			assert.Contains(t, body, "handed-over", op.id)
		}
	}
}

// What the front desk may not do it cannot do by asking the API itself: nothing
// that tells of a client's health, of rules and records, answers (handbook,
// chapter 7: each person sees only their part).
func TestWhatTheFrontDeskCannotAsk(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	w.checked(t, v, nil)
	client := v.Client.String()
	ask := w.signedIn(t, "desk@demo.example", "demo palms 3")
	id := uuid.NewString()
	for _, c := range [][3]string{
		{"GET", "/api/clients/" + client + "/questions", ""},
		{"POST", "/api/clients/" + client + "/pre-checks", `{"answers":{}}`},
		{"POST", "/api/clients/" + client + "/consultations/" + id + "/review", `{"answers":{},"history":{}}`},
		{"POST", "/api/clients/" + client + "/letters", `{"question":"May it?"}`},
		{"POST", "/api/clients/" + client + "/patch-tests", `{"product":"calm-oil","lot":"CS-2291","place":"arm","months":6}`},
		{"POST", "/api/patch-tests/" + id + "/readings", `{"hours":24,"grade":"negative"}`},
		{"POST", "/api/letters/" + id + "/answer", `{"yes":true,"until":"2099-01-01"}`},
		{"POST", "/api/letters/" + id + "/scans", `%PDF-1.4`},
		{"GET", "/api/scans/" + id, ""},
		{"GET", "/api/letters/" + id + "/paper", ""},
		{"GET", "/api/clients/" + client + "/summary", ""},
		{"GET", "/api/clients/" + client + "/export", ""},
		{"GET", "/api/clients/" + client + "/file", ""},
		{"POST", "/api/clients/" + client + "/erasure", `{"confirm":"x"}`},
		{"POST", "/api/visits/" + v.ID.String() + "/plan", `{"overrules":[]}`},
		{"POST", "/api/visits/" + v.ID.String() + "/treatment", `{"overrules":[],"accepted":{"gentler":true,"changes":[]}}`},
		{"GET", "/api/visits/" + v.ID.String() + "/possible", ""},
		{"GET", "/api/visits/" + v.ID.String() + "/room", ""},
		{"GET", "/api/visits/" + v.ID.String() + "/record", ""},
		{"GET", "/api/audit", ""},
		{"POST", "/api/rules/peel", `{"days":9,"reason":"","save":true,"revision":0}`},
		{"POST", "/api/policies/plain-cold", `{"on":true,"reason":"we would like to","save":true,"revision":0}`},
		{"POST", "/api/own-rules/retirement", `{"rule":"own/x","reason":"we would like to","save":true,"revision":0}`},
		{"GET", "/api/medicine-conflicts?medicine=warfarin", ""},
	} {
		res, body := ask(c[0], c[1], c[2])
		assert.Equal(t, 403, res.StatusCode, "%s %s: %s", c[0], c[1], body)
	}
	// What it may see tells go or not, and names no caution.
	require.NoError(t, w.svc.House.SetPIN(ctx, &w.desk, "4711"))
	for _, path := range []string{"/api/day", "/api/clients/" + client, "/api/clients"} {
		res, body := ask("GET", path, "")
		require.Equal(t, 200, res.StatusCode, path)
		for _, word := range []string{"sensitive", "warfarin", "outcomes", "signature", "answers\":{\"", "not-before", "needs-letter"} {
			assert.NotContains(t, body, word, "%s tells of %s", path, word)
		}
	}
}

// A body of more than 64 kB is read from somebody signed in only, and not at all where its
// length is not told beforehand (OWASP ASVS 4.0.3, 12.1 and 13.1, from memory).
func TestLargeBodiesAreReadFromSignedInPeopleOnly(t *testing.T) {
	w := newWorld(t)
	call := w.api(t)
	large := `{"email":"` + strings.Repeat("x", 70<<10) + `","password":"y"}`
	for _, op := range []string{"/api/sign-in", "/api/import", "/api/join", "/api/consultation"} {
		res, body := call("POST", op, large)
		assert.Equal(t, 413, res.StatusCode, "%s: %s", op, body)
		assert.Contains(t, body, "too-large")
		res, _ = call("POST", op, large, "Cookie", "softpalm_session=made-up", "X-CSRF-Token", "made-up")
		assert.Equal(t, 413, res.StatusCode, op)
	}
	owner := w.signedIn(t, "owner@demo.example", "demo palms 1")
	res, body := owner("POST", "/api/import?dry=true", large)
	assert.Equal(t, 422, res.StatusCode, "read, and found to be no file: %s", body)
	res, body = owner("POST", "/api/import?dry=true", strings.Repeat("x", httpapi.BodyLimitBytes+1))
	assert.Equal(t, 413, res.StatusCode, body)
}

// The log tells of every request its id, the account and the path; no name, no answer and
// no token is in it (OWASP ASVS 4.0.3, 7.1, from memory).
func TestTheLogTellsWhoAskedAndNothingElse(t *testing.T) {
	w := newWorld(t)
	var log bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewJSONHandler(&log, nil)))
	defer slog.SetDefault(before)
	owner := w.signedIn(t, "owner@demo.example", "demo palms 1")
	v := w.first(t)
	res, _ := owner("GET", "/api/clients?search=Viktor", "")
	require.Equal(t, 200, res.StatusCode)
	id := res.Header.Get("X-Request-Id")
	require.NotEmpty(t, id)
	assert.Empty(t, res.Header.Get("X-Found-Account"), "the account is for the log only")
	res, _ = owner("POST", "/api/clients/"+v.Client.String()+"/pre-checks", `{"answers":{"cancer":{"yes":true}}}`, "X-Request-Id", "claimed", "X-Found-Address", "203.0.113.66")
	require.Equal(t, 422, res.StatusCode)
	assert.NotEqual(t, "claimed", res.Header.Get("X-Request-Id"))
	res, _ = owner("GET", "/api/calendars/a-private-address.ics", "")
	require.Equal(t, 404, res.StatusCode)
	slog.SetDefault(before)
	lines := log.String()
	assert.Contains(t, lines, `"request":"`+id+`"`)
	assert.Contains(t, lines, `"account":"`+w.owner.Account.String()+`"`)
	for _, secret := range []string{"Viktor", v.ClientName, "cancer", "demo palms", "owner@demo.example", "claimed", "softpalm_session", "a-private-address"} {
		assert.NotContains(t, lines, secret)
	}
}
