package house

import (
	"context"
	"errors"
	"net/mail"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// How long a link lives with which a password is chosen.
const (
	invitationLives = 7 * 24 * time.Hour
	resetLives      = time.Hour
)

// AccountLink is a link with which somebody chooses a password. It is shown once, to the
// owner, who passes it on; it is among the messages as well.
type AccountLink struct {
	Token string    `json:"token"`
	Until time.Time `json:"until"`
	// Mailed says that the mail server sends it too.
	Mailed bool `json:"mailed,omitempty"`
}

// Invite makes an account for somebody who will work in the studio, and their link.
func (s *Service) Invite(ctx context.Context, a *studio.Actor, email string, f ColleagueFields) (*AccountLink, error) {
	if err := a.May("invite-person"); err != nil {
		return nil, err
	}
	if err := f.Check(); err != nil {
		return nil, err
	}
	email = strings.ToLower(strings.TrimSpace(email))
	if at, err := mail.ParseAddress(email); err != nil || at.Address != email {
		return nil, studio.FaultAt("/email", words.EnterEMailAddressOfThisPerson())
	}
	var out *AccountLink
	err := studio.In(ctx, s.Kernel, a, func(tx peopleStore, st *studio.Studio) error {
		acc := &studio.Account{ID: studio.NewID(), Email: email, Name: f.Name, Role: f.Role}
		if err := s.setTreats(ctx, tx, acc, &f); err != nil {
			return err
		}
		if err := tx.AddAccount(ctx, acc); errors.Is(err, studio.ErrExists) {
			return studio.FaultAt("/email", words.AnotherAccountUsesEmailAlready(email))
		} else if err != nil {
			return err
		}
		var err error
		if out, err = s.accountLink(ctx, tx, st, acc, studio.InvitationMessage); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "invite", "account", acc.ID)
	})
	return out, err
}

// NewPasswordLink makes a link with which somebody chooses a password: who was invited and
// lost the first, who forgot theirs, or who comes back after leaving. The link before it ends.
func (s *Service) NewPasswordLink(ctx context.Context, a *studio.Actor, id uuid.UUID) (*AccountLink, error) {
	if err := a.May("new-password-link"); err != nil {
		return nil, err
	}
	var out *AccountLink
	err := studio.In(ctx, s.Kernel, a, func(tx peopleStore, st *studio.Studio) error {
		acc, err := tx.LockAccount(ctx, id)
		if err != nil {
			return err
		}
		kind := studio.ResetMessage
		if acc.State() != studio.Active {
			kind = studio.InvitationMessage
		}
		if acc.ClosedAt != nil {
			acc.ClosedAt = nil
			if acc.Practitioner != nil {
				if err := tx.LeavePractitioner(ctx, *acc.Practitioner, nil); err != nil {
					return err
				}
			}
			if err := tx.SaveAccount(ctx, acc); err != nil {
				return err
			}
		}
		if out, err = s.accountLink(ctx, tx, st, acc, kind); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "send password link", "account", id)
	})
	return out, err
}

// accountLink makes an account's link and the message that carries it.
func (s *Service) accountLink(
	ctx context.Context,
	tx peopleStore,
	st *studio.Studio,
	acc *studio.Account,
	kind studio.MessageKind,
) (*AccountLink, error) {
	lives := invitationLives
	if kind == studio.ResetMessage {
		lives = resetLives
	}
	out := &AccountLink{Token: studio.NewToken(), Until: s.Now().Add(lives)}
	if err := tx.RegisterAccountLink(ctx, studio.HashToken(out.Token), acc.ID, out.Until); err != nil {
		return nil, err
	}
	link, until := s.Address+"/join#"+out.Token, out.Until.In(st.Zone()).Format("2 January 2006, 15:04")
	body := words.MessageInvitation(acc.Name, st.Name, link, until).Message
	if kind == studio.ResetMessage {
		body = words.MessageReset(acc.Name, st.Name, link, until).Message
	}
	var err error
	out.Mailed, err = s.Messages.Send(ctx, tx, studio.Message{Kind: kind, To: acc.Email, Name: acc.Name, Body: body, Until: out.Until})
	return out, err
}

// Forgotten answers somebody who does not know their password: where the address belongs
// to an account, a message with a link is made. It never tells whether it does.
func (s *Service) Forgotten(ctx context.Context, email, from string) error {
	now := s.Now()
	for _, subject := range []string{"forgotten:" + studio.Digest(strings.ToLower(email)), "forgotten-from:" + studio.Digest(from)} {
		if err := s.attempt(ctx, subject, now, 3); err != nil {
			return err
		}
	}
	studioID, id, err := s.SignIns.FindSignIn(ctx, email)
	if errors.Is(err, studio.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return studio.Within(ctx, s.Kernel, studioID, func(tx peopleStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		acc, err := tx.LockAccount(ctx, id)
		if err != nil || acc.State() != studio.Active || st.IsDemo {
			return err
		}
		if _, err := s.accountLink(ctx, tx, st, acc, studio.ResetMessage); err != nil {
			return err
		}
		return s.Audit(ctx, tx, &studio.Actor{Studio: studioID, Account: id}, "forget password", "account", id)
	})
}

// Joining is what a link with which a password is chosen opens.
type Joining struct {
	StudioName string `json:"studioName"`
	Name       string `json:"name"`
	Email      string `json:"email"`
	// Again says that the account had a password already.
	Again bool `json:"again"`
}

// ErrAccountLink says that a link opens nothing (any more).
var ErrAccountLink = &studio.StateError{Code: "link-ended", Sentence: words.ThisLinkHasEndedAskTheOwner()}

// joining runs something with the account that a token belongs to.
func (s *Service) joining(
	ctx context.Context,
	token, from string,
	fn func(tx peopleStore, st *studio.Studio, acc *studio.Account) error,
) error {
	now := s.Now()
	studioID, id, until, err := s.SignIns.FindAccountLink(ctx, studio.HashToken(token))
	if errors.Is(err, studio.ErrNotFound) {
		if err := s.attempt(ctx, "join:"+studio.Digest(from), now, studio.ThrottleTries); err != nil {
			return err
		}
		return ErrAccountLink
	}
	if err != nil {
		return err
	}
	if !now.Before(until) {
		return ErrAccountLink
	}
	return studio.Within(ctx, s.Kernel, studioID, func(tx peopleStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		acc, err := tx.LockAccount(ctx, id)
		if err != nil {
			return err
		}
		if acc.ClosedAt != nil {
			return ErrAccountLink
		}
		return fn(tx, st, acc)
	})
}

// OpenJoining returns what a link with which a password is chosen opens.
func (s *Service) OpenJoining(ctx context.Context, token, from string) (*Joining, error) {
	var out *Joining
	err := s.joining(ctx, token, from, func(_ peopleStore, st *studio.Studio, acc *studio.Account) error {
		out = &Joining{StudioName: st.Name, Name: acc.Name, Email: acc.Email, Again: acc.PasswordHash != ""}
		return nil
	})
	return out, err
}

// Join chooses the password of the account that a link belongs to. The link ends, and so do
// the sessions begun with the password before; a second factor stays.
func (s *Service) Join(ctx context.Context, token, password, from string) (email string, err error) {
	whose, err := s.OpenJoining(ctx, token, from)
	if err != nil {
		return "", err
	}
	hash, err := s.hashNew(ctx, "/password", password, whose.Name, whose.Email, whose.StudioName)
	if err != nil {
		return "", err
	}
	err = s.joining(ctx, token, from, func(tx peopleStore, st *studio.Studio, acc *studio.Account) error {
		email, acc.PasswordHash = acc.Email, hash
		if err := errors.Join(tx.SaveAccount(ctx, acc), tx.DropSessions(ctx, acc.ID, uuid.Nil), tx.DropAccountLinks(ctx, acc.ID)); err != nil {
			return err
		}
		return s.Audit(ctx, tx, &studio.Actor{Studio: st.ID, Account: acc.ID}, "choose password", "account", acc.ID)
	})
	return email, err
}
