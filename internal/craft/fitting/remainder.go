package fitting

import (
	"math"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// StepsToRefit are the spells of a plan as a re-fit looks at them, in their order; their ids are those that the key
// gives. A step of a round keeps its dose, as do stated times: masks, cold and compresses; sliding round the eyes is
// never made longer, so that its limits are kept. The evaluation is that of the protocol with the context.
func StepsToRefit(p *protocol.Protocol, ctx *protocol.Context, e *evaluation.Evaluation, key func(step string, pass int) string) []RefitStep {
	leaders := map[string]int{} // step id to the first of its group
	for i := range p.Steps {
		s := &p.Steps[i]
		with := s.MirrorOf
		if with == "" {
			with = s.AlternateOf
		}
		leaders[s.ID] = i
		if k, ok := leaders[with]; ok && with != "" && sameRange(&e.Steps[k], &e.Steps[i]) {
			leaders[s.ID] = k
		}
	}
	times := map[int]int{}
	for i := range e.Occurrences {
		times[e.Occurrences[i].Step]++
	}
	out := make([]RefitStep, len(e.Occurrences))
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		s := &p.Steps[o.Step]
		weight := stepWeight(s)
		pace := ctx.PaceOf(r.StrokeKey)
		each := pace * (r.WorkingSeconds(r.Dose.Planned+1) - r.WorkingSeconds(r.Dose.Planned))
		out[i] = RefitStep{
			ID: key(r.ID, o.Number), Planned: r.Dose.Planned, Min: r.Least, Max: r.Most, Grain: r.Grain, Per: each,
			Once: math.Max(0, pace*r.WorkingSeconds(r.Dose.Planned)-each*float64(r.Dose.Planned)), Lead: o.Lead,
			Weight: &weight, Optional: s.Optional, Phase: string(r.Phase), Intent: string(r.Intent),
			Fixed: times[o.Step] > 1 || s.Round != "" || r.Dose.Planned == 0 || stated(r),
		}
		if r.SlidingShare() > 0 && (r.OnEye("under-eye") || r.OnEye("orbital-rim")) {
			out[i].Max = min(out[i].Max, r.Dose.Planned)
		}
		switch {
		case s.Use != nil:
			out[i].Product = s.Use.Product
		case s.Remove != "":
			out[i].Product = s.Remove
		}
		if lead := leaders[s.ID]; times[o.Step] == 1 {
			out[i].Group = p.Steps[lead].ID
		}
	}
	return out
}

// stated reports whether a step's time is one that stands: a mask, cold, a compress.
func stated(r *evaluation.Resolved) bool {
	return r.Dose.Kind == stroke.Clock && (r.Family == stroke.Application || r.ToolKind == "cold" || r.ToolKind == "compress")
}

// PreparedRefit is a re-fit for every number of minutes at the end of one spell.
type PreparedRefit struct {
	// From is the spell at whose end it may be taken; empty before the first.
	From string `json:"from"`
	// By minutes late, from five early to fifteen late: the doses that change, 0 for what is left out, and the
	// seconds that a spell then takes, its lead included.
	Fits map[int]TabletFit `json:"fits"`
}

// TabletFit is a re-fit as a tablet takes it.
type TabletFit struct {
	Doses   map[string]int     `json:"doses"`
	Seconds map[string]float64 `json:"seconds"`
	MissBy  float64            `json:"missBy"`
}

// The minutes for which re-fits are prepared (handbook, chapter 7).
const (
	mostEarly = -5
	mostLate  = 15
)

// Course is how a treatment has gone so far: the doses that spells really had, 0 for those skipped, in order of the
// steps. Missing ones are still to come.
type Course map[string]int

// PrepareRefits works out the re-fits for every spell's end. A second side gets the dose that its first side had.
// Ends are the plan seconds at which the spells end, total those of the plan.
func PrepareRefits(steps []RefitStep, total float64, ends []float64, had Course) ([]PreparedRefit, error) {
	whole, err := (&Remainder{Steps: steps}).refitting()
	if err != nil {
		return nil, err
	}
	out := make([]PreparedRefit, 0, len(steps))
	for k := range len(steps) {
		p := PreparedRefit{Fits: map[int]TabletFit{}}
		boundary := 0.0
		if k > 0 {
			boundary, p.From = ends[k-1], steps[k-1].ID
		}
		// Where no choice reaches across the boundary, what comes after it was worked out with the whole.
		f, at := whole, whole.beginsAt(k)
		if rest, held := restOf(steps, k, had); held || at < 0 {
			if f, err = (&Remainder{Steps: rest}).refitting(); err != nil {
				return nil, err
			}
			at = 0
		}
		for m := mostEarly; m <= mostLate; m++ {
			p.Fits[m] = f.fit(at, total-boundary-60*float64(m))
		}
		out = append(out, p)
	}
	return out, nil
}

// beginsAt is the choice from which on all steps from one on are decided, and no others; -1 where there is none.
func (f *refitting) beginsAt(step int) int {
	for i := range f.choices {
		first := f.choices[i].steps[0]
		switch {
		case first == step:
			return i
		case first > step, f.choices[i].steps[len(f.choices[i].steps)-1] >= step:
			return -1
		}
	}
	return -1
}

// restOf are the steps from one on, with what the first sides had, and whether any had.
func restOf(steps []RefitStep, from int, had Course) (rest []RefitStep, held bool) {
	first := map[string]int{}
	for i := range steps[:from] {
		s := &steps[i]
		dose, ok := had[s.ID]
		if !ok {
			dose = s.Planned
		}
		if s.Group != "" {
			first[s.Group] = dose
		}
	}
	for i := from; i < len(steps); i++ {
		s := steps[i]
		if dose, ok := first[s.Group]; ok && s.Group != "" {
			s.Held, held = &dose, true
		}
		rest = append(rest, s)
	}
	return rest, held
}

// fit is a re-fit as a tablet takes it: only what changes.
func (f *refitting) fit(from int, slot float64) TabletFit {
	r := f.to(from, slot)
	out := TabletFit{Doses: map[string]int{}, Seconds: map[string]float64{}, MissBy: r.MissBy}
	for i := from; i < len(f.choices); i++ {
		for _, at := range f.choices[i].steps {
			s := &f.steps[at]
			dose := r.Doses[s.ID]
			if dose == s.Planned {
				continue
			}
			working := 0.0
			if dose > 0 {
				working = math.Round(s.Per*float64(dose) + s.Once)
			}
			out.Doses[s.ID], out.Seconds[s.ID] = dose, s.Lead+working
		}
	}
	return out
}
