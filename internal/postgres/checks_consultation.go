package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// FindConsultation returns the consultation that a private link's token opens.
func (db *DB) FindConsultation(ctx context.Context, tokenHash []byte) (studioID, consultation uuid.UUID, err error) {
	return db.credentials(ctx, "select studio_id, consultation_id from find_consultation($1)", tokenHash)
}

const consultationColumns = `select id, client_id, answers, history, pack_version, created_at, link_until, sent_at, reviewed_at,
	reviewed_by, coalesce(day::text, ''), session_id
	from consultation where studio_id = $1`

func scanConsultation(r fields) (c studio.Consultation, err error) {
	err = r.Scan(
		&c.ID,
		&c.Client,
		doc[map[string]contraindication.Answer]{&c.Answers},
		doc[studio.ClientHistory]{&c.History},
		&c.PackVersion,
		&c.CreatedAt,
		&c.LinkUntil,
		&c.SentAt,
		&c.ReviewedAt,
		&c.ReviewedBy,
		&c.Day,
		&c.Session,
	)
	return c, err
}

// Consultations lists a client's consultations, those reviewed last first, then
// those not reviewed yet, newest first.
func (t *Tx) Consultations(ctx context.Context, client uuid.UUID) ([]studio.Consultation, error) {
	return list(
		ctx,
		t,
		scanConsultation,
		consultationColumns+" and client_id = $2 order by reviewed_at desc nulls last, created_at desc, id desc",
		t.studio,
		client,
	)
}

// OpenConsultations lists a client's consultations that wait for something at a moment, and the one
// that was reviewed last, which comes first.
func (t *Tx) OpenConsultations(ctx context.Context, client uuid.UUID, now time.Time) ([]studio.Consultation, error) {
	return list(
		ctx,
		t,
		scanConsultation,
		consultationColumns+` and client_id = $2 and (reviewed_at is null and (sent_at is not null or link_until > $3)
				or id = (select l.id from consultation l where l.studio_id = $1 and l.client_id = $2 and l.reviewed_at is not null
					order by l.reviewed_at desc, l.created_at desc, l.id desc limit 1))
			order by reviewed_at desc nulls last, created_at desc, id desc`,
		t.studio,
		client,
		now,
	)
}

// Consultation returns a consultation.
func (t *Tx) Consultation(ctx context.Context, id uuid.UUID) (*studio.Consultation, error) {
	c, err := scanConsultation(t.row(ctx, consultationColumns+" and id = $2 for update", t.studio, id))
	return found(&c, err)
}

// AddConsultation adds a consultation.
func (t *Tx) AddConsultation(ctx context.Context, c *studio.Consultation) error {
	return t.exec(
		ctx,
		`insert into consultation (studio_id, id, client_id, answers, pack_version, created_at, link_until,
			sent_at, reviewed_at, reviewed_by, day, history, session_id, visit_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, nullif($11, '')::date, $12, $13, $14)`,
		t.studio,
		c.ID,
		c.Client,
		document(c.Answers),
		c.PackVersion,
		c.CreatedAt,
		c.LinkUntil,
		c.SentAt,
		c.ReviewedAt,
		c.ReviewedBy,
		c.Day,
		document(c.History),
		c.Session,
		c.Visit,
	)
}

// SaveConsultation changes one that is not reviewed yet.
func (t *Tx) SaveConsultation(ctx context.Context, c *studio.Consultation) error {
	return t.one(
		ctx,
		`update consultation set answers = $3, pack_version = $4, sent_at = $5, reviewed_at = $6,
			reviewed_by = $7, day = nullif($8, '')::date, history = $9
		where studio_id = $1 and id = $2`,
		t.studio,
		c.ID,
		document(c.Answers),
		c.PackVersion,
		c.SentAt,
		c.ReviewedAt,
		c.ReviewedBy,
		c.Day,
		document(c.History),
	)
}

// MoveLinks lets the private links that open until an appointment end at another moment, and
// the messages that carry them.
func (t *Tx) MoveLinks(ctx context.Context, visit uuid.UUID, until, now time.Time) error {
	if err := t.exec(ctx, `update message m set until = $3 from consultation k where k.studio_id = $1 and k.visit_id = $2
		and k.sent_at is null and k.reviewed_at is null and k.link_until > $4 and m.studio_id = k.studio_id
		and m.client_id = k.client_id and m.kind = 'consultation' and m.until = k.link_until`, t.studio, visit, until, now); err != nil {
		return err
	}
	return t.exec(ctx, `update consultation set link_until = $3 where studio_id = $1 and visit_id = $2
		and sent_at is null and reviewed_at is null and link_until > $4`, t.studio, visit, until, now)
}

// EndLinks ends the private links of a client through which nothing was sent in, and the
// messages that carry them.
func (t *Tx) EndLinks(ctx context.Context, client uuid.UUID, at time.Time) error {
	if err := t.exec(ctx, `update consultation set link_until = $3 where studio_id = $1 and client_id = $2
		and sent_at is null and reviewed_at is null and link_until > $3`, t.studio, client, at); err != nil {
		return err
	}
	return t.exec(ctx, "update message set until = $3 where studio_id = $1 and client_id = $2 and kind = 'consultation' and until > $3",
		t.studio, client, at)
}

// EndSessionLinks ends the private links that opened in one session only.
func (t *Tx) EndSessionLinks(ctx context.Context, session uuid.UUID, at time.Time) error {
	return t.exec(ctx, `update consultation set link_until = $3 where studio_id = $1 and session_id = $2
		and reviewed_at is null and link_until > $3`, t.studio, session, at)
}

// RegisterLink makes a token open a consultation.
func (t *Tx) RegisterLink(ctx context.Context, tokenHash []byte, consultation uuid.UUID) error {
	return t.exec(ctx, "select register_consultation($1, $2)", tokenHash, consultation)
}

const preCheckColumns = `select id, client_id, visit_id, day::text, answers, history, result, pack_version, account_id, at, together
	from pre_check where studio_id = $1`

func scanPreCheck(r fields) (s studio.PreCheck, err error) {
	err = r.Scan(
		&s.ID,
		&s.Client,
		&s.Visit,
		&s.Day,
		doc[map[string]contraindication.Answer]{&s.Answers},
		doc[studio.ClientHistory]{&s.History},
		doc[contraindication.Result]{&s.Result},
		&s.PackVersion,
		&s.Account,
		&s.At,
		doc[[]string]{&s.Together},
	)
	return s, err
}

// CheckLines lists what came of a client's pre-treatment checks, newest first.
func (t *Tx) CheckLines(ctx context.Context, client uuid.UUID, after *uuid.UUID, most int) ([]studio.CheckLine, error) {
	return list(ctx, t, func(r fields) (studio.CheckLine, error) {
		var id uuid.UUID
		var day string
		var result contraindication.Result
		err := r.Scan(&id, &day, doc[contraindication.Result]{&result})
		return studio.NewCheckLine(id, day, result), err
	}, `select id, day::text, result from pre_check where studio_id = $1 and client_id = $2
			and ($3::uuid is null or (at, id) < (select p.at, p.id from pre_check p where p.studio_id = $1 and p.id = $3))
		order by at desc, id desc limit nullif($4::int, 0)`, t.studio, client, after, most)
}

// PreCheckOn returns a client's newest pre-treatment check of a day.
func (t *Tx) PreCheckOn(ctx context.Context, client uuid.UUID, day string) (*studio.PreCheck, error) {
	return t.preCheck(ctx, " and client_id = $2 and day = $3 order by at desc, id desc limit 1", client, day)
}

// PreCheck returns a pre-treatment check.
func (t *Tx) PreCheck(ctx context.Context, id uuid.UUID) (*studio.PreCheck, error) {
	return t.preCheck(ctx, " and id = $2", id)
}

func (t *Tx) preCheck(ctx context.Context, which string, args ...any) (*studio.PreCheck, error) {
	list, err := list(ctx, t, scanPreCheck, preCheckColumns+which, append([]any{t.studio}, args...)...)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 {
		return nil, studio.ErrNotFound
	}
	return &list[0], nil
}

// PreChecks lists a client's pre-treatment checks, newest first.
func (t *Tx) PreChecks(ctx context.Context, client uuid.UUID) ([]studio.PreCheck, error) {
	return list(ctx, t, scanPreCheck, preCheckColumns+" and client_id = $2 order by at desc, id desc", t.studio, client)
}

// AddPreCheck adds a pre-treatment check; it never changes again.
func (t *Tx) AddPreCheck(ctx context.Context, s *studio.PreCheck) error {
	return t.exec(
		ctx,
		`insert into pre_check (studio_id, id, client_id, visit_id, day, answers, result, pack_version, account_id, at, history, together)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9,
			greatest($10, (select max(at) + interval '1 microsecond' from pre_check where studio_id = $1 and client_id = $3)), $11, $12)`,
		t.studio,
		s.ID,
		s.Client,
		s.Visit,
		s.Day,
		document(s.Answers),
		document(s.Result),
		s.PackVersion,
		s.Account,
		s.At,
		document(s.History),
		document(orEmpty(s.Together)),
	)
}
