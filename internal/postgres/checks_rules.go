package postgres

import (
	"context"

	"softpalm/internal/studio"
)

// SaveOwnRules keeps the studio's own days.
func (t *Tx) SaveOwnRules(ctx context.Context, own studio.OwnRules) error {
	return t.one(ctx, "update studio set rule_pack = $2 where id = $1", t.studio, document(own))
}
