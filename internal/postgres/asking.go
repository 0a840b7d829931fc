package postgres

import (
	"context"
	"fmt"
	"runtime/debug"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// question is one of several that are asked in one round trip.
type question struct {
	query string
	args  []any
	// read reads the rows of the answer, and changed takes how many rows were changed; either may be nil.
	read    func(pgx.Rows) error
	changed *int64
}

// rowsOf is a question whose rows are scanned one by one through a function, and each handed on.
func rowsOf[T any](take func(T), scan func(fields) (T, error), query string, args ...any) question {
	return question{query: query, args: args, read: func(rows pgx.Rows) error {
		for rows.Next() {
			v, err := scan(rows)
			if err != nil {
				return err
			}
			take(v)
		}
		return rows.Err()
	}}
}

// ask asks questions of which none builds on another's answer, in one round trip; below [Tx.Gather] together with those of the
// others.
func (t *Tx) ask(ctx context.Context, questions ...question) error {
	if t.gathered != nil {
		return t.gathered.ask(ctx, questions)
	}
	return t.send(ctx, questions)
}

// send asks questions at once.
func (t *Tx) send(ctx context.Context, questions []question) error {
	batch := &pgx.Batch{}
	for _, q := range questions {
		queued := batch.Queue(q.query, q.args...)
		switch {
		case q.read != nil:
			queued.Query(q.read)
		case q.changed != nil:
			queued.Exec(func(done pgconn.CommandTag) error {
				*q.changed = done.RowsAffected()
				return nil
			})
		}
	}
	err := t.conn.Raw(func(raw any) error {
		c, ok := raw.(*conn)
		if !ok {
			return fmt.Errorf("postgres: a connection of %T", raw)
		}
		return c.ask(ctx, batch)
	})
	return translate(err)
}

// Gather runs functions that ask together; see [studio.Tx]. Below another one they ask together with its functions.
func (t *Tx) Gather(functions ...func() error) error {
	if len(functions) == 0 {
		return nil
	}
	g := t.gathered
	if g == nil {
		g = &gathering{tx: t}
		t.gathered = g
		defer func() { t.gathered = nil }()
	}
	failed := make([]error, len(functions))
	left, back := len(functions), make(turn, 1)
	for i, f := range functions {
		mine := make(turn, 1)
		g.ready = append(g.ready, mine)
		go func() {
			<-mine
			failed[i] = g.run(f)
			if left--; left == 0 {
				g.ready = append(g.ready, back)
			}
			g.next()
		}()
	}
	g.next()
	<-back
	if g.broke != "" {
		panic(g.broke) // where the request is, and not beside it
	}
	for _, err := range failed {
		if err != nil {
			return err
		}
	}
	return nil
}

// gathering is what some functions ask together. One of them runs at a time, whoever has the turn, and changes it.
type gathering struct {
	tx      *Tx
	ready   []turn   // who may go on, in order
	waiting []*asked // who waits until all do
	broke   string   // what should not have happened in one of them
}

// turn tells one who waits to go on.
type turn chan struct{}

// asked are questions of one function that wait for the others.
type asked struct {
	ctx       context.Context //nolint:containedctx // whoever asks last asks for all
	questions []question
	err       error
	answered  turn
}

// ask leaves questions to be asked together with those of the other functions, and waits for the answers.
func (g *gathering) ask(ctx context.Context, questions []question) error {
	mine := &asked{ctx: ctx, questions: questions, answered: make(turn, 1)}
	g.waiting = append(g.waiting, mine)
	g.next()
	<-mine.answered
	return mine.err
}

// next passes the turn on. Where nobody can go on, it asks for all who wait.
func (g *gathering) next() {
	if len(g.ready) == 0 {
		var questions []question
		for _, a := range g.waiting {
			questions = append(questions, a.questions...)
			g.ready = append(g.ready, a.answered)
		}
		err := g.tx.send(g.waiting[0].ctx, questions)
		for _, a := range g.waiting {
			a.err = err
		}
		g.waiting = nil
	}
	first := g.ready[0]
	g.ready = g.ready[1:]
	first <- struct{}{}
}

// run runs one of the functions.
func (g *gathering) run(f func() error) error {
	defer func() {
		if e := recover(); e != nil {
			g.broke = fmt.Sprintf("%v\n%s", e, debug.Stack())
		}
	}()
	return f()
}
