// Package stroke describes the named, reusable movements of facial massage:
// which hand part or tool works, along which zones, how hard, how often, and
// with which intent. A protocol's step applies one stroke to one path.
//
// Unknown is a value: an empty string, a nil pressure or a dose of kind
// [Unknown] mean "not said" and are judged at the stroke's default, never
// silently filled in.
package stroke

import (
	"fmt"

	"softpalm/internal/craft/anatomy"
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

// Sides tells which sides a step works, and in which order.
type Sides string

// The ways of working sides. First and SecondSide stand for a side whose name
// was not said; the protocol's first side decides.
const (
	Midline    Sides = "mid"
	BothAtOnce Sides = "both"
	InTurns    Sides = "turns"
	LeftOnly   Sides = "left"
	RightOnly  Sides = "right"
	FirstSide  Sides = "first"
	SecondSide Sides = "second"
)

// Glide is what a stroke asks of the product film.
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

// Profile is how pressure runs along the path.
type Profile string

// The pressure profiles. LightBack works one way and returns without pressure;
// OwnWeight is the tool's own weight only.
const (
	Even      Profile = "even"
	Builds    Profile = "builds"
	Eases     Profile = "eases"
	LightBack Profile = "light-back"
	OwnWeight Profile = "own-weight"
)

// PartKind is one moment within a repetition.
type PartKind string

// The kinds of part. Back is a return to the start of the path.
const (
	Move  PartKind = "move"
	Hold  PartKind = "hold"
	Back  PartKind = "back"
	Pulse PartKind = "pulse"
)

// Part is one moment within a repetition; a repetition is the run of its parts.
type Part struct {
	Kind PartKind `json:"kind" enum:"move,hold,back,pulse"`
	// Seconds the part lasts, above 0 and at most 600.
	Seconds float64 `json:"seconds" minimum:"0.05" maximum:"600"`
}

// RepSeconds is the length of one repetition in seconds.
func RepSeconds(parts []Part) float64 {
	sum := 0.0
	for _, p := range parts {
		sum += p.Seconds
	}
	return sum
}

// MoveSeconds is the part of a repetition in which the hand travels its path.
func MoveSeconds(parts []Part) float64 {
	sum := 0.0
	for _, p := range parts {
		if p.Kind == Move {
			sum += p.Seconds
		}
	}
	return sum
}

// ToolPart is a tool of the studio, by key, and the edge or side of it in use.
type ToolPart struct {
	Key  string `json:"key" maxLength:"60"`
	Part string `json:"part,omitempty" maxLength:"60"`
}

// Anchor is what the other hand does meanwhile.
type Anchor struct {
	Zone     string `json:"zone" maxLength:"60"`
	Pressure int    `json:"pressure" minimum:"0" maximum:"5"`
	Does     string `json:"does,omitempty" maxLength:"120"`
}

// Stroke is a named movement of the library.
type Stroke struct {
	Key    string    `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name   string    `json:"name" minLength:"1" maxLength:"120"`
	Family string    `json:"family" maxLength:"60"`
	Hand   string    `json:"hand,omitempty" maxLength:"60"`
	Tool   *ToolPart `json:"tool,omitempty"`
	Intent Intent    `json:"intent" enum:"settle,cleanse,spread,open,drain,lift,release,tone,soothe,stimulate,look-over,finish"`
	Layer  string    `json:"layer,omitempty" enum:"surface,skin,muscle,fascia"`
	// Pressure 0 resting contact, 1 feather, 2 light, 3 medium, 4 firm, 5 deep.
	Pressure int      `json:"pressure" minimum:"0" maximum:"5"`
	Profile  Profile  `json:"profile,omitempty" enum:"even,builds,eases,light-back,own-weight"`
	Relation Relation `json:"relation,omitempty" enum:"slides,carries,still"`
	Glide    Glide    `json:"glide,omitempty" enum:"any,slide,stone,knead,grip"`
	// Path is the zones the hand visits, in order; empty for a step off the body.
	Path  []string `json:"path,omitempty" maxItems:"20"`
	Sides Sides    `json:"sides" enum:"mid,both,turns,left,right,first,second"`
	Dose  Dose     `json:"dose"`
	// Parts of one repetition; needed where the dose counts repetitions.
	Parts []Part `json:"parts,omitempty" maxItems:"12"`
	// HoldOnLast seconds are added once a side, after the last repetition.
	HoldOnLast float64 `json:"holdOnLast,omitempty" minimum:"0" maximum:"120"`
	Anchor     *Anchor `json:"anchor,omitempty"`
	// Client is what the client does meanwhile.
	Client string `json:"client,omitempty" maxLength:"200"`
	// Cue is how to do it, in a sentence; Caution what to mind.
	Cue      string `json:"cue,omitempty" maxLength:"300"`
	Caution  string `json:"caution,omitempty" maxLength:"300"`
	HomeSafe bool   `json:"homeSafe,omitempty"`
	// Alternates are keys of strokes that may stand in for this one.
	Alternates []string `json:"alternates,omitempty" maxItems:"6"`
}

// Validate reports every problem of the stroke, each with its field path below at.
func (s *Stroke) Validate(at string) []Problem {
	var ps []Problem
	if s.Key == "" || s.Name == "" {
		ps = append(ps, Problem{at, "A stroke needs a key and a name."})
	}
	ps = append(ps, ValidatePath(s.Path, at+"/path")...)
	ps = append(ps, s.Dose.Validate(at+"/dose")...)
	if s.Dose.Kind == Inherited {
		ps = append(ps, Problem{at + "/dose", "A stroke has nothing to inherit a dose from. Give it a dose of its own."})
	}
	if s.Dose.CountsReps() && RepSeconds(s.Parts) <= 0 {
		ps = append(ps, Problem{at + "/parts", "A counted dose needs the seconds of one repetition. Add a part."})
	}
	if s.Anchor != nil {
		ps = append(ps, ValidatePath([]string{s.Anchor.Zone}, at+"/anchor/zone")...)
	}
	return ps
}

// ValidatePath reports the zones of a path that do not exist.
func ValidatePath(path []string, at string) []Problem {
	var ps []Problem
	for i, z := range path {
		if _, ok := anatomy.Lookup(z); !ok {
			ps = append(ps, Problem{fmt.Sprintf("%s/%d", at, i), fmt.Sprintf("There is no zone %q.", z)})
		}
	}
	return ps
}

// Problem is one fault of a document: a JSON pointer to the place and a
// sentence saying what is wrong and what to do.
type Problem struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}
