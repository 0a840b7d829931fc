// Package pace learns from past treatments how fast a practitioner works, in all and with each stroke: 1.00 is as
// planned, 0.90 a tenth faster (handbook, chapter 7, Real against planned).
package pace

import (
	"errors"
	"math"
	"slices"
)

// Limits and weights of the estimate (handbook, chapter 7).
const (
	newest        = 30 // observations that count
	priorWeight   = 5
	fewest        = 3    // below this many the prior stands
	leastSpread   = 0.05 // of logarithms
	toDeviation   = 1.4826
	pulledIn      = 1.5 // deviations
	slowest       = 1.50
	fastest       = 0.70
	leastPlanned  = 120.0 // informative seconds a treatment
	shortestSpell = 5.0
	leastRatio    = 0.4
	mostRatio     = 2.5
	allowance     = 1e-9
)

// Spell is one working of a step: planned seconds at pace 1.00 and real ones, both without the lead.
type Spell struct {
	Stroke    string  `json:"stroke"`
	Planned   float64 `json:"planned"`
	Real      float64 `json:"real"`
	EndedBy   string  `json:"endedBy"`
	Dose      string  `json:"dose"`
	Stayed    bool    `json:"stayed,omitempty"`
	Skipped   bool    `json:"skipped,omitempty"`
	Repeated  bool    `json:"repeated,omitempty"`
	Paused    bool    `json:"paused,omitempty"`
	Estimated bool    `json:"estimated,omitempty"`
}

// Informative reports whether the spell says something of the hands: a timer says nothing.
func (s *Spell) Informative() bool {
	switch {
	case s.Stayed || s.Skipped || s.Repeated || s.Paused || s.Estimated || s.Planned < shortestSpell-allowance:
		return false
	case !slices.Contains([]string{"reps", "positions", "compound"}, s.Dose):
		return false
	case !slices.Contains([]string{"tap", "key", "pedal", "voice"}, s.EndedBy):
		return false
	}
	ratio := s.Real / s.Planned
	return ratio >= leastRatio-allowance && ratio <= mostRatio+allowance
}

// Treatments are those of a practitioner, oldest first. Prior is the pace before any, 1.00 where absent.
type Treatments struct {
	Treatments [][]Spell `json:"treatments"`
	Prior      *float64  `json:"prior,omitempty"`
}

// Own is a pace with the number of treatments that it comes from.
type Own struct {
	Pace float64 `json:"pace"`
	From int     `json:"from"`
}

// Learned is how fast a practitioner works. Theta is the logarithm of the pace before its bounds; LeftOut counts spells
// that say nothing of the hands.
type Learned struct {
	Pace    float64        `json:"pace"`
	Theta   float64        `json:"theta"`
	From    int            `json:"from"`
	LeftOut int            `json:"leftOut"`
	Strokes map[string]Own `json:"strokes"`
}

// Learn works out the pace of a practitioner and, leaning on it, that of each stroke.
func (t *Treatments) Learn() (Learned, error) {
	out := Learned{Strokes: map[string]Own{}}
	prior, err := thetaOf(t.Prior)
	if err != nil {
		return out, err
	}
	var all []float64
	strokes := map[string][]float64{}
	for _, spells := range t.Treatments {
		planned, took := map[string]float64{}, map[string]float64{}
		sumPlanned, sumReal := 0.0, 0.0
		for i := range spells {
			s := &spells[i]
			if !s.Informative() {
				out.LeftOut++
				continue
			}
			planned[s.Stroke] += s.Planned
			took[s.Stroke] += s.Real
			sumPlanned += s.Planned
			sumReal += s.Real
		}
		for stroke, p := range planned {
			strokes[stroke] = append(strokes[stroke], math.Log(took[stroke]/p))
		}
		if sumPlanned >= leastPlanned-allowance {
			all = append(all, math.Log(sumReal/sumPlanned))
		}
	}
	out.Theta, _ = estimate(all, prior)
	out.Pace, out.From = bounded(out.Theta), min(len(all), newest)
	for stroke, x := range strokes {
		theta, _ := estimate(x, out.Theta)
		out.Strokes[stroke] = Own{bounded(theta), min(len(x), newest)}
	}
	return out, nil
}

// Ratios are real to planned, a treatment each, oldest first.
type Ratios struct {
	Ratios []float64 `json:"ratios"`
	Prior  *float64  `json:"prior,omitempty"`
}

// Estimate is what ratios come to.
type Estimate struct {
	RobustMean float64 `json:"robustMean"`
	Theta      float64 `json:"theta"`
	Pace       float64 `json:"pace"`
}

// Estimate works out the pace of ratios.
func (r *Ratios) Estimate() (Estimate, error) {
	prior, err := thetaOf(r.Prior)
	if err != nil {
		return Estimate{}, err
	}
	x := make([]float64, len(r.Ratios))
	for i, q := range r.Ratios {
		if q <= 0 {
			return Estimate{}, errors.New("a ratio is above 0")
		}
		x[i] = math.Log(q)
	}
	theta, mean := estimate(x, prior)
	return Estimate{mean, theta, bounded(theta)}, nil
}

func thetaOf(prior *float64) (float64, error) {
	switch {
	case prior == nil:
		return 0, nil
	case *prior <= 0:
		return 0, errors.New("the prior pace is above 0")
	}
	return math.Log(*prior), nil
}

// estimate is the mean of the newest observations, far ones pulled in, leaning on a prior.
func estimate(x []float64, prior float64) (theta, mean float64) {
	x = x[max(0, len(x)-newest):]
	if len(x) == 0 {
		return prior, 0
	}
	m := median(x)
	off := make([]float64, len(x))
	for i, v := range x {
		off[i] = math.Abs(v - m)
	}
	s := max(leastSpread, toDeviation*median(off))
	for _, v := range x {
		mean += min(max(v, m-pulledIn*s), m+pulledIn*s) / float64(len(x))
	}
	if len(x) < fewest {
		return prior, mean
	}
	n := float64(len(x))
	return (priorWeight*prior + n*mean) / (priorWeight + n), mean
}

func bounded(theta float64) float64 {
	return math.Round(100*min(max(math.Exp(theta), fastest), slowest)) / 100
}

func median(x []float64) float64 {
	x = slices.Sorted(slices.Values(x))
	n := len(x)
	return (x[(n-1)/2] + x[n/2]) / 2
}
