// Package shelf is the room of products and tools: what is there, what comes in and goes out, what the
// booked diary will take, what to order, and whom a lot has reached.
package shelf

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
)

// Service carries out the use cases of the shelf room.
type Service struct {
	*studio.Kernel
	Checks Checks
}

// Checks is what this room asks of the checks.
type Checks interface {
	// BarTo says what of a product a client is to keep away from, "" where nothing is known.
	BarTo(ctx context.Context, tx studio.Tx, st *studio.Studio, client uuid.UUID, p *slip.Product) (string, error)
}

// Store is what this room asks of the one studio's data, inside a transaction.
// Lookups answer [studio.ErrNotFound]; lists are in a stated order and never nil.
type Store interface {
	studio.LibraryStore
	studio.DeliveryStore
	AddProduct(ctx context.Context, p *studio.Product) error
	SaveSupply(ctx context.Context, p *studio.Product) error
	// LockContents returns what a product is made of and holds it until the transaction ends.
	LockContents(ctx context.Context, product uuid.UUID) (*studio.RevisedContents, error)
	SaveContents(ctx context.Context, product uuid.UUID, c studio.Contents) error
	Packs(ctx context.Context) ([]studio.Pack, error) // that hold something, and testers
	Lot(ctx context.Context, id uuid.UUID) (*studio.Lot, error)
	ProductOfPack(ctx context.Context, pack uuid.UUID) (uuid.UUID, error)
	// LotCounted is the day of the last closed stocktake of a lot, empty where there is none, and its moment.
	LotCounted(ctx context.Context, lot uuid.UUID, zone string) (string, time.Time, error)
	SetSide(ctx context.Context, pack uuid.UUID, side string) error
	BlockLots(ctx context.Context, lots []uuid.UUID, why string, recalled bool, by uuid.UUID, at time.Time) error
	// Movement returns a movement, and the one that took it back.
	Movement(ctx context.Context, id uuid.UUID) (*studio.Movement, *uuid.UUID, error)
	MovementsOf(ctx context.Context, product uuid.UUID, before time.Time, limit int) ([]MovementLine, error) // newest first
}

// forecastStore is what a forecast is worked out from.
type forecastStore interface {
	Store
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error)
	// Visits lists what begins between two moments, by start.
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
	// ToCome lists the visits between two moments that are still to begin, by start.
	ToCome(ctx context.Context, from, to time.Time) ([]VisitToCome, error)
	// Doses lists what was measured of products (all where none is named) that still teaches, oldest first, at
	// most 60 by product and practitioner.
	Doses(ctx context.Context, products []uuid.UUID) ([]studio.DoseRecord, error)
	// UseByDay sums what treatments used, by product and day, since a day.
	UseByDay(ctx context.Context, since string) ([]DayUse, error)
	// UseByMonth sums what treatments used in full calendar years before a day, by product and month, with
	// the days on which anything was used.
	UseByMonth(ctx context.Context, before string) ([]MonthUse, error)
	// Kept counts the appointments that were to be since a moment, and those that took place.
	Kept(ctx context.Context, since, until time.Time) (booked, kept int, err error)
}

// Skin is a client's skin type and states.
type Skin struct {
	Type   string
	States []string
}

// VisitToCome is what a forecast asks of a visit that is still to begin.
type VisitToCome struct {
	Protocol, Practitioner uuid.UUID
	Version                int
	Kind                   studio.VisitKind
	StartsAt               time.Time
	Also                   []studio.VisitPart
	Skin                   Skin
}

// DayUse is what treatments used of a product on a day.
type DayUse struct {
	Product uuid.UUID
	Day     string
	Used    decimal.Decimal
}

// MonthUse is what treatments used of a product in a month of a year.
type MonthUse struct {
	Product  uuid.UUID
	Year     string
	Month    string
	Used     decimal.Decimal
	OpenDays int64
}

// Stores is everything that the use cases of this room ask for, file by file.
type Stores interface {
	recallStore
	countStore
	mixStore
	learnStore
	dayStore
	figureStore
}
