package contraindication

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"softpalm/internal/problem"
	"softpalm/words"
)

// Amendment is a studio's own number of days for the outcomes of a rule that end
// after the days the pack gives. A rule has one amendment at most.
type Amendment struct {
	Rule string `json:"rule"`
	// Was are the days it takes the place of, Days those that count.
	Was  int `json:"was" minimum:"1" maximum:"3650"`
	Days int `json:"days" minimum:"1" maximum:"3650"`
	// Reason is needed where Days are fewer than Was.
	Reason string    `json:"reason"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
}

// Loosens reports whether the amendment asks for less than the pack.
func (a *Amendment) Loosens() bool { return a.Days < a.Was }

// ReasonLength is the least a written reason says, in characters.
const ReasonLength = 10

// maxDays is the longest wait a studio can set.
const maxDays = 3650

// LongestDays returns the longest days of a rule's outcomes, the number that a
// studio may change; 0 where the rule has none.
func (r *Rule) LongestDays() int {
	most := 0
	for _, o := range r.Outcomes {
		most = max(most, o.Days)
	}
	return most
}

// CheckAmendment reports what is wrong with an amendment to the pack as shipped.
func (p *Pack) CheckAmendment(a Amendment) []problem.Fault {
	i := slices.IndexFunc(p.Rules, func(r Rule) bool { return r.ID == a.Rule })
	switch {
	case i < 0 || p.Rules[i].LongestDays() == 0:
		return []problem.Fault{{Path: "/rule", Sentence: words.ThisRuleHasNoWaitingPeriodChange()}}
	case a.Days < 1 || a.Days > maxDays:
		return []problem.Fault{{Path: "/days", Sentence: words.EnterDaysAsNumberFrom13650()}}
	case a.Days < p.Rules[i].LongestDays() && len(strings.TrimSpace(a.Reason)) < ReasonLength:
		return []problem.Fault{{Path: "/reason", Sentence: words.ThisLessStrictThanStandardRuleGive()}}
	}
	return nil
}

// WithWaitingPeriods returns the pack with a studio's own days. Where a rule has outcomes of
// different days, the longest takes the amendment; shorter ones grow no longer
// than it and never beyond their own. The version names how many rules differ.
func (p *Pack) WithWaitingPeriods(list []Amendment) *Pack {
	if len(list) == 0 {
		return p
	}
	out := &Pack{
		Version: fmt.Sprintf("%s, %d of the studio's own", p.Version, len(list)),
		Lists:   p.Lists,
		Spoken:  p.Spoken,
		Rules:   slices.Clone(p.Rules),
	}
	for _, a := range list {
		for i := range out.Rules {
			r := &out.Rules[i]
			if r.ID != a.Rule {
				continue
			}
			longest := r.LongestDays()
			r.Outcomes = slices.Clone(r.Outcomes)
			for k := range r.Outcomes {
				if o := &r.Outcomes[k]; o.Days == longest {
					o.Days = a.Days
				} else if o.Days > 0 {
					o.Days = min(o.Days, a.Days)
				}
			}
		}
	}
	return out
}
