package postgres_test

import (
	"context"
	"errors"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/money"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	"softpalm/internal/studio/diary"
	"softpalm/internal/studio/house"
)

// What is kept beside the data so that reads do not grow is what it was made of: the sums that closed days left, the
// words that clients are found by, the products that clients have had, names and headlines (decision 57).
func TestWhatIsKeptIsWhatItWasMadeOf(t *testing.T) {
	w := emptyWorld(t)
	ctx := context.Background()
	_, err := w.svc.House.CreateStudio(ctx, bundle(t), true)
	require.NoError(t, err)
	in, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "owner@demo.example", Password: "demo palms 1"}, "test")
	require.NoError(t, err)
	w.owner = in.Actor
	plan := w.plan(t, "95.00")
	w.pay(t, sale(nil, by(money.ByCash), books.SaleLine{Kind: books.SellTreatment, Protocol: &plan}))
	for what, query := range map[string]string{
		"sums of closed days": `select count(*) from account_total t full join (select c.day, p.account, sum(greatest(p.amount, 0)) as debit,
				sum(greatest(-p.amount, 0)) as credit
			from day_close c join ledger_posting p on p.studio_id = c.studio_id and p.day <= c.day group by c.day, p.account) s
			using (day, account) where t.debit is distinct from s.debit or t.credit is distinct from s.credit`,
		"sums of today": `select count(*) from account_totals(null) t full join (select account, sum(greatest(amount, 0)) as debit, sum(greatest(-amount, 0)) as credit
			from ledger_posting group by account) s using (account) where t.debit is distinct from s.debit or t.credit is distinct from s.credit`,
		"days of postings": `select count(*) from ledger_posting p join ledger_event e on e.studio_id = p.studio_id and e.id = p.event_id where p.day <> e.day`,
		"words": `select count(*) from client_word k full join (select c.id as client_id, x as word from client c
			cross join lateral client_words(c.name, c.email, c.phone) x where c.erased_at is null) s using (client_id, word)
			where k.client_id is null or s.word is null`,
		"products had": `select count(*) from client_product k full join (select distinct v.client_id, u->>'product' as product from visit v
			join treatment t on t.studio_id = v.studio_id and t.visit_id = v.id cross join lateral jsonb_array_elements(t.record->'uses') u
			where t.finished_at is not null and (u->>'real')::numeric > 0) s using (client_id, product)
			where k.client_id is null or s.product is null`,
		"names":     "select count(*) from protocol_version where name is distinct from body->>'name' or price is distinct from body->'price'->>'amount'",
		"headlines": "select count(*) from pre_check where headline is distinct from result->>'headline'",
	} {
		var wrong int
		require.NoError(t, w.direct(w.ownerURL, query, &wrong), what)
		assert.Zero(t, wrong, what)
	}
	var closed, had int
	require.NoError(t, w.direct(w.ownerURL, "select count(*) from account_total", &closed))
	require.NoError(t, w.direct(w.ownerURL, "select count(*) from client_product", &had))
	assert.Greater(t, closed, 100)
	assert.Greater(t, had, 10)
}

// Where all connections are taken a request that reads waits two seconds and is told to come again, and once they are free it is
// served at once (docs/decisions/0057).
func TestWhoWaitsTooLongIsToldToComeAgain(t *testing.T) {
	w := newWorld(t)
	ctx := studio.Reading(context.Background())
	var taken, done sync.WaitGroup
	free := make(chan struct{})
	for range 20 {
		taken.Add(1)
		done.Go(func() {
			assert.NoError(t, w.within(func(*postgres.Tx) error { taken.Done(); <-free; return nil }))
		})
	}
	taken.Wait()
	began := time.Now()
	err := w.db.InStudio(ctx, w.owner.Studio, func(studio.Tx) error { return nil })
	require.ErrorIs(t, err, studio.ErrUnavailable)
	assert.Less(t, time.Since(began), 7*time.Second)
	_, err = w.svc.House.Session(ctx, "a token of nobody")
	require.ErrorIs(t, err, studio.ErrUnavailable)
	close(free)
	done.Wait()
	require.NoError(t, w.within(func(*postgres.Tx) error { return nil }))
}

// A transaction may be answered from what is kept until it writes to what is counted itself; a part of it that was undone
// wrote nothing (docs/decisions/0058).
func TestWhoWritesMayRememberUntilThen(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	remembers := func(tx studio.Tx) bool {
		m, err := tx.Memory(ctx)
		require.NoError(t, err)
		return m != nil
	}
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		assert.True(t, remembers(tx), "nothing is written")
		require.NoError(t, tx.AddAudit(ctx, studio.Audit{ID: uuid.New(), Account: w.owner.Account, At: w.now, Action: "look", Subject: "client", SubjectID: uuid.New()}))
		assert.True(t, remembers(tx), "lines of the audit log are not counted")
		require.NoError(t, tx.LapseHolds(ctx, w.now))
		assert.False(t, remembers(tx), "appointments are")
		return nil
	}))
	undone := errors.New("undone")
	require.NoError(t, w.db.Together(ctx, w.owner.Studio, func(ctx context.Context) error {
		err := w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
			require.NoError(t, studio.As[diary.Store](tx).LapseHolds(ctx, w.now))
			assert.False(t, remembers(tx))
			return undone
		})
		require.ErrorIs(t, err, undone)
		return w.db.InStudio(ctx, w.owner.Studio, func(tx studio.Tx) error {
			assert.True(t, remembers(tx), "that part was undone")
			return nil
		})
	}))
	require.NoError(t, w.within(func(tx *postgres.Tx) error {
		assert.True(t, remembers(tx), "the next transaction begins anew")
		return nil
	}))
}
