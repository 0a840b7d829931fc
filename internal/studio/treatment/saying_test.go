package treatment

import (
	"math/rand/v2"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/measuring"
)

// neverSaid are claims that no reading supports (handbook, chapter 7, Never claimed).
var neverSaid = regexp.MustCompile(`(?i)improv|effect|younger|lift|cure|heal|toxin|better|worse|lasting|because|thanks to|will `)

// claims is how a change that is one begins.
var claims = regexp.MustCompile(`more than the measuring noise|direction hoped|weaker side`)

// Whatever the readings are, no sentence calls a change what lies inside the noise, and none says why: over random
// readings, hopes and instruments, and every verdict (handbook, chapter 7, Verdict and Never claimed).
func TestNoSentenceClaimsWhatTheNoiseHides(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 17))
	reading := func(mid, spread float64) []float64 {
		out := make([]float64, 1+random.IntN(3))
		for i := range out {
			out[i] = mid + spread*random.NormFloat64()
		}
		return out
	}
	verdicts := map[measuring.Verdict]int{}
	for range 20_000 {
		spread := 0.1 + random.Float64()
		r := measuring.Readings{}
		for range random.IntN(40) {
			r.Occasions = append(r.Occasions, reading(60, spread))
		}
		r.Before, r.After = reading(60, spread), reading(60+3*random.NormFloat64(), spread)
		r.Left, r.Right = reading(60, spread), reading(60+2*random.NormFloat64(), spread)
		for range random.IntN(6) {
			r.Baselines = append(r.Baselines, reading(60, spread))
		}
		r.New = r.After
		j, err := r.Judge()
		require.NoError(t, err)
		with := []measuring.Instrument{measuring.Caliper, measuring.Tape, measuring.Photo}[random.IntN(3)]
		hope := []string{"", "longer", "shorter"}[random.IntN(3)]
		text := provisional(sayChange(j.Verdict, *j.Change, j.SDC, with, hope), &j)
		inside := j.SDC == nil || *j.Change <= *j.SDC+1e-9 && -*j.Change <= *j.SDC+1e-9
		assert.Equal(t, !inside, claims.MatchString(text), text)
		assert.False(t, neverSaid.MatchString(text), text)
		verdicts[j.Verdict]++

		said := sayAsymmetry(measuring.Find("outer-eye-mouth"), 60, 61, &j, with)
		assert.Equal(t, *j.Real, claims.MatchString(said.Text), said.Text)
		assert.False(t, neverSaid.MatchString(said.Text), said.Text)
		if b := j.Baseline; b != nil {
			text := sayChange(b.Verdict, 9, b.Band, with, hope)
			assert.Equal(t, b.Verdict == measuring.Change, claims.MatchString(text), text)
		}
	}
	for _, v := range []measuring.Verdict{measuring.Change, measuring.NoChange, measuring.TooFew} {
		assert.Greater(t, verdicts[v], 500, "all three are reached")
	}
}

// The worked sentences of the handbook (chapter 7, Verdict), and a hope that counts where it was stated.
func TestTheWorkedSentences(t *testing.T) {
	noise := 1.09
	assert.Equal(t, "+2.3 mm, more than the measuring noise (1.1 mm)", sayChange(measuring.Change, 2.3, &noise, measuring.Caliper, ""))
	noise = 1.0
	assert.Equal(t, "no change shown (0.8 mm, noise 1.0 mm)", sayChange(measuring.NoChange, -0.8, &noise, measuring.Caliper, "longer"))
	assert.Contains(t, sayChange(measuring.Change, -2.3, &noise, measuring.Caliper, "shorter"), "in the direction hoped for")
	assert.Contains(t, sayChange(measuring.Change, -2.3, &noise, measuring.Photo, "longer"), "against the direction hoped for")
	assert.Contains(t, sayChange(measuring.Change, -2.3, &noise, measuring.Photo, ""), "−2.3°")
	assert.Equal(t, "Graded 1 lower since 3 Nov 2026", sayGrades(measuring.Find("puffiness"), 3, 2, "3 Nov 2026").Text)
	assert.Equal(t, measuring.NoChange, sayGrades(measuring.Find("tenderness"), 6, 5, "3 Nov 2026").Verdict, "of ten, one point is none")
	assert.Equal(t, measuring.Change, sayGrades(measuring.Find("tenderness"), 6, 4, "3 Nov 2026").Verdict)
}
