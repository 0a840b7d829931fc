package studio

import (
	"context"
	"errors"
	"net/mail"
	"net/netip"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/words"
)

// GatewayKind is how messages leave the studio.
type GatewayKind string

// The kinds of gateway.
const (
	KeepMessages GatewayKind = "keep" // the owner passes them on
	MailMessages GatewayKind = "mail" // those to an e-mail address are sent by a mail server
)

// MailSecurity is how the connection to a mail server is encrypted.
type MailSecurity string

// The kinds of encryption. Without any, a mail server on the same machine is reached only.
const (
	MailTLS      MailSecurity = "tls"      // from the start; RFC 8314
	MailStartTLS MailSecurity = "starttls" // required; RFC 3207
	MailPlain    MailSecurity = "none"
)

// Gateway is how messages leave the studio, with the mail server that sends them.
type Gateway struct {
	Kind     GatewayKind  `json:"gateway" enum:"keep,mail"`
	Server   string       `json:"mailServer" maxLength:"253"`
	Port     int          `json:"mailPort" minimum:"0" maximum:"65535"`
	Security MailSecurity `json:"mailSecurity" enum:"tls,starttls,none"`
	User     string       `json:"mailUser" maxLength:"200"`
	// Password is never shown. An empty one keeps the one before.
	Password string `json:"mailPassword" maxLength:"200"`
	// From is the address that messages come from.
	From string `json:"mailFrom" maxLength:"200"`
}

// UsualGateway is the gateway that a new studio begins with: none.
func UsualGateway() Gateway {
	return Gateway{Kind: KeepMessages, Port: 465, Security: MailTLS}
}

// After returns what is wrong with the gateway, which takes the place of another, and
// takes over the other's password where it has none. A password is given to the server
// and user only that it was entered for.
func (g *Gateway) After(was *Gateway) error {
	g.Server, g.User, g.From = strings.TrimSpace(g.Server), strings.TrimSpace(g.User), strings.TrimSpace(g.From)
	if g.Password == "" && g.sameLogin(was) {
		g.Password = was.Password
	}
	if g.Kind != MailMessages {
		return nil
	}
	switch {
	case g.Server == "" || strings.ContainsAny(g.Server, " /:@"):
		return FaultAt("/mailServer", words.EnterTheNameOfTheMailServer())
	case g.Port == 0:
		return FaultAt("/mailPort", words.EnterThePortOfTheMailServer())
	case g.Security == MailPlain && !thisMachine(g.Server):
		return FaultAt("/mailSecurity", words.MailToAnotherMachineIsEncrypted())
	case g.User != "" && g.Password == "":
		return FaultAt("/mailPassword", words.EnterThePasswordOfTheMailServer())
	}
	if at, err := mail.ParseAddress(g.From); err != nil || at.Address != g.From {
		return FaultAt("/mailFrom", words.EnterTheAddressThatMessagesComeFrom())
	}
	return nil
}

func (g *Gateway) sameLogin(was *Gateway) bool {
	return g.Server == was.Server && g.Port == was.Port && g.Security == was.Security && g.User == was.User
}

// Takes reports whether the gateway sends messages to an address.
func (g *Gateway) Takes(to string) bool {
	at, err := mail.ParseAddress(to)
	return g.Kind == MailMessages && err == nil && at.Address == to
}

func thisMachine(host string) bool {
	ip, err := netip.ParseAddr(host)
	return host == "localhost" || err == nil && ip.IsLoopback()
}

// Mail is a message as a mail server gets it.
type Mail struct {
	ID       uuid.UUID // the same at every try
	At       time.Time
	FromName string
	To       string
	Name     string
	Subject  string
	Body     string // plain text
	// Calendar is a calendar file that goes with it, empty where there is none.
	Calendar string
}

// Mailer hands mail to the mail server of a gateway. What the server refuses for good
// answers a *RefusedError; anything else may be tried again.
type Mailer interface {
	Mail(ctx context.Context, g *Gateway, m *Mail) error
}

// RefusedError is a mail server's refusal.
type RefusedError struct{ Why error }

func (e *RefusedError) Error() string { return "studio: the mail server refused: " + e.Why.Error() }

// Unwrap returns what the server said.
func (e *RefusedError) Unwrap() error { return e.Why }

// WhyNotSent is why a message could not be sent, for the owner, with the words of the mail
// server or of the network.
func WhyNotSent(err error) words.Sentence {
	var refused *RefusedError
	if errors.As(err, &refused) {
		return words.TheMailServerRefusedIt(shortened(refused.Why.Error()))
	}
	return words.TheMailServerCouldNotBeReached(shortened(err.Error()))
}

// shortened keeps what a foreign program said to a line.
func shortened(s string) string {
	const most = 200
	r := []rune(strings.Join(strings.Fields(s), " "))
	if len(r) > most {
		return string(r[:most]) + "…"
	}
	return string(r)
}
