package postgres

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
)

// AddPhoto adds a photo.
func (t *Tx) AddPhoto(ctx context.Context, p *studio.Photo, account uuid.UUID) error {
	return t.exec(ctx, `insert into photo (studio_id, id, client_id, visit_id, view, image, width, height, marks, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		t.studio, p.ID, p.Client, p.Visit, p.View, p.Image, p.Width, p.Height, document(p.PhotoMarks), account, p.At)
}

const photoColumns = `select p.id, p.client_id, p.visit_id, p.view, p.width, p.height, p.marks, coalesce(a.name, ''), p.at
	from photo p left join account a on a.studio_id = p.studio_id and a.id = p.account_id where p.studio_id = $1`

func scanPhoto(r fields) (p studio.Photo, err error) {
	err = r.Scan(&p.ID, &p.Client, &p.Visit, &p.View, &p.Width, &p.Height, doc[measuring.PhotoMarks]{&p.PhotoMarks}, &p.By, &p.At)
	return p, err
}

// Photos lists the photos of a client, oldest first, without the pictures themselves.
func (t *Tx) Photos(ctx context.Context, client uuid.UUID) ([]studio.Photo, error) {
	return list(ctx, t, scanPhoto, photoColumns+" and p.client_id = $2 order by p.at, p.id", t.studio, client)
}

// Photo returns a photo with its picture.
func (t *Tx) Photo(ctx context.Context, id uuid.UUID) (*studio.Photo, error) {
	out, err := list(ctx, t, scanPhoto, photoColumns+" and p.id = $2", t.studio, id)
	if err != nil {
		return nil, err
	}
	if len(out) == 0 {
		return nil, studio.ErrNotFound
	}
	err = t.row(ctx, "select image from photo where studio_id = $1 and id = $2", t.studio, id).Scan(&out[0].Image)
	return &out[0], translate(err)
}

// RemovePhoto deletes a photo.
func (t *Tx) RemovePhoto(ctx context.Context, id uuid.UUID) error {
	return t.one(ctx, "delete from photo where studio_id = $1 and id = $2", t.studio, id)
}
