package protocols

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/shelf"
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
	// Doses lists what was measured of products that still teaches, oldest first.
	Doses(ctx context.Context, products []uuid.UUID) ([]studio.DoseRecord, error)
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
	err = studio.In(ctx, s.Kernel, a, func(tx protocolStore, st *studio.Studio) error {
		if list, err = tx.Protocols(ctx, a.Account); err != nil {
			return err
		}
		prices, err := s.Prices.PricesOn(ctx, tx, s.Today(st))
		for i := range list {
			priced(&list[i].Body, prices[list[i].ID], st)
		}
		return err
	})
	return list, err
}

// priced gives a protocol the price of the price list, where that has one.
func priced(p *protocol.Protocol, amount decimal.Decimal, st *studio.Studio) {
	if amount.IsPositive() {
		p.Price.Amount = amount.StringFixed(st.Minor())
	}
}

// keepPrice sets the price of a protocol that is published, from today on, where it is another than the one that holds.
func (s *Service) keepPrice(ctx context.Context, tx protocolStore, st *studio.Studio, a *studio.Actor, id uuid.UUID, p *protocol.Protocol) error {
	amount, err := decimal.NewFromString(p.Price.Amount)
	if err != nil {
		return nil //nolint:nilerr // a draft without a price publishes none
	}
	prices, err := s.Prices.PricesOn(ctx, tx, s.Today(st))
	if err != nil {
		return err
	}
	if now, known := prices[id]; known && now.Equal(amount) {
		return nil
	}
	return s.Prices.SetPrice(ctx, tx, id, amount, s.Today(st), a.Account, s.Now())
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
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, st *studio.Studio) error {
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
			prices, err := s.Prices.PricesOn(ctx, tx, s.Today(st))
			if err != nil {
				return err
			}
			priced(body, prices[id], st)
			o.Draft = studio.Draft{Protocol: id, BasedOn: o.Version, Body: *body}
		default:
			return err
		}
		cx := lib.Context()
		if cx.Habits, err = habits(ctx, tx, a, lib, &o.Draft.Body); err != nil {
			return err
		}
		o.Evaluation = evaluation.EvaluateWithSetUp(&o.Draft.Body, cx)
		return nil
	})
	return &o, err
}

// habits is how much the actor usually takes of what a plan takes, by product, as the records teach; nil for
// who treats nobody.
func habits(ctx context.Context, tx protocolStore, a *studio.Actor, lib *studio.Library, p *protocol.Protocol) (map[string]float64, error) {
	if a.Practitioner == nil {
		return nil, nil
	}
	keys := map[uuid.UUID]string{}
	var products []uuid.UUID
	for i := range lib.Products {
		q := &lib.Products[i]
		if slices.ContainsFunc(p.Steps, func(st protocol.Step) bool { return st.Use != nil && st.Use.Product == q.Key }) {
			keys[q.ID], products = q.Key, append(products, q.ID)
		}
	}
	if len(products) == 0 {
		return nil, nil
	}
	out := map[string]float64{}
	for _, product := range products {
		factors, err := doseFactors(ctx, tx, product)
		if err != nil {
			return nil, err
		}
		if f, ok := factors.Practitioners[a.Practitioner.String()]; ok {
			out[keys[product]], _ = f.Float64()
		}
	}
	return out, nil
}

// doseFactors are what the records teach of a product's doses.
func doseFactors(ctx context.Context, tx protocolStore, product uuid.UUID) (*shelf.DoseFactors, error) {
	from := []studio.Area{studio.InCatalog, studio.InRecords}
	return studio.Keep(ctx, tx, "dose factors of "+product.String(), from, func() (*shelf.DoseFactors, error) {
		doses, err := tx.Doses(ctx, []uuid.UUID{product})
		if err != nil {
			return nil, err
		}
		var records []shelf.Dosed
		for _, d := range doses {
			records = append(records, d.Dosed)
		}
		factors := shelf.Factors(records)
		return &factors, nil
	})
}

// EvaluateProtocol judges a protocol as it is on a person's screen; nothing
// is kept.
func (s *Service) EvaluateProtocol(
	ctx context.Context,
	a *studio.Actor,
	p *protocol.Protocol,
	skinType string,
	skinStates []string,
) (*evaluation.Evaluation, error) {
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

// AddProtocol begins a new protocol as the actor's draft, from a body.
func (s *Service) AddProtocol(ctx context.Context, a *studio.Actor, body *protocol.Protocol) (uuid.UUID, error) {
	if err := a.May("add-protocol"); err != nil {
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

// DraftEdit is a draft as it is on a person's screen: its text, the revision it was
// made from and the version that was based on.
type DraftEdit struct {
	Revision, BasedOn int
	Protocol          *protocol.Protocol
}

// SavedDraft is a draft's new revision, with what follows from it. Protocol is the text
// that was saved.
type SavedDraft struct {
	Revision   int
	Protocol   *protocol.Protocol
	Evaluation *evaluation.Evaluation
}

// SaveDraft replaces the account's draft where its revision is still the one given,
// and evaluates it, so that one request serves an edit.
// A draft changed in another window answers [studio.StaleError] with the other text.
func (s *Service) SaveDraft(ctx context.Context, a *studio.Actor, id uuid.UUID, edit DraftEdit) (*SavedDraft, error) {
	return s.saveDraft(ctx, a, id, edit, func(p *protocol.Protocol, c *protocol.Context) (*protocol.Protocol, error) {
		if ps := p.ValidateStructure(c, ""); len(ps) > 0 {
			return nil, &studio.InputError{Problems: ps}
		}
		return p, nil
	})
}

// FixDraft applies a fix of a finding to a draft and saves the outcome, as SaveDraft
// does. What was removed from the library can be removed from the draft first.
func (s *Service) FixDraft(
	ctx context.Context,
	a *studio.Actor,
	id uuid.UUID,
	edit DraftEdit,
	finding string,
	fix evaluation.Fix,
) (*SavedDraft, error) {
	return s.saveDraft(ctx, a, id, edit, func(p *protocol.Protocol, c *protocol.Context) (*protocol.Protocol, error) {
		ps := p.Validate(c, "")
		if fix == evaluation.LeaveStep || fix == evaluation.DropProduct {
			ps = p.ValidateStructure(c, "")
		}
		if len(ps) > 0 {
			return nil, &studio.InputError{Problems: ps}
		}
		q, err := remedy.Apply(p, c, finding, fix)
		if err != nil {
			return nil, &studio.StateError{Code: "fix-not-possible", Sentence: studio.SentenceOf(err)}
		}
		return q, nil
	})
}

type change func(*protocol.Protocol, *protocol.Context) (*protocol.Protocol, error)

func (s *Service) saveDraft(
	ctx context.Context,
	a *studio.Actor,
	id uuid.UUID,
	edit DraftEdit,
	change change,
) (out *SavedDraft, err error) {
	if err := a.May("save-draft"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx protocolStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		p, err := change(edit.Protocol, lib.Context())
		if err != nil {
			return err
		}
		d := &studio.Draft{Protocol: id, Revision: edit.Revision + 1, BasedOn: edit.BasedOn, Body: *p}
		saved, err := tx.SaveDraft(ctx, a.Account, d, s.Now())
		if err != nil {
			return err
		}
		if !saved {
			return newerText(ctx, tx, a, id)
		}
		cx := lib.Context()
		if cx.Habits, err = habits(ctx, tx, a, lib, p); err != nil {
			return err
		}
		out = &SavedDraft{Revision: d.Revision, Protocol: p, Evaluation: evaluation.EvaluateWithSetUp(p, cx)}
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
	if err := a.May("drop-draft"); err != nil {
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
	if err := a.May("publish-protocol"); err != nil {
		return 0, err
	}
	number := 0
	err := studio.In(ctx, s.Kernel, a, func(tx protocolStore, st *studio.Studio) error {
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
			return &studio.StateError{
				Code:     "version-moved-on",
				Sentence: words.VersionNewestWasPublishedAfterYouStarted(newest, d.BasedOn),
			}
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
		if err := s.keepPrice(ctx, tx, st, a, id, &d.Body); err != nil {
			return err
		}
		return tx.DropDraft(ctx, id, a.Account)
	})
	return number, err
}
