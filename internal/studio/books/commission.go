package books

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// PayTerms are how a practitioner sells and is paid: the grade that prices may hang on, and their part, in per cent, of
// the treatments they give and the products they sell.
type PayTerms struct {
	Practitioner uuid.UUID       `json:"practitioner" format:"uuid"`
	Name         string          `json:"name"`
	Grade        string          `json:"grade" maxLength:"40"`
	Treatments   decimal.Decimal `json:"treatments"`
	Retail       decimal.Decimal `json:"retail"`
}

// Commission is what a practitioner earned of a month's takings without tax.
type Commission struct {
	PayTerms
	TreatmentNet decimal.Decimal `json:"treatmentNet"`
	RetailNet    decimal.Decimal `json:"retailNet"`
	Amount       decimal.Decimal `json:"amount"`
}

// payStore keeps how practitioners are paid.
type payStore interface {
	studio.Tx
	PayTerms(ctx context.Context) ([]PayTerms, error) // by name
	SavePayTerms(ctx context.Context, p *PayTerms) error
	// Bases are the net takings of practitioners on some days.
	Bases(ctx context.Context, from, to string) (map[uuid.UUID]money.Bases, error)
	// CommissionPosted reports whether a month's commission was posted.
	CommissionPosted(ctx context.Context, month string) (bool, error)
}

// PayTermsOf lists how practitioners are paid.
func (s *Service) PayTermsOf(ctx context.Context, a *studio.Actor) (out []PayTerms, err error) {
	if err := a.May("list-pay-terms"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) (err error) {
		out, err = tx.PayTerms(ctx)
		return err
	})
	return out, err
}

// SetPayTerms writes how a practitioner is paid.
func (s *Service) SetPayTerms(ctx context.Context, a *studio.Actor, p *PayTerms) error {
	if err := a.May("set-pay-terms"); err != nil {
		return err
	}
	p.Grade = strings.TrimSpace(p.Grade)
	for path, percent := range map[string]decimal.Decimal{"/treatments": p.Treatments, "/retail": p.Retail} {
		if percent.IsNegative() || percent.GreaterThan(hundred) || !percent.Equal(percent.Truncate(2)) {
			return studio.FaultAt(path, words.ACommissionIsFrom0To100())
		}
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		if err := tx.SavePayTerms(ctx, p); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "pay", p.Practitioner)
	})
}

// commissions works out a month's commissions.
func (s *Service) commissions(ctx context.Context, tx Store, st *studio.Studio, from, to string) ([]Commission, error) {
	terms, err := tx.PayTerms(ctx)
	if err != nil {
		return nil, err
	}
	bases, err := tx.Bases(ctx, from, to)
	if err != nil {
		return nil, err
	}
	minor := st.Minor()
	question := money.Commissions{Bases: map[string]money.Bases{}, Percent: map[string]money.Bases{}, Minor: &minor}
	for _, t := range terms {
		who := t.Practitioner.String()
		question.Bases[who] = bases[t.Practitioner]
		question.Percent[who] = money.Bases{Treatment: t.Treatments, Retail: t.Retail}
	}
	owed, err := question.Commission()
	if err != nil {
		return nil, err
	}
	out := []Commission{}
	for _, t := range terms {
		b := bases[t.Practitioner]
		out = append(out, Commission{PayTerms: t, TreatmentNet: b.Treatment, RetailNet: b.Retail, Amount: owed[t.Practitioner.String()]})
	}
	return out, nil
}

// PostCommission posts a month's commissions once, when the month is over.
func (s *Service) PostCommission(ctx context.Context, a *studio.Actor, month string) error {
	if err := a.May("post-commission"); err != nil {
		return err
	}
	first, err := time.Parse("2006-01", month)
	if err != nil {
		return studio.FaultAt("/month", words.EnterAMonthSuchAs())
	}
	from, to := first.Format(time.DateOnly), first.AddDate(0, 1, -1).Format(time.DateOnly)
	return studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if s.Today(st) <= to {
			return &studio.StateError{Code: "month-runs", Sentence: words.TheMonthIsNotOver()}
		}
		if err := tx.AloneInBooks(ctx); err != nil {
			return err
		}
		if posted, err := tx.CommissionPosted(ctx, month); err != nil || posted {
			return err
		}
		list, err := s.commissions(ctx, tx, st, from, to)
		if err != nil {
			return err
		}
		var done money.Done
		for _, c := range list {
			done.Postings = append(done.Postings, money.CommissionPostings(c.Amount, c.Practitioner.String())...)
		}
		return post(ctx, tx, &studio.LedgerEvent{Kind: money.CommissionEarned, At: s.Now(), Account: &a.Account, Note: month}, done)
	})
}
