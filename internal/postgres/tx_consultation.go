package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/studio"
)

// FindConsultation returns the consultation that a private link's token opens.
func (db *DB) FindConsultation(ctx context.Context, tokenHash []byte) (studioID, consultation uuid.UUID, err error) {
	return db.wayIn(ctx, "select studio_id, consultation_id from find_consultation($1)", tokenHash)
}

const consultationColumns = `select id, client_id, answers, about, pack_version, created_at, link_until, sent_at, reviewed_at, reviewed_by, coalesce(day::text, '')
	from consultation where studio_id = $1`

func scanConsultation(r interface{ Scan(...any) error }) (c studio.Consultation, err error) {
	err = r.Scan(&c.ID, &c.Client, doc[map[string]contraindication.Answer]{&c.Answers}, doc[studio.ClientHistory]{&c.History}, &c.PackVersion, &c.CreatedAt, &c.LinkUntil, &c.SentAt, &c.ReviewedAt, &c.ReviewedBy, &c.Day)
	return c, err
}

// Consultations lists a client's consultations, those reviewed last first, then
// those not reviewed yet, newest first.
func (t *Tx) Consultations(ctx context.Context, client uuid.UUID) ([]studio.Consultation, error) {
	return list(ctx, t, func(r *sqlx.Rows) (studio.Consultation, error) { return scanConsultation(r) },
		consultationColumns+" and client_id = $2 order by reviewed_at desc nulls last, created_at desc, id desc", t.studio, client)
}

// Consultation returns a consultation.
func (t *Tx) Consultation(ctx context.Context, id uuid.UUID) (*studio.Consultation, error) {
	c, err := scanConsultation(t.tx.QueryRowxContext(ctx, consultationColumns+" and id = $2 for update", t.studio, id))
	return found(&c, err)
}

// AddConsultation adds a consultation.
func (t *Tx) AddConsultation(ctx context.Context, c *studio.Consultation) error {
	return t.exec(ctx, `insert into consultation (studio_id, id, client_id, answers, pack_version, created_at, link_until, sent_at, reviewed_at, reviewed_by, day, about)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, nullif($11, '')::date, $12)`,
		t.studio, c.ID, c.Client, document(c.Answers), c.PackVersion, c.CreatedAt, c.LinkUntil, c.SentAt, c.ReviewedAt, c.ReviewedBy, c.Day, document(c.History))
}

// SaveConsultation changes one that is not reviewed yet.
func (t *Tx) SaveConsultation(ctx context.Context, c *studio.Consultation) error {
	return t.one(ctx, `update consultation set answers = $3, pack_version = $4, sent_at = $5, reviewed_at = $6, reviewed_by = $7, day = nullif($8, '')::date, about = $9
		where studio_id = $1 and id = $2`, t.studio, c.ID, document(c.Answers), c.PackVersion, c.SentAt, c.ReviewedAt, c.ReviewedBy, c.Day, document(c.History))
}

// RegisterLink makes a token open a consultation.
func (t *Tx) RegisterLink(ctx context.Context, tokenHash []byte, consultation uuid.UUID) error {
	return t.exec(ctx, "select register_consultation($1, $2)", tokenHash, consultation)
}

const letterColumns = `select id, client_id, visit_id, rules, protocol_name, question, written_at, written_by, answer, note, coalesce(valid_until::text, ''), answered_at,
		coalesce((select jsonb_agg(jsonb_build_object('id', s.id, 'type', s.type, 'at', s.added_at) order by s.added_at, s.id) from letter_scan s where s.studio_id = letter.studio_id and s.letter_id = letter.id), '[]')
	from letter where studio_id = $1`

func scanLetter(r interface{ Scan(...any) error }) (l studio.Letter, err error) {
	err = r.Scan(&l.ID, &l.Client, &l.Visit, doc[[]string]{&l.Rules}, &l.Protocol, &l.Question, &l.WrittenAt, &l.WrittenBy, &l.Answer, &l.Note, &l.Until, &l.AnsweredAt, doc[[]studio.Scan]{&l.Scans})
	return l, err
}

// Letters lists the letters about a client, newest first.
func (t *Tx) Letters(ctx context.Context, client uuid.UUID) ([]studio.Letter, error) {
	return list(ctx, t, func(r *sqlx.Rows) (studio.Letter, error) { return scanLetter(r) },
		letterColumns+" and client_id = $2 order by written_at desc, id desc", t.studio, client)
}

// Letter returns a letter.
func (t *Tx) Letter(ctx context.Context, id uuid.UUID) (*studio.Letter, error) {
	l, err := scanLetter(t.tx.QueryRowxContext(ctx, letterColumns+" and id = $2", t.studio, id))
	return found(&l, err)
}

// AddLetter adds a letter.
func (t *Tx) AddLetter(ctx context.Context, l *studio.Letter) error {
	return t.exec(ctx, `insert into letter (studio_id, id, client_id, visit_id, rules, protocol_name, question, written_at, written_by)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`, t.studio, l.ID, l.Client, l.Visit, document(l.Rules), l.Protocol, l.Question, l.WrittenAt, l.WrittenBy)
}

// AnswerLetter records a letter's answer; it never changes again.
func (t *Tx) AnswerLetter(ctx context.Context, l *studio.Letter) error {
	return t.one(ctx, "update letter set answer = $3, note = $4, valid_until = nullif($5, '')::date, answered_at = $6 where studio_id = $1 and id = $2",
		t.studio, l.ID, l.Answer, l.Note, l.Until, l.AnsweredAt)
}

// AddScan keeps a doctor's answer as it came; it never changes again.
func (t *Tx) AddScan(ctx context.Context, letter uuid.UUID, s *studio.Scan, data []byte, account uuid.UUID) error {
	return t.exec(ctx, "insert into letter_scan (studio_id, id, letter_id, type, data, added_at, account_id) values ($1, $2, $3, $4, $5, $6, $7)",
		t.studio, s.ID, letter, s.Type, data, s.At, account)
}

// Scan returns a scan and the client whose letter it answers.
func (t *Tx) Scan(ctx context.Context, id uuid.UUID) (kind string, data []byte, client uuid.UUID, err error) {
	err = t.tx.QueryRowxContext(ctx, `select s.type, s.data, l.client_id from letter_scan s
		join letter l on l.studio_id = s.studio_id and l.id = s.letter_id where s.studio_id = $1 and s.id = $2`, t.studio, id).Scan(&kind, &data, &client)
	_, err = found(&kind, err)
	return kind, data, client, err
}

// PatchTests lists a client's patch tests with their readings, newest first.
func (t *Tx) PatchTests(ctx context.Context, client uuid.UUID) ([]studio.PatchTest, error) {
	return list(ctx, t, func(r *sqlx.Rows) (studio.PatchTest, error) { return scanPatchTest(r) },
		patchColumns+" and p.client_id = $2 order by p.applied_at desc, p.id desc", t.studio, client)
}

const patchColumns = `select p.id, p.client_id, p.visit_id, d.key, d.name, p.lot_number, p.place, p.applied_at, p.months, p.note,
		coalesce((select jsonb_agg(jsonb_build_object('hours', r.hours, 'grade', r.grade, 'at', r.at) order by r.hours) from patch_reading r where r.studio_id = p.studio_id and r.patch_id = p.id), '[]')
	from patch_test p join product d on d.studio_id = p.studio_id and d.id = p.product_id
	where p.studio_id = $1`

func scanPatchTest(r interface{ Scan(...any) error }) (p studio.PatchTest, err error) {
	err = r.Scan(&p.ID, &p.Client, &p.Visit, &p.Product, &p.Name, &p.Lot, &p.Place, &p.Applied, &p.Months, &p.Note, doc[[]patch.Reading]{&p.Readings})
	return p, err
}

// PatchTest returns a patch test.
func (t *Tx) PatchTest(ctx context.Context, id uuid.UUID) (*studio.PatchTest, error) {
	p, err := scanPatchTest(t.tx.QueryRowxContext(ctx, patchColumns+" and p.id = $2", t.studio, id))
	return found(&p, err)
}

// AddPatchTest adds a patch test; it never changes again.
func (t *Tx) AddPatchTest(ctx context.Context, p *studio.PatchTest, product, account uuid.UUID) error {
	return t.exec(ctx, `insert into patch_test (studio_id, id, client_id, visit_id, product_id, lot_number, place, applied_at, months, note, account_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`, t.studio, p.ID, p.Client, p.Visit, product, p.Lot, p.Place, p.Applied, p.Months, p.Note, account)
}

// AddReading adds a reading of a patch test; a second one for the same hour
// answers ErrExists.
func (t *Tx) AddReading(ctx context.Context, patch uuid.UUID, r patch.Reading, account uuid.UUID) error {
	return t.exec(ctx, "insert into patch_reading (studio_id, patch_id, hours, grade, at, account_id) values ($1, $2, $3, $4, $5, $6)",
		t.studio, patch, r.Hours, r.Grade, r.At, account)
}

// AuditLog lists the newest lines of the audit log before a moment.
func (t *Tx) AuditLog(ctx context.Context, before time.Time, limit int) ([]studio.AuditLine, error) {
	return list(ctx, t, func(r *sqlx.Rows) (l studio.AuditLine, err error) {
		err = r.Scan(&l.At, &l.Account, &l.Action, &l.Subject, &l.Client)
		return l, err
	}, `select a.at, coalesce(k.name, ''), a.action, a.subject, coalesce(c.name, vc.name, '')
		from audit a
		left join account k on k.studio_id = a.studio_id and k.id = a.account_id
		left join client c on c.studio_id = a.studio_id and c.id = a.subject_id
		left join visit v on v.studio_id = a.studio_id and v.id = a.subject_id
		left join client vc on vc.studio_id = a.studio_id and vc.id = v.client_id
		where a.studio_id = $1 and a.at < $2 order by a.at desc, a.id desc limit $3`, t.studio, before, limit)
}

// MoveVisit changes when, with whom, where and of what protocol a visit is; an overlap answers a
// *studio.TakenError.
func (t *Tx) MoveVisit(ctx context.Context, v *studio.Visit) error {
	return t.one(ctx, "update visit set practitioner_id = $3, room_id = $4, starts_at = $5, ends_at = $6, busy_until = $7, state = $8, protocol_id = $9, protocol_version = nullif($10, 0) where studio_id = $1 and id = $2",
		t.studio, v.ID, v.Practitioner, v.Room, v.StartsAt, v.EndsAt, v.BusyUntil, v.State, of(v.Protocol), v.Version)
}

// Consents lists a client's consents, newest first.
func (t *Tx) Consents(ctx context.Context, client uuid.UUID) ([]studio.Consent, error) {
	return list(ctx, t, func(r *sqlx.Rows) (c studio.Consent, err error) {
		err = r.Scan(&c.ID, &c.Client, &c.Kind, &c.Version, &c.Body, &c.Signer, &c.Guardian, doc[[][]int]{&c.Signature}, &c.SignedAt, &c.Account, &c.WithdrawnAt)
		return c, err
	}, `select id, client_id, kind, version, body, signer, guardian, signature, signed_at, account_id, withdrawn_at
		from consent where studio_id = $1 and client_id = $2 order by signed_at desc, id desc`, t.studio, client)
}

// AddConsent adds a consent.
func (t *Tx) AddConsent(ctx context.Context, c *studio.Consent) error {
	return t.exec(ctx, `insert into consent (studio_id, id, client_id, kind, version, body, signer, guardian, signature, signed_at, account_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		t.studio, c.ID, c.Client, c.Kind, c.Version, c.Body, c.Signer, c.Guardian, document(c.Signature), c.SignedAt, c.Account)
}

// WithdrawConsent ends a consent and returns whose it was.
func (t *Tx) WithdrawConsent(ctx context.Context, id uuid.UUID, at time.Time) (client uuid.UUID, err error) {
	err = t.get(ctx, &client, "update consent set withdrawn_at = $3 where studio_id = $1 and id = $2 and withdrawn_at is null returning client_id", t.studio, id, at)
	return client, err
}

// EraseClient removes who a client is and all health data; the client is not
// listed any more.
func (t *Tx) EraseClient(ctx context.Context, id uuid.UUID, at time.Time) error {
	return t.exec(ctx, "select erase_client($1, $2)", id, at)
}

// SaveOwnRules keeps the studio's own days.
func (t *Tx) SaveOwnRules(ctx context.Context, own studio.OwnRules) error {
	return t.one(ctx, "update studio set rule_pack = $2 where id = $1", t.studio, document(own))
}
