package httpapi_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"regexp"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/httpapi"
)

var preload = regexp.MustCompile(`<link rel="modulepreload" crossorigin href="([^"]+)">`)

// page is index.html as it is sent for a path, with the scripts that it names.
func page(t *testing.T, ui fstest.MapFS, path, session string) (html string, scripts []string) {
	t.Helper()
	request := httptest.NewRequest(http.MethodGet, path, nil)
	if session != "" {
		request.AddCookie(&http.Cookie{Name: "softpalm_session", Value: session})
	}
	answer, err := httpapi.New(httpapi.Config{UI: ui}).Test(request)
	require.NoError(t, err)
	body, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	assert.Equal(t, "no-store", answer.Header.Get("Cache-Control"), "it says whether somebody seems to be signed in")
	for _, found := range preload.FindAllStringSubmatch(string(body), -1) {
		scripts = append(scripts, found[1])
	}
	return string(body), scripts
}

const emptyPage = `<html><head><meta name="style-nonce" content="" /><meta name="inside" content="" /></head><body></body></html>`

// A page names the scripts of its route, those of the sign-in where no session is sent, and asks who is there.
func TestPageNamesItsScripts(t *testing.T) {
	ui := fstest.MapFS{
		"index.html": {Data: []byte(emptyPage)},
		"preloads.json": {Data: []byte(`{
			"door": ["assets/door.js"],
			"open": {"/consultation": ["assets/link.js"]},
			"inside": {
				"/": ["assets/door.js", "assets/day.js"],
				"/protocols/new": ["assets/new.js"],
				"/protocols/$id": ["assets/bench.js"],
				"/protocols/$id/versions": ["assets/versions.js"]}}`)},
	}
	for _, c := range []struct {
		path, session string
		scripts       []string
	}{
		{"/", "", []string{"/assets/door.js"}},
		{"/protocols/new", "", []string{"/assets/door.js"}},
		{"/", "s", []string{"/assets/door.js", "/assets/day.js"}},
		{"/protocols/new", "s", []string{"/assets/new.js"}},
		{"/protocols/7", "s", []string{"/assets/bench.js"}},
		{"/protocols/7/versions", "s", []string{"/assets/versions.js"}},
		{"/protocols/7/else", "s", []string{"/assets/door.js"}},
		{"/protocols/", "s", []string{"/assets/door.js"}},
		{"/nowhere", "s", []string{"/assets/door.js"}},
		{"/consultation", "", []string{"/assets/link.js"}},
		{"/consultation", "s", []string{"/assets/link.js"}},
	} {
		html, scripts := page(t, ui, c.path, c.session)
		assert.Equal(t, c.scripts, scripts, "%s with session %q", c.path, c.session)
		assert.Contains(t, html, `<link rel="preload" as="fetch" crossorigin href="/api/session">`)
		assert.Equal(t, c.session != "", regexp.MustCompile(`name="inside" content="yes"`).MatchString(html), c.path)
	}
}

// Screens that were built without the list open all the same, one script after the other.
func TestPageWithoutPreloads(t *testing.T) {
	for _, list := range []string{"", "{", `{"inside": 3}`} {
		ui := fstest.MapFS{"index.html": {Data: []byte(emptyPage)}}
		if list != "" {
			ui["preloads.json"] = &fstest.MapFile{Data: []byte(list)}
		}
		html, scripts := page(t, ui, "/", "s")
		assert.Empty(t, scripts, list)
		assert.Contains(t, html, "</head><body></body>")
	}
}
