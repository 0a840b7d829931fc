package postgres_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
)

// The workbench through the API: a draft from a question, a command on it, its
// variants, kept, published, changed and compared; written as a file and brought
// in again under another key; the library's file; a foreign file that adds its
// stroke, tool and product, told before it is done.
func TestTheWorkbenchThroughTheAPI(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "maud@demo.example", "demo palms 2")
	do := func(method, path, body string, into any) {
		t.Helper()
		res, out := call(method, path, body)
		require.Equal(t, 2, res.StatusCode/100, "%s %s: %s", method, path, out)
		if into != nil {
			require.NoError(t, json.Unmarshal([]byte(out), into))
		}
	}
	text := func(v any) string {
		b, err := json.Marshal(v)
		require.NoError(t, err)
		return string(b)
	}
	type outcome struct {
		Protocol   protocol.Protocol
		Evaluation evaluation.Evaluation
	}
	var draft outcome
	do("POST", "/api/draft", `{"skinType":"dry","concerns":["puffiness"],"minutes":30,"school":{}}`, &draft)
	assert.LessOrEqual(t, draft.Evaluation.Seconds, 1800.0)
	res, body := call("POST", "/api/draft", `{"concerns":["puffiness"],"minutes":30,"school":{},"products":[]}`)
	assert.Equal(t, 409, res.StatusCode)
	assert.Contains(t, body, "no-draft-no-slip")
	var done struct {
		Done       remedy.CommandResult
		Evaluation evaluation.Evaluation
	}
	do("POST", "/api/command", `{"protocol":`+text(draft.Protocol)+`,"order":{"command":"fit-to","seconds":1500}}`, &done)
	assert.LessOrEqual(t, done.Evaluation.Seconds, 1500.0)
	assert.NotEmpty(t, done.Done.Comparison.Steps)
	var variants []struct{ Variant protocol.Variant }
	do("POST", "/api/variants", `{"protocol":`+text(draft.Protocol)+`}`, &variants)
	assert.GreaterOrEqual(t, len(variants), 8)

	draft.Protocol.Key, draft.Protocol.Name = "quick-calm", "Quick calm"
	var id struct{ ID string }
	do("POST", "/api/protocols", text(draft.Protocol), &id)
	do("POST", "/api/protocols/"+id.ID+"/versions", "", nil)
	draft.Protocol.Steps[3].Note = "slower here"
	do("PUT", "/api/protocols/"+id.ID+"/draft", `{"revision":0,"basedOn":1,"protocol":`+text(draft.Protocol)+`}`, nil)
	var versions []studio.VersionLine
	do("GET", "/api/protocols/"+id.ID+"/versions", "", &versions)
	require.Len(t, versions, 1)
	assert.Equal(t, "Maud Ferrant", versions[0].By)
	var cmp struct{ Comparison protocol.Comparison }
	do("GET", "/api/protocols/"+id.ID+"/comparison?was=1&now=0", "", &cmp)
	require.Len(t, cmp.Comparison.Steps, 1)
	assert.Equal(t, []string{"note"}, cmp.Comparison.Steps[0].Fields)

	res, file := call("GET", "/api/protocols/"+id.ID+"/file", "")
	require.Equal(t, 200, res.StatusCode)
	assert.Contains(t, res.Header.Get("Content-Disposition"), "quick-calm.json")
	type brought struct {
		Format  string
		Brought protocols.ImportResult
	}
	var dry, real brought
	do("POST", "/api/import?dry=true", file, &dry)
	assert.Nil(t, dry.Brought.Protocol)
	assert.Contains(t, dry.Brought.Items, protocols.ImportedItem{Kind: "protocol", Key: "quick-calm", Name: "Quick calm", Outcome: protocols.OutcomeSame})
	do("POST", "/api/import?dry=false", file, &real)
	require.NotNil(t, real.Brought.Protocol)
	var opened outcome
	do("GET", "/api/protocols/"+real.Brought.Protocol.String(), "", &opened)
	assert.True(t, protocol.Compare(&draft.Protocol, &opened.Protocol).Same(), "what was written is what was brought in")

	other := strings.Replace(file, `"Quick calm"`, `"Quicker calm"`, 1)
	require.NotEqual(t, file, other)
	do("POST", "/api/import?dry=true", other, &dry)
	assert.Contains(t, dry.Brought.Items, protocols.ImportedItem{Kind: "protocol", Key: "quick-calm", Name: "Quicker calm", Outcome: protocols.OutcomeAddedAs, As: "quick-calm-2"})

	foreign := `{"format":"soft-palm-protocol","version":1,"protocol":{"key":"away","name":"Away","school":{"drainage":"none"},"minutes":{"sold":10,"handsOn":5,"reset":0},"price":{"amount":"0.00","currency":"EUR"},"defaultDose":{"kind":"reps","planned":3},
		"steps":[{"id":"a","stroke":"cheek-drain","phase":"work"},{"id":"b","stroke":"shell-glide","phase":"work","use":{"product":"shell-oil","amount":{"value":2,"measure":"mL"}}}]},
		"strokes":[{"key":"cheek-drain","name":"Cheek drain, our way","family":"effleurage","intent":"drain","pressure":1,"sides":"both","path":["mid-cheek","front-of-ear"],"dose":{"kind":"clock","planned":30}},
			{"key":"shell-glide","name":"Shell glide","family":"tool glide","tool":{"key":"shell"},"intent":"soothe","pressure":1,"sides":"both","path":["forehead"],"dose":{"kind":"clock","planned":30}}],
		"tools":[{"key":"shell","name":"Shell","kind":"stone","readyAfter":10,"pieces":1}],"products":[{"key":"shell-oil","name":"Shell oil","form":"oil","fullDose":3,"rangeMin":1,"rangeMax":4}]}`
	do("POST", "/api/import?dry=false", foreign, &real)
	fates := map[string]protocols.ImportOutcome{}
	for _, x := range real.Brought.Items {
		fates[x.Kind+" "+x.Key] = x.Outcome
	}
	assert.Equal(t, map[string]protocols.ImportOutcome{"protocol away": "new", "stroke cheek-drain": "added-as", "stroke shell-glide": "new", "tool shell": "new", "product shell-oil": "new"}, fates)
	do("GET", "/api/protocols/"+real.Brought.Protocol.String(), "", &opened)
	assert.Equal(t, "cheek-drain-2", opened.Protocol.Steps[0].Stroke)
	var library protocols.LibraryFile
	do("GET", "/api/library/file", "", &library)
	assert.Len(t, library.Strokes, 2)
	res, body = call("POST", "/api/import?dry=false", strings.Replace(foreign, `"shell-glide","phase"`, `"no-such","phase"`, 1))
	assert.Equal(t, 422, res.StatusCode)
	assert.Contains(t, body, "/protocol/steps/1/stroke")
}

// The API refuses what comes without a session or its token, tells faults as
// RFC 9457 problems with a code and paths, and sends a strict policy.
func TestTheAPI(t *testing.T) {
	w := newWorld(t)
	call := w.api(t)
	res, body := call("GET", "/api/clients", "")
	assert.Equal(t, 401, res.StatusCode)
	assert.Contains(t, res.Header.Get("Content-Type"), "application/problem+json")
	assert.Contains(t, body, `"code":"not-signed-in"`)
	assert.Contains(t, res.Header.Get("Content-Security-Policy"), "script-src 'self';")
	assert.NotContains(t, res.Header.Get("Content-Security-Policy"), "unsafe")
	res, body = call("POST", "/api/sign-in", `{"email":"owner@demo.example","password":"demo palms 1"}`)
	require.Equal(t, 200, res.StatusCode, body)
	cookie := res.Header.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Lax")
	cookie, _, _ = strings.Cut(cookie, ";")
	client := `{"name":"","email":"x","phone":"","birthDate":"","skinType":"dry","skinStates":[],"phototype":0,"note":""}`
	_, body = call("POST", "/api/clients", client, "Cookie", cookie)
	assert.Contains(t, body, `"code":"csrf"`, "a cookie alone changes nothing")
	_, body = call("GET", "/api/session", "", "Cookie", cookie)
	_, csrf, _ := strings.Cut(body, `"csrf":"`)
	csrf, _, _ = strings.Cut(csrf, `"`)
	res, body = call("POST", "/api/clients", client, "Cookie", cookie, "X-CSRF-Token", csrf)
	assert.Equal(t, 422, res.StatusCode)
	assert.Contains(t, body, `"path":"/name"`)
	res, _ = call("GET", "/readyz", "")
	assert.Equal(t, 200, res.StatusCode)
}
