package house

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base32"
	"encoding/base64"
	"errors"
	"fmt"
	"image/png"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"

	"softpalm/internal/studio"
	"softpalm/words"
)

// factorPeriod is how long a code of an authenticator app is shown, in seconds (RFC 6238).
// A code counts one period early or late, for phones whose clock is not right.
const factorPeriod = 30

// recoveryCodes is how many codes somebody gets for the day the phone is lost.
const recoveryCodes = 10

// NewFactor is what an authenticator app is set up with.
type NewFactor struct {
	Secret string `json:"secret"`
	// URI is what the code to scan holds, Image the code as a picture (a data URL, PNG).
	URI   string `json:"uri"`
	Image string `json:"image"`
}

// factorImage is the width and height of the code to scan.
const factorImage = 220

// BeginFactor makes the secret of an authenticator app; it counts once a code of it was
// entered.
func (s *Service) BeginFactor(ctx context.Context, a *studio.Actor) (*NewFactor, error) {
	if err := a.May("begin-factor"); err != nil {
		return nil, err
	}
	var out *NewFactor
	err := studio.In(ctx, s.Kernel, a, func(tx peopleStore, st *studio.Studio) error {
		acc, err := tx.Account(ctx, a.Account)
		if err != nil {
			return err
		}
		key, err := totp.Generate(totp.GenerateOpts{Issuer: "Soft Palm " + st.Name, AccountName: acc.Email, Period: factorPeriod})
		if err != nil {
			return fmt.Errorf("studio: making the secret of an app: %w", err)
		}
		picture, err := key.Image(factorImage, factorImage)
		if err != nil {
			return fmt.Errorf("studio: drawing the code of an app: %w", err)
		}
		var b bytes.Buffer
		if err := png.Encode(&b, picture); err != nil {
			return fmt.Errorf("studio: drawing the code of an app: %w", err)
		}
		out = &NewFactor{key.Secret(), key.URL(), "data:image/png;base64," + base64.StdEncoding.EncodeToString(b.Bytes())}
		return nil
	})
	return out, err
}

// SetFactor makes an authenticator app part of signing in: its secret, and a code that it
// shows now. It returns the recovery codes, which are shown once.
func (s *Service) SetFactor(ctx context.Context, in *SignedIn, password, secret, code string) ([]string, error) {
	a := &in.Actor
	if err := a.May("set-factor"); err != nil {
		return nil, err
	}
	if _, err := s.confirm(ctx, a, "/password", password); err != nil {
		return nil, err
	}
	if b, err := base32.StdEncoding.WithPadding(base32.NoPadding).DecodeString(secret); err != nil || len(b) < 16 || len(secret) > 100 {
		return nil, studio.FaultAt("/secret", words.SetUpTheAppAgain())
	}
	step, ok := factorStep(secret, code, s.Now(), 0)
	if !ok {
		return nil, studio.FaultAt("/code", words.ThisCodeIsNotCorrectWaitForTheNext())
	}
	codes, hashes, err := newRecoveryCodes()
	if err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx peopleStore, st *studio.Studio) error {
		if st.IsDemo {
			return &studio.StateError{Code: "demo", Sentence: words.TheDemosAccountsStayAsTheyAre()}
		}
		acc, err := tx.LockAccount(ctx, a.Account)
		if err != nil {
			return err
		}
		acc.FactorSecret, acc.FactorStep, acc.RecoveryHashes = secret, step, hashes
		if err := errors.Join(tx.SaveAccount(ctx, acc), tx.DropSessions(ctx, a.Account, in.Session.ID)); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "set second factor", "account", a.Account)
	})
	if err != nil {
		return nil, err
	}
	return codes, nil
}

// DropOwnFactor ends the actor's own second factor.
func (s *Service) DropOwnFactor(ctx context.Context, a *studio.Actor, password string) error {
	if err := a.May("drop-factor"); err != nil {
		return err
	}
	if _, err := s.confirm(ctx, a, "/password", password); err != nil {
		return err
	}
	return s.dropFactor(ctx, a, a.Account)
}

// DropFactor ends somebody's second factor, whose phone and codes are lost. Their sessions
// end.
func (s *Service) DropFactor(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("remove-factor"); err != nil {
		return err
	}
	return s.dropFactor(ctx, a, id)
}

func (s *Service) dropFactor(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx peopleStore, _ *studio.Studio) error {
		acc, err := tx.LockAccount(ctx, id)
		if err != nil {
			return err
		}
		acc.FactorSecret, acc.RecoveryHashes = "", nil
		if err := tx.SaveAccount(ctx, acc); err != nil {
			return err
		}
		if id != a.Account {
			if err := tx.DropSessions(ctx, id, uuid.Nil); err != nil {
				return err
			}
		}
		return s.Audit(ctx, tx, a, "remove second factor", "account", id)
	})
}

// factorStep returns the step of a code that an app shows about now, after the last one
// used; false where the code is not right.
func factorStep(secret, code string, now time.Time, last int64) (int64, bool) {
	code = strings.ReplaceAll(strings.TrimSpace(code), " ", "")
	for _, skew := range []int64{0, -1, 1} {
		step := now.Unix()/factorPeriod + skew
		want, err := totp.GenerateCodeCustom(secret, time.Unix(step*factorPeriod, 0), totp.ValidateOpts{
			Period: factorPeriod, Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1,
		})
		if err == nil && want == code && step > last {
			return step, true
		}
	}
	return 0, false
}

// newRecoveryCodes makes codes and their hashes. A code has 50 random bits and is used once,
// so that a plain hash is enough (OWASP ASVS 4.0.3, 2.6, from memory).
func newRecoveryCodes() (codes, hashes []string, err error) {
	for range recoveryCodes {
		b := make([]byte, 7)
		if _, err := rand.Read(b); err != nil {
			return nil, nil, fmt.Errorf("studio: no randomness: %w", err)
		}
		text := strings.ToLower(base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(b))[:10]
		codes = append(codes, text[:5]+"-"+text[5:])
		hashes = append(hashes, studio.Digest(text))
	}
	return codes, hashes, nil
}

// recoveryHash is the hash of a recovery code as somebody types it.
func recoveryHash(code string) string {
	return studio.Digest(strings.ToLower(strings.NewReplacer("-", "", " ", "").Replace(code)))
}
