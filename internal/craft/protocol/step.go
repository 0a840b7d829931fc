package protocol

import (
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// SubstituteStroke is the step with another stroke: what belongs to the plan is
// kept, what belonged to the old stroke is not.
func SubstituteStroke(s *Step, st *stroke.Stroke) Step {
	n := Step{
		ID:          s.ID,
		Stroke:      st.Key,
		Phase:       s.Phase,
		Section:     s.Section,
		Round:       s.Round,
		Use:         s.Use,
		Remove:      s.Remove,
		Optional:    s.Optional,
		Weight:      s.Weight,
		MirrorOf:    s.MirrorOf,
		AlternateOf: s.AlternateOf,
		Why:         s.Why,
		Announce:    s.Announce,
	}
	if s.Sides == stroke.LeftOnly || s.Sides == stroke.RightOnly || s.Sides == stroke.FirstSide || s.Sides == stroke.SecondSide {
		n.Sides = s.Sides
	}
	return n
}

// PathPoint is a zone on a step's path, with a pressure of its own where said.
//
// Part narrows the place within the zone, Along and CM give a distance from a landmark: 2 cm from the
// mouth corner. In the mouth a part is the gum line, or past the last tooth.
type PathPoint struct {
	Zone     string  `json:"zone" maxLength:"60"`
	Pressure *int    `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	Part     string  `json:"part,omitempty" enum:"upper,lower,inner,outer,gum-line,past-last-tooth,"`
	CM       float64 `json:"cm,omitempty" minimum:"0" maximum:"30"`
	Landmark string  `json:"landmark,omitempty" maxLength:"60"`
}

// Use is product applied in a step.
//
// Choices are products that will do as well; Blend says that they are blended in the palm instead. An
// amount may be a range up to Most; one that was never stated is a gap of the step, and the amount here
// the usual one, for planning.
type Use struct {
	Product string      `json:"product" maxLength:"60"`
	Amount  slip.Amount `json:"amount"`
	Most    float64     `json:"most,omitempty" minimum:"0" maximum:"1000"`
	Choices []string    `json:"choices,omitempty" maxItems:"6"`
	Blend   bool        `json:"blend,omitempty"`
	// Optional product may be left off; For are the skins it is for, none for all.
	Optional bool     `json:"optional,omitempty"`
	For      []string `json:"for,omitempty" maxItems:"12"`
}

// Emphasis gives one side more than the other: Extra more of the dose.
type Emphasis struct {
	Side  string `json:"side" enum:"left,right"`
	Extra int    `json:"extra" minimum:"1" maximum:"100"`
}

// Step applies one stroke to one path with a dose. Empty fields take the
// stroke's own value.
type Step struct {
	ID      string           `json:"id" minLength:"1" maxLength:"40"`
	Stroke  string           `json:"stroke" maxLength:"60"`
	Phase   Phase            `json:"phase" enum:"settle,look-over,cleanse,prepare,apply,open,work,exercises,compare,close,finish,wake,reset"`
	Section string           `json:"section,omitempty" maxLength:"40"`
	Round   string           `json:"round,omitempty" maxLength:"40"`
	Hand    string           `json:"hand,omitempty" maxLength:"60"`
	Tool    *stroke.ToolPart `json:"tool,omitempty"`
	Fingers []stroke.Finger  `json:"fingers,omitempty" maxItems:"6"`
	Sides   stroke.Sides     `json:"sides,omitempty" enum:"mid,both,turns,left,right,first,second,across,"`
	// CircleDirection of circles, where it differs from the stroke's.
	CircleDirection string                 `json:"sense,omitempty" enum:"clockwise,anticlockwise,each-way,outward,inward,"`
	Path            []PathPoint            `json:"path,omitempty" maxItems:"20"`
	Dose            *stroke.Dose           `json:"dose,omitempty"`
	Parts           []stroke.Part          `json:"parts,omitempty" maxItems:"12"`
	Last            *stroke.Last           `json:"last,omitempty"`
	Pressure        *int                   `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	Profile         stroke.PressureProfile `json:"profile,omitempty" enum:"even,builds,eases,light-back,own-weight,"`
	Anchor          *stroke.Anchor         `json:"anchor,omitempty"`
	Use             *Use                   `json:"use,omitempty"`
	// Remove takes product off along the path when the step ends.
	Remove string `json:"remove,omitempty" enum:"blot,wipe,"`
	// Gloves in the mouth: fresh ones (empty), none, or kept on afterwards.
	Gloves string `json:"gloves,omitempty" enum:"none,keep,"`
	// Announce tells the client that the pressure drops here.
	Announce bool   `json:"announce,omitempty"`
	Client   string `json:"client,omitempty" maxLength:"200"`
	Note     string `json:"note,omitempty" maxLength:"600"`
	// Why the step is there, and the sign that it is done well.
	Why  string `json:"why,omitempty" maxLength:"300"`
	Sign string `json:"sign,omitempty" maxLength:"200"`
	// BestAt is the time of day a stroke of a collection suits.
	BestAt   string    `json:"bestAt,omitempty" enum:"morning,day,evening,"`
	Emphasis *Emphasis `json:"emphasis,omitempty"`
	// MirrorOf is the step whose other side this one works; AlternateOf one that
	// this one takes turns with. Both share one choice of dose.
	MirrorOf    string `json:"mirrorOf,omitempty" maxLength:"40"`
	AlternateOf string `json:"alternateOf,omitempty" maxLength:"40"`
	// Optional steps may be dropped when a plan is fitted; Weight says how much
	// a changed dose hurts, 0 counting as 1.
	Optional bool    `json:"optional,omitempty"`
	Weight   float64 `json:"weight,omitempty" minimum:"0" maximum:"100"`
	// What the step says otherwise than its stroke. Clears lists what the stroke says and the step does not.
	Direction  string             `json:"direction,omitempty" enum:"along,across,towards-hairline,multi,up,down,in,out,towards,apart,together,any,"`
	Tempo      string             `json:"tempo,omitempty" enum:"even,slow,slows,breath,quick,"`
	Ending     string             `json:"ending,omitempty" enum:"hold,wiggle,press-temple,lift-off,carries-on,"`
	Find       string             `json:"find,omitempty" maxLength:"200"`
	Cue        string             `json:"cue,omitempty" maxLength:"300"`
	Precaution string             `json:"caution,omitempty" maxLength:"300"`
	Alternates []stroke.Alternate `json:"alternates,omitempty" maxItems:"6"`
	Clears     []string           `json:"clears,omitempty" maxItems:"16"`
	stroke.Further
	// Departure is the reason for going against a usual limit or the method.
	Departure string `json:"departure,omitempty" maxLength:"300"`
	// Gaps names properties that were not said, with the words that were.
	Gaps map[string]string `json:"gaps,omitempty" maxProperties:"24"`
}

// Clearable are the properties of its stroke that a step may say nothing of.
var Clearable = []string{
	"tool", "fingers", "anchor", "client", "find", "sign", "cue", "caution", "direction", "sense", "tempo", "ending", "alternates", "last", "further",
}
