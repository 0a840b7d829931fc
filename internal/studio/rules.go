package studio

import (
	"context"
	"slices"
	"strings"
	"time"

	"softpalm/internal/craft/screening"
)

// OwnRules are the studio's own days beside the shipped pack, and the log of
// every change ever made to them.
type OwnRules struct {
	Amendments []screening.Amendment `json:"amendments"`
	Log        []screening.Amendment `json:"log"`
}

// Pack returns the rules in force at the studio. It is shared: do not change it.
func (st *Studio) Pack() *screening.Pack { return screening.Trade().Amended(st.Own.Amendments) }

// RulesView is the rules with what the studio made of them.
type RulesView struct {
	Pack *screening.Pack `json:"pack"`
	// Trade are the days of each rule in the shipped pack, by rule, where it has any.
	Trade map[string]int `json:"trade"`
	Own   OwnRules       `json:"own"`
}

// Rules returns the rules in force.
func (s *Service) Rules(ctx context.Context, a *Actor) (*RulesView, error) {
	v := &RulesView{Trade: map[string]int{}}
	err := s.in(ctx, a, func(_ Tx, st *Studio) error {
		v.Pack, v.Own = st.Pack(), st.Own
		for _, r := range screening.Trade().Rules {
			if n := r.LongestDays(); n > 0 {
				v.Trade[r.ID] = n
			}
		}
		return nil
	})
	return v, err
}

// Touched is a visit to come whose outlook a change of the rules changes.
type Touched struct {
	Visit  VisitLine          `json:"visit"`
	Was    screening.Headline `json:"was" enum:"go,go-with-changes,needs-letter,not-before,not-here,urgent"`
	Now    screening.Headline `json:"now" enum:"go,go-with-changes,needs-letter,not-before,not-here,urgent"`
	Before string             `json:"notBefore,omitempty"`
}

// horizon is how far ahead bookings are judged for a change of the rules.
const horizon = 366 * 24 * time.Hour

// AmendRule sets the studio's own days for a rule, or with the pack's own number
// takes them back; keep false only tells which visits to come it would touch.
// For the owner; what is shorter than the pack needs a written reason.
func (s *Service) AmendRule(ctx context.Context, a *Actor, rule string, days int, reason string, keep bool) ([]Touched, error) {
	if err := a.may(Owner); err != nil {
		return nil, err
	}
	out := []Touched{}
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		am := screening.Amendment{Rule: rule, Days: days, Reason: strings.TrimSpace(reason), At: s.Now(), By: a.Name}
		trade := screening.Trade()
		if ps := trade.CheckAmendment(am); keep && len(ps) > 0 {
			return &InputError{ps}
		}
		for _, r := range trade.Rules {
			if r.ID == rule {
				am.Was = r.LongestDays()
			}
		}
		own := OwnRules{Amendments: slices.DeleteFunc(slices.Clone(st.Own.Amendments), func(o screening.Amendment) bool { return o.Rule == rule }), Log: append(slices.Clone(st.Own.Log), am)}
		if days != am.Was {
			own.Amendments = append(own.Amendments, am)
		}
		was, now := st.Pack(), trade.Amended(own.Amendments)
		visits, err := tx.Visits(ctx, s.Now(), s.Now().Add(horizon))
		if err != nil {
			return err
		}
		for _, v := range visits {
			if v.State != Booked && v.State != Confirmed {
				continue
			}
			t, err := s.told(ctx, tx, st, v.Client)
			if err != nil {
				return err
			}
			day := v.StartsAt.In(st.Zone()).Format(time.DateOnly)
			before, after := t.on(was, day), t.on(now, day)
			if before.Headline != after.Headline || before.NotBefore != after.NotBefore {
				out = append(out, Touched{v, before.Headline, after.Headline, string(after.NotBefore)})
			}
		}
		if !keep {
			return nil
		}
		if err := tx.SaveOwnRules(ctx, own); err != nil {
			return err
		}
		action := "lengthen"
		if am.Loosens() {
			action = "loosen"
		}
		return s.audit(ctx, tx, a, action, "rule", st.ID)
	})
	return out, err
}
