// Package studio holds the jobs of a facial massage studio as use cases: one
// file a job. A use case checks who asks, does its work inside one transaction
// of one studio, and leaves a trace in the audit log where health data is
// looked at or changed. The rules of the craft live in internal/craft; SQL
// lives in internal/postgres, behind [Store].
package studio

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/problem"
)

// Role is what an account may do.
type Role string

// The roles. The front desk sees times and go or not, never the answers.
const (
	Owner        Role = "owner"
	Practitioner Role = "practitioner"
	FrontDesk    Role = "front-desk"
)

// Errors that callers tell apart with errors.Is.
var (
	ErrNotFound     = errors.New("studio: not found")
	ErrExists       = errors.New("studio: exists already")
	ErrForbidden    = errors.New("studio: not allowed for this role")
	ErrLocked       = errors.New("studio: closed and cannot be changed")
	ErrTryAgain     = errors.New("studio: somebody else was changing the same; try again")
	ErrUnknownState = errors.New("studio: the database did not confirm; look before trying again")
	ErrSignIn       = errors.New("studio: the e-mail address or the password is not right")
	ErrThrottled    = errors.New("studio: too many attempts")
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

func faultAt(path, format string, a ...any) error {
	return &InputError{[]problem.Fault{{Path: path, Message: fmt.Sprintf(format, a...)}}}
}

// StateError says that something cannot be done now, with a stable code and a
// sentence saying what to do.
type StateError struct{ Code, Message string }

func (e *StateError) Error() string { return "studio: " + e.Code }

// StaleError says that a draft was changed elsewhere; it carries what is there.
type StaleError struct{ Current Draft }

func (e *StaleError) Error() string { return "studio: the draft was changed elsewhere" }

// Service carries out the use cases. Its fields must be set; it is safe for
// concurrent use.
type Service struct {
	Store Store
	// Now is the one clock of the server.
	Now func() time.Time
}

// Actor is who asks.
type Actor struct {
	Studio       uuid.UUID
	Account      uuid.UUID
	Name         string
	Role         Role
	Practitioner *uuid.UUID
}

// may returns ErrForbidden unless the actor has one of the roles.
func (a *Actor) may(roles ...Role) error {
	for _, r := range roles {
		if a.Role == r {
			return nil
		}
	}
	return ErrForbidden
}

// in runs a use case in the actor's studio, with the studio's own settings.
func (s *Service) in(ctx context.Context, a *Actor, fn func(tx Tx, st *Studio) error) error {
	return s.Store.InStudio(ctx, a.Studio, func(tx Tx) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		return fn(tx, st)
	})
}

// today is the studio's civil day.
func (s *Service) today(st *Studio) string { return s.Now().In(st.Zone()).Format(time.DateOnly) }

func (s *Service) audit(ctx context.Context, tx Tx, a *Actor, action, subject string, id uuid.UUID) error {
	return tx.AddAudit(ctx, Audit{ID: newID(), Account: a.Account, At: s.Now(), Action: action, Subject: subject, SubjectID: id})
}

func newID() uuid.UUID { return uuid.Must(uuid.NewV7()) }
