package studio

import (
	"github.com/google/uuid"

	"softpalm/internal/craft/patch"
)

// PatchTest is a patch test as recorded, with its state.
type PatchTest struct {
	ID     uuid.UUID  `json:"id"`
	Client uuid.UUID  `json:"client"`
	Visit  *uuid.UUID `json:"visit,omitempty"`
	patch.PatchTest
	Name  string           `json:"name"`
	Lot   string           `json:"lot"`
	Place string           `json:"place"`
	Note  string           `json:"note"`
	State patch.PatchState `json:"state" enum:"waiting,due,clear,over,reacted"`
	// Until is the day a negative result has to be renewed.
	Until string `json:"until"`
	// Due are the hours whose reading may be made now.
	Due []int `json:"due"`
}
