// Package protocol is the document that a studio sells as a treatment, and the
// rules of its form. What follows from a protocol is worked out by its neighbours:
// package evaluation times and checks it, package fitting brings it to its time,
// package remedy applies fixes and workbench commands, package drafting suggests a
// first draft.
//
// # The document
//
// A [Protocol] is an ordered list of steps. A [Step] applies one stroke of the
// library to one path of zones; what it leaves open is taken from the stroke. Steps
// that share a round are worked together, several times over. A step belongs to a
// phase ([Phases]) and may belong to a [Section] with its own default repetitions.
// A recurring cue ([Cue]) comes back by timer and is no step. A collection is a set
// of strokes to choose from; its order is not checked.
//
// # Times
//
// The working seconds of a step are
//
//	sides x sets x reps x sum(parts, holds within a repetition included)
//	+ sides x hold on last + (sides-1) x 3 + sides x (sets-1) x rest
//
// where sides is 2 only when they are worked one after the other. Changes of hand
// and tool and the practitioner's pace are added by the evaluation. Times are
// seconds, amounts mL, lengths cm. Nothing here reads a clock.
//
// [Compare] compares two versions, step by step.
package protocol

import (
	"fmt"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

func (p *Protocol) WorkedSide(first bool) anatomy.Side {
	s := anatomy.Left
	if p.FirstSide == "right" {
		s = anatomy.Right
	}
	if !first {
		s = s.Other()
	}
	return s
}

// TimesOf is how often a round is worked; 1 for no round.
func (p *Protocol) TimesOf(round string) int {
	if round != "" {
		for i := range p.Rounds {
			if p.Rounds[i].ID == round {
				return p.Rounds[i].Times
			}
		}
	}
	return 1
}

// RoundEnd returns the position after the round that step i is in, or after the
// step where it is in none.
func (p *Protocol) RoundEnd(i int) int {
	j := i + 1
	for p.Steps[i].Round != "" && j < len(p.Steps) && p.Steps[j].Round == p.Steps[i].Round {
		j++
	}
	return j
}

// Phase is a part of the treatment, in the usual order of [Phases].
type Phase string

// Phases lists the phases in their usual order (common practice).
var Phases = []Phase{
	"settle",
	"look-over",
	"cleanse",
	"prepare",
	"apply",
	"open",
	"work",
	"exercises",
	"compare",
	"close",
	"finish",
	"wake",
	"reset",
}

// Protocol is a treatment plan. Its zero value is an empty plan.
type Protocol struct {
	Key     string `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name    string `json:"name" minLength:"1" maxLength:"120"`
	Summary string `json:"summary,omitempty" maxLength:"600"`
	Method  Method `json:"school"`
	// SkinTypes the plan is meant for, and states it is unsuited to.
	SkinTypes []string `json:"skinTypes,omitempty" maxItems:"10"`
	Unsuited  []string `json:"unsuited,omitempty" maxItems:"10"`
	Concerns  []string `json:"concerns,omitempty" maxItems:"12"`
	Minutes   Minutes  `json:"minutes"`
	Price     Price    `json:"price"`
	// Skills are the skills and licences that who works it has to have, Equipment what its room
	// has to have.
	Skills    []string `json:"skills,omitempty" maxItems:"12"`
	Equipment []string `json:"equipment,omitempty" maxItems:"12"`
	// Marked is what a series takes it for, where that was changed by hand; else it is proposed from
	// the steps.
	Marked *Marked `json:"marked,omitempty"`
	// DefaultDose is used for every inherited dose.
	DefaultDose stroke.Dose `json:"defaultDose"`
	// HowOften the plan is given or done.
	HowOften *HowOften `json:"howOften,omitempty"`
	// Trigger is what the plan answers when it comes: a headache that begins, a long flight.
	Trigger string `json:"trigger,omitempty" maxLength:"200"`
	// SittingsADay and TimesOfDay say when; any of several times will do.
	SittingsADay int      `json:"sittingsADay,omitempty" minimum:"0" maximum:"12"`
	TimesOfDay   []string `json:"timesOfDay,omitempty" maxItems:"4" enum:"morning,day,evening,bedtime"`
	// Aftercare is what the client does afterwards, never a timed step.
	Aftercare []Aftercare `json:"aftercare,omitempty" maxItems:"20"`
	// Setting is on a client (empty), on oneself, or taught in a mirror. Phases
	// and gloves of the studio are asked only of work on a client.
	Setting string `json:"setting,omitempty" enum:"client,self,taught,"`
	// Collection marks strokes to pick from: no order is checked.
	Collection bool `json:"collection,omitempty"`
	// Excerpt marks a piece of a longer plan: what the whole promises and how it opens and closes is not
	// asked of it. Sittings says that the sections are sittings of their own.
	Excerpt  bool `json:"excerpt,omitempty"`
	Sittings bool `json:"sittings,omitempty"`
	// Preconditions hold before the first step: clean-skin, or in the studio's own words.
	Preconditions []string `json:"preconditions,omitempty" maxItems:"8"`
	// LayOut is what is laid out beside products and tools: mirror, tissues, table, sponge, or anything else.
	LayOut []string `json:"layOut,omitempty" maxItems:"12"`
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

// OneFlow reports whether the plan is one treatment from its beginning to its end.
func (p *Protocol) OneFlow() bool { return !p.Collection && !p.Excerpt && !p.Sittings }

// CleanSkin is the precondition that the skin is clean already.
const CleanSkin = "clean-skin"

// Tissues are laid out where lymph is moved.
const Tissues = "tissues"

// Dismissal puts a finding aside. A warning needs the reason why; what stops
// cannot be dismissed.
type Dismissal struct {
	Finding string `json:"finding" minLength:"1" maxLength:"200"`
	Why     string `json:"why,omitempty" maxLength:"300"`
}

// Cue is said again and again while hands work: breathing, slack jaw.
type Cue struct {
	Text string `json:"text" minLength:"1" maxLength:"120"`
	// Every so many seconds of hands-on time; 0 where no interval was given.
	Every int `json:"every,omitempty" minimum:"0" maximum:"3600"`
	// Seconds it takes each time; 0 where hands go on meanwhile. Break is a pause of the hands.
	Seconds int  `json:"seconds,omitempty" minimum:"0" maximum:"600"`
	Break   bool `json:"break,omitempty"`
}

// HowOften is how often something is done: so many times in a period, for so many days, and what then.
type HowOften struct {
	Least int    `json:"least,omitempty" minimum:"0" maximum:"30"`
	Most  int    `json:"most,omitempty" minimum:"0" maximum:"30"`
	Per   string `json:"per,omitempty" enum:"day,week,month,"`
	Days  int    `json:"days,omitempty" minimum:"0" maximum:"365"`
	Then  string `json:"then,omitempty" maxLength:"200"`
}

// Aftercare is one advice for afterwards: with which product, when in the day, for how many days.
type Aftercare struct {
	Advice  string `json:"advice" minLength:"1" maxLength:"300"`
	Product string `json:"product,omitempty" maxLength:"60"`
	When    string `json:"when,omitempty" enum:"morning,day,evening,bedtime,"`
	Days    int    `json:"days,omitempty" minimum:"0" maximum:"365"`
}

// Section is a stretch of a plan with its own place, tools, default dose and
// cautions.
type Section struct {
	ID          string       `json:"id" minLength:"1" maxLength:"40"`
	Name        string       `json:"name" minLength:"1" maxLength:"120"`
	Place       string       `json:"place,omitempty" maxLength:"120"`
	Tools       []string     `json:"tools,omitempty" maxItems:"12"`
	DefaultDose *stroke.Dose `json:"defaultDose,omitempty"`
	Precautions []string     `json:"cautions,omitempty" maxItems:"12"`
	HowOften    *HowOften    `json:"howOften,omitempty"`
}

// Marked are the marks of a protocol that were set by hand: draining, deep, glow (handbook, chapter 6).
// Nil leaves one as it is proposed.
type Marked struct {
	Draining *bool `json:"draining,omitempty"`
	Deep     *bool `json:"deep,omitempty"`
	Glow     *bool `json:"glow,omitempty"`
}

// Minutes are the three lengths of a treatment: what the client buys, what the
// hands work, and what the room needs afterwards.
type Minutes struct {
	// Prepare is how long the room is needed before: stones are warmed, tools laid out.
	Prepare   int `json:"prepare,omitempty" minimum:"0" maximum:"120"`
	Treatment int `json:"sold" minimum:"1" maximum:"480"`
	HandsOn   int `json:"handsOn" minimum:"1" maximum:"480"`
	Reset     int `json:"reset" minimum:"0" maximum:"120"`
	// HandsOnSeconds are seconds beside the whole minutes; Target the minutes that are recommended where
	// others were shown.
	HandsOnSeconds int `json:"handsOnSeconds,omitempty" minimum:"0" maximum:"59"`
	Target         int `json:"target,omitempty" minimum:"0" maximum:"480"`
}

// HandsOnTotal is the hands-on time in seconds.
func (m Minutes) HandsOnTotal() int { return m.HandsOn*60 + m.HandsOnSeconds }

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

func (r Round) Bounds() (least, most int) {
	least, most = r.Min, max(r.Max, r.Times)
	if least == 0 || least > r.Times {
		least = r.Times
	}
	return least, most
}

// InheritedDose is the default dose of a section, else of the protocol.
func (p *Protocol) InheritedDose(section string) *stroke.Dose {
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

// Insert puts steps before position i.
func (p *Protocol) Insert(i int, steps ...Step) {
	p.Steps = append(p.Steps[:i:i], append(steps, p.Steps[i:]...)...)
}

// NewID returns an id no step has, made from a stem.
func (p *Protocol) NewID(stem string) string {
	for n := 2; ; n++ {
		if id := fmt.Sprintf("%s-%d", stem, n); p.Index(id) < 0 {
			return id
		}
	}
}
