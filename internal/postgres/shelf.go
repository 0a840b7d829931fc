package postgres

import (
	"context"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"

	"softpalm/internal/studio"
)

// Products lists products by name.
func (t *Tx) Products(ctx context.Context) ([]studio.Product, error) {
	return list(ctx, t, func(r *sqlx.Rows) (p studio.Product, err error) {
		err = r.Scan(
			&p.ID,
			&p.Key,
			&p.Name,
			&p.Form,
			&p.Unit,
			&p.PackSize,
			&p.Price,
			&p.FullDose,
			&p.RangeMin,
			&p.RangeMax,
			&p.DropsPerML,
			&p.MLPerPump,
			&p.Density,
			&p.HalfLife,
			textList{&p.Tags},
			textList{&p.Unsuited},
			&p.ReorderAt,
			textList{&p.Ingredients},
			&p.Revision,
		)
		return p, err
	}, `select id, key, name, form, unit, pack_size, price, full_dose, range_min, range_max,
			drops_per_ml, ml_per_press, density, half_life, tags::text, unsuited::text, reorder_at, ingredients::text, revision
		from product where studio_id = $1 order by lower(name), id`, t.studio)
}

// AddProduct adds a product.
func (t *Tx) AddProduct(ctx context.Context, p *studio.Product) error {
	return t.exec(
		ctx,
		`insert into product (studio_id, id, key, name, form, unit, pack_size, price, full_dose, range_min, range_max,
			drops_per_ml, ml_per_press, density, half_life, tags, unsuited, reorder_at, ingredients)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19)`,
		t.studio,
		p.ID,
		p.Key,
		p.Name,
		p.Form,
		p.Unit,
		p.PackSize,
		p.Price,
		p.FullDose,
		p.RangeMin,
		p.RangeMax,
		p.DropsPerML,
		p.MLPerPump,
		p.Density,
		p.HalfLife,
		texts(p.Tags),
		texts(p.Unsuited),
		p.ReorderAt,
		texts(p.Ingredients),
	)
}

// LockContents returns what a product is made of and holds it until the transaction ends.
func (t *Tx) LockContents(ctx context.Context, product uuid.UUID) (*studio.RevisedContents, error) {
	var c studio.RevisedContents
	err := t.tx.QueryRowxContext(ctx, `select ingredients::text, tags::text, unsuited::text, revision
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

// Lots lists lots with what is left, first to expire first.
func (t *Tx) Lots(ctx context.Context) ([]studio.Lot, error) {
	return list(ctx, t, func(r *sqlx.Rows) (l studio.Lot, err error) {
		err = r.Scan(&l.UUID, &l.Product, &l.Number, &l.Expiry, &l.Received, &l.Opened, &l.MonthsOpen, &l.UnitCost, &l.Remaining)
		l.ID = l.UUID.String()
		return l, err
	}, `select l.id, l.product_id, l.number, coalesce(l.expiry::text, ''), l.received_on::text,
		coalesce(l.opened_on::text, ''), l.months_open, l.unit_cost,
			coalesce((select sum(m.amount) from stock_movement m where m.studio_id = l.studio_id and m.lot_id = l.id), 0)
		from lot l where l.studio_id = $1
		order by l.expiry nulls last, l.number, l.id`, t.studio)
}

// LockLots holds the lots of products until the transaction ends.
func (t *Tx) LockLots(ctx context.Context, products []uuid.UUID) error {
	ids := make([]string, len(products))
	for i, id := range products {
		ids[i] = id.String()
	}
	return t.exec(
		ctx,
		"select id from lot where studio_id = $1 and product_id = any($2::uuid[]) order by id for update",
		t.studio,
		texts(ids),
	)
}

// AddLot adds a lot; its amount comes with a movement.
func (t *Tx) AddLot(ctx context.Context, l *studio.Lot) error {
	return t.exec(
		ctx,
		`insert into lot (studio_id, id, product_id, number, expiry, received_on, opened_on, months_open, unit_cost)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.studio,
		l.UUID,
		l.Product,
		l.Number,
		day(l.Expiry),
		l.Received,
		day(l.Opened),
		l.MonthsOpen,
		l.UnitCost,
	)
}

// AddMovement adds a stock movement; it never changes again.
func (t *Tx) AddMovement(ctx context.Context, m *studio.Movement) error {
	return t.exec(ctx, `insert into stock_movement (studio_id, id, lot_id, kind, amount, planned, visit_id, account_id, note, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		t.studio, m.ID, m.Lot, m.Kind, m.Amount, m.Planned, m.Visit, m.Account, m.Note, m.At)
}
