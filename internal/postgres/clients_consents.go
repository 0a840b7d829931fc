package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// Consents lists a client's consents, newest first.
func (t *Tx) Consents(ctx context.Context, client uuid.UUID) ([]studio.Consent, error) {
	return list(ctx, t, func(r fields) (c studio.Consent, err error) {
		err = r.Scan(
			&c.ID,
			&c.Client,
			&c.Kind,
			&c.Version,
			&c.Body,
			&c.Signer,
			&c.Guardian,
			doc[[][]int]{&c.Signature},
			&c.SignedAt,
			&c.Account,
			&c.WithdrawnAt,
		)
		return c, err
	}, `select id, client_id, kind, version, body, signer, guardian, signature, signed_at, account_id, withdrawn_at
		from consent where studio_id = $1 and client_id = $2 order by signed_at desc, id desc`, t.studio, client)
}

// AddConsent adds a consent.
func (t *Tx) AddConsent(ctx context.Context, c *studio.Consent) error {
	return t.exec(
		ctx,
		`insert into consent (studio_id, id, client_id, kind, version, body, signer, guardian, signature, signed_at, account_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		t.studio,
		c.ID,
		c.Client,
		c.Kind,
		c.Version,
		c.Body,
		c.Signer,
		c.Guardian,
		document(c.Signature),
		c.SignedAt,
		c.Account,
	)
}

// WithdrawConsent ends a consent and returns whose it was.
func (t *Tx) WithdrawConsent(ctx context.Context, id uuid.UUID, at time.Time) (client uuid.UUID, err error) {
	err = t.get(
		ctx,
		&client,
		"update consent set withdrawn_at = $3 where studio_id = $1 and id = $2 and withdrawn_at is null returning client_id",
		t.studio,
		id,
		at,
	)
	return client, err
}
