// Package shelf is the room of products and tools: ingredients, deliveries, lots and
// stock corrections.
package shelf

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// Service carries out the use cases of the shelf room.
type Service struct{ *studio.Kernel }

// Store is what this room asks of the one studio's data, inside a transaction.
// Lookups answer [studio.ErrNotFound]; lists are in a stated order and never nil.
type Store interface {
	studio.LibraryStore
	AddProduct(ctx context.Context, p *studio.Product) error
	// LockContents returns what a product is made of and holds it until the transaction ends.
	LockContents(ctx context.Context, product uuid.UUID) (*studio.RevisedContents, error)
	SaveContents(ctx context.Context, product uuid.UUID, c studio.Contents) error
	Lots(ctx context.Context) ([]studio.Lot, error) // with what is left
	// LockLots keeps others from taking from the product's lots until the end of the transaction.
	LockLots(ctx context.Context, products []uuid.UUID) error
	AddLot(ctx context.Context, l *studio.Lot) error
	AddMovement(ctx context.Context, m *studio.Movement) error
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	// Visits lists what begins between two moments, by start.
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
}
