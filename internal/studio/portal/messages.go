// Package portal is the room of what goes to clients: messages, and later a page of
// their own.
package portal

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// Store is what this room asks of the one studio's data.
type Store interface {
	studio.Tx
	Gateway(ctx context.Context) (*studio.Gateway, error)
	AddMessage(ctx context.Context, m *studio.Message) error
	// Messages lists the newest messages; those whose links have ended have no text.
	Messages(ctx context.Context, now time.Time, limit int) ([]studio.Message, error)
	// LockMessage returns a message and holds it until the transaction ends.
	LockMessage(ctx context.Context, id uuid.UUID) (*studio.Message, error)
	// SaveSending writes where a message is on its way.
	SaveSending(ctx context.Context, m *studio.Message) error
	// ClearMessages takes the text out of messages whose links have ended.
	ClearMessages(ctx context.Context, now time.Time) error
}

// Outbox finds what is to be sent, in whatever studio.
type Outbox interface {
	DueMessages(ctx context.Context, now time.Time, limit int) ([]studio.DueMessage, error)
}

// Service carries out the use cases of the portal room.
type Service struct {
	*studio.Kernel
	Outbox    Outbox
	Mailer    studio.Mailer
	Calendars Calendars
	Pages     Pages
	Diary     Diary
	Checks    Checks
	Files     CalendarFiles
}

// messagesShown is how many messages the page lists.
const messagesShown = 200

// Send keeps a message, and reports whether the studio's mail server sends it once the
// transaction has ended.
func (s *Service) Send(ctx context.Context, within studio.Tx, m studio.Message) (mailed bool, err error) {
	tx := studio.As[Store](within)
	later := m.NextTry // it is not sent before
	m.At, m.State, m.NextTry = s.Now(), studio.MessageKept, nil
	if m.ID == uuid.Nil {
		m.ID = studio.NewID()
	}
	if err := tx.ClearMessages(ctx, s.Now()); err != nil {
		return false, err
	}
	g, err := tx.Gateway(ctx)
	if err != nil {
		return false, err
	}
	if mailed = g.Takes(m.To); mailed {
		m.State, m.NextTry = studio.MessageWaiting, &m.At
		if later != nil {
			m.NextTry = later
		}
	}
	return mailed, tx.AddMessage(ctx, &m)
}

// MessageList is what the page of messages shows.
type MessageList struct {
	// Gateway says whether messages are sent by a mail server or kept to be passed on.
	Gateway  studio.GatewayKind `json:"gateway" enum:"keep,mail"`
	Messages []studio.Message   `json:"messages"`
}

// Messages lists the newest messages, newest first.
func (s *Service) Messages(ctx context.Context, a *studio.Actor) (*MessageList, error) {
	if err := a.May("list-messages"); err != nil {
		return nil, err
	}
	var out MessageList
	err := studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		g, err := tx.Gateway(ctx)
		if err != nil {
			return err
		}
		out.Gateway = g.Kind
		out.Messages, err = tx.Messages(ctx, s.Now(), messagesShown)
		for i := range out.Messages {
			m := &out.Messages[i]
			m.CanSend = sendable(g, m, s.Now())
		}
		return err
	})
	return &out, err
}

// sendable reports whether a message that is not on its way may be sent by the gateway.
func sendable(g *studio.Gateway, m *studio.Message, now time.Time) bool {
	return g.Takes(m.To) && (m.State == studio.MessageKept || m.State == studio.MessageFailed) && now.Before(m.Until)
}

// SendMessage sends a message that was kept, or that could not be sent.
func (s *Service) SendMessage(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("send-message"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		g, err := tx.Gateway(ctx)
		if err != nil {
			return err
		}
		m, err := tx.LockMessage(ctx, id)
		if err != nil {
			return err
		}
		if m.State == studio.MessageWaiting || m.State == studio.MessageSent {
			return nil // pressed twice
		}
		if !sendable(g, m, s.Now()) {
			return &studio.StateError{Code: "message-ended", Sentence: words.ThisMessageCannotBeSent()}
		}
		now := s.Now()
		m.State, m.NextTry, m.Tries, m.Failure = studio.MessageWaiting, &now, 0, ""
		return tx.SaveSending(ctx, m)
	})
}
