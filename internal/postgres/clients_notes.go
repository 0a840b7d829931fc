package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// ClientNotes lists the notes in a client's file, oldest first.
func (t *Tx) ClientNotes(ctx context.Context, client uuid.UUID) ([]studio.ClientNote, error) {
	return list(ctx, t, func(r fields) (n studio.ClientNote, err error) {
		err = r.Scan(&n.ID, &n.Zone, &n.Side, &n.Stroke, &n.Body, &n.Author, &n.At)
		return n, err
	}, `select id, zone, side, stroke, body, author, at from client_note
		where studio_id = $1 and client_id = $2 and removed_at is null order by at, id`, t.studio, client)
}

// AddClientNote adds a note to a client's file.
func (t *Tx) AddClientNote(ctx context.Context, client, account uuid.UUID, n *studio.ClientNote) error {
	return t.exec(ctx, `insert into client_note (studio_id, id, client_id, zone, side, stroke, body, author, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		t.studio, n.ID, client, n.Zone, n.Side, n.Stroke, n.Body, n.Author, account, n.At)
}

// RemoveClientNote takes a note away from a client's file.
func (t *Tx) RemoveClientNote(ctx context.Context, client, id uuid.UUID, at time.Time) error {
	return t.one(ctx, `update client_note set removed_at = $4
		where studio_id = $1 and client_id = $2 and id = $3 and removed_at is null`, t.studio, client, id, at)
}
