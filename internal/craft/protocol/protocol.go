// Package protocol is the heart of the craft: the treatment plan a studio
// sells, how long it takes to the second, where the hands are at every moment,
// what the product film still allows, and whether it keeps the rules of the
// trade.
//
// # The plan
//
// A [Protocol] is an ordered list of steps. A [Step] applies one stroke of the
// library to one path of zones with a dose; what it leaves unsaid is taken from
// the stroke. Steps that carry the same round are worked together as a unit,
// several times over. A step belongs to a phase ([Phases]), and a phase may come
// back; it may belong to a [Section] with a default dose of its own. Standing
// cues ([Cue]) recur by timer and are no steps. A collection is a set of strokes
// to pick from, which has no order to check.
//
// # What follows from it
//
// [Evaluate] is one pure function of a protocol and its [Context]; everything a
// screen shows of a plan comes from the [Evaluation]: timeline and totals, the
// state in force at each visit, film, open nodes, loads, doses and cost, and
// findings. [Finding] is data: a code, a severity, the steps, the figures, the
// basis, and fixes that are functions from protocol to protocol ([Apply]). The
// words live with the screen. Checks obey the protocol's [School]; the absolute
// limits obey nobody.
//
// # What can be done with it
//
// [Fit] brings a plan to its slot, provably at the least change. [Do] runs the
// commands of the workbench: the opening reversed, one whole side and then the
// other, left and right in turn, the second side mirrored, shortened to a
// concern, a smoother order. [Draft] composes a first plan from a question.
// [Compare] tells two versions apart, step by step.
//
// # Times
//
// Working seconds of a step are
//
//	sides x sets x reps x sum(parts, holds within a repetition included)
//	+ sides x hold on last + (sides-1) x 3 + sides x (sets-1) x rest
//
// where sides is 2 only when they are worked one after the other. The plan adds
// hand and tool changes and transitions, and the practitioner's pace. Times are
// seconds, amounts mL, lengths cm. Nothing here reads a clock.
package protocol

import (
	"fmt"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/film"
	"softpalm/internal/craft/stroke"
)

// Phase is a part of the treatment, in the usual order of [Phases].
type Phase string

// Phases lists the phases in their usual order (common practice).
var Phases = []Phase{"settle", "look-over", "cleanse", "prepare", "apply", "open", "work", "exercises", "compare", "close", "finish", "wake", "reset"}

// Protocol is a treatment plan. Its zero value is an empty plan.
type Protocol struct {
	Key     string `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name    string `json:"name" minLength:"1" maxLength:"120"`
	Summary string `json:"summary,omitempty" maxLength:"600"`
	School  School `json:"school"`
	// SkinTypes the plan is meant for, and states it is unsuited to.
	SkinTypes []string `json:"skinTypes,omitempty" maxItems:"10"`
	Unsuited  []string `json:"unsuited,omitempty" maxItems:"10"`
	Concerns  []string `json:"concerns,omitempty" maxItems:"12"`
	Minutes   Minutes  `json:"minutes"`
	Price     Price    `json:"price"`
	// DefaultDose stands for every dose of kind inherited.
	DefaultDose stroke.Dose `json:"defaultDose"`
	// Setting is on a client (empty), on oneself, or taught in a mirror. Phases
	// and gloves of the studio are asked only of work on a client.
	Setting string `json:"setting,omitempty" enum:"client,self,taught,"`
	// Collection marks strokes to pick from: no order is checked.
	Collection bool `json:"collection,omitempty"`
	// FirstSide is worked first where sides take turns; empty counts as left.
	FirstSide string    `json:"firstSide,omitempty" enum:"left,right,"`
	Cues      []Cue     `json:"cues,omitempty" maxItems:"12"`
	Sections  []Section `json:"sections,omitempty" maxItems:"20"`
	Rounds    []Round   `json:"rounds,omitempty" maxItems:"20"`
	Variants  []Variant `json:"variants,omitempty" maxItems:"20"`
	// Dismissed findings have been looked at and are left as they are.
	Dismissed []Dismissal `json:"dismissed,omitempty" maxItems:"200"`
	Steps     []Step      `json:"steps" maxItems:"200"`
}

// OnClient reports whether the plan is worked on a client in the studio.
func (p *Protocol) OnClient() bool { return p.Setting == "" || p.Setting == "client" }

// Dismissal puts a finding aside. A warning needs the reason why; what stops
// cannot be put aside.
type Dismissal struct {
	Finding string `json:"finding" minLength:"1" maxLength:"200"`
	Why     string `json:"why,omitempty" maxLength:"300"`
}

// Cue is said again and again while hands work: breathing, slack jaw.
type Cue struct {
	Text string `json:"text" minLength:"1" maxLength:"120"`
	// Every so many seconds of hands-on time.
	Every int `json:"every" minimum:"15" maximum:"3600"`
}

// Section is a stretch of a plan with its own place, tools, default dose and
// cautions.
type Section struct {
	ID          string       `json:"id" minLength:"1" maxLength:"40"`
	Name        string       `json:"name" minLength:"1" maxLength:"120"`
	Place       string       `json:"place,omitempty" maxLength:"120"`
	Tools       []string     `json:"tools,omitempty" maxItems:"12"`
	DefaultDose *stroke.Dose `json:"defaultDose,omitempty"`
	Cautions    []string     `json:"cautions,omitempty" maxItems:"12"`
}

// Variant changes a plan by rule for some skin types or states, so that an edit
// of the plan reaches every variant of it. See package variant.
type Variant struct {
	Key  string `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name string `json:"name" minLength:"1" maxLength:"120"`
	// For lists the skin types and states it is meant for.
	For   []string      `json:"for,omitempty" maxItems:"12"`
	Rules []VariantRule `json:"rules" maxItems:"40"`
}

// VariantRule is one change of a variant. Do says which; the other fields are
// its object, and empty Zones mean everywhere.
//
//	lighter       pressure By levels lower; a feather stays a feather
//	cap           pressure at most By
//	leave-out     strokes of Families, tools of Kinds, or Stroke itself: an
//	              alternate that keeps the rules takes their place, else nothing
//	replace       Stroke by With
//	swap-product  products that carry Tags, or Product itself, by With or the
//	              nearest on the shelf
//	amount        product in hundredths of the base: By 80 is a fifth less
//	re-apply      product again wherever the film would get too thin
//	slower        tempo in hundredths: By 120 takes a fifth longer
//	hands-on      hands-on time of By minutes
type VariantRule struct {
	Do       string          `json:"do" enum:"lighter,cap,leave-out,replace,swap-product,amount,re-apply,slower,hands-on"`
	By       int             `json:"by,omitempty" minimum:"0" maximum:"480"`
	Zones    []string        `json:"zones,omitempty" maxItems:"40"`
	Families []stroke.Family `json:"families,omitempty" maxItems:"26"`
	Kinds    []string        `json:"kinds,omitempty" maxItems:"12"`
	Tags     []string        `json:"tags,omitempty" maxItems:"20"`
	Stroke   string          `json:"stroke,omitempty" maxLength:"60"`
	Product  string          `json:"product,omitempty" maxLength:"60"`
	With     string          `json:"with,omitempty" maxLength:"60"`
	Why      string          `json:"why,omitempty" maxLength:"300"`
}

// School holds the questions on which schools of the trade differ. An empty
// answer takes the first listed value, or sets no rule where that is said.
type School struct {
	Drainage string `json:"drainage,omitempty" enum:"open-and-close,only-open,only-close,middle,whole,none,"`
	Opening  string `json:"opening,omitempty" enum:"nearest-first,feather-sweep,kneaded,"`
	// Closing in reverse lists its differences from the opening; empty lists none.
	Closing string `json:"closing,omitempty" enum:"reverse,chin-sweep,forehead-sweep,"`
	// Clearing: one run down the neck at the end, or after each set.
	Clearing string `json:"clearing,omitempty" enum:"at-end,after-set,"`
	// Sides of the whole plan; empty sets no rule.
	Sides string `json:"sides,omitempty" enum:"both,each-step,whole-side,"`
	// Nape of the neck: down, up, or as the client prefers.
	Nape string `json:"nape,omitempty" enum:"preference,down,up,"`
	// Eye: outward above and inward below on the bone, or always outward; empty
	// allows either.
	Eye string `json:"eye,omitempty" enum:"outward,in-below,"`
	// Slip: full, little for gripping rollers and fascia, or dry throughout.
	Slip string `json:"slip,omitempty" enum:"full,little,dry,"`
	// Dose: in threes, a minute each, or until it lets go.
	Dose string `json:"dose,omitempty" enum:"threes,minute,until,"`
	// Discomfort that release work may cause; DiscomfortLimit on a scale of 10
	// at which to stop, 0 counting as 6.
	Discomfort      string `json:"discomfort,omitempty" enum:"comfort,bearable,"`
	DiscomfortLimit int    `json:"discomfortLimit,omitempty" minimum:"0" maximum:"10"`
	// Redness afterwards; empty sets no rule.
	Redness string `json:"redness,omitempty" enum:"expected,avoided,"`
}

func (s School) drainage() string {
	if s.Drainage == "" {
		return "open-and-close"
	}
	return s.Drainage
}

func (s School) opens() bool {
	return s.drainage() == "open-and-close" || s.Drainage == "only-open" || s.Drainage == "whole"
}
func (s School) closes() bool {
	return s.drainage() == "open-and-close" || s.Drainage == "only-close" || s.Drainage == "whole"
}
func (s School) checksOrder() bool {
	return s.opens() && (s.Opening == "" || s.Opening == "nearest-first")
}

// DefaultDose is the dose that the school's habit gives an inherited dose.
func (s School) DefaultDose() stroke.Dose {
	switch s.Dose {
	case "minute":
		return stroke.Dose{Kind: stroke.Clock, Planned: 60, Min: 30, Max: 90}
	case "until":
		return stroke.Dose{Kind: stroke.Until, Planned: 40, Min: 15, Max: 90, Sign: "it lets go"}
	}
	return stroke.Dose{Kind: stroke.Reps, Planned: 3, Min: 3, Max: 4}
}

// Stop levels of discomfort, of 10 (common practice; a studio may set its own
// general one).
const (
	StopLevel      = 6
	JointStopLevel = 3
)

// StopAt returns the discomfort, of 10, above which a step is stopped: never
// any while draining, 3 at the jaw joint, else the studio's limit.
func (s School) StopAt(r *Resolved) int {
	limit := s.DiscomfortLimit
	if limit == 0 {
		limit = StopLevel
	}
	if s.Discomfort == "comfort" {
		limit = min(limit, JointStopLevel)
	}
	switch {
	case r.Intent == stroke.Drain:
		return 0
	case r.on("front-of-ear"):
		return min(limit, JointStopLevel)
	}
	return limit
}

// Minutes are the three lengths of a treatment: what the client buys, what the
// hands work, and what the room needs afterwards.
type Minutes struct {
	Sold    int `json:"sold" minimum:"1" maximum:"480"`
	HandsOn int `json:"handsOn" minimum:"1" maximum:"480"`
	Reset   int `json:"reset" minimum:"0" maximum:"120"`
}

// Price is an exact decimal amount with its currency.
type Price struct {
	Amount   string `json:"amount" pattern:"^[0-9]{1,7}(\\.[0-9]{1,2})?$"`
	Currency string `json:"currency" pattern:"^[A-Z]{3}$"`
}

// Round is a run of steps repeated as a unit: Times over, between Min and Max
// when a plan is fitted (0 is Times itself).
type Round struct {
	ID    string `json:"id" maxLength:"40"`
	Times int    `json:"times" minimum:"1" maximum:"20"`
	Min   int    `json:"min,omitempty" minimum:"0" maximum:"20"`
	Max   int    `json:"max,omitempty" minimum:"0" maximum:"20"`
}

func (r Round) bounds() (least, most int) {
	least, most = r.Min, max(r.Max, r.Times)
	if least == 0 || least > r.Times {
		least = r.Times
	}
	return least, most
}

// PathPoint is a zone on a step's path, with a pressure of its own where said.
type PathPoint struct {
	Zone     string `json:"zone" maxLength:"60"`
	Pressure *int   `json:"pressure,omitempty" minimum:"0" maximum:"5"`
}

// Use is product put on in a step.
type Use struct {
	Product string      `json:"product" maxLength:"60"`
	Amount  film.Amount `json:"amount"`
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
	// Sense of circles, where it differs from the stroke's.
	Sense    string         `json:"sense,omitempty" enum:"clockwise,anticlockwise,each-way,outward,inward,"`
	Path     []PathPoint    `json:"path,omitempty" maxItems:"20"`
	Dose     *stroke.Dose   `json:"dose,omitempty"`
	Parts    []stroke.Part  `json:"parts,omitempty" maxItems:"12"`
	Last     *stroke.Last   `json:"last,omitempty"`
	Pressure *int           `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	Profile  stroke.Profile `json:"profile,omitempty" enum:"even,builds,eases,light-back,own-weight,"`
	Anchor   *stroke.Anchor `json:"anchor,omitempty"`
	Use      *Use           `json:"use,omitempty"`
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
	// Departure is the reason for going against a usual limit or the school.
	Departure string `json:"departure,omitempty" maxLength:"300"`
	// Gaps names properties that were not said, with the words that were.
	Gaps map[string]string `json:"gaps,omitempty" maxProperties:"12"`
}

// Context is everything a protocol is judged against besides itself.
type Context struct {
	Strokes    map[string]*stroke.Stroke
	Products   map[string]*film.Product
	Tools      map[string]Tool
	SkinType   string
	SkinStates []string
	// Pace scales working seconds to the practitioner's own; 0 counts as 1.
	Pace float64
	// Excluded zones may not be worked today.
	Excluded []anatomy.Place
	// LongNails of the practitioner today.
	LongNails bool
	// HandsToday is how many minutes of thumb, pinch and knuckle work at 4 to 5
	// the practitioner has done already today.
	HandsToday float64
	// ReadyIn is how many minutes from the start a tool is still being cleaned or
	// chilled, by key.
	ReadyIn map[string]float64
	// DaysSince lists how many days ago the client last had an "exfoliation", a
	// "roller" and "deep" work, at home or here.
	DaysSince map[string][]int
	// ToBed is how many minutes after the end the client usually goes to bed; 0
	// where it is not known.
	ToBed float64
}

// stroke returns the stroke of that key. One that the library no longer has is
// named by its key and takes no time.
func (c *Context) stroke(key string) *stroke.Stroke {
	if st := c.Strokes[key]; st != nil {
		return st
	}
	return &stroke.Stroke{Key: key, Name: key, Family: stroke.Rest, Relation: stroke.Still, Sides: stroke.Midline, Dose: stroke.Dose{Kind: stroke.Clock}, Parts: []stroke.Part{{Kind: stroke.Hold, Seconds: 1}}}
}

// product returns the product that a step uses; nil where it uses none, or one
// that the shelf no longer has.
func (c *Context) product(u *Use) *film.Product {
	if u == nil {
		return nil
	}
	return c.Products[u.Product]
}

// seen reports whether the client's skin carries a type or state.
func (c *Context) seen(skin string) bool {
	return c.SkinType == skin || slices.Contains(c.SkinStates, skin)
}

// ToolKinds lists the kinds of tool; electrical tools are known by their cautions
// only (handbook, chapter 4).
var ToolKinds = []string{"stone", "twin-ball-roller", "cylinder-roller", "cold", "cup", "mitt", "brush", "spatula", "compress", "electrical"}

// Tool is a tool of the studio. Kind is one of stone, twin-ball-roller,
// cylinder-roller, cold, cup, mitt, brush, spatula, compress.
type Tool struct {
	Key   string   `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name  string   `json:"name" minLength:"1" maxLength:"120"`
	Kind  string   `json:"kind" enum:"stone,twin-ball-roller,cylinder-roller,cold,cup,mitt,brush,spatula,compress"`
	Parts []string `json:"parts,omitempty" maxItems:"12"`
	// Care is how it is cleaned; ReadyAfter the minutes until it can be used again.
	Care       string `json:"care,omitempty" maxLength:"300"`
	ReadyAfter int    `json:"readyAfter" minimum:"0" maximum:"1440"`
	Pieces     int    `json:"pieces" minimum:"0" maximum:"100"`
	Fragile    bool   `json:"fragile,omitempty"`
	// Porous items are used once.
	Porous   bool   `json:"porous,omitempty"`
	Material string `json:"material,omitempty" maxLength:"60"`
	// Chill or warm minutes before use; weight in g.
	Chill  int     `json:"chill,omitempty" minimum:"0" maximum:"1440"`
	Weight float64 `json:"weight,omitempty" minimum:"0" maximum:"5000"`
}

// Cold reports whether the tool is used chilled.
func (t Tool) Cold() bool { return t.Kind == "cold" }

// Roller reports whether the tool rolls.
func (t Tool) Roller() bool { return t.Kind == "twin-ball-roller" || t.Kind == "cylinder-roller" }

// Validate reports every structural problem of the protocol: what must hold
// before it can be evaluated at all. The paths are JSON pointers below at.
func (p *Protocol) Validate(ctx *Context, at string) []stroke.Problem {
	return p.validate(ctx, at, true)
}

// ValidateStructure is [Protocol.Validate] without asking whether the strokes,
// tools and products are still there: a draft stays open when one was removed.
func (p *Protocol) ValidateStructure(ctx *Context, at string) []stroke.Problem {
	return p.validate(ctx, at, false)
}

func (p *Protocol) validate(ctx *Context, at string, references bool) []stroke.Problem {
	var ps []stroke.Problem
	bad := func(path, format string, a ...any) {
		ps = append(ps, stroke.Problem{Path: at + path, Message: fmt.Sprintf(format, a...)})
	}
	if p.Minutes.HandsOn > p.Minutes.Sold {
		bad("/minutes/handsOn", "Hands-on time (%d min) is longer than the time sold (%d min).", p.Minutes.HandsOn, p.Minutes.Sold)
	}
	if p.DefaultDose.Kind == stroke.Inherited {
		bad("/defaultDose", "The protocol's default dose has nothing to inherit from.")
	} else {
		ps = append(ps, p.DefaultDose.Validate(at+"/defaultDose")...)
	}
	rounds := map[string]int{}
	for i, r := range p.Rounds {
		if _, twice := rounds[r.ID]; twice {
			bad(fmt.Sprintf("/rounds/%d/id", i), "The round %q stands here twice.", r.ID)
		}
		if r.Times < 1 || r.Times > 20 {
			bad(fmt.Sprintf("/rounds/%d/times", i), "A round is worked 1 to 20 times.")
		}
		if r.Min > r.Times || r.Max != 0 && r.Max < r.Times || r.Max > 20 || r.Min < 0 {
			bad(fmt.Sprintf("/rounds/%d/min", i), "The least and most rounds must lie about the planned %d.", r.Times)
		}
		rounds[r.ID] = -2
	}
	sections := map[string]bool{}
	for i, sec := range p.Sections {
		if sec.ID == "" || sections[sec.ID] {
			bad(fmt.Sprintf("/sections/%d/id", i), "Every section needs an id of its own.")
		}
		sections[sec.ID] = true
		if d := sec.DefaultDose; d != nil && d.Kind == stroke.Inherited {
			bad(fmt.Sprintf("/sections/%d/defaultDose", i), "A section's default dose has nothing to inherit from.")
		} else if d != nil {
			ps = append(ps, d.Validate(fmt.Sprintf("%s/sections/%d/defaultDose", at, i))...)
		}
	}
	for i, c := range p.Cues {
		if c.Every < 15 {
			bad(fmt.Sprintf("/cues/%d/every", i), "A standing cue comes at most every 15 seconds.")
		}
	}
	ps = append(ps, p.validateVariants(ctx, at)...)
	ids := map[string]bool{}
	for i := range p.Steps {
		s := &p.Steps[i]
		here := fmt.Sprintf("/steps/%d", i)
		if s.ID == "" || ids[s.ID] {
			bad(here+"/id", "Every step needs an id of its own; %q does not do.", s.ID)
		}
		ids[s.ID] = true
		st := ctx.Strokes[s.Stroke]
		if st == nil && !references {
			st = ctx.stroke(s.Stroke)
		}
		if st == nil {
			bad(here+"/stroke", "The library has no stroke %q.", s.Stroke)
			continue
		}
		if !knownPhase(s.Phase) {
			bad(here+"/phase", "There is no phase %q.", s.Phase)
		}
		for j, pt := range s.Path {
			ps = append(ps, stroke.ValidateZone(pt.Zone, fmt.Sprintf("%s%s/path/%d/zone", at, here, j))...)
			if pt.Pressure != nil && (*pt.Pressure < 0 || *pt.Pressure > 5) {
				bad(fmt.Sprintf("%s/path/%d/pressure", here, j), "Pressure runs from 0 to 5.")
			}
		}
		if s.Pressure != nil && (*s.Pressure < 0 || *s.Pressure > 5) {
			bad(here+"/pressure", "Pressure runs from 0 to 5.")
		}
		if s.Dose != nil {
			ps = append(ps, s.Dose.Validate(at+here+"/dose")...)
		}
		d := st.Dose
		if s.Dose != nil {
			d = *s.Dose
		}
		if s.Section != "" && !sections[s.Section] {
			bad(here+"/section", "There is no section %q.", s.Section)
		}
		if d.Kind == stroke.Inherited {
			d = *p.inherited(s.Section)
		}
		if d.CountsReps() && stroke.RepSeconds(s.Parts)+stroke.RepSeconds(st.Parts) <= 0 {
			bad(here+"/parts", "A counted dose needs the seconds of one repetition.")
		}
		ps = append(ps, s.Anchor.Validate(at+here+"/anchor")...)
		ps = append(ps, stroke.ValidateParts(s.Parts, at+here+"/parts")...)
		if s.Last != nil {
			ps = append(ps, stroke.ValidateParts(s.Last.Parts, at+here+"/last/parts")...)
		}
		for j, f := range s.Fingers {
			if f.Zone != "" {
				ps = append(ps, stroke.ValidateZone(f.Zone, fmt.Sprintf("%s%s/fingers/%d/zone", at, here, j))...)
			}
		}
		ps = append(ps, stroke.ValidateGaps(s.Gaps, at+here+"/gaps")...)
		if s.Hand != "" && !slices.Contains(stroke.HandParts, s.Hand) {
			bad(here+"/hand", "There is no hand part %q.", s.Hand)
		}
		if references && s.Tool != nil && ctx.Tools[s.Tool.Key].Name == "" {
			bad(here+"/tool/key", "The studio has no tool %q.", s.Tool.Key)
		}
		if s.Use != nil {
			prod := ctx.product(s.Use)
			switch {
			case prod == nil && references:
				bad(here+"/use/product", "The shelf has no product %q.", s.Use.Product)
			case prod != nil && !s.Use.Amount.Measured(prod):
				bad(here+"/use/amount/measure", "%s has not been measured in %s. Weigh it first, or dose it in mL.", prod.Name, s.Use.Amount.Measure)
			}
		}
		if s.Round != "" {
			last, ok := rounds[s.Round]
			switch {
			case !ok:
				bad(here+"/round", "There is no round %q.", s.Round)
			case last != -2 && last != i-1:
				bad(here+"/round", "The steps of a round must stand together.")
			}
			rounds[s.Round] = i
		}
	}
	return ps
}

func (p *Protocol) validateVariants(ctx *Context, at string) []stroke.Problem {
	var ps []stroke.Problem
	for i, v := range p.Variants {
		for j, r := range v.Rules {
			here := fmt.Sprintf("%s/variants/%d/rules/%d", at, i, j)
			ps = append(ps, stroke.ValidatePath(r.Zones, here+"/zones")...)
			if r.Stroke != "" && ctx.Strokes[r.Stroke] == nil {
				ps = append(ps, stroke.Problem{Path: here + "/stroke", Message: fmt.Sprintf("The library has no stroke %q.", r.Stroke)})
			}
			if r.Do == "replace" && ctx.Strokes[r.With] == nil {
				ps = append(ps, stroke.Problem{Path: here + "/with", Message: fmt.Sprintf("The library has no stroke %q.", r.With)})
			}
			if (r.Do == "amount" || r.Do == "slower" || r.Do == "hands-on") && r.By <= 0 {
				ps = append(ps, stroke.Problem{Path: here + "/by", Message: "Say by how much."})
			}
		}
	}
	return ps
}

func knownPhase(p Phase) bool { return slices.Contains(Phases, p) }

// inherited is the default dose of a section, else of the protocol.
func (p *Protocol) inherited(section string) *stroke.Dose {
	if section != "" {
		for i := range p.Sections {
			if p.Sections[i].ID == section && p.Sections[i].DefaultDose != nil {
				return p.Sections[i].DefaultDose
			}
		}
	}
	return &p.DefaultDose
}

// Clone returns a copy whose steps can be changed without touching p's list.
// What a step points to is shared and must be replaced, not written to.
func (p *Protocol) Clone() *Protocol {
	q := *p
	q.Steps = append(make([]Step, 0, len(p.Steps)+8), p.Steps...)
	q.Rounds = append([]Round(nil), p.Rounds...)
	return &q
}

// Index returns the position of the step with that id, or -1.
func (p *Protocol) Index(id string) int {
	for i := range p.Steps {
		if p.Steps[i].ID == id {
			return i
		}
	}
	return -1
}

// insert puts steps before position i.
func (p *Protocol) insert(i int, steps ...Step) {
	p.Steps = append(p.Steps[:i:i], append(steps, p.Steps[i:]...)...)
}

// newID returns an id no step has, made from a stem.
func (p *Protocol) newID(stem string) string {
	for n := 2; ; n++ {
		if id := fmt.Sprintf("%s-%d", stem, n); p.Index(id) < 0 {
			return id
		}
	}
}
