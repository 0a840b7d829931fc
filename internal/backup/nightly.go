package backup

import (
	"context"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

const (
	nightlyPrefix = "nightly-"
	// nightlyHour is the hour of the night at which a backup is made, local time.
	nightlyHour = 3
	// staleAfter is how old the newest backup may be before one is made at once, as
	// after nights in which the computer was off.
	staleAfter = 24 * time.Hour
)

// Nightly makes one backup a night and keeps the newest ones.
type Nightly struct {
	DatabaseURL, Folder, Passphrase string
	// Keep is how many nightly backups are kept.
	Keep int
	Now  func() time.Time
}

// Run makes backups until the context ends. One that fails is logged and tried again an
// hour later.
func (n *Nightly) Run(ctx context.Context) error {
	for {
		wait := n.wait()
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(wait):
		}
		if err := n.once(ctx); err != nil {
			slog.Error("the nightly backup failed", "error", err)
			select {
			case <-ctx.Done():
				return nil
			case <-time.After(time.Hour):
			}
		}
	}
}

// wait is how long until the next backup: none where the newest is stale.
func (n *Nightly) wait() time.Duration {
	now := n.Now()
	have := n.have()
	if len(have) == 0 {
		return 0
	}
	if info, err := os.Stat(have[len(have)-1]); err == nil && now.Sub(info.ModTime()) > staleAfter {
		return 0
	}
	next := time.Date(now.Year(), now.Month(), now.Day(), nightlyHour, 0, 0, 0, now.Location())
	if !next.After(now) {
		next = next.AddDate(0, 0, 1)
	}
	return next.Sub(now)
}

// once makes a backup and removes the oldest beyond the number to keep. A backup is only
// removed when a newer one is whole.
func (n *Nightly) once(ctx context.Context) error {
	file := filepath.Join(n.Folder, nightlyPrefix+n.Now().UTC().Format("20060102-150405")+Extension)
	h, err := Make(ctx, n.DatabaseURL, file, n.Passphrase, n.Now())
	if err != nil {
		return err
	}
	slog.Info("made a backup", "file", file, "schema", h.Schema, "bytes", h.Size)
	have := n.have()
	for len(have) > max(n.Keep, 1) {
		if err := os.Remove(have[0]); err != nil {
			return fmt.Errorf("an old backup cannot be removed: %w", err)
		}
		have = have[1:]
	}
	return nil
}

// have lists the nightly backups, oldest first.
func (n *Nightly) have() []string {
	found, _ := filepath.Glob(filepath.Join(n.Folder, nightlyPrefix+"*"+Extension))
	slices.SortFunc(found, strings.Compare)
	return found
}
