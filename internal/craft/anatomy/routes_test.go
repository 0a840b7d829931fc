package anatomy_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
)

// The anatomical edges of the handbook's chapter 1, as it lists them (there from
// memory of Gray's Anatomy): each is there and is no mere way of hands.
func TestTheHandbooksAnatomicalEdges(t *testing.T) {
	edges := map[[2]string]bool{}
	for _, r := range anatomy.Routes() {
		edges[[2]string{r.From, r.To}] = r.Practice
	}
	for to, from := range map[string]string{
		"front-of-ear":      "hairline, forehead, brow, temple, upper-eyelid, outer-eye-corner, orbital-rim, upper-orbital-rim, lower-eyelid, cheekbone, ear, scalp-side, crown, jaw-angle",
		"under-jaw":         "forehead-centre, glabella, brow-base, inner-eye-corner, under-eye, nose-bridge, nose-side, mid-cheek, under-cheekbone, nasolabial, upper-lip, lip-centre-upper, mouth-corner, lower-lip, lower-cheek, jawline, under-chin",
		"under-chin":        "chin, lip-centre-lower",
		"behind-ear":        "ear, crown",
		"occiput":           "skull-edge, nape, back-neck, crown",
		"below-ear":         "front-of-ear, under-jaw, behind-ear, occiput, ear-lobe, jaw-angle, front-neck",
		"side-neck":         "below-ear",
		"collarbone-hollow": "side-neck, shoulder, below-collarbone",
		"armpit":            "shoulder, chest, breastbone",
		"below-collarbone":  "chest, breastbone",
	} {
		for _, f := range strings.Split(from, ", ") {
			practice, there := edges[[2]string{f, to}]
			assert.True(t, there, "%s to %s", f, to)
			assert.False(t, practice, "%s to %s is anatomy", f, to)
		}
	}
	// The ways of hands that it names, step by step.
	for _, chain := range []string{
		"forehead-centre, forehead, temple, front-of-ear", "inner-eye-corner, orbital-rim, temple", "nose-side, mid-cheek, cheekbone, front-of-ear", "mid-cheek, under-cheekbone, front-of-ear",
		"mouth-corner, lower-cheek, front-of-ear", "chin, jawline, jaw-angle, ear-lobe", "under-chin, under-jaw, below-ear", "front-of-ear, below-ear, side-neck, collarbone-hollow", "behind-ear, side-neck", "occiput, back-neck, collarbone-hollow",
	} {
		way := strings.Split(chain, ", ")
		for i := 0; i+1 < len(way); i++ {
			_, there := edges[[2]string{way[i], way[i+1]}]
			assert.True(t, there, "%s to %s", way[i], way[i+1])
		}
	}
	seen := map[[2]string]bool{}
	for _, r := range anatomy.Routes() {
		e := [2]string{r.From, r.To}
		assert.False(t, seen[e], "%v twice", e)
		seen[e] = true
		assert.True(t, anatomy.Leads(id(t, r.From), id(t, r.To)))
		assert.NotEqual(t, "throat", r.From, "nothing is worked at the throat")
	}
}

// The node groups of chapter 1, their doors, and the order in which lymph passes
// through them on its drainage route.
func TestNodeGroups(t *testing.T) {
	for g, want := range map[anatomy.NodeGroup]struct {
		door string
		next anatomy.NodeGroup
		home bool
	}{
		anatomy.Preauricular:  {"front-of-ear", anatomy.DeepCervical, false},
		anatomy.Submandibular: {"under-jaw", anatomy.DeepCervical, false},
		anatomy.Submental:     {"under-chin", anatomy.Submandibular, false},
		anatomy.Mastoid:       {"behind-ear", anatomy.DeepCervical, false},
		anatomy.Occipital:     {"occiput", anatomy.DeepCervical, false},
		anatomy.DeepCervical:  {"side-neck", anatomy.Terminus, false},
		anatomy.Terminus:      {"collarbone-hollow", "", true},
		anatomy.Axillary:      {"armpit", "", true},
	} {
		assert.Equal(t, want.door, g.EntryZone(), g)
		assert.Equal(t, want.next, g.Next(), g)
		assert.Equal(t, want.home, g.IsRouteEnd(), g)
		assert.Equal(t, g, id(t, want.door).Zone().Node, "the door lies in its group")
		steps := 0
		for at := g; !at.IsRouteEnd(); at = at.Next() {
			steps++
			require.Less(t, steps, 6, "%s never comes home", g)
			assert.Greater(t, at.Next().Rank(), -1)
		}
	}
}

// The shortest way round: straight to the nodes where it is free, by the next
// nodes where it is not, nothing where all is closed or too far.
func TestWayTo(t *testing.T) {
	way := func(from string, goals []string, closed ...string) []string {
		list := anatomy.PathToNodes(id(t, from),
			func(z anatomy.ID) bool { return !slices.Contains(closed, z.Zone().Key) },
			func(z anatomy.ID) bool { return slices.Contains(goals, z.Zone().Key) })
		if list == nil {
			return nil
		}
		out := []string{}
		for _, z := range list {
			out = append(out, z.Zone().Key)
		}
		return out
	}
	nodes := []string{"front-of-ear", "under-jaw", "behind-ear", "side-neck", "collarbone-hollow", "armpit"}
	assert.Equal(t, []string{"under-jaw"}, way("mid-cheek", nodes))
	assert.Equal(t, []string{}, way("under-jaw", nodes), "it is there already")
	round := way("mid-cheek", nodes, "under-jaw")
	require.NotNil(t, round)
	assert.Equal(t, "front-of-ear", round[len(round)-1])
	assert.LessOrEqual(t, len(round), 2)
	assert.Equal(t, []string{"front-of-ear"}, way("forehead", nodes))
	far := way("forehead", nodes, "front-of-ear")
	if far != nil {
		assert.NotContains(t, far, "front-of-ear")
		assert.LessOrEqual(t, len(far), 4)
	}
	assert.Nil(t, way("mid-cheek", []string{"armpit"}), "from the cheek nothing runs to the armpit within four zones")
	assert.Nil(t, way("shoulder", nodes, "collarbone-hollow", "armpit"), "with both homes closed the shoulder has none")
	assert.Equal(t, []string{"armpit"}, way("shoulder", nodes, "collarbone-hollow"))
	assert.Equal(t, []string{"collarbone-hollow"}, way("shoulder", nodes, "armpit"))
	for _, from := range anatomy.Zones { // whatever is asked, a way is made of routes only
		got := way(from.Key, []string{"collarbone-hollow"})
		at := from.Key
		for _, to := range got {
			assert.True(t, slices.ContainsFunc(anatomy.Routes(), func(r anatomy.Route) bool { return r.From == at && r.To == to }), "%s to %s", at, to)
			at = to
		}
	}
}
