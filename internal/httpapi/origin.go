package httpapi

import (
	"net/netip"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"
)

// Headers that the server sets itself on the way in; what a client claims in them is
// overwritten. The account goes the other way, to the log, and is taken out of the answer.
const (
	addressHeader = "X-Found-Address"
	requestHeader = "X-Request-Id"
	accountHeader = "X-Found-Account"
)

// found notes where a request comes from and gives it an id.
func found(proxies []netip.Prefix) fiber.Handler {
	return func(c fiber.Ctx) error {
		c.Request().Header.Set(addressHeader, addressOf(c.RequestCtx().RemoteIP().String(), c.Get(fiber.HeaderXForwardedFor), proxies))
		id := uuid.Must(uuid.NewV7()).String()
		c.Request().Header.Set(requestHeader, id)
		c.Set(requestHeader, id)
		return c.Next()
	}
}

// addressOf returns the real address: the one at the other end, or, behind proxies that are
// trusted, the last one in their list that is none of them. What a client writes into the
// list itself stands before that one and is not believed.
func addressOf(remote, forwarded string, proxies []netip.Prefix) string {
	trusted := func(text string) bool {
		a, err := netip.ParseAddr(text)
		if err != nil {
			return false
		}
		for _, p := range proxies {
			if p.Contains(a.Unmap()) {
				return true
			}
		}
		return false
	}
	hops := strings.Split(forwarded, ",")
	for i := len(hops) - 1; i >= 0 && trusted(remote); i-- {
		hop, err := netip.ParseAddr(strings.TrimSpace(hops[i]))
		if err != nil {
			break
		}
		remote = hop.Unmap().String()
	}
	return remote
}

// smallBody is the most that is read of a request before its sender is known to be signed
// in; a valid link may send one picture.
const smallBody = 64 << 10

// large lets a body of more than [smallBody] in only from a session with its token. It
// looks before the body is read.
func (h *handlers) large(c fiber.Ctx) error {
	length := c.Request().Header.ContentLength() // -1 where it is not told beforehand
	if length <= smallBody && length != -1 {
		return c.Next()
	}
	if cookie := c.Cookies(cookieName); cookie != "" && length != -1 && length <= BodyLimitBytes {
		in, err := h.rooms.House.Session(c.Context(), cookie)
		if err == nil && c.Get("X-CSRF-Token") == in.Session.CSRF {
			return c.Next()
		}
	}
	c.RequestCtx().SetConnectionClose()
	return fiber.ErrRequestEntityTooLarge
}
