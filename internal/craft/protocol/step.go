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
type PathPoint struct {
	Zone     string `json:"zone" maxLength:"60"`
	Pressure *int   `json:"pressure,omitempty" minimum:"0" maximum:"5"`
}

// Use is product applied in a step.
type Use struct {
	Product string      `json:"product" maxLength:"60"`
	Amount  slip.Amount `json:"amount"`
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
	// Departure is the reason for going against a usual limit or the method.
	Departure string `json:"departure,omitempty" maxLength:"300"`
	// Gaps names properties that were not said, with the words that were.
	Gaps map[string]string `json:"gaps,omitempty" maxProperties:"12"`
}
