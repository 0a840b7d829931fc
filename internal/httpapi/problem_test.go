package httpapi

import (
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Every error of a use case becomes a problem of RFC 9457 with a stable code and a
// sentence that says what to do, wrapped or not; what is not known is told as a
// fault of the server, and its text stays here.
func TestAnswers(t *testing.T) {
	slog.SetDefault(slog.New(slog.DiscardHandler))
	free := []studio.FreeTime{{Start: time.Date(2026, 12, 1, 10, 0, 0, 0, time.UTC)}}
	for _, c := range []struct {
		err    error
		status int
		code   string
		says   string
	}{
		{&studio.InputError{Problems: []problem.Fault{{Path: "/name", Sentence: words.Sentence{Message: "Enter the name."}}, {Path: "/email", Sentence: words.Sentence{Message: "m"}}}}, 422, "does-not-fit", "Enter the name."},
		{&studio.StateError{Code: "no-consent", Sentence: words.Sentence{Message: "Ask the client to sign."}}, 409, "no-consent", "Ask the client to sign."},
		{&studio.TakenError{What: "room", Near: free}, 409, "time-taken", "the room is not free"},
		{&studio.StaleError{Current: studio.Draft{Revision: 4}}, 409, "stale-draft", "another window"},
		{studio.ErrNotFound, 404, "not-found", "It may have been deleted"},
		{studio.ErrForbidden, 403, "not-allowed", "Ask the owner"},
		{studio.ErrLocked, 409, "locked", "is locked"},
		{studio.ErrExists, 409, "exists", "already exists"},
		{studio.ErrTryAgain, 409, "try-again", "Try again"},
		{studio.ErrUnknownState, 503, "unknown-state", "before you try again"},
		{studio.ErrSignIn, 401, "sign-in-failed", "not correct"},
		{&studio.ThrottledError{Wait: 1500 * time.Millisecond}, 429, "throttled", "Wait 2 seconds"},
		{&studio.ThrottledError{Wait: time.Second}, 429, "throttled", "Wait 1 second,"},
		{&studio.ChangedError{Client: &studio.Client{Revision: 4}}, 409, "changed-meanwhile", "which of the two"},
		{studio.ErrUnavailable, 503, "unavailable", "in a few seconds"},
		{errors.New("pq: password=hunter2"), 500, "server-fault", "nothing was saved"},
	} {
		for _, err := range []error{c.err, fmt.Errorf("while booking: %w", c.err)} {
			var p *Problem
			require.ErrorAs(t, answer(err), &p)
			assert.Equal(t, c.status, p.Status, c.code)
			assert.Equal(t, c.code, p.Code)
			assert.Contains(t, p.Detail, c.says)
			assert.NotContains(t, p.Detail+p.Error(), "hunter2")
			assert.Equal(t, http.StatusText(c.status), p.Title)
			assert.Equal(t, "application/problem+json", p.ContentType(""))
		}
	}
	assert.NoError(t, answer(nil))
	var p *Problem
	require.ErrorAs(t, answer(&studio.TakenError{What: "room", Near: free}), &p)
	assert.Equal(t, free, p.Near, "with the nearest free times")
	require.ErrorAs(t, answer(&studio.InputError{Problems: []problem.Fault{{Path: "/a", Sentence: words.Sentence{Message: "x"}}, {Path: "/b", Sentence: words.Sentence{Message: "y"}}}}), &p)
	assert.Equal(t, []problem.Fault{{Path: "/a", Sentence: words.Sentence{Message: "x"}}, {Path: "/b", Sentence: words.Sentence{Message: "y"}}}, p.Errors, "every fault, not only the first")
}

// Where a fault lies is told as a JSON pointer (RFC 6901).
func TestPointer(t *testing.T) {
	for from, want := range map[string]string{
		"body":                        "",
		"body.name":                   "/name",
		"body.steps[3].dose.planned":  "/steps/3/dose/planned",
		"body.uses[0]":                "/uses/0",
		"query.days":                  "/query/days",
		"body.answers[10].zones[2].x": "/answers/10/zones/2/x",
	} {
		assert.Equal(t, want, pointer(from), from)
	}
}
