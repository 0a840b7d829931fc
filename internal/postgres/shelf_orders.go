package postgres

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// OrderSettings is how the studio orders and counts.
func (t *Tx) OrderSettings(ctx context.Context) (*shelfroom.OrderSettings, error) {
	var x shelfroom.OrderSettings
	err := t.row(ctx, `select service_level, holding_percent, most_months, blind_count, least_life_days, scale_step
		from order_settings where studio_id = $1`, t.studio).
		Scan(&x.ServiceLevel, &x.HoldingPercent, &x.MostMonths, &x.BlindCount, &x.LeastLifeDays, &x.ScaleStep)
	return found(&x, err)
}

// SaveOrderSettings writes how the studio orders and counts.
func (t *Tx) SaveOrderSettings(ctx context.Context, x *shelfroom.OrderSettings) error {
	return t.exec(ctx, `insert into order_settings (studio_id, service_level, holding_percent, most_months, blind_count, least_life_days, scale_step)
		values ($1, $2, $3, $4, $5, $6, $7)
		on conflict (studio_id) do update set service_level = $2, holding_percent = $3, most_months = $4, blind_count = $5,
			least_life_days = $6, scale_step = $7`,
		t.studio, x.ServiceLevel, x.HoldingPercent, x.MostMonths, x.BlindCount, x.LeastLifeDays, x.ScaleStep)
}

// Suppliers lists suppliers by name: those that were written down, and those that products name.
func (t *Tx) Suppliers(ctx context.Context) ([]shelfroom.Supplier, error) {
	return list(ctx, t, func(r fields) (x shelfroom.Supplier, err error) {
		err = r.Scan(&x.Name, &x.LeastValue, &x.OrderCost, &x.Email)
		return x, err
	}, `select n.name, coalesce(s.least_value, 0), coalesce(s.order_cost, 9), coalesce(s.email, '')
		from (select name from supplier where studio_id = $1
			union select supplier from product where studio_id = $1 and supplier <> '') n
		left join supplier s on s.studio_id = $1 and s.name = n.name
		order by lower(n.name), n.name`, t.studio)
}

// SaveSupplier writes what is known of a supplier.
func (t *Tx) SaveSupplier(ctx context.Context, x *shelfroom.Supplier) error {
	return t.exec(ctx, `insert into supplier (studio_id, name, least_value, order_cost, email) values ($1, $2, $3, $4, $5)
		on conflict (studio_id, name) do update set least_value = $3, order_cost = $4, email = $5`,
		t.studio, x.Name, x.LeastValue, x.OrderCost, x.Email)
}

// Leads lists how long the newest ten deliveries of each supplier took, each day of delivery of an order once.
func (t *Tx) Leads(ctx context.Context) ([]shelfroom.Lead, error) {
	return list(ctx, t, func(r fields) (l shelfroom.Lead, err error) {
		err = r.Scan(&l.Supplier, &l.Days)
		return l, err
	}, `select supplier, days from (
			select o.supplier, c.received_on - o.ordered_on as days, c.received_on,
				row_number() over (partition by o.supplier order by c.received_on desc, o.number desc) as n
			from (select distinct order_id, received_on from cost_layer where studio_id = $1 and order_id is not null) c
			join purchase_order o on o.studio_id = $1 and o.id = c.order_id) d
		where n <= 10 order by supplier, received_on`, t.studio)
}

// OnOrder lists what has not come yet, by day of the order.
func (t *Tx) OnOrder(ctx context.Context) ([]shelfroom.Coming, error) {
	return list(ctx, t, func(r fields) (c shelfroom.Coming, err error) {
		err = r.Scan(&c.Product, &c.Amount, &c.Ordered, &c.NeededBy)
		return c, err
	}, `select l.product_id, (l.packs - l.received) * l.pack_size, o.ordered_on::text, coalesce(o.needed_by::text, '')
		from purchase_order o join order_line l on l.studio_id = o.studio_id and l.order_id = o.id
		where o.studio_id = $1 and o.state in ('sent', 'part received') and l.packs > l.received
		order by o.ordered_on, o.number`, t.studio)
}

const orderColumns = `select id, number, supplier, state, coalesce(ordered_on::text, ''), coalesce(needed_by::text, ''), note, revision
	from purchase_order where studio_id = $1`

func scanOrder(r fields) (o shelfroom.PurchaseOrder, err error) {
	err = r.Scan(&o.ID, &o.Number, &o.Supplier, &o.State, &o.OrderedOn, &o.NeededBy, &o.Note, &o.Revision)
	o.Lines = []shelfroom.OrderLine{}
	return o, err
}

// Orders lists orders, newest first, with their lines; those alone that are not ended, where so asked.
func (t *Tx) Orders(ctx context.Context, openOnly bool) ([]shelfroom.PurchaseOrder, error) {
	out, err := list(ctx, t, scanOrder, orderColumns+` and (not $2 or state in ('draft', 'sent', 'part received'))
		order by created_at desc, id limit 200`, t.studio, openOnly)
	if err != nil {
		return nil, err
	}
	return out, t.orderLines(ctx, out)
}

// LockOrder returns an order and holds it until the transaction ends.
func (t *Tx) LockOrder(ctx context.Context, id uuid.UUID) (*shelfroom.PurchaseOrder, error) {
	out, err := list(ctx, t, scanOrder, orderColumns+" and id = $2 for update", t.studio, id)
	if err != nil {
		return nil, err
	}
	if len(out) == 0 {
		return nil, studio.ErrNotFound
	}
	return &out[0], t.orderLines(ctx, out)
}

// orderLines fills in the lines of orders.
func (t *Tx) orderLines(ctx context.Context, orders []shelfroom.PurchaseOrder) error {
	of := make([]uuid.UUID, len(orders))
	for i := range orders {
		of[i] = orders[i].ID
	}
	type row struct {
		order uuid.UUID
		line  shelfroom.OrderLine
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		l := &x.line
		err = r.Scan(&x.order, &l.Product, &l.Name, &l.Article, &l.GTIN, &l.Unit, &l.Packs, &l.PackSize, &l.Price, &l.Received, &l.Why, &l.MonthsOpen)
		return x, err
	}, `select l.order_id, p.id, p.name, p.article_no, p.gtin, p.unit, l.packs, l.pack_size, l.pack_price, l.received, l.why, p.months_open
		from order_line l join product p on p.studio_id = l.studio_id and p.id = l.product_id
		where l.studio_id = $1 and l.order_id = any($2::uuid[]) order by l.order_id, l.position`, t.studio, ids(of))
	if err != nil {
		return err
	}
	for _, x := range rows {
		o := &orders[slices.Index(of, x.order)]
		if o.State != shelfroom.ClosedShort {
			x.line.ToCome = max(0, x.line.Packs-x.line.Received)
		}
		o.Lines, o.Value = append(o.Lines, x.line), o.Value.Add(x.line.Total())
	}
	return nil
}

// NextOrderNumber is the next number of a year; who asks holds the numbers until the transaction ends.
func (t *Tx) NextOrderNumber(ctx context.Context, year string) (string, error) {
	if err := t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('orders of ' || $1::text, 0))", t.studio); err != nil {
		return "", err
	}
	var last int
	err := t.row(ctx, `select coalesce(max(substr(number, 6)::int), 0) from purchase_order
		where studio_id = $1 and number like $2 || '-%'`, t.studio, year).Scan(&last)
	return fmt.Sprintf("%s-%03d", year, last+1), translate(err)
}

// AddOrder adds an order with its lines.
func (t *Tx) AddOrder(ctx context.Context, o *shelfroom.PurchaseOrder, by uuid.UUID, at time.Time) error {
	err := t.exec(ctx, `insert into purchase_order (studio_id, id, number, supplier, state, ordered_on, needed_by, note, account_id, created_at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		t.studio, o.ID, o.Number, o.Supplier, o.State, day(o.OrderedOn), day(o.NeededBy), o.Note, by, at)
	if err != nil {
		return err
	}
	return t.addOrderLines(ctx, o)
}

func (t *Tx) addOrderLines(ctx context.Context, o *shelfroom.PurchaseOrder) error {
	for i := range o.Lines {
		l := &o.Lines[i]
		err := t.exec(ctx, `insert into order_line (studio_id, order_id, position, product_id, packs, pack_size, pack_price, received, why)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
			t.studio, o.ID, i, l.Product, l.Packs, l.PackSize, l.Price, l.Received, l.Why)
		if err != nil {
			return err
		}
	}
	return nil
}

// SaveOrder writes an order that was locked, with its lines.
func (t *Tx) SaveOrder(ctx context.Context, o *shelfroom.PurchaseOrder) error {
	err := t.one(ctx, `update purchase_order set supplier = $3, state = $4, ordered_on = $5, needed_by = $6, note = $7, revision = $8
		where studio_id = $1 and id = $2`,
		t.studio, o.ID, o.Supplier, o.State, day(o.OrderedOn), day(o.NeededBy), o.Note, o.Revision)
	if err != nil {
		return err
	}
	if err := t.exec(ctx, "delete from order_line where studio_id = $1 and order_id = $2", t.studio, o.ID); err != nil {
		return err
	}
	return t.addOrderLines(ctx, o)
}
