package treatment

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
	"softpalm/words"
)

// measureStore keeps what is measured on clients.
type measureStore interface {
	Store
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) // newest first
	AddMeasurement(ctx context.Context, m *studio.Measurement) error
	StrikeMeasurement(ctx context.Context, id uuid.UUID, reason string, account uuid.UUID, at time.Time) error
	Measurement(ctx context.Context, id uuid.UUID) (*studio.Measurement, error)
	Measurements(ctx context.Context, client uuid.UUID) ([]studio.Measurement, error) // oldest first, struck ones too
	// MeasurementsOf are those of a measure on a side of all clients, oldest first, struck ones left out.
	MeasurementsOf(ctx context.Context, measure string, with measuring.Instrument, side string) ([]studio.Measurement, error)
	// Occasions are somebody's newest repeated readings of a measure, of all clients, oldest first.
	Occasions(ctx context.Context, account uuid.UUID, measure string, with measuring.Instrument) ([][]float64, error)
	Hopes(ctx context.Context, client uuid.UUID) ([]studio.Hope, error)
	SaveHope(ctx context.Context, client uuid.UUID, measure, hope string, account uuid.UUID, at time.Time) error
}

// NewMeasurement are readings as they are taken.
type NewMeasurement struct {
	// ID is chosen by the caller, so that the same request sent twice adds one.
	ID         uuid.UUID            `json:"id" format:"uuid"`
	Visit      *uuid.UUID           `json:"visit,omitempty" format:"uuid"`
	Measure    string               `json:"measure" maxLength:"30"`
	Instrument measuring.Instrument `json:"instrument" enum:"caliper,tape,photo,grade"`
	Side       string               `json:"side" enum:"left,right,mid"`
	Moment     studio.Moment        `json:"moment" enum:"before,after"`
	Readings   []float64            `json:"readings" minItems:"1" maxItems:"3"`
}

// check refuses readings that cannot be; those that can are rounded to what the instrument shows.
func (n *NewMeasurement) check() error {
	m := measuring.Find(n.Measure)
	if m == nil {
		return studio.FaultAt("/measure", words.ChooseWhatIsMeasured())
	}
	if fits := m.Graded() && n.Instrument == studio.ByGrade || slices.Contains(m.Instruments, n.Instrument); !fits {
		return studio.FaultAt("/instrument", words.ChooseWhatItIsMeasuredWith())
	}
	if m.Paired == (n.Side == "mid") {
		return studio.FaultAt("/side", words.ChooseASide())
	}
	if n.Moment != studio.Before && n.Moment != studio.After {
		return studio.FaultAt("/moment", words.ChooseBeforeOrAfter())
	}
	if least := 2; len(n.Readings) < least && (n.Instrument == measuring.Caliper || n.Instrument == measuring.Tape) {
		return studio.FaultAt("/readings", words.ReadItTwice())
	}
	decimals := float64(10)
	if n.Instrument == measuring.Tape || n.Instrument == studio.ByGrade {
		decimals = 1
	}
	for i, v := range n.Readings {
		if math.IsNaN(v) || v < m.Least || v > m.Most {
			return studio.FaultAt(fmt.Sprintf("/readings/%d", i), words.EnterAReadingBetween(m.Least, m.Most))
		}
		n.Readings[i] = math.Round(v*decimals) / decimals
	}
	return nil
}

// mostMeasures is how many measurements are added at once.
const mostMeasures = 40

// AddMeasurements adds readings of a client, taken now. Those sent before are left as they are.
func (s *Service) AddMeasurements(ctx context.Context, a *studio.Actor, client uuid.UUID, list []NewMeasurement) (*Progress, error) {
	if err := a.May("add-measurements"); err != nil {
		return nil, err
	}
	if len(list) == 0 || len(list) > mostMeasures {
		return nil, studio.FaultAt("/measurements", words.ChooseWhatIsMeasured())
	}
	for i := range list {
		if err := list[i].check(); err != nil {
			return nil, under(fmt.Sprintf("/measurements/%d", i), err)
		}
	}
	err := studio.In(ctx, s.Kernel, a, func(tx measureStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "add-measurements", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		for i := range list {
			n := &list[i]
			if err := visitOfClient(ctx, tx, n.Visit, client); err != nil {
				return err
			}
			if was, err := tx.Measurement(ctx, n.ID); err == nil {
				if was.Client != client {
					return studio.ErrExists
				}
				continue // sent twice
			} else if !errors.Is(err, studio.ErrNotFound) {
				return err
			}
			m := &studio.Measurement{
				ID: n.ID, Client: client, Visit: n.Visit, Measure: n.Measure, Instrument: n.Instrument, Side: n.Side, Moment: n.Moment,
				Readings: n.Readings, Account: a.Account, At: s.Now(),
			}
			if err := tx.AddMeasurement(ctx, m); err != nil {
				return err
			}
		}
		return s.Audit(ctx, tx, a, "measure", "client", client)
	})
	if err != nil {
		return nil, err
	}
	return s.Progress(ctx, a, client)
}

// under puts the paths of faults below another path.
func under(path string, err error) error {
	var input *studio.InputError
	if errors.As(err, &input) {
		for i := range input.Problems {
			input.Problems[i].Path = path + input.Problems[i].Path
		}
	}
	return err
}

// StrikeMeasurement takes a measurement out, with the reason: it stays in the file and counts for nothing.
func (s *Service) StrikeMeasurement(ctx context.Context, a *studio.Actor, id uuid.UUID, reason string) (*Progress, error) {
	if err := a.May("strike-measurement"); err != nil {
		return nil, err
	}
	if reason = strings.TrimSpace(reason); reason == "" {
		return nil, studio.FaultAt("/reason", words.SayWhyItIsTakenOut())
	}
	var client uuid.UUID
	err := studio.In(ctx, s.Kernel, a, func(tx measureStore, _ *studio.Studio) error {
		m, err := tx.Measurement(ctx, id)
		if err != nil {
			return err
		}
		client = m.Client
		if err := a.MayClient(ctx, tx, "strike-measurement", client); err != nil {
			return err
		}
		if m.StruckAt != nil {
			return nil
		}
		if err := tx.StrikeMeasurement(ctx, id, reason, a.Account, s.Now()); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "strike measurement", "client", client)
	})
	if err != nil {
		return nil, err
	}
	return s.Progress(ctx, a, client)
}

// SaveHope states what is hoped of a measure; empty takes it back. A change is said to be as hoped only where that was
// stated before it was measured.
func (s *Service) SaveHope(ctx context.Context, a *studio.Actor, client uuid.UUID, measure, hope string) (*Progress, error) {
	if err := a.May("save-hope"); err != nil {
		return nil, err
	}
	if m := measuring.Find(measure); m == nil || !slices.Contains([]string{"", "longer", "shorter"}, hope) {
		return nil, studio.FaultAt("/measure", words.ChooseWhatIsMeasured())
	}
	err := studio.In(ctx, s.Kernel, a, func(tx measureStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "save-hope", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		return tx.SaveHope(ctx, client, measure, hope, a.Account, s.Now())
	})
	if err != nil {
		return nil, err
	}
	return s.Progress(ctx, a, client)
}

// visitOfClient refuses a visit of another client; none is fine.
func visitOfClient(ctx context.Context, tx measureStore, visit *uuid.UUID, client uuid.UUID) error {
	if visit == nil {
		return nil
	}
	v, err := tx.Visit(ctx, *visit)
	if err == nil && v.Client != client {
		return studio.FaultAt("/visit", words.ThatVisitBelongsToAnotherClient())
	}
	return err
}
