package postgres_test

import (
	"context"
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// clientNamed is the least that a client to be added has.
func clientNamed(name string) string {
	return fmt.Sprintf(`{"name":%q,"email":"","phone":"","birthDate":"","skinType":"dry","skinStates":[],"phototype":2,"note":""}`, name)
}

// named counts the clients of a name.
func (w *world) named(t *testing.T, name string) int {
	t.Helper()
	clients, _, err := w.svc.Clients.Clients(context.Background(), &w.owner, name, "")
	require.NoError(t, err)
	n := 0
	for _, c := range clients {
		if c.Name == name {
			n++
		}
	}
	return n
}

// A request repeated under its key is answered as the first was and carried out once;
// another request under that key is refused, one that was refused can be tried again, and
// what it showed is forgotten with the client whom it was about.
// (The header follows the draft standard "The Idempotency-Key HTTP Header Field", IETF.)
func TestARequestWithAKeyIsCarriedOutOnce(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	body := clientNamed("Ottilie Once")

	first, firstBody := call("POST", "/api/clients", body, "Idempotency-Key", "key-number-1")
	require.Equal(t, 200, first.StatusCode, firstBody)
	assert.Empty(t, first.Header.Get("Idempotent-Replayed"))
	again, againBody := call("POST", "/api/clients", body, "Idempotency-Key", "key-number-1")
	assert.Equal(t, 200, again.StatusCode)
	assert.Equal(t, "true", again.Header.Get("Idempotent-Replayed"))
	assert.Equal(t, first.Header.Get("Content-Type"), again.Header.Get("Content-Type"))
	assert.Equal(t, firstBody, againBody)
	assert.Equal(t, 1, w.named(t, "Ottilie Once"))

	res, out := call("POST", "/api/clients", clientNamed("Another"), "Idempotency-Key", "key-number-1")
	assert.Equal(t, 409, res.StatusCode)
	assert.Contains(t, out, `"key-reused"`)
	assert.Zero(t, w.named(t, "Another"))
	res, out = call("POST", "/api/clients", body, "Idempotency-Key", "short")
	assert.Equal(t, 422, res.StatusCode)
	assert.Contains(t, out, `"key-length"`)

	other := w.signedIn(t, "maud@demo.example", "demo palms 2")
	res, out = other("POST", "/api/clients", body, "Idempotency-Key", "key-number-1")
	require.Equal(t, 200, res.StatusCode, out)
	assert.Empty(t, res.Header.Get("Idempotent-Replayed"), "a key belongs to the person who sent it")
	assert.Equal(t, 2, w.named(t, "Ottilie Once"))

	res, _ = call("POST", "/api/clients", `{"name":""}`, "Idempotency-Key", "key-number-2")
	require.Equal(t, 422, res.StatusCode)
	res, out = call("POST", "/api/clients", clientNamed("Second Try"), "Idempotency-Key", "key-number-2")
	assert.Equal(t, 200, res.StatusCode, out)

	var added struct{ ID string }
	require.NoError(t, json.Unmarshal([]byte(firstBody), &added))
	res, out = call("POST", "/api/clients/"+added.ID+"/erasure", `{"confirm":"Ottilie Once"}`)
	require.Equal(t, 2, res.StatusCode/100, out)
	res, out = call("POST", "/api/clients", body, "Idempotency-Key", "key-number-1")
	assert.Equal(t, 409, res.StatusCode)
	assert.NotContains(t, out, "Ottilie")

	w.now = w.now.Add(25 * time.Hour)
	call = w.signedIn(t, "owner@demo.example", "demo palms 1")
	res, out = call("POST", "/api/clients", body, "Idempotency-Key", "key-number-1")
	assert.Equal(t, 200, res.StatusCode, out)
	assert.Empty(t, res.Header.Get("Idempotent-Replayed"), "answers are kept for a day")
}

// A link is shown once: its repeat is refused in a sentence, not with the link.
func TestTheRepeatOfALinkDoesNotShowIt(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	path := fmt.Sprintf("/api/clients/%s/link", w.client(t, "Greta"))
	res, out := call("POST", path, "", "Idempotency-Key", "link-number-1")
	require.Equal(t, 200, res.StatusCode, out)
	res, out = call("POST", path, "", "Idempotency-Key", "link-number-1")
	assert.Equal(t, 409, res.StatusCode)
	assert.Contains(t, out, `"already-made"`)
}

// Of fifty tries under one key at the same moment, one is carried out; all are answered alike.
func TestFiftyTriesUnderOneKeyMakeOneClient(t *testing.T) {
	w := aloneWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	bodies := make([]string, 50)
	_ = together(len(bodies), func(i int) error {
		_, bodies[i] = call("POST", "/api/clients", clientNamed("Fifi Fifty"), "Idempotency-Key", "fifty-at-once")
		return nil
	})
	for _, b := range bodies {
		assert.Equal(t, bodies[0], b)
	}
	assert.Contains(t, bodies[0], "Fifi Fifty")
	assert.Equal(t, 1, w.named(t, "Fifi Fifty"))
}
