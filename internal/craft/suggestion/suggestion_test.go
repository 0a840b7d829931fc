package suggestion_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/suggestion"
)

// Every rule of the handbook's list (chapter 7, Next visit), alone, in the order of the list.
func TestEveryRule(t *testing.T) {
	plain := suggestion.Visit{Planned: 2000, Real: 2000}
	with := func(change func(*suggestion.Visit)) suggestion.Visit {
		v := plain
		change(&v)
		return v
	}
	tender := with(func(v *suggestion.Visit) { v.Tender = [][2]string{{"temple", "left"}} })
	less := with(func(v *suggestion.Visit) { v.Less = 1 })
	added := with(func(v *suggestion.Visit) { v.Added = []suggestion.Added{{"oil", 25}, {"oil", 19}} })
	red := with(func(v *suggestion.Visit) { v.Redness, v.ExpectedRedness = 2, 1 })
	skipped := with(func(v *suggestion.Visit) { v.Skipped = []string{"brow"} })
	stayed := with(func(v *suggestion.Visit) { v.Stayed = []string{"jaw"} })
	long := with(func(v *suggestion.Visit) { v.Real = 2101 })
	short := with(func(v *suggestion.Visit) { v.Real = 1799 })
	late := with(func(v *suggestion.Visit) { v.LateMinutes = 5 })
	quiet := with(func(v *suggestion.Visit) { v.Quiet = true })
	for _, c := range []struct {
		visits []suggestion.Visit
		want   []suggestion.Suggestion
	}{
		{[]suggestion.Visit{plain}, nil},
		{[]suggestion.Visit{tender}, []suggestion.Suggestion{{"lighter-here", "temple/left"}}},
		{[]suggestion.Visit{tender, plain, tender}, []suggestion.Suggestion{{"lighter-here", "temple/left"}}},
		{[]suggestion.Visit{tender, tender}, []suggestion.Suggestion{{"ask-here", "temple/left"}}},
		{[]suggestion.Visit{less}, nil},
		{[]suggestion.Visit{less, less}, []suggestion.Suggestion{{"lighter-all", ""}}},
		{[]suggestion.Visit{added}, []suggestion.Suggestion{{"product-again", "oil@18"}}},
		{[]suggestion.Visit{added, added, added}, []suggestion.Suggestion{{"other-form", "oil"}}},
		{[]suggestion.Visit{red}, []suggestion.Suggestion{{"calmer", ""}}},
		{[]suggestion.Visit{skipped, plain, skipped}, []suggestion.Suggestion{{"leave-step", "brow"}}},
		{[]suggestion.Visit{skipped, plain, plain, skipped}, nil},
		{[]suggestion.Visit{stayed, stayed}, []suggestion.Suggestion{{"longer-dose", "jaw"}}},
		{[]suggestion.Visit{long, long}, nil},
		{[]suggestion.Visit{long, plain, long, long}, []suggestion.Suggestion{{"book-longer", ""}}},
		{[]suggestion.Visit{short, short, short}, []suggestion.Suggestion{{"book-shorter", ""}}},
		{[]suggestion.Visit{late, plain, late}, []suggestion.Suggestion{{"arrives-late", ""}}},
		{[]suggestion.Visit{quiet, quiet}, []suggestion.Suggestion{{"quiet", ""}}},
	} {
		p := suggestion.Past{Visits: c.visits, Baseline: true}
		got, err := p.Suggest()
		require.NoError(t, err)
		assert.ElementsMatch(t, c.want, got.List, "%+v", c.visits)
	}
	p := suggestion.Past{Visits: []suggestion.Visit{plain}, AsymmetryReal: "right", OpenReaction: 2, Adherence: []float64{80, 39, 20}}
	got, err := p.Suggest()
	require.NoError(t, err)
	assert.Equal(t, []suggestion.Suggestion{{"more-on-side", "right"}, {"baseline", ""}, {"patch-first", ""}, {"home-lighter", ""}}, got.List)
	p = suggestion.Past{Visits: []suggestion.Visit{plain}, Baseline: true, DaysSinceMeasured: 14, VisitsSinceMeasured: 4}
	got, err = p.Suggest()
	require.NoError(t, err)
	assert.Equal(t, []suggestion.Suggestion{{"measure-again", ""}}, got.List)
	_, err = (&suggestion.Past{}).Suggest()
	require.Error(t, err)
}
