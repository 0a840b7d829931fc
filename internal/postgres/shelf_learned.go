package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// ToCome lists the visits between two moments that are still to begin, by start.
func (t *Tx) ToCome(ctx context.Context, from, to time.Time) ([]shelfroom.VisitToCome, error) {
	return list(ctx, t, func(r fields) (v shelfroom.VisitToCome, err error) {
		var plan uuid.NullUUID
		err = r.Scan(&plan, &v.Version, &v.Practitioner, &v.Kind, &v.StartsAt, doc[[]studio.VisitPart]{&v.Also}, &v.Skin.Type, textList{&v.Skin.States})
		v.Protocol = plan.UUID
		return v, err
	}, `select v.protocol_id, coalesce(v.protocol_version, 0), v.practitioner_id, v.kind, v.starts_at, v.also, c.skin_type, c.skin_states::text
		from visit v join client c on c.studio_id = v.studio_id and c.id = v.client_id
		where v.studio_id = $1 and v.starts_at >= $2 and v.starts_at < $3 and v.state in ('booked', 'confirmed', 'arrived')
		order by v.starts_at, v.id`, t.studio, from, to)
}

// Doses lists what was measured of products (all where none is named) that still teaches, oldest first, at
// most 60 by product and practitioner.
func (t *Tx) Doses(ctx context.Context, products []uuid.UUID) ([]studio.DoseRecord, error) {
	return list(ctx, t, func(r fields) (d studio.DoseRecord, err error) {
		err = r.Scan(&d.Product, &d.Practitioner, &d.Planned, &d.Real, &d.How)
		d.Dosed.Practitioner = d.Practitioner.String()
		return d, err
	}, `select p.id, w.id, u.planned, u.used, u.how
		from product p join practitioner w on w.studio_id = p.studio_id
		cross join lateral (select planned, used, how, at from product_use u
			where u.studio_id = p.studio_id and u.product_id = p.id and u.practitioner_id = w.id and u.how <> 'as planned'
				and u.at > coalesce((select s.since from learned_since s
					where s.studio_id = p.studio_id and s.product_id = p.id and s.kind = 'dose'), '-infinity')
			order by u.at desc limit 60) u
		where p.studio_id = $1 and (cardinality($2::uuid[]) = 0 or p.id = any($2::uuid[]))
		order by u.at, p.id`, t.studio, ids(products))
}

// UseByDay sums what treatments used, by product and day, since a day.
func (t *Tx) UseByDay(ctx context.Context, since string) ([]shelfroom.DayUse, error) {
	return list(ctx, t, func(r fields) (d shelfroom.DayUse, err error) {
		err = r.Scan(&d.Product, &d.Day, &d.Used)
		return d, err
	}, `select product_id, day::text, sum(used) from product_use where studio_id = $1 and day >= $2
		group by product_id, day order by product_id, day`, t.studio, since)
}

// UseByMonth sums what treatments used in full calendar years before a day, by product, year and month, with
// the days on which anything was used; the year of the first use is not a full one.
func (t *Tx) UseByMonth(ctx context.Context, before string) ([]shelfroom.MonthUse, error) {
	return list(ctx, t, func(r fields) (m shelfroom.MonthUse, err error) {
		err = r.Scan(&m.Product, &m.Year, &m.Month, &m.Used, &m.OpenDays)
		return m, err
	}, `with open as (select to_char(day, 'YYYY') y, to_char(day, 'MM') m, count(*) days from use_day
			where studio_id = $1 and day < $2 and day >= (select date_trunc('year', min(day)) + interval '1 year' from use_day where studio_id = $1)
			group by 1, 2)
		select p.product_id, o.y, o.m, coalesce(u.used, 0), o.days
		from (select distinct product_id from use_month where studio_id = $1) p cross join open o
		left join use_month u on u.studio_id = $1 and u.product_id = p.product_id and u.month = (o.y || '-' || o.m || '-01')::date
		order by p.product_id, o.y, o.m`, t.studio, before)
}

// Kept counts the treatments that were to be between two moments, and those that took place.
func (t *Tx) Kept(ctx context.Context, since, until time.Time) (booked, kept int, err error) {
	err = t.row(ctx, `select count(*), count(*) filter (where state in ('done', 'broken-off', 'in-room'))
		from visit where studio_id = $1 and starts_at >= $2 and starts_at < $3
			and state in ('done', 'broken-off', 'in-room', 'no-show', 'late-cancelled')`, t.studio, since, until).Scan(&booked, &kept)
	return booked, kept, translate(err)
}

// AddCalibration keeps how a measure of a product was weighed.
func (t *Tx) AddCalibration(
	ctx context.Context, product uuid.UUID, n *shelfroom.NewCalibration, r *shelf.Calibrated, day string, by uuid.UUID, at time.Time,
) error {
	grams := make([]string, len(n.Grams))
	for i, g := range n.Grams {
		grams[i] = g.String()
	}
	return t.exec(ctx, `insert into calibration (studio_id, id, product_id, measure, day, count, readings, scale_step, density,
			ml_each, per_ml, error_percent, closure, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7::numeric[], $8, $9, $10, $11, $12, $13, $14, $15)`,
		t.studio, studio.NewID(), product, n.Measure, day, n.Each, texts(grams), n.Step, n.Density,
		r.MLEach, r.PerML, r.ErrorPercent, n.Closure, by, at)
}

// Calibrations lists the newest of each measure of a product.
func (t *Tx) Calibrations(ctx context.Context, product uuid.UUID) ([]shelfroom.CalibrationLine, error) {
	return list(ctx, t, func(r fields) (c shelfroom.CalibrationLine, err error) {
		err = r.Scan(&c.Measure, &c.Day, &c.MLEach, &c.PerML, &c.ErrorPercent, &c.Closure, &c.ClosureChanged)
		return c, err
	}, `select distinct on (measure) measure, day::text, ml_each::text, per_ml::text, error_percent::text, closure,
			coalesce(closure_changed_on::text, '')
		from calibration where studio_id = $1 and product_id = $2 order by measure, at desc`, t.studio, product)
}

// ClosureChanged marks the newest calibration of each measure of a product: the closure is another since a day.
func (t *Tx) ClosureChanged(ctx context.Context, product uuid.UUID, day string) error {
	return t.exec(ctx, `update calibration set closure_changed_on = $3 where studio_id = $1 and closure_changed_on is null and id in (
			select distinct on (measure) id from calibration where studio_id = $1 and product_id = $2 order by measure, at desc)`,
		t.studio, product, day)
}

// UsesOf lists the newest uses of a product since its doses were forgotten, oldest first.
func (t *Tx) UsesOf(ctx context.Context, product uuid.UUID, limit int) ([]studio.ProductUse, error) {
	return list(ctx, t, func(r fields) (u studio.ProductUse, err error) {
		err = r.Scan(&u.Visit, &u.Product, &u.Practitioner, &u.Protocol, &u.Day, &u.Planned, &u.Used, &u.How, &u.Measure, &u.Cost, &u.OverPlan, &u.At)
		return u, err
	}, `select * from (select visit_id, product_id, practitioner_id, protocol_id, day::text, planned, used, how, measure, cost, over_plan, at
			from product_use where studio_id = $1 and product_id = $2
				and at > (select coalesce(max(since), '-infinity') from learned_since where studio_id = $1 and product_id = $2 and kind = 'dose')
			order by at desc`+atMost(limit)+`) u
		order by at`, t.studio, product)
}

// NamedUses counts the uses since a day that are alike, with the names of product, protocol and practitioner.
func (t *Tx) NamedUses(ctx context.Context, since string) ([]shelfroom.NamedUse, error) {
	return list(ctx, t, func(r fields) (u shelfroom.NamedUse, err error) {
		err = r.Scan(&u.Month, &u.Planned, &u.Real, &u.How, &u.Times, &u.OverPlan, &u.ProductName, &u.ProtocolName, &u.PractitionerName)
		return u, err
	}, `with alike as (select date_trunc('month', day::timestamp) as month, product_id, protocol_id, practitioner_id, planned, used, how,
				count(*) as times, sum(over_plan) as over
			from product_use where studio_id = $1 and day >= $2 group by 1, 2, 3, 4, 5, 6, 7),
		named as (select distinct on (protocol_id) protocol_id, name from protocol_version
			where studio_id = $1 order by protocol_id, number desc)
		select to_char(u.month, 'YYYY-MM'), u.planned, u.used, u.how, u.times, u.over, p.name, coalesce(o.name, ''), w.name
		from alike u
		join product p on p.studio_id = $1 and p.id = u.product_id
		join practitioner w on w.studio_id = $1 and w.id = u.practitioner_id
		left join named o using (protocol_id)`, t.studio, since)
}

// LayersLeft lists, oldest first, those deliveries of each product that are left where the oldest are emptied first.
func (t *Tx) LayersLeft(ctx context.Context) (map[uuid.UUID][]shelf.Layer, error) {
	type row struct {
		product  uuid.UUID
		layer    shelf.Layer
		currency string
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.product, &x.layer.Cost, &x.layer.Amount, &x.currency)
		return x, err
	}, `with stock as (select product_id, sum(remaining) as left_of from pack where studio_id = $1 and remaining > 0 group by product_id),
		delivery as (select l.product_id, c.cost, c.amount, c.received_on, c.id,
				sum(c.amount) over (partition by l.product_id order by c.received_on desc, c.id desc) - c.amount as newer
			from stock s join lot l on l.studio_id = $1 and l.product_id = s.product_id
			join cost_layer c on c.studio_id = l.studio_id and c.lot_id = l.id)
		select d.product_id, d.cost, d.amount, (select currency from studio where id = $1) from delivery d join stock s using (product_id)
		where d.newer < s.left_of order by d.product_id, d.received_on, d.id`, t.studio)
	out := map[uuid.UUID][]shelf.Layer{}
	for _, x := range rows {
		x.layer.Minor = studio.MinorOf(x.currency)
		out[x.product] = append(out[x.product], x.layer)
	}
	return out, err
}

// OverPlan is what was used of a product beyond the plan since a day, at the cost of its lots.
func (t *Tx) OverPlan(ctx context.Context, product uuid.UUID, since string) (sum decimal.Decimal, err error) {
	err = t.row(ctx, `select coalesce(sum(over_plan), 0) from product_use
		where studio_id = $1 and product_id = $2 and day >= $3`, t.studio, product, since).Scan(&sum)
	return sum, translate(err)
}

// Wasted lists what was wasted of a product and used of it by month since a day, newest first. What was taken
// back is not counted.
func (t *Tx) Wasted(ctx context.Context, product uuid.UUID, since, zone string) ([]shelfroom.MonthWaste, error) {
	return list(ctx, t, func(r fields) (m shelfroom.MonthWaste, err error) {
		err = r.Scan(&m.Month, &m.Wasted, &m.Used, doc[[]string]{&m.Reasons})
		return m, err
	}, `with gone as (
			select to_char(m.at at time zone $4, 'YYYY-MM') as month, m.reason, -sum(m.amount) as amount
			from stock_movement m
			where m.studio_id = $1 and m.product_id = $2 and m.at >= (select $3::date::timestamp at time zone $4) and m.kind = 'waste'
				and not exists (select 1 from stock_movement c where c.studio_id = m.studio_id and c.counters = m.id)
			group by 1, 2),
		wasted as (select month, sum(amount) as amount, jsonb_agg(reason order by amount desc, reason) as reasons from gone group by 1),
		used as (select to_char(month, 'YYYY-MM') as month, used from use_month where studio_id = $1 and product_id = $2 and month >= $3::date)
		select month, coalesce(w.amount, 0), coalesce(u.used, 0), coalesce(w.reasons, '[]')
		from wasted w full join used u using (month) order by month desc`, t.studio, product, since, zone)
}

// Observations lists how long a product slid since that was forgotten, oldest first.
func (t *Tx) Observations(ctx context.Context, product uuid.UUID) ([]shelf.Slid, error) {
	return list(ctx, t, func(r fields) (s shelf.Slid, err error) {
		var skin, from, need float64
		err = r.Scan(&s.Minute, &s.Kind, &skin, &from, &need)
		s.Skin, s.Slip0, s.Need = &skin, &from, &need
		return s, err
	}, `select * from (select minute::float8, kind, skin::float8, slip::float8, need::float8 from slip_observation where studio_id = $1 and product_id = $2
				and at > (select coalesce(max(since), '-infinity') from learned_since where studio_id = $1 and product_id = $2 and kind = 'half-life')
			order by at desc limit 60) o`, t.studio, product)
}

// SaveHalfLife keeps what records teach of how long a product slides; 0 minutes where they teach nothing.
func (t *Tx) SaveHalfLife(ctx context.Context, product uuid.UUID, minutes float64, from int) error {
	return t.one(ctx, "update product set learned_half_life = $3, learned_from = $4 where studio_id = $1 and id = $2",
		t.studio, product, minutes, from)
}

// ForgetLearned starts over what records teach of a product.
func (t *Tx) ForgetLearned(ctx context.Context, product uuid.UUID, kind string, at time.Time, by uuid.UUID) error {
	return t.exec(ctx, `insert into learned_since (studio_id, product_id, kind, since, account_id) values ($1, $2, $3, $4, $5)
		on conflict (studio_id, product_id, kind) do update set since = excluded.since, account_id = excluded.account_id`,
		t.studio, product, kind, at, by)
}
