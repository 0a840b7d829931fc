// Package treatment is the room of the treatment itself: it starts with the prepared
// plan, guides step by step, and ends with the locked record that takes products
// from stock.
package treatment

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
)

// Service carries out the use cases of the treatment room.
type Service struct {
	*studio.Kernel
	Checks Checks
	Diary  Diary
	Shelf  Shelf
	Books  studio.SeriesVisits
}

// Diary is what this room asks of the diary.
type Diary interface {
	// Divide makes a visit of each treatment of a visit of several.
	Divide(ctx context.Context, tx studio.Tx, a *studio.Actor, v *studio.Visit) error
}

// Shelf is what this room asks of the shelf.
type Shelf interface {
	// Learn works out the half-life of products anew, after a record spoke of them.
	Learn(ctx context.Context, tx studio.Tx, products []uuid.UUID) error
	// UseTools takes a ready piece of each tool into a treatment that begins, ReturnTools says that they are to
	// be cleaned.
	UseTools(ctx context.Context, tx studio.Tx, st *studio.Studio, a *studio.Actor, visit uuid.UUID, tools []string) error
	ReturnTools(ctx context.Context, tx studio.Tx, a *studio.Actor, visit uuid.UUID) error
	// SetAside keeps lots from being used, with the reason, until somebody lets them be used again.
	SetAside(ctx context.Context, tx studio.Tx, a *studio.Actor, lots []uuid.UUID, why string) error
}

// Checks is what this room asks of the checks.
type Checks interface {
	Prepare(
		ctx context.Context,
		tx studio.Tx,
		st *studio.Studio,
		v *studio.VisitLine,
		want *studio.PlanOptions,
	) (*studio.Plan, error)
}

// Store is what this room asks of the one studio's data, inside a transaction.
// Lookups answer [studio.ErrNotFound]; lists are in a stated order and never nil.
type Store interface {
	studio.LibraryStore
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	studio.StockStore
	Packs(ctx context.Context) ([]studio.Pack, error)
	// LastMeasures says how a practitioner measured each product last, by product.
	LastMeasures(ctx context.Context, practitioner uuid.UUID) (map[uuid.UUID]shelf.Reading, error)
	AddProductUse(ctx context.Context, u *studio.ProductUse) error
	AddSlipObservation(ctx context.Context, product, visit uuid.UUID, s studio.SlidFor, skin float64, at time.Time) error
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	LockVisit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	SetVisitState(ctx context.Context, id uuid.UUID, state studio.VisitState) error
	// EndVisit lets a visit take time until its real end, where that is before the planned one.
	EndVisit(ctx context.Context, id uuid.UUID, at time.Time) error
	AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error
	PreCheck(ctx context.Context, id uuid.UUID) (*studio.PreCheck, error)
	Treatment(ctx context.Context, visit uuid.UUID) (*studio.Treatment, error)
	AddTreatment(ctx context.Context, t *studio.Treatment) error
	SaveProgress(ctx context.Context, visit uuid.UUID, p studio.Progress) error
	// AddRoomEvents adds events of the room and returns how many were not there before.
	AddRoomEvents(ctx context.Context, visit uuid.UUID, events []guide.Event, account uuid.UUID, at time.Time) (int, error)
	RoomEvents(ctx context.Context, visit uuid.UUID) ([]guide.Event, error) // in order of arrival
	SaveRecord(ctx context.Context, visit uuid.UUID, r studio.Record) error
	FinishTreatment(ctx context.Context, t *studio.Treatment) error
	// PiecesUsed are the pieces of tools that a treatment used, by name.
	PiecesUsed(ctx context.Context, visit uuid.UUID) ([]UsedPiece, error)
	AddRecordAddition(ctx context.Context, visit, account uuid.UUID, a studio.RecordAddition) error
	RecordAdditions(ctx context.Context, visit uuid.UUID) ([]studio.RecordAddition, error) // oldest first
}
