package stroke

import (
	"softpalm/internal/problem"
	"softpalm/words"
)

// DoseKind says how a dose is counted. The kinds must not be flattened into
// one another: "not stated", "as long by feel", "until it lets go" and
// "as the protocol says" are four different things.
type DoseKind string

// The kinds of dose.
const (
	Reps      DoseKind = "reps"      // repetitions, in sets where Sets > 1
	Clock     DoseKind = "clock"     // seconds
	Breaths   DoseKind = "breaths"   // breaths of In + Pause + Out seconds
	Counts    DoseKind = "counts"    // counts of Seconds each: a number at a tempo
	Positions DoseKind = "positions" // positions x seconds x senses x rounds
	Until     DoseKind = "until"     // until a sign shows: a default and a cap
	Free      DoseKind = "free"      // as long by feel
	Unknown   DoseKind = "unknown"   // not stated
	Inherited DoseKind = "inherited" // the protocol's default dose
)

// Dose is how much of a stroke is given: a planned value and an allowed range.
//
// Planned, Min and Max count repetitions a set (Reps), seconds (Clock, Until,
// Free, Unknown), breaths (Breaths) or rounds (Positions). Max 0 is a floor
// without a top; Min 0 means the planned value.
type Dose struct {
	Kind    DoseKind `json:"kind" enum:"reps,clock,breaths,counts,positions,until,free,unknown,inherited"`
	Planned int      `json:"planned,omitempty" minimum:"0" maximum:"3600"`
	Min     int      `json:"min,omitempty" minimum:"0" maximum:"3600"`
	Max     int      `json:"max,omitempty" minimum:"0" maximum:"3600"`
	// Sets of repetitions, 0 counting as 1, with Rest seconds between them.
	Sets int     `json:"sets,omitempty" minimum:"0" maximum:"20"`
	Rest float64 `json:"rest,omitempty" minimum:"0" maximum:"120"`
	// In, Pause and Out are the seconds of one breath; Pulses fall on the out-breath.
	In     float64 `json:"in,omitempty" minimum:"0" maximum:"20"`
	Pause  float64 `json:"pause,omitempty" minimum:"0" maximum:"20"`
	Out    float64 `json:"out,omitempty" minimum:"0" maximum:"20"`
	Pulses int     `json:"pulses,omitempty" minimum:"0" maximum:"30"`
	// PulsesAtLeast says that there may be more.
	PulsesAtLeast bool `json:"pulsesAtLeast,omitempty"`
	// Places, Seconds at each and Senses (1 or 2) belong to Positions.
	Places  int     `json:"places,omitempty" minimum:"0" maximum:"20"`
	Seconds float64 `json:"seconds,omitempty" minimum:"0" maximum:"120"`
	Senses  int     `json:"senses,omitempty" minimum:"0" maximum:"2"`
	// Works says in which half of the breath the hands work; empty is through
	// the whole breath. Pulses always fall on the out-breath.
	Works string `json:"works,omitempty" enum:"in,out,"`
	// Reverse repetitions in the other sense follow the planned ones: circles
	// one way, then the other, each with a count of its own.
	Reverse int `json:"reverse,omitempty" minimum:"0" maximum:"200"`
	// Sign ends a dose of kind Until: "it lets go", "the skin is warm".
	Sign string `json:"sign,omitempty" maxLength:"120"`
	// Said keeps the words of a dose that was not given as a number: "several".
	Said string `json:"said,omitempty" maxLength:"120"`
	// Shown is the number demonstrated where another is recommended; Ceiling the
	// number never to pass; Home what a client may do at home, in words.
	Shown   int    `json:"shown,omitempty" minimum:"0" maximum:"3600"`
	Ceiling int    `json:"ceiling,omitempty" minimum:"0" maximum:"3600"`
	Home    string `json:"home,omitempty" maxLength:"120"`
}

// ClockGrain is the step, in seconds, in which clock doses are changed.
const ClockGrain = 5

// CountsReps reports whether the dose is a number of repetitions of the parts.
func (d Dose) CountsReps() bool { return d.Kind == Reps }

// Open reports whether the real length is decided in the room, so that a plan
// with it lasts "at least" its minimum.
func (d Dose) Open() bool { return d.Kind == Free || d.Kind == Unknown || d.Kind == Until }

// Range returns the least and most allowed planned value, and the step between
// allowed values. A floor without a top allows half as much again; a ceiling
// bounds every range.
func (d *Dose) Range() (least, most, grain int) {
	least, most, grain = d.Min, d.Max, 1
	if least == 0 || least > d.Planned {
		least = d.Planned
	}
	if most == 0 && d.Min > 0 {
		most = d.Planned + d.Planned/2
	}
	most = max(most, d.Planned)
	if d.Ceiling > 0 {
		most = max(min(most, d.Ceiling), least)
	}
	if d.Kind == Clock || d.Open() {
		grain = ClockGrain
	}
	return least, most, grain
}

// With returns the dose with another planned value; what is done in the other
// sense keeps its proportion.
func (d Dose) With(planned int) Dose {
	d.Reverse = d.reversed(planned)
	d.Planned = planned
	return d
}

// reversed is how many of so many are done in the other sense.
func (d *Dose) reversed(planned int) int {
	if d.Reverse > 0 && d.Planned > 0 {
		return max(1, (2*d.Reverse*planned+d.Planned)/(2*d.Planned))
	}
	return d.Reverse
}

// SideSeconds is how long the dose takes on one side, without the hold on the
// last repetition, with rep seconds a repetition.
func (d Dose) SideSeconds(rep float64) float64 { return d.SideSecondsOf(d.Planned, rep) }

// SideSecondsOf is [Dose.SideSeconds] of the dose with another planned value; see [Dose.With].
func (d *Dose) SideSecondsOf(planned int, rep float64) float64 {
	sets := float64(max(d.Sets, 1))
	n := float64(planned)
	switch d.Kind {
	case Reps:
		return sets*(n+float64(d.reversed(planned)))*rep + (sets-1)*d.Rest
	case Breaths:
		return sets*n*(d.In+d.Pause+d.Out) + (sets-1)*d.Rest
	case Counts:
		return sets*n*d.Seconds + (sets-1)*d.Rest
	case Positions:
		return float64(d.Places) * d.Seconds * float64(max(d.Senses, 1)) * n
	default:
		return sets*n + (sets-1)*d.Rest
	}
}

// Validate reports every problem of the dose, each with its field path below at.
func (d Dose) Validate(at string) []problem.Fault {
	var ps []problem.Fault
	bad := func(field string, s words.Sentence) {
		ps = append(ps, problem.Fault{Path: at + field, Sentence: s})
	}
	switch d.Kind {
	case Inherited:
		return nil
	case Reps, Clock, Until, Free, Unknown:
	case Breaths:
		if d.In+d.Out <= 0 {
			bad("/out", words.BreathsNeedTheSecondsInAndOut())
		}
	case Counts:
		if d.Seconds <= 0 {
			bad("/seconds", words.CountsNeedTheirSeconds())
		}
	case Positions:
		if d.Places < 1 || d.Seconds <= 0 {
			bad("/places", words.PointsNeedTheirNumberSecondsAtEach())
		}
	default:
		bad("/kind", words.ThereIsNoKindOfRepetitionsKind(d.Kind))
		return ps
	}
	if d.Planned < 1 {
		bad("/planned", words.PlanAtLeast1Repetition())
	}
	if d.Min > d.Planned {
		bad("/min", words.LeastMinAboveWhatPlannedPlanned(d.Min, d.Planned))
	}
	if d.Max != 0 && d.Max < d.Planned {
		bad("/max", words.MostMaxBelowWhatPlannedPlanned(d.Max, d.Planned))
	}
	if d.Planned > 3600 || d.Sets > 20 {
		bad("/planned", words.PlanAtMost3600())
	}
	if d.Ceiling != 0 && d.Planned > d.Ceiling {
		bad("/ceiling", words.WhatPlannedPlannedAboveMaximumCeiling(d.Planned, d.Ceiling))
	}
	if d.Reverse > 0 && d.Kind != Reps {
		bad("/reverse", words.OnlyCountedRepetitionsCanBeReversed())
	}
	for _, s := range []float64{d.Rest, d.In, d.Pause, d.Out, d.Seconds} {
		if s < 0 || s > 3600 || s != s {
			bad("/kind", words.SecondsGoFrom0To3600())
			break
		}
	}
	if d.Places > 100 || d.Senses > 2 || d.Places < 0 || d.Senses < 0 || d.Sets < 0 || d.Reverse < 0 || d.Reverse > 3600 {
		bad("/kind", words.NumberRepetitionsTooSmallOrTooLarge())
	}
	return ps
}
