package screening_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/screening"
)

const today = screening.Day("2026-11-24")

func yes(day screening.Day, zones ...screening.Place) screening.Answer {
	return screening.Answer{Yes: true, Day: day, Zones: zones}
}

// Days by the calendar, over month ends and a leap day.
func TestWaitsOverTheCalendar(t *testing.T) {
	pack := screening.Trade()
	for _, c := range []struct {
		rule       string
		day, today screening.Day
		want       screening.Headline
		until      screening.Day
	}{
		{"peel", "2028-02-23", "2028-02-29", screening.NotBefore, "2028-03-01"},
		{"peel", "2028-02-22", "2028-02-29", screening.Go, ""},
		{"threads", "2026-10-14", today, screening.NotBefore, "2026-11-25"},
		{"surgery", "2026-11-20", today, screening.NotBefore, "2027-01-01"},
	} {
		got := pack.Evaluate(map[string]screening.Answer{c.rule: yes(c.day)}, screening.Subject{}, c.today)
		assert.Equal(t, c.want, got.Headline, "%s on %s, judged on %s", c.rule, c.day, c.today)
		assert.Equal(t, c.until, got.NotBefore, "%s on %s", c.rule, c.day)
	}
}

// The strictest is the headline and all outcomes stay listed (handbook, chapter 5).
func TestTheStrictestWins(t *testing.T) {
	pack := screening.Trade()
	answers := map[string]screening.Answer{"migraine": yes(""), "cancer": yes(""), "fever": yes("2026-11-24")}
	got := pack.Evaluate(answers, screening.Subject{}, today)
	assert.Equal(t, screening.NotBefore, got.Headline)
	answers["cold-sore"] = yes("")
	assert.Equal(t, screening.NotHere, pack.Evaluate(answers, screening.Subject{}, today).Headline)
	answers["sudden-droop"] = yes("")
	got = pack.Evaluate(answers, screening.Subject{}, today)
	assert.Equal(t, screening.UrgentHelp, got.Headline)
	rules := map[string]bool{}
	for _, o := range got.Outcomes {
		rules[o.Rule] = true
		assert.NotEmpty(t, o.Why, o.Rule)
		assert.NotEmpty(t, o.Basis, o.Rule)
	}
	assert.Len(t, rules, 5)
	assert.False(t, got.Headline.Treatable())
}

// A client's skin answers the rules that follow from it; the lowest cap counts.
func TestMerge(t *testing.T) {
	res := screening.Trade().Evaluate(map[string]screening.Answer{"sore-skin": yes("", screening.Place{Zone: "cheekbone", Side: "right"}, screening.Place{Zone: "chin"})}, screening.Subject{SkinStates: []string{"rosacea-prone", "sensitive"}}, today)
	assert.Equal(t, screening.GoChanged, res.Headline)
	cheek, _ := anatomy.Lookup("cheekbone")
	chin, _ := anatomy.Lookup("chin")
	assert.ElementsMatch(t, []anatomy.Place{{Zone: cheek, Side: anatomy.Right}, {Zone: chin, Side: anatomy.Mid}}, screening.Merge(res.Outcomes).Excluded())
}

// An unanswered question is not a no; a yes needs its day and place.
func TestCheckNamesWhatIsMissing(t *testing.T) {
	pack := screening.Trade()
	answers := map[string]screening.Answer{}
	for _, r := range pack.Rules {
		answers[r.ID] = screening.Answer{}
	}
	require.Empty(t, pack.Check(answers, today, screening.Door, screening.Consultation))
	delete(answers, "fever")
	answers["filler"] = yes("2026-11-25")
	var paths []string
	for _, p := range pack.Check(answers, today, screening.Door, screening.Consultation) {
		paths = append(paths, p.Path)
	}
	assert.Equal(t, []string{"/answers/fever", "/answers/filler/day", "/answers/filler/zones"}, paths)
}

// The pack holds at least twenty rules, of every kind of outcome.
func TestThePackHoldsEveryKind(t *testing.T) {
	pack := screening.Trade()
	assert.GreaterOrEqual(t, len(pack.Rules), 20)
	seen := map[screening.Kind]int{}
	families, tools, tags := 0, 0, 0
	for _, r := range pack.Rules {
		for _, o := range r.Outcomes {
			seen[o.Kind]++
			families, tools, tags = families+len(o.Families), tools+len(o.Tools), tags+len(o.Tags)
		}
	}
	for _, k := range []screening.Kind{screening.Urgent, screening.Stop, screening.Wait, screening.Letter, screening.LeaveOut, screening.Cap, screening.Exclude, screening.Mind} {
		assert.Positive(t, seen[k], k)
	}
	assert.True(t, families > 0 && tools > 0 && tags > 0)
	_, err := screening.ReadPack([]byte(`{"version":"1","rules":[{"id":"x","colour":"red"}]}`))
	assert.ErrorContains(t, err, "colour")
}

// Not sure is an answer to send in, never one to judge by (common practice: what
// is not known is asked).
func TestNotSureIsAskedTogether(t *testing.T) {
	pack := screening.Trade()
	answers := map[string]screening.Answer{}
	for _, r := range pack.Of(screening.Consultation) {
		answers[r.ID] = screening.Answer{}
	}
	answers["carotid"] = screening.Answer{Unsure: true}
	answers["diabetes"] = screening.Answer{Yes: true}
	ps := pack.Check(answers, today, screening.Consultation)
	require.Len(t, ps, 1)
	assert.Equal(t, "/answers/carotid", ps[0].Path)
	sent := screening.Told(answers)
	assert.Empty(t, pack.Check(sent, today, screening.Consultation))
	assert.True(t, sent["diabetes"].Yes)
	assert.True(t, answers["carotid"].Unsure, "what was told is as it was")
}
