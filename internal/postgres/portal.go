package postgres

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"

	"softpalm/internal/studio"
)

// AddMessage adds a message.
func (t *Tx) AddMessage(ctx context.Context, m *studio.Message) error {
	return t.exec(ctx, `insert into message (studio_id, id, at, kind, recipient, name, body, until, client_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.studio, m.ID, m.At, m.Kind, m.To, m.Name, m.Body, m.Until, m.Client)
}

// Messages lists the newest messages, newest first; those that have ended without text.
func (t *Tx) Messages(ctx context.Context, now time.Time, limit int) ([]studio.Message, error) {
	return list(ctx, t, func(r *sqlx.Rows) (m studio.Message, err error) {
		err = r.Scan(&m.ID, &m.At, &m.Kind, &m.To, &m.Name, &m.Body, &m.Until)
		return m, err
	}, `select id, at, kind, recipient, name, case when until > $2 then body else '' end, until from message
		where studio_id = $1 order by at desc, id desc limit $3`, t.studio, now, limit)
}

// ClearMessages takes the text out of messages that have ended.
func (t *Tx) ClearMessages(ctx context.Context, now time.Time) error {
	return t.exec(ctx, "update message set body = '' where studio_id = $1 and until <= $2 and body <> ''", t.studio, now)
}
