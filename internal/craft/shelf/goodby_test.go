package shelf_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/shelf"
)

// Fewer than 60 days left are said when a pack is sold (handbook, chapter 4, Retail).
func TestFewDays(t *testing.T) {
	for until, want := range map[string]int{"2026-11-28": 0, "2026-12-01": 3, "2027-01-26": 59, "2027-01-27": -1, "2026-11-27": -1, "": -1} {
		n := shelf.FewDays(until, "2026-11-28")
		if want < 0 {
			assert.Nil(t, n, until)
			continue
		}
		require.NotNil(t, n, until)
		assert.Equal(t, want, *n, until)
	}
}
