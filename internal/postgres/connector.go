package postgres

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jackc/pgx/v5/stdlib"
	pgxuuid "github.com/vgarvardt/pgx-google-uuid/v5"
)

// connector makes connections whose transactions begin, and enter their studio, with the first of what is asked in them.
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
	return connector{stdlib.GetConnector(*config, stdlib.OptionAfterConnect(knowsTypes))}, nil
}

// knowsTypes has ids sent in binary form, which need not be parsed, and amounts as text: turning PostgreSQL's binary form of
// an amount into a decimal takes three times as long.
func knowsTypes(_ context.Context, made *pgx.Conn) error {
	pgxuuid.Register(made.TypeMap())
	made.TypeMap().RegisterType(&pgtype.Type{Name: "numeric", OID: pgtype.NumericOID, Codec: amountsAsText{}})
	return nil
}

type amountsAsText struct{ pgtype.NumericCodec }

// PreferredFormat is the form in which amounts are sent.
func (amountsAsText) PreferredFormat() int16 { return pgtype.TextFormatCode }

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
	return &conn{Conn: plain}, nil
}

// conn is a connection of pgx, but for how its transactions begin: with the first of what is asked, in its round trip.
type conn struct {
	*stdlib.Conn
	// enters is the studio whose transaction begins with what is asked next; nil where none is to begin.
	enters *uuid.UUID
}

// enters is the key of the studio that a transaction enters when it begins.
type enters struct{}

// BeginTx begins a transaction in the studio of the context, if there is one.
func (c *conn) BeginTx(ctx context.Context, options driver.TxOptions) (driver.Tx, error) {
	id, ok := ctx.Value(enters{}).(uuid.UUID)
	if !ok {
		return c.Conn.BeginTx(ctx, options)
	}
	c.enters = &id
	return transaction{ctx, c}, nil
}

// ask sends a batch in one round trip, with the beginning of the transaction where it has not begun yet.
func (c *conn) ask(ctx context.Context, batch *pgx.Batch) error {
	if c.enters != nil {
		first := &pgx.Batch{}
		first.Queue("begin")
		first.Queue("select set_config('app.studio_id', $1, true)", c.enters.String())
		batch.QueuedQueries = append(first.QueuedQueries, batch.QueuedQueries...)
		c.enters = nil
	}
	return c.Conn.Conn().SendBatch(ctx, batch).Close()
}

// begin begins a transaction that has not begun yet.
func (c *conn) begin(ctx context.Context) error {
	if c.enters == nil {
		return nil
	}
	return c.ask(ctx, &pgx.Batch{})
}

// QueryContext asks for rows.
func (c *conn) QueryContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Rows, error) {
	if err := c.begin(ctx); err != nil {
		return nil, err
	}
	return c.Conn.QueryContext(ctx, query, args)
}

// ExecContext does something.
func (c *conn) ExecContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Result, error) {
	if err := c.begin(ctx); err != nil {
		return nil, err
	}
	return c.Conn.ExecContext(ctx, query, args)
}

// PrepareContext prepares a statement.
func (c *conn) PrepareContext(ctx context.Context, query string) (driver.Stmt, error) {
	if err := c.begin(ctx); err != nil {
		return nil, err
	}
	return c.Conn.PrepareContext(ctx, query)
}

// transaction ends as database/sql asks for it.
type transaction struct {
	ctx  context.Context //nolint:containedctx // database/sql commits without one
	conn *conn
}

// Commit commits the transaction, unless nothing was asked in it or it has been committed together with the last of what was.
func (t transaction) Commit() error {
	plain := t.conn.Conn.Conn()
	if t.conn.enters != nil || plain.PgConn().TxStatus() == 'I' {
		t.conn.enters = nil
		return nil
	}
	tag, err := plain.Exec(t.ctx, "commit")
	if err != nil && plain.PgConn().TxStatus() != 'I' {
		return errors.Join(err, plain.Close(t.ctx))
	}
	if err == nil && tag.String() == "ROLLBACK" {
		return pgx.ErrTxCommitRollback
	}
	return err
}

// Rollback undoes it, also when the request was abandoned.
func (t transaction) Rollback() error {
	plain := t.conn.Conn.Conn()
	if t.conn.enters != nil || plain.IsClosed() || plain.PgConn().TxStatus() == 'I' {
		t.conn.enters = nil
		return nil
	}
	ctx := context.WithoutCancel(t.ctx)
	if _, err := plain.Exec(ctx, "rollback"); err != nil {
		return errors.Join(err, plain.Close(ctx))
	}
	return nil
}
