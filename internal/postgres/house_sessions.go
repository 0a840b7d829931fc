package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// Session returns a session.
func (t *Tx) Session(ctx context.Context, id uuid.UUID) (*studio.Session, error) {
	var s studio.Session
	err := t.row(ctx, `select id, account_id, csrf, created_at, expires_at, locked, seen_at, address, agent
		from session where studio_id = $1 and id = $2`, t.studio, id).
		Scan(&s.ID, &s.Account, &s.CSRF, &s.CreatedAt, &s.ExpiresAt, &s.Locked, &s.SeenAt, &s.Address, &s.Agent)
	return found(&s, err)
}

// AddSession adds a session and the hash of its token.
func (t *Tx) AddSession(ctx context.Context, s *studio.Session, tokenHash []byte) error {
	if err := t.exec(ctx, "delete from session where studio_id = $1 and expires_at < $2", t.studio, s.CreatedAt); err != nil {
		return err
	}
	if err := t.exec(
		ctx,
		`insert into session (studio_id, id, account_id, csrf, created_at, expires_at, seen_at, address, agent)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.studio,
		s.ID,
		s.Account,
		s.CSRF,
		s.CreatedAt,
		s.ExpiresAt,
		s.SeenAt,
		s.Address,
		s.Agent,
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

// SeeSession notes that a session is used.
func (t *Tx) SeeSession(ctx context.Context, id uuid.UUID, at time.Time) error {
	return t.exec(ctx, "update session set seen_at = $3 where studio_id = $1 and id = $2", t.studio, id, at)
}

// Sessions lists an account's sessions, the one used last first.
func (t *Tx) Sessions(ctx context.Context, account uuid.UUID) ([]studio.Session, error) {
	return list(ctx, t, func(r fields) (s studio.Session, err error) {
		err = r.Scan(&s.ID, &s.Account, &s.CreatedAt, &s.ExpiresAt, &s.Locked, &s.SeenAt, &s.Address, &s.Agent)
		return s, err
	}, `select id, account_id, created_at, expires_at, locked, seen_at, address, agent from session
		where studio_id = $1 and account_id = $2 order by seen_at desc, id desc`, t.studio, account)
}

// DropSessions ends an account's sessions but one.
func (t *Tx) DropSessions(ctx context.Context, account, but uuid.UUID) error {
	return t.exec(ctx, "delete from session where studio_id = $1 and account_id = $2 and id <> $3", t.studio, account, but)
}

// DropSession ends a session.
func (t *Tx) DropSession(ctx context.Context, id uuid.UUID) error {
	return t.exec(ctx, "delete from session where studio_id = $1 and id = $2", t.studio, id)
}
