package stroke

import (
	"fmt"
	"slices"

	"softpalm/internal/problem"
	"softpalm/words"
)

// Further is what a stroke, or a step beside its stroke, may say besides its movement. Empty fields were
// not said; a step's own value stands in for its stroke's.
type Further struct {
	// AlsoFamilies are families of movement that the stroke has besides its own.
	AlsoFamilies []Family `json:"alsoFamilies,omitempty" maxItems:"4"`
	// WhichHand works: that of the side worked, the other one, a named one, either, or they change.
	WhichHand string `json:"whichHand,omitempty" enum:"same-side,opposite-side,left,right,either,changes,"`
	// HandChoice are parts of the hand of which any will do as well as the stroke's own.
	HandChoice []string `json:"handChoice,omitempty" maxItems:"6"`
	// Towards is the zone of a direction towards one.
	Towards string `json:"towards,omitempty" maxLength:"60"`
	// Crease is how the crease runs that is worked along or across.
	Crease string `json:"crease,omitempty" enum:"up,across,"`
	// ActsOn are zones that are acted on though not touched: the jaw joint under a palm.
	ActsOn []string `json:"actsOn,omitempty" maxItems:"6"`
	// PressureMost is the top of a range that begins at the pressure; PressureAs says it against another.
	PressureMost *int   `json:"pressureMost,omitempty" minimum:"0" maximum:"5"`
	PressureAs   string `json:"pressureAs,omitempty" enum:"up-to-if-it-suits,deeper-than-before,lighter-than-before,"`
	// Rows move the stroke on over an area.
	Rows *Rows `json:"rows,omitempty"`
	// TenderSeconds more are given to a tender spot.
	TenderSeconds int `json:"tenderSeconds,omitempty" minimum:"0" maximum:"600"`
	// Works is what an exercise works: muscles, the diaphragm.
	Works []string `json:"works,omitempty" maxItems:"6"`
	// Resistance is what holds against a movement.
	Resistance *Resistance `json:"resistance,omitempty"`
	// Score is asked at a place before and after: tenderness, 0 to 10.
	Score *Score `json:"score,omitempty"`
	// Condition is when the step is done, in the studio's own words.
	Condition string `json:"condition,omitempty" maxLength:"200"`
}

// AllFamilies are all the families of movement that a stroke belongs to, its own first.
func (s *Stroke) AllFamilies() []Family { return append([]Family{s.Family}, s.AlsoFamilies...) }

// Rows is a stroke that moves on over an area, row by row, from one zone to another.
type Rows struct {
	From  string `json:"from,omitempty" maxLength:"60"`
	To    string `json:"to,omitempty" maxLength:"60"`
	Least int    `json:"least,omitempty" minimum:"0" maximum:"50"`
	Most  int    `json:"most,omitempty" minimum:"0" maximum:"50"`
	// UntilCovered goes on until the area is covered.
	UntilCovered bool `json:"untilCovered,omitempty"`
}

// Resistance is what holds against a movement, and which way it pushes.
type Resistance struct {
	By        string `json:"by,omitempty" maxLength:"60"`
	Direction string `json:"direction,omitempty" enum:"up,down,in,out,towards,apart,together,any,"`
	Towards   string `json:"towards,omitempty" maxLength:"60"`
}

// Score is a number asked of the client at a place.
type Score struct {
	What string `json:"what" minLength:"1" maxLength:"60"`
	Zone string `json:"zone,omitempty" maxLength:"60"`
	When string `json:"when,omitempty" enum:"before,after,both,"`
	// Most is the top of the scale; 10 where it is 0.
	Most int `json:"most,omitempty" minimum:"0" maximum:"100"`
}

// Empty reports whether nothing further is said.
func (f *Further) Empty() bool {
	return f.AlsoFamilies == nil && f.WhichHand == "" && f.HandChoice == nil && f.Towards == "" && f.Crease == "" && f.ActsOn == nil &&
		f.PressureMost == nil && f.PressureAs == "" && f.Rows == nil && f.TenderSeconds == 0 && f.Works == nil && f.Resistance == nil &&
		f.Score == nil && f.Condition == ""
}

// Over is f with what it leaves unsaid taken from the stroke's own, which is shared where f is empty.
func (f *Further) Over(own *Further) *Further {
	if f.Empty() {
		return own
	}
	out := *f
	if out.AlsoFamilies == nil {
		out.AlsoFamilies = own.AlsoFamilies
	}
	if out.WhichHand == "" {
		out.WhichHand = own.WhichHand
	}
	if out.HandChoice == nil {
		out.HandChoice = own.HandChoice
	}
	if out.Towards == "" {
		out.Towards = own.Towards
	}
	if out.Crease == "" {
		out.Crease = own.Crease
	}
	if out.ActsOn == nil {
		out.ActsOn = own.ActsOn
	}
	if out.PressureMost == nil {
		out.PressureMost = own.PressureMost
	}
	if out.PressureAs == "" {
		out.PressureAs = own.PressureAs
	}
	if out.Rows == nil {
		out.Rows = own.Rows
	}
	if out.TenderSeconds == 0 {
		out.TenderSeconds = own.TenderSeconds
	}
	if out.Works == nil {
		out.Works = own.Works
	}
	if out.Resistance == nil {
		out.Resistance = own.Resistance
	}
	if out.Score == nil {
		out.Score = own.Score
	}
	if out.Condition == "" {
		out.Condition = own.Condition
	}
	return &out
}

// Validate reports every problem, each with its field path below at.
func (f *Further) Validate(at string) []problem.Fault {
	var ps []problem.Fault
	zone := func(key, path string) {
		if key != "" {
			ps = append(ps, ValidateZone(key, at+path)...)
		}
	}
	for i, x := range f.AlsoFamilies {
		if !slices.Contains(Families, x) {
			ps = append(ps, problem.Fault{Path: fmt.Sprintf("%s/alsoFamilies/%d", at, i), Sentence: words.ThereIsNoStrokeFamilyFamily(x)})
		}
	}
	for i, h := range f.HandChoice {
		ps = append(ps, ValidateHand(h, fmt.Sprintf("%s/handChoice/%d", at, i))...)
	}
	zone(f.Towards, "/towards")
	for i, z := range f.ActsOn {
		zone(z, fmt.Sprintf("/actsOn/%d", i))
	}
	if f.Rows != nil {
		zone(f.Rows.From, "/rows/from")
		zone(f.Rows.To, "/rows/to")
		if f.Rows.Most != 0 && f.Rows.Most < f.Rows.Least {
			ps = append(ps, problem.Fault{Path: at + "/rows/most", Sentence: words.MostMaxBelowWhatPlannedPlanned(f.Rows.Most, f.Rows.Least)})
		}
	}
	if f.Resistance != nil {
		zone(f.Resistance.Towards, "/resistance/towards")
	}
	if f.Score != nil {
		zone(f.Score.Zone, "/score/zone")
	}
	if f.PressureMost != nil && (*f.PressureMost < 0 || *f.PressureMost > 5) {
		ps = append(ps, problem.Fault{Path: at + "/pressureMost", Sentence: words.PressureGoesFrom0To5()})
	}
	return ps
}

// ValidateHand reports a part of the hand that does not exist; a missing one is none.
func ValidateHand(hand, at string) []problem.Fault {
	if hand == "" || slices.Contains(HandParts, hand) {
		return nil
	}
	return []problem.Fault{{Path: at, Sentence: words.ThereIsNoHandPartHand(hand)}}
}
