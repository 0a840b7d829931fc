package treatment

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/gowebpki/jcs"

	"softpalm/internal/craft/guide"
	"softpalm/internal/studio"
	"softpalm/words"
)

// signed is what a practitioner signs: all that the record says.
type signed struct {
	Visit        uuid.UUID           `json:"visit"`
	Client       uuid.UUID           `json:"client"`
	Practitioner uuid.UUID           `json:"practitioner"`
	Protocol     uuid.UUID           `json:"protocol"`
	Version      int                 `json:"version"`
	Plan         studio.PreparedPlan `json:"plan"`
	Record       studio.Record       `json:"record"`
	Account      *guide.Account      `json:"account,omitempty"`
	// Measurements with every reading, photos by their ids, reactions and incidents, as far as they were there.
	Measurements []studio.Measurement `json:"measurements,omitempty"`
	Photos       []studio.Photo       `json:"photos,omitempty"`
	Reactions    []studio.Reaction    `json:"reactions,omitempty"`
	Incidents    []studio.Incident    `json:"incidents,omitempty"`
	StartedAt    time.Time            `json:"startedAt"`
	FinishedAt   time.Time            `json:"finishedAt"`
	By           uuid.UUID            `json:"by"`
}

// Signature says who signed a record, when, and the SHA-256 of what was signed, as canonical JSON (RFC 8785).
type Signature struct {
	By     string    `json:"by"`
	At     time.Time `json:"at"`
	SHA256 string    `json:"sha256"`
	// Whole says that what is kept still has that sum.
	Whole bool `json:"whole"`
	// NeedsSecond says that a trainee signed; Second is who signed besides, nil until somebody has.
	NeedsSecond bool                    `json:"needsSecond,omitempty"`
	Second      *studio.SecondSignature `json:"second,omitempty"`
}

// sign writes what is signed as canonical JSON, with its sum.
func sign(ctx context.Context, tx Store, t *studio.Treatment, v *studio.VisitLine, account *guide.Account) error {
	var with RecordView
	if err := with.addMeasured(ctx, tx, v); err != nil {
		return err
	}
	reactions, err := studio.As[reactionStore](tx).ReactionsTo(ctx, v.ID)
	if err != nil {
		return err
	}
	incidents, err := studio.As[incidentStore](tx).Incidents(ctx, v.ID)
	if err != nil {
		return err
	}
	plain, err := json.Marshal(signed{
		Measurements: with.Measurements, Photos: with.Photos, Reactions: reactions, Incidents: incidents,
		Visit: v.ID, Client: v.Client, Practitioner: v.Practitioner, Protocol: v.Protocol, Version: v.Version, Plan: t.PreparedPlan,
		Record: t.Record, Account: account, StartedAt: t.StartedAt.UTC(), FinishedAt: t.FinishedAt.UTC(), By: *t.FinishedBy,
	})
	if err != nil {
		return fmt.Errorf("treatment: what is signed: %w", err)
	}
	canonical, err := jcs.Transform(plain)
	if err != nil {
		return fmt.Errorf("treatment: canonical JSON: %w", err)
	}
	t.Signed, t.SignedSum = string(canonical), sum(canonical)
	return nil
}

func sum(data []byte) string {
	s := sha256.Sum256(data)
	return hex.EncodeToString(s[:])
}

// accounts names who signed.
type accounts interface {
	studio.Tx
	Account(ctx context.Context, id uuid.UUID) (*studio.Account, error)
	AddSecondSignature(ctx context.Context, visit uuid.UUID, s *studio.SecondSignature) error
	// SecondSignature is who signed a trainee's record besides them; nil where nobody has.
	SecondSignature(ctx context.Context, visit uuid.UUID) (*studio.SecondSignature, error)
}

// Countersign signs a trainee's locked record besides them. Once is enough: a repeat changes nothing.
func (s *Service) Countersign(ctx context.Context, a *studio.Actor, visit uuid.UUID) (*RecordView, error) {
	if err := a.May("countersign-record"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		v, err := tx.LockVisit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("countersign-record", &v.Visit); err != nil {
			return err
		}
		t, err := begun(ctx, tx, visit)
		if err != nil {
			return err
		}
		switch {
		case t.FinishedAt == nil:
			return &studio.StateError{Code: "record-open", Sentence: words.ThisRecordIsStillOpenWriteInIt()}
		case !t.NeedsSecond:
			return &studio.StateError{Code: "no-second-needed", Sentence: words.ThisRecordNeedsNoSecondSignature()}
		case t.FinishedBy != nil && *t.FinishedBy == a.Account:
			return &studio.StateError{Code: "own-record", Sentence: words.SomebodyElseSignsTheSecondTime()}
		}
		names := studio.As[accounts](tx)
		if there, err := names.SecondSignature(ctx, visit); err != nil || there != nil {
			return err
		}
		if err := names.AddSecondSignature(ctx, visit, &studio.SecondSignature{Account: a.Account, At: s.Now()}); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "countersign", "record", visit)
	})
	if err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}

// signatureOf is who signed a locked record; nil for records locked before signatures were kept.
func signatureOf(ctx context.Context, tx studio.Tx, t *studio.Treatment) (*Signature, error) {
	if t.SignedSum == "" || t.FinishedBy == nil {
		return nil, nil //nolint:nilnil // a record of before is not signed
	}
	out := &Signature{At: *t.FinishedAt, SHA256: t.SignedSum, Whole: sum([]byte(t.Signed)) == t.SignedSum, NeedsSecond: t.NeedsSecond}
	names := studio.As[accounts](tx)
	var err error
	if out.Second, err = names.SecondSignature(ctx, t.Visit); err != nil {
		return nil, err
	}
	a, err := names.Account(ctx, *t.FinishedBy)
	switch {
	case err == nil:
		out.By = a.Name
	case !errors.Is(err, studio.ErrNotFound):
		return nil, err
	}
	return out, nil
}

// Print returns a record to be printed.
func (s *Service) Print(ctx context.Context, a *studio.Actor, visit uuid.UUID) (*RecordView, error) {
	if err := a.May("print-record"); err != nil {
		return nil, err
	}
	return s.Record(ctx, a, visit)
}

// SignedRecord returns what was signed, byte for byte.
func (s *Service) SignedRecord(ctx context.Context, a *studio.Actor, visit uuid.UUID) ([]byte, error) {
	if err := a.May("get-signed-record"); err != nil {
		return nil, err
	}
	r, err := s.Record(ctx, a, visit)
	if err != nil {
		return nil, err
	}
	if r.Signature == nil {
		return nil, &studio.StateError{Code: "not-signed", Sentence: words.ThisRecordIsNotSigned()}
	}
	return []byte(r.Treatment.Signed), nil
}
