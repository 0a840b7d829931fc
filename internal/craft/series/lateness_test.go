package series

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// Lateness (handbook, chapter 6): five minutes change nothing; then the plan is fitted, until less than
// half of the hands-on time is left or under 15 minutes.
func TestComingLate(t *testing.T) {
	start := time.Date(2027, 1, 4, 10, 0, 0, 0, time.UTC)
	for _, c := range []struct {
		after, handsOn int
		want           Lateness
	}{
		{-10, 45, Lateness{0, 45, OnTime}},
		{5, 45, Lateness{5, 45, OnTime}},
		{6, 45, Lateness{6, 39, FitPlan}},
		{22, 45, Lateness{22, 23, FitPlan}},
		{23, 45, Lateness{23, 22, ChooseNew}},
		{6, 20, Lateness{6, 14, ChooseNew}},
		{60, 45, Lateness{60, 0, ChooseNew}},
	} {
		assert.Equal(t, c.want, LateBy(start, start.Add(time.Duration(c.after)*time.Minute), c.handsOn), c)
	}
}
