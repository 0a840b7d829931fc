package contraindication_test

import (
	"encoding/json"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
)

// Whatever the rule: unchanged it is no looser, with more days or a lower cap it
// is not, with fewer days, a higher cap or an outcome less it is.
func TestLooseningByRule(t *testing.T) {
	for _, r := range contraindication.Trade().Rules {
		same := r
		assert.False(t, contraindication.Loosens(&r, &same), r.ID)
		for i, o := range r.Outcomes {
			with := func(n contraindication.Outcome) *contraindication.Rule {
				q := r
				q.Outcomes = slices.Clone(r.Outcomes)
				q.Outcomes[i] = n
				return &q
			}
			if o.Days > 1 {
				longer, shorter := o, o
				longer.Days, shorter.Days = o.Days+1, o.Days-1
				assert.False(t, contraindication.Loosens(&r, with(longer)), "%s: longer", r.ID)
				assert.True(t, contraindication.Loosens(&r, with(shorter)), "%s: shorter", r.ID)
			}
			if o.Kind == contraindication.Cap {
				higher, lower := o, o
				higher.Pressure, lower.Pressure = o.Pressure+1, o.Pressure-1
				assert.True(t, contraindication.Loosens(&r, with(higher)), "%s: a higher cap", r.ID)
				assert.False(t, contraindication.Loosens(&r, with(lower)), "%s: a lower cap", r.ID)
			}
			if o.Kind == contraindication.Letter || o.Kind == contraindication.Stop {
				assert.True(t, contraindication.Loosens(&r, with(contraindication.Outcome{Kind: contraindication.Precaution, Instruction: "careful"})), "%s: only kept in mind", r.ID)
			}
		}
	}
}

// A rule with one thing wrong is told by place; what names nothing that exists
// would silently leave nothing out, so it is a fault as well.
func TestEveryFaultOfARule(t *testing.T) {
	good := func() contraindication.Rule {
		return contraindication.Rule{ID: "own/x", Title: "X", Group: "Health", Stage: contraindication.Both, Question: "X?", AnswerType: contraindication.DateAndZones, Why: "w", Basis: "b",
			Outcomes: []contraindication.Outcome{{Kind: contraindication.Exclude, Days: 7, FromAnswer: true, Families: []string{"friction"}, Intents: []string{"drain"}, Tools: []string{"electrical"}, Forms: []string{"oil"}, Tags: []string{"our own group"}}}}
	}
	whole := good()
	require.Empty(t, contraindication.CheckOwn(&whole))
	asking := func(asks contraindication.AnswerType, o contraindication.Outcome) func(*contraindication.Rule) {
		return func(r *contraindication.Rule) {
			r.AnswerType, r.Outcomes = asks, []contraindication.Outcome{o}
			if asks == contraindication.Graded {
				r.Spots = []string{"cheeks"}
			}
			if asks == contraindication.Choice {
				r.Options = []string{"more"}
			}
			if asks == contraindication.Nothing {
				r.Question = ""
			}
		}
	}
	for _, c := range []struct {
		path  string
		spoil func(r *contraindication.Rule)
	}{
		{"/id", func(r *contraindication.Rule) { r.ID = "" }},
		{"/id", func(r *contraindication.Rule) { r.ID = "fever" }},
		{"", func(r *contraindication.Rule) { r.Title = "" }},
		{"", func(r *contraindication.Rule) { r.Question = "" }},
		{"", func(r *contraindication.Rule) { r.Why = "" }},
		{"", func(r *contraindication.Rule) { r.Basis = "" }},
		{"", func(r *contraindication.Rule) { r.Spots = []string{"cheeks"} }},
		{"", func(r *contraindication.Rule) { r.Options = []string{"more"} }},
		{"/asks", func(r *contraindication.Rule) { r.AnswerType, r.Outcomes[0].FromAnswer = "how much", false }},
		{"/stage", func(r *contraindication.Rule) { r.Stage = "afterwards" }},
		{"/mayLast", func(r *contraindication.Rule) { r.AnswerType, r.AllowOngoing = contraindication.Zones, true }},
		{"/outcomes", func(r *contraindication.Rule) { r.Outcomes = nil }},
		{"/outcomes/0/kind", func(r *contraindication.Rule) { r.Outcomes[0].Kind = "worry" }},
		{"/outcomes/0/zones/0", func(r *contraindication.Rule) { r.Outcomes[0].Zones = []string{"moon"} }},
		{"/outcomes/0/families/0", func(r *contraindication.Rule) { r.Outcomes[0].Families[0] = "frikton" }},
		{"/outcomes/0/intents/0", func(r *contraindication.Rule) { r.Outcomes[0].Intents[0] = "drains" }},
		{"/outcomes/0/tools/0", func(r *contraindication.Rule) { r.Outcomes[0].Tools[0] = "stones" }},
		{"/outcomes/0/forms/0", func(r *contraindication.Rule) { r.Outcomes[0].Forms[0] = "oils" }},
		{"/outcomes/0/pressure", func(r *contraindication.Rule) {
			r.Outcomes[0] = contraindication.Outcome{Kind: contraindication.Cap, Pressure: 6}
		}},
		{"/outcomes/0/days", asking(contraindication.Date, contraindication.Outcome{Kind: contraindication.Wait})},
		{"/outcomes/0/kind", asking(contraindication.DueDate, contraindication.Outcome{Kind: contraindication.Wait, Days: 3})},
		{"/outcomes/0", asking(contraindication.Nothing, contraindication.Outcome{Kind: contraindication.Stop})},
		{"/outcomes/0", asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.Stop, FromWeek: 20})},
		{"/outcomes/0", asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.Stop, FromGrade: 2})},
		{"/outcomes/0", asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.Stop, Option: "more"})},
		{"/outcomes/0", asking(contraindication.Choice, contraindication.Outcome{Kind: contraindication.Lighter, Option: "less"})},
		{"/outcomes/0", asking(contraindication.Choice, contraindication.Outcome{Kind: contraindication.Lighter})},
		{"/outcomes/0/fromAnswer", asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.Cap, FromAnswer: true})},
		{"/outcomes/0/zones", asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.LeaveOut})},
		{"/outcomes/0", asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.Exclude})},
		{"/policy", func(r *contraindication.Rule) { r.Policy = &contraindication.Policy{Label: "never"} }},
		{"/policy/outcomes/0/kind", func(r *contraindication.Rule) {
			r.Policy = &contraindication.Policy{Label: "never", Outcomes: []contraindication.Outcome{{Kind: "worry"}}}
		}},
	} {
		r := good()
		c.spoil(&r)
		ps := contraindication.CheckOwn(&r)
		if assert.NotEmpty(t, ps, c.path) {
			assert.Equal(t, c.path, ps[0].Path, "%+v", ps)
		}
	}
	for _, ok := range []func(*contraindication.Rule){
		asking(contraindication.Nothing, contraindication.Outcome{Kind: contraindication.Stop, UnderAge: 12}),
		asking(contraindication.DueDate, contraindication.Outcome{Kind: contraindication.Letter, BeforeWeek: 14}),
		asking(contraindication.Graded, contraindication.Outcome{Kind: contraindication.Wait, Days: 1, FromGrade: 3}),
		asking(contraindication.Choice, contraindication.Outcome{Kind: contraindication.Firmer, Option: "more"}),
		asking(contraindication.YesNo, contraindication.Outcome{Kind: contraindication.Precaution, Instruction: "Ask."}),
	} {
		r := good()
		ok(&r)
		assert.Empty(t, contraindication.CheckOwn(&r), "%+v", r)
	}
	twice := contraindication.Pack{Rules: []contraindication.Rule{good(), good()}}
	require.Len(t, twice.Validate(), 1)
	assert.Equal(t, "/rules/1/id", twice.Validate()[0].Path)
	for name, text := range map[string]string{"not JSON": "rules: []", "an unknown field": `{"version":"1","colour":"red","rules":[]}`, "a rule that does nothing": `{"version":"1","rules":[{"id":"a"}]}`} {
		_, err := contraindication.ReadPack([]byte(text))
		assert.Error(t, err, name)
	}
}

// What one check asks is never less with another rule beside it, and a rule of
// the studio's own never takes anything of the shipped pack away.
func TestOwnRulesOnlyAdd(t *testing.T) {
	pack := contraindication.Trade()
	order := []contraindication.Headline{contraindication.OKToTreat, contraindication.OKWithAdjustments, contraindication.NeedsLetter, contraindication.NotBefore, contraindication.DoNotTreat, contraindication.UrgentHelp}
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom([]contraindication.Kind{contraindication.Stop, contraindication.Wait, contraindication.Letter, contraindication.Cap, contraindication.Precaution}).Draw(t, "kind")
		own := contraindication.Rule{ID: "own/x", Title: "X", Group: "Health", Stage: contraindication.PreTreatment, Question: "X?", AnswerType: contraindication.Date, Why: "w", Basis: "b",
			Outcomes: []contraindication.Outcome{{Kind: kind, Days: rapid.IntRange(1, 90).Draw(t, "days"), Pressure: 1, Instruction: "d"}}}
		if ps := contraindication.CheckOwn(&own); len(ps) > 0 {
			t.Fatalf("%+v", ps)
		}
		answers := map[string]contraindication.Answer{"own/x": crafttest.Yes(crafttest.Today.Plus(-rapid.IntRange(0, 100).Draw(t, "ago")))}
		for range rapid.IntRange(0, 6).Draw(t, "answers") {
			r := rapid.SampledFrom(pack.Rules).Draw(t, "rule")
			answers[r.ID] = crafttest.Yes(crafttest.Today.Plus(-rapid.IntRange(0, 60).Draw(t, "day")), contraindication.ZoneSide{Zone: "chin"})
		}
		without := pack.Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today)
		with := pack.WithRules([]contraindication.Rule{own}).Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today)
		if slices.Index(order, with.Headline) < slices.Index(order, without.Headline) || with.NotBefore < without.NotBefore || len(with.Outcomes) < len(without.Outcomes) {
			t.Fatalf("with the rule %+v, without %+v", with, without)
		}
	})
}

// Reading a rule pack takes anything without falling over; what it accepts can be
// judged, asked and written again.
func FuzzReadPack(f *testing.F) {
	shipped, err := os.ReadFile("trade-pack.json")
	require.NoError(f, err)
	f.Add(shipped)
	f.Add([]byte(`{"version":"1","rules":[]}`))
	f.Add([]byte(`{"version":"1","rules":[{"id":"a","title":"A","group":"G","stage":"both","question":"?","asks":"grades","spots":["left-eye"],"outcomes":[{"kind":"cap","fromGrade":2}],"why":"w","basis":"b"}]}`))
	f.Add([]byte(`{"rules":[{"id":"a","asks":"date","outcomes":[{"kind":"wait","days":-1}]}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := contraindication.ReadPack(data)
		if err != nil {
			return
		}
		answers := map[string]contraindication.Answer{}
		for _, r := range p.Rules {
			answers[r.ID] = crafttest.Yes(crafttest.Today.Plus(-3), contraindication.ZoneSide{Zone: "chin"})
		}
		res := p.Evaluate(answers, contraindication.ClientProfile{Born: "1990-01-01"}, crafttest.Today)
		contraindication.Merge(res.Outcomes)
		p.Check(answers, crafttest.Today, contraindication.PreTreatment, contraindication.Consultation)
		p.AnswersInForce(answers, nil, false, crafttest.Today)
		out, err := json.Marshal(p)
		require.NoError(t, err)
		_, err = contraindication.ReadPack(out)
		require.NoError(t, err)
	})
}
