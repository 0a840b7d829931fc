package reaction_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
