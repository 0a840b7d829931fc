package figure_test

import (
	"encoding/json"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/figure"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// step is one stroke of the library as a step, changed.
func step(t *testing.T, key string, change func(*protocol.Step)) *evaluation.Resolved {
	t.Helper()
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Tools: map[string]protocol.Tool{}}
	require.Contains(t, ctx.Strokes, key)
	s := protocol.Step{ID: key, Stroke: key, Phase: "work"}
	if change != nil {
		change(&s)
	}
	return evaluation.Resolve(&protocol.Protocol{Setting: "self", DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}, Steps: []protocol.Step{s}}, 0, ctx)
}

var numbers = regexp.MustCompile(`-?[0-9.]+`)

// corners are the points of a path.
func corners(d string) [][2]float64 {
	var out [][2]float64
	all := numbers.FindAllString(d, -1)
	for i := 0; i+1 < len(all); i += 2 {
		x, _ := strconv.ParseFloat(all[i], 64)
		y, _ := strconv.ParseFloat(all[i+1], 64)
		out = append(out, [2]float64{x, y})
	}
	return out
}

// onEye reports whether a point of the front view lies well inside an open eye, the red of the lips
// or a nostril, as the drawing of the face has them.
func onEye(x, y float64) bool {
	for _, o := range [][4]float64{{3.1, -11.15, 1.5, 0.8}, {0, -4.55, 2.35, 0.75}, {0.75, -7, 0.5, 0.4}} {
		if math.Hypot((math.Abs(x)-o[0])/o[2], (y-o[1])/o[3]) < 1 {
			return true
		}
	}
	return false
}

var named = []string{"upper-eyelid", "lower-eyelid", "upper-lip", "lower-lip", "lip-centre-upper", "lip-centre-lower"}

// What a colleague would see at once: no hand runs over an eye, a lip or a nostril unless the path
// names it (review of the strokes, section 4), in any stroke of the library.
func TestNoHandRunsOverAnEyeALipOrANostril(t *testing.T) {
	looked := 0
	for _, s := range stroke.Trade() {
		over := false
		for _, z := range s.Path {
			for _, n := range named {
				over = over || z == n
			}
		}
		if over || s.Family == stroke.Exercise {
			continue
		}
		r := step(t, s.Key, nil)
		if r.View != anatomy.FrontView {
			continue
		}
		for _, tr := range figure.Draw(r, r.View).Tracks {
			for _, k := range tr.Keys {
				looked++
				assert.Falsef(t, onEye(k.X, k.Y), "%s at %.1f s: %.1f, %.1f", s.Key, k.T, k.X, k.Y)
			}
		}
	}
	assert.Greater(t, looked, 5000)
}

// Paths that start in the middle stay on their side: they do not cross in an X at the chin (section 4).
func TestEachSideStaysOnItsSide(t *testing.T) {
	for _, key := range []string{"jaw-scissor", "towel-wipe", "jaw-drain", "mouth-scissor"} {
		for _, tr := range figure.Draw(step(t, key, nil), anatomy.FrontView).Tracks {
			for _, k := range tr.Keys {
				if tr.Side == "left" {
					assert.GreaterOrEqual(t, k.X, -0.7, key)
				} else if tr.Side == "right" {
					assert.LessOrEqual(t, k.X, 0.7, key)
				}
			}
		}
	}
}

// Hands reach from the crown to the feet (90 degrees) and turn at most 60 towards their path; palms,
// knuckles and heels never lie along a path across the face (section 4).
func TestHandsPointToTheFeet(t *testing.T) {
	for _, s := range stroke.Trade() {
		r := step(t, s.Key, nil)
		if r.Figure == stroke.FigureClient || r.View == anatomy.MouthView || r.Tool != nil {
			continue
		}
		switch s.Hand {
		case "flat palm", "cupped palm", "heel of hand", "fist knuckles", "backs of fingers", "all fingers", "finger pads":
		default:
			continue
		}
		for _, tr := range figure.Draw(r, r.View).Tracks {
			for _, k := range tr.Keys {
				assert.InDelta(t, 90, k.Turn, 60.5, "%s at %.1f s", s.Key, k.T)
			}
		}
	}
}

// In the mouth the finger comes in from the corner of its side (section 4).
func TestInTheMouthFingersComeFromTheCorner(t *testing.T) {
	d := figure.Draw(step(t, "mouth-upper-press", nil), anatomy.MouthView)
	require.NotEmpty(t, d.Tracks)
	for _, tr := range d.Tracks {
		want := map[string]float64{"left": 180, "right": 0}[tr.Side]
		for _, k := range tr.Keys {
			assert.InDelta(t, want, k.Turn, 0.5, tr.Side)
		}
	}
}

// Every stroke that touches the skin somewhere is drawn from its best view; tracks run through the
// repetition, forward in time.
func TestEveryStrokeIsDrawn(t *testing.T) {
	for _, s := range stroke.Trade() {
		r := step(t, s.Key, nil)
		for _, view := range anatomy.Views {
			d := figure.Draw(r, view)
			if len(r.Path) > 0 && view == r.View {
				visible := false
				for _, p := range r.Path {
					id, _ := anatomy.Lookup(p.Zone)
					visible = visible || id.Zone().Seen(view)
				}
				assert.NotEmpty(t, d.Marks, s.Key)
				if !visible { // its zones are named instead
					assert.NotContains(t, texts(&d), "1", s.Key)
					assert.Empty(t, d.Tracks, s.Key)
				}
			}
			for _, tr := range d.Tracks {
				for i, k := range tr.Keys {
					assert.True(t, k.T >= 0 && k.T <= d.Seconds+0.011, "%s: %.2f of %.2f s", s.Key, k.T, d.Seconds)
					if i > 0 {
						assert.GreaterOrEqual(t, k.T, tr.Keys[i-1].T-0.011, "%s", s.Key)
					}
				}
			}
			_, err := json.Marshal(d) // no number that is none
			assert.NoError(t, err, s.Key)
		}
	}
}

func texts(d *figure.Drawing) string {
	var out []string
	for _, m := range d.Marks {
		if m.Text != "" {
			out = append(out, m.Text)
		}
	}
	return strings.Join(out, " ")
}

// What each figure must show (section 4, the table of figures).
func TestWhatAFigureShows(t *testing.T) {
	count := func(d *figure.Drawing, want func(*figure.Trace) bool) (n int) {
		for i := range d.Marks {
			if want(&d.Marks[i]) {
				n++
			}
		}
		return n
	}
	t.Run("circles on the spot have their count in the middle and walk from place to place", func(t *testing.T) {
		r := step(t, "under-jaw-circles", nil)
		require.Equal(t, stroke.FigureCircle, r.Figure)
		d := figure.Draw(r, r.View)
		for _, p := range r.Parts {
			if p.Count > 1 {
				assert.Contains(t, texts(&d), strconv.Itoa(p.Count))
			}
		}
		lifted := 0
		for _, k := range d.Tracks[0].Keys {
			if k.Lift == 1 {
				lifted++
			}
		}
		assert.GreaterOrEqual(t, lifted, len(r.Path)-1)
	})
	t.Run("sides in turn are numbered 1 and 2 and told apart", func(t *testing.T) {
		d := figure.Draw(step(t, "stone-jaw", func(s *protocol.Step) { s.Sides = stroke.InTurns }), anatomy.FrontView)
		assert.Positive(t, count(&d, func(m *figure.Trace) bool { return m.Side == "left" }))
		assert.Positive(t, count(&d, func(m *figure.Trace) bool { return m.Side == "right" }))
		assert.Equal(t, 2, count(&d, func(m *figure.Trace) bool { return m.Text != "" && m.Fill == figure.Paper }))
	})
	t.Run("taps have twelve dots or more and no hand on a line", func(t *testing.T) {
		d := figure.Draw(step(t, "cheek-tapping", nil), anatomy.FrontView)
		assert.GreaterOrEqual(t, count(&d, func(m *figure.Trace) bool { return m.Flash > 0 }), 12)
		assert.Empty(t, d.Tracks)
		assert.InDelta(t, 6, d.Rate, 1) // 5 to 7 a second
	})
	t.Run("a hold has as many rings as pressure", func(t *testing.T) {
		for pressure := 1; pressure <= 4; pressure++ {
			d := figure.Draw(step(t, "point-temple", func(s *protocol.Step) { s.Pressure = &pressure }), anatomy.FrontView)
			rings := count(&d, func(m *figure.Trace) bool {
				return m.D != "" && m.Pen == figure.Ink && strings.Count(m.D, "C") == 4 && middle(m.D)[0] > 5 && middle(m.D)[0] < 6.6
			})
			assert.Equal(t, pressure, rings)
		}
	})
	t.Run("a stretch moves one centimetre, holds and comes back", func(t *testing.T) {
		d := figure.Draw(step(t, "masseter-stretch", nil), anatomy.FrontView)
		far := 0.0
		for _, a := range d.Tracks[0].Keys {
			for _, b := range d.Tracks[0].Keys {
				far = math.Max(far, math.Hypot(a.X-b.X, a.Y-b.Y))
			}
		}
		assert.InDelta(t, 1, far, 0.05)
	})
	t.Run("a pump pushes towards its node for the most of a pulse, then lets come back", func(t *testing.T) {
		d := figure.Draw(step(t, "collarbone-pumps", nil), anatomy.FrontView)
		most := 0.0
		for _, k := range d.Tracks[0].Keys {
			most = math.Max(most, k.Press)
		}
		assert.InDelta(t, 1, most, 0.2)
		r := step(t, "collarbone-pumps", nil)
		require.Equal(t, stroke.Breaths, r.Dose.Kind)
		assert.InDelta(t, r.Dose.In+r.Dose.Pause+r.Dose.Out, d.Seconds, 1e-9, "one repetition is a breath")
		for _, k := range d.Tracks[0].Keys {
			if k.T < r.Dose.In+r.Dose.Pause-0.01 {
				assert.Zero(t, k.Press, "nothing presses on the in-breath: %.1f s", k.T)
			}
		}
	})
	t.Run("hand over hand: two hands, one always on the skin", func(t *testing.T) {
		d := figure.Draw(step(t, "cheek-palms", nil), anatomy.FrontView)
		require.Len(t, d.Tracks, 4)
		for at := 0.05 * d.Seconds; at < d.Seconds*0.95; at += d.Seconds / 50 {
			assert.True(t, onSkin(&d.Tracks[0], at) || onSkin(&d.Tracks[1], at), "at %.1f s", at)
		}
	})
}

// middle of the box round a path.
func middle(d string) [2]float64 {
	low, high := [2]float64{1e9, 1e9}, [2]float64{-1e9, -1e9}
	for _, p := range corners(d) {
		for i := range p {
			low[i], high[i] = math.Min(low[i], p[i]), math.Max(high[i], p[i])
		}
	}
	return [2]float64{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}
}

func onSkin(tr *figure.Track, at float64) bool {
	for i := 1; i < len(tr.Keys); i++ {
		if a, b := tr.Keys[i-1], tr.Keys[i]; at >= a.T && at <= b.T {
			return a.Lift == 0 || b.Lift == 0
		}
	}
	return false
}

// A legend shows all 21 figures, none empty and each unlike every other (section 4: the legend).
func TestTheLegendHasEveryFigure(t *testing.T) {
	all := figure.Legend()
	require.Len(t, all, 21)
	seen := map[string]stroke.Figure{}
	for _, s := range all {
		data, err := json.Marshal(s.Drawing.Marks)
		require.NoError(t, err)
		assert.NotEmpty(t, s.Drawing.Marks, s.Figure)
		assert.Empty(t, seen[string(data)], "%s looks like another", s.Figure)
		seen[string(data)] = s.Figure
		for _, m := range s.Drawing.Marks {
			for _, p := range corners(m.D) {
				assert.True(t, p[0] > figure.SampleBox[0] && p[0] < figure.SampleBox[0]+figure.SampleBox[2], "%s: %.1f", s.Figure, p[0])
			}
		}
	}
	drawn := map[stroke.Figure]bool{}
	for _, s := range stroke.Trade() {
		drawn[s.Motion().Figure()] = true
	}
	for f := range drawn {
		assert.Contains(t, figure.Figures, f)
	}
}
