package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/words"
)

// MessageKind is what a message is for.
type MessageKind string

// The kinds of message.
const (
	ConsultationMessage MessageKind = "consultation" // a client's private link
	InvitationMessage   MessageKind = "invitation"   // to somebody who will work in the studio
	ResetMessage        MessageKind = "reset"        // a new password
	AppointmentsMessage MessageKind = "appointments" // the page of a client
	BookingMessage      MessageKind = "booking"      // appointments were booked
	MovingMessage       MessageKind = "moving"
	CancellingMessage   MessageKind = "cancelling"
	ReminderMessage     MessageKind = "reminder" // of the timetable, before or after an appointment
	OfferMessage        MessageKind = "offer"    // times that are held for a client
	LateMessage         MessageKind = "late"     // the studio is late
	ProgressMessage     MessageKind = "progress" // to a practitioner: how far a series has come
	SeriesEndsMessage   MessageKind = "series-ends"
)

// Subject is what a message of this kind is headed with.
func (k MessageKind) Subject(studioName string) string {
	switch k {
	case InvitationMessage:
		return words.SubjectInvitation(studioName).Message
	case ResetMessage:
		return words.SubjectReset(studioName).Message
	case AppointmentsMessage:
		return words.SubjectAppointments(studioName).Message
	case BookingMessage:
		return words.SubjectBooking(studioName).Message
	case MovingMessage:
		return words.SubjectMoving(studioName).Message
	case CancellingMessage:
		return words.SubjectCancelling(studioName).Message
	case ReminderMessage:
		return words.SubjectReminder(studioName).Message
	case OfferMessage:
		return words.SubjectOffer(studioName).Message
	case LateMessage:
		return words.SubjectLate(studioName).Message
	case SeriesEndsMessage:
		return words.SubjectSeriesEnds(studioName).Message
	case ProgressMessage:
		return words.SubjectProgress(studioName).Message
	default:
		return words.SubjectConsultation(studioName).Message
	}
}

// MessageState is where a message is on its way.
type MessageState string

// The states of a message.
const (
	MessageKept    MessageState = "kept"    // the owner passes it on
	MessageWaiting MessageState = "waiting" // it is sent within seconds, or tried again later
	MessageSent    MessageState = "sent"    // the mail server took it
	MessageFailed  MessageState = "failed"  // it was refused, or tried too often
)

// Message is one to somebody outside: sent by the studio's mail server, or kept for the
// owner to pass on.
type Message struct {
	ID   uuid.UUID   `json:"id"`
	At   time.Time   `json:"at"`
	Kind MessageKind `json:"kind" enum:"consultation,invitation,reset,appointments,booking,moving,cancelling,reminder,progress,offer,late,series-ends"`
	// To is an e-mail address or a telephone number.
	To   string `json:"to"`
	Name string `json:"name"`
	// Body is the whole text; it is gone after Until, when what it links to has ended.
	Body  string       `json:"body"`
	Until time.Time    `json:"until"`
	State MessageState `json:"state" enum:"kept,waiting,sent,failed"`
	// Tries counts how often it was handed to the mail server, NextTry is when it is again.
	Tries   int        `json:"-"`
	NextTry *time.Time `json:"nextTry,omitempty"`
	SentAt  *time.Time `json:"sentAt,omitempty"`
	// Failure is why it was not sent at the last try.
	Failure string `json:"failure,omitempty"`
	// CanSend says that the mail server would take it: it may be sent, or tried again.
	CanSend bool `json:"canSend"`
	// Client is whom it is about, nil for those who work in the studio.
	Client *uuid.UUID `json:"-"`
	// Attachment is a calendar file (iCalendar), empty where there is none.
	Attachment string `json:"-"`
}

// Notice is what a client is told of at once: that visits were booked, moved or cancelled.
type Notice struct {
	Kind   MessageKind // booking, moving or cancelling
	Client uuid.UUID
	Visits []uuid.UUID
	// Was is when moved visits began before.
	Was map[uuid.UUID]time.Time
}

// DueMessage names a message that is to be sent now, and its studio.
type DueMessage struct {
	Studio  uuid.UUID `db:"studio_id"`
	Message uuid.UUID `db:"id"`
}
