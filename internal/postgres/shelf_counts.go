package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

const stocktakeColumns = `select id, places::text, to_jsonb(packs)::text, blind, started_at, closed_at, gained, lost from stocktake where studio_id = $1`

func (t *Tx) stocktake(ctx context.Context, where string) (*shelfroom.CountSheet, error) {
	var c shelfroom.CountSheet
	err := t.row(ctx, stocktakeColumns+where, t.studio).
		Scan(&c.ID, textList{&c.Places}, doc[[]uuid.UUID]{&c.Only}, &c.Blind, &c.StartedAt, &c.ClosedAt, &c.Gained, &c.Lost)
	return found(&c, err)
}

// OpenStocktake returns the open stocktake, without its lines, and holds it until the transaction ends.
func (t *Tx) OpenStocktake(ctx context.Context) (*shelfroom.CountSheet, error) {
	return t.stocktake(ctx, " and closed_at is null for update")
}

// LastStocktake returns the last one that was closed, without its lines.
func (t *Tx) LastStocktake(ctx context.Context) (*shelfroom.CountSheet, error) {
	return t.stocktake(ctx, " and closed_at is not null order by closed_at desc limit 1")
}

// AddStocktake begins a stocktake; a second open one answers ErrExists.
func (t *Tx) AddStocktake(ctx context.Context, c *shelfroom.CountSheet, by uuid.UUID) error {
	return t.exec(ctx, "insert into stocktake (studio_id, id, places, packs, blind, started_at, started_by) values ($1, $2, $3, $4::uuid[], $5, $6, $7)",
		t.studio, c.ID, texts(c.Places), ids(c.Only), c.Blind, c.StartedAt, by)
}

// LastCounted says on which day, in a time zone, each pack was last counted in a stocktake that is closed.
func (t *Tx) LastCounted(ctx context.Context, zone string) (map[uuid.UUID]string, error) {
	type row struct {
		pack uuid.UUID
		day  string
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.pack, &x.day)
		return x, err
	}, `select l.pack_id, (max(l.at) at time zone $2)::date::text
		from stocktake_line l join stocktake s on s.studio_id = l.studio_id and s.id = l.stocktake_id
		join pack p on p.studio_id = l.studio_id and p.id = l.pack_id
		where l.studio_id = $1 and s.closed_at is not null and p.remaining > 0 group by l.pack_id`, t.studio, zone)
	out := make(map[uuid.UUID]string, len(rows))
	for _, x := range rows {
		out[x.pack] = x.day
	}
	return out, err
}

// CountedLines lists what was counted, by pack.
func (t *Tx) CountedLines(ctx context.Context, stocktake uuid.UUID) (map[uuid.UUID]shelfroom.CountLine, error) {
	rows, err := list(ctx, t, func(r fields) (l shelfroom.CountLine, err error) {
		var books, found decimal.Decimal
		var gross, tare decimal.NullDecimal
		err = r.Scan(&l.Pack, &l.Product, &l.Lot, &l.Number, &l.Size, &books, &found, &gross, &tare, &l.Tolerance, &l.Booked, &l.Again, &l.Reason)
		l.Books, l.Found = &books, &found
		if gross.Valid {
			l.Gross = &gross.Decimal
		}
		if tare.Valid {
			l.Tare = &tare.Decimal
		}
		return l, err
	}, `select p.id, p.product_id, o.number, p.number, p.size, l.books, l.found, l.gross, l.tare, l.tolerance, l.booked, l.again, l.reason
		from stocktake_line l join pack p on p.studio_id = l.studio_id and p.id = l.pack_id
		join lot o on o.studio_id = p.studio_id and o.id = p.lot_id
		where l.studio_id = $1 and l.stocktake_id = $2`, t.studio, stocktake)
	out := make(map[uuid.UUID]shelfroom.CountLine, len(rows))
	for _, l := range rows {
		out[l.Pack] = l
	}
	return out, err
}

// SaveCountLine writes what was found in a pack, in place of what was written before.
func (t *Tx) SaveCountLine(ctx context.Context, stocktake uuid.UUID, l *shelfroom.CountLine, by uuid.UUID, at time.Time) error {
	var tare *decimal.Decimal
	if l.Gross != nil {
		tare = l.Tare
	}
	return t.exec(ctx, `insert into stocktake_line (studio_id, stocktake_id, pack_id, books, found, gross, tare, tolerance, booked, again,
			reason, counted_by, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)
		on conflict (studio_id, stocktake_id, pack_id) do update set books = $4, found = $5, gross = $6, tare = $7, tolerance = $8,
			booked = $9, again = $10, reason = $11, counted_by = $12, at = $13`,
		t.studio, stocktake, l.Pack, l.Books, l.Found, l.Gross, tare, l.Tolerance, l.Booked, l.Again, l.Reason, by, at)
}

// CloseStocktake closes a stocktake; it never changes again.
func (t *Tx) CloseStocktake(ctx context.Context, c *shelfroom.CountSheet, by uuid.UUID) error {
	return t.one(ctx, "update stocktake set closed_at = $3, closed_by = $4, gained = $5, lost = $6 where studio_id = $1 and id = $2",
		t.studio, c.ID, c.ClosedAt, by, c.Gained, c.Lost)
}

// LotsStruck lists lots by id, and every batch that holds one of them, through any number of mixings.
func (t *Tx) LotsStruck(ctx context.Context, lots []uuid.UUID) ([]shelfroom.TracedLot, error) {
	return list(ctx, t, func(r fields) (l shelfroom.TracedLot, err error) {
		err = r.Scan(&l.ID, &l.Number, &l.Product, &l.Name, &l.Left, &l.Unit)
		return l, err
	}, `with recursive struck(id) as (
			select id from lot where studio_id = $1 and id = any($2::uuid[])
			union select m.into_lot from struck s join stock_movement m on m.studio_id = $1 and m.lot_id = s.id
				where m.into_lot is not null
					and not exists (select from stock_movement k where k.studio_id = m.studio_id and k.counters = m.id))
		select l.id, l.number, p.id, p.name, (select sum(q.remaining) from pack q where q.studio_id = $1 and q.lot_id = l.id), p.unit
		from struck s join lot l on l.studio_id = $1 and l.id = s.id join product p on p.studio_id = $1 and p.id = l.product_id
		order by l.received_on, l.number`, t.studio, ids(lots))
}

const tracedColumns = `select m.id, m.lot_id::text, m.kind, m.amount, m.at, m.sure, coalesce(m.counters::text, ''),
		m.visit_id, coalesce(m.client_id, v.client_id), coalesce(v.client, ''), coalesce(v.practitioner, a.name, ''),
		(m.at at time zone s.time_zone)::date::text
	from stock_movement m join studio s on s.id = m.studio_id
	left join account a on a.studio_id = m.studio_id and a.id = m.account_id
	left join lateral (select x.client_id, w.name as practitioner, coalesce(c.name, d.name) as client
		from (select 1) one
		left join visit x on x.studio_id = m.studio_id and x.id = m.visit_id
		left join practitioner w on w.studio_id = x.studio_id and w.id = x.practitioner_id
		left join client c on c.studio_id = m.studio_id and c.id = m.client_id
		left join client d on d.studio_id = m.studio_id and d.id = x.client_id) v on true`

func scanTraced(r fields) (m shelfroom.TracedMove, err error) {
	var at time.Time
	var sure bool
	err = r.Scan(&m.ID, &m.Lot, &m.Kind, &m.Amount, &at, &sure, &m.Counters, &m.Visit, &m.Client, &m.Name, &m.By, &m.Day)
	m.Sure = &sure
	return m, err
}

// MovementsOfLots lists all movements of lots, oldest first.
func (t *Tx) MovementsOfLots(ctx context.Context, lots []uuid.UUID) ([]shelfroom.TracedMove, error) {
	return list(ctx, t, scanTraced, tracedColumns+" where m.studio_id = $1 and m.lot_id = any($2::uuid[]) order by m.at, m.id", t.studio, ids(lots))
}

// LotsOfClient lists the lots that reached a client since a day, newest first.
func (t *Tx) LotsOfClient(ctx context.Context, client uuid.UUID, since string) ([]shelfroom.TraceRow, error) {
	return list(ctx, t, func(r fields) (x shelfroom.TraceRow, err error) {
		var lot uuid.UUID
		err = r.Scan(&x.Client, &x.Name, &x.Day, &x.Visit, &lot, &x.Lot, &x.Product, &x.Kind, &x.Amount, &x.Unit, &x.By, &x.Sure)
		x.LotID = &lot
		return x, err
	}, `with moved as materialized (
			select m.* from stock_movement m where m.studio_id = $1 and m.client_id = $2
			union
			select m.* from visit v join stock_movement m on m.studio_id = v.studio_id and m.visit_id = v.id
				where v.studio_id = $1 and v.client_id = $2),
		told as (select m.visit_id, m.lot_id, m.amount, m.sure, (m.at at time zone (select time_zone from studio where id = $1))::date as day,
				coalesce((select n.kind from stock_movement n where n.studio_id = $1 and n.id = m.counters), m.kind) as kind,
				(select w.name from visit v join practitioner w on w.studio_id = v.studio_id and w.id = v.practitioner_id
					where v.studio_id = $1 and v.id = m.visit_id) as who
			from moved m)
		select $2::uuid, (select name from client where studio_id = $1 and id = $2), min(t.day)::text, t.visit_id, l.id, l.number, p.name,
			t.kind, -sum(t.amount), p.unit, coalesce(max(t.who), ''), bool_and(t.sure)
		from told t join lot l on l.studio_id = $1 and l.id = t.lot_id join product p on p.studio_id = $1 and p.id = l.product_id
		where t.day >= $3 and t.kind in ('treatment', 'patch-test', 'tester', 'retail')
		group by t.visit_id, l.id, l.number, p.name, t.kind, p.unit
		having sum(t.amount) < 0
		order by 3 desc, p.name, l.number`, t.studio, client, since)
}

// TracedClients lists how clients are reached, by name.
func (t *Tx) TracedClients(ctx context.Context, clients []uuid.UUID) ([]shelfroom.TracedClient, error) {
	return list(ctx, t, func(r fields) (c shelfroom.TracedClient, err error) {
		err = r.Scan(&c.ID, &c.Name, &c.Phone, &c.Email)
		c.Calls = []shelfroom.RecallCall{}
		return c, err
	}, "select id, name, phone, email from client where studio_id = $1 and id = any($2::uuid[]) order by lower(name), id", t.studio, ids(clients))
}

// AddRecall keeps a recall.
func (t *Tx) AddRecall(ctx context.Context, id uuid.UUID, lots []uuid.UUID, reason string, by uuid.UUID, at time.Time) error {
	return t.exec(ctx, "insert into recall (studio_id, id, lots, reason, account_id, at) values ($1, $2, $3::uuid[], $4, $5, $6)",
		t.studio, id, ids(lots), reason, by, at)
}

// Recalls lists recalls, newest first.
func (t *Tx) Recalls(ctx context.Context) ([]shelfroom.RecallLine, error) {
	return list(ctx, t, func(r fields) (x shelfroom.RecallLine, err error) {
		var lots []string
		err = r.Scan(&x.ID, textList{&lots}, &x.Names, &x.Reason, &x.At)
		for _, l := range lots {
			id, parseErr := uuid.Parse(l)
			if parseErr != nil {
				return x, parseErr
			}
			x.Lots = append(x.Lots, id)
		}
		return x, err
	}, `select r.id, r.lots::text, (select string_agg(p.name || ', ' || l.number, '; ' order by l.received_on, l.number)
			from lot l join product p on p.studio_id = l.studio_id and p.id = l.product_id
			where l.studio_id = r.studio_id and l.id = any(r.lots)), r.reason, r.at
		from recall r where r.studio_id = $1 order by r.at desc, r.id`, t.studio)
}

// AddRecallCall notes how it went to reach a client.
func (t *Tx) AddRecallCall(ctx context.Context, recall uuid.UUID, c *shelfroom.RecallCall, by uuid.UUID) error {
	return t.exec(ctx, `insert into recall_call (studio_id, id, recall_id, client_id, outcome, note, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`, t.studio, studio.NewID(), recall, c.Client, c.Outcome, c.Note, by, c.At)
}

// RecallCalls lists how it went to reach clients, oldest first.
func (t *Tx) RecallCalls(ctx context.Context, recall uuid.UUID) ([]shelfroom.RecallCall, error) {
	return list(ctx, t, func(r fields) (c shelfroom.RecallCall, err error) {
		err = r.Scan(&c.Client, &c.Outcome, &c.Note, &c.By, &c.At)
		return c, err
	}, `select k.client_id, k.outcome, k.note, coalesce(a.name, ''), k.at from recall_call k
		left join account a on a.studio_id = k.studio_id and a.id = k.account_id
		where k.studio_id = $1 and k.recall_id = $2 order by k.at, k.id`, t.studio, recall)
}
