package diary

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// toolStore keeps which pieces of a tool are not there.
type toolStore interface {
	studio.LibraryStore
	// ToolsOut lists the pieces that are not there from a day on, by first day.
	ToolsOut(ctx context.Context, from string) ([]studio.ToolOut, error)
	AddToolOut(ctx context.Context, o *studio.ToolOut) error
	RemoveToolOut(ctx context.Context, id uuid.UUID) error
}

// AddToolOut notes that pieces of a tool are being mended, or are retired; the same id twice notes it
// once.
func (s *Service) AddToolOut(ctx context.Context, a *studio.Actor, o studio.ToolOut) error {
	return studio.In(ctx, s.Kernel, a, func(tx toolStore, _ *studio.Studio) error {
		if err := a.May("add-tool-out"); err != nil {
			return err
		}
		tools, err := tx.Tools(ctx)
		if err != nil {
			return err
		}
		pieces := 0
		for i := range tools {
			if tools[i].Key == o.Tool {
				pieces = tools[i].Pieces
			}
		}
		switch {
		case o.Pieces < 1 || o.Pieces > pieces:
			return studio.FaultAt("/pieces", words.TheStudioHasFewerPieces())
		case !calendar.Day(o.From).Valid():
			return studio.FaultAt("/from", words.EnterDateAsYearMonthDayFor())
		case o.Reason == studio.ToolMended && (!calendar.Day(o.To).Valid() || o.To < o.From):
			return studio.FaultAt("/to", words.EnterWhenItIsBack())
		}
		if o.Reason == studio.ToolRetired {
			o.To = ""
		}
		if err := tx.AddToolOut(ctx, &o); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", o.ID)
	})
}

// RemoveToolOut takes back that pieces are not there.
func (s *Service) RemoveToolOut(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx toolStore, _ *studio.Studio) error {
		if err := a.May("remove-tool-out"); err != nil {
			return err
		}
		if err := tx.RemoveToolOut(ctx, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", id)
	})
}

// toolsOut are pieces that are not there, as the finder reads them: taken by nobody, from the first
// day to the end of the last.
func toolsOut(list []studio.ToolOut, now time.Time, zone *time.Location) ([]series.RequestBooking, error) {
	var out []series.RequestBooking
	for i := range list {
		o := &list[i]
		from, err := time.ParseInLocation(time.DateOnly, o.From, zone)
		if err != nil {
			return nil, err
		}
		to := now.Add(ahead)
		if o.To != "" {
			if to, err = time.ParseInLocation(time.DateOnly, o.To, zone); err != nil {
				return nil, err
			}
			to = to.AddDate(0, 0, 1)
		}
		if from.Before(now) { // what is over already is not asked about
			from = now
		}
		if !to.After(from) {
			continue
		}
		out = append(out, series.RequestBooking{
			Start: from.In(zone).Format(moment), Sold: minutes(to.Sub(from)), Tools: map[string]int{o.Tool: o.Pieces},
		})
	}
	return out, nil
}
