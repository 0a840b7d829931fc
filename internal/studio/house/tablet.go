package house

import (
	"context"
	"errors"
	"regexp"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// tabletStore locks sessions.
type tabletStore interface {
	studio.Tx
	Account(ctx context.Context, id uuid.UUID) (*studio.Account, error)
	LockSession(ctx context.Context, id uuid.UUID, locked bool) error
	// EndSessionLinks ends the private links that opened in one session only.
	EndSessionLinks(ctx context.Context, session uuid.UUID, at time.Time) error
	SavePIN(ctx context.Context, account uuid.UUID, hash string) error
}

// ErrHandedOver says that the session is locked while a client holds the tablet.
var ErrHandedOver = &studio.StateError{Code: "handed-over", Sentence: words.ThisTabletWithClientEnterYourPIN()}

// pinTries is how often a wrong PIN may be entered before the session ends.
const pinTries = 5

var pinForm = regexp.MustCompile(`^[0-9]{4,8}$`)

// SetPIN chooses the actor's PIN, with which the tablet is taken back.
func (s *Service) SetPIN(ctx context.Context, a *studio.Actor, pin string) error {
	if !pinForm.MatchString(pin) {
		return studio.FaultAt("/pin", words.APINIs4To8Digits())
	}
	hash, err := HashPassword(pin)
	if err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx tabletStore, _ *studio.Studio) error { return tx.SavePIN(ctx, a.Account, hash) })
}

// HandOverTablet makes a private link for a client's consultation and locks the session
// to it: until the PIN is entered it opens nothing else.
func (s *Service) HandOverTablet(
	ctx context.Context,
	a *studio.Actor,
	session, client uuid.UUID,
) (token string, until time.Time, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx tabletStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "hand-over-tablet", client); err != nil {
			return err
		}
		acc, err := tx.Account(ctx, a.Account)
		if err != nil {
			return err
		}
		if acc.PINHash == "" {
			return &studio.StateError{Code: "no-pin", Sentence: words.ChoosePINFirstYouNeedUnlockTablet()}
		}
		if token, until, err = s.Checks.HandOverLink(ctx, tx, st, a, session, client); err != nil {
			return err
		}
		if err := tx.LockSession(ctx, session, true); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "hand over tablet", "client", client)
	})
	return token, until, err
}

// UnlockTablet unlocks a session with the PIN, and ends the link that the client had there.
// After five wrong ones the session ends and one has to sign in again.
func (s *Service) UnlockTablet(ctx context.Context, a *studio.Actor, session uuid.UUID, pin string) error {
	subject, now := "pin:"+session.String(), s.Now()
	tries := 0
	taken, err := s.SignIns.TakeAttempt(ctx, subject, now, now.Add(-SessionLength), func(n int, _ time.Time) bool {
		tries = n
		return n < pinTries
	})
	if err != nil {
		return err
	}
	if !taken {
		return s.endByPin(ctx, a, session)
	}
	var hash string
	if err := studio.In(ctx, s.Kernel, a, func(tx tabletStore, _ *studio.Studio) error {
		acc, err := tx.Account(ctx, a.Account)
		if err == nil {
			hash = acc.PINHash
		}
		return err
	}); err != nil {
		return err
	}
	match := false
	if hash != "" {
		if match, err = matches(ctx, pin, hash); err != nil {
			return err
		}
	}
	if match {
		if err := s.SignIns.ClearAttempts(ctx, subject, now.Add(time.Hour)); err != nil {
			return err
		}
		return studio.In(ctx, s.Kernel, a, func(tx tabletStore, _ *studio.Studio) error {
			if err := tx.EndSessionLinks(ctx, session, now); err != nil {
				return err
			}
			return tx.LockSession(ctx, session, false)
		})
	}
	if tries+1 >= pinTries {
		return s.endByPin(ctx, a, session)
	}
	return studio.FaultAt("/pin", words.ThisPINNotCorrectYouHavePinTries(pinTries-tries-1))
}

// endByPin ends a session whose PIN was wrong too often.
func (s *Service) endByPin(ctx context.Context, a *studio.Actor, session uuid.UUID) error {
	if err := s.SignOut(ctx, a, session); err != nil && !errors.Is(err, studio.ErrNotFound) {
		return err
	}
	return &studio.StateError{Code: "pin-ended", Sentence: words.PinWasWrongFiveTimesSignIn()}
}
