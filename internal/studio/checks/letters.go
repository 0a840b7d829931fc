package checks

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
	"softpalm/words"
)

// letterStore keeps letters to doctors.
type letterStore interface {
	judgeStore
	Letter(ctx context.Context, id uuid.UUID) (*studio.Letter, error)
	AddLetter(ctx context.Context, l *studio.Letter) error
	AnswerLetter(ctx context.Context, l *studio.Letter) error
	AddScan(ctx context.Context, letter uuid.UUID, s *studio.Scan, data []byte, account uuid.UUID) error
	Scan(ctx context.Context, id uuid.UUID) (kind string, data []byte, client uuid.UUID, err error)
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
}

// ScanBytes is how large a scan may be.
const ScanBytes = 5 << 20

// scanType recognises a PDF, a JPEG and a PNG file by how they begin; "" for others.
func scanType(data []byte) string {
	for _, k := range []struct{ begins, kind string }{
		{"%PDF-", "application/pdf"},
		{"\xFF\xD8\xFF", "image/jpeg"},
		{"\x89PNG\r\n\x1A\n", "image/png"},
	} {
		if strings.HasPrefix(string(data), k.begins) {
			return k.kind
		}
	}
	return ""
}

// AddScan keeps a doctor's answer as it came: a PDF or a picture, recognised by what is
// in the file and not by its name.
func (s *Service) AddScan(ctx context.Context, a *studio.Actor, letter uuid.UUID, data []byte) error {
	if err := a.May("add-scan"); err != nil {
		return err
	}
	scan := &studio.Scan{ID: studio.NewID(), Type: scanType(data), At: s.Now()}
	switch {
	case len(data) == 0:
		return studio.FaultAt("", words.TheFileIsEmpty())
	case len(data) > ScanBytes:
		return studio.FaultAt("", words.FileLargerThan5MBScanAgain())
	case scan.Type == "":
		return studio.FaultAt("", words.ScanPDFJPEGOrPNGFile())
	}
	return studio.In(ctx, s.Kernel, a, func(tx letterStore, _ *studio.Studio) error {
		l, err := tx.Letter(ctx, letter)
		if err != nil {
			return err
		}
		if err := tx.AddScan(ctx, letter, scan, data, a.Account); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "attach scan", "client", l.Client)
	})
}

// Scan returns a scan; the look is logged.
func (s *Service) Scan(ctx context.Context, a *studio.Actor, id uuid.UUID) (kind string, data []byte, err error) {
	if err := a.May("get-scan"); err != nil {
		return "", nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx letterStore, _ *studio.Studio) error {
		var client uuid.UUID
		if kind, data, client, err = tx.Scan(ctx, id); err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "get-scan", client); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "look at scan", "client", client)
	})
	return kind, data, err
}

// WriteLetter writes the letter that the newest pre-treatment check asks for; the
// question is the practitioner's own. expected is the day on which the answer is expected, two weeks
// on where it is empty.
func (s *Service) WriteLetter(
	ctx context.Context,
	a *studio.Actor,
	client uuid.UUID,
	visit *uuid.UUID,
	question string,
	expected string,
) (*studio.Letter, error) {
	if err := a.May("write-letter"); err != nil {
		return nil, err
	}
	question = strings.TrimSpace(question)
	if question == "" || len(question) > 2000 {
		return nil, studio.FaultAt("/question", words.EnterQuestionDoctorAtMost2000Characters())
	}
	l := &studio.Letter{
		ID:        studio.NewID(),
		Client:    client,
		Visit:     visit,
		Question:  question,
		WrittenAt: s.Now(),
		WrittenBy: a.Account,
		Rules:     []string{},
		Scans:     []studio.Scan{},
	}
	err := studio.In(ctx, s.Kernel, a, func(tx letterStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "write-letter", client); err != nil {
			return err
		}
		t, err := s.loadClientSnapshot(ctx, tx, st, client)
		if err != nil {
			return err
		}
		if l.Expected, err = s.expectedDay(st, expected); err != nil {
			return err
		}
		if t.newestCheck != nil {
			for _, o := range t.newestCheck.Result.Outcomes {
				if !o.Allowed && o.Outcome.AsksLetter() && !slices.Contains(l.Rules, o.Rule) {
					l.Rules = append(l.Rules, o.Rule)
				}
			}
		}
		if len(l.Rules) == 0 {
			return &studio.StateError{Code: "no-letter", Sentence: words.LastCheckDoesNotAskForLetter()}
		}
		if visit != nil {
			v, err := tx.Visit(ctx, *visit)
			if err != nil {
				return err
			}
			l.Protocol = v.ProtocolName
		}
		if err := tx.AddLetter(ctx, l); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "write letter", "client", client)
	})
	return l, err
}

// AnswerLetter records what the doctor answered, once. A yes holds through its
// last day, and the newest pre-treatment check of today is judged again with it.
func (s *Service) AnswerLetter(ctx context.Context, a *studio.Actor, id uuid.UUID, yes bool, until, note string) error {
	if err := a.May("answer-letter"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx letterStore, st *studio.Studio) error {
		l, err := tx.Letter(ctx, id)
		if err != nil {
			return err
		}
		if l.AnsweredAt != nil {
			return studio.ErrLocked
		}
		today := s.Today(st)
		if yes && (!calendar.Day(until).Valid() || until < today) {
			return studio.FaultAt("/until", words.EnterLastDayDoctorsAnswerValidToday())
		}
		now := s.Now()
		l.AnsweredAt, l.Note, l.Answer = &now, strings.TrimSpace(note), "no"
		if yes {
			l.Answer, l.Until = "yes", until
		}
		if err := tx.AnswerLetter(ctx, l); err != nil {
			return err
		}
		if err := s.JudgeAgain(ctx, tx, st, a, l.Client); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "answer letter", "client", l.Client)
	})
}
