package postgres

import (
	"context"
	"database/sql"
	"time"

	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

// BeginRequest notes a request; false where there is one with its key.
func (t *Tx) BeginRequest(ctx context.Context, a *studio.Actor, r *house.Request, at time.Time) (bool, error) {
	n, err := t.changed(ctx, `insert into request (studio_id, account_id, key, fingerprint, at)
		values ($1, $2, $3, $4, $5) on conflict do nothing`, t.studio, a.Account, r.Key, r.Fingerprint, at)
	return n == 1, err
}

// AnswerOf returns the fingerprint of a request and its answer, nil while there is none.
func (t *Tx) AnswerOf(ctx context.Context, a *studio.Actor, key string) ([]byte, *house.Answered, error) {
	var fingerprint []byte
	var status sql.NullInt64
	var out house.Answered
	err := t.row(ctx, `select fingerprint, status, type, body, secret from request
		where studio_id = $1 and account_id = $2 and key = $3`, t.studio, a.Account, key).
		Scan(&fingerprint, &status, &out.Type, &out.Body, &out.Secret)
	if _, err := found(&out, err); err != nil {
		return nil, nil, err
	}
	if !status.Valid {
		return fingerprint, nil, nil
	}
	out.Status = int(status.Int64)
	return fingerprint, &out, nil
}

// EndRequest keeps the answer to a request.
func (t *Tx) EndRequest(ctx context.Context, a *studio.Actor, key string, answer *house.Answered) error {
	body := answer.Body
	if body == nil {
		body = []byte{}
	}
	return t.one(ctx, `update request set status = $4, type = $5, body = $6, secret = $7
		where studio_id = $1 and account_id = $2 and key = $3`,
		t.studio, a.Account, key, answer.Status, answer.Type, body, answer.Secret)
}

// DropRequest forgets a request.
func (t *Tx) DropRequest(ctx context.Context, a *studio.Actor, key string) error {
	return t.exec(ctx, "delete from request where studio_id = $1 and account_id = $2 and key = $3", t.studio, a.Account, key)
}

// DropRequests forgets the requests before a time.
func (t *Tx) DropRequests(ctx context.Context, before time.Time) error {
	return t.exec(ctx, "delete from request where studio_id = $1 and at < $2", t.studio, before)
}

// HideAnswers forgets what the requests so far were answered, but not that they were.
func (t *Tx) HideAnswers(ctx context.Context) error {
	return t.exec(ctx, "update request set body = '', secret = true where studio_id = $1 and status is not null", t.studio)
}
