package anatomy_test

import (
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
		z := anatomy.ID(i)
		if z.Zone().Key == "throat" || z.Zone().Node.IsRouteEnd() {
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
		assert.False(t, anatomy.Leads(anatomy.ID(i), anatomy.ID(i)), "%s leads back to itself", anatomy.Zones[i].Key)
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
