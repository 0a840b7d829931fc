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
}

// Session is one signed-in browser.
type Session struct {
	ID        uuid.UUID
	Account   uuid.UUID
	CSRF      string
	CreatedAt time.Time
	ExpiresAt time.Time
	// Locked while a client holds the tablet.
	Locked bool
}

// Person is a practitioner of the studio.
type Person struct {
	ID   uuid.UUID   `json:"id"`
	Key  string      `json:"key"`
	Name string      `json:"name"`
	Week series.Week `json:"-"`
}

// Room is a treatment room.
type Room struct {
	ID   uuid.UUID `json:"id"`
	Key  string    `json:"key"`
	Name string    `json:"name"`
}

// DemoSignIn is a way into the demo, shown on the sign-in page.
type DemoSignIn struct {
	Email    string `json:"email"`
	Password string `json:"password"`
	Role     string `json:"role"`
	Name     string `json:"name"`
}
