package postgres

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// mixings are what products are mixed of: each product with one of its parts, by any version of any recipe.
func (t *Tx) mixings(ctx context.Context) ([][2]uuid.UUID, error) {
	return list(ctx, t, func(r fields) (e [2]uuid.UUID, err error) {
		err = r.Scan(&e[0], &e[1])
		return e, err
	}, `select distinct r.product_id, (p ->> 'product')::uuid from recipe r, jsonb_array_elements(r.body -> 'parts') p
		where r.studio_id = $1`, t.studio)
}

// Recipes lists the newest version of each recipe that is not retired, by name.
func (t *Tx) Recipes(ctx context.Context) ([]shelfroom.Recipe, error) {
	return list(ctx, t, func(r fields) (x shelfroom.Recipe, err error) {
		err = r.Scan(&x.ID, &x.Version, &x.Product, &x.Name, doc[shelfroom.RecipeBody]{&x.RecipeBody})
		return x, err
	}, `select * from (select distinct on (id) id, version, product_id, name, body from recipe
			where studio_id = $1 and not retired order by id, version desc) r
		order by lower(name), id`, t.studio)
}

// AddRecipe writes a version of a recipe.
func (t *Tx) AddRecipe(ctx context.Context, r *shelfroom.Recipe, by uuid.UUID, at time.Time) error {
	return t.exec(ctx, "insert into recipe (studio_id, id, version, product_id, name, body, account_id, at) values ($1, $2, $3, $4, $5, $6, $7, $8)",
		t.studio, r.ID, r.Version, r.Product, r.Name, document(r.RecipeBody), by, at)
}

// RetireRecipe takes a recipe off the list.
func (t *Tx) RetireRecipe(ctx context.Context, id uuid.UUID) error {
	n, err := t.changed(ctx, "update recipe set retired = true where studio_id = $1 and id = $2", t.studio, id)
	if err == nil && n == 0 {
		return studio.ErrNotFound
	}
	return err
}

// BatchesOn counts the batches made on a day; who asks holds the letters until the transaction ends.
func (t *Tx) BatchesOn(ctx context.Context, day string) (n int, err error) {
	if err := t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('batches of ' || $1::text, 0))", t.studio); err != nil {
		return 0, err
	}
	err = t.row(ctx, "select count(*) from batch where studio_id = $1 and made_on = $2", t.studio, day).Scan(&n)
	return n, translate(err)
}

// AddBatch says by which recipe a lot was made.
func (t *Tx) AddBatch(ctx context.Context, lot uuid.UUID, r *shelfroom.Recipe, day string, by uuid.UUID, at time.Time) error {
	return t.exec(ctx, "insert into batch (studio_id, lot_id, recipe_id, version, made_on, account_id, at) values ($1, $2, $3, $4, $5, $6, $7)",
		t.studio, lot, r.ID, r.Version, day, by, at)
}

// Batches lists the newest batches with what went into them.
func (t *Tx) Batches(ctx context.Context) ([]shelfroom.Batch, error) {
	out, err := list(ctx, t, func(r fields) (b shelfroom.Batch, err error) {
		err = r.Scan(&b.Lot, &b.Pack, &b.Number, &b.Product, &b.Name, &b.Recipe, &b.MadeOn, &b.By, &b.Until, &b.Amount, &b.Unit, &b.Left, &b.Cost)
		b.Parts = []shelfroom.BatchPart{}
		return b, err
	}, `select l.id, q.id, l.number, p.id, p.name, r.name, b.made_on::text, coalesce(a.name, ''), coalesce(l.expiry::text, ''),
			c.amount, p.unit, q.remaining, c.cost
		from batch b join lot l on l.studio_id = b.studio_id and l.id = b.lot_id
		join product p on p.studio_id = l.studio_id and p.id = l.product_id
		join recipe r on r.studio_id = b.studio_id and r.id = b.recipe_id and r.version = b.version
		join pack q on q.studio_id = l.studio_id and q.lot_id = l.id and q.number = 1
		join cost_layer c on c.studio_id = q.studio_id and c.id = q.layer_id
		left join account a on a.studio_id = b.studio_id and a.id = b.account_id
		where b.studio_id = $1 order by b.at desc, b.lot_id limit 60`, t.studio)
	if err != nil {
		return nil, err
	}
	lots := make([]uuid.UUID, len(out))
	for i := range out {
		lots[i] = out[i].Lot
	}
	type row struct {
		into uuid.UUID
		part shelfroom.BatchPart
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.into, &x.part.Product, &x.part.Name, &x.part.Lot, &x.part.Amount, &x.part.Unit)
		return x, err
	}, `select m.into_lot, p.id, p.name, l.number, -sum(m.amount), p.unit
		from stock_movement m join lot l on l.studio_id = m.studio_id and l.id = m.lot_id
		join product p on p.studio_id = l.studio_id and p.id = l.product_id
		where m.studio_id = $1 and m.into_lot = any($2::uuid[])
		group by m.into_lot, p.id, p.name, l.number, p.unit order by m.into_lot, p.name, l.number`, t.studio, ids(lots))
	for _, x := range rows {
		b := &out[slices.Index(lots, x.into)]
		b.Parts = append(b.Parts, x.part)
	}
	return out, err
}
