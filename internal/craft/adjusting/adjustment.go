package adjusting

import (
	"strconv"

	"softpalm/internal/craft/contraindication"
)

// AdjustmentKind is a kind of change that adjusting makes.
type AdjustmentKind string

// The kinds of change, in the order in which they are tried.
const (
	Rerouted     AdjustmentKind = "rerouted"    // the path leaves a zone out
	OtherSide    AdjustmentKind = "one-side"    // one side is worked without the zone
	Lowered      AdjustmentKind = "lowered"     // less pressure
	Firmed       AdjustmentKind = "firmer"      // more pressure, as the client wishes
	OtherHand    AdjustmentKind = "other-hand"  // another hand part or tool
	Swapped      AdjustmentKind = "swapped"     // another stroke of the same intent
	Replaced     AdjustmentKind = "replaced"    // another product
	Dropped      AdjustmentKind = "left-out"    // the step is left out
	NoTime       AdjustmentKind = "no-time"     // removed to fit the time
	RouteBlocked AdjustmentKind = "no-way-home" // left out because its lymph could not be carried home
	Restored     AdjustmentKind = "restored"    // added so that opening, drainage route or slip are whole again
	Refitted     AdjustmentKind = "refitted"    // doses changed to fill the slot
	Dosed        AdjustmentKind = "dosed"       // more or less of a product
	Slowed       AdjustmentKind = "slowed"      // a slower hand, in hundredths
)

// Adjustment is one change of a plan with its reason.
type Adjustment struct {
	// ID names the change within its plan: the same plan and constraints give the
	// same ids.
	ID    string         `json:"id"`
	Step  string         `json:"step"`
	Name  string         `json:"name"`
	Kind  AdjustmentKind `json:"did"`
	Rule  string         `json:"rule,omitempty"`
	Title string         `json:"title,omitempty"`
	Why   string         `json:"why,omitempty"`
	// Zone, From and To say what changed, in keys or pressures as the kind needs.
	Zone string `json:"zone,omitempty"`
	From string `json:"from,omitempty"`
	To   string `json:"to,omitempty"`
	// What bites here: the stroke family, intent, kind of tool, or what is in the product,
	// that the rule takes away; At the place where it does, where the rule is for some places.
	What string `json:"what,omitempty"`
	At   string `json:"at,omitempty"`
	// Again marks a change at a step on which the practitioner has decided already: another
	// rule asks for it, and it needs a yes of its own.
	Again bool `json:"again,omitempty"`
	// Gentler marks a change that only makes the treatment gentler.
	Gentler bool `json:"gentler"`
	// Skin marks what the protocol itself says for the client's skin, and what
	// follows from nothing else; it needs no yes.
	Skin bool `json:"skin,omitempty"`
	// Others are the keys of products on the shelf that would serve as well, the
	// nearest first, for a product that takes another's place.
	Others []string `json:"others,omitempty"`
}

// AskAgain marks a change at a step on which the practitioner has decided already: neither
// the yes to all that is gentler nor the protocol's own word for the skin answers it.
func (c *Adjustment) AskAgain() {
	switch c.Kind {
	case Lowered, Firmed, OtherHand, Swapped, Replaced, Dropped, Rerouted, OtherSide, Dosed:
		c.Again, c.Gentler, c.Skin = true, false, false
	}
}

// MayOverrideAdjustment reports whether one change may be taken back, with a reason:
// it was made for a rule that may be overridden, and is not a consequence of other
// changes.
func MayOverrideAdjustment(outcomes []contraindication.Contraindication, c *Adjustment) bool {
	switch c.Kind {
	case Lowered, Firmed, OtherHand, Swapped, Replaced, Dropped:
		return contraindication.MayOverride(outcomes, c.Rule)
	}
	return false
}

// Number gives every change its id.
func Number(changes []Adjustment) {
	seen := map[string]int{}
	for i := range changes {
		c := &changes[i]
		id := c.Step + ":" + string(c.Kind) + ":" + c.Rule
		if seen[id]++; seen[id] > 1 {
			id += ":" + strconv.Itoa(seen[id])
		}
		c.ID = id
	}
}
