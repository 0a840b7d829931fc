package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/substance"
)

// Brief is what to know of a client with a minute to spare.
type Brief struct {
	Client    uuid.UUID `json:"client"`
	Name      string    `json:"name"`
	Phone     string    `json:"phone"`
	BirthDate string    `json:"birthDate"`
	Note      string    `json:"note"`
	// Known is what to know before touching the face, the heaviest first; Allergies and
	// Medicines are those of the current consultation, in the client's own words.
	Known     []contraindication.Mark `json:"known"`
	Allergies []substance.Allergy     `json:"allergies"`
	Medicines []string                `json:"medicines"`
	// Consultation is how it stands with the consultation, ValidUntil the day on which the
	// current one has to be made again.
	Consultation ConsultationState `json:"consultation" enum:"none,sent-in,current,renew"`
	ValidUntil   string            `json:"validUntil,omitempty"`
	// Unsigned are the consents that the next treatment needs and the client has not given.
	Unsigned []ConsentKind `json:"unsigned" enum:"treatment,photos,mouth"`
	Notes    []ClientNote  `json:"notes"`
	// Next is the appointment to come, Last the treatment before it.
	Next *VisitLine     `json:"next,omitempty"`
	Last *LastTreatment `json:"last,omitempty"`
	// Since says in sentences what is different from last time.
	Since []string `json:"since"`
}

// LastTreatment is how the last treatment went.
type LastTreatment struct {
	Visit        uuid.UUID               `json:"visit"`
	At           time.Time               `json:"at"`
	Protocol     string                  `json:"protocol"`
	Practitioner string                  `json:"practitioner"`
	Note         string                  `json:"note"`
	Additions    []RecordAddition        `json:"additions"`
	Products     []RecordUse             `json:"products"`
	Known        []contraindication.Mark `json:"known"`
	Skipped      []string                `json:"skipped"`
}
