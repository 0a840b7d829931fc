package stroke_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// repertoire is the classic studio repertoire of the handbook, chapter 2 (common
// practice), each with the stroke that is it.
var repertoire = map[string]string{
	// opening
	"supraclavicular pumps": "collarbone-pumps", "neck-side glide down": "neck-side-open", "V in front of and behind the ear": "ear-fork", "nape glide down": "nape-glide",
	"under-jaw circles": "under-jaw-circles", "chin-to-ear glide, thumb below and finger above the jaw": "jaw-drain",
	// classic cream sequence
	"spreading passes": "spread-passes", "effleurage forehead centre to temple": "forehead-effleurage", "and across": "forehead-across", "zigzag friction": "zigzag-friction",
	"circular friction": "circular-friction", "circles round the eyes": "eye-circles", "figure of eight from eye to eye": "eye-eight", "piano tapping round the eyes": "piano-tapping",
	"scissor over the nose": "nose-scissor", "tapping on the cheeks": "cheek-tapping", "scissor round the mouth to the temples": "mouth-scissor", "chin kneading": "chin-knead",
	"point, mouth corner": "point-mouth", "point, nose wing": "point-nose", "point, brow base": "point-brow", "point, temple": "point-temple", "scissor chin to ear lobe": "jaw-scissor",
	"circles down the neck side": "neck-circles", "rolling fan from cheek to cheek": "rolling-fan", "feathering": "feathering", "hands over the eyes": "palms-over-eyes",
	// lifting
	"doubled-hand sweeps": "double-sweep", "quick zigzag flicks": "zigzag-flicks", "scoop and hold on the cheekbone": "cheek-scoop", "brow scoop hand over hand": "brow-scoop",
	"round-the-eye glide, firmer at the nose root": "eye-glide-firm", "knuckles up the forehead": "forehead-knuckles", "joined-palms lift": "under-chin-palms",
	"knuckles under the cheekbone": "cheek-knuckles", "bent-finger glide along the jaw": "jaw-hook", "bent-index lift from the nose wing": "cheek-hook",
	// release
	"temple and scalp-side knuckle push": "temple-push", "masseter stretch down": "masseter-stretch", "under-cheekbone thumb drag": "under-bone-drag", "mastoid-front thumb press": "mastoid-press",
	"light glide beside the windpipe": "windpipe-glide", "suboccipital pull-apart": "skull-edge-pull", "inside-the-mouth masseter grip": "mouth-masseter", "upper pterygoid press": "mouth-upper-press",
	"lower pterygoid press": "mouth-lower-press", "anchored fascia work on the forehead": "forehead-fascia", "cross-line scissor between the brows": "brow-cross", "crease rubbing": "crease-rub",
	"crow's-feet stretch": "crows-stretch", "nose-side knuckle compression": "nose-knuckle", "cheekbone compress, then circles": "cheekbone-press", "spread-finger scalp circles": "scalp-circles",
	"chest press-and-stretch": "chest-stretch", "temple shake-lift": "temple-shake", "travelling vibration along the rim": "rim-vibration", "lid-side spread": "lid-spread",
	"nose-bridge squeeze": "nose-squeeze", "lip pinch and stretch": "lip-stretch", "neck stretches": "neck-stretch",
	// tools
	"under-eye stone glide": "stone-eye", "brow glide": "stone-brow", "jaw U-notch glide": "stone-jaw", "masseter short-edge glide": "stone-masseter", "shoulder glide": "stone-shoulder",
	"side-of-neck glide down": "stone-neck", "cold roller under the eye": "cold-globes-eye", "twin-ball, chin to ear lobe": "twin-ball-lines", "twin-ball, mouth corner to tragus": "twin-ball-mouth",
	"twin-ball, nose wing to temple": "twin-ball-nose", "eyebrow between the balls": "brow-gap-roll",
	// client exercises
	"lower-lid lift": "lower-lid-lift", "lid close": "lid-close", "brow raise against a C": "brow-raise", "eyes wide without brows": "eyes-wide", "eye circles with stops": "eye-stops",
	"O to smile": "o-to-smile", "wrapped-lip smile": "wrapped-lip-smile", "open-wide breath": "open-breath", "jaw side to side": "jaw-sideways", "lip flutter": "lip-flutter", "look up and down": "look-up-down",
	// closing
	"feather sweep": "feather-sweep",
}

func TestTheLibraryHoldsTheWholeRepertoire(t *testing.T) {
	library := stroke.ByKey(stroke.Trade())
	for name, key := range repertoire {
		assert.Contains(t, library, key, name)
	}
	whole := 0
	for _, st := range stroke.Trade() {
		assert.Empty(t, st.Validate(""), st.Key)
		if len(st.Path) > 0 && st.Dose.Kind != "" && st.Tempo != "" && st.Glide != "" && st.Intent != "" && st.Layer != "" && st.Precaution != "" && (st.Hand != "" || st.Tool != nil || st.Family == stroke.Exercise) {
			whole++
		}
		least, most, grain := st.Dose.Range()
		assert.True(t, least <= st.Dose.Planned && st.Dose.Planned <= most && grain > 0, st.Key)
	}
	assert.GreaterOrEqual(t, whole, 90, "strokes with path, dose, tempo, glide need, intent, layer, and precaution")
}

// Direction and depth by intent (handbook, chapter 2): a drain is a feather on
// the surface, a lift never above 4, a release 5 at most, and none above the
// ceiling of a zone it crosses; sliding strokes say what slip they need.
func TestTheLibraryKeepsDirectionAndDepth(t *testing.T) {
	comb := []string{"comb-brow", "cold-globes-forehead"} // into the hair; wet with cold
	for _, st := range stroke.Trade() {
		if st.Intent == stroke.Drain {
			assert.Equal(t, 1, st.Pressure, st.Key)
		}
		if st.Intent == stroke.Lift {
			assert.LessOrEqual(t, st.Pressure, 4, st.Key)
		}
		for _, key := range st.Path {
			id, _ := anatomy.Lookup(key)
			ceiling := id.Zone().Ceiling
			if st.Relation == stroke.Still {
				ceiling = id.Zone().StillCeiling
			}
			assert.LessOrEqual(t, st.Pressure, ceiling, "%s on %s", st.Key, key)
			assert.NotEqual(t, "throat", key, "%s: the throat stays free", st.Key)
		}
		if st.Tool != nil && st.Family == stroke.ToolGlide && st.Relation == stroke.Slides && !slices.Contains(comb, st.Key) {
			assert.Equal(t, stroke.StoneGlide, st.Glide, st.Key)
		}
	}
}

// A part's hold is never added twice: a compound repetition is the run of its
// parts (handbook, doses). Vibrate 3 s, pump 3 x 1 s, slide back 2 s: 8 s.
func TestACompoundRepetitionIsTheRunOfItsParts(t *testing.T) {
	st := stroke.ByKey(stroke.Trade())["nose-vibrate"]
	require.NotNil(t, st)
	assert.InDelta(t, 8, stroke.RepSeconds(st.Parts), 1e-12)
	assert.InDelta(t, 3, stroke.MoveSeconds(st.Parts), 1e-12)
	last := &stroke.Last{Parts: append(slices.Clone(st.Parts), stroke.Part{Kind: stroke.Hold, Seconds: 4})}
	assert.InDelta(t, 4, last.Extra(st.Parts), 1e-12)
	assert.Zero(t, (*stroke.Last)(nil).Extra(st.Parts))
}

// The kinds of dose stay themselves (handbook, "kinds of dose that must not be
// flattened"): open ones say so, ranges have floors without tops and ceilings.
func TestDoses(t *testing.T) {
	for _, c := range []struct {
		name               string
		dose               stroke.Dose
		open               bool
		least, most, grain int
		seconds            float64 // with repetitions of 2 s
	}{
		{"three", stroke.Dose{Kind: stroke.Reps, Planned: 3}, false, 3, 3, 1, 6},
		{"ten, or cut to five", stroke.Dose{Kind: stroke.Reps, Planned: 10, Min: 5}, false, 5, 15, 1, 20},
		{"feather strokes up to a hundred", stroke.Dose{Kind: stroke.Reps, Planned: 20, Min: 10, Max: 200, Ceiling: 100}, false, 10, 100, 1, 40},
		{"one way six, the other four", stroke.Dose{Kind: stroke.Reps, Planned: 6, Reverse: 4}, false, 6, 6, 1, 20},
		{"a minute or more", stroke.Dose{Kind: stroke.Free, Planned: 60, Min: 60}, true, 60, 90, 5, 60},
		{"until it lets go", stroke.Dose{Kind: stroke.Until, Planned: 40, Min: 15, Max: 90, Sign: "it lets go"}, true, 15, 90, 5, 40},
		{"several, not said", stroke.Dose{Kind: stroke.Unknown, Planned: 15, Said: "several"}, true, 15, 15, 5, 15},
		{"seven pumps in each out-breath, three rounds", stroke.Dose{Kind: stroke.Breaths, Planned: 3, In: 4, Out: 7, Pulses: 7}, false, 3, 3, 1, 33},
	} {
		require.Empty(t, c.dose.Validate(""), c.name)
		least, most, grain := c.dose.Range()
		assert.Equal(t, []int{c.least, c.most, c.grain}, []int{least, most, grain}, c.name)
		assert.Equal(t, c.open, c.dose.Open(), c.name)
		assert.InDelta(t, c.seconds, c.dose.SideSeconds(2), 1e-12, c.name)
	}
	assert.Equal(t, 8, stroke.Dose{Kind: stroke.Reps, Planned: 6, Reverse: 4}.With(12).Reverse, "the other sense keeps its proportion")
	for _, bad := range []stroke.Dose{{Kind: "often"}, {Kind: stroke.Reps}, {Kind: stroke.Breaths, Planned: 2}, {Kind: stroke.Positions, Planned: 2}, {Kind: stroke.Reps, Planned: 3, Min: 4}, {Kind: stroke.Reps, Planned: 3, Max: 2}, {Kind: stroke.Clock, Planned: 30, Ceiling: 20}} {
		assert.NotEmpty(t, bad.Validate("/dose"), "%+v", bad)
	}
}

// A stroke with one thing wrong is told by place, as a JSON pointer into the
// library file's own names.
func TestEveryFaultOfAStroke(t *testing.T) {
	six, whole := 6, *stroke.ByKey(stroke.Trade())["nose-vibrate"]
	for _, c := range []struct {
		path  string
		spoil func(s *stroke.Stroke)
	}{
		{"", func(s *stroke.Stroke) { s.Name = "" }},
		{"/family", func(s *stroke.Stroke) { s.Family = "hugging" }},
		{"/intent", func(s *stroke.Stroke) { s.Intent = "impress" }},
		{"/pressure", func(s *stroke.Stroke) { s.Pressure = 6 }},
		{"/hand", func(s *stroke.Stroke) { s.Hand = "elbow" }},
		{"/path/1", func(s *stroke.Stroke) { s.Path = []string{"chin", "moon"} }},
		{"/dose", func(s *stroke.Stroke) { s.Dose = stroke.Dose{Kind: stroke.Inherited} }},
		{"/dose/planned", func(s *stroke.Stroke) { s.Dose = stroke.Dose{Kind: stroke.Reps} }},
		{"/parts", func(s *stroke.Stroke) { s.Dose, s.Parts = stroke.Dose{Kind: stroke.Reps, Planned: 3}, nil }},
		{"/parts/0/seconds", func(s *stroke.Stroke) { s.Parts[0].Seconds = 601 }},
		{"/parts/0/seconds", func(s *stroke.Stroke) { s.Parts[0].Count = 51 }},
		{"/parts/0/zone", func(s *stroke.Stroke) { s.Parts[0].Zone = "moon" }},
		{"/parts/0/pressure", func(s *stroke.Stroke) { s.Parts[0].Pressure = &six }},
		{"/last/parts/0/seconds", func(s *stroke.Stroke) { s.Last = &stroke.Last{Parts: []stroke.Part{{Kind: stroke.Hold}}} }},
		{"/anchor/zone", func(s *stroke.Stroke) { s.Anchor = &stroke.Anchor{Zone: "moon"} }},
		{"/anchor/changes/0/zone", func(s *stroke.Stroke) {
			s.Anchor = &stroke.Anchor{Zone: "temple", Then: []stroke.AnchorChange{{Zone: "moon"}}}
		}},
		{"/fingers/0/zone", func(s *stroke.Stroke) { s.Fingers = []stroke.Finger{{Part: "thumb", Zone: "moon"}} }},
		{"/alternates/0", func(s *stroke.Stroke) { s.Alternates = []stroke.Alternate{{When: "beard"}} }},
		{"/alternates/0/hand", func(s *stroke.Stroke) { s.Alternates = []stroke.Alternate{{Hand: "elbow"}} }},
		{"/alternates/0/stroke", func(s *stroke.Stroke) { s.Alternates = []stroke.Alternate{{Stroke: s.Key}} }},
		{"/gaps/colour", func(s *stroke.Stroke) { s.Gaps = map[string]string{"colour": "somewhat pink"} }},
	} {
		s := whole
		s.Parts = slices.Clone(whole.Parts)
		c.spoil(&s)
		ps := s.Validate("/strokes/4")
		if assert.NotEmpty(t, ps, c.path) {
			assert.Equal(t, "/strokes/4"+c.path, ps[0].Path)
			assert.NotEmpty(t, ps[0].Message)
		}
	}
}

// In 4 and out 6 is six breaths a minute; in 4 and out 7 is 5.45 (handbook, tempo).
func ExampleDose_SideSeconds() {
	slow := stroke.Dose{Kind: stroke.Breaths, Planned: 6, In: 4, Out: 6}
	fmt.Println(slow.SideSeconds(0), "s for six breaths")
	pumps := stroke.Dose{Kind: stroke.Breaths, Planned: 3, In: 4, Out: 7, Pulses: 7}
	fmt.Printf("%.2f breaths a minute\n", 60/(pumps.SideSeconds(0)/3))
	// Output:
	// 60 s for six breaths
	// 5.45 breaths a minute
}
