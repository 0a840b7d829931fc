package house

import (
	"bytes"
	"context"
	"time"

	"softpalm/internal/studio"
	"softpalm/words"
)

// requestsKept is how long the answer to a keyed request is kept.
const requestsKept = 24 * time.Hour

// Request is a request with a key that the screen chose for it.
type Request struct {
	Key string
	// Fingerprint is a hash of what was asked: another request under the same key is refused.
	Fingerprint []byte
}

// Answered is how a request was answered.
type Answered struct {
	Status int
	Type   string
	Body   []byte
	// Secret says that the answer showed something once; it is kept without its body.
	Secret bool
}

// requestStore remembers keyed requests and their answers.
type requestStore interface {
	studio.Tx
	// BeginRequest notes a request; false where there is one with its key. It waits for one
	// that is under way.
	BeginRequest(ctx context.Context, a *studio.Actor, r *Request, at time.Time) (bool, error)
	// AnswerOf returns the fingerprint of a request and its answer.
	AnswerOf(ctx context.Context, a *studio.Actor, key string) (fingerprint []byte, answer *Answered, err error)
	EndRequest(ctx context.Context, a *studio.Actor, key string, answer *Answered) error
	DropRequest(ctx context.Context, a *studio.Actor, key string) error
	// DropRequests forgets the requests before a time.
	DropRequests(ctx context.Context, before time.Time) error
}

// Once carries out a keyed request one time. run does its work with the context it is given
// and returns the answer, nil where it was refused: then it is forgotten and can be tried
// again. Request, work and answer are one transaction, so that a server that stops in between
// leaves all of them or nothing. replayed says that the answer is that of an earlier try.
func (s *Service) Once(
	ctx context.Context,
	a *studio.Actor,
	r Request,
	run func(ctx context.Context) *Answered,
) (answer *Answered, replayed bool, err error) {
	err = s.Work.Together(ctx, a.Studio, func(ctx context.Context) error {
		var first bool
		err := studio.Within(ctx, s.Kernel, a.Studio, func(tx requestStore) (err error) {
			if err := tx.DropRequests(ctx, s.Now().Add(-requestsKept)); err != nil {
				return err
			}
			if first, err = tx.BeginRequest(ctx, a, &r, s.Now()); err != nil || first {
				return err
			}
			answer, err = repeated(ctx, tx, a, &r)
			return err
		})
		if err != nil || !first {
			replayed = true
			return err
		}
		answer = run(ctx)
		return studio.Within(ctx, s.Kernel, a.Studio, func(tx requestStore) error {
			switch {
			case answer == nil:
				return tx.DropRequest(ctx, a, r.Key)
			case answer.Secret:
				return tx.EndRequest(ctx, a, r.Key, &Answered{Status: answer.Status, Secret: true})
			}
			return tx.EndRequest(ctx, a, r.Key, answer)
		})
	})
	return answer, replayed, err
}

// repeated returns how the first try of a request was answered, or why it is refused.
func repeated(ctx context.Context, tx requestStore, a *studio.Actor, r *Request) (*Answered, error) {
	fingerprint, answer, err := tx.AnswerOf(ctx, a, r.Key)
	switch {
	case err != nil:
		return nil, err
	case !bytes.Equal(fingerprint, r.Fingerprint):
		return nil, &studio.StateError{Code: "key-reused", Sentence: words.ThisKeyWasUsedForAnotherRequest()}
	case answer == nil || answer.Secret:
		return nil, &studio.StateError{Code: "already-made", Sentence: words.AlreadyMadeMakeANewOne()}
	}
	return answer, nil
}
