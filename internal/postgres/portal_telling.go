package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio/portal"
)

// AddClientPage makes a token one more that opens a client's page.
func (t *Tx) AddClientPage(ctx context.Context, tokenHash []byte, client uuid.UUID, until, at time.Time) error {
	return t.exec(ctx, "select add_client_page($1, $2, $3, $4)", tokenHash, client, until, at)
}

// BookedAt is when each of a client's visits was booked or moved last; one that came with a file,
// when it was made.
func (t *Tx) BookedAt(ctx context.Context, client uuid.UUID) (map[uuid.UUID]time.Time, error) {
	out := map[uuid.UUID]time.Time{}
	_, err := list(ctx, t, func(r fields) (none struct{}, err error) {
		var id uuid.UUID
		var at time.Time
		err = r.Scan(&id, &at)
		out[id] = at
		return none, err
	}, `select v.id, coalesce(max(c.at), v.created_at) from visit v left join visit_change c
			on c.studio_id = v.studio_id and c.visit_id = v.id and c.state = 'booked'
		where v.studio_id = $1 and v.client_id = $2 group by v.id, v.created_at`, t.studio, client)
	return out, err
}

// ToldOf is what a client was told already.
func (t *Tx) ToldOf(ctx context.Context, client uuid.UUID) (map[portal.Told]bool, error) {
	out := map[portal.Told]bool{}
	_, err := list(ctx, t, func(r fields) (none struct{}, err error) {
		var one portal.Told
		err = r.Scan(&one.Visit, &one.Kind, &one.Moves)
		out[one] = true
		return none, err
	}, `select p.visit_id, p.kind, p.moves from message_part p join visit v on v.studio_id = p.studio_id and v.id = p.visit_id
		where p.studio_id = $1 and v.client_id = $2`, t.studio, client)
	return out, err
}

// NoteTold notes what a message says; what was said before answers [studio.ErrExists].
func (t *Tx) NoteTold(ctx context.Context, told []portal.Told, message *uuid.UUID, at time.Time) error {
	for _, one := range told {
		if err := t.exec(ctx, "insert into message_part (studio_id, visit_id, kind, moves, message_id, at) values ($1, $2, $3, $4, $5, $6)",
			t.studio, one.Visit, one.Kind, one.Moves, message, at); err != nil {
			return err
		}
	}
	return nil
}

// WithdrawMessage takes back a message about a visit that no mail server was given yet.
func (t *Tx) WithdrawMessage(ctx context.Context, visit uuid.UUID, kind string) error {
	return t.exec(ctx, `with gone as (
			delete from message m using message_part p where m.studio_id = $1 and p.studio_id = $1 and p.visit_id = $2 and p.kind = $3
			and m.id = p.message_id and m.state in ('kept', 'waiting') and m.tries = 0 returning m.id)
		delete from message_part p using gone where p.studio_id = $1 and p.message_id = gone.id`, t.studio, visit, kind)
}
