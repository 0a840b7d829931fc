package clients

import (
	"context"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
)

// PastFiles lists the files of clients that are kept longer than the studio wants, the
// longest first. Nothing is deleted by itself: a person looks at each and decides.
func (s *Service) PastFiles(ctx context.Context, a *studio.Actor) ([]studio.PastFile, error) {
	if err := a.May("list-past-files"); err != nil {
		return nil, err
	}
	out := []studio.PastFile{}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		today := calendar.Day(s.Today(st))
		list, err := tx.IdleClients(ctx, today, st.Zone().String())
		for _, f := range list {
			if f.Past = st.Retention.Past(f.Last, f.Born); f.Past <= today {
				out = append(out, f)
			}
		}
		return err
	})
	return out, err
}
