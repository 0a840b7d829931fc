package protocols

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/studio"
)

// onScreen runs fn with the studio's library over a protocol as it is on
// a person's screen; nothing is saved.
func (s *Service) onScreen(ctx context.Context, a *studio.Actor, p *protocol.Protocol, fn func(*protocol.Context) error) error {
	l, err := s.Library(ctx, a)
	if err != nil {
		return err
	}
	c := l.Context()
	if ps := p.Validate(c, ""); len(ps) > 0 {
		return &studio.InputError{Problems: ps}
	}
	return fn(c)
}

// CommandProtocol runs a command of the workbench on a protocol and returns the
// outcome with its evaluation; nothing is kept.
func (s *Service) CommandProtocol(
	ctx context.Context,
	a *studio.Actor,
	p *protocol.Protocol,
	o remedy.CommandRequest,
) (d *remedy.CommandResult, e *evaluation.Evaluation, err error) {
	err = s.onScreen(ctx, a, p, func(c *protocol.Context) error {
		if d, err = remedy.RunCommand(p, c, o); err != nil {
			return &studio.StateError{Code: "nothing-to-do", Sentence: studio.SentenceOf(err)}
		}
		e = evaluation.EvaluateWithSetUp(d.Protocol, c)
		return nil
	})
	return d, e, err
}

// DraftProtocol composes a first draft from a question. Without a list of tools
// or products, everything the studio has is used.
func (s *Service) DraftProtocol(
	ctx context.Context,
	a *studio.Actor,
	q drafting.Question,
) (*protocol.Protocol, *evaluation.Evaluation, error) {
	l, err := s.Library(ctx, a)
	if err != nil {
		return nil, nil, err
	}
	c := l.Context()
	if q.Tools == nil {
		for key := range c.Tools {
			q.Tools = append(q.Tools, key)
		}
	}
	if q.Products == nil {
		for key := range c.Products {
			q.Products = append(q.Products, key)
		}
	}
	p, err := drafting.Draft(q, c)
	if err != nil {
		var none *drafting.NoDraft
		if errors.As(err, &none) {
			return nil, nil, &studio.StateError{Code: "no-draft-" + none.Code, Sentence: studio.SentenceOf(err)}
		}
		return nil, nil, err
	}
	p.Price.Currency = l.Currency
	return p, evaluation.EvaluateWithSetUp(p, c), nil
}

// Variation is a variant of a protocol, worked out, with what it changes step by
// step.
type Variation struct {
	Variant    protocol.Variant
	Adjusted   adjusting.AdjustedPlan
	Comparison protocol.Comparison
}

// VaryProtocol works out every variant of a protocol.
func (s *Service) VaryProtocol(ctx context.Context, a *studio.Actor, p *protocol.Protocol) (list []Variation, err error) {
	err = s.onScreen(ctx, a, p, func(c *protocol.Context) error {
		for _, v := range adjusting.VariantsOf(p) {
			t := adjusting.Vary(p, &v, c)
			list = append(list, Variation{v, t, protocol.Compare(p, t.Protocol)})
		}
		return nil
	})
	return list, err
}

// CompareVersions compares two versions of a protocol. Number 0 is the
// actor's draft, or the newest version where there is none.
func (s *Service) CompareVersions(
	ctx context.Context,
	a *studio.Actor,
	id uuid.UUID,
	was, now int,
) (c protocol.Comparison, before, after *protocol.Protocol, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		if before, err = readProtocol(ctx, tx, a, id, was); err != nil {
			return err
		}
		if after, err = readProtocol(ctx, tx, a, id, now); err != nil {
			return err
		}
		c = protocol.Compare(before, after)
		return nil
	})
	return c, before, after, err
}

// VersionsOf lists a protocol's versions, newest first.
func (s *Service) VersionsOf(ctx context.Context, a *studio.Actor, id uuid.UUID) (list []studio.VersionLine, err error) {
	err = studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		if _, err := tx.NewestVersion(ctx, id); err != nil {
			return err // there is no such protocol
		}
		list, err = tx.Versions(ctx, id)
		return err
	})
	return list, err
}
