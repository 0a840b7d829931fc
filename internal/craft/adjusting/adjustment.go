package adjusting

import (
	"strconv"

	"softpalm/internal/craft/contraindication"
)

// Did is a kind of change that tailoring makes.
type Did string

// The kinds of change, in the order in which they are tried.
const (
	Rerouted  Did = "rerouted"    // the path leaves a zone out
	OtherSide Did = "one-side"    // one side is worked without the zone
	Lowered   Did = "lowered"     // less pressure
	Firmed    Did = "firmer"      // more pressure, as the client wishes
	OtherHand Did = "other-hand"  // another hand part or tool
	Swapped   Did = "swapped"     // another stroke of the same intent
	Replaced  Did = "replaced"    // another product
	Dropped   Did = "left-out"    // the step is left out
	NoTime    Did = "no-time"     // left out so that the rest fits its time
	NoWayHome Did = "no-way-home" // left out because its lymph could not be carried home
	Restored  Did = "restored"    // added so that opening, way home or film are whole again
	Refitted  Did = "refitted"    // doses changed to fill the slot
	Dosed     Did = "dosed"       // more or less of a product
	Slowed    Did = "slowed"      // a slower hand, in hundredths
)

// Change is one change of a plan with its reason.
type Change struct {
	// ID names the change within its plan: the same plan and constraints give the
	// same ids.
	ID    string `json:"id"`
	Step  string `json:"step"`
	Name  string `json:"name"`
	Did   Did    `json:"did"`
	Rule  string `json:"rule,omitempty"`
	Title string `json:"title,omitempty"`
	Why   string `json:"why,omitempty"`
	// Zone, From and To say what changed, in keys or pressures as the kind needs.
	Zone string `json:"zone,omitempty"`
	From string `json:"from,omitempty"`
	To   string `json:"to,omitempty"`
	// Gentler marks a change that only makes the treatment gentler.
	Gentler bool `json:"gentler"`
	// Skin marks what the protocol itself says for the client's skin, and what
	// follows from nothing else; it needs no yes.
	Skin bool `json:"skin,omitempty"`
	// Others are the keys of products on the shelf that would serve as well, the
	// nearest first, for a product that takes another's place.
	Others []string `json:"others,omitempty"`
}

// MayOverruleChange reports whether one change may be taken back, with a reason:
// it was made for a rule that may be overruled, and is not a consequence of other
// changes.
func MayOverruleChange(outcomes []contraindication.Applied, c *Change) bool {
	switch c.Did {
	case Lowered, Firmed, OtherHand, Swapped, Replaced, Dropped:
		return contraindication.MayOverrule(outcomes, c.Rule)
	}
	return false
}

// Number gives every change its id.
func Number(changes []Change) {
	seen := map[string]int{}
	for i := range changes {
		c := &changes[i]
		id := c.Step + ":" + string(c.Did) + ":" + c.Rule
		if seen[id]++; seen[id] > 1 {
			id += ":" + strconv.Itoa(seen[id])
		}
		c.ID = id
	}
}
