package checks

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// CheckPage is how many pre-treatment checks come at a time.
const CheckPage = 50

// sectionStore reads the sections of a client's file that this room keeps.
type sectionStore interface {
	patchStore
	Letters(ctx context.Context, client uuid.UUID) ([]studio.Letter, error) // newest first
	// CheckLines lists a client's pre-treatment checks, newest first: those older than one, or all; at most so many, 0 for any number.
	CheckLines(ctx context.Context, client uuid.UUID, after *uuid.UUID, most int) ([]studio.CheckLine, error)
}

// section reads a section of a client's file, for those who may; the look is logged.
func section[T any](
	ctx context.Context,
	s *Service,
	a *studio.Actor,
	operation string,
	client uuid.UUID,
	read func(tx sectionStore) (T, error),
) (out T, err error) {
	if err := a.May(operation); err != nil {
		return out, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx sectionStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, operation, client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		if out, err = read(tx); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return out, err
}

// LettersOf lists the letters about a client, newest first.
func (s *Service) LettersOf(ctx context.Context, a *studio.Actor, client uuid.UUID) ([]studio.Letter, error) {
	return section(ctx, s, a, "list-letters", client, func(tx sectionStore) ([]studio.Letter, error) { return tx.Letters(ctx, client) })
}

// PatchTestsOf lists a client's patch tests, newest first, with where each stands.
func (s *Service) PatchTestsOf(ctx context.Context, a *studio.Actor, client uuid.UUID) ([]studio.PatchTest, error) {
	return section(ctx, s, a, "list-patch-tests", client, func(tx sectionStore) ([]studio.PatchTest, error) {
		return s.PatchTests(ctx, tx, client)
	})
}

// ChecksOf lists a page of a client's pre-treatment checks, newest first: those older than
// one, or the newest. next is the last of them where there are more.
func (s *Service) ChecksOf(
	ctx context.Context,
	a *studio.Actor,
	client uuid.UUID,
	after *uuid.UUID,
) (list []studio.CheckLine, next *uuid.UUID, err error) {
	list, err = section(ctx, s, a, "list-pre-checks", client, func(tx sectionStore) ([]studio.CheckLine, error) {
		return tx.CheckLines(ctx, client, after, CheckPage+1)
	})
	if len(list) > CheckPage {
		list = list[:CheckPage]
		next = &list[CheckPage-1].ID
	}
	return list, next, err
}

// CautionHistory tells which contraindications of a client applied when, beside the appointments.
type CautionHistory struct {
	Spans []contraindication.Span `json:"spans"`
	// Met are the appointments that were kept or are still to come, oldest first.
	Met []Meeting `json:"met"`
}

// Meeting is an appointment as a moment of a history.
type Meeting struct {
	Visit    uuid.UUID `json:"visit"`
	StartsAt time.Time `json:"startsAt"`
	Protocol string    `json:"protocol"`
}

// CautionHistory tells which contraindications of a client applied when.
func (s *Service) CautionHistory(ctx context.Context, a *studio.Actor, client uuid.UUID) (*CautionHistory, error) {
	return section(ctx, s, a, "get-caution-history", client, func(tx sectionStore) (*CautionHistory, error) {
		out := &CautionHistory{Met: []Meeting{}}
		lines, err := tx.CheckLines(ctx, client, nil, 0)
		if err != nil {
			return nil, err
		}
		judged := make([]contraindication.Judged, 0, len(lines))
		for _, l := range slices.Backward(lines) { // they come newest first
			judged = append(judged, contraindication.Judged{Day: calendar.Day(l.Day), Result: l.Result})
		}
		out.Spans = contraindication.History(judged)
		if len(out.Spans) == 0 {
			out.Spans = []contraindication.Span{}
			return out, nil // nothing to set appointments beside
		}
		visits, err := tx.ClientVisits(ctx, client)
		for _, v := range slices.Backward(visits) {
			if v.State.TakesTime() {
				out.Met = append(out.Met, Meeting{v.ID, v.StartsAt, v.ProtocolName})
			}
		}
		return out, err
	})
}
