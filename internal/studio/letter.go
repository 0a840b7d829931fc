package studio

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
)

// Letter asks a client's doctor whether a planned treatment may be given.
type Letter struct {
	ID     uuid.UUID  `json:"id"`
	Client uuid.UUID  `json:"client"`
	Visit  *uuid.UUID `json:"visit,omitempty"`
	// Rules are those that ask for the letter.
	Rules     []string  `json:"rules"`
	Protocol  string    `json:"protocol"`
	Question  string    `json:"question"`
	WrittenAt time.Time `json:"writtenAt"`
	WrittenBy uuid.UUID `json:"-"`
	// Answer is empty until it came back, then yes or no; a yes holds through Until.
	Answer     string     `json:"answer" enum:"yes,no,"`
	Note       string     `json:"note"`
	Until      string     `json:"until,omitempty"`
	AnsweredAt *time.Time `json:"answeredAt,omitempty"`
	// Scans are the answer as it came, on paper.
	Scans []Scan `json:"scans"`
}

// Scan is a doctor's answer as it came.
type Scan struct {
	ID   uuid.UUID `json:"id"`
	Type string    `json:"type" enum:"application/pdf,image/jpeg,image/png"`
	At   time.Time `json:"at"`
}

// ScanBytes is how large a scan may be.
const ScanBytes = 5 << 20

// scanType tells a PDF, a JPEG and a PNG file by how they begin; "" for others.
func scanType(data []byte) string {
	for _, k := range []struct{ begins, kind string }{{"%PDF-", "application/pdf"}, {"\xFF\xD8\xFF", "image/jpeg"}, {"\x89PNG\r\n\x1A\n", "image/png"}} {
		if strings.HasPrefix(string(data), k.begins) {
			return k.kind
		}
	}
	return ""
}

// AddScan keeps a doctor's answer as it came: a PDF or a picture, told by what is
// in the file and not by its name.
func (s *Service) AddScan(ctx context.Context, a *Actor, letter uuid.UUID, data []byte) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	scan := &Scan{ID: newID(), Type: scanType(data), At: s.Now()}
	switch {
	case len(data) == 0:
		return faultAt("", "The file is empty.")
	case len(data) > ScanBytes:
		return faultAt("", "The file is larger than 5 MB. Scan it again with fewer dots to the inch.")
	case scan.Type == "":
		return faultAt("", "A scan is a PDF, a JPEG or a PNG file.")
	}
	return s.in(ctx, a, func(tx Tx, _ *Studio) error {
		l, err := tx.Letter(ctx, letter)
		if err != nil {
			return err
		}
		if err := tx.AddScan(ctx, letter, scan, data, a.Account); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "attach scan", "client", l.Client)
	})
}

// Scan returns a scan; the look is logged.
func (s *Service) Scan(ctx context.Context, a *Actor, id uuid.UUID) (kind string, data []byte, err error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return "", nil, err
	}
	err = s.in(ctx, a, func(tx Tx, _ *Studio) error {
		var client uuid.UUID
		if kind, data, client, err = tx.Scan(ctx, id); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "look at scan", "client", client)
	})
	return kind, data, err
}

// WriteLetter writes the letter that the newest door check asks for; the
// question is the practitioner's own.
func (s *Service) WriteLetter(ctx context.Context, a *Actor, client uuid.UUID, visit *uuid.UUID, question string) (*Letter, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	question = strings.TrimSpace(question)
	if question == "" || len(question) > 2000 {
		return nil, faultAt("/question", "Write the question to the doctor, at most 2000 characters.")
	}
	l := &Letter{ID: newID(), Client: client, Visit: visit, Question: question, WrittenAt: s.Now(), WrittenBy: a.Account, Rules: []string{}, Scans: []Scan{}}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		t, err := s.told(ctx, tx, st, client)
		if err != nil {
			return err
		}
		if t.screening != nil {
			for _, o := range t.screening.Result.Outcomes {
				if !o.Allowed && o.Outcome.AsksLetter() && !slices.Contains(l.Rules, o.Rule) {
					l.Rules = append(l.Rules, o.Rule)
				}
			}
		}
		if len(l.Rules) == 0 {
			return &StateError{"no-letter", "The last door check asks for no letter. Check at the door first."}
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
		return s.audit(ctx, tx, a, "write letter", "client", client)
	})
	return l, err
}

// AnswerLetter records what the doctor answered, once. A yes holds through its
// last day, and the newest door check of today is judged again with it.
func (s *Service) AnswerLetter(ctx context.Context, a *Actor, id uuid.UUID, yes bool, until, note string) error {
	if err := a.may(Owner, Practitioner); err != nil {
		return err
	}
	return s.in(ctx, a, func(tx Tx, st *Studio) error {
		l, err := tx.Letter(ctx, id)
		if err != nil {
			return err
		}
		if l.AnsweredAt != nil {
			return ErrLocked
		}
		today := s.today(st)
		if yes && (!calendar.Day(until).Valid() || until < today) {
			return faultAt("/until", "Give the last day the doctor's answer holds, today or later.")
		}
		now := s.Now()
		l.AnsweredAt, l.Note, l.Answer = &now, strings.TrimSpace(note), "no"
		if yes {
			l.Answer, l.Until = "yes", until
		}
		if err := tx.AnswerLetter(ctx, l); err != nil {
			return err
		}
		if err := s.judgeAgain(ctx, tx, st, a, l.Client); err != nil {
			return err
		}
		return s.audit(ctx, tx, a, "answer letter", "client", l.Client)
	})
}
