package clients

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// ClientPage is how many clients a list holds.
const ClientPage = 50

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

// ClientFile is a client with visits and pre-treatment checks. The front desk gets no
// checks, states or notes.
type ClientFile struct {
	Client    studio.Client
	Visits    []studio.VisitLine
	PreChecks []studio.CheckLine
	// Today is the newest check, where it was made today.
	Today *studio.PreCheck
	// Consultations, those reviewed last first; ValidUntil is the day on which the
	// one that counts has to be made again, empty where none counts.
	Consultations []studio.Consultation
	ValidUntil    string
	Letters       []studio.Letter
	Consents      []studio.Consent
	PatchTests    []studio.PatchTest
	// History says which contraindications applied when.
	History []contraindication.Span
}

// Client opens a client's file; the look is logged.
func (s *Service) Client(ctx context.Context, a *studio.Actor, id uuid.UUID) (*ClientFile, error) {
	var f ClientFile
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		c, err := tx.Client(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "get-client", id); err != nil {
			return err
		}
		f.Client = *c
		if f.Visits, err = tx.ClientVisits(ctx, id); err != nil {
			return err
		}
		f.PreChecks, f.Consultations, f.Letters = []studio.CheckLine{}, []studio.Consultation{}, []studio.Letter{}
		f.Consents, f.History, f.PatchTests = []studio.Consent{}, []contraindication.Span{}, []studio.PatchTest{}
		if err := s.Checks.Outlook(ctx, tx, st, a, f.Visits); err != nil {
			return err
		}
		if a.NoHealth("get-client") {
			hideHealth(&f.Client)
			return s.Audit(ctx, tx, a, "look", "contact data", id)
		}
		if f.Consultations, err = tx.Consultations(ctx, id); err != nil {
			return err
		}
		if c := studio.CurrentConsultation(f.Consultations, s.Today(st)); c != nil {
			f.ValidUntil = c.ValidUntil()
		}
		if f.Consents, err = tx.Consents(ctx, id); err != nil {
			return err
		}
		if f.Letters, err = tx.Letters(ctx, id); err != nil {
			return err
		}
		if f.PatchTests, err = s.Checks.PatchTests(ctx, tx, id); err != nil {
			return err
		}
		if f.PreChecks, err = tx.CheckLines(ctx, id); err != nil {
			return err
		}
		if len(f.PreChecks) > 0 && f.PreChecks[0].Day == s.Today(st) {
			if f.Today, err = tx.PreCheckOn(ctx, id, f.PreChecks[0].Day); err != nil {
				return err
			}
		}
		judged := make([]contraindication.Judged, 0, len(f.PreChecks))
		for _, sc := range slices.Backward(f.PreChecks) { // they come newest first
			judged = append(judged, contraindication.Judged{Day: calendar.Day(sc.Day), Result: sc.Result})
		}
		f.History = append(f.History, contraindication.History(judged)...)
		return s.Audit(ctx, tx, a, "look", "client", id)
	})
	return &f, err
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
