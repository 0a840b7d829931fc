package postgres

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// FindSignIn returns the account that signs in with an e-mail address.
func (db *DB) FindSignIn(ctx context.Context, email string) (studioID, account uuid.UUID, err error) {
	return db.credentials(ctx, "select studio_id, account_id from find_sign_in($1)", email)
}

// SessionOf returns the session that a token's hash belongs to, with its account and studio.
func (db *DB) SessionOf(ctx context.Context, tokenHash []byte) (*studio.Session, *studio.Account, *studio.Studio, error) {
	done, err := db.turn(ctx)
	if err != nil {
		return nil, nil, nil, err
	}
	defer done()
	var s studio.Session
	var a studio.Account
	st, into := newStudio()
	into = append(append([]any{
		&s.ID, &s.Account, &s.CSRF, &s.CreatedAt, &s.ExpiresAt, &s.Locked, &s.SeenAt, &s.Address, &s.Agent,
	}, intoAccount(&a)...), into...)
	err = db.pool.QueryRowxContext(ctx, `select (s).id, (s).account_id, (s).csrf, (s).created_at, (s).expires_at, (s).locked, (s).seen_at,
		(s).address, (s).agent, `+accountParts("(a).")+", "+studioColumns("(st).")+" from session_of($1)", tokenHash).Scan(into...)
	_, err = found(&s, err)
	return &s, &a, st, err
}

func (db *DB) credentials(ctx context.Context, query string, arg any) (a, b uuid.UUID, err error) {
	err = db.pool.QueryRowxContext(ctx, query, arg).Scan(&a, &b)
	if errors.Is(err, sql.ErrNoRows) {
		return a, b, studio.ErrNotFound
	}
	return a, b, translate(err)
}

// FindAccountLink returns the account whose password a token may choose, and until when.
func (db *DB) FindAccountLink(ctx context.Context, tokenHash []byte) (studioID, account uuid.UUID, until time.Time, err error) {
	err = db.pool.QueryRowxContext(ctx, "select studio_id, account_id, until from find_account_link($1)", tokenHash).
		Scan(&studioID, &account, &until)
	if errors.Is(err, sql.ErrNoRows) {
		return studioID, account, until, studio.ErrNotFound
	}
	return studioID, account, until, translate(err)
}

// AnyStudio reports whether there is a studio yet.
func (db *DB) AnyStudio(ctx context.Context) (any bool, err error) {
	err = db.pool.GetContext(ctx, &any, "select any_studio()")
	return any, translate(err)
}

// DemoSignIns lists the demo's accounts; none where no demo is loaded.
func (db *DB) DemoSignIns(ctx context.Context) ([]studio.DemoSignIn, error) {
	out := []studio.DemoSignIn{}
	err := db.pool.SelectContext(ctx, &out, "select email, password, role, name from demo_sign_ins()")
	return out, translate(err)
}

// TakeAttempt notes an attempt where allowed says so of the attempts since a time: how
// many, and when the last one was. Attempts of one subject are counted one after the
// other, so that forty at once count as forty.
func (db *DB) TakeAttempt(
	ctx context.Context,
	subject string,
	at, since time.Time,
	allowed func(n int, last time.Time) bool,
) (bool, error) {
	tx, err := db.pool.BeginTxx(ctx, nil)
	if err != nil {
		return false, translate(err)
	}
	defer func() { _ = tx.Rollback() }()
	if _, err := tx.ExecContext(ctx, "select pg_advisory_xact_lock(hashtextextended($1, 0))", subject); err != nil {
		return false, translate(err)
	}
	var n int
	var last sql.NullTime
	row := tx.QueryRowxContext(ctx, `select count(*), max(at) from sign_in_attempt
		where subject = $1 and at > $2 and at <= $3`, subject, since, at.Add(clockSlack))
	if err := row.Scan(&n, &last); err != nil {
		return false, translate(err)
	}
	// What was noted for a time to come was noted by a clock that was wrong: it shuts nobody out.
	if _, err := tx.ExecContext(ctx, "delete from sign_in_attempt where subject = $1 and at > $2", subject, at.Add(clockSlack)); err != nil {
		return false, translate(err)
	}
	if !allowed(n, last.Time) {
		return false, nil
	}
	if _, err := tx.ExecContext(ctx, "insert into sign_in_attempt (subject, at) values ($1, $2)", subject, at); err != nil {
		return false, translate(err)
	}
	return true, translate(tx.Commit())
}

// ReturnAttempt takes one attempt back that turned out to be right.
func (db *DB) ReturnAttempt(ctx context.Context, subject string, at time.Time) error {
	_, err := db.pool.ExecContext(ctx, `delete from sign_in_attempt where ctid = (
		select ctid from sign_in_attempt where subject = $1 and at = $2 limit 1)`, subject, at)
	return translate(err)
}

// ClearAttempts forgets attempts before a time, of one subject or (empty) of all.
func (db *DB) ClearAttempts(ctx context.Context, subject string, before time.Time) error {
	_, err := db.pool.ExecContext(ctx, "delete from sign_in_attempt where at < $2 and ($1 = '' or subject = $1)", subject, before)
	if err != nil {
		return fmt.Errorf("postgres: clearing attempts: %w", translate(err))
	}
	return nil
}

// clockSlack is how far the clocks of two machines may lie apart. What is later than that was
// written by a clock that was wrong.
const clockSlack = time.Minute
