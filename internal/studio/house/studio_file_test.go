package house

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"
)

// Days in a studio file: by the calendar, or counted from today.
func TestBundleDay(t *testing.T) {
	today := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	for text, want := range map[string]string{
		"today": "2026-11-24", "today+7": "2026-12-01", "today-30": "2026-10-25", "today+0": "2026-11-24", "2028-02-29": "2028-02-29",
	} {
		got, ok := bundleDay(text, today)
		assert.True(t, ok, text)
		assert.Equal(t, want, got)
	}
	for _, text := range []string{"", "tomorrow", "today+", "today7", "today+12345", "2026-02-30", "24.11.2026", "today +1"} {
		_, ok := bundleDay(text, today)
		assert.False(t, ok, text)
	}
}
