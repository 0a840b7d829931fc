package postgres

import "softpalm/internal/studio"

// Kept is what the pool keeps of its studios, for tests.
func (db *DB) Kept() *studio.Memory { return db.memory }
