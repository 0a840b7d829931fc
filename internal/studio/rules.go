package studio

import (
	"softpalm/internal/craft/contraindication"
	"softpalm/words"
)

// OwnRules are the studio's own beside the shipped pack: days of shipped rules,
// whole rules, and the log of every change ever made to them.
type OwnRules struct {
	// Base are the standard rules that the studio brought in from a file; nil where the shipped
	// ones are used.
	Base       *contraindication.Pack       `json:"base,omitempty"`
	Amendments []contraindication.Amendment `json:"amendments"`
	Rules      []contraindication.Rule      `json:"rules"`
	// Policies the studio has decided on: ids of rules, and [contraindication.NoMouth].
	Policies []string     `json:"policies"`
	Log      []RuleChange `json:"log"`
}

// RuleChange is a change of the studio's rules.
type RuleChange struct {
	contraindication.Amendment
	// Action is empty for a change of days, imported for standard rules from a file (with their
	// version for a title); added, changed or retired for a rule of the
	// studio's own, whose title then stands here.
	Action  string `json:"did,omitempty" enum:"added,changed,retired,decided,undone,imported,"`
	Title   string `json:"title,omitempty"`
	Loosens bool   `json:"loosens,omitempty"`
}

// Pack returns the rules in force at the studio. It is shared: do not change it.
func (st *Studio) Pack() *contraindication.Pack { return st.Own.Pack() }

// Standard returns the standard rules: those from a file, or the shipped ones.
func (o *OwnRules) Standard() *contraindication.Pack {
	if o.Base != nil {
		return o.Base
	}
	return contraindication.Trade()
}

// Pack returns the standard rules with what the studio made of them.
func (o *OwnRules) Pack() *contraindication.Pack {
	return o.Standard().WithPolicies(o.Policies).WithWaitingPeriods(o.Amendments).WithRules(o.Rules)
}

// CheckReason refuses to keep a loosening without a written reason.
func (c *RuleChange) CheckReason(keep bool) error {
	if keep && c.Loosens && len([]rune(c.Reason)) < contraindication.ReasonLength {
		return FaultAt("/reason", words.ThisLessStrictThanBeforeGiveReason())
	}
	return nil
}
