package clients

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
)

// What a card is taken for: its UID first, then name together with e-mail or telephone; one of them
// alone is for a person to decide (handbook, chapter 6, Open formats).
func TestWhatACardIsTakenFor(t *testing.T) {
	ada, bo := uuid.New(), uuid.New()
	known := []Contact{
		{ada, Card{UID: "old-1", Name: "Ada Abendroth", Email: "ada@example.org", Phone: "+351 912 345 678"}},
		{bo, Card{Name: "Bo Brisk"}},
	}
	for name, c := range map[string]struct {
		card Card
		want CardMatch
		of   uuid.UUID
	}{
		"the uid it came with":       {Card{UID: "old-1", Name: "Somebody Else"}, SameCard, ada},
		"the uid that we write":      {Card{UID: "urn:uuid:" + bo.String(), Name: "B."}, SameCard, bo},
		"name and e-mail":            {Card{UID: "new", Name: "ada  abendroth", Email: "ADA@example.org"}, SameCard, ada},
		"name and telephone":         {Card{Name: "Ada Abendroth", Phone: "00351912345678"}, SameCard, ada},
		"the name alone":             {Card{Name: "Bo Brisk", Email: "bo@example.org"}, DoubtfulCard, bo},
		"the telephone alone":        {Card{Name: "A. Abendroth", Phone: "912345678"}, DoubtfulCard, ada},
		"nobody":                     {Card{Name: "Cleo Corvin", Email: "cleo@example.org"}, NewCard, uuid.Nil},
		"empty fields match nothing": {Card{Name: "Dora Dunmore"}, NewCard, uuid.Nil},
	} {
		line := Match(c.card, known)
		assert.Equal(t, c.want, line.Match, name)
		if c.of != uuid.Nil {
			assert.Equal(t, c.of, line.Client.ID, name)
		}
	}
}
