package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/series"
)

// Account is a person who signs in.
type Account struct {
	ID           uuid.UUID
	Email        string
	Name         string
	Role         Role
	PasswordHash string
	// PINHash is empty until a PIN was chosen.
	PINHash      string
	Practitioner *uuid.UUID
	// Revision counts the changes.
	Revision int
	// ClosedAt is when the account was closed; nobody signs in with it any more.
	ClosedAt *time.Time
	// FactorSecret is that of an authenticator app, empty where there is none. FactorStep is
	// the last of its steps that was used; RecoveryHashes are of the codes that are left.
	FactorSecret   string
	FactorStep     int64
	RecoveryHashes []string
}

// AccountState is whether somebody can sign in.
type AccountState string

// The states of an account.
const (
	Invited AccountState = "invited" // has not chosen a password yet
	Active  AccountState = "active"
	Closed  AccountState = "closed"
)

// State returns whether somebody can sign in with the account.
func (a *Account) State() AccountState {
	switch {
	case a.ClosedAt != nil:
		return Closed
	case a.PasswordHash == "":
		return Invited
	}
	return Active
}

// Session is one signed-in browser.
type Session struct {
	ID        uuid.UUID
	Account   uuid.UUID
	CSRF      string
	CreatedAt time.Time
	ExpiresAt time.Time
	// SeenAt is when it was last used, Address where from, Agent by which browser.
	SeenAt  time.Time
	Address string
	Agent   string
	// Locked while a client holds the tablet.
	Locked bool
}

// Person is a practitioner of the studio.
type Person struct {
	ID   uuid.UUID   `json:"id"`
	Key  string      `json:"key"`
	Name string      `json:"name"`
	Week series.Week `json:"-"`
	// Mark is one to three letters by which the person is known on a crowded page.
	Mark     string    `json:"mark"`
	Skills   []string  `json:"-"`
	Licences []Licence `json:"-"`
}

// Licence is what somebody is allowed to do, by whom it was given and until when.
type Licence struct {
	Name   string `json:"name" minLength:"1" maxLength:"120"`
	Number string `json:"number" maxLength:"60"`
	// Until is its last day, empty where it does not end.
	Until string `json:"until" maxLength:"10"`
}

// Room is a treatment room.
type Room struct {
	ID   uuid.UUID `json:"id"`
	Key  string    `json:"key"`
	Name string    `json:"name"`
	// Equipment is what is in it: a basin, a lamp.
	Equipment []string `json:"-"`
	// Places is how many clients who come together it holds.
	Places int `json:"places"`
}

// DemoSignIn is a way into the demo, shown on the sign-in page.
type DemoSignIn struct {
	Email    string `json:"email"`
	Password string `json:"password"`
	Role     string `json:"role"`
	Name     string `json:"name"`
}
