package studio

import (
	"time"

	"github.com/google/uuid"
)

// Letter asks a client's doctor whether a planned treatment may be given.
type Letter struct {
	ID     uuid.UUID  `json:"id"`
	Client uuid.UUID  `json:"client"`
	Visit  *uuid.UUID `json:"visit,omitempty"`
	// Rules are those that ask for the letter.
	Rules     []string  `json:"rules"`
	Protocol  string    `json:"protocol"`
	Question  string    `json:"question"`
	WrittenAt time.Time `json:"writtenAt"`
	WrittenBy uuid.UUID `json:"-"`
	// Answer is empty until it came back, then yes or no; a yes holds through Until.
	Answer     string     `json:"answer" enum:"yes,no,"`
	Note       string     `json:"note"`
	Until      string     `json:"until,omitempty"`
	AnsweredAt *time.Time `json:"answeredAt,omitempty"`
	// Expected is the day on which the answer is expected.
	Expected string `json:"expected,omitempty"`
	// Scans are the answer as it came, on paper.
	Scans []Scan `json:"scans"`
}

// Scan is a doctor's answer as it came.
type Scan struct {
	ID   uuid.UUID `json:"id"`
	Type string    `json:"type" enum:"application/pdf,image/jpeg,image/png"`
	At   time.Time `json:"at"`
}

// PlannedProcedure is a treatment elsewhere that a client plans; the rule names its waiting period.
type PlannedProcedure struct {
	ID        uuid.UUID `json:"id" format:"uuid"`
	Client    uuid.UUID `json:"client" format:"uuid"`
	Rule      string    `json:"rule" maxLength:"80"`
	Day       string    `json:"day" maxLength:"10"`
	NotedBy   uuid.UUID `json:"-"`
	CreatedAt time.Time `json:"-"`
}
