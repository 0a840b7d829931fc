package postgres

import (
	"context"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/studio"
)

// OwnZones lists the zones that the studio added, by key.
func (t *Tx) OwnZones(ctx context.Context) ([]anatomy.OwnZone, error) {
	return keptList(ctx, t, "zones", studio.InCatalog, func() ([]anatomy.OwnZone, error) {
		return list(ctx, t, func(r fields) (z anatomy.OwnZone, err error) {
			err = r.Scan(doc[anatomy.OwnZone]{&z})
			return z, err
		}, "select body from own_zone where studio_id = $1 order by key", t.studio)
	})
}

// SaveZone writes a zone over one of the same key.
func (t *Tx) SaveZone(ctx context.Context, z *anatomy.OwnZone) error {
	return t.exec(ctx, `insert into own_zone (studio_id, key, body) values ($1, $2, $3)
		on conflict (studio_id, key) do update set body = excluded.body`, t.studio, z.Key, document(z))
}

// DropZone removes a zone of the studio's own.
func (t *Tx) DropZone(ctx context.Context, key string) error {
	return t.one(ctx, "delete from own_zone where studio_id = $1 and key = $2", t.studio, key)
}

// ZoneUsers names the strokes, and the protocols in use, that name a zone anywhere.
func (t *Tx) ZoneUsers(ctx context.Context, key string) ([]string, error) {
	return list(ctx, t, func(r fields) (name string, err error) {
		err = r.Scan(&name)
		return name, err
	}, plansInUse+`
		select body ->> 'name' from (select body from plans union all select s.body from stroke s where s.studio_id = $1) named
		where jsonb_path_exists(body, '$.** ? (@ == $zone)', jsonb_build_object('zone', $2::text))
		group by 1 order by 1`, t.studio, key)
}
