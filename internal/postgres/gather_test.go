package postgres_test

import (
	"context"
	"errors"
	"io"
	"net"
	"net/url"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/portal"
)

// tripCounter stands between the program and the database, and counts how often the program waits for an answer.
type tripCounter struct {
	trips  atomic.Int64
	asking atomic.Bool
}

// counted opens the database of a world through a tripCounter, with one connection that is there already.
func (w *world) counted(t *testing.T) (*postgres.DB, *tripCounter) {
	t.Helper()
	at, err := url.Parse(w.appURL)
	require.NoError(t, err)
	listener, err := new(net.ListenConfig).Listen(context.Background(), "tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { listener.Close() })
	c := &tripCounter{}
	database := at.Host
	go func() {
		for {
			from, err := listener.Accept()
			if err != nil {
				return
			}
			to, err := net.Dial("tcp", database) //nolint:noctx // for as long as the test
			if err != nil {
				from.Close()
				return
			}
			go c.pass(from, to, true)
			go c.pass(to, from, false)
		}
	}()
	at.Host = listener.Addr().String()
	db, err := postgres.Open(context.Background(), at.String())
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	return db, c
}

// pass hands on what one says to the other; a trip begins with what the program says after the database has answered.
func (c *tripCounter) pass(from, to net.Conn, asks bool) {
	defer to.Close()
	buffer := make([]byte, 64<<10)
	for {
		n, err := from.Read(buffer)
		if n > 0 {
			if was := c.asking.Swap(asks); asks && !was {
				c.trips.Add(1)
			}
			if _, err := to.Write(buffer[:n]); err != nil {
				return
			}
		}
		if errors.Is(err, io.EOF) || err != nil {
			return
		}
	}
}

// of counts the round trips of some work that has been done before: its questions are prepared.
func (c *tripCounter) of(t *testing.T, work func() error) int64 {
	t.Helper()
	require.NoError(t, work())
	before := c.trips.Load()
	require.NoError(t, work())
	return c.trips.Load() - before
}

// What functions ask below Gather goes out together, with the beginning of the transaction; a line of the audit log goes out
// with its end (docs/decisions/0066).
func TestGatheredQuestionsTakeOneRoundTrip(t *testing.T) {
	w := newWorld(t)
	v := w.first(t)
	db, c := w.counted(t)
	ctx := studio.Reading(context.Background())
	look := studio.Audit{Account: w.owner.Account, At: w.now, Action: "look", Subject: "client", SubjectID: v.Client}
	in := func(fn func(tx *postgres.Tx) error) func() error {
		return func() error {
			return db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error { return fn(tx.(*postgres.Tx)) })
		}
	}
	var client *studio.Client
	var visit *studio.VisitLine
	var letters []studio.Letter
	together := func(tx *postgres.Tx) error {
		return tx.Gather(
			studio.Changed(ctx, tx), // a visit takes names from what is kept
			studio.ReadOf(ctx, &client, tx.Client, v.Client),
			studio.ReadOf(ctx, &visit, tx.Visit, v.ID),
			studio.ReadOf(ctx, &letters, tx.Letters, v.Client),
		)
	}
	assert.EqualValues(t, 0, c.of(t, in(func(*postgres.Tx) error { return nil })), "nothing is asked")
	assert.EqualValues(t, 2, c.of(t, in(together)), "what is asked, and the end")
	assert.Equal(t, v.Client, client.ID)
	assert.Equal(t, v.ID, visit.ID)
	assert.EqualValues(t, 2, c.of(t, in(func(tx *postgres.Tx) error {
		look.ID = uuid.New()
		return errors.Join(together(tx), tx.AddAudit(ctx, look))
	})), "the line of the audit log goes out with the end")
	assert.EqualValues(t, 4, c.of(t, in(func(tx *postgres.Tx) error {
		return tx.Gather(
			studio.Changed(ctx, tx),
			func() error { // each asks two questions one after another, and one of them gathers
				if _, err := tx.Client(ctx, v.Client); err != nil {
					return err
				}
				return together(tx)
			},
			func() error {
				_, err := tx.Client(ctx, v.Client)
				_, again := tx.Client(ctx, v.Client)
				return errors.Join(err, again)
			},
			func() error { return nil },
			func() error {
				for range 3 {
					if _, err := tx.Visit(ctx, v.ID); err != nil {
						return err
					}
				}
				return nil
			},
		)
	})), "three after another at most, and the end")
}

// The first error in the order of the functions is answered, whichever came first; what breaks in one breaks where Gather was
// called; nothing of a transaction that failed is kept, the line of the audit log neither.
func TestGatheredFunctionsThatFail(t *testing.T) {
	w := newWorld(t)
	ctx := studio.Reading(context.Background())
	first, second := errors.New("first"), errors.New("second")
	lines := w.count(t, "select count(*) from audit")
	err := w.within(func(tx *postgres.Tx) error {
		return tx.Gather(
			func() error {
				_, err := tx.Client(ctx, uuid.New())
				require.ErrorIs(t, err, studio.ErrNotFound)
				return first
			},
			func() error { return errors.Join(second, tx.AddAudit(ctx, studio.Audit{ID: uuid.New()})) },
		)
	})
	require.ErrorIs(t, err, first)
	require.NotErrorIs(t, err, second)
	assert.PanicsWithValue(t, "where it was called", func() {
		defer func() {
			e, _ := recover().(string)
			assert.Contains(t, e, "broke")
			panic("where it was called")
		}()
		_ = w.within(func(tx *postgres.Tx) error {
			return tx.Gather(func() error { panic("broke") }, studio.Changed(ctx, tx))
		})
	})
	err = w.within(func(tx *postgres.Tx) error {
		return tx.Gather(
			func() error {
				_, err := tx.Clients(ctx, studio.ClientQuery{Limit: 1, Now: w.now})
				return err
			},
			func() error { return tx.NoteTold(ctx, []portal.Told{{Visit: uuid.New(), Kind: "booked"}}, nil, w.now) }, // nobody's visit
		)
	})
	require.ErrorIs(t, err, studio.ErrNotFound)
	assert.Equal(t, lines, w.count(t, "select count(*) from audit"))
}

// Two functions that want the same kept thing do not wait for each other's work, which goes on only when both wait.
func TestGatheredFunctionsShareWhatIsKept(t *testing.T) {
	w := newWorld(t)
	ctx, cancel := context.WithTimeout(studio.Reading(context.Background()), 20*time.Second)
	defer cancel()
	var one, other int
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
		want := func(into *int) func() error {
			return func() (err error) {
				*into, err = studio.Keep(ctx, tx, "for a test", []studio.Area{studio.InStock}, func() (int, error) {
					clients, err := tx.(*postgres.Tx).Clients(ctx, studio.ClientQuery{Limit: 5, Now: w.now})
					return len(clients), err
				})
				return err
			}
		}
		return tx.Gather(want(&one), want(&other))
	}))
	assert.Equal(t, 5, one)
	assert.Equal(t, 5, other)
}

// A connection that was lost while it lay idle is replaced, and the request does not notice.
func TestALostConnectionIsReplaced(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	read := func() error {
		return w.within(func(tx *postgres.Tx) error {
			_, err := tx.Clients(ctx, studio.ClientQuery{Limit: 1, Now: w.now})
			return err
		})
	}
	require.NoError(t, read())
	var n int
	require.NoError(t, w.direct(w.ownerURL, `select count(pg_terminate_backend(pid)) from pg_stat_activity
		where datname = current_database() and usename = '`+postgres.AppRole+`' and pid <> pg_backend_pid()`, &n))
	require.Positive(t, n)
	time.Sleep(1100 * time.Millisecond) // connections idle for a second are asked whether they are there
	require.NoError(t, read())
}
