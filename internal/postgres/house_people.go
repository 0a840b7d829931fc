package postgres

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

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

// studioColumns are those of a studio, each after a prefix.
func studioColumns(of string) string {
	return strings.ReplaceAll(`%id, %name, %time_zone, %currency, %open_week, %is_demo, coalesce(%rule_pack, '{}'), %owners_need_factor, %address,
		%revision, %closures, %texts, %keep_years, %keep_minors_to, %tax, %diary, %costs, %books, %changes`, "%", of)
}

// newStudio is a studio to be read, and where its columns go.
func newStudio() (*studio.Studio, []any) {
	s := &studio.Studio{Diary: studio.UsualDiaryRules(), Books: studio.UsualBookRules()}
	return s, []any{
		&s.ID, &s.Name, &s.TimeZone, &s.Currency, doc[series.Week]{&s.Open}, &s.IsDemo, doc[studio.OwnRules]{&s.Own}, &s.OwnersNeedFactor,
		&s.Address, &s.Revision, doc[[]series.Closure]{&s.Closures}, doc[studio.OwnTexts]{&s.Texts}, &s.Retention.KeepYears,
		&s.Retention.KeepMinorsTo, doc[studio.Tax]{&s.Tax}, doc[studio.DiaryRules]{&s.Diary}, doc[studio.Costs]{&s.Costs},
		doc[studio.BookRules]{&s.Books}, &s.Changes,
	}
}

// Studio returns the studio of the transaction.
func (t *Tx) Studio(ctx context.Context) (*studio.Studio, error) {
	s, into := newStudio()
	err := t.row(ctx, "select "+studioColumns("")+" from studio where id = $1", t.studio).Scan(into...)
	return found(s, err)
}

// AddStudio adds the studio of the transaction.
func (t *Tx) AddStudio(ctx context.Context, s *studio.Studio, at time.Time) error {
	return t.exec(ctx, `insert into studio (id, name, time_zone, currency, open_week, is_demo, created_at, address, tax, closures, costs)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		s.ID, s.Name, s.TimeZone, s.Currency, document(s.Open), s.IsDemo, at, s.Address, document(s.Tax), document(orEmpty(s.Closures)),
		document(s.Costs))
}

// SaveSettings writes the studio's settings as the next revision.
func (t *Tx) SaveSettings(ctx context.Context, s *studio.Studio) error {
	return t.one(ctx, `update studio set name = $2, time_zone = $3, currency = $4, open_week = $5, owners_need_factor = $6,
			address = $7, closures = $8, texts = $9, keep_years = $10, keep_minors_to = $11, tax = $12, diary = $13, costs = $14, books = $15, revision = revision + 1
		where id = $1`,
		t.studio, s.Name, s.TimeZone, s.Currency, document(s.Open), s.OwnersNeedFactor, s.Address, document(orEmpty(s.Closures)),
		document(s.Texts), s.Retention.KeepYears, s.Retention.KeepMinorsTo, document(s.Tax), document(s.Diary), document(s.Costs),
		document(s.Books))
}

// FirstStudio reports whether there is a studio already, and lets nobody else make one
// until the transaction ends.
func (t *Tx) FirstStudio(ctx context.Context) (any bool, err error) {
	if err := t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('the first studio', 0))"); err != nil {
		return false, err
	}
	err = t.get(ctx, &any, "select any_studio()")
	return any, err
}

// Account returns an account.
func (t *Tx) Account(ctx context.Context, id uuid.UUID) (*studio.Account, error) {
	a, err := scanAccount(t.row(ctx, accountColumns+" and id = $2", t.studio, id))
	return found(&a, err)
}

// LockAccount returns an account and holds it until the transaction ends.
func (t *Tx) LockAccount(ctx context.Context, id uuid.UUID) (*studio.Account, error) {
	a, err := scanAccount(t.row(ctx, accountColumns+" and id = $2 for update", t.studio, id))
	return found(&a, err)
}

// Accounts lists the accounts by name.
func (t *Tx) Accounts(ctx context.Context) ([]studio.Account, error) {
	return list(ctx, t, scanAccount,
		accountColumns+" order by lower(name), id", t.studio)
}

var accountColumns = "select " + accountParts("") + " from account where studio_id = $1"

// accountParts are the columns of an account, each after a prefix.
func accountParts(of string) string {
	return strings.ReplaceAll(`%id, %email, %name, %role, %password_hash, %pin_hash, %practitioner_id, %revision, %closed_at,
	%factor_secret, %factor_step, %recovery_hashes::text`, "%", of)
}

// intoAccount is where the columns of an account go.
func intoAccount(a *studio.Account) []any {
	return []any{
		&a.ID, &a.Email, &a.Name, &a.Role, &a.PasswordHash, &a.PINHash, &a.Practitioner, &a.Revision, &a.ClosedAt,
		&a.FactorSecret, &a.FactorStep, textList{&a.RecoveryHashes},
	}
}

func scanAccount(r fields) (a studio.Account, err error) {
	err = r.Scan(intoAccount(&a)...)
	return a, err
}

// SaveAccount writes all of an account but its address, as its next revision.
func (t *Tx) SaveAccount(ctx context.Context, a *studio.Account) error {
	return t.one(ctx, `update account set name = $3, role = $4, password_hash = $5, practitioner_id = $6, closed_at = $7,
			factor_secret = $8, factor_step = $9, recovery_hashes = $10, revision = revision + 1
		where studio_id = $1 and id = $2`,
		t.studio, a.ID, a.Name, a.Role, a.PasswordHash, a.Practitioner, a.ClosedAt,
		a.FactorSecret, a.FactorStep, texts(a.RecoveryHashes))
}

// RegisterAccountLink makes a token the one with which an account's password is chosen.
func (t *Tx) RegisterAccountLink(ctx context.Context, tokenHash []byte, account uuid.UUID, until time.Time) error {
	if err := t.DropAccountLinks(ctx, account); err != nil {
		return err
	}
	return t.exec(ctx, "select register_account_link($1, $2, $3)", tokenHash, account, until)
}

// DropAccountLinks ends the links with which an account's password could be chosen.
func (t *Tx) DropAccountLinks(ctx context.Context, account uuid.UUID) error {
	return t.exec(ctx, "select drop_account_links($1)", account)
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
	return keptList(ctx, t, "practitioners", studio.InCatalog, func() ([]studio.Person, error) {
		return list(ctx, t, func(r fields) (p studio.Person, err error) {
			err = r.Scan(&p.ID, &p.Key, &p.Name, doc[series.Week]{&p.Week}, &p.Mark, textList{&p.Skills}, doc[[]studio.Licence]{&p.Licences})
			return p, err
		}, `select id, key, name, week, mark, skills::text, licences from practitioner
			where studio_id = $1 and left_at is null order by name, id`, t.studio)
	})
}

// SavePractitioner writes what is known of a practitioner.
func (t *Tx) SavePractitioner(ctx context.Context, p *studio.Person) error {
	return t.one(ctx, `update practitioner set name = $3, week = $4, mark = $5, skills = $6, licences = $7
		where studio_id = $1 and id = $2`,
		t.studio, p.ID, p.Name, document(p.Week), p.Mark, texts(p.Skills), document(orEmpty(p.Licences)))
}

// LeavePractitioner notes when a practitioner left, nil where they are back. The name
// stays on records.
func (t *Tx) LeavePractitioner(ctx context.Context, id uuid.UUID, at *time.Time) error {
	return t.one(ctx, "update practitioner set left_at = $3 where studio_id = $1 and id = $2", t.studio, id, at)
}

// ComingVisits counts a practitioner's appointments still to come.
func (t *Tx) ComingVisits(ctx context.Context, practitioner uuid.UUID, now time.Time) (n int, err error) {
	err = t.get(ctx, &n, `select count(*) from visit where studio_id = $1 and practitioner_id = $2 and ends_at > $3
		and state in ('booked', 'confirmed', 'arrived', 'in-room')`, t.studio, practitioner, now)
	return n, err
}

// InTreatment reports whether a practitioner has a client in the room.
func (t *Tx) InTreatment(ctx context.Context, practitioner uuid.UUID, since time.Time) (is bool, err error) {
	err = t.get(ctx, &is, `select exists (select 1 from visit v join treatment x on x.studio_id = v.studio_id and x.visit_id = v.id
		where v.studio_id = $1 and v.practitioner_id = $2 and v.state = 'in-room' and x.started_at > $3)`, t.studio, practitioner, since)
	return is, err
}

// AddPractitioner adds a practitioner.
func (t *Tx) AddPractitioner(ctx context.Context, p *studio.Person) error {
	return t.exec(
		ctx,
		`insert into practitioner (studio_id, id, key, name, week, mark, skills, licences)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`,
		t.studio,
		p.ID,
		p.Key,
		p.Name,
		document(p.Week),
		p.Mark,
		texts(p.Skills),
		document(orEmpty(p.Licences)),
	)
}

// Rooms lists rooms by name.
func (t *Tx) Rooms(ctx context.Context) ([]studio.Room, error) {
	return keptList(ctx, t, "rooms", studio.InCatalog, func() ([]studio.Room, error) {
		return list(ctx, t, func(r fields) (o studio.Room, err error) {
			err = r.Scan(&o.ID, &o.Key, &o.Name, textList{&o.Equipment}, &o.Places)
			return o, err
		}, "select id, key, name, equipment::text, places from room where studio_id = $1 order by name, id", t.studio)
	})
}

// SaveRoom writes what a room is called, what it has and how many it holds.
func (t *Tx) SaveRoom(ctx context.Context, r *studio.Room) error {
	return t.one(ctx, "update room set name = $3, equipment = $4, places = $5 where studio_id = $1 and id = $2",
		t.studio, r.ID, r.Name, texts(r.Equipment), r.Places)
}

// AddRoom adds a room.
func (t *Tx) AddRoom(ctx context.Context, r *studio.Room) error {
	return t.exec(ctx, "insert into room (studio_id, id, key, name, equipment, places) values ($1, $2, $3, $4, $5, $6)",
		t.studio, r.ID, r.Key, r.Name, texts(r.Equipment), max(r.Places, 1))
}
