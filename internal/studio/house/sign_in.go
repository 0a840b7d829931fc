package house

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

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
	// SeeSession notes that a session is used.
	SeeSession(ctx context.Context, id uuid.UUID, at time.Time) error
	// LockAccount returns an account and holds it until the transaction ends.
	LockAccount(ctx context.Context, id uuid.UUID) (*studio.Account, error)
	// SaveAccount writes all of an account but its address, as its next revision.
	SaveAccount(ctx context.Context, a *studio.Account) error
	// InTreatment reports whether a practitioner has a client in the room since a time.
	InTreatment(ctx context.Context, practitioner uuid.UUID, since time.Time) (bool, error)
}

// A session ends when it has not been used for a while, and after some days however much
// it is used. Neither ends it while its practitioner has a client in the room.
const (
	SessionIdle   = 12 * time.Hour
	SessionLength = 7 * 24 * time.Hour
	// longestTreatment is how long a client may be in the room for that to count.
	longestTreatment = 6 * time.Hour
)

// seenEvery is how often the use of a session is written down.
const seenEvery = time.Minute

// over reports whether a session has ended by its age. A clock that was wrong for a while
// ends none: what lies in the time to come is not old.
func (s *Service) over(ses *studio.Session) bool {
	now := s.Now()
	return !now.Before(ses.ExpiresAt) || now.Sub(ses.SeenAt) >= SessionIdle
}

// SignedIn is a session with who it belongs to.
type SignedIn struct {
	Token   string // only at sign-in
	Session studio.Session
	Actor   studio.Actor
	Studio  studio.Studio
	// Factor says that there is a second factor; NeedsFactor that nothing else can be done
	// before one is set.
	Factor, NeedsFactor bool
}

// Credentials are what somebody signs in with. Code is that of an authenticator app, or a
// recovery code; empty where there is no second factor.
type Credentials struct {
	Email, Password, Code string
}

// ErrFactor says that the password is right and the code of the second factor is missing.
var ErrFactor = errors.New("studio: the code of the second factor is missing")

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

// SignIn checks e-mail and password, and the second factor where there is one, and begins a
// session. from says where the attempt comes from; it is throttled by address and by origin.
func (s *Service) SignIn(ctx context.Context, c Credentials, from string) (*SignedIn, error) {
	now := s.Now()
	subjects := []string{"email:" + studio.Digest(strings.ToLower(c.Email)), "from:" + studio.Digest(from)}
	for i, subject := range subjects {
		free := studio.ThrottleTries * (1 + 4*i) // one origin may be a whole studio
		if err := s.attempt(ctx, subject, now, free); err != nil {
			return nil, err
		}
	}
	studioID, acc, err := s.accountOf(ctx, c.Email)
	if err != nil {
		return nil, err
	}
	hash := nobody
	if acc != nil && acc.State() == studio.Active {
		hash = acc.PasswordHash
	}
	match, err := matches(ctx, c.Password, hash)
	if err != nil {
		return nil, err
	}
	if acc == nil || acc.State() != studio.Active || !match {
		return nil, s.refused(ctx, studioID, acc, "fail to sign in", studio.ErrSignIn)
	}
	if err := s.SignIns.ReturnAttempt(ctx, subjects[1], now); err != nil {
		return nil, err
	}
	if acc.FactorSecret != "" && c.Code == "" {
		return nil, errors.Join(ErrFactor, s.SignIns.ReturnAttempt(ctx, subjects[0], now))
	}
	if err := s.SignIns.ClearAttempts(ctx, "", now.Add(-24*time.Hour)); err != nil {
		return nil, err
	}
	out, err := s.begin(ctx, studioID, acc, c.Code)
	if errors.Is(err, studio.ErrSignIn) {
		return nil, s.refused(ctx, studioID, acc, "fail second factor", err)
	}
	if err != nil {
		return nil, err
	}
	return out, s.SignIns.ClearAttempts(ctx, subjects[0], now.Add(time.Hour))
}

// accountOf returns the account that an address belongs to, nil where there is none.
func (s *Service) accountOf(ctx context.Context, email string) (studioID uuid.UUID, acc *studio.Account, err error) {
	studioID, id, err := s.SignIns.FindSignIn(ctx, email)
	if errors.Is(err, studio.ErrNotFound) {
		return studioID, nil, nil
	}
	if err != nil {
		return studioID, nil, err
	}
	err = studio.Within(ctx, s.Kernel, studioID, func(tx signInStore) error {
		acc, err = tx.Account(ctx, id)
		return err
	})
	return studioID, acc, err
}

// refused leaves a line in the log of the studio whose account somebody tried, and returns
// the refusal.
func (s *Service) refused(ctx context.Context, studioID uuid.UUID, acc *studio.Account, action string, why error) error {
	if acc == nil {
		return why
	}
	err := studio.Within(ctx, s.Kernel, studioID, func(tx signInStore) error {
		return s.Audit(ctx, tx, &studio.Actor{Studio: studioID, Account: acc.ID}, action, "account", acc.ID)
	})
	if err != nil {
		return err
	}
	return why
}

// begin checks the second factor and begins a session.
func (s *Service) begin(ctx context.Context, studioID uuid.UUID, acc *studio.Account, code string) (*SignedIn, error) {
	now, from := s.Now(), studio.OriginOf(ctx)
	out := &SignedIn{
		Token: studio.NewToken(),
		Session: studio.Session{
			ID:        studio.NewID(),
			Account:   acc.ID,
			CSRF:      studio.NewToken(),
			CreatedAt: now,
			ExpiresAt: now.Add(SessionLength),
			SeenAt:    now,
			Address:   from.Address,
			Agent:     from.Agent[:min(len(from.Agent), 200)],
		},
		Actor: studio.Actor{Studio: studioID, Account: acc.ID, Name: acc.Name, Role: acc.Role, Practitioner: acc.Practitioner},
	}
	err := studio.Within(ctx, s.Kernel, studioID, func(tx signInStore) error {
		st, err := tx.Studio(ctx)
		if err != nil {
			return err
		}
		out.Studio, out.Factor, out.NeedsFactor = *st, acc.FactorSecret != "", needsFactor(st, acc)
		if acc.FactorSecret != "" {
			if err := s.useFactor(ctx, tx, acc.ID, code); err != nil {
				return err
			}
		}
		if err := tx.AddSession(ctx, &out.Session, studio.HashToken(out.Token)); err != nil {
			return err
		}
		return s.Audit(ctx, tx, &out.Actor, "sign in", "account", acc.ID)
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

// needsFactor reports whether the studio asks for a second factor that the account lacks.
func needsFactor(st *studio.Studio, acc *studio.Account) bool {
	return st.OwnersNeedFactor && acc.Role == studio.Owner && acc.FactorSecret == ""
}

// useFactor uses a code up: that of the app, which counts once, or a recovery code.
func (s *Service) useFactor(ctx context.Context, tx signInStore, account uuid.UUID, code string) error {
	acc, err := tx.LockAccount(ctx, account)
	if err != nil {
		return err
	}
	if step, ok := factorStep(acc.FactorSecret, code, s.Now(), acc.FactorStep); ok {
		acc.FactorStep = step
		return tx.SaveAccount(ctx, acc)
	}
	i := slices.Index(acc.RecoveryHashes, recoveryHash(code))
	if i < 0 {
		return studio.ErrSignIn
	}
	acc.RecoveryHashes = slices.Delete(acc.RecoveryHashes, i, i+1)
	return tx.SaveAccount(ctx, acc)
}

// Session returns who a session token belongs to; ErrNotFound when it belongs
// to nobody or has ended.
func (s *Service) Session(ctx context.Context, token string) (*SignedIn, error) {
	ses, acc, st, err := s.SignIns.SessionOf(ctx, studio.HashToken(token))
	if err != nil {
		return nil, err
	}
	if acc.State() != studio.Active {
		return nil, studio.ErrNotFound
	}
	if err := s.goesOn(ctx, st.ID, ses, acc); err != nil {
		return nil, err
	}
	return &SignedIn{
		Session:     *ses,
		Actor:       studio.Actor{Studio: st.ID, Account: acc.ID, Name: acc.Name, Role: acc.Role, Practitioner: acc.Practitioner},
		Studio:      *st,
		Factor:      acc.FactorSecret != "",
		NeedsFactor: needsFactor(st, acc),
	}, nil
}

// goesOn notes now and then that a session is used, and answers ErrNotFound for one that has ended, unless its account
// has a client in the room.
func (s *Service) goesOn(ctx context.Context, in uuid.UUID, ses *studio.Session, acc *studio.Account) error {
	seen := s.Now().Sub(ses.SeenAt) < seenEvery
	if seen && !s.over(ses) {
		return nil
	}
	return studio.Within(ctx, s.Kernel, in, func(tx signInStore) error {
		if s.over(ses) {
			if treating, err := s.treating(ctx, tx, acc); err != nil || !treating {
				return errors.Join(studio.ErrNotFound, err)
			}
		}
		if seen {
			return nil
		}
		return tx.SeeSession(ctx, ses.ID, s.Now())
	})
}

// treating reports whether somebody has a client in the room.
func (s *Service) treating(ctx context.Context, tx signInStore, acc *studio.Account) (bool, error) {
	if acc.Practitioner == nil {
		return false, nil
	}
	return tx.InTreatment(ctx, *acc.Practitioner, s.Now().Add(-longestTreatment))
}

// SignOut ends a session.
func (s *Service) SignOut(ctx context.Context, a *studio.Actor, session uuid.UUID) error {
	return studio.Within(ctx, s.Kernel, a.Studio, func(tx signInStore) error {
		if err := tx.DropSession(ctx, session); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "sign out", "account", a.Account)
	})
}
