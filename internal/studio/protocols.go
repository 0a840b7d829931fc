package studio

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Library is what protocols are made of. Strokes holds the trade's repertoire
// and the studio's own; one of its own takes the place of a trade stroke of the
// same key.
type Library struct {
	Strokes  []stroke.Stroke
	Tools    []protocol.Tool
	Products []Product
	Currency string
	// Own lists the keys of the studio's own strokes.
	Own []string
}

// context gathers what the core judges a protocol against.
func (l *Library) context() *protocol.Context {
	c := &protocol.Context{Strokes: stroke.ByKey(l.Strokes), Products: make(map[string]*slip.Product, len(l.Products)), Tools: make(map[string]protocol.Tool, len(l.Tools))}
	for i := range l.Products {
		p := &l.Products[i]
		core := p.Product
		if p.PackSize.IsPositive() {
			perML := decimal.NewFromFloat(p.PerML(slip.Measure(p.Unit)))
			core.Cost = p.Price.Mul(perML).DivRound(p.PackSize, 6).String()
		}
		c.Products[p.Key] = &core
	}
	for _, t := range l.Tools {
		c.Tools[t.Key] = t
	}
	return c
}

func readLibrary(ctx context.Context, tx Tx) (*Library, error) {
	var l Library
	var err error
	own, err := tx.Strokes(ctx)
	if err != nil {
		return nil, err
	}
	l.Strokes, l.Own = withTrade(own), make([]string, len(own))
	for i := range own {
		l.Own[i] = own[i].Key
	}
	if l.Tools, err = tx.Tools(ctx); err != nil {
		return nil, err
	}
	if l.Products, err = tx.Products(ctx); err != nil {
		return nil, err
	}
	return &l, nil
}

// withTrade joins the trade's strokes with a studio's own, by key.
func withTrade(own []stroke.Stroke) []stroke.Stroke {
	list := slices.Clone(own)
	for _, st := range stroke.Trade() {
		if !slices.ContainsFunc(own, func(o stroke.Stroke) bool { return o.Key == st.Key }) {
			list = append(list, st)
		}
	}
	slices.SortFunc(list, func(a, b stroke.Stroke) int { return strings.Compare(a.Key, b.Key) })
	return list
}

// Library returns the studio's strokes, tools and products.
func (s *Service) Library(ctx context.Context, a *Actor) (*Library, error) {
	var l *Library
	err := s.in(ctx, a, func(tx Tx, st *Studio) (err error) {
		if l, err = readLibrary(ctx, tx); err == nil {
			l.Currency = st.Currency
		}
		return err
	})
	return l, err
}

// Protocols lists the studio's protocols by name.
func (s *Service) Protocols(ctx context.Context, a *Actor) (list []ProtocolLine, err error) {
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		list, err = tx.Protocols(ctx, a.Account)
		return err
	})
	return list, err
}

// Opened is a protocol opened for work: the actor's draft, or the newest
// version where there is none, with its evaluation.
type Opened struct {
	Draft      Draft
	HasDraft   bool
	Version    int
	Evaluation *evaluation.Evaluation
}

// OpenProtocol opens a protocol for the actor.
func (s *Service) OpenProtocol(ctx context.Context, a *Actor, id uuid.UUID) (*Opened, error) {
	var o Opened
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
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
		case errors.Is(err, ErrNotFound):
			body, err := tx.Version(ctx, id, 0)
			if err != nil {
				return err
			}
			o.Draft = Draft{Protocol: id, BasedOn: o.Version, Body: *body}
		default:
			return err
		}
		o.Evaluation = evaluation.EvaluateWhole(&o.Draft.Body, lib.context())
		return nil
	})
	return &o, err
}

// EvaluateProtocol judges a protocol as it stands on somebody's screen; nothing
// is kept.
func (s *Service) EvaluateProtocol(ctx context.Context, a *Actor, p *protocol.Protocol, skinType string, skinStates []string) (*evaluation.Evaluation, error) {
	l, err := s.Library(ctx, a)
	if err != nil {
		return nil, err
	}
	c := l.context()
	c.SkinType, c.SkinStates = skinType, skinStates
	if ps := p.Validate(c, ""); len(ps) > 0 {
		return nil, &InputError{ps}
	}
	return evaluation.EvaluateWhole(p, c), nil
}

// FixProtocol applies a fix of a finding to a protocol on somebody's screen and
// returns it with its new evaluation; nothing is kept. What was removed from the
// library is mended first.
func (s *Service) FixProtocol(ctx context.Context, a *Actor, p *protocol.Protocol, finding string, fix evaluation.Fix) (*protocol.Protocol, *evaluation.Evaluation, error) {
	l, err := s.Library(ctx, a)
	if err != nil {
		return nil, nil, err
	}
	c := l.context()
	ps := p.Validate(c, "")
	if fix == evaluation.LeaveStep || fix == evaluation.DropProduct {
		ps = p.ValidateStructure(c, "")
	}
	if len(ps) > 0 {
		return nil, nil, &InputError{ps}
	}
	q, err := remedy.Apply(p, c, finding, fix)
	if err != nil {
		return nil, nil, &StateError{"fix-not-possible", sentence(err)}
	}
	return q, evaluation.EvaluateWhole(q, c), nil
}

// AddProtocol begins a new protocol as the actor's draft, from a body.
func (s *Service) AddProtocol(ctx context.Context, a *Actor, body *protocol.Protocol) (uuid.UUID, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return uuid.Nil, err
	}
	id := newID()
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		if ps := body.Validate(lib.context(), ""); len(ps) > 0 {
			return &InputError{ps}
		}
		if err := tx.AddProtocol(ctx, id, body.Key, s.Now()); err != nil {
			if errors.Is(err, ErrExists) {
				return faultAt("/key", "There is a protocol with the key %q already. Choose another name.", body.Key)
			}
			return err
		}
		_, err = tx.SaveDraft(ctx, a.Account, &Draft{Protocol: id, Revision: 1, Body: *body}, s.Now())
		return err
	})
	return id, err
}

// SaveDraft keeps the actor's draft. revision is the one the change was made
// on (0 for the first); a stale one is refused with what is there.
func (s *Service) SaveDraft(ctx context.Context, a *Actor, id uuid.UUID, revision, basedOn int, body *protocol.Protocol) (int, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return 0, err
	}
	d := &Draft{Protocol: id, Revision: revision + 1, BasedOn: basedOn, Body: *body}
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		if ps := body.ValidateStructure(lib.context(), ""); len(ps) > 0 {
			return &InputError{ps}
		}
		saved, err := tx.SaveDraft(ctx, a.Account, d, s.Now())
		if err != nil || saved {
			return err
		}
		now, err := tx.Draft(ctx, id, a.Account)
		if errors.Is(err, ErrNotFound) { // published or dropped in another window
			body, err := tx.Version(ctx, id, 0)
			if err != nil {
				return err
			}
			return &StaleError{Draft{Protocol: id, Body: *body}}
		}
		if err != nil {
			return err
		}
		return &StaleError{*now}
	})
	return d.Revision, err
}

// DropDraft goes back to the newest published version.
func (s *Service) DropDraft(ctx context.Context, a *Actor, id uuid.UUID) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error {
		if n, err := tx.NewestVersion(ctx, id); err != nil {
			return err
		} else if n == 0 {
			return &StateError{"never-published", "This protocol was never published, so there is nothing to go back to."}
		}
		return tx.DropDraft(ctx, id, a.Account)
	})
}

// Publish makes the actor's draft the next version, which never changes again.
// A plan with a finding that stops cannot be published.
func (s *Service) Publish(ctx context.Context, a *Actor, id uuid.UUID) (int, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return 0, err
	}
	number := 0
	err := s.in(ctx, a, func(tx Tx, _ *Studio) error {
		lib, err := readLibrary(ctx, tx)
		if err != nil {
			return err
		}
		d, err := tx.Draft(ctx, id, a.Account)
		if errors.Is(err, ErrNotFound) {
			return &StateError{"nothing-to-publish", "There is no draft of yours to publish."}
		}
		if err != nil {
			return err
		}
		newest, err := tx.NewestVersion(ctx, id)
		if err != nil {
			return err
		}
		if d.BasedOn != newest {
			return &StateError{"version-moved-on", fmt.Sprintf("Version %d was published after you began from version %d. Discard your draft to see it, then make your change again.", newest, d.BasedOn)}
		}
		if len(d.Body.Steps) == 0 {
			return &StateError{"empty-protocol", "A protocol without steps cannot be published. Add a stroke first."}
		}
		e := evaluation.Evaluate(&d.Body, lib.context())
		if e.Worst() == evaluation.Stopping {
			return &StateError{"unsafe-protocol", "A finding marked stop has to be put right before the protocol can be published."}
		}
		number = newest + 1
		if err := tx.AddVersion(ctx, id, number, &d.Body, s.Now(), &a.Account); err != nil {
			return err
		}
		return tx.DropDraft(ctx, id, a.Account)
	})
	return number, err
}

func sentence(err error) string {
	m := err.Error()
	return string(append([]rune{upper(m)}, []rune(m)[1:]...)) + "."
}

func upper(s string) rune {
	r := []rune(s)[0]
	if r >= 'a' && r <= 'z' {
		r -= 'a' - 'A'
	}
	return r
}
