package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// AddCall notes a client to be called.
func (t *Tx) AddCall(ctx context.Context, c *studio.Call) error {
	return t.exec(ctx, `insert into call (studio_id, id, visit_id, client_id, was_at, was_with, ask_first, reason, created_at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`, t.studio, c.ID, c.Visit, c.Client, c.WasAt, c.WasWith, c.AskFirst, c.Reason, c.At)
}

// Calls lists the calls that are still to be made, in the order in which the visits began.
func (t *Tx) Calls(ctx context.Context) ([]studio.Call, error) {
	return list(ctx, t, func(r fields) (c studio.Call, err error) {
		err = r.Scan(&c.ID, &c.Visit, &c.Client, &c.WasAt, &c.WasWith, &c.AskFirst, &c.Reason, &c.At)
		return c, err
	}, `select id, visit_id, client_id, was_at, was_with, ask_first, reason, created_at from call
		where studio_id = $1 and made_at is null order by was_at, id`, t.studio)
}

// CallMade notes that a call was made; one that was made already stays as it is.
func (t *Tx) CallMade(ctx context.Context, id, by uuid.UUID, at time.Time) error {
	return t.one(ctx, `update call set made_at = coalesce(made_at, $3), made_by = coalesce(made_by, $4)
		where studio_id = $1 and id = $2`, t.studio, id, at, by)
}

// AddWaiter puts a client on the waiting list.
func (t *Tx) AddWaiter(ctx context.Context, w *studio.Waiter) error {
	return t.exec(ctx, `insert into waiting (studio_id, id, client_id, protocol_id, asked, notice, displaced, series_id, series_item, reason, since)
		values ($1, $2, $3, $4, $5, $6, $7, $8, nullif($9, 0), $10, $11) on conflict (studio_id, id) do nothing`,
		t.studio, w.ID, w.Client, w.Protocol, document(w.Asked), w.Notice, w.Displaced, w.Series, w.Item, w.Reason, w.Since)
}

const waiterColumns = `select id, client_id, protocol_id, asked, notice, displaced, series_id, coalesce(series_item, 0), reason, since, offered_id
	from waiting where studio_id = $1 and ended_at is null`

func scanWaiter(r fields) (w studio.Waiter, err error) {
	err = r.Scan(&w.ID, &w.Client, &w.Protocol, doc[studio.SeriesAsked]{&w.Asked}, &w.Notice, &w.Displaced, &w.Series, &w.Item, &w.Reason, &w.Since, &w.Offered)
	return w, err
}

// Waiters lists who waits, the longest first.
func (t *Tx) Waiters(ctx context.Context) ([]studio.Waiter, error) {
	return list(ctx, t, scanWaiter, waiterColumns+" order by since, id", t.studio)
}

// LockWaiter returns somebody who waits, and holds the entry until the transaction ends.
func (t *Tx) LockWaiter(ctx context.Context, id uuid.UUID) (*studio.Waiter, error) {
	w, err := scanWaiter(t.row(ctx, waiterColumns+" and id = $2 for update", t.studio, id))
	return found(&w, err)
}

// OfferWaiter notes the hold with which somebody is offered a time; nil takes it back.
func (t *Tx) OfferWaiter(ctx context.Context, id uuid.UUID, offered *uuid.UUID) error {
	return t.one(ctx, "update waiting set offered_id = $3 where studio_id = $1 and id = $2", t.studio, id, offered)
}

// EndWaiting takes an entry off the waiting list.
func (t *Tx) EndWaiting(ctx context.Context, id uuid.UUID, at time.Time) error {
	return t.one(ctx, "update waiting set ended_at = $3, offered_id = null where studio_id = $1 and id = $2 and ended_at is null", t.studio, id, at)
}

// EndWaitingOf takes whoever was offered a series by its hold off the waiting list.
func (t *Tx) EndWaitingOf(ctx context.Context, offered uuid.UUID, at time.Time) error {
	return t.exec(ctx, "update waiting set ended_at = $3 where studio_id = $1 and offered_id = $2 and ended_at is null", t.studio, offered, at)
}
