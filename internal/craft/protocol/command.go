package protocol

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/stroke"
)

// Command names a change of a whole plan; see [Do].
type Command string

// The commands.
const (
	// ReverseTheOpening makes the closing of the opening in reverse order; what is
	// carried home first is kept.
	ReverseTheOpening Command = "reverse-opening"
	// OneSideFirst works one whole side, compares, then the other.
	OneSideFirst Command = "one-side-first"
	// InTurnsEach works left and right in turn at each step.
	InTurnsEach Command = "in-turns"
	// BothAtOnceEach works both sides at once wherever the stroke can.
	BothAtOnceEach Command = "both-at-once"
	// MirrorSides makes the second side as the first again, except where a step
	// says that it departs.
	MirrorSides Command = "mirror"
	// ShortenTo leaves only the work that serves a concern and fits the rest to
	// the seconds asked for.
	ShortenTo Command = "shorten-to"
	// SmootherOrder reorders the work so that hands and tools travel less, keeping
	// every other rule.
	SmootherOrder Command = "smoother-order"
	// FitTo fits the plan to the seconds asked for.
	FitTo Command = "fit-to"
)

// Order is a command with what it needs: ShortenTo the concern, and Seconds of
// hands-on time for it and FitTo (0 is the plan's own slot).
type Order struct {
	Command Command `json:"command" enum:"reverse-opening,one-side-first,in-turns,both-at-once,mirror,shorten-to,smoother-order,fit-to"`
	Concern string  `json:"concern,omitempty" maxLength:"60"`
	Seconds int     `json:"seconds,omitempty" minimum:"0" maximum:"28800"`
}

// Done is the outcome of a command. Departures lists steps of the second side
// that keep a difference from the first because they say so; MissBy is as in
// [Fitted].
type Done struct {
	Protocol   *Protocol  `json:"protocol"`
	Comparison Comparison `json:"comparison"`
	Departures []string   `json:"departures"`
	MissBy     int        `json:"missBy"`
	InTheWay   []string   `json:"inTheWay"`
}

// Do runs a command and returns a new protocol; p is not changed. The error says
// in a sentence why there is nothing to do.
func Do(p *Protocol, ctx *Context, o Order) (*Done, error) {
	q := p.Clone()
	d := &Done{Departures: []string{}, InTheWay: []string{}}
	var err error
	seconds := o.Seconds
	if seconds == 0 {
		seconds = p.Minutes.HandsOn * 60
	}
	fit := func() {
		f := Fit(q, ctx, seconds)
		q, d.MissBy = f.Protocol, f.MissBy
		d.InTheWay = append(d.InTheWay, f.InTheWay...)
		q.Minutes.HandsOn = max(1, (seconds+59)/60)
		q.Minutes.Sold = max(q.Minutes.Sold-p.Minutes.HandsOn+q.Minutes.HandsOn, q.Minutes.HandsOn)
	}
	switch o.Command {
	case ReverseTheOpening:
		err = reverseOpening(q, ctx)
	case OneSideFirst:
		err = oneSideFirst(q, ctx)
	case InTurnsEach:
		err = sidesTogether(q, ctx, stroke.InTurns)
	case BothAtOnceEach:
		err = sidesTogether(q, ctx, stroke.BothAtOnce)
	case MirrorSides:
		d.Departures, err = mirrorSides(q)
	case ShortenTo:
		if err = shortenTo(q, ctx, o.Concern); err == nil {
			fit()
		}
	case SmootherOrder:
		if q = smootherOrder(p, ctx); q == nil {
			err = fmt.Errorf("no order that keeps the other rules flows better")
		}
	case FitTo:
		fit()
	default:
		err = fmt.Errorf("there is no command %q", o.Command)
	}
	if err != nil {
		return nil, err
	}
	d.Protocol, d.Comparison = q, Compare(p, q)
	return d, nil
}

// reverseOpening puts the opening strokes, last first, at the end of the closing
// in place of those that stand there.
func reverseOpening(q *Protocol, ctx *Context) error {
	var opening []Step
	kept := q.Steps[:0:0]
	at := -1
	for i := range q.Steps {
		s := q.Steps[i]
		opens := ctx.stroke(s.Stroke).Intent == stroke.Open
		if opens && s.Phase == "open" {
			opening = append(opening, s)
		}
		if opens && s.Phase == "close" {
			continue
		}
		kept = append(kept, s)
		if slices.Index(Phases, s.Phase) <= slices.Index(Phases, Phase("close")) {
			at = len(kept)
		}
	}
	if len(opening) == 0 {
		return fmt.Errorf("the plan has no opening to reverse")
	}
	q.Steps = kept
	for i := range opening {
		s := opening[i]
		s.ID, s.Phase, s.Round, s.MirrorOf = q.newID(s.ID), "close", "", ""
		q.insert(at, s) // each before the one put in last: the order turns round
	}
	return nil
}

// paired reports whether a step works both sides in a way that can be split.
func paired(r *Resolved) bool {
	return (r.Sides == stroke.BothAtOnce || r.Sides == stroke.InTurns) && (r.Phase == "work" || r.Phase == "exercises") && r.step.Round == "" && len(r.Path) > 0
}

// oneSideFirst splits every run of work into one side, a comparison, and the
// other side mirroring the first. Work on the midline stays before its run.
func oneSideFirst(q *Protocol, ctx *Context) error {
	e := outline(q, ctx)
	look := ""
	for _, k := range sortedKeys(ctx.Strokes) {
		if st := ctx.Strokes[k]; st.Intent == stroke.LookOver && len(st.Path) == 0 {
			look = k
			break
		}
	}
	var out []Step
	taken := func(id string) bool {
		return q.Index(id) >= 0 || slices.ContainsFunc(out, func(s Step) bool { return s.ID == id })
	}
	fresh := func(stem string) string {
		id := stem
		for n := 2; taken(id); n++ {
			id = fmt.Sprintf("%s-%d", stem, n)
		}
		return id
	}
	split := false
	for i := 0; i < len(q.Steps); {
		var first []Step
		j := i
		for j < len(q.Steps) && (q.Steps[j].Phase == "work" || q.Steps[j].Phase == "exercises") && q.Steps[j].Round == "" {
			if r := &e.Steps[j]; paired(r) {
				s := q.Steps[j]
				s.Sides = stroke.Sides(q.side(true).String())
				first = append(first, s)
			} else {
				out = append(out, q.Steps[j])
			}
			j++
		}
		if j == i {
			out = append(out, q.Steps[i])
			i++
			continue
		}
		i = j
		if len(first) == 0 {
			continue
		}
		split = true
		out = append(out, first...)
		if look != "" {
			out = append(out, Step{ID: fresh("compare"), Stroke: look, Phase: "compare"})
		}
		for _, s := range first {
			m := s
			m.ID, m.MirrorOf, m.Sides = fresh(s.ID+"-b"), s.ID, stroke.Sides(q.side(false).String())
			m.Use = nil // the product was put on for both sides
			if s.Use != nil {
				m.Use = s.Use
				half := *s.Use
				half.Amount.Value /= 2
				m.Use = &half
				for k := range out {
					if out[k].ID == s.ID {
						out[k].Use = &half
					}
				}
			}
			out = append(out, m)
		}
	}
	if !split {
		return fmt.Errorf("the plan has no work on both sides to split")
	}
	q.Steps = out
	q.School.Sides = "whole-side"
	return nil
}

// sidesTogether joins steps and their mirrors into one step that works both
// sides, in turn or at once.
func sidesTogether(q *Protocol, ctx *Context, how stroke.Sides) error {
	e := outline(q, ctx)
	mirrored := map[string]bool{}
	for i := range q.Steps {
		if m := q.Steps[i].MirrorOf; m != "" {
			mirrored[m] = true
		}
	}
	changed := false
	var out []Step
	for i := range q.Steps {
		s, r := q.Steps[i], &e.Steps[i]
		switch {
		case s.MirrorOf != "" && q.Index(s.MirrorOf) >= 0 && s.Departure == "":
			changed = true
			continue
		case mirrored[s.ID] && r.Sides != stroke.InTurns, paired(r) && r.Sides != how:
			if how == stroke.BothAtOnce && (r.Anchor != nil || r.touchesNeck() && r.Pressure > 1 || r.Tool != nil) {
				s.Sides = stroke.InTurns // one hand is busy, or both carotids would be pressed
			} else {
				s.Sides = how
			}
			changed = changed || s.Sides != r.Sides
		}
		out = append(out, s)
	}
	if !changed {
		return fmt.Errorf("every step is worked so already")
	}
	q.Steps = out
	q.School.Sides = map[stroke.Sides]string{stroke.InTurns: "each-step", stroke.BothAtOnce: ""}[how]
	return nil
}

// copyMirror makes step m do on its side what step of does on the other.
func copyMirror(q *Protocol, m, of int) {
	s := q.Steps[of]
	was := q.Steps[m]
	s.ID, s.MirrorOf, s.Sides, s.Phase, s.Departure = was.ID, was.MirrorOf, was.Sides, was.Phase, ""
	q.Steps[m] = s
}

func mirrorSides(q *Protocol) (departures []string, err error) {
	departures = []string{}
	n := 0
	for i := range q.Steps {
		of := q.Index(q.Steps[i].MirrorOf)
		if q.Steps[i].MirrorOf == "" || of < 0 {
			continue
		}
		n++
		if q.Steps[i].Departure != "" {
			departures = append(departures, q.Steps[i].ID)
			continue
		}
		copyMirror(q, i, of)
	}
	if n == 0 {
		return nil, fmt.Errorf("no step mirrors another. Work one side first, then the other")
	}
	return departures, nil
}

// shortenTo takes out the work that does not serve a concern.
func shortenTo(q *Protocol, ctx *Context, key string) error {
	c := ConcernOf(key)
	if c == nil {
		return fmt.Errorf("there is no concern %q", key)
	}
	e := outline(q, ctx)
	var out []Step
	served := 0
	for i := range q.Steps {
		s, r := q.Steps[i], &e.Steps[i]
		if s.Phase == "work" || s.Phase == "exercises" {
			zones := slices.ContainsFunc(r.Path, func(st Stop) bool { return slices.Contains(c.Zones, st.Zone) })
			if !zones && !(r.Intent == stroke.Drain && r.Path[len(r.Path)-1].id.Zone().Node.Home()) {
				continue
			}
			if zones {
				served++
			}
		}
		if len(s.Path) == 0 && s.Phase == "compare" {
			continue
		}
		out = append(out, s)
	}
	if served == 0 {
		return fmt.Errorf("no step of the plan works the zones of that concern")
	}
	// What may go when time is short: everything but opening, closing and the work.
	for i := range out {
		switch out[i].Phase {
		case "cleanse", "prepare", "look-over", "compare", "finish":
			if out[i].Use == nil && out[i].Remove == "" {
				out[i].Optional = true
			}
		}
	}
	q.Steps = out
	q.Concerns = []string{key}
	return nil
}

// smootherOrder looks for an order of the work with less travel, fewer tool
// changes and fewer times off the face that keeps every other rule: no finding
// it did not have. It returns nil where there is none.
func smootherOrder(p *Protocol, ctx *Context) *Protocol {
	e := Evaluate(p, ctx)
	best, cost := p, e.roughness()
	had := map[string]bool{}
	for _, f := range e.Findings {
		had[f.ID] = true
	}
	movable := func(s *Step) bool {
		return (s.Phase == "work" || s.Phase == "exercises") && s.Round == "" && s.Use == nil && s.Remove == ""
	}
	for range 12 {
		next, nextCost := (*Protocol)(nil), cost
		n := len(best.Steps)
		for i := range n {
			if !movable(&best.Steps[i]) {
				continue
			}
			for j := range n {
				if j == i || !movable(&best.Steps[j]) || !between(best, i, j, movable) {
					continue
				}
				q := best.Clone()
				s := q.Steps[i]
				q.Steps = slices.Insert(slices.Delete(q.Steps, i, i+1), j, s)
				if o := outline(q, ctx); o.roughness() >= nextCost-0.5 {
					continue
				}
				full := Evaluate(q, ctx)
				if slices.ContainsFunc(full.Findings, func(f Finding) bool { return !had[f.ID] && f.Code != FitUnder }) {
					continue
				}
				next, nextCost = q, full.roughness()
			}
		}
		if next == nil {
			break
		}
		best, cost = next, nextCost
	}
	if best == p {
		return nil
	}
	return best
}

// between reports whether everything from i to j may be passed over.
func between(p *Protocol, i, j int, movable func(*Step) bool) bool {
	for k := min(i, j); k <= max(i, j); k++ {
		if !movable(&p.Steps[k]) {
			return false
		}
	}
	return true
}

// roughness is what a smoother order lessens: seconds of travel and changes,
// jumps counting as five more.
func (e *Evaluation) roughness() float64 {
	sum := 5 * float64(e.Jumps)
	for i := range e.Visits {
		sum += e.Visits[i].Lead
	}
	return sum
}
