package portal

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

const (
	// sendAtOnce is how many messages are sent in one go.
	sendAtOnce = 20
	// sendLimit is how long one message may take; a sender that does not come back leaves
	// it to the next one after sendHeld.
	sendLimit = 20 * time.Second
	sendHeld  = 2 * time.Minute
)

// sendAgain is how long a message waits after each try that failed (common practice: more
// each time, for a mail server that is away for some hours). After the last it has failed.
var sendAgain = []time.Duration{time.Minute, 5 * time.Minute, 30 * time.Minute, 2 * time.Hour, 6 * time.Hour}

// SendDue sends what is to be sent now, and returns how many messages the mail servers took.
// A message that two senders see is sent by one of them. One may arrive twice where a
// sender is ended between the mail server's yes and its note: under the same id.
func (s *Service) SendDue(ctx context.Context) (sent int, err error) {
	due, err := s.Outbox.DueMessages(ctx, s.Now(), sendAtOnce)
	for _, d := range due {
		if ctx.Err() != nil { // the server is stopping
			break
		}
		var did bool
		did, err = s.sendOne(ctx, d)
		if did {
			sent++
		}
		if err != nil {
			break
		}
	}
	return sent, err
}

func (s *Service) sendOne(ctx context.Context, d studio.DueMessage) (sent bool, err error) {
	m, g, name, err := s.takeMessage(ctx, d)
	if m == nil || err != nil {
		return false, err
	}
	noted := context.WithoutCancel(ctx)
	limited, cancel := context.WithTimeout(noted, sendLimit)
	defer cancel()
	why := s.Mailer.Mail(limited, g, &studio.Mail{
		ID: m.ID, At: m.At, FromName: name, To: m.To, Name: m.Name, Subject: m.Kind.Subject(name), Body: m.Body,
		Calendar: m.Attachment,
	})
	s.settle(m, why)
	err = studio.Within(noted, s.Kernel, d.Studio, func(tx Store) error { return tx.SaveSending(noted, m) })
	if errors.Is(err, studio.ErrNotFound) { // its client was deleted meanwhile
		err = nil
	}
	return why == nil, err
}

// takeMessage takes a message for sending; nil where there is nothing to send any more, or
// somebody else has taken it.
func (s *Service) takeMessage(ctx context.Context, d studio.DueMessage) (m *studio.Message, g *studio.Gateway, name string, err error) {
	err = studio.Within(ctx, s.Kernel, d.Studio, func(tx Store) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		name = st.Name
		if g, err = tx.Gateway(ctx); err != nil {
			return err
		}
		now := s.Now()
		found, err := tx.LockMessage(ctx, d.Message)
		if err != nil || found.State != studio.MessageWaiting || found.NextTry.After(now) {
			return err
		}
		if !g.Takes(found.To) || !now.Before(found.Until) {
			found.State, found.NextTry = studio.MessageKept, nil // as the gateway is another now, or its link has ended
			return tx.SaveSending(ctx, found)
		}
		m = found
		held := now.Add(sendHeld)
		m.NextTry = &held
		m.Tries++
		return tx.SaveSending(ctx, m)
	})
	if errors.Is(err, studio.ErrNotFound) {
		return nil, nil, "", nil
	}
	return m, g, name, err
}

// settle notes what became of a try.
func (s *Service) settle(m *studio.Message, why error) {
	now := s.Now()
	m.NextTry = nil
	if why == nil {
		m.State, m.SentAt, m.Failure = studio.MessageSent, &now, ""
		return
	}
	m.Failure = studio.WhyNotSent(why).Message
	var refused *studio.RefusedError
	if errors.As(why, &refused) || m.Tries > len(sendAgain) {
		m.State = studio.MessageFailed
		return
	}
	again := now.Add(sendAgain[m.Tries-1])
	m.NextTry = &again
}

// SendTest hands a message to the studio's mail server at once, for the actor's own address.
func (s *Service) SendTest(ctx context.Context, a *studio.Actor) error {
	if err := a.May("send-test-message"); err != nil {
		return err
	}
	var g *studio.Gateway
	m := &studio.Mail{ID: uuid.New(), At: s.Now(), Name: a.Name}
	err := studio.In(ctx, s.Kernel, a, func(tx testStore, st *studio.Studio) (err error) {
		if g, err = tx.Gateway(ctx); err != nil {
			return err
		}
		me, err := tx.Account(ctx, a.Account)
		if err != nil {
			return err
		}
		m.To, m.FromName = me.Email, st.Name
		m.Subject, m.Body = words.SubjectTest(st.Name).Message, words.MessageTest(st.Name).Message
		return nil
	})
	if err != nil {
		return err
	}
	if !g.Takes(m.To) {
		return &studio.StateError{Code: "no-gateway", Sentence: words.SaveTheMailServerFirst()}
	}
	limited, cancel := context.WithTimeout(ctx, sendLimit)
	defer cancel()
	if err := s.Mailer.Mail(limited, g, m); err != nil {
		return &studio.StateError{Code: "not-sent", Sentence: studio.WhyNotSent(err)}
	}
	return nil
}

type testStore interface {
	Store
	Account(ctx context.Context, id uuid.UUID) (*studio.Account, error)
}
