package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
)

// Photo is a photo in a client's file.
type Photo struct {
	ID     uuid.UUID  `json:"id"`
	Client uuid.UUID  `json:"client"`
	Visit  *uuid.UUID `json:"visit,omitempty"`
	View   string     `json:"view" enum:"front,left,right"`
	Width  int        `json:"width"`
	Height int        `json:"height"`
	measuring.PhotoMarks
	By string    `json:"by"`
	At time.Time `json:"at"`
	// Unlike is why it may not stand beside the first photo of this view; none where it may.
	Unlike []measuring.Unlike `json:"unlike" enum:"size,roll,light"`
	// Image is JPEG; not in lists.
	Image []byte `json:"-"`
}
