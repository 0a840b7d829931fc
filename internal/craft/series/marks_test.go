package series_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
)

// What a series takes a protocol for is proposed from its steps: draining where most working seconds
// drain, deep with a step at 4 or 5, a gripping roller or cups; and what is not to be done too often
// (handbook, chapter 6, What is sold; the strokes are those of the trade).
func TestMarksAndWorkAreReadFromTheSteps(t *testing.T) {
	ctx := crafttest.TradeStudio()
	firm := crafttest.Do("temple-press")
	firm.Pressure = crafttest.Ptr(4)
	// longer than the opening and the closing of the frame, which drain
	long := crafttest.Do("cheek-palms")
	long.Dose = crafttest.Ptr(crafttest.Clock(900))
	for name, c := range map[string]struct {
		steps []protocol.Step
		marks series.Marks
		work  series.Work
	}{
		"drainage":             {[]protocol.Step{crafttest.Do("still-cheek-drain"), crafttest.Do("still-forehead-drain")}, series.Marks{Draining: true}, series.Work{}},
		"a firm press":         {[]protocol.Step{long, firm}, series.Marks{Deep: true}, series.Work{}},
		"a gripping roller":    {[]protocol.Step{long, crafttest.Do("twin-ball-lines")}, series.Marks{Deep: true}, series.Work{}},
		"cups":                 {[]protocol.Step{long, crafttest.Do("cup-cheek")}, series.Marks{Deep: true}, series.Work{Reddens: true}},
		"a cold roller glides": {[]protocol.Step{long, crafttest.Do("cold-roller-face")}, series.Marks{}, series.Work{}},
		"a scrub mitt":         {[]protocol.Step{long, crafttest.Do("mitt-polish")}, series.Marks{}, series.Work{Reddens: true, Mitt: true}},
		"inside the mouth":     {[]protocol.Step{long, crafttest.Do("mouth-masseter")}, series.Marks{}, series.Work{Mouth: true}},
	} {
		p := crafttest.Treatment(40, c.steps...)
		assert.Equal(t, c.marks, series.MarksOf(p, ctx), name)
		assert.Equal(t, c.work, series.WorkOf(p, ctx), name)
	}
}
