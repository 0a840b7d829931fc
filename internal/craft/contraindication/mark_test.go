package contraindication_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/substance"
)

func texts(marks []contraindication.Mark) []string {
	out := []string{}
	for _, m := range marks {
		out = append(out, m.Text)
	}
	return out
}

// What a practitioner says aloud to herself before a client comes in: what keeps the client
// away first, then allergies, then where to take care (common practice).
func TestMarksSayItInAFewWords(t *testing.T) {
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{
		"lenses":        crafttest.Yes(""),
		"nut-allergy":   crafttest.Yes(""),
		"filler":        {Yes: true, Day: "2026-11-03", Zones: []contraindication.ZoneSide{{Zone: "upper-lip"}, {Zone: "lower-lip", Side: "left"}}},
		"pressure-wish": {Option: "lighter"},
		"migraine":      {},
	}
	who := contraindication.ClientProfile{Allergies: []substance.Allergy{{Kind: "words", Key: "walnut-shells", Name: "Walnut shells"}}}
	res := pack.Evaluate(answers, who, crafttest.Today)
	marks := pack.Marks(res, answers)
	assert.Equal(t, []string{"no nuts", "no walnut shells", "filler (upper lip, left lower lip)", "contact lenses", "lighter pressure wished"}, texts(marks))
	filler := marks[2]
	assert.Equal(t, contraindication.LeaveOut, filler.Kind)
	assert.EqualValues(t, "2026-12-01", filler.Until, "28 days after it (handbook, chapter 5)")
	require.NotEmpty(t, filler.Places)
	assert.Equal(t, contraindication.LeaveOut, filler.Places[0].Kind)
	for _, p := range marks[3].Places {
		assert.Equal(t, contraindication.Precaution, p.Kind, "lenses are minded round the eyes, nothing is left out")
	}
	assert.NotEmpty(t, marks[3].Places)

	answers["fever"] = crafttest.Yes("2026-11-24")
	answers["sore-skin"] = contraindication.Answer{Yes: true, Zones: []contraindication.ZoneSide{{Zone: "chin"}, {Zone: "forehead"}, {Zone: "temple"}}}
	marks = pack.Marks(pack.Evaluate(answers, who, crafttest.Today), answers)
	assert.Equal(t, "fever or infection", marks[0].Text)
	assert.Contains(t, texts(marks), "sore skin (3 places)")
	assert.Empty(t, pack.Marks(pack.Evaluate(nil, contraindication.ClientProfile{}, crafttest.Today), nil))
}

// Every rule of the shipped pack can be said in a few words, and none like another.
func TestEveryRuleHasItsShortName(t *testing.T) {
	seen := map[string]string{}
	for _, r := range contraindication.Trade().Rules {
		assert.NotEmpty(t, r.Short, r.ID)
		assert.LessOrEqual(t, len(r.Short), 40, r.ID)
		assert.Empty(t, seen[r.Short], "%s and %s", r.ID, seen[r.Short])
		seen[r.Short] = r.ID
	}
}

// What is new since last time is what was not there; what was asked of one day only is not
// said to be gone.
func TestWhatIsDifferentBetweenMarks(t *testing.T) {
	pack := contraindication.Trade()
	before := []contraindication.Mark{{Rule: "sunburn"}, {Rule: "migraine"}}
	now := []contraindication.Mark{{Rule: "migraine"}, {Rule: "filler"}}
	assert.Equal(t, []contraindication.Mark{{Rule: "filler"}}, contraindication.NotAmong(now, before))
	assert.Equal(t, []contraindication.Mark{{Rule: "sunburn"}}, contraindication.NotAmong(before, now))
	assert.True(t, pack.OfTheDay("sunburn"))
	assert.False(t, pack.OfTheDay("filler"), "asked at the consultation too")
	assert.False(t, pack.OfTheDay("none-of-the-pack"))
}
