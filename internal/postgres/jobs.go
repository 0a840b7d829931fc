package postgres

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"os"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"
	"github.com/shopspring/decimal"

	"softpalm/internal/studio"
)

// jobSchema is where the library of jobs keeps its tables.
const jobSchema = "jobs"

// lookAfter is how often clients with appointments are looked after without being asked: what was
// booked before there were jobs, or restored from a backup, is told of as well.
const lookAfter = time.Hour

// tellClient looks what a client is to be told at a time. It carries no more than whom to look
// after: what is due is worked out anew, so that a job of an appointment that was moved or cancelled
// does nothing.
type tellClient struct {
	Studio uuid.UUID `json:"studio" river:"unique"`
	Client uuid.UUID `json:"client" river:"unique"`
	At     time.Time `json:"at" river:"unique"`
}

// Kind names the job.
func (tellClient) Kind() string { return "tell-client" }

// lookAfterClients looks after every client with an appointment near.
type lookAfterClients struct{}

// Kind names the job.
func (lookAfterClients) Kind() string { return "look-after-clients" }

// checkBalances compares what packs hold with the sum of their movements.
type checkBalances struct{}

// Kind names the job.
func (checkBalances) Kind() string { return "check-balances" }

// nightly is a time of day at which nobody works.
type nightly struct{}

// Next is the first such time after a moment, by the server's clock.
func (nightly) Next(after time.Time) time.Time {
	at := time.Date(after.Year(), after.Month(), after.Day(), 3, 40, 0, 0, after.Location())
	if !at.After(after) {
		at = at.AddDate(0, 0, 1)
	}
	return at
}

// TellDue tells a client what is due.
type TellDue func(ctx context.Context, studio, client uuid.UUID) error

// LookAfter is what is looked after in a studio: wall times that were promised, bookings without an end.
type LookAfter func(ctx context.Context, studio uuid.UUID) error

// Jobs works on what is due at a time, until it is stopped.
func (db *DB) Jobs(now func() time.Time, tell TellDue, keep ...LookAfter) (*river.Client[*sql.Tx], error) {
	workers := river.NewWorkers()
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[tellClient]) error {
		return tell(ctx, j.Args.Studio, j.Args.Client)
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, _ *river.Job[lookAfterClients]) error {
		return db.lookAfter(ctx, now(), tell, keep)
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, _ *river.Job[checkBalances]) error {
		_, err := db.CheckBalances(ctx, now())
		return err
	}))
	client, err := river.NewClient(riverdatabasesql.New(db.pool.DB), &river.Config{
		Schema:            jobSchema,
		Workers:           workers,
		Queues:            map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: 2}},
		FetchPollInterval: 2 * time.Second,
		Logger:            slog.New(slog.NewJSONHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn})),
		PeriodicJobs: []*river.PeriodicJob{river.NewPeriodicJob(river.PeriodicInterval(lookAfter),
			func() (river.JobArgs, *river.InsertOpts) { return lookAfterClients{}, nil }, &river.PeriodicJobOpts{RunOnStart: true}),
			river.NewPeriodicJob(nightly{}, func() (river.JobArgs, *river.InsertOpts) { return checkBalances{}, nil }, nil)},
	})
	if err != nil {
		return nil, fmt.Errorf("postgres: jobs: %w", err)
	}
	return client, nil
}

func (db *DB) lookAfter(ctx context.Context, now time.Time, tell TellDue, keep []LookAfter) error {
	var studios []uuid.UUID
	if err := db.pool.SelectContext(ctx, &studios, "select studios_with_visits($1)", now); err != nil {
		return translate(err)
	}
	for _, id := range studios {
		for _, one := range keep {
			if err := one(ctx, id); err != nil {
				return err
			}
		}
	}
	var all []struct {
		Studio uuid.UUID `db:"studio_id"`
		Client uuid.UUID `db:"client_id"`
	}
	if err := db.pool.SelectContext(ctx, &all, "select studio_id, client_id from clients_to_look_after($1)", now); err != nil {
		return translate(err)
	}
	for _, c := range all {
		if err := tell(ctx, c.Studio, c.Client); err != nil {
			return err
		}
	}
	return nil
}

// WrongBalance is a pack whose amount, or a product whose average worth, is not the sum of its movements.
type WrongBalance struct {
	Studio, Product uuid.UUID
	Pack            uuid.NullUUID // none where it is about what the product is worth
	Kept, Sum       decimal.Decimal
}

// CheckBalances compares in every studio with appointments to come what packs hold, and what products are worth on average,
// with the sums of their movements. What differs stands in the log: it is to be looked at, not put right by a program.
func (db *DB) CheckBalances(ctx context.Context, now time.Time) ([]WrongBalance, error) {
	var studios []uuid.UUID
	if err := db.pool.SelectContext(ctx, &studios, "select studios_with_visits($1)", now); err != nil {
		return nil, translate(err)
	}
	var wrong []WrongBalance
	for _, id := range studios {
		err := db.InStudio(studio.Reading(ctx), id, func(within studio.Tx) error {
			found, err := studio.As[*Tx](within).wrongBalances(ctx)
			wrong = append(wrong, found...)
			return err
		})
		if err != nil {
			return wrong, err
		}
	}
	for _, w := range wrong {
		slog.Error("a balance of the stock is not the sum of its movements",
			"studio", w.Studio, "product", w.Product, "pack", w.Pack.UUID, "kept", w.Kept, "sum", w.Sum)
	}
	return wrong, nil
}

func (t *Tx) wrongBalances(ctx context.Context) ([]WrongBalance, error) {
	// All movements of all years are read, and nobody waits for it.
	if err := t.exec(ctx, "set local statement_timeout = '5min'"); err != nil {
		return nil, err
	}
	return list(ctx, t, func(r fields) (w WrongBalance, err error) {
		w.Studio = t.studio
		err = r.Scan(&w.Product, &w.Pack, &w.Kept, &w.Sum)
		return w, err
	}, `with moved as materialized (select product_id, pack_id, sum(amount) as amount, sum(average) as worth
			from stock_movement where studio_id = $1 group by product_id, pack_id)
		select p.product_id, p.id, p.remaining, coalesce(m.amount, 0) from pack p
			left join (select pack_id, sum(amount) as amount from moved group by pack_id) m on m.pack_id = p.id
			where p.studio_id = $1 and p.remaining <> coalesce(m.amount, 0)
		union all select p.id, null, p.average_worth, coalesce(m.worth, 0) from product p
			left join (select product_id, sum(worth) as worth from moved group by product_id) m on m.product_id = p.id
			where p.studio_id = $1 and p.average_worth <> coalesce(m.worth, 0)`, t.studio)
}

// Wake asks to look at a time what a client is to be told; twice the same asks once.
func (t *Tx) Wake(ctx context.Context, client uuid.UUID, at time.Time) error {
	_, err := t.jobs.InsertTx(ctx, t.tx.Tx, tellClient{t.studio, client, at.UTC()},
		&river.InsertOpts{ScheduledAt: at, UniqueOpts: river.UniqueOpts{ByArgs: true}})
	return translate(err)
}

// jobInserter adds jobs and works on none.
func jobInserter(db *sql.DB) (*river.Client[*sql.Tx], error) {
	client, err := river.NewClient(riverdatabasesql.New(db), &river.Config{Schema: jobSchema})
	if err != nil {
		return nil, fmt.Errorf("postgres: jobs: %w", err)
	}
	return client, nil
}

// migrateJobs brings the tables of the library of jobs up to date.
func migrateJobs(ctx context.Context, db *sql.DB) error {
	m, err := rivermigrate.New(riverdatabasesql.New(db), &rivermigrate.Config{
		Schema: jobSchema, Logger: slog.New(slog.DiscardHandler),
	})
	if err != nil {
		return fmt.Errorf("postgres: jobs: %w", err)
	}
	if _, err := m.Migrate(ctx, rivermigrate.DirectionUp, nil); err != nil {
		return fmt.Errorf("postgres: the tables of jobs: %w", err)
	}
	return nil
}
