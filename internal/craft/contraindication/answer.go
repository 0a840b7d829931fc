package contraindication

import (
	"maps"
	"strings"

	"softpalm/internal/craft/calendar"
)

// Answer is what the client said to one rule.
type Answer struct {
	Yes bool         `json:"yes"`
	Day calendar.Day `json:"day,omitempty"`
	// Rough is a day that is remembered roughly, as [RoughDay] reads it; Day is then the one
	// that is counted from.
	Rough string `json:"rough,omitempty" maxLength:"7"`
	// Ongoing says that it has not ended: the day is always the day judged.
	Ongoing bool       `json:"still,omitempty"`
	Zones   []ZoneSide `json:"zones,omitempty"`
	// Grades by spot, 0 to 4; what is not there is 0. Option is empty for as usual.
	Grades map[string]int `json:"grades,omitempty"`
	Option string         `json:"option,omitempty" maxLength:"40"`
	// Unsure is what clients may say who are alone with the questions: it has to be
	// answered together before anything is judged.
	Unsure bool `json:"unsure,omitempty"`
}

// UnsureAsNo returns answers as the client gave them, with a no for those the client was not
// sure of: nothing is missing then, though nothing may be judged yet.
func UnsureAsNo(answers map[string]Answer) map[string]Answer {
	out := maps.Clone(answers)
	for id, a := range out {
		if a.Unsure {
			out[id] = Answer{}
		}
	}
	return out
}

// worst is the highest grade, uneven by how much left and right differ most.
func (a *Answer) worst() (worst, uneven int) {
	for spot, g := range a.Grades {
		worst = max(worst, g)
		if part, ok := strings.CutPrefix(spot, "left-"); ok {
			d := g - a.Grades["right-"+part]
			uneven = max(uneven, d, -d)
		}
	}
	for spot, g := range a.Grades {
		if part, ok := strings.CutPrefix(spot, "right-"); ok {
			uneven = max(uneven, g-a.Grades["left-"+part])
		}
	}
	return worst, uneven
}

// ZoneSide is a zone with its side, by name.
type ZoneSide struct {
	Zone string `json:"zone"`
	Side string `json:"side,omitempty" enum:"left,right,both,"`
}
