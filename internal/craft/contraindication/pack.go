package contraindication

// AnswerType says what a yes needs besides the yes.
type AnswerType string

// What a rule asks for.
const (
	YesNo        AnswerType = "yes-no"
	Date         AnswerType = "date"  // yes, and since or on which day
	Zones        AnswerType = "zones" // yes, and where
	DateAndZones AnswerType = "date-and-zones"
	DueDate      AnswerType = "due-date" // yes, and the expected date of birth
	Nothing      AnswerType = "nothing"  // follows from the client's age alone
	Graded       AnswerType = "grades"   // a grade from 0 to 4 for each of the rule's spots
	Choice       AnswerType = "choice"   // one of the rule's options, or as usual
)

// MostGrade is the highest grade of puffiness and redness (handbook, chapter 7).
const MostGrade = 4

// Stage says when a rule is asked.
type Stage string

// The stages. What the consultation asked holds until the next one; what the
// pre-treatment check asked holds for the day.
const (
	Consultation Stage = "consultation"
	PreTreatment Stage = "door"
	Both         Stage = "both" // at the consultation, and at the door what is new
)

// at reports whether a rule of the stage is asked at another.
func (s Stage) at(o Stage) bool { return s == o || s == Both }

// ConsultationMonths is how long a consultation holds.
const ConsultationMonths = 12

// Rule is one caution.
type Rule struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	// Short is the title in a few words inside a line of several: "no nuts". Where it is
	// empty the title stands in. In a [Choice] it follows the option.
	Short      string     `json:"short,omitempty" maxLength:"40"`
	Group      string     `json:"group"`
	Stage      Stage      `json:"stage" enum:"consultation,door,both"`
	Question   string     `json:"question,omitempty"`
	AnswerType AnswerType `json:"asks" enum:"yes-no,date,zones,date-and-zones,due-date,nothing,grades,choice"`
	// Spots are what is graded, left-right pairs written left-eye, right-eye; Options
	// what may be chosen besides "as usual".
	Spots   []string `json:"spots,omitempty" maxItems:"12"`
	Options []string `json:"options,omitempty" maxItems:"6"`
	// AllowOngoing offers to say that it is still so, in place of a day.
	AllowOngoing bool `json:"mayLast,omitempty"`
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
	// RuleOfThumb marks a waiting time that is a default and nothing more.
	RuleOfThumb bool `json:"doubtful,omitempty"`
}

// Policy is a reading of a rule that a studio may decide on: what it says, and
// what then follows.
type Policy struct {
	Label    string    `json:"says"`
	Outcomes []Outcome `json:"outcomes"`
}

// Pack is a versioned set of rules.
type Pack struct {
	Version string `json:"version"`
	Rules   []Rule `json:"rules"`
	// Lists are the groups whose rules are ticked off on one list under a question
	// of their own, instead of one by one.
	Lists []List `json:"lists,omitempty"`
	// Spoken are the questions that sum up a group, said at the pre-treatment check of a
	// client whose consultation is current; a no answers the whole group.
	Spoken []List `json:"spoken,omitempty"`
}

// List is a group of rules that are asked for together, and the question for it.
type List struct {
	Group    string `json:"group"`
	Question string `json:"question"`
}

// RulesAt returns the rules of a stage that ask something, in the pack's order.
func (p *Pack) RulesAt(stage Stage) []Rule {
	var out []Rule
	for _, r := range p.Rules {
		if r.Stage.at(stage) && r.AnswerType != Nothing {
			out = append(out, r)
		}
	}
	return out
}

// ClientQuestion is what a client is asked by a rule, without what follows from the answer.
type ClientQuestion struct {
	ID           string     `json:"id"`
	Title        string     `json:"title"`
	Group        string     `json:"group"`
	Question     string     `json:"question,omitempty"`
	AnswerType   AnswerType `json:"asks"              enum:"yes-no,date,zones,date-and-zones,due-date,nothing,grades,choice"`
	Spots        []string   `json:"spots,omitempty"`
	Options      []string   `json:"options,omitempty"`
	AllowOngoing bool       `json:"mayLast,omitempty"`
}

// ClientQuestions are what a client is asked by the rules of a consultation, in the pack's order.
func (p *Pack) ClientQuestions() []ClientQuestion {
	rules := p.RulesAt(Consultation)
	out := make([]ClientQuestion, len(rules))
	for i := range rules {
		r := &rules[i]
		out[i] = ClientQuestion{r.ID, r.Title, r.Group, r.Question, r.AnswerType, r.Spots, r.Options, r.AllowOngoing}
	}
	return out
}

// given reports whether an answer says anything that a rule follows from.
func (r *Rule) given(a Answer) bool {
	switch r.AnswerType {
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

const CommonPractice = "common practice"
