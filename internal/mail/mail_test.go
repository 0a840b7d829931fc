package mail_test

import (
	"context"
	"crypto/tls"
	"io"
	"mime"
	"mime/quotedprintable"
	netmail "net/mail"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	gomail "github.com/wneessen/go-mail"

	"softpalm/internal/mail"
	"softpalm/internal/mail/mailtest"
	"softpalm/internal/studio"
)

func letter() *studio.Mail {
	return &studio.Mail{
		ID: uuid.MustParse("0190f5fe-7a2c-7cc3-8f5b-4a1d4f4d3c11"), At: time.Date(2026, 11, 24, 9, 5, 0, 0, time.UTC),
		FromName: "Rowan Street, Face Studio", To: "darya@client.example", Name: "Дарья Łucja Đặng",
		Subject: "Before your appointment at Ļaima’s", Body: "Dear Дарья,\n\nplease answer:\n\nhttps://palm.example/consultation#abc\n.\nthe end",
	}
}

func to(s *mailtest.Server) mail.Server {
	return mail.Server{Options: []gomail.Option{gomail.WithTLSConfig(&tls.Config{RootCAs: s.Roots, ServerName: "127.0.0.1"})}}
}

// A message arrives as it was written, in any script, over each kind of connection, read
// by the standard library (RFC 5322, RFC 2047, RFC 3834; net/mail as the reader).
func TestAMessageArrivesAsItWasWritten(t *testing.T) {
	for _, c := range []struct {
		security studio.MailSecurity
		auth     bool
	}{{studio.MailTLS, true}, {studio.MailStartTLS, true}, {studio.MailTLS, false}, {studio.MailPlain, false}} {
		s := mailtest.New(t, c.security, c.auth)
		m := letter()
		require.NoError(t, to(s).Mail(context.Background(), &s.Gateway, m), "%+v", c)
		require.Len(t, s.Mails(), 1)
		got, err := netmail.ReadMessage(strings.NewReader(s.Mails()[0]))
		require.NoError(t, err)
		from, err := got.Header.AddressList("From")
		require.NoError(t, err)
		assert.Equal(t, []*netmail.Address{{Name: m.FromName, Address: "desk@studio.example"}}, from)
		whom, err := got.Header.AddressList("To")
		require.NoError(t, err)
		assert.Equal(t, []*netmail.Address{{Name: m.Name, Address: m.To}}, whom)
		subject, err := (&mime.WordDecoder{}).DecodeHeader(got.Header.Get("Subject"))
		require.NoError(t, err)
		assert.Equal(t, m.Subject, subject)
		at, err := got.Header.Date()
		require.NoError(t, err)
		assert.True(t, at.Equal(m.At))
		assert.Equal(t, "<0190f5fe-7a2c-7cc3-8f5b-4a1d4f4d3c11@studio.example>", got.Header.Get("Message-Id"))
		assert.Equal(t, "auto-generated", got.Header.Get("Auto-Submitted"))
		assert.Equal(t, "quoted-printable", got.Header.Get("Content-Transfer-Encoding"))
		text, err := io.ReadAll(quotedprintable.NewReader(got.Body))
		require.NoError(t, err)
		assert.Equal(t, m.Body, strings.TrimRight(strings.ReplaceAll(string(text), "\r\n", "\n"), "\n"))
	}
}

// What a server refuses for good is told from what may be tried again (RFC 5321, 4.2.1).
func TestARefusalIsToldFromATrouble(t *testing.T) {
	ctx := context.Background()
	s := mailtest.New(t, studio.MailTLS, true)
	var refused *studio.RefusedError

	s.Refuse(550, "No such person here")
	err := to(s).Mail(ctx, &s.Gateway, letter())
	require.ErrorAs(t, err, &refused)
	assert.Contains(t, studio.WhyNotSent(err).Message, "No such person here")

	s.Refuse(451, "Come back later")
	err = to(s).Mail(ctx, &s.Gateway, letter())
	require.Error(t, err)
	assert.NotErrorAs(t, err, &refused)
	assert.Contains(t, studio.WhyNotSent(err).Message, "Come back later")

	s.Refuse(0, "")
	wrong := s.Gateway
	wrong.Password = "another"
	require.ErrorAs(t, to(s).Mail(ctx, &wrong, letter()), &refused, "a wrong password is not tried again and again")

	away := s.Gateway
	away.Port = 1
	err = to(s).Mail(ctx, &away, letter())
	require.Error(t, err)
	assert.NotErrorAs(t, err, &refused)
	assert.Empty(t, s.Mails())
}

// No password and no message goes to a server that is not the one it claims to be, or that
// does not encrypt where encryption is asked for (RFC 8314, RFC 3207).
func TestNothingGoesToAServerThatIsNotTrusted(t *testing.T) {
	ctx := context.Background()
	s := mailtest.New(t, studio.MailTLS, true)
	require.Error(t, mail.Server{}.Mail(ctx, &s.Gateway, letter()), "a certificate that nobody vouches for")
	open := mailtest.New(t, studio.MailPlain, true)
	open.Gateway.Security = studio.MailStartTLS
	require.Error(t, to(open).Mail(ctx, &open.Gateway, letter()), "no STARTTLS offered")
	assert.Empty(t, s.Mails())
	assert.Empty(t, open.Mails())
}

// A name with a line break starts no header of its own.
func TestANameStartsNoHeader(t *testing.T) {
	s := mailtest.New(t, studio.MailTLS, false)
	m := letter()
	m.Name, m.Subject = "Eve\r\nBcc: all@client.example", "Hello\r\nBcc: all@client.example"
	if err := to(s).Mail(context.Background(), &s.Gateway, m); err == nil {
		got, err := netmail.ReadMessage(strings.NewReader(s.Mails()[0]))
		require.NoError(t, err)
		assert.Empty(t, got.Header.Get("Bcc"))
	}
}
