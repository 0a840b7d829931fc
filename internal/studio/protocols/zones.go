package protocols

import (
	"context"
	"reflect"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/studio"
	"softpalm/words"
)

// zoneStore keeps the zones that a studio added to the body.
type zoneStore interface {
	studio.LibraryStore
	// LockStudio returns the studio and holds it until the transaction ends.
	LockStudio(ctx context.Context) (*studio.Studio, error)
	SaveZone(ctx context.Context, z *anatomy.OwnZone) error // over one of the same key
	DropZone(ctx context.Context, key string) error
	// ZoneUsers names the strokes and protocols that name a zone.
	ZoneUsers(ctx context.Context, key string) ([]string, error)
}

// Zones lists the zones of the body, and then those of the studio's own.
func (s *Service) Zones(ctx context.Context, a *studio.Actor) (zones []anatomy.Zone, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx zoneStore, _ *studio.Studio) error {
		own, err := tx.OwnZones(ctx)
		zones = anatomy.WithOwn(own)
		return err
	})
	return zones, err
}

// SaveZone keeps a zone of the studio's own. One without a key is new and gets a key from its name. was
// is the zone as it was on the screen, nil for a new one: one that was changed meanwhile answers a
// [*studio.ChangedError] with what is there. A name is taken once, by built-in zones too.
func (s *Service) SaveZone(ctx context.Context, a *studio.Actor, z anatomy.OwnZone, was *anatomy.OwnZone) (*anatomy.OwnZone, error) {
	if err := a.May("change-zone"); err != nil {
		return nil, err
	}
	z.Name = strings.TrimSpace(z.Name)
	err := studio.In(ctx, s.Kernel, a, func(tx zoneStore, _ *studio.Studio) error {
		if _, err := tx.LockStudio(ctx); err != nil { // of two at once, the second sees what the first saved
			return err
		}
		list, err := tx.OwnZones(ctx)
		if err != nil {
			return err
		}
		there := func(key string) *anatomy.OwnZone {
			for i := range list {
				if list[i].Key == key {
					return &list[i]
				}
			}
			return nil
		}
		switch now := there(z.Key); {
		case z.Key == "":
			if len(list) >= anatomy.OwnMost {
				return &studio.StateError{Code: "too-many-zones", Sentence: words.TooManyOwnZones(anatomy.OwnMost)}
			}
			z.Key = anatomy.OwnPrefix + studio.FreeKey(z.Name, "zone", func(k string) bool { return there(anatomy.OwnPrefix+k) != nil })
		case now == nil:
			return studio.ErrNotFound
		case was != nil && !reflect.DeepEqual(now, was):
			return &studio.ChangedError{Other: now}
		}
		if ps := z.Validate(""); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		if named(list, &z) {
			return studio.FaultAt("/name", words.ThereIsZoneNamed(z.Name))
		}
		return tx.SaveZone(ctx, &z)
	})
	return &z, err
}

// named reports whether another zone, built in or of the studio's own, has the name of z.
func named(list []anatomy.OwnZone, z *anatomy.OwnZone) bool {
	for i := range list {
		if list[i].Key != z.Key && strings.EqualFold(list[i].Name, z.Name) {
			return true
		}
	}
	for i := range anatomy.Zones {
		if strings.EqualFold(anatomy.Zones[i].Name, z.Name) {
			return true
		}
	}
	return false
}

// DropZone removes a zone of the studio's own that no stroke, no protocol and no booked visit works.
func (s *Service) DropZone(ctx context.Context, a *studio.Actor, key string) error {
	if err := a.May("drop-zone"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx zoneStore, _ *studio.Studio) error {
		if _, err := tx.LockStudio(ctx); err != nil {
			return err
		}
		users, err := tx.ZoneUsers(ctx, key)
		if err != nil {
			return err
		}
		if len(users) > 0 {
			return &studio.StateError{Code: "zone-in-use", Sentence: words.ZoneInUse(users[0])}
		}
		return tx.DropZone(ctx, key)
	})
}
