package postgres

import (
	"context"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
)

// Strokes lists the library by key.
func (t *Tx) Strokes(ctx context.Context) ([]stroke.Stroke, error) {
	return keptList(ctx, t, "strokes", studio.InCatalog, func() ([]stroke.Stroke, error) {
		return list(ctx, t, func(r fields) (s stroke.Stroke, err error) {
			err = r.Scan(doc[stroke.Stroke]{&s})
			return s, err
		}, "select body from stroke where studio_id = $1 order by key", t.studio)
	})
}

// AddStroke adds a stroke.
func (t *Tx) AddStroke(ctx context.Context, s *stroke.Stroke) error {
	return t.exec(ctx, "insert into stroke (studio_id, key, body) values ($1, $2, $3)", t.studio, s.Key, document(s))
}

// SaveStroke writes a stroke over one of the same key.
func (t *Tx) SaveStroke(ctx context.Context, s *stroke.Stroke) error {
	return t.exec(ctx, `insert into stroke (studio_id, key, body) values ($1, $2, $3)
		on conflict (studio_id, key) do update set body = excluded.body`, t.studio, s.Key, document(s))
}

// DropStroke removes a stroke of the studio's own.
func (t *Tx) DropStroke(ctx context.Context, key string) error {
	return t.one(ctx, "delete from stroke where studio_id = $1 and key = $2", t.studio, key)
}

// plansInUse are the plans of the studio $1 that something must not be taken from: drafts, what is published
// now, and versions that a visit not over yet is booked with.
const plansInUse = `with plans as (
	select d.body from protocol_draft d where d.studio_id = $1
	union all
	select v.body from protocol_version v
	where v.studio_id = $1
		and (not exists (select 1 from protocol_version n
		where n.studio_id = v.studio_id and n.protocol_id = v.protocol_id and n.number > v.number)
			or exists (select 1 from visit b where b.studio_id = v.studio_id and b.protocol_id = v.protocol_id
			and b.protocol_version = v.number
				and b.state in ('booked', 'confirmed', 'arrived', 'in-room'))))`

// StrokeUsers names the protocols that use a stroke, by name.
func (t *Tx) StrokeUsers(ctx context.Context, key string) ([]string, error) {
	return list(ctx, t, func(r fields) (name string, err error) {
		err = r.Scan(&name)
		return name, err
	}, plansInUse+`
		select distinct body ->> 'name' from plans
		where body -> 'steps' @> jsonb_build_array(jsonb_build_object('stroke', $2::text))
		order by 1`, t.studio, key)
}

// Tools lists tools by key.
func (t *Tx) Tools(ctx context.Context) ([]protocol.Tool, error) {
	return keptList(ctx, t, "tools", studio.InCatalog, func() ([]protocol.Tool, error) {
		return list(ctx, t, func(r fields) (v protocol.Tool, err error) {
			err = r.Scan(doc[protocol.Tool]{&v})
			return v, err
		}, "select body from tool where studio_id = $1 order by key", t.studio)
	})
}

// AddTool adds a tool.
func (t *Tx) AddTool(ctx context.Context, v *protocol.Tool) error {
	return t.exec(ctx, "insert into tool (studio_id, key, body) values ($1, $2, $3)", t.studio, v.Key, document(v))
}
