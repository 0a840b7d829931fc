package protocol_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
)

// Two versions, step by step: what was added, taken out, altered and moved.
func TestCompareRecognisesMovedSteps(t *testing.T) {
	was := crafttest.Plan(12, crafttest.Do("shoulder-knead"), crafttest.Do("temple-press"), crafttest.Do("point-brow"), crafttest.Do("jaw-scissor"), crafttest.Do("cheek-scoop"))
	now := was.Clone()
	now.Steps = []protocol.Step{was.Steps[0], was.Steps[4], was.Steps[1], was.Steps[3], {ID: "new", Stroke: "ear-knead", Phase: "work"}}
	now.Steps[3].Pressure = crafttest.Ptr(1)
	now.Minutes.HandsOn = 10
	c := protocol.Compare(was, now)
	type line struct {
		step   string
		change protocol.Changed
		from   int
		to     int
	}
	var got []line
	for _, s := range c.Steps {
		got = append(got, line{s.Step, s.Change, s.From, s.To})
	}
	assert.Equal(t, []line{
		{"cheek-scoop#5", protocol.Moved, 5, 2},
		{"point-brow#3", protocol.Removed, 3, 0},
		{"jaw-scissor#4", protocol.Altered, 4, 4},
		{"new", protocol.Added, 0, 5},
	}, got)
	assert.Equal(t, []string{"pressure"}, c.Steps[2].Fields)
	assert.Equal(t, []string{"minutes"}, c.Fields)
	assert.True(t, protocol.Compare(was, was.Clone()).Same())
	// A step whose id is gone is known again by stroke, sides and phase.
	renamed := was.Clone()
	renamed.Steps[2].ID = "other"
	assert.True(t, protocol.Compare(was, renamed).Same())
}

// What a step says besides its movement is compared as its other properties are.
func TestFurtherPropertiesAreCompared(t *testing.T) {
	was := &protocol.Protocol{Steps: []protocol.Step{{ID: "a", Stroke: "temple-press"}}}
	now := was.Clone()
	now.Steps[0].WhichHand, now.Steps[0].Tempo = "either", "slow"
	changes := protocol.Compare(was, now).Steps
	require.Len(t, changes, 1)
	assert.ElementsMatch(t, []string{"whichHand", "tempo"}, changes[0].Fields)
}
