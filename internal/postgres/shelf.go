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

// productColumns are those of a product, in the order in which they are scanned.
const productColumns = `id, key, name, form, unit, pack_size, price, full_dose, range_min, range_max,
	drops_per_ml, ml_per_press, density, half_life, tags::text, unsuited::text, reorder_at, ingredients::text, revision,
	use, place, supplier, article_no, gtin, lead_days, min_packs, months_open, tare_g, ml_per_spatula, per_visit,
	learned_half_life, learned_from, per_protocol`

func scanProduct(r fields) (p studio.Product, err error) {
	var tare decimal.NullDecimal
	err = r.Scan(
		&p.ID, &p.Key, &p.Name, &p.Form, &p.Unit, &p.PackSize, &p.Price, &p.FullDose, &p.RangeMin, &p.RangeMax,
		&p.DropsPerML, &p.MLPerPump, &p.Density, &p.HalfLife, textList{&p.Tags}, textList{&p.Unsuited}, &p.ReorderAt,
		textList{&p.Ingredients}, &p.Revision,
		&p.Use, &p.Place, &p.Supplier, &p.Article, &p.GTIN, &p.LeadDays, &p.MinPacks, &p.MonthsOpen, &tare,
		&p.MLPerSpatula, &p.PerVisit, &p.LearnedHalfLife, &p.LearnedFrom, doc[map[string]int]{&p.PerProtocol},
	)
	if tare.Valid {
		p.Tare = &tare.Decimal
	}
	return p, err
}

// Products lists products by name. What is mixed here carries what its parts carry.
func (t *Tx) Products(ctx context.Context) ([]studio.Product, error) {
	return keptList(ctx, t, "products", studio.InCatalog, func() ([]studio.Product, error) {
		out, err := list(ctx, t, scanProduct, "select "+productColumns+" from product where studio_id = $1 order by lower(name), id", t.studio)
		if err != nil {
			return nil, err
		}
		mixings, err := t.mixings(ctx)
		if err != nil {
			return nil, err
		}
		studio.CarryParts(out, mixings)
		return out, nil
	})
}

// AddProduct adds a product.
func (t *Tx) AddProduct(ctx context.Context, p *studio.Product) error {
	return t.exec(
		ctx,
		`insert into product (studio_id, id, key, name, form, unit, pack_size, price, full_dose, range_min, range_max,
			drops_per_ml, ml_per_press, density, half_life, tags, unsuited, reorder_at, ingredients,
			use, place, supplier, article_no, gtin, lead_days, min_packs, months_open, tare_g, ml_per_spatula, per_visit, per_protocol)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19,
			$20, $21, $22, $23, $24, $25, $26, $27, $28, $29, $30, $31)`,
		t.studio, p.ID, p.Key, p.Name, p.Form, p.Unit, p.PackSize, p.Price, p.FullDose, p.RangeMin, p.RangeMax,
		p.DropsPerML, p.MLPerPump, p.Density, p.HalfLife, texts(p.Tags), texts(p.Unsuited), p.ReorderAt, texts(p.Ingredients),
		p.Use, p.Place, p.Supplier, p.Article, p.GTIN, p.LeadDays, p.MinPacks, p.MonthsOpen, p.Tare, p.MLPerSpatula, p.PerVisit, perProtocol(p),
	)
}

// perProtocol is how many pieces protocols take, as it is stored.
func perProtocol(p *studio.Product) []byte {
	if p.PerProtocol == nil {
		return []byte("{}")
	}
	return document(p.PerProtocol)
}

// SaveSupply writes how a product is bought, kept and measured.
func (t *Tx) SaveSupply(ctx context.Context, p *studio.Product) error {
	return t.one(ctx, `update product set use = $3, place = $4, supplier = $5, article_no = $6, gtin = $7, lead_days = $8,
			min_packs = $9, months_open = $10, tare_g = $11, per_visit = $12, reorder_at = $13, pack_size = $14,
			drops_per_ml = $15, ml_per_press = $16, ml_per_spatula = $17, density = $18, per_protocol = $19
		where studio_id = $1 and id = $2`,
		t.studio, p.ID, p.Use, p.Place, p.Supplier, p.Article, p.GTIN, p.LeadDays, p.MinPacks, p.MonthsOpen, p.Tare,
		p.PerVisit, p.ReorderAt, p.PackSize, p.DropsPerML, p.MLPerPump, p.MLPerSpatula, p.Density, perProtocol(p))
}

// LockContents returns what a product is made of and holds it until the transaction ends.
func (t *Tx) LockContents(ctx context.Context, product uuid.UUID) (*studio.RevisedContents, error) {
	var c studio.RevisedContents
	err := t.row(ctx, `select ingredients::text, tags::text, unsuited::text, revision
		from product where studio_id = $1 and id = $2 for update`, t.studio, product).
		Scan(textList{&c.Ingredients}, textList{&c.Tags}, textList{&c.Unsuited}, &c.Revision)
	return found(&c, err)
}

// SaveContents writes what a product is made of, as the next revision.
func (t *Tx) SaveContents(ctx context.Context, product uuid.UUID, c studio.Contents) error {
	return t.one(ctx, `update product set ingredients = $3, tags = $4, unsuited = $5, revision = revision + 1
		where studio_id = $1 and id = $2`,
		t.studio, product, texts(c.Ingredients), texts(c.Tags), texts(c.Unsuited))
}

// packColumns are those of a pack with its lot, in the order in which they are scanned.
const packColumns = `p.id, p.product_id, p.lot_id, p.layer_id, l.number, p.number, l.expiry::text, p.opened_on::text,
	l.months_open, p.remaining, p.size, p.side, l.received_on::text, p.blocked, p.recalled,
	exists (select from batch b where b.studio_id = l.studio_id and b.lot_id = l.id)`

func scanPack(r fields) (p studio.Pack, err error) {
	err = r.Scan(&p.ID, &p.Product, &p.LotID, &p.Layer, &p.Lot, &p.Number, &p.Expiry, &p.Opened,
		&p.MonthsOpen, &p.Left, &p.Size, &p.Side, &p.Received, &p.Why, &p.Recalled, &p.Batch)
	p.Blocked = p.Why != ""
	return p, err
}

// Packs lists the packs that hold something, and testers that stand out, first to expire first.
func (t *Tx) Packs(ctx context.Context) ([]studio.Pack, error) {
	return keptList(ctx, t, "packs", studio.InStock, func() ([]studio.Pack, error) {
		return list(ctx, t, scanPack, "select "+packColumns+` from pack p
			cross join lateral (select * from lot where studio_id = $1 and id = p.lot_id offset 0) l
			where p.studio_id = $1 and (p.remaining > 0 or p.side = 'tester')
			order by l.expiry nulls last, l.number, p.number, p.id`, t.studio)
	})
}

// HoldPacks lists the packs of products and holds them until the transaction ends. Who holds a product's
// packs holds the product: it is one lock, whatever packs there are.
func (t *Tx) HoldPacks(ctx context.Context, products []uuid.UUID) ([]studio.Pack, error) {
	err := t.exec(ctx, "select id from product where studio_id = $1 and id = any($2::uuid[]) order by id for no key update",
		t.studio, ids(products))
	if err != nil {
		return nil, err
	}
	return list(ctx, t, scanPack, "select "+packColumns+` from pack p
		join lot l on l.studio_id = p.studio_id and l.id = p.lot_id
		where p.studio_id = $1 and p.product_id = any($2::uuid[])
		order by l.expiry nulls last, l.number, p.number, p.id`, t.studio, ids(products))
}

// HoldLeft lists the packs of products that hold something, the newest of each, and those named, and holds them.
func (t *Tx) HoldLeft(ctx context.Context, products, also []uuid.UUID) ([]studio.Pack, error) {
	err := t.exec(ctx, `select id from product where studio_id = $1
			and id = any($2::uuid[] || array(select product_id from pack where studio_id = $1 and id = any($3::uuid[]))) order by id for no key update`,
		t.studio, ids(products), ids(also))
	if err != nil {
		return nil, err
	}
	// Each pack and its lot are looked up by themselves (offset 0): PostgreSQL takes the few for many, and would read all there ever were.
	return list(ctx, t, scanPack, "select "+packColumns+` from (
			select id from pack where studio_id = $1 and product_id = any($2::uuid[]) and remaining > 0
			union select n.id from unnest($2::uuid[]) x cross join lateral
				(select id from pack where studio_id = $1 and product_id = x order by id desc limit 1) n
			union select unnest($3::uuid[])) wanted
		cross join lateral (select * from pack where studio_id = $1 and id = wanted.id offset 0) p
		cross join lateral (select * from lot where studio_id = $1 and id = p.lot_id offset 0) l
		order by l.expiry nulls last, l.number, p.number, p.id`, t.studio, ids(products), ids(also))
}

// Layers lists what deliveries cost, with what is left of each.
func (t *Tx) Layers(ctx context.Context, layers []uuid.UUID) (map[uuid.UUID]*shelf.Layer, error) {
	type row struct {
		id       uuid.UUID
		layer    shelf.Layer
		currency string
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.id, &x.layer.Cost, &x.layer.Amount, &x.layer.Left, &x.currency)
		return x, err
	}, `select c.id, c.cost, c.amount, (select sum(p.remaining) from pack p where p.studio_id = c.studio_id and p.layer_id = c.id),
			(select currency from studio where id = $1)
		from cost_layer c where c.studio_id = $1 and c.id = any($2::uuid[])`, t.studio, ids(layers))
	out := make(map[uuid.UUID]*shelf.Layer, len(rows))
	for i := range rows {
		rows[i].layer.Minor = studio.MinorOf(rows[i].currency)
		out[rows[i].id] = &rows[i].layer
	}
	return out, err
}

// AverageWorths is what products are worth by moving average.
func (t *Tx) AverageWorths(ctx context.Context, products []uuid.UUID) (map[uuid.UUID]decimal.Decimal, error) {
	type row struct {
		id    uuid.UUID
		worth decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.id, &x.worth)
		return x, err
	}, "select id, average_worth from product where studio_id = $1 and id = any($2::uuid[])", t.studio, ids(products))
	out := make(map[uuid.UUID]decimal.Decimal, len(rows))
	for _, x := range rows {
		out[x.id] = x.worth
	}
	return out, err
}

// LotCounted is the day on which a lot was last counted in a stocktake that is closed, empty where it never was,
// and the moment at which that was closed.
func (t *Tx) LotCounted(ctx context.Context, lot uuid.UUID, zone string) (day string, at time.Time, err error) {
	err = t.row(ctx, `select coalesce(to_char(max(s.closed_at) at time zone $3, 'YYYY-MM-DD'), ''), coalesce(max(s.closed_at), 'epoch')
		from pack p join stocktake_line l on l.studio_id = p.studio_id and l.pack_id = p.id
		join stocktake s on s.studio_id = l.studio_id and s.id = l.stocktake_id
		where p.studio_id = $1 and p.lot_id = $2`, t.studio, lot, zone).Scan(&day, &at)
	return day, at, translate(err)
}

// Lot returns a lot.
func (t *Tx) Lot(ctx context.Context, id uuid.UUID) (*studio.Lot, error) {
	var l studio.Lot
	err := t.row(ctx, `select id, product_id, number, coalesce(expiry::text, ''), received_on::text, months_open
		from lot where studio_id = $1 and id = $2`, t.studio, id).
		Scan(&l.ID, &l.Product, &l.Number, &l.Expiry, &l.Received, &l.MonthsOpen)
	return found(&l, err)
}

// LotNumbered returns the lot of a product with a number.
func (t *Tx) LotNumbered(ctx context.Context, product uuid.UUID, number string) (*studio.Lot, error) {
	var l studio.Lot
	err := t.row(ctx, `select id, product_id, number, coalesce(expiry::text, ''), received_on::text, months_open
		from lot where studio_id = $1 and product_id = $2 and number = $3`, t.studio, product, number).
		Scan(&l.ID, &l.Product, &l.Number, &l.Expiry, &l.Received, &l.MonthsOpen)
	return found(&l, err)
}

// ProductOfPack is the product of a pack.
func (t *Tx) ProductOfPack(ctx context.Context, pack uuid.UUID) (id uuid.UUID, err error) {
	p, err := found(&id, t.row(ctx, "select product_id from pack where studio_id = $1 and id = $2", t.studio, pack).Scan(&id))
	if err != nil {
		return id, err
	}
	return *p, nil
}

// AddLot adds a lot; its packs come with a delivery or a batch.
func (t *Tx) AddLot(ctx context.Context, l *studio.Lot) error {
	return t.exec(ctx, `insert into lot (studio_id, id, product_id, number, expiry, received_on, months_open)
		values ($1, $2, $3, $4, $5, $6, $7)`,
		t.studio, l.ID, l.Product, l.Number, day(l.Expiry), l.Received, l.MonthsOpen)
}

// AddLayer adds what a delivery of a lot cost, after those that are there, and returns its id and the
// number of the lot's last pack.
func (t *Tx) AddLayer(
	ctx context.Context, lot uuid.UUID, received string, cost, amount decimal.Decimal, order *uuid.UUID,
) (id uuid.UUID, packs int, err error) {
	id = studio.NewID()
	err = t.row(ctx, `insert into cost_layer (studio_id, id, lot_id, position, received_on, cost, amount, order_id)
		values ($1, $2, $3, (select count(*) + 1 from cost_layer where studio_id = $1 and lot_id = $3), $4, $5, $6, $7)
		returning (select coalesce(max(number), 0) from pack where studio_id = $1 and lot_id = $3)`,
		t.studio, id, lot, received, cost, amount, order).Scan(&packs)
	return id, packs, translate(err)
}

// AddPack adds a pack; what it holds comes with a movement.
func (t *Tx) AddPack(ctx context.Context, p *studio.Pack) error {
	return t.exec(ctx, `insert into pack (studio_id, id, product_id, lot_id, layer_id, number, size, side, opened_on)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.studio, p.ID, p.Product, p.LotID, p.Layer, p.Number, p.Size, p.Side, p.Opened)
}

// OpenPack says that a pack is open since a day.
func (t *Tx) OpenPack(ctx context.Context, pack uuid.UUID, day string, by *uuid.UUID) error {
	return t.one(ctx, "update pack set opened_on = $3, opened_by = $4 where studio_id = $1 and id = $2 and opened_on is null",
		t.studio, pack, day, by)
}

// SetSide puts a pack on another side of the shelf.
func (t *Tx) SetSide(ctx context.Context, pack uuid.UUID, side string) error {
	return t.one(ctx, "update pack set side = $3 where studio_id = $1 and id = $2", t.studio, pack, side)
}

// BlockLots blocks all packs of lots, or lets them be used again where no reason is given.
func (t *Tx) BlockLots(ctx context.Context, lots []uuid.UUID, why string, recalled bool, by uuid.UUID, at time.Time) error {
	return t.exec(ctx, `update pack set blocked = $3, recalled = $4, blocked_by = $5, blocked_at = $6
		where studio_id = $1 and lot_id = any($2::uuid[])`, t.studio, ids(lots), why, recalled, by, at)
}

// AddMovement adds a stock movement; it never changes again. The pack's remaining follows by itself.
func (t *Tx) AddMovement(ctx context.Context, m *studio.Movement) error {
	return t.exec(ctx, `insert into stock_movement (studio_id, id, pack_id, product_id, lot_id, kind, amount, value, planned, visit_id,
			client_id, into_lot, counters, account_id, sure, reason, note, at, average, tax, credit)
		values ($1, $2, $3, (select product_id from pack where studio_id = $1 and id = $3),
			$4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $20)`,
		t.studio, m.ID, m.Pack, m.Lot, m.Kind, m.Amount, m.Value, m.Planned, m.Visit,
		m.Client, m.IntoLot, m.Counters, m.Account, m.Sure, m.Reason, m.Note, m.At, m.Average, m.Tax, nullable(m.Credit))
}

// SoldOf is what was sold of a lot and not brought back.
func (t *Tx) SoldOf(ctx context.Context, lot uuid.UUID) (decimal.Decimal, error) {
	var sold decimal.Decimal
	err := t.row(ctx, `select -coalesce(sum(m.amount), 0) from stock_movement m
		left join stock_movement n on n.studio_id = m.studio_id and n.id = m.counters
		where m.studio_id = $1 and m.lot_id = $2 and coalesce(n.kind, m.kind) in ('retail', 'return')`, t.studio, lot).Scan(&sold)
	return sold, translate(err)
}

// movementColumns are those of a movement as it is shown.
const movementColumns = `m.id, m.pack_id, m.lot_id, m.kind, m.amount, m.value, m.planned, m.visit_id, m.client_id, m.into_lot,
	m.counters, m.account_id, m.sure, m.reason, m.note, m.at, m.tax, m.credit`

func scanMovement(r fields, m *studio.Movement, more ...any) error {
	var planned, credit decimal.NullDecimal
	err := r.Scan(append([]any{&m.ID, &m.Pack, &m.Lot, &m.Kind, &m.Amount, &m.Value, &planned, &m.Visit, &m.Client, &m.IntoLot,
		&m.Counters, &m.Account, &m.Sure, &m.Reason, &m.Note, &m.At, &m.Tax, &credit}, more...)...)
	if planned.Valid {
		m.Planned = &planned.Decimal
	}
	if credit.Valid {
		m.Credit = &credit.Decimal
	}
	return err
}

// Movement returns a movement and the one that took it back, where there is one.
func (t *Tx) Movement(ctx context.Context, id uuid.UUID) (*studio.Movement, *uuid.UUID, error) {
	type row struct {
		m  studio.Movement
		by *uuid.UUID
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = scanMovement(r, &x.m, &x.by)
		return x, err
	}, "select "+movementColumns+`, c.id from stock_movement m
		left join stock_movement c on c.studio_id = m.studio_id and c.counters = m.id
		where m.studio_id = $1 and m.id = $2`, t.studio, id)
	if err == nil && len(rows) == 0 {
		err = studio.ErrNotFound
	}
	if err != nil {
		return nil, nil, err
	}
	return &rows[0].m, rows[0].by, nil
}

// MovementsOf lists the movements of a product, newest first, from before a moment on, a page of them.
func (t *Tx) MovementsOf(ctx context.Context, product uuid.UUID, before time.Time, limit int) ([]shelfroom.MovementLine, error) {
	return list(ctx, t, func(r fields) (x shelfroom.MovementLine, err error) {
		err = scanMovement(r, &x.Movement, &x.LotNumber, &x.PackNumber, &x.By, &x.ClientName, &x.Countered)
		return x, err
	}, "select "+movementColumns+`, l.number, p.number, coalesce(a.name, ''),
			coalesce((select c.name from client c where c.studio_id = $1 and c.id = m.client_id),
				(select c.name from visit v join client c on c.studio_id = v.studio_id and c.id = v.client_id
					where v.studio_id = $1 and v.id = m.visit_id), ''),
			exists (select from stock_movement k where k.studio_id = $1 and k.counters = m.id)
		from (select * from stock_movement where studio_id = $1 and product_id = $2 and at < $3 order by at desc, id desc`+atMost(limit)+`) m
		join pack p on p.studio_id = m.studio_id and p.id = m.pack_id
		join lot l on l.studio_id = m.studio_id and l.id = m.lot_id
		left join account a on a.studio_id = m.studio_id and a.id = m.account_id
		order by m.at desc, m.id desc`, t.studio, product, before)
}
