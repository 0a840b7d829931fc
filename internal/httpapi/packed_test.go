package httpapi_test

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/httpapi"
)

// Built files are sent as they were compressed, by what the browser takes (RFC 9110, 12.5.3), and plain to one that
// takes neither.
func TestBuiltFilesAreSentAsTheyLie(t *testing.T) {
	app := httpapi.New(httpapi.Config{UI: fstest.MapFS{
		"index.html":          {Data: []byte("<html>")},
		"assets/a-1.js":       {Data: []byte("plain")},
		"assets/a-1.js.br":    {Data: []byte("by brotli")},
		"assets/a-1.js.gz":    {Data: []byte("by gzip")},
		"assets/font-1.woff2": {Data: []byte("font")},
	}})
	for _, c := range []struct{ path, accepts, encoding, body string }{
		{"/assets/a-1.js", "gzip, deflate, br", "br", "by brotli"},
		{"/assets/a-1.js", "gzip", "gzip", "by gzip"},
		{"/assets/a-1.js", "", "", "plain"},
		{"/assets/a-1.js", "br;q=0, gzip", "gzip", "by gzip"},
		{"/assets/font-1.woff2", "br", "", "font"},
	} {
		request := httptest.NewRequest(http.MethodGet, c.path, nil)
		if c.accepts != "" {
			request.Header.Set("Accept-Encoding", c.accepts)
		}
		answer, err := app.Test(request)
		require.NoError(t, err)
		body := make([]byte, 64)
		n, _ := answer.Body.Read(body)
		assert.Equal(t, []any{c.encoding, c.body}, []any{answer.Header.Get("Content-Encoding"), string(body[:n])}, "%s for %q", c.path, c.accepts)
		assert.Contains(t, answer.Header.Get("Vary"), "Accept-Encoding")
	}
}
