package series

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/protocol"
)

// Two treatments in one visit (handbook, chapter 6, Everyday diary): each word of its line.
func TestTwoTreatmentsInOneVisit(t *testing.T) {
	face := Item{
		Prepare: 10, Sold: 60, Reset: 15, Skills: []string{"stone"}, Equipment: []string{"basin"}, Tools: map[string]int{"towel": 2, "stone": 1},
		Drain: true, Ideal: 7, Least: 6, Most: 8, Rest: 24,
	}
	eyes := Item{Prepare: 5, Sold: 20, Reset: 5, Skills: []string{"stone", "mouth"}, Equipment: []string{"lamp"}, Tools: map[string]int{"towel": 3}, Deep: true, Rest: 48}
	both := Joined(face, eyes)
	assert.Equal(t, Item{
		Prepare: 10, Sold: 80, Reset: 5, Skills: []string{"stone", "mouth"}, Equipment: []string{"basin", "lamp"},
		Tools: map[string]int{"towel": 3, "stone": 1}, Drain: true, Deep: true, Ideal: 7, Least: 6, Most: 8, Rest: 48,
	}, both)
	assert.Equal(t, face, Joined(face), "alone it is what it was")
	assert.Equal(t, map[string]int{"towel": 2, "stone": 1}, face.Tools, "nothing of the parts is changed")
	assert.Equal(t, Marks{Draining: true, Deep: true}, Marks{Draining: true}.With(Marks{Deep: true}))
}

// Marks are proposed from the steps and changed by hand (handbook, chapter 6, What is sold).
func TestMarksSetByHand(t *testing.T) {
	no, yes := false, true
	assert.Equal(t, Marks{Draining: true}, Marks{Draining: true, Deep: true}.byHand(&protocol.Marked{Deep: &no}))
	assert.Equal(t, Marks{Glow: true}, Marks{}.byHand(&protocol.Marked{Glow: &yes}))
	assert.Equal(t, Marks{Deep: true}, Marks{Deep: true}.byHand(nil))
}
