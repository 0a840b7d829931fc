package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	shelfroom "softpalm/internal/studio/shelf"
)

// Pieces lists the pieces that anything was written of; held, nobody else changes them until the transaction
// ends.
func (t *Tx) Pieces(ctx context.Context, hold bool) ([]shelfroom.Piece, error) {
	if hold {
		if err := t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('pieces of ' || $1::text, 0))", t.studio); err != nil {
			return nil, err
		}
	}
	return list(ctx, t, func(r fields) (p shelfroom.Piece, err error) {
		err = r.Scan(&p.Tool, &p.Number, &p.State, &p.Since, &p.Uses, &p.Visit, &p.Bath)
		return p, err
	}, "select tool, number, state, since, uses, visit_id, bath_id from piece where studio_id = $1 order by tool, number", t.studio)
}

// SavePiece writes how a piece stands.
func (t *Tx) SavePiece(ctx context.Context, p *shelfroom.Piece) error {
	return t.exec(ctx, `insert into piece (studio_id, tool, number, state, since, uses, visit_id, bath_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8)
		on conflict (studio_id, tool, number) do update set state = $4, since = $5, uses = $6, visit_id = $7, bath_id = $8`,
		t.studio, p.Tool, p.Number, p.State, p.Since, p.Uses, p.Visit, p.Bath)
}

// LogPiece adds a line to a piece's log.
func (t *Tx) LogPiece(ctx context.Context, p *shelfroom.Piece, cycle *uuid.UUID, note string, by *uuid.UUID, at time.Time) error {
	return t.exec(ctx, `insert into piece_log (studio_id, id, tool, number, state, visit_id, bath_id, cycle_id, note, account_id, at)
		values ($1, gen_random_uuid(), $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		t.studio, p.Tool, p.Number, p.State, p.Visit, p.Bath, cycle, note, by, at)
}

// PieceVisits names the appointments in which a piece was used since a moment.
func (t *Tx) PieceVisits(ctx context.Context, piece shelfroom.PieceRef, since time.Time) ([]string, error) {
	return list(ctx, t, func(r fields) (s string, err error) {
		err = r.Scan(&s)
		return s, err
	}, `select c.name || ', ' || to_char(v.starts_at at time zone s.time_zone, 'DD Mon HH24:MI')
		from piece_log l join visit v on v.studio_id = l.studio_id and v.id = l.visit_id
		join client c on c.studio_id = v.studio_id and c.id = v.client_id
		join studio s on s.id = l.studio_id
		where l.studio_id = $1 and l.tool = $2 and l.number = $3 and l.state = 'in use' and l.at > $4
		order by v.starts_at`, t.studio, piece.Tool, piece.Number, since)
}

// Baths lists the baths that were not discarded, newest first.
func (t *Tx) Baths(ctx context.Context) ([]shelfroom.Bath, error) {
	return list(ctx, t, func(r fields) (b shelfroom.Bath, err error) {
		err = r.Scan(&b.ID, &b.Product, &b.Lot, &b.Dilution, &b.Contact, &b.MadeAt, &b.GoodUntil)
		return b, err
	}, `select id, product, lot, dilution, contact_minutes, made_at, good_until from bath
		where studio_id = $1 and discarded_at is null order by made_at desc, id`, t.studio)
}

// AddBath adds a bath.
func (t *Tx) AddBath(ctx context.Context, b *shelfroom.Bath, by uuid.UUID) error {
	return t.exec(ctx, `insert into bath (studio_id, id, product, lot, dilution, contact_minutes, made_at, good_until, account_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.studio, b.ID, b.Product, b.Lot, b.Dilution, b.Contact, b.MadeAt, b.GoodUntil, by)
}

// DiscardBath says that a bath was thrown away.
func (t *Tx) DiscardBath(ctx context.Context, id uuid.UUID, at time.Time) error {
	return t.one(ctx, "update bath set discarded_at = coalesce(discarded_at, $3) where studio_id = $1 and id = $2", t.studio, id, at)
}

// Linen lists the linen by kind.
func (t *Tx) Linen(ctx context.Context) ([]shelfroom.Linen, error) {
	return list(ctx, t, func(r fields) (l shelfroom.Linen, err error) {
		err = r.Scan(&l.Kind, &l.Clean, &l.InUse, &l.ToWash, &l.Washing, &l.PerVisit, &l.Charge)
		return l, err
	}, `select kind, clean, in_use, to_wash, washing, per_visit, charge from linen where studio_id = $1 order by lower(kind), kind`, t.studio)
}

// SaveLinen writes a kind of linen.
func (t *Tx) SaveLinen(ctx context.Context, l *shelfroom.Linen) error {
	return t.exec(ctx, `insert into linen (studio_id, kind, clean, in_use, to_wash, washing, per_visit, charge)
		values ($1, $2, $3, $4, $5, $6, $7, $8)
		on conflict (studio_id, kind) do update set clean = $3, in_use = $4, to_wash = $5, washing = $6, per_visit = $7, charge = $8`,
		t.studio, l.Kind, l.Clean, l.InUse, l.ToWash, l.Washing, l.PerVisit, l.Charge)
}

// HeatCycles lists the newest loads of the steriliser.
func (t *Tx) HeatCycles(ctx context.Context) ([]shelfroom.HeatCycle, error) {
	return list(ctx, t, func(r fields) (c shelfroom.HeatCycle, err error) {
		err = r.Scan(&c.Number, doc[[]shelfroom.PieceRef]{&c.Load}, &c.Celsius, &c.Minutes, &c.Passed, &c.By, &c.At)
		c.Since = []string{}
		return c, err
	}, `select h.number, h.load, h.celsius, h.minutes, h.passed, coalesce(a.name, ''), h.at from heat_cycle h
		left join account a on a.studio_id = h.studio_id and a.id = h.account_id
		where h.studio_id = $1 order by h.number desc limit 20`, t.studio)
}

// AddHeatCycle adds a load of the steriliser.
func (t *Tx) AddHeatCycle(ctx context.Context, id uuid.UUID, c *shelfroom.HeatCycle, by uuid.UUID) error {
	return t.exec(ctx, `insert into heat_cycle (studio_id, id, number, load, celsius, minutes, passed, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.studio, id, c.Number, document(c.Load), c.Celsius, c.Minutes, c.Passed, by, c.At)
}

// LastGoodCycle is when a piece was last in a load that passed.
func (t *Tx) LastGoodCycle(ctx context.Context, piece shelfroom.PieceRef) (time.Time, error) {
	var at time.Time
	p, err := found(&at, t.row(ctx, `select at from heat_cycle
		where studio_id = $1 and passed and load @> $2 order by number desc limit 1`,
		t.studio, document([]shelfroom.PieceRef{piece})).Scan(&at))
	if err != nil {
		return at, err
	}
	return *p, nil
}

// Ticks lists what was ticked between two days, both counted.
func (t *Tx) Ticks(ctx context.Context, from, to string) ([]shelfroom.DayTick, error) {
	return list(ctx, t, func(r fields) (x shelfroom.DayTick, err error) {
		err = r.Scan(&x.Day, &x.List, &x.Item, &x.Value, &x.By, &x.At)
		return x, err
	}, `select d.day::text, d.list, d.item, d.value, coalesce(a.name, ''), d.at from day_tick d
		left join account a on a.studio_id = d.studio_id and a.id = d.account_id
		where d.studio_id = $1 and d.day between $2 and $3 order by d.day, d.list, d.item`, t.studio, from, to)
}

// SaveTick keeps a tick; one made twice stays the first, with a newer value.
func (t *Tx) SaveTick(ctx context.Context, x *shelfroom.DayTick, by uuid.UUID) error {
	return t.exec(ctx, `insert into day_tick (studio_id, day, list, item, value, account_id, at) values ($1, $2, $3, $4, $5, $6, $7)
		on conflict (studio_id, day, list, item) do update set value = case when excluded.value = '' then day_tick.value else excluded.value end`,
		t.studio, x.Day, x.List, x.Item, x.Value, by, x.At)
}
