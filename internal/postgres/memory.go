package postgres

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// Memory is what is kept of the studio, with how often its data has changed so far; nil where the transaction itself has
// changed what is counted.
func (t *Tx) Memory(ctx context.Context) (*studio.Remembered, error) {
	if t.knows != nil {
		return t.knowing(), nil
	}
	m := &studio.Remembered{Memory: t.memory, Studio: t.studio}
	var own bool
	err := t.row(ctx, `select coalesce(c.catalog, 0), coalesce(c.plans, 0), coalesce(c.stock, 0), coalesce(c.diary, 0),
			coalesce(c.files, 0), coalesce(c.records, 0), coalesce(c.treatments, 0), coalesce(current_setting('app.changes', true), '') = 'own'
		from (select) here left join studio_change c on c.studio_id = $1`, t.studio).Scan(
		&m.Changes[studio.InCatalog], &m.Changes[studio.InPlans], &m.Changes[studio.InStock], &m.Changes[studio.InDiary],
		&m.Changes[studio.InFiles], &m.Changes[studio.InRecords],
		&m.Changes[studio.InTreatments], &own)
	if err != nil {
		return nil, translate(err)
	}
	if own {
		return nil, nil
	}
	if studio.OnlyReads(ctx) { // what it writes besides is a line of the audit log
		t.knows = m
		return t.knowing(), nil
	}
	m.Gathered = t.gathered != nil
	return m, nil
}

// knowing is what is known, as it may be used now.
func (t *Tx) knowing() *studio.Remembered {
	known := *t.knows
	known.Gathered = t.gathered != nil
	return &known
}

// keptList is a list that is kept while nothing changes in an area; each who asks gets a list of their own.
func keptList[T any](ctx context.Context, t *Tx, key string, from studio.Area, read func() ([]T, error)) ([]T, error) {
	out, err := studio.Keep(ctx, t, key, []studio.Area{from}, read)
	return slices.Clone(out), err
}

// ClientChanges counts what has changed in the files of some clients; those in which nothing has are missing.
func (t *Tx) ClientChanges(ctx context.Context, clients []uuid.UUID) (map[uuid.UUID]int64, error) {
	out := make(map[uuid.UUID]int64, len(clients))
	_, err := list(ctx, t, func(r fields) (none struct{}, err error) {
		var id uuid.UUID
		var n int64
		err = r.Scan(&id, &n)
		out[id] = n
		return none, err
	}, "select client_id, n from client_change where studio_id = $1 and client_id = any($2::uuid[])", t.studio, ids(clients))
	return out, err
}
