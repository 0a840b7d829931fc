package studio

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
)

// SessionLength is how long a session lasts; long enough that nobody is signed
// out during a day's treatments.
const SessionLength = 14 * time.Hour

// Throttle: this many failed attempts in the window close the door until it passes.
const (
	ThrottleTries  = 8
	ThrottleWindow = 10 * time.Minute
)

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
	Session Session
	Actor   Actor
	Studio  Studio
}

// SignIn checks e-mail and password and begins a session. from tells where the
// attempt comes from; it is throttled by address and by origin.
func (s *Service) SignIn(ctx context.Context, email, password, from string) (*SignedIn, error) {
	now := s.Now()
	subjects := []string{"email:" + digest(strings.ToLower(email)), "from:" + digest(from)}
	for i, subject := range subjects {
		n, err := s.Store.CountAttempts(ctx, subject, now.Add(-ThrottleWindow))
		if err != nil {
			return nil, err
		}
		if n >= ThrottleTries*(1+4*i) { // one origin may be a whole studio
			return nil, ErrThrottled
		}
	}
	studioID, accountID, err := s.Store.FindSignIn(ctx, email)
	if err != nil && !errors.Is(err, ErrNotFound) {
		return nil, err
	}
	known := err == nil
	var acc *Account
	hash := nobody
	if known {
		err = s.Store.InStudio(ctx, studioID, func(tx Tx) error {
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
		for _, subject := range subjects {
			if err := s.Store.AddAttempt(ctx, subject, now); err != nil {
				return nil, err
			}
		}
		return nil, ErrSignIn
	}
	if err := s.Store.ClearAttempts(ctx, subjects[0], now.Add(time.Hour)); err != nil {
		return nil, err
	}
	if err := s.Store.ClearAttempts(ctx, "", now.Add(-24*time.Hour)); err != nil {
		return nil, err
	}
	token := secret()
	out := &SignedIn{Token: token, Session: Session{ID: newID(), Account: acc.ID, CSRF: secret(), CreatedAt: now, ExpiresAt: now.Add(SessionLength)}}
	out.Actor = Actor{studioID, acc.ID, acc.Name, acc.Role, acc.Practitioner}
	err = s.Store.InStudio(ctx, studioID, func(tx Tx) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		out.Studio = *st
		return tx.AddSession(ctx, &out.Session, hashToken(token))
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

// Session returns who a session token belongs to; ErrNotFound when it belongs
// to nobody or has ended.
func (s *Service) Session(ctx context.Context, token string) (*SignedIn, error) {
	studioID, sessionID, err := s.Store.FindSession(ctx, hashToken(token))
	if err != nil {
		return nil, err
	}
	var out SignedIn
	err = s.Store.InStudio(ctx, studioID, func(tx Tx) error {
		ses, err := tx.Session(ctx, sessionID)
		if err != nil {
			return err
		}
		if !s.Now().Before(ses.ExpiresAt) {
			return ErrNotFound
		}
		acc, err := tx.Account(ctx, ses.Account)
		if err != nil {
			return err
		}
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		out = SignedIn{Session: *ses, Actor: Actor{studioID, acc.ID, acc.Name, acc.Role, acc.Practitioner}, Studio: *st}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return &out, nil
}

// SignOut ends a session.
func (s *Service) SignOut(ctx context.Context, a *Actor, session uuid.UUID) error {
	return s.Store.InStudio(ctx, a.Studio, func(tx Tx) error { return tx.DropSession(ctx, session) })
}

func secret() string {
	b := make([]byte, 32)
	if _, err := rand.Read(b); err != nil {
		panic("studio: no randomness: " + err.Error())
	}
	return base64.RawURLEncoding.EncodeToString(b)
}

func hashToken(token string) []byte {
	h := sha256.Sum256([]byte(token))
	return h[:]
}

func digest(s string) string {
	return base64.RawURLEncoding.EncodeToString(hashToken(s))
}
