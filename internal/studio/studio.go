// Package studio is the kernel of the studio's use cases: who asks ([Actor] and
// roles), the one clock, the unit of work, the audit log, and the records that the
// rooms share.
//
// A room is one job of the studio and one package below this one: protocols,
// clients, checks, diary, treatment, shelf and house. A use case checks who asks,
// does its work inside one transaction of one studio ([In]), and leaves a trace in
// the audit log where health data is looked at or changed. Rooms do not import each
// other; what one needs of another it asks for by an interface of its own, which
// package rooms fills in. Each room declares a small Store beside its use cases;
// package postgres implements them all.
//
// The rules of the craft live in internal/craft.
package studio

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/problem"
	"softpalm/words"
)

// ErrRehearsal undoes a rehearsal of an import.
var ErrRehearsal = errors.New("studio: rehearsal")

// Errors that callers distinguish with errors.Is.
var (
	ErrNotFound     = errors.New("studio: not found")
	ErrExists       = errors.New("studio: exists already")
	ErrForbidden    = errors.New("studio: not allowed for this role")
	ErrNotYours     = errors.New("studio: not one of the actor's own clients")
	ErrLocked       = errors.New("studio: closed and cannot be changed")
	ErrTryAgain     = errors.New("studio: somebody else was changing the same; try again")
	ErrUnknownState = errors.New("studio: the database did not confirm; look before trying again")
	ErrSignIn       = errors.New("studio: the e-mail address or the password is not right")
	ErrThrottled    = errors.New("studio: too many attempts")
	ErrUnavailable  = errors.New("studio: the database is away or too busy")
)

// TakenError says that a practitioner, room or client is booked at that time.
type TakenError struct {
	What string // practitioner, room or client
	Near []FreeTime
}

func (e *TakenError) Error() string { return "studio: the " + e.What + " is taken at that time" }

// InputError carries every problem of what was sent, with field paths.
type InputError struct{ Problems []problem.Fault }

func (e *InputError) Error() string {
	return fmt.Sprintf("studio: %s: %s", e.Problems[0].Path, e.Problems[0].Message)
}

// FaultAt is an error of what was sent: the field, and what is wrong with it.
func FaultAt(path string, s words.Sentence) error {
	return &InputError{[]problem.Fault{{Path: path, Sentence: s}}}
}

// StateError says that something cannot be done now, with a stable code and a
// sentence saying what to do.
type StateError struct {
	Code     string
	Sentence words.Sentence
}

func (e *StateError) Error() string { return "studio: " + e.Code }

// StaleError says that a draft was changed elsewhere; it carries what is there.
type StaleError struct{ Current Draft }

func (e *StaleError) Error() string { return "studio: the draft was changed elsewhere" }

// ChangedError says that somebody else changed the same thing meanwhile; it carries what
// is there now. One of its fields is set.
type ChangedError struct {
	Client   *Client
	Contents *RevisedContents
	// Other is what is there now of something else, as it is shown.
	Other any
}

func (e *ChangedError) Error() string { return "studio: changed by somebody else meanwhile" }

// Kernel is what every room's use cases are built on. Its fields must be set; it is safe
// for concurrent use.
type Kernel struct {
	Work UnitOfWork
	// Now is the one clock of the server.
	Now func() time.Time
	// Address is where the studio is reached from outside, for links in messages:
	// https://palm.example without a slash at its end.
	Address string
}

// In runs a use case in the actor's studio, in one transaction, with the studio's
// own settings. S is the store of the room.
func In[S Tx](ctx context.Context, k *Kernel, a *Actor, fn func(tx S, st *Studio) error) error {
	return Within(ctx, k, a.Studio, func(tx S) error {
		if st, ok := ctx.Value(studioKey{}).(*Studio); ok && st.ID == a.Studio {
			read := *st
			return fn(tx, &read)
		}
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		return fn(tx, st)
	})
}

// readsKey is the key of requests that only read.
type readsKey struct{}

// Reading marks a request that only reads: it is not worth waiting for long.
func Reading(ctx context.Context) context.Context { return context.WithValue(ctx, readsKey{}, true) }

// OnlyReads reports whether a request was marked by [Reading].
func OnlyReads(ctx context.Context) bool { return ctx.Value(readsKey{}) != nil }

// studioKey is the key of the studio that was read with the session of a request.
type studioKey struct{}

// WithStudio keeps the studio that was read with the session of a request: use cases of that request do not read it
// again.
func WithStudio(ctx context.Context, st *Studio) context.Context {
	return context.WithValue(ctx, studioKey{}, st)
}

// Within runs work in one transaction of a studio, for a room whose store is S.
func Within[S Tx](ctx context.Context, k *Kernel, studio uuid.UUID, fn func(tx S) error) error {
	return k.Work.InStudio(ctx, studio, func(tx Tx) error { return fn(As[S](tx)) })
}

// As is a transaction as another room's store. Every transaction serves every
// room's store; package postgres makes the compiler check it.
func As[S Tx](tx Tx) S {
	s, ok := tx.(S)
	if !ok {
		panic(fmt.Sprintf("studio: the transaction %T does not serve this room", tx))
	}
	return s
}

// Today is the studio's civil day.
func (k *Kernel) Today(st *Studio) string { return k.Now().In(st.Zone()).Format(time.DateOnly) }

// Audit leaves a line in the audit log.
func (k *Kernel) Audit(ctx context.Context, tx Tx, a *Actor, action, subject string, id uuid.UUID) error {
	from := OriginOf(ctx)
	return tx.AddAudit(ctx, Audit{
		ID:        NewID(),
		Account:   a.Account,
		At:        k.Now(),
		Action:    action,
		Subject:   subject,
		SubjectID: id,
		Address:   from.Address,
		Request:   from.Request,
	})
}

// NewID returns a new id, later than all before it (UUIDv7).
func NewID() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// AtPath puts the faults of what was sent below a path; other errors stay.
func AtPath(path string, err error) error {
	var bad *InputError
	if !errors.As(err, &bad) {
		return err
	}
	out := &InputError{Problems: slices.Clone(bad.Problems)}
	for i := range out.Problems {
		out.Problems[i].Path = path + out.Problems[i].Path
	}
	return out
}
