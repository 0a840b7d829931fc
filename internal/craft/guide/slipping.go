package guide

import (
	"cmp"
	"errors"
	"slices"
)

// Applied is a product put on in the room, at a minute of hands-on time. Slip is what it was right after. One that
// was not planned says what was under the hands: the region and the need of the stroke.
type Applied struct {
	Minute  float64  `json:"minute"`
	Product string   `json:"product"`
	Regions []string `json:"regions"`
	Planned bool     `json:"planned"`
	Slip    float64  `json:"slip"`
	Region  string   `json:"region,omitempty"`
	Need    *float64 `json:"need,omitempty"`
}

// SlidEnd is the end of a spell that slid over a region, with the slip it needed.
type SlidEnd struct {
	End    float64  `json:"end"`
	Region string   `json:"region"`
	Need   *float64 `json:"need,omitempty"`
}

// Removed is a region wiped, or only blotted.
type Removed struct {
	Minute  float64  `json:"minute"`
	Regions []string `json:"regions"`
	Blot    bool     `json:"blot,omitempty"`
}

// Slippings are a treatment's applications, sliding spells and removals, up to its end.
type Slippings struct {
	End          float64   `json:"end"`
	Applications []Applied `json:"applications"`
	Sliding      []SlidEnd `json:"sliding"`
	Removals     []Removed `json:"removals,omitempty"`
}

// SlipObservation is how long an application lasted: at means that it had to be added to, beyond that it still slid.
type SlipObservation struct {
	Product string  `json:"product"`
	Kind    string  `json:"kind"`
	Minutes float64 `json:"minutes"`
	Slip    float64 `json:"slip"`
	Need    float64 `json:"need"`
}

// SlipObserved are the observations of a treatment, in order of the applications.
type SlipObserved struct {
	Observations []SlipObservation `json:"observations"`
}

// touch is an application or a removal, in the order in which they happen: a removal in the minute of an application
// comes first.
type touch struct {
	minute  float64
	regions []string
	applied *Applied
	blot    bool
}

// Observe finds what a treatment teaches of how long its products slide, at most one observation an application
// (handbook, chapter 7, Half-life of a product).
func (s *Slippings) Observe() (SlipObserved, error) {
	var touches []touch
	for i := range s.Removals {
		r := &s.Removals[i]
		touches = append(touches, touch{r.Minute, r.Regions, nil, r.Blot})
	}
	for i := range s.Applications {
		a := &s.Applications[i]
		if a.Minute < 0 || a.Slip < 0 {
			return SlipObserved{}, errors.New("minutes and slip are not below 0")
		}
		touches = append(touches, touch{a.Minute, a.Regions, a, false})
	}
	slices.SortStableFunc(touches, func(a, b touch) int { return cmp.Compare(a.minute, b.minute) })
	out := SlipObserved{Observations: []SlipObservation{}}
	for i := range touches {
		if touches[i].applied == nil || layered(touches[:i], touches[i].applied) {
			continue
		}
		if o, ok := s.observe(touches[i].applied, touches[i+1:]); ok {
			out.Observations = append(out.Observations, o)
		}
	}
	return out, nil
}

// layered reports whether another product still lies where an application went on; a blot leaves it.
func layered(before []touch, a *Applied) bool {
	for _, region := range a.Regions {
		var lies []string
		for i := range before {
			t := &before[i]
			switch {
			case !slices.Contains(t.regions, region):
			case t.applied != nil:
				lies = append(lies, t.applied.Product)
			case !t.blot:
				lies = nil
			}
		}
		if slices.ContainsFunc(lies, func(p string) bool { return p != a.Product }) {
			return true
		}
	}
	return false
}

// observe looks at what comes next where an application went on.
func (s *Slippings) observe(a *Applied, after []touch) (SlipObservation, bool) {
	o := SlipObservation{Product: a.Product, Slip: a.Slip}
	until := s.End
	var need *float64
	i := slices.IndexFunc(after, func(t touch) bool {
		return slices.ContainsFunc(t.regions, func(r string) bool { return slices.Contains(a.Regions, r) })
	})
	if i >= 0 {
		until = after[i].minute
		if next := after[i].applied; next != nil && !next.Planned && next.Product == a.Product && slices.Contains(a.Regions, next.Region) {
			o.Kind, o.Minutes, need = "at", until-a.Minute, next.Need
		}
	}
	if o.Kind == "" {
		o.Kind = "beyond"
		last := -1.0
		for k := range s.Sliding {
			if d := &s.Sliding[k]; d.End > a.Minute && d.End <= until+allowance && d.End > last && slices.Contains(a.Regions, d.Region) {
				last, need = d.End, d.Need
			}
		}
		o.Minutes = last - a.Minute
	}
	if need == nil || o.Minutes <= 0 || a.Slip <= *need+allowance {
		return o, false
	}
	o.Need = *need
	return o, true
}
