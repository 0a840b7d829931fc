package evaluation

import (
	"encoding/json"
	"fmt"
)

// Severity grades a finding.
type Severity string

// The severities, gravest first. A plan with a Stop cannot be published.
const (
	Stopping Severity = "stop"
	Warning  Severity = "warning"
	Note     Severity = "note"
)

func (s Severity) graver(than Severity) bool {
	rank := func(s Severity) int {
		switch s {
		case Stopping:
			return 2
		case Warning:
			return 1
		}
		return 0
	}
	return rank(s) > rank(than)
}

// Basis says on what a check rests.
type Basis string

// The bases of checks.
const (
	CommonPractice Basis = "common practice"
	Anatomy        Basis = "anatomy, from memory of Gray's Anatomy"
	Estimate       Basis = "planning estimate of slip"
	MethodRule     Basis = "the protocol's method"
	TouchStudy     Basis = "Loken and others, Nature Neuroscience 12, 2009, from memory"
	Plan           Basis = "the protocol's own lengths"
	StudioLibrary  Basis = "the studio's library"
	StudioLimit    Basis = "a limit of the studio; a starting value"
)

// Code names a kind of finding; codes are stable.
type Code string

// The codes, each with what it means.
const (
	PressureCeiling  Code = "pressure-ceiling"   // above the usual ceiling of a zone
	PressureAbsolute Code = "pressure-absolute"  // above an absolute ceiling
	PressureNeck     Code = "pressure-both-neck" // both sides of the neck pressed at once
	ToolOnThroat     Code = "tool-on-throat"
	PressureDrain    Code = "pressure-drain" // too hard to drain
	ExcludedZone     Code = "excluded-zone"  // a zone left out today is worked
	StrokeMissing    Code = "stroke-missing" // the library no longer has the stroke
	ProductMissing   Code = "product-missing"

	DrainOrder   Code = "drainage-order"   // a node opened before what lies downstream
	DrainClosed  Code = "drainage-closed"  // drained towards a node that is not open
	DrainLeft    Code = "drainage-left"    // moved, and not carried home
	NoOpening    Code = "drainage-no-open" // the school opens, the plan does not
	NoClosing    Code = "drainage-no-close"
	DrainAway    Code = "direction-drain" // a drain running away from its node
	LiftDown     Code = "direction-lift"  // a lift going down
	NeckUp       Code = "direction-neck"  // a neck drain going up
	GlideThin    Code = "glide-thin"      // too little slip for the stroke
	GlideWet     Code = "glide-wet"       // too much slip for a gripping stroke
	GlideSlick   Code = "glide-slippery"  // kneading on a slippery film
	GlideUnknown Code = "glide-unknown"   // no product stated, slip unknown
	AmountOver   Code = "amount-over"     // more product than the studio's range

	SidesUnequal Code = "sides-unequal"
	FitOver      Code = "fit-over"
	FitUnder     Code = "fit-under"
	PressureDrop Code = "pressure-drop"    // two levels lighter than before, and not said
	DrainBarred  Code = "drainage-barred"  // towards nodes that are left out today
	NotCleared   Code = "drainage-set"     // a set without its run down the neck
	ClosingOther Code = "closing-differs"  // the closing is not the opening reversed
	EyeInward    Code = "direction-eye"    // towards the nose, against the school
	DryDrag      Code = "glide-dry"        // sliding over delicate skin in dry work
	MirrorOther  Code = "mirror-differs"   // side two departs from side one unsaid
	SidesMethod  Code = "sides-school"     // sides worked otherwise than the school says
	PhaseMissing Code = "phase-missing"    // a usual phase of the studio
	NoTime       Code = "time-not-stated"  // mask or cold without a stated time
	ColdLong     Code = "cold-long"        // cold for more than ten minutes
	ColdStill    Code = "cold-still"       // cold resting under the eye
	ColdDry      Code = "cold-before-mist" // cold on dehydrated skin without mist
	Promise      Code = "promise"          // zones of a promised concern unworked
	FlowBreaks   Code = "flow"             // hands leaving, tools changing, long jumps
	EyeLoad      Code = "load-eye"         // too much sliding round the eye
	Unsuited     Code = "unsuited"         // product, tool or stroke for this skin
	Redness      Code = "redness"          // may redden where redness is avoided
	TooOften     Code = "too-often"        // exfoliation, rollers or deep work again too soon
	NoGloves     Code = "gloves-missing"   // in the mouth with bare hands
	NotWashed    Code = "hands-unwashed"   // into the mouth after hair, neck or face
	GlovesKept   Code = "gloves-kept"      // on the face with gloves from the mouth
	ToolBusy     Code = "tool-not-ready"   // still being cleaned or chilled
	PorousTwice  Code = "porous-twice"     // a single-use item used twice
	HandsTired   Code = "hands-tired"      // thumb, pinch or knuckles too long at 4 to 5
	HandsDay     Code = "hands-day"        // the same over the day
	LongNails    Code = "nails"            // nails are long for this stroke
	NotSaid      Code = "not-said"         // in plans prepared once: a property that was never said
	EventRough   Code = "event-rough"      // deep or rubbing work the day before an event
	HairToEyes   Code = "hands-to-eyes"    // from hair or the ear's opening to the eyes, unwashed
	NoTissues    Code = "no-tissues"       // draining with no tissues laid out
	LateDrain    Code = "drain-late"       // draining within two hours of bedtime
	SpeedDrag    Code = "speed-delicate"   // over 30 cm/s on delicate skin
	SpeedSoothe  Code = "speed-soothing"   // soothing outside 1-10 cm/s
)

// Fix names a one-click remedy for a finding; see [Apply].
type Fix string

// The fixes.
const (
	LowerPressure Fix = "lower-pressure" // down to the ceiling
	TakeTurns     Fix = "take-turns"     // left and right in turn
	LeaveZone     Fix = "leave-zone"     // take the zone out of the path
	DropTool      Fix = "drop-tool"      // work by hand
	ReversePath   Fix = "reverse-path"
	MoveBefore    Fix = "move-before"  // put the step that opens the node before this one
	OpenFirst     Fix = "open-first"   // add an opening stroke of the library before this step
	OpenAll       Fix = "open-all"     // add the opening
	CarryHome     Fix = "carry-home"   // add the drainage route at the end
	AddProduct    Fix = "add-product"  // re-apply before this step
	Blot          Fix = "blot"         // take product off before this step
	LessProduct   Fix = "less-product" // down to the range
	MirrorStep    Fix = "mirror-step"  // the same on the other side
	FitSlot       Fix = "fit-slot"
	AnnounceDrop  Fix = "announce"      // tell the client
	LeaveStep     Fix = "leave-step"    // take the step out
	ClearSet      Fix = "clear-set"     // run the set down the neck
	ReverseOpen   Fix = "reverse-open"  // make the closing the opening reversed
	CopyMirror    Fix = "copy-mirror"   // make side two as side one
	SayDeparture  Fix = "say-departure" // keep it, as a departure
	AddPhase      Fix = "add-phase"
	StateTime     Fix = "state-time"  // turn the open dose into minutes
	MistFirst     Fix = "mist-first"  // mist before the cold
	ShorterCold   Fix = "cold-10-min" // down to ten minutes
	WorkZone      Fix = "work-zone"   // add a stroke for the promised zones
	Smoother      Fix = "smoother"    // a smoother order
	LessLoad      Fix = "less-load"   // fewer repetitions round the eye
	UseAlternate  Fix = "use-alternate"
	WearGloves    Fix = "wear-gloves"
	WashHands     Fix = "wash-hands"
	ShakeOut      Fix = "shake-out" // a pause to shake the hands out
	DropProduct   Fix = "drop-product"
)

// Finding is one thing worth knowing about a plan, as data. ID distinguishes it
// from the others of the same evaluation.
type Finding struct {
	ID       string   `json:"id"`
	Code     Code     `json:"code"`
	Severity Severity `json:"severity" enum:"stop,warning,note"`
	Steps    []string `json:"steps"`
	Values   Payload  `json:"values"`
	Basis    Basis    `json:"basis"`
	Fixes    []Fix    `json:"fixes"`
	// Dismissed findings were set aside in the plan, for the reason Why.
	Dismissed bool   `json:"dismissed,omitempty"`
	Why       string `json:"why,omitempty"`
}

// UnmarshalJSON reads a finding with the payload of its code, as a prepared plan
// keeps it.
func (f *Finding) UnmarshalJSON(data []byte) error {
	type fields Finding // without this method
	var code struct {
		Code Code `json:"code"`
	}
	if err := json.Unmarshal(data, &code); err != nil {
		return err
	}
	empty, ok := Payloads[code.Code]
	if !ok {
		return fmt.Errorf("evaluation: there is no finding %q", code.Code)
	}
	x := fields{Values: empty()}
	if err := json.Unmarshal(data, &x); err != nil {
		return err
	}
	*f = Finding(x)
	return nil
}

// Find returns the finding of that id; nil where there is none.
func (e *Evaluation) Find(id string) *Finding {
	for i := range e.Findings {
		if e.Findings[i].ID == id {
			return &e.Findings[i]
		}
	}
	return nil
}
