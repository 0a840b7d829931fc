package postgres_test

import (
	"context"
	"crypto/tls"
	"encoding/json"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	gomail "github.com/wneessen/go-mail"

	"softpalm/internal/mail"
	"softpalm/internal/mail/mailtest"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

// messages are what the owner's page of messages shows.
func (w *world) messages(ctx context.Context) ([]studio.Message, error) {
	list, err := w.svc.Portal.Messages(ctx, &w.owner)
	if err != nil {
		return nil, err
	}
	return list.Messages, nil
}

// newest is the message that was made last.
func (w *world) newest(t *testing.T) studio.Message {
	t.Helper()
	list, err := w.messages(context.Background())
	require.NoError(t, err)
	require.NotEmpty(t, list)
	return list[0]
}

// newestOf is the message of a kind that was made last.
func (w *world) newestOf(t *testing.T, kind studio.MessageKind) studio.Message {
	t.Helper()
	list, err := w.messages(context.Background())
	require.NoError(t, err)
	for _, m := range list {
		if m.Kind == kind {
			return m
		}
	}
	require.Fail(t, "no message", string(kind))
	return studio.Message{}
}

// setGateway saves a gateway in the settings.
func (w *world) setGateway(g studio.Gateway) error {
	ctx := context.Background()
	now, err := w.svc.House.Settings(ctx, &w.owner)
	if err != nil {
		return err
	}
	next := now.Settings
	next.Gateway = g
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, now.Revision, next)
	return err
}

// mailServer is one that the studio sends by from now on.
func (w *world) mailServer(t *testing.T) *mailtest.Server {
	t.Helper()
	s := mailtest.New(t, studio.MailTLS, true)
	w.svc.Portal.Mailer = mail.Server{Options: []gomail.Option{gomail.WithTLSConfig(&tls.Config{RootCAs: s.Roots, ServerName: "127.0.0.1"})}}
	require.NoError(t, w.setGateway(s.Gateway))
	return s
}

func (w *world) sendDue(t *testing.T) int {
	t.Helper()
	n, err := w.svc.Portal.SendDue(context.Background())
	require.NoError(t, err)
	return n
}

// Without a mail server messages are kept; with one they are sent, each once, however many
// senders look at the same moment. What goes to a telephone is still passed on by hand.
func TestMessagesAreSentOnce(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.first(t).Client
	_, err := w.svc.Checks.NewLink(ctx, &w.desk, client, false)
	require.NoError(t, err)
	kept := w.newest(t)
	assert.Equal(t, studio.MessageKept, kept.State)
	assert.False(t, kept.CanSend)
	assert.Zero(t, w.sendDue(t))

	s := w.mailServer(t)
	assert.Zero(t, w.sendDue(t), "what was kept before is not sent by itself")
	assert.True(t, w.newest(t).CanSend)
	link, err := w.svc.House.Invite(ctx, &w.owner, "darya@studio.example", house.ColleagueFields{Name: "Дарья Đặng", Role: studio.FrontDesk})
	require.NoError(t, err)
	assert.True(t, link.Mailed)
	waiting := w.newest(t)
	assert.Equal(t, studio.MessageWaiting, waiting.State)
	errs := together(50, func(int) error {
		_, err := w.svc.Portal.SendDue(ctx)
		return err
	})
	for _, err := range errs {
		require.NoError(t, err)
	}
	require.Len(t, s.Mails(), 1)
	assert.Contains(t, s.Mails()[0], "darya@studio.example")
	assert.Contains(t, s.Mails()[0], "http://studio.example/join#")
	sent := w.newest(t)
	assert.Equal(t, studio.MessageSent, sent.State)
	assert.Equal(t, w.now, sent.SentAt.UTC())

	require.NoError(t, w.svc.Portal.SendMessage(ctx, &w.owner, kept.ID), "the one that was kept, by the owner's hand")
	require.NoError(t, w.svc.Portal.SendMessage(ctx, &w.owner, kept.ID), "pressed twice")
	assert.Equal(t, 1, w.sendDue(t))
	assert.Len(t, s.Mails(), 2)
	require.NoError(t, w.svc.Portal.SendMessage(ctx, &w.owner, kept.ID), "and again, when it was sent")
	assert.Zero(t, w.sendDue(t))

	byPhone, err := w.svc.Clients.AddClient(ctx, &w.owner, studio.ClientFields{Name: "By Phone", Phone: "555 0100", SkinType: "dry"})
	require.NoError(t, err)
	phoned, err := w.svc.Checks.NewLink(ctx, &w.desk, byPhone.ID, false)
	require.NoError(t, err)
	assert.False(t, phoned.Mailed)
	assert.Equal(t, studio.MessageKept, w.newest(t).State)
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Portal.SendMessage(ctx, &w.owner, w.newest(t).ID), &state)
	assert.Equal(t, "message-ended", state.Code)
}

// A mail server that is away is tried again, later each time, and not for ever; one that
// refuses is not. The owner sees why, and may try again.
func TestAMessageThatCannotBeSent(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.mailServer(t)
	_, err := w.svc.Checks.NewLink(ctx, &w.desk, w.client(t, "Kaia"), false) // who comes in days
	require.NoError(t, err)
	s.Refuse(451, "Come back later")
	for _, wait := range []time.Duration{0, time.Minute, 5 * time.Minute, 30 * time.Minute, 2 * time.Hour, 6 * time.Hour} {
		if wait > 0 {
			w.now = w.now.Add(wait - time.Second)
			assert.Zero(t, w.sendDue(t))
			assert.Equal(t, studio.MessageWaiting, w.newest(t).State, "before %s", wait)
			w.now = w.now.Add(time.Second)
		}
		assert.Zero(t, w.sendDue(t))
		assert.Contains(t, w.newest(t).Failure, "Come back later")
	}
	assert.Equal(t, studio.MessageFailed, w.newest(t).State)
	w.now = w.now.Add(time.Hour)
	assert.Zero(t, w.sendDue(t))

	s.Refuse(550, "No such person here")
	require.NoError(t, w.svc.Portal.SendMessage(ctx, &w.owner, w.newest(t).ID))
	assert.Zero(t, w.sendDue(t))
	refused := w.newest(t)
	assert.Equal(t, studio.MessageFailed, refused.State)
	assert.Equal(t, "The mail server refused it: ", refused.Failure[:len("The mail server refused it: ")])
	assert.Contains(t, refused.Failure, "No such person here")

	s.Refuse(0, "")
	require.NoError(t, w.svc.Portal.SendMessage(ctx, &w.owner, refused.ID))
	assert.Equal(t, 1, w.sendDue(t))
	assert.Len(t, s.Mails(), 1)
	assert.Empty(t, w.newest(t).Failure)
}

// A sender that was ended in the middle leaves its message to the next one.
func TestAMessageIsNotLostWithItsSender(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.mailServer(t)
	_, err := w.svc.Checks.NewLink(ctx, &w.desk, w.first(t).Client, false)
	require.NoError(t, err)
	real := w.svc.Portal.Mailer
	w.svc.Portal.Mailer = ended{}
	assert.Panics(t, func() { _, _ = w.svc.Portal.SendDue(ctx) })
	w.svc.Portal.Mailer = real
	assert.Zero(t, w.sendDue(t), "perhaps it is still being sent")
	w.now = w.now.Add(2 * time.Minute)
	assert.Equal(t, 1, w.sendDue(t))
	assert.Len(t, s.Mails(), 1)
}

type ended struct{}

func (ended) Mail(context.Context, *studio.Gateway, *studio.Mail) error { panic("ended") }

// What is waiting is not sent when its link has ended, its client was deleted or messages
// are kept again.
func TestWhatIsNotToBeSentAnyMore(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := w.mailServer(t)
	client := w.first(t).Client
	_, err := w.svc.Checks.NewLink(ctx, &w.desk, client, false)
	require.NoError(t, err)
	until := w.newest(t).Until
	before := w.now
	w.now = until
	assert.Zero(t, w.sendDue(t))
	assert.Equal(t, studio.MessageKept, w.newest(t).State)

	w.now = before
	_, err = w.svc.Checks.NewLink(ctx, &w.desk, client, false)
	require.NoError(t, err)
	require.NoError(t, w.setGateway(studio.UsualGateway()))
	assert.Zero(t, w.sendDue(t))
	assert.Equal(t, studio.MessageKept, w.newest(t).State)

	require.NoError(t, w.setGateway(s.Gateway))
	_, err = w.svc.Checks.NewLink(ctx, &w.desk, client, false)
	require.NoError(t, err)
	require.Equal(t, studio.MessageWaiting, w.newest(t).State)
	require.NoError(t, w.svc.Checks.WithdrawLink(ctx, &w.owner, client))
	assert.Zero(t, w.sendDue(t))
	assert.Empty(t, w.newest(t).Body, "it was withdrawn")
	_, err = w.svc.Checks.NewLink(ctx, &w.desk, client, false)
	require.NoError(t, err)
	f, err := w.svc.Clients.Client(ctx, &w.owner, client)
	require.NoError(t, err)
	require.NoError(t, w.svc.Clients.EraseClient(ctx, &w.owner, client, f.Client.Name))
	assert.Zero(t, w.sendDue(t))
	assert.Empty(t, s.Mails())
}

// The settings of the mail server: what is wrong is said with its field; the password is
// never shown, is kept when it is left empty, and is not given to another server.
func TestTheSettingsOfTheMailServer(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	s := mailtest.New(t, studio.MailTLS, true)
	for path, spoil := range map[string]func(*studio.Gateway){
		"/mailServer":   func(g *studio.Gateway) { g.Server = "https://mail.example" },
		"/mailPort":     func(g *studio.Gateway) { g.Port = 0 },
		"/mailSecurity": func(g *studio.Gateway) { g.Security, g.Server = studio.MailPlain, "mail.example" },
		"/mailPassword": func(g *studio.Gateway) { g.Password = "" },
		"/mailFrom":     func(g *studio.Gateway) { g.From = "the studio" },
	} {
		g := s.Gateway
		spoil(&g)
		var input *studio.InputError
		require.ErrorAs(t, w.setGateway(g), &input, path)
		assert.Equal(t, path, input.Problems[0].Path)
	}
	var state *studio.StateError
	require.ErrorAs(t, w.svc.Portal.SendTest(ctx, &w.owner), &state)
	assert.Equal(t, "no-gateway", state.Code)

	s = w.mailServer(t)
	require.NoError(t, w.svc.Portal.SendTest(ctx, &w.owner))
	require.Len(t, s.Mails(), 1)
	assert.Contains(t, s.Mails()[0], "owner@demo.example")
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	res, body := call("GET", "/api/settings", "")
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.NotContains(t, body, mailtest.Password)
	var shown struct {
		MailPassword     string
		MailPasswordKept bool
	}
	require.NoError(t, json.Unmarshal([]byte(body), &shown))
	assert.True(t, shown.MailPasswordKept)

	same := s.Gateway
	same.Password, same.From = "", "hello@studio.example"
	require.NoError(t, w.setGateway(same))
	require.NoError(t, w.svc.Portal.SendTest(ctx, &w.owner))
	require.Len(t, s.Mails(), 2)
	other := same
	other.Server = "localhost"
	var input *studio.InputError
	require.ErrorAs(t, w.setGateway(other), &input, "another server is not handed the password of this one")
	assert.Equal(t, "/mailPassword", input.Problems[0].Path)

	wrong := s.Gateway
	wrong.Password = "another"
	require.NoError(t, w.setGateway(wrong))
	require.ErrorAs(t, w.svc.Portal.SendTest(ctx, &w.owner), &state)
	assert.Contains(t, state.Sentence.Message, "refused")
	require.ErrorIs(t, w.svc.Portal.SendTest(ctx, &w.desk), studio.ErrForbidden)
}
