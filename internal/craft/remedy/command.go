package remedy

import (
	"slices"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// Command names a change of a whole plan; see [RunCommand].
type Command string

// The commands.
const (
	// ReverseTheOpening makes the closing of the opening in reverse order; what is
	// drained first is kept.
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

// CommandRequest is a command with what it needs: ShortenTo the concern, and Seconds of
// hands-on time for it and FitTo (0 is the plan's own slot).
type CommandRequest struct {
	Command Command `json:"command" enum:"reverse-opening,one-side-first,in-turns,both-at-once,mirror,shorten-to,smoother-order,fit-to"`
	Concern string  `json:"concern,omitempty" maxLength:"60"`
	Seconds int     `json:"seconds,omitempty" minimum:"0" maximum:"28800"`
}

// CommandResult is the outcome of a command. Departures lists steps of the second side
// that keep a difference from the first because they say so; MissBy is as in
// [Fitted].
type CommandResult struct {
	Protocol   *protocol.Protocol  `json:"protocol"`
	Comparison protocol.Comparison `json:"comparison"`
	Departures []string            `json:"departures"`
	MissBy     int                 `json:"missBy"`
	InTheWay   []string            `json:"inTheWay"`
}

// RunCommand runs a command and returns a new protocol; p is not changed. The error says
// in a sentence why there is nothing to do.
func RunCommand(p *protocol.Protocol, ctx *protocol.Context, o CommandRequest) (*CommandResult, error) {
	q := p.Clone()
	d := &CommandResult{Departures: []string{}, InTheWay: []string{}}
	var err error
	seconds := o.Seconds
	if seconds == 0 {
		seconds = p.Minutes.HandsOnTotal()
	}
	fit := func() {
		f := fitting.Fit(q, ctx, seconds)
		q, d.MissBy = f.Protocol, f.MissBy
		d.InTheWay = append(d.InTheWay, f.InTheWay...)
		q.Minutes.HandsOn = max(1, (seconds+59)/60)
		q.Minutes.Treatment = max(q.Minutes.Treatment-p.Minutes.HandsOn+q.Minutes.HandsOn, q.Minutes.HandsOn)
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
			err = words.NoOrderThatKeepsOtherRulesFlows()
		}
	case FitTo:
		fit()
	default:
		err = words.ThereIsNoCommandCommand(o.Command)
	}
	if err != nil {
		return nil, err
	}
	d.Protocol, d.Comparison = q, protocol.Compare(p, q)
	return d, nil
}

// reverseOpening puts the opening strokes, last first, at the end of the closing
// in place of those that are there.
func reverseOpening(q *protocol.Protocol, ctx *protocol.Context) error {
	var opening []protocol.Step
	kept := q.Steps[:0:0]
	at := -1
	for i := range q.Steps {
		s := q.Steps[i]
		opens := ctx.StrokeOf(s.Stroke).Intent == stroke.Open
		if opens && s.Phase == "open" {
			opening = append(opening, s)
		}
		if opens && s.Phase == "close" {
			continue
		}
		kept = append(kept, s)
		if slices.Index(protocol.Phases, s.Phase) <= slices.Index(protocol.Phases, protocol.Phase("close")) {
			at = len(kept)
		}
	}
	if len(opening) == 0 {
		return words.ThePlanHasNoOpeningToReverse()
	}
	q.Steps = kept
	for i := range opening {
		s := opening[i]
		s.ID, s.Phase, s.Round, s.MirrorOf = q.NewID(s.ID), "close", "", ""
		q.Insert(at, s) // each before the one put in last: the order turns round
	}
	return nil
}

// shortenTo takes out the work that does not serve a concern.
func shortenTo(q *protocol.Protocol, ctx *protocol.Context, key string) error {
	c := protocol.ConcernOf(key)
	if c == nil {
		return words.ThereIsNoConcernKey(key)
	}
	e := evaluation.EvaluateTimeline(q, ctx)
	var out []protocol.Step
	served := 0
	for i := range q.Steps {
		s, r := q.Steps[i], &e.Steps[i]
		if s.Phase == "work" || s.Phase == "exercises" {
			zones := slices.ContainsFunc(r.Path, func(st evaluation.Stop) bool { return slices.Contains(c.Zones, st.Zone) })
			if !zones && !(r.Intent == stroke.Drain && r.Path[len(r.Path)-1].ZoneID().Zone().Node.IsRouteEnd()) {
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
		return words.NoStepPlanWorksZonesThatConcern()
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
