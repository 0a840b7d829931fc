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
	Family   stroke.Family    `json:"family"`
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
	Dose     *stroke.Dose     `json:"dose"`
	Parts    []stroke.Part    `json:"parts"`
	Last     *stroke.Last     `json:"last,omitempty"`
	Fingers  []stroke.Finger  `json:"fingers,omitempty"`
	Sense    string           `json:"sense,omitempty"`
	Anchor   *stroke.Anchor   `json:"anchor,omitempty"`
	Sign     string           `json:"sign,omitempty"`
	Client   string           `json:"client,omitempty"`
	Cue      string           `json:"cue,omitempty"`
	Caution  string           `json:"caution,omitempty"`
	// View shows most of the path.
	View anatomy.View `json:"view" enum:"front,left,right,back,mouth"`
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
	rep     float64 // seconds of one repetition
	last    float64 // seconds by which the last repetition differs
	regions uint
	away    bool // runs backward along the lymph routes
}

// StrokeKey is the key of the step's stroke in the library.
func (r *Resolved) StrokeKey() string { return r.stroke.Key }

// on reports whether the step's path visits a zone.
func (r *Resolved) on(zone string) bool {
	for i := range r.Path {
		if r.Path[i].Zone == zone {
			return true
		}
	}
	return false
}

// Stop is a zone on a resolved path with the pressure there.
type Stop struct {
	Zone     string `json:"zone"`
	Pressure int    `json:"pressure"`
	// Side is set where the path runs across the face, and names the side of this
	// stop; empty where the pass decides.
	Side string `json:"side,omitempty" enum:"left,right,mid,"`
	// Height in cm above the chin, for the travel chart.
	Height float64 `json:"height"`
	id     anatomy.ID
	side   anatomy.Side // of a stop on a path across
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
	// In force while the visit lasts: the tool in hand, whether gloves are worn,
	// what the hands carry from before, and the node groups open on both sides.
	Tool   string              `json:"tool,omitempty"`
	Gloves bool                `json:"gloves,omitempty"`
	Hands  Hands               `json:"hands"`
	Open   []anatomy.NodeGroup `json:"open,omitempty"`
}

// Hands is what the practitioner's hands have touched since they were washed.
type Hands string

// The states of the hands, from clean to least clean.
const (
	CleanHands Hands = "clean"
	SkinHands  Hands = "skin" // neck or face, product
	HairHands  Hands = "hair"
	MouthHands Hands = "mouth"
)

// Opened tells that a node group was opened, and when.
type Opened struct {
	Node anatomy.NodeGroup `json:"node"`
	Side string            `json:"side"`
	Step string            `json:"step"`
	At   float64           `json:"at"`
}

// Planned is what a plan takes of a product, in every measure in which the
// product can be dosed (0 where it cannot), and what it costs.
type Planned struct {
	Product string  `json:"product"`
	Name    string  `json:"name"`
	ML      float64 `json:"ml"`
	G       float64 `json:"g"`
	Drops   float64 `json:"drops,omitempty"`
	Presses float64 `json:"presses,omitempty"`
	// Cost is exact, in the studio's currency; empty where it is not known.
	Cost string `json:"cost,omitempty"`
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
// at At, because the film gets too thin at ThinAt.
type Reapply struct {
	Step    string  `json:"step"`
	At      float64 `json:"at"`
	Thin    string  `json:"thin"`
	ThinAt  float64 `json:"thinAt"`
	Product string  `json:"product"`
}

// CueAt is a standing cue at its time.
type CueAt struct {
	Text string  `json:"text"`
	At   float64 `json:"at"`
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
	// SoldSeconds is what the client buys, ResetSeconds what the room needs after.
	SoldSeconds  int        `json:"soldSeconds"`
	ResetSeconds int        `json:"resetSeconds"`
	LeftSeconds  float64    `json:"leftSeconds"`
	RightSeconds float64    `json:"rightSeconds"`
	Steps        []Resolved `json:"steps"`
	Visits       []Visit    `json:"visits"`
	Opened       []Opened   `json:"opened"`
	Products     []Planned  `json:"products"`
	Tools        []string   `json:"tools"`
	TimesLeft    int        `json:"timesLeft"`
	ToolChanges  int        `json:"toolChanges"`
	// Jumps counts transitions over 15 cm.
	Jumps    int       `json:"jumps"`
	Loads    []Load    `json:"loads"`
	Reapply  []Reapply `json:"reapply"`
	Cues     []CueAt   `json:"cues"`
	Findings []Finding `json:"findings"`
	// SetUp is what is laid out beforehand; only [EvaluateWhole] fills it in.
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
// in: timeline, film, drainage and findings. A stroke or product that is no longer
// there is a finding. The cost is linear in visits and path
// lengths. The protocol is not changed.
func Evaluate(p *Protocol, ctx *Context) *Evaluation {
	e := outline(p, ctx)
	e.findings(p, ctx)
	return e
}

// EvaluateWhole is [Evaluate] with the set-up list.
func EvaluateWhole(p *Protocol, ctx *Context) *Evaluation {
	e := Evaluate(p, ctx)
	e.SetUp = SetUp(p, ctx, e)
	return e
}

// Outline is an evaluation without film, drainage and findings: steps, timeline
// and totals only.
func Outline(p *Protocol, ctx *Context) *Evaluation { return outline(p, ctx) }

func outline(p *Protocol, ctx *Context) *Evaluation {
	e := &Evaluation{SlotSeconds: p.Minutes.HandsOn * 60, SoldSeconds: p.Minutes.Sold * 60, ResetSeconds: p.Minutes.Reset * 60,
		Opened: []Opened{}, Products: []Planned{}, Tools: []string{}, Loads: []Load{}, Reapply: []Reapply{}, Cues: []CueAt{}, Findings: []Finding{}}
	e.Steps = make([]Resolved, len(p.Steps))
	stops := 0
	for i := range p.Steps {
		if n := len(p.Steps[i].Path); n > 0 {
			stops += n
		} else {
			stops += len(ctx.stroke(p.Steps[i].Stroke).Path)
		}
	}
	store := make([]Stop, 0, stops)
	for i := range p.Steps {
		store = resolve(&e.Steps[i], &p.Steps[i], p, ctx, store)
	}
	e.layOut(p)
	return e
}

// Resolve returns step i with everything it left unsaid filled in, without its
// place in time.
func Resolve(p *Protocol, i int, ctx *Context) *Resolved {
	var r Resolved
	resolve(&r, &p.Steps[i], p, ctx, nil)
	return &r
}

var noParts = []stroke.Part{}

// resolve fills r in and appends its path to store, which it returns.
func resolve(r *Resolved, s *Step, p *Protocol, ctx *Context, store []Stop) []Stop {
	st := ctx.stroke(s.Stroke)
	r.step, r.stroke = s, st
	r.ID, r.Phase, r.Name, r.Family, r.Intent = s.ID, s.Phase, st.Name, st.Family, st.Intent
	r.Hand, r.Tool, r.Sides, r.Pressure, r.Profile = st.Hand, st.Tool, st.Sides, st.Pressure, st.Profile
	r.Relation, r.Glide, r.Dose, r.Parts, r.Anchor = st.Relation, st.Glide, &st.Dose, st.Parts, st.Anchor
	r.Client, r.Cue, r.Caution, r.hold = st.Client, st.Cue, st.Caution, st.HoldOnLast
	r.Last, r.Fingers, r.Sense, r.Sign = st.Last, st.Fingers, st.Sense, st.Sign
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
	if s.Sense != "" {
		r.Sense = s.Sense
	}
	if s.Pressure != nil {
		r.Pressure = *s.Pressure
	}
	if s.Profile != "" {
		r.Profile = s.Profile
	}
	if s.Dose != nil {
		r.Dose = s.Dose
	}
	if r.Dose.Kind == stroke.Inherited {
		r.Dose = p.inherited(s.Section)
	}
	if len(s.Parts) > 0 {
		r.Parts, r.Last = s.Parts, nil
	}
	if r.Parts == nil {
		r.Parts = noParts
	}
	if s.Last != nil {
		r.Last = s.Last
	}
	if len(s.Fingers) > 0 {
		r.Fingers = s.Fingers
	}
	if s.Anchor != nil {
		r.Anchor = s.Anchor
	}
	if s.Client != "" {
		r.Client = s.Client
	}
	if s.Sign != "" {
		r.Sign = s.Sign
	}
	if r.Glide == "" {
		r.Glide = stroke.AnyGlide
	}
	if r.Profile == "" {
		r.Profile = stroke.Even
	}
	from := len(store)
	if len(s.Path) > 0 {
		for i, pt := range s.Path {
			store = append(store, r.stop(i, len(s.Path), pt.Zone, pt.Pressure))
		}
	} else {
		for i, key := range st.Path {
			store = append(store, r.stop(i, len(st.Path), key, nil))
		}
	}
	r.Path = store[from:len(store):len(store)]
	if r.Sides == stroke.Across {
		r.across(p.side(true))
	}
	r.View = anatomy.BestView(r.Path, Stop.Place, r.Sides == stroke.RightOnly)
	r.rep = stroke.RepSeconds(r.Parts)
	if r.Dose.CountsReps() {
		r.last = r.Last.Extra(r.Parts)
	}
	r.Least, r.Most, r.Grain = r.Dose.Range()
	r.Open = r.Dose.Open()
	r.Working = r.working(r.Dose.Planned)
	r.Seconds = int(math.Round(r.Working * ctx.pace()))
	if move := stroke.MoveSeconds(r.Parts); move > 0 && len(r.Path) > 1 && r.Dose.CountsReps() {
		cm := 0.0
		for i := 1; i < len(r.Path); i++ {
			cm += anatomy.Distance(r.Path[i-1].at(anatomy.Left), r.Path[i].at(anatomy.Left))
		}
		r.Speed = cm / move
	}
	return store
}

// across gives each stop its side: from the first side up to the midline, then
// on the other. A path that never meets the midline leaves the sides open.
func (r *Resolved) across(first anatomy.Side) {
	middle := -1
	for i := range r.Path {
		if !r.Path[i].id.Zone().Paired {
			middle = i
			break
		}
	}
	if middle < 0 {
		return
	}
	for i := range r.Path {
		pt := &r.Path[i]
		switch {
		case !pt.id.Zone().Paired:
			pt.side = anatomy.Mid
		case i < middle:
			pt.side = first
		default:
			pt.side = first.Other()
		}
		pt.Side = pt.side.String()
	}
}

// Place is the index of the stop's zone.
func (s Stop) Place() anatomy.ID { return s.id }

// at is the landmark of the stop when a pass works a side.
func (s *Stop) at(side anatomy.Side) anatomy.Point {
	if s.Side != "" {
		side = s.side
	}
	return anatomy.Place{Zone: s.id, Side: s.id.On(side)}.At()
}

func (c *Context) pace() float64 {
	if c.Pace == 0 {
		return 1
	}
	return c.Pace
}

// regionBit is the bit of each zone's region.
var regionBit = func() (bits [anatomy.Count]uint) {
	for i := range anatomy.Zones {
		bits[i] = 1 << film.RegionIndex(anatomy.Zones[i].Region)
	}
	return bits
}()

// Regions that carry no film.
var (
	scalpBit = uint(1) << film.RegionIndex(anatomy.Scalp)
	mouthBit = uint(1) << film.RegionIndex(anatomy.Mouth)
)

// stop is the i-th of n stops of the step's path.
func (r *Resolved) stop(i, n int, key string, pressure *int) Stop {
	id, _ := anatomy.Lookup(key)
	z := id.Zone()
	at := Stop{Zone: key, id: id, Height: z.Centre.Y, Pressure: r.Pressure}
	switch {
	case pressure != nil:
		at.Pressure = *pressure
	case r.Profile == stroke.Eases && i > 0 && i == n-1, r.Profile == stroke.Builds && i == 0 && n > 1:
		at.Pressure = max(r.Pressure-1, 0)
	}
	r.regions |= regionBit[id]
	return at
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
	return sides*r.Dose.With(planned).SideSeconds(r.rep) + sides*(r.hold+r.last) + (sides-1)*SideChangeSecond
}

// unequal is the working time that one side gets more than the other.
func (r *Resolved) unequal() float64 {
	em := r.step.Emphasis
	if em == nil || !r.works(em.Side) {
		return 0
	}
	d := r.Dose.With(em.Extra)
	d.Sets, d.Rest, d.Reverse = 0, 0, 0
	return d.SideSeconds(r.rep)
}

func (r *Resolved) works(side string) bool {
	return r.Sides == stroke.InTurns || string(r.Sides) == side
}

// mouth reports whether the step works inside the mouth, for which gloves are worn.
func (r *Resolved) mouth() bool {
	return r.regions&mouthBit != 0
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
	case stroke.BothAtOnce, stroke.Across:
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
	place := func(s *Stop, p *Pass) anatomy.Place {
		if s.Side != "" {
			return anatomy.Place{Zone: s.id, Side: s.side}
		}
		return anatomy.Place{Zone: s.id, Side: side(p, s.id)}
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
	p       *Protocol
	now     float64
	atLeast float64
	prev    *Resolved
	at      anatomy.Place
	passes  []Pass
	started []bool
	hands   Hands
	gloves  bool
}

// lead returns the seconds between the visit before and one of r, and whether
// the hands leave the face for it.
func (t *timeline) lead(r *Resolved, passes []Pass) (seconds float64, left bool) {
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
	gloves := r.gloved() != t.gloves && !(t.gloves && r.step.Gloves == "keep")
	if gloves {
		seconds += GlovesSeconds
	}
	left = tool || off != wasOff || gloves
	switch {
	case left:
		seconds += LeaveSeconds
	case !off:
		from, _ := r.ends(passes)
		cm := anatomy.Distance(t.at.At(), from.At())
		if cm > JumpCM {
			t.e.Jumps++
		}
		seconds += min(cm/TravelCMPerS, LeaveSeconds)
	}
	if left && !wasOff {
		t.e.TimesLeft++
	}
	return seconds, left
}

// gloved reports whether gloves are put on for the step: inside the mouth,
// unless the plan says bare hands.
func (r *Resolved) gloved() bool { return r.mouth() && r.step.Gloves != "none" }

func (t *timeline) visit(i, pass int) {
	e := t.e
	r := &e.Steps[i]
	if r.Phase == "reset" {
		return // the room's time, not the hands'
	}
	n := len(t.passes)
	t.passes = r.appendPasses(t.passes, t.p, 0, float64(r.Seconds))
	mine := t.passes[n:len(t.passes):len(t.passes)]
	v := Visit{Step: i, Pass: pass, Passes: mine, Hands: t.hands}
	switch {
	case r.Dose.CountsReps():
		v.RepSeconds = r.rep
	case r.Dose.Kind == stroke.Breaths:
		v.RepSeconds = r.Dose.In + r.Dose.Pause + r.Dose.Out
	}
	v.Lead, v.Left = t.lead(r, mine)
	if r.Tool != nil {
		v.Tool = r.Tool.Key
	}
	t.gloves = r.gloved() || t.gloves && r.step.Gloves == "keep"
	v.Gloves = t.gloves
	switch {
	case r.Family == stroke.Hygiene:
		t.hands = CleanHands
	case r.mouth():
		t.hands = MouthHands
	case r.regions&scalpBit != 0:
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
	if r.Open {
		t.atLeast -= r.Working - r.working(r.Least)
	}
	if len(r.Path) > 0 {
		_, t.at = r.ends(mine)
	}
	if !t.started[i] {
		r.Start, t.started[i] = v.Start, true
	}
	e.Visits = append(e.Visits, v)
	t.prev = r
}

// layOut puts the visits one after the other in time and sums up.
func (e *Evaluation) layOut(p *Protocol) {
	e.Visits = make([]Visit, 0, len(e.Steps)+8)
	t := timeline{e: e, p: p, passes: make([]Pass, 0, 2*len(e.Steps)+16), started: make([]bool, len(e.Steps)), hands: CleanHands}
	for i := 0; i < len(e.Steps); {
		j := p.roundEnd(i)
		for pass := 1; pass <= p.times(p.Steps[i].Round); pass++ {
			for k := i; k < j; k++ {
				t.visit(k, pass)
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
	for _, c := range p.Cues {
		for at := c.Every; float64(at) < e.Seconds; at += c.Every {
			e.Cues = append(e.Cues, CueAt{c.Text, float64(at)})
		}
	}
}

// times is how often a round is worked; 1 for no round.
func (p *Protocol) times(round string) int {
	if round != "" {
		for i := range p.Rounds {
			if p.Rounds[i].ID == round {
				return p.Rounds[i].Times
			}
		}
	}
	return 1
}

// roundEnd returns the position after the round that step i is in, or after the
// step where it is in none.
func (p *Protocol) roundEnd(i int) int {
	j := i + 1
	for p.Steps[i].Round != "" && j < len(p.Steps) && p.Steps[j].Round == p.Steps[i].Round {
		j++
	}
	return j
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}
