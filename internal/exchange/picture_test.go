package exchange

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A picture shows a square of the body: nothing is drawn beyond its edge, and what lies inside stays whole
// (figures by hand).
func TestAPictureIsCutAtItsEdge(t *testing.T) {
	box := [4]float64{0, 0, 10, 10}
	for _, c := range []struct {
		name           string
		a, b, from, to [2]float64
		seen           bool
	}{
		{"inside", [2]float64{1, 2}, [2]float64{8, 9}, [2]float64{1, 2}, [2]float64{8, 9}, true},
		{"out at the right", [2]float64{5, 5}, [2]float64{15, 5}, [2]float64{5, 5}, [2]float64{10, 5}, true},
		{"in from above", [2]float64{4, -4}, [2]float64{4, 4}, [2]float64{4, 0}, [2]float64{4, 4}, true},
		{"across", [2]float64{-5, 5}, [2]float64{15, 5}, [2]float64{0, 5}, [2]float64{10, 5}, true},
		{"past the corner", [2]float64{-5, 4}, [2]float64{4, -6}, [2]float64{}, [2]float64{}, false},
		{"beside", [2]float64{12, 1}, [2]float64{12, 9}, [2]float64{}, [2]float64{}, false},
	} {
		from, to, seen := within(c.a, c.b, box)
		require.Equal(t, c.seen, seen, c.name)
		if seen {
			for i := range from {
				assert.InDelta(t, c.from[i], from[i], 1e-9, c.name)
				assert.InDelta(t, c.to[i], to[i], 1e-9, c.name)
			}
		}
	}
	square := [][2]float64{{-5, -5}, {5, -5}, {5, 5}, {-5, 5}}
	for axis := range 2 {
		square = cut(square, axis, 0, 1)
	}
	assert.ElementsMatch(t, [][2]float64{{0, 0}, {5, 0}, {5, 5}, {0, 5}}, square, "a quarter of it is left")
	assert.Empty(t, cut([][2]float64{{-5, 0}, {-1, 0}, {-1, 3}}, 0, 0, 1), "nothing of it is inside")
}

// A drawing's paths become lines: curves through their ends, closed paths back to where they began, the
// right view the left one mirrored.
func TestAPathBecomesLines(t *testing.T) {
	lines := flatten("M1 2L3 2H5V6Z M0 0C0 1 1 1 1 0", 1)
	require.Len(t, lines, 2)
	assert.Equal(t, [][2]float64{{1, 2}, {3, 2}, {5, 2}, {5, 6}, {1, 2}}, lines[0])
	curve := lines[1]
	require.Len(t, curve, curveParts+1)
	assert.Equal(t, [2]float64{1, 0}, curve[curveParts])
	assert.InDelta(t, 0.75, curve[curveParts/2][1], 1e-9, "half way: 3/8 of each handle's height, twice")
	mirrored := flatten("M1 2L3 2Z", -1)
	assert.Equal(t, [][2]float64{{-1, 2}, {-3, 2}, {-1, 2}}, mirrored[0])
}
