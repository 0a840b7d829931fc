// Package protocol is the heart of the craft: the treatment plan a studio
// sells, how long it takes to the second, where the hands are at every moment,
// what the product film still allows, and whether it keeps the rules of the
// trade.
//
// # Concepts
//
// A [Protocol] is an ordered list of steps. A [Step] applies one stroke of the
// library to one path of zones with a dose; what it leaves unsaid is taken from
// the stroke. Steps that carry the same round are worked together as a unit,
// several times over. A step belongs to a phase, and a phase may come back.
//
// [Evaluate] is one pure function of a protocol and its [Context]; everything a
// screen shows of a plan comes from the [Evaluation]. [Finding] is data: a
// code, a severity, the steps, the figures, the basis, and fixes that are
// functions from protocol to protocol ([Apply]). The words live with the screen.
//
// Checks obey the protocol's [School]; the absolute limits obey nobody.
//
// Times are seconds, amounts mL, lengths cm. Nothing here reads a clock.
package protocol

import (
	"fmt"

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
	// FirstSide is worked first where sides take turns; empty counts as left.
	FirstSide string  `json:"firstSide,omitempty" enum:"left,right,"`
	Rounds    []Round `json:"rounds,omitempty" maxItems:"20"`
	Steps     []Step  `json:"steps" maxItems:"200"`
}

// School holds the questions on which schools of the trade differ. Empty
// answers take the first listed value.
type School struct {
	Drainage string `json:"drainage,omitempty" enum:"open-and-close,only-open,only-close,middle,whole,none,"`
	Opening  string `json:"opening,omitempty" enum:"nearest-first,feather-sweep,kneaded,"`
	Closing  string `json:"closing,omitempty" enum:"reverse,chin-sweep,forehead-sweep,"`
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

// Round is a run of steps repeated as a unit.
type Round struct {
	ID    string `json:"id" maxLength:"40"`
	Times int    `json:"times" minimum:"1" maximum:"20"`
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
	ID       string           `json:"id" minLength:"1" maxLength:"40"`
	Stroke   string           `json:"stroke" maxLength:"60"`
	Phase    Phase            `json:"phase" enum:"settle,look-over,cleanse,prepare,apply,open,work,exercises,compare,close,finish,wake,reset"`
	Round    string           `json:"round,omitempty" maxLength:"40"`
	Hand     string           `json:"hand,omitempty" maxLength:"60"`
	Tool     *stroke.ToolPart `json:"tool,omitempty"`
	Sides    stroke.Sides     `json:"sides,omitempty" enum:"mid,both,turns,left,right,first,second,"`
	Path     []PathPoint      `json:"path,omitempty" maxItems:"20"`
	Dose     *stroke.Dose     `json:"dose,omitempty"`
	Parts    []stroke.Part    `json:"parts,omitempty" maxItems:"12"`
	Pressure *int             `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	Anchor   *stroke.Anchor   `json:"anchor,omitempty"`
	Use      *Use             `json:"use,omitempty"`
	// Remove takes product off along the path when the step ends.
	Remove   string    `json:"remove,omitempty" enum:"blot,wipe,"`
	Client   string    `json:"client,omitempty" maxLength:"200"`
	Note     string    `json:"note,omitempty" maxLength:"600"`
	Emphasis *Emphasis `json:"emphasis,omitempty"`
	MirrorOf string    `json:"mirrorOf,omitempty" maxLength:"40"`
	// Optional steps may be dropped when a plan is fitted; Weight says how much
	// a changed dose hurts, 0 counting as 1.
	Optional bool    `json:"optional,omitempty"`
	Weight   float64 `json:"weight,omitempty" minimum:"0" maximum:"100"`
	// Departure is the reason for going against a usual limit or the school.
	Departure string `json:"departure,omitempty" maxLength:"300"`
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
}

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
}

// Validate reports every structural problem of the protocol: what must hold
// before it can be evaluated at all. The paths are JSON pointers below at.
func (p *Protocol) Validate(ctx *Context, at string) []stroke.Problem {
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
		rounds[r.ID] = -2
	}
	ids := map[string]bool{}
	for i := range p.Steps {
		s := &p.Steps[i]
		here := fmt.Sprintf("/steps/%d", i)
		if s.ID == "" || ids[s.ID] {
			bad(here+"/id", "Every step needs an id of its own; %q does not do.", s.ID)
		}
		ids[s.ID] = true
		st := ctx.Strokes[s.Stroke]
		if st == nil {
			bad(here+"/stroke", "The library has no stroke %q.", s.Stroke)
			continue
		}
		if !knownPhase(s.Phase) {
			bad(here+"/phase", "There is no phase %q.", s.Phase)
		}
		for j, pt := range s.Path {
			ps = append(ps, stroke.ValidatePath([]string{pt.Zone}, fmt.Sprintf("%s%s/path/%d", at, here, j))...)
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
		if d.Kind == stroke.Inherited {
			d = p.DefaultDose
		}
		if d.CountsReps() && stroke.RepSeconds(s.Parts)+stroke.RepSeconds(st.Parts) <= 0 {
			bad(here+"/parts", "A counted dose needs the seconds of one repetition.")
		}
		if s.Anchor != nil {
			ps = append(ps, stroke.ValidatePath([]string{s.Anchor.Zone}, at+here+"/anchor")...)
		}
		if s.Tool != nil && ctx.Tools[s.Tool.Key].Name == "" {
			bad(here+"/tool/key", "The studio has no tool %q.", s.Tool.Key)
		}
		if s.Use != nil {
			if prod := ctx.Products[s.Use.Product]; prod == nil {
				bad(here+"/use/product", "The shelf has no product %q.", s.Use.Product)
			} else if _, ok := s.Use.Amount.In(prod); !ok {
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

func knownPhase(p Phase) bool {
	for _, q := range Phases {
		if p == q {
			return true
		}
	}
	return false
}

// Clone returns a copy whose steps can be changed without touching p's list.
// What a step points to is shared and must be replaced, not written to.
func (p *Protocol) Clone() *Protocol {
	q := *p
	q.Steps = append([]Step(nil), p.Steps...)
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
