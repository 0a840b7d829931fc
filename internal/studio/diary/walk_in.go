package diary

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// newClientMinutes is how much longer the first visit of a new client is, for the consultation
// (handbook, chapter 6).
const newClientMinutes = 10

// FitsNow is a practitioner with the minutes until their next appointment and what fits.
type FitsNow struct {
	Practitioner uuid.UUID     `json:"practitioner"`
	Name         string        `json:"name"`
	Free         int           `json:"free"`
	Fits         []ProtocolNow `json:"fits"`
	// Why is the limit that forbids even the shortest, empty where something fits.
	Why     series.Limit `json:"why,omitempty"`
	WhyName string       `json:"whyName,omitempty"`
}

// ProtocolNow is a protocol that could begin at once.
type ProtocolNow struct {
	Protocol uuid.UUID `json:"protocol"`
	Name     string    `json:"name"`
	Minutes  int       `json:"minutes"`
	Start    time.Time `json:"start"`
	Until    time.Time `json:"until"`
	Room     uuid.UUID `json:"room"`
	RoomName string    `json:"roomName"`
}

// walkInStore is what a walk-in is placed in.
type walkInStore interface {
	holdStore
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	NewestVersion(ctx context.Context, id uuid.UUID) (int, error)
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
}

// WalkIn answers what fits now, practitioner by practitioner, with prepare, reset and ready tools,
// and ten minutes more for a new client.
func (s *Service) WalkIn(ctx context.Context, a *studio.Actor, client uuid.UUID) ([]FitsNow, error) {
	out := []FitsNow{}
	err := studio.In(ctx, s.Kernel, a, func(tx walkInStore, st *studio.Studio) error {
		if err := a.May("walk-in"); err != nil {
			return err
		}
		x, more, err := s.gatherNow(ctx, tx, st, client)
		if err != nil {
			return err
		}
		now, err := series.At(&x.request)
		if err != nil {
			return err
		}
		free := now.Free()
		for i := range x.people {
			p := FitsNow{Practitioner: x.people[i].ID, Name: x.people[i].Name, Free: free[x.people[i].ID.String()], Fits: []ProtocolNow{}}
			for k := range x.offered {
				if err := x.fitNow(&p, now, k, more); err != nil {
					return err
				}
			}
			if len(p.Fits) > 0 {
				p.Why, p.WhyName = "", ""
			}
			out = append(out, p)
		}
		return nil
	})
	return out, err
}

// gatherNow gathers the studio at this moment, every protocol on sale being an item.
func (s *Service) gatherNow(ctx context.Context, tx walkInStore, st *studio.Studio, client uuid.UUID) (*asking, int, error) {
	visits, err := tx.ClientVisits(ctx, client)
	if err != nil {
		return nil, 0, err
	}
	more := newClientMinutes
	for i := range visits {
		if visits[i].State.Given() {
			more = 0
		}
	}
	x, err := s.gatherBetween(ctx, tx, st, &client, nil, s.Now(), s.Now().Add(24*time.Hour))
	if err != nil {
		return nil, 0, err
	}
	expected, _, err := s.Checks.Expect(ctx, tx, st, client, s.Today(st))
	if err != nil {
		return nil, 0, err
	}
	x.request.Client.NotBefore = string(expected.NotBefore)
	for k := range x.offered {
		o := x.offer(x.offered[k].ID)
		item := o.item(&studio.SeriesItem{Marks: o.marks})
		item.Sold += more
		x.request.Series.Items = append(x.request.Series.Items, item)
	}
	return x, more, nil
}

// fitNow adds protocol k to what a practitioner could begin at once, or why not.
func (a *asking) fitNow(p *FitsNow, now *series.WalkIn, k, more int) error {
	at, why, err := now.AtOnce(k+1, p.Practitioner.String())
	if err != nil {
		return err
	}
	if why != nil {
		p.Why, p.WhyName = why.Limit, a.name(why.Key)
		return nil
	}
	start, err := a.at(at.Start)
	if err != nil {
		return err
	}
	o := &a.offered[k]
	p.Fits = append(p.Fits, ProtocolNow{
		Protocol: o.ID, Name: o.Body.Name, Minutes: o.Body.Minutes.Treatment + more, Start: start,
		Until: start.Add(time.Duration(o.Body.Minutes.Treatment+more) * time.Minute), Room: uuid.MustParse(at.Room), RoomName: a.name(at.Room),
	})
	return nil
}

// NewWalkIn asks to place somebody who walked in. ID is chosen by the caller.
type NewWalkIn struct {
	ID           uuid.UUID `json:"id" format:"uuid"`
	Client       uuid.UUID `json:"client" format:"uuid"`
	Protocol     uuid.UUID `json:"protocol" format:"uuid"`
	Practitioner uuid.UUID `json:"practitioner" format:"uuid"`
}

// PlaceWalkIn books somebody who walked in, arrived at once. The same id twice places once.
func (s *Service) PlaceWalkIn(ctx context.Context, a *studio.Actor, n NewWalkIn) (*studio.VisitLine, error) {
	var out *studio.VisitLine
	err := studio.In(ctx, s.Kernel, a, func(tx walkInStore, st *studio.Studio) error {
		if err := a.May("place-walk-in"); err != nil {
			return err
		}
		if v, err := tx.Visit(ctx, n.ID); err == nil { // sent twice
			out = v
			return nil
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		if err := tx.LockDiary(ctx); err != nil {
			return err
		}
		if err := tx.LapseHolds(ctx, s.Now()); err != nil {
			return err
		}
		x, more, err := s.gatherNow(ctx, tx, st, n.Client)
		if err != nil {
			return err
		}
		v, err := x.walkIn(n, more)
		if err != nil {
			return err
		}
		v.CreatedAt = s.Now()
		if err := tx.AddVisit(ctx, v); err != nil {
			return err
		}
		if err := tx.AddVisitChange(ctx, v.ID, studio.Arrived, &a.Account, s.Now()); err != nil {
			return err
		}
		out, err = tx.Visit(ctx, v.ID)
		return err
	})
	return out, err
}

// walkIn is the visit of somebody who walked in, where it still fits.
func (a *asking) walkIn(n NewWalkIn, more int) (*studio.Visit, error) {
	for k := range a.offered {
		o := &a.offered[k]
		if o.ID != n.Protocol {
			continue
		}
		now, err := series.At(&a.request)
		if err != nil {
			return nil, err
		}
		at, why, err := now.AtOnce(k+1, n.Practitioner.String())
		if err != nil {
			return nil, studio.FaultAt("/practitioner", words.ChooseAPractitionerOfTheStudio())
		}
		if why != nil {
			return nil, &SeriesTakenError{Visit: 1, Limit: why.Limit, Name: a.name(why.Key)}
		}
		start, err := a.at(at.Start)
		if err != nil {
			return nil, err
		}
		m := o.Body.Minutes
		m.Treatment += more
		v := &studio.Visit{
			ID: n.ID, Client: n.Client, Practitioner: n.Practitioner, Room: uuid.MustParse(at.Room), Protocol: o.ID, Version: o.Version,
			Kind: studio.ForTreatment, State: studio.Arrived, Tools: a.offer(o.ID).tools,
		}
		v.Place(start, m)
		return v, nil
	}
	return nil, studio.ErrNotFound
}
