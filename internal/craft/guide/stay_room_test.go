package guide_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/stroke"
)

// An eye takes 90 s of sliding below it and 240 s round it in a treatment (handbook, chapter 3): staying is refused
// beyond that, in the spells that slide there and in no others.
func TestStayingEndsAtTheEyesLimit(t *testing.T) {
	path := func(zones ...string) []evaluation.Stop {
		var out []evaluation.Stop
		for _, z := range zones {
			out = append(out, evaluation.Stop{Zone: z})
		}
		return out
	}
	e := &evaluation.Evaluation{
		Steps: []evaluation.Resolved{
			{ID: "under", Path: path("under-eye"), Relation: stroke.Slides, Dose: &stroke.Dose{Kind: stroke.Clock}},
			{ID: "long", Path: path("under-eye", "temple"), Relation: stroke.Slides, Dose: &stroke.Dose{Kind: stroke.Clock}},
			{ID: "rest", Path: path("under-eye"), Relation: stroke.Still, Dose: &stroke.Dose{Kind: stroke.Clock}},
			{ID: "cheek", Path: path("mid-cheek"), Relation: stroke.Slides, Dose: &stroke.Dose{Kind: stroke.Clock}},
		},
		Loads: []evaluation.Load{{Zone: "under-eye", Side: "left", Sliding: 60}, {Zone: "under-eye", Side: "right", Sliding: 80}},
	}
	for i := range e.Steps {
		e.Occurrences = append(e.Occurrences, evaluation.Occurrence{Step: i, Number: 1, SideRuns: []evaluation.SideRun{{Side: "both", Seconds: 30}}})
	}
	room := guide.NewStayRoom(e)
	assert.Equal(t, map[string]float64{"under-eye/left": 30, "under-eye/right": 10, "orbital-rim/left": 240, "orbital-rim/right": 240}, room.Left)
	assert.Equal(t, map[string]map[string]float64{
		"under/1": {"under-eye/left": 1, "under-eye/right": 1},
		"long/1":  {"under-eye/left": 0.5, "under-eye/right": 0.5},
	}, room.Takes, "half of a path of two zones lies at the eye; holds and cheeks take nothing")
}
