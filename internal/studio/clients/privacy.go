package clients

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ClientExport is everything the studio keeps of a client, for the client.
type ClientExport struct {
	Format        string                `json:"format"`
	Version       int                   `json:"version"`
	Studio        string                `json:"studio"`
	WrittenAt     time.Time             `json:"writtenAt"`
	Client        studio.Client         `json:"client"`
	Visits        []studio.VisitLine    `json:"visits"`
	Consultations []studio.Consultation `json:"consultations"`
	PreChecks     []studio.PreCheck     `json:"preChecks"`
	Letters       []studio.Letter       `json:"letters"`
	Consents      []studio.Consent      `json:"consents"`
	PatchTests    []studio.PatchTest    `json:"patchTests"`
	Scans         []ScanExport          `json:"scans"`
	Treatments    []TreatmentExport     `json:"treatments"`
	Reactions     []studio.Reaction     `json:"reactions"`
	Measurements  []studio.Measurement  `json:"measurements"`
	Photos        []PhotoExport         `json:"photos"`
	Notes         []studio.ClientNote   `json:"notes"`
	// Series carry their home care and what their end review found.
	Series  []studio.Series           `json:"series"`
	Planned []studio.PlannedProcedure `json:"planned"`
	Hours   studio.ClientHours        `json:"hours"`
	// Waiting are the client's places on the waiting list.
	Waiting []studio.Waiter `json:"waiting"`
	// Rules are those in force, for the titles on paper.
	Rules []contraindication.Rule `json:"-"`
}

// ScanExport is a doctor's answer as it came; Data is base64 in JSON.
type ScanExport struct {
	studio.Scan
	Letter uuid.UUID `json:"letter"`
	Data   []byte    `json:"data"`
}

// PhotoExport is a photo as it is kept; Data is base64 in JSON.
type PhotoExport struct {
	studio.Photo
	Data []byte `json:"data"`
}

// TreatmentExport is what was done at a visit.
type TreatmentExport struct {
	Visit       uuid.UUID              `json:"visit"`
	StartedAt   time.Time              `json:"startedAt"`
	FinishedAt  *time.Time             `json:"finishedAt,omitempty"`
	Adjustments []adjusting.Adjustment `json:"changes"`
	Overrides   []studio.Override      `json:"overrules"`
	Record      studio.Record          `json:"record"`
	// Additions were made after the record was locked.
	Additions []studio.RecordAddition `json:"additions"`
	Incidents []studio.Incident       `json:"incidents"`
}

// addTreatments adds what was done at visits.
func (e *ClientExport) addTreatments(ctx context.Context, tx Store, records recordStore, visits []studio.VisitLine) error {
	for _, v := range visits {
		t, err := tx.Treatment(ctx, v.ID)
		if errors.Is(err, studio.ErrNotFound) {
			continue
		}
		if err != nil {
			return err
		}
		additions, err := tx.RecordAdditions(ctx, v.ID)
		if err != nil {
			return err
		}
		incidents, err := records.Incidents(ctx, v.ID)
		if err != nil {
			return err
		}
		e.Treatments = append(e.Treatments, TreatmentExport{
			Visit: t.Visit, StartedAt: t.StartedAt, FinishedAt: t.FinishedAt, Adjustments: t.Adjustments,
			Overrides: t.Overrides, Record: t.Record, Additions: additions, Incidents: incidents,
		})
	}
	return nil
}

// ExportClient gathers a client's file.
func (s *Service) ExportClient(ctx context.Context, a *studio.Actor, id uuid.UUID) (*ClientExport, error) {
	if err := a.May("export-client"); err != nil {
		return nil, err
	}
	out := &ClientExport{
		Format:     "softpalm-client",
		Version:    1,
		WrittenAt:  s.Now(),
		Scans:      []ScanExport{},
		Treatments: []TreatmentExport{},
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		out.Studio, out.Rules = st.Name, st.Pack().Rules
		err := s.addFile(ctx, tx, st, a, out, id)
		if err != nil {
			return err
		}
		if out.PreChecks, err = tx.PreChecks(ctx, id); err != nil {
			return err
		}
		if out.Notes, err = tx.ClientNotes(ctx, id); err != nil {
			return err
		}
		records := studio.As[recordStore](tx)
		if out.Reactions, err = records.Reactions(ctx, id); err != nil {
			return err
		}
		if out.Measurements, err = records.Measurements(ctx, id); err != nil {
			return err
		}
		if err := out.addPhotos(ctx, records, id); err != nil {
			return err
		}
		if err := out.addDiary(ctx, studio.As[diaryStore](tx), id); err != nil {
			return err
		}
		if err := out.addTreatments(ctx, tx, records, out.Visits); err != nil {
			return err
		}
		for _, l := range out.Letters {
			for _, sc := range l.Scans {
				_, data, _, err := tx.Scan(ctx, sc.ID)
				if err != nil {
					return err
				}
				out.Scans = append(out.Scans, ScanExport{sc, l.ID, data})
			}
		}
		return s.Audit(ctx, tx, a, "export", "client", id)
	})
	return out, err
}

// addFile adds who the client is, the appointments, and what was asked, tested, written and signed.
func (s *Service) addFile(ctx context.Context, tx Store, st *studio.Studio, a *studio.Actor, out *ClientExport, id uuid.UUID) error {
	c, err := tx.Client(ctx, id)
	if err != nil {
		return err
	}
	out.Client = *c
	if out.Visits, err = tx.ClientVisits(ctx, id); err != nil {
		return err
	}
	if err := s.Checks.Outlook(ctx, tx, st, a, out.Visits); err != nil {
		return err
	}
	if out.Consultations, err = tx.Consultations(ctx, id); err != nil {
		return err
	}
	if out.Letters, err = tx.Letters(ctx, id); err != nil {
		return err
	}
	if out.Consents, err = tx.Consents(ctx, id); err != nil {
		return err
	}
	out.PatchTests, err = s.Checks.PatchTests(ctx, tx, id)
	return err
}

// recordStore is what the treatment room keeps of a client beside records.
type recordStore interface {
	studio.Tx
	Reactions(ctx context.Context, client uuid.UUID) ([]studio.Reaction, error)       // newest first
	Measurements(ctx context.Context, client uuid.UUID) ([]studio.Measurement, error) // oldest first
	Photos(ctx context.Context, client uuid.UUID) ([]studio.Photo, error)             // oldest first
	Photo(ctx context.Context, id uuid.UUID) (*studio.Photo, error)
	Incidents(ctx context.Context, visit uuid.UUID) ([]studio.Incident, error) // oldest first
}

// addPhotos adds the photos of a client with their pictures.
func (f *ClientExport) addPhotos(ctx context.Context, tx recordStore, client uuid.UUID) error {
	f.Photos = []PhotoExport{}
	list, err := tx.Photos(ctx, client)
	if err != nil {
		return err
	}
	for i := range list {
		p, err := tx.Photo(ctx, list[i].ID)
		if err != nil {
			return err
		}
		f.Photos = append(f.Photos, PhotoExport{*p, p.Image})
	}
	return nil
}

// diaryStore is what the diary keeps of a client beside appointments.
type diaryStore interface {
	studio.Tx
	ClientSeries(ctx context.Context, client uuid.UUID) ([]studio.Series, error)
	Planned(ctx context.Context, client uuid.UUID) ([]studio.PlannedProcedure, error)
	ClientHours(ctx context.Context, client uuid.UUID) (*studio.ClientHours, error)
	Waiters(ctx context.Context) ([]studio.Waiter, error)
}

// addDiary adds what the diary keeps of a client.
func (f *ClientExport) addDiary(ctx context.Context, tx diaryStore, client uuid.UUID) (err error) {
	if f.Series, err = tx.ClientSeries(ctx, client); err != nil {
		return err
	}
	if f.Planned, err = tx.Planned(ctx, client); err != nil {
		return err
	}
	hours, err := tx.ClientHours(ctx, client)
	if err != nil {
		return err
	}
	f.Hours = *hours
	all, err := tx.Waiters(ctx)
	if err != nil {
		return err
	}
	f.Waiting = slices.DeleteFunc(all, func(w studio.Waiter) bool { return w.Client != client })
	return nil
}

// EraseClient removes who a client is and all health data, for good; visits stay
// as the accounts need them, and those still to come are cancelled. confirm is
// the client's name, typed. A client in the room cannot be erased.
func (s *Service) EraseClient(ctx context.Context, a *studio.Actor, id uuid.UUID, confirm string) error {
	if err := a.May("erase-client"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		c, err := tx.Client(ctx, id)
		if err != nil {
			return err
		}
		if confirm != c.Name {
			return studio.FaultAt("/confirm", words.TypeClientsNameExactlyAsInFile())
		}
		visits, err := tx.LockVisitsOf(ctx, id)
		if err != nil {
			return err
		}
		for _, v := range visits {
			if v.State == studio.InRoom {
				return &studio.StateError{Code: "in-room", Sentence: words.ThisClientInTreatmentSignLockRecord()}
			}
		}
		if err := tx.HideAnswers(ctx); err != nil {
			return err
		}
		if err := tx.EraseClient(ctx, id, s.Now()); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "erase", "client", id)
	})
}
