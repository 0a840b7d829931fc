package postgres

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// Session returns a session.
func (t *Tx) Session(ctx context.Context, id uuid.UUID) (*studio.Session, error) {
	var s studio.Session
	err := t.tx.QueryRowxContext(ctx, `select id, account_id, csrf, created_at, expires_at, locked
		from session where studio_id = $1 and id = $2`, t.studio, id).
		Scan(&s.ID, &s.Account, &s.CSRF, &s.CreatedAt, &s.ExpiresAt, &s.Locked)
	return found(&s, err)
}

// AddSession adds a session and the hash of its token.
func (t *Tx) AddSession(ctx context.Context, s *studio.Session, tokenHash []byte) error {
	if err := t.exec(ctx, "delete from session where studio_id = $1 and expires_at < $2", t.studio, s.CreatedAt); err != nil {
		return err
	}
	if err := t.exec(
		ctx,
		"insert into session (studio_id, id, account_id, csrf, created_at, expires_at) values ($1, $2, $3, $4, $5, $6)",
		t.studio,
		s.ID,
		s.Account,
		s.CSRF,
		s.CreatedAt,
		s.ExpiresAt,
	); err != nil {
		return err
	}
	return t.exec(ctx, "select register_session($1, $2)", tokenHash, s.ID)
}

// SavePIN writes an account's PIN.
func (t *Tx) SavePIN(ctx context.Context, account uuid.UUID, hash string) error {
	return t.one(ctx, "update account set pin_hash = $3 where studio_id = $1 and id = $2", t.studio, account, hash)
}

// LockSession locks a session to what a client may see, or unlocks it.
func (t *Tx) LockSession(ctx context.Context, id uuid.UUID, locked bool) error {
	return t.one(ctx, "update session set locked = $3 where studio_id = $1 and id = $2", t.studio, id, locked)
}

// DropSession ends a session.
func (t *Tx) DropSession(ctx context.Context, id uuid.UUID) error {
	return t.exec(ctx, "delete from session where studio_id = $1 and id = $2", t.studio, id)
}
