package screening_test

import (
	"encoding/json"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/screening"
)

// Whatever the rule: unchanged it is no looser, with more days or a lower cap it
// is not, with fewer days, a higher cap or an outcome less it is.
func TestLooseningByRule(t *testing.T) {
	for _, r := range screening.Trade().Rules {
		same := r
		assert.False(t, screening.Loosens(&r, &same), r.ID)
		for i, o := range r.Outcomes {
			with := func(n screening.Outcome) *screening.Rule {
				q := r
				q.Outcomes = slices.Clone(r.Outcomes)
				q.Outcomes[i] = n
				return &q
			}
			if o.Days > 1 {
				longer, shorter := o, o
				longer.Days, shorter.Days = o.Days+1, o.Days-1
				assert.False(t, screening.Loosens(&r, with(longer)), "%s: longer", r.ID)
				assert.True(t, screening.Loosens(&r, with(shorter)), "%s: shorter", r.ID)
			}
			if o.Kind == screening.Cap {
				higher, lower := o, o
				higher.Pressure, lower.Pressure = o.Pressure+1, o.Pressure-1
				assert.True(t, screening.Loosens(&r, with(higher)), "%s: a higher cap", r.ID)
				assert.False(t, screening.Loosens(&r, with(lower)), "%s: a lower cap", r.ID)
			}
			if o.Kind == screening.Letter || o.Kind == screening.Stop {
				assert.True(t, screening.Loosens(&r, with(screening.Outcome{Kind: screening.Mind, Does: "careful"})), "%s: only kept in mind", r.ID)
			}
		}
	}
}

// A rule with one thing wrong is told by place; what names nothing that exists
// would silently leave nothing out, so it is a fault as well.
func TestEveryFaultOfARule(t *testing.T) {
	good := func() screening.Rule {
		return screening.Rule{ID: "own/x", Title: "X", Group: "Health", Stage: screening.Both, Question: "X?", Asks: screening.DateAndZones, Why: "w", Basis: "b",
			Outcomes: []screening.Outcome{{Kind: screening.Exclude, Days: 7, FromAnswer: true, Families: []string{"friction"}, Intents: []string{"drain"}, Tools: []string{"electrical"}, Forms: []string{"oil"}, Tags: []string{"our own group"}}}}
	}
	whole := good()
	require.Empty(t, screening.CheckOwn(&whole))
	asking := func(asks screening.Asks, o screening.Outcome) func(*screening.Rule) {
		return func(r *screening.Rule) {
			r.Asks, r.Outcomes = asks, []screening.Outcome{o}
			if asks == screening.Graded {
				r.Spots = []string{"cheeks"}
			}
			if asks == screening.Choice {
				r.Options = []string{"more"}
			}
			if asks == screening.Nothing {
				r.Question = ""
			}
		}
	}
	for _, c := range []struct {
		path  string
		spoil func(r *screening.Rule)
	}{
		{"/id", func(r *screening.Rule) { r.ID = "" }},
		{"/id", func(r *screening.Rule) { r.ID = "fever" }},
		{"", func(r *screening.Rule) { r.Title = "" }},
		{"", func(r *screening.Rule) { r.Question = "" }},
		{"", func(r *screening.Rule) { r.Why = "" }},
		{"", func(r *screening.Rule) { r.Basis = "" }},
		{"", func(r *screening.Rule) { r.Spots = []string{"cheeks"} }},
		{"", func(r *screening.Rule) { r.Options = []string{"more"} }},
		{"/asks", func(r *screening.Rule) { r.Asks, r.Outcomes[0].FromAnswer = "how much", false }},
		{"/stage", func(r *screening.Rule) { r.Stage = "afterwards" }},
		{"/mayLast", func(r *screening.Rule) { r.Asks, r.MayLast = screening.Zones, true }},
		{"/outcomes", func(r *screening.Rule) { r.Outcomes = nil }},
		{"/outcomes/0/kind", func(r *screening.Rule) { r.Outcomes[0].Kind = "worry" }},
		{"/outcomes/0/zones/0", func(r *screening.Rule) { r.Outcomes[0].Zones = []string{"moon"} }},
		{"/outcomes/0/families/0", func(r *screening.Rule) { r.Outcomes[0].Families[0] = "frikton" }},
		{"/outcomes/0/intents/0", func(r *screening.Rule) { r.Outcomes[0].Intents[0] = "drains" }},
		{"/outcomes/0/tools/0", func(r *screening.Rule) { r.Outcomes[0].Tools[0] = "stones" }},
		{"/outcomes/0/forms/0", func(r *screening.Rule) { r.Outcomes[0].Forms[0] = "oils" }},
		{"/outcomes/0/pressure", func(r *screening.Rule) { r.Outcomes[0] = screening.Outcome{Kind: screening.Cap, Pressure: 6} }},
		{"/outcomes/0/days", asking(screening.Date, screening.Outcome{Kind: screening.Wait})},
		{"/outcomes/0/kind", asking(screening.DueDate, screening.Outcome{Kind: screening.Wait, Days: 3})},
		{"/outcomes/0", asking(screening.Nothing, screening.Outcome{Kind: screening.Stop})},
		{"/outcomes/0", asking(screening.YesNo, screening.Outcome{Kind: screening.Stop, FromWeek: 20})},
		{"/outcomes/0", asking(screening.YesNo, screening.Outcome{Kind: screening.Stop, FromGrade: 2})},
		{"/outcomes/0", asking(screening.YesNo, screening.Outcome{Kind: screening.Stop, Option: "more"})},
		{"/outcomes/0", asking(screening.Choice, screening.Outcome{Kind: screening.Lighter, Option: "less"})},
		{"/outcomes/0", asking(screening.Choice, screening.Outcome{Kind: screening.Lighter})},
		{"/outcomes/0/fromAnswer", asking(screening.YesNo, screening.Outcome{Kind: screening.Cap, FromAnswer: true})},
		{"/outcomes/0/zones", asking(screening.YesNo, screening.Outcome{Kind: screening.LeaveOut})},
		{"/outcomes/0", asking(screening.YesNo, screening.Outcome{Kind: screening.Exclude})},
		{"/policy", func(r *screening.Rule) { r.Policy = &screening.Policy{Says: "never"} }},
		{"/policy/outcomes/0/kind", func(r *screening.Rule) {
			r.Policy = &screening.Policy{Says: "never", Outcomes: []screening.Outcome{{Kind: "worry"}}}
		}},
	} {
		r := good()
		c.spoil(&r)
		ps := screening.CheckOwn(&r)
		if assert.NotEmpty(t, ps, c.path) {
			assert.Equal(t, c.path, ps[0].Path, "%+v", ps)
		}
	}
	for _, ok := range []func(*screening.Rule){
		asking(screening.Nothing, screening.Outcome{Kind: screening.Stop, UnderAge: 12}),
		asking(screening.DueDate, screening.Outcome{Kind: screening.Letter, BeforeWeek: 14}),
		asking(screening.Graded, screening.Outcome{Kind: screening.Wait, Days: 1, FromGrade: 3}),
		asking(screening.Choice, screening.Outcome{Kind: screening.Firmer, Option: "more"}),
		asking(screening.YesNo, screening.Outcome{Kind: screening.Mind, Does: "Ask."}),
	} {
		r := good()
		ok(&r)
		assert.Empty(t, screening.CheckOwn(&r), "%+v", r)
	}
	twice := screening.Pack{Rules: []screening.Rule{good(), good()}}
	require.Len(t, twice.Validate(), 1)
	assert.Equal(t, "/rules/1/id", twice.Validate()[0].Path)
	for name, text := range map[string]string{"not JSON": "rules: []", "an unknown field": `{"version":"1","colour":"red","rules":[]}`, "a rule that does nothing": `{"version":"1","rules":[{"id":"a"}]}`} {
		_, err := screening.ReadPack([]byte(text))
		assert.Error(t, err, name)
	}
}

// What one check asks is never less with another rule beside it, and a rule of
// the studio's own never takes anything of the shipped pack away.
func TestOwnRulesOnlyAdd(t *testing.T) {
	pack := screening.Trade()
	order := []screening.Headline{screening.Go, screening.GoChanged, screening.NeedsLetter, screening.NotBefore, screening.NotHere, screening.UrgentHelp}
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom([]screening.Kind{screening.Stop, screening.Wait, screening.Letter, screening.Cap, screening.Mind}).Draw(t, "kind")
		own := screening.Rule{ID: "own/x", Title: "X", Group: "Health", Stage: screening.Door, Question: "X?", Asks: screening.Date, Why: "w", Basis: "b",
			Outcomes: []screening.Outcome{{Kind: kind, Days: rapid.IntRange(1, 90).Draw(t, "days"), Pressure: 1, Does: "d"}}}
		if ps := screening.CheckOwn(&own); len(ps) > 0 {
			t.Fatalf("%+v", ps)
		}
		answers := map[string]screening.Answer{"own/x": yes(today.Plus(-rapid.IntRange(0, 100).Draw(t, "ago")))}
		for range rapid.IntRange(0, 6).Draw(t, "answers") {
			r := rapid.SampledFrom(pack.Rules).Draw(t, "rule")
			answers[r.ID] = yes(today.Plus(-rapid.IntRange(0, 60).Draw(t, "day")), screening.Place{Zone: "chin"})
		}
		without := pack.Evaluate(answers, screening.Subject{}, today)
		with := pack.With([]screening.Rule{own}).Evaluate(answers, screening.Subject{}, today)
		if slices.Index(order, with.Headline) < slices.Index(order, without.Headline) || with.NotBefore < without.NotBefore || len(with.Outcomes) < len(without.Outcomes) {
			t.Fatalf("with the rule %+v, without %+v", with, without)
		}
	})
}

// Asking only what matters never drops a rule that would have changed a plan: for
// any answers, leaving the rules out that are not asked gives the same tailored
// plan of every protocol in the scope.
func TestWhatIsNotAskedChangesNothing(t *testing.T) {
	ctx := context()
	pack := screening.Trade()
	p := plan(14, protocol.Step{Stroke: "cheek-drain"}, protocol.Step{Stroke: "cheek-scoop"}, protocol.Step{Stroke: "jaw-scissor"}, protocol.Step{Stroke: "stone-jaw"})
	asked := rulesOf(pack.For(screening.ScopeOf([]*protocol.Protocol{p}, ctx)))
	left := 0
	for _, r := range pack.Rules {
		if asked[r.ID] || r.Asks == screening.Nothing {
			continue
		}
		left++
		answers := map[string]screening.Answer{r.ID: yes(today.Plus(-1), screening.Place{Zone: "cheekbone", Side: "left"})}
		res := pack.Evaluate(answers, screening.Subject{}, today)
		assert.True(t, res.Headline.Treatable(), r.ID)
		got := screening.Tailor(p, ctx, screening.Merge(res.Outcomes))
		assert.Empty(t, got.Changes, r.ID)
	}
	assert.Positive(t, left, "something is not asked")
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
		p, err := screening.ReadPack(data)
		if err != nil {
			return
		}
		answers := map[string]screening.Answer{}
		for _, r := range p.Rules {
			answers[r.ID] = yes(today.Plus(-3), screening.Place{Zone: "chin"})
		}
		res := p.Evaluate(answers, screening.Subject{Born: "1990-01-01"}, today)
		screening.Merge(res.Outcomes)
		p.Check(answers, today, screening.Door, screening.Consultation)
		p.Carried(answers, nil, false, today)
		out, err := json.Marshal(p)
		require.NoError(t, err)
		_, err = screening.ReadPack(out)
		require.NoError(t, err)
	})
}
