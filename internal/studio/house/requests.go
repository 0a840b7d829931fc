package house

import (
	"bytes"
	"context"
	"errors"
	"time"

	"softpalm/internal/studio"
	"softpalm/words"
)

const (
	// requestsKept is how long the answer to a keyed request is kept.
	requestsKept = 24 * time.Hour
	// requestLives is the longest that a request can be under way. One that has no answer
	// by then was broken off, and its repeat is carried out.
	requestLives = time.Minute
	// requestWaits is how long a repeat waits for the first to be answered, and
	// requestPause how long between two looks.
	requestWaits = 10 * time.Second
	requestPause = 50 * time.Millisecond
)

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
	// BeginRequest notes a request; false where there is one with its key.
	BeginRequest(ctx context.Context, a *studio.Actor, r *Request, at time.Time) (bool, error)
	// AnswerOf returns the fingerprint of a request and its answer, nil while there is none.
	AnswerOf(ctx context.Context, a *studio.Actor, key string) (fingerprint []byte, answer *Answered, err error)
	EndRequest(ctx context.Context, a *studio.Actor, key string, answer *Answered) error
	DropRequest(ctx context.Context, a *studio.Actor, key string) error
	// DropRequests forgets the answered requests before a time, and the others before another.
	DropRequests(ctx context.Context, answered, others time.Time) error
}

// BeginRequest says whether a keyed request is to be carried out (nil), or how its first
// try was answered. A repeat while the first is under way waits for it.
func (s *Service) BeginRequest(ctx context.Context, a *studio.Actor, r Request) (*Answered, error) {
	for waited := time.Duration(0); waited < requestWaits; waited += requestPause {
		var first bool
		var fingerprint []byte
		var answer *Answered
		err := studio.Within(ctx, s.Kernel, a.Studio, func(tx requestStore) error {
			if err := tx.DropRequests(ctx, s.Now().Add(-requestsKept), s.Now().Add(-requestLives)); err != nil {
				return err
			}
			var err error
			if first, err = tx.BeginRequest(ctx, a, &r, s.Now()); err != nil || first {
				return err
			}
			fingerprint, answer, err = tx.AnswerOf(ctx, a, r.Key)
			return err
		})
		switch {
		case errors.Is(err, studio.ErrNotFound): // the first failed just now and can be tried again
		case err != nil:
			return nil, err
		case first:
			return nil, nil
		case !bytes.Equal(fingerprint, r.Fingerprint):
			return nil, &studio.StateError{Code: "key-reused", Sentence: words.ThisKeyWasUsedForAnotherRequest()}
		case answer != nil && answer.Secret:
			return nil, &studio.StateError{Code: "already-made", Sentence: words.AlreadyMadeMakeANewOne()}
		case answer != nil:
			return answer, nil
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(requestPause):
		}
	}
	return nil, studio.ErrUnknownState
}

// EndRequest keeps the answer to a keyed request that was carried out; one that was not
// (nil) is forgotten, so that it can be tried again.
func (s *Service) EndRequest(ctx context.Context, a *studio.Actor, key string, answer *Answered) error {
	return studio.Within(ctx, s.Kernel, a.Studio, func(tx requestStore) error {
		if answer == nil {
			return tx.DropRequest(ctx, a, key)
		}
		if answer.Secret {
			answer = &Answered{Status: answer.Status, Secret: true}
		}
		return tx.EndRequest(ctx, a, key, answer)
	})
}
