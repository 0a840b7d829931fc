package diary

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// RoomFields are what is said of a room. Places is how many clients who come together it holds.
type RoomFields struct {
	Name      string   `json:"name" maxLength:"120"`
	Equipment []string `json:"equipment" maxItems:"20"`
	Places    int      `json:"places" minimum:"1" maximum:"6"`
}

// roomStore keeps the rooms.
type roomStore interface {
	studio.Tx
	Rooms(ctx context.Context) ([]studio.Room, error)
	AddRoom(ctx context.Context, r *studio.Room) error
	SaveRoom(ctx context.Context, r *studio.Room) error
}

// room is what the fields say, its equipment without blanks and repeats.
func (f *RoomFields) room(id uuid.UUID, rooms []studio.Room) (*studio.Room, error) {
	r := &studio.Room{ID: id, Name: strings.TrimSpace(f.Name), Places: f.Places}
	if r.Name == "" {
		return nil, studio.FaultAt("/name", words.ARoomHasAName())
	}
	for i := range rooms {
		if rooms[i].ID != id && strings.EqualFold(rooms[i].Name, r.Name) {
			return nil, studio.FaultAt("/name", words.ThereIsARoomOfThisName())
		}
	}
	for _, e := range f.Equipment {
		if e = strings.TrimSpace(e); e != "" && !slices.Contains(r.Equipment, e) {
			r.Equipment = append(r.Equipment, e)
		}
	}
	return r, nil
}

// AddRoom adds a room; the same id twice adds it once.
func (s *Service) AddRoom(ctx context.Context, a *studio.Actor, id uuid.UUID, f RoomFields) error {
	return studio.In(ctx, s.Kernel, a, func(tx roomStore, _ *studio.Studio) error {
		if err := a.May("add-room"); err != nil {
			return err
		}
		rooms, err := tx.Rooms(ctx)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(rooms, func(r studio.Room) bool { return r.ID == id }) {
			return nil
		}
		r, err := f.room(id, rooms)
		if err != nil {
			return err
		}
		r.Key = studio.FreeKey(r.Name, "room", func(key string) bool {
			return slices.ContainsFunc(rooms, func(o studio.Room) bool { return o.Key == key })
		})
		if err := tx.AddRoom(ctx, r); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", id)
	})
}

// SaveRoom changes a room. Appointments that are booked in it stay as they are.
func (s *Service) SaveRoom(ctx context.Context, a *studio.Actor, id uuid.UUID, f RoomFields) error {
	return studio.In(ctx, s.Kernel, a, func(tx roomStore, _ *studio.Studio) error {
		if err := a.May("save-room"); err != nil {
			return err
		}
		rooms, err := tx.Rooms(ctx)
		if err != nil {
			return err
		}
		r, err := f.room(id, rooms)
		if err != nil {
			return err
		}
		if err := tx.SaveRoom(ctx, r); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "roster", id)
	})
}
