package backup

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"regexp"
)

var databaseName = regexp.MustCompile(`^[a-z][a-z0-9_]{0,62}$`)

// Target is a database that a backup is put into: an empty one, or a new one by name.
type Target struct {
	// OwnerURL signs in as the owner.
	OwnerURL string
	// Name is a new database of the same server; empty for the one of OwnerURL.
	Name string
	// Knows is the newest schema version that this program can read.
	Knows int64
}

// Restore checks a backup, puts it into an empty database and counts its rows there. It
// returns the URL of that database, which still has to be migrated. Where it fails, a
// database made for it is removed.
func Restore(ctx context.Context, file, passphrase string, to Target) (string, *Header, error) {
	h, dump, err := Open(file, passphrase)
	if err != nil {
		return "", nil, err
	}
	defer os.Remove(dump)
	if h.Schema > to.Knows {
		return "", nil, fmt.Errorf("the backup is of a newer Soft Palm (schema %d, this one knows %d). Use that version", h.Schema, to.Knows)
	}
	address, made, err := to.prepare(ctx)
	if err != nil {
		return "", nil, err
	}
	err = fill(ctx, address, dump, h)
	if err != nil && made {
		return "", nil, errors.Join(err, to.drop(ctx))
	}
	return address, h, err
}

// fill restores a dump in one transaction and compares the rows with the description.
func fill(ctx context.Context, address, dump string, h *Header) error {
	db, err := sql.Open("pgx", address)
	if err != nil {
		return err
	}
	defer db.Close()
	var tables int
	if err := db.QueryRowContext(ctx, "select count(*) from pg_tables where schemaname = 'public'").Scan(&tables); err != nil {
		return fmt.Errorf("the database cannot be reached: %w", err)
	}
	if tables > 0 {
		return errors.New("the database is not empty, and nothing is put over what is there. Name a new one: make restore FILE=... INTO=name")
	}
	// The dump grants rights and may hold settings of the server; both come with the next migration.
	err = run(ctx, address, nil, "pg_restore", "--single-transaction", "--exit-on-error", "--no-owner", "--no-acl", dump)
	if err != nil {
		return err
	}
	rows, err := countRows(ctx, db)
	if err != nil {
		return err
	}
	for table, n := range h.Rows {
		if rows[table] != n {
			return fmt.Errorf("the restored database is not whole: %s has %d of %d rows", table, rows[table], n)
		}
	}
	return nil
}

// prepare returns the URL of the database to fill, and whether it was made for it.
func (t *Target) prepare(ctx context.Context) (address string, made bool, err error) {
	if t.Name == "" {
		return t.OwnerURL, false, nil
	}
	if !databaseName.MatchString(t.Name) {
		return "", false, errors.New("the name of a database has small letters, digits and _, and begins with a letter")
	}
	u, err := url.Parse(t.OwnerURL)
	if err != nil {
		return "", false, err
	}
	db, err := sql.Open("pgx", t.OwnerURL)
	if err != nil {
		return "", false, err
	}
	defer db.Close()
	var there bool
	if err := db.QueryRowContext(ctx, "select exists (select from pg_database where datname = $1)", t.Name).Scan(&there); err != nil {
		return "", false, fmt.Errorf("the database cannot be reached: %w", err)
	}
	if !there {
		if _, err := db.ExecContext(ctx, `create database "`+t.Name+`"`); err != nil {
			return "", false, fmt.Errorf("the database %s cannot be made: %w", t.Name, err)
		}
	}
	u.Path = "/" + t.Name
	return u.String(), !there, nil
}

// drop removes a database that was made for a backup that could not be restored.
func (t *Target) drop(ctx context.Context) error {
	db, err := sql.Open("pgx", t.OwnerURL)
	if err != nil {
		return err
	}
	defer db.Close()
	_, err = db.ExecContext(ctx, `drop database "`+t.Name+`"`)
	return err
}
