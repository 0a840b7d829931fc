package studio

import (
	"context"
	"sync"
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
	// Changes counts all that was ever changed of what stands here: what is kept by it is never out of date.
	Changes int64
	// Own are the studio's own days beside the shipped pack of cautions.
	Own OwnRules
}

// zones are the time zones that were asked for, by name: finding one reads a file.
var zones sync.Map

// Zone returns the studio's time zone; UTC where it is not known to this machine.
func (s *Studio) Zone() *time.Location {
	if known, ok := zones.Load(s.TimeZone); ok {
		return known.(*time.Location)
	}
	zone, err := time.LoadLocation(s.TimeZone)
	if err != nil {
		return time.UTC
	}
	zones.Store(s.TimeZone, zone)
	return zone
}

// Midnight is the beginning of the studio's day of a moment.
func (s *Studio) Midnight(at time.Time) time.Time {
	y, m, d := at.In(s.Zone()).Date()
	return time.Date(y, m, d, 0, 0, 0, 0, s.Zone())
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
	// Gather runs functions of which none builds on what another finds, and answers the first error in their order. What they
	// ask of the data goes out together: the first questions of all of them in one round trip, then their second ones, and so
	// on. They take turns in their order, so what they share needs no lock.
	Gather(functions ...func() error) error
	// Memory is what the server keeps of the studio, as this transaction may use it; nil once it has written.
	Memory(ctx context.Context) (*Remembered, error)
	AddAudit(ctx context.Context, a Audit) error
	// Treats reports whether a practitioner has, or had, an appointment with a client that
	// was not cancelled.
	Treats(ctx context.Context, practitioner, client uuid.UUID) (bool, error)
}
