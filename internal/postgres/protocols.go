package postgres

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

// Protocols lists protocols by key, each with its newest version, or with the
// account's draft where it was never published.
func (t *Tx) Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error) {
	return keptList(ctx, t, "protocols of "+account.String(), studio.InPlans, func() ([]studio.ProtocolLine, error) {
		return t.readProtocols(ctx, account)
	})
}

func (t *Tx) readProtocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error) {
	return list(ctx, t, func(r fields) (p studio.ProtocolLine, err error) {
		err = r.Scan(&p.ID, &p.Key, &p.Version, doc[protocol.Protocol]{&p.Body}, &p.HasDraft, &p.PublishedAt)
		return p, err
	}, `select p.id, p.key, coalesce(v.number, 0), coalesce(v.body, d.body), d.revision is not null, v.published_at
		from protocol p
		left join lateral (
			select number, body, published_at from protocol_version
			where studio_id = p.studio_id and protocol_id = p.id
			order by number desc limit 1
		) v on true
		left join protocol_draft d on d.studio_id = p.studio_id and d.protocol_id = p.id and d.account_id = $2
		where p.studio_id = $1 and coalesce(v.body, d.body) is not null
		order by p.key`, t.studio, account)
}

// AddProtocol adds a protocol without a version.
func (t *Tx) AddProtocol(ctx context.Context, id uuid.UUID, key string, at time.Time) error {
	return t.exec(ctx, "insert into protocol (studio_id, id, key, created_at) values ($1, $2, $3, $4)", t.studio, id, key, at)
}

// Version returns a version of a protocol, the newest for number 0.
func (t *Tx) Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error) {
	kept, err := studio.Keep(ctx, t, fmt.Sprintf("version %s/%d", id, number), []studio.Area{studio.InPlans}, func() (*protocol.Protocol, error) {
		var p protocol.Protocol
		err := t.row(ctx, `select body from protocol_version
			where studio_id = $1 and protocol_id = $2 and ($3 = 0 or number = $3)
			order by number desc limit 1`, t.studio, id, number).Scan(doc[protocol.Protocol]{&p})
		return found(&p, err)
	})
	if err != nil {
		return nil, err
	}
	own := *kept // who asks may change it
	own.Steps = slices.Clone(kept.Steps)
	return &own, nil
}

// NewestVersion returns the newest version's number, 0 before the first.
func (t *Tx) NewestVersion(ctx context.Context, id uuid.UUID) (n int, err error) {
	err = t.get(ctx, &n, `select coalesce(max(v.number), 0) from protocol p
		left join protocol_version v on v.studio_id = p.studio_id and v.protocol_id = p.id
		where p.studio_id = $1 and p.id = $2
		group by p.id`, t.studio, id)
	return n, err
}

// Versions lists a protocol's versions, newest first.
func (t *Tx) Versions(ctx context.Context, id uuid.UUID) ([]studio.VersionLine, error) {
	return list(ctx, t, func(r fields) (v studio.VersionLine, err error) {
		err = r.Scan(&v.Number, &v.PublishedAt, &v.By, &v.Steps)
		return v, err
	}, `select v.number, v.published_at, coalesce(a.name, ''), jsonb_array_length(v.body -> 'steps')
		from protocol_version v
		left join account a on a.studio_id = v.studio_id and a.id = v.published_by
		where v.studio_id = $1 and v.protocol_id = $2
		order by v.number desc`, t.studio, id)
}

// AddVersion adds a version; it never changes again.
func (t *Tx) AddVersion(
	ctx context.Context,
	id uuid.UUID,
	number int,
	body *protocol.Protocol,
	at time.Time,
	by *uuid.UUID,
) error {
	return t.exec(
		ctx,
		`insert into protocol_version (studio_id, protocol_id, number, body, published_at, published_by)
			values ($1, $2, $3, $4, $5, $6)`,
		t.studio,
		id,
		number,
		document(body),
		at,
		by,
	)
}

// Draft returns an account's draft.
func (t *Tx) Draft(ctx context.Context, id, account uuid.UUID) (*studio.Draft, error) {
	d := studio.Draft{Protocol: id}
	err := t.row(ctx, `select revision, based_on, body from protocol_draft
		where studio_id = $1 and protocol_id = $2 and account_id = $3`,
		t.studio, id, account).
		Scan(&d.Revision, &d.BasedOn, doc[protocol.Protocol]{&d.Body})
	return found(&d, err)
}

// SaveDraft writes a draft over the revision before its own.
func (t *Tx) SaveDraft(ctx context.Context, account uuid.UUID, d *studio.Draft, at time.Time) (bool, error) {
	if d.Revision == 1 {
		n, err := t.changed(ctx, `insert into protocol_draft (studio_id, protocol_id, account_id, revision, based_on, body, updated_at)
			values ($1, $2, $3, 1, $4, $5, $6) on conflict do nothing`,
			t.studio, d.Protocol, account, d.BasedOn, document(d.Body), at)
		return n == 1, err
	}
	err := t.one(ctx, `update protocol_draft set revision = $4, body = $5, updated_at = $6
		where studio_id = $1 and protocol_id = $2 and account_id = $3 and revision = $4 - 1`,
		t.studio, d.Protocol, account, d.Revision, document(d.Body), at)
	if errors.Is(err, studio.ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

// DropDraft removes an account's draft, if there is one.
func (t *Tx) DropDraft(ctx context.Context, id, account uuid.UUID) error {
	return t.exec(
		ctx,
		"delete from protocol_draft where studio_id = $1 and protocol_id = $2 and account_id = $3",
		t.studio,
		id,
		account,
	)
}

// BookedVisits counts the appointments of a protocol after a moment that are still to come.
func (t *Tx) BookedVisits(ctx context.Context, id uuid.UUID, after time.Time) (n int, err error) {
	err = t.get(ctx, &n, `select count(*) from visit where studio_id = $1 and protocol_id = $2 and starts_at > $3
		and state in ('booked', 'confirmed', 'arrived')`, t.studio, id, after)
	return n, err
}
