package postgres_test

import (
	"context"
	"database/sql"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/postgres"
	"softpalm/internal/studio"
)

// While the database is away every request is answered with 503, a sentence and when to
// try again: never with a fault of the server. When it is back, so is the studio.
func TestADatabaseThatIsAway(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "maud@demo.example", "demo palms 2")
	admin, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer admin.Close()
	var name string
	require.NoError(t, admin.QueryRow("select current_database()").Scan(&name))
	exec := func(statement string) {
		_, err := admin.Exec(statement)
		require.NoError(t, err)
	}
	exec("revoke connect on database " + name + " from public")
	exec("revoke connect on database " + name + " from " + postgres.AppRole)
	exec("select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and usename = '" + postgres.AppRole + "'")
	for _, c := range []struct{ method, path, body string }{
		{"GET", "/api/session", ""},
		{"GET", "/api/day", ""},
		{"GET", "/api/clients", ""},
		{"GET", "/api/shelf", ""},
		{"POST", "/api/clients", `{"name":"Nobody","email":"","phone":"","birthDate":"","skinType":"normal","skinStates":[],"phototype":0,"note":""}`},
		{"POST", "/api/sign-in", `{"email":"maud@demo.example","password":"demo palms 2"}`},
	} {
		res, body := call(c.method, c.path, c.body)
		assert.Equal(t, 503, res.StatusCode, "%s %s: %s", c.method, c.path, body)
		assert.Equal(t, "5", res.Header.Get("Retry-After"), c.path)
		assert.Contains(t, body, "Try again in a few seconds", c.path)
	}
	res, _ := call("GET", "/readyz", "")
	assert.Equal(t, 503, res.StatusCode)
	exec("grant connect on database " + name + " to " + postgres.AppRole)
	res, body := call("GET", "/api/day", "")
	assert.Equal(t, 200, res.StatusCode, body)
}

// One statement is cut off after its time, a transaction that waits for a lock sooner
// and one that idles is ended: nobody waits for another without end.
func TestStatementsLocksAndIdleTransactionsHaveALimit(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	db, err := sql.Open("pgx", w.appURL)
	require.NoError(t, err)
	defer db.Close()
	for setting, want := range map[string]string{"statement_timeout": "10s", "lock_timeout": "3s", "idle_in_transaction_session_timeout": "15s"} {
		var have string
		require.NoError(t, db.QueryRowContext(ctx, "select current_setting($1)", setting).Scan(&have))
		assert.Equal(t, want, have, setting)
	}
	// Somebody holds a client's row: the other is told after three seconds, with 503.
	owner, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer owner.Close()
	tx, err := owner.BeginTx(ctx, nil)
	require.NoError(t, err)
	defer func() { _ = tx.Rollback() }()
	_, err = tx.ExecContext(ctx, "lock table client in access exclusive mode")
	require.NoError(t, err)
	begun := time.Now()
	_, _, err = w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.ErrorIs(t, err, studio.ErrUnavailable)
	assert.Less(t, time.Since(begun), 8*time.Second)
}
