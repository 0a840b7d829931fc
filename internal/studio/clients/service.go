// Package clients is the room of the client file: who the client is, consents, and
// the client's rights over their data.
package clients

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
)

// Service carries out the use cases of the clients room.
type Service struct {
	*studio.Kernel
	Checks Checks
	Files  CardFiles
}

// Checks is what this room asks of the checks.
type Checks interface {
	Outlook(ctx context.Context, tx studio.Tx, st *studio.Studio, a *studio.Actor, visits []studio.VisitLine) error
	PatchTests(ctx context.Context, tx studio.Tx, client uuid.UUID) ([]studio.PatchTest, error)
	JudgeAgain(ctx context.Context, tx studio.Tx, st *studio.Studio, a *studio.Actor, client uuid.UUID) error
}

// Store is what this room asks of the one studio's data, inside a transaction.
// Lookups answer [studio.ErrNotFound]; lists are in a stated order and never nil.
type Store interface {
	studio.Tx
	Clients(ctx context.Context, q studio.ClientQuery) ([]studio.ClientLine, error) // by name
	// IdleClients lists the clients who were last seen before a day, in a time zone, by that day.
	IdleClients(ctx context.Context, before calendar.Day, zone string) ([]studio.PastFile, error)
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	AddClient(ctx context.Context, c *studio.Client) error
	// LockClient returns a client and holds it until the transaction ends.
	LockClient(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	// UpdateClient writes a client with its next revision.
	UpdateClient(ctx context.Context, c *studio.Client) error
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	// ClientVisitPage lists at most so many of a client's visits, newest first: those older than one, or the newest.
	ClientVisitPage(ctx context.Context, client uuid.UUID, after *uuid.UUID, most int) ([]studio.VisitLine, error)
	// LockVisitsOf holds a client's visits until the transaction ends, and lists them.
	LockVisitsOf(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	PreChecks(ctx context.Context, client uuid.UUID) ([]studio.PreCheck, error) // newest first
	PreCheckOn(ctx context.Context, client uuid.UUID, day string) (*studio.PreCheck, error)
	Consultations(ctx context.Context, client uuid.UUID) ([]studio.Consultation, error) // reviewed ones first, newest first
	// OpenConsultations lists a client's consultations that wait for something at a moment, and the one reviewed last, first.
	OpenConsultations(ctx context.Context, client uuid.UUID, now time.Time) ([]studio.Consultation, error)
	Letters(ctx context.Context, client uuid.UUID) ([]studio.Letter, error) // newest first
	Scan(ctx context.Context, id uuid.UUID) (kind string, data []byte, client uuid.UUID, err error)
	Consents(ctx context.Context, client uuid.UUID) ([]studio.Consent, error) // newest first
	AddConsent(ctx context.Context, c *studio.Consent) error
	ClientNotes(ctx context.Context, client uuid.UUID) ([]studio.ClientNote, error) // oldest first
	AddClientNote(ctx context.Context, client, account uuid.UUID, n *studio.ClientNote) error
	// RemoveClientNote takes a note away from a client's file; ErrNotFound where it is not there.
	RemoveClientNote(ctx context.Context, client, id uuid.UUID, at time.Time) error
	// EraseClient removes who a client is and all health data, for good.
	EraseClient(ctx context.Context, id uuid.UUID, at time.Time) error
	// HideAnswers forgets what repeated requests would be answered: it may be about the client.
	HideAnswers(ctx context.Context) error
	// WithdrawConsent returns whose consent it was; ErrNotFound where none is valid.
	WithdrawConsent(ctx context.Context, id uuid.UUID, at time.Time) (client uuid.UUID, err error)
	Treatment(ctx context.Context, visit uuid.UUID) (*studio.Treatment, error)
	RecordAdditions(ctx context.Context, visit uuid.UUID) ([]studio.RecordAddition, error) // oldest first
}
