package house

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// peopleStore keeps those who work in the studio.
type peopleStore interface {
	studio.Tx
	Account(ctx context.Context, id uuid.UUID) (*studio.Account, error)
	Accounts(ctx context.Context) ([]studio.Account, error) // by name
	// LockAccount returns an account and holds it until the transaction ends.
	LockAccount(ctx context.Context, id uuid.UUID) (*studio.Account, error)
	AddAccount(ctx context.Context, a *studio.Account) error
	// SaveAccount writes all of an account but its address, as its next revision.
	SaveAccount(ctx context.Context, a *studio.Account) error
	RegisterAccountLink(ctx context.Context, tokenHash []byte, account uuid.UUID, until time.Time) error
	DropAccountLinks(ctx context.Context, account uuid.UUID) error
	Sessions(ctx context.Context, account uuid.UUID) ([]studio.Session, error) // used last first
	// DropSessions ends an account's sessions but one.
	DropSessions(ctx context.Context, account, but uuid.UUID) error
	DropSession(ctx context.Context, id uuid.UUID) error
	LockStudio(ctx context.Context) (*studio.Studio, error)
	Practitioners(ctx context.Context) ([]studio.Person, error) // by name, without those who left
	AddPractitioner(ctx context.Context, p *studio.Person) error
	SavePractitioner(ctx context.Context, p *studio.Person) error
	LeavePractitioner(ctx context.Context, id uuid.UUID, at *time.Time) error
	// ComingVisits counts a practitioner's appointments still to come.
	ComingVisits(ctx context.Context, practitioner uuid.UUID, now time.Time) (int, error)
}

// Colleague is somebody who works, or worked, in the studio.
type Colleague struct {
	ID    uuid.UUID           `json:"id"`
	Name  string              `json:"name"`
	Email string              `json:"email"`
	Role  studio.Role         `json:"role" enum:"owner,practitioner,trainer,trainee,front-desk"`
	State studio.AccountState `json:"state" enum:"invited,active,closed"`
	// Treats says that clients can be booked with them.
	Treats   bool             `json:"treats"`
	Week     series.Week      `json:"week"`
	Mark     string           `json:"mark"`
	Skills   []string         `json:"skills"`
	Licences []studio.Licence `json:"licences"`
	// Factor says that they sign in with an authenticator app as well.
	Factor bool `json:"factor"`
	// SeenAt is when they were last here, absent where they are signed out everywhere.
	SeenAt   *time.Time `json:"seenAt,omitempty"`
	Revision int        `json:"revision"`
}

// ColleagueFields are what an owner writes about somebody who works in the studio.
type ColleagueFields struct {
	Name string      `json:"name" maxLength:"120"`
	Role studio.Role `json:"role" enum:"owner,practitioner,trainer,trainee,front-desk"`
	// Treats says that clients can be booked with them, in the hours of Week.
	Treats   bool             `json:"treats"`
	Week     series.Week      `json:"week"`
	Mark     string           `json:"mark" maxLength:"3"`
	Skills   []string         `json:"skills" maxItems:"40"`
	Licences []studio.Licence `json:"licences" maxItems:"20"`
}

// Check returns what is wrong with the fields.
func (f *ColleagueFields) Check() error {
	f.Name, f.Mark = strings.TrimSpace(f.Name), strings.TrimSpace(f.Mark)
	if f.Name == "" {
		return studio.FaultAt("/name", words.EnterTheName())
	}
	if !slices.Contains(studio.Roles[:], f.Role) {
		return studio.FaultAt("/role", words.ChooseARole())
	}
	if f.Treats && f.Role != studio.Owner && f.Role != studio.Practitioner && f.Role != studio.Trainee {
		return studio.FaultAt("/treats", words.ThisRoleDoesNotTreatClients())
	}
	for _, skill := range f.Skills {
		if skill == "" || len(skill) > 80 {
			return studio.FaultAt("/skills", words.ASkillHasAtMost80Characters())
		}
	}
	for _, l := range f.Licences {
		if l.Until == "" {
			continue
		}
		if err := studio.CheckDay("/licences", l.Until); err != nil {
			return err
		}
	}
	return checkWeek("/week", f.Week)
}

// checkWeek refuses hours that end before they begin.
func checkWeek(path string, week series.Week) error {
	for _, h := range week {
		if h.From < 0 || h.To > 24*60 || h.From > h.To {
			return studio.FaultAt(path, words.HoursEndAfterTheyBegin())
		}
	}
	return nil
}

// Colleagues lists those who work in the studio, by name; those who left last.
func (s *Service) Colleagues(ctx context.Context, a *studio.Actor) ([]Colleague, error) {
	if err := a.May("list-people"); err != nil {
		return nil, err
	}
	var out []Colleague
	err := studio.In(ctx, s.Kernel, a, func(tx peopleStore, _ *studio.Studio) error {
		accounts, err := tx.Accounts(ctx)
		if err != nil {
			return err
		}
		people, err := tx.Practitioners(ctx)
		if err != nil {
			return err
		}
		for i := range accounts {
			c := colleague(&accounts[i], people)
			sessions, err := tx.Sessions(ctx, c.ID)
			if err != nil {
				return err
			}
			if len(sessions) > 0 {
				c.SeenAt = &sessions[0].SeenAt
			}
			out = append(out, c)
		}
		return nil
	})
	slices.SortStableFunc(out, func(a, b Colleague) int {
		return rankOf(a.State) - rankOf(b.State)
	})
	return out, err
}

func rankOf(s studio.AccountState) int {
	if s == studio.Closed {
		return 1
	}
	return 0
}

func colleague(a *studio.Account, people []studio.Person) Colleague {
	c := Colleague{
		ID:       a.ID,
		Name:     a.Name,
		Email:    a.Email,
		Role:     a.Role,
		State:    a.State(),
		Factor:   a.FactorSecret != "",
		Revision: a.Revision,
		Skills:   []string{},
		Licences: []studio.Licence{},
	}
	for _, p := range people {
		if a.Practitioner != nil && p.ID == *a.Practitioner {
			c.Treats, c.Week, c.Mark, c.Skills, c.Licences = true, p.Week, p.Mark, p.Skills, p.Licences
		}
	}
	return c
}

// ChangeColleague changes what is written about somebody, at a revision. The last owner
// stays an owner, and who has appointments to come goes on treating.
func (s *Service) ChangeColleague(ctx context.Context, a *studio.Actor, id uuid.UUID, revision int, f ColleagueFields) error {
	if err := a.May("change-person"); err != nil {
		return err
	}
	if err := f.Check(); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx peopleStore, _ *studio.Studio) error {
		if _, err := tx.LockStudio(ctx); err != nil { // of two owners who step down at once, one stays
			return err
		}
		acc, err := tx.LockAccount(ctx, id)
		if err != nil {
			return err
		}
		if acc.Revision != revision {
			people, err := tx.Practitioners(ctx)
			if err != nil {
				return err
			}
			now := colleague(acc, people)
			return &studio.ChangedError{Other: &now}
		}
		if acc.ClosedAt != nil {
			return &studio.StateError{Code: "account-closed", Sentence: words.ThisAccountIsClosedInviteAgain()}
		}
		if acc.Role == studio.Owner && f.Role != studio.Owner {
			if err := anotherOwner(ctx, tx, id); err != nil {
				return err
			}
		}
		changedRole := acc.Role != f.Role
		acc.Name, acc.Role = f.Name, f.Role
		if err := s.setTreats(ctx, tx, acc, &f); err != nil {
			return err
		}
		if err := tx.SaveAccount(ctx, acc); err != nil {
			return err
		}
		if changedRole {
			if err := tx.DropSessions(ctx, id, uuid.Nil); err != nil {
				return err
			}
			return s.Audit(ctx, tx, a, "change role", "account", id)
		}
		return s.Audit(ctx, tx, a, "change", "account", id)
	})
}

// setTreats makes somebody a practitioner with the fields, or ends it.
func (s *Service) setTreats(ctx context.Context, tx peopleStore, acc *studio.Account, f *ColleagueFields) error {
	if !f.Treats {
		if acc.Practitioner == nil {
			return nil
		}
		if err := s.leaves(ctx, tx, *acc.Practitioner); err != nil {
			return err
		}
		acc.Practitioner = nil
		return nil
	}
	p := studio.Person{Name: f.Name, Week: f.Week, Mark: f.Mark, Skills: f.Skills, Licences: f.Licences}
	if acc.Practitioner != nil {
		p.ID = *acc.Practitioner
		return tx.SavePractitioner(ctx, &p)
	}
	p.ID = studio.NewID()
	p.Key = studio.FreeKey(f.Name, "person", func(string) bool { return false }) + "-" + p.ID.String()[24:]
	acc.Practitioner = &p.ID
	return tx.AddPractitioner(ctx, &p)
}

// leaves ends somebody's work as a practitioner; those with appointments to come are
// refused.
func (s *Service) leaves(ctx context.Context, tx peopleStore, practitioner uuid.UUID) error {
	n, err := tx.ComingVisits(ctx, practitioner, s.Now())
	if err != nil {
		return err
	}
	if n > 0 {
		return &studio.StateError{Code: "has-appointments", Sentence: words.ThisPersonHasNAppointmentsToCome(n)}
	}
	at := s.Now()
	return tx.LeavePractitioner(ctx, practitioner, &at)
}

// anotherOwner refuses to lose the last owner who can sign in.
func anotherOwner(ctx context.Context, tx peopleStore, but uuid.UUID) error {
	list, err := tx.Accounts(ctx)
	if err != nil {
		return err
	}
	for i := range list {
		if list[i].ID != but && list[i].Role == studio.Owner && list[i].State() == studio.Active {
			return nil
		}
	}
	return &studio.StateError{Code: "last-owner", Sentence: words.AStudioNeedsAnOwner()}
}

// CloseAccount ends somebody's account: their sessions and links end, nobody can sign in
// with it, and the name stays on records.
func (s *Service) CloseAccount(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("close-account"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx peopleStore, _ *studio.Studio) error {
		if _, err := tx.LockStudio(ctx); err != nil {
			return err
		}
		acc, err := tx.LockAccount(ctx, id)
		if err != nil {
			return err
		}
		if acc.ClosedAt != nil {
			return nil
		}
		if acc.Role == studio.Owner {
			if err := anotherOwner(ctx, tx, id); err != nil {
				return err
			}
		}
		if acc.Practitioner != nil {
			if err := s.leaves(ctx, tx, *acc.Practitioner); err != nil {
				return err
			}
		}
		at := s.Now()
		acc.ClosedAt, acc.PasswordHash, acc.FactorSecret, acc.RecoveryHashes = &at, "", "", nil
		if err := errors.Join(tx.SaveAccount(ctx, acc), tx.DropSessions(ctx, id, uuid.Nil), tx.DropAccountLinks(ctx, id)); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "close", "account", id)
	})
}
