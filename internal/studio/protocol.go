package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/protocol"
)

// ProtocolLine is a protocol in a list.
type ProtocolLine struct {
	ID          uuid.UUID
	Key         string
	Version     int // 0 before the first publishing
	Body        protocol.Protocol
	HasDraft    bool
	PublishedAt *time.Time
}

// VersionLine is one version of a protocol.
type VersionLine struct {
	Number      int       `json:"number"`
	PublishedAt time.Time `json:"publishedAt"`
	By          string    `json:"by"`
	Steps       int       `json:"steps"`
}

// Draft is an account's draft of a protocol.
type Draft struct {
	Protocol uuid.UUID         `json:"protocol"`
	Revision int               `json:"revision"`
	BasedOn  int               `json:"basedOn"`
	Body     protocol.Protocol `json:"body"`
}
