package protocol

import (
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

// Seconds that the plan adds between steps (handbook, arithmetic of time).
const (
	GlovesSeconds    = 30.0 // gloves on or off
	PickUpSeconds    = 6.0  // picking up a tool
	LeaveSeconds     = 2.0  // the hands leave the face; also the longest transition
	TravelCMPerS     = 8.0  // how fast hands move from one step's end to the next one's start
	SideChangeSecond = 3.0  // changing sides within a step
)

// Resolved is a step with everything it left unsaid filled in from its stroke
// and the protocol, and its times. Seconds count one working; Start is its
// first. All times are seconds from the start of hands-on time.
type Resolved struct {
	ID       string           `json:"id"`
	Name     string           `json:"name"`
	Family   string           `json:"family"`
	Phase    Phase            `json:"phase"`
	Intent   stroke.Intent    `json:"intent"`
	Hand     string           `json:"hand,omitempty"`
	Tool     *stroke.ToolPart `json:"tool,omitempty"`
	ToolName string           `json:"toolName,omitempty"`
	Sides    stroke.Sides     `json:"sides"`
	Path     []Stop           `json:"path"`
	Pressure int              `json:"pressure"`
	Profile  stroke.Profile   `json:"profile"`
	Relation stroke.Relation  `json:"relation"`
	Glide    stroke.Glide     `json:"glide"`
	Dose     stroke.Dose      `json:"dose"`
	Parts    []stroke.Part    `json:"parts"`
	Anchor   *stroke.Anchor   `json:"anchor,omitempty"`
	Client   string           `json:"client,omitempty"`
	Cue      string           `json:"cue,omitempty"`
	Caution  string           `json:"caution,omitempty"`
	// Working seconds of one visit, before the pace and as the plan counts them.
	Working float64 `json:"working"`
	Seconds int     `json:"seconds"`
	Start   float64 `json:"start"`
	// Speed in cm/s of the moving part; 0 where nothing moves.
	Speed float64 `json:"speed"`
	// Least and Most are the allowed planned doses, in steps of Grain.
	Least int  `json:"least"`
	Most  int  `json:"most"`
	Grain int  `json:"grain"`
	Open  bool `json:"open"`

	step    *Step
	stroke  *stroke.Stroke
	hold    float64
	regions uint
	away    bool // runs backward along the lymph routes
}

// Stop is a zone on a resolved path with the pressure there.
type Stop struct {
	Zone     string `json:"zone"`
	Pressure int    `json:"pressure"`
	// Height in cm above the chin, for the travel chart.
	Height float64 `json:"height"`
	id     anatomy.ID
}

// Pass is one side's part of a visit.
type Pass struct {
	Side    string  `json:"side" enum:"mid,left,right,both"`
	Start   float64 `json:"start"`
	Seconds float64 `json:"seconds"`
	side    anatomy.Side
	both    bool
}

// Visit is one working of a step; steps of a round are visited several times.
type Visit struct {
	Step int `json:"step"` // index into Steps
	Pass int `json:"pass"` // 1 for the first time
	// Lead seconds go before Start: travel, picking up a tool, gloves.
	Lead   float64 `json:"lead"`
	Start  float64 `json:"start"`
	End    float64 `json:"end"`
	Passes []Pass  `json:"passes"`
	// RepSeconds is the length of one repetition, 0 where none is counted.
	RepSeconds float64 `json:"repSeconds"`
	// Slip of the product under the hands when the visit starts and ends, the
	// least over the path (for a gripping stroke the most), with what the stroke needs.
	SlipStart float64 `json:"slipStart"`
	SlipEnd   float64 `json:"slipEnd"`
	NeedLeast float64 `json:"needLeast"`
	NeedMost  float64 `json:"needMost"`
	// Left is set where the hands leave the face before the visit.
	Left bool `json:"left"`
}

// Opened tells that a node group was opened, and when.
type Opened struct {
	Node anatomy.NodeGroup `json:"node"`
	Side string            `json:"side"`
	Step string            `json:"step"`
	At   float64           `json:"at"`
}

// Planned is what a plan takes of a product.
type Planned struct {
	Product string  `json:"product"`
	Name    string  `json:"name"`
	ML      float64 `json:"ml"`
}

// Evaluation is everything that follows from a protocol and its context.
type Evaluation struct {
	// Seconds is hands-on time as planned; AtLeast with every open dose at its
	// minimum; OpenSteps how many doses are open.
	Seconds   float64 `json:"seconds"`
	AtLeast   float64 `json:"atLeast"`
	OpenSteps int     `json:"openSteps"`
	// SlotSeconds is the hands-on time the protocol promises.
	SlotSeconds  int        `json:"slotSeconds"`
	LeftSeconds  float64    `json:"leftSeconds"`
	RightSeconds float64    `json:"rightSeconds"`
	Steps        []Resolved `json:"steps"`
	Visits       []Visit    `json:"visits"`
	Opened       []Opened   `json:"opened"`
	Products     []Planned  `json:"products"`
	Tools        []string   `json:"tools"`
	TimesLeft    int        `json:"timesLeft"`
	Findings     []Finding  `json:"findings"`
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

// Evaluate works out a protocol that [Protocol.Validate] found no problem in:
// timeline, film, drainage and findings. The cost is linear in visits and path
// lengths. The protocol is not changed.
func Evaluate(p *Protocol, ctx *Context) *Evaluation {
	e := &Evaluation{SlotSeconds: p.Minutes.HandsOn * 60, Opened: []Opened{}, Products: []Planned{}, Tools: []string{}}
	e.Steps = make([]Resolved, len(p.Steps))
	for i := range p.Steps {
		resolve(&e.Steps[i], &p.Steps[i], p, ctx)
	}
	e.layOut(p)
	e.findings(p, ctx)
	return e
}

func resolve(r *Resolved, s *Step, p *Protocol, ctx *Context) {
	st := ctx.Strokes[s.Stroke]
	r.step, r.stroke = s, st
	r.ID, r.Phase, r.Name, r.Family, r.Intent = s.ID, s.Phase, st.Name, st.Family, st.Intent
	r.Hand, r.Tool, r.Sides, r.Pressure, r.Profile = st.Hand, st.Tool, st.Sides, st.Pressure, st.Profile
	r.Relation, r.Glide, r.Dose, r.Parts, r.Anchor = st.Relation, st.Glide, st.Dose, st.Parts, st.Anchor
	r.Client, r.Cue, r.Caution, r.hold = st.Client, st.Cue, st.Caution, st.HoldOnLast
	if s.Hand != "" {
		r.Hand, r.Tool = s.Hand, nil
	}
	if s.Tool != nil {
		r.Tool = s.Tool
	}
	if r.Tool != nil {
		r.ToolName = ctx.Tools[r.Tool.Key].Name
		if r.ToolName == "" {
			r.ToolName = r.Tool.Key
		}
	}
	if s.Sides != "" {
		r.Sides = s.Sides
	}
	if s.Pressure != nil {
		r.Pressure = *s.Pressure
	}
	if s.Dose != nil {
		r.Dose = *s.Dose
	}
	if r.Dose.Kind == stroke.Inherited {
		r.Dose = p.DefaultDose
	}
	if len(s.Parts) > 0 {
		r.Parts = s.Parts
	}
	if r.Parts == nil {
		r.Parts = []stroke.Part{}
	}
	if s.Anchor != nil {
		r.Anchor = s.Anchor
	}
	if s.Client != "" {
		r.Client = s.Client
	}
	if r.Glide == "" {
		r.Glide = stroke.AnyGlide
	}
	if r.Profile == "" {
		r.Profile = stroke.Even
	}
	if len(s.Path) > 0 {
		r.Path = make([]Stop, len(s.Path))
		for i, pt := range s.Path {
			r.stop(i, pt.Zone, pt.Pressure)
		}
	} else {
		r.Path = make([]Stop, len(st.Path))
		for i, key := range st.Path {
			r.stop(i, key, nil)
		}
	}
	r.Least, r.Most, r.Grain = r.Dose.Range()
	r.Open = r.Dose.Open()
	r.Working = r.working(r.Dose.Planned)
	pace := ctx.Pace
	if pace == 0 {
		pace = 1
	}
	r.Seconds = int(math.Round(r.Working * pace))
	if move := stroke.MoveSeconds(r.Parts); move > 0 && len(r.Path) > 1 && r.Dose.CountsReps() {
		cm := 0.0
		for i := 1; i < len(r.Path); i++ {
			a, b := &r.Path[i-1], &r.Path[i]
			cm += anatomy.Distance(anatomy.Place{Zone: a.id, Side: a.id.On(anatomy.Left)}.At(), anatomy.Place{Zone: b.id, Side: b.id.On(anatomy.Left)}.At())
		}
		r.Speed = cm / move
	}
}

func (r *Resolved) stop(i int, key string, pressure *int) {
	id, ok := anatomy.Lookup(key)
	if !ok {
		id = 0
	}
	z := id.Zone()
	at := &r.Path[i]
	at.Zone, at.id, at.Height = key, id, z.Centre.Y
	switch {
	case pressure != nil:
		at.Pressure = *pressure
	case r.Profile == stroke.Eases && i > 0 && i == len(r.Path)-1:
		at.Pressure = max(r.Pressure-1, 0)
	case r.Profile == stroke.Builds && i == 0 && len(r.Path) > 1:
		at.Pressure = max(r.Pressure-1, 0)
	default:
		at.Pressure = r.Pressure
	}
	r.regions |= 1 << film.RegionIndex(z.Region)
}

// working is the handbook's formula for one visit with a planned dose:
// sides x sets x reps x sum(parts) + sides x hold_on_last + (sides-1) x 3 +
// sides x (sets-1) x rest, unequal sides added separately.
func (r *Resolved) working(planned int) float64 { return r.even(planned) + r.unequal() }

// even is the working time without what one side gets more than the other.
func (r *Resolved) even(planned int) float64 {
	sides := 1.0
	if r.Sides == stroke.InTurns {
		sides = 2
	}
	return sides*r.Dose.With(planned).SideSeconds(stroke.RepSeconds(r.Parts)) + sides*r.hold + (sides-1)*SideChangeSecond
}

// unequal is the working time that one side gets more than the other.
func (r *Resolved) unequal() float64 {
	em := r.step.Emphasis
	if em == nil || !r.works(em.Side) {
		return 0
	}
	d := r.Dose.With(em.Extra)
	d.Sets, d.Rest = 0, 0
	return d.SideSeconds(stroke.RepSeconds(r.Parts))
}

func (r *Resolved) works(side string) bool {
	return r.Sides == stroke.InTurns || string(r.Sides) == side
}

// mouth reports whether the step works inside the mouth, for which gloves are worn.
func (r *Resolved) mouth() bool {
	return r.regions&(1<<film.RegionIndex(anatomy.Mouth)) != 0
}

func (p *Protocol) side(first bool) anatomy.Side {
	s := anatomy.Left
	if p.FirstSide == "right" {
		s = anatomy.Right
	}
	if !first {
		s = s.Other()
	}
	return s
}

// appendPasses appends the passes of one visit that starts at a time and lasts
// some seconds, split in proportion between the sides.
func (r *Resolved) appendPasses(passes []Pass, p *Protocol, start, seconds float64) []Pass {
	one := func(side anatomy.Side, both bool, at, secs float64) {
		name := side.String()
		if both {
			name = "both"
		}
		passes = append(passes, Pass{Side: name, Start: at, Seconds: secs, side: side, both: both})
	}
	switch r.Sides {
	case stroke.InTurns:
		first := p.side(true)
		share := 0.5 // of the working seconds, change of sides left out
		if em := r.step.Emphasis; em != nil && r.Working > SideChangeSecond {
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
		one(p.side(true), false, start, seconds)
	case stroke.SecondSide:
		one(p.side(false), false, start, seconds)
	case stroke.BothAtOnce:
		one(anatomy.Mid, true, start, seconds)
	default:
		one(anatomy.Mid, false, start, seconds)
	}
	return passes
}

// ends returns the places where a visit's hands start and finish.
func (r *Resolved) ends(passes []Pass) (from, to anatomy.Place) {
	side := func(p *Pass, id anatomy.ID) anatomy.Side {
		if p.both {
			return id.On(anatomy.Left)
		}
		return id.On(p.side)
	}
	first, last := r.Path[0].id, r.Path[len(r.Path)-1].id
	if n := len(r.Parts); n > 0 && r.Parts[n-1].Kind == stroke.Back {
		last = first
	}
	return anatomy.Place{Zone: first, Side: side(&passes[0], first)}, anatomy.Place{Zone: last, Side: side(&passes[len(passes)-1], last)}
}

// layOut puts the visits one after the other in time and sums up.
func (e *Evaluation) layOut(p *Protocol) {
	times := func(id string) int {
		for i := range p.Rounds {
			if p.Rounds[i].ID == id {
				return p.Rounds[i].Times
			}
		}
		return 1
	}
	e.Visits = make([]Visit, 0, len(e.Steps)+8)
	passes := make([]Pass, 0, 2*len(e.Steps)+16)
	now, atLeast := 0.0, 0.0
	var prev *Resolved
	var at anatomy.Place
	started := make([]bool, len(e.Steps))
	visit := func(i, pass int) {
		r := &e.Steps[i]
		if r.Phase == "reset" {
			return // the room's time, not the hands'
		}
		n := len(passes)
		passes = r.appendPasses(passes, p, 0, float64(r.Seconds))
		mine := passes[n:]
		v := Visit{Step: i, Pass: pass, Passes: mine}
		if r.Dose.CountsReps() {
			v.RepSeconds = stroke.RepSeconds(r.Parts)
		} else if r.Dose.Kind == stroke.Breaths {
			v.RepSeconds = r.Dose.In + r.Dose.Pause + r.Dose.Out
		}
		off := len(r.Path) == 0
		if prev != nil {
			tool := r.Tool != nil && (prev.Tool == nil || prev.Tool.Key != r.Tool.Key)
			if tool {
				v.Lead += PickUpSeconds
			}
			if r.mouth() != prev.mouth() {
				v.Lead += GlovesSeconds
			}
			wasOff := len(prev.Path) == 0
			v.Left = tool || off != wasOff || r.mouth() != prev.mouth()
			switch {
			case v.Left:
				v.Lead += LeaveSeconds
			case !off:
				from, _ := r.ends(mine)
				v.Lead += min(anatomy.Distance(at.At(), from.At())/TravelCMPerS, LeaveSeconds)
			}
			if v.Left && !wasOff {
				e.TimesLeft++
			}
		} else if r.Tool != nil {
			v.Lead = PickUpSeconds
		}
		now += v.Lead
		v.Start = now
		for k := range mine {
			mine[k].Start += now
		}
		now += float64(r.Seconds)
		v.End = now
		atLeast += v.Lead + float64(r.Seconds)
		if r.Open {
			atLeast -= r.Working - r.working(r.Least)
		}
		if !off {
			_, at = r.ends(mine)
		}
		if !started[i] {
			r.Start, started[i] = v.Start, true
		}
		e.Visits = append(e.Visits, v)
		prev = r
	}
	for i := 0; i < len(e.Steps); {
		round := p.Steps[i].Round
		j := i + 1
		for round != "" && j < len(e.Steps) && p.Steps[j].Round == round {
			j++
		}
		for pass := 1; pass <= times(round); pass++ {
			for k := i; k < j; k++ {
				visit(k, pass)
			}
		}
		i = j
	}
	for i := range e.Steps {
		r := &e.Steps[i]
		if r.Open {
			e.OpenSteps++
		}
		if r.Tool != nil && !contains(e.Tools, r.Tool.Key) {
			e.Tools = append(e.Tools, r.Tool.Key)
		}
	}
	e.Seconds, e.AtLeast = now, atLeast
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}
