package contraindication_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
)

// A rule may be overridden where it only asks for something gentler; not where a
// doctor's letter stands behind it, nor where anything else of it keeps a client
// safe (handbook, chapter 5).
func TestWhatMayBeOverruled(t *testing.T) {
	lighter := contraindication.Contraindication{Rule: "r", Kind: contraindication.Cap}
	note := contraindication.Contraindication{Rule: "r", Kind: contraindication.Precaution}
	allowed := contraindication.Contraindication{Rule: "r", Kind: contraindication.Precaution, Allowed: true}
	assert.True(t, contraindication.MayOverride([]contraindication.Contraindication{lighter, note}, "r"))
	assert.False(t, contraindication.MayOverride([]contraindication.Contraindication{lighter, allowed}, "r"))
	assert.False(t, contraindication.MayOverride([]contraindication.Contraindication{note}, "r"), "there is nothing to overrule")
	assert.False(t, contraindication.MayOverride([]contraindication.Contraindication{lighter, crafttest.LeaveOut()}, "r"))
	assert.False(t, contraindication.MayOverride([]contraindication.Contraindication{lighter}, "another"))
}

// Days by the calendar, over month ends and a leap day.
func TestWaitsOverTheCalendar(t *testing.T) {
	pack := contraindication.Trade()
	for _, c := range []struct {
		rule       string
		day, today calendar.Day
		want       contraindication.Headline
		until      calendar.Day
	}{
		{"peel", "2028-02-23", "2028-02-29", contraindication.NotBefore, "2028-03-01"},
		{"peel", "2028-02-22", "2028-02-29", contraindication.OKToTreat, ""},
		{"threads", "2026-10-14", crafttest.Today, contraindication.NotBefore, "2026-11-25"},
		{"surgery", "2026-11-20", crafttest.Today, contraindication.NotBefore, "2027-01-01"},
	} {
		got := pack.Evaluate(map[string]contraindication.Answer{c.rule: crafttest.Yes(c.day)}, contraindication.ClientProfile{}, c.today)
		assert.Equal(t, c.want, got.Headline, "%s on %s, judged on %s", c.rule, c.day, c.today)
		assert.Equal(t, c.until, got.NotBefore, "%s on %s", c.rule, c.day)
	}
}

// The strictest is the headline and all outcomes stay listed (handbook, chapter 5).
func TestTheStrictestWins(t *testing.T) {
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{"migraine": crafttest.Yes(""), "cancer": crafttest.Yes(""), "fever": crafttest.Yes("2026-11-24")}
	got := pack.Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today)
	assert.Equal(t, contraindication.NotBefore, got.Headline)
	answers["cold-sore"] = crafttest.Yes("")
	assert.Equal(t, contraindication.DoNotTreat, pack.Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today).Headline)
	answers["sudden-droop"] = crafttest.Yes("")
	got = pack.Evaluate(answers, contraindication.ClientProfile{}, crafttest.Today)
	assert.Equal(t, contraindication.UrgentHelp, got.Headline)
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
	res := contraindication.Trade().Evaluate(map[string]contraindication.Answer{"sore-skin": crafttest.Yes("", contraindication.ZoneSide{Zone: "cheekbone", Side: "right"}, contraindication.ZoneSide{Zone: "chin"})}, contraindication.ClientProfile{SkinStates: []string{"rosacea-prone", "sensitive"}}, crafttest.Today)
	assert.Equal(t, contraindication.OKWithAdjustments, res.Headline)
	cheek, _ := anatomy.Lookup("cheekbone")
	chin, _ := anatomy.Lookup("chin")
	assert.ElementsMatch(t, []anatomy.ZoneSide{{Zone: cheek, Side: anatomy.Right}, {Zone: chin, Side: anatomy.Mid}}, contraindication.Merge(res.Outcomes).Excluded())
}

// An unanswered question is not a no; a yes needs its day and place.
func TestCheckNamesWhatIsMissing(t *testing.T) {
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{}
	for _, r := range pack.Rules {
		answers[r.ID] = contraindication.Answer{}
	}
	require.Empty(t, pack.Check(answers, crafttest.Today, contraindication.PreTreatment, contraindication.Consultation))
	delete(answers, "fever")
	answers["filler"] = crafttest.Yes("2026-11-25")
	var paths []string
	for _, p := range pack.Check(answers, crafttest.Today, contraindication.PreTreatment, contraindication.Consultation) {
		paths = append(paths, p.Path)
	}
	assert.Equal(t, []string{"/answers/fever", "/answers/filler/day", "/answers/filler/zones"}, paths)
}

// The pack holds at least twenty rules, of every kind of outcome.
func TestThePackHoldsEveryKind(t *testing.T) {
	pack := contraindication.Trade()
	assert.GreaterOrEqual(t, len(pack.Rules), 20)
	seen := map[contraindication.Kind]int{}
	families, tools, tags := 0, 0, 0
	for _, r := range pack.Rules {
		for _, o := range r.Outcomes {
			seen[o.Kind]++
			families, tools, tags = families+len(o.Families), tools+len(o.Tools), tags+len(o.Tags)
		}
	}
	for _, k := range []contraindication.Kind{contraindication.Urgent, contraindication.Stop, contraindication.Wait, contraindication.Letter, contraindication.LeaveOut, contraindication.Cap, contraindication.Exclude, contraindication.Precaution} {
		assert.Positive(t, seen[k], k)
	}
	assert.True(t, families > 0 && tools > 0 && tags > 0)
	_, err := contraindication.ReadPack([]byte(`{"version":"1","rules":[{"id":"x","colour":"red"}]}`))
	assert.ErrorContains(t, err, "colour")
}

// Not sure is an answer to send in, never one to judge by (common practice: what
// is not known is asked).
func TestNotSureIsAskedTogether(t *testing.T) {
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{}
	for _, r := range pack.RulesAt(contraindication.Consultation) {
		answers[r.ID] = contraindication.Answer{}
	}
	answers["carotid"] = contraindication.Answer{Unsure: true}
	answers["diabetes"] = contraindication.Answer{Yes: true}
	ps := pack.Check(answers, crafttest.Today, contraindication.Consultation)
	require.Len(t, ps, 1)
	assert.Equal(t, "/answers/carotid", ps[0].Path)
	sent := contraindication.UnsureAsNo(answers)
	assert.Empty(t, pack.Check(sent, crafttest.Today, contraindication.Consultation))
	assert.True(t, sent["diabetes"].Yes)
	assert.True(t, answers["carotid"].Unsure, "what was told is as it was")
}
