package diary

import (
	"slices"
	"time"

	"softpalm/internal/studio"
	"softpalm/words"
)

// When a visit may come to a state (handbook, chapter 6, Visits and their states).
const (
	arrivesBefore = 2 * time.Hour    // a client arrives from then on, until the end of the day
	missedAfter   = 15 * time.Minute // nobody is marked as not come before
)

// byHand are the states that the desk and the practitioner set, from each state. The treatment
// room sets in-room and what follows it; holds have their own way.
var byHand = map[studio.VisitState][]studio.VisitState{
	studio.Booked:    {studio.Confirmed, studio.Arrived, studio.Cancelled, studio.NoShow},
	studio.Confirmed: {studio.Arrived, studio.Cancelled, studio.NoShow},
	studio.Arrived:   {studio.Booked, studio.Cancelled, studio.NoShow}, // booked: pressed by mistake
	studio.NoShow:    {studio.Arrived},                                 // came after all, the same day
}

// step says what a visit becomes when it is asked to be in a state: cancelling once it is not
// free any more is late, elapsed time deciding. A sentence says why it cannot.
func step(v *studio.Visit, to studio.VisitState, now time.Time, st *studio.Studio) (studio.VisitState, *studio.StateError) {
	refuse := func(s words.Sentence) (studio.VisitState, *studio.StateError) {
		return v.State, &studio.StateError{Code: "visit-state", Sentence: s}
	}
	if v.State == to {
		return to, nil
	}
	if !slices.Contains(byHand[v.State], to) {
		return refuse(words.ThisAppointmentStateSoCantBecome(v.State.Word(), to.Word()))
	}
	zone := st.Zone()
	today := now.In(zone).Format(time.DateOnly)
	day := v.StartsAt.In(zone).Format(time.DateOnly)
	switch {
	case to == studio.Arrived && v.State == studio.NoShow && today != day:
		return refuse(words.WhoMissedAnAppointmentArrivesTheSameDayOnly())
	case to == studio.Arrived && (now.Before(v.StartsAt.Add(-arrivesBefore)) || today > day):
		return refuse(words.ClientsArriveFromTwoHoursBefore())
	case to == studio.NoShow && now.Before(v.StartsAt.Add(missedAfter)):
		return refuse(words.NobodyMissesBeforeAQuarterOfAnHour())
	case to == studio.Cancelled && now.After(st.FreeUntil(v)):
		return studio.LateCancelled, nil
	}
	return to, nil
}
