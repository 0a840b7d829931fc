package clients

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// mostNotes is how many notes one client's file holds.
const mostNotes = 100

// AddNote pins a note to a place or a stroke in a client's file.
func (s *Service) AddNote(ctx context.Context, a *studio.Actor, client uuid.UUID, in studio.PinnedNote) (*studio.ClientNote, error) {
	if err := a.May("add-note"); err != nil {
		return nil, err
	}
	if err := in.Tidy(); err != nil {
		return nil, err
	}
	n := &studio.ClientNote{ID: studio.NewID(), PinnedNote: in, Author: a.Name, At: s.Now()}
	return n, studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "add-note", client); err != nil {
			return err
		}
		if _, err := tx.LockClient(ctx, client); err != nil {
			return err
		}
		notes, err := tx.ClientNotes(ctx, client)
		if err != nil {
			return err
		}
		if len(notes) >= mostNotes {
			return studio.FaultAt("/body", words.RemoveANoteFirst(mostNotes))
		}
		if err := tx.AddClientNote(ctx, client, a.Account, n); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "add note", "client", client)
	})
}

// RemoveNote takes a note away from a client's file.
func (s *Service) RemoveNote(ctx context.Context, a *studio.Actor, client, id uuid.UUID) error {
	if err := a.May("remove-note"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "remove-note", client); err != nil {
			return err
		}
		if err := tx.RemoveClientNote(ctx, client, id, s.Now()); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "remove note", "client", client)
	})
}
