package evaluation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
)

// Twelve plans that say what had no place before: body add-ons, the mouth in detail, an excerpt, sittings,
// hardly anything known, creases, both hands, waters and blends, a collection, a taught plan, areas, a
// whole treatment. Each with what is found in it, and nothing else.
func TestPlansThatSayMore(t *testing.T) {
	for key, want := range map[string][]string{
		"belly-and-breath":        {"glide-unknown:s04"}, // no product is said: one question before the back is kneaded
		"inside-the-mouth":        {},
		"upper-rim-excerpt":       {},
		"two-weeks-of-sittings":   {"glide-unknown:s02"}, // no product is said
		"nothing-is-known":        {"glide-unknown:s02"}, // the amount was never stated
		"creases":                 {},
		"two-hands":               {},
		"waters-and-blends":       {"glide-unknown:s05"}, // what is in the palms was never measured
		"pick-by-the-hour":        {},
		"taught-for-the-evening":  {},
		"whole-face-on-a-client":  {},
		"opened-and-carried-home": {"flow"}, // down and up again twice, as the school closes
	} {
		t.Run(key, func(t *testing.T) {
			p, ctx := crafttest.Said(t, key)
			e := evaluation.Evaluate(p, ctx)
			found := []string{}
			for _, f := range e.Findings {
				found = append(found, f.ID)
			}
			assert.ElementsMatch(t, want, found)
		})
	}
}
