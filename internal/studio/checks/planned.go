package checks

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/words"
)

// plannedStore keeps procedures elsewhere that are planned.
type plannedStore interface {
	studio.Tx
	Client(ctx context.Context, id uuid.UUID) (*studio.Client, error)
	// Planned lists a client's planned procedures, by day.
	Planned(ctx context.Context, client uuid.UUID) ([]studio.PlannedProcedure, error)
	AddPlanned(ctx context.Context, p *studio.PlannedProcedure) error
	RemovePlanned(ctx context.Context, client, id uuid.UUID) error
	Letters(ctx context.Context, client uuid.UUID) ([]studio.Letter, error)
}

// PlannedView is what is planned, and what can be.
type PlannedView struct {
	Planned []PlannedLine `json:"planned"`
	// Rules are procedures with a waiting period, by title.
	Rules []WaitingRule `json:"rules"`
}

// PlannedLine is a planned procedure with the days that it blocks, both included.
type PlannedLine struct {
	studio.PlannedProcedure
	Title string `json:"title"`
	To    string `json:"to"`
	// Free is the first day after them.
	Free string `json:"free"`
}

// WaitingRule is a procedure after which nobody is treated for some days.
type WaitingRule struct {
	Rule  string `json:"rule"`
	Title string `json:"title"`
	Days  int    `json:"days"`
}

// elsewhere is the group of rules about what others do to a client: that can be planned.
const elsewhere = "Treatments elsewhere"

// waitingRules are the procedures of a pack that ask for a day and let days pass after it.
func waitingRules(pack *contraindication.Pack) (out []WaitingRule) {
	for i := range pack.Rules {
		r := &pack.Rules[i]
		if days := waitOf(r); days > 0 {
			out = append(out, WaitingRule{r.ID, r.Title, days})
		}
	}
	return out
}

// waitOf is the longest waiting period of a rule that asks for a day, 0 where it has none.
func waitOf(r *contraindication.Rule) (days int) {
	if r.Group != elsewhere || r.AnswerType != contraindication.Date && r.AnswerType != contraindication.DateAndZones {
		return 0
	}
	for _, o := range r.Outcomes {
		if o.Kind == contraindication.Wait {
			days = max(days, o.Days)
		}
	}
	return days
}

// Planned lists the procedures elsewhere that a client plans.
func (s *Service) Planned(ctx context.Context, a *studio.Actor, client uuid.UUID) (*PlannedView, error) {
	out := &PlannedView{Planned: []PlannedLine{}}
	err := studio.In(ctx, s.Kernel, a, func(tx plannedStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "list-planned", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		out.Rules = waitingRules(st.Pack())
		list, err := tx.Planned(ctx, client)
		if err != nil {
			return err
		}
		for _, p := range list {
			line := PlannedLine{PlannedProcedure: p, Title: p.Rule, To: p.Day}
			if r := ruleOf(out.Rules, p.Rule); r != nil {
				line.Title, line.To = r.Title, lastBlocked(p.Day, r.Days)
			}
			line.Free = string(calendar.Day(line.To).Plus(1))
			out.Planned = append(out.Planned, line)
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return out, err
}

func ruleOf(list []WaitingRule, id string) *WaitingRule {
	if i := slices.IndexFunc(list, func(r WaitingRule) bool { return r.Rule == id }); i >= 0 {
		return &list[i]
	}
	return nil
}

// lastBlocked is the last day that a procedure blocks: a wait of 14 from 20 October allows 3 November.
func lastBlocked(day string, days int) string {
	return string(calendar.Day(day).Plus(days - 1))
}

// AddPlanned notes a procedure that is planned; the same id twice notes it once.
func (s *Service) AddPlanned(ctx context.Context, a *studio.Actor, p studio.PlannedProcedure) error {
	return studio.In(ctx, s.Kernel, a, func(tx plannedStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "add-planned", p.Client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, p.Client); err != nil {
			return err
		}
		switch {
		case ruleOf(waitingRules(st.Pack()), p.Rule) == nil:
			return studio.FaultAt("/rule", words.ChooseAProcedure())
		case !calendar.Day(p.Day).Valid() || p.Day < s.Today(st):
			return studio.FaultAt("/day", words.EnterADayFromTodayOn())
		}
		list, err := tx.Planned(ctx, p.Client)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(list, func(o studio.PlannedProcedure) bool { return o.ID == p.ID }) {
			return nil
		}
		p.NotedBy, p.CreatedAt = a.Account, s.Now()
		if err := tx.AddPlanned(ctx, &p); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "client", p.Client)
	})
}

// RemovePlanned takes a planned procedure back.
func (s *Service) RemovePlanned(ctx context.Context, a *studio.Actor, client, id uuid.UUID) error {
	return studio.In(ctx, s.Kernel, a, func(tx plannedStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "remove-planned", client); err != nil {
			return err
		}
		if err := tx.RemovePlanned(ctx, client, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "client", client)
	})
}

// Waits is when a client cannot be treated, besides the first day that screening allows: the days
// that planned procedures block, first and last, and the day on which a doctor's answer is expected,
// empty where none is open.
func (s *Service) Waits(ctx context.Context, within studio.Tx, st *studio.Studio, client uuid.UUID) (blocked [][]string, letter string, err error) {
	tx := studio.As[plannedStore](within)
	list, err := tx.Planned(ctx, client)
	if err != nil {
		return nil, "", err
	}
	rules := waitingRules(st.Pack())
	for _, p := range list {
		if r := ruleOf(rules, p.Rule); r != nil {
			blocked = append(blocked, []string{p.Day, lastBlocked(p.Day, r.Days)})
		}
	}
	letters, err := tx.Letters(ctx, client)
	if err != nil {
		return nil, "", err
	}
	for i := range letters {
		if l := &letters[i]; l.AnsweredAt == nil {
			letter = max(letter, l.Expected)
		}
	}
	return blocked, letter, nil
}

// letterWeeks is after how long an answer is expected, where nothing was said.
const letterWeeks = 2

// expectedDay reads on which day a doctor's answer is expected.
func (s *Service) expectedDay(st *studio.Studio, text string) (string, error) {
	if text == "" {
		return s.Now().In(st.Zone()).AddDate(0, 0, 7*letterWeeks).Format(time.DateOnly), nil
	}
	if !calendar.Day(text).Valid() || text < s.Today(st) {
		return "", studio.FaultAt("/expected", words.EnterADayFromTodayOn())
	}
	return text, nil
}
