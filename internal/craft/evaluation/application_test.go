package evaluation_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
)

// A step that puts product on says how much the skin slid before: nothing at first, later what time has left of it
// by the product's half-life (handbook, chapter 4: each layer is amount x 2^(-t / half-life), at most 100).
func TestAnApplicationSaysTheSlipBeforeIt(t *testing.T) {
	ctx := crafttest.Studio()
	p := crafttest.Plan(15, using("spread-passes", "oil", 3), lasting("cheek-palms", 600), using("spread-passes", "oil", 3))
	p.Setting, p.Method.Drainage = "client", "none"
	e := evaluation.Evaluate(p, ctx)
	first, work, second := e.Occurrences[0], e.Occurrences[1], e.Occurrences[2]
	require.NotNil(t, first.SlipBefore)
	assert.Zero(t, *first.SlipBefore)
	assert.Nil(t, work.SlipBefore, "a stroke that puts nothing on")
	require.NotNil(t, second.SlipBefore)
	half := ctx.Products["oil"].HalfLifeMinutes()
	left := first.SlipEnd * math.Pow(2, -(second.Start-first.End)/60/half)
	assert.InDelta(t, left, *second.SlipBefore, 0.01)
	assert.Greater(t, second.SlipStart, *second.SlipBefore)
}
