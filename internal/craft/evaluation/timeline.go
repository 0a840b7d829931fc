package evaluation

import (
	"cmp"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// sidesWorked calls f with each side a pass works: both sides for a pass that
// works both or the midline.
func (v *SideRun) sidesWorked(f func(anatomy.Side)) {
	if v.OnSide == anatomy.Mid {
		f(anatomy.Left)
		f(anatomy.Right)
		return
	}
	f(v.OnSide)
}

// Seconds that the plan adds between steps (handbook, arithmetic of time).
const (
	GlovesSeconds    = 30.0 // gloves on or off
	PickUpSeconds    = 6.0  // picking up a tool
	LiftSeconds      = 2.0  // the hands leave the face; also the longest transition
	TravelCMPerS     = 8.0  // how fast hands move from one step's end to the next one's start
	SideChangeSecond = 3.0  // changing sides within a step
)

// SideRun is one side's part of a visit.
type SideRun struct {
	Side    string       `json:"side" enum:"mid,left,right,both"`
	Start   float64      `json:"start"`
	Seconds float64      `json:"seconds"`
	OnSide  anatomy.Side `json:"-"`
	both    bool
}

// Occurrence is one working of a step; steps of a round are visited several times.
type Occurrence struct {
	Step   int `json:"step"` // index into Steps
	Number int `json:"pass"` // 1 for the first time
	// Lead seconds go before Start: travel, picking up a tool, gloves.
	Lead     float64   `json:"lead"`
	Start    float64   `json:"start"`
	End      float64   `json:"end"`
	SideRuns []SideRun `json:"passes"`
	// RepSeconds is the length of one repetition, 0 where none is counted.
	RepSeconds float64 `json:"repSeconds"`
	// Slip of the product under the hands when the visit starts and ends, the
	// least over the path (for a gripping stroke the most), with what the stroke needs.
	SlipStart float64 `json:"slipStart"`
	SlipEnd   float64 `json:"slipEnd"`
	NeedLeast float64 `json:"needLeast"`
	NeedMost  float64 `json:"needMost"`
	// SlipBefore is the slip under the hands before the visit puts product on; nil where it puts on none.
	SlipBefore *float64 `json:"slipBefore,omitempty"`
	// HandsLifted is set where the hands leave the face before the visit.
	HandsLifted bool `json:"left"`
	// In force while the visit lasts: whether gloves are worn, the tool in hand,
	// what the hands carry from before, and the node groups open on both sides.
	Gloves bool                `json:"gloves,omitempty"`
	Tool   string              `json:"tool,omitempty"`
	Hands  HandHygiene         `json:"hands"`
	Open   []anatomy.NodeGroup `json:"open,omitempty"`
}

// HandHygiene is what the practitioner's hands have touched since they were washed.
type HandHygiene string

// The states of the hands, from clean to least clean.
const (
	CleanHands HandHygiene = "clean"
	SkinHands  HandHygiene = "skin" // neck or face, product
	HairHands  HandHygiene = "hair"
	MouthHands HandHygiene = "mouth"
)

// AppendSideRuns appends the passes of one visit that starts at a time and lasts
// some seconds, split in proportion between the sides.
func (r *Resolved) AppendSideRuns(passes []SideRun, p *protocol.Protocol, start, seconds float64) []SideRun {
	one := func(side anatomy.Side, both bool, at, secs float64) {
		name := side.String()
		if both {
			name = "both"
		}
		passes = append(passes, SideRun{Side: name, Start: at, Seconds: secs, OnSide: side, both: both})
	}
	switch r.Sides {
	case stroke.InTurns:
		first := p.WorkedSide(true)
		share := 0.5 // of the working seconds, change of sides left out
		if em := r.Source.Emphasis; em != nil && r.Working > SideChangeSecond {
			extra := r.unequal() / (r.Working - SideChangeSecond)
			if em.Side == first.String() {
				share = 0.5 + extra/2
			} else {
				share = 0.5 - extra/2
			}
		}
		change := min(SideChangeSecond, seconds)
		work := seconds - change
		one(first, false, start, work*share)
		one(first.Other(), false, start+work*share+change, work*(1-share))
	case stroke.LeftOnly:
		one(anatomy.Left, false, start, seconds)
	case stroke.RightOnly:
		one(anatomy.Right, false, start, seconds)
	case stroke.FirstSide:
		one(p.WorkedSide(true), false, start, seconds)
	case stroke.SecondSide:
		one(p.WorkedSide(false), false, start, seconds)
	case stroke.BothAtOnce, stroke.Across:
		one(anatomy.Mid, true, start, seconds)
	default:
		one(anatomy.Mid, false, start, seconds)
	}
	return passes
}

// ends returns the places where a visit's hands start and finish.
func (r *Resolved) ends(passes []SideRun) (from, to anatomy.ZoneSide) {
	side := func(p *SideRun, id anatomy.ID) anatomy.Side {
		if p.both {
			return id.On(anatomy.Left)
		}
		return id.On(p.OnSide)
	}
	place := func(s *Stop, p *SideRun) anatomy.ZoneSide {
		if s.Side != "" {
			return anatomy.ZoneSide{Zone: s.id, Side: s.side}
		}
		return anatomy.ZoneSide{Zone: s.id, Side: side(p, s.id)}
	}
	first, last := &r.Path[0], &r.Path[len(r.Path)-1]
	if n := len(r.Parts); n > 0 && r.Parts[n-1].Kind == stroke.Back {
		last = first
	}
	return place(first, &passes[0]), place(last, &passes[len(passes)-1])
}

// JumpCM is the length over which a transition counts as a jump.
const JumpCM = 15.0

// timeline is the state of the hands while visits are laid out.
type timeline struct {
	e       *Evaluation
	p       *protocol.Protocol
	now     float64
	atLeast float64
	prev    *Resolved
	at      anatomy.ZoneSide
	passes  []SideRun
	started []bool
	hands   HandHygiene
	gloves  bool
}

// lead returns the seconds between the visit before and one of r, and whether
// the hands leave the face for it.
func (t *timeline) lead(r *Resolved, passes []SideRun) (seconds float64, left bool) {
	if t.prev == nil {
		if r.Tool != nil {
			seconds = PickUpSeconds
		}
		return seconds, false
	}
	off, wasOff := len(r.Path) == 0, len(t.prev.Path) == 0
	tool := r.Tool != nil && (t.prev.Tool == nil || t.prev.Tool.Key != r.Tool.Key)
	if tool {
		seconds += PickUpSeconds
		t.e.ToolChanges++
	}
	gloves := r.gloved() != t.gloves && !(t.gloves && r.Source.Gloves == "keep")
	if gloves {
		seconds += GlovesSeconds
	}
	left = tool || off != wasOff || gloves
	switch {
	case left:
		seconds += LiftSeconds
	case !off:
		from, _ := r.ends(passes)
		cm := t.at.To(from)
		if cm > JumpCM {
			t.e.Jumps++
		}
		seconds += min(cm/TravelCMPerS, LiftSeconds)
	}
	if left && !wasOff {
		t.e.TimesLifted++
	}
	return seconds, left
}

// gloved reports whether gloves are put on for the step: inside the mouth,
// unless the plan says bare hands.
func (r *Resolved) gloved() bool { return r.InMouth() && r.Source.Gloves != "none" }

func (t *timeline) occurrence(i, pass int) {
	e := t.e
	r := &e.Steps[i]
	if r.Phase == "reset" {
		return // the room's time, not the hands'
	}
	n := len(t.passes)
	t.passes = r.AppendSideRuns(t.passes, t.p, 0, float64(r.Seconds))
	mine := t.passes[n:len(t.passes):len(t.passes)]
	v := Occurrence{Step: i, Number: pass, SideRuns: mine, Hands: t.hands}
	switch {
	case r.Dose.CountsReps():
		v.RepSeconds = r.rep * r.pace
	case r.Dose.Kind == stroke.Breaths:
		v.RepSeconds = (r.Dose.In + r.Dose.Pause + r.Dose.Out) * r.pace
	}
	v.Lead, v.HandsLifted = t.lead(r, mine)
	if r.Tool != nil {
		v.Tool = r.Tool.Key
	}
	t.gloves = r.gloved() || t.gloves && r.Source.Gloves == "keep"
	v.Gloves = t.gloves
	switch {
	case r.Family == stroke.Hygiene:
		t.hands = CleanHands
	case r.InMouth():
		t.hands = MouthHands
	case r.Regions&scalpBit != 0:
		t.hands = HairHands
	case len(r.Path) > 0 && t.hands == CleanHands:
		t.hands = SkinHands
	}
	t.now += v.Lead
	v.Start = t.now
	for k := range mine {
		mine[k].Start += t.now
	}
	t.now += float64(r.Seconds)
	v.End = t.now
	t.atLeast += v.Lead + float64(r.Seconds)
	switch {
	case r.Dose.Kind == stroke.Unknown && r.Dose.Min == 0:
		t.atLeast -= float64(r.Seconds) // nobody said how long: nothing of it is sure
	case r.Open:
		t.atLeast -= r.Working - r.WorkingSeconds(r.Least)
	}
	if len(r.Path) > 0 {
		_, t.at = r.ends(mine)
	}
	if !t.started[i] {
		r.Start, t.started[i] = v.Start, true
	}
	e.Occurrences = append(e.Occurrences, v)
	t.prev = r
}

// layOut puts the visits one after the other in time and sums up.
func (e *Evaluation) layOut(p *protocol.Protocol) {
	e.Occurrences = make([]Occurrence, 0, len(e.Steps)+8)
	t := timeline{
		e:       e,
		p:       p,
		passes:  make([]SideRun, 0, 2*len(e.Steps)+16),
		started: make([]bool, len(e.Steps)),
		hands:   CleanHands,
	}
	for i := 0; i < len(e.Steps); {
		j := p.RoundEnd(i)
		for pass := 1; pass <= p.TimesOf(p.Steps[i].Round); pass++ {
			for k := i; k < j; k++ {
				t.occurrence(k, pass)
			}
		}
		i = j
	}
	reset := 0
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Open {
			e.OpenSteps++
		}
		if r.Tool != nil && !contains(e.Tools, r.Tool.Key) {
			e.Tools = append(e.Tools, r.Tool.Key)
		}
		if r.Phase == "reset" {
			reset += r.Seconds
		}
	}
	e.ResetSeconds = max(e.ResetSeconds, reset)
	e.Seconds, e.AtLeast = t.now, t.atLeast
	e.recur(p)
}

// recur lays the recurring cues and breaks over the plan, each after so many seconds of work. One that
// takes time holds up what comes after it; work that it falls into goes on when it is over. One without an
// interval comes when somebody thinks of it: its time counts at the end.
func (e *Evaluation) recur(p *protocol.Protocol) {
	var pauses []CueAt // those that take time, in order; At without the pauses before
	for _, c := range p.Cues {
		for at := c.Every; at > 0 && float64(at) < e.Seconds; at += c.Every {
			e.Cues = append(e.Cues, CueAt{c.Text, float64(at), c.Seconds, c.Break})
		}
	}
	slices.SortStableFunc(e.Cues, func(a, b CueAt) int { return cmp.Compare(a.At, b.At) })
	for i := range e.Cues {
		if e.Cues[i].Seconds > 0 {
			pauses = append(pauses, e.Cues[i])
		}
	}
	e.holdUp(pauses)
	takes := upTo(pauses, e.Seconds, true)
	for i := range p.Cues {
		if p.Cues[i].Every == 0 {
			takes += float64(p.Cues[i].Seconds)
		}
	}
	e.Seconds += takes
	e.AtLeast += takes
}

// upTo is how many seconds the pauses take that come before a moment of work, or just then too.
func upTo(pauses []CueAt, at float64, then bool) (seconds float64) {
	for i := range pauses {
		if pauses[i].At < at || then && pauses[i].At == at {
			seconds += float64(pauses[i].Seconds)
		}
	}
	return seconds
}

// holdUp moves everything by the pauses before it. What begins when a pause does begins after it.
func (e *Evaluation) holdUp(pauses []CueAt) {
	if len(pauses) == 0 {
		return
	}
	for i := range e.Steps {
		e.Steps[i].Start += upTo(pauses, e.Steps[i].Start, true)
	}
	was := 0.0
	for i := range e.Occurrences {
		v := &e.Occurrences[i]
		v.Lead += upTo(pauses, v.Start, true) - upTo(pauses, was, false)
		was = v.End
		v.Start += upTo(pauses, v.Start, true)
		v.End += upTo(pauses, v.End, false)
		for k := range v.SideRuns {
			v.SideRuns[k].Start += upTo(pauses, v.SideRuns[k].Start, true)
		}
	}
	for i := range e.Cues {
		e.Cues[i].At += upTo(pauses[:before(pauses, &e.Cues[i])], e.Cues[i].At, true)
	}
}

// before is how many of the pauses come before a cue: those before its moment, and of those just then the
// ones named before it.
func before(pauses []CueAt, c *CueAt) int {
	for i := range pauses {
		if pauses[i].At > c.At || pauses[i] == *c {
			return i
		}
	}
	return len(pauses)
}
