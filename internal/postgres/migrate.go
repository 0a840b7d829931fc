package postgres

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

//go:embed grants.sql
var grants string

// The database roles: the server signs in as AppRole, backups are made by BackupRole,
// which may read everything and write nothing.
const (
	AppRole    = "softpalm_app"
	BackupRole = "softpalm_backup"
)

// migrationLock is the advisory lock that keeps two migrations of a cluster apart.
const migrationLock = 7256871

// Migration is how a database is brought up to date.
type Migration struct {
	// OwnerURL signs in as the owner of the schema.
	OwnerURL string
	// AppPassword is set for the role of the server, BackupPassword for that of backups;
	// without one there is no such role.
	AppPassword, BackupPassword string
	// Before is called with the schema version that is there, before a database that has
	// one is changed: it makes a backup. An error leaves the database as it is.
	Before func(ctx context.Context, version int64) error
}

// Run brings the schema up to date and sets the passwords of the roles. Another Run on
// the same cluster waits until this one is done. A migration that fails changes nothing,
// and the version before it goes on serving.
func (m *Migration) Run(ctx context.Context) error {
	db, err := sql.Open("pgx", m.OwnerURL)
	if err != nil {
		return fmt.Errorf("postgres: %w", err)
	}
	defer db.Close()
	conn, err := db.Conn(ctx)
	if err != nil {
		return fmt.Errorf("postgres: cannot reach the database: %w", err)
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "select pg_advisory_lock($1)", migrationLock); err != nil {
		return fmt.Errorf("postgres: waiting for another migration: %w", err)
	}
	defer func() {
		_, _ = conn.ExecContext(context.WithoutCancel(ctx), "select pg_advisory_unlock($1)", migrationLock)
	}()
	if err := m.ensureRoles(ctx, conn); err != nil {
		return err
	}
	provider, err := newProvider(db)
	if err != nil {
		return err
	}
	version, err := provider.GetDBVersion(ctx)
	if err != nil {
		return fmt.Errorf("postgres: reading the schema version: %w", err)
	}
	if version > SchemaVersion() {
		return fits(version)
	}
	if version > 0 && version < SchemaVersion() && m.Before != nil {
		if err := m.Before(ctx, version); err != nil {
			return fmt.Errorf("the database was not upgraded, because no backup could be made first: %w", err)
		}
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("the upgrade stopped and its last step was undone; the version before it can go on serving this database: %w", err)
	}
	if err := migrateJobs(ctx, db); err != nil {
		return err
	}
	if _, err := db.ExecContext(ctx, grants); err != nil {
		return fmt.Errorf("postgres: granting: %w", err)
	}
	return nil
}

// Roles makes the roles alone, as a database needs them before a backup is put into it.
func (m *Migration) Roles(ctx context.Context) error {
	db, err := sql.Open("pgx", m.OwnerURL)
	if err != nil {
		return fmt.Errorf("postgres: %w", err)
	}
	defer db.Close()
	conn, err := db.Conn(ctx)
	if err != nil {
		return fmt.Errorf("postgres: cannot reach the database: %w", err)
	}
	defer conn.Close()
	return m.ensureRoles(ctx, conn)
}

// Migrate brings the schema up to date for tests: without backups.
func Migrate(ctx context.Context, ownerURL, appPassword string) error {
	return (&Migration{OwnerURL: ownerURL, AppPassword: appPassword}).Run(ctx)
}

// ensureRoles makes the roles, which belong to the whole cluster, and sets how long
// their statements may take, wait and idle.
func (m *Migration) ensureRoles(ctx context.Context, conn *sql.Conn) error {
	for _, r := range []struct{ name, password, attributes, then string }{
		{AppRole, m.AppPassword, "nosuperuser nocreatedb nocreaterole nobypassrls", `
			alter role softpalm_app set statement_timeout = '10s';
			alter role softpalm_app set lock_timeout = '3s';
			alter role softpalm_app set idle_in_transaction_session_timeout = '15s'`},
		{BackupRole, m.BackupPassword, "nosuperuser nocreatedb nocreaterole bypassrls", `
			grant pg_read_all_data to softpalm_backup;
			alter role softpalm_backup set default_transaction_read_only = on`},
	} {
		if r.password == "" {
			continue
		}
		ensure := fmt.Sprintf(`do $$ begin
			if not exists (select from pg_roles where rolname = '%[1]s') then
				create role %[1]s login %[3]s;
			end if;
			execute format('alter role %[1]s password %%L', %[2]s);
			%[4]s;
		end $$`, r.name, quote(r.password), r.attributes, r.then)
		if _, err := conn.ExecContext(ctx, ensure); err != nil {
			var pg *pgconn.PgError
			if r.name == BackupRole && errors.As(err, &pg) && pg.Code == "42501" {
				return errors.New("the owner of this database may not make the role " + BackupRole +
					", which reads past row security. Let an administrator make it, or leave SOFTPALM_BACKUP_PASSWORD unset and use the backups of the database service")
			}
			return fmt.Errorf("postgres: preparing the role %s: %w", r.name, err)
		}
	}
	return nil
}

// SchemaVersion is the version this program needs: its newest migration.
func SchemaVersion() int64 {
	files, _ := fs.ReadDir(migrations, "migrations")
	newest := int64(0)
	for _, f := range files {
		number, _, _ := strings.Cut(f.Name(), "_")
		if n, err := strconv.ParseInt(number, 10, 64); err == nil {
			newest = max(newest, n)
		}
	}
	return newest
}

// fits refuses a database of another schema version than this program's.
func fits(version int64) error {
	switch {
	case version > SchemaVersion():
		return fmt.Errorf("the database was upgraded by a newer Soft Palm (schema %d, this one knows %d). Use that version, or restore a backup made before the upgrade",
			version, SchemaVersion())
	case version < SchemaVersion():
		return fmt.Errorf("the database has schema %d and this Soft Palm needs %d. Run: softpalm migrate", version, SchemaVersion())
	}
	return nil
}

func newProvider(db *sql.DB) (*goose.Provider, error) {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, db, sub)
	if err != nil {
		return nil, fmt.Errorf("postgres: reading migrations: %w", err)
	}
	return p, nil
}

func quote(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }
