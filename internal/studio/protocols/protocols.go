package protocols

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/studio"
	"softpalm/words"
)

// protocolStore keeps protocols, their versions and drafts.
type protocolStore interface {
	studio.LibraryStore
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error) // number 0: the newest
	NewestVersion(ctx context.Context, id uuid.UUID) (int, error)                      // 0 before the first
	Versions(ctx context.Context, id uuid.UUID) ([]studio.VersionLine, error)          // newest first
	AddProtocol(ctx context.Context, id uuid.UUID, key string, at time.Time) error
	AddVersion(ctx context.Context, id uuid.UUID, number int, body *protocol.Protocol, at time.Time, by *uuid.UUID) error
	Draft(ctx context.Context, id, account uuid.UUID) (*studio.Draft, error)
	// SaveDraft writes the draft when its stored revision is the one before; it reports whether it did.
	SaveDraft(ctx context.Context, account uuid.UUID, d *studio.Draft, at time.Time) (bool, error)
	DropDraft(ctx context.Context, id, account uuid.UUID) error
}

// Library returns the studio's strokes, tools and products.
func (s *Service) Library(ctx context.Context, a *studio.Actor) (*studio.Library, error) {
	var l *studio.Library
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, st *studio.Studio) (err error) {
		if l, err = studio.ReadLibrary(ctx, tx); err == nil {
			l.Currency = st.Currency
		}
		return err
	})
	return l, err
}

// Protocols lists the studio's protocols by name.
func (s *Service) Protocols(ctx context.Context, a *studio.Actor) (list []studio.ProtocolLine, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		list, err = tx.Protocols(ctx, a.Account)
		return err
	})
	return list, err
}

// Opened is a protocol opened for work: the actor's draft, or the newest
// version where there is none, with its evaluation.
type Opened struct {
	Draft      studio.Draft
	HasDraft   bool
	Version    int
	Evaluation *evaluation.Evaluation
}

// OpenProtocol opens a protocol for the actor.
func (s *Service) OpenProtocol(ctx context.Context, a *studio.Actor, id uuid.UUID) (*Opened, error) {
	var o Opened
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		if o.Version, err = tx.NewestVersion(ctx, id); err != nil {
			return err
		}
		d, err := tx.Draft(ctx, id, a.Account)
		switch {
		case err == nil:
			o.Draft, o.HasDraft = *d, true
		case errors.Is(err, studio.ErrNotFound):
			body, err := tx.Version(ctx, id, 0)
			if err != nil {
				return err
			}
			o.Draft = studio.Draft{Protocol: id, BasedOn: o.Version, Body: *body}
		default:
			return err
		}
		o.Evaluation = evaluation.EvaluateWithSetUp(&o.Draft.Body, lib.Context())
		return nil
	})
	return &o, err
}

// EvaluateProtocol judges a protocol as it stands on somebody's screen; nothing
// is kept.
func (s *Service) EvaluateProtocol(ctx context.Context, a *studio.Actor, p *protocol.Protocol, skinType string, skinStates []string) (*evaluation.Evaluation, error) {
	l, err := s.Library(ctx, a)
	if err != nil {
		return nil, err
	}
	c := l.Context()
	c.SkinType, c.SkinStates = skinType, skinStates
	if ps := p.Validate(c, ""); len(ps) > 0 {
		return nil, &studio.InputError{Problems: ps}
	}
	return evaluation.EvaluateWithSetUp(p, c), nil
}

// FixProtocol applies a fix of a finding to a protocol on somebody's screen and
// returns it with its new evaluation; nothing is kept. What was removed from the
// library is mended first.
func (s *Service) FixProtocol(ctx context.Context, a *studio.Actor, p *protocol.Protocol, finding string, fix evaluation.Fix) (*protocol.Protocol, *evaluation.Evaluation, error) {
	l, err := s.Library(ctx, a)
	if err != nil {
		return nil, nil, err
	}
	c := l.Context()
	ps := p.Validate(c, "")
	if fix == evaluation.LeaveStep || fix == evaluation.DropProduct {
		ps = p.ValidateStructure(c, "")
	}
	if len(ps) > 0 {
		return nil, nil, &studio.InputError{Problems: ps}
	}
	q, err := remedy.Apply(p, c, finding, fix)
	if err != nil {
		return nil, nil, &studio.StateError{Code: "fix-not-possible", Sentence: studio.SentenceOf(err)}
	}
	return q, evaluation.EvaluateWithSetUp(q, c), nil
}

// AddProtocol begins a new protocol as the actor's draft, from a body.
func (s *Service) AddProtocol(ctx context.Context, a *studio.Actor, body *protocol.Protocol) (uuid.UUID, error) {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return uuid.Nil, err
	}
	id := studio.NewID()
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		if ps := body.Validate(lib.Context(), ""); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		if err := tx.AddProtocol(ctx, id, body.Key, s.Now()); err != nil {
			if errors.Is(err, studio.ErrExists) {
				return studio.FaultAt("/key", words.ThereProtocolWithKeyBodyAlreadyChoose(body.Key))
			}
			return err
		}
		_, err = tx.SaveDraft(ctx, a.Account, &studio.Draft{Protocol: id, Revision: 1, Body: *body}, s.Now())
		return err
	})
	return id, err
}

// SavedDraft is a draft's new revision, with what follows from it.
type SavedDraft struct {
	Revision   int
	Evaluation *evaluation.Evaluation
}

// SaveDraft replaces the account's draft where its revision is still the one given,
// and evaluates it, so that one request serves an edit.
// A draft changed in another window answers [studio.StaleError] with the other text.
func (s *Service) SaveDraft(ctx context.Context, a *studio.Actor, id uuid.UUID, revision, basedOn int, body *protocol.Protocol) (*SavedDraft, error) {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return nil, err
	}
	d := &studio.Draft{Protocol: id, Revision: revision + 1, BasedOn: basedOn, Body: *body}
	out := &SavedDraft{Revision: d.Revision}
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		if ps := body.ValidateStructure(lib.Context(), ""); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		saved, err := tx.SaveDraft(ctx, a.Account, d, s.Now())
		if err != nil {
			return err
		}
		if !saved {
			return newerText(ctx, tx, a, id)
		}
		out.Evaluation = evaluation.EvaluateWithSetUp(body, lib.Context())
		return nil
	})
	return out, err
}

// newerText is the refusal of a draft that was changed, published or discarded in
// another window; it carries the text found there.
func newerText(ctx context.Context, tx protocolStore, a *studio.Actor, id uuid.UUID) error {
	now, err := tx.Draft(ctx, id, a.Account)
	if err == nil {
		return &studio.StaleError{Current: *now}
	}
	if !errors.Is(err, studio.ErrNotFound) {
		return err
	}
	body, err := tx.Version(ctx, id, 0)
	if err != nil {
		return err
	}
	return &studio.StaleError{Current: studio.Draft{Protocol: id, Body: *body}}
}

// DropDraft goes back to the newest published version.
func (s *Service) DropDraft(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		if n, err := tx.NewestVersion(ctx, id); err != nil {
			return err
		} else if n == 0 {
			return &studio.StateError{Code: "never-published", Sentence: words.ThisProtocolWasNeverPublishedSoThere()}
		}
		return tx.DropDraft(ctx, id, a.Account)
	})
}

// Publish makes the actor's draft the next version, which never changes again.
// A plan with a finding that stops cannot be published.
func (s *Service) Publish(ctx context.Context, a *studio.Actor, id uuid.UUID) (int, error) {
	if err := a.May(studio.Owner, studio.Practitioner); err != nil {
		return 0, err
	}
	number := 0
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		d, err := tx.Draft(ctx, id, a.Account)
		if errors.Is(err, studio.ErrNotFound) {
			return &studio.StateError{Code: "nothing-to-publish", Sentence: words.YouHaveNoDraftToPublish()}
		}
		if err != nil {
			return err
		}
		newest, err := tx.NewestVersion(ctx, id)
		if err != nil {
			return err
		}
		if d.BasedOn != newest {
			return &studio.StateError{Code: "version-moved-on", Sentence: words.VersionNewestWasPublishedAfterYouStarted(newest, d.BasedOn)}
		}
		if len(d.Body.Steps) == 0 {
			return &studio.StateError{Code: "empty-protocol", Sentence: words.ProtocolWithoutStepsCannotPublishedAddStroke()}
		}
		e := evaluation.Evaluate(&d.Body, lib.Context())
		if e.Worst() == evaluation.Stopping {
			return &studio.StateError{Code: "unsafe-protocol", Sentence: words.FindingMarkedMustFixHasFixedBefore()}
		}
		number = newest + 1
		if err := tx.AddVersion(ctx, id, number, &d.Body, s.Now(), &a.Account); err != nil {
			return err
		}
		return tx.DropDraft(ctx, id, a.Account)
	})
	return number, err
}
