package treatment

import (
	"testing"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/studio"
)

// All the changes want their yes: the gentler ones in one go, the others one by
// one, what the protocol says for the skin none.
func TestAcceptedChanges(t *testing.T) {
	gentler := adjusting.Adjustment{ID: "a", Gentler: true}
	other := adjusting.Adjustment{ID: "b"}
	skin := adjusting.Adjustment{ID: "c", Skin: true}
	for _, c := range []struct {
		accepted AcceptedAdjustments
		changes  []adjusting.Adjustment
		want     bool
	}{
		{AcceptedAdjustments{}, nil, true},
		{AcceptedAdjustments{}, []adjusting.Adjustment{skin}, true},
		{AcceptedAdjustments{}, []adjusting.Adjustment{gentler}, false},
		{AcceptedAdjustments{Gentler: true}, []adjusting.Adjustment{gentler, skin}, true},
		{AcceptedAdjustments{Adjustments: []string{"a"}}, []adjusting.Adjustment{gentler}, true},
		{AcceptedAdjustments{Gentler: true}, []adjusting.Adjustment{gentler, other}, false},
		{AcceptedAdjustments{Gentler: true, Adjustments: []string{"b"}}, []adjusting.Adjustment{gentler, other, skin}, true},
		{AcceptedAdjustments{Adjustments: []string{"x"}}, []adjusting.Adjustment{other}, false},
	} {
		assert.Equal(t, c.want, c.accepted.all(c.changes), "%+v of %+v", c.accepted, c.changes)
	}
	assert.True(t, (&studio.PlanOptions{}).None())
	for _, w := range []studio.PlanOptions{{SkipSkinVariants: true}, {Practitioner: adjusting.PractitionerState{LongNails: true}}, {Overrides: []studio.Override{{}}}, {Instead: map[string]string{"a": "b"}}} {
		assert.False(t, w.None(), "%+v", w)
	}
}
