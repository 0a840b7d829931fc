package contraindication

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"sync"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/words"
)

//go:embed trade-pack.json
var tradePack []byte

// Trade returns the pack of the trade's usual cautions that ships with the
// application. It is common practice unless a rule's basis names a source. It is
// shared: do not change it.
func Trade() *Pack { return trade() }

var trade = sync.OnceValue(func() *Pack {
	p, err := ReadPack(tradePack)
	if err != nil {
		panic("contraindication: the shipped pack is broken: " + err.Error())
	}
	return p
})

// ReadPack reads a pack from JSON, refusing unknown fields and rules that
// cannot be judged.
func ReadPack(data []byte) (*Pack, error) {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	var p Pack
	if err := dec.Decode(&p); err != nil {
		return nil, fmt.Errorf("contraindication: reading a rule pack: %w", err)
	}
	if ps := p.Validate(); len(ps) > 0 {
		return nil, fmt.Errorf("contraindication: rule pack: at %s: %s", ps[0].Path, ps[0].Message)
	}
	return &p, nil
}

// Validate reports every problem of the pack.
func (p *Pack) Validate() []problem.Fault {
	var ps []problem.Fault
	bad := func(at string, s words.Sentence) { ps = append(ps, problem.Fault{Path: at, Sentence: s}) }
	seen := map[string]bool{}
	for i, r := range p.Rules {
		at := fmt.Sprintf("/rules/%d", i)
		if r.ID == "" || seen[r.ID] {
			bad(at+"/id", words.EveryRuleNeedsItsOwnId())
		}
		seen[r.ID] = true
		if r.Title == "" || (r.Question == "") != (r.AnswerType == Nothing) || r.Why == "" || r.Basis == "" {
			bad(at, words.RuleNeedsItsTitleQuestionReasonBasis())
		}
		if !slices.Contains([]AnswerType{YesNo, Date, Zones, DateAndZones, DueDate, Nothing, Graded, Choice}, r.AnswerType) {
			bad(at+"/asks", words.SayWhetherRuleAsksForYesNo())
		}
		if r.Stage != Consultation && r.Stage != PreTreatment && r.Stage != Both {
			bad(at+"/stage", words.SayWhetherRuleAskedAtConsultationAt())
		}
		if r.AllowOngoing && r.AnswerType != Date && r.AnswerType != DateAndZones {
			bad(at+"/mayLast", words.OnlyRuleWithDateCanOngoing())
		}
		if (len(r.Spots) > 0) != (r.AnswerType == Graded) || (len(r.Options) > 0) != (r.AnswerType == Choice) {
			bad(at, words.GradesNeedTheirSpotsChoiceItsOptions())
		}
		if len(r.Outcomes) == 0 {
			bad(at+"/outcomes", words.ARuleWithoutAnOutcomeDoesNothing())
		}
		for j := range r.Outcomes {
			ps = append(ps, r.Outcomes[j].check(&r, fmt.Sprintf("%s/outcomes/%d", at, j))...)
		}
		if r.Policy != nil {
			if r.Policy.Label == "" || len(r.Policy.Outcomes) == 0 {
				bad(at+"/policy", words.PolicySaysWhatWhatFollows())
			}
			for j := range r.Policy.Outcomes {
				ps = append(ps, r.Policy.Outcomes[j].check(&r, fmt.Sprintf("%s/policy/outcomes/%d", at, j))...)
			}
		}
	}
	return ps
}

// validateZones reports zones that do not exist or that a rule cannot name: those of a studio's own.
func validateZones(zones []string, at string) []problem.Fault {
	ps := stroke.ValidatePath(zones, at)
	for i, z := range zones {
		if anatomy.IsOwn(z) {
			ps = append(ps, problem.Fault{Path: fmt.Sprintf("%s/%d", at, i), Sentence: words.RuleNamesOwnZone(z)})
		}
	}
	return ps
}

// check reports what is wrong with an outcome of a rule.
func (o *Outcome) check(r *Rule, here string) []problem.Fault {
	var ps []problem.Fault
	bad := func(at string, s words.Sentence) { ps = append(ps, problem.Fault{Path: at, Sentence: s}) }
	o.Kind.effect().faults(o, r, func(at string, s words.Sentence) { bad(here+at, s) })
	ps = append(ps, validateZones(o.Zones, here+"/zones")...)
	for _, of := range []struct {
		field  string
		is     string
		list   []string
		exists func(string) bool
	}{
		{"families", "family of strokes", o.Families, func(k string) bool {
			return slices.Contains(stroke.Families, stroke.Family(k))
		}},
		{"intents", "intent", o.Intents, func(k string) bool { return slices.Contains(stroke.Intents, stroke.Intent(k)) }},
		{"tools", "kind of tool", o.Tools, func(k string) bool { return slices.Contains(protocol.ToolKinds, k) }},
		{"forms", "form of product", o.Forms, func(k string) bool { return slices.Contains(slip.Forms, slip.Form(k)) }},
	} {
		for i, k := range of.list { // a name that is not known would leave nothing out
			if !of.exists(k) {
				bad(fmt.Sprintf("%s/%s/%d", here, of.field, i), words.ThereIsNoIsK(of.is, k))
			}
		}
	}
	if o.Pressure < 0 || o.Pressure > 5 {
		bad(here+"/pressure", words.PressureGoesFrom0To5())
	}
	if r.AnswerType == Nothing && o.FromAge == 0 && o.UnderAge == 0 {
		bad(here, words.RuleThatAsksNothingNeedsAgeFor())
	}
	if (o.FromWeek > 0 || o.BeforeWeek > 0) && r.AnswerType != DueDate {
		bad(here, words.WeeksPregnancyNeedRuleThatAsksFor())
	}
	if (o.FromGrade > 0 || o.Uneven > 0) && r.AnswerType != Graded || (o.Option != "") != (r.AnswerType == Choice) ||
		o.Option != "" && !slices.Contains(r.Options, o.Option) {
		bad(here, words.OutcomeForGradeOrOptionThatRule())
	}
	if o.FromAnswer && r.AnswerType != Zones && r.AnswerType != DateAndZones {
		bad(here+"/fromAnswer", words.TheRuleDoesNotAskWhere())
	}
	return ps
}
