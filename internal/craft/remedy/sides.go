package remedy

import (
	"fmt"
	"maps"
	"slices"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// paired reports whether a step works both sides in a way that can be split.
func paired(r *evaluation.Resolved) bool {
	return (r.Sides == stroke.BothAtOnce || r.Sides == stroke.InTurns) && (r.Phase == "work" || r.Phase == "exercises") &&
		r.Source.Round == "" &&
		len(r.Path) > 0
}

// oneSideFirst splits every run of work into one side, a comparison, and the
// other side mirroring the first. Work on the midline stays before its run.
func oneSideFirst(q *protocol.Protocol, ctx *protocol.Context) error {
	e := evaluation.EvaluateTimeline(q, ctx)
	look := ""
	for _, k := range slices.Sorted(maps.Keys(ctx.Strokes)) {
		if st := ctx.Strokes[k]; st.Intent == stroke.LookOver && len(st.Path) == 0 {
			look = k
			break
		}
	}
	var out []protocol.Step
	taken := func(id string) bool {
		return q.Index(id) >= 0 || slices.ContainsFunc(out, func(s protocol.Step) bool { return s.ID == id })
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
		var first []protocol.Step
		j := i
		for j < len(q.Steps) && (q.Steps[j].Phase == "work" || q.Steps[j].Phase == "exercises") && q.Steps[j].Round == "" {
			if r := &e.Steps[j]; paired(r) {
				s := q.Steps[j]
				s.Sides = stroke.Sides(q.WorkedSide(true).String())
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
			out = append(out, protocol.Step{ID: fresh("compare"), Stroke: look, Phase: "compare"})
		}
		for _, s := range first {
			m := s
			m.ID, m.MirrorOf, m.Sides = fresh(s.ID+"-b"), s.ID, stroke.Sides(q.WorkedSide(false).String())
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
		return words.PlanHasNoWorkOnBothSides()
	}
	q.Steps = out
	q.Method.Sides = "whole-side"
	return nil
}

// sidesTogether joins steps and their mirrors into one step that works both
// sides, in turn or at once.
func sidesTogether(q *protocol.Protocol, ctx *protocol.Context, how stroke.Sides) error {
	e := evaluation.EvaluateTimeline(q, ctx)
	mirrored := map[string]bool{}
	for i := range q.Steps {
		if m := q.Steps[i].MirrorOf; m != "" {
			mirrored[m] = true
		}
	}
	changed := false
	var out []protocol.Step
	for i := range q.Steps {
		s, r := q.Steps[i], &e.Steps[i]
		switch {
		case s.MirrorOf != "" && q.Index(s.MirrorOf) >= 0 && s.Departure == "":
			changed = true
			continue
		case mirrored[s.ID] && r.Sides != stroke.InTurns, paired(r) && r.Sides != how:
			if how == stroke.BothAtOnce && (r.Anchor != nil || r.TouchesNeck() && r.Pressure > 1 || r.Tool != nil) {
				s.Sides = stroke.InTurns // one hand is busy, or both carotids would be pressed
			} else {
				s.Sides = how
			}
			changed = changed || s.Sides != r.Sides
		}
		out = append(out, s)
	}
	if !changed {
		return words.EveryStepIsWorkedSoAlready()
	}
	q.Steps = out
	q.Method.Sides = map[stroke.Sides]string{stroke.InTurns: "each-step", stroke.BothAtOnce: ""}[how]
	return nil
}

// copyMirror makes step m do on its side what step of does on the other.
func copyMirror(q *protocol.Protocol, m, of int) {
	s := q.Steps[of]
	was := q.Steps[m]
	s.ID, s.MirrorOf, s.Sides, s.Phase, s.Departure = was.ID, was.MirrorOf, was.Sides, was.Phase, ""
	q.Steps[m] = s
}

func mirrorSides(q *protocol.Protocol) (departures []string, err error) {
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
		return nil, words.NoStepMirrorsAnotherWorkOneSide()
	}
	return departures, nil
}

// mirrorStep adds, after each one-sided step that has no counterpart, the same
// step on the other side.
func (x *fixer) mirrorStep() error {
	mirrored := map[string]bool{}
	for i := range x.q.Steps {
		mirrored[x.q.Steps[i].MirrorOf] = true
	}
	for i := len(x.q.Steps) - 1; i >= 0; i-- {
		r, s := &x.e.Steps[i], x.q.Steps[i]
		if r.Sides != stroke.LeftOnly && r.Sides != stroke.RightOnly || mirrored[s.ID] || s.MirrorOf != "" {
			continue
		}
		m := s
		m.ID, m.MirrorOf = x.q.NewID(s.ID), s.ID
		m.Sides = stroke.RightOnly
		if r.Sides == stroke.RightOnly {
			m.Sides = stroke.LeftOnly
		}
		x.q.Insert(i+1, m)
	}
	return nil
}
