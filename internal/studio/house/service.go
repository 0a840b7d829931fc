// Package house is the room of the studio itself: accounts and sessions, the
// handed-over tablet, the audit log, and studio files.
package house

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// Service carries out the use cases of the house room.
type Service struct {
	*studio.Kernel
	Checks    Checks
	Treatment Treatments
	SignIns   SignIns
	Messages  Messages
	Diary     Diary
	Books     studio.MoneyBringer
}

// Diary is what this room asks of the diary.
type Diary interface {
	// KeepWallTimes lets appointments keep the wall time that was promised.
	KeepWallTimes(ctx context.Context, studio uuid.UUID) error
}

// Messages sends what goes to those who work in the studio.
type Messages interface {
	Send(ctx context.Context, tx studio.Tx, m studio.Message) (mailed bool, err error)
}

// SignIns finds out whose a sign-in or a session is before its studio is known, and
// counts wrong tries.
type SignIns interface {
	FindSignIn(ctx context.Context, email string) (studio, account uuid.UUID, err error)
	// SessionOf returns the session that a token's hash belongs to, with its account and studio.
	SessionOf(ctx context.Context, tokenHash []byte) (*studio.Session, *studio.Account, *studio.Studio, error)
	// FindAccountLink returns the account whose password a token may choose, and until when.
	FindAccountLink(ctx context.Context, tokenHash []byte) (studio, account uuid.UUID, until time.Time, err error)
	// AnyStudio reports whether there is a studio yet.
	AnyStudio(ctx context.Context) (bool, error)
	DemoSignIns(ctx context.Context) ([]studio.DemoSignIn, error)
	// TakeAttempt notes an attempt where allowed says so of those since a time.
	TakeAttempt(ctx context.Context, subject string, at, since time.Time, allowed func(n int, last time.Time) bool) (bool, error)
	ReturnAttempt(ctx context.Context, subject string, at time.Time) error
	ClearAttempts(ctx context.Context, subject string, before time.Time) error
}

// Checks is what this room asks of the checks.
type Checks interface {
	HandOverLink(
		ctx context.Context,
		tx studio.Tx,
		st *studio.Studio,
		a *studio.Actor,
		session, client uuid.UUID,
	) (token string, until time.Time, err error)
	JudgePreCheck(
		ctx context.Context,
		tx studio.Tx,
		st *studio.Studio,
		client uuid.UUID,
		day calendar.Day,
		door map[string]contraindication.Answer,
	) (*studio.PreCheck, error)
}

// Treatments is what this room asks of the treatments.
type Treatments interface {
	TakeFromShelf(ctx context.Context, tx studio.Tx, t *studio.Treatment, v *studio.Visit, today string, by *uuid.UUID, at time.Time) error
	CloseVisit(ctx context.Context, tx studio.Tx, t *studio.Treatment, by *uuid.UUID, at time.Time) error
}

// Store is all that this room asks of the one studio's data, for those who implement
// it. Lookups answer [studio.ErrNotFound]; lists are in a stated order, never nil.
type Store interface {
	signInStore
	peopleStore
	settingsStore
	tabletStore
	auditStore
	newStudioStore
}
