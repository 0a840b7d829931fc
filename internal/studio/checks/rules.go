package checks

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ruleStore keeps the studio's own rules.
type ruleStore interface {
	judgeStore
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) // by start
	// LockStudio returns the studio and holds it until the transaction ends.
	LockStudio(ctx context.Context) (*studio.Studio, error)
	SaveOwnRules(ctx context.Context, own studio.OwnRules) error
}

// RulesView is the rules with what the studio made of them.
type RulesView struct {
	Pack *contraindication.Pack `json:"pack"`
	// Trade are the days of each rule in the shipped pack, by rule, where it has any.
	Trade map[string]int  `json:"trade"`
	Own   studio.OwnRules `json:"own"`
	// Revision counts the changes of the studio's rules; a change is made to one.
	Revision int `json:"revision"`
}

// RuleSave is how a change of the rules is asked for.
type RuleSave struct {
	Reason string `json:"reason" maxLength:"1000"`
	// Save false only lists the coming visits that the change would affect.
	Save bool `json:"save"`
	// Revision is that of the rules as they were on the screen.
	Revision int `json:"revision" minimum:"0"`
}

// RuleNow is a rule as somebody else saved it meanwhile.
type RuleNow struct {
	By string `json:"by"`
	// Rule is nil where it was deleted. Days are those at this studio, On whether a policy is.
	Rule *contraindication.Rule `json:"rule,omitempty"`
	Days int                    `json:"days"`
	On   bool                   `json:"on"`
}

// changedSince returns a rule as it is now where somebody changed it after a revision.
func changedSince(own *studio.OwnRules, rule string, revision int) error {
	for i := len(own.Log) - 1; i >= min(revision, len(own.Log)); i-- {
		if own.Log[i].Rule != rule {
			continue
		}
		now := &RuleNow{By: own.Log[i].By, Days: own.Log[i].Days, On: slices.Contains(own.Policies, rule)}
		for _, r := range own.Pack().Rules {
			if r.ID == rule {
				now.Rule = &r
			}
		}
		return &studio.ChangedError{Other: now}
	}
	return nil
}

// Rules returns the rules in force.
func (s *Service) Rules(ctx context.Context, a *studio.Actor) (*RulesView, error) {
	v := &RulesView{Trade: map[string]int{}}
	err := studio.In(ctx, s.Kernel, a, func(_ ruleStore, st *studio.Studio) error {
		v.Pack, v.Own, v.Revision = st.Pack(), st.Own, len(st.Own.Log)
		if v.Own.Policies == nil {
			v.Own.Policies = []string{}
		}
		for _, r := range st.Own.Standard().Rules {
			if n := r.LongestDays(); n > 0 {
				v.Trade[r.ID] = n
			}
		}
		return nil
	})
	return v, err
}

// AffectedVisit is a visit to come whose outlook a change of the rules changes.
type AffectedVisit struct {
	Visit  studio.VisitLine          `json:"visit"`
	Was    contraindication.Headline `json:"was" enum:"go,go-with-changes,needs-letter,not-before,not-here,urgent"`
	Now    contraindication.Headline `json:"now" enum:"go,go-with-changes,needs-letter,not-before,not-here,urgent"`
	Before string                    `json:"notBefore,omitempty"`
}

// horizon is how far ahead bookings are judged for a change of the rules;
// horizonBack reaches those of today that have not begun.
const (
	horizon     = 366 * 24 * time.Hour
	horizonBack = 24 * time.Hour
)

// AmendRule sets the studio's own days for a rule, or with the pack's own number
// takes them back; [RuleSave].Save false only lists the coming visits it would affect.
// For the owner; what is shorter than the pack needs a written reason.
func (s *Service) AmendRule(
	ctx context.Context,
	a *studio.Actor,
	rule string,
	days int,
	how RuleSave,
) ([]AffectedVisit, error) {
	return s.changeRules(ctx, a, "amend-rule", rule, how, func(own *studio.OwnRules) (*studio.RuleChange, error) {
		trade := own.Standard()
		am := contraindication.Amendment{Rule: rule, Days: days, Reason: strings.TrimSpace(how.Reason), At: s.Now(), By: a.Name}
		for _, r := range trade.Rules {
			if r.ID == rule {
				am.Was = r.LongestDays()
			}
		}
		if ps := trade.CheckAmendment(am); how.Save && len(ps) > 0 {
			return nil, &studio.InputError{Problems: ps}
		}
		own.Amendments = slices.DeleteFunc(
			slices.Clone(own.Amendments),
			func(o contraindication.Amendment) bool { return o.Rule == rule },
		)
		if days != am.Was {
			own.Amendments = append(own.Amendments, am)
		}
		return &studio.RuleChange{Amendment: am, Loosens: am.Loosens()}, nil
	})
}

// SaveRule adds a rule of the studio's own (with an empty id) or changes one; [RuleSave].Save
// false only lists the coming visits it would affect. For the owner; what asks
// for less than before needs a written reason.
func (s *Service) SaveRule(
	ctx context.Context,
	a *studio.Actor,
	rule contraindication.Rule,
	how RuleSave,
) ([]AffectedVisit, error) {
	return s.changeRules(ctx, a, "save-rule", rule.ID, how, func(own *studio.OwnRules) (*studio.RuleChange, error) {
		ch := &studio.RuleChange{
			Amendment: contraindication.Amendment{Reason: strings.TrimSpace(how.Reason), At: s.Now(), By: a.Name},
			Action:    "added",
			Title:     rule.Title,
		}
		own.Rules = slices.Clone(own.Rules)
		at := slices.IndexFunc(own.Rules, func(r contraindication.Rule) bool { return r.ID == rule.ID })
		switch {
		case rule.ID == "":
			rule.ID = contraindication.OwnPrefix + studio.FreeKey(rule.Title, "rule", func(k string) bool {
				return slices.ContainsFunc(
					own.Rules,
					func(r contraindication.Rule) bool { return r.ID == contraindication.OwnPrefix+k },
				)
			})
		case at < 0:
			return nil, studio.ErrNotFound
		}
		ch.Rule = rule.ID
		if ps := contraindication.CheckOwn(&rule); len(ps) > 0 {
			return nil, &studio.InputError{Problems: ps}
		}
		if at < 0 {
			own.Rules = append(own.Rules, rule)
			return ch, nil
		}
		ch.Action, ch.Loosens = "changed", contraindication.Loosens(&own.Rules[at], &rule)
		own.Rules[at] = rule
		return ch, ch.CheckReason(how.Save)
	})
}

// RetireRule takes a rule of the studio's own away; always with a written reason.
func (s *Service) RetireRule(ctx context.Context, a *studio.Actor, id string, how RuleSave) ([]AffectedVisit, error) {
	return s.changeRules(ctx, a, "retire-rule", id, how, func(own *studio.OwnRules) (*studio.RuleChange, error) {
		at := slices.IndexFunc(own.Rules, func(r contraindication.Rule) bool { return r.ID == id })
		if at < 0 {
			return nil, studio.ErrNotFound
		}
		ch := &studio.RuleChange{
			Amendment: contraindication.Amendment{Rule: id, Reason: strings.TrimSpace(how.Reason), At: s.Now(), By: a.Name},
			Action:    "retired",
			Title:     own.Rules[at].Title,
			Loosens:   true,
		}
		own.Rules = slices.Delete(slices.Clone(own.Rules), at, at+1)
		return ch, ch.CheckReason(how.Save)
	})
}

// DecidePolicy decides on a policy, or takes the decision back; [RuleSave].Save false only
// lists the coming visits it would affect. Allowing more needs a reason.
func (s *Service) DecidePolicy(
	ctx context.Context,
	a *studio.Actor,
	id string,
	on bool,
	how RuleSave,
) ([]AffectedVisit, error) {
	return s.changeRules(ctx, a, "decide-policy", id, how, func(own *studio.OwnRules) (*studio.RuleChange, error) {
		ch := &studio.RuleChange{
			Amendment: contraindication.Amendment{Rule: id, Reason: strings.TrimSpace(how.Reason), At: s.Now(), By: a.Name},
			Action:    "decided",
			Loosens:   on,
		}
		if id == contraindication.NoMouth {
			ch.Title, ch.Loosens = "No work inside the mouth", !on
		} else {
			i := slices.IndexFunc(
				own.Standard().Rules,
				func(r contraindication.Rule) bool { return r.ID == id && r.Policy != nil },
			)
			if i < 0 {
				return nil, studio.ErrNotFound
			}
			ch.Title = own.Standard().Rules[i].Policy.Label
		}
		own.Policies = slices.DeleteFunc(slices.Clone(own.Policies), func(k string) bool { return k == id })
		if on {
			own.Policies = append(own.Policies, id)
		} else {
			ch.Action = "undone"
		}
		return ch, ch.CheckReason(how.Save)
	})
}

// RulesImport is what rules from a file change.
type RulesImport struct {
	Changes  []contraindication.PackChange `json:"changes"`
	Affected []AffectedVisit               `json:"affected"`
}

// importedRules is the subject of an import in the log of rules.
const importedRules = "standard rules"

// ImportRules puts standard rules from a file in the place of those before; a nil pack takes
// the shipped ones again. The studio's own days, rules and policies stay. For the owner; what
// asks for less needs a written reason. [RuleSave].Save false only tells what would change and
// which booked clients it touches.
func (s *Service) ImportRules(ctx context.Context, a *studio.Actor, pack *contraindication.Pack, how RuleSave) (*RulesImport, error) {
	if pack != nil {
		if ps := pack.Validate(); len(ps) > 0 {
			return nil, &studio.InputError{Problems: ps}
		}
		if len(pack.Rules) == 0 || strings.TrimSpace(pack.Version) == "" {
			return nil, studio.FaultAt("/rules", words.ThisFileHoldsNoRules())
		}
	}
	out := &RulesImport{}
	var err error
	out.Affected, err = s.changeRules(ctx, a, "import-rules", importedRules, how, func(own *studio.OwnRules) (*studio.RuleChange, error) {
		before := own.Standard()
		own.Base = pack
		out.Changes = before.Changes(own.Standard())
		ch := &studio.RuleChange{
			Amendment: contraindication.Amendment{Rule: importedRules, Reason: strings.TrimSpace(how.Reason), At: s.Now(), By: a.Name},
			Action:    "imported",
			Title:     own.Standard().Version,
			Loosens:   slices.ContainsFunc(out.Changes, func(c contraindication.PackChange) bool { return c.Loosens }),
		}
		return ch, ch.CheckReason(how.Save)
	})
	return out, err
}

// changeRules makes a change to the studio's rules, lists the coming visits it
// touches, and where it is kept logs it and judges today's pre-treatment checks again.
func (s *Service) changeRules(
	ctx context.Context,
	a *studio.Actor,
	operation, rule string,
	how RuleSave,
	change func(*studio.OwnRules) (*studio.RuleChange, error),
) ([]AffectedVisit, error) {
	if err := a.May(operation); err != nil {
		return nil, err
	}
	out := []AffectedVisit{}
	err := studio.In(ctx, s.Kernel, a, func(tx ruleStore, st *studio.Studio) error {
		if how.Save { // of two changes at once, the second is made to what the first left
			var err error
			if st, err = tx.LockStudio(ctx); err != nil {
				return err
			}
			if err := changedSince(&st.Own, rule, how.Revision); err != nil {
				return err
			}
		}
		own := st.Own
		ch, err := change(&own)
		if err != nil {
			return err
		}
		own.Log = append(slices.Clone(own.Log), *ch)
		var again []uuid.UUID
		if out, again, err = s.affected(ctx, tx, st, own.Pack()); err != nil || !how.Save {
			return err
		}
		if err := tx.SaveOwnRules(ctx, own); err != nil {
			return err
		}
		st.Own = own
		for _, client := range again {
			if err := s.JudgeAgain(ctx, tx, st, a, client); err != nil {
				return err
			}
		}
		action := map[string]string{"": "lengthen", "added": "add"}[ch.Action]
		if action == "" {
			action = "change"
		}
		if ch.Loosens {
			action = "loosen"
		}
		return s.Audit(ctx, tx, a, action, "rule", st.ID)
	})
	return out, err
}

// affected lists the coming visits that are judged otherwise by other rules, and the clients
// who were checked today and are still to be treated.
func (s *Service) affected(
	ctx context.Context,
	tx ruleStore,
	st *studio.Studio,
	now *contraindication.Pack,
) (out []AffectedVisit, again []uuid.UUID, err error) {
	visits, err := tx.Visits(ctx, s.Now().Add(-horizonBack), s.Now().Add(horizon))
	if err != nil {
		return nil, nil, err
	}
	var clients []uuid.UUID
	for _, v := range visits {
		if !slices.Contains(clients, v.Client) {
			clients = append(clients, v.Client)
		}
	}
	known, err := s.loadClientSnapshots(ctx, tx, st, clients)
	if err != nil {
		return nil, nil, err
	}
	out = []AffectedVisit{}
	was := st.Pack()
	for _, v := range visits {
		if v.State != studio.Booked && v.State != studio.Confirmed && v.State != studio.Arrived ||
			v.Kind != studio.ForTreatment {
			continue
		}
		t := known[v.Client]
		day := v.StartsAt.In(st.Zone()).Format(time.DateOnly)
		if day < s.Today(st) {
			continue
		}
		if t.newestCheck != nil && t.newestCheck.Day == s.Today(st) && !slices.Contains(again, v.Client) {
			again = append(again, v.Client)
		}
		before, after := t.judgeDay(was, day), t.judgeDay(now, day)
		if before.Headline != after.Headline || before.NotBefore != after.NotBefore {
			out = append(out, AffectedVisit{Visit: v, Was: before.Headline, Now: after.Headline, Before: string(after.NotBefore)})
		}
	}
	return out, again, nil
}
