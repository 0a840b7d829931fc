package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

const visitColumns = `select v.id, v.client_id, v.practitioner_id, v.room_id, v.protocol_id, coalesce(v.protocol_version, 0), v.kind, v.products::text, v.starts_at, v.ends_at, v.busy_until, v.state,
		c.name, p.name, r.name, coalesce(pv.body->>'name', 'Patch test'),
		coalesce((select s.result->>'headline' from screening s where s.studio_id = v.studio_id and s.visit_id = v.id order by s.at desc limit 1), '')
	from visit v
	join client c on c.studio_id = v.studio_id and c.id = v.client_id
	join practitioner p on p.studio_id = v.studio_id and p.id = v.practitioner_id
	join room r on r.studio_id = v.studio_id and r.id = v.room_id
	left join protocol_version pv on pv.studio_id = v.studio_id and pv.protocol_id = v.protocol_id and pv.number = v.protocol_version
	where v.studio_id = $1`

func scanVisit(r interface{ Scan(...any) error }) (v studio.VisitLine, err error) {
	var protocolID uuid.NullUUID
	err = r.Scan(&v.ID, &v.Client, &v.Practitioner, &v.Room, &protocolID, &v.Version, &v.Kind, textList{&v.Products}, &v.StartsAt, &v.EndsAt, &v.BusyUntil, &v.State,
		&v.ClientName, &v.PractitionerName, &v.RoomName, &v.ProtocolName, &v.Checked)
	v.Protocol = protocolID.UUID
	return v, err
}

func visitRows(r *sqlx.Rows) (studio.VisitLine, error) { return scanVisit(r) }

// Visits lists visits that start within a time, by start.
func (t *Tx) Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) {
	return list(ctx, t, visitRows, visitColumns+" and v.starts_at >= $2 and v.starts_at < $3 order by v.starts_at, v.id", t.studio, from, to)
}

// ClientVisits lists a client's visits, newest first.
func (t *Tx) ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) {
	return list(ctx, t, visitRows, visitColumns+" and v.client_id = $2 order by v.starts_at desc, v.id", t.studio, client)
}

// Visit returns a visit.
func (t *Tx) Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error) {
	v, err := scanVisit(t.tx.QueryRowxContext(ctx, visitColumns+" and v.id = $2", t.studio, id))
	return found(&v, err)
}

// AddVisit books a visit; an overlap answers a *studio.TakenError.
func (t *Tx) AddVisit(ctx context.Context, v *studio.Visit) error {
	return t.exec(ctx, `insert into visit (studio_id, id, client_id, practitioner_id, room_id, protocol_id, protocol_version, starts_at, ends_at, busy_until, state, created_at, kind, products)
		values ($1, $2, $3, $4, $5, $6, nullif($7, 0), $8, $9, $10, $11, $12, $13, $14)`,
		t.studio, v.ID, v.Client, v.Practitioner, v.Room, of(v.Protocol), v.Version, v.StartsAt, v.EndsAt, v.BusyUntil, v.State, v.CreatedAt, v.Kind, texts(v.Products))
}

// of is an id, or nothing where it is the zero one.
func of(id uuid.UUID) uuid.NullUUID { return uuid.NullUUID{UUID: id, Valid: id != uuid.Nil} }

// SetVisitState changes a visit's state.
func (t *Tx) SetVisitState(ctx context.Context, id uuid.UUID, state studio.VisitState) error {
	return t.one(ctx, "update visit set state = $3 where studio_id = $1 and id = $2", t.studio, id, state)
}

// AddVisitChange logs a change of state.
func (t *Tx) AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error {
	return t.exec(ctx, "insert into visit_change (studio_id, id, visit_id, state, account_id, at) values ($1, $2, $3, $4, $5, $6)",
		t.studio, uuid.Must(uuid.NewV7()), visit, state, account, at)
}

const screeningColumns = `select id, client_id, visit_id, day::text, answers, about, result, pack_version, account_id, at
	from screening where studio_id = $1`

func scanScreening(r *sqlx.Rows) (s studio.PreCheck, err error) {
	err = r.Scan(&s.ID, &s.Client, &s.Visit, &s.Day, doc[map[string]contraindication.Answer]{&s.Answers}, doc[studio.ClientHistory]{&s.History}, doc[contraindication.Result]{&s.Result}, &s.PackVersion, &s.Account, &s.At)
	return s, err
}

// PreChecks lists a client's screenings, newest first.
func (t *Tx) PreChecks(ctx context.Context, client uuid.UUID) ([]studio.PreCheck, error) {
	return list(ctx, t, scanScreening, screeningColumns+" and client_id = $2 order by at desc, id desc", t.studio, client)
}

// AddPreCheck adds a screening; it never changes again.
func (t *Tx) AddPreCheck(ctx context.Context, s *studio.PreCheck) error {
	return t.exec(ctx, `insert into screening (studio_id, id, client_id, visit_id, day, answers, result, pack_version, account_id, at, about)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		t.studio, s.ID, s.Client, s.Visit, s.Day, document(s.Answers), document(s.Result), s.PackVersion, s.Account, s.At, document(s.History))
}

// Treatment returns the treatment of a visit.
func (t *Tx) Treatment(ctx context.Context, visit uuid.UUID) (*studio.Treatment, error) {
	var v studio.Treatment
	var cost decimal.NullDecimal
	err := t.tx.QueryRowxContext(ctx, `select visit_id, screening_id, plan, changes, overrules, progress, record, cost, started_at, finished_at, finished_by, hands
		from treatment where studio_id = $1 and visit_id = $2`, t.studio, visit).
		Scan(&v.Visit, &v.PreCheck, doc[protocol.Protocol]{&v.Plan}, doc[[]adjusting.Adjustment]{&v.Adjustments}, doc[[]studio.Override]{&v.Overrides}, doc[studio.Progress]{&v.Progress}, doc[studio.Record]{&v.Record}, &cost, &v.StartedAt, &v.FinishedAt, &v.FinishedBy, doc[adjusting.PractitionerState]{&v.Practitioner})
	if cost.Valid {
		v.Cost = &cost.Decimal
	}
	return found(&v, err)
}

// AddTreatment adds a treatment.
func (t *Tx) AddTreatment(ctx context.Context, v *studio.Treatment) error {
	return t.exec(ctx, `insert into treatment (studio_id, visit_id, screening_id, plan, changes, progress, record, started_at, overrules, hands)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		t.studio, v.Visit, v.PreCheck, document(v.Plan), document(v.Adjustments), document(v.Progress), document(v.Record), v.StartedAt, document(v.Overrides), document(v.Practitioner))
}

// SaveProgress keeps where the room is; what is older than what is there, and
// came late, changes nothing.
func (t *Tx) SaveProgress(ctx context.Context, visit uuid.UUID, p studio.Progress) error {
	return t.one(ctx, `update treatment set progress = case when (progress ->> 'since')::timestamptz > $4 then progress else $3 end
		where studio_id = $1 and visit_id = $2`, t.studio, visit, document(p), p.Since)
}

// SaveRecord keeps a record that is still being written.
func (t *Tx) SaveRecord(ctx context.Context, visit uuid.UUID, r studio.Record) error {
	return t.one(ctx, "update treatment set record = $3 where studio_id = $1 and visit_id = $2", t.studio, visit, document(r))
}

// FinishTreatment closes a treatment; it never changes again.
func (t *Tx) FinishTreatment(ctx context.Context, v *studio.Treatment) error {
	return t.one(ctx, `update treatment set record = $3, cost = $4, finished_at = $5, finished_by = $6
		where studio_id = $1 and visit_id = $2 and finished_at is null`, t.studio, v.Visit, document(v.Record), v.Cost, v.FinishedAt, v.FinishedBy)
}
