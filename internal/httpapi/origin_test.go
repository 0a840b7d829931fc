package httpapi

import (
	"net/netip"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The address of a request is the one at the other end; behind trusted proxies it is the
// last of their list that is none of them, and what a client wrote before it is not
// believed. Addresses are those kept for documentation (RFC 5737, RFC 3849).
func TestAddressOf(t *testing.T) {
	proxies := []netip.Prefix{netip.MustParsePrefix("10.0.0.0/24"), netip.MustParsePrefix("::1/128")}
	for _, c := range []struct{ remote, forwarded, want string }{
		{"203.0.113.9", "", "203.0.113.9"},
		{"203.0.113.9", "198.51.100.1", "203.0.113.9"},
		{"10.0.0.2", "", "10.0.0.2"},
		{"10.0.0.2", "198.51.100.1", "198.51.100.1"},
		{"10.0.0.2", "192.0.2.66, 198.51.100.1", "198.51.100.1"},
		{"10.0.0.2", "192.0.2.66, 198.51.100.1, 10.0.0.3", "198.51.100.1"},
		{"10.0.0.2", "not an address", "10.0.0.2"},
		{"10.0.0.2", "198.51.100.1, nonsense", "10.0.0.2"},
		{"::1", "2001:db8::7", "2001:db8::7"},
		{"10.0.0.2", "10.0.0.9", "10.0.0.9"},
	} {
		assert.Equal(t, c.want, addressOf(c.remote, c.forwarded, proxies), "%+v", c)
	}
	assert.Equal(t, "10.0.0.2", addressOf("10.0.0.2", "198.51.100.1", nil), "without proxies nothing is believed")
}
