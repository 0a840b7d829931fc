package treatment

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// IncidentKinds are what may happen besides a treatment.
var IncidentKinds = []string{"fall", "broken-tool", "burn", "cut", "power-cut", "walked-out", "other"}

// incidentStore keeps incidents.
type incidentStore interface {
	Store
	AddIncident(ctx context.Context, visit uuid.UUID, i *studio.Incident, account uuid.UUID) error
	Incidents(ctx context.Context, visit uuid.UUID) ([]studio.Incident, error) // oldest first
}

// NewIncident is an incident as it is told.
type NewIncident struct {
	ID uuid.UUID `json:"id" format:"uuid"`
	// At is a wall time at the studio, 2006-01-02T15:04; empty for now.
	At   string `json:"at,omitempty" maxLength:"20"`
	Kind string `json:"kind" maxLength:"30"`
	Body string `json:"body" maxLength:"2000"`
	Told string `json:"told" maxLength:"200"`
}

// AddIncident records something unexpected that was no reaction, with the record open or locked. The same id twice
// records one.
func (s *Service) AddIncident(ctx context.Context, a *studio.Actor, visit uuid.UUID, i NewIncident) (*RecordView, error) {
	if err := a.May("add-incident"); err != nil {
		return nil, err
	}
	i.Body, i.Told = strings.TrimSpace(i.Body), strings.TrimSpace(i.Told)
	switch {
	case !slices.Contains(IncidentKinds, i.Kind):
		return nil, studio.FaultAt("/kind", words.ChooseWhatHappened())
	case i.Body == "":
		return nil, studio.FaultAt("/body", words.EnterWhatHappened())
	}
	err := studio.In(ctx, s.Kernel, a, func(tx incidentStore, st *studio.Studio) error {
		v, err := tx.LockVisit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("add-incident", &v.Visit); err != nil {
			return err
		}
		if _, err := begun(ctx, tx, visit); err != nil {
			return err
		}
		there, err := tx.Incidents(ctx, visit)
		if err != nil || slices.ContainsFunc(there, func(o studio.Incident) bool { return o.ID == i.ID }) {
			return err // sent twice
		}
		at, err := s.wallTime(st, i.At, "/at")
		if err != nil {
			return err
		}
		added := studio.Incident{ID: i.ID, At: at, Kind: i.Kind, Body: i.Body, Told: i.Told}
		if err := tx.AddIncident(ctx, visit, &added, a.Account); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "record incident", "visit", visit)
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}
