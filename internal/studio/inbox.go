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
	FollowUpDue  InboxKind = "follow-up"   // of a reaction, due today or before
	SeriesEnds   InboxKind = "series-ends" // paid ahead; its client is to be reminded
	SecondToSign InboxKind = "second"      // a trainee's record that nobody has signed besides them
)

// InboxItem is one thing that waits for somebody at the studio.
type InboxItem struct {
	// ID is that of the consultation, letter, patch test or appointment.
	ID         uuid.UUID  `json:"id"`
	Kind       InboxKind  `json:"kind" enum:"answers,letter,patch-test,record,letter-todo,follow-up,second,series-ends"`
	Client     uuid.UUID  `json:"client"`
	ClientName string     `json:"clientName"`
	Visit      *uuid.UUID `json:"visit,omitempty"`
	// What is the product of a patch test, the protocol of an appointment, or the kind of a reaction.
	What string `json:"what,omitempty"`
	// At is when it came, was asked for, was applied or took place.
	At time.Time `json:"at"`
	// Practitioner is whose it is, where it is somebody's.
	Practitioner *uuid.UUID `json:"practitioner,omitempty"`
	// Overdue says that a record was to be signed more than a day ago, or a follow-up to be made.
	Overdue bool `json:"overdue,omitempty"`
}

// How long a record may stay unsigned: after a day it is marked, after three the owner sees it too (handbook, chapter 7).
const (
	UnsignedMarked = 24 * time.Hour
	UnsignedOwner  = 72 * time.Hour
)

// ConcernsRecord reports whether somebody is shown an unsigned record on the day page: whose it is at once, the owner
// after three days.
func (a *Actor) ConcernsRecord(i *InboxItem, now time.Time) bool {
	if a.Practitioner != nil && i.Practitioner != nil && *a.Practitioner == *i.Practitioner {
		return true
	}
	return a.Role == Owner && now.Sub(i.At) >= UnsignedOwner
}
