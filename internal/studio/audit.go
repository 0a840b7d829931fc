package studio

import (
	"time"

	"github.com/google/uuid"
)

// AuditLine is a line of the audit log.
type AuditLine struct {
	At      time.Time `json:"at"`
	Account string    `json:"account"`
	Action  string    `json:"action"`
	Subject string    `json:"subject"`
	// Client is the client's name where the line is about one.
	Client string `json:"client,omitempty"`
}

// Audit is one line of the audit log.
type Audit struct {
	ID        uuid.UUID
	Account   uuid.UUID
	At        time.Time
	Action    string
	Subject   string
	SubjectID uuid.UUID
}
