package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"time"

	"softpalm/internal/backup"
	"softpalm/internal/postgres"
)

func (cfg *settings) migration() (*postgres.Migration, error) {
	if cfg.DatabaseURL == "" || cfg.AppPassword == "" {
		return nil, errors.New("DATABASE_URL (the owner's) and SOFTPALM_APP_PASSWORD must be set; make start sets both")
	}
	return &postgres.Migration{OwnerURL: cfg.DatabaseURL, AppPassword: cfg.AppPassword, BackupPassword: cfg.BackupPassword}, nil
}

// migrate brings the database up to date; one that holds a studio is backed up first.
func (cfg *settings) migrate(ctx context.Context, now func() time.Time) error {
	m, err := cfg.migration()
	if err != nil {
		return err
	}
	m.Before = func(ctx context.Context, version int64) error {
		if cfg.Backups == "" {
			slog.Warn("upgrading without a backup: SOFTPALM_BACKUPS is not set")
			return nil
		}
		from := cfg.DatabaseURL
		if cfg.BackupPassword != "" {
			if from, err = postgres.RoleURL(cfg.DatabaseURL, postgres.BackupRole, cfg.BackupPassword); err != nil {
				return err
			}
		}
		name := fmt.Sprintf("before-schema-%d-%s%s", postgres.SchemaVersion(), now().UTC().Format("20060102-150405"), backup.Extension)
		h, err := backup.Make(ctx, from, filepath.Join(cfg.Backups, name), cfg.BackupPassphrase, now())
		if err == nil {
			slog.Info("made a backup before the upgrade", "file", name, "schema", h.Schema)
		}
		return err
	}
	return m.Run(ctx)
}

// backup makes one backup, or one every night until it is told to stop.
func (cfg *settings) backup(ctx context.Context, now func() time.Time, args []string) error {
	if cfg.DatabaseURL == "" || cfg.Backups == "" {
		return errors.New("DATABASE_URL (for the role that makes backups) and SOFTPALM_BACKUPS (the folder) must be set; make backup sets both")
	}
	if len(args) == 1 && args[0] == "nightly" {
		n := backup.Nightly{DatabaseURL: cfg.DatabaseURL, Folder: cfg.Backups, Passphrase: cfg.BackupPassphrase, Keep: cfg.BackupKeep, Now: now}
		return n.Run(ctx)
	}
	if len(args) > 1 || len(args) == 1 && args[0] != "now" {
		return errors.New("say when: softpalm backup now, or softpalm backup nightly")
	}
	file := filepath.Join(cfg.Backups, "backup-"+now().UTC().Format("20060102-150405")+backup.Extension)
	h, err := backup.Make(ctx, cfg.DatabaseURL, file, cfg.BackupPassphrase, now())
	if err != nil {
		return err
	}
	fmt.Printf("Made the backup %s: schema %d, %d clients, %d bytes%s.\n", file, h.Schema, h.Rows["client"], h.Size, encrypted(cfg.BackupPassphrase))
	return nil
}

func encrypted(passphrase string) string {
	if passphrase == "" {
		return ", not encrypted"
	}
	return ", encrypted"
}

// restore puts a backup into an empty database and brings it up to date.
func (cfg *settings) restore(ctx context.Context, args []string) error {
	if len(args) < 1 || len(args) > 2 {
		return errors.New("say which backup, and into which new database if not the empty one: softpalm restore FILE [NAME]")
	}
	m, err := cfg.migration()
	if err != nil {
		return err
	}
	if err := m.Roles(ctx); err != nil {
		return err
	}
	to := backup.Target{OwnerURL: cfg.DatabaseURL, Knows: postgres.SchemaVersion()}
	if len(args) == 2 {
		to.Name = args[1]
	}
	address, h, err := backup.Restore(ctx, args[0], cfg.BackupPassphrase, to)
	if err != nil {
		return err
	}
	m.OwnerURL = address
	if err := m.Run(ctx); err != nil {
		return err
	}
	fmt.Printf("Restored the backup of %s: %d clients, %d appointments.\n", h.Made.Format("2 Jan 2006, 15:04 MST"), h.Rows["client"], h.Rows["visit"])
	return nil
}

// printURL prints the address of the database for the role of the server or of backups.
func (cfg *settings) printURL(args []string) error {
	role, password := postgres.AppRole, cfg.AppPassword
	if len(args) == 1 && args[0] == "backup" {
		role, password = postgres.BackupRole, cfg.BackupPassword
	} else if len(args) != 1 || args[0] != "server" {
		return errors.New("say for whom: softpalm url server, or softpalm url backup")
	}
	address, err := postgres.RoleURL(cfg.DatabaseURL, role, password)
	if err != nil {
		return err
	}
	fmt.Println(address)
	return nil
}
