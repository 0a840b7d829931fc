package studio

import (
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/reaction"
)

// Reaction is a reaction of a client's skin, with what lay on it and when it is asked again. It says what was seen and
// never what it is.
type Reaction struct {
	ID         uuid.UUID  `json:"id"`
	Client     uuid.UUID  `json:"client"`
	ClientName string     `json:"clientName"`
	Visit      *uuid.UUID `json:"visit,omitempty"`
	NoticedAt  time.Time  `json:"noticedAt"`
	// NoticedBy is in words, such as the client.
	NoticedBy string `json:"noticedBy"`
	Kind      string `json:"kind"`
	// Zones are empty where that is not known.
	Zones []contraindication.ZoneSide `json:"zones"`
	// Grade is the worst so far, 0 to 4.
	Grade int `json:"grade"`
	// Minute of hands-on time and step at which it was noticed in the room.
	Minute *int   `json:"minute,omitempty"`
	Step   string `json:"step,omitempty"`
	// Done is what was done about it.
	Done     string            `json:"done,omitempty"`
	By       string            `json:"by"`
	At       time.Time         `json:"at"`
	Products []ReactionProduct `json:"products"`
	FollowUp []FollowUp        `json:"followUps"`
	// Outcome is empty while it is open.
	Outcome  reaction.Outcome `json:"outcome,omitempty" enum:"settled,doctor,mistake,"`
	ClosedAt *time.Time       `json:"closedAt,omitempty"`
	Note     string           `json:"note,omitempty"`
}

// Regions are the regions of the reaction's zones.
func (r *Reaction) Regions() []string { return reaction.RegionsOf(r.Zones) }

// ReactionProduct is a product that lay on the skin, and what follows for it.
type ReactionProduct struct {
	ID      uuid.UUID    `json:"-"`
	Product string       `json:"product"`
	Name    string       `json:"name"`
	Lot     string       `json:"lot,omitempty"`
	LotID   *uuid.UUID   `json:"lotId,omitempty"`
	Regions []string     `json:"-"`
	Bar     reaction.Bar `json:"bar" enum:"free,ask,blocked-until-patch,blocked"`
	// SetAside says that its lot is set aside for the whole studio.
	SetAside bool `json:"setAside,omitempty"`
}

// FollowUp is a time to ask how a reaction is, and what was said then.
type FollowUp struct {
	N      int          `json:"n"`
	DueAt  time.Time    `json:"dueAt"`
	DoneAt *time.Time   `json:"doneAt,omitempty"`
	By     string       `json:"by,omitempty"`
	Now    reaction.Now `json:"now,omitempty" enum:"better,same,worse,gone,not-reached,"`
	Grade  *int         `json:"grade,omitempty"`
	Note   string       `json:"note,omitempty"`
}

// Next is the follow-up that is to be made next; nil where none is.
func (r *Reaction) Next() *FollowUp {
	if r.ClosedAt != nil {
		return nil
	}
	for i := range r.FollowUp {
		if r.FollowUp[i].DoneAt == nil {
			return &r.FollowUp[i]
		}
	}
	return nil
}

// Incident is something unexpected that was no reaction: a fall, a broken stone, a power cut.
type Incident struct {
	ID   uuid.UUID `json:"id"`
	At   time.Time `json:"at"`
	Kind string    `json:"kind"`
	Body string    `json:"body"`
	// Told is who was told, in words.
	Told string `json:"told"`
	By   string `json:"by,omitempty"`
}
