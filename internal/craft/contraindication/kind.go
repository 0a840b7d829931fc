package contraindication

import "softpalm/words"

// Kind is a kind of outcome.
type Kind string

// The kinds of outcome. Urgent, Stop, Wait and Letter keep the client from
// being treated (now); the others change the plan.
const (
	Urgent     Kind = "urgent"    // get medical help now
	Stop       Kind = "stop"      // do not treat; a doctor first
	Wait       Kind = "wait"      // not before a date
	Letter     Kind = "letter"    // only with a doctor's letter
	LeaveOut   Kind = "leave-out" // zones are not worked
	Cap        Kind = "cap"       // a pressure limit
	Exclude    Kind = "exclude"   // stroke families, intents, tools or ingredient tags are not used
	Precaution Kind = "mind"      // an instruction for the practitioner; it does not change the plan
	Lighter    Kind = "lighter"   // lighter pressure, as the client prefers
	Firmer     Kind = "firmer"    // firmer pressure, as the client prefers, where everything else allows it
)

// effect is what a kind of outcome means. A kind implements all of it, each in a
// file of its own, so that a kind that touches a plan cannot be written without
// saying when its rule is asked.
type effect interface {
	// headline is the result that the outcome leads to by itself.
	headline() Headline
	// canMatter reports whether the outcome could change anything of the scope, or
	// needs to be known whatever is treated; only then is its rule asked.
	canMatter(s *Scope, o *Outcome) bool
	// limit adds to the constraints what the outcome asks of a plan.
	limit(c *Constraints, o *Contraindication)
	// override says whether a practitioner may decide against the outcome, with a
	// reason.
	override(o *Outcome) override
	// faults names what the outcome's own fields lack; at is a field, "" for the
	// outcome itself.
	faults(o *Outcome, r *Rule, bad func(at string, s words.Sentence))
}

// override is how an outcome takes part when its rule is overridden.
type override int

const (
	refuses override = iota // the rule cannot be overridden
	ignores                 // the outcome stays and does not keep the rule from being overridden
	allows                  // the outcome is what is overridden
)

var effects = map[Kind]effect{
	Urgent: urgent{}, Stop: stop{}, Wait: wait{}, Letter: letter{}, LeaveOut: leaveOut{},
	Cap: pressureLimit{}, Exclude: exclude{}, Precaution: precaution{}, Lighter: lighter{}, Firmer: firmer{},
}

// effect is what the kind means; a kind that is not known refuses and asks, and
// limits nothing.
func (k Kind) effect() effect {
	if e := effects[k]; e != nil {
		return e
	}
	return unknown{}
}

func (k Kind) headline() Headline { return k.effect().headline() }

// unknown is a kind of an older or a newer version of the rules.
type unknown struct{}

func (unknown) headline() Headline              { return OKWithAdjustments }
func (unknown) canMatter(*Scope, *Outcome) bool { return true }
func (unknown) limit(*Constraints, *Contraindication) {
}
func (unknown) override(*Outcome) override { return refuses }
func (unknown) faults(_ *Outcome, _ *Rule, bad func(at string, s words.Sentence)) {
	bad("/kind", words.ThereIsNoSuchKindOfOutcome())
}

// keepsAway is what urgent signs, stops, waiting periods and letters share: they
// matter whatever is treated, ask nothing of a plan and cannot be overridden.
type keepsAway struct{}

func (keepsAway) canMatter(*Scope, *Outcome) bool                      { return true }
func (keepsAway) limit(*Constraints, *Contraindication)                {}
func (keepsAway) override(*Outcome) override                           { return refuses }
func (keepsAway) faults(*Outcome, *Rule, func(string, words.Sentence)) {}
