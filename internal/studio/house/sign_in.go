package house

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"softpalm/internal/studio"
)

// signInStore keeps accounts' sessions.
type signInStore interface {
	studio.Tx
	Account(ctx context.Context, id uuid.UUID) (*studio.Account, error)
	Session(ctx context.Context, id uuid.UUID) (*studio.Session, error)
	AddSession(ctx context.Context, s *studio.Session, tokenHash []byte) error
	DropSession(ctx context.Context, id uuid.UUID) error
}

// SessionLength is how long a session lasts; long enough that nobody is signed
// out during a day's treatments.
const SessionLength = 14 * time.Hour

// hashParams follow the argon2id recommendation of the OWASP password storage
// cheat sheet (from memory: 19 MiB, 2 passes, 1 lane).
var hashParams = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// HashPassword returns the argon2id hash of a password.
func HashPassword(password string) (string, error) {
	h, err := argon2id.CreateHash(password, hashParams)
	if err != nil {
		return "", fmt.Errorf("studio: hashing a password: %w", err)
	}
	return h, nil
}

// a hash of no password at all, so that an unknown address takes as long as a known one.
var nobody, _ = HashPassword("nobody has this password")

// SignedIn is a session with who it belongs to.
type SignedIn struct {
	Token   string // only at sign-in
	Session studio.Session
	Actor   studio.Actor
	Studio  studio.Studio
}

// attempt notes an attempt before it is looked at, so that many at once count as many,
// or says how long to wait.
func (s *Service) attempt(ctx context.Context, subject string, now time.Time, free int) error {
	var wait time.Duration
	taken, err := s.SignIns.TakeAttempt(ctx, subject, now, now.Add(-studio.ThrottleWindow), func(n int, last time.Time) bool {
		wait = studio.ThrottleWait(n, free, last, now)
		return wait == 0
	})
	if err == nil && !taken {
		return &studio.ThrottledError{Wait: wait}
	}
	return err
}

// SignIn checks e-mail and password and begins a session. from says where the
// attempt comes from; it is throttled by address and by origin.
func (s *Service) SignIn(ctx context.Context, email, password, from string) (*SignedIn, error) {
	now := s.Now()
	subjects := []string{"email:" + studio.Digest(strings.ToLower(email)), "from:" + studio.Digest(from)}
	for i, subject := range subjects {
		free := studio.ThrottleTries * (1 + 4*i) // one origin may be a whole studio
		if err := s.attempt(ctx, subject, now, free); err != nil {
			return nil, err
		}
	}
	studioID, accountID, err := s.SignIns.FindSignIn(ctx, email)
	if err != nil && !errors.Is(err, studio.ErrNotFound) {
		return nil, err
	}
	known := err == nil
	var acc *studio.Account
	hash := nobody
	if known {
		err = studio.Within(ctx, s.Kernel, studioID, func(tx signInStore) error {
			acc, err = tx.Account(ctx, accountID)
			return err
		})
		if err != nil {
			return nil, err
		}
		hash = acc.PasswordHash
	}
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil {
		return nil, fmt.Errorf("studio: comparing a password: %w", err)
	}
	if !known || !match {
		return nil, studio.ErrSignIn
	}
	if err := s.SignIns.ClearAttempts(ctx, subjects[0], now.Add(time.Hour)); err != nil {
		return nil, err
	}
	if err := s.SignIns.ReturnAttempt(ctx, subjects[1], now); err != nil {
		return nil, err
	}
	if err := s.SignIns.ClearAttempts(ctx, "", now.Add(-24*time.Hour)); err != nil {
		return nil, err
	}
	token := studio.NewToken()
	out := &SignedIn{
		Token: token,
		Session: studio.Session{
			ID:        studio.NewID(),
			Account:   acc.ID,
			CSRF:      studio.NewToken(),
			CreatedAt: now,
			ExpiresAt: now.Add(SessionLength),
		},
	}
	out.Actor = studio.Actor{Studio: studioID, Account: acc.ID, Name: acc.Name, Role: acc.Role, Practitioner: acc.Practitioner}
	err = studio.Within(ctx, s.Kernel, studioID, func(tx signInStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		out.Studio = *st
		return tx.AddSession(ctx, &out.Session, studio.HashToken(token))
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

// Session returns who a session token belongs to; ErrNotFound when it belongs
// to nobody or has ended.
func (s *Service) Session(ctx context.Context, token string) (*SignedIn, error) {
	studioID, sessionID, err := s.SignIns.FindSession(ctx, studio.HashToken(token))
	if err != nil {
		return nil, err
	}
	var out SignedIn
	err = studio.Within(ctx, s.Kernel, studioID, func(tx signInStore) error {
		ses, err := tx.Session(ctx, sessionID)
		if err != nil {
			return err
		}
		if !s.Now().Before(ses.ExpiresAt) {
			return studio.ErrNotFound
		}
		acc, err := tx.Account(ctx, ses.Account)
		if err != nil {
			return err
		}
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		out = SignedIn{
			Session: *ses,
			Actor: studio.Actor{
				Studio:       studioID,
				Account:      acc.ID,
				Name:         acc.Name,
				Role:         acc.Role,
				Practitioner: acc.Practitioner,
			},
			Studio: *st,
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return &out, nil
}

// SignOut ends a session.
func (s *Service) SignOut(ctx context.Context, a *studio.Actor, session uuid.UUID) error {
	return studio.Within(ctx, s.Kernel, a.Studio, func(tx signInStore) error { return tx.DropSession(ctx, session) })
}
