package evaluation

import (
	"cmp"
	"math"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Resolved is a step with everything it left unsaid filled in from its stroke
// and the protocol, and its times. Seconds count one working; Start is its
// first. All times are seconds from the start of hands-on time.
type Resolved struct {
	ID string `json:"id"`
	// Manner is the stroke's own where the step says nothing else: never to be written to.
	*stroke.Manner
	// StrokeKey is the key of the stroke in the library.
	StrokeKey string           `json:"strokeKey"`
	Phase     protocol.Phase   `json:"phase"`
	Tool      *stroke.ToolPart `json:"tool,omitempty"`
	ToolName  string           `json:"toolName,omitempty"`
	ToolKind  string           `json:"toolKind,omitempty"`
	Sides     stroke.Sides     `json:"sides"`
	Path      []Stop           `json:"path"`
	// Pressure is the firmest on the path.
	Pressure int                    `json:"pressure"`
	Profile  stroke.PressureProfile `json:"profile"`
	Relation stroke.Relation        `json:"relation"`
	Glide    stroke.Glide           `json:"glide"`
	Dose     *stroke.Dose           `json:"dose"`
	Parts    []stroke.Part          `json:"parts"`
	Further  *stroke.Further        `json:"further"`
	// Figure is how the step moves, in one word.
	Figure stroke.Figure `json:"figure" enum:"glide,feathering,circle,spiral,zigzag,whip,past,fork,vibrate,pinches,knead,skin-roll,taps,pump,hold,hand-over-hand,stretch,loop,roll,area,client"`
	// Use is the product that goes on with the step, Remove how product is taken off after it.
	Use    *PutOn `json:"use,omitempty"`
	Remove string `json:"remove,omitempty" enum:"blot,wipe,"`
	// Note of the step, and Why it is there.
	Note string `json:"note,omitempty"`
	Why  string `json:"why,omitempty"`
	// MirrorOf is the step whose other side this one works, Departure why it is different on purpose.
	MirrorOf  string `json:"mirrorOf,omitempty"`
	Departure string `json:"departure,omitempty"`
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

	// PressureUnsaid says that the pressure was never stated: it is the stroke's usual one, for planning.
	PressureUnsaid bool `json:"pressureUnsaid,omitempty"`

	nodes uint8 // groups of nodes on the path, as a set of [anatomy.NodeGroup.Bit]
	away  bool  // runs backward along the lymph routes
	// belowEarOnly says that the path is the hollow below the ear, which is neck as well as face.
	belowEarOnly bool
	Source       *protocol.Step `json:"-"`
	Stroke       *stroke.Stroke `json:"-"`
	hold         float64
	pace         float64 // of the practitioner with this stroke
	rep          float64 // seconds of one repetition
	last         float64 // seconds by which the last repetition differs
	Regions      uint    `json:"-"`
}

// unsaid reports whether a property was never stated, by the step or by its stroke.
func (r *Resolved) unsaid(property string) bool {
	_, step := r.Source.Gaps[property]
	_, usual := r.Stroke.Gaps[property]
	return step || usual
}

// OnZone reports whether the step's path visits a zone.
func (r *Resolved) OnZone(zone string) bool {
	for i := range r.Path {
		if r.Path[i].Zone == zone {
			return true
		}
	}
	return false
}

// OnEye reports whether the step's path visits a zone that counts against a limit of the eye.
func (r *Resolved) OnEye(share string) bool {
	for i := range r.Path {
		if EyeShare(r.Path[i].Zone) == share {
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
	unsaid bool         // its pressure was never stated
}

// Resolve returns step i with everything it left unsaid filled in, without its
// place in time.
func Resolve(p *protocol.Protocol, i int, ctx *protocol.Context) *Resolved {
	var r Resolved
	s := &p.Steps[i]
	st := ctx.StrokeOf(s.Stroke)
	resolve(&r, s, st, p, ctx, make([]Stop, 0, places(s, st)))
	return &r
}

// places is how many places are on the path of a step, an area counting as one.
func places(s *protocol.Step, st *stroke.Stroke) int {
	if len(s.Path) > 0 {
		return len(s.Path)
	}
	return len(st.Path)
}

var noParts = []stroke.Part{}

// resolve fills r in and appends its path to store, which it returns.
func resolve(r *Resolved, s *protocol.Step, st *stroke.Stroke, p *protocol.Protocol, ctx *protocol.Context, store []Stop) []Stop {
	r.Source, r.Stroke, r.Manner = s, st, &st.Manner
	r.ID, r.Phase, r.StrokeKey = s.ID, s.Phase, st.Key
	r.Tool, r.Sides, r.Pressure, r.Profile, r.hold = st.Tool, st.Sides, st.Pressure, st.Profile, st.HoldOnLast
	r.Relation, r.Glide, r.Dose, r.Parts, r.Further = st.Relation, st.Glide, &st.Dose, st.Parts, &st.Further
	for _, property := range s.Clears {
		r.clear(property)
	}
	r.override(s, p, ctx)
	from := len(store)
	put := func(i, n int, key string, pressure *int) {
		if id, ok := ctx.Zone(key); ok {
			store = append(store, r.stop(i, n, id, pressure))
			return
		}
		zones := anatomy.Area(key)
		for k, zone := range zones {
			store = append(store, r.stop(i*len(zones)+k, n*len(zones), ctx.ZoneOf(zone), pressure))
		}
	}
	if len(s.Path) > 0 {
		for i, pt := range s.Path {
			put(i, len(s.Path), pt.Zone, pt.Pressure)
		}
	} else {
		for i, key := range st.Path {
			put(i, len(st.Path), key, nil)
		}
	}
	r.Path = store[from:len(store):len(store)]
	r.figure()
	r.pressed()
	if r.Regions == 0 && len(r.Path) > 0 { // the hollow below the ear alone
		r.Regions, r.belowEarOnly = 1<<slip.RegionIndex(anatomy.SideFace), true
	}
	if r.Sides == stroke.Across {
		r.across(p.WorkedSide(true))
	}
	r.Remove, r.Note, r.Why = s.Remove, s.Note, s.Why
	r.MirrorOf, r.Departure = s.MirrorOf, s.Departure
	r.putOn(s.Use, ctx)
	r.View = anatomy.BestView(r.Path, (*Stop).ZoneID, r.Sides == stroke.RightOnly)
	if r.Family == stroke.Application && len(r.Path) > manyPlaces {
		r.View = anatomy.FrontView // over most of the face: half of it hides the other
	}
	r.timing(ctx)
	return store
}

// PutOn is a product by key and name, with its amount as the hand takes it; none where it was never measured.
type PutOn struct {
	Key     string           `json:"key"`
	Product string           `json:"product"`
	Amount  *slip.HandAmount `json:"amount,omitempty"`
}

// putOn says what goes on with the step.
func (r *Resolved) putOn(u *protocol.Use, ctx *protocol.Context) {
	if u == nil {
		return
	}
	r.Use = &PutOn{Key: u.Product, Product: u.Product}
	prod := ctx.Products[u.Product]
	if prod == nil {
		return
	}
	r.Use.Product = prod.Name
	if mL, ok := u.Amount.In(prod); ok {
		a := prod.ByHand(mL, false)
		r.Use.Amount = &a
	}
}

// manyPlaces are so many that a spread covers both halves of the face.
const manyPlaces = 6

// figure works out how the step moves.
func (r *Resolved) figure() {
	m := stroke.Motion{
		Family: r.Family, Relation: r.Relation, Places: len(r.Path), Direction: r.Direction, Sense: r.CircleDirection,
		Hand: r.Hand, Tool: r.Tool, Anchor: r.Anchor,
	}
	if m.Places > 0 {
		m.First, m.Last = r.Path[0].Zone, r.Path[m.Places-1].Zone
	}
	r.Figure = m.Figure()
}

// pressed makes the pressure of the step the firmest one on its path: the one number that
// lists, pictures and papers tell is the one the hands give.
func (r *Resolved) pressed() {
	if len(r.Path) == 0 {
		return
	}
	r.Pressure = 0
	for i := range r.Path {
		r.Pressure = max(r.Pressure, r.Path[i].Pressure)
	}
}

// clear takes away what the stroke says and the step does not.
func (r *Resolved) clear(property string) {
	switch property {
	case "tool":
		r.Tool = nil
	case "fingers":
		r.own().Fingers = nil
	case "anchor":
		r.own().Anchor = nil
	case "client":
		r.own().Client = ""
	case "find":
		r.own().Find = ""
	case "sign":
		r.own().Sign = ""
	case "cue":
		r.own().Cue = ""
	case "caution":
		r.own().Precaution = ""
	case "direction":
		r.own().Direction = ""
	case "sense":
		r.own().CircleDirection = ""
	case "tempo":
		r.own().Tempo = ""
	case "ending":
		r.own().Ending = ""
	case "alternates":
		r.own().Alternates = nil
	case "last":
		r.own().Last = nil
	case "further":
		r.Further = &stroke.Further{}
	}
}

// own is the manner of the step's own, to be written to.
func (r *Resolved) own() *stroke.Manner {
	if r.Manner == &r.Stroke.Manner {
		own := r.Stroke.Manner
		r.Manner = &own
	}
	return r.Manner
}

// overrideManner takes from the step how it is done otherwise than the stroke.
func (r *Resolved) overrideManner(s *protocol.Step) {
	if s.CircleDirection != "" {
		r.own().CircleDirection = s.CircleDirection
	}
	if s.Direction != "" {
		r.own().Direction = s.Direction
	}
	if s.Tempo != "" {
		r.own().Tempo = s.Tempo
	}
	if s.Ending != "" {
		r.own().Ending = s.Ending
	}
	if s.Find != "" {
		r.own().Find = s.Find
	}
	if s.Cue != "" {
		r.own().Cue = s.Cue
	}
	if s.Precaution != "" {
		r.own().Precaution = s.Precaution
	}
	if s.Alternates != nil {
		r.own().Alternates = s.Alternates
	}
	if s.Last != nil {
		r.own().Last = s.Last
	}
	if len(s.Fingers) > 0 {
		r.own().Fingers = s.Fingers
	}
	if s.Anchor != nil {
		r.own().Anchor = s.Anchor
	}
	if s.Client != "" {
		r.own().Client = s.Client
	}
	if s.Sign != "" {
		r.own().Sign = s.Sign
	}
}

// override takes from the step what it says otherwise than the stroke.
func (r *Resolved) override(s *protocol.Step, p *protocol.Protocol, ctx *protocol.Context) {
	if s.Hand != "" {
		r.own().Hand, r.Tool = s.Hand, nil
	}
	if s.Tool != nil {
		r.Tool = s.Tool
	}
	if r.Tool != nil {
		tool := ctx.Tools[r.Tool.Key]
		r.ToolName, r.ToolKind = cmp.Or(tool.Name, r.Tool.Key), tool.Kind
	}
	if s.Sides != "" {
		r.Sides = s.Sides
	}
	_, gap := s.Gaps["pressure"]
	_, usual := r.Stroke.Gaps["pressure"]
	r.Further = s.Further.Over(r.Further)
	relative := r.Further.PressureAs == "deeper-than-before" || r.Further.PressureAs == "lighter-than-before"
	r.PressureUnsaid = s.Pressure == nil && (gap || usual || relative)
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
		r.Dose = p.InheritedDose(s.Section)
	}
	if len(s.Parts) > 0 {
		if r.Parts = s.Parts; r.Last != nil {
			r.own().Last = nil
		}
	}
	r.overrideManner(s)
	if r.Parts == nil {
		r.Parts = noParts
	}
	if r.Glide == "" {
		r.Glide = stroke.AnyGlide
	}
	if r.Profile == "" {
		r.Profile = stroke.Even
	}
}

// timing works out the seconds, the range of repetitions and the speed of the hands.
func (r *Resolved) timing(ctx *protocol.Context) {
	r.rep = stroke.RepSeconds(r.Parts)
	if r.Dose.CountsReps() {
		r.last = r.Last.Extra(r.Parts)
	}
	r.Least, r.Most, r.Grain = r.Dose.Range()
	r.Open = r.Dose.Open()
	r.Working = r.WorkingSeconds(r.Dose.Planned)
	r.pace = ctx.PaceOf(r.StrokeKey)
	r.Seconds = int(math.Round(r.Working * r.pace))
	if move := stroke.MoveSeconds(r.Parts); move > 0 && len(r.Path) > 1 && r.Dose.CountsReps() {
		cm := 0.0
		for i := 1; i < len(r.Path); i++ {
			cm += r.Path[i-1].on(anatomy.Left).To(r.Path[i].on(anatomy.Left))
		}
		r.Speed = cm / move
	}
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

// ZoneID is the index of the stop's zone.
func (s *Stop) ZoneID() anatomy.ID { return s.id }

// on is the place of the stop when a pass works a side.
func (s *Stop) on(side anatomy.Side) anatomy.ZoneSide {
	if s.Side != "" {
		side = s.side
	}
	return anatomy.ZoneSide{Zone: s.id, Side: s.id.On(side)}
}

// RegionBit is the bit of a zone's region, as in [Resolved.Regions]; 0 where a region carries no product.
func RegionBit(id anatomy.ID) uint { return regionBit[id.Index()] }

// regionBit is the bit of each zone's region; every zone of a studio's own is an add-on.
var regionBit = func() (bits [anatomy.Slots]uint) {
	for i := range bits {
		region := anatomy.AddOn
		if i < anatomy.Count {
			region = anatomy.Zones[i].Region
		}
		bits[i] = 1 << slip.RegionIndex(region)
	}
	below, _ := anatomy.Lookup("below-ear") // neck as well as face: the rest of the path decides
	bits[below.Index()] = 0
	return bits
}()

// nodeBit is the bit of the node group that lies in each zone; none lies in a studio's own.
var nodeBit = func() (bits [anatomy.Slots]uint8) {
	for i := range anatomy.Zones {
		bits[i] = anatomy.Zones[i].Node.Bit()
	}
	return bits
}()

// Regions that carry no product.
var (
	scalpBit = uint(1) << slip.RegionIndex(anatomy.Scalp)
	mouthBit = uint(1) << slip.RegionIndex(anatomy.Mouth)
)

// Spelled is the path with what was said at each of its zones, ready to be changed: areas are spelled out,
// and only pressures of their own are given.
func (r *Resolved) Spelled() []protocol.PathPoint {
	out := make([]protocol.PathPoint, 0, len(r.Path))
	if len(r.Source.Path) == 0 {
		for i := range r.Path {
			out = append(out, protocol.PathPoint{Zone: r.Path[i].Zone})
		}
		return out
	}
	for _, at := range r.Source.Path {
		for _, zone := range anatomy.Area(at.Zone) {
			at.Zone = zone
			out = append(out, at)
		}
	}
	return out
}

// stop is the i-th of n stops of the step's path.
func (r *Resolved) stop(i, n int, id anatomy.ID, pressure *int) Stop {
	z := id.Zone()
	at := Stop{Zone: z.Key, id: id, Height: z.Centre.Y, Pressure: r.Pressure, unsaid: r.PressureUnsaid && pressure == nil}
	switch {
	case pressure != nil:
		at.Pressure = *pressure
	case r.Profile == stroke.Eases && i > 0 && i == n-1, r.Profile == stroke.Builds && i == 0 && n > 1:
		at.Pressure = max(r.Pressure-1, 0)
	}
	r.Regions |= regionBit[id.Index()]
	r.nodes |= nodeBit[id.Index()]
	return at
}

// Pace scales working seconds to the practitioner's own.
func (r *Resolved) Pace() float64 { return r.pace }

// WorkingSeconds is the handbook's formula for one visit with a planned dose:
// sides x sets x reps x sum(parts) + sides x hold_on_last + (sides-1) x 3 +
// sides x (sets-1) x rest, unequal sides added separately.
func (r *Resolved) WorkingSeconds(planned int) float64 { return r.even(planned) + r.unequal() }

// even is the working time without what one side gets more than the other.
func (r *Resolved) even(planned int) float64 {
	sides := 1.0
	if r.Sides == stroke.InTurns {
		sides = 2
	}
	return sides*r.Dose.SideSecondsOf(planned, r.rep) + sides*(r.hold+r.last) + (sides-1)*SideChangeSecond
}

// unequal is the working time that one side gets more than the other.
func (r *Resolved) unequal() float64 {
	em := r.Source.Emphasis
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

// InMouth reports whether the step works inside the mouth, for which gloves are worn.
func (r *Resolved) InMouth() bool {
	return r.Regions&mouthBit != 0
}
