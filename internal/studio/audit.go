package studio

import (
	"context"
	"time"
)

// AuditLine is a line of the audit log.
type AuditLine struct {
	At      time.Time `json:"at"`
	Account string    `json:"account"`
	Action  string    `json:"action"`
	Subject string    `json:"subject"`
	// Client is the client's name where the line is about one.
	Client string `json:"client,omitempty"`
}

// auditPage is how many lines of the log a page holds.
const auditPage = 200

// AuditLog returns the newest lines of the log before a moment; for the owner.
func (s *Service) AuditLog(ctx context.Context, a *Actor, before time.Time) (list []AuditLine, err error) {
	if err := a.may(Owner); err != nil {
		return nil, err
	}
	if before.IsZero() {
		before = s.Now().Add(time.Minute)
	}
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		list, err = tx.AuditLog(ctx, before, auditPage)
		return err
	})
	return list, err
}
