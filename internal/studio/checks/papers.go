package checks

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// Paper is what a paper about a client is made of.
type Paper struct {
	Studio  string
	Address string // of the studio
	Client  studio.Client
	Pack    *contraindication.Pack
	Letter  *studio.Letter
	Answers map[string]contraindication.Answer
	History studio.ClientHistory
	// PreCheck is the newest, nil where there is none.
	PreCheck *studio.PreCheck
}

// LetterPaper returns what a letter prints.
func (s *Service) LetterPaper(ctx context.Context, a *studio.Actor, id uuid.UUID) (*Paper, error) {
	if err := a.May("print-letter"); err != nil {
		return nil, err
	}
	var out *Paper
	err := studio.In(ctx, s.Kernel, a, func(tx letterStore, st *studio.Studio) error {
		l, err := tx.Letter(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "print-letter", l.Client); err != nil {
			return err
		}
		out, err = s.paper(ctx, tx, st, a, l.Client)
		if err == nil {
			out.Letter = l
		}
		return err
	})
	return out, err
}

// SummaryPaper returns what a client's one-page summary prints.
func (s *Service) SummaryPaper(ctx context.Context, a *studio.Actor, client uuid.UUID) (*Paper, error) {
	if err := a.May("print-summary"); err != nil {
		return nil, err
	}
	var out *Paper
	err := studio.In(ctx, s.Kernel, a, func(tx letterStore, st *studio.Studio) (err error) {
		if err := a.MayClient(ctx, tx, "print-summary", client); err != nil {
			return err
		}
		out, err = s.paper(ctx, tx, st, a, client)
		return err
	})
	return out, err
}

func (s *Service) paper(
	ctx context.Context,
	tx letterStore,
	st *studio.Studio,
	a *studio.Actor,
	client uuid.UUID,
) (*Paper, error) {
	t, err := s.loadClientSnapshot(ctx, tx, st, client)
	if err != nil {
		return nil, err
	}
	p := &Paper{
		Studio:   st.Name,
		Address:  st.Address,
		Client:   *t.client,
		Pack:     st.Pack(),
		PreCheck: t.newestCheck,
		Answers:  map[string]contraindication.Answer{},
	}
	if t.currentConsultation != nil {
		p.Answers, p.History = t.currentConsultation.Answers, t.currentConsultation.History
	}
	return p, s.Audit(ctx, tx, a, "print", "client", client)
}
