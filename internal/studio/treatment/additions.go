package treatment

import (
	"context"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// longestAddition is how many characters an addition to a record has at most.
const longestAddition = 4000

// AddToRecord adds a dated text to a record that was signed and locked. What was signed
// stays as it is.
func (s *Service) AddToRecord(ctx context.Context, a *studio.Actor, visit uuid.UUID, body string) (*RecordView, error) {
	if err := a.May("add-to-record"); err != nil {
		return nil, err
	}
	if body = strings.TrimSpace(body); body == "" || utf8.RuneCountInString(body) > longestAddition {
		return nil, studio.FaultAt("/body", words.AnAdditionHasUpToCharacters(longestAddition))
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("add-to-record", &v.Visit); err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil {
			return err
		}
		if t.FinishedAt == nil {
			return &studio.StateError{Code: "record-open", Sentence: words.ThisRecordIsStillOpenWriteInIt()}
		}
		added := studio.RecordAddition{ID: studio.NewID(), At: s.Now(), Author: a.Name, Body: body}
		if err := tx.AddRecordAddition(ctx, visit, a.Account, added); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "add to", "record", visit)
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}
