// Package mail hands messages to a studio's mail server by SMTP (RFC 5321).
package mail

import (
	"context"
	"errors"
	"fmt"
	"net/textproto"
	"strings"
	"time"

	"github.com/wneessen/go-mail"

	"softpalm/internal/studio"
)

// timeout is how long one step of the connection may take.
const timeout = 10 * time.Second

// Server hands mail to the mail server that a gateway names.
type Server struct {
	// Options are added to the connection, for tests with a certificate of their own.
	Options []mail.Option
}

// Mail sends one message; see [studio.Mailer].
func (s Server) Mail(ctx context.Context, g *studio.Gateway, m *studio.Mail) error {
	msg, err := message(g, m)
	if err != nil {
		return &studio.RefusedError{Why: err}
	}
	client, err := mail.NewClient(g.Server, append(options(g), s.Options...)...)
	if err != nil {
		return &studio.RefusedError{Why: err}
	}
	if err := client.DialAndSendWithContext(ctx, msg); err != nil {
		return classed(err)
	}
	return nil
}

func options(g *studio.Gateway) []mail.Option {
	out := []mail.Option{mail.WithPort(g.Port), mail.WithTimeout(timeout)}
	switch g.Security {
	case studio.MailTLS:
		out = append(out, mail.WithSSL())
	case studio.MailStartTLS:
		out = append(out, mail.WithTLSPolicy(mail.TLSMandatory))
	case studio.MailPlain:
		out = append(out, mail.WithTLSPolicy(mail.NoTLS))
	}
	if g.User != "" {
		out = append(out, mail.WithSMTPAuth(mail.SMTPAuthAutoDiscover), mail.WithUsername(g.User), mail.WithPassword(g.Password))
	}
	return out
}

func message(g *studio.Gateway, m *studio.Mail) (*mail.Msg, error) {
	msg := mail.NewMsg(mail.WithNoDefaultUserAgent())
	if err := msg.FromFormat(m.FromName, g.From); err != nil {
		return nil, err
	}
	if err := msg.AddToFormat(m.Name, m.To); err != nil {
		return nil, err
	}
	msg.SetMessageIDWithValue(fmt.Sprintf("%s@%s", m.ID, domain(g.From)))
	msg.SetDateWithValue(m.At)
	msg.SetGenHeader("Auto-Submitted", "auto-generated") // nobody's absence note answers it; RFC 3834
	msg.Subject(m.Subject)
	msg.SetBodyString(mail.TypeTextPlain, m.Body)
	if m.Calendar != "" {
		if err := msg.AttachReader("appointments.ics", strings.NewReader(m.Calendar), mail.WithFileContentType("text/calendar; charset=utf-8")); err != nil {
			return nil, err
		}
	}
	return msg, nil
}

// domain is what follows the @ of an address.
func domain(address string) string {
	for i := len(address) - 1; i >= 0; i-- {
		if address[i] == '@' {
			return address[i+1:]
		}
	}
	return address
}

// classed tells a refusal, after which trying again helps nothing, from the rest: the
// server's answers from 500 on (RFC 5321, 4.2.1).
func classed(err error) error {
	var sending *mail.SendError
	if errors.As(err, &sending) && sending.ErrorCode() >= 500 {
		return &studio.RefusedError{Why: err}
	}
	var answer *textproto.Error
	if errors.As(err, &answer) && answer.Code >= 500 {
		return &studio.RefusedError{Why: err}
	}
	return err
}
