package postgres

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/patch"
	"softpalm/internal/studio"
)

// PatchTests lists a client's patch tests with their readings, newest first.
func (t *Tx) PatchTests(ctx context.Context, client uuid.UUID) ([]studio.PatchTest, error) {
	return list(ctx, t, scanPatchTest,
		patchColumns+" and p.client_id = $2 order by p.applied_at desc, p.id desc", t.studio, client)
}

const patchColumns = `select p.id, p.client_id, p.visit_id, d.key, d.name, p.lot_number, p.place, p.applied_at, p.months, p.note,
		coalesce((select jsonb_agg(jsonb_build_object('hours', r.hours, 'grade', r.grade, 'at', r.at, 'fromPicture', r.from_picture)
		order by r.hours) from patch_reading r where r.studio_id = p.studio_id and r.patch_id = p.id), '[]')
	from patch_test p join product d on d.studio_id = p.studio_id and d.id = p.product_id
	where p.studio_id = $1`

func scanPatchTest(r fields) (p studio.PatchTest, err error) {
	err = r.Scan(
		&p.ID,
		&p.Client,
		&p.Visit,
		&p.Product,
		&p.Name,
		&p.Lot,
		&p.Place,
		&p.Applied,
		&p.Months,
		&p.Note,
		doc[[]patch.Reading]{&p.Readings},
	)
	return p, err
}

// PatchTest returns a patch test.
func (t *Tx) PatchTest(ctx context.Context, id uuid.UUID) (*studio.PatchTest, error) {
	p, err := scanPatchTest(t.row(ctx, patchColumns+" and p.id = $2", t.studio, id))
	return found(&p, err)
}

// AddPatchTest adds a patch test; it never changes again.
func (t *Tx) AddPatchTest(ctx context.Context, p *studio.PatchTest, product, account uuid.UUID) error {
	return t.exec(
		ctx,
		`insert into patch_test (studio_id, id, client_id, visit_id, product_id, lot_number, place, applied_at,
			months, note, account_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		t.studio,
		p.ID,
		p.Client,
		p.Visit,
		product,
		p.Lot,
		p.Place,
		p.Applied,
		p.Months,
		p.Note,
		account,
	)
}

// AddReading adds a reading of a patch test; a second one for the same hour
// answers ErrExists.
func (t *Tx) AddReading(ctx context.Context, patch uuid.UUID, r patch.Reading, account uuid.UUID) error {
	return t.exec(
		ctx,
		"insert into patch_reading (studio_id, patch_id, hours, grade, at, account_id, from_picture) values ($1, $2, $3, $4, $5, $6, $7)",
		t.studio,
		patch,
		r.Hours,
		r.Grade,
		r.At,
		account,
		r.FromPicture,
	)
}
