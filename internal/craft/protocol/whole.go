package protocol

import (
	"math"
	"reflect"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// This file judges a plan as a whole: sides, order, phases, promises, flow.

// balance compares the seconds given to left and right; work on the midline or
// both sides at once counts for neither.
func (e *Evaluation) balance() {
	stated := false
	var steps []string
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if r.step.Emphasis != nil || r.step.Departure != "" && r.Sides != stroke.InTurns {
			stated = true
		}
		for i := range v.Passes {
			switch v.Passes[i].side {
			case anatomy.Left:
				e.LeftSeconds += v.Passes[i].Seconds
			case anatomy.Right:
				e.RightSeconds += v.Passes[i].Seconds
			default:
				continue
			}
			if r.Sides != stroke.InTurns && !contains(steps, r.ID) {
				steps = append(steps, r.ID)
			}
		}
	}
	most := max(e.LeftSeconds, e.RightSeconds)
	if most == 0 || stated || (most-min(e.LeftSeconds, e.RightSeconds))/most <= 0.10 {
		return
	}
	var fixes []Fix
	if len(steps) > 0 {
		fixes = []Fix{MirrorStep}
	}
	e.add(SidesUnequal, Warning, CommonPractice, values{"left": math.Round(e.LeftSeconds), "right": math.Round(e.RightSeconds)}, fixes, steps...)
}

// FitGrace is how many seconds short of its slot a plan may stay.
const FitGrace = 15

func (e *Evaluation) fit() {
	over := e.Seconds - float64(e.SlotSeconds)
	vals := values{"seconds": math.Round(math.Abs(over)), "slot": e.SlotSeconds}
	switch {
	case over > 0.5:
		e.add(FitOver, Warning, Plan, vals, []Fix{FitSlot})
	case over < -FitGrace-0.5 && len(e.Steps) > 0:
		e.add(FitUnder, Note, Plan, vals, []Fix{FitSlot})
	}
}

// Sliding seconds a treatment may spend on each eye (handbook, chapter 3: a
// studio's defaults). Holds, cold rest and masks do not count.
const (
	UnderEyeSeconds   = 90.0
	OrbitalRimSeconds = 240.0
)

// EyeLimit is the sliding seconds allowed on a zone per eye; 0 for no limit.
func EyeLimit(zone string) float64 {
	switch zone {
	case "under-eye":
		return UnderEyeSeconds
	case "orbital-rim":
		return OrbitalRimSeconds
	}
	return 0
}

// slidingShare is the part of the step's time in which hands or tools slide.
func (r *Resolved) slidingShare() float64 {
	if r.Relation != stroke.Slides || r.Family == stroke.ToolRoll && r.Relation != stroke.Slides {
		return 0
	}
	if r.rep > 0 && r.Dose.CountsReps() {
		return 1 - holdSeconds(r.Parts)/r.rep
	}
	return 1
}

func holdSeconds(parts []stroke.Part) float64 {
	sum := 0.0
	for i := range parts {
		if parts[i].Kind == stroke.Hold || parts[i].Kind == stroke.Swap {
			sum += parts[i].Seconds * float64(max(parts[i].Count, 1))
		}
	}
	return sum
}

// load adds up what each zone gets on each side and judges the eyes.
func (e *Evaluation) load() {
	var at [3][anatomy.Count]Load
	for vi := range e.Visits {
		v := &e.Visits[vi]
		r := &e.Steps[v.Step]
		if len(r.Path) == 0 {
			continue
		}
		sliding := r.slidingShare()
		for pi := range v.Passes {
			ps := &v.Passes[pi]
			secs := ps.Seconds / float64(len(r.Path))
			for i := range r.Path {
				id := r.Path[i].id
				on := func(side anatomy.Side) {
					l := &at[side][id]
					l.Seconds += secs
					l.Sliding += secs * sliding
					l.Load += secs / 60 * float64(r.Path[i].Pressure)
				}
				switch {
				case !id.Zone().Paired:
					on(anatomy.Mid)
				case r.Path[i].Side != "":
					on(r.Path[i].side)
				case ps.side == anatomy.Mid:
					on(anatomy.Left)
					on(anatomy.Right)
				default:
					on(ps.side)
				}
			}
		}
	}
	n := 0
	for side := range at {
		for id := range at[side] {
			if at[side][id].Seconds > 0 {
				n++
			}
		}
	}
	e.Loads = make([]Load, 0, n)
	for id := range at[0] {
		for side := range at {
			l := at[side][id]
			if l.Seconds == 0 {
				continue
			}
			l.Zone, l.Side = anatomy.Zones[id].Key, anatomy.Side(side).String()
			e.Loads = append(e.Loads, l)
			if limit := EyeLimit(l.Zone); limit > 0 && l.Sliding > limit+0.5 {
				e.eyeLoad(&l, limit)
			}
		}
	}
	e.mergeSides()
}

func (e *Evaluation) eyeLoad(l *Load, limit float64) {
	step := ""
	for i := range e.Steps {
		if e.Steps[i].on(l.Zone) && e.Steps[i].slidingShare() > 0 {
			step = e.Steps[i].ID
		}
	}
	e.add(EyeLoad, Warning, StudioLimit, values{"zone": l.Zone, "seconds": math.Round(l.Sliding), "most": limit, "side": l.Side}, []Fix{LessLoad}, step)
}

// mirrors compares the second side with the first: what differs must say so.
func (e *Evaluation) mirrors(p *Protocol) {
	for i := range p.Steps {
		m := &p.Steps[i]
		r := &e.Steps[i]
		if m.MirrorOf != "" && m.Departure == "" {
			if k := p.Index(m.MirrorOf); k >= 0 && !e.Steps[k].mirrors(r) {
				e.add(MirrorOther, Note, SchoolRule, values{"of": m.MirrorOf}, []Fix{CopyMirror, SayDeparture}, m.ID)
			}
		}
		if r.Phase != "work" || m.Departure != "" || len(r.Path) == 0 {
			continue
		}
		wrong := false
		switch p.School.Sides {
		case "both":
			wrong = r.Sides == stroke.InTurns
		case "each-step":
			wrong = r.Sides == stroke.BothAtOnce
		case "whole-side":
			wrong = r.Sides == stroke.BothAtOnce || r.Sides == stroke.InTurns
		}
		if wrong {
			e.add(SidesSchool, Note, SchoolRule, values{"sides": string(r.Sides), "school": p.School.Sides}, []Fix{SayDeparture}, m.ID)
		}
	}
}

// mirrors reports whether m does on its side what r does on the other.
func (r *Resolved) mirrors(m *Resolved) bool {
	if r.stroke != m.stroke || r.Working != m.Working || r.Hand != m.Hand || !reflect.DeepEqual(r.Tool, m.Tool) || len(r.Path) != len(m.Path) || *r.Dose != *m.Dose {
		return false
	}
	for i := range r.Path {
		if r.Path[i].Zone != m.Path[i].Zone || r.Path[i].Pressure != m.Path[i].Pressure {
			return false
		}
	}
	return true
}

// closingOrder compares the closing with the opening in reverse, where the
// school asks for that.
func (e *Evaluation) closingOrder(p *Protocol) {
	if p.School.Closing != "reverse" || !p.School.closes() || !p.School.opens() {
		return
	}
	var opening, closing []string
	differs := []string{}
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Intent != stroke.Open {
			continue
		}
		if r.Phase == "close" {
			closing = append(closing, r.stroke.Key)
			differs = append(differs, r.ID)
		} else if r.Phase == "open" {
			opening = append([]string{r.stroke.Key}, opening...)
		}
	}
	if len(opening) == 0 || reflect.DeepEqual(opening, closing) {
		return
	}
	e.add(ClosingOther, Note, SchoolRule, values{"want": len(opening), "have": len(closing)}, []Fix{ReverseOpen}, differs...)
}

// usualPhases of work on a client (handbook, chapter 3); the others depend on
// the plan.
var usualPhases = []Phase{"settle", "look-over", "work", "wake"}

func (e *Evaluation) phases(p *Protocol) {
	have := map[Phase]bool{}
	for i := range p.Steps {
		have[p.Steps[i].Phase] = true
	}
	for _, ph := range usualPhases {
		if !have[ph] {
			var fixes []Fix
			if ph != "work" {
				fixes = []Fix{AddPhase}
			}
			e.add(PhaseMissing, Note, CommonPractice, values{"phase": string(ph)}, fixes)
		}
	}
}

// promises looks for zones of the promised concerns that no step works.
func (e *Evaluation) promises(p *Protocol) {
	for _, key := range p.Concerns {
		c := ConcernOf(key)
		if c == nil {
			continue
		}
		var missing []string
		for _, zone := range c.Zones {
			if !e.worksZone(zone) {
				missing = append(missing, zone)
			}
		}
		if len(missing) > 0 {
			e.add(Promise, Warning, CommonPractice, values{"concern": key, "zones": missing}, []Fix{WorkZone})
		}
	}
}

func (e *Evaluation) worksZone(zone string) bool {
	for i := range e.Steps {
		r := &e.Steps[i]
		if (r.Phase == "work" || r.Phase == "exercises" || r.Phase == "open" || r.Phase == "close" || r.Phase == "prepare") && r.on(zone) {
			return true
		}
	}
	return false
}

// Flow limits in a plan: one break of each kind in so many minutes (a studio's
// starting values; common practice is "as few as the work allows").
const (
	LeavesPerMinute = 1.0 / 2.5
	ToolsPerMinute  = 1.0 / 4
	JumpsPerMinute  = 1.0 / 3
)

func (e *Evaluation) flow() {
	minutes := max(e.Seconds/60, 10)
	if float64(e.TimesLeft) <= minutes*LeavesPerMinute+1 && float64(e.ToolChanges) <= minutes*ToolsPerMinute+1 && float64(e.Jumps) <= minutes*JumpsPerMinute+1 {
		return
	}
	e.add(FlowBreaks, Note, StudioLimit, values{"left": e.TimesLeft, "tools": e.ToolChanges, "jumps": e.Jumps}, []Fix{Smoother})
}
