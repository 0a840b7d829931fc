package postgres

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/standin"
)

// LockTerminal returns the simulated terminal's settings, held until the transaction ends.
func (t *Tx) LockTerminal(ctx context.Context) (standin.TerminalSettings, error) {
	s := standin.Usual()
	err := t.row(ctx, "select settings from terminal where studio_id = $1 for update", t.studio).Scan(doc[standin.TerminalSettings]{&s})
	if errors.Is(err, sql.ErrNoRows) {
		return s, t.exec(ctx, "insert into terminal (studio_id, settings) values ($1, $2) on conflict do nothing", t.studio, document(s))
	}
	return s, translate(err)
}

// SaveTerminal writes the settings.
func (t *Tx) SaveTerminal(ctx context.Context, s standin.TerminalSettings) error {
	return t.exec(ctx, "update terminal set settings = $2 where studio_id = $1", t.studio, document(s))
}

const chargeColumns = "select key, amount, plan, asked_at, cancelled_at, settled_at from terminal_charge where studio_id = $1"

func scanCharge(r fields) (c standin.Charge, err error) {
	err = r.Scan(&c.Key, &c.Amount, &c.Plan, &c.AskedAt, &c.CancelledAt, &c.SettledAt)
	return c, err
}

// Charge returns a payment as the terminal knows it.
func (t *Tx) Charge(ctx context.Context, key uuid.UUID) (*standin.Charge, error) {
	c, err := scanCharge(t.row(ctx, chargeColumns+" and key = $2", t.studio, key))
	return found(&c, err)
}

// AddCharge keeps a payment.
func (t *Tx) AddCharge(ctx context.Context, c *standin.Charge) error {
	return t.exec(ctx, "insert into terminal_charge (studio_id, key, amount, plan, asked_at) values ($1, $2, $3, $4, $5)",
		t.studio, c.Key, c.Amount, c.Plan, c.AskedAt)
}

// SaveCharge writes when a payment was cancelled and settled.
func (t *Tx) SaveCharge(ctx context.Context, c *standin.Charge) error {
	return t.one(ctx, "update terminal_charge set cancelled_at = $3, settled_at = $4 where studio_id = $1 and key = $2",
		t.studio, c.Key, c.CancelledAt, c.SettledAt)
}

// Charges lists payments, the newest first.
func (t *Tx) Charges(ctx context.Context, limit int) ([]standin.Charge, error) {
	return list(ctx, t, scanCharge,
		chargeColumns+" order by asked_at desc, key"+atMost(limit), t.studio)
}

// ChargesBetween lists payments asked for between two moments, and those of the keys.
func (t *Tx) ChargesBetween(ctx context.Context, from, to time.Time, keys []uuid.UUID) ([]standin.Charge, error) {
	return list(ctx, t, scanCharge,
		chargeColumns+" and (asked_at >= $2 and asked_at < $3 or key = any($4::uuid[])) order by asked_at, key", t.studio, from, to, ids(keys))
}
