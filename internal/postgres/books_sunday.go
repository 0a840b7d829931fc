package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
)

// TakenByWay sums money in less money given back on some days.
func (t *Tx) TakenByWay(ctx context.Context, from, to string) (map[money.Way]decimal.Decimal, error) {
	type row struct {
		way    money.Way
		amount decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.way, &x.amount)
		return x, err
	}, `select way, sum(amount) from ledger_posting
		where studio_id = $1 and day between $2 and $3 and way in ('cash', 'card', 'bank') and account = way group by way`, t.studio, from, to)
	out := map[money.Way]decimal.Decimal{}
	for _, x := range rows {
		out[x.way] = x.amount
	}
	return out, err
}

// GivenVisits lists the treatments given between two moments, with what they cost and brought: all of them, or those of
// the protocol of a name. A visit's own receipt says what it brought, less what was given back, or its share of a series;
// the card's part is that of the receipt.
func (t *Tx) GivenVisits(ctx context.Context, from, to time.Time, protocol string) ([]books.GivenVisit, error) {
	zone, err := t.zoneOf(ctx)
	if err != nil {
		return nil, err
	}
	return list(ctx, t, func(r fields) (g books.GivenVisit, err error) {
		var net, card decimal.NullDecimal
		var began time.Time
		err = r.Scan(&g.Visit, &g.Protocol, &g.Practitioner, &g.Room, &began, &g.Minutes, &g.PlannedMinutes, &g.Products, &g.OverPlan,
			&g.Wear, &net, &card, &g.Percent)
		if net.Valid {
			g.Net = &net.Decimal
		}
		g.Card, g.Day = card.Decimal, began.In(zone).Format(time.DateOnly)
		return g, err
	}, `select v.id, b.name, h.name, m.name, v.starts_at, round(extract(epoch from v.busy_until - v.starts_at) / 60)::int,
			b.planned, coalesce(r.cost, 0), coalesce(u.over, 0), coalesce(w.wear, 0), coalesce(o.net, s.net), coalesce(o.card, s.card, 0),
			h.commission_treatments
		from visit v
		cross join lateral (select cost from treatment where studio_id = $1 and visit_id = v.id and finished_at is not null offset 0) r
		cross join lateral (select name, coalesce((body->'minutes'->>'sold')::int, 0) + coalesce((body->'minutes'->>'reset')::int, 0) as planned
			from protocol_version where studio_id = $1 and protocol_id = v.protocol_id and number = v.protocol_version offset 0) b
		join practitioner h on h.studio_id = v.studio_id and h.id = v.practitioner_id
		join room m on m.studio_id = v.studio_id and m.id = v.room_id
		left join lateral (select sum(over_plan) as over from product_use where studio_id = $1 and visit_id = v.id) u on true
		left join lateral (select sum(x.value::numeric * (l.body->>'price')::numeric / (l.body->>'expectedUses')::numeric) as wear
			from jsonb_each_text(v.tools) x join tool l on l.studio_id = $1 and l.key = x.key
			where coalesce((l.body->>'expectedUses')::numeric, 0) > 0) w on true
		left join lateral (select sum((l.line->>'net')::numeric) as net, sum((l.line->>'gross')::numeric * c.by_card) as card
			from (select id, document->'lines' as lines, `+cardPart+` as by_card from receipt
				where studio_id = $1 and visit_id = v.id and kind = 'sale' offset 0) c
			cross join lateral jsonb_array_elements(c.lines) with ordinality l (line, n)
			where l.line->>'kind' in ('treatment', 'extra')
				and not exists (select from line_given_back g where g.studio_id = $1 and g.receipt_id = c.id and g.line = l.n - 1)
			having count(*) > 0) o on true
		left join lateral (select h.net, h.gross * c.by_card as card from series_share h
			join sold_series q on q.studio_id = $1 and q.id = h.series_id
			cross join lateral (select `+cardPart+` as by_card from receipt where studio_id = $1 and id = q.receipt_id) c
			where h.studio_id = $1 and h.visit_id = v.id and h.receipt_id is null offset 0) s on true
		where v.studio_id = $1 and v.starts_at >= $2 and v.starts_at < $3 and ($4 = '' or b.name = $4) order by v.starts_at, v.id`,
		t.studio, from, to, protocol)
}

// cardPart is the part of a receipt that was paid by card.
const cardPart = `coalesce((select sum((x->>'taken')::numeric) from jsonb_array_elements(document->'ways') x where x->>'by' = 'card')
	/ nullif((document->>'due')::numeric, 0), 0)`

// UsedOver is what was used beyond the plan since a day, by practitioner.
func (t *Tx) UsedOver(ctx context.Context, since string) ([]books.OverBy, error) {
	return list(ctx, t, func(r fields) (o books.OverBy, err error) {
		err = r.Scan(&o.Name, &o.Factor, &o.Over)
		return o, err
	}, `select h.name, coalesce(round(sum(u.cost) / nullif(sum(u.cost - u.over_plan), 0), 2), 1), sum(u.over_plan)
		from product_use u join practitioner h on h.studio_id = u.studio_id and h.id = u.practitioner_id
		where u.studio_id = $1 and u.day >= $2 group by h.id, h.name order by sum(u.over_plan) desc, h.name`, t.studio, since)
}

// Debts lists what clients owe, the oldest first.
func (t *Tx) Debts(ctx context.Context) ([]books.Debt, error) {
	return list(ctx, t, func(r fields) (d books.Debt, err error) {
		var year, running int
		err = r.Scan(&d.Receipt, &year, &running, &d.Client, &d.Name, &d.Amount, &d.Settled, &d.Due)
		d.Number = books.NumberOfReceipt(year, running)
		return d, err
	}, `select d.receipt_id, r.year, r.running, d.client_id, coalesce(c.name, ''), d.amount, d.settled, d.due_on::text
		from debt d join receipt r on r.studio_id = d.studio_id and r.id = d.receipt_id
		left join client c on c.studio_id = d.studio_id and c.id = d.client_id
		where d.studio_id = $1 and d.settled < d.amount order by d.due_on, r.year, r.running`, t.studio)
}

// BookedAhead lists the visits that begin between two moments and take their time.
func (t *Tx) BookedAhead(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) {
	visits, err := t.Visits(ctx, from, to)
	out := []studio.VisitLine{}
	for i := range visits {
		if visits[i].State.TakesTime() {
			out = append(out, visits[i])
		}
	}
	return out, err
}

// NextBooked are the clients who have an appointment after a moment.
func (t *Tx) NextBooked(ctx context.Context, after time.Time) (map[uuid.UUID]bool, error) {
	ids, err := list(ctx, t, func(r fields) (id uuid.UUID, err error) {
		err = r.Scan(&id)
		return id, err
	}, `select distinct client_id from visit where studio_id = $1 and starts_at > $2 and kind = 'treatment'
		and state in ('booked', 'confirmed')`, t.studio, after)
	out := map[uuid.UUID]bool{}
	for _, id := range ids {
		out[id] = true
	}
	return out, err
}

// ClientNames are the names of clients.
func (t *Tx) ClientNames(ctx context.Context, of []uuid.UUID) (map[uuid.UUID]string, error) {
	type row struct {
		id   uuid.UUID
		name string
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.id, &x.name)
		return x, err
	}, "select id, name from client where studio_id = $1 and id = any($2::uuid[])", t.studio, ids(of))
	out := map[uuid.UUID]string{}
	for _, x := range rows {
		out[x.id] = x.name
	}
	return out, err
}

// PayTerms lists how practitioners are paid, by name.
func (t *Tx) PayTerms(ctx context.Context) ([]books.PayTerms, error) {
	return list(ctx, t, func(r fields) (p books.PayTerms, err error) {
		err = r.Scan(&p.Practitioner, &p.Name, &p.Grade, &p.Treatments, &p.Retail)
		return p, err
	}, `select id, name, grade, commission_treatments, commission_retail from practitioner
		where studio_id = $1 and left_at is null order by name, id`, t.studio)
}

// SavePayTerms writes how a practitioner is paid.
func (t *Tx) SavePayTerms(ctx context.Context, p *books.PayTerms) error {
	return t.one(ctx, `update practitioner set grade = $3, commission_treatments = $4, commission_retail = $5 where studio_id = $1 and id = $2`,
		t.studio, p.Practitioner, p.Grade, p.Treatments, p.Retail)
}

// Bases are the net takings of practitioners on some days.
func (t *Tx) Bases(ctx context.Context, from, to string) (map[uuid.UUID]money.Bases, error) {
	type row struct {
		who               uuid.UUID
		treatment, retail decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.who, &x.treatment, &x.retail)
		return x, err
	}, `select p.practitioner_id, coalesce(-sum(p.amount) filter (where p.account = 'treatments'), 0),
			coalesce(-sum(p.amount) filter (where p.account = 'retail'), 0)
		from ledger_posting p
		where p.studio_id = $1 and p.day between $2 and $3 and p.account in ('treatments', 'retail') and p.practitioner_id is not null
		group by p.practitioner_id`, t.studio, from, to)
	out := map[uuid.UUID]money.Bases{}
	for _, x := range rows {
		out[x.who] = money.Bases{Treatment: x.treatment, Retail: x.retail}
	}
	return out, err
}

// CommissionPosted reports whether a month's commission was posted.
func (t *Tx) CommissionPosted(ctx context.Context, month string) (posted bool, err error) {
	err = t.get(ctx, &posted, "select exists (select from ledger_event where studio_id = $1 and kind = 'commission' and note = $2)", t.studio, month)
	return posted, err
}

// movedKinds are the events of money that moves without a receipt.
const movedKinds = "('open', 'card-settle', 'pay-supplier', 'pay-commission', 'commission', 'pay-tips', 'settle-later')"

// MovedMoney lists money that moved without a receipt, the newest first.
func (t *Tx) MovedMoney(ctx context.Context, limit int) ([]books.MovedMoney, error) {
	return list(ctx, t, func(r fields) (m books.MovedMoney, err error) {
		err = r.Scan(&m.ID, &m.Kind, &m.Day, &m.Amount, &m.Note, &m.Countered)
		return m, err
	}, `select e.id, e.kind, e.day::text, coalesce((select sum(p.amount) from ledger_posting p where p.studio_id = e.studio_id and p.event_id = e.id
			and p.amount > 0), 0), e.note, exists (select from ledger_event c where c.studio_id = e.studio_id and c.counter_of = e.id)
		from ledger_event e where e.studio_id = $1 and e.kind in `+movedKinds+` order by e.no desc`+atMost(limit), t.studio)
}

// LockEvent returns an event of money that moved without a receipt, with its postings, and whether it was countered.
func (t *Tx) LockEvent(ctx context.Context, id uuid.UUID) (*studio.LedgerEvent, bool, error) {
	e := studio.LedgerEvent{ID: id}
	countered := false
	if err := t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('event ' || $1, 0))", id.String()); err != nil {
		return nil, false, err
	}
	err := t.row(ctx, `select e.kind, exists (select from ledger_event c where c.studio_id = e.studio_id and c.counter_of = e.id)
		from ledger_event e where e.studio_id = $1 and e.id = $2 and e.kind in `+movedKinds+` and e.kind <> 'settle-later'`, t.studio, id).
		Scan(&e.Kind, &countered)
	if _, err := found(&e, err); err != nil {
		return nil, false, err
	}
	e.Postings, err = list(ctx, t, func(r fields) (p money.Posting, err error) {
		err = r.Scan(&p.Account, &p.Amount, &p.Practitioner, &p.Way)
		return p, err
	}, `select account, amount, coalesce(practitioner_id::text, ''), way from ledger_posting where studio_id = $1 and event_id = $2 order by n`, t.studio, id)
	return &e, countered, err
}
