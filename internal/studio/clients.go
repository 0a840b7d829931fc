package studio

import (
	"context"
	"errors"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/problem"
)

// ClientPage is how many clients a list holds.
const ClientPage = 50

// Clients lists clients by name, those that match a search, after a cursor
// (the name and id of the last one seen).
func (s *Service) Clients(ctx context.Context, a *Actor, search, after string) (list []ClientLine, next string, err error) {
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		list, err = tx.Clients(ctx, strings.TrimSpace(search), after, ClientPage+1, s.Now())
		return err
	})
	if len(list) > ClientPage {
		list = list[:ClientPage]
		last := list[ClientPage-1]
		next = strings.ToLower(last.Name) + "|" + last.ID.String()
	}
	if a.Role == FrontDesk {
		for i := range list {
			list[i].States = []string{}
		}
	}
	return list, next, err
}

// ClientFile is a client with visits and screenings. The front desk gets no
// screenings, states or notes.
type ClientFile struct {
	Client     Client
	Visits     []VisitLine
	Screenings []Screening
	// Consultations, those reviewed last first; HoldsUntil is the day on which the
	// one that counts has to be made again, empty where none counts.
	Consultations []Consultation
	HoldsUntil    string
	Letters       []Letter
	Consents      []Consent
	PatchTests    []PatchTest
	// History tells which cautions applied when.
	History []contraindication.Span
}

// Client opens a client's file; the look is logged.
func (s *Service) Client(ctx context.Context, a *Actor, id uuid.UUID) (*ClientFile, error) {
	var f ClientFile
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		c, err := tx.Client(ctx, id)
		if err != nil {
			return err
		}
		f.Client = *c
		if f.Visits, err = tx.ClientVisits(ctx, id); err != nil {
			return err
		}
		f.Screenings, f.Consultations, f.Letters, f.Consents, f.History = []Screening{}, []Consultation{}, []Letter{}, []Consent{}, []contraindication.Span{}
		f.PatchTests = []PatchTest{}
		if err := s.look(ctx, tx, st, a, f.Visits); err != nil {
			return err
		}
		if a.Role == FrontDesk {
			f.Client.SkinStates, f.Client.Note = []string{}, ""
			return nil
		}
		if f.Consultations, err = tx.Consultations(ctx, id); err != nil {
			return err
		}
		if c := standing(f.Consultations, s.today(st)); c != nil {
			f.HoldsUntil = c.until()
		}
		if f.Consents, err = tx.Consents(ctx, id); err != nil {
			return err
		}
		if f.Letters, err = tx.Letters(ctx, id); err != nil {
			return err
		}
		if f.PatchTests, err = s.patchTests(ctx, tx, id); err != nil {
			return err
		}
		if f.Screenings, err = tx.Screenings(ctx, id); err != nil {
			return err
		}
		judged := make([]contraindication.Judged, 0, len(f.Screenings))
		for _, sc := range slices.Backward(f.Screenings) { // they come newest first
			judged = append(judged, contraindication.Judged{Day: calendar.Day(sc.Day), Result: sc.Result})
		}
		f.History = append(f.History, contraindication.History(judged)...)
		return s.audit(ctx, tx, a, "look", "client", id)
	})
	return &f, err
}

// SaveClient adds a client (id nil) or changes one.
func (s *Service) SaveClient(ctx context.Context, a *Actor, id *uuid.UUID, in ClientFields) (*Client, error) {
	c := &Client{ClientFields: in, CreatedAt: s.Now()}
	c.Name = strings.TrimSpace(in.Name)
	if c.SkinStates == nil {
		c.SkinStates = []string{}
	}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		if err := checkClient(&c.ClientFields, s.today(st)); err != nil {
			return err
		}
		action := "add"
		if id == nil {
			c.ID = newID()
			if err := tx.AddClient(ctx, c); err != nil {
				return err
			}
		} else {
			was, err := tx.Client(ctx, *id)
			if err != nil {
				return err
			}
			c.ID, c.CreatedAt, action = was.ID, was.CreatedAt, "change"
			if a.Role == FrontDesk { // they neither see nor change these
				c.SkinStates, c.Note = was.SkinStates, was.Note
			}
			if err := tx.UpdateClient(ctx, c); err != nil {
				return err
			}
			if c.BirthDate != was.BirthDate || !slices.Equal(c.SkinStates, was.SkinStates) { // rules follow from these
				if err := s.judgeAgain(ctx, tx, st, a, c.ID); err != nil {
					return err
				}
			}
		}
		return s.audit(ctx, tx, a, action, "client", c.ID)
	})
	return c, err
}

var skinStates = []string{"sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone"}

func checkClient(c *ClientFields, today string) error {
	if c.Name == "" {
		return faultAt("/name", "Give the client a name.")
	}
	if c.BirthDate != "" {
		if _, err := time.Parse(time.DateOnly, c.BirthDate); err != nil || c.BirthDate > today {
			return faultAt("/birthDate", "Write the birth date as year-month-day, not later than today.")
		}
	}
	if c.Email != "" && !strings.Contains(c.Email, "@") {
		return faultAt("/email", "An e-mail address has an @ in it. Leave it empty if there is none.")
	}
	for _, st := range c.SkinStates {
		if !slices.Contains(skinStates, st) {
			return faultAt("/skinStates", "There is no skin state %q.", st)
		}
	}
	return nil
}

// consulted is the consultation that answers given at the door make: a whole new
// one (renewed), the standing one with the answers it lacked, or nil where only
// the door's own questions were answered and nothing was missing.
func (t *told) consulted(q *Questions, answers map[string]contraindication.Answer, about *About, today calendar.Day) (c *Consultation, renewed bool, faults []problem.Fault) {
	given, own := map[string]contraindication.Answer{}, map[string]contraindication.Answer{} // own: what the door would not ask
	for _, r := range q.Consultation {
		if a, ok := answers[r.ID]; ok {
			given[r.ID] = a
			if r.Stage == contraindication.Consultation {
				own[r.ID] = a
			}
		}
	}
	all, missing := &contraindication.Pack{Rules: q.Consultation}, &contraindication.Pack{Rules: q.Missing}
	c = &Consultation{ID: newID(), Client: t.client.ID, Answers: given, About: t.about()}
	if about != nil {
		c.About = *about
	}
	onlyMissing := t.standing != nil && about == nil
	for id := range own {
		onlyMissing = onlyMissing && slices.ContainsFunc(q.Missing, func(r contraindication.Rule) bool { return r.ID == id })
	}
	if !onlyMissing {
		return c, true, all.Check(given, today, contraindication.Consultation)
	}
	if faults = missing.Check(given, today, contraindication.Consultation); len(own) == 0 {
		return nil, false, faults
	}
	c.Answers = maps.Clone(t.standing.Answers)
	maps.Copy(c.Answers, own)
	return c, false, faults
}

// Screen judges the answers of a door check, together with what the consultation
// tells, and keeps them as they are today. Where no consultation holds, or where
// answers to its questions (or what goes with them) are sent, all of them are
// needed, and count as a consultation made in the studio; questions that the
// standing one was never asked are asked in passing. A check may be for a visit,
// or on its own.
func (s *Service) Screen(ctx context.Context, a *Actor, client uuid.UUID, visit *uuid.UUID, answers map[string]contraindication.Answer, about *About) (*Screening, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var out *Screening
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		known, err := s.told(ctx, tx, st, client)
		if err != nil {
			return err
		}
		if visit != nil {
			v, err := tx.Visit(ctx, *visit)
			if err != nil {
				return err
			}
			if v.Client != client {
				return faultAt("/visit", "That visit belongs to another client.")
			}
		}
		asked, err := s.asked(ctx, tx, st)
		if err != nil {
			return err
		}
		pack, day := st.Pack(), calendar.Day(s.today(st))
		q := known.questions(st, asked, string(day))
		home, renewed, faults := known.consulted(q, answers, about, day)
		door := &contraindication.Pack{Rules: q.Door}
		for _, f := range door.Check(answers, day, contraindication.Door) {
			if !slices.Contains(faults, f) {
				faults = append(faults, f)
			}
		}
		if len(faults) > 0 {
			return &InputError{faults}
		}
		if home != nil {
			since := string(day)
			if !renewed {
				since = known.standing.Day
			}
			if err := s.review(ctx, tx, st, a, home, since, tx.AddConsultation); err != nil {
				return err
			}
			if known, err = s.told(ctx, tx, st, client); err != nil {
				return err
			}
		}
		answers = known.with(pack, only(pack, answers, contraindication.Door))
		out = &Screening{ID: newID(), Client: client, Visit: visit, Day: string(day), Answers: answers, About: known.about(), PackVersion: pack.Version,
			Result: pack.Evaluate(answers, known.subject(), day), Account: a.Account, At: s.Now()}
		if err := tx.AddScreening(ctx, out); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "screen", "client", client)
	})
	return out, err
}

// noDoorCheck says that there is none where that is what an error means.
func noDoorCheck(err error) error {
	if errors.Is(err, ErrNotFound) {
		return &StateError{"no-door-check", "There is no door check of today for this client. Make it first."}
	}
	return err
}

// todaysScreening returns the client's newest screening of the day, whichever
// visit it was made for: a cold sore told at the second visit's door must not be
// passed over at the first's. A check at the door is valid that day only.
func todaysScreening(ctx context.Context, tx Tx, client uuid.UUID, today string) (*Screening, error) {
	list, err := tx.Screenings(ctx, client)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 || list[0].Day != today {
		return nil, ErrNotFound
	}
	return &list[0], nil
}
