package house

import (
	"context"
	"time"

	"softpalm/internal/studio"
)

// auditStore reads the log.
type auditStore interface {
	studio.Tx
	AuditLog(ctx context.Context, before time.Time, limit int) ([]studio.AuditLine, error) // newest first
}

// auditPage is how many lines of the log a page holds.
const auditPage = 100

// AuditLog returns the newest lines of the log before a moment; for the owner.
func (s *Service) AuditLog(ctx context.Context, a *studio.Actor, before time.Time) (list []studio.AuditLine, err error) {
	if err := a.May("audit-log"); err != nil {
		return nil, err
	}
	if before.IsZero() {
		before = s.Now().Add(time.Minute)
	}
	err = studio.In(ctx, s.Kernel, a, func(tx auditStore, _ *studio.Studio) error {
		list, err = tx.AuditLog(ctx, before, auditPage)
		return err
	})
	return list, err
}
