package studio

import (
	"time"

	"github.com/google/uuid"
)

// MessageKind is what a message is for.
type MessageKind string

// The kinds of message.
const (
	ConsultationMessage MessageKind = "consultation" // a client's private link
	InvitationMessage   MessageKind = "invitation"   // to somebody who will work in the studio
	ResetMessage        MessageKind = "reset"        // a new password
)

// Message is one that would be sent. No gateway is connected yet: messages are kept for
// the owner, who passes them on.
type Message struct {
	ID   uuid.UUID   `json:"id"`
	At   time.Time   `json:"at"`
	Kind MessageKind `json:"kind" enum:"consultation,invitation,reset"`
	// To is an e-mail address or a telephone number.
	To   string `json:"to"`
	Name string `json:"name"`
	// Body is the whole text; it is gone after Until, when what it links to has ended.
	Body  string    `json:"body"`
	Until time.Time `json:"until"`
	// Client is whom it is about, nil for those who work in the studio.
	Client *uuid.UUID `json:"-"`
}
