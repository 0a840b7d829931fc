package postgres

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
)

// LockStudio returns the studio and holds it until the transaction ends.
func (t *Tx) LockStudio(ctx context.Context) (*studio.Studio, error) {
	if err := t.exec(ctx, "select id from studio where id = $1 for update", t.studio); err != nil {
		return nil, err
	}
	return t.Studio(ctx)
}

// Studio returns the studio of the transaction.
func (t *Tx) Studio(ctx context.Context) (*studio.Studio, error) {
	var s studio.Studio
	row := t.tx.QueryRowxContext(
		ctx,
		"select id, name, time_zone, currency, open_week, is_demo, coalesce(rule_pack, '{}') from studio where id = $1",
		t.studio,
	)
	if err := row.Scan(
		&s.ID,
		&s.Name,
		&s.TimeZone,
		&s.Currency,
		doc[series.Week]{&s.Open},
		&s.IsDemo,
		doc[studio.OwnRules]{&s.Own},
	); err != nil {
		if errors.Is(err, sql.ErrNoRows) {
			return nil, studio.ErrNotFound
		}
		return nil, err
	}
	return &s, nil
}

// AddStudio adds the studio of the transaction.
func (t *Tx) AddStudio(ctx context.Context, s *studio.Studio, at time.Time) error {
	return t.exec(ctx, `insert into studio (id, name, time_zone, currency, open_week, is_demo, created_at)
		values ($1, $2, $3, $4, $5, $6, $7)`, s.ID, s.Name, s.TimeZone, s.Currency, document(s.Open), s.IsDemo, at)
}

// Account returns an account.
func (t *Tx) Account(ctx context.Context, id uuid.UUID) (*studio.Account, error) {
	var a studio.Account
	err := t.tx.QueryRowxContext(ctx, `select id, email, name, role, password_hash, pin_hash, practitioner_id from account
		where studio_id = $1 and id = $2`, t.studio, id).
		Scan(&a.ID, &a.Email, &a.Name, &a.Role, &a.PasswordHash, &a.PINHash, &a.Practitioner)
	return found(&a, err)
}

// AddAccount adds an account and its way in.
func (t *Tx) AddAccount(ctx context.Context, a *studio.Account) error {
	if err := t.exec(ctx, `insert into account (studio_id, id, email, name, role, password_hash, practitioner_id)
		values ($1, $2, $3, $4, $5, $6, $7)`, t.studio, a.ID, a.Email, a.Name, a.Role, a.PasswordHash, a.Practitioner); err != nil {
		return err
	}
	return t.exec(ctx, "select register_sign_in($1, $2)", a.Email, a.ID)
}

// AddDemoSignIn names a demo account for the sign-in page.
func (t *Tx) AddDemoSignIn(ctx context.Context, d studio.DemoSignIn) error {
	return t.exec(
		ctx,
		"insert into demo_sign_in (studio_id, email, password, role, name) values ($1, $2, $3, $4, $5)",
		t.studio,
		d.Email,
		d.Password,
		d.Role,
		d.Name,
	)
}

// Practitioners lists practitioners by name.
func (t *Tx) Practitioners(ctx context.Context) ([]studio.Person, error) {
	return list(ctx, t, func(r *sqlx.Rows) (p studio.Person, err error) {
		err = r.Scan(&p.ID, &p.Key, &p.Name, doc[series.Week]{&p.Week})
		return p, err
	}, "select id, key, name, week from practitioner where studio_id = $1 order by name, id", t.studio)
}

// AddPractitioner adds a practitioner.
func (t *Tx) AddPractitioner(ctx context.Context, p *studio.Person) error {
	return t.exec(
		ctx,
		"insert into practitioner (studio_id, id, key, name, week) values ($1, $2, $3, $4, $5)",
		t.studio,
		p.ID,
		p.Key,
		p.Name,
		document(p.Week),
	)
}

// Rooms lists rooms by name.
func (t *Tx) Rooms(ctx context.Context) ([]studio.Room, error) {
	out := []studio.Room{}
	err := t.tx.SelectContext(ctx, &out, "select id, key, name from room where studio_id = $1 order by name, id", t.studio)
	return out, translate(err)
}

// AddRoom adds a room.
func (t *Tx) AddRoom(ctx context.Context, r *studio.Room) error {
	return t.exec(ctx, "insert into room (studio_id, id, key, name) values ($1, $2, $3, $4)", t.studio, r.ID, r.Key, r.Name)
}
