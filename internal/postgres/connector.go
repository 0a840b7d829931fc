package postgres

import (
	"context"
	"database/sql/driver"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	pgxuuid "github.com/vgarvardt/pgx-google-uuid/v5"
)

// connector makes connections whose transactions begin and enter their studio in one round trip.
type connector struct{ driver.Connector }

// howItPlans says how PostgreSQL plans what the server asks. What a day needs is in memory, where a page found by an index costs
// little more than the next one of a scan. A question is planned once and asked many times: planning it anew takes longer
// than answering it, as does compiling it.
var howItPlans = map[string]string{"random_page_cost": "1.1", "jit": "off", "plan_cache_mode": "force_generic_plan"}

func newConnector(url string) (driver.Connector, error) {
	config, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, err
	}
	for name, value := range howItPlans {
		config.RuntimeParams[name] = value
	}
	return connector{stdlib.GetConnector(*config, stdlib.OptionAfterConnect(sendsIDs))}, nil
}

// sendsIDs lets a connection send ids as they are, and not as text that it has to read again.
func sendsIDs(_ context.Context, made *pgx.Conn) error {
	pgxuuid.Register(made.TypeMap())
	return nil
}

// Connect makes a connection.
func (c connector) Connect(ctx context.Context) (driver.Conn, error) {
	made, err := c.Connector.Connect(ctx)
	if err != nil {
		return nil, err
	}
	plain, ok := made.(*stdlib.Conn)
	if !ok {
		return nil, fmt.Errorf("a connection of %T", made)
	}
	return conn{plain}, nil
}

// conn is a connection of pgx, but for how its transactions begin.
type conn struct{ *stdlib.Conn }

// enters is the key of the studio that a transaction enters when it begins.
type enters struct{}

// BeginTx begins a transaction in the studio of the context, if there is one.
func (c conn) BeginTx(ctx context.Context, options driver.TxOptions) (driver.Tx, error) {
	id, ok := ctx.Value(enters{}).(uuid.UUID)
	if !ok {
		return c.Conn.BeginTx(ctx, options)
	}
	tx, err := c.Conn.Conn().BeginTx(ctx, pgx.TxOptions{BeginQuery: "begin; select set_config('app.studio_id', '" + id.String() + "', true)"})
	if err != nil {
		return nil, err
	}
	return ended{ctx, tx}, nil
}

// ended ends a transaction of pgx as database/sql asks for it.
type ended struct {
	ctx context.Context //nolint:containedctx // database/sql commits without one
	tx  pgx.Tx
}

// Commit commits the transaction.
func (e ended) Commit() error { return e.tx.Commit(e.ctx) }

// Rollback undoes it, also when the request was abandoned.
func (e ended) Rollback() error { return e.tx.Rollback(context.WithoutCancel(e.ctx)) }
