package guide

import (
	"fmt"
	"math"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
)

// SpellKey names one working of a step: the step and which time.
func SpellKey(step string, pass int) string { return fmt.Sprintf("%s/%d", step, pass) }

// PlannedSpells are the spells of a plan, in their order.
func PlannedSpells(e *evaluation.Evaluation) []PlannedSpell {
	out := make([]PlannedSpell, len(e.Occurrences))
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		out[i] = PlannedSpell{
			Key: SpellKey(r.ID, o.Number), Step: r.ID, Stroke: r.StrokeKey, Dose: string(r.Dose.Kind), Working: r.Working, Lead: o.Lead,
		}
	}
	return out
}

const (
	fullSlip = 100
	// addedFilm is the slip that an added product of an amount nobody said brings (handbook, chapter 7).
	addedFilm       = 25
	secondsOfMinute = 60
)

// SlippingsOf reads applications, sliding spells and removals off a plan and the room's log. A half-life is in minutes
// on this skin, 0 for a product that has none.
func SlippingsOf(e *evaluation.Evaluation, l *Log, halfLife func(product string) float64) *Slippings {
	story, _ := l.Story(PlannedSpells(e))
	out := &Slippings{End: story.Total / secondsOfMinute, Applications: []Applied{}, Sliding: []SlidEnd{}}
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		r := &e.Steps[o.Step]
		key := SpellKey(r.ID, o.Number)
		begun, ok := story.Begun[key]
		if !ok {
			continue
		}
		on := regionsOf(r)
		if r.Use != nil && r.Use.Key != "" {
			from := o.SlipStart
			if from <= 0 {
				from = fullSlip
			}
			out.Applications = append(out.Applications, Applied{
				Minute: (begun + o.Lead) / secondsOfMinute, Product: r.Use.Key, Regions: on, Planned: true, Slip: min(fullSlip, from),
			})
		}
		ended, left := story.Ended[key]
		if !left {
			continue
		}
		if slides(r) {
			for _, region := range on {
				need := o.NeedLeast
				out.Sliding = append(out.Sliding, SlidEnd{End: ended / secondsOfMinute, Region: region, Need: &need})
			}
		}
		if r.Remove != "" {
			out.Removals = append(out.Removals, Removed{Minute: ended / secondsOfMinute, Regions: on, Blot: r.Remove == "blot"})
		}
	}
	out.add(e, l, &story, halfLife)
	return out
}

// add puts in what was added by the way: where the hands were, on top of what was left there.
func (s *Slippings) add(e *evaluation.Evaluation, l *Log, story *Story, halfLife func(string) float64) {
	events, _, _ := InOrder(l.Arrived)
	at := spellsAt(events)
	for i := range events {
		m := &events[i]
		when, counts := story.Marked[m.ID]
		zone, known := anatomy.Lookup(m.Zone)
		if m.Kind != Product || !counts || !known || m.Product == "" {
			continue
		}
		region := string(zone.Zone().Region)
		minute := when / secondsOfMinute
		a := Applied{Minute: minute, Product: m.Product, Regions: []string{region}, Region: region, Slip: min(fullSlip, s.left(m.Product, region, minute, halfLife(m.Product))+addedFilm)}
		if need, ok := needOf(e, at[m.ID]); ok {
			a.Need = &need
		}
		s.Applications = append(s.Applications, a)
	}
}

// spellsAt is the spell in which each event happened.
func spellsAt(events []Event) map[string]string {
	out, now := map[string]string{}, ""
	for i := range events {
		if events[i].Kind == Begin {
			now = events[i].Spell
		}
		out[events[i].ID] = now
	}
	return out
}

// needOf is the slip that the stroke of a spell needs; false where it does not slide.
func needOf(e *evaluation.Evaluation, key string) (float64, bool) {
	for i := range e.Occurrences {
		o := &e.Occurrences[i]
		if r := &e.Steps[o.Step]; SpellKey(r.ID, o.Number) == key {
			return o.NeedLeast, slides(r)
		}
	}
	return 0, false
}

// left is the slip that a product still has on a region at a minute.
func (s *Slippings) left(product, region string, minute, halfLife float64) float64 {
	if halfLife <= 0 {
		return 0
	}
	slip := 0.0
	for i := range s.Applications {
		a := &s.Applications[i]
		if a.Product == product && a.Minute <= minute && slices.Contains(a.Regions, region) {
			slip = a.Slip * math.Exp2(-(minute-a.Minute)/halfLife)
		}
	}
	return slip
}

// slides reports whether a step slides over product and so tells how long it lasts.
func slides(r *evaluation.Resolved) bool {
	return r.Relation == stroke.Slides && (r.Glide == stroke.SlideGlide || r.Glide == stroke.StoneGlide || r.Glide == stroke.KneadGlide)
}

// regionsOf are the regions that a step's path runs through.
func regionsOf(r *evaluation.Resolved) []string {
	out := []string{}
	for i := range r.Path {
		if id, ok := anatomy.Lookup(r.Path[i].Zone); ok && !slices.Contains(out, string(id.Zone().Region)) {
			out = append(out, string(id.Zone().Region))
		}
	}
	return out
}

// PutOn are the regions on which each product of a plan was put, skipped steps left out, with what was added by the way.
func PutOn(e *evaluation.Evaluation, l *Log) map[string][]string {
	out := map[string][]string{}
	state := l.Merge()
	add := func(product string, regions ...string) {
		for _, r := range regions {
			if product != "" && !slices.Contains(out[product], r) {
				out[product] = append(out[product], r)
			}
		}
	}
	for i := range e.Steps {
		if r := &e.Steps[i]; r.Use != nil && !slices.Contains(state.Skipped, r.ID) {
			add(r.Use.Key, regionsOf(r)...)
		}
	}
	for _, m := range state.Marks {
		if id, ok := anatomy.Lookup(m.Zone); ok && m.Kind == Product {
			add(m.Product, string(id.Zone().Region))
		}
	}
	return out
}
