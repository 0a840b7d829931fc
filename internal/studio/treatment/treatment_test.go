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
	gentler := adjusting.Change{ID: "a", Gentler: true}
	other := adjusting.Change{ID: "b"}
	skin := adjusting.Change{ID: "c", Skin: true}
	for _, c := range []struct {
		accepted Accepted
		changes  []adjusting.Change
		want     bool
	}{
		{Accepted{}, nil, true},
		{Accepted{}, []adjusting.Change{skin}, true},
		{Accepted{}, []adjusting.Change{gentler}, false},
		{Accepted{Gentler: true}, []adjusting.Change{gentler, skin}, true},
		{Accepted{Changes: []string{"a"}}, []adjusting.Change{gentler}, true},
		{Accepted{Gentler: true}, []adjusting.Change{gentler, other}, false},
		{Accepted{Gentler: true, Changes: []string{"b"}}, []adjusting.Change{gentler, other, skin}, true},
		{Accepted{Changes: []string{"x"}}, []adjusting.Change{other}, false},
	} {
		assert.Equal(t, c.want, c.accepted.all(c.changes), "%+v of %+v", c.accepted, c.changes)
	}
	assert.True(t, (&studio.Wanted{}).None())
	for _, w := range []studio.Wanted{{AnySkin: true}, {Hands: adjusting.Hands{LongNails: true}}, {Overrules: []studio.Overrule{{}}}, {Instead: map[string]string{"a": "b"}}} {
		assert.False(t, w.None(), "%+v", w)
	}
}
