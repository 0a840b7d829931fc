// Package portal is the room of what goes to clients: messages, and later a page of
// their own.
package portal

import (
	"context"
	"time"

	"softpalm/internal/studio"
)

// Store is what this room asks of the one studio's data.
type Store interface {
	studio.Tx
	AddMessage(ctx context.Context, m *studio.Message) error
	// Messages lists the newest messages; those whose links have ended have no text.
	Messages(ctx context.Context, now time.Time, limit int) ([]studio.Message, error)
	// ClearMessages takes the text out of messages whose links have ended.
	ClearMessages(ctx context.Context, now time.Time) error
}

// Service carries out the use cases of the portal room.
type Service struct{ *studio.Kernel }

// messagesShown is how many messages the page lists.
const messagesShown = 200

// Send keeps a message as it would be sent.
func (s *Service) Send(ctx context.Context, within studio.Tx, m studio.Message) error {
	tx := studio.As[Store](within)
	m.ID, m.At = studio.NewID(), s.Now()
	if err := tx.ClearMessages(ctx, s.Now()); err != nil {
		return err
	}
	return tx.AddMessage(ctx, &m)
}

// Messages lists the newest messages, newest first.
func (s *Service) Messages(ctx context.Context, a *studio.Actor) (list []studio.Message, err error) {
	if err := a.May("list-messages"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		list, err = tx.Messages(ctx, s.Now(), messagesShown)
		return err
	})
	return list, err
}
