// Package evaluation works out everything a screen shows of a protocol: the
// timeline to the second, slip, open lymph nodes, work on each zone, the set-up
// list, cost, and findings.
//
// [Evaluate] is one pure function of a protocol and its [protocol.Context]. Each
// check is a file and adds findings; a [Finding] is data (a code, a severity, the
// steps, the figures, the basis, and the names of fixes). The sentences belong to
// the screens. Checks follow the protocol's method; absolute limits follow nobody.
package evaluation

import (
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
)

// Opened says that a node group was opened, and when.
type Opened struct {
	Node anatomy.NodeGroup `json:"node"`
	Side string            `json:"side"`
	Step string            `json:"step"`
	At   float64           `json:"at"`
}

// Load is the work a zone gets on one side: seconds under the hands, of them
// sliding, and minutes x pressure. A step's time is shared equally among the
// zones of its path.
type Load struct {
	Zone    string  `json:"zone"`
	Side    string  `json:"side" enum:"mid,left,right"`
	Seconds float64 `json:"seconds"`
	Sliding float64 `json:"sliding"`
	Load    float64 `json:"load"`
}

// Reapply is a good moment to put product on again: before the visit of Step
// at At, because slip gets too thin at ThinAt.
type Reapply struct {
	Step    string  `json:"step"`
	At      float64 `json:"at"`
	Thin    string  `json:"thin"`
	ThinAt  float64 `json:"thinAt"`
	Product string  `json:"product"`
}

// CueAt is a standing cue at its time. One that takes Seconds holds the work up for so long; Break says
// that the hands pause.
type CueAt struct {
	Text    string  `json:"text"`
	At      float64 `json:"at"`
	Seconds int     `json:"seconds,omitempty"`
	Break   bool    `json:"break,omitempty"`
}

// Evaluation is everything that follows from a protocol and its context.
type Evaluation struct {
	// Seconds is hands-on time as planned; AtLeast with every open dose at its
	// minimum; OpenSteps how many doses are open.
	Seconds   float64 `json:"seconds"`
	AtLeast   float64 `json:"atLeast"`
	OpenSteps int     `json:"openSteps"`
	// SlotSeconds is the hands-on time the protocol promises.
	SlotSeconds int `json:"slotSeconds"`
	// TreatmentSeconds is what the client buys, ResetSeconds what the room needs after.
	TreatmentSeconds int          `json:"soldSeconds"`
	ResetSeconds     int          `json:"resetSeconds"`
	LeftSeconds      float64      `json:"leftSeconds"`
	RightSeconds     float64      `json:"rightSeconds"`
	Steps            []Resolved   `json:"steps"`
	Occurrences      []Occurrence `json:"visits"`
	Opened           []Opened     `json:"opened"`
	Products         []Planned    `json:"products"`
	// Cost is that of the products as planned, in the studio's currency; those whose cost is
	// not known are left out of it, and counted in CostUnknown.
	Cost        string   `json:"cost"`
	CostUnknown int      `json:"costUnknown,omitempty"`
	Tools       []string `json:"tools"`
	TimesLifted int      `json:"timesLeft"`
	ToolChanges int      `json:"toolChanges"`
	// Jumps counts transitions over 15 cm.
	Jumps    int       `json:"jumps"`
	Loads    []Load    `json:"loads"`
	Reapply  []Reapply `json:"reapply"`
	Cues     []CueAt   `json:"cues"`
	Findings []Finding `json:"findings"`
	// NotStated is what the plan never said, step by step.
	NotStated []Unsaid `json:"notStated"`
	// SetUp is what is laid out beforehand; only [EvaluateWithSetUp] fills it in.
	SetUp []SetUpItem `json:"setUp,omitempty"`
}

// Worst returns the gravest severity found, "" where nothing was.
func (e *Evaluation) Worst() Severity {
	var worst Severity
	for _, f := range e.Findings {
		if worst == "" || f.Severity.graver(worst) {
			worst = f.Severity
		}
	}
	return worst
}

// Evaluate works out a protocol that [Protocol.ValidateStructure] found no problem
// in: timeline, slip, drainage and findings. A stroke or product that is no longer
// there is a finding. The cost is linear in visits and path
// lengths. The protocol is not changed.
func Evaluate(p *protocol.Protocol, ctx *protocol.Context) *Evaluation {
	e := EvaluateTimeline(p, ctx)
	e.findings(p, ctx)
	return e
}

// EvaluateChanged is [Evaluate] of a protocol of which some steps are as they were: known returns what step
// i resolved to under the same strokes, tools, products, zones and pace, nil where it is to be resolved.
func EvaluateChanged(p *protocol.Protocol, ctx *protocol.Context, known func(i int) *Resolved) *Evaluation {
	e := timelineOf(p, ctx, known)
	e.findings(p, ctx)
	return e
}

// EvaluateFlow is [EvaluateChanged] with the findings of direction, drainage and slip only.
func EvaluateFlow(p *protocol.Protocol, ctx *protocol.Context, known func(i int) *Resolved) *Evaluation {
	e := timelineOf(p, ctx, known)
	for i := range e.Steps {
		e.checkDirection(&e.Steps[i], p.Method)
	}
	if !p.Collection {
		e.followFluid(p, ctx)
	}
	sortFindings(e.Findings)
	return e
}

// EvaluateWithSetUp is [Evaluate] with the set-up list.
func EvaluateWithSetUp(p *protocol.Protocol, ctx *protocol.Context) *Evaluation {
	e := Evaluate(p, ctx)
	e.SetUp = SetUp(p, ctx, e)
	return e
}

// EvaluateTimeline is an evaluation without slip, drainage and findings: steps, timeline
// and totals only.
func EvaluateTimeline(p *protocol.Protocol, ctx *protocol.Context) *Evaluation {
	return timelineOf(p, ctx, func(int) *Resolved { return nil })
}

func timelineOf(p *protocol.Protocol, ctx *protocol.Context, known func(i int) *Resolved) *Evaluation {
	e := &Evaluation{
		SlotSeconds:      p.Minutes.HandsOnTotal(),
		TreatmentSeconds: p.Minutes.Treatment * 60,
		ResetSeconds:     p.Minutes.Reset * 60,
		Opened:           []Opened{},
		Products:         []Planned{},
		Tools:            []string{},
		Loads:            []Load{},
		Reapply:          []Reapply{},
		Cues:             []CueAt{},
		Findings:         []Finding{},
		NotStated:        []Unsaid{},
	}
	e.Steps = make([]Resolved, len(p.Steps))
	stops := 0
	for i := range p.Steps {
		if was := known(i); was != nil {
			e.Steps[i] = *was
			continue
		}
		st := ctx.StrokeOf(p.Steps[i].Stroke)
		e.Steps[i].Stroke = st
		stops += places(&p.Steps[i], st)
	}
	store := make([]Stop, 0, stops)
	for i := range p.Steps {
		if r := &e.Steps[i]; r.Source == nil {
			store = resolve(r, &p.Steps[i], r.Stroke, p, ctx, store)
		} else {
			r.Source, r.Start = &p.Steps[i], 0
		}
	}
	e.layOut(p)
	return e
}

// hasStep reports whether something holds of any step.
func (e *Evaluation) hasStep(holds func(*Resolved) bool) bool {
	for i := range e.Steps {
		if holds(&e.Steps[i]) {
			return true
		}
	}
	return false
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}
