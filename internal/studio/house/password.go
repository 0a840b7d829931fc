package house

import (
	"context"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/trustelem/zxcvbn"

	"softpalm/internal/studio"
	"softpalm/words"
)

// hashParams follow the argon2id recommendation of the OWASP password storage
// cheat sheet (from memory: 19 MiB, 2 passes, 1 lane).
var hashParams = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// hashing bounds how many passwords are hashed at once: each takes 19 MiB, and more than
// there are processors gain nothing. The others wait for their turn.
var hashing = make(chan struct{}, max(2, runtime.NumCPU()))

// inTurn runs a hash when there is room for it.
func inTurn(ctx context.Context, hash func() error) error {
	select {
	case hashing <- struct{}{}:
		defer func() { <-hashing }()
		return hash()
	case <-ctx.Done():
		return ctx.Err()
	}
}

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

// HashCheaply makes the hashes of a test's program cheap, because most tests sign in and few are about passwords. It does
// nothing in any other program.
func HashCheaply() {
	if testing.Testing() {
		hashParams = &argon2id.Params{Memory: 8, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32}
		nobody, _ = HashPassword("nobody has this password")
	}
}

// matches reports whether a password, a PIN or a recovery code belongs to a hash.
func matches(ctx context.Context, secret, hash string) (is bool, err error) {
	err = inTurn(ctx, func() error {
		is, err = argon2id.ComparePasswordAndHash(secret, hash)
		return err
	})
	if err != nil {
		return false, fmt.Errorf("studio: comparing a password: %w", err)
	}
	return is, nil
}

// The length of a password in characters. Length is what makes one hard to guess (OWASP
// ASVS 4.0.3, 2.1, from memory); those that are guessed early all the same are refused besides.
const (
	shortestPassword = 12
	longestPassword  = 200
)

// tried are words that somebody who guesses the password of a studio would try, beside
// those that everybody tries.
var tried = []string{"soft palm", "softpalm", "facial", "massage", "esthetician", "studio"}

// estimated is how many characters of a password the estimate reads: more take it long and
// do not make a password worse.
const estimated = 72

// tooEasy reports whether a password would be guessed early by somebody who knows common
// passwords, names, words and keyboard patterns in several spellings, and the words that
// belong to the person: in fewer than 10^8 guesses, below which the estimate of Wheeler
// (zxcvbn, USENIX Security 2016) calls a password guessable.
func tooEasy(password string, own ...string) bool {
	if r := []rune(password); len(r) > estimated {
		password = string(r[:estimated])
	}
	known := slices.Clone(tried)
	for _, o := range own {
		o = strings.ToLower(o)
		parts := strings.FieldsFunc(o, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
		known = append(append(known, o, strings.Join(parts, "")), parts...)
	}
	return zxcvbn.PasswordStrength(password, known).Score < 3
}

// hashNew checks a password that is chosen, and hashes it. own are the person's name,
// address and studio.
func (s *Service) hashNew(ctx context.Context, path, password string, own ...string) (hash string, err error) {
	if n := utf8.RuneCountInString(password); n < shortestPassword || n > longestPassword {
		return "", studio.FaultAt(path, words.APasswordHasFromToCharacters(shortestPassword, longestPassword))
	}
	err = inTurn(ctx, func() error {
		if tooEasy(password, own...) {
			return studio.FaultAt(path, words.ThisPasswordIsTooEasyToGuess())
		}
		hash, err = HashPassword(password)
		return err
	})
	return hash, err
}

// ChangePassword changes the actor's own password. Their other sessions end.
func (s *Service) ChangePassword(ctx context.Context, in *SignedIn, current, next string) error {
	a := &in.Actor
	if err := a.May("change-password"); err != nil {
		return err
	}
	mine, err := s.confirm(ctx, a, "/current", current)
	if err != nil {
		return err
	}
	hash, err := s.hashNew(ctx, "/next", next, mine.Name, mine.Email, in.Studio.Name)
	if err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx peopleStore, st *studio.Studio) error {
		if st.IsDemo {
			return &studio.StateError{Code: "demo", Sentence: words.TheDemosAccountsStayAsTheyAre()}
		}
		acc, err := tx.LockAccount(ctx, a.Account)
		if err != nil {
			return err
		}
		acc.PasswordHash = hash
		if err := tx.SaveAccount(ctx, acc); err != nil {
			return err
		}
		if err := tx.DropSessions(ctx, a.Account, in.Session.ID); err != nil {
			return err
		}
		if err := tx.DropAccountLinks(ctx, a.Account); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change password", "account", a.Account)
	})
}

// confirm asks for the actor's password again, before something that an unwatched screen
// must not do, and returns their account. Wrong ones are counted as at signing in.
func (s *Service) confirm(ctx context.Context, a *studio.Actor, path, password string) (acc *studio.Account, err error) {
	now, subject := s.Now(), "confirm:"+a.Account.String()
	if err := s.attempt(ctx, subject, now, studio.ThrottleTries); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx peopleStore, _ *studio.Studio) (err error) {
		acc, err = tx.Account(ctx, a.Account)
		return err
	})
	if err != nil {
		return nil, err
	}
	match, err := matches(ctx, password, acc.PasswordHash)
	if err != nil {
		return nil, err
	}
	if !match {
		return nil, studio.FaultAt(path, words.ThisPasswordIsNotCorrect())
	}
	return acc, s.SignIns.ReturnAttempt(ctx, subject, now)
}
