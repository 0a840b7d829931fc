package checks

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
)

// BarTo says what of a product a client is to keep away from, by all that is known of the client today; "" where
// nothing is.
func (s *Service) BarTo(ctx context.Context, within studio.Tx, st *studio.Studio, client uuid.UUID, p *slip.Product) (string, error) {
	t, err := s.loadClientSnapshot(ctx, studio.As[snapshotStore](within), st, client)
	if err != nil {
		return "", err
	}
	if _, reacted := t.patchNeeds([]*slip.Product{p}, s.Now()); len(reacted) > 0 {
		return p.Name, nil
	}
	for _, b := range t.barred(s.Now()) {
		if b.Product == p.Key && b.Bar != reaction.Ask {
			return p.Name, nil
		}
	}
	res, _ := t.judgedDay(st.Pack(), s.Today(st))
	_, about := contraindication.Merge(res.Outcomes).ProductBar(p)
	return about, nil
}
