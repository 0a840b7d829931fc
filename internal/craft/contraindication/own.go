package contraindication

import (
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/problem"
	"softpalm/words"
)

// OwnPrefix begins the ids of rules that are a studio's own, so that they never
// meet one of the shipped pack.
const OwnPrefix = "own/"

// WithRules returns the pack with a studio's own rules beside it.
func (p *Pack) WithRules(own []Rule) *Pack {
	if len(own) == 0 {
		return p
	}
	return &Pack{Version: p.Version, Lists: p.Lists, Spoken: p.Spoken, Rules: append(slices.Clone(p.Rules), own...)}
}

// NoMouth is the policy of a studio whose licence does not cover work inside the
// mouth; every other policy is the id of a rule that has one.
const NoMouth = "no-mouth-work"

// WithPolicies returns the pack with the policies that a studio has decided on.
func (p *Pack) WithPolicies(policies []string) *Pack {
	if len(policies) == 0 {
		return p
	}
	out := &Pack{Version: p.Version, Lists: p.Lists, Spoken: p.Spoken, Rules: slices.Clone(p.Rules)}
	for i := range out.Rules {
		if r := &out.Rules[i]; r.Policy != nil && slices.Contains(policies, r.ID) {
			r.Outcomes = r.Policy.Outcomes
		}
	}
	return out
}

// PolicyOutcomes are what a studio's policies ask of every plan.
func PolicyOutcomes(policies []string) []Contraindication {
	if !slices.Contains(policies, NoMouth) {
		return nil
	}
	a := Contraindication{
		Rule:    NoMouth,
		Title:   "Work inside the mouth",
		Kind:    LeaveOut,
		Outcome: Outcome{Kind: LeaveOut},
		Why:     "Not within the studio's licence.",
		Basis:   "studio rule",
	}
	for _, z := range anatomy.Zones {
		if z.Region == anatomy.Mouth {
			a.Places = append(a.Places, ZoneSide{Zone: z.Key, Side: "both"})
			a.Outcome.Zones = append(a.Outcome.Zones, z.Key)
		}
	}
	return []Contraindication{a}
}

// CheckOwn reports what is wrong with a rule of a studio's own.
func CheckOwn(r *Rule) []problem.Fault {
	one := Pack{Rules: []Rule{*r}}
	ps := one.Validate()
	for i := range ps {
		ps[i].Path = strings.TrimPrefix(ps[i].Path, "/rules/0")
	}
	if !strings.HasPrefix(r.ID, OwnPrefix) {
		ps = append(ps, problem.Fault{Path: "/id", Sentence: words.IdStudioRuleBeginsWithOwnPrefix(OwnPrefix)})
	}
	return ps
}

// Loosens reports whether a rule asks for less than it did: some outcome has no
// other that is at least as strict. A rule that is gone (nil) asks for nothing.
func Loosens(was, now *Rule) bool {
	if now == nil {
		return true
	}
	if was.Question != now.Question && was.AnswerType != now.AnswerType {
		return true
	}
	return slices.ContainsFunc(was.Outcomes, func(o Outcome) bool {
		return !slices.ContainsFunc(now.Outcomes, func(n Outcome) bool { return n.covers(&o) })
	})
}

// covers reports whether an outcome asks for at least what another does, of at
// least the same clients.
func (o *Outcome) covers(w *Outcome) bool {
	if rank[o.Kind.headline()] > rank[w.Kind.headline()] && (o.Kind == Urgent || o.Kind == Stop) && o.Days == 0 && o.everybody() {
		return true // stricter than anything of the other kind
	}
	if o.Kind != w.Kind || o.Days != 0 && (w.Days == 0 || o.Days < w.Days) {
		return false
	}
	if o.FromAge > w.FromAge || o.UnderAge != 0 && (w.UnderAge == 0 || o.UnderAge < w.UnderAge) ||
		o.FromWeek > w.FromWeek || o.BeforeWeek != 0 && (w.BeforeWeek == 0 || o.BeforeWeek < w.BeforeWeek) ||
		o.FromGrade > w.FromGrade || o.Uneven > w.Uneven || o.Option != w.Option {
		return false
	}
	holds := func(mine, theirs []string) bool {
		return !slices.ContainsFunc(theirs, func(k string) bool { return !slices.Contains(mine, k) })
	}
	// No zones with a cap or an exclusion mean everywhere.
	everywhere := func(x *Outcome) bool {
		return (x.Kind == Cap || x.Kind == Exclude) && len(x.Zones) == 0 && !x.FromAnswer
	}
	if !everywhere(o) && (!holds(o.Zones, w.Zones) || w.FromAnswer && !o.FromAnswer || everywhere(w)) {
		return false
	}
	if o.UntilLetter && !w.UntilLetter || w.Neighbours && !o.Neighbours || o.Kind == Cap && o.Pressure > w.Pressure {
		return false
	}
	return holds(o.Families, w.Families) && holds(o.Intents, w.Intents) && holds(o.Tools, w.Tools) && holds(o.Tags, w.Tags) &&
		holds(o.Forms, w.Forms) &&
		holds(o.Products, w.Products)
}

func (o *Outcome) everybody() bool {
	return o.FromAge == 0 && o.UnderAge == 0 && o.FromWeek == 0 && o.BeforeWeek == 0 && o.FromGrade == 0 && o.Uneven == 0 &&
		o.Option == ""
}
