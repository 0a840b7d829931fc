// Package screening turns answers at the door into what may be done today, and
// tailors a protocol to it.
//
// A [Pack] is data: rules with a plain question, the outcomes of a yes, how
// long they hold, why, and on what that rests. [Pack.Evaluate] gives every
// outcome that applies and the strictest as the headline. [Tailor] applies the
// merged [Constraints] to a protocol, step by step, and says why each change
// was made.
//
// The package never diagnoses. It gives the trade's usual cautions and defers
// to local codes, to the practitioner's licence and to the client's doctor.
// Dates are civil days of the studio; the caller says which day is today.
package screening

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"
	"time"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/craft/substance"
)

// Day is a civil date written 2006-01-02; empty stands for no date.
type Day string

const dayLayout = "2006-01-02"

// Valid reports whether the day is a date of the calendar.
func (d Day) Valid() bool {
	_, err := time.Parse(dayLayout, string(d))
	return err == nil
}

// Plus returns the day n days later. It panics when d is not valid.
func (d Day) Plus(n int) Day {
	t, err := time.Parse(dayLayout, string(d))
	if err != nil {
		panic("screening: not a day: " + string(d))
	}
	return Day(t.AddDate(0, 0, n).Format(dayLayout))
}

// Kind is a kind of outcome.
type Kind string

// The kinds of outcome. Urgent, Stop, Wait and Letter keep the client from
// being treated (now); the others change the plan.
const (
	Urgent   Kind = "urgent"    // seek medical help now
	Stop     Kind = "stop"      // not here; a doctor first
	Wait     Kind = "wait"      // not before a date
	Letter   Kind = "letter"    // only with a doctor's letter
	LeaveOut Kind = "leave-out" // zones are not worked
	Cap      Kind = "cap"       // pressure at most
	Exclude  Kind = "exclude"   // stroke families, intents, tools or ingredient tags are not used
	Mind     Kind = "mind"      // something to do or to ask, no change of the plan
	Lighter  Kind = "lighter"   // a lighter hand, as the client wishes
	Firmer   Kind = "firmer"    // a firmer hand, as the client wishes, as far as everything else allows
)

// Headline is the answer in a word.
type Headline string

// The headlines, mildest first.
const (
	Go          Headline = "go"
	GoChanged   Headline = "go-with-changes"
	NeedsLetter Headline = "needs-letter"
	NotBefore   Headline = "not-before"
	NotHere     Headline = "not-here"
	UrgentHelp  Headline = "urgent"
)

// Treatable reports whether a treatment may be given under the headline.
func (h Headline) Treatable() bool { return h == Go || h == GoChanged }

func (k Kind) headline() Headline {
	switch k {
	case Urgent:
		return UrgentHelp
	case Stop:
		return NotHere
	case Wait:
		return NotBefore
	case Letter:
		return NeedsLetter
	case Mind:
		return Go
	}
	return GoChanged
}

var rank = map[Headline]int{Go: 0, GoChanged: 1, NeedsLetter: 2, NotBefore: 3, NotHere: 4, UrgentHelp: 5}

// Asks tells what a yes needs besides the yes.
type Asks string

// What a rule asks for.
const (
	YesNo        Asks = "yes-no"
	Date         Asks = "date"  // yes, and since or on which day
	Zones        Asks = "zones" // yes, and where
	DateAndZones Asks = "date-and-zones"
	DueDate      Asks = "due-date" // yes, and the expected date of birth
	Nothing      Asks = "nothing"  // follows from the client's age alone
	Graded       Asks = "grades"   // a grade from 0 to 4 for each of the rule's spots
	Choice       Asks = "choice"   // one of the rule's options, or as usual
)

// MostGrade is the highest grade of puffiness and redness (handbook, chapter 7).
const MostGrade = 4

// Stage tells when a rule is asked.
type Stage string

// The stages. What the consultation asked holds until the next one; what the
// door asked holds for the day.
const (
	Consultation Stage = "consultation"
	Door         Stage = "door"
	Both         Stage = "both" // at the consultation, and at the door what is new
)

// at reports whether a rule of the stage is asked at another.
func (s Stage) at(o Stage) bool { return s == o || s == Both }

// ConsultationMonths is how long a consultation holds.
const ConsultationMonths = 12

// Outcome is what follows from a yes.
type Outcome struct {
	Kind Kind `json:"kind" enum:"urgent,stop,wait,letter,leave-out,cap,exclude,mind,lighter,firmer"`
	// Days the outcome holds after the day asked for; 0 holds as long as the yes.
	Days int `json:"days,omitempty" minimum:"0" maximum:"3650"`
	// Zones to leave out, to cap or to keep an exclusion to; empty with a cap or
	// an exclusion means everywhere. FromAnswer takes them from the answer, or,
	// where zones are named too, takes the named ones on the sides of the answer.
	// Neighbours adds the places within [anatomy.NeighbourCM].
	Zones      []string `json:"zones,omitempty"`
	FromAnswer bool     `json:"fromAnswer,omitempty"`
	Neighbours bool     `json:"neighbours,omitempty"`
	// UntilLetter lifts the outcome for a client with a doctor's written yes to the
	// rule, which is asked for without keeping the client away.
	UntilLetter bool `json:"untilLetter,omitempty"`
	// The outcome is for clients from an age on, or under one, in whole years. A
	// client whose birth date is not known counts as old enough, unless the rule
	// asks nothing.
	FromAge  int `json:"fromAge,omitempty" minimum:"0" maximum:"120"`
	UnderAge int `json:"underAge,omitempty" minimum:"0" maximum:"120"`
	// The outcome is for weeks of pregnancy completed, from one on or before one.
	FromWeek   int `json:"fromWeek,omitempty" minimum:"0" maximum:"42"`
	BeforeWeek int `json:"beforeWeek,omitempty" minimum:"0" maximum:"42"`
	// The outcome is for a highest grade from one on, or for grades that differ
	// between left and right by so much; or for one of the rule's options.
	FromGrade int    `json:"fromGrade,omitempty" minimum:"0" maximum:"4"`
	Uneven    int    `json:"uneven,omitempty" minimum:"0" maximum:"4"`
	Option    string `json:"option,omitempty" maxLength:"40"`
	// Pressure of a cap, 0 to 5.
	Pressure int `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	// What an exclusion takes away: stroke families, intents, kinds of tool,
	// ingredient tags, product forms, single products, what an allergy is to.
	Families []string           `json:"families,omitempty"`
	Intents  []string           `json:"intents,omitempty"`
	Tools    []string           `json:"tools,omitempty"`
	Tags     []string           `json:"tags,omitempty"`
	Forms    []string           `json:"forms,omitempty"`
	Products []string           `json:"products,omitempty"`
	Allergy  *substance.Allergy `json:"allergy,omitempty"`
	// Does is what to do, for Mind and as an addition to others.
	Does string `json:"does,omitempty"`
}

// Rule is one caution.
type Rule struct {
	ID       string `json:"id"`
	Title    string `json:"title"`
	Group    string `json:"group"`
	Stage    Stage  `json:"stage" enum:"consultation,door,both"`
	Question string `json:"question,omitempty"`
	Asks     Asks   `json:"asks" enum:"yes-no,date,zones,date-and-zones,due-date,nothing,grades,choice"`
	// Spots are what is graded, left-right pairs written left-eye, right-eye; Options
	// what may be chosen besides "as usual".
	Spots   []string `json:"spots,omitempty" maxItems:"12"`
	Options []string `json:"options,omitempty" maxItems:"6"`
	// MayLast offers to say that it is still so, in place of a day.
	MayLast bool `json:"mayLast,omitempty"`
	// FromSkin answers yes by itself for a client with one of these skin states.
	FromSkin []string `json:"fromSkin,omitempty"`
	// FromMedicines answers yes by itself for a client who takes a medicine of one
	// of these classes; AskMedicines are classes that make a no worth asking about.
	FromMedicines []string  `json:"fromMedicines,omitempty"`
	AskMedicines  []string  `json:"askMedicines,omitempty"`
	Outcomes      []Outcome `json:"outcomes"`
	// Policy is what the rule asks instead where the studio has decided so.
	Policy *Policy `json:"policy,omitempty"`
	Why    string  `json:"why"`
	Basis  string  `json:"basis"`
	// Doubtful marks a waiting time that is a default and nothing more.
	Doubtful bool `json:"doubtful,omitempty"`
}

// Policy is a reading of a rule that a studio may decide on: what it says, and
// what then follows.
type Policy struct {
	Says     string    `json:"says"`
	Outcomes []Outcome `json:"outcomes"`
}

// Pack is a versioned set of rules.
type Pack struct {
	Version string `json:"version"`
	Rules   []Rule `json:"rules"`
	// Lists are the groups whose rules are ticked off on one list under a question
	// of their own, instead of one by one.
	Lists []List `json:"lists,omitempty"`
}

// List is a group of rules that are asked for together.
type List struct {
	Group    string `json:"group"`
	Question string `json:"question"`
}

// Answer is what the client said to one rule.
type Answer struct {
	Yes bool `json:"yes"`
	Day Day  `json:"day,omitempty"`
	// Still says that it has not ended: the day is always the day judged.
	Still bool    `json:"still,omitempty"`
	Zones []Place `json:"zones,omitempty"`
	// Grades by spot, 0 to 4; what is not there is 0. Option is empty for as usual.
	Grades map[string]int `json:"grades,omitempty"`
	Option string         `json:"option,omitempty" maxLength:"40"`
	// Unsure is what clients may say who are alone with the questions: it has to be
	// answered together before anything is judged.
	Unsure bool `json:"unsure,omitempty"`
}

// Told returns answers as they were told, with a no for those the client was not
// sure of: nothing is missing then, though nothing may be judged yet.
func Told(answers map[string]Answer) map[string]Answer {
	out := maps.Clone(answers)
	for id, a := range out {
		if a.Unsure {
			out[id] = Answer{}
		}
	}
	return out
}

// worst is the highest grade, uneven by how much left and right differ most.
func (a *Answer) worst() (worst, uneven int) {
	for spot, g := range a.Grades {
		worst = max(worst, g)
		if part, ok := strings.CutPrefix(spot, "left-"); ok {
			d := g - a.Grades["right-"+part]
			uneven = max(uneven, d, -d)
		}
	}
	for spot, g := range a.Grades {
		if part, ok := strings.CutPrefix(spot, "right-"); ok {
			uneven = max(uneven, g-a.Grades["left-"+part])
		}
	}
	return worst, uneven
}

// Place is a zone with its side, by name.
type Place struct {
	Zone string `json:"zone"`
	Side string `json:"side,omitempty" enum:"left,right,both,"`
}

// Applied is an outcome of a rule that applies today.
type Applied struct {
	Rule     string  `json:"rule"`
	Title    string  `json:"title"`
	Kind     Kind    `json:"kind"`
	Until    Day     `json:"until,omitempty"`
	Places   []Place `json:"places,omitempty"`
	Outcome  Outcome `json:"outcome"`
	Why      string  `json:"why"`
	Basis    string  `json:"basis"`
	Doubtful bool    `json:"doubtful,omitempty"`
	// Allowed says that a doctor's letter, valid through Until, answers this.
	Allowed bool `json:"allowed,omitempty"`
}

// Result is what a screening gives. NotBefore is the first day without a wait.
type Result struct {
	Headline    Headline  `json:"headline" enum:"go,go-with-changes,needs-letter,not-before,not-here,urgent"`
	NotBefore   Day       `json:"notBefore,omitempty"`
	Outcomes    []Applied `json:"outcomes"`
	PackVersion string    `json:"packVersion"`
}

// Subject is what a pack needs to know of the client besides the answers.
type Subject struct {
	// Born is empty where it is not known.
	Born       Day
	SkinStates []string
	// Letters are the doctors' answers that allow what a rule asks a letter for.
	Letters []Permission
	// Medicines by name, and what the client is allergic to.
	Medicines []string
	Allergies []substance.Allergy
}

// takes reports whether the client takes a medicine of one of the classes, and
// which.
func (s *Subject) takes(classes []string) (string, bool) {
	if len(classes) > 0 {
		for _, m := range s.Medicines {
			if slices.Contains(classes, substance.Class(m)) {
				return m, true
			}
		}
	}
	return "", false
}

// Permission is a doctor's written yes to what a rule asks a letter for, valid
// through its last day.
type Permission struct {
	Rule  string `json:"rule"`
	Until Day    `json:"until"`
}

// Age returns whole years on a day. Someone born on 29 February is a year older
// on 1 March where there is no 29th. It is -1 where the birth date is not known.
func (s *Subject) Age(today Day) int {
	if !s.Born.Valid() || !today.Valid() {
		return -1
	}
	b, t := string(s.Born), string(today)
	var by, ty int
	_, _ = fmt.Sscanf(b[:4], "%d", &by) // both are valid days
	_, _ = fmt.Sscanf(t[:4], "%d", &ty)
	if t[5:] < b[5:] {
		return ty - by - 1
	}
	return ty - by
}

// pregnancyDays counts from the first day of the last cycle to the expected
// date of birth (common practice); nobody is taken to be pregnant three weeks after it.
const (
	pregnancyDays = 280
	overdueDays   = 21
)

// week returns the completed weeks of pregnancy on a day.
func week(due, today Day) int { return (pregnancyDays - due.since(today)) / 7 }

// since counts the days from another day to this one.
func (d Day) since(o Day) int {
	a, _ := time.Parse(dayLayout, string(d)) // both were checked
	b, _ := time.Parse(dayLayout, string(o))
	return int(a.Sub(b).Hours() / 24)
}

// Of returns the rules of a stage that ask something, in the pack's order.
func (p *Pack) Of(stage Stage) []Rule {
	var out []Rule
	for _, r := range p.Rules {
		if r.Stage.at(stage) && r.Asks != Nothing {
			out = append(out, r)
		}
	}
	return out
}

// Check reports what the answers to the rules of the stages lack: a rule without
// an answer, a yes without its day or place. Nothing may be judged before it is
// empty.
func (p *Pack) Check(answers map[string]Answer, today Day, stages ...Stage) []stroke.Problem {
	var ps []stroke.Problem
	for _, r := range p.Rules {
		at := "/answers/" + r.ID
		a, ok := answers[r.ID]
		switch {
		case r.Asks == Nothing || !slices.ContainsFunc(stages, r.Stage.at):
			continue
		case !ok:
			ps = append(ps, stroke.Problem{Path: at, Message: "This question has no answer yet."})
			continue
		case a.Unsure:
			ps = append(ps, stroke.Problem{Path: at, Message: "The client was not sure. Go through it together, then say yes or no."})
			continue
		case r.Asks == Graded:
			for spot, g := range a.Grades {
				if !slices.Contains(r.Spots, spot) || g < 0 || g > MostGrade {
					ps = append(ps, stroke.Problem{Path: at + "/grades/" + spot, Message: "A grade goes from 0, none, to 4, very much."})
				}
			}
			continue
		case r.Asks == Choice:
			if a.Option != "" && !slices.Contains(r.Options, a.Option) {
				ps = append(ps, stroke.Problem{Path: at + "/option", Message: "Choose one of what is offered."})
			}
			continue
		case !a.Yes:
			continue
		}
		if (r.Asks == Date || r.Asks == DateAndZones) && !(a.Still && r.MayLast) {
			switch {
			case !a.Day.Valid():
				ps = append(ps, stroke.Problem{Path: at + "/day", Message: "Say on which day, or the last day it was so."})
			case a.Day > today:
				ps = append(ps, stroke.Problem{Path: at + "/day", Message: "That day is still to come. Give the day it was."})
			}
		}
		if r.Asks == DueDate && (!a.Day.Valid() || a.Day.since(today) > pregnancyDays || a.Day.since(today) < -overdueDays) {
			ps = append(ps, stroke.Problem{Path: at + "/day", Message: "Give the expected date of birth, at most 40 weeks ahead."})
		}
		if r.Asks == Zones || r.Asks == DateAndZones {
			if len(a.Zones) == 0 {
				ps = append(ps, stroke.Problem{Path: at + "/zones", Message: "Mark where."})
			}
			for i, z := range a.Zones {
				ps = append(ps, stroke.ValidatePath([]string{z.Zone}, fmt.Sprintf("%s/zones/%d", at, i))...)
			}
		}
	}
	return ps
}

// Evaluate judges answers that [Pack.Check] found nothing lacking in. Skin
// states answer the rules that follow from them, the age those that ask nothing.
func (p *Pack) Evaluate(answers map[string]Answer, who Subject, today Day) Result {
	res := Result{Headline: Go, PackVersion: p.Version, Outcomes: []Applied{}}
	age := who.Age(today)
	for _, r := range p.Rules {
		a := answers[r.ID]
		for _, s := range r.FromSkin {
			a.Yes = a.Yes || slices.Contains(who.SkinStates, s)
		}
		if _, ok := who.takes(r.FromMedicines); ok && !a.Yes {
			a = Answer{Yes: true, Day: today}
		}
		if !r.given(a) {
			continue
		}
		for _, o := range r.Outcomes {
			ap, ok := r.apply(o, a, age, today)
			if !ok {
				continue
			}
			if o.AsksLetter() {
				for _, l := range who.Letters {
					if l.Rule == r.ID && today <= l.Until {
						ap.Kind, ap.Until, ap.Places, ap.Outcome.Does = Mind, l.Until, nil, ""
						ap.Allowed = true
					}
				}
			}
			if ap.Kind == Wait && ap.Until > res.NotBefore {
				res.NotBefore = ap.Until
			}
			if h := ap.Kind.headline(); rank[h] > rank[res.Headline] {
				res.Headline = h
			}
			res.Outcomes = append(res.Outcomes, ap)
		}
	}
	for _, ap := range who.ofAllergies() {
		if h := ap.Kind.headline(); rank[h] > rank[res.Headline] {
			res.Headline = h
		}
		res.Outcomes = append(res.Outcomes, ap)
	}
	sort.SliceStable(res.Outcomes, func(i, j int) bool {
		return rank[res.Outcomes[i].Kind.headline()] > rank[res.Outcomes[j].Kind.headline()]
	})
	return res
}

// AsksLetter reports whether a doctor's written yes lifts the outcome.
func (o *Outcome) AsksLetter() bool { return o.Kind == Letter || o.UntilLetter }

// given reports whether an answer says anything that a rule follows from.
func (r *Rule) given(a Answer) bool {
	switch r.Asks {
	case Nothing:
		return true
	case Graded:
		worst, _ := a.worst()
		return worst > 0
	case Choice:
		return a.Option != ""
	}
	return a.Yes
}

// ofAllergies are the outcomes of what the client is allergic to.
func (s *Subject) ofAllergies() []Applied {
	var out []Applied
	for i := range s.Allergies {
		a := &s.Allergies[i]
		does := ""
		if a.Kind == "words" {
			does = "These words are in no table here: read the label of every product."
		}
		out = append(out, Applied{Rule: "allergy/" + a.Key, Title: "Allergic to " + a.Name, Kind: Exclude, Outcome: Outcome{Kind: Exclude, Allergy: a, Does: does},
			Why: "The client named it; products that hold it are not used.", Basis: commonPractice})
	}
	return out
}

const commonPractice = "common practice"

// apply gives an outcome of the rule as it holds today, or false where it does
// not: its days are over, or the client's age or week is another.
func (r *Rule) apply(o Outcome, a Answer, age int, today Day) (Applied, bool) {
	ap := Applied{Rule: r.ID, Title: r.Title, Kind: o.Kind, Outcome: o, Why: r.Why, Basis: r.Basis, Doubtful: r.Doubtful}
	if age < 0 {
		if o.UnderAge > 0 || r.Asks == Nothing {
			return ap, false
		}
	} else if age < o.FromAge || (o.UnderAge > 0 && age >= o.UnderAge) {
		return ap, false
	}
	if r.Asks == DueDate && a.Day != "" {
		w := week(a.Day, today)
		if a.Day.since(today) < -overdueDays || w < o.FromWeek || (o.BeforeWeek > 0 && w >= o.BeforeWeek) {
			return ap, false
		}
	}
	if worst, uneven := a.worst(); worst < o.FromGrade || uneven < o.Uneven || o.Option != a.Option && r.Asks == Choice {
		return ap, false
	}
	if o.Days > 0 {
		from := a.Day
		if from == "" || a.Still && r.MayLast {
			from = today
		}
		ap.Until = from.Plus(o.Days)
		if today >= ap.Until {
			return ap, false
		}
	}
	ap.Places = o.places(a.Zones)
	return ap, true
}

// places are those an outcome is for, given those of the answer.
func (o *Outcome) places(answered []Place) []Place {
	var out []Place
	switch {
	case o.FromAnswer && len(o.Zones) > 0:
		for _, side := range []string{"left", "right", "both"} {
			if slices.ContainsFunc(answered, func(p Place) bool { return p.Side == side || (p.Side == "" && side == "both") }) {
				for _, z := range o.Zones {
					out = append(out, Place{Zone: z, Side: side})
				}
			}
		}
	case o.FromAnswer:
		out = slices.Clone(answered)
	default:
		for _, z := range o.Zones {
			out = append(out, Place{Zone: z, Side: "both"})
		}
	}
	if o.Neighbours {
		seen := map[anatomy.Place]bool{}
		for _, pl := range out {
			for _, p := range sides(pl) {
				seen[p] = true
			}
		}
		for _, pl := range slices.Clone(out) {
			for _, p := range sides(pl) {
				for _, n := range anatomy.Near(p) {
					if !seen[n] {
						seen[n] = true
						out = append(out, Place{Zone: n.Zone.Zone().Key, Side: [...]string{"both", "left", "right"}[n.Side]})
					}
				}
			}
		}
	}
	return out
}

// MayOverrule reports whether a practitioner may set aside what a rule asks of a
// plan, with a reason: lighter pressure, a wish, strokes or tools not to use, a
// patch test that is missing. Urgent signs, waits, letters, places left out,
// ingredients and a reaction stand.
func MayOverrule(outcomes []Applied, rule string) bool {
	any := false
	for _, o := range outcomes {
		if o.Rule != rule {
			continue
		}
		switch {
		case o.Kind == Cap, o.Kind == Lighter, o.Kind == Firmer, o.Rule == PatchFirst,
			o.Kind == Exclude && len(o.Outcome.Tags)+len(o.Outcome.Products) == 0 && o.Outcome.Allergy == nil:
			any = true
		case o.Kind != Mind || o.Allowed:
			return false
		}
	}
	return any
}

// Overruled returns the outcomes without those of the rules set aside.
func Overruled(outcomes []Applied, rules []string) []Applied {
	out := make([]Applied, 0, len(outcomes))
	for _, o := range outcomes {
		if !slices.Contains(rules, o.Rule) || o.Kind == Mind {
			out = append(out, o)
		}
	}
	return out
}
