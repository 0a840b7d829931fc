// Package drafting suggests the first draft of a protocol from a short question:
// which concerns, how many minutes, for which skin, with which tools and products.
// [Draft] answers with a complete protocol that is fitted to its time; notes may remain.
package drafting

import (
	"slices"
	"strings"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/words"
)

// Question is what a first draft is composed from. Tools and Products are what
// is available, by key; Minutes is hands-on time.
type Question struct {
	SkinType   string          `json:"skinType,omitempty" enum:"dry,normal,combination,oily,"`
	SkinStates []string        `json:"skinStates,omitempty" maxItems:"7"`
	Concerns   []string        `json:"concerns,omitempty" maxItems:"6"`
	Minutes    int             `json:"minutes" minimum:"5" maximum:"120"`
	Tools      []string        `json:"tools,omitempty" maxItems:"40"`
	Products   []string        `json:"products,omitempty" maxItems:"100"`
	Method     protocol.Method `json:"school"`
	// Exercises for the client are wanted.
	Exercises bool `json:"exercises,omitempty"`
}

// NoDraft is a plain reason why no plan can be composed.
type NoDraft struct {
	// Code is one of no-slip, no-stroke, too-short, too-long, not-passing.
	Code  string
	Zones []string
	Steps []string
}

func (n *NoDraft) Error() string { return n.sentence().Message }

// Unwrap is the sentence that says what is in the way and what to do.
func (n *NoDraft) Unwrap() error { return n.sentence() }

func (n *NoDraft) sentence() words.Sentence {
	switch n.Code {
	case "no-slip":
		return words.DraftNoSlip()
	case "no-stroke":
		return words.DraftNoStroke(strings.Join(n.Zones, ", "))
	case "too-short":
		return words.DraftTooShort()
	case "too-long":
		return words.DraftTooLong()
	}
	return words.DraftNotPassing(strings.Join(n.Steps, ", "))
}

// Draft composes a first plan from the library as a teacher would: core strokes for every concern, few
// and long, in the arc of a treatment, with what the skin bears, opened and closed as the method asks,
// with a product that slides long enough, fitted to its minutes, and passing its own checks without a
// warning. Every step says why it is there. The error is a [*NoDraft].
func Draft(q Question, ctx *protocol.Context) (*protocol.Protocol, error) {
	d := newDrafting(q, ctx)
	if q.Method.Slip != "dry" {
		if d.slip = d.slipProduct(); d.slip == nil {
			return nil, &NoDraft{Code: "no-slip"}
		}
	}
	least, most := span(q.Minutes)
	n := min(most-topUps, max(least, d.firstCount()))
	best, bestOn := (*protocol.Protocol)(nil), -1.0
	reason := &NoDraft{Code: "too-short"}
	for again := true; again && d.tried < tries; d.tried++ {
		a, err := d.attempt(n)
		if err != nil {
			return orElse(best, err)
		}
		switch {
		case a.missBy > 0:
			reason, again = &NoDraft{Code: "too-short"}, d.less(&n, least)
		case a.missBy < 0:
			reason, again = &NoDraft{Code: "too-long"}, d.more(&n, most)
		case a.plan == nil:
			reason = &NoDraft{Code: "not-passing", Steps: a.offending}
			again = d.without(a.offending) || d.less(&n, least)
		case workSteps(a.plan) > most && d.less(&n, least):
		default:
			if enough := min(a.on, leastOn+0.01); enough >= bestOn {
				best, bestOn = a.plan, enough
			}
			again = d.better(&a, &n, most)
		}
	}
	return orElse(best, reason)
}

// attempt is one plan of so many strokes: fitted and polished, or what is in its way.
type attempt struct {
	plan      *protocol.Protocol
	missBy    int // seconds over its time, below 0 under it
	offending []string
	on, long  float64 // part of the work on the concerns, seconds of the longest stroke
}

func (d *drafting) attempt(n int) (a attempt, err error) {
	if err := d.choose(n); err != nil {
		return a, err
	}
	p := d.compose()
	d.dose(p)
	f := fitting.Fit(p, d.ctx, d.q.Minutes*60)
	if f.MissBy == 0 {
		if with := d.topUp(f.Protocol); with != f.Protocol {
			f = fitting.Fit(with, d.ctx, d.q.Minutes*60)
		}
	}
	if a.missBy = f.MissBy; a.missBy != 0 {
		return a, nil
	}
	if a.plan, a.offending = d.polish(f.Protocol); a.plan == nil {
		return a, nil
	}
	a.plan = d.beforeTools(a.plan)
	d.explain(a.plan)
	a.on, a.long = d.worked(a.plan)
	return a, nil
}

// more takes another stroke, of those too that only round a treatment off.
func (d *drafting) more(n *int, most int) bool {
	if *n >= most-topUps {
		return false
	}
	*n++
	d.short = true
	return true
}

// better changes what is asked of the next attempt where this one could be bettered: another stroke
// beside one that lasts too long, more of the time for the concerns.
func (d *drafting) better(a *attempt, n *int, most int) bool {
	if a.long > tooLong && *n < most-topUps && a.on >= leastOn {
		*n++
		return true
	}
	if a.on >= leastOn+0.01 || len(d.wanted()) == 0 || d.again && d.share > 0.9 {
		return false
	}
	d.again = d.share > 0.7
	d.share = min(0.95, d.share+shareStep)
	return true
}

// tries is how often a draft is composed anew before the best so far is taken.
const tries = 24

func orElse(p *protocol.Protocol, err error) (*protocol.Protocol, error) {
	if p != nil {
		return p, nil
	}
	return nil, err
}

// firstCount is how many strokes the work begins with: as many as its time holds when each lasts.
func (d *drafting) firstCount() int {
	room := float64(d.q.Minutes*60) * 0.62
	if d.mask != nil {
		room -= 400
	}
	return int(room / fill)
}

// less takes one stroke less; where there are as few as there may be, what frames the work goes.
func (d *drafting) less(n *int, least int) bool {
	switch {
	case *n > least:
		*n--
	case d.mask != nil && d.q.Minutes < 40:
		d.mask = nil
	case !d.bare:
		d.bare = true
	case *n > 1:
		*n--
	default:
		return false
	}
	return true
}

// without leaves strokes out for good and reports whether that changes anything.
func (d *drafting) without(steps []string) bool {
	changed := false
	for _, key := range steps {
		if !d.barred[key] && slices.ContainsFunc(d.chosen, func(x pick) bool { return x.st.Key == key }) {
			d.barred[key], changed = true, true
		}
	}
	return changed
}

// beforeTools brings a portion that was put between two tool strokes before the first of them, so that
// tools stay in one block; it leaves the plan as it is where that would not hold.
func (d *drafting) beforeTools(p *protocol.Protocol) *protocol.Protocol {
	q := p.Clone()
	first, moved := -1, false
	for i := 0; i < len(q.Steps); i++ {
		s := &q.Steps[i]
		switch st := d.ctx.Strokes[s.Stroke]; {
		case s.Phase != "work" || st == nil:
		case st.Tool != nil && first < 0:
			first = i
		case first >= 0 && s.Use != nil && i+1 < len(q.Steps) && d.ctx.Strokes[q.Steps[i+1].Stroke].Tool != nil:
			portion := q.Steps[i]
			q.Steps = slices.Insert(slices.Delete(q.Steps, i, i+1), first, portion)
			first, moved = first+1, true
		}
	}
	if !moved {
		return p
	}
	for _, f := range evaluation.Evaluate(q, d.ctx).Findings {
		if f.Severity != evaluation.Note {
			return p
		}
	}
	return q
}

// workSteps is how many steps the work has.
func workSteps(p *protocol.Protocol) (n int) {
	for i := range p.Steps {
		if p.Steps[i].Phase == "work" {
			n++
		}
	}
	return n
}

// explain says of steps that were added for the plan to hold together why they are there.
func (d *drafting) explain(p *protocol.Protocol) {
	for i := range p.Steps {
		if s := &p.Steps[i]; s.Why == "" {
			switch {
			case s.Use != nil:
				s.Why = words.PaperWhyTopUp
			case s.Stroke == "blot":
				s.Why = words.PaperWhyBlot
			case s.Stroke == "wash-hands":
				s.Why = words.PaperWhyWash
			case s.Phase == "close":
				s.Why = words.PaperWhyClose
			case s.Phase == "open":
				s.Why = words.PaperWhyOpen
			default:
				s.Why = words.PaperWhyAdded
			}
		}
	}
}

// worked is the part of the seconds in the work that goes on the concerns' zones with their intents, and
// the seconds of the longest stroke.
func (d *drafting) worked(p *protocol.Protocol) (part, long float64) {
	e := evaluation.EvaluateTimeline(p, d.ctx)
	on, all := 0.0, 0.0
	for i := range e.Steps {
		if r := &e.Steps[i]; r.Phase == "work" {
			all += float64(r.Seconds)
			long = max(long, float64(r.Seconds))
			if d.onConcern(r.Stroke) {
				on += float64(r.Seconds)
			}
		}
	}
	return on / max(1, all), long
}

type drafting struct {
	q        Question
	ctx      *protocol.Context
	concerns []*protocol.Concern
	slip     *slip.Product
	mask     *slip.Product
	redden   bool     // redness is borne
	grips    bool     // skin may be gripped dry
	gentle   bool     // skin that little may touch on cheeks, chin and nose
	area     []string // where product goes; nil for everywhere
	chosen   []pick
	barred   map[string]bool
	share    float64 // of the work, for the concerns
	tried    int     // how many attempts there were
	again    bool    // the concerns' strokes come a second time
	bare     bool    // what may be left of the frame is left out
	short    bool    // there are too few strokes that serve: others may fill up
}

func newDrafting(q Question, ctx *protocol.Context) *drafting {
	inner := *ctx
	inner.SkinType, inner.SkinStates = q.SkinType, q.SkinStates
	d := &drafting{q: q, ctx: &inner, barred: map[string]bool{}, share: firstShare}
	for _, key := range q.Concerns {
		if c := protocol.ConcernOf(key); c != nil {
			d.concerns = append(d.concerns, c)
		}
	}
	d.redden = q.Method.Redness != "avoided" && !slices.Contains(q.Concerns, "event-tomorrow")
	if !d.redden {
		d.q.Method.Redness = "avoided"
	}
	d.gentle = slices.ContainsFunc(gentle, d.ctx.HasSkin)
	d.grips = d.redden && !d.gentle && !slices.ContainsFunc(q.Concerns, func(k string) bool { return slices.Contains(ungripped, k) })
	d.area = d.smallArea()
	if q.Minutes >= maskMinutes {
		d.mask = d.productOf(slip.Mask)
	}
	return d
}

// Shares of the work that go to the concerns' zones: where a draft begins, and the least that is sought.
const (
	firstShare = 0.52
	shareStep  = 0.12
	leastOn    = 0.4
)

// tooLong is a stroke that lasts so long that another one comes in beside it, where there is room, in seconds.
const tooLong = 150.0

// fill is how long one stroke lasts in the work, about, in seconds: doses grow before strokes are added.
const fill = 80.0
