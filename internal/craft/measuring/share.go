package measuring

import (
	"errors"
	"math"
)

// Counted is how many of some clients changed beyond the noise.
type Counted struct {
	Changed int `json:"changed"`
	Of      int `json:"of"`
}

// fewestForShare is from how many clients on a share is said; below, only the numbers.
const fewestForShare = 10

// Share is a share with Wilson's 95 % interval; only the words where there are too few for one.
type Share struct {
	Words string   `json:"words" enum:"count-only,share"`
	Share *float64 `json:"share,omitempty"`
	Low   *float64 `json:"low,omitempty"`
	High  *float64 `json:"high,omitempty"`
}

// Share is the share that changed, with its interval (Wilson, J Am Stat Assoc 22, 1927, 209-212; from memory).
func (c *Counted) Share() (Share, error) {
	if c.Of < 0 || c.Changed < 0 || c.Changed > c.Of {
		return Share{}, errors.New("no more change than there are")
	}
	if c.Of < fewestForShare {
		return Share{Words: "count-only"}, nil
	}
	n, z := float64(c.Of), normal
	p := float64(c.Changed) / n
	middle := (p + z*z/(2*n)) / (1 + z*z/n)
	half := z / (1 + z*z/n) * math.Sqrt(p*(1-p)/n+z*z/(4*n*n))
	low, high := max(0, middle-half), min(1, middle+half)
	return Share{"share", &p, &low, &high}, nil
}
