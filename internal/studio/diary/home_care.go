package diary

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// HomeCareAsked is what the client of a series does at home from now on.
type HomeCareAsked struct {
	HomeCare string `json:"homeCare" maxLength:"2000"`
	// Was is what it was when the writer began, so that nobody's words are written over unseen.
	Was string `json:"was" maxLength:"2000"`
}

// WriteHomeCare writes the home care that a series carries beside its visits.
func (s *Service) WriteHomeCare(ctx context.Context, a *studio.Actor, id uuid.UUID, asked HomeCareAsked) (*SeriesView, error) {
	text := strings.TrimSpace(asked.HomeCare)
	var out *SeriesView
	err := studio.In(ctx, s.Kernel, a, func(tx holdStore, _ *studio.Studio) error {
		sr, _, err := s.lockSeries(ctx, tx, id)
		if err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "write-home-care", sr.Client); err != nil {
			return err
		}
		if sr.HomeCare != text { // the same sent twice changes nothing
			if sr.HomeCare != strings.TrimSpace(asked.Was) {
				return &studio.StateError{Code: "changed-meanwhile", Sentence: words.HomeCareWasChangedMeanwhile(sr.HomeCare)}
			}
			sr.HomeCare = text
			if err := tx.SaveSeries(ctx, sr); err != nil {
				return err
			}
			if err := s.Audit(ctx, tx, a, "write home care", "series", id); err != nil {
				return err
			}
		}
		out, err = s.view(ctx, tx, a, id)
		return err
	})
	return out, err
}
