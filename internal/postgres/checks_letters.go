package postgres

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

const letterColumns = `select id, client_id, visit_id, rules, protocol_name, question, written_at, written_by, answer, note,
	coalesce(valid_until::text, ''), answered_at, coalesce(expected::text, ''),
		coalesce((select jsonb_agg(jsonb_build_object('id', s.id, 'type', s.type, 'at', s.added_at)
		order by s.added_at, s.id) from letter_scan s where s.studio_id = letter.studio_id
		and s.letter_id = letter.id), '[]')
	from letter where studio_id = $1`

func scanLetter(r fields) (l studio.Letter, err error) {
	err = r.Scan(
		&l.ID,
		&l.Client,
		&l.Visit,
		doc[[]string]{&l.Rules},
		&l.Protocol,
		&l.Question,
		&l.WrittenAt,
		&l.WrittenBy,
		&l.Answer,
		&l.Note,
		&l.Until,
		&l.AnsweredAt,
		&l.Expected,
		doc[[]studio.Scan]{&l.Scans},
	)
	return l, err
}

// Letters lists the letters about a client, newest first.
func (t *Tx) Letters(ctx context.Context, client uuid.UUID) ([]studio.Letter, error) {
	return list(ctx, t, scanLetter,
		letterColumns+" and client_id = $2 order by written_at desc, id desc", t.studio, client)
}

// Letter returns a letter.
func (t *Tx) Letter(ctx context.Context, id uuid.UUID) (*studio.Letter, error) {
	l, err := scanLetter(t.row(ctx, letterColumns+" and id = $2", t.studio, id))
	return found(&l, err)
}

// AddLetter adds a letter.
func (t *Tx) AddLetter(ctx context.Context, l *studio.Letter) error {
	return t.exec(
		ctx,
		`insert into letter (studio_id, id, client_id, visit_id, rules, protocol_name, question, written_at, written_by, expected)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		t.studio,
		l.ID,
		l.Client,
		l.Visit,
		document(l.Rules),
		l.Protocol,
		l.Question,
		l.WrittenAt,
		l.WrittenBy,
		day(l.Expected),
	)
}

// AnswerLetter records a letter's answer; it never changes again.
func (t *Tx) AnswerLetter(ctx context.Context, l *studio.Letter) error {
	return t.one(
		ctx,
		`update letter set answer = $3, note = $4, valid_until = nullif($5, '')::date, answered_at = $6
			where studio_id = $1 and id = $2`,
		t.studio,
		l.ID,
		l.Answer,
		l.Note,
		l.Until,
		l.AnsweredAt,
	)
}

// AddScan keeps a doctor's answer as it came; it never changes again.
func (t *Tx) AddScan(ctx context.Context, letter uuid.UUID, s *studio.Scan, data []byte, account uuid.UUID) error {
	return t.exec(
		ctx,
		`insert into letter_scan (studio_id, id, letter_id, type, data, added_at, account_id)
			values ($1, $2, $3, $4, $5, $6, $7)`,
		t.studio,
		s.ID,
		letter,
		s.Type,
		data,
		s.At,
		account,
	)
}

// Scan returns a scan and the client whose letter it answers.
func (t *Tx) Scan(ctx context.Context, id uuid.UUID) (kind string, data []byte, client uuid.UUID, err error) {
	err = t.row(ctx, `select s.type, s.data, l.client_id from letter_scan s
		join letter l on l.studio_id = s.studio_id and l.id = s.letter_id
		where s.studio_id = $1 and s.id = $2`, t.studio, id).Scan(&kind, &data, &client)
	_, err = found(&kind, err)
	return kind, data, client, err
}

// Planned lists a client's planned procedures, by day.
func (t *Tx) Planned(ctx context.Context, client uuid.UUID) ([]studio.PlannedProcedure, error) {
	return list(ctx, t, func(r fields) (p studio.PlannedProcedure, err error) {
		err = r.Scan(&p.ID, &p.Client, &p.Rule, &p.Day, &p.NotedBy, &p.CreatedAt)
		return p, err
	}, "select id, client_id, rule, day::text, noted_by, created_at from planned_procedure where studio_id = $1 and client_id = $2 order by day, id",
		t.studio, client)
}

// AddPlanned notes a planned procedure.
func (t *Tx) AddPlanned(ctx context.Context, p *studio.PlannedProcedure) error {
	return t.exec(ctx, "insert into planned_procedure (studio_id, id, client_id, rule, day, noted_by, created_at) values ($1, $2, $3, $4, $5, $6, $7)",
		t.studio, p.ID, p.Client, p.Rule, p.Day, p.NotedBy, p.CreatedAt)
}

// RemovePlanned takes a planned procedure back.
func (t *Tx) RemovePlanned(ctx context.Context, client, id uuid.UUID) error {
	return t.one(ctx, "delete from planned_procedure where studio_id = $1 and client_id = $2 and id = $3", t.studio, client, id)
}

// OpenLetters are the clients, of some, who wait for a doctor's answer.
func (t *Tx) OpenLetters(ctx context.Context, clients []uuid.UUID) (map[uuid.UUID]bool, error) {
	out := map[uuid.UUID]bool{}
	_, err := list(ctx, t, func(r fields) (none struct{}, err error) {
		var id uuid.UUID
		err = r.Scan(&id)
		out[id] = true
		return none, err
	}, "select distinct client_id from letter where studio_id = $1 and client_id = any($2::uuid[]) and answer = ''", t.studio, ids(clients))
	return out, err
}
