package postgres

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jmoiron/sqlx"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
)

// Tx is one transaction in one studio. It serves the store of every room.
type Tx struct {
	tx     *sqlx.Tx
	studio uuid.UUID
}

var (
	_ studio.Tx       = (*Tx)(nil)
	_ checks.Store    = (*Tx)(nil)
	_ clients.Store   = (*Tx)(nil)
	_ diary.Store     = (*Tx)(nil)
	_ house.Store     = (*Tx)(nil)
	_ protocols.Store = (*Tx)(nil)
	_ shelf.Store     = (*Tx)(nil)
	_ treatment.Store = (*Tx)(nil)
)

func (t *Tx) exec(ctx context.Context, query string, args ...any) error {
	_, err := t.tx.ExecContext(ctx, query, args...)
	return translate(err)
}

// one changes exactly one row, or answers ErrNotFound.
func (t *Tx) one(ctx context.Context, query string, args ...any) error {
	res, err := t.tx.ExecContext(ctx, query, args...)
	if err != nil {
		return translate(err)
	}
	if n, err := res.RowsAffected(); err != nil || n != 1 {
		return studio.ErrNotFound
	}
	return nil
}

func (t *Tx) get(ctx context.Context, into any, query string, args ...any) error {
	err := t.tx.GetContext(ctx, into, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		return studio.ErrNotFound
	}
	return translate(err)
}

// list scans rows one by one through a function.
func list[T any](ctx context.Context, t *Tx, scan func(*sqlx.Rows) (T, error), query string, args ...any) ([]T, error) {
	rows, err := t.tx.QueryxContext(ctx, query, args...)
	if err != nil {
		return nil, translate(err)
	}
	defer rows.Close()
	out := []T{}
	for rows.Next() {
		v, err := scan(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, rows.Err()
}

// doc is a JSON document column.
type doc[T any] struct{ v *T }

func (d doc[T]) Scan(src any) error {
	switch b := src.(type) {
	case []byte:
		return json.Unmarshal(b, d.v)
	case string:
		return json.Unmarshal([]byte(b), d.v)
	}
	return fmt.Errorf("postgres: %T is not a document", src)
}

func document(v any) []byte {
	b, err := json.Marshal(v)
	if err != nil {
		panic("postgres: a document that cannot be written: " + err.Error())
	}
	return b
}

func day(s string) any {
	if s == "" {
		return nil
	}
	return s
}

func texts(s []string) any {
	if s == nil {
		s = []string{}
	}
	return pgtype.FlatArray[string](s)
}

// textList scans a text[] column.
type textList struct{ v *[]string }

func (l textList) Scan(src any) error {
	*l.v = []string{}
	s, ok := src.(string)
	if !ok {
		return fmt.Errorf("postgres: %T is not a list of texts", src)
	}
	return pgMap.SQLScanner(l.v).Scan(s)
}

var pgMap = pgtype.NewMap()

// Studio returns the studio of the transaction.
func (t *Tx) Studio(ctx context.Context) (*studio.Studio, error) {
	var s studio.Studio
	row := t.tx.QueryRowxContext(ctx, "select id, name, time_zone, currency, open_week, is_demo, coalesce(rule_pack, '{}') from studio where id = $1", t.studio)
	if err := row.Scan(&s.ID, &s.Name, &s.TimeZone, &s.Currency, doc[series.Week]{&s.Open}, &s.IsDemo, doc[studio.OwnRules]{&s.Own}); err != nil {
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
	err := t.tx.QueryRowxContext(ctx, "select id, email, name, role, password_hash, pin_hash, practitioner_id from account where studio_id = $1 and id = $2", t.studio, id).
		Scan(&a.ID, &a.Email, &a.Name, &a.Role, &a.PasswordHash, &a.PINHash, &a.Practitioner)
	return found(&a, err)
}

func found[T any](v *T, err error) (*T, error) {
	if errors.Is(err, sql.ErrNoRows) {
		return nil, studio.ErrNotFound
	}
	if err != nil {
		return nil, translate(err)
	}
	return v, nil
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
	return t.exec(ctx, "insert into demo_sign_in (studio_id, email, password, role, name) values ($1, $2, $3, $4, $5)", t.studio, d.Email, d.Password, d.Role, d.Name)
}

// Session returns a session.
func (t *Tx) Session(ctx context.Context, id uuid.UUID) (*studio.Session, error) {
	var s studio.Session
	err := t.tx.QueryRowxContext(ctx, "select id, account_id, csrf, created_at, expires_at, locked from session where studio_id = $1 and id = $2", t.studio, id).
		Scan(&s.ID, &s.Account, &s.CSRF, &s.CreatedAt, &s.ExpiresAt, &s.Locked)
	return found(&s, err)
}

// AddSession adds a session and the hash of its token.
func (t *Tx) AddSession(ctx context.Context, s *studio.Session, tokenHash []byte) error {
	if err := t.exec(ctx, "delete from session where studio_id = $1 and expires_at < $2", t.studio, s.CreatedAt); err != nil {
		return err
	}
	if err := t.exec(ctx, "insert into session (studio_id, id, account_id, csrf, created_at, expires_at) values ($1, $2, $3, $4, $5, $6)",
		t.studio, s.ID, s.Account, s.CSRF, s.CreatedAt, s.ExpiresAt); err != nil {
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

// Practitioners lists practitioners by name.
func (t *Tx) Practitioners(ctx context.Context) ([]studio.Person, error) {
	return list(ctx, t, func(r *sqlx.Rows) (p studio.Person, err error) {
		err = r.Scan(&p.ID, &p.Key, &p.Name, doc[series.Week]{&p.Week})
		return p, err
	}, "select id, key, name, week from practitioner where studio_id = $1 order by name, id", t.studio)
}

// AddPractitioner adds a practitioner.
func (t *Tx) AddPractitioner(ctx context.Context, p *studio.Person) error {
	return t.exec(ctx, "insert into practitioner (studio_id, id, key, name, week) values ($1, $2, $3, $4, $5)", t.studio, p.ID, p.Key, p.Name, document(p.Week))
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

// Clients lists clients by name after a cursor "name|id".
func (t *Tx) Clients(ctx context.Context, search, after string, limit int, now time.Time) ([]studio.ClientLine, error) {
	afterName, afterID := "", uuid.Nil
	if i := strings.LastIndexByte(after, '|'); i >= 0 {
		if id, err := uuid.Parse(after[i+1:]); err == nil {
			afterName, afterID = after[:i], id
		}
	}
	return list(ctx, t, func(r *sqlx.Rows) (c studio.ClientLine, err error) {
		err = r.Scan(&c.ID, &c.Name, &c.SkinType, textList{&c.States}, &c.Last, &c.Next, &c.Visits)
		return c, err
	}, `select c.id, c.name, c.skin_type, c.skin_states::text,
			(select max(v.starts_at) from visit v where v.studio_id = c.studio_id and v.client_id = c.id and v.state = 'done'),
			(select min(v.starts_at) from visit v where v.studio_id = c.studio_id and v.client_id = c.id and v.starts_at > $6 and v.state in ('booked', 'confirmed', 'arrived')),
			(select count(*) from visit v where v.studio_id = c.studio_id and v.client_id = c.id and v.state = 'done')
		from client c
		where c.erased_at is null and c.studio_id = $1
			and ($2 = '' or strpos(lower(c.name), lower($2)) > 0)
			and (lower(c.name), c.id) > ($3, $4)
		order by lower(c.name), c.id
		limit $5`, t.studio, search, afterName, afterID, limit, now)
}

const clientColumns = `select id, name, email, phone, coalesce(birth_date::text, ''), skin_type, skin_states::text, phototype, note, created_at
	from client where studio_id = $1`

func scanClient(r interface{ Scan(...any) error }) (c studio.Client, err error) {
	var phototype sql.NullInt64
	err = r.Scan(&c.ID, &c.Name, &c.Email, &c.Phone, &c.BirthDate, &c.SkinType, textList{&c.SkinStates}, &phototype, &c.Note, &c.CreatedAt)
	c.Phototype = int(phototype.Int64)
	return c, err
}

// Client returns a client.
func (t *Tx) Client(ctx context.Context, id uuid.UUID) (*studio.Client, error) {
	c, err := scanClient(t.tx.QueryRowxContext(ctx, clientColumns+" and id = $2", t.studio, id))
	return found(&c, err)
}

// AddClient adds a client.
func (t *Tx) AddClient(ctx context.Context, c *studio.Client) error {
	return t.exec(ctx, `insert into client (studio_id, id, name, email, phone, birth_date, skin_type, skin_states, phototype, note, created_at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		t.studio, c.ID, c.Name, c.Email, c.Phone, day(c.BirthDate), c.SkinType, texts(c.SkinStates), c.Phototype, c.Note, c.CreatedAt)
}

// UpdateClient writes a client's fields.
func (t *Tx) UpdateClient(ctx context.Context, c *studio.Client) error {
	return t.one(ctx, `update client set name = $3, email = $4, phone = $5, birth_date = $6, skin_type = $7, skin_states = $8, phototype = $9, note = $10
		where studio_id = $1 and id = $2`,
		t.studio, c.ID, c.Name, c.Email, c.Phone, day(c.BirthDate), c.SkinType, texts(c.SkinStates), c.Phototype, c.Note)
}

// Strokes lists the library by key.
func (t *Tx) Strokes(ctx context.Context) ([]stroke.Stroke, error) {
	return list(ctx, t, func(r *sqlx.Rows) (s stroke.Stroke, err error) {
		err = r.Scan(doc[stroke.Stroke]{&s})
		return s, err
	}, "select body from stroke where studio_id = $1 order by key", t.studio)
}

// AddStroke adds a stroke.
func (t *Tx) AddStroke(ctx context.Context, s *stroke.Stroke) error {
	return t.exec(ctx, "insert into stroke (studio_id, key, body) values ($1, $2, $3)", t.studio, s.Key, document(s))
}

// SaveStroke writes a stroke over one of the same key.
func (t *Tx) SaveStroke(ctx context.Context, s *stroke.Stroke) error {
	return t.exec(ctx, `insert into stroke (studio_id, key, body) values ($1, $2, $3)
		on conflict (studio_id, key) do update set body = excluded.body`, t.studio, s.Key, document(s))
}

// DropStroke removes a stroke of the studio's own.
func (t *Tx) DropStroke(ctx context.Context, key string) error {
	return t.one(ctx, "delete from stroke where studio_id = $1 and key = $2", t.studio, key)
}

// StrokeUsers names the protocols that use a stroke, by name.
func (t *Tx) StrokeUsers(ctx context.Context, key string) ([]string, error) {
	return list(ctx, t, func(r *sqlx.Rows) (name string, err error) {
		err = r.Scan(&name)
		return name, err
	}, `with uses as (select jsonb_build_array(jsonb_build_object('stroke', $2::text)) as steps)
		select d.body ->> 'name' from protocol_draft d, uses
		where d.studio_id = $1 and d.body -> 'steps' @> uses.steps
		union
		select v.body ->> 'name' from protocol_version v, uses
		where v.studio_id = $1 and v.body -> 'steps' @> uses.steps
			and (not exists (select 1 from protocol_version n where n.studio_id = v.studio_id and n.protocol_id = v.protocol_id and n.number > v.number)
				or exists (select 1 from visit b where b.studio_id = v.studio_id and b.protocol_id = v.protocol_id and b.protocol_version = v.number
					and b.state in ('booked', 'confirmed', 'arrived', 'in-room')))
		order by 1`, t.studio, key)
}

// Tools lists tools by key.
func (t *Tx) Tools(ctx context.Context) ([]protocol.Tool, error) {
	return list(ctx, t, func(r *sqlx.Rows) (v protocol.Tool, err error) {
		err = r.Scan(doc[protocol.Tool]{&v})
		return v, err
	}, "select body from tool where studio_id = $1 order by key", t.studio)
}

// AddTool adds a tool.
func (t *Tx) AddTool(ctx context.Context, v *protocol.Tool) error {
	return t.exec(ctx, "insert into tool (studio_id, key, body) values ($1, $2, $3)", t.studio, v.Key, document(v))
}

// AddAudit adds a line to the audit log.
func (t *Tx) AddAudit(ctx context.Context, a studio.Audit) error {
	return t.exec(ctx, "insert into audit (studio_id, id, account_id, at, action, subject, subject_id) values ($1, $2, $3, $4, $5, $6, $7)",
		t.studio, a.ID, a.Account, a.At, a.Action, a.Subject, a.SubjectID)
}
