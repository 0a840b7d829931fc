package studio_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/studio"
)

// Free attempts first, then a wait that doubles up to five minutes (OWASP Authentication
// Cheat Sheet, on slowing down rather than locking out; the figures are ours).
func TestThrottleWait(t *testing.T) {
	now := time.Date(2026, 11, 24, 9, 5, 0, 0, time.UTC)
	for _, c := range []struct {
		n    int
		ago  time.Duration
		want time.Duration
	}{
		{0, 0, 0},
		{7, 0, 0},
		{8, 0, 5 * time.Second},
		{8, 3 * time.Second, 2 * time.Second},
		{8, 5 * time.Second, 0},
		{9, 0, 10 * time.Second},
		{13, 0, 160 * time.Second},
		{14, 0, 5 * time.Minute},
		{1000, 0, 5 * time.Minute},
		{1000, 6 * time.Minute, 0},
	} {
		assert.Equal(t, c.want, studio.ThrottleWait(c.n, studio.ThrottleTries, now.Add(-c.ago), now), "%d, %v ago", c.n, c.ago)
	}
}
