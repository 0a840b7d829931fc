package shelf_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/shelf"
)

// Dear products are counted monthly, all once a year, a few a day (handbook, chapter 4, Stocktake; four fifths of
// the value are the dear ones: ABC analysis, common practice).
func TestCountDue(t *testing.T) {
	packs := func(last string, keys ...string) (out []shelf.Countable) {
		for _, k := range keys {
			out = append(out, shelf.Countable{Key: k, Last: last})
		}
		return out
	}
	shelfOf := []shelf.Stocked{
		{Value: dec("8"), Packs: packs("2026-01-31", "cheap")},
		{Value: dec("85"), Packs: append(packs("2026-10-28", "dear"), packs("2026-10-29", "dear, not yet")...)},
		{Value: dec("7"), Packs: packs("2025-11-28", "cheap, a year ago")},
	}
	assert.Equal(t, []string{"dear", "cheap, a year ago"}, shelf.CountDue(shelfOf, "2026-11-28"))
	many := []shelf.Stocked{{Value: dec("1"), Packs: packs("2026-01-01", "a", "b", "c", "d", "e", "f", "g", "h", "i")}}
	assert.Len(t, shelf.CountDue(many, "2026-11-28"), 8, "a few a day")
	assert.Empty(t, shelf.CountDue(nil, "2026-11-28"))
}
