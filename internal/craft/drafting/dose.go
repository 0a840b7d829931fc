package drafting

import (
	"math"
	"slices"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// dose gives every stroke of the work its planned dose: the concerns' strokes share their part of the
// time, the others the rest. A stroke may last longer than in the library, at the eye it may not.
func (d *drafting) dose(p *protocol.Protocol) {
	e := evaluation.EvaluateTimeline(p, d.ctx)
	work, on, others := 0.0, 0, 0
	for i := range e.Steps {
		if r := &e.Steps[i]; r.Phase == "work" {
			work += float64(r.Seconds)
			switch {
			case d.isOn(r.StrokeKey):
				on++
			case p.Steps[i].Use == nil && r.Family != stroke.Hygiene:
				others++
			}
		}
	}
	room := float64(d.q.Minutes*60) - (e.Seconds - work)
	share := d.share
	switch {
	case on == 0:
		share = 0
	case others == 0:
		share = 1
	}
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Phase != "work" || r.Family == stroke.Hygiene || p.Steps[i].Use != nil {
			continue
		}
		goal, limit := room*(1-share)/float64(max(1, others)), longest
		if d.isOn(r.StrokeKey) {
			goal = room * share / float64(max(1, on))
			limit += further * (d.share - firstShare) / shareStep
		}
		if d.partOf(r.StrokeKey) == carryingHome {
			limit = homeward
		}
		p.Steps[i].Dose = lasting(r, goal, limit)
	}
}

// partOf is where in the arc a chosen stroke stands.
func (d *drafting) partOf(key string) part {
	for _, x := range d.chosen {
		if x.st.Key == key {
			return x.part
		}
	}
	return working
}

func (d *drafting) isOn(key string) bool {
	return slices.ContainsFunc(d.chosen, func(x pick) bool { return x.st.Key == key && x.on })
}

// longest a stroke lasts in a draft, in seconds, and how much longer at every try that of a
// concern's own strokes where they are few; a stroke of both sides in turn lasts a third longer.
const (
	longest = 120.0
	further = 50.0
	turning = 1.3
	// homeward is how long the way home takes at most.
	homeward = 70.0
)

// lasting is the step's dose that comes nearest to some seconds.
func lasting(r *evaluation.Resolved, seconds, limit float64) *stroke.Dose {
	dose := *r.Dose
	if dose.Kind != stroke.Reps && dose.Kind != stroke.Clock && dose.Kind != stroke.Breaths {
		return r.Source.Dose
	}
	if r.Sides == stroke.InTurns {
		limit *= turning
	}
	seconds = math.Min(seconds, limit)
	eye := slices.ContainsFunc(r.Path, func(s evaluation.Stop) bool { return evaluation.EyeShare(s.Zone) != "" })
	most := r.Most
	if !eye && r.Family != "static hold" && dose.Kind != stroke.Breaths {
		most = max(most, r.Least*20)
	}
	best := r.Least
	for n := r.Least; n <= most; n += max(1, r.Grain) {
		if math.Abs(r.WorkingSeconds(n)-seconds) < math.Abs(r.WorkingSeconds(best)-seconds) {
			best = n
		}
	}
	dose.Planned = best
	dose.Max = max(dose.Max, best+max(1, best/3))
	if eye || r.Family == "static hold" || dose.Kind == stroke.Breaths {
		dose.Max = r.Dose.Max
	}
	dose.Min = min(max(r.Dose.Min, best/2), best)
	return &dose
}
