package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// BusyPiece is when somebody is busy elsewhere; nothing else of it is known.
type BusyPiece struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

// BusyFiles reads busy times out of calendar files.
type BusyFiles interface {
	BusyTimes(data []byte, zone *time.Location, from, to time.Time) ([]BusyPiece, error)
}

// busyAhead is how far the rules of a calendar are followed (handbook, chapter 6, Open formats).
const busyAhead = 12

// BusyImport is what a calendar of somebody's own says, and which appointments it meets.
type BusyImport struct {
	Times []BusyPiece `json:"times"`
	// Clashes are appointments that lie in a busy time: they are flagged, and nothing is moved.
	Clashes []studio.VisitLine `json:"clashes"`
	// Replaced is how many busy times of an earlier calendar it takes the place of.
	Replaced int `json:"replaced"`
}

// busyStore is what busy times are kept in.
type busyStore interface {
	rosterStore
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error)
	// ReplaceBusy writes somebody's busy times of a calendar in the place of those before, from a
	// time on, and answers how many these were.
	ReplaceBusy(ctx context.Context, practitioner, client *uuid.UUID, from time.Time, list []studio.Absence) (replaced int, err error)
}

// ImportBusy reads the busy times of a practitioner's or a client's own calendar. With dry it only
// says what it would write.
func (s *Service) ImportBusy(ctx context.Context, a *studio.Actor, practitioner, client *uuid.UUID, data []byte, dry bool) (*BusyImport, error) {
	var out *BusyImport
	err := studio.In(ctx, s.Kernel, a, func(tx busyStore, st *studio.Studio) error {
		err := s.mayImportBusy(ctx, tx, a, practitioner, client)
		if err != nil {
			return err
		}
		if out, err = s.importBusy(ctx, tx, st, practitioner, client, data); err != nil {
			return err
		}
		if dry {
			return studio.ErrRehearsal
		}
		of := practitioner
		if of == nil {
			of = client
		}
		return s.Audit(ctx, tx, a, "change", "roster", *of)
	})
	if dry && err == studio.ErrRehearsal { //nolint:errorlint // it is ours, undone on purpose
		err = nil
	}
	return out, err
}

// importBusy writes the busy times of a calendar in the place of those before.
func (s *Service) importBusy(
	ctx context.Context, tx busyStore, st *studio.Studio, practitioner, client *uuid.UUID, data []byte,
) (*BusyImport, error) {
	out := &BusyImport{Clashes: []studio.VisitLine{}}
	from := s.Now()
	to := from.AddDate(0, busyAhead, 0)
	var err error
	if out.Times, err = s.Busy.BusyTimes(data, st.Zone(), from, to); err != nil {
		return nil, err
	}
	visits, err := tx.Visits(ctx, from, to)
	if err != nil {
		return nil, err
	}
	for i := range visits {
		if v := &visits[i]; v.State.TakesTime() && meets(v, out.Times, practitioner, client) {
			out.Clashes = append(out.Clashes, *v)
		}
	}
	list := make([]studio.Absence, len(out.Times))
	for i, p := range out.Times {
		list[i] = studio.Absence{ID: studio.NewID(), Practitioner: practitioner, Client: client, Start: p.Start, End: p.End, Kind: studio.Imported}
	}
	out.Replaced, err = tx.ReplaceBusy(ctx, practitioner, client, from, list)
	return out, err
}

// mayImportBusy refuses whose calendar it is not: a colleague's is theirs and the owner's.
func (s *Service) mayImportBusy(ctx context.Context, tx busyStore, a *studio.Actor, practitioner, client *uuid.UUID) error {
	if client != nil {
		if err := a.MayClient(ctx, tx, "import-busy", *client); err != nil {
			return err
		}
		_, err := tx.Client(ctx, *client)
		return err
	}
	if err := a.May("import-busy"); err != nil {
		return err
	}
	if practitioner == nil {
		return studio.ErrNotFound
	}
	if a.Role != studio.Owner && (a.Practitioner == nil || *a.Practitioner != *practitioner) {
		return studio.ErrNotYours
	}
	return nil
}

// meets reports whether an appointment of somebody lies in one of the busy times.
func meets(v *studio.VisitLine, times []BusyPiece, practitioner, client *uuid.UUID) bool {
	from, to := v.BusyFrom, v.BusyUntil
	switch {
	case practitioner != nil && v.Practitioner != *practitioner, client != nil && v.Client != *client:
		return false
	case client != nil:
		from, to = v.StartsAt, v.EndsAt
	}
	for _, p := range times {
		if p.Start.Before(to) && p.End.After(from) {
			return true
		}
	}
	return false
}
