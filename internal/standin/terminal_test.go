package standin_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/standin"
)

// What the simulated terminal says, plan by plan, early and late, and after it was cancelled (handbook, chapter 8, Card).
func TestWhatTheTerminalSays(t *testing.T) {
	s := standin.TerminalSettings{Seconds: 3, Late: 45}
	asked := time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)
	for plan, says := range map[standin.Plan][4]string{ // after 1, 4, 31 and 46 seconds
		standin.Approves:        {"", "approved", "approved", "approved"},
		standin.Declines:        {"", "declined", "declined", "declined"},
		standin.UnknownApproved: {"", "", "", "approved"},
		standin.UnknownDeclined: {"", "", "", "declined"},
		standin.OfflineSettled:  {"", "stored", "stored", "stored"},
		standin.OfflineRefused:  {"", "stored", "stored", "stored"},
	} {
		for i, after := range []int{1, 4, 31, 46} {
			c := standin.Charge{Plan: plan, AskedAt: asked}
			assert.Equal(t, says[i], c.Says(s, asked.Add(time.Duration(after)*time.Second)).Is, "%s after %d s", plan, after)
		}
	}
	at := func(seconds int) *time.Time {
		when := asked.Add(time.Duration(seconds) * time.Second)
		return &when
	}
	for _, c := range []struct {
		plan      standin.Plan
		cancelled int
		after     int
		says      string
	}{
		{standin.Approves, 1, 2, "declined"},
		{standin.Approves, 1, 10, "reversed"},
		{standin.UnknownApproved, 31, 40, ""},
		{standin.UnknownApproved, 31, 46, "reversed"},
		{standin.UnknownDeclined, 31, 46, "reversed"},
	} {
		charge := standin.Charge{Plan: c.plan, AskedAt: asked, CancelledAt: at(c.cancelled)}
		assert.Equal(t, c.says, charge.Says(s, *at(c.after)).Is, "%s cancelled after %d s, asked after %d s", c.plan, c.cancelled, c.after)
	}
}
