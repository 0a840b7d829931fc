package studio

import (
	"slices"
	"strings"
	"time"

	"softpalm/words"

	"github.com/google/uuid"
)

var SkinStates = []string{"sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone"}

func CheckClient(c *ClientFields, today string) error {
	if c.Name == "" {
		return FaultAt("/name", words.EnterTheNameOfTheClient())
	}
	if c.BirthDate != "" {
		if _, err := time.Parse(time.DateOnly, c.BirthDate); err != nil || c.BirthDate > today || c.BirthDate < FirstDay {
			return FaultAt("/birthDate", words.EnterDateBirthAsYearMonthDay())
		}
	}
	if c.Email != "" && !strings.Contains(c.Email, "@") {
		return FaultAt("/email", words.EnterEMailAddressWithOrLeave())
	}
	for _, st := range c.SkinStates {
		if !slices.Contains(SkinStates, st) {
			return FaultAt("/skinStates", words.ThereIsNoSkinConditionSt(st))
		}
	}
	return nil
}

// ClientFields are what is written about a client.
type ClientFields struct {
	Name      string `json:"name" minLength:"1" maxLength:"120"`
	Email     string `json:"email" maxLength:"200"`
	Phone     string `json:"phone" maxLength:"60"`
	BirthDate string `json:"birthDate" maxLength:"10"`
	// SkinType is empty where it was not asked yet.
	SkinType   string   `json:"skinType,omitempty" enum:"dry,normal,combination,oily,"`
	SkinStates []string `json:"skinStates" maxItems:"7"`
	Phototype  int      `json:"phototype" minimum:"0" maximum:"6"`
	Note       string   `json:"note" maxLength:"2000"`
	// NoMessages says that the client wants no messages that are sent by themselves; ShortMessage
	// that they want a short one on the day of an appointment as well.
	NoMessages   bool `json:"noMessages,omitempty"`
	ShortMessage bool `json:"shortMessage,omitempty"`
}

// OnlyContact refuses what only those may write who may see it.
func (c *ClientFields) OnlyContact() error {
	for _, field := range []struct {
		path    string
		written bool
	}{
		{"/skinType", c.SkinType != ""},
		{"/skinStates", len(c.SkinStates) > 0},
		{"/phototype", c.Phototype != 0},
		{"/note", c.Note != ""},
	} {
		if field.written {
			return FaultAt(field.path, words.OnlyPractitionersWriteAboutTheSkin())
		}
	}
	return nil
}

// Client is a client of the studio.
type Client struct {
	ID uuid.UUID `json:"id"`
	ClientFields
	// Revision counts the changes; a change is made to one and gives the next.
	Revision  int       `json:"revision"`
	CreatedAt time.Time `json:"createdAt"`
}

// ClientQuery asks for clients by name: those that match a search, after a cursor
// "name|id", perhaps only those that a practitioner treats.
type ClientQuery struct {
	// Search is part of a name, an e-mail address or a telephone number.
	Search, After string
	Limit         int
	Now           time.Time
	TreatedBy     *uuid.UUID
}

// Words are what a client is to be found by: each begins a part of the name or of the e-mail address, or ends the
// telephone number.
func (q *ClientQuery) Words() []string {
	if digits := q.Digits(); digits != "" {
		return []string{digits}
	}
	words := strings.Fields(strings.NewReplacer("'", " ", "’", " ", "-", " ", ",", " ").Replace(q.Search))
	return words[:min(len(words), mostWords)]
}

// mostWords is how many words of a search are looked at.
const mostWords = 6

// searchDigits is how many digits are looked for among telephone numbers at least.
const searchDigits = 3

// Digits are what is looked for among telephone numbers: the digits of a search that holds
// nothing else but what numbers are written with; empty where it holds more, or too few.
func (q *ClientQuery) Digits() string {
	digits := []rune{}
	for _, r := range q.Search {
		switch {
		case r >= '0' && r <= '9':
			digits = append(digits, r)
		case !strings.ContainsRune(" +-/().", r):
			return ""
		}
	}
	if len(digits) < searchDigits {
		return ""
	}
	return string(digits)
}

// ClientLine is a client in a list.
type ClientLine struct {
	ID       uuid.UUID  `json:"id"`
	Name     string     `json:"name"`
	SkinType string     `json:"skinType,omitempty"`
	States   []string   `json:"skinStates"`
	Last     *time.Time `json:"last,omitempty"`
	Next     *time.Time `json:"next,omitempty"`
	Visits   int        `json:"visits"`
}
