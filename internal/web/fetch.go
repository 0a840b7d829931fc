// Package web reads files from addresses outside: calendars that somebody gave the studio.
package web

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"strings"
	"syscall"
	"time"
)

const (
	timeout   = 15 * time.Second
	mostBytes = 4 << 20
	mostHops  = 3
)

// Fetcher reads files by HTTP. It reaches public addresses only, so that nobody sends the server to
// machines of its own network.
type Fetcher struct {
	// Anywhere lets it reach other addresses too, for tests.
	Anywhere bool
}

// Fetch reads the file at an address of the schemes https, http or webcal.
func (f Fetcher) Fetch(ctx context.Context, address string) ([]byte, error) {
	u, err := Read(address)
	if err != nil {
		return nil, err
	}
	client := &http.Client{
		Timeout:   timeout,
		Transport: &http.Transport{DialContext: (&net.Dialer{Timeout: timeout, Control: f.control}).DialContext, DisableKeepAlives: true},
		CheckRedirect: func(req *http.Request, via []*http.Request) error {
			if len(via) > mostHops {
				return errors.New("it leads on and on")
			}
			_, err := Read(req.URL.String())
			return err
		},
	}
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, u, nil)
	if err != nil {
		return nil, fmt.Errorf("web: %w", err)
	}
	req.Header.Set("Accept", "text/calendar")
	res, err := client.Do(req)
	if err != nil {
		return nil, fmt.Errorf("web: %w", innermost(err))
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("web: it answers %s", res.Status)
	}
	data, err := io.ReadAll(io.LimitReader(res.Body, mostBytes+1))
	if err == nil && len(data) > mostBytes {
		err = errors.New("web: it is too large")
	}
	return data, err
}

// innermost is what went wrong without how it came about: for a person who typed an address.
func innermost(err error) error {
	for {
		inner := errors.Unwrap(err)
		if inner == nil {
			return err
		}
		err = inner
	}
}

// Read is an address as it is fetched; one that is none answers an error.
func Read(address string) (string, error) {
	address = strings.TrimSpace(address)
	if rest, ok := strings.CutPrefix(address, "webcal://"); ok {
		address = "https://" + rest
	}
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "https" && u.Scheme != "http" || u.User != nil {
		return "", errors.New("web: this is not an address")
	}
	return u.String(), nil
}

// control refuses a connection to an address that is not public. It is asked with the address that a
// name was resolved to, so that no name leads past it.
func (f Fetcher) control(_, address string, _ syscall.RawConn) error {
	if f.Anywhere {
		return nil
	}
	at, err := netip.ParseAddrPort(address)
	if err != nil || !public(at.Addr().Unmap()) {
		return errors.New("it leads into a network of its own")
	}
	return nil
}

// shared is the address space between providers and their customers (RFC 6598).
var shared = netip.MustParsePrefix("100.64.0.0/10")

func public(a netip.Addr) bool {
	return a.IsGlobalUnicast() && !a.IsPrivate() && !a.IsLoopback() && !a.IsLinkLocalUnicast() && !shared.Contains(a)
}
