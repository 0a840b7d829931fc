package series

import "time"

// LateAdvice is what becomes of a treatment whose client comes late.
type LateAdvice string

// The advice (handbook, chapter 6, Lateness).
const (
	OnTime    LateAdvice = ""         // up to five minutes change nothing
	FitPlan   LateAdvice = "fit"      // the plan is fitted to what is left; the sold end stays
	ChooseNew LateAdvice = "too-late" // a shorter protocol, or another day
)

// Lateness is how late a treatment begins, and how many minutes of hands-on time are left.
type Lateness struct {
	Minutes int        `json:"minutes"`
	HandsOn int        `json:"handsOn"`
	Advice  LateAdvice `json:"advice" enum:"fit,too-late,"`
}

const (
	lateNothing  = 5  // minutes that change nothing
	leastHandsOn = 15 // minutes
)

// LateBy works out the lateness of a treatment that has not begun at a moment. handsOn are its
// minutes of hands-on time.
func LateBy(start, now time.Time, handsOn int) Lateness {
	late := int(now.Sub(start) / time.Minute)
	l := Lateness{Minutes: max(late, 0), HandsOn: handsOn}
	if late <= lateNothing {
		return l
	}
	l.HandsOn = max(handsOn-late, 0)
	l.Advice = FitPlan
	if 2*l.HandsOn < handsOn || l.HandsOn < leastHandsOn {
		l.Advice = ChooseNew
	}
	return l
}
