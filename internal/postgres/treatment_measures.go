package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgtype"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
)

// AddMeasurement adds readings.
func (t *Tx) AddMeasurement(ctx context.Context, m *studio.Measurement) error {
	return t.exec(ctx, `insert into measurement (studio_id, id, client_id, visit_id, measure, instrument, side, moment, readings, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9::float8[], $10, $11)`,
		t.studio, m.ID, m.Client, m.Visit, m.Measure, m.Instrument, m.Side, m.Moment, pgtype.FlatArray[float64](m.Readings), m.Account, m.At)
}

// StrikeMeasurement takes readings out, with the reason.
func (t *Tx) StrikeMeasurement(ctx context.Context, id uuid.UUID, reason string, account uuid.UUID, at time.Time) error {
	return t.one(ctx, "update measurement set struck_at = $3, struck_by = $4, struck_reason = $5 where studio_id = $1 and id = $2 and struck_at is null",
		t.studio, id, at, account, reason)
}

const measurementColumns = `select m.id, m.client_id, m.visit_id, m.measure, m.instrument, m.side, m.moment, to_json(m.readings), m.account_id,
		coalesce(a.name, ''), m.at, m.struck_at, m.struck_reason
	from measurement m left join account a on a.studio_id = m.studio_id and a.id = m.account_id where m.studio_id = $1`

func scanMeasurement(r fields) (m studio.Measurement, err error) {
	err = r.Scan(&m.ID, &m.Client, &m.Visit, &m.Measure, &m.Instrument, &m.Side, &m.Moment, doc[[]float64]{&m.Readings}, &m.Account, &m.By, &m.At,
		&m.StruckAt, &m.StruckReason)
	return m, err
}

// Measurement returns one measurement.
func (t *Tx) Measurement(ctx context.Context, id uuid.UUID) (*studio.Measurement, error) {
	out, err := list(ctx, t, scanMeasurement, measurementColumns+" and m.id = $2", t.studio, id)
	if err != nil {
		return nil, err
	}
	if len(out) == 0 {
		return nil, studio.ErrNotFound
	}
	return &out[0], nil
}

// Measurements lists the measurements of a client, oldest first, struck ones too.
func (t *Tx) Measurements(ctx context.Context, client uuid.UUID) ([]studio.Measurement, error) {
	return list(ctx, t, scanMeasurement, measurementColumns+" and m.client_id = $2 order by m.at, m.id", t.studio, client)
}

// MeasurementsOf lists those of a measure on a side of all clients, oldest first, struck ones left out.
func (t *Tx) MeasurementsOf(ctx context.Context, measure string, with measuring.Instrument, side string) ([]studio.Measurement, error) {
	return list(ctx, t, scanMeasurement, measurementColumns+` and m.measure = $2 and m.instrument = $3 and m.side = $4 and m.struck_at is null
		order by m.at, m.id`, t.studio, measure, with, side)
}

// Occasions are somebody's newest repeated readings of a measure, of all clients, oldest first.
func (t *Tx) Occasions(ctx context.Context, account uuid.UUID, measure string, with measuring.Instrument) ([][]float64, error) {
	return list(ctx, t, func(r fields) (x []float64, err error) {
		err = r.Scan(doc[[]float64]{&x})
		return x, err
	}, `select readings from (select to_json(readings) as readings, at, id from measurement
			where studio_id = $1 and account_id = $2 and measure = $3 and instrument = $4 and struck_at is null and cardinality(readings) > 1
			order by at desc, id desc`+atMost(measuring.Newest)+`) newest order by at, id`, t.studio, account, measure, with)
}

// Hopes are what is hoped of a client's measures.
func (t *Tx) Hopes(ctx context.Context, client uuid.UUID) ([]studio.Hope, error) {
	return list(ctx, t, func(r fields) (h studio.Hope, err error) {
		err = r.Scan(&h.Measure, &h.Hope, &h.Since)
		return h, err
	}, "select measure, hope, since from measure_hope where studio_id = $1 and client_id = $2 order by measure", t.studio, client)
}

// SaveHope states what is hoped of a measure; empty takes it back.
func (t *Tx) SaveHope(ctx context.Context, client uuid.UUID, measure, hope string, account uuid.UUID, at time.Time) error {
	if hope == "" {
		return t.exec(ctx, "delete from measure_hope where studio_id = $1 and client_id = $2 and measure = $3", t.studio, client, measure)
	}
	return t.exec(ctx, `insert into measure_hope (studio_id, client_id, measure, hope, account_id, since) values ($1, $2, $3, $4, $5, $6)
		on conflict (studio_id, client_id, measure) do update set hope = excluded.hope, account_id = excluded.account_id, since = excluded.since
		where measure_hope.hope <> excluded.hope`, t.studio, client, measure, hope, account, at)
}
