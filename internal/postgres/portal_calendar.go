package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/internal/studio/portal"
)

// FindCalendar answers whose calendar a token opens.
func (db *DB) FindCalendar(ctx context.Context, tokenHash []byte) (in uuid.UUID, practitioner, client *uuid.UUID, err error) {
	err = db.pool.QueryRowxContext(ctx, "select studio_id, practitioner_id, client_id from find_calendar($1)", tokenHash).
		Scan(&in, &practitioner, &client)
	_, err = found(&in, err)
	return in, practitioner, client, err
}

// RenewCalendar makes a token the one that opens a calendar, and ends the one before; nil only
// ends it.
func (t *Tx) RenewCalendar(ctx context.Context, tokenHash []byte, practitioner, client *uuid.UUID, at time.Time) error {
	return t.exec(ctx, "select renew_calendar($1, $2, $3, $4)", tokenHash, practitioner, client, at)
}

// CalendarSince is since when a calendar has a private address, nil where it has none.
func (t *Tx) CalendarSince(ctx context.Context, practitioner, client *uuid.UUID) (*time.Time, error) {
	var since *time.Time
	err := t.row(ctx, "select calendar_since($1, $2)", practitioner, client).Scan(&since)
	return since, translate(err)
}

// CalendarVisits lists the visits of a calendar from a time on, by start; those that do not take
// place as far as they were changed since another time.
func (t *Tx) CalendarVisits(ctx context.Context, practitioner, client *uuid.UUID, from, changedSince time.Time) ([]portal.CalendarVisit, error) {
	visits, err := t.visits(ctx, visitColumns+` and v.starts_at >= $2 and ($3::uuid is null or v.practitioner_id = $3)
		and ($4::uuid is null or v.client_id = $4) and v.state not in ('lapsed', 'released') and (v.state <> 'held' or $4::uuid is null)
		order by v.starts_at, v.id`, t.studio, from, practitioner, client)
	if err != nil {
		return nil, err
	}
	changed := map[uuid.UUID]time.Time{}
	rows, err := list(ctx, t, func(r fields) (c struct {
		id uuid.UUID
		at time.Time
	}, err error) {
		err = r.Scan(&c.id, &c.at)
		return c, err
	}, `select c.visit_id, max(c.at) from visit_change c join visit v on v.studio_id = c.studio_id and v.id = c.visit_id
		where c.studio_id = $1 and v.starts_at >= $2 and ($3::uuid is null or v.practitioner_id = $3) and ($4::uuid is null or v.client_id = $4)
		group by c.visit_id`, t.studio, from, practitioner, client)
	if err != nil {
		return nil, err
	}
	for _, c := range rows {
		changed[c.id] = c.at
	}
	out := []portal.CalendarVisit{}
	for i := range visits {
		v := portal.CalendarVisit{VisitLine: visits[i], ChangedAt: changed[visits[i].ID]}
		if v.ChangedAt.IsZero() {
			v.ChangedAt = v.StartsAt
		}
		gone := v.State == studio.Cancelled || v.State == studio.LateCancelled
		if v.State == studio.NoShow || gone && v.ChangedAt.Before(changedSince) {
			continue
		}
		out = append(out, v)
	}
	return out, nil
}

// FindClientPage answers whose page a token opens, and until when.
func (db *DB) FindClientPage(ctx context.Context, tokenHash []byte) (in, client uuid.UUID, until time.Time, err error) {
	err = db.pool.QueryRowxContext(ctx, "select studio_id, client_id, until from find_client_page($1)", tokenHash).Scan(&in, &client, &until)
	_, err = found(&in, err)
	return in, client, until, err
}

// RenewClientPage makes a token the one that opens a client's page, and ends the one before.
func (t *Tx) RenewClientPage(ctx context.Context, tokenHash []byte, client uuid.UUID, until, at time.Time) error {
	return t.exec(ctx, "select renew_client_page($1, $2, $3, $4)", tokenHash, client, until, at)
}
