// Package diary is the room of appointments: the day, free times, booking, moving
// and cancelling.
package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/studio"
)

// Service carries out the use cases of the diary room.
type Service struct {
	*studio.Kernel
	Checks   Checks
	Messages Messages
	Busy     BusyFiles
	Fetch    Fetcher
}

// Messages is what this room asks of the portal: that clients are told.
type Messages interface {
	// Tell tells a client at once that visits were booked, moved or cancelled.
	Tell(ctx context.Context, tx studio.Tx, st *studio.Studio, n studio.Notice) error
	// Offer sends a client a time that is held for them; sent is false where they cannot be written to.
	Offer(ctx context.Context, tx studio.Tx, st *studio.Studio, client uuid.UUID, visits []studio.VisitLine, until time.Time) (sent bool, err error)
	// TakeBack takes back what a client was told of a visit moments ago.
	TakeBack(ctx context.Context, tx studio.Tx, visit uuid.UUID, kind studio.MessageKind) error
}

// Checks is what this room asks of the checks.
type Checks interface {
	Outlook(ctx context.Context, tx studio.Tx, st *studio.Studio, a *studio.Actor, visits []studio.VisitLine) error
	// MoveLinks lets the private links that open until an appointment end with it.
	MoveLinks(ctx context.Context, tx studio.Tx, visit uuid.UUID, start time.Time) error
	// NeedsPatch lists the products of a visit's plan that need a patch test before it; the visit
	// may be one that is not booked yet.
	NeedsPatch(ctx context.Context, tx studio.Tx, st *studio.Studio, v *studio.VisitLine) ([]studio.Named, error)
	// Untried lists the products of a visit's plan that its client never had.
	Untried(ctx context.Context, tx studio.Tx, st *studio.Studio, v *studio.VisitLine) ([]studio.Named, error)
	// Waits are the days that planned procedures block, and the day on which a doctor's answer is
	// expected.
	Waits(ctx context.Context, tx studio.Tx, st *studio.Studio, client uuid.UUID) (blocked [][]string, letter string, err error)
	Expect(
		ctx context.Context,
		tx studio.Tx,
		st *studio.Studio,
		client uuid.UUID,
		day string,
	) (contraindication.Result, *studio.PreCheck, error)
}

// Store is what this room asks of the one studio's data, inside a transaction.
// Lookups answer [studio.ErrNotFound]; lists are in a stated order and never nil.
type Store interface {
	studio.Tx
	Practitioners(ctx context.Context) ([]studio.Person, error)                        // by name
	Rooms(ctx context.Context) ([]studio.Room, error)                                  // by name
	Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error) // number 0: the newest
	NewestVersion(ctx context.Context, id uuid.UUID) (int, error)                      // 0 before the first
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)        // by start
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	// RoomProgress is how far treatments under way have come, by visit.
	RoomProgress(ctx context.Context, visits []uuid.UUID) (map[uuid.UUID]studio.Progress, error)
	LockVisit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	LockDiary(ctx context.Context) error
	LapseHolds(ctx context.Context, now time.Time) error
	Overlap(ctx context.Context, v *studio.Visit) (what string, err error)
	AddVisit(ctx context.Context, v *studio.Visit) error
	SetVisitState(ctx context.Context, id uuid.UUID, state studio.VisitState) error
	MoveVisit(ctx context.Context, v *studio.Visit) error
	AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error
	AddCancelling(
		ctx context.Context,
		visit uuid.UUID,
		state studio.VisitState,
		account *uuid.UUID,
		at time.Time,
		reason string,
	) error
	VisitChanges(ctx context.Context, visit uuid.UUID) ([]studio.VisitChange, error) // newest first
}
