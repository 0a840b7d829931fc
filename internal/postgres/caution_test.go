package postgres_test

import (
	"context"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// said is a random answer to a rule: a yes with what it asks for.
func said(r *rand.Rand, rule *contraindication.Rule, today calendar.Day) contraindication.Answer {
	a := contraindication.Answer{Yes: true}
	switch rule.AnswerType {
	case contraindication.Graded:
		a.Yes, a.Grades = false, map[string]int{}
		for _, s := range rule.Spots {
			a.Grades[s] = r.IntN(contraindication.MostGrade + 1)
		}
	case contraindication.Choice:
		a.Yes, a.Option = false, rule.Options[r.IntN(len(rule.Options))]
	case contraindication.DueDate:
		a.Day = today.Plus(20 + r.IntN(240))
	case contraindication.Date, contraindication.DateAndZones:
		a.Day = today.Plus(-r.IntN(120))
	}
	if rule.AnswerType == contraindication.Zones || rule.AnswerType == contraindication.DateAndZones {
		for range 1 + r.IntN(3) {
			z := anatomy.Zones[r.IntN(len(anatomy.Zones))]
			side := "both"
			if z.Paired {
				side = []string{"left", "right", "both"}[r.IntN(3)]
			}
			a.Zones = append(a.Zones, contraindication.ZoneSide{Zone: z.Key, Side: side})
		}
	}
	return a
}

// No client is treated against a caution that somebody wrote down: whatever is
// answered, a treatment only begins where the result allows one, and its plan, the
// very one that was looked at, works no place that is left out, presses nowhere harder than is allowed,
// uses no stroke, tool or product that is excluded, and breaks no limit that the
// published plan kept. The draws are the same in every run.
func TestNobodyIsTreatedAgainstACaution(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	r := rand.New(rand.NewPCG(2026, 11))
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	began, refused, changed := 0, 0, 0
	rules := contraindication.Trade().Rules
	for n := range 150 {
		v := day.Visits[n%len(day.Visits)]
		w.now = w.now.Add(time.Minute)
		answers := map[string]contraindication.Answer{}
		for range 1 + r.IntN(6) {
			rule := &rules[r.IntN(len(rules))]
			grave := slices.ContainsFunc(rule.Outcomes, func(o contraindication.Outcome) bool {
				return o.Kind == contraindication.Urgent || o.Kind == contraindication.Stop || o.Kind == contraindication.Letter || o.Kind == contraindication.Wait
			})
			if rule.AnswerType != contraindication.Nothing && (n%4 == 0 || !grave) { // three of four may be treated
				answers[rule.ID] = said(r, rule, calendar.Day(day.Date))
			}
		}
		all := noTo(w, contraindication.Consultation, contraindication.PreTreatment)
		maps.Copy(all, answers)
		sc, err := w.svc.Checks.SavePreCheck(ctx, &w.owner, v.Client, &v.ID, all, nil, nil)
		require.NoError(t, err, "%+v", answers)
		want := studio.PlanOptions{Practitioner: adjusting.PractitionerState{LongNails: r.IntN(4) == 0}}
		plan, err := w.svc.Checks.PlanFor(ctx, &w.owner, v.ID, want)
		require.NoError(t, err)
		yes := treatment.AcceptedAdjustments{Gentler: true}
		for _, c := range plan.Adjustments {
			yes.Adjustments = append(yes.Adjustments, c.ID)
		}
		if len(plan.Adjustments) > 0 {
			changed++
		}
		if !sc.Result.Headline.Treatable() || plan.Refused {
			require.Error(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, want, yes), "%+v", answers)
			refused++
			continue
		}
		checkPlan(t, w, plan, answers)
		if r.IntN(20) > 0 || len(day.Visits) < 3 {
			continue // the visit is looked at again with other answers
		}
		_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
		require.NoError(t, err)
		require.NoError(t, w.svc.Treatment.StartTreatment(ctx, &w.owner, v.ID, want, yes), "%+v", answers)
		room, err := w.svc.Treatment.Room(ctx, &w.owner, v.ID)
		require.NoError(t, err)
		assert.Equal(t, plan.Protocol.Steps, room.Treatment.Protocol.Steps, "what was seen is what is worked")
		day.Visits = slices.DeleteFunc(day.Visits, func(x studio.VisitLine) bool { return x.ID == v.ID })
		began++
	}
	assert.GreaterOrEqual(t, began, 4, "treatments that began")
	assert.GreaterOrEqual(t, refused, 15, "plans that may not be given")
	assert.GreaterOrEqual(t, changed, 60, "plans that were changed")
}

// checkPlan holds a adjusted plan against everything that was said.
func checkPlan(t *testing.T, w *world, plan *studio.Plan, answers map[string]contraindication.Answer) {
	t.Helper()
	lib, err := w.svc.Protocols.Library(context.Background(), &w.owner)
	require.NoError(t, err)
	products := map[string]*slip.Product{}
	for i := range lib.Products {
		products[lib.Products[i].Key] = &lib.Products[i].Product
	}
	tools := map[string]string{}
	for _, x := range lib.Tools {
		tools[x.Key] = x.Kind
	}
	out := map[anatomy.ZoneSide]string{}
	for _, p := range contraindication.Merge(plan.Outcomes).Excluded() {
		out[p] = p.Zone.Zone().Key
	}
	merged := contraindication.Merge(plan.Outcomes)
	for i := range plan.Evaluation.Steps {
		step := &plan.Evaluation.Steps[i]
		works := []string{}
		for _, pt := range step.Path {
			works = append(works, pt.Zone)
		}
		for zone := range step.Besides {
			works = append(works, zone)
		}
		for _, zone := range works {
			id, ok := anatomy.Lookup(zone)
			require.True(t, ok)
			for _, side := range []anatomy.Side{anatomy.Mid, anatomy.Left, anatomy.Right} {
				if side == anatomy.Left && step.Sides == "right" || side == anatomy.Right && step.Sides == "left" {
					continue
				}
				assert.Empty(t, out[anatomy.ZoneSide{Zone: id, Side: side}], "%s works %s on the %s; %+v", step.Name, zone, side, answers)
			}
		}
		for _, o := range plan.Outcomes {
			here := func(zone string) bool {
				return len(o.Places) == 0 || slices.ContainsFunc(o.Places, func(p contraindication.ZoneSide) bool { return p.Zone == zone })
			}
			switch o.Kind {
			case contraindication.Cap:
				for _, pt := range step.Path {
					if here(pt.Zone) {
						assert.LessOrEqual(t, pt.Pressure, o.Outcome.Pressure, "%s on %s, for %s", step.Name, pt.Zone, o.Rule)
					}
				}
			case contraindication.Exclude:
				if len(o.Places) == 0 {
					assert.NotContains(t, o.Outcome.Families, string(step.Family), "%s, for %s", step.Name, o.Rule)
					assert.NotContains(t, o.Outcome.Intents, string(step.Intent), "%s, for %s", step.Name, o.Rule)
					if step.Tool != nil {
						assert.NotContains(t, o.Outcome.Tools, tools[step.Tool.Key], "%s, for %s", step.Name, o.Rule)
					}
				}
			}
		}
		if u := plan.Protocol.Steps[i].Use; u != nil {
			assert.Empty(t, merged.ProductRule(products[u.Product]), "%s on %s", u.Product, step.Name)
		}
	}
	was := map[evaluation.Code]bool{}
	for _, f := range plan.AsPublished.Findings {
		was[f.Code] = true
	}
	for _, f := range plan.Evaluation.Findings {
		assert.False(t, f.Severity == evaluation.Stopping && !was[f.Code], "%s; %+v", f.ID, answers)
	}
}
