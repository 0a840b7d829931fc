package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/words"
)

// FreeTime is a time that can be booked.
type FreeTime struct {
	Start            time.Time `json:"start"`
	Practitioner     uuid.UUID `json:"practitioner"`
	PractitionerName string    `json:"practitionerName"`
	Room             uuid.UUID `json:"room"`
	RoomName         string    `json:"roomName"`
}

// FreeStart is a moment at which there is time, with the one who would have it and the names of the others who could.
type FreeStart struct {
	FreeTime
	Others []string `json:"others,omitempty"`
}

// FreeQuery asks for times: for a protocol, or for a length with its reset. A nil
// Practitioner is any; From empty is now.
type FreeQuery struct {
	Protocol     uuid.UUID
	Length       time.Duration
	Reset        time.Duration
	Client       *uuid.UUID
	Practitioner *uuid.UUID
	From         string    // a day
	Moved        uuid.UUID // a visit that is moved, so that its own time is free
	Days         int       // 1 to 31
}

// Given reports whether a treatment in the state was given, if only in part.
func (s VisitState) Given() bool { return s == Done || s == BrokenOff }

// TakesTime reports whether a visit in the state takes the time it was given.
func (s VisitState) TakesTime() bool {
	switch s {
	case Cancelled, LateCancelled, NoShow, Lapsed, Released:
		return false
	}
	return true
}

// NewVisit asks for a booking. ID is chosen by the caller, so that the same
// request sent twice books once.
type NewVisit struct {
	ID           uuid.UUID
	Client       uuid.UUID
	Practitioner uuid.UUID
	Room         uuid.UUID
	Protocol     uuid.UUID
	Start        time.Time
	// Length and Reset of the visit where there is no protocol to give them.
	Length, Reset time.Duration
}

// Repeats answers nil where a booking asks for what a visit with its id already is; another
// booking under that id is refused.
func (n *NewVisit) Repeats(v *Visit) error {
	if n.Client == v.Client && n.Practitioner == v.Practitioner && n.Room == v.Room &&
		n.Protocol == v.Protocol && n.Start.Equal(v.StartsAt) {
		return nil
	}
	return &StateError{Code: "id-in-use", Sentence: words.AnotherAppointmentWasBookedUnderThisId()}
}

// VisitState is how far a visit has come.
type VisitState string

// The states of a visit.
const (
	Booked        VisitState = "booked"
	Confirmed     VisitState = "confirmed"
	Arrived       VisitState = "arrived"
	InRoom        VisitState = "in-room"
	Done          VisitState = "done"
	BrokenOff     VisitState = "broken-off" // stopped in the room, with a record
	Cancelled     VisitState = "cancelled"
	LateCancelled VisitState = "late-cancelled"
	NoShow        VisitState = "no-show"
	// Held for somebody who is asked, until its hour; then it has lapsed, or was released.
	Held     VisitState = "held"
	Lapsed   VisitState = "lapsed"
	Released VisitState = "released"
)

// Word is the state inside a sentence about an appointment.
func (s VisitState) Word() string {
	if s == NoShow {
		return "a " + words.AppointmentStates[string(s)]
	}
	return words.AppointmentStates[string(s)]
}

// VisitKind is what a visit is for.
type VisitKind string

// The kinds of visit.
const (
	ForTreatment VisitKind = "treatment"
	ForPatchTest VisitKind = "patch-test" // ten minutes, for some products
	ForReview    VisitKind = "review"     // a quarter of an hour, the end review of a series
)

// Visit is a booked treatment, or a booked patch test.
type Visit struct {
	ID           uuid.UUID `json:"id"`
	Client       uuid.UUID `json:"client"`
	Practitioner uuid.UUID `json:"practitioner"`
	Room         uuid.UUID `json:"room"`
	// Protocol and Version are zero for what is no treatment, Products empty for what is no patch test.
	Protocol uuid.UUID `json:"protocol"`
	Version  int       `json:"version"`
	Kind     VisitKind `json:"kind" enum:"treatment,patch-test,review"`
	Products []string  `json:"products"`
	// BusyFrom is when the room is prepared for it, BusyUntil when it is reset.
	BusyFrom  time.Time  `json:"busyFrom"`
	StartsAt  time.Time  `json:"startsAt"`
	EndsAt    time.Time  `json:"endsAt"`
	BusyUntil time.Time  `json:"busyUntil"`
	State     VisitState `json:"state"`
	CreatedAt time.Time  `json:"-"`
	// Promised is the wall time that it was booked at, 2006-01-02T15:04.
	Promised string `json:"-"`
	// Tools are the sets that it takes, by kind.
	Tools map[string]int `json:"-"`
	// Also are the treatments that follow in the same visit, until the client has arrived; PartOf is the
	// visit that this one followed.
	Also   []VisitPart `json:"also,omitempty"`
	PartOf *uuid.UUID  `json:"partOf,omitempty"`
	// Together is the same for clients who come together.
	Together *uuid.UUID `json:"together,omitempty"`
	// SharesRoom is the same for those of them who share a room.
	SharesRoom *uuid.UUID `json:"-"`
	// Series and Item place it in a series; nil where it stands alone.
	Series *uuid.UUID `json:"series,omitempty"`
	Item   int        `json:"item,omitempty"`
	// SeriesLength is how many treatments the series has; a single appointment is a series of one.
	SeriesLength int        `json:"seriesLength,omitempty"`
	HeldUntil    *time.Time `json:"-"`
	// AgreedAt is the start that was first agreed, Moves how often it was moved since.
	AgreedAt time.Time `json:"agreedAt"`
	Moves    int       `json:"moves,omitempty"`
}

// VisitPart is a treatment that follows another one in the same visit.
type VisitPart struct {
	Protocol uuid.UUID `json:"protocol"`
	Version  int       `json:"version"`
	Minutes  int       `json:"minutes"`
}

// Place gives a visit its start, and the times of its protocol round it.
func (v *Visit) Place(start time.Time, m protocol.Minutes) {
	v.StartsAt = start
	v.BusyFrom = start.Add(-time.Duration(m.Prepare) * time.Minute)
	v.EndsAt = start.Add(time.Duration(m.Treatment) * time.Minute)
	v.BusyUntil = v.EndsAt.Add(time.Duration(m.Reset) * time.Minute)
}

// MoveTo gives a visit another start; what surrounds it moves with it.
func (v *Visit) MoveTo(start time.Time) {
	by := start.Sub(v.StartsAt)
	v.StartsAt, v.BusyFrom = start, v.BusyFrom.Add(by)
	v.EndsAt, v.BusyUntil = v.EndsAt.Add(by), v.BusyUntil.Add(by)
}

// VisitChange is a change of a visit's state: by whom, and why where it was cancelled.
type VisitChange struct {
	State   VisitState
	Account *uuid.UUID
	At      time.Time
	Reason  string
}

// VisitLine is a visit with the names a person reads.
type VisitLine struct {
	Visit
	ClientName       string `json:"clientName"`
	PractitionerName string `json:"practitionerName"`
	RoomName         string `json:"roomName"`
	ProtocolName     string `json:"protocolName"`
	// Checked is the headline of the pre-treatment check made for this visit, if any.
	Checked string `json:"checked,omitempty"`
	// Outlook is the headline to expect, from what is known now, of a visit that is
	// still to come and not checked yet; NotBefore is the first day without a wait.
	Outlook   string `json:"outlook,omitempty"`
	NotBefore string `json:"notBefore,omitempty"`
	// PatchFirst are the names of the plan's products that need a patch test before
	// the visit, of one still to come.
	PatchFirst []string `json:"patchFirst,omitempty"`
	// LetterOpen says that a doctor's answer is awaited.
	LetterOpen bool `json:"letterOpen,omitempty"`
	// Known is what to know of the client of a visit still to come, the heaviest first;
	// Consultation whether the client was asked, Unsigned what has to be signed for it.
	// Those who see no health get none of them.
	Known        []contraindication.Mark `json:"known,omitempty"`
	Consultation ConsultationState       `json:"consultation,omitempty" enum:"none,sent-in,current,renew,"`
	Unsigned     []ConsentKind           `json:"unsigned,omitempty" enum:"treatment,photos,mouth"`
	// FreeUntil is until when cancelling or moving it is free, of one that is still to come; on one
	// visit, not in lists.
	FreeUntil *time.Time `json:"freeUntil,omitempty"`
	// Late is how late the client is of one that should have begun; on one visit, not in lists.
	Late *series.Lateness `json:"late,omitempty"`
	// RoomMinutes are the minutes by which a treatment in the room is late, below zero early.
	RoomMinutes int `json:"roomMinutes,omitempty"`
	// CancelReason is why a cancelled visit was, UndoUntil until when who cancelled it may
	// take that back; on one visit, not in lists.
	CancelReason string     `json:"cancelReason,omitempty"`
	UndoUntil    *time.Time `json:"undoUntil,omitempty"`
}

// ConsultationState is how it stands with a client's consultation.
type ConsultationState string

// The states of a consultation.
const (
	NotAsked ConsultationState = "none"
	SentIn   ConsultationState = "sent-in" // answers came in that nobody has reviewed
	Current  ConsultationState = "current"
	Renew    ConsultationState = "renew" // it was made, and its twelve months are over
)
