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
	// Client is the name of whom the line is about, where it is about somebody.
	Client string `json:"client,omitempty"`
	// Address is where the request came from, Request its id in the server's log.
	Address string `json:"address,omitempty"`
	Request string `json:"request,omitempty"`
}

// Audit is one line of the audit log.
type Audit struct {
	ID        uuid.UUID
	Account   uuid.UUID
	At        time.Time
	Action    string
	Subject   string
	SubjectID uuid.UUID
	Address   string
	Request   string
}
