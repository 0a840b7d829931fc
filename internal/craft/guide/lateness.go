package guide

import (
	"math"
	"strconv"
)

// allowance is what comparisons with a limit allow (handbook, chapter 7).
const allowance = 1e-9

// When a re-fit is offered, in seconds (handbook, chapter 7, Late, early, over).
const (
	offerLate  = 90
	offerEarly = -180
	offerAgain = 60
	minute     = 60
)

// welcome is what a greeting and the check at the door take, in seconds.
const welcome = 5 * minute

// Welcome is how many seconds lie between the booked start and hands on, of so many sold and so many of hands-on time.
func Welcome(sold, handsOn int) int { return min(welcome, max(0, sold-handsOn)) }

// StartedLate is how many whole minutes late a treatment is that began so many seconds after its booked start: a welcome
// is part of the appointment.
func StartedLate(after float64) int { return max(0, int((after-welcome)/minute)) }

// Place is where a treatment stands, in seconds. Position and Boundary are seconds of the original plan: where it is
// now, and where the present spell ends (absent while there is none).
type Place struct {
	StartsAt float64 `json:"startsAt"` // booked
	Welcome  float64 `json:"welcome"`
	HandsOn  float64 `json:"handsOn"`
	Total    float64 `json:"total"` // of the plan
	Now      float64 `json:"now"`
	Position float64 `json:"position"`
	// Boundary is where the present spell ends.
	Boundary *float64 `json:"boundary,omitempty"`
	// DeclinedAt is the lateness at which a re-fit was declined.
	DeclinedAt *float64 `json:"declinedAt,omitempty"`
	// DoorOpen says that the check at the door is still open: the welcome is still to come.
	DoorOpen bool `json:"doorOpen,omitempty"`
}

// Lateness is how late a treatment is, below zero early, in seconds; Minutes are those that a re-fit takes out, and
// Slot what is then left for what comes after the present spell.
type Lateness struct {
	HandsOff float64  `json:"handsOff"`
	Late     float64  `json:"late"`
	Minutes  int      `json:"minutes"`
	Offer    bool     `json:"offer"`
	Words    string   `json:"words"`
	Slot     *float64 `json:"slot"`
}

// Lateness works out how late the treatment is: now, and what is left of the plan, against the hour at which hands
// are to be off.
func (p *Place) Lateness() Lateness {
	out := Lateness{HandsOff: p.StartsAt + p.Welcome + p.HandsOn}
	now := p.Now
	if p.DoorOpen {
		now += p.Welcome
	}
	out.Late = now + (p.Total - p.Position) - out.HandsOff
	out.Minutes = int(math.Ceil(out.Late/minute - allowance))
	out.Offer = out.Late >= offerLate-allowance || out.Late <= offerEarly+allowance
	if out.Offer && p.DeclinedAt != nil {
		out.Offer = againAfter(*p.DeclinedAt, out.Late)
	}
	switch whole := WholeMinutes(out.Late); {
	case whole > 0:
		out.Words = strconv.Itoa(whole) + " min late"
	case whole < 0:
		out.Words = strconv.Itoa(-whole) + " min early"
	}
	if p.Boundary != nil {
		slot := p.Total - *p.Boundary - minute*float64(out.Minutes)
		out.Slot = &slot
	}
	return out
}

// WholeMinutes are seconds of lateness as shown: whole minutes towards zero.
func WholeMinutes(late float64) int {
	if late < 0 {
		return -WholeMinutes(-late)
	}
	return int(late/minute + allowance)
}

// againAfter reports whether a re-fit declined at a lateness is offered again: it moved a minute further the same
// way, or changed sides.
func againAfter(declined, late float64) bool {
	if declined*late < 0 {
		return true
	}
	return math.Abs(late)-math.Abs(declined) >= offerAgain-allowance
}
