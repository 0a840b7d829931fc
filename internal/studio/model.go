package studio

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
)

// Studio is the studio itself.
type Studio struct {
	ID   uuid.UUID
	Name string
	// Address is where the studio is, as it is printed on papers.
	Address  string
	TimeZone string
	Currency string
	Open     series.Week
	// Closures are days on which the studio is closed beside its hours, the earliest first.
	Closures []series.Closure
	IsDemo   bool
	// OwnersNeedFactor says that owners sign in with a second factor only.
	OwnersNeedFactor bool
	// Tax is the usual tax that its prices bear.
	Tax Tax
	// Costs are what an appointment costs beside its products.
	Costs Costs
	// Books are how it keeps its books.
	Books BookRules
	// Texts are what the studio says in its own words.
	Texts OwnTexts
	// Retention is how long a client's file is kept.
	Retention Retention
	// Diary are the limits, times and weights of the diary.
	Diary DiaryRules
	// Revision counts the changes of the settings.
	Revision int
	// Own are the studio's own days beside the shipped pack of cautions.
	Own OwnRules
}

// Zone returns the studio's time zone; UTC where it is not known to this machine.
func (s *Studio) Zone() *time.Location {
	if loc, err := time.LoadLocation(s.TimeZone); err == nil {
		return loc
	}
	return time.UTC
}

// UnitOfWork runs work in one transaction that sees one studio only. The transaction
// is undone when the work returns an error.
type UnitOfWork interface {
	InStudio(ctx context.Context, studio uuid.UUID, fn func(Tx) error) error
	// Together runs fn in one transaction: all that it does in the studio with the context it
	// is given is kept together, or undone together when fn returns an error. What fails inside
	// is undone by itself.
	Together(ctx context.Context, studio uuid.UUID, fn func(ctx context.Context) error) error
}

// Tx is what every use case may ask of the one studio's data. A room declares its
// own Store over it, with the few methods that its use cases need.
type Tx interface {
	Studio(ctx context.Context) (*Studio, error)
	AddAudit(ctx context.Context, a Audit) error
	// Treats reports whether a practitioner has, or had, an appointment with a client that
	// was not cancelled.
	Treats(ctx context.Context, practitioner, client uuid.UUID) (bool, error)
}
