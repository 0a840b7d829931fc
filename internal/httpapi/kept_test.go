package httpapi

import (
	"compress/gzip"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/andybalholm/brotli"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// An answer about the craft is sent packed and says what the handler said, the first time and again, also after it has
// changed; who takes no brotli, and who asks about a client, gets it as it is. A decoder of another author than the
// encoder's caller reads it.
func TestAnswersAboutTheCraftAreKeptPacked(t *testing.T) {
	app := fiber.New()
	app.Use(keepPacked())
	says := strings.Repeat("stroke ", 3000)
	app.Get("/*", func(c fiber.Ctx) error { return c.SendString(says) })
	ask := func(path, accepts string) (encoding, body string, bytes int) {
		request := httptest.NewRequest(http.MethodGet, path, nil)
		if accepts != "" {
			request.Header.Set("Accept-Encoding", accepts)
		}
		answer, err := app.Test(request)
		require.NoError(t, err)
		data, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		if encoding = answer.Header.Get("Content-Encoding"); encoding == "br" {
			plain, err := io.ReadAll(brotli.NewReader(strings.NewReader(string(data))))
			require.NoError(t, err)
			return encoding, string(plain), len(data)
		}
		return encoding, string(data), len(data)
	}
	for range 2 {
		encoding, body, bytes := ask("/api/library", "gzip, br")
		assert.Equal(t, "br", encoding)
		assert.Equal(t, says, body)
		assert.Less(t, bytes, len(says)/10)
	}
	says = strings.Repeat("another stroke ", 3000)
	_, body, _ := ask("/api/library", "br")
	assert.Equal(t, says, body, "what has changed")
	for _, c := range [][2]string{{"/api/library", "gzip"}, {"/api/library", ""}, {"/api/library", "br;q=0, gzip"}, {"/api/clients", "br"}, {"/api/librarian", "br"}} {
		encoding, body, _ := ask(c[0], c[1])
		assert.Equal(t, []string{"", says}, []string{encoding, body}, "%s for %q", c[0], c[1])
	}
}

// An answer that is different each time is sent by gzip to whoever takes it, and as it is to others; what is packed already
// stays so. The standard library reads what another library has packed.
func TestAnswersAreCompressedInAHurry(t *testing.T) {
	app := fiber.New()
	app.Use(hurried())
	says := strings.Repeat("a client's file ", 300)
	app.Get("/file", func(c fiber.Ctx) error { return c.SendString(says) })
	app.Get("/packed", func(c fiber.Ctx) error {
		c.Set("Content-Encoding", "br")
		return c.SendString("packed already")
	})
	for _, c := range []struct{ path, accepts, encoding, says string }{
		{"/file", "gzip, deflate, br", "gzip", says},
		{"/file", "", "", says},
		{"/packed", "gzip, br", "br", "packed already"},
	} {
		request := httptest.NewRequest(http.MethodGet, c.path, nil)
		if c.accepts != "" {
			request.Header.Set("Accept-Encoding", c.accepts)
		}
		answer, err := app.Test(request)
		require.NoError(t, err)
		body := io.Reader(answer.Body)
		if c.encoding == "gzip" {
			body, err = gzip.NewReader(answer.Body)
			require.NoError(t, err)
		}
		data, err := io.ReadAll(body)
		require.NoError(t, err)
		assert.Equal(t, []string{c.encoding, c.says}, []string{answer.Header.Get("Content-Encoding"), string(data)}, "%s for %q", c.path, c.accepts)
		assert.Equal(t, "Accept-Encoding", answer.Header.Get("Vary"))
	}
}
