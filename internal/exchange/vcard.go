package exchange

import (
	"bytes"
	"errors"
	"io"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/emersion/go-vcard"

	"softpalm/internal/studio"
	"softpalm/internal/studio/clients"
	"softpalm/words"
)

// mostCards is how many cards are read of one file.
const mostCards = 5000

// WriteCards writes contacts as vCard 4.0 (RFC 6350), many in a file. Nothing about health is in it.
func (Files) WriteCards(list []clients.Card, now time.Time) ([]byte, error) {
	var out bytes.Buffer
	enc := vcard.NewEncoder(&out)
	for i := range list {
		c := &list[i]
		card := vcard.Card{}
		card.SetValue(vcard.FieldVersion, "4.0")
		card.SetValue(vcard.FieldUID, c.UID)
		card.SetValue(vcard.FieldFormattedName, c.Name)
		given, family := names(c.Name)
		card.SetName(&vcard.Name{GivenName: given, FamilyName: family})
		if c.Phone != "" {
			card.SetValue(vcard.FieldTelephone, c.Phone)
		}
		if c.Email != "" {
			card.SetValue(vcard.FieldEmail, c.Email)
		}
		if c.BirthDate != "" {
			card.SetValue(vcard.FieldBirthday, strings.ReplaceAll(c.BirthDate, "-", ""))
		}
		card.SetValue(vcard.FieldLanguage, "en") // what the studio writes in
		card.SetRevision(now.UTC())
		if err := enc.Encode(card); err != nil {
			return nil, err
		}
	}
	return folded(out.Bytes()), nil
}

// names are the parts of a name as most of them are written: the last word is the family's.
func names(name string) (given, family string) {
	parts := strings.Fields(name)
	if len(parts) < 2 {
		return name, ""
	}
	return strings.Join(parts[:len(parts)-1], " "), parts[len(parts)-1]
}

// folded breaks lines after 75 octets, between letters (RFC 6350, 3.2).
func folded(text []byte) []byte {
	const most = 75
	var out bytes.Buffer
	for line := range bytes.SplitSeq(bytes.TrimSuffix(text, []byte("\r\n")), []byte("\r\n")) {
		room := most
		for len(line) > room {
			at := room
			for at > 0 && !utf8.RuneStart(line[at]) {
				at--
			}
			out.Write(line[:at])
			out.WriteString("\r\n ")
			line, room = line[at:], most-1
		}
		out.Write(line)
		out.WriteString("\r\n")
	}
	return out.Bytes()
}

// takenOver are the properties that are taken over; the rest of a card is left out and named.
var takenOver = []string{
	"VERSION", vcard.FieldUID, vcard.FieldFormattedName, vcard.FieldName, vcard.FieldTelephone, vcard.FieldEmail, vcard.FieldBirthday,
	vcard.FieldRevision, vcard.FieldProductID, vcard.FieldKind,
}

// ReadCards reads contacts of a file of vCards, 3.0 or 4.0. What is not taken over is named. A file
// with a fault answers a *[studio.InputError].
func (Files) ReadCards(data []byte) ([]clients.Card, error) {
	dec := vcard.NewDecoder(bytes.NewReader(data))
	out := []clients.Card{}
	for {
		card, err := dec.Decode()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, studio.FaultAt("/file", words.ThisIsNotAFileOfContacts())
		}
		if v := card.Value(vcard.FieldVersion); v != "3.0" && v != "4.0" {
			return nil, studio.FaultAt("/file", words.ThisVersionOfContactsIsNotRead(v))
		}
		if kind := card.Kind(); kind != "" && kind != vcard.KindIndividual {
			continue // a group or a company is nobody's face
		}
		out = append(out, cardOf(card))
		if len(out) > mostCards {
			return nil, studio.FaultAt("/file", words.ThisFileHoldsTooManyContacts())
		}
	}
	if len(out) == 0 {
		return nil, studio.FaultAt("/file", words.ThisIsNotAFileOfContacts())
	}
	return out, nil
}

func cardOf(card vcard.Card) clients.Card {
	c := clients.Card{
		UID: card.Value(vcard.FieldUID), Name: strings.TrimSpace(card.PreferredValue(vcard.FieldFormattedName)),
		Email: strings.TrimPrefix(strings.TrimSpace(card.PreferredValue(vcard.FieldEmail)), "mailto:"),
		Phone: strings.TrimPrefix(strings.TrimSpace(card.PreferredValue(vcard.FieldTelephone)), "tel:"), LeftOut: []string{},
	}
	if n := card.Name(); c.Name == "" && n != nil {
		c.Name = strings.TrimSpace(n.GivenName + " " + n.FamilyName)
	}
	c.BirthDate = birthDay(card.Value(vcard.FieldBirthday))
	for name := range card {
		if !slices.Contains(takenOver, name) {
			c.LeftOut = append(c.LeftOut, name)
		}
	}
	if card.Value(vcard.FieldBirthday) != "" && c.BirthDate == "" {
		c.LeftOut = append(c.LeftOut, vcard.FieldBirthday)
	}
	slices.Sort(c.LeftOut)
	return c
}

// birthDay reads a whole date; one without its year is none.
func birthDay(text string) string {
	text, _, _ = strings.Cut(strings.TrimSpace(text), "T")
	for _, form := range []string{time.DateOnly, "20060102"} {
		if day, err := time.Parse(form, text); err == nil {
			return day.Format(time.DateOnly)
		}
	}
	return ""
}
