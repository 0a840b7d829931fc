package clients

import (
	"context"
	"errors"
	"slices"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// ClientPage is how many clients a list holds.
const ClientPage = 30

// Clients lists clients by name, those that match a search, after a cursor
// (the name and id of the last one seen).
func (s *Service) Clients(
	ctx context.Context,
	a *studio.Actor,
	search, after string,
) (list []studio.ClientLine, next string, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		if err := a.May("list-clients"); err != nil {
			return err
		}
		q := studio.ClientQuery{Search: strings.TrimSpace(search), After: after, Limit: ClientPage + 1, Now: s.Now()}
		if a.Role.Scope("list-clients") == studio.Own {
			q.TreatedBy = new(uuid.UUID)
			if a.Practitioner != nil {
				q.TreatedBy = a.Practitioner
			}
		}
		list, err = tx.Clients(ctx, q)
		return err
	})
	if len(list) > ClientPage {
		list = list[:ClientPage]
		last := list[ClientPage-1]
		next = strings.ToLower(last.Name) + "|" + last.ID.String()
	}
	if a.NoHealth("list-clients") {
		for i := range list {
			list[i].SkinType, list[i].States = "", []string{}
		}
	}
	return list, next, err
}

// VisitPageSize is how many of a client's appointments come at a time.
const VisitPageSize = 30

// ClientFile is what a client's file opens with; its other sections are asked for one by one.
// The front desk gets no checks, states or notes.
type ClientFile struct {
	Client studio.Client
	// Visits are the newest; MoreVisits is the last of them where there are older ones.
	Visits     []studio.VisitLine
	MoreVisits *uuid.UUID
	// Today is the newest check, where it was made today.
	Today *studio.PreCheck
	// Consultations are those that wait for something, and the one that was reviewed last;
	// ValidUntil is the day on which that has to be made again, empty where none counts.
	Consultations []studio.Consultation
	ValidUntil    string
}

// Client opens a client's file; the look is logged.
func (s *Service) Client(ctx context.Context, a *studio.Actor, id uuid.UUID) (*ClientFile, error) {
	f := ClientFile{Consultations: []studio.Consultation{}}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		about := "client"
		parts := []func() error{
			studio.Changed(ctx, tx),
			func() error {
				c, err := tx.Client(ctx, id)
				if err == nil {
					f.Client = *c
				}
				return err
			},
			func() error { return a.MayClient(ctx, tx, "get-client", id) },
			func() (err error) {
				f.Visits, f.MoreVisits, err = s.visitPage(ctx, tx, st, a, id, nil)
				return err
			},
		}
		if a.NoHealth("get-client") {
			about = "contact data"
		} else {
			parts = append(parts, func() error { return s.addChecks(ctx, tx, st, id, &f) }, func() (err error) {
				if f.Today, err = tx.PreCheckOn(ctx, id, s.Today(st)); errors.Is(err, studio.ErrNotFound) {
					return nil
				}
				return err
			})
		}
		if err := tx.Gather(parts...); err != nil {
			return err
		}
		if a.NoHealth("get-client") {
			hideHealth(&f.Client)
		}
		return s.Audit(ctx, tx, a, "look", about, id)
	})
	return &f, err
}

// addChecks adds the consultations that matter now.
func (s *Service) addChecks(ctx context.Context, tx Store, st *studio.Studio, id uuid.UUID, f *ClientFile) (err error) {
	if f.Consultations, err = tx.OpenConsultations(ctx, id, s.Now()); err != nil {
		return err
	}
	if c := studio.CurrentConsultation(f.Consultations, s.Today(st)); c != nil {
		f.ValidUntil = c.ValidUntil()
	}
	return nil
}

// ClientVisits lists a page of a client's appointments, newest first: those older than one. next is
// the last of them where there are more. The look is logged.
func (s *Service) ClientVisits(
	ctx context.Context,
	a *studio.Actor,
	client uuid.UUID,
	after *uuid.UUID,
) (list []studio.VisitLine, next *uuid.UUID, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := tx.Gather(
			studio.Changed(ctx, tx),
			func() error {
				_, err := tx.Client(ctx, client)
				return err
			},
			func() error { return a.MayClient(ctx, tx, "list-client-visits", client) },
			func() (err error) {
				list, next, err = s.visitPage(ctx, tx, st, a, client, after)
				return err
			},
		); err != nil {
			return err
		}
		if a.NoHealth("list-client-visits") {
			return s.Audit(ctx, tx, a, "look", "contact data", client)
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return list, next, err
}

func (s *Service) visitPage(
	ctx context.Context,
	tx Store,
	st *studio.Studio,
	a *studio.Actor,
	client uuid.UUID,
	after *uuid.UUID,
) (list []studio.VisitLine, next *uuid.UUID, err error) {
	if list, err = tx.ClientVisitPage(ctx, client, after, VisitPageSize+1); err != nil {
		return nil, nil, err
	}
	if len(list) > VisitPageSize {
		list = list[:VisitPageSize]
		next = &list[VisitPageSize-1].ID
	}
	return list, next, s.Checks.Outlook(ctx, tx, st, a, list)
}

// AddClient adds a client.
func (s *Service) AddClient(ctx context.Context, a *studio.Actor, in studio.ClientFields) (*studio.Client, error) {
	c := &studio.Client{ID: studio.NewID(), ClientFields: tidied(in), Revision: 1, CreatedAt: s.Now()}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := a.May("add-client"); err != nil {
			return err
		}
		if err := studio.CheckClient(&c.ClientFields, s.Today(st)); err != nil {
			return err
		}
		if a.NoHealth("add-client") {
			if err := c.OnlyContact(); err != nil {
				return err
			}
		}
		if err := tx.AddClient(ctx, c); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "add", "client", c.ID)
	})
	if a.NoHealth("add-client") {
		hideHealth(c)
	}
	return c, err
}

// ChangeClient changes a client at a revision. One that was changed meanwhile answers a
// [*studio.ChangedError] with what is there, and nothing is written.
func (s *Service) ChangeClient(
	ctx context.Context,
	a *studio.Actor,
	id uuid.UUID,
	revision int,
	in studio.ClientFields,
) (*studio.Client, error) {
	c := &studio.Client{ID: id, ClientFields: tidied(in)}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := a.May("change-client"); err != nil {
			return err
		}
		if err := studio.CheckClient(&c.ClientFields, s.Today(st)); err != nil {
			return err
		}
		if a.NoHealth("change-client") {
			if err := c.OnlyContact(); err != nil {
				return err
			}
		}
		was, err := tx.LockClient(ctx, id)
		if err != nil {
			return err
		}
		if was.Revision != revision {
			if a.NoHealth("change-client") {
				hideHealth(was)
			}
			return &studio.ChangedError{Client: was}
		}
		c.CreatedAt, c.Revision = was.CreatedAt, was.Revision+1
		if a.NoHealth("change-client") { // they neither see nor change these
			c.SkinType, c.SkinStates, c.Phototype, c.Note = was.SkinType, was.SkinStates, was.Phototype, was.Note
		}
		if err := tx.UpdateClient(ctx, c); err != nil {
			return err
		}
		if c.BirthDate != was.BirthDate || !slices.Equal(c.SkinStates, was.SkinStates) { // rules follow from these
			if err := s.Checks.JudgeAgain(ctx, tx, st, a, c.ID); err != nil {
				return err
			}
		}
		return s.Audit(ctx, tx, a, "change", "client", c.ID)
	})
	if a.NoHealth("change-client") {
		hideHealth(c)
	}
	return c, err
}

func tidied(in studio.ClientFields) studio.ClientFields {
	in.Name = strings.TrimSpace(in.Name)
	if in.SkinStates == nil {
		in.SkinStates = []string{}
	}
	return in
}

// hideHealth takes out of a client what is not for those who see contact data only.
func hideHealth(c *studio.Client) {
	c.SkinType, c.SkinStates, c.Phototype, c.Note = "", []string{}, 0, ""
}
