// Package mailtest is a mail server for tests: it keeps what it is sent, and refuses what
// it is told to.
package mailtest

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"io"
	"math/big"
	"net"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/emersion/go-sasl"
	"github.com/emersion/go-smtp"
	"github.com/stretchr/testify/require"

	"softpalm/internal/studio"
)

// User and Password are what the server wants where it wants any.
const (
	User     = "palm"
	Password = "a key of stone"
)

// Server listens on this machine until the test ends.
type Server struct {
	// Gateway leads to it.
	Gateway studio.Gateway
	// Roots hold its certificate.
	Roots *x509.CertPool

	mu    sync.Mutex
	mails []string
	// refuse answers the next recipients.
	refuse error
}

// New starts a server with or without encryption from the start; auth asks for a password.
func New(t testing.TB, security studio.MailSecurity, auth bool) *Server {
	t.Helper()
	s := &Server{Roots: x509.NewCertPool()}
	certificate := s.certificate(t)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	port, err := strconv.Atoi(listener.Addr().String()[len("127.0.0.1:"):])
	require.NoError(t, err)
	s.Gateway = studio.Gateway{Kind: studio.MailMessages, Server: "127.0.0.1", Port: port, Security: security, From: "desk@studio.example"}
	server := smtp.NewServer(&backend{s, auth})
	server.Domain = "mail.example"
	server.TLSConfig = &tls.Config{Certificates: []tls.Certificate{certificate}}
	server.ReadTimeout = 5 * time.Second
	switch security {
	case studio.MailTLS:
		listener = tls.NewListener(listener, server.TLSConfig)
	case studio.MailPlain:
		server.TLSConfig = nil
		server.AllowInsecureAuth = true
	case studio.MailStartTLS:
	}
	if auth {
		s.Gateway.User, s.Gateway.Password = User, Password
	}
	done := make(chan struct{})
	go func() { defer close(done); _ = server.Serve(listener) }()
	t.Cleanup(func() { _, _ = server.Close(), listener.Close(); <-done })
	return s
}

// Mails are the messages taken so far, whole.
func (s *Server) Mails() []string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return append([]string{}, s.mails...)
}

// Refuse answers recipients with a code from now on; 0 takes them again.
func (s *Server) Refuse(code int, text string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.refuse = nil
	if code != 0 {
		s.refuse = &smtp.SMTPError{Code: code, EnhancedCode: smtp.EnhancedCode{code / 100, 0, 0}, Message: text}
	}
}

func (s *Server) certificate(t testing.TB) tls.Certificate {
	t.Helper()
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	form := &x509.Certificate{
		SerialNumber: big.NewInt(1), Subject: pkix.Name{CommonName: "mail.example"}, IPAddresses: []net.IP{net.IPv4(127, 0, 0, 1)},
		NotBefore: time.Now().Add(-time.Hour), NotAfter: time.Now().Add(time.Hour), IsCA: true, BasicConstraintsValid: true,
	}
	der, err := x509.CreateCertificate(rand.Reader, form, form, key.Public(), key)
	require.NoError(t, err)
	parsed, err := x509.ParseCertificate(der)
	require.NoError(t, err)
	s.Roots.AddCert(parsed)
	return tls.Certificate{Certificate: [][]byte{der}, PrivateKey: key}
}

type backend struct {
	*Server
	auth bool
}

func (b *backend) NewSession(*smtp.Conn) (smtp.Session, error) {
	return &session{backend: b, in: !b.auth}, nil
}

type session struct {
	*backend
	in bool
}

func (s *session) AuthMechanisms() []string {
	if !s.auth {
		return nil
	}
	return []string{sasl.Plain}
}

func (s *session) Auth(string) (sasl.Server, error) {
	return sasl.NewPlainServer(func(_, user, password string) error {
		if user != User || password != Password {
			return smtp.ErrAuthFailed
		}
		s.in = true
		return nil
	}), nil
}

func (s *session) Mail(string, *smtp.MailOptions) error {
	if !s.in {
		return smtp.ErrAuthRequired
	}
	return nil
}

func (s *session) Rcpt(string, *smtp.RcptOptions) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.refuse
}

func (s *session) Data(r io.Reader) error {
	b, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.mails = append(s.mails, string(b))
	return nil
}

func (s *session) Reset()        {}
func (s *session) Logout() error { return nil }
