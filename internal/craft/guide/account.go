package guide

import (
	"cmp"
	"math"
	"slices"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
)

// Account is how a treatment went beside its plan, for its record. Seconds are of hands-on time, leads left out.
type Account struct {
	Planned float64 `json:"planned"`
	Real    float64 `json:"real"`
	// Paused seconds, in so many pauses.
	Paused float64       `json:"paused"`
	Pauses int           `json:"pauses"`
	Phases []PhaseTime   `json:"phases"`
	Left   SideTime      `json:"left"`
	Right  SideTime      `json:"right"`
	Spells []SpellRecord `json:"spells"`
	Marks  []MarkRecord  `json:"marks"`
	// Less is how often lighter work was asked for, Quiet that the client slept.
	Less    int  `json:"less"`
	Quiet   bool `json:"quiet"`
	Stopped bool `json:"stopped"`
	// Stops are where Stop was pressed.
	Stops []StopRecord `json:"stops"`
	// Refit is the re-fit that was taken last.
	Refit  *TakenRefit        `json:"refit,omitempty"`
	Grades map[string]float64 `json:"grades"`
	// Aside are entries of a tablet that did not lead, Missing the numbers that have not arrived, by tablet.
	Aside   int              `json:"aside"`
	Missing map[string][]int `json:"missing"`
	Faults  int              `json:"faults"`
}

// PhaseTime is a phase of the plan: planned and real seconds.
type PhaseTime struct {
	Phase   string  `json:"phase"`
	Planned float64 `json:"planned"`
	Real    float64 `json:"real"`
}

// SideTime is work on one side: planned and real seconds.
type SideTime struct {
	Planned float64 `json:"planned"`
	Real    float64 `json:"real"`
}

// SpellRecord is a spell of the plan as it went.
type SpellRecord struct {
	Spell   string  `json:"spell"`
	Name    string  `json:"name"`
	Start   float64 `json:"start"` // plan second
	Planned float64 `json:"planned"`
	Real    float64 `json:"real"`
	// RealStart is the second of hands-on time at which its hands were on, its lead over.
	RealStart float64 `json:"realStart"`
	Begun     bool    `json:"begun"`
	Stayed    int     `json:"stayed,omitempty"`
	Skipped   bool    `json:"skipped,omitempty"`
	Paused    bool    `json:"paused,omitempty"`
	Estimated bool    `json:"estimated,omitempty"`
}

// StopRecord is a press of Stop: the minute of hands-on time, the step by name, and where the hands were.
type StopRecord struct {
	Minute float64                     `json:"minute"`
	Step   string                      `json:"step"`
	Zones  []contraindication.ZoneSide `json:"zones"`
}

// MarkRecord is a mark with the minute of hands-on time at which it was made.
type MarkRecord struct {
	Kind    Kind    `json:"kind"`
	Zone    string  `json:"zone"`
	Side    string  `json:"side"`
	Product string  `json:"product,omitempty"`
	Minute  float64 `json:"minute"`
}

// AccountOf tells how a treatment went beside its plan.
func AccountOf(e *evaluation.Evaluation, l *Log) *Account {
	plan := PlannedSpells(e)
	story, times := l.Story(plan)
	standing := l.Standing()
	state := l.Merge()
	a := &Account{
		Paused: round(story.Paused), Pauses: story.Pauses, Phases: []PhaseTime{}, Spells: []SpellRecord{}, Marks: []MarkRecord{},
		Stops: []StopRecord{},
		Less:  state.Less, Quiet: standing.Quiet, Stopped: state.Stopped, Refit: state.Refit, Grades: state.Grades,
		Aside: len(state.Aside), Missing: state.Missing, Faults: len(state.Faults),
	}
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		s := SpellRecord{Spell: plan[i].Key, Name: r.Name, Start: o.Start, Planned: o.End - o.Start, Stayed: state.Stays[plan[i].Key]}
		s.Skipped = slices.Contains(state.Skipped, r.ID)
		if k := slices.IndexFunc(times, func(t SpellTime) bool { return t.Key == plan[i].Key }); k >= 0 {
			s.RealStart = round(story.Begun[plan[i].Key] + o.Lead)
			s.Begun, s.Real, s.Paused, s.Estimated = true, round(times[k].Real), times[k].Paused, times[k].Estimated
		}
		a.Spells = append(a.Spells, s)
		a.Planned += s.Planned
		a.Real += s.Real
		a.phase(string(r.Phase), &s)
		a.sides(o, &s)
	}
	a.Planned, a.Real = round(a.Planned), round(a.Real)
	for _, m := range state.Marks {
		a.Marks = append(a.Marks, MarkRecord{m.Kind, m.Zone, m.Side, m.Product, round(story.Marked[m.ID] / secondsOfMinute)})
	}
	for _, s := range story.Stops {
		a.Stops = append(a.Stops, stopOf(e, plan, &s))
	}
	slices.SortStableFunc(a.Marks, func(x, y MarkRecord) int { return cmp.Compare(x.Minute, y.Minute) })
	return a
}

// stopOf is a press of Stop with the step and the zones under the hands.
func stopOf(e *evaluation.Evaluation, plan []PlannedSpell, s *storyStop) StopRecord {
	out := StopRecord{Minute: round(s.At / secondsOfMinute), Zones: []contraindication.ZoneSide{}}
	i := slices.IndexFunc(plan, func(p PlannedSpell) bool { return p.Key == s.Spell })
	if i < 0 {
		return out
	}
	o := &e.Occurrences[i]
	r := &e.Steps[o.Step]
	out.Step = r.Name
	side := "both"
	for k := range o.SideRuns {
		run := &o.SideRuns[k]
		if at := o.Start - o.Lead + s.Into; k == 0 || at >= run.Start {
			side = "both"
			if run.Side == "left" || run.Side == "right" {
				side = string(run.Side)
			}
		}
	}
	for k := range r.Path {
		z := contraindication.ZoneSide{Zone: r.Path[k].Zone, Side: side}
		if !slices.Contains(out.Zones, z) {
			out.Zones = append(out.Zones, z)
		}
	}
	return out
}

func (a *Account) phase(phase string, s *SpellRecord) {
	i := slices.IndexFunc(a.Phases, func(p PhaseTime) bool { return p.Phase == phase })
	if i < 0 {
		i = len(a.Phases)
		a.Phases = append(a.Phases, PhaseTime{Phase: phase})
	}
	a.Phases[i].Planned = round(a.Phases[i].Planned + s.Planned)
	a.Phases[i].Real = round(a.Phases[i].Real + s.Real)
}

// sides parts a spell's time between left and right, as its plan does.
func (a *Account) sides(o *evaluation.Occurrence, s *SpellRecord) {
	left, right, all := 0.0, 0.0, 0.0
	for _, run := range o.SideRuns {
		all += run.Seconds
		switch run.Side {
		case "left":
			left += run.Seconds
		case "right":
			right += run.Seconds
		}
	}
	if all <= 0 {
		return
	}
	a.Left.Planned = round(a.Left.Planned + left)
	a.Right.Planned = round(a.Right.Planned + right)
	a.Left.Real = round(a.Left.Real + s.Real*left/all)
	a.Right.Real = round(a.Right.Real + s.Real*right/all)
}

func round(x float64) float64 { return math.Round(10*x) / 10 }
