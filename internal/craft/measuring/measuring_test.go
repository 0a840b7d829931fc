package measuring_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/measuring"
)

// pairs are the handbook's worked occasions (chapter 7, Look-over and measuring): SEM 0.446 mm from 6.
var pairs = [][]float64{{62.1, 61.5}, {58.4, 58.9}, {64.0, 63.2}, {60.2, 60.9}, {66.3, 65.6}, {59.0, 59.4}}

func judge(t *testing.T, r measuring.Readings) measuring.Judged {
	t.Helper()
	got, err := r.Judge()
	require.NoError(t, err)
	return got
}

func TestTheWorkedChange(t *testing.T) {
	got := judge(t, measuring.Readings{Occasions: pairs, Before: []float64{62.1, 61.5}, After: []float64{64.2, 64.0}})
	assert.InDelta(t, 0.446, got.SEM, 5e-4)
	assert.Equal(t, []any{6, 2.447, true}, []any{got.Nu, *got.Multiplier, got.Provisional})
	assert.InDelta(t, 1.54, *got.SDCSingle, 5e-3)
	assert.InDelta(t, 2.30, *got.Change, 1e-9)
	assert.InDelta(t, 1.09, *got.SDC, 5e-3)
	assert.Equal(t, measuring.Change, got.Verdict)
	got = judge(t, measuring.Readings{Occasions: pairs, Before: []float64{62.1, 61.5}, After: []float64{62.4, 62.8}})
	assert.Equal(t, measuring.NoChange, got.Verdict, "0.8 mm is inside the noise")
	got = judge(t, measuring.Readings{Occasions: pairs[:4], Before: []float64{62.1}, After: []float64{80}})
	assert.Equal(t, measuring.TooFew, got.Verdict, "whatever it looks like")
	assert.Nil(t, got.Multiplier)
}

func TestTheWorkedAsymmetry(t *testing.T) {
	got := judge(t, measuring.Readings{Occasions: pairs, Left: []float64{63.4, 63.0}, Right: []float64{61.2, 61.4}})
	assert.InDelta(t, 3.05, *got.Asymmetry, 5e-3)
	assert.True(t, *got.Real)
	assert.Equal(t, 30, *got.ExtraPercent)
	got = judge(t, measuring.Readings{Occasions: pairs, Left: []float64{61.4}, Right: []float64{61.2}})
	assert.False(t, *got.Real)
	assert.Zero(t, *got.ExtraPercent)
	got = judge(t, measuring.Readings{Occasions: pairs, Left: []float64{70, 70}, Right: []float64{61, 61}})
	assert.Equal(t, 50, *got.ExtraPercent, "at most a half more")
}

func TestTheWorkedBaseline(t *testing.T) {
	days := [][]float64{{61.0, 61.4}, {62.0, 61.8}, {61.5, 61.1}, {62.3, 62.5}}
	got := judge(t, measuring.Readings{Occasions: pairs, Baselines: days, New: []float64{64.6, 64.2}})
	assert.InDelta(t, 61.70, got.Mean, 1e-9)
	assert.InDelta(t, 0.560, *got.SD, 5e-4)
	assert.InDelta(t, 1.99, *got.DayBand, 0.011) // 3.182 x 0.560 x sqrt(1.25) = 1.993
	assert.InDelta(t, 0.86, *got.NoiseBand, 5e-3)
	assert.Equal(t, measuring.Change, got.Baseline.Verdict)
	got = judge(t, measuring.Readings{Occasions: pairs, Baselines: days[:2], New: []float64{64.6}})
	assert.Equal(t, measuring.TooFew, got.Baseline.Verdict)
	assert.Nil(t, got.DayBand)
}

// The squared distances from each mean agree with the usual formula for pairs (Bland and Altman, BMJ 313, 1996, 744;
// from memory), and only the newest two hundred occasions count.
func TestTheNoiseOfPairs(t *testing.T) {
	sum := 0.0
	for _, p := range pairs {
		sum += (p[0] - p[1]) * (p[0] - p[1])
	}
	assert.InDelta(t, 2.39, sum, 1e-9)
	sem, nu := measuring.Noise(pairs)
	assert.InDelta(t, sum/(2*6), sem*sem, 1e-9)
	assert.Equal(t, 6, nu)
	many := [][]float64{{0, 100}}
	for range 200 {
		many = append(many, []float64{60, 60})
	}
	sem, _ = measuring.Noise(many)
	assert.Zero(t, sem)
	_, nu = measuring.Noise([][]float64{{60}})
	assert.Zero(t, nu, "one reading says nothing of the noise")
}

// Wilson's interval for 7 of 12 (chapter 7: 58 %, 32 to 81), and none below ten.
func TestShare(t *testing.T) {
	got, err := (&measuring.Counted{Changed: 7, Of: 12}).Share()
	require.NoError(t, err)
	assert.InDelta(t, 0.583, *got.Share, 5e-4)
	assert.InDelta(t, 0.32, *got.Low, 5e-3)
	assert.InDelta(t, 0.81, *got.High, 5e-3)
	got, err = (&measuring.Counted{Changed: 7, Of: 9}).Share()
	require.NoError(t, err)
	assert.Nil(t, got.Share)
	got, err = (&measuring.Counted{Changed: 0, Of: 10}).Share()
	require.NoError(t, err)
	assert.InDelta(t, 0, *got.Low, 1e-12)
	_, err = (&measuring.Counted{Changed: 3, Of: 2}).Share()
	require.Error(t, err)
}

// The worked angle of the mouth (handbook, chapter 7): 3.94 degrees; the head's own lean takes no part in it.
func TestTheWorkedAngle(t *testing.T) {
	got := measuring.Tilt([2]measuring.Pixel{{X: 412, Y: 300}, {X: 588, Y: 304}}, [2]measuring.Pixel{{X: 440, Y: 520}, {X: 560, Y: 531}})
	assert.InDelta(t, 3.94, got, 5e-3)
	assert.InDelta(t, 0, measuring.Tilt([2]measuring.Pixel{{X: 0, Y: 0}, {X: 10, Y: 3}}, [2]measuring.Pixel{{X: 1, Y: 9}, {X: 11, Y: 12}}), 1e-9)
}

// Which side is weaker belongs to the measure: the longer one droops, the smaller lid opening, the higher grade
// (handbook, chapter 7).
func TestTheWeakerSide(t *testing.T) {
	for _, c := range []struct {
		measure    string
		difference float64
		want       string
	}{
		{"outer-eye-mouth", 2, "left"}, {"outer-eye-mouth", -2, "right"}, {"lid-opening", 1, "right"}, {"lid-opening", -1, "left"},
		{"puffiness", 1, "left"}, {"puffiness", 0, ""}, {"jaw-opening", 3, ""},
	} {
		assert.Equal(t, c.want, measuring.Find(c.measure).Weaker(c.difference), "%s %v", c.measure, c.difference)
	}
	assert.Nil(t, measuring.Find("years-younger"))
}

// The starting errors draw a band and judge nothing: caliper 0.8, tape 1.5, jaw opening 1.8 mm (handbook, chapter 7).
func TestTheBandOfAChart(t *testing.T) {
	eye, jaw := measuring.Find("outer-eye-mouth"), measuring.Find("jaw-opening")
	half, own := eye.Band(measuring.Caliper, nil, 2)
	assert.False(t, own)
	assert.InDelta(t, 1.96*0.8, half, 1e-9)
	half, _ = eye.Band(measuring.Tape, pairs[:4], 2)
	assert.InDelta(t, 1.96*1.5, half, 1e-9, "four degrees of freedom are too few")
	half, own = eye.Band(measuring.Caliper, pairs, 2)
	assert.True(t, own)
	assert.InDelta(t, 1.09, half, 5e-3)
	assert.InDelta(t, 1.8, jaw.StartingNoise(measuring.Caliper), 1e-9)
}

// A second reading that is always longer than the first is told; the worked pairs are not (chapter 7: 20 % apart).
func TestAReadingThatDrifts(t *testing.T) {
	assert.False(t, measuring.Drifts(pairs))
	drifting := [][]float64{{60, 61}, {58, 59.1}, {64, 65}, {60, 60.9}, {66, 67}, {59, 60}}
	assert.True(t, measuring.Drifts(drifting))
	assert.False(t, measuring.Drifts(drifting[:4]), "too few to tell")
}

// Photos stand beside each other where pupils lie at most 3 % further apart, the head leans at most 2 degrees more and a
// grey patch is at most 10 % lighter (handbook, chapter 7, Photos).
func TestPhotosThatMayBeCompared(t *testing.T) {
	marks := func(apart, down, grey float64) *measuring.PhotoMarks {
		return &measuring.PhotoMarks{Pupils: [2]measuring.Pixel{{X: 400, Y: 300}, {X: 400 + apart, Y: 300 + down}}, Grey: grey}
	}
	first := marks(200, 0, 0.5)
	for _, c := range []struct {
		next *measuring.PhotoMarks
		want []measuring.Unlike
	}{
		{marks(206, 0, 0.5), []measuring.Unlike{}},
		{marks(207, 0, 0.5), []measuring.Unlike{measuring.UnlikeSize}},
		{marks(200, 6.9, 0.5), []measuring.Unlike{}},
		{marks(200, 8, 0.5), []measuring.Unlike{measuring.UnlikeRoll}},
		{marks(200, 0, 0.55), []measuring.Unlike{}},
		{marks(200, 0, 0.56), []measuring.Unlike{measuring.UnlikeLight}},
		{marks(230, 20, 0.2), []measuring.Unlike{measuring.UnlikeSize, measuring.UnlikeRoll, measuring.UnlikeLight}},
	} {
		assert.Equal(t, c.want, measuring.Compare(first, c.next, 1000, 1000))
	}
	assert.Empty(t, measuring.Compare(first, marks(100, 0, 0.5), 1000, 500), "the same picture with half the pixels")
}
