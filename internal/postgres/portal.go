package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// DueMessages lists what is to be sent now, of every studio, the longest waiting first.
func (db *DB) DueMessages(ctx context.Context, now time.Time, limit int) ([]studio.DueMessage, error) {
	out := []studio.DueMessage{}
	err := db.pool.SelectContext(ctx, &out, "select studio_id, id from due_messages($1, $2)", now, limit)
	return out, translate(err)
}

// Gateway returns how messages leave the studio.
func (t *Tx) Gateway(ctx context.Context) (*studio.Gateway, error) {
	g := studio.UsualGateway()
	err := t.row(ctx, "select gateway from studio where id = $1", t.studio).Scan(doc[studio.Gateway]{&g})
	return found(&g, err)
}

// SaveGateway writes how messages leave the studio.
func (t *Tx) SaveGateway(ctx context.Context, g *studio.Gateway) error {
	return t.one(ctx, "update studio set gateway = $2 where id = $1", t.studio, document(g))
}

// AddMessage adds a message.
func (t *Tx) AddMessage(ctx context.Context, m *studio.Message) error {
	return t.exec(ctx, `insert into message (studio_id, id, at, kind, recipient, name, body, until, client_id, state, next_try, attachment)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
		t.studio, m.ID, m.At, m.Kind, m.To, m.Name, m.Body, m.Until, m.Client, m.State, m.NextTry, m.Attachment)
}

const messageColumns = `select id, at, kind, recipient, name, body, until, state, tries, next_try, sent_at, failure, attachment from message
	where studio_id = $1`

func scanMessage(r fields) (m studio.Message, err error) {
	err = r.Scan(&m.ID, &m.At, &m.Kind, &m.To, &m.Name, &m.Body, &m.Until, &m.State, &m.Tries, &m.NextTry, &m.SentAt, &m.Failure, &m.Attachment)
	return m, err
}

// LockMessage returns a message and holds it until the transaction ends.
func (t *Tx) LockMessage(ctx context.Context, id uuid.UUID) (*studio.Message, error) {
	m, err := scanMessage(t.row(ctx, messageColumns+" and id = $2 for update", t.studio, id))
	return found(&m, err)
}

// SaveSending writes where a message is on its way.
func (t *Tx) SaveSending(ctx context.Context, m *studio.Message) error {
	return t.one(ctx, `update message set state = $3, tries = $4, next_try = $5, sent_at = $6, failure = $7
		where studio_id = $1 and id = $2`,
		t.studio, m.ID, m.State, m.Tries, m.NextTry, m.SentAt, m.Failure)
}

// Messages lists the newest messages, newest first; those that have ended without text.
func (t *Tx) Messages(ctx context.Context, now time.Time, limit int) ([]studio.Message, error) {
	return list(ctx, t, func(r fields) (studio.Message, error) {
		m, err := scanMessage(r)
		if !now.Before(m.Until) {
			m.Body = ""
		}
		return m, err
	}, messageColumns+" order by at desc, id desc"+atMost(limit), t.studio)
}

// ClearMessages takes the text out of messages that have ended.
func (t *Tx) ClearMessages(ctx context.Context, now time.Time) error {
	return t.exec(ctx, "update message set body = '', attachment = '' where studio_id = $1 and until <= $2 and body <> ''", t.studio, now)
}
