package house

import (
	"context"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// SessionLine is one of the actor's sessions.
type SessionLine struct {
	ID        uuid.UUID `json:"id"`
	CreatedAt time.Time `json:"createdAt"`
	SeenAt    time.Time `json:"seenAt"`
	Address   string    `json:"address"`
	Agent     string    `json:"agent"`
	// Here says that it is the one that asks.
	Here bool `json:"here"`
}

// Sessions lists where the actor is signed in, the session used last first.
func (s *Service) Sessions(ctx context.Context, in *SignedIn) ([]SessionLine, error) {
	if err := in.Actor.May("list-sessions"); err != nil {
		return nil, err
	}
	out := []SessionLine{}
	err := studio.In(ctx, s.Kernel, &in.Actor, func(tx peopleStore, _ *studio.Studio) error {
		list, err := tx.Sessions(ctx, in.Actor.Account)
		for i := range list {
			l := &list[i]
			if s.over(l) {
				continue
			}
			out = append(out, SessionLine{l.ID, l.CreatedAt, l.SeenAt, l.Address, l.Agent, l.ID == in.Session.ID})
		}
		return err
	})
	return out, err
}

// EndSession ends one of the actor's own sessions.
func (s *Service) EndSession(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("end-session"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx peopleStore, _ *studio.Studio) error {
		list, err := tx.Sessions(ctx, a.Account)
		if err != nil {
			return err
		}
		for i := range list {
			if list[i].ID == id {
				if err := tx.DropSession(ctx, id); err != nil {
					return err
				}
				return s.Audit(ctx, tx, a, "end session", "account", a.Account)
			}
		}
		return studio.ErrNotFound
	})
}
