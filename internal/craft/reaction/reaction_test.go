package reaction_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/reaction"
)

// When it is asked again, by grade, moved into the hours in which one calls, except after four hours (chapter 7, The
// record).
func TestFollowUps(t *testing.T) {
	for _, c := range []struct {
		grade, minute int
		want          [][2]int
	}{
		{0, 660, [][2]int{}},
		{1, 660, [][2]int{{1, 660}}},
		{1, 480, [][2]int{{1, 540}}},
		{1, 1141, [][2]int{{2, 540}}},
		{1, 1140, [][2]int{{1, 1140}}},
		{2, 600, [][2]int{{1, 600}, {3, 600}, {7, 600}}},
		{3, 1260, [][2]int{{1, 60}, {2, 540}, {3, 540}, {8, 540}, {29, 540}}},
		{4, 600, [][2]int{{0, 840}, {1, 600}, {7, 600}, {28, 600}}},
	} {
		got, err := (&reaction.Noticed{Grade: c.grade, Minute: c.minute}).FollowUps()
		require.NoError(t, err)
		assert.Equal(t, c.want, got.Due, "grade %d at minute %d", c.grade, c.minute)
	}
	_, err := (&reaction.Noticed{Grade: 5}).FollowUps()
	require.Error(t, err)
}

// What may still be used, and what is set aside (chapter 7, The record).
func TestBlocking(t *testing.T) {
	oil := reaction.Lying{Product: "oil", Lot: "O-1", Regions: []string{"middle"}}
	balm := reaction.Lying{Product: "balm", Lot: "B-1", Regions: []string{"chest"}}
	mist := reaction.Lying{Product: "mist", Lot: "M-1"}
	for _, c := range []struct {
		grade   int
		regions []string
		others  []reaction.Other
		oil     reaction.Bar
		balm    reaction.Bar
		mist    reaction.Bar
		aside   []string
	}{
		{0, []string{"middle"}, nil, reaction.Free, reaction.Free, reaction.Free, []string{}},
		{1, []string{"middle"}, nil, reaction.Ask, reaction.Free, reaction.Ask, []string{}},
		{2, []string{"middle"}, nil, reaction.BlockedUntilPatch, reaction.Free, reaction.BlockedUntilPatch, []string{}},
		{2, nil, []reaction.Other{{Lot: "O-1", Grade: 2, DaysAgo: 28}, {Lot: "B-1", Grade: 1, DaysAgo: 1}, {Lot: "M-1", Grade: 3, DaysAgo: 29}}, reaction.BlockedUntilPatch, reaction.BlockedUntilPatch, reaction.BlockedUntilPatch, []string{"O-1"}},
		{3, []string{"middle"}, nil, reaction.Blocked, reaction.Free, reaction.Blocked, []string{"M-1", "O-1"}},
		{4, nil, nil, reaction.Blocked, reaction.Blocked, reaction.Blocked, []string{"B-1", "M-1", "O-1"}},
	} {
		r := reaction.Reacted{Grade: c.grade, Regions: c.regions, OnSkin: []reaction.Lying{oil, balm, mist}, Others: c.others}
		got, err := r.Blocking()
		require.NoError(t, err)
		assert.Equal(t, map[string]reaction.Bar{"oil": c.oil, "balm": c.balm, "mist": c.mist}, got.Products, "grade %d", c.grade)
		assert.Equal(t, c.aside, got.Quarantine, "grade %d", c.grade)
	}
}

// What a reaction left on products: the strictest of each counts; a bar until a patch test is lifted by a test applied
// after the reaction that reads negative, and by no other (handbook, chapter 7, The record).
func TestWhatStillStands(t *testing.T) {
	at := time.Date(2026, 11, 20, 10, 0, 0, 0, time.UTC)
	tested := func(days int, grade patch.PatchGrade) patch.PatchTest {
		applied := at.AddDate(0, 0, days)
		return patch.PatchTest{Product: "oil", Applied: applied, Months: 6, Readings: []patch.Reading{{Hours: 24, Grade: grade, At: applied.Add(24 * time.Hour)}}}
	}
	until := reaction.Standing{Product: "oil", Name: "Calm oil", Bar: reaction.BlockedUntilPatch, Since: at}
	now := at.AddDate(0, 0, 10)
	for _, c := range []struct {
		test patch.PatchTest
		want reaction.Bar
	}{
		{tested(2, patch.Negative), reaction.Free},
		{tested(-30, patch.Negative), reaction.BlockedUntilPatch},
		{tested(2, patch.Doubtful), reaction.BlockedUntilPatch},
	} {
		assert.Equal(t, c.want, until.Now([]patch.PatchTest{c.test}, now))
	}
	blocked := reaction.Standing{Product: "oil", Name: "Calm oil", Bar: reaction.Blocked, Since: at}
	assert.Equal(t, reaction.Blocked, blocked.Now([]patch.PatchTest{tested(2, patch.Negative)}, now), "no test lifts this one")
	ask := reaction.Standing{Product: "milk", Name: "Oat milk", Bar: reaction.Ask, Since: at}
	standing := reaction.StandingNow([]reaction.Standing{ask, until, blocked, {Product: "mask", Bar: reaction.Free}}, nil, now)
	require.Len(t, standing, 2)
	assert.Equal(t, []reaction.Bar{reaction.Ask, reaction.Blocked}, []reaction.Bar{standing[0].Bar, standing[1].Bar})

	outcomes := reaction.Outcomes(append(standing, reaction.Standing{Product: "gel", Name: "Gel", Bar: reaction.BlockedUntilPatch}))
	require.Len(t, outcomes, 3)
	for i, want := range []contraindication.Kind{contraindication.Exclude, contraindication.Exclude, contraindication.Precaution} {
		assert.Equal(t, want, outcomes[i].Kind)
		assert.False(t, contraindication.MayOverride(outcomes, outcomes[i].Rule), "none is overridden")
	}
	assert.Contains(t, outcomes[2].Outcome.Instruction, "Oat milk")
	assert.Empty(t, reaction.Outcomes(nil))
}

func TestRegionsOf(t *testing.T) {
	got := reaction.RegionsOf([]contraindication.ZoneSide{{Zone: "mid-cheek", Side: "left"}, {Zone: "mid-cheek", Side: "right"}, {Zone: "no-such"}, {Zone: "chin"}})
	assert.NotEmpty(t, got)
	assert.Len(t, got, 2)
}
