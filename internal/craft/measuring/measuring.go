// Package measuring tells a change from the noise of measuring. Lengths are in mm; a change inside the noise is never
// called one (handbook, chapter 7, Look-over and measuring; Weir, J Strength Cond Res 19, 2005, from memory).
package measuring

import (
	"errors"
	"math"
)

// Newest occasions count for the noise of a practitioner.
const Newest = 200

const (
	allowance = 1e-9
	// fewestFree is the least number of degrees of freedom for a verdict; normalFrom that from which the normal value
	// stands.
	fewestFree = 5
	normalFrom = 30
	normal     = 1.96
)

// FewestDays of a baseline are needed for a band of its own.
const FewestDays = 3

// student are the 97.5 % values of Student's distribution for 2 to 29 degrees of freedom.
var student = []float64{
	4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228, 2.201, 2.179, 2.160, 2.145, 2.131, 2.120, 2.110, 2.101,
	2.093, 2.086, 2.080, 2.074, 2.069, 2.064, 2.060, 2.056, 2.052, 2.048, 2.045,
}

// quantile is the 97.5 % value for degrees of freedom from 2 on.
func quantile(free int) float64 {
	if free >= normalFrom {
		return normal
	}
	return student[max(free, 2)-2]
}

// Verdict on a change.
type Verdict string

// The verdicts. TooFew asks for more readings.
const (
	Change   Verdict = "change"
	NoChange Verdict = "no-change"
	TooFew   Verdict = "too-few"
)

// Readings are what was measured. Occasions are the practitioner's repeated readings of this measure, oldest first;
// the rest is what is compared, each absent where it is not.
type Readings struct {
	Occasions [][]float64 `json:"occasions"`
	Before    []float64   `json:"before,omitempty"`
	After     []float64   `json:"after,omitempty"`
	Left      []float64   `json:"left,omitempty"`
	Right     []float64   `json:"right,omitempty"`
	Baselines [][]float64 `json:"baselines,omitempty"`
	New       []float64   `json:"new,omitempty"`
}

// Judged is what readings come to. SEM is the standard error of measurement from Nu degrees of freedom, Multiplier null
// below five of them; Provisional says that more readings will sharpen it.
type Judged struct {
	SEM         float64  `json:"sem"`
	Nu          int      `json:"nu"`
	Multiplier  *float64 `json:"multiplier"`
	Provisional bool     `json:"provisional"`
	// SDCSingle is the smallest change that single readings show.
	SDCSingle *float64 `json:"sdcSingle,omitempty"`

	Change  *float64 `json:"change,omitempty"`
	SDC     *float64 `json:"sdc,omitempty"`
	Verdict Verdict  `json:"verdict,omitempty"`

	// Asymmetry is (left - right) in per cent of their mean.
	Asymmetry        *float64 `json:"asymmetry,omitempty"`
	Real             *bool    `json:"real,omitempty"`
	ExtraPercent     *int     `json:"extraPercent,omitempty"`
	AsymmetryLimitMM *float64 `json:"asymmetryLimitMM,omitempty"`

	*Baseline
}

// Baseline is the days before the work: their mean, how they vary, and whether what is new lies outside.
type Baseline struct {
	Mean      float64  `json:"baselineMean"`
	SD        *float64 `json:"baselineSD,omitempty"`
	DayBand   *float64 `json:"dayBand"`
	NoiseBand *float64 `json:"noiseBand,omitempty"`
	Band      *float64 `json:"band,omitempty"`
	Verdict   Verdict  `json:"baselineVerdict"`
}

// Noise is the standard error of measurement of repeated readings: the square root of the squared distances from each
// occasion's mean over the degrees of freedom.
func Noise(occasions [][]float64) (sem float64, nu int) {
	sum := 0.0
	for _, x := range occasions[max(0, len(occasions)-Newest):] {
		m := mean(x)
		for _, v := range x {
			sum += (v - m) * (v - m)
		}
		nu += max(0, len(x)-1)
	}
	if nu == 0 {
		return 0, 0
	}
	return math.Sqrt(sum / float64(nu)), nu
}

// Judge compares readings with the noise of measuring.
func (r *Readings) Judge() (Judged, error) {
	out := Judged{}
	out.SEM, out.Nu = Noise(r.Occasions)
	out.Provisional = out.Nu < normalFrom
	if out.Nu >= fewestFree {
		q := quantile(out.Nu)
		single := q * math.Sqrt2 * out.SEM
		out.Multiplier, out.SDCSingle = &q, &single
	}
	for _, pair := range [][2][]float64{{r.Before, r.After}, {r.Left, r.Right}} {
		if (len(pair[0]) == 0) != (len(pair[1]) == 0) {
			return out, errors.New("both sides of a comparison need readings")
		}
	}
	if len(r.Before) > 0 {
		out.change(r.Before, r.After)
	}
	if len(r.Left) > 0 {
		if err := out.asymmetry(r.Left, r.Right); err != nil {
			return out, err
		}
	}
	if len(r.Baselines) > 0 && len(r.New) > 0 {
		return out, out.baseline(r.Baselines, r.New)
	}
	return out, nil
}

// limit is what the difference of two means must exceed; nil where the noise is not known well enough.
func (j *Judged) limit(a, b int) *float64 {
	if j.Multiplier == nil {
		return nil
	}
	l := *j.Multiplier * j.SEM * math.Sqrt(1/float64(a)+1/float64(b))
	return &l
}

func (j *Judged) change(before, after []float64) {
	d := mean(after) - mean(before)
	j.Change, j.SDC = &d, j.limit(len(before), len(after))
	j.Verdict = verdict(d, j.SDC)
}

func verdict(d float64, limit *float64) Verdict {
	switch {
	case limit == nil:
		return TooFew
	case math.Abs(d) > *limit+allowance:
		return Change
	}
	return NoChange
}

// mostExtra per cent of repetitions go to the weaker side, a tenth a whole per cent of asymmetry.
const (
	mostExtra = 50
	extraEach = 10
)

func (j *Judged) asymmetry(left, right []float64) error {
	l, r := mean(left), mean(right)
	if l+r == 0 {
		return errors.New("both sides measure nothing")
	}
	index := (l - r) / ((l + r) / 2) * 100
	j.Asymmetry, j.AsymmetryLimitMM = &index, j.limit(len(left), len(right))
	really := verdict(l-r, j.AsymmetryLimitMM) == Change
	extra := 0
	if really {
		extra = min(mostExtra, extraEach*int(math.Abs(index)+allowance))
	}
	j.Real, j.ExtraPercent = &really, &extra
	return nil
}

func (j *Judged) baseline(days [][]float64, fresh []float64) error {
	means, readings := make([]float64, len(days)), 0
	for i, x := range days {
		if len(x) == 0 {
			return errors.New("a day of the baseline has no reading")
		}
		means[i], readings = mean(x), readings+len(x)
	}
	k := len(days)
	b := &Baseline{Mean: mean(means), Verdict: TooFew}
	j.Baseline = b
	if k > 1 {
		sum := 0.0
		for _, m := range means {
			sum += (m - b.Mean) * (m - b.Mean)
		}
		sd := math.Sqrt(sum / float64(k-1))
		b.SD = &sd
	}
	b.NoiseBand = j.limit(len(fresh), readings)
	if k < FewestDays {
		return nil
	}
	day := quantile(k-1) * *b.SD * math.Sqrt(1+1/float64(k))
	b.DayBand = &day
	if b.NoiseBand == nil {
		return nil
	}
	band := max(day, *b.NoiseBand)
	b.Band, b.Verdict = &band, verdict(mean(fresh)-b.Mean, &band)
	return nil
}

func mean(x []float64) float64 {
	sum := 0.0
	for _, v := range x {
		sum += v
	}
	return sum / float64(len(x))
}

// driftFrom is from what share on two ways to work out the noise are apart.
const driftFrom = 0.20

// Drifts reports whether the second reading of pairs tends to lie on one side of the first: the standard deviation of the
// differences over the square root of two is then a fifth or more below the noise (Bland and Altman, BMJ 313, 1996, 744;
// from memory).
func Drifts(occasions [][]float64) bool {
	var differences []float64
	var pairs [][]float64
	for _, x := range occasions {
		if len(x) == 2 {
			differences, pairs = append(differences, x[1]-x[0]), append(pairs, x)
		}
	}
	sem, nu := Noise(pairs)
	if nu < fewestFree || sem == 0 {
		return false
	}
	m, sum := mean(differences), 0.0
	for _, d := range differences {
		sum += (d - m) * (d - m)
	}
	other := math.Sqrt(sum/float64(len(differences)-1)) / math.Sqrt2
	return math.Abs(other-sem) >= driftFrom*sem
}
