// Package suggestion proposes, by rule, what to do otherwise at the next visit. Each proposal is taken or refused with
// one press; none decides anything by itself (handbook, chapter 7, The record, Next visit).
package suggestion

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"
)

// Added is a product added in the room that was not planned, at a minute of hands-on time.
type Added struct {
	Product string `json:"product"`
	Minute  int    `json:"minute"`
}

// Visit is what one visit of this client with this protocol tells. Planned and real are seconds of hands-on time.
type Visit struct {
	Planned float64 `json:"planned"`
	Real    float64 `json:"real"`
	// Tender places as zone and side.
	Tender  [][2]string `json:"tender,omitempty"`
	Added   []Added     `json:"added,omitempty"`
	Redness int         `json:"redness,omitempty"`
	// ExpectedRedness is the most that the protocol expects.
	ExpectedRedness int      `json:"expectedRedness,omitempty"`
	Skipped         []string `json:"skipped,omitempty"`
	LateMinutes     int      `json:"lateMinutes,omitempty"`
	Less            int      `json:"less,omitempty"`
	Stayed          []string `json:"stayed,omitempty"`
	Quiet           bool     `json:"quiet,omitempty"`
}

// Past are the visits, oldest first, the last is this record, and what else is known of the client.
type Past struct {
	Visits   []Visit `json:"visits"`
	Baseline bool    `json:"baseline,omitempty"`
	// DaysSinceMeasured and VisitsSinceMeasured count from the last measuring.
	DaysSinceMeasured   int    `json:"daysSinceMeasured,omitempty"`
	VisitsSinceMeasured int    `json:"visitsSinceMeasured,omitempty"`
	AsymmetryReal       string `json:"asymmetryReal,omitempty"` // the weaker side
	// Adherence of the weeks, oldest first, in per cent.
	Adherence    []float64 `json:"adherence,omitempty"`
	OpenReaction int       `json:"openReaction,omitempty"` // its grade
}

// Suggestion is a code and what it is about: a place, a product and its minute, a step, a side.
type Suggestion [2]string

// Suggestions are proposals in the order of the rules.
type Suggestions struct {
	List []Suggestion `json:"list"`
}

// Limits of the rules (handbook, chapter 7).
const (
	overBy       = 1.05
	underBy      = 0.90
	lateFrom     = 5
	againDays    = 14
	againVisits  = 4
	patchFrom    = 2
	lowAdherence = 40
)

// Suggest applies the rules to what is past.
func (p *Past) Suggest() (Suggestions, error) {
	if len(p.Visits) == 0 {
		return Suggestions{}, errors.New("there is no visit to learn from")
	}
	out := []Suggestion{}
	add := func(code string, about ...string) {
		out = append(out, Suggestion{code, strings.Join(about, "")})
	}
	for _, place := range p.now().places() {
		code := "lighter-here"
		if p.every(2, func(v *Visit) bool { return slices.Contains(v.places(), place) }) {
			code = "ask-here"
		}
		add(code, place)
	}
	if p.every(2, func(v *Visit) bool { return v.Less > 0 }) {
		add("lighter-all")
	}
	for _, a := range p.now().added() {
		if p.every(3, func(v *Visit) bool { return v.adds(a.Product) }) {
			add("other-form", a.Product)
		} else {
			add("product-again", fmt.Sprintf("%s@%d", a.Product, a.Minute-1))
		}
	}
	if now := p.now(); now.Redness > now.ExpectedRedness {
		add("calmer")
	}
	for _, step := range p.often(func(v *Visit) []string { return v.Skipped }) {
		add("leave-step", step)
	}
	for _, step := range p.often(func(v *Visit) []string { return v.Stayed }) {
		add("longer-dose", step)
	}
	switch {
	case p.count(4, func(v *Visit) bool { return v.Real > overBy*v.Planned+1e-9 }) >= 3:
		add("book-longer")
	case p.count(4, func(v *Visit) bool { return v.Real < underBy*v.Planned-1e-9 }) >= 3:
		add("book-shorter")
	}
	if p.count(3, func(v *Visit) bool { return v.LateMinutes >= lateFrom }) >= 2 {
		add("arrives-late")
	}
	if p.every(2, func(v *Visit) bool { return v.Quiet }) {
		add("quiet")
	}
	p.ofTheClient(add)
	return Suggestions{out}, nil
}

// ofTheClient are the rules that do not look at visits.
func (p *Past) ofTheClient(add func(code string, about ...string)) {
	if p.AsymmetryReal != "" {
		add("more-on-side", p.AsymmetryReal)
	}
	switch {
	case !p.Baseline:
		add("baseline")
	case p.DaysSinceMeasured >= againDays && p.VisitsSinceMeasured >= againVisits:
		add("measure-again")
	}
	if p.OpenReaction >= patchFrom {
		add("patch-first")
	}
	if n := len(p.Adherence); n >= 2 && p.Adherence[n-1] < lowAdherence && p.Adherence[n-2] < lowAdherence {
		add("home-lighter")
	}
}

func (p *Past) now() *Visit { return &p.Visits[len(p.Visits)-1] }

// last are the newest visits, as many as there are of so many.
func (p *Past) last(n int) []Visit { return p.Visits[max(0, len(p.Visits)-n):] }

func (p *Past) count(n int, is func(*Visit) bool) (count int) {
	of := p.last(n)
	for i := range of {
		if is(&of[i]) {
			count++
		}
	}
	return count
}

// every reports whether it is so in each of the last n visits; not where there are fewer.
func (p *Past) every(n int, is func(*Visit) bool) bool { return p.count(n, is) == n }

// often are steps named in two of the last three visits, by name.
func (p *Past) often(of func(*Visit) []string) []string {
	var names []string
	last := p.last(3)
	for i := range last {
		names = append(names, of(&last[i])...)
	}
	slices.Sort(names)
	return slices.DeleteFunc(slices.Compact(names), func(name string) bool {
		return p.count(3, func(v *Visit) bool { return slices.Contains(of(v), name) }) < 2
	})
}

// places are the tender places, by name.
func (v *Visit) places() []string {
	out := make([]string, 0, len(v.Tender))
	for _, t := range v.Tender {
		out = append(out, t[0]+"/"+t[1])
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func (v *Visit) adds(product string) bool {
	return slices.ContainsFunc(v.Added, func(a Added) bool { return a.Product == product })
}

// added are the products added, each at its first minute, by name.
func (v *Visit) added() []Added {
	out := slices.Clone(v.Added)
	slices.SortFunc(out, func(a, b Added) int {
		return cmp.Or(cmp.Compare(a.Product, b.Product), cmp.Compare(a.Minute, b.Minute))
	})
	return slices.CompactFunc(out, func(a, b Added) bool { return a.Product == b.Product })
}
