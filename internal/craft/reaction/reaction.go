// Package reaction knows what follows a reaction of the skin: when to ask again, which products may still be used on
// the client, and which lots are set aside. It says nothing of what it is or means: that is a doctor's.
package reaction

import (
	"cmp"
	"errors"
	"slices"
)

// MostGrade is an emergency; 0 is what was expected (handbook, chapter 7, The record).
const MostGrade = 4

const (
	minutesADay = 24 * 60
	opens       = 9 * 60  // when follow-ups are made
	closes      = 19 * 60 // and until when
	soon        = 4       // hours; this one is not moved
)

// askAgain are the hours after a reaction of each grade at which it is asked again.
var askAgain = [MostGrade + 1][]int{{}, {24}, {24, 72, 168}, {4, 24, 48, 168, 672}, {4, 24, 168, 672}}

// Noticed is a reaction of a grade, noticed at a minute of the local day.
type Noticed struct {
	Grade  int `json:"grade"`
	Minute int `json:"minute"`
}

// FollowUps are when to ask again: days later, and the minute of that day.
type FollowUps struct {
	Due [][2]int `json:"due"`
}

// FollowUps works out when to ask again, on the local wall clock, moved into the hours in which one calls.
func (n *Noticed) FollowUps() (FollowUps, error) {
	if n.Grade < 0 || n.Grade > MostGrade || n.Minute < 0 || n.Minute >= minutesADay {
		return FollowUps{}, errors.New("a grade is 0 to 4, a minute within the day")
	}
	out := FollowUps{Due: [][2]int{}}
	for _, hours := range askAgain[n.Grade] {
		out.Due = append(out.Due, After(n.Minute, hours))
	}
	return out, nil
}

// After is some hours after a minute of the local day, as days later and the minute of that day, moved into the hours in
// which one calls.
func After(minute, hours int) [2]int {
	at := minute + 60*hours
	day, minute := at/minutesADay, at%minutesADay
	switch {
	case hours == soon:
	case minute < opens:
		minute = opens
	case minute > closes:
		day, minute = day+1, opens
	}
	return [2]int{day, minute}
}

// Lying is a product that lay on the skin, with its lot and where; no region where that is not known.
type Lying struct {
	Product string   `json:"product"`
	Lot     string   `json:"lot"`
	Regions []string `json:"regions"`
}

// Other is a reaction of another client to a lot.
type Other struct {
	Client  string `json:"client"`
	Lot     string `json:"lot"`
	Grade   int    `json:"grade"`
	DaysAgo int    `json:"daysAgo"`
}

// Reacted is a reaction with what lay on the skin. Regions are where it was, none where that is not known.
type Reacted struct {
	Grade   int      `json:"grade"`
	Regions []string `json:"regions"`
	OnSkin  []Lying  `json:"onSkin"`
	Others  []Other  `json:"others,omitempty"`
}

// Bar is whether a product may be used on the client.
type Bar string

// The bars, from none to the strictest.
const (
	Free              Bar = "free"
	Ask               Bar = "ask"
	BlockedUntilPatch Bar = "blocked-until-patch" // until a patch test reads 0
	Blocked           Bar = "blocked"
)

var strictness = []Bar{Free, Ask, BlockedUntilPatch, Blocked}

var barOfGrade = [MostGrade + 1]Bar{Free, Ask, BlockedUntilPatch, Blocked, Blocked}

// SameLotDays is how many days back another client's reaction to a lot counts, that day included.
const SameLotDays = 28

// Barred is what follows for products and lots.
type Barred struct {
	Products map[string]Bar `json:"products"`
	// Quarantine are lots to set aside for the studio.
	Quarantine []string `json:"quarantine"`
}

// Blocking works out which products may still be used on the client, and which lots are set aside.
func (r *Reacted) Blocking() (Barred, error) {
	if r.Grade < 0 || r.Grade > MostGrade {
		return Barred{}, errors.New("a grade is 0 to 4")
	}
	out := Barred{Products: map[string]Bar{}, Quarantine: []string{}}
	for i := range r.OnSkin {
		l := &r.OnSkin[i]
		bar := Free
		if r.touches(l) {
			bar = barOfGrade[r.Grade]
			if l.Lot != "" && r.setsAside(l.Lot) {
				out.Quarantine = append(out.Quarantine, l.Lot)
			}
		}
		if was, ok := out.Products[l.Product]; !ok || stricter(bar, was) {
			out.Products[l.Product] = bar
		}
	}
	slices.Sort(out.Quarantine)
	out.Quarantine = slices.Compact(out.Quarantine)
	return out, nil
}

func stricter(a, b Bar) bool {
	return cmp.Compare(slices.Index(strictness, a), slices.Index(strictness, b)) > 0
}

// touches reports whether a product lay where the reaction was, or either place is unknown.
func (r *Reacted) touches(l *Lying) bool {
	if len(r.Regions) == 0 || len(l.Regions) == 0 {
		return true
	}
	return slices.ContainsFunc(l.Regions, func(region string) bool { return slices.Contains(r.Regions, region) })
}

// setsAside reports whether a lot that lay there is set aside.
func (r *Reacted) setsAside(lot string) bool {
	if r.Grade != 2 {
		return r.Grade > 2
	}
	return slices.ContainsFunc(r.Others, func(o Other) bool { return o.Lot == lot && o.Grade >= 2 && o.DaysAgo <= SameLotDays })
}
