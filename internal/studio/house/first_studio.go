package house

import (
	"context"
	"net/mail"
	"strings"

	"softpalm/internal/studio"
	"softpalm/words"
)

// NewStudio is what the first page of a studio of one's own asks.
type NewStudio struct {
	Basics
	Rooms []string `json:"rooms" maxItems:"20"`
	Owner struct {
		Name     string `json:"name" maxLength:"120"`
		Email    string `json:"email" maxLength:"200"`
		Password string `json:"password" maxLength:"800"`
		// Treats says that clients can be booked with the owner, in the studio's hours.
		Treats bool `json:"treats"`
	} `json:"owner"`
	// Shipped says that the studio begins with the products and protocols that ship with
	// the application.
	Shipped bool `json:"shipped"`
}

// FirstStudio makes the studio where there is none yet, with its first owner. shipped is
// the file whose products, tools, strokes and protocols it may begin with.
func (s *Service) FirstStudio(ctx context.Context, n NewStudio, shipped *Bundle, from string) error {
	if err := s.attempt(ctx, "first:"+studio.Digest(from), s.Now(), studio.ThrottleTries); err != nil {
		return err
	}
	if err := n.check(); err != nil {
		return err
	}
	owner := &n.Owner
	owner.Name, owner.Email = strings.TrimSpace(owner.Name), strings.ToLower(strings.TrimSpace(owner.Email))
	if owner.Name == "" {
		return studio.FaultAt("/owner/name", words.EnterYourName())
	}
	if at, err := mail.ParseAddress(owner.Email); err != nil || at.Address != owner.Email {
		return studio.FaultAt("/owner/email", words.EnterYourEMailAddress())
	}
	if _, err := s.hashNew(ctx, "/owner/password", owner.Password, owner.Name, owner.Email, n.Name); err != nil {
		return err
	}
	b := &Bundle{Studio: &BundleStudio{Name: n.Name, Address: n.Address, TimeZone: n.TimeZone, Currency: n.Currency, Tax: &n.Tax, Open: n.Open}}
	if n.Shipped {
		b.Tools, b.Strokes, b.Protocols = shipped.Tools, shipped.Strokes, shipped.Protocols
		for _, p := range shipped.Products {
			p.Lots = nil
			b.Products = append(b.Products, p)
		}
	}
	account := BundleAccount{Email: owner.Email, Name: owner.Name, Role: studio.Owner, Password: owner.Password}
	if owner.Treats {
		account.Practitioner = studio.FreeKey(owner.Name, "owner", func(string) bool { return false })
		b.Practitioners = []BundlePerson{{Key: account.Practitioner, Name: owner.Name, Week: n.Open}}
	}
	b.Accounts = []BundleAccount{account}
	rooms := map[string]bool{}
	for _, name := range n.Rooms {
		if name = strings.TrimSpace(name); name == "" || len(name) > 120 {
			return studio.FaultAt("/rooms", words.ARoomHasAName())
		}
		key := studio.FreeKey(name, "room", func(k string) bool { return rooms[k] })
		rooms[key] = true
		b.Rooms = append(b.Rooms, BundleRoom{Key: key, Name: name})
	}
	if len(b.Rooms) == 0 {
		return studio.FaultAt("/rooms", words.AStudioHasARoom())
	}
	_, err := s.createStudio(ctx, b, false, func(tx newStudioStore) error {
		any, err := tx.FirstStudio(ctx)
		if err == nil && any {
			err = &studio.StateError{Code: "studio-exists", Sentence: words.ThereIsAStudioAlreadySignIn()}
		}
		return err
	})
	return err
}
