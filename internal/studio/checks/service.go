// Package checks is the room where it is decided whether and how a client can be
// treated: consultation, pre-treatment check, today's plan, patch tests, letters to
// the doctor and the studio's own rules.
package checks

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// Service carries out the use cases of the checks room.
type Service struct {
	*studio.Kernel
	Links    Links
	Diary    Diary
	Messages Messages
}

// Messages sends what goes to clients.
type Messages interface {
	Send(ctx context.Context, tx studio.Tx, m studio.Message) (mailed bool, err error)
	// Tell tells a client at once that visits were booked, moved or cancelled.
	Tell(ctx context.Context, tx studio.Tx, st *studio.Studio, n studio.Notice) error
}

// Links finds the consultation that a private link opens, and counts wrong tries.
type Links interface {
	FindConsultation(ctx context.Context, tokenHash []byte) (studio, consultation uuid.UUID, err error)
	// TakeAttempt notes an attempt where allowed says so of those since a time.
	TakeAttempt(ctx context.Context, subject string, at, since time.Time, allowed func(n int, last time.Time) bool) (bool, error)
}

// Diary is what this room asks of the diary.
type Diary interface {
	FreeTimesIn(ctx context.Context, tx studio.Tx, st *studio.Studio, q studio.FreeQuery) ([]studio.FreeTime, error)
}

// Store is all that this room asks of the one studio's data, for those who implement
// it. Lookups answer [studio.ErrNotFound]; lists are in a stated order, never nil.
type Store interface {
	checkStore
	letterStore
	ruleStore
	patchStore
	alternativeStore
	briefStore
	inboxStore
	linkStore
	sectionStore
}
