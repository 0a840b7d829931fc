package treatment

import (
	"context"
	"math"
	"strconv"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ManyClients says of how many clients a measure changed beyond the noise.
type ManyClients struct {
	measuring.Counted
	measuring.Share
	// Stopped are those who have only a first measurement.
	Stopped int    `json:"stopped"`
	Text    string `json:"text"`
	// Note says who is not counted, and that there was no control group.
	Note string `json:"note"`
}

// MeasureClients counts the clients whose measure changed beyond the noise, of all who have a first and a last
// measurement at rest by the same person.
func (s *Service) MeasureClients(ctx context.Context, a *studio.Actor, measure string, with measuring.Instrument, side string) (*ManyClients, error) {
	if err := a.May("measure-clients"); err != nil {
		return nil, err
	}
	m := measuring.Find(measure)
	if m == nil || m.Graded() {
		return nil, studio.FaultAt("/measure", words.ChooseWhatIsMeasured())
	}
	out := &ManyClients{}
	err := studio.In(ctx, s.Kernel, a, func(tx measureStore, _ *studio.Studio) error {
		all, err := tx.MeasurementsOf(ctx, measure, with, side)
		if err != nil {
			return err
		}
		of := map[uuid.UUID][]studio.Measurement{}
		for i := range all {
			if all[i].Moment == studio.Before {
				of[all[i].Client] = append(of[all[i].Client], all[i])
			}
		}
		noise := map[uuid.UUID][][]float64{}
		for _, list := range of {
			last := list[len(list)-1]
			var first *studio.Measurement
			for i := range list {
				if list[i].Account == last.Account {
					first = &list[i]
					break
				}
			}
			if first.ID == last.ID {
				out.Stopped++
				continue
			}
			if _, ok := noise[last.Account]; !ok {
				if noise[last.Account], err = tx.Occasions(ctx, last.Account, measure, with); err != nil {
					return err
				}
			}
			j, err := (&measuring.Readings{Occasions: noise[last.Account], Before: first.Readings, After: last.Readings}).Judge()
			if err != nil {
				return err
			}
			out.Of++
			if j.Verdict == measuring.Change {
				out.Changed++
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	if out.Share, err = out.Counted.Share(); err != nil {
		return nil, err
	}
	out.Text, out.Note = words.BriefClientsBeyondNoise(out.Changed, out.Of), words.BriefClientsStopped(out.Stopped)
	if sh := out.Share.Share; sh != nil {
		percent := func(x float64) string { return strconv.Itoa(int(math.Round(100 * x))) }
		out.Text = words.BriefClientsShare(out.Changed, out.Of, percent(*sh), percent(*out.Low), percent(*out.High))
	}
	return out, nil
}
