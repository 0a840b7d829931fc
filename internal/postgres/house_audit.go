package postgres

import (
	"context"
	"time"

	"softpalm/internal/studio"
)

// AddAudit adds a line to the audit log; where nothing else is written, together with the commit.
func (t *Tx) AddAudit(ctx context.Context, a studio.Audit) error {
	line := question{query: `insert into audit (studio_id, id, account_id, at, action, subject, subject_id, address, request)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`, args: []any{
		t.studio, a.ID, of(a.Account), a.At, a.Action, a.Subject, a.SubjectID, a.Address, a.Request,
	}}
	if studio.OnlyReads(ctx) {
		t.last = append(t.last, line)
		return nil
	}
	return t.exec(ctx, line.query, line.args...)
}

// AuditLog lists the newest lines of the audit log before a moment.
func (t *Tx) AuditLog(ctx context.Context, before time.Time, limit int) ([]studio.AuditLine, error) {
	return list(ctx, t, func(r fields) (l studio.AuditLine, err error) {
		err = r.Scan(&l.At, &l.Account, &l.Action, &l.Subject, &l.Client, &l.Address, &l.Request)
		return l, err
	}, `select a.at, coalesce((select k.name from account k where k.studio_id = $1 and k.id = a.account_id), ''), a.action, a.subject,
			coalesce((select c.name from client c where c.studio_id = $1 and c.id = a.subject_id),
				(select c.name from visit v join client c on c.studio_id = $1 and c.id = v.client_id
				where v.studio_id = $1 and v.id = a.subject_id),
				(select k.name from account k where k.studio_id = $1 and k.id = a.subject_id), ''),
			a.address, a.request
		from audit a
		where a.studio_id = $1 and a.at < $2 order by a.at desc, a.id desc`+atMost(limit), t.studio, before)
}
