package books

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
)

// Messages is what this room asks of the messages.
type Messages interface {
	// TellSeriesEnds tells a client that a series is good until a day; sent is false where it was not said.
	TellSeriesEnds(ctx context.Context, tx studio.Tx, st *studio.Studio, client uuid.UUID, left int, until string) (sent bool, err error)
}

// RemindOfSeries reminds clients of series that end, sixty days before and fourteen (handbook, chapter 8, Expiry). Who
// cannot be written to stays in the inbox of the desk.
func (s *Service) RemindOfSeries(ctx context.Context, in uuid.UUID) error {
	return studio.Within(ctx, s.Kernel, in, func(tx Store) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		list, err := tx.SoldSeriesOf(ctx, nil)
		if err != nil {
			return err
		}
		today := calendar.Day(s.Today(st))
		for i := range list {
			if err := s.remind(ctx, tx, st, &list[i], today); err != nil {
				return err
			}
		}
		return nil
	})
}

// remind reminds the client of one series where that is due.
func (s *Service) remind(ctx context.Context, tx Store, st *studio.Studio, sold *SoldSeries, today calendar.Day) error {
	if sold.Client == nil || !sold.remindsOn(today) {
		return nil
	}
	held, err := tx.LockSoldSeries(ctx, sold.ID) // of two who remind at once, one does
	if err != nil || held.State != SeriesOpen || held.Client == nil || !held.remindsOn(today) {
		return err
	}
	left := 0
	for i := range held.Shares {
		if held.Shares[i].GivenOn == "" {
			left++
		}
	}
	sent, err := s.Messages.TellSeriesEnds(ctx, tx, st, *held.Client, left, held.LastDay())
	if err != nil || !sent {
		return err
	}
	return tx.RemindSeries(ctx, held.ID, string(today))
}

// reminders are how many days before its last a series' client is reminded.
var reminders = []int{60, 14}

// remindsOn reports whether a reminder is due on a day that was not made yet.
func (s *SoldSeries) remindsOn(day calendar.Day) bool {
	last := s.LastDay()
	for _, days := range reminders {
		if last == "" || string(day) > last {
			return false
		}
		if from := calendar.Day(last).Plus(-days); from <= day && s.Reminded < string(from) {
			return true
		}
	}
	return false
}
