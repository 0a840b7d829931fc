package postgres_test

import (
	"bytes"
	"context"
	"database/sql"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/backup"
	"softpalm/internal/exchange"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
)

// withBackupRole makes the role of backups and returns its address for the world's database.
func (w *world) withBackupRole(t *testing.T) string {
	t.Helper()
	m := postgres.Migration{OwnerURL: w.ownerURL, AppPassword: os.Getenv("TEST_APP_PASSWORD"), BackupPassword: "backup for tests"}
	require.NoError(t, m.Run(context.Background()))
	address, err := postgres.RoleURL(w.ownerURL, postgres.BackupRole, "backup for tests")
	require.NoError(t, err)
	return address
}

// dumped is a database as text: every row and rule, without what differs from one
// database to the next.
func dumped(t *testing.T, address string) string {
	t.Helper()
	u, err := url.Parse(address)
	require.NoError(t, err)
	password, _ := u.User.Password()
	u.User = url.User(u.User.Username())
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/pg_dump")
	require.NotEmpty(t, found)
	cmd := exec.Command(found[len(found)-1], "--dbname="+u.String(), "--no-owner", "--no-acl")
	cmd.Env = append(os.Environ(), "PGPASSWORD="+password)
	var out bytes.Buffer
	cmd.Stdout = &out
	require.NoError(t, cmd.Run())
	// A trigger's condition comes back with fewer brackets; the keys of restrict are random.
	text := strings.NewReplacer("(", "", ")", "").Replace(out.String())
	return regexp.MustCompile(`(?m)^.(un)?restrict .*$`).ReplaceAllString(text, "")
}

// everyClient is the export of every client, as a studio would hand it over.
func everyClient(t *testing.T, w *world) map[string]string {
	t.Helper()
	ctx := context.Background()
	out := map[string]string{}
	list, _, err := w.svc.Clients.Clients(ctx, &w.owner, "", "")
	require.NoError(t, err)
	require.NotEmpty(t, list)
	for _, c := range list {
		f, err := w.svc.Clients.ExportClient(ctx, &w.owner, c.ID)
		require.NoError(t, err)
		text, err := exchange.Write(f)
		require.NoError(t, err)
		out[c.Name] = string(text)
	}
	return out
}

// A backup, encrypted or not, restored elsewhere is the same to the byte: the database
// as text, and the export of every client.
func TestABackupComesBackToTheByte(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	from := w.withBackupRole(t)
	for name, passphrase := range map[string]string{"plain": "", "encrypted": "three quiet words"} {
		t.Run(name, func(t *testing.T) {
			file := filepath.Join(t.TempDir(), "studio"+backup.Extension)
			h, err := backup.Make(ctx, from, file, passphrase, start)
			require.NoError(t, err)
			assert.Equal(t, postgres.SchemaVersion(), h.Schema)
			assert.Positive(t, h.Rows["client"])
			info, err := os.Stat(file)
			require.NoError(t, err)
			assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "health data: for its owner only")
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			assert.Equal(t, passphrase == "", bytes.Contains(data, []byte("softpalm-backup 1")))
			assert.NotContains(t, string(data), "Abendroth", "custom dumps are compressed")

			target := backup.Target{OwnerURL: w.ownerURL, Name: "r_" + strings.ReplaceAll(uuid.NewString(), "-", ""), Knows: postgres.SchemaVersion()}
			address, back, err := backup.Restore(ctx, file, passphrase, target)
			require.NoError(t, err)
			t.Cleanup(func() { dropDatabase(t, w.ownerURL, target.Name) })
			assert.Equal(t, h.Rows, back.Rows)
			require.NoError(t, postgres.Migrate(ctx, address, os.Getenv("TEST_APP_PASSWORD")))
			assert.True(t, dumped(t, w.ownerURL) == dumped(t, address), "the two databases differ as text")

			other := &world{now: w.now, owner: w.owner}
			appURL, err := postgres.AppURL(address, os.Getenv("TEST_APP_PASSWORD"))
			require.NoError(t, err)
			db, err := postgres.Open(ctx, appURL)
			require.NoError(t, err)
			defer db.Close()
			other.svc = rooms.New(db, func() time.Time { return w.now }, "http://studio.example", nil)
			assert.Equal(t, everyClient(t, w), everyClient(t, other))

			_, _, err = backup.Restore(ctx, file, passphrase, backup.Target{OwnerURL: address, Knows: postgres.SchemaVersion()})
			assert.ErrorContains(t, err, "not empty", "never over what is there")
		})
	}
}

func dropDatabase(t *testing.T, ownerURL, name string) {
	t.Helper()
	db, err := sql.Open("pgx", ownerURL)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec(`drop database if exists "` + name + `" with (force)`)
	assert.NoError(t, err)
}

// A file that is damaged, cut, of another kind or locked by another passphrase is told
// before anything is touched.
func TestABackupThatIsNotWholeIsRefused(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	from := w.withBackupRole(t)
	dir := t.TempDir()
	whole, locked := filepath.Join(dir, "whole"), filepath.Join(dir, "locked")
	_, err := backup.Make(ctx, from, whole, "", start)
	require.NoError(t, err)
	_, err = backup.Make(ctx, from, locked, "right", start)
	require.NoError(t, err)
	_, err = backup.Make(ctx, from, whole, "", start)
	assert.ErrorContains(t, err, "already", "a backup is never written over")
	data, err := os.ReadFile(whole)
	require.NoError(t, err)
	target := backup.Target{OwnerURL: w.ownerURL, Name: "never_made", Knows: postgres.SchemaVersion()}
	for name, c := range map[string]struct {
		file             func() []byte
		passphrase, says string
	}{
		"cut":              {func() []byte { return data[:len(data)-100] }, "", "damaged"},
		"one bit":          {func() []byte { d := bytes.Clone(data); d[len(d)/2] ^= 1; return d }, "", "damaged"},
		"description":      {func() []byte { return append([]byte("softpalm-backup 1\n{"), data...) }, "", "description"},
		"something else":   {func() []byte { return []byte("hello") }, "", "not a backup"},
		"empty":            {func() []byte { return nil }, "", "not a backup"},
		"no passphrase":    {func() []byte { d, _ := os.ReadFile(locked); return d }, "", "encrypted"},
		"wrong passphrase": {func() []byte { d, _ := os.ReadFile(locked); return d }, "wrong", "passphrase"},
	} {
		t.Run(name, func(t *testing.T) {
			file := filepath.Join(t.TempDir(), "x")
			require.NoError(t, os.WriteFile(file, c.file(), 0o600))
			_, _, err := backup.Restore(ctx, file, c.passphrase, target)
			assert.ErrorContains(t, err, c.says)
		})
	}
	_, _, err = backup.Restore(ctx, whole, "", backup.Target{OwnerURL: w.ownerURL, Name: target.Name, Knows: 3})
	assert.ErrorContains(t, err, "newer Soft Palm")
	_, _, err = backup.Restore(ctx, whole, "", backup.Target{OwnerURL: w.ownerURL, Name: "no; drop", Knows: 99})
	assert.ErrorContains(t, err, "small letters")
	db, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer db.Close()
	var made bool
	require.NoError(t, db.QueryRow("select exists (select from pg_database where datname = 'never_made')").Scan(&made))
	assert.False(t, made)
}

// The role of backups reads everything, past row security, and writes nothing.
func TestTheBackupRoleOnlyReads(t *testing.T) {
	w := aloneWorld(t)
	db, err := sql.Open("pgx", w.withBackupRole(t))
	require.NoError(t, err)
	defer db.Close()
	var clients int
	require.NoError(t, db.QueryRow("select count(*) from client").Scan(&clients))
	assert.Positive(t, clients)
	for _, s := range []string{"delete from client", "update account set role = 'owner'", "create table x (y int)", "drop table visit"} {
		_, err := db.Exec(s)
		assert.Error(t, err, s)
	}
	_, err = postgres.Open(context.Background(), w.ownerURL)
	assert.ErrorContains(t, err, "row security", "the server refuses to serve as the owner")
}

// Nightly backups keep their number; one that is stale is made at once.
func TestNightlyBackupsKeepTheirNumber(t *testing.T) {
	w := aloneWorld(t)
	from := w.withBackupRole(t)
	dir := t.TempDir()
	made := func() []string {
		found, err := filepath.Glob(filepath.Join(dir, "nightly-*"+backup.Extension))
		require.NoError(t, err)
		return found
	}
	day := time.Now().Add(-5 * 24 * time.Hour)
	for i := range 4 {
		ctx, cancel := context.WithCancel(context.Background())
		n := backup.Nightly{DatabaseURL: from, Folder: dir, Keep: 2, Now: func() time.Time { return day.Add(time.Duration(i) * 24 * time.Hour) }}
		old := made()
		for _, f := range old { // as if they were of the nights before
			require.NoError(t, os.Chtimes(f, day.Add(-48*time.Hour), day.Add(-48*time.Hour)))
		}
		done := make(chan error, 1)
		go func() { done <- n.Run(ctx) }()
		assert.Eventually(t, func() bool {
			now := made()
			return len(now) > 0 && (len(old) == 0 || now[len(now)-1] != old[len(old)-1]) && len(now) <= 2
		}, 20*time.Second, 50*time.Millisecond)
		cancel()
		require.NoError(t, <-done)
	}
	assert.Len(t, made(), 2)
}

// Six at once: one migrates, the others wait, and all succeed.
func TestMigrationsWaitForEachOther(t *testing.T) {
	w := aloneWorld(t)
	name := "m_" + strings.ReplaceAll(uuid.NewString(), "-", "")
	db, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec("create database " + name)
	require.NoError(t, err)
	t.Cleanup(func() { dropDatabase(t, w.ownerURL, name) })
	u, err := url.Parse(w.ownerURL)
	require.NoError(t, err)
	u.Path = "/" + name
	var all sync.WaitGroup
	errs := make([]error, 6)
	for i := range errs {
		all.Go(func() { errs[i] = postgres.Migrate(context.Background(), u.String(), os.Getenv("TEST_APP_PASSWORD")) })
	}
	all.Wait()
	for _, err := range errs {
		assert.NoError(t, err)
	}
}

// A database that a newer version upgraded is refused in a sentence, by migrating and by
// serving; one that is behind asks for its migration, and is backed up before it.
func TestAnotherSchemaVersionIsRefused(t *testing.T) {
	w := aloneWorld(t)
	ctx := context.Background()
	db, err := sql.Open("pgx", w.ownerURL)
	require.NoError(t, err)
	defer db.Close()
	set := func(statement string) {
		_, err := db.Exec(statement)
		require.NoError(t, err)
	}
	set("insert into goose_db_version (version_id, is_applied) values (9999, true)")
	assert.ErrorContains(t, postgres.Migrate(ctx, w.ownerURL, os.Getenv("TEST_APP_PASSWORD")), "newer Soft Palm (schema 9999")
	_, err = postgres.Open(ctx, w.appURL)
	assert.ErrorContains(t, err, "newer Soft Palm")
	set("delete from goose_db_version where version_id = 9999 or version_id = (select max(version_id) from goose_db_version where version_id < 9999)")
	_, err = postgres.Open(ctx, w.appURL)
	assert.ErrorContains(t, err, "softpalm migrate")
	asked := int64(0)
	m := postgres.Migration{OwnerURL: w.ownerURL, AppPassword: os.Getenv("TEST_APP_PASSWORD"), Before: func(_ context.Context, version int64) error {
		asked = version
		return os.ErrPermission
	}}
	err = m.Run(ctx)
	require.ErrorIs(t, err, os.ErrPermission)
	assert.ErrorContains(t, err, "no backup could be made", "and nothing was upgraded")
	assert.Equal(t, postgres.SchemaVersion()-1, asked)
}
