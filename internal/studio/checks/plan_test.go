package checks

import (
	"testing"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/protocol"
)

// A step whose sides were parted by adjusting comes from the published one.
func TestStepOf(t *testing.T) {
	p := &protocol.Protocol{Steps: []protocol.Step{{ID: "a"}, {ID: "b-left"}}}
	for id, want := range map[string]string{"a": "a", "a-left": "a", "a-right": "a", "b-left": "b-left", "b-left-left": "b-left", "x-left": "x-left", "x": "x"} {
		assert.Equal(t, want, stepOf(p, id))
	}
}
