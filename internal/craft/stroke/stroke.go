// Package stroke describes the named, reusable movements of facial massage:
// which hand part or tool works, along which zones, how hard, how often, and
// with which intent. A protocol's step applies one stroke to one path.
//
// # What a stroke is
//
// A [Stroke] has a [Family] of movement (glide, knead, press ...), a hand part
// or a [ToolPart], an [Intent], a layer, a pressure from 0 (resting contact) to
// 5 (deep) with a [PressureProfile] along its path, a [Relation] to the skin, a need of
// slip ([Glide]), an order of sides ([Sides]) and a [Dose].
//
// The intent settles direction and depth: a drain is a feather (1) on the
// surface towards the next node, the neck down; a lift works muscle at 3 to 4
// up and out, the neck up beside the throat; a release 3 to 5 within the
// ceilings, along or across the fibre, or held.
//
// # Doses
//
// A repetition is the run of its [Part]s, so a compound repetition (vibrate up,
// pump three times, slide back) counts as one and its holds are never added
// twice. The last repetition may differ ([Last]). What is counted - repetitions,
// seconds, breaths, positions, until a sign, as long by feel, not
// said, as the protocol says - are kinds that are never flattened into one
// another; see [DoseKind].
//
// # Unknown is a value
//
// Any property may be unknown. [Stroke.Gaps] names the properties that were not
// said, with the words that were ("stronger than before"). A gap is judged at
// the stroke's default and shown, never silently filled in.
//
// [Trade] is the classic studio repertoire, as data.
package stroke

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/problem"
	"softpalm/words"
)

// Intent is what a stroke is for. It settles which direction and depth are right.
type Intent string

// The intents.
const (
	Settle    Intent = "settle"
	Cleanse   Intent = "cleanse"
	Spread    Intent = "spread"
	Open      Intent = "open"
	Drain     Intent = "drain"
	Lift      Intent = "lift"
	Release   Intent = "release"
	Tone      Intent = "tone"
	Soothe    Intent = "soothe"
	Stimulate Intent = "stimulate"
	LookOver  Intent = "look-over"
	Finish    Intent = "finish"
)

// Sides says which sides a step works, and in which order.
type Sides string

// The ways of working sides. First and SecondSide mean a side whose name
// was not said; the protocol's first side decides.
const (
	Midline    Sides = "mid"
	BothAtOnce Sides = "both"
	InTurns    Sides = "turns"
	LeftOnly   Sides = "left"
	RightOnly  Sides = "right"
	FirstSide  Sides = "first"
	SecondSide Sides = "second"
	// Across runs from one side of the face to the other and counts for neither.
	Across Sides = "across"
)

// Glide is what a stroke asks of the slip.
type Glide string

// The glide needs. Slide and Stone want slip, Knead some, Grip little or none.
const (
	AnyGlide   Glide = "any"
	SlideGlide Glide = "slide"
	StoneGlide Glide = "stone"
	KneadGlide Glide = "knead"
	GripGlide  Glide = "grip"
)

// Relation is how the hand meets the skin.
type Relation string

// The relations of hand and skin.
const (
	Slides  Relation = "slides"
	Carries Relation = "carries"
	Still   Relation = "still"
)

// PressureProfile is how pressure runs along the path.
type PressureProfile string

// The pressure profiles. LightBack works one way and returns without pressure;
// OwnWeight is the tool's own weight only.
const (
	Even      PressureProfile = "even"
	Builds    PressureProfile = "builds"
	Eases     PressureProfile = "eases"
	LightBack PressureProfile = "light-back"
	OwnWeight PressureProfile = "own-weight"
)

// PartKind is one moment within a repetition.
type PartKind string

// The kinds of part. Move travels the path, Back returns to its start, Wiggle
// shakes the last centimetre, Swap is the hands changing over.
const (
	Move   PartKind = "move"
	Hold   PartKind = "hold"
	Back   PartKind = "back"
	Pulse  PartKind = "pulse"
	Wiggle PartKind = "wiggle"
	Swap   PartKind = "swap"
)

// Part is one moment within a repetition; a repetition is the run of its parts.
type Part struct {
	Kind PartKind `json:"kind" enum:"move,hold,back,pulse,wiggle,swap"`
	// Seconds the part lasts, above 0 and at most 600; of one pulse where it is
	// counted.
	Seconds float64 `json:"seconds" minimum:"0.05" maximum:"600"`
	// Count is how often the part is done in a row; 0 counts as once.
	Count int `json:"count,omitempty" minimum:"0" maximum:"50"`
	// Zone is where the part happens, if not along the path; Pressure its own.
	Zone     string `json:"zone,omitempty" maxLength:"60"`
	Pressure *int   `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	// Direction of this part, where one repetition runs several ways; Towards its zone.
	Direction string `json:"direction,omitempty" enum:"along,across,towards-hairline,multi,up,down,in,out,towards,apart,together,any,"`
	Towards   string `json:"towards,omitempty" maxLength:"60"`
	// Least and Most are the range of Count: rise in 5 to 6 counts. Counts says that Seconds is one count.
	Least  int    `json:"least,omitempty" minimum:"0" maximum:"50"`
	Most   int    `json:"most,omitempty" minimum:"0" maximum:"50"`
	Counts bool   `json:"counts,omitempty"`
	Does   string `json:"does,omitempty" maxLength:"120"`
}

func (p Part) total() float64 { return p.Seconds * float64(max(p.Count, 1)) }

// Last says how the last repetition of a side differs: parts of its own, leaned
// in further, held longer.
type Last struct {
	Parts    []Part `json:"parts,omitempty" maxItems:"12"`
	Pressure *int   `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	Does     string `json:"does,omitempty" maxLength:"120"`
}

// Extra is how many seconds longer (or, below 0, shorter) the last repetition
// is than one of the given parts; 0 for a nil Last.
func (l *Last) Extra(parts []Part) float64 {
	if l == nil || len(l.Parts) == 0 {
		return 0
	}
	return RepSeconds(l.Parts) - RepSeconds(parts)
}

// RepSeconds is the length of one repetition in seconds.
func RepSeconds(parts []Part) float64 {
	sum := 0.0
	for i := range parts {
		sum += parts[i].total()
	}
	return sum
}

// MoveSeconds is the part of a repetition in which the hand travels its path.
func MoveSeconds(parts []Part) float64 {
	sum := 0.0
	for i := range parts {
		if parts[i].Kind == Move {
			sum += parts[i].total()
		}
	}
	return sum
}

// ToolPart is a tool of the studio, by key, the edge or side of it in use and
// how its handle is turned.
type ToolPart struct {
	Key    string `json:"key" maxLength:"60"`
	Part   string `json:"part,omitempty" maxLength:"60"`
	Handle string `json:"handle,omitempty" enum:"up,down,"`
}

// Anchor is what the other hand does meanwhile.
type Anchor struct {
	Zone     string `json:"zone" maxLength:"60"`
	Hand     string `json:"hand,omitempty" maxLength:"60"`
	Pressure int    `json:"pressure" minimum:"0" maximum:"5"`
	// Role of the hand. Carries on is hand over hand: it takes the stroke over.
	Role string `json:"role,omitempty" enum:"holds-taut,supports,covers,rests,catches,carries-on,"`
	Does string `json:"does,omitempty" maxLength:"120"`
	// Second is another contact of the same hand.
	Second *HandContact `json:"second,omitempty"`
	// Then are the roles the hand changes to within one repetition, in order; the
	// change over is a part of kind swap.
	Then []AnchorChange `json:"changes,omitempty" maxItems:"4"`
}

// HandContact is a place that a hand touches besides.
type HandContact struct {
	Zone     string `json:"zone" maxLength:"60"`
	Hand     string `json:"hand,omitempty" maxLength:"60"`
	Pressure int    `json:"pressure" minimum:"0" maximum:"5"`
}

// AnchorChange is a later role of the second hand within the same repetition.
type AnchorChange struct {
	Zone     string `json:"zone" maxLength:"60"`
	Hand     string `json:"hand,omitempty" maxLength:"60"`
	Pressure int    `json:"pressure" minimum:"0" maximum:"5"`
	Role     string `json:"role" enum:"holds-taut,supports,covers,rests,catches,carries-on"`
}

// Finger is one finger that presses differently from the hand, or runs
// elsewhere: the thumb below the jaw, the fingers above it.
type Finger struct {
	Part     string `json:"part" maxLength:"60"`
	Pressure int    `json:"pressure" minimum:"0" maximum:"5"`
	Zone     string `json:"zone,omitempty" maxLength:"60"`
}

// Alternate says what to do instead when a condition holds: another stroke,
// hand part or tool, or to leave the stroke out. Without a condition it may
// stand in whenever the stroke itself cannot be done.
type Alternate struct {
	When string `json:"when,omitempty" enum:"long-nails,no-tool,too-strong,stalled,beard,lashes,"`
	// Condition is when, in the studio's own words.
	Condition string    `json:"condition,omitempty" maxLength:"200"`
	Stroke    string    `json:"stroke,omitempty" maxLength:"60"`
	Hand      string    `json:"hand,omitempty" maxLength:"60"`
	Tool      *ToolPart `json:"tool,omitempty"`
	LeaveOut  bool      `json:"leaveOut,omitempty"`
	Does      string    `json:"does,omitempty" maxLength:"120"`
}

// Manner is how a stroke is done, apart from its path, pressure, sides and time. A step takes it from its
// stroke whole, save for what it says itself.
type Manner struct {
	Name string `json:"name" minLength:"1" maxLength:"120"`
	// Short is the name where there is little room; empty takes the name.
	Short  string `json:"short,omitempty" maxLength:"24"`
	Family Family `json:"family" enum:"effleurage,flick/whip,stripping,twist,passive movement,petrissage,friction,tapotement,vibration,static hold,pump,stretch,scissor,compression,feathering,skin rolling,pick-up,wiggle,client exercise,tool glide,tool roll,tool press,application,cleansing circle,rest,hygiene"`
	Intent Intent `json:"intent" enum:"settle,cleanse,spread,open,drain,lift,release,tone,soothe,stimulate,look-over,finish"`
	Hand   string `json:"hand,omitempty" maxLength:"60"`
	// Fingers that press differently from the hand as a whole.
	Fingers []Finger `json:"fingers,omitempty" maxItems:"6"`
	// Direction of the work: along its path or across the line, towards the hairline, every way round an
	// anchored finger; at a single place up, down, in, out, towards a zone, apart or together; any is
	// free. Sense is that of circles.
	Direction       string  `json:"direction,omitempty" enum:"along,across,towards-hairline,multi,up,down,in,out,towards,apart,together,any,"`
	CircleDirection string  `json:"sense,omitempty" enum:"clockwise,anticlockwise,each-way,outward,inward,"`
	Tempo           string  `json:"tempo,omitempty" enum:"even,slow,slows,breath,quick,"`
	Ending          string  `json:"ending,omitempty" enum:"hold,wiggle,press-temple,lift-off,carries-on,"`
	Last            *Last   `json:"last,omitempty"`
	Anchor          *Anchor `json:"anchor,omitempty"`
	// Find is how the place is found: "clench so that the muscle shows".
	Find string `json:"find,omitempty" maxLength:"200"`
	// Sign shows that it is done well: "no crease, no drag, forehead still".
	Sign string `json:"sign,omitempty" maxLength:"200"`
	// Client is what the client does meanwhile.
	Client string `json:"client,omitempty" maxLength:"200"`
	// Cue is how to do it, in a sentence; Precaution what to watch for.
	Cue        string `json:"cue,omitempty" maxLength:"300"`
	Precaution string `json:"caution,omitempty" maxLength:"300"`
	// Alternates are tried in order.
	Alternates []Alternate `json:"alternates,omitempty" maxItems:"6"`
}

// Stroke is a named movement of the library.
type Stroke struct {
	Key string `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Manner
	// Gone marks a stroke that the library no longer has; a plan still names it by its key.
	Gone  bool      `json:"-"`
	Tool  *ToolPart `json:"tool,omitempty"`
	Layer string    `json:"layer,omitempty" enum:"surface,skin,muscle,fascia"`
	// Pressure 0 resting contact, 1 feather, 2 light, 3 medium, 4 firm, 5 deep.
	Pressure int             `json:"pressure" minimum:"0" maximum:"5"`
	Profile  PressureProfile `json:"profile,omitempty" enum:"even,builds,eases,light-back,own-weight"`
	Relation Relation        `json:"relation,omitempty" enum:"slides,carries,still"`
	Glide    Glide           `json:"glide,omitempty" enum:"any,slide,stone,knead,grip"`
	// Path is the zones the hand visits, in order; empty for a step off the body.
	Path  []string `json:"path,omitempty" maxItems:"20"`
	Sides Sides    `json:"sides" enum:"mid,both,turns,left,right,first,second,across"`
	Dose  Dose     `json:"dose"`
	// Parts of one repetition; needed where the dose counts repetitions.
	Parts []Part `json:"parts,omitempty" maxItems:"12"`
	// HoldOnLast seconds are added once a side, after the last repetition.
	HoldOnLast float64 `json:"holdOnLast,omitempty" minimum:"0" maximum:"120"`
	HomeSafe   bool    `json:"homeSafe,omitempty"`
	Further
	// Gaps names properties that were not said, with the words that were.
	Gaps map[string]string `json:"gaps,omitempty" maxProperties:"24"`
}

// ShortName is the name where there is little room.
func (s *Stroke) ShortName() string {
	if s.Short != "" {
		return s.Short
	}
	return s.Name
}

// Zones are the zones of the path, areas spelled out.
func (s *Stroke) Zones() []string {
	for _, key := range s.Path {
		if anatomy.Areas[key] == nil {
			continue
		}
		var out []string
		for _, k := range s.Path {
			out = append(out, anatomy.Area(k)...)
		}
		return out
	}
	return s.Path
}

// Properties that may be a gap: any may be unknown.
var Properties = []string{
	"family",
	"hand",
	"tool",
	"path",
	"direction",
	"sense",
	"sides",
	"firstSide",
	"dose",
	"hold",
	"breath",
	"pressure",
	"profile",
	"tempo",
	"anchor",
	"product",
	"amount",
	"client",
	"intent",
}

// Validate reports every problem of the stroke, each with its field path below at.
func (s *Stroke) Validate(at string) []problem.Fault {
	var ps []problem.Fault
	if s.Key == "" || s.Name == "" {
		ps = append(ps, problem.Fault{Path: at, Sentence: words.StrokeNeedsKeyName()})
	}
	ps = append(ps, ValidatePath(s.Path, at+"/path")...)
	ps = append(ps, s.Dose.Validate(at+"/dose")...)
	if s.Dose.Kind == Inherited {
		ps = append(ps, problem.Fault{Path: at + "/dose", Sentence: words.StrokeHasNothingInheritFromGiveIts()})
	}
	if s.Dose.CountsReps() && RepSeconds(s.Parts) <= 0 {
		ps = append(ps, problem.Fault{Path: at + "/parts", Sentence: words.CountedRepetitionsNeedSecondsOneRepetitionAdd()})
	}
	if !slices.Contains(Intents, s.Intent) {
		ps = append(ps, problem.Fault{Path: at + "/intent", Sentence: words.ThereIsNoIntentIntent(s.Intent)})
	}
	if s.Pressure < 0 || s.Pressure > 5 {
		ps = append(ps, problem.Fault{Path: at + "/pressure", Sentence: words.PressureGoesFrom0To5()})
	}
	if !slices.Contains(Families, s.Family) {
		ps = append(ps, problem.Fault{Path: at + "/family", Sentence: words.ThereIsNoStrokeFamilyFamily(s.Family)})
	}
	ps = append(ps, ValidateHand(s.Hand, at+"/hand")...)
	ps = append(ps, ValidateParts(s.Parts, at+"/parts")...)
	if s.Last != nil {
		ps = append(ps, ValidateParts(s.Last.Parts, at+"/last/parts")...)
	}
	ps = append(ps, s.Anchor.Validate(at+"/anchor")...)
	for i, f := range s.Fingers {
		if f.Zone != "" {
			ps = append(ps, ValidateZone(f.Zone, fmt.Sprintf("%s/fingers/%d/zone", at, i))...)
		}
		ps = append(ps, ValidateHand(f.Part, fmt.Sprintf("%s/fingers/%d/part", at, i))...)
	}
	ps = append(ps, ValidateAlternates(s.Alternates, s.Key, at)...)
	ps = append(ps, ValidateGaps(s.Gaps, at+"/gaps")...)
	return append(ps, s.Further.Validate(at)...)
}

// ValidateAlternates reports alternates that say nothing, or name their own stroke.
func ValidateAlternates(list []Alternate, of, at string) []problem.Fault {
	var ps []problem.Fault
	for i, a := range list {
		here := fmt.Sprintf("%s/alternates/%d", at, i)
		if a.Stroke == "" && a.Hand == "" && a.Tool == nil && !a.LeaveOut && a.Does == "" {
			ps = append(ps, problem.Fault{Path: here, Sentence: words.ChooseAlternativeStrokeHandPartToolOr()})
		}
		ps = append(ps, ValidateHand(a.Hand, here+"/hand")...)
		if a.Stroke == of && of != "" {
			ps = append(ps, problem.Fault{Path: here + "/stroke", Sentence: words.AStrokeCannotBeItsOwnAlternative()})
		}
	}
	return ps
}

// ValidateGaps reports gaps in properties that do not exist.
func ValidateGaps(gaps map[string]string, at string) []problem.Fault {
	var ps []problem.Fault
	for _, k := range slices.Sorted(maps.Keys(gaps)) {
		if !slices.Contains(Properties, k) {
			ps = append(ps, problem.Fault{Path: at + "/" + k, Sentence: NoSuchGap(k)})
		}
	}
	return ps
}

// NoSuchGap says that there is no such property that could be unknown, and which there are.
func NoSuchGap(property string) words.Sentence {
	return words.StepHasNoPropertyKThatCould(property, strings.Join(Properties, ", "))
}

// ValidateParts reports parts that cannot be timed or lie nowhere.
func ValidateParts(parts []Part, at string) []problem.Fault {
	var ps []problem.Fault
	for i, p := range parts {
		here := fmt.Sprintf("%s/%d", at, i)
		if !(p.Seconds > 0 && p.Seconds <= 600) || p.Count < 0 || p.Count > 50 {
			ps = append(ps, problem.Fault{Path: here + "/seconds", Sentence: words.PartLastsMoreThan0AtMost()})
		}
		if p.Zone != "" {
			ps = append(ps, ValidateZone(p.Zone, here+"/zone")...)
		}
		if p.Pressure != nil && (*p.Pressure < 0 || *p.Pressure > 5) {
			ps = append(ps, problem.Fault{Path: here + "/pressure", Sentence: words.PressureGoesFrom0To5()})
		}
	}
	return ps
}

// Validate reports the faults of an anchor; a nil anchor has none.
func (a *Anchor) Validate(at string) []problem.Fault {
	if a == nil {
		return nil
	}
	ps := ValidateZone(a.Zone, at+"/zone")
	if a.Second != nil {
		ps = append(ps, ValidateZone(a.Second.Zone, at+"/second/zone")...)
		ps = append(ps, ValidateHand(a.Second.Hand, at+"/second/hand")...)
	}
	for i, c := range a.Then {
		ps = append(ps, ValidateZone(c.Zone, fmt.Sprintf("%s/changes/%d/zone", at, i))...)
	}
	return ps
}

// ValidatePath reports the zones and areas of a path that do not exist.
func ValidatePath(path []string, at string) []problem.Fault {
	var ps []problem.Fault
	for i, z := range path {
		ps = append(ps, ValidatePlace(z, fmt.Sprintf("%s/%d", at, i))...)
	}
	return ps
}

// ValidatePlace reports what is neither a zone nor an area.
func ValidatePlace(key, at string) []problem.Fault {
	if anatomy.Areas[key] != nil {
		return nil
	}
	return ValidateZone(key, at)
}

// ValidateZone reports a zone that does not exist. Whether a studio has a zone of its own is asked
// where its zones are known.
func ValidateZone(zone, at string) []problem.Fault {
	if _, ok := anatomy.Lookup(zone); !ok && !anatomy.IsOwn(zone) {
		return []problem.Fault{{Path: at, Sentence: words.ThereIsNoZoneZone(zone)}}
	}
	return nil
}
