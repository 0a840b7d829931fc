package postgres

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/pace"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// Treatment returns the treatment of a visit.
func (t *Tx) Treatment(ctx context.Context, visit uuid.UUID) (*studio.Treatment, error) {
	var v studio.Treatment
	var cost decimal.NullDecimal
	err := t.row(ctx, `select visit_id, pre_check_id, prepared, progress, record, cost,
			started_at, finished_at, finished_by, signed, signed_sha256, needs_second
		from treatment where studio_id = $1 and visit_id = $2`, t.studio, visit).
		Scan(&v.Visit, &v.PreCheck, doc[studio.PreparedPlan]{&v.PreparedPlan}, doc[studio.Progress]{&v.Progress},
			doc[studio.Record]{&v.Record},
			&cost, &v.StartedAt, &v.FinishedAt, &v.FinishedBy, &v.Signed, &v.SignedSum, &v.NeedsSecond)
	if cost.Valid {
		v.Cost = &cost.Decimal
	}
	v.Adjustments, v.Overrides = orEmpty(v.Adjustments), orEmpty(v.Overrides) // absent once a client was erased
	return found(&v, err)
}

// orEmpty makes an absent list an empty one.
func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// AddTreatment adds a treatment.
func (t *Tx) AddTreatment(ctx context.Context, v *studio.Treatment) error {
	return t.exec(ctx, `insert into treatment (studio_id, visit_id, pre_check_id, prepared, progress, record, started_at)
		values ($1, $2, $3, $4, $5, $6, $7)`,
		t.studio, v.Visit, v.PreCheck, document(v.PreparedPlan), document(v.Progress), document(v.Record), v.StartedAt)
}

// SaveProgress keeps the place in the plan that the room's log comes to.
func (t *Tx) SaveProgress(ctx context.Context, visit uuid.UUID, p studio.Progress) error {
	return t.one(ctx, "update treatment set progress = $3 where studio_id = $1 and visit_id = $2", t.studio, visit, document(p))
}

// RoomProgress is how far treatments under way have come, by visit.
func (t *Tx) RoomProgress(ctx context.Context, visits []uuid.UUID) (map[uuid.UUID]studio.Progress, error) {
	type row struct {
		visit uuid.UUID
		at    studio.Progress
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.visit, doc[studio.Progress]{&x.at})
		return x, err
	}, "select visit_id, progress from treatment where studio_id = $1 and visit_id = any($2::uuid[]) and finished_at is null", t.studio, ids(visits))
	out := make(map[uuid.UUID]studio.Progress, len(rows))
	for _, x := range rows {
		out[x.visit] = x.at
	}
	return out, err
}

// PiecesUsed are the pieces of tools that a treatment used, by name.
func (t *Tx) PiecesUsed(ctx context.Context, visit uuid.UUID) ([]treatment.UsedPiece, error) {
	return list(ctx, t, func(r fields) (p treatment.UsedPiece, err error) {
		err = r.Scan(&p.Tool, &p.Number)
		return p, err
	}, `select distinct coalesce(o.body->>'name', l.tool), l.number from piece_log l left join tool o on o.studio_id = l.studio_id and o.key = l.tool
		where l.studio_id = $1 and l.visit_id = $2 and l.state = 'in use' order by 1, 2`, t.studio, visit)
}

// AddRoomEvents adds events of the room and returns how many were not there before.
func (t *Tx) AddRoomEvents(ctx context.Context, visit uuid.UUID, events []guide.Event, account uuid.UUID, at time.Time) (int, error) {
	if len(events) == 0 {
		return 0, nil
	}
	n, err := t.changed(ctx, `insert into room_event (studio_id, visit_id, id, device, seq, n, at, kind, body, account_id, arrived_at)
		select $1, $2, (e ->> 'id')::uuid, e ->> 'device', (e ->> 'seq')::int, (e ->> 'n')::int, to_timestamp((e ->> 'at')::float8 / 1000), e ->> 'kind', e, $4, $5
		from jsonb_array_elements($3) e
		on conflict do nothing`, t.studio, visit, document(events), account, at)
	return int(n), err
}

// RoomEvents lists the events of a treatment's room in order of arrival.
func (t *Tx) RoomEvents(ctx context.Context, visit uuid.UUID) ([]guide.Event, error) {
	return list(ctx, t, func(r fields) (e guide.Event, err error) {
		err = r.Scan(doc[guide.Event]{&e})
		return e, err
	}, "select body from room_event where studio_id = $1 and visit_id = $2 order by arrived_at, device, seq, id", t.studio, visit)
}

// GradedBefore lists what was done in the room of the client's last treatment before a visit in which something was graded.
func (t *Tx) GradedBefore(ctx context.Context, v *studio.Visit) ([]guide.Event, error) {
	return list(ctx, t, func(r fields) (e guide.Event, err error) {
		err = r.Scan(doc[guide.Event]{&e})
		return e, err
	}, `select e.body from (
			select id from visit v where studio_id = $1 and client_id = $2 and starts_at < $3 and kind = 'treatment' and state in ('done', 'broken-off')
				and exists (select from room_event g where g.studio_id = $1 and g.visit_id = v.id and g.kind = 'grade' and not exists
					(select from room_event u where u.studio_id = $1 and u.visit_id = v.id and u.kind = 'undo' and u.body->>'of' = g.id::text))
			order by starts_at desc limit 1) last
		join room_event e on e.studio_id = $1 and e.visit_id = last.id
		order by e.arrived_at, e.device, e.seq, e.id`, t.studio, v.Client, v.StartsAt)
}

// SaveRecord keeps a record that is still being written.
func (t *Tx) SaveRecord(ctx context.Context, visit uuid.UUID, r studio.Record) error {
	return t.one(ctx, "update treatment set record = $3 where studio_id = $1 and visit_id = $2", t.studio, visit, document(r))
}

// FinishTreatment closes a treatment; it never changes again.
func (t *Tx) FinishTreatment(ctx context.Context, v *studio.Treatment) error {
	return t.one(ctx, `update treatment set record = $3, cost = $4, finished_at = $5, finished_by = $6, signed = $7, signed_sha256 = $8, needs_second = $9
		where studio_id = $1 and visit_id = $2 and finished_at is null`,
		t.studio, v.Visit, document(v.Record), v.Cost, v.FinishedAt, v.FinishedBy, v.Signed, v.SignedSum, v.NeedsSecond)
}

// AddSecondSignature signs a trainee's record besides them; [studio.ErrExists] where somebody did.
func (t *Tx) AddSecondSignature(ctx context.Context, visit uuid.UUID, s *studio.SecondSignature) error {
	return t.exec(ctx, "insert into second_signature (studio_id, visit_id, account_id, at) values ($1, $2, $3, $4)", t.studio, visit, s.Account, s.At)
}

// SecondSignature is who signed a trainee's record besides them; nil where nobody has.
func (t *Tx) SecondSignature(ctx context.Context, visit uuid.UUID) (*studio.SecondSignature, error) {
	var s studio.SecondSignature
	err := t.row(ctx, `select s.account_id, coalesce(a.name, ''), s.at from second_signature s
		left join account a on a.studio_id = s.studio_id and a.id = s.account_id
		where s.studio_id = $1 and s.visit_id = $2`, t.studio, visit).Scan(&s.Account, &s.By, &s.At)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil //nolint:nilnil // nobody has signed it yet
	}
	return &s, translate(err)
}

// SaveAnswer keeps that a proposal for the next visit was taken or refused.
func (t *Tx) SaveAnswer(ctx context.Context, visit uuid.UUID, p *treatment.Proposal, account uuid.UUID, at time.Time) error {
	return t.exec(ctx, `insert into proposal_answer (studio_id, visit_id, code, about, taken, account_id, at, body) values ($1, $2, $3, $4, $5, $6, $7, $8)
		on conflict (studio_id, visit_id, code, about) do update set taken = excluded.taken, account_id = excluded.account_id, at = excluded.at,
			body = excluded.body`, t.studio, visit, p.Code, p.Key, *p.Taken, account, at, p.Text)
}

// TakenProposals are the proposals taken from the last treatment of a client with a protocol before a moment, in words, with
// the moment of that treatment; those that became notes at a place or a stroke are left out.
func (t *Tx) TakenProposals(ctx context.Context, client, protocol uuid.UUID, before time.Time) ([]string, time.Time, error) {
	type row struct {
		text string
		at   time.Time
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.text, &x.at)
		return x, err
	}, `with last as (select v.id, v.starts_at from visit v join treatment t on t.studio_id = v.studio_id and t.visit_id = v.id
			where v.studio_id = $1 and v.client_id = $2 and v.protocol_id = $3 and v.starts_at < $4 and t.finished_at is not null
			order by v.starts_at desc limit 1)
		select a.body, l.starts_at from last l join proposal_answer a on a.studio_id = $1 and a.visit_id = l.id
		where a.taken and a.body <> '' and a.code not in ('lighter-here', 'ask-here', 'leave-step', 'longer-dose') order by a.at, a.code`,
		t.studio, client, protocol, before)
	out := []string{}
	var at time.Time
	for _, x := range rows {
		out, at = append(out, x.text), x.at
	}
	return out, at, err
}

// Answers are the proposals of a visit that were taken or refused, by code and what they are about.
func (t *Tx) Answers(ctx context.Context, visit uuid.UUID) (map[string]bool, error) {
	type row struct {
		key   string
		taken bool
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.key, &x.taken)
		return x, err
	}, "select code || ' ' || about, taken from proposal_answer where studio_id = $1 and visit_id = $2", t.studio, visit)
	out := make(map[string]bool, len(rows))
	for _, x := range rows {
		out[x.key] = x.taken
	}
	return out, err
}

// AddRecordAddition adds to a record that is locked.
func (t *Tx) AddRecordAddition(ctx context.Context, visit, account uuid.UUID, a studio.RecordAddition) error {
	return t.exec(ctx, "insert into record_addition (studio_id, id, visit_id, at, account_id, author, body, field, was, right_is) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)",
		t.studio, a.ID, visit, a.At, account, a.Author, a.Body, a.Field, a.Was, a.Right)
}

// RecordAdditions lists what was added to a record, oldest first.
func (t *Tx) RecordAdditions(ctx context.Context, visit uuid.UUID) ([]studio.RecordAddition, error) {
	return list(ctx, t, func(r fields) (a studio.RecordAddition, err error) {
		err = r.Scan(&a.ID, &a.At, &a.Author, &a.Body, &a.Field, &a.Was, &a.Right)
		return a, err
	}, "select id, at, author, body, field, was, right_is from record_addition where studio_id = $1 and visit_id = $2 order by at, id", t.studio, visit)
}

// AddProductUse keeps what was used of a product; it never changes again.
func (t *Tx) AddProductUse(ctx context.Context, u *studio.ProductUse) error {
	return t.exec(ctx, `insert into product_use (studio_id, visit_id, product_id, practitioner_id, protocol_id, day,
			planned, used, how, measure, cost, over_plan, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)`,
		t.studio, u.Visit, u.Product, u.Practitioner, u.Protocol, u.Day,
		u.Planned, u.Used, u.How, u.Measure, u.Cost, u.OverPlan, u.At)
}

// AddSlipObservation keeps how long a product slid.
func (t *Tx) AddSlipObservation(ctx context.Context, product, visit uuid.UUID, s studio.SlidFor, skin float64, at time.Time) error {
	return t.exec(ctx, `insert into slip_observation (studio_id, id, product_id, visit_id, minute, kind, skin, at, slip, need)
		values ($1, $2, $3, $4, $5, $6, $7, $8, coalesce(nullif($9::numeric, 0), 100), coalesce(nullif($10::numeric, 0), 35))`,
		t.studio, studio.NewID(), product, visit, s.Minute, s.Kind, skin, at, s.Slip, s.Need)
}

// AddSpellTimes keeps how long the spells of a treatment took.
func (t *Tx) AddSpellTimes(ctx context.Context, visit, practitioner uuid.UUID, times []guide.SpellTime, at time.Time) error {
	return t.exec(ctx, `insert into spell_time (studio_id, visit_id, spell, practitioner_id, stroke, planned, actual, ended_by, dose,
			stayed, skipped, repeated, paused, estimated, at)
		select $1, $2, e ->> 'Key', $3, e ->> 'stroke', (e ->> 'planned')::numeric, (e ->> 'real')::numeric, coalesce(e ->> 'endedBy', ''), e ->> 'dose',
			coalesce((e ->> 'stayed')::bool, false), coalesce((e ->> 'skipped')::bool, false), coalesce((e ->> 'repeated')::bool, false),
			coalesce((e ->> 'paused')::bool, false), coalesce((e ->> 'estimated')::bool, false), $5
		from jsonb_array_elements($4) e`, t.studio, visit, practitioner, document(times), at)
}

// SpellTimes lists the spells of a practitioner's newest treatments since they were told to start over, a treatment
// each, oldest first.
func (t *Tx) SpellTimes(ctx context.Context, practitioner uuid.UUID, treatments int) ([][]pace.Spell, error) {
	type row struct {
		visit uuid.UUID
		spell pace.Spell
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		s := &x.spell
		err = r.Scan(&x.visit, &s.Stroke, &s.Planned, &s.Real, &s.EndedBy, &s.Dose, &s.Stayed, &s.Skipped, &s.Repeated, &s.Paused, &s.Estimated)
		return x, err
	}, `with newest as (select visit_id, max(at) as at from spell_time where studio_id = $1 and practitioner_id = $2
				and at > coalesce((select since from practitioner_pace where studio_id = $1 and practitioner_id = $2), '-infinity')
			group by visit_id order by max(at) desc`+atMost(treatments)+`)
		select s.visit_id, s.stroke, s.planned::float8, s.actual::float8, s.ended_by, s.dose, s.stayed, s.skipped, s.repeated, s.paused, s.estimated
		from newest n join spell_time s on s.studio_id = $1 and s.visit_id = n.visit_id order by n.at, s.visit_id, s.spell`,
		t.studio, practitioner)
	out := [][]pace.Spell{}
	last := uuid.Nil
	for i := range rows {
		if rows[i].visit != last {
			out, last = append(out, nil), rows[i].visit
		}
		out[len(out)-1] = append(out[len(out)-1], rows[i].spell)
	}
	return out, err
}

// SavePace keeps the pace that a practitioner's treatments teach.
func (t *Tx) SavePace(ctx context.Context, practitioner uuid.UUID, p pace.Learned) error {
	return t.exec(ctx, `insert into practitioner_pace (studio_id, practitioner_id, pace, treatments, strokes) values ($1, $2, $3, $4, $5)
		on conflict (studio_id, practitioner_id) do update set pace = excluded.pace, treatments = excluded.treatments, strokes = excluded.strokes`,
		t.studio, practitioner, p.Pace, p.From, document(p.Strokes))
}

// ForgetPace starts a practitioner's pace over.
func (t *Tx) ForgetPace(ctx context.Context, practitioner uuid.UUID, at time.Time) error {
	return t.exec(ctx, `insert into practitioner_pace (studio_id, practitioner_id, pace, since) values ($1, $2, 1, $3)
		on conflict (studio_id, practitioner_id) do update set pace = 1, treatments = 0, strokes = '{}', since = excluded.since`,
		t.studio, practitioner, at)
}

// Pace is the pace of a practitioner: as planned, where nothing was learned.
func (t *Tx) Pace(ctx context.Context, practitioner uuid.UUID) (studio.Pace, error) {
	p := studio.Pace{Pace: 1, Strokes: map[string]pace.Own{}}
	err := t.row(ctx, "select pace::float8, treatments, strokes from practitioner_pace where studio_id = $1 and practitioner_id = $2",
		t.studio, practitioner).Scan(&p.Pace, &p.Treatments, doc[map[string]pace.Own]{&p.Strokes})
	if errors.Is(err, sql.ErrNoRows) {
		return p, nil
	}
	return p, translate(err)
}

// LastMeasures says how a practitioner measured each product last, as planned left out.
func (t *Tx) LastMeasures(ctx context.Context, practitioner uuid.UUID) (map[uuid.UUID]shelf.Reading, error) {
	type row struct {
		product uuid.UUID
		reading shelf.Reading
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.product, &x.reading.How, &x.reading.Measure)
		return x, err
	}, `select p.id, u.how, u.measure from product p cross join lateral (
			select how, measure from product_use u
			where u.studio_id = p.studio_id and u.product_id = p.id and u.practitioner_id = $2 and u.how <> 'as planned'
			order by u.at desc limit 1) u
		where p.studio_id = $1`, t.studio, practitioner)
	out := make(map[uuid.UUID]shelf.Reading, len(rows))
	for _, r := range rows {
		out[r.product] = r.reading
	}
	return out, err
}
