package httpapi

import (
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Behind TLS browsers are told to come by HTTPS only (RFC 6797); on a plain address they
// are not, since they would never come back.
func TestBrowsersAreToldOfTLS(t *testing.T) {
	for secure, want := range map[bool]string{true: "max-age=31536000", false: ""} {
		res, err := New(Config{SecureCookies: secure}).Test(httptest.NewRequest("GET", "/healthz", nil))
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		assert.Equal(t, want, res.Header.Get("Strict-Transport-Security"))
	}
}

// The session's cookie is out of reach of scripts and of other sites (OWASP ASVS 3.4, from
// memory), and goes by HTTPS only where there is TLS.
func TestTheSessionsCookie(t *testing.T) {
	for _, secure := range []bool{true, false} {
		h := &handlers{cfg: Config{SecureCookies: secure}}
		c := h.cookie("token", 60)
		assert.True(t, c.HttpOnly)
		assert.Equal(t, http.SameSiteLaxMode, c.SameSite)
		assert.Equal(t, secure, c.Secure)
		assert.Empty(t, c.Domain, "only the host that set it gets it back")
	}
}
