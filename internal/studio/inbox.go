package studio

import (
	"time"

	"github.com/google/uuid"
)

// InboxKind is what an item of the inbox waits for.
type InboxKind string

// The kinds of item.
const (
	AnswersIn    InboxKind = "answers"     // sent in by a client, to be reviewed
	LetterDue    InboxKind = "letter"      // asked of a doctor, not answered
	PatchToRead  InboxKind = "patch-test"  // to be read now
	RecordToSign InboxKind = "record"      // of a treatment that is over
	LetterToAsk  InboxKind = "letter-todo" // needed for an appointment, and nobody asked for it
)

// InboxItem is one thing that waits for somebody at the studio.
type InboxItem struct {
	// ID is that of the consultation, letter, patch test or appointment.
	ID         uuid.UUID  `json:"id"`
	Kind       InboxKind  `json:"kind" enum:"answers,letter,patch-test,record,letter-todo"`
	Client     uuid.UUID  `json:"client"`
	ClientName string     `json:"clientName"`
	Visit      *uuid.UUID `json:"visit,omitempty"`
	// What is the product of a patch test, or the protocol of an appointment.
	What string `json:"what,omitempty"`
	// At is when it came, was asked for, was applied or took place.
	At time.Time `json:"at"`
	// Practitioner is whose it is, where it is somebody's.
	Practitioner *uuid.UUID `json:"practitioner,omitempty"`
}
