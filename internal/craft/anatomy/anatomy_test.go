package anatomy_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
)

func id(t testing.TB, key string) anatomy.ID {
	t.Helper()
	z, ok := anatomy.Lookup(key)
	require.True(t, ok, "no zone %q", key)
	return z
}

func point(t testing.TB, key string) anatomy.Point { return id(t, key).Zone().Centre }

// Sizes: Farkas, Anthropometry of the Head and Face, adults (from memory).
func TestLandmarksFitAdultSizes(t *testing.T) {
	widest := func(key string) float64 {
		w := 0.0
		for _, p := range id(t, key).Zone().Outline {
			w = max(w, p[0])
		}
		return 2 * w
	}
	top := func(key string, mid bool) float64 {
		z, y := id(t, key).Zone(), -99.0
		outline := z.Outline
		if mid {
			outline = z.MidOutline
		}
		for _, p := range outline {
			y = max(y, p[1])
		}
		return y
	}
	bottom := func(key string) float64 {
		y := 99.0
		for _, p := range id(t, key).Zone().Outline {
			y = min(y, p[1])
		}
		return y
	}
	cases := []struct {
		what    string
		got     float64
		lo, hi  float64
		because string
	}{
		{"breadth across the cheekbones", widest("cheekbone"), 13.0, 13.9, "Farkas"},
		{"breadth across the jaw angles", 2 * point(t, "jaw-angle").X, 9.5, 10.5, "Farkas"},
		{"hairline to chin", point(t, "hairline").Y + 0.6 - bottom("chin"), 17.5, 18.7, "Farkas; the midline hairline lies a little above the paired landmark"},
		{"hairline edge to chin", (top("hairline", true)+17.4)/2 - bottom("chin"), 17.5, 18.7, "Farkas"},
		{"nose root to chin", top("nose-bridge", false) - 0.2 - bottom("chin"), 11, 12.5, "Farkas"},
		{"between inner eye corners", 2 * point(t, "inner-eye-corner").X, 3.2, 3.2, "Farkas"},
		{"between outer eye corners", 2 * point(t, "outer-eye-corner").X, 8.8, 9.2, "Farkas, about 9"},
		{"mouth", 2 * point(t, "mouth-corner").X, 5.0, 5.4, "Farkas"},
		{"ear lobe to collarbone hollow", anatomy.Distance(point(t, "ear-lobe"), point(t, "collarbone-hollow")), 14, 16, "Farkas"},
		{"collarbone", widest("collarbone")/2 - 1.4, 14, 15, "Farkas"},
	}
	for _, c := range cases {
		assert.True(t, c.got >= c.lo-1e-9 && c.got <= c.hi+1e-9, "%s = %.2f cm, want %v to %v (%s)", c.what, c.got, c.lo, c.hi, c.because)
	}
}

// A front picture understates cheek to ear badly (handbook, zones).
func TestDistanceIsMeasuredInThreeDimensions(t *testing.T) {
	a, b := point(t, "mid-cheek"), point(t, "front-of-ear")
	flat := anatomy.Distance(anatomy.Point{X: a.X, Y: a.Y}, anatomy.Point{X: b.X, Y: b.Y})
	assert.Greater(t, anatomy.Distance(a, b), 1.8*flat)
	assert.InDelta(t, 5, anatomy.Distance(anatomy.Point{}, anatomy.Point{X: 3, Z: 4}), 1e-12)
}

// Common practice: the throat has no work; everything else that lymph leaves reaches home.
func TestEveryZoneReachesHome(t *testing.T) {
	for i := range anatomy.Zones {
		z := anatomy.At(i)
		if z.Zone().Key == "throat" || z.Zone().Node.IsRouteEnd() {
			continue
		}
		if slices.Contains([]string{"belly", "navel", "ribs", "back", "hip", "thigh", "knee", "foot"}, z.Zone().Key) {
			assert.Empty(t, anatomy.NodesOf(z), "body add-ons have no node group (handbook, chapter 1)")
			continue
		}
		home := anatomy.Leads(z, id(t, "collarbone-hollow")) || anatomy.Leads(z, id(t, "armpit"))
		assert.True(t, home, "%s does not reach home", z.Zone().Key)
		assert.NotEmpty(t, anatomy.NodesOf(z), "%s empties into no node group", z.Zone().Key)
	}
}

// The back of the neck is the one place where anatomy (up to the occipital
// nodes) and practice (down beside the spine) run both ways.
func TestRoutesHaveNoOtherLoop(t *testing.T) {
	for i := range anatomy.Zones {
		if key := anatomy.Zones[i].Key; key == "occiput" || key == "back-neck" {
			continue
		}
		assert.False(t, anatomy.Leads(anatomy.At(i), anatomy.At(i)), "%s leads back to itself", anatomy.Zones[i].Key)
	}
}

// Handbook, rules of thumb 2: forward along the routes, never back up; circles
// under the jaw either way; a transfer between node groups is no fault.
func TestWayOf(t *testing.T) {
	cases := []struct {
		from, to string
		want     anatomy.Way
	}{
		{"under-eye", "temple", anatomy.Forward},
		{"temple", "front-of-ear", anatomy.Forward},
		{"side-neck", "collarbone-hollow", anatomy.Forward},
		{"collarbone-hollow", "side-neck", anatomy.Backward},
		{"side-neck", "front-of-ear", anatomy.Backward},
		{"temple", "forehead-centre", anatomy.Backward},
		{"under-jaw", "under-chin", anatomy.Level},
		{"below-ear", "under-jaw", anatomy.Level},
		{"front-of-ear", "behind-ear", anatomy.Level},
		{"chin", "hairline", anatomy.Level},
	}
	for _, c := range cases {
		assert.Equal(t, c.want, anatomy.FlowDirection(id(t, c.from), id(t, c.to)), "%s to %s", c.from, c.to)
	}
}

// Ceilings of the handbook's table, chapter 1 (common practice): the absolute
// ones and the exceptions for a still hold.
func TestCeilings(t *testing.T) {
	absolute := map[string]int{"upper-eyelid": 1, "lower-eyelid": 1, "under-eye": 1, "throat": 0, "front-neck": 1}
	for i := range anatomy.Zones {
		z := &anatomy.Zones[i]
		want, ok := absolute[z.Key]
		assert.Equal(t, ok, z.Absolute, z.Key)
		if ok {
			assert.Equal(t, [2]int{want, want}, [2]int{z.Ceiling, z.StillCeiling}, z.Key)
		}
		assert.GreaterOrEqual(t, z.StillCeiling, z.Ceiling, z.Key)
		assert.Equal(t, z.Paired || z.Midline, true, z.Key)
	}
	for key, want := range map[string][2]int{"temple": {3, 4}, "behind-ear": {2, 3}, "cheekbone": {4, 5}, "shoulder": {5, 5}, "side-neck": {2, 2}} {
		z := id(t, key).Zone()
		assert.Equal(t, want, [2]int{z.Ceiling, z.StillCeiling}, key)
	}
}

// A still press may be one deeper on bone or muscle, never on the mouth, the neck or the
// chest, and never beyond 5 (handbook, chapter 1, common practice).
func TestStillCeilings(t *testing.T) {
	for i := range anatomy.Zones {
		z := &anatomy.Zones[i]
		want := z.Ceiling
		if z.Ceiling == 3 || z.Ceiling == 4 {
			want++
		}
		soft := z.Key == "belly" || z.Key == "navel" // neither bone nor the belly of a muscle
		if z.Region == anatomy.Mouth || z.Region == anatomy.Neck || z.Region == anatomy.Chest || soft {
			want = z.Ceiling
		}
		if z.Key != "behind-ear" { // the chapter names it by itself
			assert.Equal(t, want, z.StillCeiling, z.Key)
		}
	}
}

// A zone is seen from a side when the drawing of that side has it. A few that everybody
// can find on their own face (from memory), and the shape of every outline.
func TestWhereAZoneIsSeen(t *testing.T) {
	for key, want := range map[string]string{
		"cheekbone": "front left right", "ear-opening": "left right", "behind-ear": "left right back",
		"crown": "front left right back", "mouth-lower": "mouth", "hand": "",
	} {
		z := id(t, key).Zone()
		for _, v := range anatomy.Views {
			assert.Equal(t, slices.Contains(strings.Fields(want), string(v)), z.Seen(v), "%s from %s", key, v)
		}
	}
	for i := range anatomy.Zones {
		z := &anatomy.Zones[i]
		for name, outline := range map[string][][2]float64{"front": z.Outline, "side": z.Profile, "back": z.Back, "mouth": z.Mouth} {
			if len(outline) > 0 {
				assert.GreaterOrEqual(t, len(outline), 3, "%s from the %s is a patch, not a line", z.Key, name)
			}
		}
	}
}

// The groups are listed in the order in which they can be opened, and lymph that may run
// two ways is listed once for each group that it may reach.
func TestNodesOf(t *testing.T) {
	for i, g := range anatomy.NodeGroups {
		assert.Equal(t, i, g.Rank())
		if !g.IsRouteEnd() {
			assert.Less(t, g.Next().Rank(), i, "%s is opened after what it empties into", g)
		}
	}
	assert.Equal(t, -1, anatomy.NodeGroup("knee").Rank())
	for i := range anatomy.Zones {
		groups := anatomy.NodesOf(anatomy.At(i))
		for n, g := range groups {
			assert.NotContains(t, groups[:n], g, anatomy.Zones[i].Key)
		}
	}
	assert.ElementsMatch(t, []anatomy.NodeGroup{anatomy.Terminus, anatomy.Axillary}, anatomy.NodesOf(id(t, "shoulder")))
}
