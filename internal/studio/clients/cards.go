package clients

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// Card is a contact as it goes from one address book to another.
type Card struct {
	UID       string `json:"uid"`
	Name      string `json:"name"`
	Email     string `json:"email"`
	Phone     string `json:"phone"`
	BirthDate string `json:"birthDate"`
	// LeftOut names what else a card holds; it is not taken over.
	LeftOut []string `json:"leftOut,omitempty"`
}

// CardFiles reads and writes files of contacts.
type CardFiles interface {
	ReadCards(data []byte) ([]Card, error)
	WriteCards(list []Card, now time.Time) ([]byte, error)
}

// cardStore is what contacts are matched with.
type cardStore interface {
	Store
	// Contacts lists all clients as contacts, by name, with the uid of the card they came with.
	Contacts(ctx context.Context) ([]Contact, error)
	SetCardUID(ctx context.Context, client uuid.UUID, uid string) error
}

// Contact is a client as far as a card tells of one.
type Contact struct {
	ID uuid.UUID `json:"id"`
	Card
}

// uidOf is under what a client's card is known elsewhere.
func uidOf(id uuid.UUID) string { return "urn:uuid:" + id.String() }

// Cards are all clients, or one, as contacts.
func (s *Service) Cards(ctx context.Context, a *studio.Actor, one *uuid.UUID) ([]Card, error) {
	out := []Card{}
	err := studio.In(ctx, s.Kernel, a, func(tx cardStore, _ *studio.Studio) error {
		if one != nil {
			if err := a.MayClient(ctx, tx, "export-cards", *one); err != nil {
				return err
			}
		} else if err := a.May("export-cards"); err != nil {
			return err
		}
		all, err := tx.Contacts(ctx)
		if err != nil {
			return err
		}
		for i := range all {
			if one == nil || all[i].ID == *one {
				c := all[i].Card
				c.UID = uidOf(all[i].ID)
				out = append(out, c)
			}
		}
		if one == nil {
			return s.Audit(ctx, tx, a, "export", "contact data", a.Studio)
		}
		if len(out) == 0 {
			return studio.ErrNotFound
		}
		return s.Audit(ctx, tx, a, "export", "contact data", *one)
	})
	return out, err
}

// CardMatch is what a card is taken for.
type CardMatch string

// What a card can be.
const (
	NewCard      CardMatch = "new"
	SameCard     CardMatch = "same"     // a client who is there: what is missing is filled in
	DoubtfulCard CardMatch = "doubtful" // perhaps one who is there: a person decides
	SkippedCard  CardMatch = "skipped"
)

// CardLine is a card beside the client it is taken for.
type CardLine struct {
	Card   Card      `json:"card"`
	Match  CardMatch `json:"match" enum:"new,same,doubtful,skipped"`
	Client *Contact  `json:"client,omitempty"`
	// Fills names what of the client is filled in.
	Fills []string `json:"fills,omitempty"`
	// Fault is why a card cannot be taken over.
	Fault string `json:"fault,omitempty"`
}

// CardImport asks to take over contacts. Decisions say, by the number of a card in the file, what a
// doubtful one is; without one it is skipped. Dry only shows what would happen.
type CardImport struct {
	File      string            `json:"file" maxLength:"4000000"`
	Decisions map[int]CardMatch `json:"decisions,omitempty"`
	Dry       bool              `json:"dry,omitempty"`
}

// ImportCards takes over contacts of a file: new ones are added, those who are there are filled in,
// doubtful ones are shown side by side.
func (s *Service) ImportCards(ctx context.Context, a *studio.Actor, in CardImport) ([]CardLine, error) {
	cards, err := s.Files.ReadCards([]byte(in.File))
	if err != nil {
		return nil, err
	}
	var out []CardLine
	err = studio.In(ctx, s.Kernel, a, func(tx cardStore, st *studio.Studio) error {
		if err := a.May("import-cards"); err != nil {
			return err
		}
		known, err := tx.Contacts(ctx)
		if err != nil {
			return err
		}
		for i := range cards {
			line := Match(cards[i], known)
			if line.Match == DoubtfulCard {
				if said, any := in.Decisions[i]; any {
					line.Match = said
				}
			}
			added, err := s.takeCard(ctx, tx, st, a, &line)
			if err != nil {
				return err
			}
			if added != nil { // two cards of one person in one file
				known = append(known, *added)
			}
			out = append(out, line)
		}
		if in.Dry {
			return studio.ErrRehearsal
		}
		return nil
	})
	if in.Dry && errors.Is(err, studio.ErrRehearsal) {
		err = nil
	}
	return out, err
}

// takeCard carries out what a card is taken for.
func (s *Service) takeCard(ctx context.Context, tx cardStore, st *studio.Studio, a *studio.Actor, line *CardLine) (*Contact, error) {
	switch line.Match {
	case NewCard:
		c := &studio.Client{
			ID: studio.NewID(), Revision: 1, CreatedAt: s.Now(),
			ClientFields: tidied(studio.ClientFields{Name: line.Card.Name, Email: line.Card.Email, Phone: line.Card.Phone, BirthDate: line.Card.BirthDate}),
		}
		if fault := cardFault(&c.ClientFields, s.Today(st)); fault != "" {
			line.Match, line.Fault = SkippedCard, fault
			return nil, nil
		}
		if err := errors.Join(tx.AddClient(ctx, c), tx.SetCardUID(ctx, c.ID, line.Card.UID)); err != nil {
			return nil, err
		}
		line.Client = nil
		return &Contact{c.ID, line.Card}, s.Audit(ctx, tx, a, "add", "client", c.ID)
	case SameCard:
		return nil, s.fillCard(ctx, tx, st, a, line)
	}
	return nil, nil
}

// cardFault says what of a card cannot be kept, empty where nothing is wrong.
func cardFault(f *studio.ClientFields, today string) string {
	var input *studio.InputError
	if err := studio.CheckClient(f, today); errors.As(err, &input) {
		return input.Problems[0].Message
	}
	for _, x := range []struct {
		text string
		most int
	}{{f.Name, 120}, {f.Email, 200}, {f.Phone, 60}} {
		if len([]rune(x.text)) > x.most {
			return words.ThisContactIsTooLong().Message
		}
	}
	return ""
}

// fillCard fills in what of a client is missing.
func (s *Service) fillCard(ctx context.Context, tx cardStore, st *studio.Studio, a *studio.Actor, line *CardLine) error {
	c, err := tx.LockClient(ctx, line.Client.ID)
	if err != nil {
		return err
	}
	line.Fills = []string{}
	for _, f := range []struct {
		name string
		from string
		to   *string
	}{{"email", line.Card.Email, &c.Email}, {"phone", line.Card.Phone, &c.Phone}, {"birthDate", line.Card.BirthDate, &c.BirthDate}} {
		if *f.to == "" && f.from != "" {
			*f.to = f.from
			line.Fills = append(line.Fills, f.name)
		}
	}
	if fault := cardFault(&c.ClientFields, s.Today(st)); fault != "" {
		line.Match, line.Fault = SkippedCard, fault
		return nil
	}
	if err := tx.SetCardUID(ctx, c.ID, line.Card.UID); err != nil || len(line.Fills) == 0 {
		return err
	}
	if err := tx.UpdateClient(ctx, c); err != nil {
		return err
	}
	if slices.Contains(line.Fills, "birthDate") { // rules follow from it
		if err := s.Checks.JudgeAgain(ctx, tx, st, a, c.ID); err != nil {
			return err
		}
	}
	return s.Audit(ctx, tx, a, "change", "client", c.ID)
}

// Match says what a card is taken for: by its UID, else by name together with an e-mail address or a
// telephone number. One of them alone is doubtful (handbook, chapter 6, Open formats).
func Match(c Card, known []Contact) CardLine {
	line := CardLine{Card: c, Match: NewCard}
	for i := range known {
		k := &known[i]
		if c.UID != "" && (c.UID == k.UID || bareUID(c.UID) == k.ID.String()) {
			return CardLine{Card: c, Match: SameCard, Client: k}
		}
	}
	for i := range known {
		k := &known[i]
		name := strings.EqualFold(strings.Join(strings.Fields(c.Name), " "), strings.Join(strings.Fields(k.Name), " "))
		reach := c.Email != "" && strings.EqualFold(c.Email, k.Email) || digits(c.Phone) != "" && digits(c.Phone) == digits(k.Phone)
		switch {
		case name && reach:
			return CardLine{Card: c, Match: SameCard, Client: k}
		case (name || reach) && line.Client == nil:
			line = CardLine{Card: c, Match: DoubtfulCard, Client: k}
		}
	}
	return line
}

// bareUID is a UID without what may stand before it.
func bareUID(uid string) string { return strings.ToLower(strings.TrimPrefix(uid, "urn:uuid:")) }

// phoneDigits is how many digits of a telephone number are compared: what comes before them is
// written in many ways.
const phoneDigits = 9

// digits are the last digits of a telephone number.
func digits(phone string) string {
	var out []rune
	for _, r := range phone {
		if r >= '0' && r <= '9' {
			out = append(out, r)
		}
	}
	return string(out[max(0, len(out)-phoneDigits):])
}
