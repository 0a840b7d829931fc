package postgres

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jmoiron/sqlx"
	"github.com/riverqueue/river"

	"softpalm/internal/quickjson"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/checks"
	"softpalm/internal/studio/clients"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
	"softpalm/internal/studio/portal"
	"softpalm/internal/studio/protocols"
	"softpalm/internal/studio/shelf"
	"softpalm/internal/studio/treatment"
)

// Tx is one transaction in one studio. It serves the store of every room.
type Tx struct {
	tx   *sqlx.Tx
	conn *sqlx.Conn // that the transaction runs on
	last []question // what is asked together with the commit
	// gathered is what waits to be asked together, below Gather.
	gathered *gathering
	studio   uuid.UUID
	jobs     *river.Client[*sql.Tx]
	zone     *time.Location // of the studio, once it was asked for
	memory   *studio.Memory
	knows    *studio.Remembered // in a request that only reads, once it was asked for
}

var (
	_ studio.Tx       = (*Tx)(nil)
	_ books.Store     = (*Tx)(nil)
	_ checks.Store    = (*Tx)(nil)
	_ clients.Store   = (*Tx)(nil)
	_ diary.Store     = (*Tx)(nil)
	_ house.Store     = (*Tx)(nil)
	_ portal.Store    = (*Tx)(nil)
	_ protocols.Store = (*Tx)(nil)
	_ shelf.Stores    = (*Tx)(nil)
	_ treatment.Store = (*Tx)(nil)
)

func (t *Tx) exec(ctx context.Context, query string, args ...any) error {
	return t.ask(ctx, question{query: query, args: args})
}

// changed does something and counts the rows that it changed.
func (t *Tx) changed(ctx context.Context, query string, args ...any) (rows int64, err error) {
	err = t.ask(ctx, question{query: query, args: args, changed: &rows})
	return rows, err
}

// one changes exactly one row, or answers ErrNotFound.
func (t *Tx) one(ctx context.Context, query string, args ...any) error {
	n, err := t.changed(ctx, query, args...)
	if err == nil && n != 1 {
		return studio.ErrNotFound
	}
	return err
}

// get reads a row of one field, or answers ErrNotFound.
func (t *Tx) get(ctx context.Context, into any, query string, args ...any) error {
	err := t.row(ctx, query, args...).Scan(into)
	if errors.Is(err, sql.ErrNoRows) {
		return studio.ErrNotFound
	}
	return err
}

// fields are those of one row.
type fields interface{ Scan(into ...any) error }

// list scans rows one by one through a function.
func list[T any](ctx context.Context, t *Tx, scan func(fields) (T, error), query string, args ...any) ([]T, error) {
	out := []T{}
	err := t.ask(ctx, rowsOf(func(v T) { out = append(out, v) }, scan, query, args...))
	if err != nil {
		return nil, err
	}
	return out, nil
}

// row is the one row of an answer, which is asked for when it is scanned; sql.ErrNoRows says that there is none.
func (t *Tx) row(ctx context.Context, query string, args ...any) fields {
	return oneRow{ctx, t, query, args}
}

type oneRow struct {
	ctx   context.Context //nolint:containedctx // a row is scanned where it is asked for
	tx    *Tx
	query string
	args  []any
}

// Scan asks for the row and scans it.
func (r oneRow) Scan(into ...any) error {
	found := false
	err := r.tx.ask(r.ctx, question{query: r.query, args: r.args, read: func(rows pgx.Rows) error {
		if !rows.Next() {
			return rows.Err()
		}
		found = true
		if err := rows.Scan(into...); err != nil {
			return err
		}
		rows.Close()
		return rows.Err()
	}})
	if err == nil && !found {
		return sql.ErrNoRows
	}
	return err
}

// doc is a JSON document column.
type doc[T any] struct{ v *T }

func (d doc[T]) Scan(src any) error {
	switch b := src.(type) {
	case []byte:
		return quickjson.Read(b, d.v)
	case string:
		return quickjson.Read([]byte(b), d.v)
	}
	return fmt.Errorf("postgres: %T is not a document", src)
}

// optional is a JSON document column that may be empty.
type optional[T any] struct{ v **T }

func (o optional[T]) Scan(src any) error {
	if src == nil {
		*o.v = nil
		return nil
	}
	*o.v = new(T)
	return doc[T]{*o.v}.Scan(src)
}

func optionalDocument[T any](v *T) any {
	if v == nil {
		return nil
	}
	return document(v)
}

func document(v any) []byte {
	b, err := json.Marshal(v)
	if err != nil {
		panic("postgres: a document that cannot be written: " + err.Error())
	}
	return b
}

func day(s string) any {
	if s == "" {
		return nil
	}
	return s
}

func texts(s []string) any {
	if s == nil {
		s = []string{}
	}
	return pgtype.FlatArray[string](s)
}

// ids makes a uuid[] of a list, an empty one of none.
func ids(list []uuid.UUID) any {
	if list == nil {
		list = []uuid.UUID{}
	}
	return list
}

// atMost ends a question after so many rows. The number is part of the question: one that PostgreSQL does not know when it plans
// it takes for a tenth of all rows, and reads whole tables for them.
func atMost(rows int) string { return " limit " + strconv.Itoa(rows) }

// textList scans a text[] column.
type textList struct{ v *[]string }

func (l textList) Scan(src any) error {
	*l.v = []string{}
	s, ok := src.(string)
	if !ok {
		return fmt.Errorf("postgres: %T is not a list of texts", src)
	}
	return pgMap.SQLScanner(l.v).Scan(s)
}

var pgMap = pgtype.NewMap()

func found[T any](v *T, err error) (*T, error) {
	if errors.Is(err, sql.ErrNoRows) {
		return nil, studio.ErrNotFound
	}
	if err != nil {
		return nil, translate(err)
	}
	return v, nil
}
