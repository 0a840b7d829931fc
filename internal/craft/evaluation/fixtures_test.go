package evaluation_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// worked is what a fixture comes to, by hand from the formula of the handbook,
// chapter 3: sides x sets x reps x sum(parts) + (sides-1) x 3. Tools are picked up
// at 6 s, gloves go on or off at 30 s, the hands leave the face or come back at
// 2 s. Slip is the share of a full dose that the spreading puts on, over the
// regions it crosses, fading by half in the form's half-life (chapter 4).
type worked struct {
	seconds            []int
	rounds             map[string]int
	tools, gloves      int // pick-ups, changes of gloves
	product            string
	mL, slip, halfLife float64
	last               string            // the last step that slides on that film
	explained          map[string]string // what the plan's own checks say, and why it stays
}

const pumps = 3 * (4 + 7) // three breaths of 4 s in, 7 s out

var fixtures = map[string]worked{
	"drainage-only": {
		seconds: []int{6 * 10, 50, pumps, 8 * 5 / 2, 8 * 5 / 2, 8 * 5 / 2, 8 * 5 / 2, 8 * 2, 20 * 4, 20 * 4, 10 * 5, 8 * 2, 8 * 5 / 2, 8 * 5 / 2, 8 * 5 / 2, 10 * 5, 8 * 5 / 2, pumps, 60},
	},
	"classic-cream": {
		// inherited threes: 3 x (9+2), 3 x 3.5, 3 x 3.5, 3 x 3, 3 x 5, 3 x 8, 3 x 2, 3 x (6+2) ...
		seconds: []int{4 * 10, 40, 3 * 11, 11, 11, 9, 15, 24, 6, 24, 10, 5, 5, 5, 5, 15, 18, 27, 9, 4 * 10, 90},
		rounds:  map[string]int{"points": 3},
		product: "cream", mL: 3 * 1.5, slip: 100, halfLife: 14, last: "s19",
		explained: map[string]string{
			"glide-slippery:s06": "friction is worked on fresh cream here; the film is thinnest at the end, where nothing kneads",
			"glide-slippery:s09": "the scissor over the nose, the same",
			"glide-slippery:s11": "the chin pinch, the same",
		},
	},
	"stone-one-side": {
		// one side at a time: 4 x (5+3), 5 x (5+1), 5 x (5+1), 5 x 5
		seconds: []int{4 * 10, 40, 3 * 11, pumps, 5 * 5, 6 * 5 / 2, 32, 30, 30, 25, 30, 32, 30, 30, 25, 4 * 7, 6 * 5 / 2, 5 * 5, pumps, 60},
		tools:   2,
		product: "oil", mL: 4, slip: 100, halfLife: 25, last: "s18",
		explained: map[string]string{"flow": "one whole side, a look, and the other: the hands go back to the start once more"},
	},
	"eye-and-brow": {
		// exercises 5 x (2+5+1), 4 places x 3 s x 2 senses x 3 rounds, 5 x (5+1); in turns 2 x 5 x (4+1.5) + 3, 2 x 3 x 6 + 3, 2 x 8 x 2.5 + 3
		seconds: []int{3 * 10, 35, 40, 40, 72, 30, 2 * 7, 20, 40, 58, 39, 43, 6 * 7, 4 * 10, 90},
		product: "oil", mL: 2, slip: 100 * 2 / (4 * 0.78), halfLife: 25, last: "s13",
		explained: map[string]string{"speed-soothing:s11": "a travelling vibration creeps; the range is for stroking"},
	},
	"jaw-and-mouth": {
		// 3 x (4+4), in turns 2 x 3 x (6+3) + 3, 2 x 4 x (6+4) + 3; wash 30; in turns 2 x 30 + 3, 2 x 10 + 3, 2 x 10 + 3
		seconds: []int{4 * 10, 12, 2 * 11, pumps, 5 * 5, 15, 24, 57, 83, 30, 63, 23, 23, 30, 45, 5 * 5, 15, 25, pumps, 60},
		gloves:  2,
		product: "oil", mL: 100.0 / 30, slip: 100 * (100.0 / 30) / 4, halfLife: 25, last: "s18",
	},
	"lips-and-folds": {
		// in turns 2 x 30 + 3, 2 x 3 x (3+3) + 3; 3 x (5+10+5), 8 x (2+2+1); in turns 2 x 8 x (1.5+1) + 3
		seconds: []int{4 * 10, 30, 63, 39, 60, 40, 2 * 11, pumps, 25, 15, 15, 23, 43, 36, 24, 4 * 7, 15, 15, 25, pumps, 60},
		product: "serum", mL: 6 * 0.5, slip: 100, halfLife: 16, last: "s19",
	},
	"flick-and-scoop": {
		// in turns 2 x 6 x 3.5 + 3; 5 x 4; 5 x (3.5+1); in turns 2 x 30 + 3; 6 x (3+3); in turns 2 x 5 x 3.5 + 3; 5 x 5; 2 x 8 x 2.5 + 3; 8 x 3
		seconds: []int{3 * 10, 30, 3 * 11, 45, 20, 23, 63, 36, 38, 25, 43, 24, 4 * 10, 60},
		product: "oil", mL: 4, slip: 100, halfLife: 25, last: "s12",
	},
	"two-minute-oil": {
		seconds: []int{10, 2 * 8, 4 * 5, 21, 5 * 7},
		product: "light-oil", mL: 5.0 / 30, slip: 100 * (5.0 / 30) / (0.25 * 0.94), halfLife: 25, last: "s05",
	},
	"twin-ball-lines": {
		// in turns 2 x 3 sets x 3 passes x (1.2 + 0.8 back) + 3, thrice; 2 x 3 x 3 + 3; in turns 2 x 6 x 3.5 + 3
		seconds: []int{3 * 10, 20, 39, 39, 39, 21, 2 * 11, 21, 45, 21, 4 * 10, 60},
		tools:   1,
		product: "oil", mL: 3, slip: 75, halfLife: 25, last: "s10",
	},
	"sinus-gentle": {
		// rounds place by place: 2 x 2 x 3 x 1.2, 3 x (3 x 1 + 2), 3 x 4 x 1; 3 x 4 x 3 x 1.2, thrice
		seconds: []int{6 * 10, 40, pumps, 14, 15, 12, 10, 10, 10, 43, 43, 43, 12, 15, 14, pumps, 6 * 10, 125},
		rounds:  map[string]int{"sinus": 4},
	},
	"fascia-and-crease": {
		// in turns 2 x 3 x (4+8) + 3; until 90; 60; in turns 2 x 60 + 3; 3 x 5; in turns 2 x 3 x (2+5) + 3, twice; 2 x 30 + 3; 3 x 6
		seconds:   []int{5 * 10, 12, 75, 90, 60, 123, 15, 45, 45, 63, 18, 4 * 10, 60},
		explained: map[string]string{"hands-to-eyes:s08": "from the scalp to the crow's feet: the hands want washing in between"},
	},
	"event-glow": {
		seconds: []int{4 * 10, 40, 2 * 11, pumps, 25, 15, 15, 28, 28, 20, 21, 4 * 7, 4 * 5, 10, 90, 480, 40, 2 * 8, 60},
		tools:   2,
		product: "serum", mL: 3, slip: 100, halfLife: 16, last: "s13",
	},
}

// Twelve protocols of very different schools, each with its figures by hand.
func TestFixtures(t *testing.T) {
	require.Len(t, crafttest.FixtureKeys(t), len(fixtures))
	for key, want := range fixtures {
		t.Run(key, func(t *testing.T) {
			p, ctx := crafttest.Fixture(t, key)
			e := evaluation.Evaluate(p, ctx)
			require.Len(t, e.Steps, len(want.seconds))
			sum := 0
			for i, s := range want.seconds {
				assert.Equal(t, s, e.Steps[i].Seconds, "%s, %s", e.Steps[i].ID, e.Steps[i].Name)
				times := want.rounds[p.Steps[i].Round]
				sum += s * max(times, 1)
			}
			gloves, travel := 0, 0.0
			for vi, v := range e.Occurrences {
				if vi > 0 && v.Gloves != e.Occurrences[vi-1].Gloves {
					gloves++
				}
				travel += naiveTravel(e, vi, p)
			}
			assert.Equal(t, want.tools, e.ToolChanges, "tools picked up")
			assert.Equal(t, want.gloves, gloves, "changes of gloves")
			assert.InDelta(t, float64(sum+6*want.tools+30*want.gloves)+travel, e.Seconds, 1e-6)
			assert.LessOrEqual(t, e.Seconds, float64(e.SlotSeconds))
			assert.GreaterOrEqual(t, e.Seconds, float64(e.SlotSeconds-evaluation.FitGrace))
			if want.product != "" {
				for _, pl := range e.Products {
					if pl.Product == want.product {
						assert.InDelta(t, want.mL, pl.ML, 1e-9)
						assert.InDelta(t, want.mL*ctx.Products[pl.Product].Density, pl.G, 1e-9)
					}
				}
				on, off := visitOf(e, want.product, p), visitNamed(e, want.last, p)
				minutes := (off.End - on.Start) / 60
				assert.InDelta(t, want.slip*math.Exp2(-minutes/want.halfLife), off.SlipEnd, 1e-6, "slip under %s", want.last)
			}
			for _, f := range e.Findings {
				assert.Contains(t, want.explained, f.ID, "%v", f.Values)
			}
			assert.Len(t, e.Findings, len(want.explained))
		})
	}
}

// naiveTravel is the way between two visits, worked out anew from the landmarks:
// 2 s when the hands leave the face or come back, else distance at 8 cm/s, at most 2 s.
func naiveTravel(e *evaluation.Evaluation, vi int, p *protocol.Protocol) float64 {
	if vi == 0 {
		return 0
	}
	now, before := &e.Steps[e.Occurrences[vi].Step], &e.Steps[e.Occurrences[vi-1].Step]
	if e.Occurrences[vi].HandsLifted {
		return 2
	}
	if len(now.Path) == 0 {
		return 0
	}
	place := func(r *evaluation.Resolved, s evaluation.Stop, pass evaluation.SideRun) anatomy.Point {
		id, _ := anatomy.Lookup(s.Zone)
		z, side := id.Zone(), pass.Side
		if s.Side != "" {
			side = s.Side
		}
		x := z.Centre.X
		switch {
		case !z.Paired || side == "mid":
			x = 0
		case side == "right":
			x = -x
		}
		return anatomy.Point{X: x, Y: z.Centre.Y, Z: z.Centre.Z}
	}
	pv, v := &e.Occurrences[vi-1], &e.Occurrences[vi]
	if len(before.Path) == 0 {
		return 0
	}
	end := before.Path[len(before.Path)-1]
	if n := len(before.Parts); n > 0 && before.Parts[n-1].Kind == stroke.Back {
		end = before.Path[0]
	}
	from, to := place(before, end, pv.SideRuns[len(pv.SideRuns)-1]), place(now, now.Path[0], v.SideRuns[0])
	cm := math.Sqrt((from.X-to.X)*(from.X-to.X) + (from.Y-to.Y)*(from.Y-to.Y) + (from.Z-to.Z)*(from.Z-to.Z))
	return min(cm/8, 2)
}

// visitOf is the visit with which a product goes onto the skin.
func visitOf(e *evaluation.Evaluation, product string, p *protocol.Protocol) *evaluation.Occurrence {
	taken := false
	for vi := range e.Occurrences {
		v := &e.Occurrences[vi]
		u := p.Steps[v.Step].Use
		taken = taken || u != nil && u.Product == product
		if taken && len(e.Steps[v.Step].Path) > 0 {
			return v
		}
	}
	return nil
}

func visitNamed(e *evaluation.Evaluation, id string, p *protocol.Protocol) *evaluation.Occurrence {
	return &e.Occurrences[func() int {
		for vi := range e.Occurrences {
			if p.Steps[e.Occurrences[vi].Step].ID == id {
				return vi
			}
		}
		return -1
	}()]
}
